"""The list on the bench: numbered, in the order the eye sees them; a line under what still shows; and the places on the canvas."""

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from foxpath.core.progress.touches import WORDS
from foxpath.derive.progress.touchups import TouchUp
from foxpath.window.bench.rows import Row, Rows
from foxpath.window.look import draw

FULL_TIMES = 4.0


@dataclass(frozen=True, slots=True)
class TouchRow(Row):
    """A touch-up's row, or the line under those that show (`entry` None)."""

    entry: TouchUp | None = None


class TouchRows(Rows):
    """The list; the sentence over two lines where it must, what it takes beneath, a taper for how far over its threshold it is."""

    ROW = 62

    def __init__(self) -> None:
        super().__init__("touch-ups, what the eye sees first")

    def _row(self, p: QPainter, row: Row, box: QRectF) -> None:
        assert isinstance(row, TouchRow)
        entry = row.entry
        if entry is None:
            return
        quiet = entry.below or entry.word in ("leave", "struck", "done")
        tone = "quiet" if quiet else "text"
        y = box.top() + 17
        draw.text(p, 6, y, str(entry.number), 13, 700, tone)
        lines = draw.lines_of(entry.says, self.width() - 34, 13.5, 500)
        if len(lines) > 2:
            lines = [lines[0], draw.elided(" ".join(lines[1:]), self.width() - 34, 13.5, 500)]
        for line in lines:
            draw.text(p, 28, y, line, 13.5, 500, tone)
            y += 17
        words = WORDS.get(entry.word, "") or (
            f"{entry.minutes} min" + ("" if entry.when == "now" else ", once it is dry")
        )
        pile = entry.pile.split(",")[0]
        facts = " · ".join(one for one in (words, entry.tool, pile) if one)
        draw.text(p, 28, y, draw.elided(facts, self.width() - 96, 12), 12, 400, "quiet")
        # How many times its threshold: a hair that fills its room at four times.
        long = 48 * min(1.0, entry.times / FULL_TIMES)
        draw.stroke(p, draw.along(self.width() - 56, y - 4, self.width() - 8, y - 4, 6), 1, 1, "line", soft_root=False)
        draw.stroke(
            p, draw.along(self.width() - 56, y - 4, self.width() - 56 + long, y - 4, 6), 5, 1, tone, soft_root=False
        )


def rows_of(entries: Sequence[TouchUp]) -> list[TouchRow]:
    """Return the rows of entries."""
    return [TouchRow(str(one.number), one.says, entry=one) for one in entries]
