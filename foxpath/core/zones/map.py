"""Fill outlines into a map of zones: at each cell the front-most zone wins."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Bool, Labels, Points, frozen
from foxpath.core.curves import closed_curve
from foxpath.core.frame import Frame


@dataclass(frozen=True, slots=True, eq=False)
class ZoneShape:
    """What the map needs of a zone.

    Attributes
    ----------
    points : (N, 2) float64
        The points of its smooth closed outline, reference pixels; empty means everywhere.
    depth : int
        Rank from the back: the higher lies in front.
    cover : bool
        False for zones that hide nothing (whiskers).
    """

    points: Points
    depth: int
    cover: bool = True

    def outline(self, per_span: int = 12) -> Points:
        """Return the smooth outline as a closed polyline, reference pixels."""
        return closed_curve(self.points, per_span) if len(self.points) >= 3 else self.points


def fill(polygon: Points, shape: tuple[int, int]) -> Bool:
    """Fill a closed polyline (grid units): True where a cell's centre lies inside, even-odd rule.

    Parameters
    ----------
    polygon : (N, 2) float64
    shape : (rows, columns)

    Returns
    -------
    (rows, columns) bool
    """
    rows, columns = shape
    a, b = polygon, np.roll(polygon, -1, axis=0)
    flip = a[:, 1] > b[:, 1]
    top, low = np.where(flip[:, None], b, a), np.where(flip[:, None], a, b)
    first = np.clip(np.ceil(top[:, 1] - 0.5), 0, rows).astype(np.int64)
    last = np.clip(np.ceil(low[:, 1] - 0.5), 0, rows).astype(np.int64)
    count = np.maximum(last - first, 0)
    side = np.repeat(np.arange(len(a)), count)
    row = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count) + first[side]
    rise = np.maximum(low[:, 1] - top[:, 1], 1e-12)
    slope = (low[:, 0] - top[:, 0]) / rise
    at = top[side, 0] + (row + 0.5 - top[side, 1]) * slope[side]
    column = np.clip(np.ceil(at - 0.5), 0, columns).astype(np.int64)
    toggles = np.zeros((rows, columns + 1), np.int32)
    np.add.at(toggles, (row, column), 1)
    return np.asarray(np.cumsum(toggles[:, :columns], axis=1) % 2 == 1)


def label_map(shapes: Sequence[ZoneShape], frame: Frame) -> Labels:
    """Return the index of the front-most covering zone at every cell, -1 where there is none.

    A zone with fewer than three points covers everything (a background). Of two zones with the same
    depth the later one lies in front.
    """
    labels = np.full(frame.shape, -1, np.int16)
    for index in sorted(range(len(shapes)), key=lambda k: (shapes[k].depth, k)):
        shape = shapes[index]
        if not shape.cover:
            continue
        if len(shape.points) < 3:
            labels[:] = index
        else:
            labels[fill(frame.to_grid(shape.outline()), frame.shape)] = index
    return frozen(labels)


def area_cm2(mask: Bool, frame: Frame) -> float:
    """Return the area of a mask in square centimetres on the canvas."""
    return float(mask.sum()) * frame.cell_mm**2 / 100


def inscribed_mm(mask: Bool, frame: Frame) -> float:
    """Return the width in mm of the widest disc that fits into a mask; it sets the block-in brush."""
    import cv2

    if not mask.any():
        return 0.0
    padded = np.pad(mask.astype(np.uint8), 1)
    return 2 * float(cv2.distanceTransform(padded, cv2.DIST_L2, 5).max()) * frame.cell_mm
