"""The Edges stop: grades and widths of borders, and of stretches of them."""

from dataclasses import replace

from foxpath.core.arrays import Points
from foxpath.core.curves import line_length
from foxpath.core.edges import Grade
from foxpath.core.errors import InputError
from foxpath.document.edits.growth import SHORTEST_COMB_PX
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
