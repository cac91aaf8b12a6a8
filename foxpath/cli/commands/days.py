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
    from datetime import date, datetime

    from foxpath.core.days.forecast import Forecast
    from foxpath.core.days.studio import Days
    from foxpath.derive import Results
    from foxpath.derive.days.plan import Planned
    from foxpath.document.model import Project

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
    parser.add_argument("--rest", type=float, metavar="DAYS", help="rest before varnish (30); 0 to 400")
    parser.add_argument("--unvarnished", action="store_true", help="hand it over unvarnished")
    parser.add_argument("--alkyd", type=float, metavar="SHARE", help="alkyd in the paint, 0 to 0.5")
    parser.add_argument("--celsius", type=float, metavar="C", help="of the studio, 0 to 40")
    parser.add_argument("--humidity", type=float, metavar="PERCENT", help="of the studio, 5 to 95")
    parser.add_argument(
        "--july",
        metavar="C[,PERCENT]",
        help="the room goes with the year: this in July, --celsius and --humidity in January",
    )
    parser.add_argument(
        "--coldest", type=float, metavar="C", help="paint on no day on which the room is colder; 0 to 25"
    )
    parser.add_argument("--careful", choices=("likely", "usual", "sure"), help="how late paint is taken to dry")
    parser.add_argument("--prepared", action="store_true", help="the support is prepared already")
    parser.add_argument("--anew", action="store_true", help="do not go by the plan that was taken in the window")
    parser.add_argument("--paper", choices=("A4", "Letter"), default="A4")
    parser.add_argument("--out", metavar="DIR", help="write days.json, days.ics and days.pdf there")


def run(args: argparse.Namespace) -> int:
    """Plan the sittings of a painting, or of several side by side."""
    from dataclasses import replace

    from foxpath.core.clock import now
    from foxpath.core.days.diary import diary_events, diary_fields
    from foxpath.core.days.ical import calendar_of
    from foxpath.core.days.studio import cold_days
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.days.plan import Better, plan_of
    from foxpath.derive.days.reading import AskForecast
    from foxpath.derive.days.sitting import one_line
    from foxpath.sheets.pictures import write_file

    begin = _day(args.start, "--start") if args.start else None
    moment = begin or now()
    deadline = _day(args.deadline, "--deadline") if args.deadline else None
    if deadline is not None and deadline.date() < moment.date():
        raise InputError(
            f"The deadline {args.deadline} lies before the first day.", "Give a later one, or an earlier --start."
        )
    projects, results = [read_project(one) for one in args.project], Results()
    week = _week(args)
    projects = [replace(one, days=_days(args, one.days, week, moment, begin, deadline)) for one in projects]
    names = _names(projects)
    first = plan_of(results, projects, moment, names=names)
    if not first.plan.complete:
        days = projects[0].days
        cold = cold_days(days, moment.date())
        if cold is not None and (cold[1] - cold[0]).days >= 365:
            raise InputError(
                f"The room is colder than {days.coldest:g} °C all year.", "Warm it, or give a lower --coldest."
            )
        raise InputError(
            "The free time of three years does not hold this painting.",
            "Give more of it: a sitting needs 50 minutes at least.",
        )
    planned = Better(first, SEARCH_S)(SILENT)
    diary = planned.diary
    forecast = AskForecast(planned, projects[0].pace)(SILENT)
    fields = diary_fields(diary) | {"typical_values": True, "forecast": _forecast(planned, forecast)}
    if args.out:
        folder = made_folder(args.out)
        write_file(folder / "days.json", (json.dumps(fields, indent=1, ensure_ascii=False) + "\n").encode())
        write_file(folder / "days.ics", calendar_of(diary_events(diary), diary.start))
        _print(results, projects[0], planned, forecast, moment, folder / "days.pdf", args.paper)
    print(f"Next: {one_line(planned, projects[0], moment)}")
    for name in names:
        done, painted = diary.done(name), diary.painted(name)
        assert done is not None
        assert painted is not None
        seen = fields["forecast"][name]
        print(
            f"{name}: {len(diary.sittings())} sittings, last stroke {painted:%Y-%m-%d}, handed over {done:%Y-%m-%d}; "
            f"last strokes by {seen['half']} in half of all cases, by {seen['most']} in nine of ten; "
            f"{len(planned.plan.lost)} wet windows lost"
        )
    late = [name for name, end in diary.deadlines.items() if (done := diary.done(name)) is None or done >= end]
    if not late:
        return EXIT_DONE
    print(f"foxpath: {_conflict(results, projects, names, planned, moment, late[0])}", file=sys.stderr)
    return EXIT_FOUND


def _days(
    args: argparse.Namespace, days: "Days", week: "Any", moment: "datetime", begin: "datetime | None", deadline: "datetime | None"
) -> "Days":  # fmt: skip
    """Return a painting's own decisions with what was said on the command line in their place."""
    from dataclasses import replace
    from datetime import timedelta

    from foxpath.core.days.studio import LIMITS, iso
    from foxpath.derive.days.plan import HORIZONS

    said: dict[str, Any] = {"start": begin.date().isoformat()} if begin is not None else {}
    if week is not None:
        said |= week
    if args.busy:
        from foxpath.core.days.ical import busy_times

        end = moment + timedelta(days=HORIZONS[-1])
        busy = busy_times(read_bytes(args.busy), moment, end, Path(args.busy).name)
        said["busy"] = tuple((iso(a), iso(b)) for a, b in busy)
    if deadline is not None:
        said["deadline"] = deadline.date().isoformat()
    if args.july:
        said |= {"seasons": True} | _july(args.july)
    for name, field in (
        ("rest", "rest_days"), ("alkyd", "alkyd"), ("celsius", "celsius"), ("humidity", "humidity"), ("coldest", "coldest"),
    ):  # fmt: skip
        value = getattr(args, name)
        if value is not None:
            said[field] = _within(value, *LIMITS[field], f"--{name}")
    if args.unvarnished:
        said["varnish"] = False
    if args.prepared:
        said["prepared"] = True
    if args.careful:
        said["careful"] = args.careful
    if args.anew:
        said |= {"plan": (), "holds": ()}
    return replace(days, **said)


def _july(text: str) -> dict[str, float]:
    """Return the room in July from a text such as ``26`` or ``26,60``."""
    from foxpath.core.days.studio import LIMITS

    said = {}
    fields = ("july_celsius", "july_humidity")
    parts = text.split(",")
    if len(parts) > len(fields):
        raise InputError(f"--july {text} is no room.", "Write it as 26, or 26,60 with its damp.")
    for field, part in zip(fields, parts, strict=False):
        try:
            value = float(part)
        except ValueError:
            raise InputError(f"--july {text} is no room.", "Write it as 26, or 26,60 with its damp.") from None
        said[field] = _within(value, *LIMITS[field], "--july")
    return said


def _week(args: argparse.Namespace) -> "dict[str, Any] | None":
    """Return the free time of a file as fields of `Days`; None without one."""
    if not args.free:
        return None
    from foxpath.core.days.calendar import DAYS, read_week
    from foxpath.core.days.studio import OtherDay

    week = read_week(read_json(args.free), Path(args.free).name)
    others = tuple(OtherDay(day.isoformat(), ranges) for day, ranges in sorted(week.exceptions.items()))
    return {"week": tuple(tuple(week.days.get(day, ())) for day in DAYS), "others": others}


def _names(projects: "list[Project]") -> list[str]:
    """Return names that tell the paintings apart."""
    names: list[str] = []
    for one in projects:
        name, k = one.name, 1
        while name in names:
            k += 1
            name = f"{one.name} {k}"
        names.append(name)
    return names


def _print(
    results: "Results", project: "Project", planned: "Planned", forecast: "Forecast", moment: "datetime", path: Path, paper: str
) -> None:  # fmt: skip
    """Write the sheets: the next sitting, and all of them."""
    from foxpath.derive.handout.days import pages_of
    from foxpath.derive.pictures import cropped_picture
    from foxpath.sheets import Book, write_book

    small = cropped_picture(results, project, 400, max(1, round(400 / project.canvas.aspect)))
    pages = tuple(pages_of(results, project, planned, moment, forecast))
    write_book(Book(project.name, project.canvas, project.transfer.grid, small, pages), path, paper)


def _within(value: float, least: float, most: float, name: str) -> float:
    if not least <= value <= most:
        raise InputError(f"{name} {value:g} is out of range.", f"Give {least:g} to {most:g}.")
    return value


def _day(text: str, name: str) -> "datetime":
    from datetime import datetime, time

    from foxpath.core.days.studio import FIRST_YEAR, LAST_YEAR, day_of

    day: date | None = day_of(text)
    if day is None or len(text) != 10:
        raise InputError(
            f"{name} {text} is no date.", f"Write it as 2026-03-02, from the year {FIRST_YEAR} to {LAST_YEAR}."
        )
    return datetime.combine(day, time())


def _forecast(planned: "Planned", made: "Forecast") -> dict[str, Any]:
    """Return what is said of each painting, and what is at risk first."""
    import math

    diary = planned.diary

    def day(minutes: float) -> str:
        return f"{diary.at(minutes):%Y-%m-%d}" if math.isfinite(minutes) else "unknown"

    said: dict[str, Any] = {
        name: {
            "half": day(one.half),
            "most": day(one.most),
            "handed_half": day(made.handed[name].half),
            "handed_most": day(made.handed[name].most),
            **({"kept_share": round(made.kept[name], 2)} if name in made.kept else {}),
        }
        for name, one in made.painted.items()
    }
    return said | {"at_risk": list(made.risky)}


def _conflict(
    results: "Results", projects: "list[Project]", names: list[str], planned: "Planned", moment: "datetime", late: str
) -> str:
    """Say in one sentence why a date cannot be kept, and the cheapest way out."""
    from dataclasses import replace
    from datetime import timedelta

    from foxpath.core.reporting import SILENT
    from foxpath.derive.days.ways import FindWays, conflict_words

    project = replace(projects[names.index(late)], name=late)
    diary = planned.diary
    tasks = planned.layout.problem.tasks
    rule = diary.rule
    # What the other paintings take is taken.
    others = [
        (diary.at(a) - timedelta(minutes=rule.setup), diary.at(b) + timedelta(minutes=rule.cleanup))
        for k, pieces in enumerate(planned.plan.pieces)
        if tasks[k].painting != late
        for a, b in pieces
    ]
    return conflict_words(project, FindWays(results, project, planned, moment, others)(SILENT))
