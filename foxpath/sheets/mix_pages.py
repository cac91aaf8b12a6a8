"""Pages of the mixes: swatch cards with their recipes and beads at life size, strings of values, and a value scale to cut out."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Points
from foxpath.core.colour import grey_of_lightness
from foxpath.sheets.page import MARGIN, QUIET, Draw, Page
from foxpath.sheets.paper import MM

Rgb = tuple[int, int, int]
BEAD_MM = 6.0
LONGEST_MM = 62.0
"""A longer bead is drawn in rows."""
MOST_ROWS = 3
CARDS_A_PAGE = 5
SCALE_STEPS = 9


@dataclass(frozen=True, slots=True)
class Bead:
    """Paint to squeeze out: its colour, its name with the parts, and the length of the bead."""

    rgb: Rgb
    words: str
    cm: float


@dataclass(frozen=True, slots=True)
class SwatchCard:
    """A pile.

    Attributes
    ----------
    number : int
    name : str
    target, mix : (r, g, b)
        As the picture shows it, and as the recipe comes out.
    value : str
        E.g. "L* 44, value 4 of 9".
    begins : str
        What it begins from.
    beads : tuple of Bead
    goes : str
        Passes and parts.
    keeps : str
    note : str
        What is missing, where it is out of reach; else how near it comes.
    """

    number: int
    name: str
    target: Rgb
    mix: Rgb
    value: str
    begins: str
    beads: tuple[Bead, ...]
    goes: str
    keeps: str
    note: str


@dataclass(frozen=True, slots=True)
class ValueString:
    """One colour at several values: its name, and for each step colour, L* and recipe."""

    name: str
    steps: tuple[tuple[Rgb, float, str], ...]


@dataclass(frozen=True, slots=True)
class MixSheet:
    """All that the pages of the mixes show.

    Attributes
    ----------
    cards : tuple of SwatchCard
        In the order they are mixed.
    strings : tuple of ValueString
        The neutral one first.
    mediums : tuple of (pass, words)
    cautions : tuple of str
    """

    cards: tuple[SwatchCard, ...]
    strings: tuple[ValueString, ...]
    mediums: tuple[tuple[str, str], ...]
    cautions: tuple[str, ...]


TYPICAL = (
    "Recipes follow from typical values of pigments, not from your tubes: mix, put a dab beside the target, look, and correct. "
    "Colours on paper are as near as a printer comes."
)


def mix_pages(sheet: MixSheet) -> list[Draw]:
    """Return the pages: five cards on each, then strings, scale and mediums."""
    groups = [sheet.cards[k : k + CARDS_A_PAGE] for k in range(0, len(sheet.cards), CARDS_A_PAGE)]
    pages = [_cards_page(group, k, len(groups)) for k, group in enumerate(groups, 1)]
    return [*pages, _strings_page(sheet)] if sheet.cards else []


def _fill(page: Page, rgb: Rgb, x: float, y: float, width: float, height: float) -> None:
    page.pdf.setFillColorRGB(*(v / 255 for v in rgb))
    page.pdf.setStrokeGray(0.35)
    page.pdf.setLineWidth(0.4)
    page.pdf.rect(x, page.height - y - height, width, height, stroke=1, fill=1)


def _bead(page: Page, rgb: Rgb, x: float, y: float, length_mm: float) -> None:
    """Draw a bead of paint, thick at its end and tapering to where the tube was lifted."""
    thick, long = BEAD_MM * MM, max(length_mm, 2.0) * MM
    top = page.height - y
    path = page.pdf.beginPath()
    path.moveTo(x, top - thick / 2)
    path.curveTo(x, top, x + thick / 3, top, x + thick / 2, top)
    path.lineTo(x + max(long - thick / 2, thick / 2), top - thick * 0.1)
    path.lineTo(x + long, top - thick / 2)
    path.lineTo(x + max(long - thick / 2, thick / 2), top - thick * 0.9)
    path.lineTo(x + thick / 2, top - thick)
    path.curveTo(x + thick / 3, top - thick, x, top - thick, x, top - thick / 2)
    path.close()
    page.pdf.setFillColorRGB(*(v / 255 for v in rgb))
    page.pdf.setStrokeGray(0.35)
    page.pdf.setLineWidth(0.4)
    page.pdf.drawPath(path, stroke=1, fill=1)


def _cards_page(cards: tuple[SwatchCard, ...], number: int, of: int) -> Draw:
    def draw(page: Page) -> None:
        top = page.head("Mixes", f"swatch cards {number} of {of}" if of > 1 else "swatch cards")
        tall = (page.height - top - MARGIN - 34) / CARDS_A_PAGE
        for k, card in enumerate(cards):
            _card(page, card, top + k * tall, tall)
        page.wrapped(page.left, page.height - MARGIN - 18, TYPICAL, page.right - page.left, 7.5, QUIET)

    return draw


def _card(page: Page, card: SwatchCard, y: float, tall: float) -> None:
    side = min(tall - 34, 62.0)
    _fill(page, card.target, page.left, y + 2, side, side)
    _fill(page, card.mix, page.left + side, y + 2, side, side)
    page.text(page.left, y + side + 11, "picture", 7, tone=QUIET)
    page.text(page.left + side, y + side + 11, "mix", 7, tone=QUIET)
    x = page.left + 2 * side + 12
    page.text(x, y + 11, f"{card.number}  {card.name}", 11, "Bold")
    page.text(page.right, y + 11, card.value, 9, tone=QUIET, align="r")
    left = y + 23.0
    for line in (card.begins, card.goes, card.keeps, card.note):
        if line:
            left = page.wrapped(x, left, line, 172, 8, QUIET if line is card.note else 0.12)
    bx, by = x + 182, y + 20
    # Every bead is drawn, a long one in as many rows as there is room for.
    count = max(len(card.beads), 1)
    room = max(1, int((tall - 26 - 14 * count) / ((BEAD_MM + 1) * MM * count)))
    for bead in card.beads:
        rows = min(MOST_ROWS, room, int(bead.cm * 10 / LONGEST_MM) + 1)
        page.text(bx, by + 5, bead.words, 8)
        page.text(page.right, by + 5, f"{bead.cm:.1f} cm", 8, tone=QUIET, align="r")
        rest = bead.cm * 10
        for row in range(rows):
            if by + 8 + (BEAD_MM + 1) * MM > y + tall - 2:
                break
            length = min(rest, LONGEST_MM)
            _bead(page, bead.rgb, bx, by + 8, length)
            rest -= length
            if row == rows - 1 and rest > 1:
                page.text(bx + (length + 1) * MM, by + 8 + BEAD_MM * MM * 0.65, "…", 9, tone=QUIET)
            by += (BEAD_MM + 1) * MM
        by += 10
    page.line(_rule(page), 0, y + tall - 6, 1, 0.3, 0.7)


def _rule(page: Page) -> Points:
    return np.array([[page.left, 0.0], [page.right, 0.0]])


def _strings_page(sheet: MixSheet) -> Draw:
    def draw(page: Page) -> None:
        y = page.head("Strings, scale and mediums", "steps equal to the eye") + 4
        wide = page.right - page.left
        for one in sheet.strings:
            page.text(page.left, y + 8, one.name, 10, "Bold")
            y += 14
            step = wide / max(len(one.steps), 1)
            for k, (rgb, light, words) in enumerate(one.steps):
                _fill(page, rgb, page.left + k * step, y, step, 34)
                page.text(page.left + k * step + 2, y + 43, f"L* {light:.0f}", 8)
                page.wrapped(page.left + k * step + 2, y + 52, words, step - 4, 7, QUIET)
            y += 84
        page.text(page.left, y + 8, "Value scale, to cut out", 10, "Bold")
        y += 14
        step = min(wide / SCALE_STEPS, 20 * MM)
        for k in range(SCALE_STEPS):
            light = (k + 1) * 100 / (SCALE_STEPS + 1)
            grey = grey_of_lightness(light)
            _fill(page, (grey, grey, grey), page.left + k * step, y, step, 46)
            # A hole to look at the canvas through.
            page.pdf.setFillGray(1)
            page.pdf.circle(page.left + (k + 0.5) * step, page.height - y - 18, 6, stroke=1, fill=1)
            page.text(page.left + (k + 0.5) * step, y + 56, f"{k + 1} · L* {light:.0f}", 8, align="c")
        y += 74
        if sheet.mediums:
            page.text(page.left, y + 8, "Medium, pass by pass", 10, "Bold")
            y += 22
        for name, words in sheet.mediums:
            page.text(page.left, y, name, 9)
            page.text(page.left + 130, y, words, 9)
            y += 13
        for caution in sheet.cautions:
            y = page.wrapped(page.left, y + 6, caution, wide, 8.5, QUIET)

    return draw
