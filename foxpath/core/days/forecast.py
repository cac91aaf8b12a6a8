"""How sure a date is: a plan's date is one of many, as paint dries now faster and now slower, and a hand works so too."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.days.drying import LAYER_SD, PILE_SD, STUDIO_SD, Z80
from foxpath.core.days.problem import Plan, Problem
from foxpath.core.days.schedule import Hand, dispatch

PACE_SD, TASK_SD = 0.35, 0.25
"""Of the logarithm of the minutes: of the painter's pace, and of one task."""
SAMPLES = 200
WORK = ("paint", "eye", "edge", "blend", "touch-up")
"""Kinds that can be at risk by themselves; the others only follow."""
DRYING = {"touch_dry": 1.0, "while_open": -1.0, "tacky": -1.0}
"""Kinds of relation whose lags follow the drying, and which quantile they were planned with: late for dry, early for open."""


@dataclass(frozen=True, slots=True, eq=False)
class Forecast:
    """When the last brush stroke is done, minutes from the start.

    Attributes
    ----------
    half, most : float
        By which half, and nine in ten of what may happen is done; infinite where the calendar ends before.
    risky : tuple of str
        Ids of the tasks that most of the late ones wait for, worst first.
    """

    half: float
    most: float
    risky: tuple[str, ...]


def forecast(
    problem: Problem,
    hand: Hand,
    sd: Mapping[str, float],
    seed: int = 0,
    samples: int = SAMPLES,
    at: Callable[[float], None] = lambda _: None,
    pace_sd: float = PACE_SD,
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
    """
    rng = np.random.default_rng(seed)
    ends, late = np.empty(samples), np.zeros(len(problem.tasks))
    own = [problem.tasks[k].minutes for k in range(len(problem.tasks))]
    # The plan's lags are quantiles: what is drawn is the median times a factor.
    shift = np.array([DRYING.get(one.kind, 0.0) for one in problem.relations])
    spread = np.array([sd.get(one.kind, 0.4) if s else 0.0 for one, s in zip(problem.relations, shift, strict=True)])
    waits = np.zeros((samples, len(problem.tasks)))
    for k in range(samples):
        at(k / samples)
        studio = rng.normal(0, STUDIO_SD)
        layer = rng.normal(0, math.hypot(PILE_SD, LAYER_SD), len(spread))
        scale = spread / 0.4
        factor = np.exp((studio + layer) * scale - Z80 * spread * shift)
        pace = rng.normal(0, pace_sd)
        minutes = [max(1, round(m * math.exp(pace + rng.normal(0, TASK_SD)))) for m in own]
        low = [math.ceil(v * f) for v, f in zip(problem.low, factor, strict=True)]
        high = [v if math.isinf(v) else math.floor(v * f) for v, f in zip(problem.high, factor, strict=True)]
        plans = [
            dispatch(problem, Hand(hand.keys, hand.worth, hold), low=low, high=high, minutes=minutes) for hold in (0, 3)
        ]
        best = min(plans, key=problem.cost)
        ends[k] = problem.finish(best)
        waits[k] = _ends(problem, best)
    half, most = float(np.quantile(ends, 0.5, method="higher")), float(np.quantile(ends, 0.9, method="higher"))
    if np.isfinite(waits).all():
        # What moves with the finish is what the finish waits for.
        slow = ends > np.median(ends)
        if slow.any() and (~slow).any():
            late = waits[slow].mean(axis=0) - waits[~slow].mean(axis=0)
    work = [k for k in np.argsort(-late, kind="stable") if problem.tasks[int(k)].kind in WORK and late[k] > 0]
    return Forecast(half, most, tuple(problem.tasks[int(k)].id for k in work[:3]))


def _ends(problem: Problem, plan: Plan) -> F64:
    return np.array([plan.end(k) for k in range(len(problem.tasks))])
