"""Rows of the bench: section heads, the next step, findings, lists, gestures, depth shingles, kinds."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from foxpath.core.units import count_words
from foxpath.window.bench.controls import Button, Control, Link
from foxpath.window.look import draw
from foxpath.window.look.theme import colour

if TYPE_CHECKING:
    # The first window is drawn before the computation has to be there.
    from foxpath.core.findings import Finding, Level


def _told(*words: str) -> str:
    """Return words for whoever has them read aloud."""
    return ". ".join(one.rstrip(".") for one in words if one)


class Section(QWidget):
    """A section's head: name, a quiet note on the right, a tapering rule."""

    def __init__(self, title: str, note: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.title, self.note = title, note
        self.setAccessibleName(_told(title, note))
        self.setFixedHeight(36)

    def set_words(self, title: str, note: str = "") -> None:
        """Change name and note."""
        if (title, note) != (self.title, self.note):
            self.title, self.note = title, note
            self.setAccessibleName(_told(title, note))
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            note = draw.width_of(self.note, 12)
            title = draw.elided(self.title, self.width() - note - 24, 13, 700)
            draw.text(p, 6, 20, title, 13, 700)
            draw.text(p, self.width() - 6, 20, self.note, 12, 400, "quiet", "r")
            draw.rule(p, 6, 28, self.width() - 12)


class Words(QWidget):
    """A few lines of text that wrap to the width of the bench."""

    def __init__(self, words: str, px: float = 13, tone: str = "quiet", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.words, self.px, self.tone = words, px, tone
        self.setAccessibleName(words)
        self.setFixedHeight(20)

    def set_words(self, words: str) -> None:
        """Change the text."""
        if words == self.words:
            return
        self.words = words
        self.setAccessibleName(words)
        self._fit()
        self.update()

    def _fit(self) -> None:
        lines = draw.lines_of(self.words, self.width() - 12, self.px)
        self.setFixedHeight(int(len(lines) * (self.px + 5)) + 6 if lines else 0)

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            for k, line in enumerate(draw.lines_of(self.words, self.width() - 12, self.px)):
                draw.text(p, 6, 14 + k * (self.px + 5), line, self.px, 400, self.tone)


def comb_sign(p: QPainter, x: float, y: float, tone: str = "text") -> None:
    """A comb, small."""
    p.fillRect(QRectF(x, y - 8, 3, 16), colour(tone))
    for k in (-6, 0, 6):
        draw.stroke(p, draw.along(x + 3, y + k, x + 20 - abs(k) * 0.4, y + k * 1.2), 2.6, 0.8, tone)


def outline_sign(p: QPainter, x: float, y: float, tone: str = "text") -> None:
    """A closed outline with its points."""
    ring = [(x + 10 + 9 * math.cos(k * math.tau / 39), y + 6.5 * math.sin(k * math.tau / 39)) for k in range(40)]
    draw.stroke(p, ring, 2.2, 1.2, tone)
    for a in (0.4, 2.4, 4.4):
        draw.circle(p, x + 10 + 9 * math.cos(a), y + 6.5 * math.sin(a), 2.4, tone)


def hair_sign(p: QPainter, x: float, y: float, tone: str = "text") -> None:
    """One hair."""
    draw.stroke(p, draw.bent(x + 1, y + 5, 20, 9, 2.2), 4.2, 0.8, tone)


def edge_sign(p: QPainter, x: float, y: float, tone: str = "text") -> None:
    """Two dashed rails."""
    for k in (-4, 4):
        for a in (0, 8, 16):
            p.fillRect(QRectF(x + a, y + k - 1, 5, 2), colour(tone))


def frame_sign(p: QPainter, x: float, y: float, tone: str = "text") -> None:
    """A crop's corners."""
    for sx in (-1, 1):
        for sy in (-1, 1):
            cx, cy = x + 10 + sx * 9, y + sy * 7
            p.fillRect(QRectF(min(cx, cx - sx * 6), cy - 1, 6, 2), colour(tone))
            p.fillRect(QRectF(cx - 1, min(cy, cy - sy * 5), 2, 5), colour(tone))


def ladder_sign(p: QPainter, x: float, y: float, tone: str = "text") -> None:
    """A value ladder."""
    for k in range(5):
        wide = 16 if 1 <= k <= 3 else 6
        p.fillRect(QRectF(x + 10 - wide / 2, y - 8 + k * 3.6, wide, 2.4), colour(tone))


SIGNS: dict[str, Callable[[QPainter, float, float, str], None]] = {
    "comb": comb_sign,
    "outline": outline_sign,
    "hair": hair_sign,
    "edge": edge_sign,
    "frame": frame_sign,
    "ladder": ladder_sign,
}


class NextStep(QWidget):
    """The card of the next step: sign, sentence, reason, and the only filled button."""

    asked = Signal()

    def __init__(self, sign: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.sign = sign
        self.sentence, self.reason = "", ""
        self._said: tuple[str, str, str] | None = None
        self.setAccessibleName("next step")
        self.button = Button("Show me", filled=True, parent=self)
        self.button.clicked.connect(self.asked)
        self.setFixedHeight(64)

    def set_words(self, sentence: str, reason: str, button: str = "") -> None:
        """Say what is next and why; without words the button is away."""
        if (sentence, reason, button) == self._said:
            return
        self._said = (sentence, reason, button)
        self.sentence, self.reason = sentence, reason
        self.setAccessibleName(_told(sentence, reason))
        self.button.setVisible(bool(button))
        if button:
            self.button.set_words(button)
        self._place()
        self.update()

    def _room(self) -> float:
        taken = self.button.sizeHint().width() + 14 if self.button.isVisibleTo(self) else 8
        return self.width() - 46 - taken

    def _place(self) -> None:
        hint = self.button.sizeHint()
        sentence = draw.lines_of(self.sentence, self._room(), 14, 700)
        reason = draw.lines_of(self.reason, self._room(), 12.5)
        self.setFixedHeight(max(62, 22 + 18 * len(sentence) + 17 * len(reason)))
        self.button.setGeometry(
            self.width() - hint.width() - 9, (self.height() - hint.height()) // 2, hint.width(), hint.height()
        )

    def resizeEvent(self, event: object) -> None:
        self._place()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw.rounded(p, QRectF(self.rect()), 8, "raised", "line")
            SIGNS[self.sign](p, 13, self.height() / 2, "russet")
            y = 25.0
            for line in draw.lines_of(self.sentence, self._room(), 14, 700):
                draw.text(p, 44, y, line, 14, 700)
                y += 18
            for line in draw.lines_of(self.reason, self._room(), 12.5):
                draw.text(p, 44, y, line, 12.5, 400, "quiet")
                y += 17


class Question(QWidget):
    """A question in the place of the next step: one sentence, what follows, two or three answers."""

    answered = Signal(str)

    def __init__(
        self, sentence: str, follows: str, answers: Sequence[tuple[str, str]], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.sentence, self.follows = sentence, follows
        self.setAccessibleName(_told(sentence, follows))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 10, 12, 10)
        layout.addWidget(Words(sentence, 14, "text"))
        layout.addWidget(Words(follows, 12.5))
        row = QHBoxLayout()
        row.setSpacing(2)
        self.buttons: dict[str, Button] = {}
        for k, (key, words) in enumerate(answers):
            button = Button(words, filled=k == len(answers) - 1)
            button.setObjectName(key)
            button.clicked.connect(self._answer)
            self.buttons[key] = button
            row.addWidget(button)
        row.addStretch()
        layout.addLayout(row)

    def _answer(self) -> None:
        self.answered.emit(self.sender().objectName())

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw.rounded(p, QRectF(self.rect()), 8, "raised", "line")


class Judgement(QWidget):
    """A judgement: its mark, the sentence, then what was measured, the rule and what to do."""

    LEFT, WIDTH_LESS = 30, 36

    def __init__(self, level: "Level" = "", says: str = "", why: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.level: Level = level
        self.says, self.why = says, why
        self.setAccessibleName(_told(says, why))
        self.setFixedHeight(8)

    def set_words(self, level: "Level", says: str, why: str) -> None:
        """Say something else."""
        if (level, says, why) != (self.level, self.says, self.why):
            self.level, self.says, self.why = level, says, why
            self.setAccessibleName(_told(says, why))
            self._fit()
            self.update()

    def _lines(self) -> tuple[list[str], list[str]]:
        room = self.width() - self.WIDTH_LESS
        return draw.lines_of(self.says, room, 14, 500), draw.lines_of(self.why, room, 12)

    def _words_tall(self) -> int:
        says, why = self._lines()
        return 18 * len(says) + 16 * len(why)

    def _fit(self) -> None:
        self.setFixedHeight(max(8, 10 + self._words_tall()))

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.level:
                draw.finding_mark(p, 13, 14, self.level)
            elif self.says:
                draw.circle(p, 13, 14, 5, "", "quiet", 1.4)
            says, why = self._lines()
            y = 19.0
            for line in says:
                draw.text(p, self.LEFT, y, line, 14, 500)
                y += 18
            for line in why:
                draw.text(p, self.LEFT, y - 1, line, 12, 400, "quiet")
                y += 16


class FindingRow(Judgement):
    """A finding with what can be done."""

    asked = Signal(str, object)
    """Key of the action, and the finding."""

    def __init__(self, finding: "Finding", actions: Sequence[tuple[str, str]], parent: QWidget | None = None) -> None:
        super().__init__(finding.level, finding.says, finding.why, parent)
        self.finding = finding
        self._links: list[Link] = []
        for key, words in actions:
            link = Link(words, spot=key == "show", parent=self)
            link.setObjectName(key)
            link.setAccessibleDescription(finding.says)
            link.clicked.connect(self._ask)
            self._links.append(link)
        self.setMinimumHeight(40)

    def _ask(self) -> None:
        self.asked.emit(self.sender().objectName(), self.finding)

    def _fit(self) -> None:
        y, x = 6 + self._words_tall(), 26
        for link in self._links:
            link.setGeometry(x, y, link.sizeHint().width(), 24)
            x += link.sizeHint().width() + 6
        self.setFixedHeight(y + (28 if self._links else 8))


@dataclass(frozen=True, slots=True)
class Row:
    """One row of a list: key, name, a note in the middle and one at the right, and a bar with its doubt.

    `swatch` is a grade of edge, or a colour as "#RRGGBB".
    """

    key: str
    name: str
    note: str = ""
    right: str = ""
    share: float | None = None
    swatch: str = ""
    off: bool = False


class Rows(Control):
    """A list to choose from; arrow keys move the choice."""

    chosen = Signal(str)
    ROW = 23

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(self.ROW, name, parent)
        self.rows: list[Row] = []
        self.value = ""
        self._under = -1

    def set_rows(self, rows: Sequence[Row], value: str) -> None:
        """Show rows with one of them chosen."""
        if list(rows) == self.rows and value == self.value:
            return
        self.rows, self.value = list(rows), value
        self.setFixedHeight(max(1, len(rows)) * self.ROW + 2)
        self._tell()
        self.update()

    def _tell(self) -> None:
        """Tell whoever cannot see it which row is chosen, and what it says."""
        place = next((k for k, row in enumerate(self.rows) if row.key == self.value), -1)
        if place < 0:
            self.setAccessibleDescription(f"{count_words(len(self.rows), 'row')}, none chosen")
            return
        row = self.rows[place]
        self.setAccessibleDescription(_told(f"{place + 1} of {len(self.rows)}", row.name, row.note, row.right))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = int(event.position().y() // self.ROW)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._take(int(event.position().y() // self.ROW))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [row.key for row in self.rows]
        now = keys.index(self.value) if self.value in keys else -1
        if event.key() == Qt.Key.Key_Down:
            self._take(now + 1)
        elif event.key() == Qt.Key.Key_Up:
            self._take(max(now - 1, 0))
        else:
            super().keyPressEvent(event)

    def _take(self, index: int) -> None:
        if 0 <= index < len(self.rows):
            self.value = self.rows[index].key
            self._tell()
            self.update()
            self.chosen.emit(self.value)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            for k, row in enumerate(self.rows):
                box = QRectF(0, k * self.ROW + 1, self.width(), self.ROW - 1)
                if row.key == self.value:
                    draw.rounded(p, box, 5, "sunk")
                elif self.hovered and k == self._under:
                    draw.rounded(p, box, 5, "hover")
                self._row(p, row, box)
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))

    def _row(self, p: QPainter, row: Row, box: QRectF) -> None:
        y = box.center().y() + 4.6
        x = 6.0
        if row.swatch.startswith("#"):
            # A colour, on the grey of the well.
            draw.rounded(p, QRectF(6, box.top() + 2, 34, box.height() - 4), 4, "well")
            draw.rounded(p, QRectF(10, box.top() + 5, 26, box.height() - 10), 2, row.swatch)
            x = 48
        elif row.swatch:
            draw_grade(p, QRectF(6, box.top() + 2, 46, box.height() - 4), row.swatch)
            x = 60
        right = draw.width_of(row.right, 13) if row.right else 0.0
        tone = "quiet" if row.off else "text"
        if row.share is None:
            room = self.width() - x - right - 18
            note = draw.width_of(row.note, 12) if row.note else 0.0
            room = max(40.0, room - note - (10 if note else 0))
            px = draw.size_for(row.name, room, 13)
            used = draw.text(p, x, y, draw.elided(row.name, room, px), px, 400, tone)
            if row.note:
                draw.text(p, x + used + 9, y, row.note, 12, 400, "quiet")
            draw.text(p, self.width() - 6, y, row.right, 13, 400, tone, "r")
            return
        px = draw.size_for(row.name, 112, 13)
        draw.text(p, x, y, draw.elided(row.name, 112, px), px)
        draw.text(p, 134, y, row.note, 13, 400, "quiet", "r")
        left, width = 146.0, self.width() - 146.0 - 52.0
        bar = QRectF(left, box.center().y() - 3, width, 6)
        p.fillRect(bar, colour("raised"))
        done = QRectF(left, bar.top(), width * row.share, 6)
        p.fillRect(done, colour("quiet"))
        rest = QPainterPath()
        rest.addRect(QRectF(done.right(), bar.top(), width - done.width(), 6))
        draw.hatch(p, rest, 4.5, 0.7, 0.8)
        draw.text(p, self.width() - 6, y, row.right, 13, 500, "text", "r")


class TallRows(Rows):
    """A list whose notes stand on a second line, for names that are long."""

    ROW = 40

    def _row(self, p: QPainter, row: Row, box: QRectF) -> None:
        right = draw.width_of(row.right, 13) if row.right else 0.0
        room, tone = self.width() - 12, "quiet" if row.off else "text"
        draw.text(p, 6, box.top() + 16, _cut(row.name, room - right - 10, 13), 13, 500, tone)
        draw.text(p, self.width() - 6, box.top() + 16, row.right, 13, 400, tone, "r")
        draw.text(p, 6, box.top() + 32, _cut(row.note, room, 12), 12, 400, "quiet")


def _cut(words: str, room: float, px: float) -> str:
    """Return words without their end where they are too long: what comes first says most."""
    if draw.width_of(words, px) <= room:
        return words
    while words and draw.width_of(words + "…", px) > room:
        words = words[:-1]
    return words.rstrip(" ,+") + "…"


def draw_grade(p: QPainter, box: QRectF, grade: str) -> None:
    """Draw a grade's sign on a strip of dark well: dots, dashed rails, solid rails, one line."""
    draw.rounded(p, box, 4, "#5A5A5A")
    p.save()
    p.setClipRect(box)
    middle = box.center().y()
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour("over_light"))
    x = box.left() + 3
    if grade == "lost":
        k = 0
        while x < box.right():
            p.drawEllipse(QPointF(x, middle + (-4 if k % 2 else 3)), 1.1, 1.1)
            x, k = x + 5, k + 1
    elif grade == "soft":
        while x < box.right():
            for y in (middle - 4, middle + 3):
                p.drawRect(QRectF(x, y, 7, 1.3))
            x += 11
    elif grade == "firm":
        for y in (middle - 3, middle + 1.6):
            p.drawRect(QRectF(box.left(), y, box.width(), 1.3))
    else:
        p.drawRect(QRectF(box.left(), middle - 0.9, box.width(), 1.8))
    p.restore()


class Gestures(QWidget):
    """What can be said on the picture, each with its sign and how it is drawn."""

    def __init__(self, gestures: Sequence[tuple[str, str, str]], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.gestures = list(gestures)
        self.setAccessibleName(_told(*(f"{name}: {how}" for _, name, how in gestures)))
        self.setFixedHeight(len(gestures) * 25 + 6)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            for k, (sign, name, how) in enumerate(self.gestures):
                y = 13 + k * 25
                SIGNS[sign](p, 7, y, "text")
                used = draw.text(p, 40, y + 4.6, name, 13, 700)
                draw.text(
                    p, self.width() - 6, y + 4.6, draw.elided(how, self.width() - 56 - used, 13), 13, 400, "quiet", "r"
                )


class Shingles(Control):
    """The zones by depth, back at the left, each lying over the one before; drag one to change its rank."""

    chosen = Signal(str)
    moved = Signal(str, int)
    """Zone id and its new rank from the back."""

    def __init__(self, name: str = "depth, back to front", parent: QWidget | None = None) -> None:
        super().__init__(58, name, parent)
        self.items: list[tuple[str, str]] = []
        self.value = ""
        self._drag = -1
        self._x = 0.0

    def set_items(self, items: Sequence[tuple[str, str]], value: str) -> None:
        """Show (id, number) back to front, one chosen."""
        if list(items) == self.items and value == self.value:
            return
        self.items, self.value = list(items), value
        place = next((k for k, (key, _) in enumerate(self.items) if key == value), -1)
        count = count_words(len(self.items), "zone")
        self.setAccessibleDescription(f"{place + 1} of {count} from the back" if place >= 0 else count)
        self.update()

    def _pitch(self) -> float:
        return (self.width() - 16) / max(1, len(self.items))

    def _index_at(self, x: float) -> int:
        return min(len(self.items) - 1, max(0, int((x - 4) / self._pitch())))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.items:
            self._drag = self._index_at(event.position().x())
            self._x = event.position().x()
            self.chosen.emit(self.items[self._drag][0])

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag >= 0:
            self._x = event.position().x()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._drag >= 0:
            to, key = self._index_at(event.position().x()), self.items[self._drag][0]
            if to != self._drag:
                self.moved.emit(key, to)
            self._drag = -1
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [key for key, _ in self.items]
        if self.value not in keys:
            super().keyPressEvent(event)
            return
        now = keys.index(self.value)
        by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.moved.emit(self.value, now + by)
        else:
            self.chosen.emit(keys[min(max(now + by, 0), len(keys) - 1)])

    def paintEvent(self, event: QPaintEvent) -> None:
        from PySide6.QtGui import QColor, QPen

        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            pitch = self._pitch()
            widest = max((draw.width_of(number, 12.5) for _, number in self.items), default=1.0)
            size = max(9.0, 12.5 * min(1.0, (pitch - 1) / widest))
            # Of very many only some are numbered, and the chosen one.
            every = max(1, math.ceil(widest * size / 12.5 / max(pitch, 1.0)))
            for k, (key, number) in enumerate(self.items):
                x = 4 + k * pitch
                if k == self._drag:
                    x = min(max(self._x - pitch / 2, 4), self.width() - pitch - 12)
                shade = 176 + int(72 * k / max(1, len(self.items) - 1))
                path = QPainterPath()
                path.addRoundedRect(QRectF(x, 4, pitch + 10, 38), 9, 9)
                p.setBrush(QColor(shade, shade, shade))
                p.setPen(
                    QPen(colour("russet") if key == self.value else QColor(90, 90, 90), 2 if key == self.value else 1)
                )
                p.drawPath(path)
                tone = "russet_plate" if key == self.value else "#1E1E1E"
                if key == self.value or k % every == 0:
                    draw.text(p, x + pitch / 2 + 1, 28, number, size, 700 if key == self.value else 500, tone, "c")
                if key == self.value:
                    p.setPen(Qt.PenStyle.NoPen)
                    p.setBrush(colour("russet"))
                    middle = x + pitch / 2 + 1
                    p.drawPolygon(draw.polygon([(middle - 5, 53), (middle + 5, 53), (middle, 46)]))
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))
