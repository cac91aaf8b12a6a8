"""The Lengths stop: coats, measured hairs, forms, falloff, the kit, feathers."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from foxpath.core.arrays import Points
from foxpath.core.curves import line_length
from foxpath.core.errors import InputError
from foxpath.core.feathers import TRACT_RANGES
from foxpath.core.feathers.fan import MOST as MOST_IN_FAN
from foxpath.core.lengths import DEFAULT_KIT, FORMS, SHAPES, STATES, Brush, CoatEdit, Form
from foxpath.document.edits.growth import SHORTEST_COMB_PX
from foxpath.document.edits.zones import change_zone
from foxpath.document.model import FOCAL_ORDERS, Fan, LikedBrush, Project, as_array, pairs


def set_coat(project: Project, zone_id: str, **values: float | None) -> Project:
    """Decide numbers of a zone's coat; None gives one back to the default."""
    zone = project.zone(zone_id)
    if zone is None:
        return project
    return change_zone(project, zone_id, coat=replace(zone.coat, **values))


MOST_BRUSHES = 60


def measure_hair(project: Project, zone_id: str, points: Points, seen: float = 1.0) -> Project:
    """Measure a hair of a zone: the zone's length becomes the mean of its hairs, each straightened by its form.

    Parameters
    ----------
    project : Project
    zone_id : str
    points : (N, 2) float64
        Dragged along one hair, root to tip, reference pixels.
    seen : float
        Foreshortening there, 0.3 to 1: by how much the hair looks shorter than it is.

    Raises
    ------
    InputError
        When the stroke is shorter than a pixel or two.
    """
    length_px = line_length(points) if len(points) > 1 else 0.0
    if length_px < SHORTEST_COMB_PX:
        raise InputError("That stroke is too short to measure.", "Drag along one hair from root to tip.")
    zone = project.zone(zone_id)
    if zone is None:
        return project
    number = len(zone.hairs)
    true_mm = length_px * project.mm_per_px / min(max(seen, 0.3), 1.0)
    # The mean of logarithms: half and double balance.
    before = zone.coat.length_mm if number and zone.coat.length_mm is not None else true_mm
    mean = float(np.exp((number * np.log(before) + np.log(true_mm)) / (number + 1)))
    coat = replace(zone.coat, length_mm=round(mean, 2))
    return change_zone(project, zone_id, coat=coat, hairs=(*zone.hairs, pairs(points)))


def remove_hair(project: Project, zone_id: str, index: int) -> Project:
    """Drop a measured hair; the zone's length stays, but goes back to its default with the last of them."""
    zone = project.zone(zone_id)
    if zone is None or not 0 <= index < len(zone.hairs):
        return project
    hairs = zone.hairs[:index] + zone.hairs[index + 1 :]
    if not hairs:
        return change_zone(project, zone_id, hairs=(), coat=replace(zone.coat, length_mm=None))
    lengths = [line_length(as_array(h)) for h in zone.hairs]
    if zone.coat.length_mm is None:
        return change_zone(project, zone_id, hairs=hairs)
    kept = [v for k, v in enumerate(lengths) if k != index]
    ratio = float(np.exp(np.mean(np.log(kept)) - np.mean(np.log(lengths))))
    coat = replace(zone.coat, length_mm=round(zone.coat.length_mm * ratio, 2))
    return change_zone(project, zone_id, hairs=hairs, coat=coat)


def reset_coat(project: Project, zone_id: str) -> Project:
    """Give a zone's whole coat back to its kind's default, and drop its measured hairs."""
    return change_zone(project, zone_id, coat=CoatEdit(), hairs=())


def set_falloff(project: Project, falloff: float) -> Project:
    """Say how much broader marks become away from the focal point, 0 to 1."""
    return replace(project, falloff=round(min(max(falloff, 0.0), 1.0), 3))


def set_focal_order(project: Project, order: str) -> Project:
    """Say whether the focal area is painted first, last, or when its turn comes. Raises `InputError` for others."""
    if order not in FOCAL_ORDERS:
        raise InputError(f"There is no order '{order}'.", "Choose back to front, focal area first, or last.")
    return replace(project, focal_order=order)


def _checked(brush: Brush) -> Brush:
    if brush.shape not in SHAPES:
        raise InputError(f"There is no brush '{brush.shape}'.", f"Shapes are {', '.join(SHAPES)}.")
    if not 0.1 <= brush.width_mm <= 150:
        raise InputError(f"A brush {brush.width_mm:g} mm wide cannot be.", "Give 0.1 to 150 mm.")
    if brush.state not in STATES:
        raise InputError(f"A brush cannot be '{brush.state}'.", f"States are {', '.join(STATES)}.")
    edge = brush.edge_mm
    if edge is not None and not 0 < edge <= brush.width_mm:
        raise InputError(f"An edge of {edge:g} mm cannot be.", f"Give up to {brush.width_mm:g} mm, the brush's width.")
    return replace(
        brush,
        width_mm=round(brush.width_mm, 2),
        wear=min(max(int(brush.wear), 0), 99),
        edge_mm=None if edge is None else round(edge, 3),
        count=min(max(int(brush.count), 1), 99),
    )


def add_brush(project: Project, brush: Brush) -> Project:
    """Add a brush to the kit. Raises `InputError` for a shape or width that cannot be, or a kit that is full."""
    if len(project.kit) >= MOST_BRUSHES:
        raise InputError(f"The kit holds {MOST_BRUSHES} brushes.", "Take one out first.")
    return replace(project, kit=(*project.kit, _checked(brush)))


def change_brush(project: Project, index: int, brush: Brush) -> Project:
    """Change a brush of the kit. Raises `InputError` for a shape or width that cannot be."""
    if not 0 <= index < len(project.kit):
        return project
    return replace(project, kit=(*project.kit[:index], _checked(brush), *project.kit[index + 1 :]))


def remove_brush(project: Project, index: int) -> Project:
    """Take a brush out of the kit."""
    return replace(project, kit=tuple(b for k, b in enumerate(project.kit) if k != index))


def take_kit(project: Project, kit: Sequence[Brush]) -> Project:
    """Paint with another kit, 1 to 60 brushes. Raises `InputError` for one that is empty, too large, or holds what cannot be."""
    if not 1 <= len(kit) <= MOST_BRUSHES:
        raise InputError(f"A kit of {len(kit)} brushes cannot be.", f"Give 1 to {MOST_BRUSHES}.")
    return replace(project, kit=tuple(_checked(brush) for brush in kit))


def like_brush(project: Project, zone_id: str, act: str, brush: Brush | None) -> Project:
    """Ask for a brush in a pass (by its key) for one zone; None leaves the choice to the plan again."""
    zone = project.zone(zone_id)
    if zone is None:
        return project
    others = tuple(one for one in zone.brushes if one.act != act)
    liked = others if brush is None else (*others, LikedBrush(act, brush))
    return change_zone(project, zone_id, brushes=liked)


def usual_kit(project: Project) -> Project:
    """Give the kit back to the one that ships."""
    return replace(project, kit=DEFAULT_KIT)


def add_fan(project: Project, zone_id: str, first: Points, last: Points, count: int) -> tuple[Project, str]:
    """Draw a zone's flight feathers by the first, the last and their count; returns the project and the fan's id.

    Raises
    ------
    InputError
        When a stroke is too short, or the count is not 2 to 40.
    """
    for line in (first, last):
        if len(line) < 2 or line_length(line) < 4 * SHORTEST_COMB_PX:
            raise InputError("That feather is too short.", "Draw its shaft from root to tip.")
    if not 2 <= count <= MOST_IN_FAN:
        raise InputError(f"A fan of {count} feathers cannot be drawn.", f"Give 2 to {MOST_IN_FAN}.")
    fan = Fan(f"f{project.next_id}", zone_id, pairs(first), pairs(last), count)
    return replace(project, fans=(*project.fans, fan), next_id=project.next_id + 1), fan.id


def set_fan_count(project: Project, fan_id: str, count: int) -> Project:
    """Change how many feathers a fan has, 2 to 40."""
    count = min(max(count, 2), MOST_IN_FAN)
    return replace(project, fans=tuple(replace(f, count=count) if f.id == fan_id else f for f in project.fans))


def remove_fan(project: Project, fan_id: str) -> Project:
    """Take a fan away."""
    return replace(project, fans=tuple(f for f in project.fans if f.id != fan_id))


def set_form(project: Project, zone_id: str, **changes: Any) -> Project:
    """Say what form a zone has: kind (key of `FORMS`), line (two points) and turn_deg (0 to 85).

    Raises
    ------
    InputError
        When there is no such form, or a line is no longer than a pixel.
    """
    zone = project.zone(zone_id)
    if zone is None:
        return project
    form = replace(zone.form, **changes)
    if form.kind not in FORMS:
        raise InputError(f"There is no form '{form.kind}'.", "Forms are ball, cylinder and plane.")
    line = form.line
    if line and (len(line) != 2 or np.hypot(line[1][0] - line[0][0], line[1][1] - line[0][1]) < 2):
        raise InputError("That line is too short.", "Drag further.")
    form = Form(form.kind, pairs(np.array(line)) if line else (), round(min(max(form.turn_deg, 0.0), 85.0), 1))
    return change_zone(project, zone_id, form=form)


def set_tract(project: Project, zone_id: str, **values: float | None) -> Project:
    """Decide how a zone's feathers are laid; None gives a number back to the default."""
    zone = project.zone(zone_id)
    if zone is None:
        return project
    kept = {
        name: None if value is None else round(min(max(value, TRACT_RANGES[name][0]), TRACT_RANGES[name][1]), 3)
        for name, value in values.items()
    }
    return change_zone(project, zone_id, tract=replace(zone.tract, **kept))
