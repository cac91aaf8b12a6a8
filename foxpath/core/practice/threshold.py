"""How small a difference a painter sees three times in four, and which one to ask for next.

Where a difference is told or not, the threshold and the steepness of seeing are believed together on a grid, and the next size is the one
from which most is expected to be learned of the threshold: the psi method (Kontsevich and Tyler, Vision Research 39, 1999), the
steepness marginalised as a nuisance (Prins, Journal of Vision 13(7), 2013). Where an error is measured, its absolute values are taken as
half normal and the same grid is of their 75th percentile. Older answers count less: a painter learns.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.practice.drill import Skill
from foxpath.core.practice.task import Seen

SEEN = 0.75
"""Share of right answers that makes a threshold."""
LAPSE = 0.03
"""Share of answers that say nothing: a slip of the hand."""
STEEP = np.array([1.0, 1.4, 2.0, 2.8, 4.0])
"""Exponents of the Weibull curve; a difference judged against one's own noise has about 1.3."""
LEVELS = 81
HALF_LIFE = 80
"""After so many more answers one counts half."""
REMEMBERED = 240
"""Older answers than these are let go: they would hardly count."""
RIGHT_LOW, RIGHT_HIGH = 0.1, 0.9
"""The band that is told of every threshold."""
_QUARTERS = 1.150349
"""75th percentile of a half-normal error, in its deviations."""


@dataclass(frozen=True, slots=True)
class Threshold:
    """A threshold and the band it lies in four times in five, in the drill's unit; of how many answers."""

    value: float
    low: float
    high: float
    answers: int

    @property
    def known(self) -> bool:
        """Whether it says something yet: the band is narrower than a factor of four."""
        return self.answers >= 5 and self.high < 4 * self.low


def right_share(size: F64 | float, threshold: F64 | float, steep: F64 | float, choices: F64 | int) -> F64:
    """Return how often a difference is told right among so many choices: chance for none, three in four at the threshold."""
    guess = 1 / np.maximum(choices, 2)
    at_threshold = (SEEN - guess) / (1 - guess - LAPSE)
    rate = -np.log(1 - at_threshold)
    with np.errstate(over="ignore"):
        u = np.asarray(size, np.float64) / threshold
        return np.asarray(guess + (1 - guess - LAPSE) * (1 - np.exp(-rate * u**steep)))


def error_density(error: F64 | float, threshold: F64, most: F64 | float) -> F64:
    """Return how likely an absolute error is under thresholds: half normal, with slips anywhere up to `most`."""
    sigma = threshold / _QUARTERS
    normal = np.sqrt(2 / np.pi) / sigma * np.exp(-0.5 * (error / sigma) ** 2)
    return np.asarray((1 - LAPSE) * normal + LAPSE / most)


def levels_of(drill: Skill) -> F64:
    """Return the thresholds that are thought possible at a drill, (levels,)."""
    return np.asarray(np.geomspace(*drill.range, LEVELS))


def log_likely(drill: Skill, answers: Sequence[Seen]) -> F64:
    """Return the logarithm of how likely each answer is under every threshold and steepness, (N, levels, steepnesses)."""
    levels = levels_of(drill)
    made = np.empty((len(answers), LEVELS, len(STEEP)))
    errors = np.array([one.error for one in answers])
    most = np.maximum(4 * drill.range[1], errors)
    made[:] = error_density(errors[:, None], levels[None, :], most[:, None])[:, :, None]
    chosen = [k for k, one in enumerate(answers) if one.choices]
    if chosen:
        size = np.array([answers[k].size for k in chosen])[:, None, None]
        choices = np.array([answers[k].choices for k in chosen])[:, None, None]
        share = right_share(size, levels[None, :, None], STEEP[None, None, :], choices)
        right = np.array([answers[k].right for k in chosen])[:, None, None]
        made[chosen] = np.where(right, share, 1 - share)
    return np.asarray(np.log(np.maximum(made, 1e-12)))


class Belief:
    """What is believed of a painter's threshold at one drill.

    Parameters
    ----------
    drill : Skill
        Its way and range.
    answers : sequence of Seen
        Oldest first.
    told : (N, levels, steepnesses) float64, optional
        As `log_likely` returns it for the same answers, where it is known already.
    """

    def __init__(self, drill: Skill, answers: Sequence[Seen] = (), told: F64 | None = None) -> None:
        low, high = drill.range
        self.drill, self.answers = drill, tuple(answers)
        self.levels: F64 = levels_of(drill)
        # Begins broad about what is usual, so that the first tasks are neither hopeless nor dull.
        wide = np.log(self.levels / drill.usual) / (0.5 * np.log(high / low))
        log = np.repeat(-0.5 * (wide**2)[:, None], len(STEEP), axis=1)
        kept = self.answers[-REMEMBERED:]
        if kept:
            weight = 0.5 ** (np.arange(len(kept) - 1, -1, -1) / HALF_LIFE)
            likely = told[-len(kept) :] if told is not None else log_likely(drill, kept)
            log += np.tensordot(weight, likely, 1)
        weights = np.exp(log - log.max())
        self.weights: F64 = weights / weights.sum()

    def threshold(self) -> Threshold:
        """Return the threshold that is believed in, with its band."""
        share = self.weights.sum(axis=1)
        heap = np.cumsum(share)
        log = np.log(self.levels)
        value = float(np.exp((share * log).sum()))
        low, high = (float(np.exp(np.interp(q, heap - share / 2, log))) for q in (RIGHT_LOW, RIGHT_HIGH))
        return Threshold(value, min(low, value), max(high, value), len(self.answers))

    def next_size(self, choices: int = 2) -> float:
        """Return the difference from which most is expected to be learned of the threshold."""
        sizes = self.levels[::2]
        share = right_share(sizes[:, None, None], self.levels[None, :, None], STEEP[None, None, :], choices)
        right, wrong = share * self.weights, (1 - share) * self.weights
        left = np.zeros(len(sizes))
        for part in (right, wrong):
            of_level = part.sum(axis=2)
            whole = of_level.sum(axis=1, keepdims=True)
            p = of_level / np.maximum(whole, 1e-12)
            left += whole[:, 0] * -(p * np.log(np.maximum(p, 1e-12))).sum(axis=1)
        return float(sizes[int(np.argmin(left))])


@dataclass(frozen=True, slots=True)
class Share:
    """How often answers were right, 0 to 1, with the band of four in five, and by how much chance alone would be."""

    value: float
    low: float
    high: float
    answers: int
    chance: float


def share_right(answers: Sequence[Seen]) -> Share:
    """Return how often answers were right; older ones count less."""
    from scipy.special import betaincinv

    weights = [0.5 ** (back / HALF_LIFE) for back in range(len(answers) - 1, -1, -1)]
    right = sum(w for w, one in zip(weights, answers, strict=True) if one.right)
    wrong = sum(weights) - right
    chances = [1 / one.choices for one in answers if one.choices]
    low, high = (float(betaincinv(right + 1, wrong + 1, q)) for q in (RIGHT_LOW, RIGHT_HIGH))
    value = (right + 1) / (right + wrong + 2)
    return Share(value, low, high, len(answers), float(np.mean(chances)) if chances else 0.0)
