"""What is printed or handed on: the book of sheets, the line drawing at true size, and pictures as PNG.

Sheets are given finished results and know nothing of how they were made.
"""

from foxpath.sheets.book import Band, Book, Card, Fact, write_book
from foxpath.sheets.paper import PAPERS
from foxpath.sheets.pictures import write_png
from foxpath.sheets.transfer import Drawing, write_svg, write_tiles

__all__ = ["PAPERS", "Band", "Book", "Card", "Drawing", "Fact", "write_book", "write_png", "write_svg", "write_tiles"]
