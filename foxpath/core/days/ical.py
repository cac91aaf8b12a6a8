"""Calendars as iCalendar (RFC 5545): busy times are read from one, sittings are written to one."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from foxpath.core.days.calendar import Interval
from foxpath.core.errors import InputError

MOST_EVENTS = 20_000
"""Occurrences that are read of one calendar: a rule without an end may go on for ever."""


def busy_times(data: bytes, start: datetime, end: datetime, name: str = "the calendar") -> list[Interval]:
    """Return the busy times of a calendar between two local times, repeats and exceptions worked out, in local time.

    What is marked as free time is passed over, and so is what was cancelled. An all-day event ends before its last day, as the
    format has it.

    Raises
    ------
    InputError
        When it is no calendar.
    """
    import icalendar

    try:
        calendars: Any = icalendar.Calendar.from_ical(data, multiple=True)
        events: list[Any] = [event for one in calendars for event in one.walk("VEVENT")]
    except (ValueError, KeyError, IndexError, TypeError, AttributeError) as failure:
        raise InputError(f"{name} is no calendar.", "Export it as iCalendar (.ics).") from failure
    if not calendars:
        raise InputError(f"{name} is no calendar.", "Export it as iCalendar (.ics).")
    moved = {(str(one.get("UID", "")), _local(one["RECURRENCE-ID"].dt)) for one in events if "RECURRENCE-ID" in one}
    found: list[Interval] = []
    for event in events:
        transparent = str(event.get("TRANSP", "OPAQUE")).upper() == "TRANSPARENT"
        if transparent or str(event.get("STATUS", "")).upper() == "CANCELLED" or "DTSTART" not in event:
            continue
        try:
            found += _occurrences(event, start, end, moved)
        except (ValueError, TypeError, OverflowError, AttributeError) as failure:
            title = str(event.get("SUMMARY", "an event"))[:60]
            raise InputError(
                f"{name}: “{title}” cannot be read.", "Mend it in your calendar, or leave it out."
            ) from failure
        if len(found) > MOST_EVENTS:
            raise InputError(f"{name} holds more than {MOST_EVENTS} events.", "Export a shorter time.")
    return sorted(found)


def _occurrences(event: Any, start: datetime, end: datetime, moved: set[tuple[str, datetime]]) -> list[Interval]:
    from dateutil.rrule import rrulestr

    first = event["DTSTART"].dt
    begin = _whole(first)
    length = _length(event, first)
    if "RRULE" not in event:
        a = _local(first)
        return [(a, a + length)] if a < end and a + length > start else []
    skipped = {_local(one.dt) for block in _listed(event.get("EXDATE")) for one in block.dts}
    uid = str(event.get("UID", ""))
    rules = _listed(event.get("RRULE"))
    made: list[Interval] = []
    for rule in rules:
        text = rule.to_ical().decode()
        if begin.tzinfo is None:
            # A rule's end in universal time beside a floating start: both are taken as local.
            text = ";".join(p.rstrip("Z") if p.startswith("UNTIL=") else p for p in text.split(";"))
        for number, one in enumerate(rrulestr(text, dtstart=begin)):
            a = _local(one)
            if a >= end or number > MOST_EVENTS:
                break
            if a + length > start and a not in skipped and (uid, a) not in moved:
                made.append((a, a + length))
    return made


def _listed(value: Any) -> list[Any]:
    return [] if value is None else value if isinstance(value, list) else [value]


def _whole(moment: Any) -> datetime:
    return moment if isinstance(moment, datetime) else datetime(moment.year, moment.month, moment.day)  # noqa: DTZ001  (a day has no zone)


def _local(moment: Any) -> datetime:
    """Return a moment as local time without a zone; summer time is in the zone's own rules."""
    whole = _whole(moment)
    return whole.astimezone().replace(tzinfo=None) if whole.tzinfo is not None else whole


def _length(event: Any, first: date | datetime) -> timedelta:
    if "DTEND" in event:
        return max(_whole(event["DTEND"].dt) - _whole(first), timedelta())
    if "DURATION" in event:
        made: timedelta = event["DURATION"].dt
        return max(made, timedelta())
    return timedelta() if isinstance(first, datetime) else timedelta(days=1)


@dataclass(frozen=True, slots=True)
class Event:
    """An entry to write.

    Attributes
    ----------
    uid : str
        Stable, so that a second import updates.
    begin, end : datetime
        Local, without a zone.
    title, words : str
    """

    uid: str
    begin: datetime
    end: datetime
    title: str
    words: str = ""


def calendar_of(events: Iterable[Event], stamp: datetime) -> bytes:
    """Return entries as iCalendar; times are floating: they hold wherever the painter is."""
    import icalendar

    made = icalendar.Calendar()
    made.add("prodid", "-//Fox Path//Days//EN")
    made.add("version", "2.0")
    for one in sorted(events, key=lambda e: (e.begin, e.uid)):
        entry = icalendar.Event()
        entry.add("uid", one.uid)
        entry.add("dtstamp", stamp)
        entry.add("dtstart", one.begin)
        entry.add("dtend", one.end)
        entry.add("summary", one.title)
        if one.words:
            entry.add("description", one.words)
        made.add_component(entry)
    written: bytes = made.to_ical()
    return written
