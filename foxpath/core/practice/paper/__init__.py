"""Drills on paper: a sheet is printed at true size, painted, photographed and measured.

`page` is the sheet with its marks, by which a photograph of it is squared up and says which sheet it is; `hand` has strokes to be painted
after a model, `eyes` has eyes. `PAPER` is the list of them.
"""

from foxpath.core.errors import InputError
from foxpath.core.practice.paper.eyes import EyesOnPaper
from foxpath.core.practice.paper.hand import HandOnPaper
from foxpath.core.practice.paper.page import PaperDrill

PAPER: tuple[PaperDrill, ...] = (HandOnPaper(), EyesOnPaper())
"""Every drill on paper; its place is the number that stands on its sheets."""


def paper_called(key: str) -> PaperDrill:
    """Return a drill on paper by its key. Raises `InputError`."""
    found = next((one for one in PAPER if one.key == key), None)
    if found is None:
        raise InputError(
            f"There is no drill on paper “{key}”.", f"Choose one of: {', '.join(one.key for one in PAPER)}."
        )
    return found
