"""What is printed and written down of the days."""

from datetime import datetime
from typing import Any

from foxpath.core.cautions import SOLVENT, SPRAY
from foxpath.core.clock import now
from foxpath.core.days.diary import diary_fields
from foxpath.core.days.forecast import Forecast
from foxpath.core.reporting import Progress
from foxpath.core.units import count_words
from foxpath.derive.days.plan import Planned, plan_of
from foxpath.derive.days.sitting import Area, Sitting, one_line, sittings_of
from foxpath.derive.results import Results
from foxpath.derive.subject import Told
from foxpath.document.model import Project
from foxpath.sheets import DaySheet, Draw, SittingRow, SittingSheet, StepRow, day_pages, sitting_pages

WET = "Wet film dries from the top: touch with the back of a finger, at the edge, before you trust a date."


def day_record(told: Told) -> dict[str, Any]:
    """Return the entries of `plan.json`: the plan of sittings, where one was taken."""
    if not told.project.days.plan:
        return {}
    return {"days": diary_fields(plan_of(told.results, [told.project], now()).diary) | {"typical_values": True}}


def day_sheet_pages(told: Told, progress: Progress) -> list[Draw]:
    """Return the pages of the sittings, where a plan was taken. Raises `Cancelled`."""
    if not told.project.days.plan:
        return []
    planned = plan_of(told.results, [told.project], now(), progress=progress)
    return pages_of(told.results, told.project, planned, now())


def pages_of(
    results: Results, project: Project, planned: Planned, moment: datetime, forecast: Forecast | None = None
) -> list[Draw]:
    """Return the page of the next sitting, and those of all of them."""
    sittings = sittings_of(results, project, planned)
    pages: list[Draw] = []
    coming = next((one for one in sittings if one.end > moment), None)
    if coming is not None:
        pages += sitting_pages(sitting_sheet(project, coming))
    several = len(planned.layout.works) > 1
    rows = tuple(_row(planned, one, several=several) for one in sittings)
    head = f"Next: {one_line(planned, project, moment)} {forecast_words(planned, project, forecast)}".strip()
    return [*pages, *day_pages(DaySheet(head, rows, f"{WET} {SOLVENT} {SPRAY}"))]


def forecast_words(planned: Planned, project: Project, forecast: Forecast | None) -> str:
    """Say by when the last brush stroke is laid in half, and in nine of ten cases; empty before it was worked out."""
    sure = forecast.painted.get(project.name) if forecast is not None else None
    if sure is None:
        return ""
    diary = planned.diary
    half, most = (
        f"{diary.at(one):%a %d %b %Y}" if one < float("inf") else "no day in sight" for one in (sure.half, sure.most)
    )  # fmt: skip
    return f"Last strokes by {half} in half of all cases, by {most} in nine of ten."


def sitting_sheet(project: Project, sitting: Sitting) -> SittingSheet:
    """Return what is printed of one sitting."""
    steps = tuple(
        StepRow(
            f"{one.begin:%H:%M}",
            f"{one.act}: {one.where}",
            f"{one.minutes} min",
            tuple(
                line
                for line in (
                    f"piles {one.piles}" if one.piles else "",
                    f"with {one.brush}" if one.brush else "",
                    one.note,
                    "" if one.whole else "goes on another day",
                )
                if line
            ),
        )
        for one in sitting.steps
    )
    time = f"{sitting.begin:%a %d %b %Y}, {sitting.begin:%H:%M} to {sitting.end:%H:%M}"
    rules = tuple(one for one in (sitting.setting, sitting.stop) if one)
    off = tuple(off_words(project, one) for one in sitting.keep_off)
    return SittingSheet(f"Sitting {sitting.number}", time, steps, off, rules, f"{WET} {SOLVENT}")


def off_words(project: Project, area: Area) -> str:
    """Say what the hand must keep off, and until when."""
    name = project.back_to_front()[area.zone].name
    until = f", dry on {area.until:%a %d %b}" if area.until is not None and area.state == "tacky" else ""
    return f"{name}: {area.state}{until}"


def _row(planned: Planned, sitting: Sitting, *, several: bool) -> SittingRow:
    tasks = planned.layout.problem.tasks
    said = tuple(
        (
            f"{one.begin:%H:%M}",
            f"{tasks[one.task].painting + ': ' if several else ''}{one.act}: {one.part}",
            f"{one.minutes} min",
        )
        for one in sitting.steps
    )
    return SittingRow(f"{sitting.begin:%a %d %b %Y}", f"{sitting.begin:%H:%M} to {sitting.end:%H:%M}", said)


def lost_words(planned: Planned) -> list[str]:
    """Name the wet windows that a plan loses, with what each costs."""
    problem = planned.layout.problem
    number = {task.id: task for task in problem.tasks}
    made = []
    for k in sorted(planned.plan.lost):
        one = problem.relations[k]
        before, after = number[one.before], number[one.after]
        made.append(
            f"{before.act} of {before.part}, then {after.act.lower()}: {count_words(one.extra_min, 'minute')} to restate"
        )
    return made
