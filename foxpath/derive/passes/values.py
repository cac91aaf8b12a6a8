"""The value study of a project: masses of every part, gauges, and where the light turns into shadow."""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool, Points, frozen
from foxpath.core.passes.values import Gauge, Masses, classify, facing, gauges, read_masses, turning_edges
from foxpath.core.reference.light import from_catchlights
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.frames import map_frame
from foxpath.derive.pictures import picture_key, study_of
from foxpath.derive.reference.inspection import all_catchlights
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import mask_of, subject_of
from foxpath.document.model import Project

FORM_MM = 45.0
"""How far in from the contour an animal's form still turns, on a canvas of half a metre."""


@dataclass(frozen=True, slots=True, eq=False)
class ValueStudy:
    """What was read.

    Attributes
    ----------
    whole : Masses or None
    zones : dict of zone id to Masses
    dark, light : Gauge or None
        Places in reference pixels.
    turning : tuple of (N, 2) float64
        Lines, reference pixels.
    light_hour : float or None
        By which light masses and turning edges were read; None without one.
    classes : (rows, columns) uint8
        0 dark, 1 middle, 2 light, 3 for no part, on the grid of the zone map.
    """

    whole: Masses | None
    zones: dict[str, Masses]
    dark: Gauge | None
    light: Gauge | None
    turning: tuple[Points, ...]
    light_hour: float | None
    classes: np.ndarray


def light_hour(project: Project) -> float | None:
    """Return the hour of the light: as the painter said, else as the catchlights tell; None without either."""
    if project.light is not None:
        return project.light.hour
    told = from_catchlights(all_catchlights(project))
    return told.hour if told is not None else None


def value_study(results: Results, project: Project, progress: Progress = SILENT) -> ValueStudy:
    """Return the value study of a project."""
    frame = map_frame(project)
    hour = light_hour(project)
    key = ("values", picture_key(results, project), project.outlines, frame, hour)

    def make() -> ValueStudy:
        progress.at(0.1, "reading the values")
        light = np.ascontiguousarray(study_of(results, project).fine[..., 0])
        px_per_mm = 1 / frame.cell_mm
        subject: Bool = subject_of(results, project, frame)
        lit: F32 = np.zeros(frame.shape, np.float32)
        way = (0.0, 0.0)
        if hour is not None:
            a = math.radians(30 * hour - 90)
            way = (math.cos(a), math.sin(a))
            size = FORM_MM * max(project.canvas.width_mm, project.canvas.height_mm) / 500
            lit = facing(subject, way, size * px_per_mm)
        zones: dict[str, Masses] = {}
        classes = np.full(frame.shape, 3, np.uint8)
        for index, zone in enumerate(project.back_to_front()):
            mask = mask_of(results, project, index, frame)
            one = read_masses(light, mask, lit, px_per_mm) if zone.kind_of().cover else None
            if one is not None:
                zones[zone.id] = one
                classes[mask] = classify(light, lit, one.low, one.high)[mask]
        every = np.ones(frame.shape, bool)
        whole = read_masses(light, every, lit, px_per_mm)
        both = gauges(light, subject if subject.any() else every, px_per_mm)
        turning = turning_edges(light, subject, way, px_per_mm) if hour is not None else []
        placed = [Gauge(*_place(frame.to_px(np.array([[g.x, g.y]]))), g.light) for g in both or ()]
        return ValueStudy(
            whole, zones, placed[0] if placed else None, placed[1] if placed else None,
            tuple(frozen(frame.to_px(line)) for line in turning), hour, frozen(classes),
        )  # fmt: skip

    return results.memo.get(key, make)


def _place(at: Points) -> tuple[float, float]:
    return float(at[0, 0]), float(at[0, 1])


@dataclass(frozen=True, slots=True)
class ReadValues:
    """Read the values of the reference: masses, gauges, where the light turns."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> tuple[Project, ValueStudy]:
        """Return the project and its value study."""
        return self.project, value_study(self.results, self.project, progress)
