"""What is printed or handed on: the book of sheets, the line drawing at true size, and pictures as PNG.

Sheets are given finished results and know nothing of how they were made.
"""

from foxpath.sheets.book import Band, Book, Card, Fact, write_book
from foxpath.sheets.eye_pages import EyeCell, EyeSheet
from foxpath.sheets.layers import Layer, Shape, write_layers
from foxpath.sheets.map_pages import FeatherMap, LengthRow, Maps
from foxpath.sheets.openraster import FILMS, Painted, write_film, write_layers_file
from foxpath.sheets.paper import PAPERS
from foxpath.sheets.pictures import write_png
from foxpath.sheets.transfer import Drawing, write_svg, write_tiles

__all__ = [
    "FILMS",
    "PAPERS",
    "Band",
    "Book",
    "Card",
    "Drawing",
    "EyeCell",
    "EyeSheet",
    "Fact",
    "FeatherMap",
    "Layer",
    "LengthRow",
    "Maps",
    "Painted",
    "Shape",
    "write_book",
    "write_film",
    "write_layers",
    "write_layers_file",
    "write_png",
    "write_svg",
    "write_tiles",
]
