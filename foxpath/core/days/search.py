"""Better a plan of sittings: the best of some list schedules at once, then a search over their priorities, then a solver.

The search changes priorities and leaves sittings out (random keys; Bean 1994, doi:10.1287/ijoc.6.2.154), and keeps what is no worse, at first a
little worse too (annealing). The solver (`exact`) is there when its library is installed; without it the search takes all the time.
"""

import math
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.days import exact
from foxpath.core.days.problem import Piece, Plan, Problem
from foxpath.core.days.schedule import Hand, dispatch

KEYS_SHARE, MANY, KEYS_SHARE_MANY = 0.15, 85, 0.5
"""Share of the time that the search over priorities gets, and from how many tasks on it gets the other."""
NEAR = 6
"""Sittings that the solver's first and last rounds may move a piece by; any in between."""
REPLAN_NEAR = 4


@dataclass(frozen=True, slots=True, eq=False)
class Found:
    """A plan, and the hand that makes it or one like it again.

    Attributes
    ----------
    plan : Plan
    hand : Hand
    solved : bool
        The solver had a look at it.
    """

    plan: Plan
    hand: Hand
    solved: bool = False


def at_once(problem: Problem, runs: int = 30, seed: int = 0) -> tuple[Plan, Hand]:
    """Return the best of some list schedules with shaken priorities: the plan that is shown at once."""
    rng = np.random.default_rng(seed)
    tries = []
    # What a hold waits for goes before all else.
    first = 2 * max(problem.tails, default=0.0)
    tails = [t + (first if i in problem.pressing else 0.0) for i, t in enumerate(problem.tails)]
    for k in range(max(1, runs // 6)):
        keys = tuple(t * (1 + (0.3 * rng.uniform(-1, 1) if k else 0.0)) for t in tails)
        tries += [Hand(keys, worth, hold) for worth in (0, 30, 60) for hold in (0, 3)]
    made = [(dispatch(problem, hand), hand) for hand in tries]
    return min(made, key=lambda one: problem.cost(one[0]))


def better(
    problem: Problem,
    first: tuple[Plan, Hand],
    seconds: float,
    seed: int = 0,
    shown: Callable[[Plan], None] = lambda _: None,
    at: Callable[[float], None] = lambda _: None,
) -> tuple[Plan, Hand]:
    """Search over priorities for some seconds; each better plan is shown at once.

    Parameters
    ----------
    problem : Problem
    first : (Plan, Hand)
        From `at_once`.
    seconds : float
    seed : int
    shown : callable
        Gets every better plan.
    at : callable
        Told the share of the time that is over; may raise to give up.
    """
    rng, begin = np.random.default_rng(seed), time.perf_counter()
    now, hand = first
    best, best_hand = first
    value = best_value = problem.cost(now)
    count = len(problem.tasks)
    while count and (spent := time.perf_counter() - begin) < seconds:
        at(spent / seconds)
        tried = _shaken(hand, rng, count, len(problem.sittings))
        plan = dispatch(problem, tried)
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


def hand_of(problem: Problem, pieces: Mapping[int, int]) -> Hand:
    """Return a hand that lays tasks in an order: by the minute at which each began; what is new goes by its tail.

    Parameters
    ----------
    problem : Problem
    pieces : mapping of task to minute
    """
    top = max(problem.tails, default=0.0) + 1
    last = max(pieces.values(), default=0) + 1
    keys = tuple(
        top + top * (1 - pieces[i] / last) if i in pieces else problem.tails[i] for i in range(len(problem.tasks))
    )
    return Hand(keys)


def search(
    problem: Problem,
    first: tuple[Plan, Hand],
    seconds: float,
    *,
    seed: int = 0,
    shown: Callable[[Plan], None] = lambda _: None,
    at: Callable[[float], None] = lambda _: None,
    near: int = NEAR,
    solver: bool = True,
) -> Found:
    """Search for a better plan for some seconds, by priorities and then by the solver where it is installed.

    Parameters
    ----------
    problem : Problem
    first : (Plan, Hand)
    seconds : float
    seed : int
    shown : callable
        Gets every better plan.
    at : callable
        Told the share of the time that is over; may raise to give up.
    near : int
        Sittings that the solver may move a piece by, at first.
    solver : bool
        Whether to use it at all.
    """
    use = solver and exact.installed() and bool(problem.tasks)
    share = (KEYS_SHARE if len(problem.tasks) < MANY else KEYS_SHARE_MANY) if use else 1.0
    begin = time.perf_counter()
    plan, hand = better(problem, first, share * seconds, seed, shown, lambda x: at(x * share))
    if not use or not plan.complete:
        return Found(plan, hand)
    solved = False
    # Near at hand, then anywhere, then near what was found: each round goes on from the last.
    for part, round_near in ((0.35, near), (0.75, 0), (1.0, near)):
        until = seconds * (share + (1 - share) * part)
        left = until - (time.perf_counter() - begin)
        if left < 0.05:
            continue

        def told(x: float, left: float = left, until: float = until) -> None:
            at(min(1.0, (until - left * (1 - x)) / seconds))

        found = exact.improve(problem, plan, left, near=round_near, seed=seed + 1, shown=shown, at=told)
        if found is None:
            continue
        solved = True
        if problem.cost(found) < problem.cost(plan):
            plan = found
            hand = hand_of(problem, {i: pieces[0][0] for i, pieces in enumerate(plan.pieces) if pieces})
    return Found(plan, hand, solved)


def replan(
    problem: Problem,
    order: Mapping[int, int],
    seconds: float = 0.8,
    *,
    shown: Callable[[Plan], None] = lambda _: None,
    at: Callable[[float], None] = lambda _: None,
) -> Found:
    """Return a plan that changes as little as it can of one before.

    Parameters
    ----------
    problem : Problem
        With what is done, and the sittings tasks were in (`was`).
    order : mapping of task to minute
        When each began in the plan before.
    seconds : float
    """
    hand = hand_of(problem, order)
    tries = [replace(hand, hold=hold, worth=worth) for hold in (0, 3) for worth in (0, 30)]
    made = [(dispatch(problem, one), one) for one in tries]
    made.append(at_once(problem, 6))
    first = min(made, key=lambda one: problem.cost(one[0]))
    shown(first[0])
    return search(problem, first, seconds, shown=shown, at=at, near=REPLAN_NEAR)


def moved_by(before: Mapping[int, Piece], problem: Problem, plan: Plan) -> tuple[int, int]:
    """Return how many tasks left their sitting, and by how many days most of those came later (negative: sooner)."""
    gone = problem.moved(plan)
    shifts = sorted((plan.pieces[k][0][0] - before[k][0]) / 1440 for k in gone if plan.pieces[k])
    return len(gone), round(shifts[len(shifts) // 2]) if shifts else 0
