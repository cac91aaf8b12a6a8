"""Flight feathers: an ordered fan between a first and a last feather."""

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.curves import line_length, resample
from foxpath.core.feathers.feathers import POINTS, Feathers

MOST = 40
LAP = 1.5
"""Width of a feather over the gap to its neighbour: they overlap."""
SLIMMEST, BROADEST = 0.06, 0.3
"""Least and most width of a flight feather, as a share of its length."""


def _local(stroke: Points) -> tuple[Points, float, float]:
    """Return a stroke in its own frame (unit length, along x), its angle and its length."""
    line = resample(stroke, POINTS)
    span = line[-1] - line[0]
    angle, size = float(np.arctan2(span[1], span[0])), max(float(np.hypot(*span)), 1e-6)
    c, s = np.cos(-angle), np.sin(-angle)
    return (line - line[0]) @ np.array([[c, -s], [s, c]]).T / size, angle, size


def fan_feathers(first: Points, last: Points, count: int, mm_per_px: float, barb_deg: float = 25.0) -> Feathers:
    """Return `count` feathers from the first to the last; the first lies on top.

    Roots, lengths, angles and bends run evenly from one to the other; the fan opens the shorter way round.

    Parameters
    ----------
    first, last : (N, 2) float64
        Strokes along the two outermost feathers, root to tip, reference pixels.
    count : int
        2 to `MOST`.
    mm_per_px : float
    barb_deg : float
        Between shaft and barbs: flight feathers' barbs lie close.

    Raises
    ------
    ValueError
        For a count out of range.
    """
    if not 2 <= count <= MOST:
        raise ValueError(f"a fan has 2 to {MOST} feathers, got {count}")
    (a_line, a_angle, a_size), (b_line, b_angle, b_size) = _local(first), _local(last)
    turn = (b_angle - a_angle + np.pi) % (2 * np.pi) - np.pi
    s = np.linspace(0, 1, count)
    angle, size = a_angle + turn * s, a_size + (b_size - a_size) * s
    root = first[0] + (last[0] - first[0]) * s[:, None]
    local = a_line + (b_line - a_line) * s[:, None, None]
    c, n = np.cos(angle), np.sin(angle)
    spun = np.stack(
        [c[:, None] * local[..., 0] - n[:, None] * local[..., 1], n[:, None] * local[..., 0] + c[:, None] * local[..., 1]],
        axis=-1,
    )  # fmt: skip
    shaft = root[:, None] + spun * size[:, None, None]
    length = np.array([line_length(line) for line in shaft]) * mm_per_px
    middles = shaft[:, int(0.65 * POINTS)]
    gap = np.gradient(middles, axis=0)
    width = np.clip(LAP * np.hypot(*gap.T) * mm_per_px, SLIMMEST * length, BROADEST * length)
    ones: F32 = np.ones(count, np.float32)
    return Feathers(
        shaft.astype(np.float32),
        length.astype(np.float32),
        width.astype(np.float32),
        np.arange(count, dtype=np.int32),
        ones,
        ones > 0,
        barb_deg,
    )
