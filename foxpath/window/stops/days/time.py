"""The page of the painter's time: hairs of the week, days that are otherwise, a calendar, sittings, daylight and doors."""

from collections.abc import Callable, Sequence
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.clock import now
from foxpath.core.days.calendar import Interval
from foxpath.core.days.ical import busy_times
from foxpath.core.days.studio import LIMITS, Days, Range, clock_of, cold_days, day_of
from foxpath.core.days.told import Told
from foxpath.core.errors import AppError, InputError
from foxpath.core.reporting import Progress
from foxpath.core.units import count_words, duration_words
from foxpath.document import archive, calendars, edits, works
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Field, Measure, Scale, YesNo
from foxpath.window.bench.rows import Row, Rows, Section, TallRows, Words
from foxpath.window.stops.days.hair import LONG, Hairs, hours_of, pulled
from foxpath.window.work.session import Session

CALENDARS = "Calendars (*.ics *.ical)"
AHEAD_DAYS = 730
"""Days of a calendar that are read."""
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


def ranges_of(text: str) -> tuple[Range, ...]:
    """Return the ranges of a text such as ``19:00-21:30, 22:00-23:00``; none for nothing. Raises `InputError`."""
    made = []
    for part in text.replace("–", "-").split(","):
        if not part.strip() or part.strip() in ("none", "away"):
            continue
        begin, dash, end = part.strip().partition("-")
        a, b = (one.strip().zfill(5) for one in (begin, end))
        if not dash or clock_of(a) is None or clock_of(b) is None:
            raise InputError(f"“{part.strip()}” is no range of time.", "Write it as 19:00-21:30.")
        made.append((a, b))
    return tuple(made)


def ranges_words(ranges: tuple[Range, ...]) -> str:
    """Write ranges as they are typed; nothing for none."""
    return ", ".join(f"{a}-{b}" for a, b in ranges)


def days_off(text: str) -> tuple[date, date, tuple[Range, ...]]:
    """Return first and last day of a text such as ``2026-05-04``, ``2026-05-04 to 2026-05-10`` or ``2026-05-04 19:00-21:00``, and its ranges.

    Raises
    ------
    InputError
        When it is none.
    """
    wrong = InputError(
        f"“{text.strip()}” is no day.", "Write 2026-05-04, or 2026-05-04 to 2026-05-10, or 2026-05-04 19:00-21:00."
    )
    first, _, rest = text.strip().partition(" ")
    begin = day_of(first)
    if begin is None:
        raise wrong
    rest = rest.strip()
    if rest.startswith("to "):
        end = day_of(rest[3:].strip())
        if end is None or end < begin:
            raise wrong
        return begin, end, ()
    return begin, begin, ranges_of(rest)


def cold_words(days: Days, today: date) -> str:
    """Say when within a year the room is too cold to paint in."""
    stretch = cold_days(days, today)
    if stretch is None:
        return "No day of the coming year is so cold." if days.seasons else "The room is warmer than that all year."
    first, last = stretch
    if (last - first).days >= 365:
        return "The room is colder than that all year: nothing can be planned. Warm it, or paint in the cold."
    return f"Nothing is planned from {first:%-d %b} to {last:%-d %b}: the room is colder then."


class ReadCalendar:
    """Read the busy times of a calendar file."""

    def __init__(self, path: Path) -> None:
        self.path = path

    def __call__(self, progress: Progress) -> list[Interval]:
        """Return them for two years. Raises `AppError`."""
        progress.at(0, "reading the calendar")
        data = archive.bytes_of(self.path, InputError)
        start = now().replace(hour=0, minute=0)
        return busy_times(data, start, start + timedelta(days=AHEAD_DAYS), self.path.name)


class TimePage(QWidget):
    """Free time and what limits it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._day = 0
        self._off = ""
        self.head = Section("Your time", "hours free · pull a hair")
        self.hairs = Hairs()
        self.hairs.pulled.connect(self._pulled)
        self.hairs.chosen.connect(self._choose_day)
        self.exact_words = Words("", 12.5)
        self.exact = Field("free time of the chosen weekday")
        self.exact.blank = True
        self.exact.setPlaceholderText("none; e.g. 19:00-21:30, 22:00-23:00")
        self.exact.taken.connect(self._exact)
        self.off_head = Section("Other days", "")
        self.offs = Rows("days that are not as their weekday")
        self.offs.chosen.connect(self._choose_off)
        self.off = Field("a day away, or with other hours")
        self.off.setPlaceholderText("away: 2026-05-04 to 2026-05-10")
        self.off.taken.connect(self.add_off)
        self.off_acts = Buttons([("usual", "As usual again")], 2)
        self.off_acts.clicked.connect(self._usual)
        self.busy_head = Section("Busy times", "")
        self.busy = Buttons([("open", "From a calendar …"), ("forget", "Forget them")], 2)
        self.busy.clicked.connect(self._busy)
        self.beside_head = Section("Other paintings", "")
        self.others = TallRows("other paintings, planned together with this one or each for itself")
        self.others.chosen.connect(self._choose_other)
        self._other = ""
        self._together: tuple[str, ...] = ()
        self.other_acts = Buttons([("with", "Plan together"), ("alone", "For itself"), ("forget", "Forget it")], 2)
        self.other_acts.clicked.connect(self._other_act)
        self.beside_words = Words("", 12.5)
        self.beside = YesNo("keep their evenings free", "plan over their evenings")
        self.beside.toggled.connect(lambda on: self._set("other paintings", beside=on))
        self.sitting_head = Section("A sitting", "minutes")
        self.measures = {
            "setup": self._measure("Set-up", "setup", 5), "cleanup": self._measure("Clean-up", "cleanup", 5),
            "longest": self._measure("Longest", "longest", 15), "pause": self._measure("Break", "pause", 5),
        }  # fmt: skip
        self.light_head = Section("Light, air and cold", "")
        self.daylight = YesNo("by daylight only", "by lamp too")
        self.daylight.toggled.connect(lambda on: self._set("daylight", daylight=on))
        self.bright_words = Words("Daylight at your window, in December and in June:", 12.5)
        self.winter, self.summer = Field("daylight in December"), Field("daylight in June")
        self.winter.taken.connect(lambda text: self._bright(0, text))
        self.summer.taken.connect(lambda text: self._bright(1, text))
        self.doors = Choice(
            [("0-0", "any month"), ("4-10", "Apr to Oct"), ("5-9", "May to Sep")], "months with open doors"
        )
        self.doors.chosen.connect(self._doors)
        self.doors_words = Words("", 12.5)
        self.air_for = YesNo("thinned paint waits too", "for varnish only")
        self.air_for.toggled.connect(lambda on: self._set("open doors", air_for="thinner" if on else "varnish"))
        least, most = LIMITS["coldest"]
        self.coldest = Measure("Too cold", Scale(least, most, lambda v: f"under {v:.0f} °C" if v else "never", step=1))
        self.coldest.changed.connect(self._cold)
        self.cold_words = Words("", 12.5)
        self.keep_head = Section("Every painting", "")
        self.keep = Buttons([("keep", "Keep for all"), ("own", "Take mine")], 2)
        self.keep.clicked.connect(self._keep)
        stack(
            self, self.head, self.hairs, self.exact_words, self.exact, self.off_head, self.offs, self.off, self.off_acts,
            self.busy_head, self.busy, self.beside_head, self.others, self.other_acts, self.beside_words, self.beside, self.sitting_head,
            *self.measures.values(), self.light_head, self.daylight, self.bright_words, self.winter, self.summer,
            self.doors_words, self.doors, self.air_for, self.coldest, self.cold_words, self.keep_head, self.keep,
        )  # fmt: skip

    def _measure(self, name: str, field: str, step: int) -> Measure:
        least, most = LIMITS[field]
        made = Measure(name, Scale(least, most, lambda v: f"{v:.0f} min", step=step))
        made.changed.connect(self._slide(field))
        return made

    def _slide(self, field: str) -> Callable[[float, bool], None]:
        def slid(value: float, going: bool) -> None:  # noqa: FBT001  (a signal's)
            self.session.edit(
                lambda p: edits.set_days(p, **{field: round(value)}), f"{field} of a sitting", f"days {field}"
            )
            if not going:
                self.session.seal()

        return slid

    def show_project(self, project: Project, taken: dict[str, list[Interval]], others: Sequence[Told] = ()) -> None:
        """Show a painting's free time, and what other paintings take."""
        days = project.days
        hours = [hours_of(ranges) for ranges in days.week]
        self.head.set_words("Your time", f"{sum(hours):g} h a week · pull a hair")
        self.hairs.set_week(hours, self._day)
        self.exact_words.set_words(f"{LONG[self._day]}, from when to when:")
        self.exact.show_words(ranges_words(days.week[self._day]))
        coming = [one for one in days.others if (day := day_of(one.day)) is not None and day >= now().date()]
        rows = []
        for one in coming[:12]:
            day = day_of(one.day)
            rows.append(
                Row(
                    one.day,
                    f"{day:%a %-d %b %Y}" if day is not None else one.day,
                    "",
                    ranges_words(one.ranges) or "away",
                )
            )
        keys = {row.key for row in rows}
        self._off = self._off if self._off in keys else ""
        self.offs.set_rows(rows, self._off)
        self.offs.setVisible(bool(rows))
        self.off_acts.setVisible(bool(self._off))
        more = len(coming) - len(rows)
        self.off_head.set_words("Other days", f"and {more} more" if more > 0 else "" if rows else "none")
        self.busy_head.set_words("Busy times", count_words(len(days.busy), "time") if days.busy else "none")
        self.busy.show_only({"open", "forget"} if days.busy else {"open"})
        together = self._together = project.days.together
        known = [one for one in others if one.left_min or one.painting in together]
        rows = [
            Row(
                one.painting, one.painting, "planned together" if one.painting in together else "for itself",
                duration_words(one.left_min),
            )
            for one in known
        ]  # fmt: skip
        self._other = self._other if any(row.key == self._other for row in rows) else ""
        self.others.set_rows(rows, self._other)
        self.others.setVisible(bool(rows))
        self._choose_other(self._other)
        many = sum(len(mine) for mine in taken.values())
        names = ", ".join(taken)
        said = "left to paint" if rows else count_words(many, "sitting") if many else "none planned"
        self.beside_head.set_words("Other paintings", said)
        self.beside_words.set_words(f"{names}: the paint of one dries while another is painted." if many else "")
        self.beside_words.setVisible(bool(many))
        self.beside.setVisible(bool(many))
        self.beside.set_value(on=days.beside)
        for name, measure in self.measures.items():
            measure.set_value(getattr(days, name), decided=True)
        self.daylight.set_value(on=days.daylight)
        for field, bright in zip((self.winter, self.summer), days.bright, strict=True):
            field.show_words(ranges_words((bright,)))
            field.setVisible(days.daylight)
        self.bright_words.setVisible(days.daylight)
        key = f"{days.air_from}-{days.air_to}"
        self.doors.set_value(key)
        when = (
            f"{MONTHS[days.air_from - 1]} to {MONTHS[days.air_to - 1]}"
            if days.air_from and days.air_to
            else "any month"
        )
        self.doors_words.set_words(f"Doors can stand open: {when}.")
        self.air_for.setVisible(bool(days.air_from))
        self.air_for.set_value(on=days.air_for == "thinner")
        self.coldest.set_value(days.coldest, 0.0, decided=days.coldest > 0)
        self.cold_words.set_words(cold_words(days, now().date()))
        self.cold_words.setVisible(days.coldest > 0)

    # What is done ---------------------------------------------------------------------------------

    def _set(self, words: str, **values: Any) -> None:
        self.session.edit(lambda p: edits.set_days(p, **values), words)

    def _choose_other(self, painting: str) -> None:
        self._other = painting
        self.other_acts.setVisible(bool(painting))
        self.other_acts.show_only({"alone" if painting in self._together else "with", "forget"})

    def _other_act(self, act: str) -> None:
        if act != "forget":
            self.plan_with(self._other)
            return
        try:
            works.forget_work(self._other)
            calendars.keep_sittings(self._other, ())
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        self.session.said.emit(f"Forgot the sittings of {self._other}. Its own file is as it was.", "note")
        if self._other in self._together:
            self.plan_with(self._other)
        self.session.read_anew()

    def plan_with(self, painting: str) -> None:
        """Plan another painting together with this one, or each for itself again."""

        def turned(p: Project) -> Project:
            names = p.days.together
            names = tuple(one for one in names if one != painting) if painting in names else (*names, painting)
            return edits.set_days(p, together=names)

        self.session.edit(turned, f"plan with {painting}")

    def _cold(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's)
        self.session.edit(
            lambda p: edits.set_days(p, coldest=float(round(value))), "the coldest room to paint in", "days coldest"
        )
        if not going:
            self.session.seal()

    def _choose_day(self, day: int) -> None:
        self._day = day
        project = self.session.project
        if project is not None:
            self.exact_words.set_words(f"{LONG[day]}, from when to when:")
            self.exact.setText(ranges_words(project.days.week[day]))
            self.exact.show_words(ranges_words(project.days.week[day]))

    def _pulled(self, day: int, hours: float, going: bool) -> None:  # noqa: FBT001  (a signal's)
        self.session.edit(
            lambda p: edits.set_weekday(p, day, pulled(p.days.week[day], hours, day)),
            f"free hours on {LONG[day]}",
            f"hair {day}",
        )
        if not going:
            self.session.seal()

    def _exact(self, text: str) -> None:
        try:
            ranges = ranges_of(text)
        except InputError as failure:
            self.session.said.emit(str(failure), "must")
            return
        self.session.edit(lambda p: edits.set_weekday(p, self._day, ranges), f"free time on {LONG[self._day]}")

    def add_off(self, text: str) -> None:
        """Say that a day, or a stretch of days, is not as usual."""
        try:
            first, last, ranges = days_off(text)
        except InputError as failure:
            self.session.said.emit(str(failure), "must")
            return
        if ranges or first == last:
            self.session.edit(lambda p: edits.set_day(p, first, ranges), f"{first:%-d %b}")
        else:
            self.session.edit(lambda p: edits.set_away(p, first, last), f"away {first:%-d %b} to {last:%-d %b}")
        self.off.show_words("")
        self.off.setText("")

    def _choose_off(self, key: str) -> None:
        self._off = key
        self.off_acts.setVisible(bool(key))

    def _usual(self, _: str) -> None:
        day = day_of(self._off)
        if day is not None:
            self.session.edit(lambda p: edits.set_day(p, day, None), f"{day:%-d %b} as usual")

    def _busy(self, key: str) -> None:
        if key == "forget":
            self.session.edit(lambda p: edits.take_busy(p, ()), "forget busy times")
            return
        name, _ = QFileDialog.getOpenFileName(None, "Busy times", "", CALENDARS)
        if name:
            self.read_calendar(Path(name))

    def read_calendar(self, path: Path) -> None:
        """Take the busy times of a calendar; only its times are kept."""

        def take(busy: list[Interval]) -> None:
            self.session.edit(lambda p: edits.take_busy(p, busy), f"busy times of {path.name}")

        self.session.runner.start(
            "calendar", ReadCalendar(path), take, failed=lambda words: self.session.said.emit(words, "must")
        )  # fmt: skip

    def _bright(self, which: int, text: str) -> None:
        try:
            (one,) = ranges_of(text)
        except (InputError, ValueError):
            self.session.said.emit("Daylight is one range of time. Write it as 08:30-16:00.", "must")
            return

        def lit(p: Project) -> Project:
            bright = list(p.days.bright)
            bright[which] = one
            return edits.set_days(p, bright=tuple(bright))

        self.session.edit(lit, "daylight")

    def _doors(self, key: str) -> None:
        a, _, b = key.partition("-")
        self._set("open doors", air_from=int(a), air_to=int(b))

    def _keep(self, key: str) -> None:
        project = self.session.project
        if project is None:
            return
        try:
            if key == "keep":
                calendars.keep_habits(project.days)
                self.session.said.emit("Kept: every new painting begins with this time and room.", "note")
                return
            habits = calendars.own_habits()
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        names = (
            "week",
            "setup",
            "cleanup",
            "longest",
            "pause",
            "daylight",
            "bright",
            "air_from",
            "air_to",
            "air_for",
            "coldest",
        )
        self._set("my free time", **{name: getattr(habits, name) for name in names})
