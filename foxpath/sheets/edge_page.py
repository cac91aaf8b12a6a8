"""The page of the edges: bands as wide as their transition."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.edges import even_parts, grade_of_width
from foxpath.sheets.page import MARGIN, QUIET, Draw, Page


@dataclass(frozen=True, slots=True, eq=False)
class Band:
    """An edge on the edge map: its runs, the width at each of their points (mm on the canvas), and words for the list."""

    runs_mm: tuple[Points, ...]
    widths_mm: tuple[F64, ...]
    words: str


@dataclass(frozen=True, slots=True, eq=False)
class EdgeSheet:
    """What the page of the edges shows, mm on the canvas.

    Attributes
    ----------
    bands : tuple of Band
    zones : tuple of (number, (x, y))
    fringe_mm : tuple of (8, 2) float64
        Hairs that hang over the borders of coats, root to tip.
    markings_mm : tuple of (line, reach) pairs, (N, 2) each
        Stretches that hair crosses: places, and the tip of the hair there; along the hair both are the same.
    """

    bands: tuple[Band, ...]
    zones: tuple[tuple[int, tuple[float, float]], ...] = ()
    fringe_mm: tuple[Points, ...] = ()
    markings_mm: tuple[tuple[Points, Points], ...] = ()


_DASH = {"lost": (0.8, 3.2), "soft": (4.0, 2.4), "firm": None, "hard": None}


def edge_page(sheet: EdgeSheet) -> Draw:
    """Return the page of the edges."""

    def draw(page: Page) -> None:
        book = page.book
        top = page.head("Edges", "bands as wide as their transition")
        x, y, scale, height = page.plan_area(top, (page.height - top) * 0.52)
        faded = (book.reference.astype(np.float32) * 0.45 + 255 * 0.55).astype(np.uint8)
        page.picture(faded, x, y, scale * book.canvas.width_mm)
        page.pdf.saveState()
        page.clip_to(x, y, scale)
        for band in sheet.bands:
            for run, along in zip(band.runs_mm, band.widths_mm, strict=True):
                for first, last, width in even_parts(along, 1.25):
                    part, grade = run[first : last + 1], grade_of_width(width)
                    page.line(part, x, y, scale, max(0.6, width * scale), 0.1, 0.26)
                    page.line(part, x, y, scale, 1.5 if grade == "hard" else 0.8, 0.05, 1, _DASH[grade])
        _ragged(page, sheet, x, y, scale)
        page.pdf.restoreState()
        for number, at in sheet.zones:
            px, py = x + at[0] * scale, y + at[1] * scale
            page.pdf.setFillGray(0.12)
            page.pdf.roundRect(px - 7, page.height - py - 7, 14, 14, 3, stroke=0, fill=1)
            page.text(px, py + 3.4, str(number), 9, "Bold", 1.0, "c")
        y += height + 18
        y = _legend(page, y, crossed=bool(sheet.markings_mm))
        columns, row = 2, 13.0
        width = (page.right - page.left) / columns
        most = int((page.height - MARGIN - y) / row)
        shown = sheet.bands[: most * columns]
        for k, band in enumerate(shown):
            cx, cy = page.left + (k // most) * width, y + (k % most) * row
            page.text(cx, cy, page.fitted(band.words, 8.5, width - 12), 8.5)
        if len(sheet.bands) > len(shown):
            page.text(
                page.right,
                page.height - MARGIN,
                f"{len(sheet.bands) - len(shown)} shorter edges more",
                8.5,
                tone=QUIET,
                align="r",
            )

    return draw


def _ragged(page: Page, sheet: EdgeSheet, x: float, y: float, scale: float) -> None:
    """Draw hair on the edge map: what hangs over the borders, and where it crosses those of markings."""
    for line in sheet.fringe_mm:
        page.line(line[3:], x, y, scale, 0.25, 0.2)
    for line, tips in sheet.markings_mm:
        if np.allclose(line, tips):
            page.line(line, x, y, scale, 0.8, 0.05)
            continue
        for root, tip in zip(line, tips, strict=True):
            page.line(np.array([root - 0.35 * (tip - root), tip]), x, y, scale, 0.5, 0.05)


def _legend(page: Page, y: float, *, crossed: bool) -> float:
    """Draw what each kind of line on the edge map means; returns the y below."""
    x = page.left
    for grade, words in (
        ("lost", "lost, over 10 mm"),
        ("soft", "soft, 3 to 10"),
        ("firm", "firm, 0.8 to 3"),
        ("hard", "hard"),
    ):
        line = np.array([[0.0, 0.0], [26.0, 0.0]])
        page.line(line, x, y, 1.0, {"lost": 9.0, "soft": 6.0, "firm": 3.5, "hard": 0.6}[grade], 0.1, 0.26)
        page.line(line, x, y, 1.0, 1.5 if grade == "hard" else 0.8, 0.05, 1, _DASH[grade])
        page.text(x + 32, y + 3, words, 9, tone=QUIET)
        x += 118
    if crossed:
        y += 14
        page.text(
            page.left, y + 3, "short hairs across a marking's border: hair crosses it, leave it ragged", 9, tone=QUIET
        )
    return y + 18
