"""The Growth stop: combs, and what else is said of the growth."""

from dataclasses import replace

import numpy as np

from foxpath.core.arrays import Points, as_points
from foxpath.core.curves import line_length
from foxpath.core.errors import InputError
from foxpath.document.edits.zones import zone_under
from foxpath.document.model import MARKS, Comb, Mark, Project, pairs

SHORTEST_COMB_PX = 2.0


def add_comb(project: Project, points: Points, zone_id: str | None = None) -> tuple[Project, str]:
    """Add a comb, root to tip; without a zone it speaks for the one under most of it.

    Raises
    ------
    InputError
        When the stroke is too short to have a direction, or lies over no zone.
    """
    points = as_points(points, least=2, what="a comb")
    if line_length(points) < SHORTEST_COMB_PX:
        raise InputError("The comb is too short to show a direction.", "Draw it along the hair, root to tip.")
    owner = zone_id or zone_under(project, points)
    if owner is None or project.zone(owner) is None:
        raise InputError("No zone lies under this comb.", "Outline the part first, then comb it.")
    zone = project.zone(owner)
    if zone is not None and not zone.kind_of().hair:
        way_out = "Outline the part first" if zone.whole else "Change its kind at Zones"
        raise InputError(f"{zone.name} has no coat to comb.", f"{way_out}, then comb it.")
    comb = Comb(f"c{project.next_id}", owner, pairs(points))
    return replace(project, combs=(*project.combs, comb), next_id=project.next_id + 1), comb.id


def change_comb(project: Project, comb_id: str, points: Points) -> Project:
    """Redraw a comb; a stroke that is too short changes nothing."""
    if len(points) < 2 or line_length(points) < SHORTEST_COMB_PX:
        return project
    combs = tuple(replace(c, points=pairs(points)) if c.id == comb_id else c for c in project.combs)
    return replace(project, combs=combs)


def turn_comb(project: Project, comb_id: str) -> Project:
    """Swap a comb's root and tip."""
    combs = tuple(replace(c, points=c.points[::-1]) if c.id == comb_id else c for c in project.combs)
    return replace(project, combs=combs)


def swing_comb(project: Project, comb_id: str, degrees: float) -> Project:
    """Turn a comb about its middle, degrees clockwise; its root stays its root."""
    comb = next((c for c in project.combs if c.id == comb_id), None)
    if comb is None:
        return project
    points = np.array(comb.points)
    a = np.radians(degrees)
    spin = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
    return change_comb(project, comb_id, (points - points.mean(axis=0)) @ spin.T + points.mean(axis=0))


def remove_comb(project: Project, comb_id: str) -> Project:
    """Take a comb away."""
    return replace(project, combs=tuple(c for c in project.combs if c.id != comb_id))


def keep_comb(project: Project, comb_id: str, *, kept: bool = True) -> Project:
    """Keep a comb against what the picture says round it, or let the picture have its say again."""
    combs = tuple(replace(c, kept=kept) if c.id == comb_id else c for c in project.combs)
    return replace(project, combs=combs)


def add_mark(
    project: Project, kind: str, zone: str = "", points: Points | None = None, turn_deg: float = 0.0, source: str = ""
) -> tuple[Project, str]:
    """Say something of the growth besides combs; returns the project and the mark's id.

    Raises
    ------
    InputError
        When there is no such kind, a line or ring is too small, or the zones it needs are not there.
    """
    if kind not in MARKS:
        raise InputError(f"There is no mark '{kind}'.", f"Marks are {', '.join(MARKS)}.")
    line = np.zeros((0, 2)) if points is None else points
    if kind in ("parting", "crown", "source"):
        if len(line) < 2 or line_length(line) < 2 * SHORTEST_COMB_PX:
            raise InputError(f"That {MARKS[kind]} is too small.", "Drag further.")
    else:
        lent = project.lent(source) if kind == "donor" else None
        if project.zone(zone) is None or (project.zone(source) is None and lent is None) or zone == source:
            raise InputError("Two zones are needed: one that grows, and one it follows.", "Choose both.")
        if lent is not None and len(lent.cut) < 3:
            raise InputError("That picture has no part cut out yet.", "Draw round its coat at Reference, Shelf.")
        if kind == "twin" and project.axes_or_eyes() is None:
            raise InputError("A twin needs the head's midline.", "Set the axes at Reference, Transfer.")
        # One zone follows one other.
        project = replace(project, marks=tuple(m for m in project.marks if not (m.zone == zone and m.source)))
    if kind in ("crown", "source"):
        line = line[[0, -1]]
    mark = Mark(f"m{project.next_id}", kind, zone, pairs(line), _turned(turn_deg), source)
    return replace(project, marks=(*project.marks, mark), next_id=project.next_id + 1), mark.id


def _turned(degrees: float) -> float:
    return round((float(degrees) + 180) % 360 - 180, 1)


def change_mark(
    project: Project, mark_id: str, *, points: Points | None = None, turn_deg: float | None = None
) -> Project:
    """Move a mark's points, or turn a crown."""

    def changed(mark: Mark) -> Mark:
        if points is not None and len(points) >= 2 and line_length(points) >= 2 * SHORTEST_COMB_PX:
            mark = replace(mark, points=pairs(points))
        return mark if turn_deg is None else replace(mark, turn_deg=_turned(turn_deg))

    return replace(project, marks=tuple(changed(m) if m.id == mark_id else m for m in project.marks))


def remove_mark(project: Project, mark_id: str) -> Project:
    """Take a mark away."""
    return replace(project, marks=tuple(m for m in project.marks if m.id != mark_id))
