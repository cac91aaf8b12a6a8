"""Photographs of the canvas, and what is said of touch-ups."""

import math
from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any

from foxpath.core.arrays import Points
from foxpath.core.days.studio import iso
from foxpath.core.errors import InputError
from foxpath.core.progress.spots import BORDERS
from foxpath.core.progress.touches import MOST as MOST_TOUCHES
from foxpath.core.progress.touches import OWN, SAME_MM, Touch, checked
from foxpath.document.model import CanvasPhoto, LeftAlone, Project, Reference, pairs
from foxpath.document.photos import MOST as MOST_PHOTOS

LEAST_PATCH, MOST_ALONE = 3, 100


def add_photo(project: Project, reference: Reference, moment: datetime, after: str = "") -> tuple[Project, str]:
    """Add a photograph of the canvas; the same bytes are kept once. Returns the project and the photograph's id.

    Parameters
    ----------
    project : Project
    reference : Reference
        From `document.photos.kept_photo`.
    moment : datetime
        When it was taken, local.
    after : str
        Key of the last pass that was done; empty for the last that is known.

    Raises
    ------
    InputError
        When the project is full of them.
    """
    same = next((one for one in project.photos if one.reference.digest == reference.digest), None)
    if same is not None:
        return project, same.id
    if len(project.photos) >= MOST_PHOTOS:
        raise InputError(f"The project holds {MOST_PHOTOS} photographs of the canvas.", "Take the earliest out first.")
    made = CanvasPhoto(f"f{project.next_id}", reference, iso(moment.replace(tzinfo=None)), after)
    photos = tuple(sorted((*project.photos, made), key=lambda one: one.taken))
    return replace(project, photos=photos, next_id=project.next_id + 1), made.id


def remove_photo(project: Project, photo_id: str) -> Project:
    """Take a photograph out; what was said of its touch-ups stays."""
    return replace(project, photos=tuple(one for one in project.photos if one.id != photo_id))


def change_photo(project: Project, photo_id: str, **changes: Any) -> Project:
    """Change a photograph's `after`, `corners` (four, or none to have them found), `spots`, `border` or `taken`.

    Raises
    ------
    InputError
        When there is no such photograph, its corners are not four, or there is no such border.
    """
    one = project.photo(photo_id)
    if one is None:
        raise InputError("There is no such photograph.", "Choose one of the list.")
    corners = changes.get("corners", ())
    if len(corners) not in (0, 4):
        raise InputError("A canvas has four corners.", "Give all four, clockwise from its top left.")
    if changes.get("border", "") not in ("", *BORDERS):
        raise InputError(f"“{changes['border']}” is no border.", f"Say {', '.join(BORDERS)}, or nothing.")
    made = replace(one, **changes)
    photos = tuple(sorted((made if other is one else other for other in project.photos), key=lambda p: p.taken))
    return replace(project, photos=photos)


def same_touch(project: Project, kind: str, at: tuple[float, float]) -> Touch | None:
    """Return what was said of a touch-up of a kind at about a place (reference pixels); None when nothing was."""
    near = [
        (math.dist(one.at, at) * project.mm_per_px, one) for one in project.touches if one.kind == kind and kind != OWN
    ]
    best = min(near, key=lambda pair: pair[0], default=None)
    return best[1] if best is not None and best[0] <= SAME_MM else None


def say_touch(project: Project, touch: Touch) -> Project:
    """Say something of a touch-up: what was said of the same one before is replaced; an empty id makes a new one.

    Raises
    ------
    InputError
        For a kind or word that is none, a part that is not there, or too many.
    """
    made = checked(touch)
    if made.zone and project.zone(made.zone) is None:
        raise InputError("The part of this touch-up is not there any more.", "Choose it again.")
    before = next((one for one in project.touches if one.id == made.id), None) if made.id else None
    before = before or same_touch(project, made.kind, made.at)
    if before is not None:
        made = replace(made, id=before.id)
        return replace(project, touches=tuple(made if one is before else one for one in project.touches))
    if len(project.touches) >= MOST_TOUCHES:
        raise InputError(f"The list holds {MOST_TOUCHES} touch-ups.", "Strike some out first.")
    made = replace(made, id=f"t{project.next_id}")
    return replace(project, touches=(*project.touches, made), next_id=project.next_id + 1)


def forget_touch(project: Project, touch_id: str) -> Project:
    """Take back what was said of a touch-up."""
    return replace(project, touches=tuple(one for one in project.touches if one.id != touch_id))


def leave_alone(project: Project, patch: Points, after: str = "") -> Project:
    """Leave an area alone: nothing in it is judged, and after a pass nothing more is laid there.

    Parameters
    ----------
    project : Project
    patch : (n, 2) array
        Its outline, reference pixels.
    after : str
        Key of the last pass that is laid there; empty lets every pass be laid.

    Raises
    ------
    InputError
        For an area without an inside, or a pass there is none of.
    """
    if len(patch) < LEAST_PATCH:
        raise InputError("An area needs three points at least.", "Draw round it.")
    if after and after not in project.roles:
        raise InputError(f"There is no pass '{after}'.", f"Passes are {', '.join(project.roles)}.")
    if len(project.left_alone) >= MOST_ALONE:
        raise InputError(f"At most {MOST_ALONE} areas can be left alone.", "Take one back first.")
    return replace(project, left_alone=(*project.left_alone, LeftAlone(pairs(patch), after)))


def leave_after(project: Project, number: int, after: str) -> Project:
    """Say after which pass an area that is left alone stays as it is. Raises `InputError` as `leave_alone`, or for no such area."""
    if not 0 <= number < len(project.left_alone):
        raise InputError("There is no such area.", "Draw round one.")
    if after and after not in project.roles:
        raise InputError(f"There is no pass '{after}'.", f"Passes are {', '.join(project.roles)}.")
    made = replace(project.left_alone[number], after=after)
    return replace(project, left_alone=tuple(made if k == number else one for k, one in enumerate(project.left_alone)))


def judge_again(project: Project, numbers: Sequence[int] | None = None) -> Project:
    """Take areas back that were left alone: those of some numbers, else all."""
    gone = set(range(len(project.left_alone)) if numbers is None else numbers)
    return replace(project, left_alone=tuple(one for k, one in enumerate(project.left_alone) if k not in gone))
