"""Fit ellipses to points on a rim that may be partly hidden and partly wrong."""

import math

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.errors import InputError
from foxpath.core.eyes.eye import Ellipse

LEAST_POINTS = 3
_ROUND = 0.06
"""An iris is round until its rim says otherwise: an oval of this (log of the ratio) weighs as much as a tenth of the
points lying off by the usual error."""


def fit_ellipse(points: Points, *, error_px: float = 1.0, roundness: float = 1.0) -> tuple[Ellipse, float]:
    """Fit an ellipse to points on its rim: robustly, and no more oval than they say.

    Minimises the points' distances from the ellipse (to first order, after Sampson 1982) under a loss that a
    stray point hardly moves, with a weak pull to the circle: a rim seen over half its way does not
    settle the other half by itself.

    Parameters
    ----------
    points : (N, 2) float64
        Three points give a circle; from five on also its oval.
    error_px : float
        Usual error of a point.
    roundness : float
        Strength of the pull to the circle; 0 has none.

    Returns
    -------
    ellipse : Ellipse
        `rx` is its longer half axis.
    residual : float
        Root mean square distance of the points from it, the worst tenth left out, pixels.

    Raises
    ------
    InputError
        With fewer than three points, or when they lie on a line.
    """
    from scipy.optimize import least_squares

    points = np.asarray(points, np.float64).reshape(-1, 2)
    if len(points) < LEAST_POINTS:
        raise InputError("A rim needs three points or more.", "Click the rim of the iris once more.")
    cx, cy, r = _circle(points)
    start = np.array([cx, cy, math.log(r), 0.0, 0.0])
    oval = len(points) >= 5

    def off(p: F64) -> F64:
        made = distances(_made(p), points)
        if not oval:
            return made
        pull = roundness * error_px * math.sqrt(0.1 * len(points)) * p[3:5] / _ROUND
        return np.concatenate([made, pull])

    def circle_off(p: F64) -> F64:
        return off(np.array([*p, 0.0, 0.0]))

    if oval:
        found = least_squares(off, start, loss="soft_l1", f_scale=1.2 * error_px, max_nfev=40, xtol=1e-5, ftol=1e-5).x
    else:
        found = np.array([*least_squares(circle_off, start[:3], max_nfev=100).x, 0.0, 0.0])
    ellipse = _made(found)
    if not (math.isfinite(ellipse.rx) and 0 < ellipse.ry <= ellipse.rx < 1e5):
        raise InputError("Those points lie on no rim.", "Click all the way round the iris.")
    gaps = np.sort(distances(ellipse, points) ** 2)
    return ellipse, float(np.sqrt(gaps[: max(3, round(0.9 * len(gaps)))].mean()))


def _circle(points: Points) -> tuple[float, float, float]:
    """Return middle and radius of the circle through points, by linear least squares (Kåsa 1976)."""
    middle = points.mean(axis=0)
    x, y = (points - middle).T
    matrix = np.stack([2 * x, 2 * y, np.ones(len(x))], axis=1)
    solved, _, rank, _ = np.linalg.lstsq(matrix, x * x + y * y, rcond=None)
    size = solved[2] + solved[0] ** 2 + solved[1] ** 2
    reach = float(np.ptp(points, axis=0).max())
    if rank < 3 or size <= 0 or math.sqrt(size) > 20 * max(reach, 1e-9):
        raise InputError("Those points lie on a line.", "Click all the way round the iris.")
    return float(middle[0] + solved[0]), float(middle[1] + solved[1]), math.sqrt(size)


def _made(p: F64) -> Ellipse:
    """Return the ellipse of (x, y, log of size, two parts of the oval in double angle)."""
    oval, double = math.hypot(p[3], p[4]), math.atan2(p[4], p[3])
    size = math.exp(min(max(p[2], -5.0), 12.0))
    oval = min(oval, 3.0)
    return Ellipse(
        float(p[0]), float(p[1]), size * math.exp(oval / 2), size * math.exp(-oval / 2), math.degrees(double / 2)
    )


def distances(ellipse: Ellipse, points: Points) -> F64:
    """Return the signed distance of points from an ellipse to first order, pixels; outside is positive."""
    a = math.radians(ellipse.deg)
    c, s = math.cos(a), math.sin(a)
    d = points - (ellipse.cx, ellipse.cy)
    u, v = d[:, 0] * c + d[:, 1] * s, -d[:, 0] * s + d[:, 1] * c
    value = (u / ellipse.rx) ** 2 + (v / ellipse.ry) ** 2
    slope = 2 * np.hypot(u / ellipse.rx**2, v / ellipse.ry**2)
    # Taken of the root, it stays right far from the rim too.
    root = np.sqrt(np.maximum(value, 1e-12))
    return np.asarray((root - 1) * 2 * root / np.maximum(slope, 1e-9))
