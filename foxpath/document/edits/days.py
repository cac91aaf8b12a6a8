"""The Days stop: free time, the room, the end, the plan that was taken, what is done, and what a finger said."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime
from typing import Any

from foxpath.core.days.calendar import Interval
from foxpath.core.days.studio import (
    MOST_BUSY,
    MOST_NOTES,
    Days,
    DryNote,
    Laid,
    OtherDay,
    Range,
    check_days,
    check_ranges,
    iso,
    moment_of,
)
from foxpath.core.errors import InputError
from foxpath.document.model import Project

STATES = ("tacky", "dry")


def set_days(project: Project, **values: Any) -> Project:
    """Decide numbers and wishes (fields of `Days` but rows). Raises `InputError` for what cannot be."""
    made = replace(project.days, **values)
    check_days(made)
    return replace(project, days=made)


def set_weekday(project: Project, weekday: int, ranges: Sequence[Range]) -> Project:
    """Decide the free time of a weekday (Monday is 0). Raises `InputError` for ranges that are none."""
    week = list(project.days.week)
    week[weekday] = tuple(ranges)
    return set_days(project, week=tuple(week))


def set_day(project: Project, day: date, ranges: Sequence[Range] | None) -> Project:
    """Say that a day is not as its weekday is; no range is away, None makes it as usual again. Raises `InputError`."""
    check_ranges(tuple(ranges or ()))
    others = [one for one in project.days.others if one.day != day.isoformat()]
    if ranges is not None:
        others.append(OtherDay(day.isoformat(), tuple(ranges)))
    return set_days(project, others=tuple(sorted(others, key=lambda one: one.day)))


def set_away(project: Project, first: date, last: date) -> Project:
    """Say that nothing is free from one day to another, both included. Raises `InputError` when that is longer than a year."""
    count = (last - first).days + 1
    if not 1 <= count <= 366:
        raise InputError("Away from when until when?", "Give the first day before the last, at most a year apart.")
    days = {date.fromordinal(first.toordinal() + k).isoformat() for k in range(count)}
    others = [one for one in project.days.others if one.day not in days]
    return set_days(
        project, others=tuple(sorted([*others, *(OtherDay(day) for day in days)], key=lambda one: one.day))
    )  # fmt: skip


def take_busy(project: Project, busy: Sequence[Interval]) -> Project:
    """Take the busy times of a calendar in place of those taken before. Raises `InputError` for too many."""
    joined: list[Interval] = []
    for a, b in sorted(busy):
        if joined and a <= joined[-1][1]:
            joined[-1] = (joined[-1][0], max(b, joined[-1][1]))
        else:
            joined.append((a, b))
    if len(joined) > MOST_BUSY:
        raise InputError(f"The calendar holds {len(joined)} busy times.", "Export a shorter time.")
    return replace(project, days=replace(project.days, busy=tuple((iso(a), iso(b)) for a, b in joined)))


def take_plan(project: Project, rows: Sequence[Laid]) -> Project:
    """Take a plan of sittings: it is what is shown until something stands against it. Raises `InputError` for an empty one."""
    if not rows:
        raise InputError("There is no plan to take.", "Give free time first.")
    return replace(project, days=replace(project.days, plan=tuple(rows)))


def forget_plan(project: Project) -> Project:
    """Forget the plan that was taken, and what was put into sittings: the next one is made anew."""
    return replace(project, days=replace(project.days, plan=(), holds=()))


def hold_tasks(project: Project, tasks: Sequence[str], begin: datetime, end: datetime) -> Project:
    """Put tasks into a stretch of time, or leave them in it. Raises `InputError` for a stretch that ends before it begins."""
    if end <= begin:
        raise InputError("A sitting ends after it begins.", "Choose another one.")
    others = tuple(one for one in project.days.holds if one.task not in tasks)
    made = tuple(Laid(task, iso(begin), iso(end)) for task in tasks)
    return replace(project, days=replace(project.days, holds=(*others, *made)))


def let_go(project: Project, tasks: Sequence[str]) -> Project:
    """Let tasks lie where the plan wants them."""
    return replace(
        project, days=replace(project.days, holds=tuple(o for o in project.days.holds if o.task not in tasks))
    )  # fmt: skip


def mark_done(project: Project, rows: Sequence[Laid]) -> Project:
    """Note that tasks are done, with when each was painted. Raises `InputError` for times that are none."""
    for one in rows:
        a, b = moment_of(one.begin), moment_of(one.end)
        if a is None or b is None or b <= a:
            raise InputError(f"“{one.begin}” to “{one.end}” is no time.", "Write it as 2026-03-02T19:15.")
    names = {one.task for one in rows}
    others = tuple(one for one in project.days.done if one.task not in names)
    return replace(project, days=replace(project.days, done=(*others, *rows)))


def mark_begun(project: Project, rows: Sequence[Laid]) -> Project:
    """Note pieces of tasks that were painted and are not finished: what is left of them stays to be painted."""
    known = set(project.days.begun)
    return replace(
        project, days=replace(project.days, begun=(*project.days.begun, *(r for r in rows if r not in known)))
    )


def mark_missed(project: Project, rows: Sequence[Laid]) -> Project:
    """Note that pieces of the plan were not painted: they are planned anew."""
    gone = set(rows)
    return replace(project, days=replace(project.days, plan=tuple(one for one in project.days.plan if one not in gone)))


def mark_undone(project: Project, tasks: Sequence[str]) -> Project:
    """Take back that tasks are done, and what was noted of their paint."""
    days = project.days
    return replace(
        project,
        days=replace(
            days,
            done=tuple(one for one in days.done if one.task not in tasks),
            begun=tuple(one for one in days.begun if one.task not in tasks),
            notes=tuple(one for one in days.notes if one.task not in tasks),
        ),
    )


def note_drying(project: Project, note: DryNote, state: str, when: datetime) -> Project:
    """Note what a finger said of a layer: still tacky, or dry.

    Parameters
    ----------
    project : Project
    note : DryNote
        Of which layer; its own looks are passed over.
    state : str
        "tacky" or "dry".
    when : datetime

    Raises
    ------
    InputError
        When it lies before the layer was laid, or says that paint was tacky after it was dry.
    """
    if state not in STATES:
        raise InputError(f"“{state}” is no state of paint.", f"States are {', '.join(STATES)}.")
    days = project.days
    old = next((one for one in days.notes if one.task == note.task), replace(note, tacky="", dry=""))
    if old.hours(iso(when)) <= 0:
        raise InputError("That is before it was laid.", "Give a later time.")
    if state == "tacky":
        if old.dry and old.hours(iso(when)) >= old.hours(old.dry):
            raise InputError("It was noted as dry before that.", "Take that note back first.")
        later = not old.tacky or old.hours(iso(when)) > old.hours(old.tacky)
        made = replace(old, tacky=iso(when)) if later else old
    else:
        if old.tacky and old.hours(iso(when)) <= old.hours(old.tacky):
            raise InputError("It was noted as still tacky after that.", "Give a later time.")
        earlier = not old.dry or old.hours(iso(when)) < old.hours(old.dry)
        made = replace(old, dry=iso(when)) if earlier else old
    others = tuple(one for one in days.notes if one.task != note.task)
    return replace(project, days=replace(days, notes=(*others, made)[-MOST_NOTES:]))


def forget_drying(project: Project, pile: str | None = None) -> Project:
    """Forget what was noted of a pile's drying; of all without one."""
    days = project.days
    if pile is None:
        return replace(project, days=replace(days, notes=(), earlier=()))
    return replace(
        project,
        days=replace(
            days,
            notes=tuple(one for one in days.notes if one.pile != pile),
            earlier=tuple(one for one in days.earlier if one.pile != pile),
        ),
    )


def as_habits(days: Days) -> Days:
    """Return what of decisions about days holds for every painting: free time, sittings and the room."""
    names = (
        "week", "setup", "cleanup", "longest", "pause", "daylight", "bright", "air_from", "air_to", "air_for", "coldest",
        "celsius", "humidity", "seasons", "july_celsius", "july_humidity", "dark", "careful", "rest_days", "varnish", "drawn_out",
    )  # fmt: skip
    return replace(Days(), **{name: getattr(days, name) for name in names})
