"""The help sheet of keys: those of the window, and those of every stop."""

from itertools import combinations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from foxpath.window.look import theme
from foxpath.window.stops import STOPS, Keys, shortcut_words

GENERAL: tuple[tuple[str, Keys], ...] = (
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
        "Everywhere",
        (
            ("Tab", "next control"),
            ("arrows", "move a choice or a knob"),
            ("Enter", "type a number"),
            ("Delete", "give a number back"),
            ("N", "show what is next"),
            ("Alt arrows", "a cross instead of the mouse"),
            ("Ctrl Space", "press there, again lets go"),
            ("Esc", "drop a gesture, stop work"),
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
        ),
    ),
)
COLUMNS = 3
ROW_TALL, HEAD_TALL = 23, 39
"""Height of a row and of a section's head, to share the sections out among the columns."""


def sections() -> list[tuple[str, Keys]]:
    """Return every section of the sheet: the window's own, then the stops' in their order."""
    stops: list[tuple[str, Keys]] = [
        ("The trail", ((shortcut_words(len(STOPS)), "open a stop"), ("arrows", "the stop before, after")))
    ]
    stops += [(one.title, one.keys) for one in STOPS if one.keys]
    return [*GENERAL, *stops]


class KeySheet(QDialog):
    """All keys on one sheet; Esc closes it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys")
        self.setAccessibleName("keys")
        self.resize(1000, 660)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        outer.addWidget(scroll)
        sheet = QWidget()
        sheet.setObjectName("keys")
        scroll.setWidget(sheet)
        body = QVBoxLayout(sheet)
        body.setContentsMargins(28, 22, 28, 22)
        head = QHBoxLayout()
        title, hint = QLabel("Keys"), QLabel("Esc closes this")
        title.setFont(theme.font(22, 700))
        hint.setObjectName("quiet")
        head.addWidget(title)
        head.addStretch(1)
        head.addWidget(hint)
        body.addLayout(head)
        columns = QHBoxLayout()
        columns.setSpacing(28)
        body.addLayout(columns)
        for part in self._shared_out(sections()):
            column = QVBoxLayout()
            column.setSpacing(0)
            for name, keys in part:
                column.addWidget(_section(name, keys))
            column.addStretch(1)
            columns.addLayout(column, 1)
        body.addStretch(1)

    @staticmethod
    def _shared_out(rows: list[tuple[str, Keys]]) -> list[list[tuple[str, Keys]]]:
        """Share sections out among the columns, in their order, so that the tallest column is as low as it can be."""
        tall = [HEAD_TALL + ROW_TALL * len(keys) for _, keys in rows]

        def cut(ends: tuple[int, ...]) -> list[tuple[int, int]]:
            return list(zip((0, *ends), (*ends, len(rows)), strict=True))

        ways = combinations(range(1, len(rows)), COLUMNS - 1)
        best = min(ways, key=lambda ends: max(sum(tall[a:b]) for a, b in cut(ends)))
        return [rows[a:b] for a, b in cut(best)]

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_F1, Qt.Key.Key_Return):
            self.close()
        else:
            super().keyPressEvent(event)


def _section(name: str, keys: Keys) -> QWidget:
    """Return a section: its name over a rule, and a row for each key."""
    box = QWidget()
    grid = QGridLayout(box)
    grid.setContentsMargins(0, 8, 0, 0)
    grid.setHorizontalSpacing(10)
    grid.setVerticalSpacing(3)
    title = QLabel(name)
    title.setFont(theme.font(14, 700))
    grid.addWidget(title, 0, 0, 1, 2)
    for row, (key, words) in enumerate(keys, 1):
        cap, what = QLabel(key), QLabel(words)
        cap.setObjectName("key")
        what.setObjectName("quiet")
        what.setWordWrap(True)
        cap.setBuddy(what)
        grid.addWidget(cap, row, 0, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        grid.addWidget(what, row, 1)
    grid.setColumnMinimumWidth(0, 104)
    grid.setColumnStretch(1, 1)
    return box
