"""From lines followed cell by cell to outlines of few points that are easy to edit."""

import numpy as np

from foxpath.core.arrays import Bool, Points
from foxpath.core.curves import closed_curve, line_length, nearest_on, resample

SPACING = 9.0
"""Cells between new points of a mended outline."""
MOST_POINTS = 72
WAVER = 1.6
"""Cells by which the smooth outline may leave the line that was found."""
ON_LINE = 4.0
"""Cells within which a point of the old outline lies on the new line."""


def smooth_line(line: Points, sigma: float) -> Points:
    """Smooth a closed line, `sigma` in steps of its points."""
    from scipy.ndimage import gaussian_filter1d

    return np.asarray(gaussian_filter1d(line, sigma, axis=0, mode="wrap"))


def thinned(line: Points) -> Points:
    """Return as few evenly spaced points as keep the smooth outline near the line."""
    closed = np.vstack([line, line[:1]])
    length = line_length(closed)
    count = int(np.clip(length / 12, 8, MOST_POINTS))
    while True:
        points = resample(closed, count + 1)[:-1]
        curve = closed_curve(points, 6)
        worst = max(nearest_on(curve, at, closed=True)[1] for at in resample(closed, min(4 * count, 300))[:-1])
        if worst < WAVER or count >= MOST_POINTS:
            return points
        count = min(MOST_POINTS, round(count * 1.4))


def spliced(line: Points, kept: Points, loose: Bool) -> Points:
    """Return the kept points in their order along the line, and new ones where the border was loose.

    Parameters
    ----------
    line : (N, 2) float64
        Closed, cells.
    kept : (K, 2) float64
    loose : (H, W) bool
        Cells where the border was free to move.
    """
    places = [
        (index, tuple(at)) for at in kept for index, gap, _ in [nearest_on(line, at, closed=True)] if gap < ON_LINE
    ]
    if len(places) < 2:
        return thinned(line)
    places.sort()
    found: list[tuple[float, ...]] = []
    for (start, at), (end, _) in zip(places, [*places[1:], places[0]], strict=True):
        found.append(at)
        span = np.arange(start, end if end > start else end + len(line)) % len(line)
        cells = np.clip(np.floor(line[span]).astype(int), 0, np.array(loose.shape[::-1]) - 1)
        if len(span) > 2 and loose[cells[:, 1], cells[:, 0]].any():
            length = line_length(line[span])
            more = max(1, round(length / SPACING))
            found += [tuple(one) for one in resample(line[span], more + 2)[1:-1]]
    return np.array(found, np.float64)
