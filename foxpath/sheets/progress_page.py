"""The touch-up list on paper: the squared canvas with its numbered places, and what to do at each."""

from collections.abc import Sequence
from dataclasses import dataclass

from foxpath.core.arrays import Rgb8
from foxpath.sheets.page import QUIET, Draw, Page

ROW = 40.0


@dataclass(frozen=True, slots=True)
class TouchRow:
    """A touch-up: its number, where it lies as shares of the canvas, what it says, what to do, with what, and whether it shows."""

    number: int
    at: tuple[float, float]
    says: str
    remedy: str
    facts: str
    seen: bool


@dataclass(frozen=True, slots=True, eq=False)
class ProgressSheet:
    """The list on paper.

    Attributes
    ----------
    title, note : str
    picture : (H, W, 3) uint8
        The canvas squared.
    advice : str
    reasons, trust : tuple of str
    rows : tuple of TouchRow
    """

    title: str
    note: str
    picture: Rgb8
    advice: str
    reasons: tuple[str, ...]
    trust: tuple[str, ...]
    rows: tuple[TouchRow, ...]


def progress_pages(sheet: ProgressSheet) -> list[Draw]:
    """Return the page of the picture with the first rows, and as many further ones as the rest takes."""
    first, rest = sheet.rows[:4], list(sheet.rows[4:])
    pages: list[Draw] = [lambda page: _first(page, sheet, first)]
    while rest:
        here, rest = rest[:15], rest[15:]
        pages.append(_more(sheet, tuple(here)))
    return pages


def _more(sheet: ProgressSheet, rows: Sequence[TouchRow]) -> Draw:
    def draw(page: Page) -> None:
        y = page.head(sheet.title, "going on") + 8
        for row in rows:
            y = _row(page, row, y)

    return draw


def _first(page: Page, sheet: ProgressSheet, rows: Sequence[TouchRow]) -> None:
    top = page.head(sheet.title, sheet.note)
    x, y, scale, height = page.plan_area(top, 330)
    wide = scale * page.book.canvas.width_mm
    page.picture(sheet.picture, x, y, wide, 90)
    for row in sheet.rows:
        cx, cy = x + row.at[0] * wide, page.height - y - row.at[1] * height
        page.pdf.setFillGray(0.1 if row.seen else 0.45)
        page.pdf.setStrokeGray(1)
        page.pdf.setLineWidth(1)
        page.pdf.circle(cx, cy, 8, stroke=1, fill=1)
        page.pdf.setFillGray(1)
        page.pdf.setFont("FP-Bold", 9)
        page.pdf.drawCentredString(cx, cy - 3.2, str(row.number))
    y += height + 22
    page.text(page.left, y, sheet.advice, 14, "Bold")
    y += 8
    for words in sheet.reasons:
        y = page.wrapped(page.left, y + 10, words, page.right - page.left, 9.5) - 8
    y += 16
    for words in sheet.trust:
        page.text(page.left, y, page.fitted(words, 8.5, page.right - page.left), 8.5, tone=QUIET)
        y += 11
    y += 6
    for row in rows:
        y = _row(page, row, y)


def _row(page: Page, row: TouchRow, y: float) -> float:
    tone = 0.12 if row.seen else QUIET
    page.text(page.left, y + 10, str(row.number), 12, "Bold", tone)
    page.text(
        page.left + 22, y + 10, page.fitted(row.says, 10.5, page.right - page.left - 22, "Bold"), 10.5, "Bold", tone
    )
    below = page.wrapped(page.left + 22, y + 23, row.remedy, page.right - page.left - 22, 9.5, tone)
    page.text(page.left + 22, below, page.fitted(row.facts, 8.5, page.right - page.left - 22), 8.5, tone=QUIET)
    return max(below + 14, y + ROW)
