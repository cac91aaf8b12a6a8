"""The shape of a mark: a line through the growth, thick at the root, fine at the tip."""

from functools import cache

import numpy as np

from foxpath.core.arrays import F32, frozen

POINTS = 8
"""Points of a traced mark; enough for the bend of a whisker, few enough for a hundred thousand hairs."""


@cache
def hair_profile(points: int = POINTS) -> F32:
    """Return the (points,) half width of a hair along its length, 1 at its widest: soft root, fine tip."""
    t = np.linspace(0, 1, points)
    profile = (1 - t) ** 0.8 * np.minimum(1, 0.55 + 4 * t)
    profile[-1] = 0.02
    made: F32 = frozen(profile.astype(np.float32))
    return made


@cache
def blade_profile(points: int = POINTS) -> F32:
    """Return the (points,) half width of a line drawn with an edge: even, lifted at the end over its last third."""
    t = np.linspace(0, 1, points)
    profile = np.minimum(1, 0.7 + 3 * t) * np.clip((1.04 - t) / 0.38, 0.08, 1) ** 0.6
    made: F32 = frozen(profile.astype(np.float32))
    return made


@cache
def dab_profile(points: int = POINTS) -> F32:
    """Return the (points,) half width of a flat brush's mark: almost even, rounded at both ends."""
    t = np.linspace(0, 1, points)
    made: F32 = frozen(np.clip(np.minimum(0.72 + 4 * t, 0.45 + 5 * (1 - t)), 0, 1).astype(np.float32))
    return made


def trace(
    field: F32,
    start: F32,
    length: F32,
    turn: F32,
    curl: F32,
    *,
    scale: float = 1.0,
    shift: tuple[float, float] = (0.0, 0.0),
    toward: F32 | None = None,
) -> F32:
    """Trace marks through a direction field.

    Each mark follows the field (to second order, bilinear, clamped to the window), turned by `turn` all
    along and by `curl` increasingly toward the tip: by -0.3 of it at the root, 0.7 at the tip. Where root and tip change
    ends from one cell to the next, it follows the hair's axis the way it came.

    Parameters
    ----------
    field : (h, w, 2) float32
        Unit vectors on cell centres.
    start : (N, 2) float32
        Roots in grid units of the window (cell j spans j to j + 1).
    length : (N,) float32
        In cells; negative traces backwards.
    turn, curl : (N,) float32
        Radians.
    scale, shift : float, (x, y)
        What is returned is ``(grid + shift) * scale``.
    toward : (N, 2) float32, optional
        Which way the field is taken where each mark begins, as `ways` tells it; without, as the cell there points.

    Returns
    -------
    (N, 8, 2) float32
    """
    from foxpath.core.brush import _kernel_strokes as loops

    out = np.empty((len(start), POINTS, 2), np.float32)
    if len(start):
        way = ways(field, start) if toward is None else toward
        loops.trace_all(field, np.ascontiguousarray(start, np.float32), way, length, turn, curl, scale, *shift, out)
    return out


def ways(field: F32, at: F32) -> F32:
    """Return which way the cells of a (h, w, 2) field point that hold (N, 2) places, in grid units; the nearest cell beyond it."""
    rows, columns = field.shape[:2]
    j, i = np.clip(at[:, 0].astype(np.int64), 0, columns - 1), np.clip(at[:, 1].astype(np.int64), 0, rows - 1)
    return np.ascontiguousarray(field[i, j])


def outlines(
    lines: F32,
    half_width: F32,
    profile: F32,
    scale: float = 1.0,
    dx: float = 0.0,
    dy: float = 0.0,
    out: F32 | None = None,
) -> F32:
    """Return the (N, 16, 2) float32 outlines of marks, after ``line * scale + (dx, dy)``.

    Parameters
    ----------
    lines : (N, 8, 2) float32
    half_width : (N,) float32
        In the units of `lines`.
    profile : (8,) float32
        Share of the half width at each point.
    out : (N, 16, 2) float32, optional
        Where to write them.
    """
    from foxpath.core.brush import _kernel_strokes as loops

    if out is None:
        out = np.empty((lines.shape[0], 2 * lines.shape[1], 2), np.float32)
    if len(lines):
        loops.outline_all(lines, half_width, profile, float(scale), float(dx), float(dy), out)
    return out
