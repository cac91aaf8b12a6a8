"""What notes teach about a studio and its piles: "still tacky", "touch-dry now", "was dry at eight".

Log factors of the studio and of every pile are jointly normal. A note is an interval on studio + pile + layer; the belief is moved to
the mean and variance of the truncated normal (moment matching; Minka 2001, "Expectation propagation for approximate Bayesian inference").
"""

import math
from collections.abc import Sequence

import numpy as np

from foxpath.core.days.drying import LAYER_SD, PILE_SD, STUDIO_SD

FINGER_SD = 0.10
"""A finger's judgement is not exact either."""
UNSEEN = 0.6
"""Where nobody had looked before it was found dry, it is taken to have been wet until this share of the time: the moment of looking
was chosen by the paint, and "any time before" would make every film too fast."""
_NEVER = 1e-9


def _density(x: float) -> float:
    return math.exp(-x * x / 2) / math.sqrt(2 * math.pi) if math.isfinite(x) else 0.0


def _below(x: float) -> float:
    return 0.5 * math.erfc(-x / math.sqrt(2))


def truncated(mean: float, variance: float, low: float, high: float) -> tuple[float, float]:
    """Return mean and variance of a normal that is known to lie between two values, either of which may be infinite."""
    sd = math.sqrt(variance)
    a, b = (low - mean) / sd, (high - mean) / sd
    # The side with the smaller tail keeps the digits.
    mass = _below(b) - _below(a) if a < 0 else _below(-a) - _below(-b)
    if mass < _NEVER:
        return (low if a > 0 else high), 0.05 * variance
    shift = (_density(a) - _density(b)) / mass
    bend = ((a * _density(a) if math.isfinite(a) else 0.0) - (b * _density(b) if math.isfinite(b) else 0.0)) / mass
    return mean + sd * shift, variance * max(1 + bend - shift * shift, 1e-4)


class Belief:
    """Log factors on the drying times of one studio and its piles.

    Parameters
    ----------
    piles : sequence of str
        Their keys.
    """

    def __init__(self, piles: Sequence[str]) -> None:
        self.index = {key: k for k, key in enumerate(piles, 1)}
        self.mean = np.zeros(len(piles) + 1)
        self.cov = np.diag([STUDIO_SD**2, *[PILE_SD**2] * len(piles)])
        self.notes: dict[str, int] = {}

    def factor(self, pile: str = "") -> tuple[float, float]:
        """Return mean and standard deviation of the log factor of a pile in this studio; of the studio alone without a known pile."""
        along = self._along(pile)
        known = float(along @ self.cov @ along) + (0.0 if pile in self.index else PILE_SD**2)
        return float(along @ self.mean), math.sqrt(known)

    def _along(self, pile: str) -> np.ndarray:
        along = np.zeros(len(self.mean))
        along[0] = 1
        if pile in self.index:
            along[self.index[pile]] = 1
        return along

    def note(self, pile: str, median_h: float, tacky_at: float = 0.0, dry_at: float = math.inf) -> None:
        """Take a note of one layer in.

        Parameters
        ----------
        pile : str
        median_h : float
            To touch-dry, as the model says.
        tacky_at : float
            The latest hour at which it still was tacky; 0 when nobody looked.
        dry_at : float
            The first hour at which it was dry; infinite as long as it is not.
        """
        if not median_h > 0 or dry_at <= 0 or dry_at <= tacky_at:
            raise ValueError("a layer cannot be dry before it is tacky")
        if tacky_at <= 0 and not math.isfinite(dry_at):
            return
        if tacky_at <= 0:
            tacky_at = UNSEEN * dry_at
        along = self._along(pile)
        mean, total = float(along @ self.mean), float(along @ self.cov @ along) + LAYER_SD**2 + FINGER_SD**2
        low = math.log(tacky_at / median_h)
        high = math.log(dry_at / median_h) if math.isfinite(dry_at) else math.inf
        seen, spread = truncated(mean, total, low, high)
        gain = self.cov @ along / total
        self.mean = self.mean + gain * (seen - mean)
        self.cov = self.cov - np.outer(gain, gain) * (total - spread)
        self.notes[pile] = self.notes.get(pile, 0) + 1
