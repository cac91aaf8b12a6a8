"""From the plan of a painting to tasks and relations: passes area by area, eyes, edges, looks, varnish, and their lags by drying."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from foxpath.core.curves import line_length
from foxpath.core.days.drying import BY_WORD, CLASS_OF, GROUNDS, Film, Times, drying
from foxpath.core.days.tasks import Relation, Task, merged
from foxpath.core.mixes.amounts import film_um
from foxpath.core.mixes.palette import Palette
from foxpath.core.mixes.tubes import Tube
from foxpath.core.passes import PassPlan
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.eyes.homes import eyes_in
from foxpath.derive.eyes.reading import eye_plan
from foxpath.derive.mixes.palette import palette_of, rack_of
from foxpath.derive.passes.laying import laying_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

AREA_MIN = 15
"""Neighbours in laying order are gathered until they take so long: what takes two minutes is no task."""
LOOK_H = {"undercoat": 12.0, "lights": 36.0}
"""Rest before a fresh look, hours, after the pass that acts so."""
MIXED_H = 48.0
"""Hours that piles are kept before they are used."""
STRIP_MIN, MIX_AGAIN_MIN = 10, 20
"""What a lost edge and a lost pile cost, minutes."""
EDGE_MIN_PER_MM, EDGE_LEAST_MIN = 0.04, 5
TACKY_H = (1.0, 6.0)
STEP_GROUPS = (
    ("build", "Eye: rim to texture", ("rim", "base", "shadow", "ring", "texture", "wet", "skin")),
    ("soften", "Eye: soften", ("soften",)),
    ("light", "Eye: sky, catchlight, lid hair", ("sky", "catchlight", "glint", "lid")),
)
LAY_INS = ("undercoat", "midtones", "darks")
SUPPORT = ((60, "Support", "prepare the support"), (30, "Ground coat", "a ground coat"))


@dataclass(frozen=True, slots=True)
class Wishes:
    """What is asked of the days of a painting.

    Attributes
    ----------
    rest_days : float or None
        Of rest between the last stroke and varnish; None hands it over unvarnished.
    alkyd : float
        Share in the paint.
    celsius, humidity : float
        Of the studio.
    film : float
        Of its planned thickness.
    prepared : bool
        The support is ready.
    """

    rest_days: float | None = 30.0
    alkyd: float = 0.0
    celsius: float = 20.0
    humidity: float = 50.0
    film: float = 1.0
    prepared: bool = False


@dataclass(eq=False)
class _Sheet:
    """Tasks and relations while they are written."""

    name: str
    wishes: Wishes
    tasks: list[Task] = field(default_factory=list)
    relations: list[Relation] = field(default_factory=list)
    films: dict[str, Times] = field(default_factory=dict)
    system: str = "oil"

    def film(self, um: float, pigments: Mapping[str, float]) -> Film:
        """Return a film of the painting's own system in the studio, for what has no pass."""
        oil = self.system in ("oil", "water oil")
        wishes = self.wishes
        return Film(
            self.system,
            um * wishes.film,
            pigments,
            alkyd=wishes.alkyd if oil else 0.0,
            celsius=wishes.celsius,
            humidity=wishes.humidity,
        )

    def task(self, key: str, part: str, act: str, minutes: float, kind: str = "paint", film: Film | None = None) -> str:
        made = Task(f"{self.name}:{key}", self.name, part, act, kind, max(1, math.ceil(minutes)))
        self.tasks.append(made)
        if film is not None:
            self.films[made.id] = drying(film)
        return made.id

    def after(self, a: str, b: str, hours: float = 0.0, why: str = "") -> None:
        self.relations.append(Relation(a, b, "after", hours, None, 0, why))

    def dry(self, a: str, b: str) -> None:
        times = self.films[a]
        self.relations.append(
            Relation(
                a, b, "touch_dry", round(times.late(times.touch), 2), None, 0, "what lies beneath must be touch-dry"
            )
        )

    def wet(
        self, a: str, b: str, most_h: float = math.inf, extra: int = STRIP_MIN, why: str = "both must be open"
    ) -> None:
        times = self.films[a]
        high = round(min(times.early(times.open), most_h), 2)
        self.relations.append(Relation(a, b, "while_open", 0.0, high, extra, why))

    def tacky(self, a: str, b: str, low: float, high: float, why: str) -> None:
        self.relations.append(Relation(a, b, "tacky", round(low, 2), round(high, 2), STRIP_MIN, why))


def tasks_of(
    results: Results, project: Project, wishes: Wishes | None = None, name: str = "", progress: Progress = SILENT
) -> tuple[tuple[Task, ...], tuple[Relation, ...]]:
    """Return what is to be done for a painting, and in which relation. Raises `Cancelled`.

    Parameters
    ----------
    results : Results
    project : Project
    wishes : Wishes
    name : str
        The painting's name in the ids; the project's own without.
    """
    sheet = _Sheet(name or project.name, wishes or Wishes())
    plans = [plan for plan in passes_of(results, project) if plan.on and (plan.zones or plan.role.act == "ground")]
    palette = palette_of(results, project, progress)
    rack = rack_of(results, project, progress)
    tubes = {tube.id: tube for tube in (rack.tubes if rack is not None else ())}
    first = _support(sheet)
    painted = _passes(sheet, results, project, plans, palette, tubes, first)
    _eyes(sheet, results, project, painted)
    _edges(sheet, results, project, painted)
    _looks(sheet, painted)
    _ending(sheet, painted)
    return tuple(sheet.tasks), merged(sheet.relations)


@dataclass(eq=False)
class _Painted:
    """What was laid in which pass, and what lies uppermost on each part."""

    acts: dict[str, list[tuple[str, tuple[int, ...]]]] = field(default_factory=dict)
    over: dict[int, str] = field(default_factory=dict)

    def of(self, act: str, zone: int) -> str:
        """Return the task in which a part is painted by a pass that acts so; empty for none."""
        return next((task for task, zones in self.acts.get(act, ()) if zone in zones), "")


def _support(sheet: _Sheet) -> str:
    """Write the preparation down; return the task that the first stroke waits for."""
    if sheet.wishes.prepared:
        return ""
    (a_min, a_part, _), (b_min, b_part, _) = SUPPORT
    a = sheet.task("support", a_part, "Preparation", a_min, "preparation")
    b = sheet.task("ground-coat", b_part, "Preparation", b_min, "preparation")
    sheet.after(a, b, 4, "the support must rest")
    return b


def _passes(
    sheet: _Sheet,
    results: Results,
    project: Project,
    plans: Sequence[PassPlan],
    palette: Palette,
    tubes: Mapping[str, Tube],
    first: str,
) -> _Painted:
    zones = project.back_to_front()
    order = {index: k for k, index in enumerate(laying_of(results, project).order)}
    touching = {frozenset((border.front, border.back)) for border, _ in edges_of(results, project)}
    painted, mixing, before = _Painted(), "", [first] if first else []
    for plan in plans:
        film = _film(plan, palette, tubes, sheet.wishes)
        sheet.system = film.system
        mine: list[tuple[str, tuple[int, ...]]] = []
        for indices, minutes in _areas(plan, order):
            names = [zones[k].name for k in indices]
            part = " + ".join(names) if len(names) < 4 else f"{names[0]} to {names[-1]}"
            key = f"{plan.role.key}.{zones[indices[0]].id}" if indices else plan.role.key
            task = sheet.task(key, part or "the whole canvas", plan.role.name, minutes, film=film)
            mine.append((task, indices))
            _beneath(sheet, plan, task, indices, painted, before)
        for k, (task, indices) in enumerate(mine):
            for other, further in mine[k + 1 :]:
                if any(frozenset((a, b)) in touching for a in indices for b in further):
                    sheet.after(task, other, 0, "what lies behind comes first")
        for task, indices in mine:
            painted.over.update(dict.fromkeys(indices, task))
        if plan.role.act == "ground" and mine:
            drawing = sheet.task("drawing", "the whole canvas", "Drawing", 45, "preparation")
            sheet.dry(mine[0][0], drawing)
            mixing = sheet.task("piles", "palette", "Piles", 30, "mixing")
            sheet.after(drawing, mixing, 0, "the drawing stands first")
            before = [mixing]
        elif mixing and mine and len(painted.acts) <= 1:
            for task, _ in mine:
                sheet.relations.append(
                    Relation(mixing, task, "mixed", 0.0, MIXED_H, MIX_AGAIN_MIN, "the piles are still soft")
                )
            before = [task for task, _ in mine]
        elif mine:
            before = [task for task, _ in mine]
        if plan.role.act == "background" and mine and project.ways.backdrop != "open":
            blend = sheet.task(f"blend.{plan.role.key}", "Background", "Blend", 15, "blend", film)
            for task, indices in mine:
                sheet.wet(task, blend, 3.0, 15, "a background is blended while it is open")
                painted.over.update(dict.fromkeys(indices, blend))
        painted.acts.setdefault(plan.role.act, []).extend(mine)
    return painted


def _beneath(
    sheet: _Sheet, plan: PassPlan, task: str, indices: tuple[int, ...], painted: _Painted, before: Sequence[str]
) -> None:
    """Relate an area to what lies beneath it, or to what came before it."""
    under = sorted({painted.over[k] for k in indices if k in painted.over})
    for other in under:
        times = sheet.films.get(other)
        if times is None:
            sheet.after(other, task)
        elif plan.role.beneath == "wet":
            sheet.wet(other, task, why="it is painted into the wet")
        elif plan.role.beneath == "tacky":
            sheet.tacky(
                other, task, 1.2 * times.open, max(0.7 * times.soft, 1.3 * times.open), "it wants a tacky layer"
            )
        else:
            sheet.dry(other, task)
    if not under:
        for other in before:
            if other in sheet.films:
                sheet.dry(other, task)
            else:
                sheet.after(other, task, 12 if not painted.acts else 0, "what was prepared must be dry")


def _areas(plan: PassPlan, order: Mapping[int, int]) -> list[tuple[tuple[int, ...], float]]:
    """Gather the parts of a pass, in laying order, into areas that are worth a task."""
    parts = sorted(
        ((k, one.minutes) for k, one in plan.estimates.items() if k >= 0 and one.minutes > 0),
        key=lambda one: order.get(one[0], 0),
    )
    if plan.role.act == "ground" or not parts:
        return [((), plan.minutes)] if plan.minutes > 0 else []
    made: list[tuple[list[int], float]] = []
    for index, minutes in parts:
        if made and made[-1][1] < AREA_MIN:
            made[-1] = ([*made[-1][0], index], made[-1][1] + minutes)
        else:
            made.append(([index], minutes))
    if len(made) > 1 and made[-1][1] < AREA_MIN:
        last = made.pop()
        made[-1] = ([*made[-1][0], *last[0]], made[-1][1] + last[1])
    return [(tuple(indices), minutes) for indices, minutes in made]


def _film(plan: PassPlan, palette: Palette, tubes: Mapping[str, Tube], wishes: Wishes) -> Film:
    """Return the film of a pass: its body and medium, and the pigments of the piles it takes."""
    role = plan.role
    kinds: dict[str, float] = {}
    system = "acrylic" if role.paint == "acrylic" else "oil"
    alkyd = wishes.alkyd
    for pile in palette.piles:
        ml = sum(palette.wants[w].ml for w in pile.wants if palette.wants[w].act == role.key)
        if ml <= 0:
            continue
        for key, n in pile.recipe.parts:
            tube = tubes.get(key)
            kind = CLASS_OF.get(key) or (
                BY_WORD.get(tube.drying, "medium") if tube is not None and key.startswith("own") else "medium"
            )
            kinds[kind] = kinds.get(kind, 0.0) + ml * n / pile.recipe.whole
            if tube is not None and tube.system in ("water oil", "acrylic", "slow acrylic") and role.paint != "acrylic":
                system = tube.system
            if tube is not None and tube.system == "alkyd":
                alkyd = max(alkyd, 0.25)
    oil = system in ("oil", "water oil")
    return Film(
        system,
        film_um(role.thickness) * wishes.film,
        kinds or {"medium": 1.0},
        thinner=max(0.0, 0.5 - role.fat) if oil else 0.0,
        oil=max(0.0, role.fat - 0.4) if oil else 0.0,
        alkyd=alkyd if oil else 0.0,
        absorbs=GROUNDS["acrylic gesso"] if role.act == "ground" else GROUNDS["oil ground"],
        celsius=wishes.celsius,
        humidity=wishes.humidity,
    )


def _eyes(sheet: _Sheet, results: Results, project: Project, painted: _Painted) -> None:
    """Write the steps of marked eyes down, as three tasks each."""
    for index, zone in enumerate(project.back_to_front()):
        for eye in eyes_in(results, project, index):
            steps = [step for step in eye_plan(results, project, eye).steps if step.painted]
            made: list[str] = []
            for key, name, words in STEP_GROUPS:
                minutes = sum(step.minutes for step in steps if any(word in step.name.lower() for word in words))
                film = sheet.film(60.0 if key == "light" else 30.0, {"titanium": 0.6, "drier": 0.4})
                kept = key != "soften" or minutes > 0
                if kept:
                    made.append(
                        sheet.task(f"eye.{eye.id}.{key}", eye.name or zone.name, name, max(minutes, 3), "eye", film)
                    )
            # An eye stands on its dark lay-in, not on the thick lights round it: those take weeks.
            under = next((task for act in LAY_INS if (task := painted.of(act, index))), "")
            if under:
                sheet.dry(under, made[0])
            if len(made) == 3:
                sheet.tacky(made[0], made[1], *TACKY_H, "softened while it is tacky")
            sheet.dry(made[0], made[-1])
            painted.over[index] = made[-1]


def _edges(sheet: _Sheet, results: Results, project: Project, painted: _Painted) -> None:
    """Write the soft borders between coats down: dragged while both sides are open."""
    zones = project.back_to_front()
    for number, (border, plan) in enumerate(edges_of(results, project)):
        if plan.grade not in ("soft", "lost") or border.back < 0:
            continue
        front, back = painted.of("lights", border.front), painted.of("lights", border.back)
        if not front:
            continue
        name = f"{zones[border.front].name} | {zones[border.back].name}"
        minutes = max(
            EDGE_LEAST_MIN, sum(line_length(run) for run in border.runs) * project.mm_per_px * EDGE_MIN_PER_MM
        )
        key = f"edge.{zones[border.front].id}.{zones[border.back].id}.{number}"
        task = sheet.task(key, name, "Edge", min(minutes, 30), "edge")
        sheet.films[task] = sheet.films[front]
        for side in {front, back} - {""}:
            sheet.wet(side, task, 18.0, why="an edge is dragged while both sides are open")
        for high, parts in painted.acts.get("highlights", ()):
            if border.front in parts:
                sheet.dry(task, high)


def _looks(sheet: _Sheet, painted: _Painted) -> None:
    """Write the fresh looks down that come after days of rest."""
    for act, hours in LOOK_H.items():
        mine = painted.acts.get(act, ())
        if not mine:
            continue
        look = sheet.task(f"look.{act}", "the whole canvas", "Rest and look", 10, "look")
        for task, _ in mine:
            sheet.after(task, look, hours, "eyes must rest")


def _ending(sheet: _Sheet, painted: _Painted) -> None:
    """Write touch-ups, photograph, varnish and hand-over down."""
    tops = sorted({*painted.over.values(), *(task for mine in painted.acts.values() for task, _ in mine)})
    look = sheet.task("look.end", "the whole canvas", "Rest and look", 15, "look")
    film = sheet.film(40.0, {"titanium": 0.6, "medium": 0.4})
    touch = sheet.task("touch-ups", "where the list says", "Touch-ups", 60, "touch-up", film)
    photo = sheet.task("photograph", "the whole canvas", "Photograph", 15, "photograph")
    # Everything stands before it is looked at; touch-ups are local, and wait for no thick highlight.
    edges = [task.id for task in sheet.tasks if task.kind in ("edge", "eye", "blend")]
    for task in dict.fromkeys([*tops, *edges]):
        sheet.after(task, look, 24, "eyes must rest")
    sheet.after(look, touch)
    sheet.after(touch, photo)
    hand = sheet.task("hand-over", "the whole canvas", "Hand-over", 30, "hand-over")
    if sheet.wishes.rest_days is None:
        for task in dict.fromkeys([*tops, touch]):
            if task in sheet.films:
                sheet.dry(task, hand)
        sheet.after(photo, hand)
        return
    varnish = sheet.task("varnish", "the whole canvas", "Varnish", 30, "varnish")
    for task in dict.fromkeys([*tops, *edges, touch]):
        if task in sheet.films:
            sheet.dry(task, varnish)
            sheet.relations.append(
                Relation(task, varnish, "rest", sheet.wishes.rest_days * 24, None, 0, "paint rests before varnish")
            )
    sheet.after(photo, varnish)
    sheet.after(varnish, hand, 48, "varnish must be dry")
