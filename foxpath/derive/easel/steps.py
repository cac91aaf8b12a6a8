"""The steps of a sitting, one part at a time: with what, which pile, which way, how long, which edges, how far."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from foxpath.core.mixes.words import names_of, parts_words
from foxpath.core.passes import PassPlan
from foxpath.core.passes.cards import HANDLED, CardFacts, veil_steps
from foxpath.core.passes.words import value_words
from foxpath.core.units import mm_words, percent
from foxpath.derive.days.plan import Planned
from foxpath.derive.days.sitting import Sitting
from foxpath.derive.days.sitting import Step as DayStep
from foxpath.derive.days.tasks import STEP_GROUPS, TOUCH, touch_key
from foxpath.derive.eyes.homes import eyes_in
from foxpath.derive.eyes.reading import eye_plan
from foxpath.derive.mixes.palette import palette_of, rack_of
from foxpath.derive.mixes.ready import ready_for
from foxpath.derive.passes.cards import card_facts, kept_off
from foxpath.derive.passes.laying import laying_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

MOST_PILES = 3
PAINTS = ("paint", "edge", "blend")
FINE_ACTS = ("lights", "highlights", "whiskers")
"""Passes of fine brushes: before them one look says whether the masses are ready."""
PREPARES = {
    "Support": "Stretch or glue it, size it, and let it rest.",
    "Ground coat": "One thin coat, all one way.",
    "Second coat": "Across the first, thin.",
    "Sanding": "Wet, until the back of a nail feels no grain. No dry dust.",
    "Drawing": "Set the drawing, check the eyes and the corners, and leave it alone.",
    "Piles": "Mix the piles in their order, darkest and mother mix first.",
}
LOOKS = {
    "Rest and look": "Fresh eyes: squint, mirror it, and write down what jumps out. Mend nothing today.",
    "Photograph": "By daylight, square on, with a grey card at its edge.",
    "Touch-ups": "What your list says, the most disturbing first. Stop where a step back shows nothing more.",
    "Varnish": "Touch the slowest places first. Only where all is dry: thin, even, dust-free. The label comes first.",
    "Hand-over": "Sign it, photograph it, and tell how to hang and dust it.",
}
WHOLE = "the whole canvas"


@dataclass(frozen=True, slots=True)
class Pile:
    """A pile of a step: its number, name, CIELAB and recipe in words."""

    number: int
    name: str
    lab: tuple[float, float, float]
    recipe: str


@dataclass(frozen=True, slots=True)
class EaselStep:
    """One thing to do.

    Attributes
    ----------
    key : str
        Of the task, and of the part within it.
    task : str
        Key of the task of the days.
    number : int
        Place of the task in the plan's problem.
    act, part : str
    zone : int
        Counted back to front; -1 for the whole canvas.
    how : str
        What to do, in a sentence.
    tool, hold : str
        The brush, and how it is held, loaded and pressed.
    mark_mm, length_mm : float
        Width and length of its marks; 0 where they have none.
    way : str
        In which direction, root to tip.
    piles : tuple of Pile
    far : str
        How much of the part, and what to leave.
    edges : tuple of str
        To be made now.
    wet : str
        What must still be wet, or tacky.
    minutes : float
    gate : str
        What must be true before it is begun; empty for nothing.
    last : bool
        Its task is finished with it.
    """

    key: str
    task: str
    number: int
    act: str
    part: str
    zone: int
    how: str
    tool: str = ""
    hold: str = ""
    mark_mm: float = 0.0
    length_mm: float = 0.0
    way: str = ""
    piles: tuple[Pile, ...] = ()
    far: str = ""
    edges: tuple[str, ...] = ()
    wet: str = ""
    minutes: float = 0.0
    gate: str = ""
    last: bool = True


def steps_of(results: Results, project: Project, planned: Planned, sitting: Sitting) -> tuple[EaselStep, ...]:
    """Return the steps of a sitting in the order of the days; parts in laying order, eyes step by step."""
    passes = {one.role.key: one for one in passes_of(results, project)}
    work = planned.layout.works[0]
    made: list[EaselStep] = []
    for day in sitting.steps:
        task = planned.layout.problem.tasks[day.task]
        if task.id not in work.zones:
            continue
        plan, zones = passes.get(work.roles[task.id]), work.zones[task.id]
        if task.key.startswith(TOUCH):
            made.append(_touch_up(project, day, task.key, work.zones[task.id]))
        elif task.kind == "eye":
            made += _eye(results, project, day, task.key)
        elif task.kind in PAINTS and plan is not None and zones:
            made += _parts(results, project, plan, day, task.key, task.kind, zones)
        else:
            made.append(_whole(results, project, plan, day, task.key))
    return tuple(made)


def _whole(results: Results, project: Project, plan: PassPlan | None, day: DayStep, key: str) -> EaselStep:
    """Return a step of the whole canvas, or of no paint at all."""
    how = PREPARES.get(day.part) or LOOKS.get(day.act) or PREPARES.get(day.act, "")
    tool = ""
    piles: tuple[Pile, ...] = ()
    if plan is not None:
        how = f"Crossing strokes, thin, {value_words(plan.l_low, plan.l_high)}; let it dry."
        tool = next((one.brush.words() for one in plan.brushes.values()), "the broadest brush")
        piles = _piles(results, project, plan.role.key, None)
    return EaselStep(
        key, key, day.task, day.act, day.part, -1, how, tool, piles=piles, wet=day.note, minutes=day.minutes, last=day.whole
    )  # fmt: skip


def _parts(
    results: Results, project: Project, plan: PassPlan, day: DayStep, key: str, kind: str, zones: Sequence[int]
) -> list[EaselStep]:
    order = {index: k for k, index in enumerate(laying_of(results, project).order)}
    mine = sorted(zones, key=lambda k: order.get(k, 0))
    if kind == "edge":
        # A border is one step, on the part whose hair hangs over it.
        mine = [zones[0]]
    shares = [plan.estimates[k].minutes if k in plan.estimates else 1.0 for k in mine]
    whole, off = sum(shares) or 1.0, kept_off(results, project, plan)
    made = []
    for number, (zone, share) in enumerate(zip(mine, shares, strict=True)):
        facts = card_facts(results, project, plan, zone) if plan.role.veil is None else None
        last = number == len(mine) - 1
        step = _part(results, project, plan, day, key, zone, facts, day.minutes * share / whole)
        if zone in off and kind == "paint":
            step = replace(step, far="; ".join(one for one in (step.far, off[zone]) if one))
        if kind == "edge":
            edges = step.edges or ("drag it with a clean dry brush, both sides open",)
            step = EaselStep(
                f"{key}/edge", key, day.task, day.act, day.part, zone, "Drag the border while both sides are open.", step.tool, step.hold,
                step.mark_mm, 0.0, "", step.piles, "", edges, day.note, day.minutes, "", day.whole,
            )  # fmt: skip
        elif kind == "blend":
            step = EaselStep(
                f"{key}/{zone}", key, day.task, day.act, step.part, zone, "Blend it crosswise until no stroke shows.", step.tool, step.hold,
                wet=day.note, minutes=day.minutes * share / whole, last=day.whole and last,
            )  # fmt: skip
        elif not (day.whole and last):
            step = replace(step, last=False)
        if number == 0 and plan.role.act in FINE_ACTS and kind == "paint":
            step = replace(step, gate=_gate(plan))
        made.append(step)
    return made


def _touch_up(project: Project, day: DayStep, key: str, zones: Sequence[int]) -> EaselStep:
    """Return the step of a touch-up, as the list has it."""
    touch = next((one for one in project.touches if touch_key(one.id) == key), None)
    zone = zones[0] if zones else -1
    if touch is None:
        return EaselStep(
            key, key, day.task, day.act, day.part, zone, LOOKS["Touch-ups"], minutes=day.minutes, last=day.whole
        )
    far = f"pile: {touch.pile.removeprefix('pile ')}" if touch.pile else ""
    return EaselStep(
        f"{key}/touch", key, day.task, day.act, day.part, zone, touch.text, touch.tool, far=far,
        wet=day.note or ("on dry paint" if touch.dry else ""), minutes=day.minutes, last=day.whole,
    )  # fmt: skip


def _gate(plan: PassPlan) -> str:
    beneath = {"wet": "still wet", "tacky": "tacky", "touch-dry": "touch-dry"}.get(plan.role.beneath, plan.role.beneath)
    return f"All is covered, the masses are even, and what lies beneath is {beneath}: one look before the fine brush."


def _part(
    results: Results, project: Project, plan: PassPlan, day: DayStep, key: str, zone: int, facts: CardFacts | None, minutes: float
) -> EaselStep:  # fmt: skip
    name = project.back_to_front()[zone].name
    choice = plan.brushes.get(zone)
    hold = ""
    if choice is not None:
        load = {"full": "loaded full", "wiped": "wiped", "nearly dry": "nearly dry"}.get(choice.load, choice.load)
        held = {"flat": "flat side", "edge": "on its edge", "corner": "its corner", "tip": "its tip"}.get(
            choice.hold, ""
        )
        hold = ", ".join(one for one in (held, load, choice.pressure) if one)
    if plan.role.veil is not None:
        said = ", ".join(veil_steps(plan.role.veil))
        return EaselStep(
            f"{key}/{zone}", key, day.task, day.act, name, zone, f"{said[:1].upper()}{said[1:]}.",
            choice.brush.words() if choice is not None else "a soft brush", hold, wet=day.note or "all beneath is touch-dry", minutes=minutes,
            piles=_piles(results, project, plan.role.key, zone), far="Hair and markings run on beneath: even it out, and stop.",
        )  # fmt: skip
    if facts is None:
        return EaselStep(
            f"{key}/{zone}", key, day.task, day.act, name, zone, "A few strokes only, where its colour is seen.",
            choice.brush.words() if choice is not None else "", hold, minutes=minutes, wet=day.note,
            piles=_piles(results, project, plan.role.key, zone),
        )  # fmt: skip
    least, most = facts.length_mm
    how = value_words(facts.low, facts.high)
    if plan.role.handling in HANDLED:
        how += f", {HANDLED[plan.role.handling]}"
    if facts.spread_deg >= 3:
        how += f", cross them by {facts.spread_deg:.0f}°"
    if facts.more:
        how += f"; {'; '.join(facts.more)}"
    far = ""
    if plan.role.belongs < 0.5 and facts.light_share < 0.5:
        far = f"only on {percent(max(facts.light_share, 0.01))} of it, leave the rest alone"
    elif facts.dark_share >= 0.12 and not plan.role.block_in:
        far = f"leave the folds dark, {percent(facts.dark_share)} of it"
    return EaselStep(
        f"{key}/{zone}", key, day.task, day.act, name, zone, f"{how[:1].upper()}{how[1:]}.",
        choice.brush.words() if choice is not None else "no brush of your kit fits", hold, facts.mark_mm, (least + most) / 2, facts.way,
        _piles(results, project, plan.role.key, zone), far, facts.edges, day.note, minutes,
    )  # fmt: skip


def _piles(results: Results, project: Project, role: str, zone: int | None) -> tuple[Pile, ...]:
    palette, rack = palette_of(results, project), rack_of(results, project)
    if rack is None:
        return ()
    names = names_of(rack.tubes)
    made = []
    for one in ready_for(palette, role, zone)[:MOST_PILES]:
        pile = palette.pile(one.key)
        recipe = parts_words(pile.recipe.parts, names) if pile is not None else ""
        made.append(Pile(one.number, one.name, one.lab, recipe))
    return tuple(made)


def _eye(results: Results, project: Project, day: DayStep, key: str) -> list[EaselStep]:
    """Return the steps of an eye that belong to a task, singly."""
    eye_id, group = key.removeprefix("eye.").rsplit(".", 1)
    words = next((words for name, _, words in STEP_GROUPS if name == group), ())
    made: list[EaselStep] = []
    for zone in range(len(project.zones)):
        for eye in eyes_in(results, project, zone):
            if eye.id != eye_id:
                continue
            steps = [
                one for one in eye_plan(results, project, eye).steps
                if one.painted and any(word in one.name.lower() for word in words)
            ]  # fmt: skip
            whole = sum(one.minutes for one in steps) or 1.0
            for number, one in enumerate(steps):
                tool = one.brush.words() if one.brush is not None else "your finest brush"
                made.append(
                    EaselStep(
                        f"{key}/{one.key}", key, day.task, one.name, eye.name or project.back_to_front()[zone].name, zone,
                        one.how, tool, "its tip", one.width_mm, far=value_words(one.l_low, one.l_high),
                        wet=day.note or f"over {one.wetness}", minutes=day.minutes * one.minutes / whole,
                        last=day.whole and number == len(steps) - 1,
                    )
                )  # fmt: skip
    if not made:
        made.append(
            EaselStep(key, key, day.task, day.act, day.part, -1, "", wet=day.note, minutes=day.minutes, last=day.whole)
        )
    return made


def life_size(step: EaselStep) -> str:
    """Say how long and wide a step's marks are, on the canvas."""
    if step.length_mm <= 0 and step.mark_mm <= 0:
        return ""
    if step.length_mm <= 0:
        return f"marks {mm_words(step.mark_mm)} wide"
    return f"marks {mm_words(step.length_mm)}, {mm_words(step.mark_mm)} wide"
