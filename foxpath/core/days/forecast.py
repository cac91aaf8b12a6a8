"""How sure a date is: a plan's date is one of many, as paint dries now faster and now slower, and a hand works so too."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.days.drying import LAYER_SD, PILE_SD, STUDIO_SD, Z80
from foxpath.core.days.problem import Problem
from foxpath.core.days.schedule import Hand, dispatch
from foxpath.core.days.tasks import AFTER_PAINT, Task

PACE_SD, TASK_SD = 0.35, 0.25
"""Of the logarithm of the minutes: of the painter's pace, and of one task."""
SAMPLES = 200
WORK = ("paint", "eye", "edge", "blend", "touch-up")
"""Kinds that can be at risk by themselves; the others only follow."""
DRYING = {"touch_dry": 1.0, "while_open": -1.0, "tacky": -1.0}
"""Kinds of relation whose lags follow the drying, and which quantile they were planned with: late for dry, early for open."""


@dataclass(frozen=True, slots=True, eq=False)
class Sure:
    """By when something is done in half, and in nine of ten of what may happen; minutes, infinite where the calendar ends before."""

    half: float
    most: float


@dataclass(frozen=True, slots=True, eq=False)
class Forecast:
    """What may happen.

    Attributes
    ----------
    painted, handed : mapping of painting to Sure
        Its last brush stroke, and its hand-over.
    kept : mapping of painting to float
        Share of what may happen in which it is handed over by its date; of paintings with one.
    risky : tuple of str
        Ids of the tasks that most of the late ones wait for, worst first.
    """

    painted: Mapping[str, Sure]
    handed: Mapping[str, Sure]
    kept: Mapping[str, float]
    risky: tuple[str, ...]


def forecast(
    problem: Problem,
    hand: Hand,
    sd: Mapping[str, float],
    seed: int = 0,
    samples: int = SAMPLES,
    at: Callable[[float], None] = lambda _: None,
    pace_sd: float = PACE_SD,
    z: float = Z80,
) -> Forecast:
    """Draw drying and pace, and plan each time as one would.

    Parameters
    ----------
    problem : Problem
    hand : Hand
        Its priorities; sittings are waited for as they come.
    sd : mapping of relation's kind to float
        Standard deviation of the logarithm of a drying time; 0.4 where a kind is missing.
    seed, samples : int
    at : callable
        Told the share that is done.
    pace_sd : float
        Smaller when the painter's pace was learned.
    z : float
        Standard deviations of the quantile that the plan's lags are.
    """
    rng = np.random.default_rng(seed)
    count = len(problem.tasks)
    own = [problem.tasks[k].minutes for k in range(count)]
    # The plan's lags are quantiles: what is drawn is the median times a factor.
    shift = np.array([DRYING.get(one.kind, 0.0) for one in problem.relations])
    spread = np.array([sd.get(one.kind, 0.4) if s else 0.0 for one, s in zip(problem.relations, shift, strict=True)])
    ends, finish = np.zeros((samples, count)), np.zeros(samples)
    for k in range(samples):
        at(k / samples)
        studio = rng.normal(0, STUDIO_SD)
        layer = rng.normal(0, math.hypot(PILE_SD, LAYER_SD), len(spread))
        scale = spread / 0.4
        factor = np.exp((studio + layer) * scale - z * spread * shift)
        pace = rng.normal(0, pace_sd)
        minutes = [max(1, round(m * math.exp(pace + rng.normal(0, TASK_SD)))) for m in own]
        low = [math.ceil(v * f) for v, f in zip(problem.low, factor, strict=True)]
        high = [v if math.isinf(v) else math.floor(v * f) for v, f in zip(problem.high, factor, strict=True)]
        plans = [
            dispatch(problem, Hand(hand.keys, hand.worth, hold), low=low, high=high, minutes=minutes) for hold in (0, 3)
        ]
        best = min(plans, key=problem.cost)
        finish[k] = problem.finish(best)
        ends[k] = [best.end(i) for i in range(count)]
    return Forecast(
        _by_painting(problem, ends, lambda task: task.kind not in AFTER_PAINT),
        _by_painting(problem, ends, lambda _: True),
        {problem.tasks[i].painting: float(np.mean(ends[:, i] <= due)) for i, due in problem.due.items()},
        _risky(problem, ends, finish),
    )


def _by_painting(problem: Problem, ends: F64, counts: Callable[[Task], bool]) -> dict[str, Sure]:
    made = {}
    for name in dict.fromkeys(task.painting for task in problem.tasks):
        mine = [k for k, task in enumerate(problem.tasks) if task.painting == name and counts(task)]
        last = ends[:, mine].max(axis=1) if mine else np.zeros(len(ends))
        half, most = (float(np.quantile(last, q, method="higher")) for q in (0.5, 0.9))
        made[name] = Sure(half, most)
    return made


def _risky(problem: Problem, ends: F64, finish: F64) -> tuple[str, ...]:
    """Return what moves with the finish: that is what the finish waits for."""
    slow = finish > np.median(finish)
    if not np.isfinite(ends).all() or not slow.any() or slow.all():
        return ()
    late = ends[slow].mean(axis=0) - ends[~slow].mean(axis=0)
    work = [k for k in np.argsort(-late, kind="stable") if problem.tasks[int(k)].kind in WORK and late[k] > 0]
    return tuple(problem.tasks[int(k)].id for k in work[:3])
