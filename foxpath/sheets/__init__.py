"""What is printed or handed on: the book of sheets, the line drawing at true size, and pictures as PNG.

Sheets are given finished results and know nothing of how they were made.
"""

from foxpath.sheets.book import Book, write_book
from foxpath.sheets.day_page import DaySheet, SittingRow, SittingSheet, StepRow, day_pages, sitting_pages
from foxpath.sheets.edge_page import Band, EdgeSheet, edge_page
from foxpath.sheets.eye_pages import EyeCell, EyeSheet, eye_pages
from foxpath.sheets.growth_page import GrowthSheet, growth_page
from foxpath.sheets.layers import Layer, Shape, write_layers
from foxpath.sheets.length_pages import (
    FeatherMap,
    LayingSheet,
    LengthRow,
    LengthSheet,
    feather_page,
    laying_page,
    length_page,
)
from foxpath.sheets.mix_pages import Bead, MixSheet, SwatchCard, ValueString, mix_pages
from foxpath.sheets.openraster import FILMS, Painted, write_film, write_layers_file
from foxpath.sheets.page import Draw
from foxpath.sheets.paper import PAPERS
from foxpath.sheets.pass_pages import Card, Fact, pass_pages
from foxpath.sheets.pictures import write_png
from foxpath.sheets.reference_page import reference_page
from foxpath.sheets.transfer import Drawing, write_svg, write_tiles

__all__ = [
    "FILMS",
    "PAPERS",
    "Band",
    "Bead",
    "Book",
    "Card",
    "DaySheet",
    "Draw",
    "Drawing",
    "EdgeSheet",
    "EyeCell",
    "EyeSheet",
    "Fact",
    "FeatherMap",
    "GrowthSheet",
    "Layer",
    "LayingSheet",
    "LengthRow",
    "LengthSheet",
    "MixSheet",
    "Painted",
    "Shape",
    "SittingRow",
    "SittingSheet",
    "StepRow",
    "SwatchCard",
    "ValueString",
    "day_pages",
    "edge_page",
    "eye_pages",
    "feather_page",
    "growth_page",
    "laying_page",
    "length_page",
    "mix_pages",
    "pass_pages",
    "reference_page",
    "sitting_pages",
    "write_book",
    "write_film",
    "write_layers",
    "write_layers_file",
    "write_png",
    "write_svg",
    "write_tiles",
]
