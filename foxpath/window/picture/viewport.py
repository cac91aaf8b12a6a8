"""The one map between reference pixels and the screen; every overlay and every gesture goes through it."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QTransform

from foxpath.core.arrays import F64, Points
from foxpath.core.frame import Crop

CLOSEST = 24.0
"""Most screen pixels for one reference pixel."""


class Viewport:
    """Scale, place and mirroring of what is shown.

    The part shown (`region`, reference pixels) is fitted into the `room` on the screen; zooming and
    panning change `scale` and `centre` (the reference pixel in the middle of the room).
    """

    def __init__(self) -> None:
        self.region = Crop(0, 0, 100, 80)
        self.room = QRectF(0, 0, 100, 80)
        self.scale = 1.0
        self.centre = (50.0, 40.0)
        self.mirrored = False
        self.upside_down = False
        self.fitted = True

    def fit(self) -> None:
        """Show the whole region, with a little well all round."""
        room = self.room.adjusted(12, 12, -12, -12)
        self.scale = max(1e-3, min(room.width() / self.region.width, room.height() / self.region.height))
        self.centre = (self.region.x + self.region.width / 2, self.region.y + self.region.height / 2)
        self.fitted = True

    def resize(self, room: QRectF) -> None:
        """Take another room; a fitted view stays fitted."""
        self.room = room
        if self.fitted:
            self.fit()

    def _signs(self) -> tuple[float, float]:
        return (-1.0 if self.mirrored else 1.0), (-1.0 if self.upside_down else 1.0)

    def affine(self) -> F64:
        """Return the (2, 3) map from reference pixels to screen pixels."""
        sx, sy = self._signs()
        kx, ky = sx * self.scale, sy * self.scale
        middle = self.room.center()
        return np.array([[kx, 0, middle.x() - kx * self.centre[0]], [0, ky, middle.y() - ky * self.centre[1]]])

    def transform(self) -> QTransform:
        """Return the same map for a painter."""
        a = self.affine()
        return QTransform(a[0, 0], 0, 0, a[1, 1], a[0, 2], a[1, 2])

    def to_screen(self, points: Points) -> F64:
        """Map (N, 2) reference pixels to the screen."""
        a = self.affine()
        return np.asarray(points * np.array([a[0, 0], a[1, 1]]) + a[:, 2], dtype=np.float64)

    def at(self, point: tuple[float, float]) -> QPointF:
        """Map one reference pixel to the screen."""
        x, y = self.to_screen(np.array([point]))[0]
        return QPointF(x, y)

    def to_reference(self, place: QPointF) -> tuple[float, float]:
        """Map a place on the screen to reference pixels."""
        a = self.affine()
        return float((place.x() - a[0, 2]) / a[0, 0]), float((place.y() - a[1, 2]) / a[1, 1])

    def zoom(self, factor: float, place: QPointF) -> None:
        """Zoom by a factor, keeping what lies under `place` where it is."""
        fixed = self.to_reference(place)
        least = 0.5 * min(self.room.width() / self.region.width, self.room.height() / self.region.height)
        self.scale = min(max(self.scale * factor, least), CLOSEST)
        now = self.to_reference(place)
        self.centre = (self.centre[0] + fixed[0] - now[0], self.centre[1] + fixed[1] - now[1])
        self.fitted = False
        self._hold()

    def pan(self, by: QPointF) -> None:
        """Move the picture by screen pixels."""
        sx, sy = self._signs()
        self.centre = (self.centre[0] - sx * by.x() / self.scale, self.centre[1] - sy * by.y() / self.scale)
        self.fitted = False
        self._hold()

    def show(self, point: tuple[float, float], scale: float | None = None) -> None:
        """Bring a reference pixel to the middle, at least at a scale."""
        if scale is not None:
            self.scale = min(max(scale, self.scale), CLOSEST)
        self.centre = point
        self.fitted = False
        self._hold()

    def _hold(self) -> None:
        """Never lose the picture: its middle stays within the region."""
        r = self.region
        self.centre = (
            min(max(self.centre[0], r.x), r.x + r.width),
            min(max(self.centre[1], r.y), r.y + r.height),
        )

    def region_on_screen(self) -> QRectF:
        """Return where the region lies on the screen."""
        return self.crop_on_screen(self.region)

    def crop_on_screen(self, crop: Crop) -> QRectF:
        """Return where a crop lies on the screen."""
        a, b = self.at((crop.x, crop.y)), self.at((crop.x + crop.width, crop.y + crop.height))
        return QRectF(a, b).normalized()
