"""Pages of the map's finer parts: lengths with their brushes, laying order, feathers."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.units import mm_words
from foxpath.sheets.page import MARGIN, QUIET, Draw, Page, grid


@dataclass(frozen=True, slots=True)
class LengthRow:
    """A zone on the length map.

    Attributes
    ----------
    number : int
    name, length, width : str
        In words, with units.
    masses, hairs : str
        The brush to block it in, and that for its hairs.
    note : str
        What becomes of hairs that are too thin.
    """

    number: int
    name: str
    length: str
    width: str
    masses: str
    hairs: str
    note: str = ""


@dataclass(frozen=True, slots=True, eq=False)
class LengthSheet:
    """What the page of lengths shows.

    Attributes
    ----------
    lengths_mm : (N, 3) float64
        Places (x, y) on the canvas and the length of a mark there, mm.
    rows : tuple of LengthRow
    """

    lengths_mm: Points
    rows: tuple[LengthRow, ...]


@dataclass(frozen=True, slots=True, eq=False)
class LayingSheet:
    """What the page of the laying order shows.

    Attributes
    ----------
    outlines_mm : tuple of (N, 2) float64
        Outlines of the zones.
    order : tuple of (place in the order, name, (x, y) mm)
    words : str
        How much of the order is said by tips, and its rings.
    """

    outlines_mm: tuple[Points, ...]
    order: tuple[tuple[int, str, tuple[float, float]], ...]
    words: str


@dataclass(frozen=True, slots=True, eq=False)
class FeatherMap:
    """Feathers of a zone, mm on the canvas: outlines (N, M, 2) of the leading ones, shafts (N, 8, 2) of the hinted."""

    words: str
    outlines_mm: F32
    shafts_mm: F32
    hinted_mm: F32


def _faded(page: Page, top: float, room: float) -> tuple[float, float, float, float]:
    x, y, scale, height = page.plan_area(top, room)
    faded = (page.book.reference.astype(np.float32) * 0.35 + 255 * 0.65).astype(np.uint8)
    page.picture(faded, x, y, scale * page.book.canvas.width_mm)
    return x, y, scale, height


def _tag(page: Page, x: float, y: float, words: str, size: float = 9) -> None:
    wide = page.pdf.stringWidth(words, "FP-Bold", size) + 6
    page.pdf.setFillGray(1.0)
    page.pdf.roundRect(x - wide / 2, page.height - y - 6.5, wide, 13, 3, stroke=0, fill=1)
    page.text(x, y + 3.2, words, size, "Bold", align="c")


def length_page(sheet: LengthSheet) -> Draw:
    """Return the map of lengths: numbers where they hold, and each zone's marks and brushes in a table."""

    def draw(page: Page) -> None:
        top = page.head("Lengths", "mm on the canvas, where the marks lie")
        x, y, scale, height = _faded(page, top, (page.height - top) * 0.5)
        for px, py, length in sheet.lengths_mm:
            words = f"{length:.1f}" if length < 10 else f"{length:.0f}"
            _tag(page, x + px * scale, y + py * scale, words, 7.5)
        grid(page, x, y, scale)
        y += height + 24
        columns = (0.0, 20.0, 150.0, 222.0, 268.0, 340.0, 418.0)
        for at, words in zip(columns, ("", "zone", "length", "width", "masses", "hairs", ""), strict=True):
            page.text(page.left + at, y, words, 8.5, "Semibold", QUIET)
        y += 14
        for row in sheet.rows:
            if y > page.height - MARGIN - 4:
                break
            cells = (str(row.number), row.name, row.length, row.width, row.masses, row.hairs, row.note)
            ends = (*columns[1:], page.right - page.left)
            for at, end, words in zip(columns, ends, cells, strict=True):
                page.text(page.left + at, y, page.fitted(words, 8.5, end - at - 6), 8.5)
            y += 13.2

    return draw


def laying_page(sheet: LayingSheet) -> Draw:
    """Return the order in which zones are painted within a pass, and how much of it is said by tips."""

    def draw(page: Page) -> None:
        top = page.head("Laying order", "what is lain upon is painted first")
        x, y, scale, height = _faded(page, top, (page.height - top) * 0.56)
        page.pdf.saveState()
        page.clip_to(x, y, scale)
        for outline in sheet.outlines_mm:
            page.line(outline, x, y, scale, 0.8, 0.25, close=True)
        page.pdf.restoreState()
        for place, _, at in sheet.order:
            _tag(page, x + at[0] * scale, y + at[1] * scale, str(place), 10)
        y += height + 24
        y = page.wrapped(page.left, y, sheet.words, page.right - page.left, 10, QUIET) + 6
        row, columns = 15.0, 3
        width = (page.right - page.left) / columns
        most = max(1, int(np.ceil(len(sheet.order) / columns)))
        for k, (place, name, _) in enumerate(sheet.order):
            cx, cy = page.left + (k // most) * width, y + (k % most) * row
            page.text(cx, cy, page.fitted(f"{place}  {name}", 10, width - 10), 10)

    return draw


def feather_page(feathers: tuple[FeatherMap, ...]) -> Draw:
    """Return the feathers at their place: those worth painting by outline and shaft, the others by a line."""

    def draw(page: Page) -> None:
        top = page.head("Feathers", "outlined: worth painting; a line: hint it")
        x, y, scale, height = _faded(page, top, page.height - top - 70 - 15 * len(feathers))
        page.pdf.saveState()
        page.clip_to(x, y, scale)
        for one in feathers:
            for line in one.hinted_mm:
                page.line(line[4:].astype(np.float64), x, y, scale, 0.4, 0.3)
            for outline, shaft in zip(one.outlines_mm, one.shafts_mm, strict=True):
                page.line(outline.astype(np.float64), x, y, scale, 0.5, 0.05, close=True)
                page.line(shaft.astype(np.float64), x, y, scale, 0.3, 0.05)
        page.pdf.restoreState()
        grid(page, x, y, scale)
        y += height + 22
        for one in feathers:
            page.text(page.left, y, one.words, 10)
            y += 15

    return draw


def length_words(low: float, high: float) -> str:
    """Write a range of lengths as one or two numbers with their unit."""
    return mm_words(high) if high - low < 0.1 * high else f"{low:.0f} to {mm_words(high)}"
