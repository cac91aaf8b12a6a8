"""Find where the outline of a zone in front is seen against a zone behind."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Labels, Points
from foxpath.core.curves import line_length, outward_normals, resample
from foxpath.core.frame import Frame
from foxpath.core.zones.map import ZoneShape

SHORTEST_MM = 4.0
"""Stretches shorter than this are joints of three zones, not edges to plan."""


@dataclass(frozen=True, slots=True, eq=False)
class Border:
    """The visible border between two zones.

    Attributes
    ----------
    front, back : int
        Indices of the zones; `back` is -1 where bare canvas lies behind.
    runs : tuple of (N, 2) float64
        Its stretches, reference pixels.
    length_mm : float
    """

    front: int
    back: int
    runs: tuple[Points, ...]
    length_mm: float

    def middle(self) -> Points:
        """Return the point half way along the longest stretch, (2,) reference pixels."""
        longest = max(self.runs, key=lambda run: line_length(run))
        return np.asarray(resample(longest, 3)[1])


def _look(labels: Labels, at: Points) -> np.ndarray[tuple[int, ...], np.dtype[np.int64]]:
    """Return the label under grid points; -2 outside the canvas."""
    rows, columns = labels.shape
    j, i = np.floor(at[:, 0]).astype(int), np.floor(at[:, 1]).astype(int)
    on = (i >= 0) & (i < rows) & (j >= 0) & (j < columns)
    found = labels[np.clip(i, 0, rows - 1), np.clip(j, 0, columns - 1)].astype(np.int64)
    return np.where(on, found, -2)


def find_borders(shapes: Sequence[ZoneShape], labels: Labels, frame: Frame) -> list[Border]:
    """List every visible border, front zone against back zone, longest first.

    Each outline is walked; at every step the labels just inside and just outside it say whether the
    outline is seen there and against what.

    Parameters
    ----------
    shapes : sequence of ZoneShape
        The zones that `labels` was made from.
    labels : (rows, columns) int16
    frame : Frame
        The grid of `labels`.
    """
    order = {k: rank for rank, k in enumerate(sorted(range(len(shapes)), key=lambda k: (shapes[k].depth, k)))}
    found: dict[tuple[int, int], list[Points]] = {}
    for index, shape in enumerate(shapes):
        if not shape.cover or len(shape.points) < 3:
            continue
        outline = frame.to_grid(shape.outline())
        loop = np.vstack([outline, outline[:1]])
        count = max(16, int(line_length(loop)))
        line = resample(loop, count + 1)[:-1]
        normal = outward_normals(line)
        own = _look(labels, line - 1.5 * normal) == index
        beyond = _look(labels, line + 1.5 * normal)
        behind = np.array([b == -1 or (b >= 0 and b != index and order[int(b)] < order[index]) for b in beyond])
        key = np.where(own & behind, beyond, -9)
        for back, run in _runs(key, line):
            if line_length(run) * frame.cell_mm >= SHORTEST_MM:
                found.setdefault((index, back), []).append(frame.to_px(run))
    borders = [
        Border(front, back, tuple(runs), sum(line_length(run) for run in runs) * frame.mm_per_px)
        for (front, back), runs in found.items()
    ]
    return sorted(borders, key=lambda border: -border.length_mm)


def _runs(key: np.ndarray[tuple[int, ...], np.dtype[np.int64]], line: Points) -> list[tuple[int, Points]]:
    """Cut a closed line into stretches of equal key, leaving out key -9."""
    changes = np.flatnonzero(key != np.roll(key, 1))
    if not len(changes):
        return [] if key[0] == -9 else [(int(key[0]), np.vstack([line, line[:1]]))]
    start = int(changes[0])
    key, line = np.roll(key, -start), np.roll(line, -start, axis=0)
    cuts = [*(changes - start).tolist(), len(key)]
    return [(int(key[a]), line[a:b]) for a, b in zip(cuts[:-1], cuts[1:], strict=True) if key[a] != -9 and b - a >= 2]
