"""The grids that everything is worked out on."""

from functools import lru_cache

from foxpath.core.frame import Crop, Frame
from foxpath.document.model import Project

GROWTH_CELLS = 384
"""Cells on the longer side of the growth's working grid."""


MAP_CELLS = 1024
"""Cells on the longer side of the zone map, from which borders and marks are made."""


def growth_frame(project: Project) -> Frame:
    """Return the working grid of the growth."""
    return _grid(project.crop, project.mm_per_px, GROWTH_CELLS)


def map_frame(project: Project) -> Frame:
    """Return the grid of the zone map."""
    return _grid(project.crop, project.mm_per_px, MAP_CELLS)


@lru_cache(maxsize=64)
def _grid(crop: Crop, mm_per_px: float, cells: int) -> Frame:
    # Asked for hundreds of times in a rehearsal, as a part of keys: the same one compares at once.
    return Frame.over(crop, mm_per_px, cells)
