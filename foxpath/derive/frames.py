"""The grids that everything is worked out on."""

from foxpath.core.frame import Frame
from foxpath.document.model import Project

GROWTH_CELLS = 384
"""Cells on the longer side of the growth's working grid."""


MAP_CELLS = 1024
"""Cells on the longer side of the zone map, from which borders and marks are made."""


def growth_frame(project: Project) -> Frame:
    """Return the working grid of the growth."""
    return Frame.over(project.crop, project.mm_per_px, GROWTH_CELLS)


def map_frame(project: Project) -> Frame:
    """Return the grid of the zone map."""
    return Frame.over(project.crop, project.mm_per_px, MAP_CELLS)
