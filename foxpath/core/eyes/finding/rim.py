"""The rim of an iris, ray by ray."""

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Lab, Points
from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.window import ANGLES, read_lab


def well_inside(outline: Points, points: Points, room: float) -> Bool:
    """Tell which points lie in an outline and farther than `room` from it."""
    import cv2

    shape = np.ascontiguousarray(outline, np.float32).reshape(-1, 1, 2)
    return np.array([cv2.pointPolygonTest(shape, (float(x), float(y)), True) > room for x, y in points], bool)


def trace_rim(lab: Lab, iris: Ellipse, spread: float) -> tuple[Points, F64, F64, float]:
    """Return where rays cross the rim: places, shares of the ellipse, the rays' angles; and the angle of the clear sides.

    The rim is where colour steps most clearly in the way it steps at both sides.
    """
    turn = np.linspace(0, 2 * np.pi, 2 * ANGLES, endpoint=False)
    shares = np.linspace(1 - 2 * spread, 1 + 2 * spread, 49)
    at = iris.at(turn[:, None], np.broadcast_to(shares, (len(turn), len(shares))))
    read = read_lab(lab, at[..., 0], at[..., 1])
    lag = 4
    step = np.zeros_like(read)
    step[:, lag:-lag] = read[:, 2 * lag :] - read[:, : -2 * lag]
    # The kind of step: that of the two opposite arcs that agree best, wherever along the rays it lies.
    half = len(turn) // 2
    arcs = _smooth_round(_smooth_rays(step, 3), len(turn) // 9)
    pair = np.linalg.norm(arcs + np.roll(arcs, half, axis=0), axis=2)
    pair *= np.exp(-(((shares - 1) / (3 * spread)) ** 2))
    # At the sides, where no lid is; elsewhere only when they show nothing.
    side = pair * (np.abs(np.cos(turn)) > 0.8)[:, None]
    best, far = np.unravel_index(int(np.argmax(side if side.max() > 0.2 * pair.max() else pair)), pair.shape)
    kind = arcs[best, far] + arcs[(best + half) % len(turn), far]
    size = float(np.linalg.norm(kind))
    if size < 1e-3:
        return np.zeros((0, 2)), np.zeros(0), np.zeros(0), 0.0
    along = _smooth_round(step @ (kind / size), 3)
    peak = np.argmax(along[:, lag + 1 : -lag - 1], axis=1) + lag + 1
    rows = np.arange(len(turn))
    a, b, c = along[rows, peak - 1], along[rows, peak], along[rows, peak + 1]
    shift = np.clip(0.5 * (a - c) / np.minimum(a - 2 * b + c, -1e-6), -0.5, 0.5)
    share = shares[peak] + shift * (shares[1] - shares[0])
    good = b > 0.42 * size / 2
    # A lid's border steps between other colours than the rim does.
    there = step[rows, peak]
    good &= there @ (kind / size) > 0.8 * np.linalg.norm(there, axis=1)
    # What lies outside must be what lies outside at the sides: elsewhere a lid's skin is.
    home = good & (np.abs(np.cos(turn - turn[best])) > 0.87)
    if spread < 0.09 and home.sum() > 6:
        beyond = read[rows[:, None], np.minimum(peak[:, None] + np.arange(6, 14), 48)].mean(axis=1)
        usual = np.median(beyond[home], axis=0)
        good &= np.linalg.norm(beyond - usual, axis=1) < max(6.0 if spread > 0.06 else 0.0, 0.4 * size / 2)
    # Neighbours must agree: a lid's border runs across the rays.
    jump = np.abs(np.roll(share, 1) - share) + np.abs(np.roll(share, -1) - share)
    good &= jump < 0.5 * spread
    return iris.at(turn[good], share[good]), share[good], turn[good], float(turn[best])


def _smooth_rays(values: F32 | F64, wide: int) -> F64:
    """Average along the second axis over `wide` neighbours on both sides; its ends fade to nothing."""
    padded = np.pad(values, ((0, 0), (wide, wide), (0, 0)))
    total = np.cumsum(np.pad(padded, ((0, 0), (1, 0), (0, 0))), axis=1, dtype=np.float64)
    return np.asarray((total[:, 2 * wide + 1 :] - total[:, : -2 * wide - 1]) / (2 * wide + 1))


def _smooth_round(values: F32 | F64, wide: int) -> F64:
    """Average round the first axis over `wide` neighbours on both sides, from the end back to the start."""
    total = np.zeros_like(values, dtype=np.float64)
    for k in range(-wide, wide + 1):
        total += np.roll(values, k, axis=0)
    return total / (2 * wide + 1)
