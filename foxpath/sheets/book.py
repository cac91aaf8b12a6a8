"""The book of sheets: one PDF, A4 or Letter, with the bundled typeface embedded and pages numbered.

Lines and hairs are vectors, as wide on the paper as the print's scale makes them.
"""

import io
from dataclasses import dataclass
from pathlib import Path

from foxpath.core.arrays import Rgb8
from foxpath.core.reference.transfer import Grid
from foxpath.core.units import CanvasSize
from foxpath.sheets.page import Draw, Page
from foxpath.sheets.paper import PAPERS, new_pdf
from foxpath.sheets.pictures import write_file


@dataclass(frozen=True, slots=True, eq=False)
class Book:
    """Pages, and what every one of them may show.

    Attributes
    ----------
    title : str
    canvas : CanvasSize
    grid : Grid
        The painting's squares.
    reference : (H, W, 3) uint8
        The crop.
    pages : tuple of Draw
    """

    title: str
    canvas: CanvasSize
    grid: Grid
    reference: Rgb8
    pages: tuple[Draw, ...]


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
    write_file(path, _written(book, paper))
    return len(book.pages)


def _written(book: Book, paper: str) -> bytes:
    buffer, size = io.BytesIO(), PAPERS[paper]
    pdf = new_pdf(buffer, f"{book.title}: plan of the painting", size)
    for number, draw in enumerate(book.pages, 1):
        page = Page(pdf, book, size)
        draw(page)
        page.foot(number, len(book.pages))
        pdf.showPage()
    pdf.save()
    return buffer.getvalue()
