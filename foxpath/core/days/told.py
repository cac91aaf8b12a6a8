"""What a painting tells the painter's other paintings of its work, so that they can be planned together without being opened."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from graphlib import CycleError, TopologicalSorter

from foxpath.core.days.calendar import Interval
from foxpath.core.days.studio import Laid, day_of, moment_of
from foxpath.core.days.tasks import AFTER_PAINT, KINDS, Relation, Task

MOST_TASKS, MOST_RELATIONS, MOST_MINUTES, MOST_HOURS = 2000, 20_000, 10_000, 20_000


@dataclass(frozen=True, slots=True)
class Told:
    """The work of a painting as it was last told.

    Attributes
    ----------
    painting : str
    tasks : tuple of Task
    relations : tuple of Relation
    done, begun, plan, holds : tuple of Laid
        As in `Days`.
    deadline : str
        The day it is handed over; empty for none.
    offered : tuple of Laid
        A plan that was laid beside another painting, and that this one has not taken yet.
    group : tuple of str
        The paintings it was laid together with, that one first; empty without an offer.
    """

    painting: str
    tasks: tuple[Task, ...] = ()
    relations: tuple[Relation, ...] = ()
    done: tuple[Laid, ...] = ()
    begun: tuple[Laid, ...] = ()
    plan: tuple[Laid, ...] = ()
    holds: tuple[Laid, ...] = ()
    deadline: str = ""
    offered: tuple[Laid, ...] = ()
    group: tuple[str, ...] = ()

    @property
    def by(self) -> str:
        """The painting beside which a plan was laid that is offered; empty without an offer."""
        return self.group[0] if self.offered and self.group else ""

    @property
    def left_min(self) -> int:
        """Minutes that are left to be painted, what comes after the last stroke not counted."""
        done = {one.task for one in self.done}
        return sum(one.minutes for one in self.tasks if one.key not in done and one.kind not in AFTER_PAINT)

    def times(self) -> list[Interval]:
        """Return when its plan, or the one that is offered, is painted."""
        return [
            (a, b)
            for one in self.offered or self.plan
            if (a := moment_of(one.begin)) is not None and (b := moment_of(one.end)) is not None
        ]


def sound_told(told: Told) -> Told | None:
    """Return what a file told without what cannot be; None where its tasks are none, or wait for one another in a ring."""
    ids = [one.id for one in told.tasks]
    known = set(ids)
    if (
        not told.painting
        or not 0 < len(ids) <= MOST_TASKS
        or len(known) < len(ids)
        or not all(one.painting == told.painting and one.id == f"{told.painting}:{one.key}" for one in told.tasks)
        or not all(1 <= one.minutes <= MOST_MINUTES for one in told.tasks)
    ):
        return None
    relations = tuple(one for one in told.relations[:MOST_RELATIONS] if _sound(one, known))
    before: dict[str, set[str]] = {}
    for one in relations:
        before.setdefault(one.after, set()).add(one.before)
    try:
        TopologicalSorter(before).prepare()
    except CycleError:
        return None
    return replace(
        told, relations=relations, done=_laid(told.done), begun=_laid(told.begun), plan=_laid(told.plan), holds=_laid(told.holds),
        offered=_laid(told.offered), deadline=told.deadline if day_of(told.deadline) is not None else "",
    )  # fmt: skip


def _sound(one: Relation, known: set[str]) -> bool:
    high = math.inf if one.high_h is None else one.high_h
    return (
        one.before in known
        and one.after in known
        and one.before != one.after
        and one.kind in KINDS
        and 0 <= one.low_h <= MOST_HOURS
        and high >= one.low_h
        and 0 <= one.extra_min <= MOST_MINUTES
    )


def _laid(rows: Sequence[Laid]) -> tuple[Laid, ...]:
    return tuple(one for one in rows if (a := moment_of(one.begin)) and (b := moment_of(one.end)) and a < b)
