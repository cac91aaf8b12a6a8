"""The Reference stop: shelf, correction, seeing, spots, light, transfer."""

from dataclasses import replace
from typing import Any

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.errors import InputError
from foxpath.core.frame import Crop
from foxpath.core.reference import canvas_for, fitted
from foxpath.core.reference.compose import Pose, inverse, mapped, pose_of
from foxpath.core.reference.correction import COOLEST_K, WARMEST_K
from foxpath.core.reference.light import BEHIND_DEG, Catchlight, Light
from foxpath.core.reference.squint import POSTER_STEPS
from foxpath.core.reference.transfer import Axes, without
from foxpath.document import places
from foxpath.document.model import ROLES_OF_LENT, Lent, Project, Reference, as_array, pairs
from foxpath.document.pictures import reference_of

MOST_LENT = 24


MOST_BYTES = 768 * 1024 * 1024
"""All pictures of a project together; what is saved must also open."""


MOST_SPOTS = 12


_SHARE = 0.6
"""How large a further picture first lies on the main one, as a share of it."""


Point = tuple[float, float]


def _between(value: float, least: float, most: float) -> float:
    return min(max(float(value), least), most)


def lend(project: Project, data: bytes, file_name: str, role: str = "detail", note: str = "") -> tuple[Project, str]:
    """Put a further picture on the shelf; returns the project and the picture's id.

    Raises
    ------
    PictureError
        When the bytes are no picture that can be read.
    InputError
        When it is there already, or the shelf is full.
    """
    reference = reference_of(file_name, data)
    all_there = (project.reference, *(one.reference for one in project.shelf))
    if any(one.digest == reference.digest for one in all_there):
        raise InputError(f"{file_name} is on the shelf already.", "Choose it in the shelf, or add another picture.")
    if len(project.shelf) >= MOST_LENT:
        raise InputError(f"The shelf holds {MOST_LENT} further pictures.", "Take one off before you add another.")
    if sum(len(one.data) for one in all_there) + len(data) > MOST_BYTES:
        raise InputError("The pictures together would be too large to keep in one file.", "Take one off the shelf.")
    main = project.reference
    scale = _SHARE * min(main.width / reference.width, main.height / reference.height)
    crop = project.crop
    pose = Pose(crop.x + crop.width / 2, crop.y + crop.height / 2, round(scale, 5))
    lent_id = f"r{project.next_id}"
    lent = Lent(lent_id, reference, role, note, pose)
    return replace(project, shelf=(*project.shelf, lent), next_id=project.next_id + 1), lent_id


def change_lent(project: Project, lent_id: str, **changes: Any) -> Project:
    """Change a further picture's role, note, cut, softness (0 to 40 mm), or whether its part is placed."""
    if "note" in changes:
        changes["note"] = str(changes["note"]).strip()[:200]
    if changes.get("role", "detail") not in ROLES_OF_LENT:
        raise InputError(f"There is no role '{changes['role']}'.", f"Roles are {', '.join(ROLES_OF_LENT)}.")
    if "soft_mm" in changes:
        changes["soft_mm"] = round(_between(changes["soft_mm"], 0, 40), 2)
    return replace(project, shelf=tuple(replace(v, **changes) if v.id == lent_id else v for v in project.shelf))


def note_main(project: Project, note: str) -> Project:
    """Write a note on the main picture."""
    return replace(project, main_note=note.strip()[:200])


def pose_lent(project: Project, lent_id: str, **changes: Any) -> Project:
    """Move, scale (0.02 to 50), turn (degrees) or mirror a further picture on the main one."""
    lent = project.lent(lent_id)
    if lent is None:
        return project
    if "scale" in changes:
        changes["scale"] = round(_between(changes["scale"], 0.02, 50), 5)
    if "turn_deg" in changes:
        changes["turn_deg"] = round((float(changes["turn_deg"]) + 180) % 360 - 180, 2)
    for key in ("x", "y"):
        if key in changes:
            changes[key] = round(float(changes[key]), 2)
    return change_lent(project, lent_id, pose=replace(lent.pose, **changes))


def cut_lent(project: Project, lent_id: str, points: Points) -> Project:
    """Cut a part out of a further picture by its outline (its own pixels), and place it.

    Raises
    ------
    InputError
        When the outline has fewer than three points.
    """
    if len(points) < 3:
        raise InputError("An outline needs three points or more.", "Draw round the part in one stroke.")
    return change_lent(project, lent_id, cut=pairs(points), placed=True)


def take_off(project: Project, lent_id: str) -> Project:
    """Take a further picture off the shelf, with the growth that was borrowed from it."""
    left = tuple(one for one in project.shelf if one.id != lent_id)
    return places.without(replace(project, shelf=left), lent_id)


def make_main(project: Project, lent_id: str) -> Project:
    """Make a further picture the main one; the main one goes on the shelf in its place.

    What was drawn on the main picture is carried over by how the other lay on it. The correction was made
    for the old picture and is given up.
    """
    lent = project.lent(lent_id)
    if lent is None:
        return project
    old, new = project.reference, lent.reference
    back = inverse(lent.pose.affine(new.width, new.height))

    def posed(one: Lent) -> Lent:
        width, height = one.reference.width, one.reference.height
        return replace(one, pose=pose_of(_after(back, one.pose.affine(width, height)), width, height))

    returned = replace(
        lent, reference=old, pose=pose_of(back, old.width, old.height), cut=(), placed=False, note=project.main_note
    )
    # The picture that lent its growth is the main one now.
    made = places.moved(places.without(project, lent_id), back)
    made = replace(
        made,
        reference=new,
        main_note=lent.note,
        crop=_crop_on(project, new, back),
        # A drawing keeps its corners; what was marked on it lies where the canvas lay.
        drawing=replace(project.drawing, marked=()) if project.drawing is not None else None,
        shelf=tuple(returned if one.id == lent_id else posed(one) for one in project.shelf),
        correction=replace(project.correction, grey=None, light_k=None, exposure=0.0, lift=0.0),
    )
    # A picture that lay small on the old one has little of what was drawn there.
    return places.nearby(made)


def _crop_on(project: Project, new: Reference, back: F64) -> Crop:
    """Return the crop carried over to another picture; the usual one where hardly any of it lies on that."""
    c = project.crop
    corners = [(c.x, c.y), (c.x + c.width, c.y), (c.x, c.y + c.height), (c.x + c.width, c.y + c.height)]
    carried = mapped(back, np.array(corners))
    (x0, y0), (x1, y1) = carried.min(axis=0), carried.max(axis=0)
    x0, x1 = max(x0, 0.0), min(x1, float(new.width))
    y0, y1 = max(y0, 0.0), min(y1, float(new.height))
    if x1 - x0 <= 16 or y1 - y0 <= 16:
        return canvas_for(new.width, new.height, project.canvas)
    return fitted(Crop(x0, y0, x1 - x0, y1 - y0), new.width, new.height, project.canvas)


def _after(outer: F64, inner: F64) -> F64:
    return np.column_stack([outer[:, :2] @ inner[:, :2], outer[:, :2] @ inner[:, 2] + outer[:, 2]])


def set_correction(project: Project, **changes: Any) -> Project:
    """Decide on white balance, exposure (-3 to 3 stops) and lift (0 to 1); the picture itself stays as it came.

    Raises
    ------
    InputError
        When the grey spot lies off the picture.
    """
    made = replace(project.correction, **changes)
    if made.grey is not None:
        x, y = made.grey
        if not (0 <= x < project.reference.width and 0 <= y < project.reference.height):
            raise InputError("That spot lies off the picture.", "Pick something grey on the picture.")
        made = replace(made, grey=(round(x, 1), round(y, 1)))
    light_k = None if made.light_k is None else round(_between(made.light_k, WARMEST_K, COOLEST_K))
    made = replace(
        made,
        light_k=light_k,
        exposure=round(_between(made.exposure, -3, 3), 2),
        lift=round(_between(made.lift, 0, 1), 2),
        radius_px=_between(made.radius_px, 0.5, 2000),
    )
    return replace(project, correction=made)


def set_seeing(project: Project, **changes: Any) -> Project:
    """Decide how the picture is looked at: distance (0.3 to 30 m), values, thresholds (L*), falloff (0 to 1)."""
    made = replace(project.seeing, **changes)
    steps = min(POSTER_STEPS, key=lambda n: abs(n - made.steps))
    cuts = tuple(sorted(round(_between(v, 1, 99), 1) for v in made.cuts))
    made = replace(
        made,
        distance_m=round(_between(made.distance_m, 0.3, 30), 2),
        steps=steps,
        cuts=cuts if len(cuts) == steps - 1 else (),
        falloff=round(_between(made.falloff, 0, 1), 2),
    )
    return replace(project, seeing=made)


def add_spot(project: Project, at: Point) -> Project:
    """Add a spot to the chain; the oldest makes room when it is full."""
    spots = (*project.spots, (round(at[0], 1), round(at[1], 1)))
    return replace(project, spots=spots[-MOST_SPOTS:])


def move_spot(project: Project, index: int, at: Point) -> Project:
    """Move a spot."""
    if not 0 <= index < len(project.spots):
        return project
    spots = list(project.spots)
    spots[index] = (round(at[0], 1), round(at[1], 1))
    return replace(project, spots=tuple(spots))


def remove_spot(project: Project, index: int) -> Project:
    """Take a spot out of the chain."""
    return replace(project, spots=tuple(at for k, at in enumerate(project.spots) if k != index))


def set_spot_mm(project: Project, radius_mm: float) -> Project:
    """Decide the radius a spot is averaged over, 0.2 to 50 mm on the canvas."""
    return replace(project, spot_mm=round(_between(radius_mm, 0.2, 50), 2))


def set_light(project: Project, light: Light | None, **changes: float) -> Project:
    """Say where the light comes from; None gives it back to what is measured."""
    if light is None:
        return replace(project, light=None)
    made = replace(light, **changes)
    made = replace(
        made,
        hour=round(made.hour % 12, 2),
        height_deg=round(_between(made.height_deg, BEHIND_DEG, 90), 1),
        warmth=round(_between(made.warmth, -1, 1), 2),
        hardness=round(_between(made.hardness, 0, 1), 2),
        sky_hour=round(made.sky_hour % 12, 2),
        sky=round(_between(made.sky, 0, 1), 2),
    )
    return replace(project, light=made)


def mark_catchlight(project: Project, catchlight: Catchlight) -> Project:
    """Mark a catchlight; another on the same eye is replaced.

    Raises
    ------
    InputError
        When the spot does not lie on the eye.
    """
    away = np.hypot(*(np.array(catchlight.spot) - catchlight.centre))
    if away >= catchlight.radius:
        raise InputError("That catchlight lies off the eye.", "Click the bright spot on the eyeball.")
    others = tuple(
        one for one in project.catchlights if np.hypot(*(np.array(one.centre) - catchlight.centre)) > one.radius
    )
    return replace(project, catchlights=(*others, catchlight))


def forget_catchlights(project: Project) -> Project:
    """Take every marked catchlight away."""
    return replace(project, catchlights=())


def set_grid(project: Project, **changes: Any) -> Project:
    """Decide the square's side (mm, 0 for the usual one) and whether diagonals are drawn."""
    grid = replace(project.transfer.grid, **changes)
    grid = replace(grid, square_mm=round(_between(grid.square_mm, 0, 1000), 2))
    return replace(project, transfer=replace(project.transfer, grid=grid))


def set_axes(project: Project, axes: Axes | None) -> Project:
    """Say where eye line and midline lie; None takes them from the eyes.

    Raises
    ------
    InputError
        When both points of the eye line lie on one spot.
    """
    if axes is not None and np.hypot(*(np.array(axes.right) - axes.left)) < 2:
        raise InputError("The eye line needs two points apart.", "Put one on each inner corner of the eyes.")
    return replace(project, transfer=replace(project.transfer, axes=axes))


def rub(project: Project, points: Points, reach_px: float) -> Project:
    """Rub lines of the drawing out along a stroke, `reach_px` to each side of it."""
    transfer = project.transfer
    left = without([as_array(line) for line in transfer.drawn], [points], reach_px)
    drawn = tuple(pairs(line) for line in left)
    return replace(project, transfer=replace(transfer, rubbed=(*transfer.rubbed, pairs(points)), drawn=drawn))


def draw_line(project: Project, points: Points) -> Project:
    """Add a line to the drawing; a dot changes nothing."""
    if len(points) < 2:
        return project
    return replace(project, transfer=replace(project.transfer, drawn=(*project.transfer.drawn, pairs(points))))


def clean_lines(project: Project) -> Project:
    """Give the line drawing back as it was found."""
    return replace(project, transfer=replace(project.transfer, rubbed=(), drawn=()))
