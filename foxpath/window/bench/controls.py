"""Controls of the bench, drawn by us: buttons, links, choices, measures and fields."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QEnterEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QLineEdit, QSizePolicy, QWidget

from foxpath.window.look import draw
from foxpath.window.look.focus import Focusable
from foxpath.window.look.theme import colour, font

ACTIVATE = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)


class Control(Focusable):
    """A thing that can be pointed at, focused and pressed."""

    def __init__(self, height: int, name: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(height)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMouseTracking(True)
        self.hovered = False
        self.pressed = False
        if name:
            self.setAccessibleName(name)

    def enterEvent(self, event: QEnterEvent) -> None:
        self.hovered = True
        self.update()
        super().enterEvent(event)

    def leaveEvent(self, event: QEvent) -> None:
        self.hovered = False
        self.update()
        super().leaveEvent(event)


class Button(Control):
    """A button; the filled one is the next step, and there is one of it at most."""

    clicked = Signal()

    def __init__(self, words: str, *, filled: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(34, words, parent)
        self.words = words
        self.filled = filled
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(int(draw.width_of(self.words, 13, 600)) + 34, 34)

    def set_words(self, words: str) -> None:
        """Change what the button says."""
        self.words = words
        self.setAccessibleName(words)
        self.updateGeometry()
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.pressed = True
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        was, self.pressed = self.pressed, False
        self.update()
        if was and self.rect().contains(event.position().toPoint()):
            self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in ACTIVATE:
            self.clicked.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            box = QRectF(self.rect()).adjusted(3, 3, -3, -3)
            if self.filled:
                fill = "russet_pressed" if self.pressed else "russet_hover" if self.hovered else "russet_plate"
                draw.rounded(p, box, 6, fill)
                tone = "on_russet"
            else:
                fill = "sunk" if self.pressed else "hover" if self.hovered else "raised"
                draw.rounded(p, box, 6, fill, "dim" if self.hovered else "line")
                tone = "text"
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()), 8)
            draw.text(p, self.width() / 2, self.height() / 2 + 4.6, self.words, 13, 600, tone, "c")


class Link(Control):
    """An action as underlined words."""

    clicked = Signal()

    def __init__(self, words: str, *, spot: bool = False, parent: QWidget | None = None) -> None:
        super().__init__(24, words, parent)
        self.words = words
        self.spot = spot
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(int(draw.width_of(self.words, 13, 600)) + (24 if self.spot else 10), 24)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self.rect().contains(event.position().toPoint()):
            self.clicked.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in ACTIVATE:
            self.clicked.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.hovered:
                draw.rounded(p, QRectF(self.rect()), 6, "hover")
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))
            x, y = 4.0, self.height() / 2 + 4.6
            if self.spot:
                draw.circle(p, x + 5, y - 4.5, 4.6, "", "text", 1.4)
                draw.circle(p, x + 5, y - 4.5, 1.5, "text")
                x += 15
            width = draw.text(p, x, y, self.words, 13, 600)
            p.setPen(colour("quiet"))
            p.drawLine(QPointF(x, y + 3), QPointF(x + width, y + 3))


class Choice(Control):
    """One of several, in a row; arrow keys move it."""

    chosen = Signal(str)

    def __init__(self, options: Sequence[tuple[str, str]], name: str, parent: QWidget | None = None) -> None:
        super().__init__(34, name, parent)
        self.options = list(options)
        self.value = options[0][0] if options else ""
        self._under = -1

    def set_value(self, value: str) -> None:
        """Show a value as the chosen one; empty for none."""
        self.value = value
        self.update()

    def _index_at(self, x: float) -> int:
        return min(len(self.options) - 1, max(0, int((x - 3) / ((self.width() - 6) / len(self.options)))))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = self._index_at(event.position().x())
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._take(self._index_at(event.position().x()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [key for key, _ in self.options]
        now = keys.index(self.value) if self.value in keys else 0
        if event.key() == Qt.Key.Key_Right:
            self._take(min(now + 1, len(keys) - 1))
        elif event.key() == Qt.Key.Key_Left:
            self._take(max(now - 1, 0))
        else:
            super().keyPressEvent(event)

    def _take(self, index: int) -> None:
        key = self.options[index][0]
        if key != self.value:
            self.value = key
            self.update()
            self.chosen.emit(key)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            box = QRectF(self.rect()).adjusted(3, 3, -3, -3)
            draw.rounded(p, box, 6, "sunk", "line")
            each = box.width() / len(self.options)
            for k, (key, words) in enumerate(self.options):
                cell = QRectF(box.left() + k * each, box.top(), each, box.height())
                on = key == self.value
                if on:
                    draw.rounded(p, cell, 6, "raised", "russet", 2)
                elif self.hovered and k == self._under:
                    draw.rounded(p, cell.adjusted(1, 1, -1, -1), 5, "hover")
                tone = "text" if on else "quiet"
                draw.text(p, cell.center().x(), cell.center().y() + 4.6, words, 13, 700 if on else 400, tone, "c")
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()), 8)


@dataclass(frozen=True, slots=True)
class Scale:
    """How a measure's knob runs: linear or by equal ratios, in what steps, and how a value is written."""

    least: float
    most: float
    words: Callable[[float], str]
    ratio: bool = False
    step: float = 1.0

    def share(self, value: float) -> float:
        """Return where a value lies along the groove, 0..1."""
        value = min(max(value, self.least), self.most)
        if self.ratio:
            return math.log(value / self.least) / math.log(self.most / self.least)
        return (value - self.least) / (self.most - self.least)

    def value(self, share: float) -> float:
        """Return the value at a place along the groove, on the steps."""
        share = min(max(share, 0.0), 1.0)
        if self.ratio:
            raw = float(self.least * (self.most / self.least) ** share)
            digits = max(0, 1 - math.floor(math.log10(raw)))
            return min(max(round(raw, digits), self.least), self.most)
        raw = self.least + share * (self.most - self.least)
        return min(max(round(raw / self.step) * self.step, self.least), self.most)

    def moved(self, value: float, by: int) -> float:
        """Return the value `by` key presses further."""
        if self.ratio:
            return self.value(self.share(value) + by * 0.02)
        return min(max(value + by * self.step, self.least), self.most)


class Measure(Control):
    """A number on a tapered groove: drag the knob, use the arrow keys, or press Enter and type it.

    A default value is quiet, a decided one is text; a tick below marks the default. Delete gives a
    decided number back to the default.
    """

    changed = Signal(float, bool)
    """Value, and whether the drag goes on."""
    reset = Signal()

    def __init__(self, name: str, scale: Scale, parent: QWidget | None = None) -> None:
        super().__init__(26, name, parent)
        self.name = name
        self.scale = scale
        self.value = scale.least
        self.default: float | None = None
        self.decided = False
        self._dragging = False
        self._editor: QLineEdit | None = None

    def set_value(self, value: float, default: float | None = None, *, decided: bool = False) -> None:
        """Show a value, its default, and whether the painter decided it."""
        if self._dragging:
            return
        self.value, self.default, self.decided = value, default, decided
        self.setToolTip("Delete gives it back to the plan" if decided else "")
        self.update()

    def _groove(self) -> tuple[float, float]:
        return 74.0, self.width() - 74.0 - 84.0

    def _from_x(self, x: float) -> float:
        left, width = self._groove()
        return self.scale.value((x - left) / max(width, 1))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        left, width = self._groove()
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if event.position().x() > left + width + 10:
            self.edit()
            return
        self._dragging = True
        self._take(self._from_x(event.position().x()), going=True)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._take(self._from_x(event.position().x()), going=True)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._dragging = False
            self.changed.emit(self.value, False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {
            Qt.Key.Key_Right: 1, Qt.Key.Key_Up: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: -1,
            Qt.Key.Key_PageUp: 10, Qt.Key.Key_PageDown: -10,
        }.get(Qt.Key(event.key()))  # fmt: skip
        if by is not None:
            self._take(self.scale.moved(self.value, by), going=False)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.edit()
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.decided:
            self.reset.emit()
        else:
            super().keyPressEvent(event)

    def _take(self, value: float, *, going: bool) -> None:
        if value != self.value or not going:
            self.value = value
            self.decided = True
            self.update()
            self.changed.emit(value, going)

    def edit(self) -> None:
        """Open a field over the value."""
        editor = QLineEdit(f"{self.value:g}", self)
        editor.setAccessibleName(f"{self.name}, value")
        left, width = self._groove()
        editor.setGeometry(int(left + width + 6), 0, int(self.width() - left - width - 6), 26)
        editor.editingFinished.connect(self._typed)
        self._editor = editor
        editor.show()
        editor.selectAll()
        editor.setFocus()

    def _typed(self) -> None:
        editor, self._editor = self._editor, None
        if editor is None:
            return
        words = editor.text().replace(",", ".").strip().split(" ")[0].rstrip("°%")
        editor.deleteLater()
        self.setFocus()
        try:
            value = float(words)
        except ValueError:
            # Not a number: the value stays as it was, and is still shown.
            return
        if math.isfinite(value):
            self._take(min(max(value, self.scale.least), self.scale.most), going=False)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.hovered:
                draw.rounded(p, QRectF(self.rect()), 6, "hover")
            middle = self.height() / 2
            draw.text(p, 6, middle + 4.6, self.name, 13, 400, "quiet")
            left, width = self._groove()
            draw.stroke(p, draw.along(left, middle, left + width, middle), 5, 1.6, "line", soft_root=False)
            share = self.scale.share(self.value)
            tip = 5 + (1.6 - 5) * share**1.25
            if share > 0:
                done = draw.along(left, middle, left + width * share, middle)
                draw.stroke(p, done, 5, tip, "quiet", soft_root=False)
            if self.default is not None:
                x = left + width * self.scale.share(self.default)
                p.setPen(colour("quiet"))
                p.drawLine(QPointF(x, middle + 7), QPointF(x, middle + 11))
            knob = "russet" if self._dragging else "text" if self.decided else "quiet"
            draw.rounded(p, QRectF(left + width * share - 3, middle - 8, 6, 16), 3, knob)
            tone = "text" if self.decided else "quiet"
            draw.text(p, self.width() - 6, middle + 4.6, self.scale.words(self.value), 14, 500, tone, "r")
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))


class Field(QLineEdit):
    """A line of text that is taken over on Enter or on leaving; with `blank` it may be left empty."""

    taken = Signal(str)

    def __init__(self, name: str, words: str = "", parent: QWidget | None = None) -> None:
        super().__init__(words, parent)
        self.setAccessibleName(name)
        self.setFont(font(14, 500))
        self.setFixedHeight(30)
        self._shown = words
        self.blank = False
        self.editingFinished.connect(self._finish)

    def show_words(self, words: str) -> None:
        """Show other words, unless somebody is typing."""
        if not self.hasFocus():
            self.setText(words)
        self._shown = words

    def _finish(self) -> None:
        words = self.text().strip()
        if (words or self.blank) and words != self._shown:
            self._shown = words
            self.taken.emit(words)
        elif not words:
            self.setText(self._shown)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.setText(self._shown)
            self.clearFocus()
            return
        super().keyPressEvent(event)


class YesNo(Control):
    """Yes or no: a hair laid, or its bare root."""

    toggled = Signal(bool)

    def __init__(self, yes: str, no: str, parent: QWidget | None = None) -> None:
        super().__init__(28, yes, parent)
        self.words = (no, yes)
        self.on = True

    def set_value(self, *, on: bool) -> None:
        """Show yes or no."""
        self.on = on
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self.rect().contains(event.position().toPoint()):
            self._flip()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in ACTIVATE:
            self._flip()
        else:
            super().keyPressEvent(event)

    def _flip(self) -> None:
        self.on = not self.on
        self.update()
        self.toggled.emit(self.on)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.hovered:
                draw.rounded(p, QRectF(self.rect()), 6, "hover")
            middle = self.height() / 2
            p.fillRect(QRectF(8, middle - 6, 2, 12), colour("text"))
            if self.on:
                draw.stroke(p, draw.bent(10, middle, 22, 3, 2.4, 12), 4.4, 1, "text")
            draw.text(p, 42, middle + 4.6, self.words[self.on], 13, 600 if self.on else 400)
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))
