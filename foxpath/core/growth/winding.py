"""How often an axis turns round a place: what tells crowns, loops and deltas from running hair."""

import numpy as np

from foxpath.core.arrays import F32, Bool, Points

MERGE = 0.05
"""Half turns nearer than this share of the grid's longer side belong together: smoothing splits a crown in two."""
HEART = 0.028
"""Radius of the heart of a crown, at which it is judged, as a share of the longer side."""
MOST = 400
_SHUT = 0.97


def turns(angle: F32, inside: Bool) -> Points:
    """Return (N, 3): x, y on cell corners and how often the axis turns round there, in half turns."""

    def step(a: F32, b: F32) -> F32:
        turn = b - a
        return np.asarray(turn - np.float32(np.pi) * np.rint(turn / np.float32(np.pi)))

    # Round each corner from upper left, clockwise: on its right side down, below it back.
    across, down = step(angle[:, :-1], angle[:, 1:]), step(angle[:-1], angle[1:])
    total = across[:-1] + down[:, 1:] - across[1:] - down[:, :-1]
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
    at, half, weight = points[:, :2].astype(np.float64), points[:, 2].astype(np.float64), np.ones(len(points))
    gap = np.hypot(*(at[:, None] - at[None]).transpose(2, 0, 1))
    np.fill_diagonal(gap, np.inf)
    left = np.ones(len(points), bool)
    while left.any():
        i, j = (int(k) for k in np.unravel_index(int(gap.argmin()), gap.shape))
        if not gap[i, j] <= reach:
            break
        # The first of two becomes both, unless they go out.
        at[i] = (at[i] * weight[i] + at[j] * weight[j]) / (weight[i] + weight[j])
        half[i], weight[i] = half[i] + half[j], weight[i] + weight[j]
        left[j], left[i] = False, half[i] != 0
        gap[j] = gap[:, j] = np.inf
        away = np.where(left, np.hypot(*(at - at[i]).T), np.inf) if left[i] else np.inf
        gap[i] = gap[:, i] = away
        gap[i, i] = np.inf
    return [(float(x), float(y), float(h)) for (x, y), h in zip(at[left], half[left], strict=True)]


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
    y, x = np.ogrid[0.5 : angle.shape[0], 0.5 : angle.shape[1]]
    made = quality.astype(np.float64)
    for cx, cy, half in joined_turns(turns(angle, inside), MERGE * long_side):
        if half >= 2:
            away = ((x - cx) ** 2 + (y - cy) ** 2) / (HEART * long_side) ** 2
            made = made * (1 - _SHUT * np.exp(-(away**2)))
    return np.asarray(made, dtype=np.float32)
