"""A proof for the client: the painting as it is planned, small and at true size, its colours and its date; no note of the painter's."""

from dataclasses import dataclass

from foxpath.core.arrays import Rgb8
from foxpath.sheets.page import QUIET, Draw, Page
from foxpath.sheets.paper import MM

Rgb = tuple[int, int, int]


@dataclass(frozen=True, slots=True, eq=False)
class ProofSheet:
    """What a proof shows.

    Attributes
    ----------
    title, client, day : str
    whole : (H, W, 3) uint8
        The planned painting.
    part : (h, w, 3) uint8
        A part of it, to be printed at true size.
    part_mm : (width, height)
        Of that part on the canvas.
    colours : tuple of (name, (r, g, b))
    ready : str
        By when it is ready, in words; empty for no date.
    """

    title: str
    client: str
    day: str
    whole: Rgb8
    part: Rgb8
    part_mm: tuple[float, float]
    colours: tuple[tuple[str, Rgb], ...]
    ready: str


def proof_page(sheet: ProofSheet) -> Draw:
    """Return the page."""

    def draw(page: Page) -> None:
        top = page.head(sheet.title, sheet.day)
        wide = page.right - page.left
        said = f"For {sheet.client}. " if sheet.client else ""
        y = page.wrapped(
            page.left, top + 8,
            f"{said}The painting as it is planned, {page.book.canvas.words()}. Paint is not print: colours and light come near, no nearer.",
            wide, 10, QUIET,
        ) + 6  # fmt: skip
        tall = wide * sheet.whole.shape[0] / sheet.whole.shape[1]
        width = wide if tall < 300 else wide * 300 / tall
        y += page.picture(sheet.whole, page.left, y, width, 92) + 22
        page.text(page.left, y, "A part of it at true size", 11, "Bold")
        part = min(sheet.part_mm[0] * MM, wide)
        y += 10
        y += page.picture(sheet.part, page.left, y, part, 94) + 14
        for k, (name, (r, g, b)) in enumerate(sheet.colours):
            x = page.left + k * wide / max(len(sheet.colours), 1)
            page.pdf.setFillColorRGB(r / 255, g / 255, b / 255)
            page.pdf.rect(x, page.height - y - 18, wide / max(len(sheet.colours), 1) - 8, 18, stroke=0, fill=1)
            page.text(x, y + 30, page.fitted(name, 8.5, wide / max(len(sheet.colours), 1) - 8), 8.5, tone=QUIET)
        if sheet.ready:
            page.text(page.left, y + 52, sheet.ready, 11, "Bold")

    return draw
