"""The story of a painting on paper: sittings with what was said, and its parts."""

from collections.abc import Sequence
from dataclasses import dataclass

from foxpath.sheets.page import QUIET, Draw, Page


@dataclass(frozen=True, slots=True)
class LogBlock:
    """A heading and its lines, each with its clock (which may be empty)."""

    head: str
    lines: tuple[tuple[str, str], ...]


_LINE, _HEAD, _ROOM = 12.0, 26.0, 640.0


def log_sheet_pages(blocks: Sequence[LogBlock]) -> list[Draw]:
    """Return as many pages as the blocks take; a long one goes on over the next page."""
    pages: list[list[LogBlock]] = [[]]
    room = _ROOM
    for block in blocks:
        lines = list(block.lines)
        head = block.head
        while True:
            fits = int((room - _HEAD) // _LINE)
            if fits < min(3, len(lines)) and pages[-1]:
                pages.append([])
                room = _ROOM
                continue
            here, lines = lines[:fits], lines[fits:]
            pages[-1].append(LogBlock(head, tuple(here)))
            room -= _HEAD + _LINE * len(here)
            if not lines:
                break
            head = f"{block.head}, going on"
            pages.append([])
            room = _ROOM
    return [_page(mine) for mine in pages if mine]


def _page(blocks: Sequence[LogBlock]) -> Draw:
    def draw(page: Page) -> None:
        y = page.head("Log", "as it was told at the easel") + 6
        for block in blocks:
            page.text(page.left, y + 9, page.fitted(block.head, 10, page.right - page.left, "Bold"), 10, "Bold")
            y += 16
            for clock, words in block.lines:
                page.text(page.left, y + 8, clock, 8.5, tone=QUIET)
                page.text(page.left + 44, y + 8, page.fitted(words, 9, page.right - page.left - 44), 9)
                y += _LINE
            y += _HEAD - 16

    return draw
