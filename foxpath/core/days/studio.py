"""What the painter decided about days: free time, the room, the end, and the plan that was taken; times are local ISO."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from datetime import date, datetime, time, timedelta

from foxpath.core.days.calendar import DAYS, USUAL_WEEK, Interval, Rule, Week
from foxpath.core.errors import InputError

Range = tuple[str, str]
CAREFUL: dict[str, tuple[float, str]] = {
    "likely": (0.0, "The middle of what paint does: early dates, and every other layer is met still wet."),
    "usual": (0.8416, "Dry in four of five cases: right while the plan follows what you note."),
    "sure": (1.2816, "Dry in nine of ten: for a date that cannot move."),
}
"""How late paint is taken to dry: standard deviations of the logarithm, and the reason."""
LIMITS: dict[str, tuple[float, float]] = {
    "setup": (0, 120), "cleanup": (0, 120), "longest": (30, 720), "pause": (0, 240), "rest_days": (0, 400), "alkyd": (0, 0.5),
    "celsius": (0, 40), "humidity": (5, 95), "film": (0.3, 1.5), "air_from": (0, 12), "air_to": (0, 12),
    "july_celsius": (0, 40), "july_humidity": (5, 95), "coldest": (0, 25),
}  # fmt: skip
"""Least and most of each number."""
AIR_FOR: dict[str, str] = {
    "varnish": "Varnish waits for months with open doors.",
    "thinner": "Varnish and paint let down with thinner wait for months with open doors.",
}
"""What open doors are kept for, and in words."""
COLDEST_DAY = 20
"""Day of the year about which rooms are coldest, a month after the shortest one."""
MOST_BUSY, MOST_NOTES, MOST_TOGETHER = 5000, 2000, 20
FIRST_YEAR, LAST_YEAR = 1990, 2200
_USUAL = tuple(USUAL_WEEK.get(day, ()) for day in DAYS)


@dataclass(frozen=True, slots=True)
class OtherDay:
    """A day that is not as its weekday is: its free ranges, none when the painter is away."""

    day: str
    ranges: tuple[Range, ...] = ()


@dataclass(frozen=True, slots=True)
class Laid:
    """A piece of a task: planned, held to, or done."""

    task: str
    begin: str
    end: str


@dataclass(frozen=True, slots=True)
class DryNote:
    """What a finger said of one layer.

    Attributes
    ----------
    task : str
        Of which painting's layer, by its task.
    pile, name : str
        What was noted of: the tubes of the mixture, and what the pile is called.
    median_h : float
        Hours to touch-dry by the typical values.
    laid : str
        When it was laid.
    tacky, dry : str
        The latest look at which it still was tacky, the first at which it was dry; empty for none.
    """

    task: str
    pile: str
    name: str
    median_h: float
    laid: str
    tacky: str = ""
    dry: str = ""

    def hours(self, moment: str) -> float:
        """Return how many hours after it was laid a look was; 0 for none."""
        a, b = moment_of(self.laid), moment_of(moment)
        return (b - a).total_seconds() / 3600 if a is not None and b is not None else 0.0


@dataclass(frozen=True, slots=True)
class Days:
    """Decisions about days.

    Attributes
    ----------
    start : str
        The first day; empty for today.
    week : seven tuples of (begin, end)
        Free time, Monday first.
    others : tuple of OtherDay
    busy : tuple of (begin, end)
        Busy times that were read from a calendar; nothing else of it is kept.
    setup, cleanup, longest, pause : int
        Minutes of a sitting.
    daylight : bool
        Paint by daylight only.
    bright : two (begin, end)
        Daylight in December and in June.
    air_from, air_to : int
        Months in which doors can stand open, 1 to 12; 0 for any.
    air_for : str
        Key of `AIR_FOR`.
    coldest : float
        On days on which the room is colder nothing is painted, °C; 0 for any.
    deadline : str
        The day it is handed over; empty for none.
    varnish : bool
    rest_days : float
        Between the last stroke and varnish.
    alkyd, celsius, humidity, film : float
        Alkyd's share in the paint, the room (in January where it goes with the year), and times the planned thickness.
    seasons : bool
        The room goes with the year.
    july_celsius, july_humidity : float
        What it comes to in July then.
    dark : bool
        Paintings dry in the dark.
    prepared : bool
        The support is ready.
    careful : str
        Key of `CAREFUL`.
    beside : bool
        Evenings that other paintings have taken are kept free.
    together : tuple of str
        Names of other paintings that are planned together with this one.
    acrylic_under : bool
        Ground, darks, midtones and undercoat are laid in acrylic.
    drawn_out : bool
        Paint of thick passes lies on paper first, which draws oil out of it.
    dropped : tuple of str
        Passes that are left out for time's sake.
    plan, holds, done, begun : tuple of Laid
        The plan that was taken, what was put into a sitting, what is done, and pieces of what is not finished.
    notes, earlier : tuple of DryNote
        Of this painting, and of those before it.
    """

    start: str = ""
    week: tuple[tuple[Range, ...], ...] = _USUAL
    others: tuple[OtherDay, ...] = ()
    busy: tuple[Range, ...] = ()
    setup: int = 15
    cleanup: int = 15
    longest: int = 180
    pause: int = 30
    daylight: bool = False
    bright: tuple[Range, Range] = (("08:30", "16:00"), ("06:00", "21:00"))
    air_from: int = 0
    air_to: int = 0
    air_for: str = "varnish"
    coldest: float = 0.0
    deadline: str = ""
    varnish: bool = True
    rest_days: float = 30.0
    alkyd: float = 0.0
    celsius: float = 20.0
    humidity: float = 50.0
    seasons: bool = False
    july_celsius: float = 24.0
    july_humidity: float = 60.0
    film: float = 1.0
    dark: bool = False
    prepared: bool = False
    careful: str = "usual"
    beside: bool = True
    together: tuple[str, ...] = ()
    acrylic_under: bool = False
    drawn_out: bool = False
    dropped: tuple[str, ...] = ()
    plan: tuple[Laid, ...] = ()
    holds: tuple[Laid, ...] = ()
    done: tuple[Laid, ...] = ()
    begun: tuple[Laid, ...] = ()
    notes: tuple[DryNote, ...] = ()
    earlier: tuple[DryNote, ...] = ()

    @property
    def left(self) -> tuple[Laid, ...]:
        """Pieces of the plan that was taken whose tasks are not done."""
        done = {one.task for one in self.done}
        return tuple(one for one in self.plan if one.task not in done)

    @property
    def rule(self) -> Rule:
        """How a sitting runs."""
        return Rule(self.setup, self.cleanup, self.longest, self.pause)

    @property
    def free(self) -> Week:
        """Free time of the week, and the days that are otherwise."""
        exceptions = {day: one.ranges for one in self.others if (day := day_of(one.day)) is not None}
        return Week({key: ranges for key, ranges in zip(DAYS, self.week, strict=True) if ranges}, exceptions)

    @property
    def z(self) -> float:
        """How late paint is taken to dry, standard deviations."""
        return CAREFUL[self.careful][0]

    def taken(self) -> list[Interval]:
        """Return the busy times."""
        return [(a, b) for x, y in self.busy if (a := moment_of(x)) is not None and (b := moment_of(y)) is not None]

    def begins(self, today: date) -> date:
        """Return the first day."""
        return day_of(self.start) or today

    def ends(self) -> datetime | None:
        """Return the end of the day it is handed over; None without one."""
        return ends_on(self.deadline)


def ends_on(deadline: str) -> datetime | None:
    """Return the end of a day from its ISO text; None for anything else."""
    day = day_of(deadline)
    return datetime.combine(day, time()) + timedelta(days=1) if day is not None else None


def day_of(text: str) -> date | None:
    """Return a day from its ISO text, e.g. 2026-03-02; None for anything else."""
    try:
        made = date.fromisoformat(text)
    except (ValueError, TypeError):
        return None
    return made if FIRST_YEAR <= made.year <= LAST_YEAR else None


def moment_of(text: str) -> datetime | None:
    """Return a local moment from its ISO text, whole minutes; None for anything else."""
    try:
        made = datetime.fromisoformat(text)
    except (ValueError, TypeError):
        return None
    good = FIRST_YEAR <= made.year <= LAST_YEAR and made.tzinfo is None
    return made.replace(second=0, microsecond=0) if good else None


def iso(moment: datetime) -> str:
    """Return a moment's ISO text, whole minutes."""
    return moment.isoformat(timespec="minutes")


def clock_of(text: str) -> int | None:
    """Return the minutes since midnight of a time of day, e.g. 19:00, up to 24:00; None for anything else."""
    hours, colon, minutes = text.partition(":")
    if not (colon and hours.isdecimal() and minutes.isdecimal() and len(hours) == 2 and len(minutes) == 2):
        return None
    made = int(hours) * 60 + int(minutes)
    return made if made <= 1440 and int(minutes) < 60 else None


def clock_text(minutes: float) -> str:
    """Return a time of day, e.g. 19:00, of minutes since midnight."""
    whole = round(minutes)
    return f"{whole // 60:02d}:{whole % 60:02d}"


def check_days(days: Days) -> None:
    """Raise `InputError` for what cannot be."""
    for name, (least, most) in LIMITS.items():
        value = getattr(days, name)
        if not (math.isfinite(value) and least <= value <= most):
            words = name.replace("_", " ")
            raise InputError(f"{words} {value:g} is out of range.", f"Give {least:g} to {most:g}.")
    if days.careful not in CAREFUL:
        raise InputError(f"“{days.careful}” is no way to plan.", f"Ways are {', '.join(CAREFUL)}.")
    if days.air_for not in AIR_FOR:
        raise InputError(f"Open doors are for no “{days.air_for}”.", f"They are for {' or '.join(AIR_FOR)}.")
    for text, name in ((days.start, "first day"), (days.deadline, "deadline")):
        if text and day_of(text) is None:
            raise InputError(f"The {name} “{text}” is no date.", "Write it as 2026-03-02.")
    if len(days.together) > MOST_TOGETHER:
        raise InputError(
            f"{len(days.together)} paintings are too many at once.", f"Plan {MOST_TOGETHER} together at most."
        )
    if len(days.week) != 7:
        raise InputError("A week has seven days.", "Give the ranges of each, Monday first.")
    for ranges in (*days.week, *(one.ranges for one in days.others), days.bright):
        check_ranges(ranges)


def check_ranges(ranges: Sequence[Range]) -> None:
    """Raise `InputError` for free time that is none."""
    for begin, end in ranges:
        a, b = clock_of(begin), clock_of(end)
        if a is None or b is None or a == 1440:
            raise InputError(
                f"“{begin}-{end}” is no range of time.", "Write it as 19:00-21:30; past midnight as 22:00-01:00."
            )


def sound_days(days: Days) -> Days:
    """Return decisions from a file without what no calendar can hold: bad days and times go back to the usual ones."""
    good = {}
    for one in fields(Days):
        value = getattr(days, one.name)
        try:
            check_days(replace(Days(), **{one.name: value}))
            good[one.name] = value
        except (InputError, TypeError, ValueError):
            continue
    made = Days(**good)

    def laid(rows: tuple[Laid, ...]) -> tuple[Laid, ...]:
        return tuple(r for r in rows if (a := moment_of(r.begin)) and (b := moment_of(r.end)) and a < b)

    def noted(rows: tuple[DryNote, ...]) -> tuple[DryNote, ...]:
        return tuple(
            r for r in rows if moment_of(r.laid) and (r.tacky or r.dry)
            and all(not x or (moment_of(x) and r.hours(x) > 0) for x in (r.tacky, r.dry))
            and not (r.tacky and r.dry and r.hours(r.tacky) >= r.hours(r.dry))
        )  # fmt: skip

    busy = [(a, b) for a, b in made.busy if (x := moment_of(a)) and (y := moment_of(b)) and x < y]
    return replace(
        made,
        others=tuple(one for one in made.others if day_of(one.day) is not None),
        busy=tuple(busy[:MOST_BUSY]),
        plan=laid(made.plan),
        holds=laid(made.holds),
        done=laid(made.done),
        begun=laid(made.begun),
        notes=noted(made.notes),
        earlier=noted(made.earlier),
    )


def bright_range(days: Days, day: date) -> tuple[int, int]:
    """Return when daylight begins and ends on a day, minutes since midnight: between the shortest and the longest day as a sine."""
    share = 0.5 - 0.5 * math.cos(2 * math.pi * ((day.timetuple().tm_yday + 10) % 365.25) / 365.25)
    (a0, b0), (a1, b1) = days.bright
    dark, light = (clock_of(a0) or 0, clock_of(b0) or 1440), (clock_of(a1) or 0, clock_of(b1) or 1440)
    return round(dark[0] + (light[0] - dark[0]) * share), round(dark[1] + (light[1] - dark[1]) * share)


def daylit(days: Days, free: Sequence[Interval]) -> list[Interval]:
    """Return what of free time lies in daylight."""
    made = []
    for a, b in free:
        day = datetime.combine(a.date(), time())
        for _ in range((b.date() - a.date()).days + 1):
            first, last = bright_range(days, day.date())
            begin, end = max(a, day + timedelta(minutes=first)), min(b, day + timedelta(minutes=last))
            if end > begin:
                made.append((begin, end))
            day += timedelta(days=1)
    return made


def room_on(days: Days, day: date) -> tuple[float, float]:
    """Return how warm (°C) and how damp (%) the room is on a day: between January and July as a sine where it goes with the year."""
    if not days.seasons:
        return days.celsius, days.humidity
    share = 0.5 - 0.5 * math.cos(2 * math.pi * ((day.timetuple().tm_yday - COLDEST_DAY) / 365.25))
    return (
        days.celsius + (days.july_celsius - days.celsius) * share,
        days.humidity + (days.july_humidity - days.humidity) * share,
    )


def too_cold(days: Days, day: date) -> bool:
    """Tell whether the room is too cold to paint in on a day."""
    return room_on(days, day)[0] < days.coldest


def cold_days(days: Days, today: date) -> tuple[date, date] | None:
    """Return the first and the last day of the next stretch, within a year from today, that is too cold to paint in; None for none."""
    year = [today + timedelta(days=k) for k in range(366)]
    first = next((day for day in year if too_cold(days, day)), None)
    if first is None:
        return None
    after = next((day for day in year if day > first and not too_cold(days, day)), None)
    return first, after - timedelta(days=1) if after is not None else year[-1]


def airy(days: Days, day: date) -> bool:
    """Tell whether doors can stand open on a day."""
    a, b = days.air_from, days.air_to
    if not a or not b:
        return True
    return a <= day.month <= b if a <= b else day.month >= a or day.month <= b
