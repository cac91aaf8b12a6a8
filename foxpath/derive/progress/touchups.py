"""The touch-up list: what was judged, in words, with what mends it by the state of the paint, and what the painter said of it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

import numpy as np

from foxpath.core.log.entries import standing
from foxpath.core.mixes.chain import nearest_pile
from foxpath.core.passes import PassPlan
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.planned import Planned, PlannedEye, PlannedPart
from foxpath.core.progress.remedy import Place, direction, remedy
from foxpath.core.progress.touches import OWN
from foxpath.core.units import mm_words
from foxpath.derive.days.plan import Planned as PlannedDays
from foxpath.derive.days.sitting import areas_at
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.mixes.palette import palette_of, rack_of
from foxpath.derive.results import Results
from foxpath.document import edits
from foxpath.document.model import Project

THICK = 0.75
BESIDE_MM = 14.0


@dataclass(frozen=True, slots=True)
class TouchUp:
    """One entry of the list.

    Attributes
    ----------
    number : int
        From 1.
    kind, rule : str
    zone, name, group : str
        Id and name of its part, and the animal it belongs to.
    at : (x, y)
        Reference pixels.
    size, doubt, planned : float
        In `unit`.
    unit : str
    times : float
        How many times the rule's threshold.
    seen_m : float
        From how far it is seen; 0 for not at all.
    radius_mm : float
    toward : (dx, dy)
        mm by which a feature lies off.
    says : str
        One sentence.
    why : str
        What was measured, and against which rule.
    remedy, tool, pile : str
    minutes : int
    dry : bool
        Whether the paint must be dry first.
    state : str
        Of the paint there now; empty where nothing is known.
    when : str
        "now", or the ISO day from which it can be done.
    word : str
        What the painter said: key of `WORDS`; empty for nothing yet.
    touch : str
        Id of that word.
    below : bool
        Below the line of what is seen from the usual distance.
    """

    number: int
    kind: str
    rule: str
    zone: str
    name: str
    group: str
    at: tuple[float, float]
    size: float
    doubt: float
    planned: float
    unit: str
    times: float
    seen_m: float
    radius_mm: float
    toward: tuple[float, float]
    says: str
    why: str
    remedy: str
    tool: str
    pile: str
    minutes: int
    dry: bool
    state: str
    when: str
    word: str
    touch: str
    below: bool

    @property
    def open(self) -> bool:
        """Whether it is still to be mended: seen, and neither kept, struck out nor done."""
        return not self.below and self.word in ("", "todo")


Lab3 = tuple[float, float, float]
Colours = tuple[Lab3, Lab3]


@dataclass(frozen=True, slots=True)
class About:
    """What is known of the work picture without its pixels: width and height, px, its parts and its eyes."""

    size: tuple[int, int]
    parts: tuple[PlannedPart, ...]
    eyes: tuple[PlannedEye, ...]


@dataclass(frozen=True, slots=True)
class Paint:
    """What is known of the paint on a part: its state, and when it is dry."""

    state: str
    dry_from: datetime | None
    thick: bool = False


def paint_states(project: Project, days: PlannedDays | None, moment: datetime) -> dict[int, Paint]:
    """Return what is known of the paint on each part, back to front, from the log and the days; parts nothing is known of are left out."""
    if days is None or not days.layout.problem.done:
        return {}
    layout = days.layout
    done = {layout.problem.tasks[k].id for k in layout.problem.done}
    roles = project.roles
    found = {}
    for area in areas_at(layout, days.diary, layout.minute(moment)):
        task = layout.problem.tasks[area.task].id
        if task not in done:
            continue
        role = roles.get(layout.works[0].roles.get(task, ""))
        thick = role is not None and role.thickness >= THICK
        found[area.zone] = Paint(area.state, area.until if area.state != "dry" else None, thick)
    return found


def size_words(one: Candidate) -> str:
    """Say how much, e.g. "8 L*", "2.4 mm", "24°"."""
    size = abs(one.size)
    if one.unit == "mm":
        return mm_words(size)
    if one.unit == "deg":
        return f"{size:.0f}°"
    if one.unit == "%":
        return f"{size:.0f} %"
    if one.unit == "cm2":
        return f"{size:.1f} cm²"
    if one.unit == "h":
        return f"{size:.1f} h"
    return (
        f"{size:.1f} {'ΔE' if one.unit == 'dE' else one.unit}"
        if size < 3
        else f"{size:.0f} {'ΔE' if one.unit == 'dE' else one.unit}"
    )


def says(one: Candidate, name: str, beside: str, by: str) -> str:
    """Return what is said of a candidate, one sentence."""
    much = size_words(one)
    than = "planned" if by == "spot" else "the rest"
    part = "a patch of " if one.rule.endswith("patch") else ""
    it = f"{part}{name}" if part else name
    if one.kind == "value":
        text = f"{it} is {much} {'lighter' if one.size > 0 else 'darker'} than {than}."
    elif one.kind == "warmth":
        text = f"{it} is {much} {'warmer' if one.size > 0 else 'cooler'} than {than}."
    elif one.kind == "strength":
        text = f"{it} is {much} {'stronger' if one.size > 0 else 'greyer'} in colour than planned."
    elif one.kind == "place":
        text = f"{it} stands {much} too far {direction(*one.toward)}."
    elif one.rule == "oval":
        text = f"{it} is {much} too {'wide' if one.size > 0 else 'tall'} for its shape."
    elif one.rule == "size":
        text = f"{it} is {much} too {'large' if one.size > 0 else 'small'}."
    elif one.kind == "catchlight":
        text = (
            f"{it} has no catchlight."
            if one.size == 0
            else f"{it}: the catchlight stands {much} too {'late' if one.size > 0 else 'early'} on the clock."
        )
    elif one.kind == "bare":
        text = f"{it} shows bare ground, {much}."
    elif one.kind == "stroke":
        text = f"{it}: one {'light' if one.size > 0 else 'dark'} stroke jumps out by {much}."
    elif one.kind == "edge":
        text = f"{it} against {beside} is {'harder' if one.size < one.planned else 'softer'} than planned: {much} wide."
    elif one.rule == "outline":
        text = f"{it} against {beside} has a {'light' if one.size > 0 else 'dark'} outline, {much}."
    elif one.kind == "growth":
        text = f"{it}: the hair runs {much} off the planned growth."
    elif one.kind == "smooth":
        text = f"{it} is too smooth: {much} of its fine light and dark."
    elif one.kind == "lights":
        text = f"{it} has more lights than planned, {much} of the place."
    else:
        text = f"{it}: {much} of the planned hairs are there."
    return text[:1].upper() + text[1:]


_RULES = {
    "place": "told from 1.3 mm: a hand drifts less", "size": "told from 8 %", "oval": "told from 9 %", "catchlight": "told from half an hour",
    "bare": "outside all the plan shows within 4 mm", "value part": "told from 3 L*", "value patch": "more than two hands differ there",
    "warmth part": "told from 3 ΔE", "warmth patch": "more than two hands differ there", "strength": "told from 13 %",
    "stroke": "stronger than any mark of that way within 14 mm", "edge": "against the same border by two hands", "outline": "stands over both sides",
    "growth": "told from 17°", "smooth": "against the fainter of two hands", "lights": "more than two hands set there", "missing": "told below half",
}  # fmt: skip


def why(one: Candidate, planned_words: str) -> str:
    """Return what was measured and against which rule."""
    doubt = f" ± {size_words(_as(one, one.doubt))}" if one.doubt > 0 else ""
    measured = f"measured {size_words(one)}{doubt}"
    seen = f"seen from {one.seen_m:.1f} m" if one.seen_m >= 0.05 else "not seen from any distance"
    return " · ".join(part for part in (measured, planned_words, _RULES[one.rule], seen) if part)


def _as(one: Candidate, size: float) -> Candidate:
    return replace(one, size=size)


def touch_ups(
    results: Results,
    project: Project,
    about: About,
    told: Sequence[tuple[Candidate, Colours]],
    from_m: float,
    by: str,
    done: Sequence[PassPlan],
    paints: Mapping[int, Paint],
    moment: datetime,
) -> tuple[TouchUp, ...]:
    """Return the list: what is told, what the eye sees first comes first, then what was added by hand.

    Parameters
    ----------
    results : Results
    project : Project
    about : About
    told : sequence of (Candidate, Colours)
    from_m : float
        The distance it is looked at from.
    by : str
        "spot" where the light was balanced by a known colour.
    done : sequence of PassPlan
        The passes that are done.
    paints : mapping of part to Paint
    moment : datetime
        Now, local.
    """
    made: list[TouchUp] = []
    for one, colours in told:
        made.append(_entry(results, project, about, one, colours, len(made) + 1, from_m, by, done, paints, moment))
    made += own_entries(project, len(made))
    return tuple(made)


def own_entries(project: Project, before: int = 0) -> list[TouchUp]:
    """Return what was added by hand."""
    names = {zone.id: (zone.name, zone.group) for zone in project.zones}
    made: list[TouchUp] = []
    for touch in project.touches:
        if touch.kind == OWN:
            name, group = names.get(touch.zone, ("Whole canvas", ""))
            made.append(
                TouchUp(
                    before + len(made) + 1, OWN, OWN, touch.zone, name, group, touch.at, 0, 0, 0, "", 1, 0, 6, (0, 0), touch.text, "seen by you",
                    touch.text, touch.tool, touch.pile, touch.minutes, touch.dry, "", "now", touch.word, touch.id, False,
                )
            )  # fmt: skip
    return made


def _entry(
    results: Results, project: Project, about: About, one: Candidate, colours: Colours, number: int, from_m: float, by: str,
    done: Sequence[PassPlan], paints: Mapping[int, Paint], moment: datetime,
) -> TouchUp:  # fmt: skip
    part = about.parts[one.part] if one.part >= 0 else None
    beside = about.parts[one.beside].name if one.beside >= 0 else "bare canvas"
    name = about.eyes[one.eye].name if one.eye >= 0 else part.name if part is not None else "the canvas"
    columns, rows = about.size
    crop = project.crop
    at = (crop.x + one.x / columns * crop.width, crop.y + one.y / rows * crop.height)
    paint = paints.get(one.part, Paint("", None))
    pile, neighbour = _piles(results, project, colours)
    place = Place(
        paint.state, paint.thick, False, part is not None and part.hair, pile, neighbour, _way(results, project, one.part, at) if one.kind in ("growth", "smooth") else "",
    )  # fmt: skip
    mend = remedy(
        one.kind, one.rule, one.size, place, radius_mm=min(one.radius_mm, 60.0), planned=one.planned, toward=one.toward
    )
    said = edits.same_touch(project, one.kind, at)
    waits = paint.dry_from if paint.state in ("tacky", "wet") and mend.dry and paint.dry_from is not None else None
    planned_words = (
        f"planned {size_words(_as(one, one.planned))}" if one.kind in ("edge", "lights") and one.planned else ""
    )
    # What the painter noted of its likeness is meant so, until another word is said of the place.
    meant = likeness_of(project, part.name if part is not None else name) if one.kind in OF_LIKENESS else ""
    reason = why(one, planned_words) + (f" · you noted of its likeness: {meant}" if meant else "")
    return TouchUp(
        number, one.kind, one.rule, part.id if part is not None else "", name, part.group if part is not None else "", (round(at[0], 2), round(at[1], 2)),
        one.size, one.doubt, one.planned, one.unit, one.times, one.seen_m, one.radius_mm, one.toward, says(one, name, beside, by), reason,
        mend.text, _tool(done, one.part, mend.tool), pile, mend.minutes, mend.dry, paint.state,
        waits.date().isoformat() if waits is not None and waits > moment else "now",
        said.word if said is not None else "leave" if meant else "", said.id if said is not None else "", one.seen_m < from_m,
    )  # fmt: skip


OF_LIKENESS = ("place", "shape")
"""Kinds of touch-up that a note of likeness decides: where things stand, and their shape."""


def likeness_of(project: Project, part: str) -> str:
    """Return what was noted last of a part's likeness; empty for nothing."""
    noted = [one for one in standing(project.told) if one.kind == "likeness" and one.part == part]
    return (noted[-1].text or "see its picture") if noted else ""


def _tool(done: Sequence[PassPlan], part: int, usual: str) -> str:
    """Return a brush of the painter's kit that serves: that of the last pass on the part, for what is painted with a round or a brush."""
    if "dry" in usual or "old" in usual or "knife" in usual or "clean" in usual:
        return usual
    last = next((plan.brushes[part] for plan in reversed(done) if part in plan.brushes), None)
    return last.brush.words() if last is not None else usual


def colours_about(planned: Planned, one: Candidate) -> Colours:
    """Return the planned colours about a candidate: of its own part, and of what lies beside it, CIELAB; NaN where there is nothing."""
    height, width = planned.labels.shape
    x, y = int(np.clip(one.x, 0, width - 1)), int(np.clip(one.y, 0, height - 1))
    reach = max(2, int(BESIDE_MM * planned.px_per_mm))
    near = (slice(max(0, y - reach), y + reach), slice(max(0, x - reach), x + reach))
    lab, labels = planned.lab[near].reshape(-1, 3), planned.labels[near].reshape(-1)

    def usual(mine: np.ndarray) -> tuple[float, float, float]:
        a, b, c = np.median(mine, axis=0) if len(mine) else (np.nan,) * 3
        return float(a), float(b), float(c)

    return usual(lab[labels == one.part]), usual(lab[labels != one.part])


def _piles(results: Results, project: Project, colours: Colours) -> tuple[str, str]:
    """Return the names of the piles nearest to two colours; empty without a palette, or without the colour."""
    palette, rack = palette_of(results, project), rack_of(results, project)
    if rack is None or not palette.piles:
        return "", ""
    numbers = {pile.key: k for k, pile in enumerate(palette.piles, 1)}
    named = []
    for colour in colours:
        found = nearest_pile(rack, palette, np.array(colour)) if np.isfinite(colour).all() else None
        named.append(f"pile {numbers[found.key]}, {found.name}" if found is not None else "")
    return named[0] or named[1], named[1] or named[0]


def _way(results: Results, project: Project, part: int, at: tuple[float, float]) -> str:
    """Return the growth about a place (reference pixels) in words, root to tip; empty where there is none."""
    field = growth_of(results, project, part) if 0 <= part < len(project.zones) else None
    if field is None:
        return ""
    x, y = field.frame.to_grid(np.array([at]))[0] - (field.column, field.row)
    i, j, r = int(y), int(x), max(1, round(4 / field.frame.cell_mm))
    near = (slice(max(0, i - r), i + r + 1), slice(max(0, j - r), j + r + 1))
    ways = field.direction[near][field.inside[near]]
    if not len(ways):
        return ""
    mean = ways.mean(axis=0)
    return f"root to tip {direction(float(mean[0]), float(mean[1]))}"
