"""The rehearsal read zone by zone on the bench: a taper for lighter or darker, words, and edges and growth beneath."""

from dataclasses import dataclass

from PySide6.QtCore import QRectF, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.findings import Finding
from foxpath.core.rehearsal.reading import ZoneReading
from foxpath.window.bench.rows import FindingRow, Row, Rows
from foxpath.window.look import draw
from foxpath.window.look.theme import colour

FULL_L = 10.0
"""A difference of this many L* fills the taper's room."""


@dataclass(frozen=True, slots=True)
class PaintedRow(Row):
    """A zone's row: its number as well, and what was read of it."""

    number: int = 0
    reading: ZoneReading | None = None


class PaintedRows(Rows):
    """Zones of the rehearsal, the farthest off first."""

    ROW = 48

    def __init__(self) -> None:
        super().__init__("the rehearsal, zone by zone")

    def _row(self, p: QPainter, row: Row, box: QRectF) -> None:
        assert isinstance(row, PaintedRow)
        assert row.reading is not None
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
