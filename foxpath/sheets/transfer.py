"""The line drawing on its way to the canvas: an SVG in millimetres, and a PDF of true-size sheets to be joined."""

import io
import math
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from foxpath.core.arrays import Points
from foxpath.core.reference.transfer import Grid, letter
from foxpath.core.units import CanvasSize, count_words
from foxpath.sheets.paper import MM, PAPERS, new_pdf
from foxpath.sheets.pictures import write_file

MARGIN_MM = 13.0
"""White rim of a sheet that is not drawn on: printers leave it bare."""
OVERLAP_MM = 12.0
_LINE_MM, _GRID_MM = 0.35, 0.12


@dataclass(frozen=True, slots=True, eq=False)
class Drawing:
    """A line drawing on a canvas, in millimetres from its upper left corner.

    Attributes
    ----------
    title : str
    canvas : CanvasSize
    lines : tuple of (N, 2) float64
    axes : tuple of (2, 2) float64
        Eye line and midline.
    grid : Grid or None
        None leaves the squares out.
    """

    title: str
    canvas: CanvasSize
    lines: tuple[Points, ...]
    axes: tuple[Points, ...] = ()
    grid: Grid | None = None


@dataclass(frozen=True, slots=True)
class Tiling:
    """How a canvas is laid out on sheets of paper.

    Attributes
    ----------
    page_mm : (width, height)
    columns, rows : int
    window_mm : (width, height)
        What a sheet shows of the canvas.
    overlap_mm : float
    """

    page_mm: tuple[float, float]
    columns: int
    rows: int
    window_mm: tuple[float, float]
    overlap_mm: float

    @property
    def step_mm(self) -> tuple[float, float]:
        """From one sheet to the next on the canvas."""
        return self.window_mm[0] - self.overlap_mm, self.window_mm[1] - self.overlap_mm

    def corner(self, column: int, row: int) -> tuple[float, float]:
        """Return the canvas's millimetre at a sheet's upper left corner."""
        return column * self.step_mm[0], row * self.step_mm[1]

    def marks(self) -> list[tuple[float, float]]:
        """Return where registration marks lie on the canvas: in the middle of every overlap, on both its sheets."""
        (wide, high), (dx, dy), half = self.window_mm, self.step_mm, self.overlap_mm / 2
        across = [k * dx + half for k in range(1, self.columns)]
        down = [k * dy + half for k in range(1, self.rows)]
        spots = [(x, y) for x in across for y in down]
        spots += [(x, row * dy + high * share) for x in across for row in range(self.rows) for share in (0.3, 0.7)]
        spots += [(col * dx + wide * share, y) for y in down for col in range(self.columns) for share in (0.3, 0.7)]
        return spots


def tiling(canvas: CanvasSize, paper: str = "A4", overlap_mm: float = OVERLAP_MM) -> Tiling:
    """Lay a canvas out on as few sheets as upright or lying paper allows.

    Raises
    ------
    ValueError
        For an unknown paper, or an overlap outside 0 to 60 mm.
    """
    if paper not in PAPERS:
        raise ValueError(f"paper must be one of {', '.join(PAPERS)}, got {paper!r}")
    if not 0 <= overlap_mm <= 60:
        raise ValueError(f"overlap must be 0 to 60 mm, got {overlap_mm:g}")
    width, height = (side / MM for side in PAPERS[paper])
    ways = []
    for page in ((width, height), (height, width)):
        window = (page[0] - 2 * MARGIN_MM, page[1] - 2 * MARGIN_MM)
        counts = [
            max(1, math.ceil((side - overlap_mm) / (room - overlap_mm) - 1e-9))
            for side, room in zip((canvas.width_mm, canvas.height_mm), window, strict=True)
        ]
        ways.append(Tiling(page, counts[0], counts[1], window, overlap_mm))
    return min(ways, key=lambda way: way.columns * way.rows)


def svg_of(drawing: Drawing) -> str:
    """Return the drawing as an SVG as large as the canvas, in millimetres."""
    canvas = drawing.canvas
    width, height = f"{canvas.width_mm:g}", f"{canvas.height_mm:g}"

    def path(points: Points) -> str:
        return "M" + " L".join(f"{x:.2f} {y:.2f}" for x, y in points)

    def group(name: str, style: str, lines: list[Points]) -> list[str]:
        if not lines:
            return []
        return [f'<g id="{name}" {style}>', *(f'<path d="{path(line)}"/>' for line in lines), "</g>"]

    title = drawing.title.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    thin = f'fill="none" stroke="#888888" stroke-width="{_GRID_MM}"'
    parts = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}mm" height="{height}mm" viewBox="0 0 {width} {height}">',
        f"<title>{title}: line drawing, {canvas.words()}</title>",
        f'<rect id="canvas" width="{width}" height="{height}" fill="none" stroke="#000000" stroke-width="0.2"/>',
    ]
    if drawing.grid is not None:
        parts += group("squares", thin, [line for line, _ in drawing.grid.lines(canvas)])
        parts.append('<g id="names" font-family="sans-serif" font-size="4" fill="#666666" text-anchor="middle">')
        parts += [
            f'<text x="{x:.2f}" y="{y:.2f}">{name}</text>' for name, x, y in _names(canvas, drawing.grid.side(canvas))
        ]
        parts.append("</g>")
    parts += group("axes", f'{thin} stroke-dasharray="4 2"', list(drawing.axes))
    line = f'fill="none" stroke="#000000" stroke-width="{_LINE_MM}" stroke-linecap="round" stroke-linejoin="round"'
    parts += group("drawing", line, list(drawing.lines))
    return "\n".join([*parts, "</svg>", ""])


def write_svg(drawing: Drawing, path: Path) -> None:
    """Write the SVG. Raises `AppError` when the file cannot be written."""
    write_file(path, svg_of(drawing).encode())


def write_tiles(drawing: Drawing, path: Path, paper: str = "A4", overlap_mm: float = OVERLAP_MM) -> int:
    """Write the true-size sheets as one PDF, with a plan of how they lie first; returns the number of pages.

    Raises
    ------
    ValueError
        For an unknown paper or a wrong overlap.
    AppError
        When the file cannot be written.
    """
    laid = tiling(drawing.canvas, paper, overlap_mm)
    size = (laid.page_mm[0] * MM, laid.page_mm[1] * MM)
    buffer = io.BytesIO()
    pdf = new_pdf(buffer, f"{drawing.title}: line drawing at true size", size)
    _plan_page(pdf, drawing, laid)
    pdf.showPage()
    for row in range(laid.rows):
        for column in range(laid.columns):
            _sheet(pdf, drawing, laid, column, row)
            pdf.showPage()
    pdf.save()
    write_file(path, buffer.getvalue())
    return laid.columns * laid.rows + 1


def _names(canvas: CanvasSize, side: float) -> list[tuple[str, float, float]]:
    """Return letters along the top and numbers down the left, with their places in mm."""
    made = [
        (letter(k), min((k + 0.5) * side, (k * side + canvas.width_mm) / 2), 5.0)
        for k in range(math.ceil(canvas.width_mm / side - 1e-9))
    ]
    made += [
        (str(k + 1), 3.5, min((k + 0.5) * side, (k * side + canvas.height_mm) / 2) + 1.5)
        for k in range(math.ceil(canvas.height_mm / side - 1e-9))
    ]
    return made


class _Place:
    """Maps millimetres of the canvas to a page of the PDF, whose origin lies at the lower left."""

    def __init__(self, pdf: Any, laid: Tiling, x_mm: float, y_mm: float, scale: float) -> None:
        self.pdf, self.height = pdf, laid.page_mm[1]
        self.x, self.y, self.scale = x_mm, y_mm, scale

    def at(self, x: float, y: float) -> tuple[float, float]:
        return (self.x + x * self.scale) * MM, (self.height - self.y - y * self.scale) * MM

    def line(self, points: Points, width_mm: float, grey: float, dash: tuple[float, float] | None = None) -> None:
        path = self.pdf.beginPath()
        path.moveTo(*self.at(*points[0]))
        for x, y in points[1:]:
            path.lineTo(*self.at(x, y))
        self.pdf.setStrokeGray(grey)
        self.pdf.setLineWidth(width_mm * MM)
        self.pdf.setLineCap(1)
        self.pdf.setLineJoin(1)
        self.pdf.setDash([v * MM for v in dash] if dash else [], 0)
        self.pdf.drawPath(path, stroke=1, fill=0)
        self.pdf.setDash([], 0)

    def drawing(self, drawing: Drawing, line_mm: float) -> None:
        canvas = drawing.canvas
        if drawing.grid is not None:
            for line, _ in drawing.grid.lines(canvas):
                self.line(line, _GRID_MM, 0.6)
        for line in drawing.axes:
            self.line(line, _GRID_MM, 0.35, (4, 2))
        for line in drawing.lines:
            self.line(line, line_mm, 0.0)
        rim = np.array([[0, 0], [1, 0], [1, 1], [0, 1], [0, 0]]) * (canvas.width_mm, canvas.height_mm)
        self.line(rim, 0.3, 0.0)


def _words(pdf: Any, x: float, y: float, words: str, size: float, weight: str = "Regular", grey: float = 0.2) -> None:
    pdf.setFillGray(grey)
    pdf.setFont(f"FP-{weight}", size)
    pdf.drawString(x * MM, y * MM, words)


def _sheet_name(column: int, row: int) -> str:
    return f"sheet {column + 1} across, {row + 1} down"


def _bar(pdf: Any, x: float, y: float) -> None:
    """Draw a bar of 100 mm by which the print is checked."""
    pdf.setStrokeGray(0.1)
    pdf.setLineWidth(0.8)
    pdf.line(x * MM, y * MM, (x + 100) * MM, y * MM)
    for k in range(11):
        pdf.line((x + 10 * k) * MM, y * MM, (x + 10 * k) * MM, (y + (2.4 if k % 5 == 0 else 1.4)) * MM)


def _plan_page(pdf: Any, drawing: Drawing, laid: Tiling) -> None:
    width, height = laid.page_mm
    canvas = drawing.canvas
    _words(pdf, MARGIN_MM, height - 24, drawing.title, 20, "Bold")
    sheets = count_words(laid.columns * laid.rows, "sheet")
    _words(pdf, MARGIN_MM, height - 32, f"Line drawing for a canvas of {canvas.words()}, on {sheets} at true size", 11)
    steps = (
        "1   Print at 100 %, without fitting to the page.",
        "2   Lay a ruler on the bar below. If it is not 100 mm long, change the printer's scale and print again.",
        f"3   Lay the sheets as in the plan. Each overlaps the next by {laid.overlap_mm:g} mm: put cross on cross.",
        "4   Tape them, blacken the back with soft pencil or charcoal, and go over the lines on the canvas.",
    )
    for k, line in enumerate(steps):
        _words(pdf, MARGIN_MM, height - 44 - 6 * k, line, 9.5)
    _bar(pdf, MARGIN_MM, height - 76)
    _words(pdf, MARGIN_MM + 103, height - 76, "100 mm", 9)
    room = (width - 2 * MARGIN_MM, height - 84 - MARGIN_MM)
    (dx, dy), (wide, high) = laid.step_mm, laid.window_mm
    whole = ((laid.columns - 1) * dx + wide, (laid.rows - 1) * dy + high)
    scale = min(room[0] / whole[0], room[1] / whole[1])
    place = _Place(pdf, laid, MARGIN_MM, 84, scale)
    place.drawing(drawing, 0.18)
    for row in range(laid.rows):
        for column in range(laid.columns):
            x, y = laid.corner(column, row)
            box = np.array([[x, y], [x + wide, y], [x + wide, y + high], [x, y + high], [x, y]])
            place.line(box, 0.15, 0.45, (1.2, 0.8))
            left, top = place.at(x, y)
            pdf.setFillGray(1)
            pdf.rect(left + 1.2 * MM, top - 7 * MM, 9 * MM, 5.4 * MM, stroke=0, fill=1)
            _words(pdf, left / MM + 2, top / MM - 6, f"{column + 1} · {row + 1}", 11, "Bold")


def _sheet(pdf: Any, drawing: Drawing, laid: Tiling, column: int, row: int) -> None:
    x, y = laid.corner(column, row)
    wide, high = laid.window_mm
    _, height = laid.page_mm
    pdf.saveState()
    window = pdf.beginPath()
    window.rect(MARGIN_MM * MM, (height - MARGIN_MM - high) * MM, wide * MM, high * MM)
    pdf.clipPath(window, stroke=0, fill=0)
    place = _Place(pdf, laid, MARGIN_MM - x, MARGIN_MM - y, 1.0)
    place.drawing(drawing, _LINE_MM)
    if drawing.grid is not None:
        for name, at_x, at_y in _names(drawing.canvas, drawing.grid.side(drawing.canvas)):
            left, top = place.at(at_x, at_y)
            _words(pdf, left / MM - 1.5, top / MM, name, 11, "Bold", 0.45)
    for at_x, at_y in laid.marks():
        if x <= at_x <= x + wide and y <= at_y <= y + high:
            _cross(place, at_x, at_y)
    pdf.restoreState()
    rim = np.array([[0, 0], [wide, 0], [wide, high], [0, high], [0, 0]]) + (x, y)
    place.line(rim, 0.1, 0.7, (1.2, 1.2))
    _words(pdf, MARGIN_MM, 5, f"{drawing.title} · {_sheet_name(column, row)} of {laid.columns} × {laid.rows}", 9)
    _bar(pdf, laid.page_mm[0] - MARGIN_MM - 100, 4.5)
    _words(pdf, laid.page_mm[0] - MARGIN_MM - 100 + 38, 8, "100 mm at true size", 7)


def _cross(place: _Place, x: float, y: float) -> None:
    """Draw a registration mark: a cross in a ring, 5 mm across."""
    for a, b in (((-2.5, 0), (2.5, 0)), ((0, -2.5), (0, 2.5))):
        place.line(np.array([a, b]) + (x, y), 0.15, 0.1)
    place.pdf.setStrokeGray(0.1)
    place.pdf.setLineWidth(0.15 * MM)
    left, top = place.at(x, y)
    place.pdf.circle(left, top, 1.5 * MM, stroke=1, fill=0)
