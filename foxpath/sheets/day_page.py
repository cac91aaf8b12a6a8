"""The sheet of the sittings: when, what, and how long; a row a sitting."""

from dataclasses import dataclass

from foxpath.sheets.page import MARGIN, QUIET, Draw, Page


@dataclass(frozen=True, slots=True)
class SittingRow:
    """A sitting: its day and time, and its pieces as (clock, what, minutes)."""

    day: str
    time: str
    pieces: tuple[tuple[str, str, str], ...]


@dataclass(frozen=True, slots=True)
class DaySheet:
    """The sittings, and what is to be said of them above and below."""

    head: str
    rows: tuple[SittingRow, ...]
    foot: str


_LINE, _GAP = 11.5, 9.0


def day_pages(sheet: DaySheet) -> list[Draw]:
    """Return as many pages as the sittings take; none of them is cut in two unless it is longer than a page."""
    pages: list[list[SittingRow]] = [[]]
    room = full = 600.0
    for row in sheet.rows:
        tall = max(2, len(row.pieces)) * _LINE + _GAP
        if pages[-1] and tall > room:
            pages.append([])
            room = full
        pages[-1].append(row)
        room -= tall
    return [_page(sheet, rows, number == 0, number == len(pages) - 1) for number, rows in enumerate(pages)]


def _page(sheet: DaySheet, rows: list[SittingRow], first: bool, last: bool) -> Draw:  # noqa: FBT001  (which page)
    def draw(page: Page) -> None:
        y = page.head("Days", "typical drying: test with a finger") + 4
        if first:
            y = page.wrapped(page.left, y, sheet.head, page.right - page.left, 10) + 6
        for row in rows:
            page.text(page.left, y + 8, row.day, 9.5, "Bold")
            page.text(page.left, y + 8 + _LINE, row.time, 8.5, tone=QUIET)
            for k, (clock, what, minutes) in enumerate(row.pieces):
                at = y + 8 + k * _LINE
                page.text(page.left + 100, at, clock, 8.5, tone=QUIET)
                page.text(page.left + 136, at, page.fitted(what, 9, page.right - page.left - 200), 9)
                page.text(page.right, at, minutes, 8.5, tone=QUIET, align="r")
            y += max(2, len(row.pieces)) * _LINE + _GAP
        if last:
            page.wrapped(page.left, min(y + 6, page.height - MARGIN - 30), sheet.foot, page.right - page.left, 9, QUIET)

    return draw
