"""From the plan of a painting to tasks and relations: passes area by area, eyes, edges, looks, varnish, and their lags by drying."""

import itertools
import math
from collections.abc import Mapping, Sequence
from collections.abc import Set as AbstractSet
from dataclasses import dataclass, field, replace
from datetime import date

from foxpath.core.clock import now
from foxpath.core.curves import line_length
from foxpath.core.days.belief import Belief
from foxpath.core.days.drying import GROUNDS, Film, Times, drying
from foxpath.core.days.piles import has_alkyd, pigments_of, pile_kind, system_of
from foxpath.core.days.studio import Days, DryNote, moment_of, room_on
from foxpath.core.days.tasks import Relation, Task, merged
from foxpath.core.mixes.amounts import film_um
from foxpath.core.mixes.palette import Palette
from foxpath.core.mixes.tubes import Tube
from foxpath.core.passes import PassPlan, Ways
from foxpath.core.passes.working import areas_of, gathered, manner_of_work, runs_of
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
ACRYLIC_UNDER = ("ground", "darks", "midtones", "undercoat")
"""What passes act as that can be laid in acrylic under oil."""
FAST_H = 0.75
"""Paint that is open no longer cannot be painted into: the next layer waits until it is dry."""
THICK, DRAWN_OUT_H = 0.75, (0.5, 24.0)
"""Thickness of paint from which oil is drawn out of it, and hours it lies on paper."""
WHISKERS_H = 24.0
LEAST_SHARE = 0.10
"""Of an area's paint; a pile with less does not say how it dries."""
DRIED_ANEW = 1.15
"""What was still tacky after some hours is taken to be so for this much longer at least."""
WHOLE = "the whole canvas"
TOUCH = "touch."
"""Keys of the tasks of touch-ups begin so."""


@dataclass(frozen=True, slots=True)
class Layer:
    """Paint that a task lays: how it dries, and the pile that is slowest in it.

    Attributes
    ----------
    times : Times
        What was learned of the studio and the piles is in them.
    pile, name : str
        Key of the slowest pile for notes, and what it is called; empty where it has no pile of its own.
    typical_h : float
        Hours to touch-dry of that pile by the typical values.
    thinned : bool
        Let down with thinner, whose fumes want open doors.
    """

    times: Times
    pile: str = ""
    name: str = ""
    typical_h: float = 0.0
    thinned: bool = False


@dataclass(frozen=True, slots=True, eq=False)
class Work:
    """What is to be done for a painting.

    Attributes
    ----------
    tasks : tuple of Task
    relations : tuple of Relation
    layers : dict of task id to Layer
    zones : dict of task id to tuple of int
        Parts it paints, counted back to front.
    roles : dict of task id to str
        Key of its pass.
    dropped : tuple of Task
        Left out for time's sake.
    slowest : tuple of task ids
        The layers that dry last: where a finger tests before varnish.
    """

    tasks: tuple[Task, ...]
    relations: tuple[Relation, ...]
    layers: Mapping[str, Layer]
    zones: Mapping[str, tuple[int, ...]]
    roles: Mapping[str, str]
    dropped: tuple[Task, ...] = ()
    slowest: tuple[str, ...] = ()


@dataclass(eq=False)
class _Sheet:
    """Tasks and relations while they are written."""

    name: str
    days: Days
    belief: Belief
    ways: Ways = field(default_factory=Ways)
    when: Mapping[str, date] = field(default_factory=dict)
    tasks: list[Task] = field(default_factory=list)
    relations: list[Relation] = field(default_factory=list)
    layers: dict[str, Layer] = field(default_factory=dict)
    zones: dict[str, tuple[int, ...]] = field(default_factory=dict)
    roles: dict[str, str] = field(default_factory=dict)
    system: str = "oil"

    def film(self, um: float, pigments: Mapping[str, float], absorbs: float = GROUNDS["oil ground"]) -> Film:
        """Return a film of the painting's own system, for what has no pass."""
        oil = self.system in ("oil", "water oil")
        return Film(self.system, um, pigments, alkyd=self.days.alkyd if oil else 0.0, absorbs=absorbs)

    def placed(self, film: Film, key: str) -> Film:
        """Return a film as a task lays it in this studio: the room is that of the day on which it is expected to be laid."""
        days = self.days
        celsius, humidity = room_on(days, self.when.get(key) or days.begins(now().date()))
        return replace(film, um=film.um * days.film, celsius=celsius, humidity=humidity, dark=days.dark)

    def layer(self, film: Film, key: str, pile: str = "", name: str = "") -> Layer:
        """Return how a film that a task lays dries, with what was learned."""
        typical = drying(self.placed(film, key))
        mean, sd = self.belief.factor(pile)
        f = math.exp(mean)
        t = typical
        # The spread of a layer is what is not known of studio and pile, and its own.
        spread = math.hypot(sd, 0.18) * t.sd / 0.40
        return Layer(
            Times(t.open * f, t.soft * f, t.touch * f, t.through * f, t.cured, spread), pile, name, typical.touch,
            film.thinner > 0,
        )  # fmt: skip

    def task(
        self, key: str, part: str, act: str, minutes: float, kind: str = "paint", layer: Layer | None = None,
        zones: tuple[int, ...] = (), role: str = "",
    ) -> str:  # fmt: skip
        made = Task(f"{self.name}:{key}", self.name, part, act, kind, max(1, math.ceil(minutes)))
        self.tasks.append(made)
        self.zones[made.id], self.roles[made.id] = zones, role
        if layer is not None:
            self.layers[made.id] = layer
        return made.id

    def after(self, a: str, b: str, hours: float = 0.0, why: str = "") -> None:
        self.relations.append(Relation(a, b, "after", hours, None, 0, why))

    def dry(self, a: str, b: str) -> None:
        times = self.layers[a].times
        self.relations.append(
            Relation(
                a, b, "touch_dry", round(times.late(times.touch, self.days.z), 2), None, 0,
                "what lies beneath must be touch-dry",
            )
        )  # fmt: skip

    def wet(
        self, a: str, b: str, most_h: float = math.inf, extra: int = STRIP_MIN, why: str = "both must be open"
    ) -> None:
        times = self.layers[a].times
        high = round(min(times.early(times.open, self.days.z), most_h), 2)
        self.relations.append(Relation(a, b, "while_open", 0.0, high, extra, why))

    def tacky(self, a: str, b: str, low: float, high: float, why: str) -> None:
        self.relations.append(Relation(a, b, "tacky", round(low, 2), round(high, 2), STRIP_MIN, why))


def belief_of(days: Days) -> Belief:
    """Return what the notes of this painting and of those before it teach."""
    notes = (*days.earlier, *days.notes)
    belief = Belief(sorted({one.pile for one in notes if one.pile}))
    for one in notes:
        tacky, dry = one.hours(one.tacky), one.hours(one.dry)
        if one.median_h > 0 and (tacky > 0 or dry > 0) and not (0 < dry <= tacky):
            belief.note(one.pile, one.median_h, max(tacky, 0.0), dry if dry > 0 else math.inf)
    return belief


def work_of(
    results: Results, project: Project, days: Days | None = None, name: str = "", progress: Progress = SILENT,
    when: Mapping[str, date] | None = None,
) -> Work:  # fmt: skip
    """Return what is to be done for a painting, and in which relation. Raises `Cancelled`.

    Parameters
    ----------
    results : Results
    project : Project
    days : Days
        Wishes to plan by; the project's own without.
    name : str
        The painting's name in the ids; the project's own without.
    when : mapping of task key to date
        When each is expected to be painted, in a room that goes with the year; on the first day without.
    """
    days = days if days is not None else project.days
    sheet = _Sheet(name or project.name, days, belief_of(days), project.ways, when or {})
    plans = [plan for plan in passes_of(results, project) if plan.on and (plan.zones or plan.role.act == "ground")]
    palette = palette_of(results, project, progress)
    rack = rack_of(results, project, progress)
    tubes = {tube.id: tube for tube in (rack.tubes if rack is not None else ())}
    order = {index: k for k, index in enumerate(laying_of(results, project).order)}
    kept = [plan for plan in plans if plan.role.key not in days.dropped or plan.role.act == "ground"]
    gone = [plan for plan in plans if plan not in kept]
    first = _support(sheet)
    painted = _passes(sheet, results, project, kept, palette, tubes, first)
    _eyes(sheet, results, project, painted)
    _edges(sheet, results, project, painted)
    _looks(sheet, painted)
    _touch_ups(sheet, project, painted)
    slowest = _ending(sheet, painted)
    dropped = tuple(
        Task(f"{sheet.name}:{_key(project, plan, indices)}", sheet.name, _part(project, indices), plan.role.name, "paint",
             max(1, math.ceil(minutes)))
        for plan in gone
        for indices, minutes in _areas(plan, order)
    )  # fmt: skip
    relations = merged(_noted(sheet, days.notes, days))
    return Work(tuple(sheet.tasks), relations, sheet.layers, sheet.zones, sheet.roles, dropped, slowest)


def _noted(sheet: _Sheet, notes: Sequence[DryNote], days: Days) -> list[Relation]:
    """Return the relations with what a finger said of the very layers they wait for."""
    ends = {one.task: end for one in days.done if (end := moment_of(one.end)) is not None}
    known = {one.task: one for one in notes if one.task in ends}
    made = []
    for one in sheet.relations:
        note = known.get(one.before.removeprefix(f"{sheet.name}:"))
        if note is not None and one.kind == "touch_dry":
            dry, tacky = note.hours(note.dry), note.hours(note.tacky)
            low = dry if dry > 0 else max(one.low_h, DRIED_ANEW * tacky)
            one = replace(one, low_h=round(low, 2), why="a finger said so" if dry > 0 else one.why)  # noqa: PLW2901
        made.append(one)
    return made


def _support(sheet: _Sheet) -> str:
    """Write the preparation down; return the task that the first stroke waits for."""
    if sheet.days.prepared:
        return ""
    gesso = sheet.layer(Film("acrylic", 120.0, absorbs=GROUNDS["chalk"]), "coat-1")
    steps = (
        ("support", "Support", 60, None),
        ("coat-1", "Ground coat", 20, gesso),
        ("coat-2", "Second coat", 20, gesso),
    )
    made = [sheet.task(key, part, "Preparation", minutes, "preparation", layer) for key, part, minutes, layer in steps]
    sand = sheet.task("sand", "Sanding", "Preparation", 20, "preparation")
    sheet.after(made[0], made[1], 4, "size and glue must rest")
    sheet.dry(made[1], made[2])
    sheet.after(
        made[2],
        sand,
        round(gesso.times.late(gesso.times.through, sheet.days.z), 2),
        "sanded once it is dry all through",
    )
    return sand


def _part(project: Project, indices: Sequence[int]) -> str:
    zones = project.back_to_front()
    names = [zones[k].name for k in indices]
    return (" + ".join(names) if len(names) < 4 else f"{names[0]} to {names[-1]}") or WHOLE


def _key(project: Project, plan: PassPlan, indices: Sequence[int]) -> str:
    return f"{plan.role.key}.{project.back_to_front()[indices[0]].id}" if indices else plan.role.key


@dataclass(eq=False)
class _Painted:
    """What was laid in which pass, and what lies uppermost on each part."""

    acts: dict[str, list[tuple[str, tuple[int, ...]]]] = field(default_factory=dict)
    laid: dict[str, list[tuple[str, tuple[int, ...]]]] = field(default_factory=dict)
    over: dict[int, str] = field(default_factory=dict)

    def of(self, act: str, zone: int) -> str:
        """Return the task in which a part is painted by a pass that acts so; empty for none."""
        return next((task for task, zones in self.acts.get(act, ()) if zone in zones), "")


def _passes(
    sheet: _Sheet,
    results: Results,
    project: Project,
    plans: Sequence[PassPlan],
    palette: Palette,
    tubes: Mapping[str, Tube],
    first: str,
) -> _Painted:
    order = {index: k for k, index in enumerate(laying_of(results, project).order)}
    touching = {frozenset((border.front, border.back)) for border, _ in edges_of(results, project)}
    painted, mixing, before = _Painted(), "", [first] if first else []
    # A marked eye is painted in steps of its own, on its lay-in.
    eyed = {k for k, zone in enumerate(project.back_to_front()) if zone.kind == "eye" and eyes_in(results, project, k)}
    groups = _groups(project, plans, order)
    for plan in plans:
        mine: list[tuple[str, tuple[int, ...]]] = []
        coats = plan.role.veil.coats if plan.role.veil is not None else 1
        without = set() if plan.role.act in LAY_INS else eyed
        for indices, minutes in _areas(plan, order, without, groups.get(plan.role.key)):
            key, part = _key(project, plan, indices), _part(project, indices)
            layer = _layer(sheet, key, plan, indices, palette, tubes)
            task = sheet.task(key, part, plan.role.name, minutes / coats, "paint", layer, indices, plan.role.key)
            _beneath(sheet, plan, task, indices, painted, before)
            for coat in range(2, coats + 1):
                name = f"{plan.role.name}, coat {coat}"
                again = sheet.task(f"{key}.{coat}", part, name, minutes / coats, "paint", layer, indices, plan.role.key)
                sheet.dry(task, again)
                task = again
            mine.append((task, indices))
        for k, (task, indices) in enumerate(mine):
            for other, further in mine[k + 1 :]:
                if any(frozenset((a, b)) in touching for a in indices for b in further):
                    sheet.after(task, other, 0, "what lies behind comes first")
        for task, indices in mine:
            painted.over.update(dict.fromkeys(indices, task))
        if sheet.days.drawn_out and plan.role.thickness >= THICK and mine:
            paper = sheet.task(
                f"paper.{plan.role.key}", f"paint for {plan.role.name.lower()}", "Oil drawn out", 5, "mixing"
            )
            for task, _ in mine:
                low, high = DRAWN_OUT_H
                sheet.relations.append(
                    Relation(paper, task, "mixed", low, high, 5, "paper draws oil out of thick paint")
                )
        if plan.role.act == "ground" and mine:
            drawing = sheet.task("drawing", WHOLE, "Drawing", 45, "preparation")
            sheet.dry(mine[0][0], drawing)
            mixing = sheet.task("piles", "palette", "Piles", 30, "mixing")
            sheet.after(drawing, mixing, 0, "the drawing stands first")
            before = [mixing]
        elif mixing and mine and len(painted.acts) <= 1:
            # Area by area the piles wait for the first one; for later ones they are seen to as they are used.
            for task, _ in mine[:1] if groups else mine:
                sheet.relations.append(
                    Relation(mixing, task, "mixed", 0.0, MIXED_H, MIX_AGAIN_MIN, "the piles are still soft")
                )
            before = [task for task, _ in mine]
        elif mine:
            before = [task for task, _ in mine]
        if plan.role.act == "background" and mine and project.ways.backdrop != "open":
            _blend(sheet, plan, mine, painted)
        painted.acts.setdefault(plan.role.act, []).extend(mine)
        painted.laid[plan.role.key] = mine
    _in_turn(sheet, plans, groups, painted)
    return painted


def _groups(project: Project, plans: Sequence[PassPlan], order: Mapping[int, int]) -> dict[str, list[tuple[int, ...]]]:
    """Return the areas that each pass is painted in where one area is carried through several passes; none elsewhere."""
    if manner_of_work(project.ways, plans) != "areas":
        return {}
    made: dict[str, list[tuple[int, ...]]] = {}
    for run in runs_of(plans):
        if len(run) > 1:
            areas = areas_of(run, order)
            made |= {plan.role.key: areas for plan in run}
    return made


def _in_turn(
    sheet: _Sheet, plans: Sequence[PassPlan], groups: Mapping[str, list[tuple[int, ...]]], painted: "_Painted"
) -> None:
    """Relate what is painted to the order of work: an area is through before the next is begun, or a pass before the next."""
    work = manner_of_work(sheet.ways, plans)
    if work == "areas":
        for run in runs_of(plans):
            areas = groups.get(run[0].role.key, [])
            turns = [
                [task for plan in run for task, zones in painted.laid.get(plan.role.key, ()) if set(zones) & set(area)]
                for area in areas
            ]
            turns = [turn for turn in turns if turn]
            for one, other in itertools.pairwise(turns):
                sheet.after(one[-1], other[0], 0, "area by area: one is through before the next is begun")
    elif sheet.ways.work == "rows":
        rows = [[task for task, _ in painted.laid.get(plan.role.key, ())] for plan in plans]
        rows = [row for row in rows if row]
        for row in rows:
            for before, after in itertools.pairwise(row):
                sheet.after(before, after, 0, "row by row, in laying order")
        for row, upper in itertools.pairwise(rows):
            sheet.after(row[-1], upper[0], 0, "row by row: one pass through all parts")


def _blend(sheet: _Sheet, plan: PassPlan, mine: Sequence[tuple[str, tuple[int, ...]]], painted: _Painted) -> None:
    """Write down that a background is blended while it is open."""
    layer = min((sheet.layers[task] for task, _ in mine), key=lambda one: one.times.open)
    zones = tuple(k for _, indices in mine for k in indices)
    blend = sheet.task(
        f"blend.{plan.role.key}", "Background", "Blend", 15, "blend", layer, zones, plan.role.key
    )  # fmt: skip
    for task, indices in mine:
        sheet.wet(task, blend, 3.0, 15, "a background is blended while it is open")
        painted.over.update(dict.fromkeys(indices, blend))


def _beneath(
    sheet: _Sheet, plan: PassPlan, task: str, indices: tuple[int, ...], painted: _Painted, before: Sequence[str]
) -> None:
    """Relate an area to what lies beneath it, or to what came before it."""
    under = sorted({painted.over[k] for k in indices if k in painted.over})
    for other in under:
        layer = sheet.layers.get(other)
        if layer is None:
            sheet.after(other, task)
        elif plan.role.act == "whiskers":
            # Single hairs over all: thick lights beneath them set, but need not be dry.
            sheet.after(other, task, WHISKERS_H, "whiskers lie over all that has set")
        elif plan.role.beneath == "wet" and layer.times.open > FAST_H:
            sheet.wet(other, task, why="it is painted into the wet")
        elif plan.role.beneath == "tacky":
            times = layer.times
            sheet.tacky(
                other, task, 1.2 * times.open, max(0.7 * times.soft, 1.3 * times.open), "it wants a tacky layer"
            )
        else:
            sheet.dry(other, task)
    if not under:
        for other in before:
            if plan.role.act == "whiskers":
                sheet.after(other, task, WHISKERS_H, "whiskers lie over all that has set")
            elif other in sheet.layers:
                sheet.dry(other, task)
            else:
                sheet.after(other, task, 12 if not painted.acts else 0, "what was prepared must be dry")


def _areas(
    plan: PassPlan,
    order: Mapping[int, int],
    without: AbstractSet[int] = frozenset(),
    groups: Sequence[tuple[int, ...]] | None = None,
) -> list[tuple[tuple[int, ...], float]]:
    """Gather the parts of a pass, in laying order and `without` some, into areas that are worth a task, or into given ones."""
    parts = sorted(
        ((k, one.minutes) for k, one in plan.estimates.items() if k >= 0 and one.minutes > 0 and k not in without),
        key=lambda one: order.get(one[0], 0),
    )
    if plan.role.act == "ground" or not any(k >= 0 for k in plan.estimates):
        return [((), plan.minutes)] if plan.minutes > 0 else []
    if groups is not None:
        taken = dict(parts)
        own = [tuple(k for k in area if k in taken) for area in groups]
        return [(area, sum(taken[k] for k in area)) for area in own if area]
    return gathered(parts, AREA_MIN)


def _layer(
    sheet: _Sheet, key: str, plan: PassPlan, indices: tuple[int, ...], palette: Palette, tubes: Mapping[str, Tube]
) -> Layer:
    """Return how the paint of an area dries: open as long as its quickest pile, dry when its slowest is."""
    role = plan.role
    paint = "acrylic" if sheet.days.acrylic_under and role.act in ACRYLIC_UNDER else role.paint
    amounts = {
        pile.key: sum(
            want.ml for w in pile.wants
            if (want := palette.wants[w]).act == role.key and (not indices or want.zone in indices)
        )
        for pile in palette.piles
    }  # fmt: skip
    whole = sum(amounts.values())
    ground = GROUNDS["acrylic gesso"] if role.act == "ground" else GROUNDS["oil ground"]
    found = []
    for pile in palette.piles:
        if whole > 0 and amounts[pile.key] >= LEAST_SHARE * whole:
            parts = pile.recipe.parts
            film = _film(sheet, plan, system_of(parts, tubes, paint), pigments_of(parts, tubes), ground)
            if has_alkyd(parts, tubes):
                film = replace(film, alkyd=max(film.alkyd, 0.25))
            found.append(sheet.layer(film, key, pile_kind(parts), pile.name))
    if not found:
        system = "acrylic" if paint == "acrylic" else sheet.system
        return sheet.layer(_film(sheet, plan, system, {"medium": 1.0}, ground), key)
    # What has no pass of its own is painted in the painting's own oil.
    sheet.system = system_of(palette.piles[0].recipe.parts, tubes, "oil")
    slow = max(found, key=lambda one: one.times.touch)
    quick = min(one.times.open for one in found)
    return replace(slow, times=replace(slow.times, open=quick, soft=min(one.times.soft for one in found)))


def _film(sheet: _Sheet, plan: PassPlan, system: str, pigments: Mapping[str, float], absorbs: float) -> Film:
    role, oil = plan.role, system in ("oil", "water oil")
    return Film(
        system,
        film_um(role.thickness),
        pigments,
        thinner=max(0.0, 0.5 - role.fat) if oil else 0.0,
        oil=max(0.0, role.fat - 0.4) if oil else 0.0,
        alkyd=sheet.days.alkyd if oil else 0.0,
        absorbs=absorbs,
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
                if key != "soften" or minutes > 0:
                    step = f"eye.{eye.id}.{key}"
                    layer = sheet.layer(film, step)
                    part = eye.name or zone.name
                    made.append(sheet.task(step, part, name, max(minutes, 3), "eye", layer, (index,)))
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
        task = sheet.task(
            key, name, "Edge", min(minutes, 30), "edge", sheet.layers[front], (border.front, border.back),
            sheet.roles[front],
        )  # fmt: skip
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
        look = sheet.task(f"look.{act}", WHOLE, "Rest and look", 10, "look")
        for task, _ in mine:
            sheet.after(task, look, hours, "eyes must rest")


def _touch_ups(sheet: _Sheet, project: Project, painted: _Painted) -> None:
    """Write the touch-ups down that are to be done: each after what lies on its part now, and before what is still to come over it."""
    done = {f"{sheet.name}:{one.task}" for one in sheet.days.done}
    places = {zone.id: k for k, zone in enumerate(project.back_to_front())}
    names = {zone.id: zone.name for zone in project.zones}
    painting = [task.id for task in sheet.tasks if task.kind in ("paint", "eye", "blend")]
    for touch in project.touches:
        key = touch_key(touch.id)
        if touch.word != "todo" and not (touch.word == "done" and f"{sheet.name}:{key}" in done):
            continue
        zone = places.get(touch.zone, -1)
        over = [task for task in painting if zone in sheet.zones[task] or zone < 0]
        laid = [task for task in over if task in done]
        layer = sheet.layer(sheet.film(40.0, {"titanium": 0.6, "medium": 0.4}), key)
        made = sheet.task(
            key, names.get(touch.zone, WHOLE), "Touch-up", touch.minutes, "touch-up", layer, (zone,) if zone >= 0 else ()
        )  # fmt: skip
        # Where the log knows of no paint yet, the part is finished first.
        for task in laid[-1:] or over[-1:]:
            if touch.dry and task in sheet.layers:
                sheet.dry(task, made)
            else:
                sheet.after(task, made, 0, "it is mended where it lies")
        for task in over if laid else ():
            if task not in done:
                sheet.dry(made, task)
        if zone >= 0 and len(laid) == len(over):
            painted.over[zone] = made


def touch_key(touch_id: str) -> str:
    """Return the key of the task of a touch-up."""
    return f"{TOUCH}{touch_id}"


def _ending(sheet: _Sheet, painted: _Painted) -> tuple[str, ...]:
    """Write touch-ups, photograph, varnish and hand-over down; return the layers that a finger tests before varnish."""
    # A touch-up is paint as well, whatever lies on its part by now.
    single = [task.id for task in sheet.tasks if task.kind == "touch-up"]
    tops = sorted({*painted.over.values(), *(task for mine in painted.acts.values() for task, _ in mine), *single})
    look = sheet.task("look.end", WHOLE, "Rest and look", 15, "look")
    layer = sheet.layer(sheet.film(40.0, {"titanium": 0.6, "medium": 0.4}), "touch-ups")
    # Those that are told singly already are not counted once more.
    touch = sheet.task("touch-ups", "where the list says", "Touch-ups", 20 if single else 60, "touch-up", layer)
    photo = sheet.task("photograph", WHOLE, "Photograph", 15, "photograph")
    # Everything stands before it is looked at; touch-ups are local, and wait for no thick highlight.
    edges = [task.id for task in sheet.tasks if task.kind in ("edge", "eye", "blend")]
    for task in dict.fromkeys([*tops, *edges]):
        sheet.after(task, look, 24, "eyes must rest")
    sheet.after(look, touch)
    sheet.after(touch, photo)
    hand = sheet.task("hand-over", WHOLE, "Hand-over", 30, "hand-over")
    layers = [task for task in dict.fromkeys([*tops, *edges, touch]) if task in sheet.layers]
    slowest = tuple(sorted(layers, key=lambda one: -sheet.layers[one].times.touch)[:3])
    if not sheet.days.varnish:
        for task in layers:
            sheet.dry(task, hand)
        sheet.after(photo, hand)
        return slowest
    varnish = sheet.task("varnish", WHOLE, "Varnish", 30, "varnish")
    for task in layers:
        sheet.dry(task, varnish)
        sheet.relations.append(
            Relation(task, varnish, "rest", sheet.days.rest_days * 24, None, 0, "paint rests before varnish")
        )
    sheet.after(photo, varnish)
    sheet.after(varnish, hand, 48, "varnish must be dry")
    return slowest
