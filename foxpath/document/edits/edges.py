"""The Edges stop: grades and widths of borders, and of stretches of them."""

import math
from dataclasses import replace

from foxpath.core.arrays import Points
from foxpath.core.curves import line_length
from foxpath.core.edges import Grade
from foxpath.core.errors import InputError
from foxpath.document.edits.growth import SHORTEST_COMB_PX
from foxpath.document.edits.zones import change_zone
from foxpath.document.model import EdgeChoice, EdgeStretch, Project, pairs


def set_edge(project: Project, front: str, back: str, grade: Grade, width_mm: float) -> Project:
    """Decide a border's grade and transition width (0.1 to 40 mm)."""
    choice = EdgeChoice(front, back, grade, round(min(max(width_mm, 0.1), 40.0), 2))
    others = tuple(e for e in project.edges if (e.front, e.back) != (front, back))
    return replace(project, edges=(*others, choice))


def clear_edge(project: Project, front: str, back: str) -> Project:
    """Give a border back to the default, its stretches too."""
    return replace(
        project,
        edges=tuple(e for e in project.edges if (e.front, e.back) != (front, back)),
        stretches=tuple(e for e in project.stretches if (e.front, e.back) != (front, back)),
    )


MOST_SOFT_MM = 30.0


def soften_marking(project: Project, zone_id: str, soft_mm: float) -> Project:
    """Say over how much a marking's border gives way to its coat, mm; 0 leaves it as the photograph has it.

    Raises
    ------
    InputError
        When there is no such marking, or the width is no number.
    """
    zone = project.zone(zone_id)
    if zone is None or zone.kind_of().key != "marking":
        raise InputError(
            "Only a marking in a coat is softened so.", "Choose one, or grade the border between two parts."
        )
    if not math.isfinite(soft_mm):
        raise InputError("The softness of a marking is no number.", f"Give 0 to {MOST_SOFT_MM:g} mm.")
    return change_zone(project, zone_id, soft_mm=round(min(max(soft_mm, 0.0), MOST_SOFT_MM), 2))


def add_stretch(project: Project, front: str, back: str, points: Points, width_mm: float) -> tuple[Project, str]:
    """Give part of a border a width of its own (0.1 to 40 mm), dragged along it; returns the project and its id.

    Raises
    ------
    InputError
        When the stroke is too short.
    """
    if len(points) < 2 or line_length(points) < SHORTEST_COMB_PX:
        raise InputError("That stretch is too short.", "Drag along the border.")
    one = EdgeStretch(f"e{project.next_id}", front, back, pairs(points), _width(width_mm))
    made = replace(project, stretches=(*project.stretches, one), next_id=project.next_id + 1)
    return made, one.id


def _width(width_mm: float) -> float:
    return round(min(max(width_mm, 0.1), 40.0), 2)


def set_stretch(project: Project, stretch_id: str, width_mm: float) -> Project:
    """Change the width of a stretch, 0.1 to 40 mm."""
    changed = tuple(replace(s, width_mm=_width(width_mm)) if s.id == stretch_id else s for s in project.stretches)
    return replace(project, stretches=changed)


def remove_stretch(project: Project, stretch_id: str) -> Project:
    """Give a stretch back to its border."""
    return replace(project, stretches=tuple(s for s in project.stretches if s.id != stretch_id))
