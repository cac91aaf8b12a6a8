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


@dataclass(frozen=True, slots=True)
class StepRow:
    """A step of a sitting: its clock, what and where, minutes, and lines of what it needs and what must hold."""

    clock: str
    what: str
    minutes: str
    lines: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class SittingSheet:
    """One sitting, for the wall beside the easel.

    Attributes
    ----------
    title, time : str
    steps : tuple of StepRow
    off : tuple of str
        What the hand must not touch, each with until when.
    rules : tuple of str
        Where to go while something sets, and the rule for the end.
    foot : str
    """

    title: str
    time: str
    steps: tuple[StepRow, ...]
    off: tuple[str, ...]
    rules: tuple[str, ...]
    foot: str


_MOST_OFF = 10


def sitting_pages(sheet: SittingSheet) -> list[Draw]:
    """Return the pages of one sitting: large enough to be read from the easel."""
    pages: list[list[StepRow]] = [[]]
    room = 500.0
    for row in sheet.steps:
        tall = 26 + 13 * len(row.lines)
        if pages[-1] and tall > room:
            pages.append([])
            room = 560.0
        pages[-1].append(row)
        room -= tall
    return [_sitting(sheet, rows, number == 0, number == len(pages) - 1) for number, rows in enumerate(pages)]


def _sitting(sheet: SittingSheet, rows: list[StepRow], first: bool, last: bool) -> Draw:  # noqa: FBT001  (which page)
    def draw(page: Page) -> None:
        y = page.head(sheet.title, sheet.time) + 12
        wide = page.right - page.left
        if first:
            for rule in sheet.rules:
                y = page.wrapped(page.left, y, rule, wide, 11) + 4
            y += 6
        for row in rows:
            page.text(page.left, y + 10, row.clock, 12, "Bold")
            page.text(page.left + 48, y + 10, page.fitted(row.what, 12, wide - 110), 12)
            page.text(page.right, y + 10, row.minutes, 11, tone=QUIET, align="r")
            y += 14
            for line in row.lines:
                page.text(page.left + 48, y + 9, page.fitted(line, 9.5, wide - 48), 9.5, tone=QUIET)
                y += 13
            y += 10
        if last:
            if sheet.off:
                page.text(page.left, y + 10, "Keep the hand off", 11, "Bold")
                more = len(sheet.off) - _MOST_OFF
                for line in (*sheet.off[:_MOST_OFF], *((f"and {more} more",) if more > 0 else ())):
                    y += 14
                    page.text(page.left + 12, y + 10, page.fitted(line, 10, wide - 12), 10)
                y += 18
            page.wrapped(page.left, min(y + 8, page.height - MARGIN - 30), sheet.foot, wide, 9, QUIET)

    return draw
