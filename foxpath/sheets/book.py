"""The book of sheets: reference under its grid, growth map, edge map, one card a pass.

One PDF, A4 or Letter, with the bundled typeface embedded and pages numbered. Lines and hairs are
vectors, as wide on the paper as the print's scale makes them.
"""

import io
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from foxpath.core.arrays import F32, F64, Points, Rgb8
from foxpath.core.brush import hair_profile, outlines
from foxpath.core.colour import grey_of_lightness
from foxpath.core.edges import even_parts, grade_of_width
from foxpath.core.passes.colours import PassColour
from foxpath.core.reference.transfer import Grid
from foxpath.core.units import CanvasSize, percent
from foxpath.sheets.eye_pages import EyeSheet, pages_of
from foxpath.sheets.map_pages import Maps, feather_page, laying_page, length_page, ragged
from foxpath.sheets.page import MARGIN, QUIET, Page, grid
from foxpath.sheets.paper import MM, PAPERS, new_pdf
from foxpath.sheets.pictures import write_file


@dataclass(frozen=True, slots=True)
class Fact:
    """A number on a card: its name and its value with the unit."""

    name: str
    value: str


@dataclass(frozen=True, slots=True, eq=False)
class Card:
    """One pass: what to paint, with what, how far.

    Attributes
    ----------
    title, reason : str
    picture : (H, W, 3) uint8
        The painting as it stands after the pass.
    facts : tuple of Fact
    band : (low, high, ceiling)
        L*.
    zones : str
        Names of its zones in laying order.
    cautions : tuple of str
    parts : tuple of str
        What to do, a sentence a part; they fill a page of their own.
    colours : tuple of PassColour
        To have ready, dark to light.
    """

    title: str
    reason: str
    picture: Rgb8
    facts: tuple[Fact, ...]
    band: tuple[float, float, float]
    zones: str
    cautions: tuple[str, ...] = ()
    parts: tuple[str, ...] = ()
    colours: tuple[PassColour, ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class Band:
    """An edge on the edge map: its runs, the width at each of their points (mm on the canvas), and words for the list."""

    runs_mm: tuple[Points, ...]
    widths_mm: tuple[F64, ...]
    words: str


@dataclass(frozen=True, slots=True, eq=False)
class Book:
    """Everything the sheets show.

    Attributes
    ----------
    title : str
    canvas : CanvasSize
    grid : Grid
        Of the reference page.
    reference : (H, W, 3) uint8
        The crop.
    hairs_mm : (N, 8, 2) float32
        Growth glyphs, mm on the canvas.
    hair_width_mm, hair_sure : (N,) float32
    combs_mm : tuple of (N, 2) float64
    zones : tuple of (number, name, (x, y) mm, kind)
    bands : tuple of Band
    cards : tuple of Card
    unsure : str
        What is still unsure about the growth, in words.
    maps : Maps
        Lengths, laying order, feathers and markings.
    eyes : tuple of EyeSheet
    """

    title: str
    canvas: CanvasSize
    grid: Grid
    reference: Rgb8
    hairs_mm: F32
    hair_width_mm: F32
    hair_sure: F32
    combs_mm: tuple[Points, ...]
    zones: tuple[tuple[int, str, tuple[float, float], str], ...]
    bands: tuple[Band, ...]
    cards: tuple[Card, ...]
    unsure: str
    maps: Maps = field(default_factory=Maps)
    eyes: tuple[EyeSheet, ...] = ()


def write_book(book: Book, path: Path, paper: str = "A4") -> int:
    """Write the PDF and return its number of pages.

    Raises
    ------
    ValueError
        For a paper that is neither A4 nor Letter.
    AppError
        When the file cannot be written.
    """
    if paper not in PAPERS:
        raise ValueError(f"paper must be one of {', '.join(PAPERS)}, got {paper!r}")
    pages: list[Callable[[Page], None]] = [_reference_page, _growth_page, _edge_page, length_page, laying_page]
    if book.maps.feathers:
        pages.append(feather_page)
    pages += pages_of(book.eyes)
    for card in book.cards:
        pages.append(_card_page(card))
        if card.parts:
            pages.append(_parts_page(card))
    write_file(path, _written(book, paper, pages))
    return len(pages)


def _written(book: Book, paper: str, pages: "Sequence[Callable[[Page], None]]") -> bytes:
    buffer, size = io.BytesIO(), PAPERS[paper]
    pdf = new_pdf(buffer, f"{book.title}: plan of the painting", size)
    for number, draw in enumerate(pages, 1):
        page = Page(pdf, book, size)
        draw(page)
        page.foot(number, len(pages))
        pdf.showPage()
    pdf.save()
    return buffer.getvalue()


def _reference_page(page: Page) -> None:
    book = page.book
    top = page.head("Reference", f"{book.canvas.words()} canvas")
    x, y, scale, height = page.plan_area(top, page.height - top - 150)
    page.picture(book.reference, x, y, scale * book.canvas.width_mm, 90)
    step = grid(page, x, y, scale)
    size = f"{step / 10:g} cm" if book.canvas.unit == "cm" else f"{step / 25.4:g} in"
    y += height + 20
    page.text(
        page.left,
        y,
        f"Squares of {size} on the canvas · printed at {percent(scale / MM)} of true size",
        10,
        tone=QUIET,
    )
    y += 22
    page.text(page.left, y, "To transfer", 11, "Bold")
    page.wrapped(
        page.left,
        y + 16,
        f"Rule the canvas lightly in squares of {size}, letters across and numbers down, and draw square by square. "
        "Draw outlines, features and the borders of markings; hair is not drawn, it is painted.",
        page.right - page.left,
    )


def _growth_page(page: Page) -> None:
    book = page.book
    top = page.head("Growth", "hairs at true length, thick at the root")
    x, y, scale, height = page.plan_area(top, page.height - top - 150)
    faded = (book.reference.astype(np.float32) * 0.45 + 255 * 0.55).astype(np.uint8)
    page.picture(faded, x, y, scale * book.canvas.width_mm)
    pdf = page.pdf
    pdf.saveState()
    page.clip_to(x, y, scale)
    if len(book.hairs_mm):
        half = np.maximum(book.hair_width_mm * scale, 0.5).astype(np.float32) / 2
        shapes = outlines(book.hairs_mm, half / np.float32(scale), np.maximum(hair_profile(), 0.15), scale, x, y)
        for shape, sure in zip(shapes, book.hair_sure, strict=True):
            path = pdf.beginPath()
            path.moveTo(float(shape[0, 0]), page.height - float(shape[0, 1]))
            for px, py in shape[1:]:
                path.lineTo(float(px), page.height - float(py))
            path.close()
            if sure >= 0.5:
                pdf.setFillGray(0.08)
                pdf.drawPath(path, stroke=0, fill=1)
            else:
                pdf.setStrokeGray(0.35)
                pdf.setLineWidth(0.3)
                pdf.drawPath(path, stroke=1, fill=0)
    for comb in book.combs_mm:
        page.line(comb, x, y, scale, 2.6, 1.0)
        page.line(comb, x, y, scale, 1.4, 0.05)
        dot = comb[0]
        pdf.setFillGray(0.05)
        pdf.circle(x + dot[0] * scale, page.height - y - dot[1] * scale, 2.2, stroke=0, fill=1)
    pdf.restoreState()
    grid(page, x, y, scale)
    y += height + 20
    page.text(
        page.left,
        y,
        "Filled hairs are sure; hollow ones are only guessed. A dot is the root of a comb.",
        10,
        tone=QUIET,
    )
    page.wrapped(page.left, y + 20, book.unsure, page.right - page.left)


_DASH = {"lost": (0.8, 3.2), "soft": (4.0, 2.4), "firm": None, "hard": None}


def _edge_page(page: Page) -> None:
    book = page.book
    top = page.head("Edges", "bands as wide as their transition")
    x, y, scale, height = page.plan_area(top, (page.height - top) * 0.52)
    faded = (book.reference.astype(np.float32) * 0.45 + 255 * 0.55).astype(np.uint8)
    page.picture(faded, x, y, scale * book.canvas.width_mm)
    page.pdf.saveState()
    page.clip_to(x, y, scale)
    for band in book.bands:
        for run, along in zip(band.runs_mm, band.widths_mm, strict=True):
            for first, last, width in even_parts(along, 1.25):
                part, grade = run[first : last + 1], grade_of_width(width)
                page.line(part, x, y, scale, max(0.6, width * scale), 0.1, 0.26)
                page.line(part, x, y, scale, 1.5 if grade == "hard" else 0.8, 0.05, 1, _DASH[grade])
    ragged(page, x, y, scale)
    page.pdf.restoreState()
    for number, _, at, _ in book.zones:
        px, py = x + at[0] * scale, y + at[1] * scale
        page.pdf.setFillGray(0.12)
        page.pdf.roundRect(px - 7, page.height - py - 7, 14, 14, 3, stroke=0, fill=1)
        page.text(px, py + 3.4, str(number), 9, "Bold", 1.0, "c")
    y += height + 18
    y = _legend(page, y)
    columns, row = 2, 13.0
    width = (page.right - page.left) / columns
    most = int((page.height - MARGIN - y) / row)
    shown = book.bands[: most * columns]
    for k, band in enumerate(shown):
        cx, cy = page.left + (k // most) * width, y + (k % most) * row
        page.text(cx, cy, page.fitted(band.words, 8.5, width - 12), 8.5)
    if len(book.bands) > len(shown):
        page.text(
            page.right,
            page.height - MARGIN,
            f"{len(book.bands) - len(shown)} shorter edges more",
            8.5,
            tone=QUIET,
            align="r",
        )


def _legend(page: Page, y: float) -> float:
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
    if page.book.maps.markings_mm:
        y += 14
        page.text(
            page.left, y + 3, "short hairs across a marking's border: hair crosses it, leave it ragged", 9, tone=QUIET
        )
    return y + 18


def _card_page(card: Card) -> Callable[[Page], None]:
    def draw(page: Page) -> None:
        top = page.head(card.title, card.facts[0].value if card.facts else "")
        y = page.wrapped(page.left, top + 2, card.reason, page.right - page.left, 11) + 4
        room = page.height - y - (290 if card.colours else 250)
        canvas = page.book.canvas
        scale = min((page.right - page.left) / canvas.width_mm, room / canvas.height_mm)
        y += page.picture(card.picture, page.left, y, scale * canvas.width_mm, 90) + 22
        _ladder(page, page.left, y, 40, 170, card.band)
        x = page.left + 96
        for k, fact in enumerate(card.facts):
            cx, cy = x + (k % 2) * 200, y + 8 + (k // 2) * 34
            page.text(cx, cy, fact.name, 9, tone=QUIET)
            # What is long is written smaller before it is cut.
            size = 11.5 if page.fitted(fact.value, 11.5, 190) == fact.value else 9.5
            page.text(cx, cy + 14, page.fitted(fact.value, size, 190), size)
        bottom = y + 8 + ((len(card.facts) + 1) // 2) * 34 + 4
        if card.colours:
            bottom = _swatches(page, x, bottom - 4, page.right - x, card.colours)
        bottom = page.wrapped(x, bottom, f"Laying order: {card.zones}", page.right - x, 9.5)
        for caution in card.cautions:
            bottom = page.wrapped(x, bottom + 4, caution, page.right - x, 8.5, QUIET)

    return draw


def _swatches(page: Page, x: float, y: float, width: float, colours: tuple[PassColour, ...]) -> float:
    """Draw the colours to have ready, each as wide as its share of the paint, with its L*; returns the y below."""
    pdf, least = page.pdf, 24.0
    page.text(x, y, "colours to have ready, L* below, as wide as their share", 9, tone=QUIET)
    for one in colours:
        wide = least + (width - least * len(colours)) * one.share
        pdf.setFillColorRGB(*(v / 255 for v in one.rgb))
        pdf.roundRect(x, page.height - y - 22, wide - 4, 17, 3, stroke=0, fill=1)
        page.text(x + (wide - 4) / 2, y + 32, f"{one.light:.0f}", 8.5, tone=QUIET, align="c")
        x += wide
    return y + 48


def _parts_page(card: Card) -> Callable[[Page], None]:
    """Return the page that says part by part what to do in a pass."""

    def draw(page: Page) -> None:
        top = page.head(card.title, "part by part, in this order")
        y, size = top + 8, 10.0
        # Many parts are written smaller, so that none is lost.
        while size > 6.5 and y + sum(_tall(page, part, size) for part in card.parts) > page.height - MARGIN:
            size -= 0.5
        for part in card.parts:
            name, _, words = part.partition(": ")
            page.text(page.left, y + size, name, size + 0.5, "Bold")
            y = page.wrapped(page.left + 12, y + 2.35 * size, words, page.right - page.left - 12, size) - 0.2 * size

    return draw


def _tall(page: Page, part: str, size: float) -> float:
    from reportlab.lib.utils import simpleSplit

    words = part.partition(": ")[2]
    return (1.6 + 1.36 * len(simpleSplit(words, "FP-Regular", size, page.right - page.left - 12))) * size


def _ladder(page: Page, x: float, y: float, width: float, height: float, band: tuple[float, float, float]) -> None:
    """Draw the values the pass may use: true greys, full width inside the band, narrow outside."""
    pdf, (low, high, ceiling) = page.pdf, band
    pdf.setFillGray(0.467)
    pdf.rect(x, page.height - y - height, width, height, stroke=0, fill=1)
    steps = 20
    for k in range(steps):
        l0, l1 = 100 * k / steps, 100 * (k + 1) / steps
        inside = l1 > low + 0.5 and l0 < high - 0.5
        wide = width - 8 if inside else width * 0.3
        pdf.setFillGray(grey_of_lightness((l0 + l1) / 2) / 255)
        top = y + height * (1 - l1 / 100)
        pdf.rect(
            x + (width - wide) / 2,
            page.height - top - height / steps + 0.8,
            wide,
            height / steps - 1.6,
            stroke=0,
            fill=1,
        )
    for value in (low, high):
        at = y + height * (1 - value / 100)
        page.text(x + width + 5, at + 3, f"{value:.0f}", 9, "Semibold")
    at = y + height * (1 - ceiling / 100)
    pdf.setStrokeGray(0.05)
    pdf.setLineWidth(1.4)
    pdf.line(x - 4, page.height - at, x + width + 4, page.height - at)
    page.text(x, y + height + 12, "L*, line = ceiling", 8, tone=QUIET)
