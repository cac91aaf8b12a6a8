"""A photograph of dabs beside a grey card: click the card, then the dabs."""

from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QDialog, QVBoxLayout, QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.errors import AppError
from foxpath.core.mixes.dab import dab_lab
from foxpath.core.mixes.tubes import Triple
from foxpath.core.reference import read_picture
from foxpath.document import archive
from foxpath.window.bench.rows import Words
from foxpath.window.look import draw
from foxpath.window.picture.view import image_of

PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.heic)"
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
    """Reads dabs from a photograph, one after the other. Raises `AppError` when that cannot be opened.

    Parameters
    ----------
    path : Path
    dabs : tuple of str
        What is clicked after the grey card, e.g. "the dab".
    """

    read = Signal(object)
    """CIELAB of the dab; of several, a tuple of them."""

    def __init__(self, path: Path, dabs: tuple[str, ...] = ("the dab",), parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.dabs = dabs
        data = archive.picture_bytes(path)
        self.setWindowTitle("The dab")
        self._rgb = read_picture(data, path.name).rgb
        self.photo = _Photo(self._rgb)
        self.photo.clicked.connect(self.click)
        self.words = Words("Click the grey card.", 14, "text")
        layout = QVBoxLayout(self)
        layout.addWidget(self.words)
        layout.addWidget(self.photo)

    def click(self, x: float, y: float) -> None:
        """Take the card, then each dab."""
        spots = self.photo.spots
        spots.append((x, y))
        self.photo.update()
        if len(spots) <= len(self.dabs):
            self.words.set_words(f"Now {self.dabs[len(spots) - 1]}, where it does not shine.")
            return
        radius = RADIUS_SHARE * max(self._rgb.shape[:2])
        try:
            found = [dab_lab(self._rgb, spots[0], spot, radius) for spot in spots[1:]]
        except AppError as failure:
            spots.clear()
            self.photo.update()
            self.words.set_words(f"{failure} Click the grey card.")
            return
        seen: list[Triple] = [(float(lab[0]), float(lab[1]), float(lab[2])) for lab in found]
        self.read.emit(seen[0] if len(seen) == 1 else tuple(seen))
        self.accept()
