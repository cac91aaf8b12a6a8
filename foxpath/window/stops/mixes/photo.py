"""A photograph of a dab beside a grey card: click the card, then the dab."""

from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QDialog, QVBoxLayout, QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.errors import AppError
from foxpath.core.mixes.dab import dab_lab
from foxpath.core.mixes.tubes import Triple
from foxpath.core.reference import read_picture
from foxpath.window.bench.rows import Words
from foxpath.window.look import draw
from foxpath.window.picture.view import image_of

SIDE = 640
RADIUS_SHARE = 0.012
"""Radius of a spot, as a share of the photograph's longer side."""


class _Photo(QWidget):
    clicked = Signal(float, float)

    def __init__(self, rgb: Rgb8) -> None:
        super().__init__()
        self._image = image_of(rgb)
        self.spots: list[tuple[float, float]] = []
        scale = SIDE / max(rgb.shape[:2])
        self.setFixedSize(round(rgb.shape[1] * scale), round(rgb.shape[0] * scale))
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setAccessibleName("the photograph")
        self.scale = scale

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.clicked.emit(event.position().x() / self.scale, event.position().y() / self.scale)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            p.drawImage(QRectF(self.rect()), self._image)
            for x, y in self.spots:
                at = QPointF(x * self.scale, y * self.scale)
                r = max(5.0, RADIUS_SHARE * SIDE)
                draw.circle(p, at.x(), at.y(), r, "", "over_dark", 3)
                draw.circle(p, at.x(), at.y(), r, "", "over_light", 1.5)


class DabDialog(QDialog):
    """Reads a dab from a photograph. Raises `AppError` when that cannot be opened."""

    read = Signal(object)
    """Its CIELAB."""

    def __init__(self, path: Path, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        try:
            data = path.read_bytes()
        except OSError as failure:
            raise AppError(
                f"{path.name} could not be read: {(failure.strerror or '').lower()}.", "Choose another."
            ) from None
        self.setWindowTitle("The dab")
        self._rgb = read_picture(data, path.name).rgb
        self.photo = _Photo(self._rgb)
        self.photo.clicked.connect(self.click)
        self.words = Words("Click the grey card.", 14, "text")
        layout = QVBoxLayout(self)
        layout.addWidget(self.words)
        layout.addWidget(self.photo)

    def click(self, x: float, y: float) -> None:
        """Take the card, then the dab."""
        spots = self.photo.spots
        if len(spots) == 2:
            spots.clear()
        spots.append((x, y))
        self.photo.update()
        if len(spots) == 1:
            self.words.set_words("Now the dab, where it does not shine.")
            return
        try:
            lab = dab_lab(self._rgb, spots[0], spots[1], RADIUS_SHARE * max(self._rgb.shape[:2]))
        except AppError as failure:
            spots.clear()
            self.words.set_words(f"{failure} Click the grey card.")
            return
        seen: Triple = (float(lab[0]), float(lab[1]), float(lab[2]))
        self.read.emit(seen)
        self.accept()
