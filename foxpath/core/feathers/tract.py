"""Rows of feathers laid along the growth, each row over the roots of the one behind, set off against its neighbours."""

from dataclasses import dataclass, fields

import numpy as np

from foxpath.core.arrays import F32, Bool, Points
from foxpath.core.brush import trace, ways
from foxpath.core.feathers.feathers import Feathers, no_feathers
from foxpath.core.growth.field import ZoneField, laying_rank
from foxpath.core.reporting import SILENT, Progress

LEAST_CELLS = 2.2
"""Rows closer than this are too fine for the growth's grid: such feathers are hinted, none is laid."""
MOST = 6000
SHOWN = 0.72
"""Where on a feather its row's line lies: at the middle of what is seen of it, for an overlap of a half."""


@dataclass(frozen=True, slots=True)
class Tract:
    """How feathers are laid.

    Attributes
    ----------
    overlap : float
        Share of each feather's length that the row before it covers, 0.1 to 0.85.
    stagger : float
        By how much a row is set off against the one before, as a share of a feather's spacing, 0 to 0.5.
    broad : float
        Width of a feather over its length, 0.2 to 1.5.
    barb_deg : float
        Between shaft and barbs, 10 to 70.
    """

    overlap: float = 0.5
    stagger: float = 0.5
    broad: float = 0.7
    barb_deg: float = 38.0


TRACT_RANGES = {"overlap": (0.1, 0.85), "stagger": (0.0, 0.5), "broad": (0.2, 1.5), "barb_deg": (10.0, 70.0)}
_USUAL = {"contour-feather": Tract(), "covert": Tract(0.42, 0.5, 0.62, 32.0)}


@dataclass(frozen=True, slots=True)
class TractEdit:
    """What the painter decided of a tract; None keeps the default. Units as in `Tract`."""

    overlap: float | None = None
    stagger: float | None = None
    broad: float | None = None
    barb_deg: float | None = None


def tract_of(kind: str, edit: TractEdit) -> Tract:
    """Return the tract of a kind of zone with the painter's decisions over it, kept within `TRACT_RANGES`."""
    usual = _USUAL.get(kind, Tract())
    values = {}
    for one in fields(Tract):
        chosen = getattr(edit, one.name)
        least, most = TRACT_RANGES[one.name]
        values[one.name] = min(max(float(getattr(usual, one.name) if chosen is None else chosen), least), most)
    return Tract(**values)


def lay_tract(field: ZoneField, tract: Tract, length_mm: float, factor: F32, progress: Progress = SILENT) -> Feathers:
    """Lay rows of feathers over a zone.

    Rows are the levels of a potential whose slope is the growth over the depth of a row; along each row feathers
    stand at even gaps, set off against those whose tips reach it.

    Parameters
    ----------
    field : ZoneField
    tract : Tract
    length_mm : float
        A feather's length where `factor` is 1.
    factor : (h, w) float32
        Multiples of the length over the field's window.
    progress : Progress

    Returns
    -------
    Feathers
        None of them leading yet.
    """
    cell = field.frame.cell_mm
    inside = field.inside
    if not inside.any():
        return no_feathers(tract.barb_deg)
    cells = np.maximum(length_mm * factor / cell, 0.2)
    depth = cells * (1 - tract.overlap)
    gap = cells * tract.broad * 0.72
    wanted = int((1 / (depth * gap))[inside].sum())
    if float(np.median(depth[inside])) < LEAST_CELLS or wanted > MOST:
        return no_feathers(tract.barb_deg, wanted)
    rank = laying_rank(field, progress, (1 / depth).astype(np.float32))
    low, high = float(rank[inside].min()), float(rank[inside].max())
    rows: list[tuple[int, Points]] = []
    before: Points = np.zeros((0, 2))
    # From the root end: each row is set off against the tips of the one before.
    for number, level in enumerate(np.arange(low + 0.5, high + 0.3, 1.0)):
        progress.at(float((level - low) / max(high - low, 1e-6)), "laying feathers")
        here = [
            _along(line, _read(gap, line), before, tract.stagger)
            for line in _level_lines(rank, float(level), field.domain & _grown(inside), field.direction)
        ]
        row = np.concatenate([np.zeros((0, 2)), *here])
        row = row[_within(inside, row)]
        rows += [(number, at) for at in row]
        before = row
    if not rows:
        return no_feathers(tract.barb_deg, wanted)
    at = np.array([place for _, place in rows], np.float32)
    size = _read(cells, at).astype(np.float32)
    zeros = np.zeros(len(at), np.float32)
    way = ways(field.direction, at)
    root = trace(field.direction, at, -SHOWN * size, zeros, zeros, toward=way)[:, -1]
    frame = field.frame
    offset = (float(field.column), float(field.row))
    shaft = trace(field.direction, root, size, zeros, zeros, scale=frame.cell_px, shift=offset, toward=way)
    shaft = shaft + np.array([frame.crop.x, frame.crop.y], np.float32)
    length = size * np.float32(cell)
    return Feathers(
        shaft.astype(np.float32),
        length,
        length * np.float32(tract.broad),
        np.array([number for number, _ in rows], np.int32),
        _read(field.sure, at).astype(np.float32),
        np.zeros(len(at), bool),
        tract.barb_deg,
    )


def _grown(mask: Bool) -> Bool:
    import cv2

    return np.asarray(cv2.dilate(mask.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0)


def _read(field: F32, at: Points | F32) -> F32:
    height, width = field.shape
    j = np.clip(at[:, 0].astype(int), 0, width - 1)
    i = np.clip(at[:, 1].astype(int), 0, height - 1)
    return np.asarray(field[i, j], np.float32)


def _within(mask: Bool, at: Points) -> Bool:
    height, width = mask.shape
    j, i = np.floor(at[:, 0]).astype(int), np.floor(at[:, 1]).astype(int)
    there = (i >= 0) & (j >= 0) & (i < height) & (j < width)
    there[there] &= mask[i[there], j[there]]
    return np.asarray(there)


def _level_lines(rank: F32, level: float, domain: Bool, direction: F32) -> list[Points]:
    """Return the lines on which the rank passes a level, cells, each ordered across the growth."""
    import cv2
    from scipy.ndimage import gaussian_filter1d

    over = rank > level
    right = np.zeros(rank.shape, bool)
    below = np.zeros(rank.shape, bool)
    right[:, :-1] = (over[:, :-1] != over[:, 1:]) & domain[:, :-1] & domain[:, 1:]
    below[:-1] = (over[:-1] != over[1:]) & domain[:-1] & domain[1:]
    band = (right | below).astype(np.uint8)
    count, pieces = cv2.connectedComponents(band, connectivity=8)
    lines = []
    for piece in range(1, count):
        points = []
        for which, dx, dy in ((right, 1, 0), (below, 0, 1)):
            i, j = np.nonzero(which & (pieces == piece))
            a, b = rank[i, j], rank[i + dy, j + dx]
            t = (level - a) / np.where(b == a, 1e-9, b - a)
            points.append(np.stack([j + 0.5 + dx * t, i + 0.5 + dy * t], axis=1))
        line = _in_order(np.concatenate(points), direction)
        if len(line) >= 3:
            sigma = min(1.5, 0.2 * len(line))
            lines.append(np.asarray(gaussian_filter1d(line, sigma, axis=0, mode="nearest")))
    return lines


def _in_order(points: Points, direction: F32) -> Points:
    """Order the points of one line from its left end (seen along the growth) to its right, each next to its nearest."""
    if len(points) < 3:
        return points
    way = direction[points[:, 1].astype(int), points[:, 0].astype(int)]
    across = np.array([-way[:, 1].mean(), way[:, 0].mean()])
    left = int(np.argmin(points @ across))
    # The far end of the walk from any point is an end of the line, also of one that bends round.
    for _ in range(2):
        order = _walk(points, left)
        left = order[-1]
    ordered = points[order]
    return ordered if (ordered[-1] - ordered[0]) @ across >= 0 else ordered[::-1]


def _walk(points: Points, start: int) -> list[int]:
    from scipy.spatial import cKDTree

    tree = cKDTree(points)
    left = np.ones(len(points), bool)
    order, here = [start], start
    left[start] = False
    while True:
        gaps, near = tree.query(points[here], k=min(10, len(points)), distance_upper_bound=3.0)
        reached = np.asarray(near)[np.isfinite(gaps)]
        ahead = [int(k) for k in reached if left[k]]
        if not ahead:
            return order
        here = ahead[0]
        left[here] = False
        order.append(here)


def _along(line: Points, gap: F32, before: Points, stagger: float) -> Points:
    """Return places along a line, `gap` cells apart, set off by `stagger` against those of the row before."""
    steps = np.hypot(*np.diff(line, axis=0).T) / np.maximum(0.5 * (gap[1:] + gap[:-1]), 1e-6)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    total = float(along[-1])
    if total < 0.35:
        return np.zeros((0, 2))
    phase = 0.5
    if len(before):
        away = np.hypot(before[:, None, 0] - line[None, :, 0], before[:, None, 1] - line[None, :, 1])
        near = away.min(axis=1) < 3 * float(np.median(gap))
        if near.any():
            at = along[away[near].argmin(axis=1)]
            phase = float(np.angle(np.exp(2j * np.pi * at).mean()) / (2 * np.pi)) + stagger
    places = np.arange(phase % 1.0, total + 1e-9, 1.0)
    return np.stack([np.interp(places, along, line[:, k]) for k in (0, 1)], axis=1)
