"""Strands: when the paint of each area is wet, tacky and dry, over the weeks; a few areas at a time, always in the same order."""

from collections.abc import Sequence
from dataclasses import dataclass

from foxpath.core.days.problem import Plan
from foxpath.core.passes import ZoneFacts
from foxpath.derive.days.plan import Layout
from foxpath.document.model import Project

MOST = 5
Span = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Strand:
    """An area and its paint.

    Attributes
    ----------
    name : str
    zones : tuple of int
        Counted back to front.
    wet, tacky : tuple of (begin, end)
        Minutes from the start; by the likely times.
    """

    name: str
    zones: tuple[int, ...]
    wet: tuple[Span, ...]
    tacky: tuple[Span, ...]


def groups_of(project: Project, facts: Sequence[ZoneFacts], zones: Sequence[int]) -> list[tuple[str, tuple[int, ...]]]:
    """Gather parts into a few areas: the background, the eyes, and the others from back to front, about as large as each other."""
    names = [one.name for one in project.back_to_front()]
    kinds = [one.kind_of().key for one in project.back_to_front()]
    if len(zones) <= MOST:
        return [(names[k], (k,)) for k in zones]
    grounds = [k for k in zones if project.back_to_front()[k].whole or kinds[k] == "background"]
    eyes = [k for k in zones if kinds[k] == "eye"]
    rest = [k for k in zones if k not in grounds and k not in eyes]
    made: list[tuple[str, tuple[int, ...]]] = []
    if grounds:
        made.append(("Background" if len(grounds) > 1 else names[grounds[0]], tuple(grounds)))
    room = MOST - len(made) - bool(eyes)
    whole = sum(facts[k].area_cm2 for k in rest)
    part: list[int] = []
    parts: list[list[int]] = []
    done = 0.0
    for number, k in enumerate(rest):
        part.append(k)
        done += facts[k].area_cm2
        left = len(rest) - number - 1
        if len(parts) < room - 1 and (done >= whole * (len(parts) + 1) / room or left <= room - 1 - len(parts)):
            parts.append(part)
            part = []
    if part:
        parts.append(part)
    for one in parts:
        largest = max(one, key=lambda k: facts[k].area_cm2)
        made.append((names[largest] + (f", {len(one) - 1} more" if len(one) > 1 else ""), tuple(one)))
    if eyes:
        made.append(("Eyes" if len(eyes) > 1 else names[eyes[0]], tuple(eyes)))
    return made


def strand_of(layout: Layout, plan: Plan, name: str, zones: Sequence[int]) -> Strand:
    """Return the strand of some parts."""
    work, problem, mine = layout.works[0], layout.problem, set(zones)
    wet, tacky = [], []
    for k, task in enumerate(problem.tasks):
        layer = work.layers.get(task.id)
        if layer is None or not plan.pieces[k] or not mine & set(work.zones.get(task.id, ())):
            continue
        laid = plan.pieces[k][-1][1]
        wet.append((float(plan.pieces[k][0][0]), laid + 60 * layer.times.open))
        tacky.append((float(plan.pieces[k][0][0]), laid + 60 * layer.times.touch))
    joined = _joined(wet)
    return Strand(name, tuple(zones), joined, _less(_joined(tacky), joined))


def strands_of(project: Project, facts: Sequence[ZoneFacts], layout: Layout, plan: Plan) -> tuple[Strand, ...]:
    """Return a strand for each of a few areas, back to front."""
    painted = sorted({zone for task, zones in layout.works[0].zones.items() for zone in zones})
    return tuple(strand_of(layout, plan, name, zones) for name, zones in groups_of(project, facts, painted))


def _joined(spans: Sequence[Span]) -> tuple[Span, ...]:
    made: list[Span] = []
    for a, b in sorted(spans):
        if made and a <= made[-1][1]:
            made[-1] = (made[-1][0], max(made[-1][1], b))
        else:
            made.append((a, b))
    return tuple(made)


def _less(spans: Sequence[Span], others: Sequence[Span]) -> tuple[Span, ...]:
    made = list(spans)
    for c, d in others:
        made = [
            piece
            for a, b in made
            for piece in ([(a, b)] if d <= a or c >= b else [(a, min(b, c)), (max(a, d), b)])
            if piece[1] > piece[0]
        ]
    return tuple(made)
