"""`foxpath days`."""

import argparse
import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

from foxpath.cli.parsers import EXIT_DONE, EXIT_FOUND
from foxpath.cli.reading import made_folder, read_bytes, read_json, read_project
from foxpath.core.errors import InputError

if TYPE_CHECKING:
    from datetime import datetime

    from foxpath.core.days.diary import Diary
    from foxpath.core.days.tasks import Relation, Task
    from foxpath.derive import Results
    from foxpath.derive.days.tasks import Wishes
    from foxpath.document.model import Project

HORIZONS = (200, 500, 1200)
"""Days that are looked ahead: more only when the painting does not fit."""
SEARCH_S = 2.0


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument(
        "project", metavar="X.foxpath", nargs="+", help="one painting, or several that are painted side by side"
    )
    parser.add_argument("--start", metavar="DATE", help="the first day, e.g. 2026-03-02; today without")
    parser.add_argument(
        "--free", metavar="F.json", help='free time: {"mon": [["19:00", "21:00"]], ..., "except": {"2026-05-04": []}}'
    )
    parser.add_argument("--busy", metavar="B.ics", help="busy times, as iCalendar")
    parser.add_argument("--deadline", metavar="DATE", help="the day it is to be handed over")
    parser.add_argument("--rest", type=float, default=30.0, metavar="DAYS", help="rest before varnish (30); 0 to 400")
    parser.add_argument("--unvarnished", action="store_true", help="hand it over unvarnished")
    parser.add_argument("--alkyd", type=float, default=0.0, metavar="SHARE", help="alkyd in the paint, 0 to 0.5")
    parser.add_argument("--celsius", type=float, default=20.0, metavar="C", help="of the studio, 0 to 40")
    parser.add_argument("--prepared", action="store_true", help="the support is prepared already")
    parser.add_argument("--paper", choices=("A4", "Letter"), default="A4")
    parser.add_argument("--out", metavar="DIR", help="write days.json, days.ics and days.pdf there")


def run(args: argparse.Namespace) -> int:
    """Plan the sittings of a painting."""
    from datetime import datetime

    from foxpath.core.days.diary import diary_events, diary_fields, tonight
    from foxpath.core.days.ical import calendar_of
    from foxpath.derive import Results
    from foxpath.derive.days.tasks import Wishes
    from foxpath.sheets.pictures import write_file

    wishes = Wishes(
        None if args.unvarnished else _within(args.rest, 0, 400, "--rest"),
        _within(args.alkyd, 0, 0.5, "--alkyd"),
        _within(args.celsius, 0, 40, "--celsius"),
        prepared=args.prepared,
    )
    start = (
        _day(args.start, "--start")
        if args.start
        else datetime.now().astimezone().replace(tzinfo=None, hour=0, minute=0, second=0, microsecond=0)
    )
    deadline = _day(args.deadline, "--deadline") if args.deadline else None
    if deadline is not None and deadline < start:
        raise InputError(
            f"The deadline {args.deadline} lies before the first day.", "Give a later one, or an earlier --start."
        )
    projects, results = [read_project(one) for one in args.project], Results()
    time = _time(args, start)
    diary, hand = planned(results, projects, wishes, start, time, deadline)
    fields = diary_fields(diary) | {"typical_values": True, "forecast": _forecast(diary, hand)}
    if args.out:
        folder = made_folder(args.out)
        write_file(folder / "days.json", (json.dumps(fields, indent=1, ensure_ascii=False) + "\n").encode())
        write_file(folder / "days.ics", calendar_of(diary_events(diary), start))
        _print(results, projects[0], diary, fields["forecast"], folder / "days.pdf", args.paper)
    print(f"Next: {tonight(diary)}")
    for name in dict.fromkeys(task.painting for task in diary.problem.tasks):
        done, painted = diary.done(name), diary.painted(name)
        assert done is not None
        assert painted is not None
        seen = fields["forecast"]
        print(
            f"{name}: {len(diary.sittings())} sittings, last stroke {painted:%Y-%m-%d}, handed over {done:%Y-%m-%d}; "
            f"last strokes by {seen['half']} in half of all cases, by {seen['most']} in nine of ten; "
            f"{len(diary.plan.lost)} wet windows lost"
        )
    if deadline is None:
        return EXIT_DONE
    conflict = _conflict(results, projects, wishes, start, time, deadline, diary)
    if conflict:
        print(f"foxpath: {conflict}", file=sys.stderr)
        return EXIT_FOUND
    return EXIT_DONE


def _print(
    results: "Results", project: "Project", diary: "Diary", forecast: dict[str, Any], path: Path, paper: str
) -> None:
    """Write the sheet of the sittings."""
    from foxpath.core.cautions import SOLVENT, SPRAY
    from foxpath.core.days.diary import tonight
    from foxpath.derive.pictures import cropped_picture
    from foxpath.sheets import Book, DaySheet, SittingRow, day_pages, write_book

    tasks = diary.problem.tasks
    several = len({task.painting for task in tasks}) > 1
    rows = []
    for a, b, pieces in diary.sittings():
        begin, end = diary.at(a - diary.rule.setup), diary.at(b + diary.rule.cleanup)
        said = tuple(
            (
                f"{diary.at(x):%H:%M}",
                f"{tasks[k].painting + ': ' if several else ''}{tasks[k].act}: {tasks[k].part}",
                f"{y - x} min",
            )
            for x, y, k in pieces
        )
        rows.append(SittingRow(f"{begin:%a %d %b %Y}", f"{begin:%H:%M} to {end:%H:%M}", said))
    head = f"Next: {tonight(diary)} Last strokes by {forecast['half']} in half of all cases, by {forecast['most']} in nine of ten."
    small = cropped_picture(results, project, 400, max(1, round(400 / project.canvas.aspect)))
    pages = tuple(day_pages(DaySheet(head, tuple(rows), f"{SOLVENT} {SPRAY}")))
    write_book(Book(project.name, project.canvas, project.transfer.grid, small, pages), path, paper)


def _within(value: float, least: float, most: float, name: str) -> float:
    if not least <= value <= most:
        raise InputError(f"{name} {value:g} is out of range.", f"Give {least:g} to {most:g}.")
    return value


def _day(text: str, name: str) -> "datetime":
    from datetime import datetime

    try:
        return datetime.strptime(text, "%Y-%m-%d")  # noqa: DTZ007  (local, as every time of the plan)
    except ValueError:
        raise InputError(f"{name} {text} is no date.", "Write it as 2026-03-02.") from None


def _time(args: argparse.Namespace, start: "datetime") -> Any:
    """Return a function from days ahead to free time."""
    from datetime import timedelta

    from foxpath.core.days.calendar import Week, free_time, read_week
    from foxpath.core.days.ical import busy_times

    week = read_week(read_json(args.free), Path(args.free).name) if args.free else Week()
    data = read_bytes(args.busy) if args.busy else b""

    def free(days: int) -> Any:
        end = start + timedelta(days=days)
        busy = busy_times(data, start, end, Path(args.busy).name) if args.busy else []
        return free_time(week, start, days, busy)

    return free


def planned(
    results: "Results", projects: "list[Project]", wishes: "Wishes", start: "datetime", free: Any, deadline: "datetime | None",
    seconds: float | None = None,
) -> "tuple[Diary, Any]":  # fmt: skip
    """Return the best plan found. Raises `InputError` when the free time of years does not hold it."""
    from datetime import timedelta

    from foxpath.core.days.calendar import Rule, sittings
    from foxpath.core.days.diary import Diary
    from foxpath.core.days.problem import Problem
    from foxpath.core.days.search import at_once, better
    from foxpath.derive.days.tasks import tasks_of

    tasks: list[Task] = []
    relations: list[Relation] = []
    names: list[str] = []
    for project in projects:
        name = project.name if project.name not in names else f"{project.name} {names.count(project.name) + 1}"
        names.append(name)
        own, between = tasks_of(results, project, wishes, name)
        tasks += own
        relations += between
    for days in HORIZONS:
        time, rule = free(days), Rule()
        problem = Problem(tasks, relations, sittings(time, start, rule), rule.chunk)
        first = at_once(problem)
        if first[0].complete:
            plan, hand = better(problem, first, SEARCH_S if seconds is None else seconds)
            end = {name: deadline + timedelta(days=1) for name in names} if deadline is not None else {}
            return Diary(problem, plan, start, time, rule, end), hand
    raise InputError(
        "The free time of three years does not hold this painting.",
        "Give more of it: a sitting needs 50 minutes at least.",
    )


def _forecast(diary: "Diary", hand: Any) -> dict[str, Any]:
    import math

    from foxpath.core.days.forecast import forecast

    paintings = len({task.painting for task in diary.problem.tasks})
    made = forecast(diary.problem, hand, {}, samples=120)

    def day(minutes: float) -> str:
        # The sum over paintings stands for the mean of them.
        return f"{diary.at(minutes / paintings):%Y-%m-%d}" if math.isfinite(minutes) else "unknown"

    return {"half": day(made.half), "most": day(made.most), "at_risk": list(made.risky)}


def _conflict(
    results: "Results", projects: "list[Project]", wishes: "Wishes", start: "datetime", free: Any, deadline: "datetime", diary: "Diary"
) -> str:  # fmt: skip
    """Say in one sentence why a deadline cannot be kept, and the cheapest way out; empty when it can."""
    from dataclasses import replace

    late = [name for name, end in diary.deadlines.items() if (done := diary.done(name)) is None or done >= end]
    if not late:
        return ""
    ways = (
        (
            "varnish after a shorter rest of 7 days",
            replace(wishes, rest_days=7.0) if wishes.rest_days is not None else wishes,
        ),
        ("hand it over unvarnished, and varnish on a visit", replace(wishes, rest_days=None)),
        ("a fifth of alkyd in the paint", replace(wishes, alkyd=max(wishes.alkyd, 0.2))),
        ("thinner paint, and unvarnished", replace(wishes, rest_days=None, film=0.6)),
        ("alkyd and unvarnished", replace(wishes, rest_days=None, alkyd=max(wishes.alkyd, 0.25))),
    )
    done = max((one for name in late if (one := diary.done(name)) is not None), default=None)
    when = f"{done:%Y-%m-%d}" if done is not None else "no day in sight"
    rest = f", {wishes.rest_days:g} days of rest before varnish" if wishes.rest_days else ""
    said = f"{' and '.join(late)} cannot be handed over by {deadline:%Y-%m-%d}: drying{rest} and the free time take until {when}"
    for words, other in ways:
        if other == wishes:
            continue
        tried, _ = planned(results, projects, other, start, free, deadline, min(SEARCH_S, 0.5))
        if all((end := tried.done(name)) is not None and end < tried.deadlines[name] for name in late):
            return f"{said}; the cheapest way out: {words}."
    return f"{said}; no way out that was tried keeps it: more free time, a later date, or fewer passes are needed."
