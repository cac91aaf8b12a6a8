"""What the eye about a click may be: hypotheses of place, size and shape, the likeliest first, each with its share."""

import json
import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Rgb8
from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.looks import LOOKS, looks_of, tried_about

PLACE = Path(__file__).with_name("weights.json")
MOST = 4
"""Hypotheses that are given at most."""
_NEAR_SIZE, _NEAR_PLACE = 0.22, 0.22
"""What is nearer than this, in the logarithm of the half width and in half widths, is the same hypothesis."""
_LIKE_OTHER = 0.3
"""How much two eyes of one animal may differ, in the logarithm of the half width."""
_LEAST_SHARE = 0.04
_IRIS_LOSS, _IRIS_SURE = 8.0, 0.75
"""By how much an iris may score less than its pupil, and how much of their share is then its own."""
_AT_ITS_WORD, _ROUND = 0.12, 0.35
"""How far an eye whose size was said may differ from it, and from a circle: logarithms of the half width and of the half axes' ratio."""


@dataclass(frozen=True, slots=True, eq=False)
class Weights:
    """How much each look counts: (L,) straight, (L, B) and (B,) into bent terms, (B,) of those, and the score of no eye at all."""

    straight: F64
    bent: F64
    offset: F64
    counts: F64
    none: float

    @classmethod
    def of(cls, told: dict[str, Any]) -> "Weights":
        """Return weights as they are kept. Raises `ValueError` when they are of other looks."""
        if tuple(told["looks"]) != LOOKS:
            raise ValueError("the weights were learned for other looks; learn them anew")
        keys = ("straight", "bent", "offset", "counts")
        straight, bent, offset, counts = (np.asarray(told[key], np.float64) for key in keys)
        return cls(straight, bent, offset, counts, float(told["none"]))

    def score(self, looks: F32) -> F64:
        """Return the score of each row of looks: (N,), the larger the more an eye."""
        return np.asarray(looks @ self.straight + np.tanh(looks @ self.bent + self.offset) @ self.counts)


@cache
def learned() -> Weights:
    """Return the weights that `tools.eyes.learn` has learned."""
    return Weights.of(json.loads(PLACE.read_text("utf-8")))


@dataclass(frozen=True, slots=True)
class Hypothesis:
    """An ellipse that may be the eye, pixels of the picture, and its share of all that was tried, 0 to 1."""

    ellipse: Ellipse
    share: float


def hypotheses_at(
    rgb: Rgb8,
    at: tuple[float, float],
    radius: float = 0.0,
    others: Sequence[float] = (),
    weights: Weights | None = None,
) -> list[Hypothesis]:
    """Return what the eye about a click may be, the likeliest first; none when most likely nothing there is one.

    Ellipses of all sizes, of several shapes and with their middles about the click are tried; each has a score of what makes an eye (see
    `looks`), learned from made and photographed ones, and by it a share of certainty (conditional logit). Ellipses that are nearly the
    same add up to one hypothesis.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
    at : (x, y)
        The click, pixels.
    radius : float
        About the half width, when it is known; 0 tries all sizes.
    others : sequence of float
        Half widths of the animal's other eyes: this one is about as large, unless the picture or a radius says otherwise.
    weights : Weights, optional
        To be tried in place of those that were learned.
    """
    used = weights or learned()
    least, most = (0.8 * radius, 1.25 * radius) if radius > 0 else (0.0, math.inf)
    rows, scores, ringed = [], [], []
    for tried in tried_about(min(rgb.shape[:2]), least, most):
        rows.append(np.stack([tried.half, tried.ratio, tried.deg, tried.cx, tried.cy], axis=1))
        looks = looks_of(rgb, at, tried)
        score = used.score(looks)
        ringed.append(_iris_round_a_pupil(looks))
        for other in others if radius <= 0 else ():
            score -= 0.5 * (np.log(tried.half / other) / _LIKE_OTHER) ** 2
        if radius > 0:
            # Round and of that size, unless the picture says otherwise.
            score -= 0.5 * (np.log(tried.half / radius) / _AT_ITS_WORD) ** 2 + 0.5 * (np.log(tried.ratio) / _ROUND) ** 2
        scores.append(score)
    if not rows:
        return []
    table, score = np.concatenate(rows), np.concatenate(scores)
    none = used.none if radius <= 0 else -math.inf
    best = max(float(score.max()), none)
    share = np.exp(score - best)
    whole = float(share.sum()) + math.exp(none - best)
    found = _joined(table, share / whole, at, 1 - math.exp(none - best) / whole)
    iris = np.concatenate(ringed) & (score > float(score.max()) - _IRIS_LOSS)
    return _with_iris(found, table, np.where(iris, share / whole, 0), at) if radius <= 0 else found


def _iris_round_a_pupil(looks: F32) -> Bool:
    """Tell which ellipses have an even ring, far lighter than what lies within it, and a whole rim of one kind."""
    pupil, agrees, kind = (looks[:, LOOKS.index(name)] for name in ("pupil", "rim agrees", "rim of one kind"))
    return np.asarray((pupil > 0.9) & (agrees > 0.8) & (kind > 0.65))


def _with_iris(found: list[Hypothesis], table: F64, share: F64, at: tuple[float, float]) -> list[Hypothesis]:
    """Put an iris before the pupil that stands out more than it does: of the two the eye is the larger one."""
    if not found or not share.any():
        return found
    first = found[0]
    half = first.ellipse.rx
    off = np.hypot(table[:, 3] + at[0] - first.ellipse.cx, table[:, 4] + at[1] - first.ellipse.cy)
    round_it = (table[:, 0] > 1.6 * half) & (table[:, 0] < 3.4 * half) & (off < 0.3 * table[:, 0]) & (table[:, 1] > 0.7)
    share = np.where(round_it, share, 0)
    if not share.any():
        return found
    near = _near(table, table[int(np.argmax(share))])
    half = _middle_of(table, np.where(near, share, 0), at).rx
    # A lid that cuts it pulls the middle down: the pupil's is surer.
    iris = Hypothesis(Ellipse(first.ellipse.cx, first.ellipse.cy, half, half), _IRIS_SURE * first.share)
    return [iris, Hypothesis(first.ellipse, (1 - _IRIS_SURE) * first.share), *found[1:]]


def _joined(table: F64, share: F64, at: tuple[float, float], any_eye: float) -> list[Hypothesis]:
    """Join ellipses that are nearly the same, from the likeliest on."""
    left = share.copy()
    found: list[Hypothesis] = []
    while len(found) < MOST and any_eye > 0.5:
        order = np.argsort(-left)[:40]
        near = [_near(table, table[k]) for k in order]
        mass = [float(left[one].sum()) for one in near]
        k = int(np.argmax(mass))
        if mass[k] < _LEAST_SHARE:
            break
        found.append(Hypothesis(_middle_of(table, np.where(near[k], left, 0), at), mass[k]))
        left[near[k]] = 0
    return sorted(found, key=lambda one: -one.share)


def _near(table: F64, row: F64) -> Any:
    off = np.hypot(table[:, 3] - row[3], table[:, 4] - row[4]) / row[0]
    return (off < _NEAR_PLACE) & (np.abs(np.log(table[:, 0] / row[0])) < _NEAR_SIZE)


def _middle_of(table: F64, share: F64, at: tuple[float, float]) -> Ellipse:
    """Return the mean of ellipses by their shares; ovals are averaged in double angle."""
    total = float(share.sum())
    size = float(share @ np.log(table[:, 0] * np.sqrt(table[:, 1]))) / total
    oval = -np.log(table[:, 1])
    c, s = (float(share @ (oval * turn(2 * np.radians(table[:, 2])))) / total for turn in (np.cos, np.sin))
    apart, deg = math.hypot(c, s), math.degrees(math.atan2(s, c) / 2)
    x, y = (float(share @ table[:, k]) / total for k in (3, 4))
    return Ellipse(at[0] + x, at[1] + y, math.exp(size + apart / 2), math.exp(size - apart / 2), deg)
