"""The page of the reference under its grid."""

from foxpath.core.units import percent
from foxpath.sheets.page import QUIET, Page, grid
from foxpath.sheets.paper import MM


def reference_page(page: Page) -> None:
    """Draw the reference under its grid, and say how it comes onto the canvas."""
    book = page.book
    top = page.head("Reference", f"{book.canvas.words()} canvas")
    x, y, scale, height = page.plan_area(top, page.height - top - 150)
    page.picture(book.reference, x, y, scale * book.canvas.width_mm, 90)
    step = grid(page, x, y, scale)
    size = f"{step / 10:g} cm" if book.canvas.unit == "cm" else f"{step / 25.4:g} in"
    y += height + 20
    page.text(
        page.left, y, f"Squares of {size} on the canvas · printed at {percent(scale / MM)} of true size", 10, tone=QUIET
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
