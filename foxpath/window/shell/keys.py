"""The help sheet of keys."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QDialog, QWidget

from foxpath.window.look import draw
from foxpath.window.look.theme import colour

SHEET: tuple[tuple[str, tuple[tuple[str, str], ...]], ...] = (
    (
        "The painting",
        (
            ("Ctrl O", "open a picture"),
            ("Ctrl Shift O", "open a painting"),
            ("Ctrl S", "save"),
            ("Ctrl Shift S", "save as"),
            ("Ctrl P", "print sheets"),
            ("Ctrl M", "save the map as SVG"),
            ("Ctrl Z", "undo"),
            ("Ctrl Shift Z", "do again"),
            ("F10", "menu"),
        ),
    ),
    (
        "Stops and passes",
        (
            ("Ctrl 1 to 8", "open a stop"),
            ("Tab", "next control"),
            ("arrows", "move a choice or a knob"),
            ("Enter", "type a number"),
            ("Delete", "give a number back"),
            ("PgUp PgDn", "pass before, pass after"),
            ("P", "play this pass"),
            ("hold B", "before this pass"),
            ("hold R", "the reference"),
        ),
    ),
    (
        "Seeing",
        (
            ("F2", "plain again"),
            ("F3  F4  F5", "greys, squint, values"),
            ("F11  F12", "falloff, one zone alone"),
            ("F6  F7", "mirror, upside down"),
            ("F8", "a quarter turn"),
            ("L", "true-size glass"),
            ("Ctrl T", "true size"),
            ("Ctrl 0", "show everything"),
            ("+  −  wheel", "zoom"),
            ("Space drag", "move the picture"),
            ("F9", "day or evening"),
            ("Ctrl arrows", "Reference: move the crop"),
            ("[  ]", "Reference: smaller, larger crop"),
            ("F", "Reference: focal point here"),
        ),
    ),
    (
        "On the picture",
        (
            ("click", "Zones: a point; Growth: choose a comb"),
            ("Enter", "Zones: close the outline"),
            ("Shift click", "Zones: begin a new outline"),
            ("Delete", "drop the point or the comb"),
            ("drag", "Growth: comb; Lengths: measure"),
            ("drag", "Edges: grade a stretch"),
            ("Shift drag", "Lengths: place a form"),
            ("T", "Growth: turn root and tip"),
            ("N", "show what is next"),
            ("1 to 4", "Growth: comb, parting, crown, away"),
            ("1 to 4", "Edges: lost, soft, firm, hard"),
            ("1 to 3", "Eyes: find, its rim, its light"),
            ("S", "Growth: flow or hairs"),
            ("Alt arrows", "a cross instead of the mouse"),
            ("Ctrl Space", "press there, again lets go"),
            ("Esc", "drop a gesture, stop work"),
        ),
    ),
)


class KeySheet(QDialog):
    """All keys on one sheet; Esc closes it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys")
        self.setFixedSize(860, 736)
        self.setAccessibleName("keys")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_F1, Qt.Key.Key_Return):
            self.close()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            p.fillRect(self.rect(), colour("plate"))
            draw.text(p, 32, 48, "Keys", 22, 700)
            draw.text(p, self.width() - 32, 48, "Esc closes this", 13, 400, "quiet", "r")
            for k, (title, keys) in enumerate(SHEET):
                x, y = 32 + (k % 2) * 412, 92.0 + (k // 2) * 244
                draw.text(p, x, y, title, 14, 700)
                draw.rule(p, x, y + 9, 380)
                y += 31
                for key, words in keys:
                    width = draw.width_of(key, 12, 600) + 14
                    draw.rounded(p, QRectF(x, y - 13.5, width, 18), 4, "raised", "line")
                    draw.text(p, x + 7, y, key, 12, 600)
                    draw.text(p, x + 126, y, words, 13, 400, "quiet")
                    y += 21.2
