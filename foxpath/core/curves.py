"""Smooth curves through points, arc length, and points against outlines."""

import numpy as np

from foxpath.core.arrays import F64, Points


def _catmull(points: Points, per_span: int) -> Points:
    """Sample Catmull-Rom spans between the second and the second-last control point."""
    t = (np.arange(per_span) / per_span)[:, None]
    p0, p1, p2, p3 = (points[i : len(points) - 3 + i, None, :] for i in range(4))
    t2, t3 = t * t, t * t * t
    curve = 0.5 * (2 * p1 + (p2 - p0) * t + (2 * p0 - 5 * p1 + 4 * p2 - p3) * t2 + (3 * p1 - p0 - 3 * p2 + p3) * t3)
    return np.asarray(curve.reshape(-1, 2), dtype=np.float64)


def closed_curve(points: Points, per_span: int = 12) -> Points:
    """Sample the closed smooth outline through points.

    Parameters
    ----------
    points : (N, 2) float64, N >= 3
    per_span : int
        Samples between two neighbouring points.

    Returns
    -------
    (N * per_span, 2) float64
        The first sample is the first point; the last is not repeated.
    """
    return _catmull(np.vstack([points[-1:], points, points[:2]]), per_span)


def open_curve(points: Points, per_span: int = 12) -> Points:
    """Sample the smooth curve from the first point to the last, both included."""
    if len(points) < 3:
        return points.copy()
    ends = np.vstack([2 * points[:1] - points[1:2], points, 2 * points[-1:] - points[-2:-1]])
    return np.vstack([_catmull(ends, per_span), points[-1:]])


def arc_length(points: Points) -> F64:
    """Return the (N,) length along a polyline up to each point, starting with 0."""
    steps = np.hypot(*np.diff(points, axis=0).T)
    return np.concatenate([[0.0], np.cumsum(steps)])


def resample(points: Points, count: int) -> Points:
    """Return `count` points evenly spaced along a polyline, ends kept."""
    along = arc_length(points)
    at = np.linspace(0, along[-1], count)
    return np.stack([np.interp(at, along, points[:, k]) for k in (0, 1)], axis=1)


def simplify(points: Points, tolerance: float) -> Points:
    """Drop points of a drawn stroke that lie within `tolerance` of the line through their neighbours.

    The method is that of Ramer (1972), doi:10.1016/S0146-664X(72)80017-0.
    """
    keep = np.zeros(len(points), bool)
    keep[[0, -1]] = True
    todo = [(0, len(points) - 1)]
    while todo:
        a, b = todo.pop()
        if b - a < 2:
            continue
        span = points[b] - points[a]
        rel = points[a + 1 : b] - points[a]
        length = float(np.hypot(*span))
        off = np.abs(rel[:, 0] * span[1] - rel[:, 1] * span[0]) / length if length > 1e-9 else np.hypot(*rel.T)
        worst = int(np.argmax(off))
        if off[worst] > tolerance:
            middle = a + 1 + worst
            keep[middle] = True
            todo += [(a, middle), (middle, b)]
    return points[keep]


def inside(outline: Points, x: F64, y: F64) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    """Tell which of the (N,) points lie inside a closed polyline (even-odd rule)."""
    x, y = np.atleast_1d(x), np.atleast_1d(y)
    a, b = outline, np.roll(outline, -1, axis=0)
    crosses = (a[:, 1] > y[:, None]) != (b[:, 1] > y[:, None])
    rise = b[:, 1] - a[:, 1]
    at = a[:, 0] + (y[:, None] - a[:, 1]) * (b[:, 0] - a[:, 0]) / np.where(rise == 0, 1, rise)
    hits = (crosses & (x[:, None] < at)).sum(axis=1)
    return np.asarray(hits % 2 == 1)


def nearest_on(points: Points, at: Points, *, closed: bool) -> tuple[int, float, Points]:
    """Find the nearest place on a polyline.

    Returns
    -------
    index : int
        The segment's first point.
    distance : float
    place : (2,) float64
    """
    a = points if closed else points[:-1]
    b = np.roll(points, -1, axis=0) if closed else points[1:]
    span = b - a
    t = np.clip(((at - a) * span).sum(1) / np.maximum((span * span).sum(1), 1e-12), 0, 1)
    place = a + span * t[:, None]
    gap = np.hypot(*(place - at).T)
    index = int(np.argmin(gap))
    return index, float(gap[index]), place[index]


def signed_area(points: Points) -> float:
    """Return the area that an outline of (N, 2) points encloses: positive when it runs clockwise as seen (y down)."""
    x, y = points.T
    return float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) / 2


def line_length(points: Points) -> float:
    """Return the length of a polyline of (N, 2) points."""
    return float(np.hypot(*np.diff(points, axis=0).T).sum())


def outward_normals(outline: Points) -> Points:
    """Return unit vectors out of a closed outline of (N, 2) points at each of them, whichever way round it runs."""
    ahead = np.roll(outline, -1, axis=0) - np.roll(outline, 1, axis=0)
    out = np.stack([ahead[:, 1], -ahead[:, 0]], axis=1) / (np.hypot(*ahead.T)[:, None] + 1e-9)
    return np.asarray(out if signed_area(outline) >= 0 else -out)


def normals(points: Points) -> Points:
    """Return unit vectors across a polyline, (N, 2): to its right as seen by who walks along it (y down)."""
    step = np.gradient(points, axis=0)
    return np.asarray(np.stack([-step[:, 1], step[:, 0]], axis=1) / (np.hypot(*step.T)[:, None] + 1e-9))
