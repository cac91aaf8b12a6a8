"""Lay tasks into sittings: a list schedule, there in a millisecond.

Sitting by sitting, of what is ready that task comes first whose window closes first, else the one with the longest way to the end. A
task whose wet followers would not fit is not begun (the stop rule); after some sittings without room its window is given up.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from foxpath.core.days.problem import Plan, Problem


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


class _Desk:
    """The state of a list schedule while it is made."""

    def __init__(
        self,
        problem: Problem,
        hand: Hand,
        low: Sequence[int],
        high: Sequence[float],
        minutes: Sequence[int],
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
        self.earliest = {i: self._from(i, float(problem.start)) for i in self.ready}

    def sit(self, a: int, b: int, following: float) -> None:
        """Fill one sitting."""
        chunk, t, worked = self.of.chunk, float(a), False
        if self.hand.worth and not self._worth_it(a):
            self._wait(a)
            return
        while self.ready:
            best = self._next(t, b, following)
            if best < 0:
                coming = [(self._from(i, max(t, self.earliest[i])), i) for i in self.ready]
                later = [at for at, i in coming if t < at <= b - min(self.left[i], chunk)]
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

    def _from(self, i: int, moment: float) -> float:
        """Return when a task may begin that is ready at a moment: what must lie within stretches waits for the next, and no longer than the last."""
        mine = self.of.within.get(i)
        return moment if mine is None else min((max(moment, float(a)) for a, b in mine if b > moment), default=moment)

    def _worth_it(self, a: int) -> bool:
        here = [i for i in self.ready if self.earliest[i] <= a]
        pressing = any(
            self.stuck[i] > 2 or i in self.of.pressing or any(self.high[k] < math.inf for _, k in self.of.into[i])
            for i in here
        )
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
            if self.earliest[i] > t or self._from(i, t) > t:
                continue
            closing = min(
                (self.began[j] + self.high[k] for j, k in self.of.into[i]
                 if self.high[k] < math.inf and self.began[j] + self.high[k] >= t + self.left[i]),
                default=math.inf,
            )  # fmt: skip
            mine = self.of.within.get(i, ())
            if len(mine) == 1 and t < mine[0][1]:
                # What was put into this stretch is as pressing as a window that closes with it.
                closing = min(closing, mine[0][1])
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
                ready = max(float(self.end[p] or 0) + self.low[q] for p, q in self.of.into[j])
                self.earliest[j] = self._from(j, max(ready, float(self.of.start)))

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
) -> Plan:
    """Make a list schedule.

    Parameters
    ----------
    problem : Problem
    hand : Hand
    low, high, minutes : sequence, optional
        Lags and durations in place of the problem's own: for a forecast.
    """
    desk = _Desk(
        problem,
        hand,
        low if low is not None else problem.low,
        high if high is not None else problem.high,
        minutes if minutes is not None else [task.minutes for task in problem.tasks],
    )
    for i, pieces in sorted(problem.done.items(), key=lambda one: one[1][-1]):
        desk.pieces[i] = [[a, b] for a, b in pieces]
        desk.finished(i, *pieces[-1])
        desk.lost |= {
            k
            for j, k in problem.into[i]
            if j in problem.done and pieces[-1][1] > problem.done[j][-1][0] + problem.high[k]
        }
    for number, (a, b) in enumerate(problem.sittings):
        if not desk.ready:
            break
        if a < problem.start or number in hand.skip:
            continue
        following = problem.sittings[number + 1][0] if number + 1 < len(problem.sittings) else math.inf
        desk.sit(a, b, following)
    return desk.plan()
