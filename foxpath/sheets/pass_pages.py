"""Pages of a pass: its card, and what to do part by part."""

import math
from dataclasses import dataclass

from foxpath.core.arrays import Rgb8
from foxpath.core.colour import grey_of_lightness
from foxpath.core.passes.colours import PassColour
from foxpath.sheets.page import MARGIN, QUIET, Draw, Page


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


LEAST_PX = 6.5
"""Nothing is written smaller: what finds no room goes on to another page."""
PARTS_TALL, LINE_CHARACTERS = 620.0, 130
"""Room for parts on a page, points, and characters of a line in that size, both with something to spare on either paper."""


def pass_pages(card: Card) -> list[Draw]:
    """Return the pages of a pass: its card with its parts below where they are few, else its parts on pages of their own."""
    if _lines(card.parts) <= FEW_LINES:
        return [_card_page(card, card.parts)]
    pages: list[list[str]] = []
    room = 0.0
    for part in card.parts:
        tall = LEAST_PX * (1.6 + 1.36 * math.ceil(len(part) / LINE_CHARACTERS))
        if not pages or tall > room:
            pages.append([])
            room = PARTS_TALL
        pages[-1].append(part)
        room -= tall
    return [_card_page(card), *(_parts_page(card.title, parts) for parts in pages)]


FEW_LINES, CARD_CHARACTERS, CARD_PX = 16, 105, 8.5
"""Lines of parts that a card has room for below its picture, about how many characters they have, and their size, points."""


def _lines(parts: tuple[str, ...]) -> int:
    """Return about how many lines parts take on a card."""
    return sum(1 + math.ceil(len(part) / CARD_CHARACTERS) for part in parts)


def _card_page(card: Card, parts: tuple[str, ...] = ()) -> Draw:
    def draw(page: Page) -> None:
        top = page.head(card.title, card.facts[0].value if card.facts else "")
        y = page.wrapped(page.left, top + 2, card.reason, page.right - page.left, 11) + 4
        room = page.height - y - (290 if card.colours else 250) - 1.36 * CARD_PX * _lines(parts)
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
        bottom = max(bottom, y + 190) + 8
        for part in parts:
            name, _, words = part.partition(": ")
            page.text(page.left, bottom, name, CARD_PX + 0.5, "Bold")
            bottom = page.wrapped(page.left + 10, bottom + 1.3 * CARD_PX, words, page.right - page.left - 10, CARD_PX)

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


def _parts_page(title: str, parts: list[str]) -> Draw:
    """Return the page that says part by part what to do in a pass."""

    def draw(page: Page) -> None:
        top = page.head(title, "part by part, in this order")
        y, size = top + 8, 10.0
        # Many parts are written smaller, so that none is lost.
        while size > LEAST_PX and y + sum(_tall(page, part, size) for part in parts) > page.height - MARGIN:
            size -= 0.5
        for part in parts:
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
