"""What is to be laid into sittings, with all that binds it, and what a plan of it costs."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from graphlib import TopologicalSorter

from foxpath.core.days.tasks import AFTER_PAINT, Relation, Task

PER_SITTING, PER_LOST, PER_MOVED, PER_BROKEN, PER_LATE = 360, 1440, 120, 20_160, 5
"""Minutes of an earlier finish that these are worth: a sitting less, a window kept, a task that stays in its sitting, a hold obeyed,
and a minute less beyond a date."""
HANDED = 0.1
"""What a minute of an earlier hand-over is worth: little, for it waits mostly for rest."""
Piece = tuple[int, int]


@dataclass(frozen=True, slots=True, eq=False)
class Plan:
    """Tasks laid into sittings.

    Attributes
    ----------
    pieces : tuple of tuples of (begin, end)
        For each task, minutes from the start; empty where it found no room.
    lost : frozenset of int
        Relations whose window is lost.
    used : int
        Sittings in which something is done.
    """

    pieces: tuple[tuple[Piece, ...], ...]
    lost: frozenset[int]
    used: int

    @property
    def complete(self) -> bool:
        """Whether every task found room."""
        return all(self.pieces)

    def end(self, index: int) -> float:
        """Return when a task is done; infinite when it found no room."""
        return self.pieces[index][-1][1] if self.pieces[index] else math.inf


@dataclass(eq=False)
class Problem:
    """Tasks, relations and sittings, with what is asked of them again and again.

    Attributes
    ----------
    tasks : sequence of Task
    relations : sequence of Relation
    sittings : sequence of (begin, end)
        Stretches in which paint can be laid, minutes.
    chunk : int
        The least piece worth beginning, minutes.
    start : int
        Nothing is laid before.
    done : mapping of task to pieces (begin, end)
        Places of tasks that are done, and when each was painted.
    within : mapping of task to stretches (begin, end)
        Places of tasks that must lie within one of some stretches: a single one where the painter put them into a sitting.
    was : mapping of task to (begin, end)
        The sittings of the plan before, which a task leaves only for a reason.
    due : mapping of task to minute
        By when it is to be done.
    order : tuple of int
        The places of the tasks, each after all it waits for.

    Raises
    ------
    graphlib.CycleError
        If tasks wait for one another in a ring; those of `derive.days.tasks` never do.
    """

    tasks: Sequence[Task]
    relations: Sequence[Relation]
    sittings: Sequence[Piece]
    chunk: int = 20
    start: int = 0
    done: Mapping[int, tuple[Piece, ...]] = field(default_factory=dict)
    within: Mapping[int, tuple[Piece, ...]] = field(default_factory=dict)
    was: Mapping[int, Piece] = field(default_factory=dict)
    due: Mapping[int, int] = field(default_factory=dict)
    into: list[list[tuple[int, int]]] = field(init=False)
    out: list[list[tuple[int, int]]] = field(init=False)
    low: list[int] = field(init=False)
    high: list[float] = field(init=False)
    order: tuple[int, ...] = field(init=False)
    tails: tuple[float, ...] = field(init=False)
    pressing: frozenset[int] = field(init=False)

    def __post_init__(self) -> None:
        number = {task.id: k for k, task in enumerate(self.tasks)}
        self.into = [[] for _ in self.tasks]
        self.out = [[] for _ in self.tasks]
        for k, one in enumerate(self.relations):
            a, b = number[one.before], number[one.after]
            self.into[b].append((a, k))
            self.out[a].append((b, k))
        self.low = [math.ceil(one.low_h * 60) for one in self.relations]
        self.high = [math.inf if one.high_h is None else math.floor(one.high_h * 60) for one in self.relations]
        before = {i: [j for j, _ in mine] for i, mine in enumerate(self.into)}
        self.order = tuple(TopologicalSorter(before).static_order())
        self.tails = self._tails()
        self.pressing = frozenset(self._before([i for i, mine in self.within.items() if len(mine) == 1]))

    def _tails(self) -> tuple[float, ...]:
        """Return the longest way from each task to the end, its own minutes included."""
        made = [0.0] * len(self.tasks)
        for i in reversed(self.order):
            made[i] = self.tasks[i].minutes + max((self.low[k] + made[j] for j, k in self.out[i]), default=0.0)
        return tuple(made)

    def _before(self, tasks: Sequence[int]) -> set[int]:
        """Return all that must be done before some tasks, and these."""
        found, waiting = set(tasks), list(tasks)
        while waiting:
            for j, _ in self.into[waiting.pop()]:
                if j not in found:
                    found.add(j)
                    waiting.append(j)
        return found

    def finishes(self, plan: Plan) -> dict[str, float]:
        """Return when the last brush stroke of each painting is laid, minutes; varnish does not count, its rest would hide the rest."""
        last: dict[str, float] = {}
        for k, task in enumerate(self.tasks):
            if task.kind not in AFTER_PAINT:
                last[task.painting] = max(last.get(task.painting, 0.0), plan.end(k))
        return last

    def finish(self, plan: Plan) -> float:
        """Return the sum over paintings of the last brush stroke, minutes."""
        return sum(self.finishes(plan).values())

    def broken(self, plan: Plan) -> tuple[int, ...]:
        """Return the places of tasks that lie outside the stretches they must lie within."""
        return tuple(
            k for k, mine in self.within.items()
            if k not in self.done
            and not all(any(a <= x and y <= b for a, b in mine) for x, y in plan.pieces[k] or ((-1, -1),))
        )  # fmt: skip

    def moved(self, plan: Plan) -> tuple[int, ...]:
        """Return the places of tasks that begin in another sitting than in the plan before."""
        return tuple(
            k for k, (a, b) in self.was.items()
            if k not in self.done and not (plan.pieces[k] and a <= plan.pieces[k][0][0] < b)
        )  # fmt: skip

    def late(self, plan: Plan) -> float:
        """Return by how many minutes in all a plan misses its dates; infinite where something found no room."""
        return sum(max(0.0, plan.end(k) - due) for k, due in self.due.items())

    def cost(self, plan: Plan) -> float:
        """Return what a plan costs, minutes: its finish, its sittings, its lost windows, what it moves, breaks and misses."""
        handed = sum(plan.end(k) for k, task in enumerate(self.tasks) if task.kind in AFTER_PAINT)
        return (
            self.finish(plan)
            + HANDED * handed
            + PER_SITTING * plan.used
            + PER_LOST * len(plan.lost)
            + PER_MOVED * len(self.moved(plan))
            + PER_BROKEN * len(self.broken(plan))
            + PER_LATE * self.late(plan)
        )

    def sitting_of(self, moment: int) -> Piece | None:
        """Return the sitting in which a minute lies; None for none."""
        return next(((a, b) for a, b in self.sittings if a <= moment < b), None)
