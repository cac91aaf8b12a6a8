"""The book of sheets, gathered from the pages of every subject."""

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from foxpath import __version__
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.pictures import cropped_picture
from foxpath.derive.rehearsal.painting import Rehearsed, rehearse
from foxpath.derive.results import Results
from foxpath.derive.subject import Told
from foxpath.derive.subjects import SUBJECTS, findings
from foxpath.document.model import Project
from foxpath.sheets import Book, write_book

REFERENCE_PX = 1600
"""Longer side of the reference on the sheets."""


def make_book(results: Results, project: Project, rehearsed: list[Rehearsed], progress: Progress = SILENT) -> Book:
    """Gather what the sheets show. Raises `Cancelled`."""
    scale = REFERENCE_PX / max(project.canvas.width_mm, project.canvas.height_mm)
    columns, rows = round(project.canvas.width_mm * scale), round(project.canvas.height_mm * scale)
    told = Told(results, project, rehearsed)
    parts = progress.parts(len(SUBJECTS))
    pages = [page for one, part in zip(SUBJECTS, parts, strict=True) for page in one.pages(told, part)]
    reference = cropped_picture(results, project, max(1, columns), max(1, rows))
    return Book(project.name, project.canvas, project.transfer.grid, reference, tuple(pages))


def plan_record(results: Results, project: Project, rehearsed: list[Rehearsed]) -> dict[str, Any]:
    """Return everything `plan.json` holds: the plan with all its numbers, units in the names."""
    told = Told(results, project, rehearsed)
    entries: dict[str, Any] = {}
    for subject in SUBJECTS:
        entries |= subject.record(told)
    return {
        "foxpath": __version__,
        "name": project.name,
        "canvas": {"width_mm": project.canvas.width_mm, "height_mm": project.canvas.height_mm},
        "mm_per_px": project.mm_per_px,
        **entries,
        "findings": [
            {"level": f.level, "says": f.says, "why": f.why, "stop": f.where} for f in findings(results, project)
        ],
    }


@dataclass(frozen=True, slots=True)
class PrintSheets:
    """Write the book of sheets."""

    results: Results
    project: Project
    path: Path
    paper: str
    width: int = 1400

    def __call__(self, progress: Progress) -> int:
        """Return the number of pages. Raises `Cancelled` or `AppError`."""
        rehearsed = rehearse(self.results, self.project, self.width, progress.part(0, 0.8))
        book = make_book(self.results, self.project, rehearsed, progress.part(0.8, 0.9))
        progress.at(0.9, "writing the sheets")
        return write_book(book, self.path, self.paper)
