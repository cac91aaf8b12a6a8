"""What shows a pass on its bench: the ladder of its values, its facts in a column, and the cards of what to do."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QWidget

from foxpath.window.bench.controls import Control
from foxpath.window.look import draw
from foxpath.window.look.theme import colour


class Ladder(Control):
    """The values a pass may use: drag the band's ends or the ceiling; arrow keys move the end last touched."""

    changed = Signal(str, float, bool)
    """Name (l_low, l_high, ceiling), value in L*, and whether the drag goes on."""

    def __init__(self) -> None:
        super().__init__(246, "values of the pass")
        self.setFixedWidth(112)
        self.values = {"l_low": 0.0, "l_high": 100.0, "ceiling": 100.0}
        self._held = ""
        self._last = "l_high"

    def set_values(self, low: float, high: float, ceiling: float) -> None:
        """Show a band and its ceiling."""
        if not self._held:
            self.values = {"l_low": low, "l_high": high, "ceiling": ceiling}
            self.update()

    def _box(self) -> QRectF:
        return QRectF(28, 8, 40, self.height() - 16)

    def _y(self, value: float) -> float:
        box = self._box().adjusted(2, 2, -2, -2)
        return box.bottom() - box.height() * value / 100

    def _value(self, y: float) -> float:
        box = self._box().adjusted(2, 2, -2, -2)
        return round(min(max((box.bottom() - y) / box.height() * 100, 0.0), 100.0))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        y = event.position().y()
        names = ["ceiling"] if event.position().x() > 74 else ["l_low", "l_high"]
        self._held = self._last = min(names, key=lambda name: abs(self._y(self.values[name]) - y))
        self._take(self._value(y), going=True)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held:
            self._take(self._value(event.position().y()), going=True)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        held, self._held = self._held, ""
        if held:
            self.changed.emit(held, self.values[held], False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0}.get(Qt.Key(event.key()))
        if by is not None:
            self._take(min(max(self.values[self._last] + by, 0.0), 100.0), going=False)
        elif event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            names = ["l_low", "l_high", "ceiling"]
            step = 1 if event.key() == Qt.Key.Key_Right else -1
            self._last = names[(names.index(self._last) + step) % 3]
            self.update()
        else:
            super().keyPressEvent(event)

    def _take(self, value: float, *, going: bool) -> None:
        name = self._held or self._last
        self.values[name] = value
        self.update()
        self.changed.emit(name, value, going)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            box = self._box()
            low, high, ceiling = (self.values[k] for k in ("l_low", "l_high", "ceiling"))
            draw.ladder(p, box, low, high, 20, 11)
            for value in (20.0, 40.0, 60.0, 80.0):
                draw.text(p, 20, self._y(value) + 4, f"{value:.0f}", 12, 400, "quiet", "r")
            for name, value in (("l_low", low), ("l_high", high)):
                y = self._y(value)
                p.setPen(Qt.PenStyle.NoPen)
                p.setBrush(colour("russet" if name in (self._held, self._last) and self.hasFocus() else "text"))
                p.drawPolygon(QPolygonF([QPointF(26, y), QPointF(19, y - 5), QPointF(19, y + 5)]))
            y = self._y(ceiling)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(colour("russet" if "ceiling" in (self._held, self._last) and self.hasFocus() else "text"))
            p.drawRect(QRectF(box.left() - 3, y - 1, box.width() + 10, 2))
            draw.text(p, box.right() + 9, y - 3, "ceiling", 12, 400, "quiet")
            draw.text(p, box.right() + 9, y + 11, f"{ceiling:.0f}", 12, 600)
            if ceiling < 94:
                draw.text(p, box.right() + 9, 18, "kept", 12, 400, "quiet")
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))


class Facts(QWidget):
    """Names and values in a column."""

    def __init__(self) -> None:
        super().__init__()
        self.facts: list[tuple[str, str]] = []

    def set_facts(self, facts: list[tuple[str, str]]) -> None:
        """Show these."""
        self.facts = facts
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            for k, (name, value) in enumerate(self.facts):
                y = 16 + k * 35
                draw.text(p, 4, y, name, 12, 400, "quiet")
                draw.text(p, 4, y + 16, draw.elided(value, self.width() - 6, 14, 500), 14, 500)


class Cards(QWidget):
    """What to do in a pass, part by part: its name, and the sentence."""

    def __init__(self) -> None:
        super().__init__()
        self.cards: tuple[str, ...] = ()
        self.setFixedHeight(4)

    def show_cards(self, cards: tuple[str, ...]) -> None:
        """Show these."""
        self.cards = cards
        self._fit()
        self.update()

    def _laid(self) -> list[tuple[str, list[str]]]:
        made = []
        for card in self.cards:
            name, _, words = card.partition(": ")
            made.append((name, draw.lines_of(words, self.width() - 14, 12.5)))
        return made

    def _fit(self) -> None:
        self.setFixedHeight(sum(25 + 17 * len(lines) for _, lines in self._laid()) + 6)

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            y = 15.0
            for name, lines in self._laid():
                draw.text(p, 6, y, name, 13, 700)
                for line in lines:
                    y += 17
                    draw.text(p, 6, y, line, 12.5, 400, "quiet")
                y += 25
