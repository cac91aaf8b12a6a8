"""Eyes found from a click, and pictures of their steps."""

from dataclasses import dataclass

from foxpath.core.arrays import Rgb8, frozen
from foxpath.core.errors import InputError
from foxpath.core.eyes import Eye, FoundEye, find_eye
from foxpath.core.rehearsal.eyes import eye_room, step_pictures
from foxpath.core.reporting import Progress
from foxpath.derive.eyes.reading import eye_key, eye_plan
from foxpath.derive.pictures import working_picture
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
class FindEye:
    """Find the eye whose pupil was clicked."""

    results: Results
    project: Project
    at: tuple[float, float]

    def __call__(self, progress: Progress) -> FoundEye:
        """Return the eye. Raises `InputError` when nothing there looks like one."""
        progress.at(0.1, "looking for the eye")
        picture = working_picture(self.results, self.project)
        zone = eye_zone(self.project, self.at)
        opening = zone.shape.outline() if zone is not None else None
        return find_eye(picture.rgb, self.at, picture.scale, opening=opening)


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
