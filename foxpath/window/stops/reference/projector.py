"""The drawing thrown on the canvas: a second window, full screen, whose four corners are drawn to the canvas's own."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QCloseEvent, QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import Points
from foxpath.core.reference.transfer import Grid
from foxpath.core.units import CanvasSize
from foxpath.window.look import draw
from foxpath.window.work import recent

HANDLE = 26.0
_HELP = (
    "drag a corner · 1 to 4 and arrows · S squares · P picture · W lines white or black · R straight again · Esc closes"
)


class Projector(QWidget):
    """Black all round, the drawing in light lines; corners in order from the upper left, clockwise."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent, Qt.WindowType.Window)
        self.setWindowTitle("Fox Path on the canvas")
        self.setAccessibleName("the drawing on the canvas")
        self.canvas = CanvasSize(500, 400)
        self.lines: tuple[Points, ...] = ()
        self.grid = Grid()
        self.image: QImage | None = None
        self.squares, self.picture, self.white = False, False, True
        self.corner = 0
        self.help = True
        self._drag = -1
        self._shares: list[tuple[float, float]] | None = recent.projector_corners()
        self.setMouseTracking(True)
        self.resize(960, 640)

    def show_drawing(self, canvas: CanvasSize, lines: tuple[Points, ...], grid: Grid, image: QImage | None) -> None:
        """Show lines (mm on the canvas), its squares and its picture."""
        self.canvas, self.lines, self.grid, self.image = canvas, lines, grid, image
        self.update()

    # Corners --------------------------------------------------------------------------------------

    def corners(self) -> list[QPointF]:
        """Return where the canvas's corners lie on the screen."""
        width, height = float(self.width()), float(self.height())
        if self._shares is not None:
            return [QPointF(x * width, y * height) for x, y in self._shares]
        scale = 0.8 * min(width / self.canvas.width_mm, height / self.canvas.height_mm)
        dx, dy = scale * self.canvas.width_mm / 2, scale * self.canvas.height_mm / 2
        x, y = width / 2, height / 2
        return [QPointF(x - dx, y - dy), QPointF(x + dx, y - dy), QPointF(x + dx, y + dy), QPointF(x - dx, y + dy)]

    def move_corner(self, index: int, to: QPointF) -> None:
        """Move a corner; one that would fold the picture over stays where it was."""
        places = self.corners()
        places[index] = QPointF(min(max(to.x(), 0.0), self.width()), min(max(to.y(), 0.0), self.height()))
        if _convex(places):
            self._shares = [(q.x() / self.width(), q.y() / self.height()) for q in places]
            self.update()

    def straighten(self) -> None:
        """Lay the drawing straight into the middle of the screen."""
        self._shares = None
        self.update()

    def map(self) -> QTransform:
        """Return the map from millimetres on the canvas to the screen."""
        width, height = self.canvas.width_mm, self.canvas.height_mm
        flat = draw.polygon([(0, 0), (width, 0), (width, height), (0, height)])
        shown = draw.polygon([(q.x(), q.y()) for q in self.corners()])
        made = QTransform()
        # PySide6 returns the transform, or None when four corners give none.
        found = QTransform.quadToQuad(flat, shown)
        return found if isinstance(found, QTransform) else made

    # Events ---------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        away = [(q - event.position()).manhattanLength() for q in self.corners()]
        nearest = away.index(min(away))
        if away[nearest] < 2 * HANDLE:
            self._drag = self.corner = nearest
        self.help = False
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag >= 0:
            self.move_corner(self._drag, event.position())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag = -1

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        step = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        by = {
            Qt.Key.Key_Left: (-step, 0), Qt.Key.Key_Right: (step, 0), Qt.Key.Key_Up: (0, -step), Qt.Key.Key_Down: (0, step),
        }.get(key)  # fmt: skip
        numbers = (Qt.Key.Key_1, Qt.Key.Key_2, Qt.Key.Key_3, Qt.Key.Key_4)
        if by is not None:
            self.move_corner(self.corner, self.corners()[self.corner] + QPointF(*by))
        elif key in numbers:
            self.corner = numbers.index(key)
        elif key == Qt.Key.Key_S:
            self.squares = not self.squares
        elif key == Qt.Key.Key_P:
            self.picture = not self.picture
        elif key == Qt.Key.Key_W:
            self.white = not self.white
        elif key == Qt.Key.Key_R:
            self.straighten()
        elif key == Qt.Key.Key_F1:
            self.help = not self.help
        elif key == Qt.Key.Key_Escape:
            self.close()
        self.update()

    def closeEvent(self, event: QCloseEvent) -> None:
        recent.remember_projector(self._shares)
        event.accept()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            p.fillRect(self.rect(), QColor(0, 0, 0))
            p.save()
            p.setTransform(self.map())
            whole = QRectF(0, 0, self.canvas.width_mm, self.canvas.height_mm)
            if not self.white:
                p.fillRect(whole, QColor(235, 235, 235))
            if self.picture and self.image is not None:
                p.drawImage(whole, self.image)
            self._paint_lines(p, whole)
            p.restore()
            for k, place in enumerate(self.corners()):
                draw.circle(p, place.x(), place.y(), HANDLE / 2, "", "russet" if k == self.corner else "#9A9A9A", 2)
                draw.text(p, place.x(), place.y() + 5, str(k + 1), 14, 700, "#F2F2F2" if self.white else "#9A9A9A", "c")
            if self.help:
                draw.over_words(p, self.width() / 2, self.height() - 18, _HELP, "c", within=self.rect().toRectF())

    def _paint_lines(self, p: QPainter, whole: QRectF) -> None:
        line = QColor(255, 255, 255) if self.white or self.picture else QColor(0, 0, 0)
        p.setBrush(Qt.BrushStyle.NoBrush)
        thin = QPen(QColor(line.red(), line.green(), line.blue(), 130), 1.0)
        thin.setCosmetic(True)
        p.setPen(thin)
        p.drawRect(whole)
        if self.squares:
            for points, _ in self.grid.lines(self.canvas):
                p.drawPolyline(draw.polygon(points.tolist()))
        pen = QPen(line, 2.0)
        # As thin as the screen allows: what is traced should not be wider than the pencil.
        pen.setCosmetic(True)
        p.setPen(pen)
        for points in self.lines:
            p.drawPolyline(draw.polygon(points.tolist()))


def _convex(places: list[QPointF]) -> bool:
    """Tell whether four corners, clockwise, enclose a convex area that is not too thin."""
    at = np.array([(q.x(), q.y()) for q in places])
    edge = np.roll(at, -1, axis=0) - at
    after = np.roll(edge, -1, axis=0)
    turn = edge[:, 0] * after[:, 1] - edge[:, 1] * after[:, 0]
    return bool((turn > 400).all())
