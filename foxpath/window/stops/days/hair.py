"""Free time of a week as seven hairs: pull one up for a longer evening, down to nothing for none."""

from collections.abc import Sequence

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent

from foxpath.core.days.studio import Range, clock_of, clock_text
from foxpath.window.bench.controls import Control
from foxpath.window.look import draw

NAMES = ("M", "T", "W", "T", "F", "S", "S")
LONG = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
MOST_H, STEP_MIN = 10.0, 30
FIRST = ("19:00", "10:00")
"""When free time begins that is pulled out of nothing: on a weekday, at the weekend."""
TALL, FOOT = 84.0, 26.0


def hours_of(ranges: Sequence[Range]) -> float:
    """Return how many hours ranges hold; one that ends before it begins goes past midnight."""
    minutes = 0
    for begin, end in ranges:
        a, b = clock_of(begin) or 0, clock_of(end) or 0
        minutes += b - a if b > a else b - a + 1440
    return minutes / 60


def pulled(ranges: Sequence[Range], hours: float, weekday: int) -> tuple[Range, ...]:
    """Return ranges of so many hours: the last of them is made longer or shorter, and goes when nothing is left of it."""
    wanted = round(min(max(hours, 0.0), MOST_H) * 60 / STEP_MIN) * STEP_MIN
    made = [*ranges]
    have = round(hours_of(made) * 60)
    if not made and wanted:
        a = clock_of(FIRST[weekday >= 5]) or 0
        return ((clock_text(a), clock_text((a + wanted - 1) % 1440 + 1)),)
    while made and have > wanted:
        begin, end = made.pop()
        length = round(hours_of([(begin, end)]) * 60)
        if have - length < wanted:
            a = clock_of(begin) or 0
            made.append((begin, clock_text((a + length - (have - wanted) - 1) % 1440 + 1)))
            return tuple(made)
        have -= length
    if made and have < wanted:
        begin, end = made[-1]
        a, length = clock_of(begin) or 0, round(hours_of([made[-1]]) * 60)
        longest = min(length + wanted - have, 1440 - STEP_MIN)
        made[-1] = (begin, clock_text((a + longest - 1) % 1440 + 1))
    return tuple(made)


def short_hours(hours: float) -> str:
    """Write hours, e.g. "2½"."""
    whole, half = divmod(round(hours * 2), 2)
    return f"{whole or ''}{'½' if half else ''}"


class Hairs(Control):
    """Seven hairs; drag one, or choose it by the arrow keys and pull it by Up and Down."""

    pulled = Signal(int, float, bool)
    """Weekday, hours, and whether the drag goes on."""
    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__(int(TALL + FOOT + 16), "free hours of the week")
        self.hours = [0.0] * 7
        self.value = 0
        self._dragging = -1

    def set_week(self, hours: Sequence[float], chosen: int) -> None:
        """Show the hours of each weekday."""
        if self._dragging >= 0:
            return
        self.hours, self.value = list(hours), chosen
        self._tell()
        self.update()

    def _tell(self) -> None:
        self.setAccessibleDescription(f"{LONG[self.value]}, {self.hours[self.value]:g} hours")

    def _x(self, k: int) -> float:
        return 14 + (self.width() - 34) * (k + 0.15) / 6.6

    def _at(self, x: float) -> int:
        return min(range(7), key=lambda k: abs(self._x(k) - x))

    def _hours_at(self, y: float) -> float:
        share = (TALL + 12 - y) / TALL
        return round(min(max(share, 0.0), 1.0) * MOST_H * 60 / STEP_MIN) * STEP_MIN / 60

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._dragging = self.value = self._at(event.position().x())
            self.chosen.emit(self.value)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging >= 0:
            self._take(self._hours_at(event.position().y()), going=True)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragging >= 0:
            k, self._dragging = self._dragging, -1
            self.pulled.emit(k, self.hours[k], False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.value = (self.value + (1 if key == Qt.Key.Key_Right else -1)) % 7
            self.chosen.emit(self.value)
            self._tell()
            self.update()
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            by = STEP_MIN / 60 * (1 if key == Qt.Key.Key_Up else -1)
            self._take(min(max(self.hours[self.value] + by, 0.0), MOST_H), going=False)
        elif key == Qt.Key.Key_Delete:
            self._take(0.0, going=False)
        else:
            super().keyPressEvent(event)

    def _take(self, hours: float, *, going: bool) -> None:
        if hours != self.hours[self.value] or not going:
            self.hours[self.value] = hours
            self._tell()
            self.update()
            self.pulled.emit(self.value, hours, going)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            ground = TALL + 12
            for k, hours in enumerate(self.hours):
                x, chosen = self._x(k), k == self.value
                if chosen:
                    draw.rounded(p, QRectF(x - 15, 2, 30, TALL + FOOT + 8), 6, "sunk")
                if hours > 0:
                    top = ground - TALL * min(hours, MOST_H) / MOST_H
                    tone = "russet" if k == self._dragging else "text"
                    draw.stroke(p, draw.along(x, ground, x + 1.5, top), 6.5, 0.9, tone, soft_root=False)
                    words = short_hours(hours)
                    draw.text(p, x + 5, max(top + 11, 14.0), words, 12, 500 if chosen else 400)
                else:
                    draw.circle(p, x, ground - 3, 2.6, "", "dim", 1.2)
                draw.text(p, x, ground + 18, NAMES[k], 13, 700 if hours else 400, "text" if hours else "quiet", "c")
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))
