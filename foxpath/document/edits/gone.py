"""Parts the painting does without, and parts it has elsewhere than the photograph."""

from dataclasses import replace
from typing import Any

import numpy as np

from foxpath.core.errors import InputError
from foxpath.document.edits.zones import remove_zone
from foxpath.document.model import Gone, Project, as_array
from foxpath.document.places import carried, lying_in

MOST_GONE = 40
LEAST_PX = 0.5
"""A part that is moved by less stays where it is."""


def leave_out_part(project: Project, zone_id: str) -> Project:
    """Do without a part: its outline goes, and what lies behind is carried on over its place in the picture.

    Raises
    ------
    InputError
        When there is no such part, it is the whole canvas, or too many have gone.
    """
    zone = _part(project, zone_id)
    earlier = _moved_by(project, zone_id)
    if earlier is not None:
        # It has been moved before: its own place is the one it came from.
        project, zone = bring_back(project, earlier.id), earlier.zone
    _room(project)
    eyes, features = lying_in(project, zone)
    one = Gone(f"g{project.next_id}", zone, project.combs_of(zone_id), eyes, features)
    project = replace(
        project,
        gone=(*project.gone, one),
        next_id=project.next_id + 1,
        eyes=tuple(eye for eye in project.eyes if eye not in eyes),
        features=tuple(feature for feature in project.features if feature not in features),
    )
    return remove_zone(project, zone_id)


def move_part(project: Project, zone_id: str, by: tuple[float, float]) -> Project:
    """Move a part, with what was said of its growth and the eye in it, by (dx, dy) reference pixels; what lies behind is carried on over its place.

    Raises
    ------
    InputError
        As `leave_out_part`, and when it would come to lie off the picture.
    """
    zone = _part(project, zone_id)
    dx, dy = (float(v) for v in by)
    if not np.isfinite([dx, dy]).all():
        raise InputError("The part cannot be moved so far.", "Drag it to a place on the picture.")
    if np.hypot(dx, dy) < LEAST_PX:
        return project
    earlier = _moved_by(project, zone_id)
    start = earlier.to[0] if earlier is not None else zone.middle()
    x, y = zone.middle()
    end = (round(x + dx, 2), round(y + dy, 2))
    if not (0 <= end[0] < project.reference.width and 0 <= end[1] < project.reference.height):
        raise InputError("The part would lie off the picture.", "Drag it to a place on the picture.")
    if earlier is None:
        _room(project)
        one = Gone(f"g{project.next_id}", zone, project.combs_of(zone_id), to=(start, end))
        project = replace(project, gone=(*project.gone, one), next_id=project.next_id + 1)
    else:
        moved = replace(earlier, to=(start, end))
        project = replace(project, gone=tuple(moved if one is earlier else one for one in project.gone))
    return carried(project, zone_id, (dx, dy))


def bring_back(project: Project, gone_id: str) -> Project:
    """Take a part back that was left out, in front of what it stood before, or to where it was moved from. Raises `InputError` for no such part."""
    one = next((gone for gone in project.gone if gone.id == gone_id), None)
    if one is None:
        raise InputError("There is no such part.", "Choose one of the list.")
    left = replace(project, gone=tuple(gone for gone in project.gone if gone is not one))
    if one.to:
        (x0, y0), (x1, y1) = one.to
        there = left.zone(one.zone.id)
        return carried(left, one.zone.id, (x0 - x1, y0 - y1)) if there is not None else left
    if left.zone(one.zone.id) is not None:
        return left
    return replace(
        left,
        zones=(*left.zones, one.zone),
        combs=(*left.combs, *one.combs),
        eyes=(*left.eyes, *one.eyes),
        features=(*left.features, *one.features),
    )


def _part(project: Project, zone_id: str) -> Any:
    zone = project.zone(zone_id)
    if zone is None:
        raise InputError("There is no such part.", "Choose one of the list.")
    if zone.whole or len(as_array(zone.points)) < 3:
        raise InputError("The whole canvas can neither go nor be moved.", "Choose a part with an outline.")
    return zone


def _moved_by(project: Project, zone_id: str) -> Gone | None:
    return next((one for one in project.gone if one.zone.id == zone_id and one.to), None)


def _room(project: Project) -> None:
    if len(project.gone) >= MOST_GONE:
        raise InputError(f"At most {MOST_GONE} parts can be left out or moved.", "Bring one back first.")
