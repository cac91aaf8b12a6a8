"""The header: the painting, its canvas, whether it is saved; the seeing aids as lenses."""

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from foxpath.window.look import draw
from foxpath.window.look.focus import Focusable
from foxpath.window.look.theme import colour

AIDS = (
    ("plain", "Plain", "F2"),
    ("greys", "Greys", "F3"),
    ("squint", "Squint", "F4"),
    ("poster", "Values", "F5"),
    ("falloff", "Falloff", "F11"),
    ("alone", "One zone", "F12"),
    ("mirror", "Mirror", "F6"),
    ("upside", "Upside down", "F7"),
    ("turn", "Turn", "F8"),
    ("glass", "True size", "L"),
)
"""Key, words, and the key on the keyboard."""


class Header(Focusable):
    """Slim; the aids are also on keys."""

    aid_chosen = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.title, self.note = "Nothing open yet", "the trail begins with a picture"
        self.on: set[str] = {"plain"}
        self.words = {key: words for key, words, _ in AIDS}
        self.roomy = False
        self.line_to = 290
        self._boxes: list[tuple[str, QRectF]] = []
        self._under = ""
        self._focus = 0
        self.setFixedHeight(40)
        self.setMouseTracking(True)
        self.setAccessibleName("seeing aids")

    def set_words(self, title: str, note: str, on: set[str], words: dict[str, str] | None = None) -> None:
        """Show the painting's name, a note, and the aids in use; `words` say how some of them are set."""
        self.title, self.note, self.on = title, note, on
        self.words.update(words or {})
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = next((key for key, box in self._boxes if box.contains(event.position())), "")
        self.setToolTip(next((f"{self.words[key]}  ({keys})" for key, _, keys in AIDS if key == self._under), ""))
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        self._under = ""
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for key, box in self._boxes:
            if box.contains(event.position()):
                self.aid_chosen.emit(key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()))
        if by is not None:
            self._focus = (self._focus + by) % len(AIDS)
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.aid_chosen.emit(AIDS[self._focus][0])
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            p.fillRect(self.rect(), colour("base"))
            p.setPen(QPen(colour("line"), 1))
            p.drawLine(QPointF(0, 39.5), QPointF(self.line_to, 39.5))
            left_end = self._aids(p)
            room = left_end - 18 - 24
            title = draw.elided(self.title, room * 0.55, 16, 600)
            used = draw.text(p, 18, 26, title, 16, 600)
            draw.text(p, 18 + used + 13, 26, draw.elided(self.note, room - used - 13, 13), 13, 400, "quiet")

    def _aids(self, p: QPainter) -> float:
        """Draw the lenses from the right; returns where they begin."""
        self._boxes = []
        x = self.width() - 16.0
        for index in range(len(AIDS) - 1, -1, -1):
            key, _, _ = AIDS[index]
            on = key in self.on
            shown = self.words[key] if self.roomy or on else ""
            end = x
            x -= draw.width_of(shown, 13, 600 if on else 400)
            text_at = x
            x -= 19 if shown else 10
            box = QRectF(x - 14, 3, end - x + 18, 34)
            if key == self._under:
                draw.rounded(p, box, 6, "hover")
            draw.text(p, text_at, 25, shown, 13, 600 if on else 400, "text" if on else "quiet")
            draw.lens(p, x, 20, key, on=on)
            if self.ring_shown() and index == self._focus:
                draw.focus_ring(p, box)
            self._boxes.append((key, box))
            x -= 26 if self.roomy else 20
        draw.text(p, x + 4, 25, "See", 13, 400, "quiet", "r")
        return x - 24
