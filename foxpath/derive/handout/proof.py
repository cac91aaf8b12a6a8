"""A proof for the client, as PDF and PNG: the finished rehearsal, a part of it at true size, colours and the date."""

from dataclasses import dataclass
from datetime import date
from pathlib import Path

from foxpath.core.arrays import Rgb8, frozen
from foxpath.core.clock import now
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.days.plan import plan_of
from foxpath.derive.handout.mixes import rgb_of
from foxpath.derive.mixes.palette import palette_of
from foxpath.derive.pictures import cropped_picture
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.results import Results
from foxpath.document.model import Project
from foxpath.sheets import Book, write_book, write_png
from foxpath.sheets.proof_page import ProofSheet, proof_page

WIDTH = 2400
PART_MM, COLOURS = (170.0, 70.0), 6
"""The part that is printed at true size, mm, and how many colours are shown."""


def planned_painting(results: Results, project: Project, width: int = WIDTH, progress: Progress = SILENT) -> Rgb8:
    """Return the finished rehearsal. Raises `Cancelled`."""
    passes = rehearse(results, project, width, progress, keep=False)
    if not passes:
        rows = max(1, round(width / project.canvas.aspect))
        return cropped_picture(results, project, width, rows)
    shown: Rgb8 = passes[-1].standing.shown
    return shown


def true_part(project: Project, whole: Rgb8) -> tuple[Rgb8, tuple[float, float]]:
    """Return a part of a painting about its focal point, and its size on the canvas, mm."""
    px_per_mm = whole.shape[1] / project.canvas.width_mm
    wide, tall = min(PART_MM[0], project.canvas.width_mm), min(PART_MM[1], project.canvas.height_mm)
    x = (project.focal_point[0] - project.crop.x) / project.crop.width * whole.shape[1]
    y = (project.focal_point[1] - project.crop.y) / project.crop.height * whole.shape[0]
    w, h = round(wide * px_per_mm), round(tall * px_per_mm)
    left = min(max(round(x - w / 2), 0), whole.shape[1] - w)
    top = min(max(round(y - h / 2), 0), whole.shape[0] - h)
    return frozen(whole[top : top + h, left : left + w].copy()), (w / px_per_mm, h / px_per_mm)


def proof_of(results: Results, project: Project, day: date, whole: Rgb8, progress: Progress = SILENT) -> ProofSheet:
    """Return what a proof shows of a planned painting. Raises `Cancelled`."""
    part, size = true_part(project, whole)
    piles = sorted(palette_of(results, project, progress).piles, key=lambda one: -one.ml)[:COLOURS]
    ready = ""
    if project.days.plan or project.days.deadline:
        planned = plan_of(results, [project], now(), progress=progress)
        done = planned.diary.done(project.name) if planned.plan.complete else None
        ready = f"Planned to be ready on {done:%A %-d %B %Y}." if done is not None else ""
    colours = tuple((one.name, rgb_of(one.lab)) for one in piles)
    return ProofSheet(project.name, project.commission.client, f"{day:%-d %B %Y}", whole, part, size, colours, ready)


@dataclass(frozen=True, slots=True, eq=False)
class WriteProof:
    """Write a proof: the sheet as PDF, and the painting as PNG beside it."""

    results: Results
    project: Project
    path: Path
    width: int = WIDTH
    paper: str = "A4"

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`, `Cancelled`."""
        project, results = self.project, self.results
        whole = planned_painting(results, project, self.width, progress.part(0, 0.8))
        sheet = proof_of(results, project, now().date(), whole, progress.part(0.8, 0.9))
        small = cropped_picture(results, project, 400, max(1, round(400 / project.canvas.aspect)))
        path = self.path.with_suffix(".pdf")
        write_book(
            Book(project.name, project.canvas, project.transfer.grid, small, (proof_page(sheet),)), path, self.paper
        )
        write_png(whole, path.with_suffix(".png"), whole.shape[1] / project.canvas.width_mm)
        return f"Wrote {path.name} and {path.with_suffix('.png').name}"
