"""The one map between reference pixels and the screen; every overlay and every gesture goes through it."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QImage, QPainter, QTransform

from foxpath.core.arrays import F64, Points
from foxpath.core.frame import Crop

CLOSEST = 24.0
"""Most screen pixels for one reference pixel."""


def transform_of(affine: F64) -> QTransform:
    """Return a (2, 3) map for a painter."""
    (a, b, x), (c, d, y) = affine.tolist()
    return QTransform(a, c, b, d, x, y)


def place(p: QPainter, view: "Viewport", image: QImage, crop: Crop) -> None:
    """Draw an image over a crop of the reference, as a view shows it; only what is seen is scaled."""
    seen = view.shown(crop)
    if seen is None:
        return
    kx, ky = image.width() / crop.width, image.height() / crop.height
    p.save()
    p.setTransform(view.transform(), True)
    source = QRectF((seen.x - crop.x) * kx, (seen.y - crop.y) * ky, seen.width * kx, seen.height * ky)
    p.drawImage(QRectF(seen.x, seen.y, seen.width, seen.height), image, source)
    p.restore()


class Viewport:
    """Scale, place, turn and mirroring of what is shown.

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
        self.turns = 0
        self.fitted = True

    def _across_down(self) -> tuple[float, float]:
        """Return the region's extent across and down the screen, reference pixels."""
        width, height = self.region.width, self.region.height
        return (height, width) if self.turns % 2 else (width, height)

    def fit(self) -> None:
        """Show the whole region, with a little well all round."""
        room = self.room.adjusted(12, 12, -12, -12)
        across, down = self._across_down()
        self.scale = max(1e-3, min(room.width() / across, room.height() / down))
        self.centre = (self.region.x + self.region.width / 2, self.region.y + self.region.height / 2)
        self.fitted = True

    def resize(self, room: QRectF) -> None:
        """Take another room; a fitted view stays fitted."""
        self.room = room
        if self.fitted:
            self.fit()

    def _axes(self) -> F64:
        """Return the (2, 2) turn and mirroring: quarter turns clockwise first, then what is seen is mirrored."""
        c, s = ((1, 0), (0, 1), (-1, 0), (0, -1))[self.turns % 4]
        turn = np.array([[c, -s], [s, c]], np.float64)
        sign = np.array([[-1.0 if self.mirrored else 1.0], [-1.0 if self.upside_down else 1.0]])
        return np.asarray(turn * sign)

    def affine(self) -> F64:
        """Return the (2, 3) map from reference pixels to screen pixels."""
        turn = self._axes() * self.scale
        middle = self.room.center()
        return np.column_stack([turn, np.array([middle.x(), middle.y()]) - turn @ np.array(self.centre)])

    def transform(self) -> QTransform:
        """Return the same map for a painter."""
        return transform_of(self.affine())

    def to_screen(self, points: Points) -> F64:
        """Map (N, 2) reference pixels to the screen."""
        a = self.affine()
        return np.asarray(points @ a[:, :2].T + a[:, 2], dtype=np.float64)

    def at(self, point: tuple[float, float]) -> QPointF:
        """Map one reference pixel to the screen."""
        x, y = self.to_screen(np.array([point]))[0]
        return QPointF(x, y)

    def to_reference(self, place: QPointF) -> tuple[float, float]:
        """Map a place on the screen to reference pixels."""
        a = self.affine()
        # The axes are turned and mirrored only: their transpose takes them back.
        x, y = a[:, :2].T @ (np.array([place.x(), place.y()]) - a[:, 2]) / self.scale**2
        return float(x), float(y)

    def way(self, by: QPointF) -> tuple[float, float]:
        """Return a way on the screen as a way in reference pixels."""
        x, y = self._axes().T @ np.array([by.x(), by.y()]) / self.scale
        return float(x), float(y)

    def zoom(self, factor: float, place: QPointF) -> None:
        """Zoom by a factor, keeping what lies under `place` where it is."""
        fixed = self.to_reference(place)
        across, down = self._across_down()
        least = 0.5 * min(self.room.width() / across, self.room.height() / down)
        self.scale = min(max(self.scale * factor, least), CLOSEST)
        now = self.to_reference(place)
        self.centre = (self.centre[0] + fixed[0] - now[0], self.centre[1] + fixed[1] - now[1])
        self.fitted = False
        self._hold()

    def pan(self, by: QPointF) -> None:
        """Move the picture by screen pixels."""
        x, y = self.way(by)
        self.centre = (self.centre[0] - x, self.centre[1] - y)
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
        self.centre = (min(max(self.centre[0], r.x), r.x + r.width), min(max(self.centre[1], r.y), r.y + r.height))

    def region_on_screen(self) -> QRectF:
        """Return where the region lies on the screen."""
        return self.crop_on_screen(self.region)

    def crop_on_screen(self, crop: Crop) -> QRectF:
        """Return where a crop lies on the screen."""
        a, b = self.at((crop.x, crop.y)), self.at((crop.x + crop.width, crop.y + crop.height))
        return QRectF(a, b).normalized()

    def shown(self, crop: Crop) -> Crop | None:
        """Return the part of a crop that lies within the room, reference pixels; None when it is out of sight."""
        a, b = self.to_reference(self.room.topLeft()), self.to_reference(self.room.bottomRight())
        x0, x1 = max(min(a[0], b[0]), crop.x), min(max(a[0], b[0]), crop.x + crop.width)
        y0, y1 = max(min(a[1], b[1]), crop.y), min(max(a[1], b[1]), crop.y + crop.height)
        return Crop(x0, y0, x1 - x0, y1 - y0) if x1 > x0 and y1 > y0 else None
