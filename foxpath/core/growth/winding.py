"""How often an axis turns round a place: what tells crowns, loops and deltas from running hair."""

import numpy as np

from foxpath.core.arrays import F32, Bool, Points

MERGE = 0.05
"""Half turns nearer than this share of the grid's longer side belong together: smoothing splits a crown in two."""
HEART = 0.028
"""Radius of the heart of a crown, as a share of the longer side."""
MOST = 400
_SHUT = 0.97


def turns(angle: F32, inside: Bool) -> Points:
    """Return (N, 3): x, y on cell corners and how often the axis turns round there, in half turns."""

    def step(a: F32, b: F32) -> F32:
        return np.asarray((b - a + np.pi / 2) % np.pi - np.pi / 2)

    a, b, c, d = angle[:-1, :-1], angle[:-1, 1:], angle[1:, 1:], angle[1:, :-1]
    total = step(a, b) + step(b, c) + step(c, d) + step(d, a)
    whole = inside[:-1, :-1] & inside[:-1, 1:] & inside[1:, 1:] & inside[1:, :-1]
    half = np.where(whole, np.round(total / np.pi), 0)
    i, j = np.nonzero(half)
    return np.stack([j + 1.0, i + 1.0, half[i, j]], axis=1)


def joined_turns(points: Points, reach: float) -> list[tuple[float, float, float]]:
    """Join the nearest turns first; opposite ones go out.

    Parameters
    ----------
    points : (N, 3) float64
        As `turns` returns them; of `MOST` and more nothing is made: that is noise.
    reach : float
        How near they must lie, cells.
    """
    if len(points) >= MOST:
        return []
    left = [(float(x), float(y), float(s), 1.0) for x, y, s in points]
    while len(left) > 1:
        at = np.array([p[:2] for p in left])
        gap = np.hypot(*(at[:, None] - at[None]).transpose(2, 0, 1))
        np.fill_diagonal(gap, np.inf)
        i, j = sorted(int(k) for k in np.unravel_index(int(gap.argmin()), gap.shape))
        if gap[i, j] > reach:
            break
        a, b = left[i], left[j]
        weight = a[3] + b[3]
        left = [p for k, p in enumerate(left) if k not in (i, j)]
        if a[2] + b[2] != 0:
            x, y = ((a[k] * a[3] + b[k] * b[3]) / weight for k in (0, 1))
            left.append((x, y, a[2] + b[2], weight))
    return [p[:3] for p in left]


def round_hearts(angle: F32, quality: F32, inside: Bool, long_side: int) -> F32:
    """Return how good cells are to pass through, less in the hearts of crowns: root and tip go round them.

    There the axis, smoothed, runs straight through from one side to the other, where tips point away on both.

    Parameters
    ----------
    angle, quality : (h, w) float32
        Axes, radians, and how good a cell is to pass through, 0 to 1.
    inside : (h, w) bool
    long_side : int
        Cells of the whole grid's longer side.
    """
    y, x = np.mgrid[0 : angle.shape[0], 0 : angle.shape[1]].astype(np.float32) + np.float32(0.5)
    made = quality
    for cx, cy, half in joined_turns(turns(angle, inside), MERGE * long_side):
        if half >= 2:
            away = ((x - np.float32(cx)) ** 2 + (y - np.float32(cy)) ** 2) / np.float32(HEART * long_side) ** 2
            made = made * (1 - np.float32(_SHUT) * np.exp(-(away**2)))
    return np.asarray(made, dtype=np.float32)
