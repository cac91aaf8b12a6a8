"""What is printed or handed on: the book of sheets as one PDF, and pictures as PNG.

Sheets are given finished results and know nothing of how they were made.
"""

from foxpath.sheets.book import PAPERS, Band, Book, Card, Fact, write_book
from foxpath.sheets.pictures import write_png

__all__ = ["PAPERS", "Band", "Book", "Card", "Fact", "write_book", "write_png"]
