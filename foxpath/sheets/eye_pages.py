"""Pages of the eyes: every step at true size with what to do, and the telling ones four times as large."""

from dataclasses import dataclass

from foxpath.core.arrays import Rgb8
from foxpath.sheets.page import MARGIN, QUIET, Draw, Page
from foxpath.sheets.paper import MM

LARGE = 4.0
TELLING = ("catchlight", "texture", "shadow", "base", "ring", "sky", "rim", "lashes", "soften", "wet")
"""Steps in the order in which they earn a large picture."""


@dataclass(frozen=True, slots=True, eq=False)
class EyeCell:
    """A step of an eye.

    Attributes
    ----------
    key, name, how : str
    facts : str
        Brush, width, values, wetness.
    picture : (H, W, 3) uint8
    painted : bool
        Left out at this size otherwise; `how` then says why.
    """

    key: str
    name: str
    how: str
    facts: str
    picture: Rgb8
    painted: bool


@dataclass(frozen=True, slots=True, eq=False)
class EyeSheet:
    """An eye on paper.

    Attributes
    ----------
    title, size : str
    cells : tuple of EyeCell
    wide_mm, tall_mm : float
        What a picture shows, on the canvas.
    iris_mm : (x, y, side)
        The square about the iris in it, mm.
    checks : tuple of str
        What is to be looked at, a sentence each.
    """

    title: str
    size: str
    cells: tuple[EyeCell, ...]
    wide_mm: float
    tall_mm: float
    iris_mm: tuple[float, float, float]
    checks: tuple[str, ...] = ()


def eye_page(sheet: EyeSheet) -> Draw:
    """Return the page of an eye's steps at true size."""

    def draw(page: Page) -> None:
        top = page.head(f"{sheet.title}: build-up", "pictures at true size")
        y = page.wrapped(page.left, top + 4, sheet.size, page.right - page.left, 10) + 6
        bottom = page.height - MARGIN - 6 - 14 * min(len(sheet.checks), 3)
        count = len(sheet.cells)
        wide, tall = sheet.wide_mm * MM, sheet.tall_mm * MM
        room = page.right - page.left
        # One column with words beside; two where the pictures are small or many.
        columns = 1 if count * (max(tall, 44) + 8) < bottom - y else 2
        span = (room - 14 * (columns - 1)) / columns
        rows = -(-count // columns)
        pitch = min(max(tall, 46) + 10, (bottom - y) / rows)
        # True size as long as it fits; a large eye is cut to its middle, never scaled.
        cut_w, cut_h = min(wide, span * 0.52), min(tall, pitch - 6)
        for k, cell in enumerate(sheet.cells):
            cx, cy = page.left + (k // rows) * (span + 14), y + (k % rows) * pitch
            _cut_picture(page, cell, cx, cy, cut_w, cut_h, MM, sheet)
            tx = cx + cut_w + 8
            page.text(tx, cy + 10, f"{k + 1}  {cell.name}", 10.5, "Bold", 0.12 if cell.painted else QUIET)
            ty = page.wrapped(tx, cy + 22, cell.facts, cx + span - tx, 8, QUIET)
            page.wrapped(tx, ty + 1, cell.how, cx + span - tx, 8.5)
        for k, words in enumerate(sheet.checks[:3]):
            page.text(page.left, bottom + 12 + 14 * k, page.fitted(f"Look again: {words}", 9, room), 9)

    return draw


def large_page(sheet: EyeSheet) -> Draw:
    """Return the page of the telling steps, four times as large as on the canvas."""

    def draw(page: Page) -> None:
        top = page.head(f"{sheet.title}: steps, large", f"{LARGE:.0f} times true size")
        x0, y0, side = sheet.iris_mm
        room, tall = page.right - page.left, page.height - MARGIN - top - 8
        cell = side * LARGE * MM
        gap = 12.0
        columns, rows = int((room + gap) / (cell + gap)), int((tall + 4) / (cell + 20))
        if columns < 1 or rows < 1:
            # So large an eye fills a page by itself: as much of it as fits, still at four times.
            columns = rows = 1
            cell = min(room, tall - 20)
        able = [c for c in sheet.cells if c.painted]
        order = sorted(able, key=lambda c: TELLING.index(c.key))[: columns * rows]
        shown = [c for c in able if c in order]
        for k, one in enumerate(shown):
            x, y = page.left + (k % columns) * (cell + gap), top + 6 + (k // columns) * (cell + 20)
            _window(page, one.picture, x, y, cell, cell, (x0, y0), LARGE * MM, sheet)
            number = next(n for n, c in enumerate(sheet.cells, 1) if c is one)
            page.text(x, y + cell + 12, f"{number}  {one.name}", 9.5, "Bold")

    return draw


def _cut_picture(
    page: Page, cell: EyeCell, x: float, y: float, wide: float, tall: float, scale: float, sheet: EyeSheet
) -> None:
    """Draw the middle of a step's picture at a scale (points per mm), with a thin rim."""
    ix, iy, side = sheet.iris_mm
    left = min(max(ix + side / 2 - wide / scale / 2, 0), max(sheet.wide_mm - wide / scale, 0))
    top = min(max(iy + side / 2 - tall / scale / 2, 0), max(sheet.tall_mm - tall / scale, 0))
    _window(page, cell.picture, x, y, wide, tall, (left, top), scale, sheet)
    if not cell.painted:
        page.pdf.setFillGray(1.0, 0.65)
        page.pdf.rect(x, page.height - y - tall, wide, tall, stroke=0, fill=1)


def _window(
    page: Page, picture: Rgb8, x: float, y: float, wide: float, tall: float, corner: tuple[float, float], scale: float, sheet: EyeSheet
) -> None:  # fmt: skip
    """Draw a part of a picture that begins at a corner (mm) at a scale (points per mm)."""
    pdf = page.pdf
    pdf.saveState()
    path = pdf.beginPath()
    path.rect(x, page.height - y - tall, wide, tall)
    pdf.clipPath(path, stroke=0, fill=0)
    page.picture(picture, x - corner[0] * scale, y - corner[1] * scale, sheet.wide_mm * scale, 90)
    pdf.restoreState()
    pdf.setStrokeGray(0.3)
    pdf.setLineWidth(0.4)
    pdf.rect(x, page.height - y - tall, wide, tall)


def eye_pages(sheets: tuple[EyeSheet, ...]) -> list[Draw]:
    """Return the pages of every eye."""
    return [make(sheet) for sheet in sheets for make in (eye_page, large_page)]
