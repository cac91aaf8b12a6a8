"""Acts on outlines: join two parts, take one from another, cut one in two, smooth, grow or shrink.

Outlines are smooth curves through few points. Each act is done on a fine grid and brought back to points; those of the
old outlines stay where the border has not changed.
"""

from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import Bool, Points
from foxpath.core.curves import arc_length, closed_curve, nearest_on, open_curve, resample
from foxpath.core.errors import InputError
from foxpath.core.zones.map import fill
from foxpath.core.zones.outline import MOST_POINTS, smooth_line, spliced, thinned

CELLS = 640
"""Cells along the longer side of what is worked on."""
ON_LINE = 2.2
"""Cells within which a point of an old outline lies on the new line."""
LEAST_CELLS = 60
"""A piece smaller than this is a crumb, not a part."""


class _Grid:
    """A fine grid around some outlines."""

    def __init__(self, outlines: Sequence[Points], margin: float = 0.0) -> None:
        every = np.concatenate(outlines)
        low, high = every.min(axis=0) - margin, every.max(axis=0) + margin
        self.cell = max(float((high - low).max()) / CELLS, 1e-6)
        self.corner = low - 4 * self.cell
        columns, rows = np.ceil((high - low) / self.cell).astype(int) + 8
        self.shape = (int(rows), int(columns))

    def cells(self, points: Points) -> Points:
        return np.asarray((points - self.corner) / self.cell)

    def at(self, points: Points) -> Points:
        return np.asarray(points * self.cell + self.corner)

    def fill(self, outline: Points) -> Bool:
        return fill(self.cells(outline), self.shape)


def merged(a: Points, b: Points) -> Points:
    """Return the outline of two parts together.

    Raises
    ------
    InputError
        When they do not touch.
    """
    first, second = closed_curve(a), closed_curve(b)
    grid = _Grid([first, second])
    # Neighbours that were outlined side by side leave a hair's breadth between them.
    both = _closed(grid.fill(first) | grid.fill(second), 5)
    pieces = _pieces(both)
    if len(pieces) > 1:
        raise InputError("These two parts do not touch.", "Choose parts that lie side by side or overlap.")
    return _outline(grid, pieces[0], [a, b])


def subtracted(a: Points, b: Points) -> Points:
    """Return the outline of part `a` without what lies in `b`.

    Raises
    ------
    InputError
        When nothing is left, or `b` lies all within `a`.
    """
    first, second = closed_curve(a), closed_curve(b)
    grid = _Grid([first, second])
    one, other = grid.fill(first), grid.fill(second)
    if not (one & other).any():
        raise InputError("These two parts do not overlap.", "Nothing has to be taken off.")
    pieces = _pieces(one & ~other)
    if not pieces:
        raise InputError("Nothing would be left of the part.", "Remove it instead.")
    if _holed(pieces[0]):
        raise InputError("A part has no holes.", "What lies inside it hides it already: it lies in front.")
    return _outline(grid, pieces[0], [a, b])


def split(a: Points, line: Points, carry_on: tuple[bool, bool] = (False, False)) -> tuple[Points, Points]:
    """Cut a part in two along a line that runs from border to border; the two share the points of the cut.

    A line that ends just short of the border is carried on over it; with `carry_on` its first or last end is carried on
    however far that is, as where a part runs off the canvas.

    Raises
    ------
    InputError
        When the line does not cross the part.
    """
    curve = closed_curve(a)
    along = open_curve(line)
    extent = float(np.ptp(curve, axis=0).max())
    before, after = (2 * extent if far else 0.06 * extent for far in carry_on)
    along = np.vstack([_onward(along[::-1], before), along, _onward(along, after)])
    hits = _crossings(curve, along)
    if len(hits) < 2:
        raise InputError("The line does not cross the part.", "Draw it from border to border.")
    # The longest way inside, if the line crosses more than once.
    inner = max(zip(hits[:-1], hits[1:], strict=True), key=lambda pair: pair[1][1] - pair[0][1])
    (i, s, p), (j, t, q) = inner
    whole = arc_length(along)
    at = np.linspace(s, t, max(3, min(9, round(float(t - s) / (0.05 * extent)))))
    cut = np.stack([np.interp(at, whole, along[:, k]) for k in (0, 1)], axis=1)
    cut[0], cut[-1] = p, q
    per = len(curve) // len(a)
    one = _between(a, i // per, j // per)
    two = _between(a, j // per, i // per)
    return np.vstack([one, cut[::-1]]), np.vstack([two, cut])


def smoothed(a: Points) -> Points:
    """Return an outline that runs more smoothly, of no more points; its extent stays."""
    curve = closed_curve(a)
    closed = resample(np.vstack([curve, curve[:1]]), 401)[:-1]
    # A smoothing that is undone by as much as it shrinks: curves keep their size, wobbles go.
    soft = smooth_line(closed, 7.0)
    soft = soft + 0.5 * (soft - smooth_line(soft, 7.0))
    count = int(np.clip(len(a) * 0.8, 6, MOST_POINTS))
    return resample(np.vstack([soft, soft[:1]]), count + 1)[:-1]


def grown(a: Points, by_px: float) -> Points:
    """Return an outline moved outward by `by_px` (inward below 0).

    Raises
    ------
    InputError
        When nothing would be left.
    """
    import cv2

    curve = closed_curve(a)
    grid = _Grid([curve], max(by_px, 0.0) * 1.2)
    mask = grid.fill(curve)
    away = cv2.distanceTransform((~mask).astype(np.uint8), cv2.DIST_L2, 5) - cv2.distanceTransform(
        mask.astype(np.uint8), cv2.DIST_L2, 5
    )
    pieces = _pieces(np.asarray(away < by_px / grid.cell))
    if not pieces:
        raise InputError("Nothing would be left of the part.", "Shrink it by less, or remove it.")
    return _outline(grid, pieces[0], [])


def _onward(line: Points, reach: float) -> Points:
    """Return a point beyond the end of a line, in its own direction; nothing for a line without one."""
    back = line[max(len(line) - 8, 0)]
    way = line[-1] - back
    size = float(np.hypot(*way))
    return (line[-1] + way / size * reach)[None] if size > 1e-9 else line[:0]


def _crossings(curve: Points, line: Points) -> list[tuple[int, float, Points]]:
    """Return where an open line crosses a closed curve: index on the curve, length along the line, and the place."""
    a, b = curve, np.roll(curve, -1, axis=0)
    along = arc_length(line)
    found = []
    for k in range(len(line) - 1):
        p, r = line[k], line[k + 1] - line[k]
        s = b - a
        cross = r[0] * s[:, 1] - r[1] * s[:, 0]
        safe = np.where(np.abs(cross) < 1e-12, 1e-12, cross)
        rel = a - p
        t = (rel[:, 0] * s[:, 1] - rel[:, 1] * s[:, 0]) / safe
        u = (rel[:, 0] * r[1] - rel[:, 1] * r[0]) / safe
        hits = np.flatnonzero((np.abs(cross) > 1e-12) & (t >= 0) & (t < 1) & (u >= 0) & (u < 1))
        size = float(np.hypot(*r))
        found += [(int(n), float(along[k] + t[n] * size), np.asarray(p + t[n] * r)) for n in hits]
    return sorted(found, key=lambda one: one[1])


def _between(points: Points, i: int, j: int) -> Points:
    """Return a closed outline's points after span `i` up to the one that begins span `j`."""
    count = len(points)
    number = (j - i) % count
    return points[(np.arange(number) + i + 1) % count]


def _closed(mask: Bool, cells: int) -> Bool:
    import cv2

    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (cells, cells))
    return np.asarray(cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_CLOSE, kernel) > 0)


def _pieces(mask: Bool) -> list[Bool]:
    """Return the connected pieces of a mask that are more than crumbs, largest first."""
    import cv2

    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=4)
    sizes = sorted(((int(stats[k, cv2.CC_STAT_AREA]), k) for k in range(1, count)), reverse=True)
    return [np.asarray(labels == k) for size, k in sizes if size >= LEAST_CELLS]


def _contours(mask: Bool, how: int) -> Sequence[np.ndarray]:
    import cv2

    lines, _ = cv2.findContours(mask.astype(np.uint8), how, cv2.CHAIN_APPROX_NONE)
    return [line for line in lines if cv2.contourArea(line) >= LEAST_CELLS]


def _holed(mask: Bool) -> bool:
    import cv2

    return len(_contours(mask, cv2.RETR_LIST)) > len(_contours(mask, cv2.RETR_EXTERNAL))


def _outline(grid: _Grid, mask: Bool, before: Sequence[Points]) -> Points:
    """Return the outline of a mask; the points of the outlines it came from stay where they still lie on it."""
    import cv2

    lines = _contours(mask, cv2.RETR_EXTERNAL)
    line = max(lines, key=len).reshape(-1, 2).astype(np.float64) + 0.5
    line = smooth_line(line, 2.5)
    kept: list[Points] = []
    loose = np.ones(mask.shape, np.uint8)
    for points in before:
        kept += [point for point in grid.cells(points) if nearest_on(line, point, closed=True)[1] < ON_LINE]
    if len(kept) < 3:
        return grid.at(thinned(line))
    # Where the new border is an old one, its points say enough.
    for points in before:
        at = np.round(grid.cells(closed_curve(points)) * 16 - 8).astype(np.int32).reshape(-1, 1, 2)
        cv2.polylines(loose, [at], True, 0, 5, cv2.LINE_8, 4)
    joints = np.ones(mask.shape, np.uint8)
    if len(before) == 2:
        one, other = (np.zeros(mask.shape, np.uint8) for _ in range(2))
        for points, onto in zip(before, (one, other), strict=True):
            at = np.round(grid.cells(closed_curve(points)) * 16 - 8).astype(np.int32).reshape(-1, 1, 2)
            cv2.polylines(onto, [at], True, 1, 9, cv2.LINE_8, 4)
        joints = one & other
    free = np.asarray((loose > 0) | (joints > 0))
    return grid.at(spliced(line, np.array(kept), free))
