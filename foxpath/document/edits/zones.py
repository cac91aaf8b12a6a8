"""The Zones stop: outlines, borders they share, parts joined and cut, kinds, forms, animals."""

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from foxpath.core.arrays import Points
from foxpath.core.curves import closed_curve, inside, signed_area
from foxpath.core.errors import InputError
from foxpath.core.text import sound_text
from foxpath.core.zones import OwnKind, Proposed, shape
from foxpath.document.model import Fan, Pairs, Project, Zone, as_array, pairs
from foxpath.document.places import handed_over, without


def add_zone(project: Project, name: str, kind: str, points: Points, depth: int | None = None) -> tuple[Project, str]:
    """Add a zone in front of all others (or at `depth`); returns the project and the zone's id.

    Raises
    ------
    InputError
        When an outline has one or two points, or encloses nothing.
    """
    if 0 < len(points) < 3:
        raise InputError("An outline needs three points or more.", "Click once more, then close it.")
    if len(points) >= 3 and abs(signed_area(points)) < 4:
        raise InputError("The outline encloses nothing.", "Place its points round the part.")
    zone_id = f"z{project.next_id}"
    front = max((z.depth for z in project.zones), default=-1) + 1
    zone = Zone(zone_id, sound_text(name), kind, pairs(points), front if depth is None else depth)
    return replace(project, zones=(*project.zones, zone), next_id=project.next_id + 1), zone_id


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
    """Remove a zone with all that belongs to it: combs, fans, the marks that name it, its edges."""
    left = tuple(z for z in project.zones if z.id != zone_id)
    return without(replace(project, zones=left), zone_id)


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


SAME_PX = 0.75
"""Points of two outlines this close are one point."""


RIM = 0.02
"""A stroke that ends this near the canvas's rim, as a share of its longer side, means to leave it."""


LEAST_SHARED = 2
"""Neighbouring points that two outlines must share to share a border."""


def _shared(points: Pairs, other: Pairs) -> list[int]:
    """Return, for each of `points`, the place of the same point in `other`, -1 where there is none."""
    if not points or not other:
        return [-1] * len(points)
    gap = np.hypot(*(np.array(points)[:, None] - np.array(other)[None]).transpose(2, 0, 1))
    best = gap.argmin(axis=1)
    return [int(k) if gap[i, k] <= SAME_PX else -1 for i, k in enumerate(best)]


def move_point(project: Project, zone_id: str, index: int, to: tuple[float, float]) -> Project:
    """Move one point of an outline, and with it every point of other outlines that lies at the same place."""
    zone = project.zone(zone_id)
    if zone is None or not 0 <= index < len(zone.points):
        return project
    at = np.array(zone.points[index])
    new = (round(float(to[0]), 2), round(float(to[1]), 2))

    def moved(one: Zone) -> Zone:
        points = tuple(
            new if (one.id == zone_id and k == index) or np.hypot(*(np.array(p) - at)) <= SAME_PX else p
            for k, p in enumerate(one.points)
        )
        return one if points == one.points else replace(one, points=points)

    return replace(project, zones=tuple(moved(z) for z in project.zones))


def insert_point(project: Project, zone_id: str, after: int, at: tuple[float, float]) -> Project:
    """Add a point behind point `after`; on a shared border the neighbour gets it too."""
    zone = project.zone(zone_id)
    if zone is None or not zone.points:
        return project
    new = (round(float(at[0]), 2), round(float(at[1]), 2))
    a, b = zone.points[after % len(zone.points)], zone.points[(after + 1) % len(zone.points)]

    def with_point(one: Zone) -> Zone:
        if one.whole:
            return one
        count = len(one.points)
        ia, ib = _shared((a, b), one.points)
        if one.id == zone_id:
            ia, ib = after % count, (after + 1) % count
        if ia < 0 or ib < 0 or (ib - ia) % count not in (1, count - 1):
            return one
        at_index = ia + 1 if (ib - ia) % count == 1 else ib + 1
        return replace(one, points=(*one.points[:at_index], new, *one.points[at_index:]))

    return replace(project, zones=tuple(with_point(z) for z in project.zones))


def remove_point(project: Project, zone_id: str, index: int) -> Project:
    """Take a point out of an outline, and out of those that share it; three always stay."""
    zone = project.zone(zone_id)
    if zone is None or len(zone.points) <= 3 or not 0 <= index < len(zone.points):
        return project
    at = np.array(zone.points[index])

    def without(one: Zone) -> Zone:
        if one.id == zone_id:
            points = one.points[:index] + one.points[index + 1 :]
        else:
            points = tuple(p for p in one.points if np.hypot(*(np.array(p) - at)) > SAME_PX)
        return replace(one, points=points) if len(points) >= 3 and points != one.points else one

    return replace(project, zones=tuple(without(z) for z in project.zones))


def set_outline(project: Project, zone_id: str, points: Points) -> Project:
    """Give a zone another outline; neighbours that shared a stretch of the old one follow the new."""
    zone = project.zone(zone_id)
    if zone is None:
        return project
    new = pairs(points)
    zones = tuple(
        replace(z, points=new) if z.id == zone_id else _following(z, zone.points, as_array(new)) for z in project.zones
    )
    return replace(project, zones=zones)


def _following(zone: Zone, old: Pairs, new: Points) -> Zone:
    """Return a neighbour whose shared stretch with `old` runs along `new`."""
    same = np.array(_shared(zone.points, old)) >= 0
    count = len(same)
    if zone.whole or same.sum() < LEAST_SHARED or same.all():
        return zone
    # The longest run of shared points, cyclic.
    start, length = 0, 0
    for k in range(count):
        if same[k] and not same[k - 1]:
            run = 1
            while same[(k + run) % count]:
                run += 1
            if run > length:
                start, length = k, run
    if length < LEAST_SHARED:
        return zone
    run_points = np.array([zone.points[(start + n) % count] for n in range(length)])
    first, last = (int(np.hypot(*(new - end).T).argmin()) for end in (run_points[0], run_points[-1]))
    forward = np.arange(first, first + (last - first) % len(new) + 1) % len(new)
    backward = np.arange(first, first - (first - last) % len(new) - 1, -1) % len(new)

    def off(way: np.ndarray) -> float:
        line = new[way]
        return float(np.hypot(*(run_points[:, None] - line[None]).transpose(2, 0, 1)).min(axis=1).mean()) + float(
            np.hypot(*(line[:, None] - run_points[None]).transpose(2, 0, 1)).min(axis=1).mean()
        )

    way = min((forward, backward), key=off)
    rest = [zone.points[(start + length + n) % count] for n in range(count - length)]
    return replace(zone, points=(*pairs(new[way]), *rest))


def merge_zones(project: Project, zone_id: str, other_id: str) -> Project:
    """Join another zone to this one: outline, combs, hairs and marks become its own.

    Raises
    ------
    InputError
        When either is the whole canvas, they are the same, or they do not touch.
    """
    zone, other = project.zone(zone_id), project.zone(other_id)
    if zone is None or other is None or zone.id == other.id:
        raise InputError("Two parts are needed.", "Choose one, then the part to join to it.")
    if zone.whole or other.whole:
        raise InputError("The whole canvas cannot be joined to a part.", "Choose two outlined parts.")
    points = shape.merged(as_array(zone.points), as_array(other.points))
    project = remove_zone(handed_over(project, other_id, zone_id), other_id)
    depth = max(zone.depth, other.depth)
    return change_zone(project, zone_id, points=pairs(points), hairs=zone.hairs + other.hairs, depth=depth)


def subtract_zone(project: Project, zone_id: str, other_id: str) -> Project:
    """Take what lies in another zone off this one. Raises `InputError` when nothing would be left, or they are apart."""
    zone, other = project.zone(zone_id), project.zone(other_id)
    if zone is None or other is None or zone.id == other.id or zone.whole or other.whole:
        raise InputError("Two outlined parts are needed.", "Choose one, then the part to take off it.")
    points = shape.subtracted(as_array(zone.points), as_array(other.points))
    return change_zone(project, zone_id, points=pairs(points))


def split_zone(project: Project, zone_id: str, line: Points) -> tuple[Project, str]:
    """Cut a zone in two along a line; the larger piece keeps the name, combs go where most of them lies.

    Returns the project and the id of the new piece. Raises `InputError` when the line does not cross the zone.
    """
    from foxpath.core.curves import closed_curve, inside

    zone = project.zone(zone_id)
    if zone is None or zone.whole:
        raise InputError("An outlined part is needed.", "Choose the part to cut.")
    one, two = shape.split(as_array(zone.points), line, _at_rim(project, line))
    if abs(signed_area(one)) < abs(signed_area(two)):
        one, two = two, one
    new_id = f"z{project.next_id}"
    piece = replace(zone, id=new_id, name=f"{zone.name}, other part", points=pairs(two), depth=zone.depth, hairs=())
    curve = closed_curve(two)

    def goes_over(points: Pairs) -> bool:
        at = as_array(points)
        return bool(len(at)) and float(inside(curve, at[:, 0], at[:, 1]).mean()) > 0.5

    zones = []
    for z in project.zones:
        if z.id != zone_id:
            zones.append(z)
            continue
        stay = tuple(h for h in z.hairs if not goes_over(h))
        zones += [
            replace(z, points=pairs(one), hairs=stay),
            replace(piece, hairs=tuple(h for h in z.hairs if goes_over(h))),
        ]
    made = replace(project, zones=tuple(zones), next_id=project.next_id + 1)
    # What lies mostly over the new piece goes with it; of a fan its first feather tells.
    made = handed_over(made, zone_id, new_id, lambda one: goes_over(one.first if isinstance(one, Fan) else one.points))
    return made, new_id


def _at_rim(project: Project, line: Points) -> tuple[bool, bool]:
    """Tell of both ends of a stroke whether they lie at the canvas's rim, or beyond it: there it cannot go further."""
    crop = project.crop
    low = np.array([crop.x, crop.y]) + RIM * max(crop.width, crop.height)
    high = np.array([crop.x + crop.width, crop.y + crop.height]) - RIM * max(crop.width, crop.height)
    first, last = (bool((end < low).any() or (end > high).any()) for end in (line[0], line[-1]))
    return first, last


def smooth_zone(project: Project, zone_id: str) -> Project:
    """Let a zone's outline run more smoothly; neighbours that share it follow."""
    zone = project.zone(zone_id)
    if zone is None or zone.whole:
        return project
    return set_outline(project, zone_id, shape.smoothed(as_array(zone.points)))


def grow_zone(project: Project, zone_id: str, by_mm: float) -> Project:
    """Move a zone's outline outward by `by_mm` on the canvas (inward below 0). Raises `InputError` when none is left."""
    zone = project.zone(zone_id)
    if zone is None or zone.whole:
        return project
    return set_outline(project, zone_id, shape.grown(as_array(zone.points), by_mm / project.mm_per_px))


def add_proposed(project: Project, parts: Sequence[Proposed]) -> Project:
    """Add proposed parts, back to front, named "Part 1" and so on; numbers that are taken are passed over."""
    names = {z.name for z in project.zones}
    number = 0
    for part in parts:
        number += 1
        while f"Part {number}" in names:
            number += 1
        project, _ = add_zone(project, f"Part {number}", "short-fur", part.points)
    return project


def set_group(project: Project, zone_id: str, name: str) -> Project:
    """Say to which animal a zone belongs; it moves in front of that animal's other zones."""
    name = name.strip()[:60]
    zone = project.zone(zone_id)
    if zone is None or zone.group == name:
        return project
    mates = [z for z in project.back_to_front() if z.group == name and z.id != zone_id]
    project = change_zone(project, zone_id, group=name)
    if not mates or not name:
        return project
    order = [z.id for z in project.back_to_front() if z.id != zone_id]
    order.insert(order.index(mates[-1].id) + 1, zone_id)
    return _in_order(project, order)


def set_weight(project: Project, name: str, weight: float) -> Project:
    """Say how much the eye is to rest on an animal, 0 to 1; 1 gives it back. Raises `InputError` for no such animal, or no number."""
    if name not in project.groups or not name:
        raise InputError(f"There is no animal “{name}”.", "Name one on its zones first.")
    if not math.isfinite(weight):
        raise InputError("The weight of an animal is no number.", "Give 0 to 1.")
    kept = {key: value for key, value in project.weights.items() if key != name and key in project.groups}
    weight = round(min(max(weight, 0.0), 1.0), 3)
    return replace(project, weights=kept if weight == 1 else {**kept, name: weight})


def set_group_rank(project: Project, name: str, rank: int) -> Project:
    """Move a whole animal to a rank from the back among the animals; the order of its own zones stays."""
    groups = [g for g in project.groups if g]
    if name not in groups:
        return project
    groups.remove(name)
    groups.insert(min(max(rank, 0), len(groups)), name)
    zones = project.back_to_front()
    # The places that animals hold are dealt out anew; what belongs to none stays where it is.
    queue = [z.id for g in groups for z in zones if z.group == g]
    order = [queue.pop(0) if z.group else z.id for z in zones]
    return _in_order(project, order)


def _in_order(project: Project, order: Sequence[str]) -> Project:
    depth = {key: k for k, key in enumerate(order)}
    return replace(
        project, zones=tuple(z if z.depth == depth[z.id] else replace(z, depth=depth[z.id]) for z in project.zones)
    )


def set_own_kind(project: Project, zone_id: str, own: OwnKind) -> Project:
    """Make a zone one of the painter's own kinds; numbers decided for the zone alone go back to that kind's."""
    zone = project.zone(zone_id)
    if zone is None:
        return project
    return change_zone(project, zone_id, kind=own.base, own=own, coat=type(zone.coat)())


def set_kind(project: Project, zone_id: str, kind: str) -> Project:
    """Make a zone one of the kinds that ship."""
    return change_zone(project, zone_id, kind=kind, own=None)


def own_kind_of(project: Project, zone: Zone, name: str) -> OwnKind:
    """Return a zone's coat and edge as a kind of the painter's own.

    Raises
    ------
    InputError
        Without a name.
    """
    from foxpath.core.lengths.coat import USUAL_CANVAS_MM

    name = name.strip()[:60]
    if not name:
        raise InputError("A kind of your own needs a name.", 'Write one, e.g. "winter ruff".')
    canvas_mm = max(project.canvas.width_mm, project.canvas.height_mm)
    coat = project.coat_of(zone).scaled(USUAL_CANVAS_MM / canvas_mm)
    return OwnKind(name, zone.kind, coat, zone.kind_of().edge)
