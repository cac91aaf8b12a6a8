"""Drills on paper: the sheet that is printed, and a photograph of it measured."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from foxpath.core.arrays import Rgb8
from foxpath.core.errors import AppError, InputError
from foxpath.core.practice.paper import PAPER, paper_called
from foxpath.core.practice.paper.eyes import eye_targets
from foxpath.core.practice.paper.page import (
    PAPERS_MM,
    READ_PX_PER_MM,
    Flat,
    Measured,
    Paper,
    PaperDrill,
    Printed,
    laid_flat,
)
from foxpath.core.practice.scene import Scene
from foxpath.core.progress.small import rgb_of
from foxpath.core.reference.picture import read_picture
from foxpath.core.reporting import Progress
from foxpath.derive.practice.scenes import scene_of
from foxpath.derive.results import Results
from foxpath.document.archive import bytes_of
from foxpath.document.model import Project


def sheet_of(drill: PaperDrill, scene: Scene | None, seed: int, paper: str) -> Printed:
    """Return what is printed of a drill's sheet. Raises `InputError` when the scene has nothing for it."""
    number = drill.number(seed, scene)
    page = Paper(PAPER.index(drill), number, *PAPERS_MM[paper])
    if "eyes" in drill.needs and not eye_targets(page, scene):
        name = scene.name if scene is not None else "this picture"
        raise InputError(f"{drill.title.capitalize()}: {name} has no eye of a size for paper.", drill.lacks)
    return drill.printed(page, scene)


def _scene_for(
    results: Results, project: Project | None, source: str, drill: PaperDrill, progress: Progress
) -> Scene | None:
    return scene_of(results, project, source, drill.needs, progress) if drill.needs else None


@dataclass(frozen=True, slots=True, eq=False)
class WriteSheet:
    """Write a drill's sheet as PDF."""

    results: Results
    project: Project | None
    source: str
    drill: str
    seed: int
    path: Path
    paper: str = "A4"

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`, `Cancelled`."""
        from foxpath.sheets.practice_page import write_practice

        drill = paper_called(self.drill)
        scene = _scene_for(self.results, self.project, self.source, drill, progress.part(0, 0.8))
        printed = sheet_of(drill, scene, self.seed, self.paper)
        write_practice(printed, self.path, drill.title.capitalize())
        return f"{self.path.name}: sheet {printed.paper.seed}. Print it at 100 %."


@dataclass(frozen=True, slots=True, eq=False)
class SheetRead:
    """A photographed sheet.

    Attributes
    ----------
    drill : str
    seed : int
        The number that stands on it.
    measured : tuple of Measured
    rgb : (H, W, 3) uint8
        Laid flat.
    px_per_mm : float
    """

    drill: str
    seed: int
    measured: tuple[Measured, ...]
    rgb: Rgb8
    px_per_mm: float

    def words(self) -> str:
        """Say in a sentence what was measured."""
        if not self.measured:
            return "Nothing is painted on it yet."
        right = sum(one.right for one in self.measured)
        worst = max(self.measured, key=lambda one: one.error)
        mean = float(np.mean([one.error for one in self.measured]))
        return f"{right} of {len(self.measured)} near enough, {mean:.1f} mm off in the mean. Farthest off: {worst.number}, {worst.words}."


@dataclass(frozen=True, slots=True, eq=False)
class ReadSheet:
    """Measure a photographed sheet."""

    results: Results
    project: Project | None
    source: str
    path: Path

    def __call__(self, progress: Progress) -> SheetRead:
        """Return what was measured. Raises `AppError` when no sheet is found or it has other eyes, `Cancelled`."""
        picture = read_picture(bytes_of(self.path, AppError), self.path.name)
        progress.at(0.3, "looking for the sheet")
        flat: Flat = laid_flat(picture.rgb)
        if flat.paper.kind >= len(PAPER):
            raise InputError("This sheet was printed by a newer Fox Path.", "Update Fox Path to read it.")
        drill = PAPER[flat.paper.kind]
        scene = _scene_for(self.results, self.project, self.source, drill, progress.part(0.5, 0.9))
        measured = drill.measured(flat, scene)
        return SheetRead(drill.key, flat.paper.seed, measured, rgb_of(flat.lab), READ_PX_PER_MM)
