"""Free time, cut into sittings. Times are local and naive, in whole minutes from the start of the plan."""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from typing import Any

from foxpath.core.errors import InputError

DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
Interval = tuple[datetime, datetime]
USUAL_WEEK: dict[str, tuple[tuple[str, str], ...]] = {
    "mon": (("19:00", "21:30"),),
    "tue": (("19:00", "21:30"),),
    "wed": (("19:00", "21:30"),),
    "thu": (("19:00", "21:30"),),
    "sat": (("10:00", "13:00"), ("14:30", "17:30")),
    "sun": (("14:00", "17:00"),),
}
"""Free time as long as nobody has said."""
HINT = 'Write {"mon": [["19:00", "21:00"]], ..., "except": {"2026-05-04": []}}.'


@dataclass(frozen=True, slots=True)
class Rule:
    """How a sitting runs, minutes: set-up and clean-up, the longest at a stretch, the break, and the least piece worth beginning."""

    setup: int = 15
    cleanup: int = 15
    longest: int = 180
    pause: int = 30
    chunk: int = 20


@dataclass(frozen=True, slots=True)
class Week:
    """Free time of a painter.

    Attributes
    ----------
    days : mapping of day to ranges
        "mon" to "sun"; a range that ends before it begins goes past midnight.
    exceptions : mapping of date to ranges
        What holds instead on a day; empty for none.
    """

    days: Mapping[str, tuple[tuple[str, str], ...]] = field(default_factory=lambda: dict(USUAL_WEEK))
    exceptions: Mapping[date, tuple[tuple[str, str], ...]] = field(default_factory=dict)

    def on(self, day: date) -> list[Interval]:
        """Return the free time that begins on a day."""
        found = []
        for begin, end in self.exceptions.get(day, self.days.get(DAYS[day.weekday()], ())):
            first, last = _at(day, begin), _at(day, end)
            found.append((first, last + timedelta(days=1) if last <= first else last))
        return found


def _at(day: date, clock: str) -> datetime:
    if clock == "24:00":
        return datetime.combine(day + timedelta(days=1), time())
    return datetime.combine(day, time.fromisoformat(clock))


def read_week(record: Any, name: str) -> Week:
    """Read free time from JSON.

    Raises
    ------
    InputError
        When it is no such record, or holds no free time at all.
    """
    if not isinstance(record, dict):
        raise InputError(f"{name} holds no free time.", HINT)
    days = {}
    for key, value in record.items():
        if key == "except":
            continue
        if key not in DAYS:
            raise InputError(f"{name}: “{key}” is no day.", f"Days are {', '.join(DAYS)}, and “except”.")
        days[key] = _ranges(value, f"{name}, {key}")
    others = record.get("except", {})
    if not isinstance(others, dict):
        raise InputError(f"{name}: “except” names no days.", HINT)
    exceptions = {}
    for key, value in others.items():
        try:
            day = date.fromisoformat(key)
        except (TypeError, ValueError):
            raise InputError(f"{name}: “{key}” is no date.", "Write dates as 2026-05-04.") from None
        exceptions[day] = _ranges(value, f"{name}, {key}")
    if not any(days.values()) and not any(exceptions.values()):
        raise InputError(f"{name} leaves no free time at all.", "Give at least one range of one day.")
    return Week(days, exceptions)


def _ranges(value: Any, where: str) -> tuple[tuple[str, str], ...]:
    if not isinstance(value, list):
        raise InputError(f"{where}: free time is a list of ranges.", HINT)
    made = []
    for one in value:
        if not isinstance(one, list) or len(one) != 2 or not all(isinstance(clock, str) for clock in one):
            raise InputError(f"{where}: a range is two times.", HINT)
        for clock in one:
            try:
                _at(date(2026, 1, 1), clock)
            except ValueError:
                raise InputError(f"{where}: “{clock}” is no time of day.", "Write times as 19:00.") from None
        made.append((one[0], one[1]))
    return tuple(made)


def free_time(week: Week, start: datetime, days: int, busy: Iterable[Interval] = ()) -> list[Interval]:
    """Return the free time of so many days from a start, less what is busy; ranges that touch are one."""
    found: list[Interval] = []
    for number in range(-1, days):
        found += week.on(start.date() + timedelta(days=number))
    open_ = [(max(a, start), b) for a, b in sorted(found) if b > start]
    joined: list[Interval] = []
    for a, b in open_:
        if joined and a <= joined[-1][1]:
            joined[-1] = (joined[-1][0], max(joined[-1][1], b))
        else:
            joined.append((a, b))
    for a, b in sorted(busy):
        joined = [piece for one in joined for piece in _less(one, a, b)]
    return joined


def _less(one: Interval, a: datetime, b: datetime) -> list[Interval]:
    if b <= one[0] or a >= one[1]:
        return [one]
    return [piece for piece in ((one[0], min(a, one[1])), (max(b, one[0]), one[1])) if piece[1] > piece[0]]


def sittings(free: Sequence[Interval], start: datetime, rule: Rule) -> list[tuple[int, int]]:
    """Return the stretches in which paint can be laid, minutes from the start: set-up and clean-up are taken off, long ones cut by breaks."""
    found = []
    for a, b in free:
        begin, end = (a - start).total_seconds() / 60, (b - start).total_seconds() / 60
        count = max(1, math.ceil((end - begin + rule.pause) / (rule.longest + rule.pause)))
        size = (end - begin - (count - 1) * rule.pause) / count
        for k in range(count):
            first = begin + k * (size + rule.pause)
            low, high = math.ceil(first + rule.setup), math.floor(first + size - rule.cleanup)
            if high - low >= rule.chunk:
                found.append((low, high))
    return found
