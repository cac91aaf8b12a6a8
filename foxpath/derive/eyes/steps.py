"""Eyes found from a click, and pictures of their steps."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Rgb8, frozen
from foxpath.core.errors import InputError
from foxpath.core.eyes import Eye, FoundEye, doubts, find_eye
from foxpath.core.rehearsal.eyes import eye_room, step_pictures
from foxpath.core.reporting import Progress
from foxpath.core.units import mm_words
from foxpath.derive.eyes.reading import extent_of, eye_key, eye_plan
from foxpath.derive.pictures import measured_picture
from foxpath.derive.results import Results
from foxpath.document.edits import eye_zone
from foxpath.document.model import Project

STEP_PX = 220
"""Width of the enlarged picture of a step."""


def step_shots(results: Results, project: Project, eye: Eye, width: int = STEP_PX) -> tuple[Rgb8, ...]:
    """Return an eye's picture after each step, `width` pixels across."""
    key = ("eye steps", eye_key(results, project, eye), width)

    def make() -> tuple[Rgb8, ...]:
        plan = eye_plan(results, project, eye)
        scale = width / (eye_room(eye)[2] * project.mm_per_px)
        return tuple(frozen(shot) for shot in step_pictures(plan, scale))

    return results.memo.get(key, make)


@dataclass(frozen=True, slots=True)
class Guessed:
    """An eye that was found from a click: where, what, and what speaks against taking it unasked."""

    at: tuple[float, float]
    found: FoundEye
    doubts: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FindEye:
    """Find the eye that was clicked; with a `radius` (reference pixels) the one of about that size, which nobody doubts then."""

    results: Results
    project: Project
    at: tuple[float, float]
    radius: float = 0.0

    def __call__(self, progress: Progress) -> Guessed:
        """Return the eye. Raises `InputError` when nothing there looks like one."""
        progress.at(0.1, "looking for the eye")
        project = self.project
        picture = measured_picture(self.results, project)
        zone = eye_zone(project, self.at)
        opening = zone.shape.outline() if zone is not None else None
        others = [one.iris for one in project.eyes if float(one.iris.share_of(np.array([self.at]))[0]) > 1]
        radii = [one.radius for one in others]
        found = find_eye(picture.rgb, self.at, picture.scale, self.radius, opening=opening, others=radii)
        if self.radius > 0:
            return Guessed(self.at, found, ())
        rivals = [sure for _, sure in found.others]

        def words(px: float) -> str:
            return mm_words(px * project.mm_per_px)

        asked = doubts(found.iris, found.sure, others, extent_of(project), words, rivals=rivals)
        return Guessed(self.at, found, asked)


@dataclass(frozen=True, slots=True)
class PaintSteps:
    """Paint an eye step by step."""

    results: Results
    project: Project
    eye_id: str
    width: int = STEP_PX

    def __call__(self, progress: Progress) -> tuple[Eye, tuple[Rgb8, ...]]:
        """Return the eye and its picture after each step. Raises `InputError` when it is gone."""
        progress.at(0.1, "painting the eye")
        eye = self.project.eye(self.eye_id)
        if eye is None:
            raise InputError("That eye is gone.", "Choose another.")
        return eye, step_shots(self.results, self.project, eye, self.width)
