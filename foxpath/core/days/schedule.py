"""Lay tasks into sittings: a list schedule that is there at once, and a search over its priorities that betters it.

Sitting by sitting, of what is ready that task comes first whose window closes first, else the one with the longest way to the end. A
task whose wet followers would not fit is not begun (the stop rule); after some sittings without room its window is given up. The search changes priorities
and leaves sittings out (random keys; Bean 1994, doi:10.1287/ijoc.6.2.154), and keeps what is no worse, at first a little worse too (annealing).
"""

import math
import time
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from foxpath.core.days.tasks import AFTER_PAINT, Relation, Task

PER_SITTING, PER_LOST = 360, 1440
"""Minutes of an earlier finish that a sitting less, and a window kept, are worth."""
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


@dataclass(frozen=True, slots=True)
class Hand:
    """How a list schedule is made.

    Attributes
    ----------
    keys : tuple of float
        Priority of each task, larger first.
    worth : int
        Minutes that must be ready to open a sitting.
    hold : int
        Sittings a task waits for room for what must follow it wet.
    skip : frozenset of int
        Sittings left out.
    """

    keys: tuple[float, ...]
    worth: int = 0
    hold: int = 3
    skip: frozenset[int] = frozenset()


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
    """

    tasks: Sequence[Task]
    relations: Sequence[Relation]
    sittings: Sequence[Piece]
    chunk: int = 20
    into: list[list[tuple[int, int]]] = field(init=False)
    out: list[list[tuple[int, int]]] = field(init=False)
    low: list[int] = field(init=False)
    high: list[float] = field(init=False)
    tails: tuple[float, ...] = field(init=False)

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
        self.tails = self._tails()

    def _tails(self) -> tuple[float, ...]:
        """Return the longest way from each task to the end, its own minutes included."""
        made: dict[int, float] = {}

        def tail(i: int) -> float:
            if i not in made:
                made[i] = self.tasks[i].minutes + max((self.low[k] + tail(j) for j, k in self.out[i]), default=0.0)
            return made[i]

        # From the back, so that no recursion runs deep.
        for i in reversed(range(len(self.tasks))):
            tail(i)
        return tuple(made[i] for i in range(len(self.tasks)))

    def finish(self, plan: Plan) -> float:
        """Return the sum over paintings of the last brush stroke, minutes; varnish does not count, its rest would hide the rest."""
        last: dict[str, float] = {}
        for k, task in enumerate(self.tasks):
            if task.kind not in AFTER_PAINT:
                last[task.painting] = max(last.get(task.painting, 0.0), plan.end(k))
        return sum(last.values())

    def cost(self, plan: Plan) -> float:
        """Return what a plan costs, minutes: its finish, its sittings, its lost windows."""
        return self.finish(plan) + PER_SITTING * plan.used + PER_LOST * len(plan.lost)


class _Desk:
    """The state of a list schedule while it is made."""

    def __init__(
        self,
        problem: Problem,
        hand: Hand,
        low: Sequence[int],
        high: Sequence[float],
        minutes: Sequence[int],
        start: int,
    ) -> None:
        self.of, self.hand, self.low, self.high = problem, hand, low, high
        count = len(problem.tasks)
        self.left = list(minutes)
        self.end: list[float | None] = [None] * count
        self.began = [0] * count
        self.pieces: list[list[list[int]]] = [[] for _ in range(count)]
        self.waiting = [len({j for j, _ in problem.into[i]}) for i in range(count)]
        self.stuck = [0] * count
        self.lost: set[int] = set()
        self.used = 0
        self.ready = {i for i in range(count) if not self.waiting[i]}
        self.earliest = dict.fromkeys(self.ready, float(start))

    def sit(self, a: int, b: int, following: float) -> None:
        """Fill one sitting."""
        chunk, t, worked = self.of.chunk, float(a), False
        if self.hand.worth and not self._worth_it(a):
            self._wait(a)
            return
        while self.ready:
            best = self._next(t, b, following)
            if best < 0:
                later = [self.earliest[i] for i in self.ready if t < self.earliest[i] <= b - min(self.left[i], chunk)]
                if not later:
                    break
                t = min(later)
                continue
            self._lose(best, t)
            size = min(self.left[best], int(b - t))
            if 0 < self.left[best] - size < chunk:
                # No crumb may be left for another day.
                size = self.left[best] - chunk
            if size < min(chunk, self.left[best]):
                self.stuck[best] += 1
                self.earliest[best] = b
                continue
            self._lay(best, int(t), size)
            t += size
            worked = True
        self._wait(a)
        self.used += worked

    def _worth_it(self, a: int) -> bool:
        here = [i for i in self.ready if self.earliest[i] <= a]
        pressing = any(self.stuck[i] > 2 or any(self.high[k] < math.inf for _, k in self.of.into[i]) for i in here)
        return pressing or sum(self.left[i] for i in here) >= self.hand.worth

    def _wait(self, a: int) -> None:
        for i in self.ready:
            if self.earliest[i] <= a:
                self.stuck[i] += 1

    def _next(self, t: float, b: int, following: float) -> int:
        """Return the task to do now: whose window closes first, else with the longest way; -1 when none may begin."""
        best, best_key = -1, (math.inf, math.inf)
        chunk = self.of.chunk
        for i in sorted(self.ready):
            if self.earliest[i] > t:
                continue
            closing = min(
                (self.began[j] + self.high[k] for j, k in self.of.into[i]
                 if self.high[k] < math.inf and self.began[j] + self.high[k] >= t + self.left[i]),
                default=math.inf,
            )  # fmt: skip
            need = self.left[i]
            for j, k in self.of.out[i]:
                # The stop rule: what must follow while this is open must fit too.
                if self.high[k] < math.inf and t + self.left[i] + self.high[k] < following + self.left[j]:
                    need += self.left[j]
            room = b - t
            split = self.left[i] >= 2 * chunk and room >= chunk
            alone = need == self.left[i]
            given_up = self.stuck[i] >= self.hand.hold and (self.left[i] <= room or split)
            if need > room and not (alone and split) and not given_up:
                # After some sittings without room the window is given up.
                continue
            key = (closing, -self.hand.keys[i])
            if best < 0 or key < best_key:
                best, best_key = i, key
        return best

    def _lose(self, i: int, t: float) -> None:
        """Give up windows that this task no longer meets; asked again at every piece, for a split may have run past one."""
        for j, k in self.of.into[i]:
            if k not in self.lost and t + self.left[i] > self.began[j] + self.high[k]:
                self.lost.add(k)
                self.left[i] += self.of.relations[k].extra_min

    def _lay(self, i: int, t: int, size: int) -> None:
        if self.pieces[i] and self.pieces[i][-1][1] == t:
            self.pieces[i][-1][1] = t + size
        else:
            self.pieces[i].append([t, t + size])
        self.left[i] -= size
        if self.left[i] > 0:
            return
        self.finished(i, self.pieces[i][-1][0], t + size)

    def finished(self, i: int, began: int, end: int) -> None:
        """Note that a task is done; what waited for it alone is ready."""
        self.end[i], self.began[i] = end, began
        self.ready.discard(i)
        for j in {j for j, _ in self.of.out[i]}:
            self.waiting[j] -= 1
            if not self.waiting[j] and self.end[j] is None:
                self.ready.add(j)
                self.earliest[j] = max(float(self.end[p] or 0) + self.low[q] for p, q in self.of.into[j])

    def plan(self) -> Plan:
        """Return what was laid."""
        done = tuple(
            tuple((a, b) for a, b in pieces) if self.end[i] is not None else () for i, pieces in enumerate(self.pieces)
        )
        return Plan(done, frozenset(self.lost), self.used)


def dispatch(
    problem: Problem,
    hand: Hand,
    *,
    low: Sequence[int] | None = None,
    high: Sequence[float] | None = None,
    minutes: Sequence[int] | None = None,
    start: int = 0,
    done: Mapping[int, Piece] | None = None,
) -> Plan:
    """Make a list schedule.

    Parameters
    ----------
    problem : Problem
    hand : Hand
    low, high, minutes : sequence, optional
        Lags and durations in place of the problem's own: for a forecast.
    start : int
        Nothing is laid before.
    done : mapping of task to (begin, end)
        Tasks that are done already, with their last piece.
    """
    desk = _Desk(
        problem,
        hand,
        low if low is not None else problem.low,
        high if high is not None else problem.high,
        minutes if minutes is not None else [task.minutes for task in problem.tasks],
        start,
    )
    for i, (begin, end) in sorted((done or {}).items(), key=lambda one: one[1]):
        desk.pieces[i] = [[begin, end]]
        desk.finished(i, begin, end)
    for number, (a, b) in enumerate(problem.sittings):
        if not desk.ready:
            break
        if a < start or number in hand.skip:
            continue
        following = problem.sittings[number + 1][0] if number + 1 < len(problem.sittings) else math.inf
        desk.sit(a, b, following)
    return desk.plan()


def at_once(problem: Problem, runs: int = 30, seed: int = 0, **given: Any) -> tuple[Plan, Hand]:
    """Return the best of some list schedules with shaken priorities: the plan that is shown at once."""
    rng = np.random.default_rng(seed)
    tries = []
    for k in range(max(1, runs // 6)):
        keys = tuple(t * (1 + (0.3 * rng.uniform(-1, 1) if k else 0.0)) for t in problem.tails)
        tries += [Hand(keys, worth, hold) for worth in (0, 30, 60) for hold in (0, 3)]
    made = [(dispatch(problem, hand, **given), hand) for hand in tries]
    return min(made, key=lambda one: problem.cost(one[0]))


def better(
    problem: Problem,
    first: tuple[Plan, Hand],
    seconds: float,
    seed: int = 0,
    shown: Callable[[Plan], None] = lambda _: None,
    **given: Any,
) -> tuple[Plan, Hand]:
    """Search for a better plan for some seconds; each better one is shown at once.

    Parameters
    ----------
    problem : Problem
    first : (Plan, Hand)
        From `at_once`.
    seconds : float
    seed : int
    shown : callable
        Gets every better plan; may raise to give up.
    """
    rng, begin = np.random.default_rng(seed), time.perf_counter()
    now, hand = first
    best, best_hand = first
    value = best_value = problem.cost(now)
    count = len(problem.tasks)
    while count and (spent := time.perf_counter() - begin) < seconds:
        tried = _shaken(hand, rng, count, len(problem.sittings))
        plan = dispatch(problem, tried, **given)
        cost = problem.cost(plan)
        heat = 300 * (1 - spent / seconds) + 1
        if cost <= value or (math.isfinite(cost) and rng.random() < math.exp((value - cost) / heat)):
            now, hand, value = plan, tried, cost
            if cost < best_value:
                best, best_hand, best_value = plan, tried, cost
                shown(plan)
    return best, best_hand


def _shaken(hand: Hand, rng: np.random.Generator, tasks: int, sittings: int) -> Hand:
    keys, skip, move = list(hand.keys), set(hand.skip), rng.random()
    worth, hold = hand.worth, hand.hold
    if move < 0.5:
        for at in rng.integers(tasks, size=int(rng.choice((1, 1, 2, 4)))):
            keys[at] *= math.exp(rng.normal(0, 0.5))
    elif move < 0.75:
        a, b = (int(k) for k in rng.integers(tasks, size=2))
        keys[a], keys[b] = keys[b], keys[a]
    elif move < 0.95 and sittings:
        skip ^= {int(rng.integers(sittings))}
    else:
        worth, hold = int(rng.choice((0, 20, 30, 45, 60))), int(rng.choice((0, 1, 3)))
    return Hand(tuple(keys), worth, hold, frozenset(skip))
