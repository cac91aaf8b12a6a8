"""Better a plan by constraint programming: CP-SAT of OR-Tools, started from the plan it is to better.

Chunks of tasks are intervals that start in a sitting; one rule keeps them apart, and an interval as long as a sitting fills each that is not
used. The plan at hand is given as a complete hint and cuts the domains: without both the solver finds nothing in time. The library is slow
to load and is loaded here, when it is needed.
"""

import importlib.util
import math
import threading
from collections.abc import Callable, Mapping, Sequence
from collections.abc import Set as AbstractSet
from typing import Any

from foxpath.core.days.problem import HANDED, PER_LATE, PER_LOST, PER_MOVED, PER_SITTING, Piece, Plan, Problem
from foxpath.core.days.tasks import AFTER_PAINT

LONGEST_CHUNK = 30
"""Minutes; longer chunks give worse plans, shorter ones slower ones."""
SLACK_D = 2.0
"""No painting may end so many days later than it does in the plan at hand."""
BREAK_MIN = 60
"""Sittings no further apart are parts of one evening: a task must not run through the break."""
_POLL_S = 0.05


def installed() -> bool:
    """Tell whether the solver is there."""
    return importlib.util.find_spec("ortools") is not None


def improve(
    problem: Problem,
    plan: Plan,
    seconds: float,
    *,
    near: int = 0,
    seed: int = 1,
    workers: int = 2,
    shown: Callable[[Plan], None] = lambda _: None,
    at: Callable[[float], None] = lambda _: None,
) -> Plan | None:
    """Return the best plan found within some seconds, which may be no better; None when none was found.

    Parameters
    ----------
    problem : Problem
    plan : Plan
        Complete.
    seconds : float
    near : int
        Sittings that a chunk may move by; 0 for any.
    seed, workers : int
    shown : callable
        Gets every plan that is better than the one at hand.
    at : callable
        Told the share of the time that is over; may raise to give up, which stops the solver.
    """
    from ortools.sat.python import cp_model

    model = _Model(problem, plan, near, cp_model)
    solver: Any = cp_model.CpSolver()
    solver.parameters.num_workers = workers
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.random_seed = seed
    # Presolve costs more here than it gives.
    solver.parameters.cp_model_probing_level = 0
    solver.parameters.symmetry_level = 0
    best = problem.cost(plan)

    class Watch(cp_model.CpSolverSolutionCallback):
        def on_solution_callback(self) -> None:
            nonlocal best
            made = model.plan(self.value)
            if (cost := problem.cost(made)) < best:
                best = cost
                shown(made)

    over = threading.Event()
    stopped: list[BaseException] = []

    def poll() -> None:
        spent = 0.0
        while not over.wait(_POLL_S):
            spent += _POLL_S
            try:
                at(min(spent / seconds, 1.0))
            except BaseException as failure:
                # Giving up is none of the usual exceptions; whatever it is, it is raised again where the solver was started.
                stopped.append(failure)
                solver.stop_search()
                return

    watcher = threading.Thread(target=poll, daemon=True)
    watcher.start()
    try:
        status = solver.solve(model.model, Watch())
    finally:
        over.set()
        watcher.join()
    if stopped:
        raise stopped[0]
    return model.plan(solver.value) if status in (cp_model.OPTIMAL, cp_model.FEASIBLE) else None


class _Model:
    """The model: variables of every chunk, relation and sitting, and the plan they are read back to."""

    def __init__(self, problem: Problem, plan: Plan, near: int, cp: Any) -> None:
        self.of, self.plan_at_hand, self.near, self.cp = problem, plan, near, cp
        self.model: Any = cp.CpModel()
        m = self.model
        self.sittings = [one for one in problem.sittings if one[0] >= problem.start]
        self.horizon = (self.sittings[-1][1] if self.sittings else problem.start) + 1
        self.lost = {
            k: m.new_bool_var("")
            for k, one in enumerate(problem.relations)
            if one.high_h is not None and self._to(k) not in problem.done
        }
        for k, var in self.lost.items():
            m.add_hint(var, k in plan.lost)
        self.used = [m.new_bool_var("") for _ in self.sittings]
        self.parts: dict[int, list[tuple[Any, Any]]] = {i: list(one) for i, one in self._done().items()}
        self.intervals: list[Any] = []
        self._hinted: set[int] = set()
        self.begins: dict[int, int] = {}
        total = 0
        first, last = self._windows()
        for i in range(len(problem.tasks)):
            if i not in problem.done:
                chunks = self._chunks(i)
                total += sum(size for size, _ in chunks)
                self._lay(i, chunks, first[i], last[i])
        self._sittings(total)
        self._relate()
        self._cost()

    def _to(self, relation: int) -> int:
        return self._ends[relation][1]

    @property
    def _ends(self) -> list[tuple[int, int]]:
        """Return from which task to which each relation goes."""
        made = getattr(self, "_ends_made", None)
        if made is None:
            made = [(0, 0)] * len(self.of.relations)
            for b, before in enumerate(self.of.into):
                for a, k in before:
                    made[k] = (a, b)
            self._ends_made = made
        return made

    def _done(self) -> dict[int, tuple[Piece, ...]]:
        return dict(self.of.done)

    def _chunks(self, i: int) -> list[tuple[int, int]]:
        """Return a task's chunks (minutes, where the plan at hand has them), cut from its pieces less what lost windows added."""
        of = self.of
        pieces = [[a, b] for a, b in self.plan_at_hand.pieces[i]]
        grown = sum(b - a for a, b in pieces) - of.tasks[i].minutes
        while len(pieces) > 1 and pieces[-1][1] - pieces[-1][0] <= grown:
            # The piece holds nothing but what lost windows added.
            a, b = pieces.pop()
            grown -= b - a
        pieces[-1][1] -= grown
        made = []
        for a, b in pieces:
            count, at = max(1, round((b - a) / LONGEST_CHUNK)), a
            for k in range(count):
                size = (b - a) // count + (k < (b - a) % count)
                made.append((size, at))
                at += size
        return made

    def _windows(self) -> tuple[list[int], list[float]]:
        """Return the first and last start of each task that can still better the plan, by the longest ways before and behind it."""
        of, plan = self.of, self.plan_at_hand
        count = len(of.tasks)
        first, behind = [of.start] * count, [0.0] * count
        for i in of.order:
            if i in of.done:
                first[i] = of.done[i][0][0]
                continue
            at = of.start
            for j, k in of.into[i]:
                end = of.done[j][-1][1] if j in of.done else first[j] + of.tasks[j].minutes
                at = max(at, end + of.low[k])
            first[i] = next((max(a, at) for a, b in self.sittings if b > at), at)
        for i in reversed(of.order):
            ways = [of.low[k] + behind[j] for j, k in of.out[i] if of.tasks[j].kind not in AFTER_PAINT]
            behind[i] = of.tasks[i].minutes + max(ways, default=0.0)
        top = of.finishes(plan)
        last = [
            top[task.painting] + SLACK_D * 1440 - behind[i] if task.kind not in AFTER_PAINT else math.inf
            for i, task in enumerate(of.tasks)
        ]
        return first, last

    def _room(self, size: int, at: int, first: int, last: float, within: tuple[Piece, ...]) -> list[Piece]:
        """Return the sittings, or the parts of them, in which a chunk may lie."""
        fits = [(j, one) for j, one in enumerate(self.sittings) if one[1] - one[0] >= size]
        if within:
            held = [
                (max(a, x), min(b, y)) for a, b in self.sittings for x, y in within if min(b, y) - max(a, x) >= size
            ]
            if held:
                return sorted(held)
        here = next((j for j, (a, b) in enumerate(self.sittings) if a <= at < b), None)
        tight = [
            one
            for j, one in fits
            if one[1] > first and one[0] <= last and not (self.near and here is not None and abs(j - here) > self.near)
        ]
        return tight or [one for _, one in fits]

    def _lay(self, i: int, chunks: list[tuple[int, int]], first: int, last: float) -> None:
        m, domain = self.model, self.cp.Domain.from_intervals
        self.parts[i] = []
        for number, (size, at) in enumerate(chunks):
            room = self._room(size, at, first, last, self.of.within.get(i, ()))
            if number == 0:
                self.begins[i] = at
            self._hinted |= {j for j, (a, b) in enumerate(self.sittings) if a <= at < b}
            start = m.new_int_var_from_domain(domain([[a, b - size] for a, b in room]), "")
            m.add_hint(start, at)
            grows = [(k, self.of.relations[k].extra_min) for _, k in self.of.into[i] if k in self.lost]
            if number == len(chunks) - 1 and any(extra for _, extra in grows):
                # A lost window makes the last chunk longer; an interval's size is one variable.
                long = m.new_int_var(size, size + sum(extra for _, extra in grows), "")
                end = m.new_int_var_from_domain(domain([[a + size, b] for a, b in room]), "")
                m.add(long == size + sum(extra * self.lost[k] for k, extra in grows))
                now = size + sum(extra for k, extra in grows if k in self.plan_at_hand.lost)
                m.add_hint(long, now)
                m.add_hint(end, at + now)
                self.intervals.append(m.new_interval_var(start, long, end, ""))
            else:
                end = start + size
                self.intervals.append(m.new_fixed_size_interval_var(start, size, ""))
            if self.parts[i]:
                m.add(start >= self.parts[i][-1][1])
            self.parts[i].append((start, end))

    def _sittings(self, total: int) -> None:
        m = self.model
        for (_, b), (c, _) in zip(self.sittings, self.sittings[1:], strict=False):
            if 0 < c - b <= BREAK_MIN:
                self.intervals.append(m.new_fixed_size_interval_var(b, c - b, ""))
        for j, (a, b) in enumerate(self.sittings):
            self.intervals.append(m.new_optional_fixed_size_interval_var(a, b - a, ~self.used[j], ""))
            m.add_hint(self.used[j], j in self._hinted)
        m.add_no_overlap(self.intervals)
        if self.sittings:
            m.add(sum((b - a) * used for (a, b), used in zip(self.sittings, self.used, strict=True)) >= total)

    def _relate(self) -> None:
        m, of = self.model, self.of
        for k in range(len(of.relations)):
            i, j = self._ends[k]
            if j in of.done:
                continue
            before, after = self.parts[i], self.parts[j]
            m.add(after[0][0] >= before[-1][1] + of.low[k])
            if k in self.lost:
                m.add(after[-1][1] <= before[-1][0] + int(of.high[k])).only_enforce_if(~self.lost[k])

    def _cost(self) -> None:
        m, of = self.model, self.of
        finishes: dict[str, Any] = {}
        at_hand = of.finishes(self.plan_at_hand)
        for i, task in enumerate(of.tasks):
            if task.kind in AFTER_PAINT:
                continue
            if task.painting not in finishes:
                finishes[task.painting] = m.new_int_var(0, self.horizon, "")
                m.add_hint(finishes[task.painting], int(at_hand[task.painting]))
            m.add(finishes[task.painting] >= self.parts[i][-1][1])
        cost = sum(finishes.values()) + PER_SITTING * sum(self.used) + PER_LOST * sum(self.lost.values())
        for i, (a, b) in of.was.items():
            if i in of.done:
                continue
            moved = m.new_bool_var("")
            start = self.parts[i][0][0]
            m.add(start >= a).only_enforce_if(~moved)
            m.add(start < b).only_enforce_if(~moved)
            m.add_hint(moved, not a <= self.begins[i] < b)
            cost += PER_MOVED * moved
        for i, due in of.due.items():
            if i in of.done:
                continue
            late = m.new_int_var(0, max(self.horizon - due, 0) + self.horizon, "")
            m.add(late >= self.parts[i][-1][1] - due)
            m.add_hint(late, max(0, int(self.plan_at_hand.end(i)) - due))
            cost += PER_LATE * late
        # In tenths of a minute, so that all is whole.
        handed = sum(
            self.parts[i][-1][1] for i, task in enumerate(of.tasks) if task.kind in AFTER_PAINT and i not in of.done
        )
        m.minimize(10 * cost + round(10 * HANDED) * handed)

    def plan(self, value: Callable[[Any], int]) -> Plan:
        """Return the plan that the variables' values say."""
        of = self.of
        chunks = {
            i: [(int(value(start)), int(value(end))) for start, end in parts] for i, parts in self.parts.items()
        }  # fmt: skip
        lost = frozenset(k for k, var in self.lost.items() if value(var))
        kept = frozenset(k for k in self.plan_at_hand.lost if k not in self.lost)
        pieces = [
            of.done[i] if i in of.done else self._joined(i, chunks, lost) for i in range(len(of.tasks))
        ]  # fmt: skip
        begun = {
            j for i, mine in enumerate(pieces) if i not in of.done for x, _ in mine
            for j, (a, b) in enumerate(self.sittings) if a <= x < b
        }  # fmt: skip
        return Plan(tuple(pieces), lost | kept, len(begun))

    def _joined(self, i: int, chunks: Mapping[int, Sequence[Piece]], lost: AbstractSet[int]) -> tuple[Piece, ...]:
        """Return a task's chunks as pieces: those that touch are one, unless a window that is kept counts from the last of them."""
        of, mine = self.of, [list(one) for one in chunks[i]]
        last = mine[-1][0]
        made: list[list[int]] = []
        for a, b in mine:
            if made and made[-1][1] == a:
                made[-1][1] = b
            else:
                made.append([a, b])
        windows = [
            chunks[j][-1][1] - int(of.high[k])
            for j, k in of.out[i]
            if k in self.lost and k not in lost and j not in of.done
        ]
        if made[-1][0] < max(windows, default=made[-1][0]):
            made[-1:] = [[made[-1][0], last], [last, made[-1][1]]]
        return tuple((a, b) for a, b in made)
