"""The trail: the stops of the work in order, joined by one drawn path; the chosen one opens into the bench."""

import math

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from foxpath.window.look import draw
from foxpath.window.look.focus import Focusable
from foxpath.window.look.theme import colour

WIDE, NARROW = 180, 100
TOP, BOTTOM = 84.0, 64.0
"""Room over the first stop and under the last."""
LEAST_PITCH = 16.0
"""Before the window has its size there is no room for anything."""


class Trail(Focusable):
    """Names, readings and states of the stops."""

    chosen = Signal(str)
    menu_asked = Signal()

    def __init__(self, stops: list[tuple[str, str]], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stops = stops
        self.readings: dict[str, tuple[str, draw.State]] = {}
        self.current = stops[0][0]
        self.narrow = False
        self._path_key: object = None
        self._walked, self._ahead = QPolygonF(), QPolygonF()
        self._under = -1
        self.setMouseTracking(True)
        self.setAccessibleName("the trail of stops")

    def set_readings(self, readings: dict[str, tuple[str, draw.State]], current: str) -> None:
        """Show what each stop says and which is open."""
        if readings != self.readings or current != self.current:
            self.readings, self.current = readings, current
            self.update()

    @property
    def _pitch(self) -> float:
        """From one stop to the next: less where many share a small window."""
        return min(104.0, max(LEAST_PITCH, (self.height() - TOP - BOTTOM) / max(1, len(self.stops) - 1)))

    @property
    def _half(self) -> float:
        """Half the height of the chosen stop's plate: two never touch."""
        return min(25.0, self._pitch / 2 - 1)

    def _spots(self) -> list[tuple[float, float]]:
        count = len(self.stops)
        top, pitch = TOP, self._pitch
        if self.narrow:
            return [(15 + 4 * math.sin(1.15 * k + 0.9), top + pitch * k) for k in range(count)]
        return [(27 + 8 * math.sin(1.15 * k + 0.9), top + pitch * k) for k in range(count)]

    def _index_at(self, y: float) -> int:
        for k, (_, spot) in enumerate(self._spots()):
            if abs(y - spot) <= self._half:
                return k
        return -1

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = self._index_at(event.position().y())
        self.setToolTip(
            self.readings.get(self.stops[self._under][0], ("", "no"))[0] if self._under >= 0 and self.narrow else ""
        )
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        self._under = -1
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.position().y() < 42:
            self.menu_asked.emit()
            return
        index = self._index_at(event.position().y())
        if index >= 0:
            self.chosen.emit(self.stops[index][0])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [key for key, _ in self.stops]
        by = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if by is not None:
            self.chosen.emit(keys[min(max(keys.index(self.current) + by, 0), len(keys) - 1)])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Menu):
            self.menu_asked.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            p.fillRect(self.rect(), colour("base"))
            spots = self._spots()
            now = [key for key, _ in self.stops].index(self.current)
            self._plate(p, spots[now][1])
            self._path(p, spots, now)
            draw.brush_mark(p, 10 if self.narrow else 16, 8, 25)
            draw.text(p, 38 if self.narrow else 50, 27, "Fox Path", 14 if self.narrow else 17, 700)
            for k, (key, name) in enumerate(self.stops):
                self._stop(p, k, key, name, spots[k], chosen=k == now)
            if self.ring_shown():
                half = self._half - 1
                draw.focus_ring(p, QRectF(10, spots[now][1] - half + 2, self.width() - 16, 2 * half - 4))

    def _plate(self, p: QPainter, y: float) -> None:
        """Draw the chosen stop's plate, running into the bench, and the trail's line round it."""
        half = self._half
        right, top, low, r, f = self.width() - 0.5, y - half, y + half, min(9.0, half / 2), min(8.0, half / 2)
        left = 2.5 if self.narrow else 7.5
        path = QPainterPath(QPointF(right, top - f))
        path.quadTo(QPointF(right, top), QPointF(right - f, top))
        path.lineTo(left + r, top)
        path.quadTo(QPointF(left, top), QPointF(left, top + r))
        path.lineTo(left, low - r)
        path.quadTo(QPointF(left, low), QPointF(left + r, low))
        path.lineTo(right - f, low)
        path.quadTo(QPointF(right, low), QPointF(right, low + f))
        plate = QPainterPath(path)
        plate.lineTo(right + 1, low + f)
        plate.lineTo(right + 1, top - f)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour("plate"))
        p.drawPath(plate)
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.setPen(QPen(colour("line"), 1))
        p.drawPath(path)
        p.drawLine(QPointF(right, 40), QPointF(right, top - f))
        p.drawLine(QPointF(right, low + f), QPointF(right, self.height()))

    def _path(self, p: QPainter, spots: list[tuple[float, float]], now: int) -> None:
        """Draw the path from the brush's root down through the stops, walked part darker."""
        key = (self.height(), self.narrow, now)
        if key != self._path_key:
            self._path_key = key
            self._walked, self._ahead = self._make_path(spots, now)
        p.setPen(Qt.PenStyle.NoPen)
        for part, tone in ((self._walked, "walked"), (self._ahead, "dim")):
            p.setBrush(colour(tone))
            p.drawPolygon(part)

    def _make_path(self, spots: list[tuple[float, float]], now: int) -> tuple[QPolygonF, QPolygonF]:
        """Return the walked part of the path and the part ahead."""
        start = 12 if self.narrow else 18
        knots = [(start, 33), (start + 3, 46), *spots, (spots[-1][0] - 6, spots[-1][1] + 34)]
        line = draw.smooth(knots, 24)
        count = len(line)
        cut = min(range(count), key=lambda k: abs(line[k][1] - spots[now][1]))
        sides = []
        for k, (x, y) in enumerate(line):
            (ax, ay), (bx, by) = line[max(k - 1, 0)], line[min(k + 1, count - 1)]
            size = math.hypot(bx - ax, by - ay) + 1e-9
            half = (6.4 + (1.5 - 6.4) * (k / (count - 1)) ** 0.9) / 2
            nx, ny = (ay - by) / size * half, (bx - ax) / size * half
            sides.append(((x + nx, y + ny), (x - nx, y - ny)))

        def part(a: int, b: int) -> QPolygonF:
            cut_out = sides[a:b]
            return draw.polygon([one for one, _ in cut_out] + [two for _, two in cut_out[::-1]])

        return part(0, cut + 1), part(cut, count)

    def _stop(self, p: QPainter, k: int, key: str, name: str, spot: tuple[float, float], *, chosen: bool) -> None:
        x, y = spot
        reading, state = self.readings.get(key, ("", "no"))
        ground = "plate" if chosen else "base"
        if k == self._under and not chosen:
            left = 30.0 if self.narrow else 44.0
            half = self._half - 3
            draw.rounded(p, QRectF(left, y - half, self.width() - left - 8, 2 * half), 6, "hover")
        draw.circle(p, x, y, 6.6 if state == "no" else 9.2, ground)
        tone = "russet" if chosen else "text" if state == "you" else "quiet"
        draw.state_mark(p, x, y, state, tone, ground)
        strong = chosen or state != "no"
        if self.narrow:
            draw.text(p, 30, y + 5, name, 13, 700 if chosen else 500, "text" if strong else "quiet")
            return
        # Where there is no room for two lines under one another, only the chosen stop and the one pointed at say more than their name.
        said = reading and (self._half > 20 or chosen or k == self._under)
        draw.text(p, 50, y - 2 if said else y + 5, name, 15, 700 if chosen else 500, "text" if strong else "quiet")
        if said:
            draw.text(p, 50, y + 15, draw.elided(reading, self.width() - 56, 12), 12, 400, "quiet")
