"""The photograph small on the bench, with the canvas's corners on it: they are dragged where they were found wrong."""

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter

from foxpath.window.bench.controls import Control
from foxpath.window.look import draw
from foxpath.window.look.theme import colour

Place = tuple[float, float]
REACH = 16.0
TALL = 190
STEP = 4.0
NAMES = ("top left", "top right", "bottom right", "bottom left")


class PhotoCorners(Control):
    """A photograph and four corners; arrow keys move the corner that was last touched, Tab takes the next.

    Places are pixels of the photograph.
    """

    moved = Signal(object)
    """Four corners, when a drag ends."""
    clicked = Signal(float, float)
    """A place was clicked while one is asked for."""

    def __init__(self) -> None:
        super().__init__(TALL, "the photograph and the canvas’s corners")
        self._image: QImage | None = None
        self._size = (1, 1)
        self._corners: list[Place] = []
        self.spots: tuple[Place, ...] = ()
        self.asks = False
        self.touched = 0
        self._dragging = -1

    def show_photo(
        self, image: QImage | None, size: tuple[int, int], corners: Sequence[Place], spots: Sequence[Place] = ()
    ) -> None:
        """Show a photograph (any size of it), its true size in pixels and its corners; none before they are found."""
        self._image, self._size = image, size
        if self._dragging < 0:
            self._corners = [(float(x), float(y)) for x, y in corners]
        self.spots = tuple(spots)
        self.setFixedHeight(TALL if image is not None else 0)
        self.setAccessibleDescription(
            f"corner {NAMES[self.touched]} at {self._corners[self.touched][0]:.0f}, {self._corners[self.touched][1]:.0f} px"
            if self._corners
            else "corners not found yet"
        )
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(200, TALL)

    def box(self) -> QRectF:
        """Return where the photograph lies; with room round it for corners that lie beyond."""
        w, h = self._size
        room_w, room_h = self.width() - 28.0, TALL - 22.0
        k = min(room_w / w, room_h / h)
        return QRectF((self.width() - w * k) / 2, (TALL - h * k) / 2, w * k, h * k)

    def _at(self, place: Place) -> QPointF:
        box = self.box()
        x = box.left() + place[0] / self._size[0] * box.width()
        y = box.top() + place[1] / self._size[1] * box.height()
        # What lies beyond the photograph is drawn at the rim of the room.
        return QPointF(min(max(x, 5.0), self.width() - 5.0), min(max(y, 5.0), TALL - 5.0))

    def _place(self, at: QPointF) -> Place:
        box = self.box()
        return (at.x() - box.left()) / box.width() * self._size[0], (at.y() - box.top()) / box.height() * self._size[1]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.asks:
            self.clicked.emit(*self._place(event.position()))
            return
        away = [(self._at(one) - event.position()).manhattanLength() for one in self._corners]
        if away and min(away) < 2 * REACH:
            self.touched = self._dragging = away.index(min(away))
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging >= 0:
            self._corners[self._dragging] = self._place(event.position())
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragging >= 0:
            self._dragging = -1
            self.moved.emit(tuple(self._corners))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
        way = ways.get(Qt.Key(event.key()))
        if event.key() == Qt.Key.Key_Space and self._corners:
            self.touched = (self.touched + 1) % 4
            self.update()
        elif way is not None and self._corners:
            far = STEP * max(self._size) / 1000
            x, y = self._corners[self.touched]
            self._corners[self.touched] = (x + far * way[0], y + far * way[1])
            self.update()
            self.moved.emit(tuple(self._corners))
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: object) -> None:
        if self._image is None:
            return
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            draw.rounded(p, QRectF(0, 0, self.width(), TALL), 6, "well")
            p.drawImage(self.box(), self._image)
            if self._corners:
                ends = [self._at(one) for one in self._corners]
                ring = [(one.x(), one.y()) for one in [*ends, ends[0]]]
                for a, b in zip(ring, ring[1:], strict=False):
                    draw.stroke(p, draw.along(*a, *b, 6), 2.0, 1.2, "over_light", "over_dark", soft_root=False)
                for k, one in enumerate(ends):
                    chosen = k == self.touched and self.ring_shown()
                    draw.circle(
                        p, one.x(), one.y(), 6.5 if chosen else 5, "over_light", "russet" if chosen else "over_dark", 2
                    )
            for x, y in self.spots:
                at = self._at((x, y))
                draw.circle(p, at.x(), at.y(), 7, "", "over_dark", 3)
                draw.circle(p, at.x(), at.y(), 7, "", "over_light", 1.5)
            if self.asks:
                p.fillRect(QRectF(0, TALL - 22, self.width(), 22), colour("over_dark", 0.75))
                draw.text(p, self.width() / 2, TALL - 7, "click the grey card", 12.5, 500, "over_light", "c")
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))
