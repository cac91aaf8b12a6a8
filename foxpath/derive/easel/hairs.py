"""The way of a part's marks, drawn as long as they are on the canvas: a few of them, from root to tip."""

from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.growth import place_glyphs
from foxpath.core.reporting import Progress
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

MOST = 46
"""Hairs that are shown: more would hide the animal."""


@dataclass(frozen=True, slots=True, eq=False)
class PartHairs:
    """Ask for the hairs of a part.

    Attributes
    ----------
    zone : int
        Counted back to front.
    length_mm : float
        Of a mark on the canvas.
    """

    results: Results
    project: Project
    zone: int
    length_mm: float

    def __call__(self, progress: Progress) -> tuple[int, F32]:
        """Return the zone and (N, 8, 2) float32 points from root to tip, reference pixels; none where nothing grows. Raises `Cancelled`."""
        zone = self.project.back_to_front()[self.zone]
        field = growth_of(self.results, self.project, self.zone, progress) if zone.kind_of().hair else None
        if field is None:
            return self.zone, np.zeros((0, 8, 2), np.float32)
        coat = replace(
            self.project.coat_of(zone), length_mm=self.length_mm, spread_deg=0.0, clump_mm=0.0, stray_share=0.0
        )  # fmt: skip
        area_mm2 = float(field.inside.sum()) * field.frame.cell_mm**2
        # As far apart as so few of them need.
        gap = max(float(np.sqrt(area_mm2 / MOST)) - 0.3 * self.length_mm, 2.0)
        return self.zone, place_glyphs(field, coat, gap, self.zone).points_px[: 2 * MOST]
