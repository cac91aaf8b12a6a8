"""The rehearsal read zone by zone on the bench: a taper for lighter or darker, words, and edges and growth beneath."""

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.passes import Finding
from foxpath.core.rehearsal.reading import ZoneReading
from foxpath.window import draw
from foxpath.window.bench.controls import Control
from foxpath.window.bench.rows import FindingRow
from foxpath.window.theme import colour

ROW = 48.0
FULL_L = 10.0
"""A difference of this many L* fills the taper's room."""


@dataclass(frozen=True, slots=True)
class PaintedRow:
    """A zone's row: its number and name, and what was read of it."""

    number: int
    name: str
    reading: ZoneReading


class PaintedRows(Control):
    """Zones of the rehearsal, the farthest off first; arrow keys move the choice."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__(int(ROW), "the rehearsal, zone by zone")
        self.rows: list[PaintedRow] = []
        self.value = ""
        self._under = -1

    def set_rows(self, rows: Sequence[PaintedRow], value: str) -> None:
        """Show rows with one of them chosen."""
        self.rows, self.value = list(rows), value
        self.setFixedHeight(int(max(1, len(rows)) * ROW) + 2)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = int(event.position().y() // ROW)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._take(int(event.position().y() // ROW))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [row.reading.zone for row in self.rows]
        now = keys.index(self.value) if self.value in keys else -1
        by = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
        else:
            self._take(max(now + by, 0))

    def _take(self, index: int) -> None:
        if 0 <= index < len(self.rows):
            self.value = self.rows[index].reading.zone
            self.update()
            self.chosen.emit(self.value)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            for k, row in enumerate(self.rows):
                box = QRectF(0, k * ROW + 1, self.width(), ROW - 2)
                if row.reading.zone == self.value:
                    draw.rounded(p, box, 5, "sunk")
                elif self.hovered and k == self._under:
                    draw.rounded(p, box, 5, "hover")
                self._row(p, row, box)
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))

    def _row(self, p: QPainter, row: PaintedRow, box: QRectF) -> None:
        one = row.reading
        y = box.top() + 17
        used = draw.text(p, 6, y, str(row.number), 12, 700)
        right = f"ΔE {one.de:.1f}"
        draw.text(p, self.width() - 6, y, right, 12.5, 500, "text", "r")
        room = 72.0
        post = self.width() - 14 - draw.width_of(right, 12.5, 500) - room / 2
        draw.text(p, 10 + used, y, draw.elided(row.name, post - room / 2 - 18 - used, 13), 13)
        # A middle post: darker to its left, lighter to its right.
        p.fillRect(QRectF(post - 0.5, y - 10, 1, 13), colour("dim"))
        reach = max(-1.0, min(1.0, one.dl / FULL_L)) * room / 2
        if abs(reach) > 1.5:
            draw.stroke(p, draw.along(post, y - 4, post + reach, y - 4, 8), 6.0, 1.4, "text", soft_root=False)
        words = " · ".join(part for part in (one.words(), one.more()) if part)
        draw.text(p, 6, y + 19, draw.elided(words, self.width() - 12, 12), 12, 400, "quiet")


class Judged(QWidget):
    """Findings of the finished rehearsal, all of them."""

    asked = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._layout = QVBoxLayout(self)
        self._layout.setContentsMargins(0, 0, 0, 0)
        self._layout.setSpacing(0)
        self._rows: list[FindingRow] = []
        self._shown: tuple[Finding, ...] | None = None

    def show_findings(self, findings: tuple[Finding, ...]) -> None:
        """Show these, in their order."""
        if findings == self._shown:
            return
        self._shown = findings
        for row in self._rows:
            self._layout.removeWidget(row)
            row.hide()
            row.deleteLater()
        self._rows = []
        for one in findings:
            row = FindingRow(one, [("show", "show me")] if one.subject else [])
            row.asked.connect(self._ask)
            self._layout.addWidget(row)
            self._rows.append(row)

    def _ask(self, _: str, finding: object) -> None:
        self.asked.emit(finding)
