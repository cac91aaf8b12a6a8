"""Edits: functions from one project to the next. None changes what it is given."""

from dataclasses import replace
from datetime import date
from typing import Any

import numpy as np

from foxpath.core.arrays import Points, as_points
from foxpath.core.curves import arc_length, closed_curve, inside
from foxpath.core.edges import Grade
from foxpath.core.errors import InputError
from foxpath.core.frame import Crop
from foxpath.core.passes import WAYS, Logged, PassEdit, PassPlan, School, schools
from foxpath.core.passes.pace import LEAST_MIN, MOST_MIN
from foxpath.core.reference import canvas_for, fitted
from foxpath.core.units import CanvasSize
from foxpath.document.model import MARKS, Comb, EdgeChoice, Mark, Project, Zone, pairs
from foxpath.document.reference_fields import reference_of

SHORTEST_COMB_PX = 2.0


def new_project(data: bytes, file_name: str, canvas: CanvasSize, name: str = "") -> Project:
    """Start a project from a picture's bytes: the largest centred crop, one background zone.

    Raises
    ------
    PictureError
        When the bytes are no picture that can be read.
    """
    reference = reference_of(file_name, data)
    width, height = reference.width, reference.height
    title = name or file_name.rsplit(".", 1)[0].replace("_", " ").replace("-", " ").strip() or "Untitled"
    project = Project(title, reference, canvas, canvas_for(width, height, canvas))
    return add_zone(project, "Background", "background", np.zeros((0, 2)), depth=0)[0]


def rename(project: Project, name: str) -> Project:
    """Give the project another name; an empty one changes nothing."""
    return replace(project, name=name.strip()[:120]) if name.strip() else project


def set_canvas(project: Project, canvas: CanvasSize) -> Project:
    """Change the size of the canvas; the crop keeps its centre and takes the new aspect."""
    crop = fitted(project.crop, project.reference.width, project.reference.height, canvas)
    return replace(project, canvas=canvas, crop=crop)


def set_crop(project: Project, crop: Crop) -> Project:
    """Move or size the crop; it is brought to the canvas's aspect and into the picture."""
    return replace(project, crop=fitted(crop, project.reference.width, project.reference.height, project.canvas))


def set_focal(project: Project, focal: tuple[float, float] | None) -> Project:
    """Put the focal point somewhere, or back to where the eyes are."""
    return replace(project, focal=focal)


def add_zone(project: Project, name: str, kind: str, points: Points, depth: int | None = None) -> tuple[Project, str]:
    """Add a zone in front of all others (or at `depth`); returns the project and the zone's id.

    Raises
    ------
    InputError
        When an outline has one or two points, or encloses nothing.
    """
    if 0 < len(points) < 3:
        raise InputError("An outline needs three points or more.", "Click once more, then close it.")
    if len(points) >= 3 and _enclosed(points) < 4:
        raise InputError("The outline encloses nothing.", "Place its points round the part.")
    zone_id = f"z{project.next_id}"
    front = max((z.depth for z in project.zones), default=-1) + 1
    zone = Zone(zone_id, name, kind, pairs(points), front if depth is None else depth)
    return replace(project, zones=(*project.zones, zone), next_id=project.next_id + 1), zone_id


def _enclosed(points: Points) -> float:
    x, y = points.T
    return abs(float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum())) / 2


def change_zone(project: Project, zone_id: str, **changes: Any) -> Project:
    """Change a zone's name, kind, points or depth."""
    zones = tuple(replace(z, **changes) if z.id == zone_id else z for z in project.zones)
    return replace(project, zones=zones)


def set_depth(project: Project, zone_id: str, rank: int) -> Project:
    """Move a zone to a rank from the back (0 = furthest back); the others close up."""
    order = [z.id for z in project.back_to_front() if z.id != zone_id]
    order.insert(min(max(rank, 0), len(order)), zone_id)
    depth = {key: k for k, key in enumerate(order)}
    zones = tuple(z if z.depth == depth[z.id] else replace(z, depth=depth[z.id]) for z in project.zones)
    return replace(project, zones=zones)


def remove_zone(project: Project, zone_id: str) -> Project:
    """Remove a zone with its combs, fans, the marks that name it, and its edges."""
    return replace(
        project,
        zones=tuple(z for z in project.zones if z.id != zone_id),
        combs=tuple(c for c in project.combs if c.zone != zone_id),
        marks=tuple(m for m in project.marks if zone_id not in (m.zone, m.source)),
        edges=tuple(e for e in project.edges if zone_id not in (e.front, e.back)),
        stretches=tuple(e for e in project.stretches if zone_id not in (e.front, e.back)),
        fans=tuple(f for f in project.fans if f.zone != zone_id),
    )


def zone_under(project: Project, points: Points) -> str | None:
    """Return the covering zone that is seen under most of a stroke, or None."""
    left = np.ones(len(points), bool)
    votes: dict[str, int] = {}
    for zone in reversed(project.back_to_front()):
        if not zone.kind_of().cover:
            continue
        hit = left.copy()
        if not zone.whole:
            hit &= inside(closed_curve(np.array(zone.points)), points[:, 0], points[:, 1])
        votes[zone.id] = int(hit.sum())
        left &= ~hit
    best = max(votes, key=lambda key: votes[key], default=None)
    return best if best is not None and votes[best] > 0 else None


def add_comb(project: Project, points: Points, zone_id: str | None = None) -> tuple[Project, str]:
    """Add a comb, root to tip; without a zone it speaks for the one under most of it.

    Raises
    ------
    InputError
        When the stroke is too short to have a direction, or lies over no zone.
    """
    points = as_points(points, least=2, what="a comb")
    if arc_length(points)[-1] < SHORTEST_COMB_PX:
        raise InputError("The comb is too short to show a direction.", "Draw it along the hair, root to tip.")
    owner = zone_id or zone_under(project, points)
    if owner is None or project.zone(owner) is None:
        raise InputError("No zone lies under this comb.", "Outline the part first, then comb it.")
    comb = Comb(f"c{project.next_id}", owner, pairs(points))
    return replace(project, combs=(*project.combs, comb), next_id=project.next_id + 1), comb.id


def change_comb(project: Project, comb_id: str, points: Points) -> Project:
    """Redraw a comb; a stroke that is too short changes nothing."""
    if len(points) < 2 or arc_length(points)[-1] < SHORTEST_COMB_PX:
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
        if len(line) < 2 or arc_length(line)[-1] < 2 * SHORTEST_COMB_PX:
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
        if points is not None and len(points) >= 2 and arc_length(points)[-1] >= 2 * SHORTEST_COMB_PX:
            mark = replace(mark, points=pairs(points))
        return mark if turn_deg is None else replace(mark, turn_deg=_turned(turn_deg))

    return replace(project, marks=tuple(changed(m) if m.id == mark_id else m for m in project.marks))


def remove_mark(project: Project, mark_id: str) -> Project:
    """Take a mark away."""
    return replace(project, marks=tuple(m for m in project.marks if m.id != mark_id))


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


def set_coat(project: Project, zone_id: str, **values: float | None) -> Project:
    """Decide numbers of a zone's coat; None gives one back to the default."""
    zone = project.zone(zone_id)
    if zone is None:
        return project
    return change_zone(project, zone_id, coat=replace(zone.coat, **values))


def set_pass(project: Project, key: str, **values: Any) -> Project:
    """Decide numbers of a pass; None gives one back to the plan.

    Raises
    ------
    InputError
        When there is no pass of that role.
    """
    roles = project.roles
    if key not in roles:
        raise InputError(f"There is no pass '{key}'.", f"Passes are {', '.join(roles)}.")
    if values.get("left_out", ()) is None:
        values["left_out"] = ()
    edit = replace(project.passes.get(key, PassEdit()), **values)
    passes = {k: v for k, v in project.passes.items() if k != key}
    if edit != PassEdit():
        passes[key] = edit
    return replace(project, passes=passes)


def move_pass(project: Project, key: str, by: int) -> Project:
    """Paint a pass earlier (negative) or later."""
    usual_order = list(project.roles)
    order = [k for k in project.pass_order if k in usual_order]
    order += [k for k in usual_order if k not in order]
    at = order.index(key)
    order.insert(min(max(at + by, 0), len(order) - 1), order.pop(at))
    usual = order == usual_order
    return replace(project, pass_order=() if usual else tuple(order))


def set_school(project: Project, key: str) -> Project:
    """Follow another school; decided numbers of passes it shares are kept. Raises `InputError` for one there is none of."""
    _known_school(project, key)
    return replace(project, school=key, pass_order=())


def set_zone_school(project: Project, zone_id: str, key: str) -> Project:
    """Paint one zone in a school of its own; empty, or the painting's own, gives it back. Raises `InputError` as `set_school`."""
    if key:
        _known_school(project, key)
    return change_zone(project, zone_id, school="" if key == project.recipe.key else key)


def _known_school(project: Project, key: str) -> None:
    if project.school_called(key) is None:
        raise InputError(f"There is no school '{key}'.", f"Schools are {', '.join(schools())}.")


def set_way(project: Project, key: str, side: str) -> Project:
    """Take a side where painters disagree (see `WAYS`); an empty one leaves it to the school.

    Raises
    ------
    InputError
        For a disagreement or a side there is none of.
    """
    way = WAYS.get(key)
    if way is None:
        raise InputError(f"There is no setting '{key}'.", f"Settings are {', '.join(WAYS)}.")
    if side and way.side(side) is None:
        raise InputError(f"'{key}' cannot be '{side}'.", f"Sides are {' and '.join(one.key for one in way.sides)}.")
    made = replace(project, ways=replace(project.ways, **{key: side}))
    if key == "catchlight" and side:
        # Each eye keeps its own word; this one is for all of them.
        made = replace(made, eyes=tuple(replace(e, light=replace(e.light, way=side)) for e in made.eyes))
    return made


def log_pass(project: Project, plan: PassPlan, taken_min: float, day: str = "") -> Project:
    """Note what a pass took, in place of what was noted of it before.

    Raises
    ------
    InputError
        When the minutes are not 1 to 6000, or the day is no ISO date.
    """
    if not LEAST_MIN <= taken_min <= MOST_MIN:
        raise InputError(
            f"A pass of {taken_min:g} minutes cannot be noted.", f"Give {LEAST_MIN:g} to {MOST_MIN:g} minutes."
        )
    if day:
        try:
            date.fromisoformat(day)
        except ValueError:
            raise InputError(f"'{day}' is no day.", "Write it as 2026-03-21.") from None
    one = Logged(plan.role.key, plan.role.act, round(taken_min, 1), round(plan.usual_minutes, 1), day)
    return replace(project, log=(*(old for old in project.log if old.role != one.role), one))


def forget_log(project: Project, role: str) -> Project:
    """Take back what was noted of a pass."""
    return replace(project, log=tuple(one for one in project.log if one.role != role))


def take_school(project: Project, school: School) -> Project:
    """Bring a recipe of one's own, and follow it; one that has a shipped school's key is told apart."""
    mine = replace(school, key=f"own-{school.key}"[:60]) if school.key in schools() else school
    return replace(project, own_school=mine, school=mine.key, pass_order=())
