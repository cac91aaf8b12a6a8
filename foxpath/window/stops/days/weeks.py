"""The weeks: a row a week, a card for each day with free time, sittings in them, and under the cards the strands of wet paint."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QImage, QPainter

from foxpath.core.days.calendar import Interval
from foxpath.core.days.studio import too_cold
from foxpath.derive.days.reading import DaysClose, Past
from foxpath.derive.days.sitting import Sitting
from foxpath.derive.days.strands import Span, Strand
from foxpath.window.look import draw
from foxpath.window.look.theme import colour

WEEKDAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
SIDE, HEAD, CARD, BAND, THIN = 46.0, 26.0, 45.0, 29.0, 26.0
"""Width of the weeks' names; heights of the weekdays' names, a card, the strands under it, and weeks of rest."""
PITCH = 4.6
TACKY = "#7A7A7A"
SHORT = {
    "preparation": "prepare", "mixing": "mix piles", "eye": "eye", "edge": "edges", "blend": "blend", "look": "look",
    "photograph": "photo", "touch-up": "touch up", "varnish": "varnish", "hand-over": "hand over",
}  # fmt: skip
"""What a card says of a sitting without a pass."""


@dataclass(frozen=True, slots=True)
class Week:
    """A row: its Monday, how many weeks it stands for, and whether something is painted in it."""

    monday: date
    count: int
    thin: bool


@dataclass(frozen=True, slots=True)
class Day:
    """A day of a row.

    Attributes
    ----------
    day : date
    box : QRectF
        Its card.
    free : float
        Free hours.
    sittings : tuple of Sitting
    away : str
        Why it is not free although its weekday is: "away", "cold", or the painting that has taken it; empty where it is.
    past : Past or None
        What was painted on it.
    """

    day: date
    box: QRectF
    free: float
    sittings: tuple[Sitting, ...]
    away: str
    past: Past | None = None


@dataclass(frozen=True, slots=True)
class Sheet:
    """The weeks as they lie on the screen.

    Attributes
    ----------
    room : QRectF
    rows : tuple of (Week, top)
        Those that are shown.
    days : tuple of Day
    first, count : int
        The first row that is shown, and how many there are.
    """

    room: QRectF
    rows: tuple[tuple[Week, float], ...]
    days: tuple[Day, ...]
    first: int
    count: int

    def at(self, place: QPointF) -> Day | None:
        """Return the day under a place."""
        return next((one for one in self.days if one.box.contains(place)), None)

    def x_of(self, row: Week, minute: float, zero: datetime) -> float:
        """Return where a minute lies across a week, within it."""
        left = self.room.left() + SIDE
        width = self.room.width() - SIDE
        start = (datetime.combine(row.monday, time()) - zero).total_seconds() / 60
        return left + width * min(max((minute - start) / (7 * 1440), 0.0), 1.0)


def weeks_of(close: DaysClose) -> list[Week]:
    """Return the rows from the first sitting, or today, to the last; weeks of rest are gathered."""
    if not close.sittings or close.now is None or close.planned is None:
        return []
    past = [one.day for one in close.past]
    first = min([close.sittings[0].begin.date(), close.now.date(), *past])
    if close.sittings[0].begin.date() - close.now.date() > timedelta(days=21) and not past:
        # A painting that begins in some weeks begins the sheet.
        first = close.sittings[0].begin.date()
    monday = first - timedelta(days=first.weekday())
    last = close.sittings[-1].end.date()
    busy = {_monday(one.begin.date()) for one in close.sittings} | {_monday(day) for day in past}
    rows: list[Week] = []
    while monday <= last:
        if monday in busy:
            rows.append(Week(monday, 1, thin=False))
        elif rows and rows[-1].thin:
            rows[-1] = Week(rows[-1].monday, rows[-1].count + 1, thin=True)
        else:
            rows.append(Week(monday, 1, thin=True))
        monday += timedelta(weeks=1)
    return rows


def _monday(day: date) -> date:
    return day - timedelta(days=day.weekday())


def lay_out(close: DaysClose, room: QRectF, first: int) -> Sheet:
    """Lay the weeks out in a room, from a row on; the last rows fill it."""
    rows = weeks_of(close)
    tall = [THIN if one.thin else CARD + BAND for one in rows]
    first = min(max(first, 0), max(0, len(rows) - 1))
    while first > 0 and sum(tall[first - 1 :]) <= room.height() - HEAD:
        first -= 1
    shown, days = [], []
    top = room.top() + HEAD
    by_day: dict[date, list[Sitting]] = {}
    for one in close.sittings:
        by_day.setdefault(one.begin.date(), []).append(one)
    past = {one.day: one for one in close.past}
    free = _free_hours(close.planned.layout.free if close.planned is not None else ())
    week = close.planned.layout.days.week if close.planned is not None else ()
    width = (room.width() - SIDE) / 7
    for row, height in zip(rows[first:], tall[first:], strict=True):
        if top + height > room.bottom() + 0.5:
            break
        shown.append((row, top))
        for k in range(7 if not row.thin else 0):
            day = row.monday + timedelta(days=k)
            box = QRectF(room.left() + SIDE + k * width + 2, top, width - 4, CARD)
            usual = bool(week and week[k])
            hours = free.get(day, 0.0)
            coming = close.now is None or day > close.now.date()
            away = away_words(close, day) if usual and not hours and coming else ""
            days.append(Day(day, box, hours, tuple(by_day.get(day, ())), away, past.get(day)))
        top += height
    return Sheet(room, tuple(shown), tuple(days), first, len(rows))


def away_words(close: DaysClose, day: date) -> str:
    """Say in a word why nothing is free on a day whose weekday is: the first word of the painting that has taken it, cold, or away."""
    days = close.planned.layout.days if close.planned is not None else None
    if days is not None and too_cold(days, day):
        return "cold"
    if days is not None and any(one.day == day.isoformat() for one in days.others):
        return "away"
    taken = next((name for name, times in close.taken.items() if any(a.date() == day for a, _ in times)), "")
    return taken.split(" ")[0] if taken and days is not None and days.beside else "away"


def _free_hours(free: Sequence[Interval]) -> dict[date, float]:
    made: dict[date, float] = {}
    for a, b in free:
        made[a.date()] = made.get(a.date(), 0.0) + (b - a).total_seconds() / 3600
    return made


def hours_words(hours: float) -> str:
    """Write free hours, e.g. "2 h", "2½ h"."""
    whole, half = divmod(round(hours * 2), 2)
    return f"{whole or ''}{'½' if half else ''} h" if whole or half else ""


def badge_of(roles: Sequence[str], numbers: Mapping[str, int]) -> str:
    """Return the numbers of passes, e.g. "6·7", "4–7"; empty for none."""
    found = sorted({numbers[role] for role in roles if role in numbers})
    return f"{found[0]}–{found[-1]}" if len(found) > 2 else "·".join(str(one) for one in found)


def label_of(close: DaysClose, sitting: Sitting, numbers: Mapping[str, int]) -> tuple[str, str]:
    """Return a sitting's badge (numbers of its passes) and its words where it has none."""
    assert close.planned is not None
    layout = close.planned.layout
    own = [layout.problem.tasks[one.task] for one in sitting.steps if not one.painting]
    if not own:
        # Another painting's evening, by the first word of its name.
        return "", next((one.painting.split(" ")[0] for one in sitting.steps), "")
    badge = badge_of([layout.works[0].roles.get(task.id, "") for task in own], numbers)
    kinds = [task.kind for task in own]
    last = next((kind for kind in ("hand-over", "varnish", "touch-up") if kind in kinds), kinds[0] if kinds else "")
    return badge, "" if badge and last not in ("varnish", "hand-over") else SHORT.get(last, "")


@dataclass(frozen=True, slots=True)
class Shown:
    """What is chosen, held, dragged and remembered on the sheet.

    Attributes
    ----------
    chosen : datetime or None
        Begin of the chosen sitting.
    over : date or None
        The day a dragged sitting lies over.
    held : frozenset of datetime
        Begins of sittings that are held.
    before : frozenset of date
        Days that had a sitting in the plan before.
    pictures : mapping of pass to QImage
    """

    chosen: datetime | None
    over: date | None
    held: frozenset[datetime]
    before: frozenset[date]
    pictures: Mapping[str, QImage]


def paint_weeks(
    p: QPainter, sheet: Sheet, close: DaysClose, strands: Sequence[Strand], numbers: Mapping[str, int], shown: Shown
) -> None:
    """Draw the rows that are shown."""
    room = sheet.room
    width = (room.width() - SIDE) / 7
    weekend = [k for k in range(7) if close.planned is not None and close.planned.layout.days.week[k]]
    for k, name in enumerate(WEEKDAYS):
        weight, tone = (600, "text") if k in weekend else (400, "quiet")
        draw.text(p, room.left() + SIDE + (k + 0.5) * width, room.top() + 17, name, 12.5, weight, tone, "c")
    for row, top in sheet.rows:
        if row.thin:
            weeks = "a week" if row.count == 1 else f"{row.count} weeks"
            draw.text(p, room.left(), top + 17, f"{row.monday:%-d %b}", 12.5, 600)
            draw.text(
                p, room.left() + SIDE + 4, top + 17, f"{weeks} without a brush: paint dries and rests", 12, 400, "quiet"
            )
        else:
            draw.text(p, room.left(), top + 17, f"{row.monday:%-d %b}", 12.5, 600)
            _band(p, sheet, row, top + CARD, close, strands)
        p.fillRect(QRectF(room.left(), top + (THIN if row.thin else CARD + BAND) - 3, room.width(), 1), colour("line"))
    for day in sheet.days:
        _card(p, day, close, numbers, shown)


def _card(p: QPainter, day: Day, close: DaysClose, numbers: Mapping[str, int], shown: Shown) -> None:
    box, today = day.box, close.now is not None and day.day == close.now.date()
    begins = {one.begin for one in day.sittings}
    chosen = shown.chosen in begins
    if day.past is not None and not day.sittings:
        _painted(p, day, day.past, numbers, shown)
        return
    if day.free or day.sittings:
        over = shown.over == day.day
        draw.rounded(
            p,
            box,
            5,
            "hover" if over else "raised",
            "russet" if chosen else "text" if over else "line",
            2 if chosen else 1,
        )
    draw.text(
        p,
        box.left() + 6,
        box.top() + 14,
        str(day.day.day),
        12,
        700 if today else 400,
        "text" if day.free or today else "quiet",
    )
    if today:
        draw.stroke(p, draw.along(box.left() + 6, box.top() + 17.5, box.left() + 22, box.top() + 17.5), 2, 0.8, "text")
    if not day.sittings:
        taken = draw.width_of(str(day.day.day), 12, 700) + 14
        words = draw.elided(day.away, box.width() - taken, 11.5) if day.away else hours_words(day.free)
        if words and draw.width_of(words, 11.5) + taken > box.width():
            words = words.removesuffix(" h")
        draw.text(p, box.right() - 5, box.top() + 14, words, 11.5, 400, "quiet", "r")
        if day.day in shown.before:
            draw.circle(p, box.center().x(), box.top() + 29, 4.5, "", "quiet", 1.3)
        return
    one = next((s for s in day.sittings if s.begin == shown.chosen), day.sittings[0])
    badge, words = label_of(close, one, numbers)
    if badge:
        wide = draw.width_of(badge, 11.5, 700) + 9
        plate = QRectF(box.right() - wide - 3, box.top() + 3, wide, 15)
        draw.rounded(p, plate, 4, "text")
        draw.text(p, plate.center().x(), plate.top() + 11.6, badge, 11.5, 700, "raised", "c")
    numbered = draw.width_of(badge, 11.5, 700) + 12 if badge else 0.0
    if len(day.sittings) > 1 and box.width() > 50 + numbered:
        # A second sitting of the day.
        draw.text(p, box.left() + 24, box.top() + 14, f"×{len(day.sittings)}", 11, 400, "quiet")
    if begins & shown.held:
        draw.stroke(p, draw.along(box.left() + 1, box.top() + 8, box.left() + 1, box.bottom() - 8), 3.4, 2, "text")
    if words:
        lines = [words] if draw.width_of(words, 11, 500) <= box.width() - 2 else words.split(" ")
        elsewhere = all(step.painting for step in one.steps)
        if elsewhere:
            lines = [draw.elided(words, box.width() - 4, 11)]
        for k, line in enumerate(lines):
            y = box.top() + (32 if len(lines) == 1 else 26 + 10 * k)
            size, tone = 11 if len(lines) == 1 else 10.5, "quiet" if elsewhere else "text"
            draw.text(p, box.center().x(), y, line, size, 500, tone, "c")
    else:
        picture = _picture_of(close, one, shown.pictures)
        if picture is not None:
            slot = QRectF(box.left() + 6, box.top() + 20, box.width() - 12, 16)
            p.drawImage(slot, picture, _slice(picture, slot))
    room = (one.work[1] - one.work[0]).total_seconds() / 60
    used = sum(step.minutes for step in one.steps)
    left, y = box.left() + 6, box.bottom() - 5
    wide = box.width() - 12
    draw.stroke(p, draw.along(left, y, left + wide, y), 2.6, 1, "line", soft_root=False)
    share = min(1.0, used / room) if room > 0 else 0.0
    tone = "russet" if one.begin == shown.chosen else "text"
    draw.stroke(p, draw.along(left, y, left + max(2.0, wide * share), y), 2.8, 2.8 - 1.6 * share, tone, soft_root=False)


def _painted(p: QPainter, day: Day, past: Past, numbers: Mapping[str, int], shown: Shown) -> None:
    """Draw the card of a day on which was painted: it lies lower than those to come."""
    box = day.box
    draw.rounded(p, box, 5, "sunk")
    draw.text(p, box.left() + 6, box.top() + 14, str(day.day.day), 12, 400, "quiet")
    badge = badge_of(past.roles, numbers)
    draw.text(p, box.right() - 6, box.top() + 14, badge, 11.5, 700, "quiet", "r")
    picture = next((shown.pictures[role] for role in reversed(past.roles) if role in shown.pictures), None)
    if picture is not None:
        slot = QRectF(box.left() + 6, box.top() + 20, box.width() - 12, 16)
        p.drawImage(slot, picture, _slice(picture, slot))
    else:
        draw.text(p, box.center().x(), box.top() + 32, "done", 11, 400, "quiet", "c")
    y = box.bottom() - 5
    draw.stroke(p, draw.along(box.left() + 6, y, box.right() - 6, y), 2.6, 1.0, "quiet", soft_root=False)


def _picture_of(close: DaysClose, sitting: Sitting, pictures: Mapping[str, QImage]) -> QImage | None:
    assert close.planned is not None
    layout = close.planned.layout
    for step in reversed(sitting.steps):
        key = layout.problem.tasks[step.task].id
        role = layout.work_with(key).roles.get(key, "")
        if role in pictures:
            return pictures[role]
    return None


def _slice(picture: QImage, slot: QRectF) -> QRectF:
    """Return the band of a picture that fills a slot, about its middle."""
    tall = picture.width() * slot.height() / max(slot.width(), 1.0)
    top = max(0.0, (picture.height() - tall) * 0.45)
    return QRectF(0, top, picture.width(), min(tall, picture.height()))


def _band(p: QPainter, sheet: Sheet, row: Week, top: float, close: DaysClose, strands: Sequence[Strand]) -> None:
    """Draw the strands of one week: thick where paint is wet, thinner as it sets, a thread once it is dry."""
    if close.planned is None:
        return
    zero = close.planned.layout.zero
    start = (datetime.combine(row.monday, time()) - zero).total_seconds() / 60
    end = start + 7 * 1440
    y = top + 4
    for strand in strands:
        begun = min((a for a, _ in strand.wet), default=end)
        if begun < end:
            x0, x1 = sheet.x_of(row, max(begun, start), zero), sheet.x_of(row, end, zero)
            draw.stroke(p, draw.along(x0, y, x1, y, 2), 0.9, 0.9, "dim", soft_root=False)
        for a, b in strand.tacky:
            _piece(p, sheet, row, (a, b), y, zero, 2.0, 0.9, TACKY)
        for a, b in strand.wet:
            _piece(p, sheet, row, (a, b), y, zero, 3.4, 2.4, "text")
        y += PITCH


def _piece(
    p: QPainter, sheet: Sheet, row: Week, span: Span, y: float, zero: datetime, root: float, tip: float, tone: str
) -> None:
    start = (datetime.combine(row.monday, time()) - zero).total_seconds() / 60
    a, b = max(span[0], start), min(span[1], start + 7 * 1440)
    if b <= a:
        return
    whole = max(span[1] - span[0], 1e-6)

    def thick(at: float) -> float:
        return root + (tip - root) * (at - span[0]) / whole

    x0, x1 = sheet.x_of(row, a, zero), sheet.x_of(row, b, zero)
    draw.stroke(p, draw.along(x0, y, max(x1, x0 + 2), y, 4), thick(a), thick(b), tone, soft_root=False)
