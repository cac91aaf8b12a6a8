"""What the Days stop writes, in the background: sheets, a calendar, and what other paintings are to know."""

from pathlib import Path

from foxpath.core.clock import now
from foxpath.core.days.diary import diary_events
from foxpath.core.days.forecast import Forecast
from foxpath.core.days.ical import calendar_of
from foxpath.core.days.told import Told
from foxpath.core.reporting import Progress
from foxpath.derive.days.plan import Planned
from foxpath.derive.handout.days import pages_of
from foxpath.derive.pictures import cropped_picture
from foxpath.derive.results import Results
from foxpath.document import calendars, works
from foxpath.document.model import Project
from foxpath.sheets import Book, write_book
from foxpath.sheets.pictures import write_file


class KeepPlan:
    """Tell the painter's other paintings of a plan that was taken: its sittings and its work; those planned together are offered theirs."""

    def __init__(self, told: Told, planned: Planned) -> None:
        self.told, self.planned = told, planned

    def __call__(self, progress: Progress) -> None:
        """Write them. Raises `AppError`."""
        progress.at(0, "keeping the sittings")
        calendars.keep_sittings(self.told.painting, self.planned.times())
        works.keep_work(self.told)
        names = [self.told.painting, *self.planned.layout.others()]
        for name in names[1:]:
            calendars.keep_sittings(name, self.planned.times(name))
            works.offer(name, self.planned.rows(name), [one for one in names if one != name])


class KeepWork:
    """Tell the painter's other paintings what is left of this one."""

    def __init__(self, told: Told) -> None:
        self.told = told

    def __call__(self, progress: Progress) -> None:
        """Write it where the painting told of itself before, and was offered nothing since. Raises `AppError`."""
        progress.at(0, "keeping the work")
        before = works.work_told(self.told.painting)
        if before is not None and not before.by:
            works.keep_work(self.told)


class LeaveOffer:
    """Leave a plan that was offered by another painting: this one's own sittings are what the others go by again."""

    def __init__(self, told: Told) -> None:
        self.told = told

    def __call__(self, progress: Progress) -> None:
        """Write it. Raises `AppError`."""
        progress.at(0, "keeping the sittings")
        calendars.keep_sittings(self.told.painting, self.told.times())
        works.let_offer_go(self.told.painting)


class KeepNotes:
    """Put a painting's notes of drying into the file that new paintings learn from."""

    def __init__(self, project: Project) -> None:
        self.project = project

    def __call__(self, progress: Progress) -> None:
        """Write them. Raises `AppError`."""
        progress.at(0, "keeping the notes")
        calendars.keep_notes(self.project)


class WriteSheets:
    """Write the sheets of the sittings."""

    def __init__(
        self, results: Results, project: Project, planned: Planned, forecast: Forecast | None, path: Path
    ) -> None:
        self.results, self.project, self.planned = results, project, planned
        self.forecast, self.path = forecast, path

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`, `Cancelled`."""
        project = self.project
        small = cropped_picture(self.results, project, 400, max(1, round(400 / project.canvas.aspect)))
        pages = tuple(pages_of(self.results, project, self.planned, now(), self.forecast))
        progress.at(0.5, "writing the sheets")
        write_book(Book(project.name, project.canvas, project.transfer.grid, small, pages), self.path, "A4")
        return f"Wrote {self.path.name}"


class WriteCalendar:
    """Write a calendar of the sittings."""

    def __init__(self, planned: Planned, path: Path) -> None:
        self.planned, self.path = planned, path

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`."""
        progress.at(0, "writing the calendar")
        diary = self.planned.diary
        write_file(self.path, calendar_of(diary_events(diary), diary.start))
        return f"Wrote {self.path.name}"
