"""An outline drawn round an area of the picture by dragging."""

import numpy as np
from PySide6.QtGui import QPainter, QPainterPath

from foxpath.core.arrays import Points
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.on_picture import Point

MOST_POINTS = 60
"""Of an outline: a hand draws no more."""


class Lasso:
    """What is being drawn round; nothing is, until `begin`."""

    def __init__(self) -> None:
        self._points: list[Point] = []

    def __bool__(self) -> bool:
        return bool(self._points)

    def begin(self, at: Point) -> None:
        """Put the pen down, at a reference pixel."""
        self._points = [at]

    def drag(self, at: Point) -> bool:
        """Draw on; return whether anything is being drawn."""
        if self._points:
            self._points.append(at)
        return bool(self._points)

    def drop(self) -> None:
        """Forget what was drawn."""
        self._points = []

    def lift(self) -> Points | None:
        """Lift the pen: return the outline, (n, 2) reference pixels, or None where nothing was drawn round."""
        points, self._points = self._points, []
        return np.array(points[:: max(1, len(points) // MOST_POINTS)]) if len(points) >= 3 else None

    def paint(self, p: QPainter, view: Viewport) -> None:
        """Draw it as far as it has come."""
        if len(self._points) > 1:
            path = QPainterPath(view.at(self._points[0]))
            for point in self._points[1:]:
                path.lineTo(view.at(point))
            draw.cased_path(p, path)
