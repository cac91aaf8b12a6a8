"""Pictures of notes: read from a file beside the window, and shown small on the bench."""

from dataclasses import dataclass
from pathlib import Path

from PySide6.QtCore import QBuffer, QByteArray, QRectF, QSize, Qt
from PySide6.QtGui import QImage, QImageReader, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.reporting import Progress
from foxpath.document.archive import picture_bytes
from foxpath.document.model import Reference
from foxpath.document.photos import kept_photo
from foxpath.window.look import draw

PICTURES = "Pictures (*.png *.jpg *.jpeg *.webp *.tif *.tiff *.bmp)"
TALL = 150


@dataclass(frozen=True, slots=True)
class ReadPicture:
    """Read a picture as it is kept: upright, and no larger than it serves."""

    path: Path

    def __call__(self, progress: Progress) -> Reference:
        """Return its record. Raises `AppError`."""
        progress.at(0, f"reading {self.path.name}")
        return kept_photo(self.path.name, picture_bytes(self.path))


class Thumb(QWidget):
    """A picture, as large as the bench has room for; hidden without one."""

    def __init__(self) -> None:
        super().__init__()
        self._image: QImage | None = None
        self._digest = ""
        self.setVisible(False)

    def show_picture(self, picture: Reference | None, words: str = "") -> None:
        """Show a picture."""
        self.setVisible(picture is not None)
        self.setFixedHeight(TALL if picture is not None else 0)
        self.setAccessibleName(f"picture: {words or picture.name}" if picture is not None else "")
        if picture is None or picture.digest == self._digest:
            return
        self._digest = picture.digest
        held = QBuffer()
        held.setData(QByteArray(picture.data))
        held.open(QBuffer.OpenModeFlag.ReadOnly)
        reader = QImageReader(held)
        size = reader.size()
        # Decoded small: a camera's own file would hold the window up.
        reader.setScaledSize(size.scaled(QSize(640, 2 * TALL), Qt.AspectRatioMode.KeepAspectRatio))
        self._image = reader.read()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._image is None or self._image.isNull():
            return
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            room = QRectF(6, 4, self.width() - 12, self.height() - 8)
            size = self._image.size().scaled(room.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio)
            place = QRectF(room.left(), room.top(), size.width(), size.height())
            draw.rounded(p, place.adjusted(-2, -2, 2, 2), 4, "well")
            p.drawImage(place, self._image)
