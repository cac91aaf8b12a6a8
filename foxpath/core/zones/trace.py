"""A line that follows the picture's own edge from one click to the next.

The cheapest way over a map of edges, after Mortensen and Barrett (1995), "Intelligent scissors for image composition",
doi:10.1145/218380.218442, as OpenCV has it.
"""

from typing import Any

import numpy as np

from foxpath.core.arrays import Points, Rgb8
from foxpath.core.curves import resample, simplify

CELLS = 640
"""Cells along the longer side of what is looked at."""
HAIR = (4, 14)
"""Reach in cells, and in steps of a byte, within which hair is evened out, so that the line does not follow hairs."""
SPACING = 11.0
"""Cells between points of what was traced."""


class Tracer:
    """The picture's edges around a first click, ready to be followed.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        The picture, of any resolution.
    size : (width, height)
        What the whole picture measures in reference pixels.
    start : (x, y)
        Reference pixels.
    room : float
        How far around the start is looked, reference pixels.
    """

    def __init__(self, rgb: Rgb8, size: tuple[float, float], start: tuple[float, float], room: float) -> None:
        import cv2

        scale = np.array(rgb.shape[1::-1]) / np.array(size, np.float64)
        low = np.clip(np.floor((np.array(start) - room) * scale), 0, np.array(rgb.shape[1::-1]) - 8).astype(int)
        high = np.clip(np.ceil((np.array(start) + room) * scale), low + 8, rgb.shape[1::-1]).astype(int)
        part = rgb[low[1] : high[1], low[0] : high[0]]
        shrink = min(1.0, CELLS / max(part.shape[:2]))
        columns, rows = (max(8, round(n * shrink)) for n in (part.shape[1], part.shape[0]))
        small = np.asarray(cv2.resize(part, (columns, rows), interpolation=cv2.INTER_AREA), np.uint8)
        even = np.asarray(cv2.pyrMeanShiftFiltering(small, *HAIR), np.uint8)
        self._corner, self._cell = low / scale, (high - low) / scale / (columns, rows)
        self._shape = (columns, rows)
        self.start = start
        # The library's own stubs do not know this class.
        self._scissors: Any = cv2.segmentation.IntelligentScissorsMB()
        self._scissors.setEdgeFeatureCannyParameters(24, 72)
        self._scissors.setGradientMagnitudeMaxLimit(120)
        self._scissors.applyImage(even)
        self._scissors.buildMap(self._pixel(start))

    def _pixel(self, at: tuple[float, float]) -> tuple[int, int]:
        x, y = (np.array(at) - self._corner) / self._cell
        return int(np.clip(x, 0, self._shape[0] - 1)), int(np.clip(y, 0, self._shape[1] - 1))

    def reaches(self, at: tuple[float, float]) -> bool:
        """Tell whether a place lies within what was looked at."""
        x, y = (np.array(at) - self._corner) / self._cell
        return bool(0 <= x < self._shape[0] and 0 <= y < self._shape[1])

    def path(self, at: tuple[float, float]) -> Points:
        """Return the line from the start to a place, (N, 2) reference pixels, both ends included."""
        ends = np.array([self.start, at], np.float64)
        if not self.reaches(at):
            return ends
        found = self._scissors.getContour(self._pixel(at))
        line = np.asarray(found, np.float64).reshape(-1, 2) + 0.5
        if len(line) < 3:
            return ends
        line = simplify(line, 0.9)
        line = line * self._cell + self._corner
        line[0], line[-1] = ends
        return np.asarray(line)

    def points(self, at: tuple[float, float]) -> Points:
        """Return points of the way to a place that are easy to edit, without the start."""
        line = self.path(at)
        cells = float(np.hypot(*(np.diff(line, axis=0) / self._cell).T).sum())
        return resample(line, max(2, round(cells / SPACING) + 1))[1:]
