"""Walks over a project by what its fields hold: places in pixels, the names of zones and pictures, pictures themselves.

Each field of `Project` says so once (`model.holds`); removing, joining and cutting zones, another main picture, new ids and the
entries of the file all follow from that.
"""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.curves import closed_curve, inside
from foxpath.core.eyes import Ellipse, Eye
from foxpath.core.eyes.eye import LightPlan
from foxpath.core.features import Feature, Stroke
from foxpath.core.lengths import Form
from foxpath.core.reference.light import Catchlight, Light
from foxpath.core.reference.transfer import Axes
from foxpath.document.model import Comb, EdgeStretch, Fan, Holds, Mark, Project, Reference, Transfer, Zone

Place = tuple[float, float]


def held(name: str) -> Holds:
    """Return what a field of the project holds. Raises `KeyError` for one that does not say."""
    found: Holds = next(one for one in fields(Project) if one.name == name).metadata["holds"]
    return found


def _lists() -> Iterator[tuple[str, Holds]]:
    """Return the project's fields that are rows of things with names of zones in them."""
    for one in fields(Project):
        holds: Holds | None = one.metadata.get("holds")
        if holds is not None and (holds.owner or holds.between):
            yield one.name, holds


# Ids and pictures ---------------------------------------------------------------------------------


def ids_of(project: Project) -> set[str]:
    """Return every id in a project: of zones, combs, eyes, pictures …"""
    found: set[str] = set()
    for one in fields(Project):
        value = getattr(project, one.name)
        if isinstance(value, tuple):
            found |= {item.id for item in value if hasattr(item, "id")}
    return found


def pictures_of(project: Project) -> tuple[Reference, ...]:
    """Return every picture a project holds, the main one first; the same bytes may come more than once."""
    found: list[Reference] = []
    for one in fields(Project):
        if one.metadata["holds"].pictures:
            value = getattr(project, one.name)
            for item in value if isinstance(value, tuple) else (value,):
                picture = item if isinstance(item, Reference) else getattr(item, "reference", None)
                if picture is not None:
                    found.append(picture)
    return tuple(found)


# Names of zones and pictures ----------------------------------------------------------------------


def without(project: Project, key: str) -> Project:
    """Return a project without what belongs to a zone or a picture, or lies between it and another."""
    changes: dict[str, Any] = {}
    for name, holds in _lists():
        items = getattr(project, name)
        left = tuple(
            one
            for one in items
            if not (holds.owner and getattr(one, holds.owner) == key)
            and all(getattr(one, other) != key for other in holds.between)
        )
        if len(left) < len(items):
            changes[name] = left
    passes = {
        role: replace(
            edit,
            left_out=_less(edit.left_out, key),
            parts=tuple(one for one in edit.parts if one.zone != key),
        )
        for role, edit in project.passes.items()
    }
    if passes != project.passes:
        changes["passes"] = passes
    return replace(project, **changes) if changes else project


def _less(keys: tuple[str, ...], key: str) -> tuple[str, ...]:
    return tuple(one for one in keys if one != key)


def handed_over(project: Project, old: str, new: str, which: Callable[[Any], bool] | None = None) -> Project:
    """Return a project in which what belonged to one zone belongs to another.

    Parameters
    ----------
    project : Project
    old, new : str
        Ids of zones. What lies between the two goes.
    which : callable, optional
        Tells of a thing (a comb, a fan …) whether it is handed over; all are without.
    """
    changes: dict[str, Any] = {}
    for name, holds in _lists():
        if not holds.owner:
            continue
        items, made = getattr(project, name), []
        for one in items:
            others = {getattr(one, other) for other in holds.between}
            mine = getattr(one, holds.owner) == old and (which is None or which(one))
            if mine and new in others:
                continue
            made.append(replace(one, **{holds.owner: new}) if mine else one)
        if tuple(made) != items:
            changes[name] = tuple(made)
    return replace(project, **changes) if changes else project


def sound(project: Project) -> Project:
    """Return a project without what names a zone or a picture that is not there."""
    zones = {zone.id for zone in project.zones} | {""}
    lent = {one.id for one in project.shelf if len(one.cut) >= 3}
    changes: dict[str, Any] = {}
    for name, holds in _lists():
        items = getattr(project, name)
        left = tuple(
            one
            for one in items
            if (not holds.owner or getattr(one, holds.owner) in zones)
            and all(getattr(one, other) in zones | lent for other in holds.between)
        )
        if len(left) < len(items):
            changes[name] = left
    return replace(project, **changes) if changes else project


# Places in pixels ---------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True, eq=False)
class Move:
    """A map from the pixels of one picture to those of another: it turns, sizes, and perhaps mirrors.

    Attributes
    ----------
    affine : (2, 3) float64
    """

    affine: F64

    @property
    def size(self) -> float:
        """How many pixels one becomes."""
        return math.sqrt(abs(float(np.linalg.det(self.affine[:, :2]))))

    @property
    def mirrors(self) -> bool:
        """Whether left and right are exchanged."""
        return float(np.linalg.det(self.affine[:, :2])) < 0

    def place(self, at: Place) -> Place:
        """Return where a place comes to lie."""
        x, y = self.affine[:, :2] @ np.array(at, np.float64) + self.affine[:, 2]
        return round(float(x), 2), round(float(y), 2)

    def direction_deg(self, deg: float) -> float:
        """Return what a direction (clockwise, 0 to the right) becomes."""
        way = self.affine[:, :2] @ np.array([math.cos(math.radians(deg)), math.sin(math.radians(deg))])
        return math.degrees(math.atan2(way[1], way[0]))

    def hour(self, hour: float) -> float:
        """Return what a direction on the clock becomes (12 is up)."""
        return round((self.direction_deg(30 * hour - 90) + 90) / 30 % 12, 2)


@dataclass(frozen=True, slots=True, eq=False)
class Near(Move):
    """No move: what lies farther off than `least` and `most` (x, y) is brought to them."""

    least: Place = (0.0, 0.0)
    most: Place = (0.0, 0.0)

    def place(self, at: Place) -> Place:
        (x0, y0), (x1, y1) = self.least, self.most
        return min(max(at[0], x0), x1), min(max(at[1], y0), y1)


_PLACES: dict[type, tuple[str, ...]] = {
    Zone: ("points", "hairs", "form"),
    Form: ("line",),
    Comb: ("points",),
    Mark: ("points",),
    EdgeStretch: ("points",),
    Fan: ("first", "last"),
    Eye: ("iris", "pupil", "upper", "lower", "inner", "outer", "lights", "rim", "light"),
    Feature: ("strokes",),
    Stroke: ("points",),
    Catchlight: ("centre", "spot"),
    Axes: ("left", "right", "middle"),
    Transfer: ("axes", "rubbed", "drawn"),
}
"""Which fields of what a project holds lie in the pixels of the main picture; a class may also say so itself, field by field, with
``metadata={"pixels": True}``."""


def _places_in(kind: type) -> tuple[str, ...]:
    """Return the fields of a class that hold places. Raises `TypeError` for one that does not say."""
    if kind in _PLACES:
        return _PLACES[kind]
    own = tuple(one.name for one in fields(kind) if one.metadata.get("pixels"))
    if not own:
        raise TypeError(f"{kind.__name__} lies in pixels, and does not say which of its fields do")
    return own


def _ellipse(one: Ellipse, move: Move) -> Ellipse:
    x, y = move.place(one.centre)
    k = move.size
    deg = round((move.direction_deg(one.deg) + 90) % 180 - 90, 2)
    return Ellipse(x, y, round(one.rx * k, 2), round(one.ry * k, 2), deg)


def _light(one: Light, move: Move) -> Light:
    return replace(one, hour=move.hour(one.hour), sky_hour=move.hour(one.sky_hour))


def _light_plan(one: LightPlan, move: Move) -> LightPlan:
    return one if one.hour is None else replace(one, hour=move.hour(one.hour))


_OWN: dict[type, Callable[[Any, Move], Any]] = {Ellipse: _ellipse, Light: _light, LightPlan: _light_plan}
"""What is no row of places, and moves in a way of its own."""


def _moved(value: Any, move: Move) -> Any:
    kind = type(value)
    if kind in _OWN:
        return _OWN[kind](value, move)
    if isinstance(value, tuple):
        if len(value) == 2 and all(isinstance(v, (int, float)) for v in value):
            return move.place(value)
        return tuple(_moved(one, move) for one in value)
    if not is_dataclass(value) or isinstance(value, type):
        return value
    made = replace(value, **{name: _moved(getattr(value, name), move) for name in _places_in(kind)})
    if isinstance(made, Mark) and made.kind == "crown" and move.mirrors:
        # A crown that circles clockwise circles the other way in the mirror.
        return replace(made, turn_deg=-made.turn_deg)
    return replace(made, radius=made.radius * move.size) if isinstance(made, Catchlight) else made


FARTHEST = 3.0
"""Places may lie this many times a picture's longer side beyond it, and no farther: marks would be laid out there for ever."""


def nearby(project: Project) -> Project:
    """Return a project in which nothing lies farther off the picture than makes sense; itself when nothing does."""
    width, height = project.reference.width, project.reference.height
    room = FARTHEST * max(width, height)
    near = Near(np.eye(2, 3), (-room, -room), (width + room, height + room))
    names = [one.name for one in fields(Project) if one.metadata["holds"].pixels]
    changed = {name: _moved(getattr(project, name), near) for name in names}
    # Numbers that are near are kept to the last digit.
    changed = {name: value for name, value in changed.items() if _far(getattr(project, name), near)}
    return replace(project, **changed) if changed else project


LIDS = 8.0
"""Lids, corners and lights of an eye lie within so many radii of its iris."""


def eye_nearby(eye: Eye) -> Eye:
    """Return an eye whose lids, corners and lights lie about its iris; itself when they do."""
    (x, y), room = eye.iris.centre, LIDS * max(eye.iris.rx, eye.iris.ry)
    near = Near(np.eye(2, 3), (x - room, y - room), (x + room, y + room))
    names = ("upper", "lower", "inner", "outer", "lights", "rim")
    far = {name: _moved(getattr(eye, name), near) for name in names if _far(getattr(eye, name), near)}
    return replace(eye, **far) if far else eye


def _far(value: Any, near: Near) -> bool:
    """Tell whether any place in a value lies too far off."""
    if isinstance(value, Ellipse):
        return near.place(value.centre) != value.centre
    if type(value) in _OWN:
        return False
    if isinstance(value, tuple):
        if len(value) == 2 and all(isinstance(v, (int, float)) for v in value):
            return near.place(value) != value
        return any(_far(one, near) for one in value)
    if not is_dataclass(value) or isinstance(value, type):
        return False
    return any(_far(getattr(value, name), near) for name in _places_in(type(value)))


def carried(project: Project, zone_id: str, by: Place) -> Project:
    """Return a project in which a zone lies elsewhere, by (dx, dy), with all that belongs to it and the eyes that lie in it."""
    move = Move(np.array([[1.0, 0.0, by[0]], [0.0, 1.0, by[1]]]))
    zone = project.zone(zone_id)
    if zone is None:
        return project
    changes: dict[str, Any] = {"zones": tuple(_moved(z, move) if z is zone else z for z in project.zones)}
    for name, holds in _lists():
        if holds.owner and holds.pixels:
            items = getattr(project, name)
            changes[name] = tuple(_moved(one, move) if getattr(one, holds.owner) == zone_id else one for one in items)
    eyes, features = lying_in(project, zone)
    changes["eyes"] = tuple(_moved(one, move) if one in eyes else one for one in project.eyes)
    changes["features"] = tuple(_moved(one, move) if one in features else one for one in project.features)
    return replace(project, **changes)


def lying_in(project: Project, zone: Zone) -> tuple[tuple[Eye, ...], tuple[Feature, ...]]:
    """Return the eyes and the features whose middles lie in a zone, and in none that covers it there."""
    outline = closed_curve(np.array(zone.points))
    over = [
        closed_curve(np.array(z.points))
        for z in project.zones
        if z.kind_of().cover and not z.whole and z.depth > zone.depth
    ]

    def mine(one: Eye | Feature) -> bool:
        return _lies_in(one, outline) and not any(_lies_in(one, other) for other in over)

    return tuple(one for one in project.eyes if mine(one)), tuple(one for one in project.features if mine(one))


def _lies_in(one: Eye | Feature, outline: F64) -> bool:
    """Tell whether an eye's middle, or a feature's, lies in an outline."""
    middle = one.iris.centre if isinstance(one, Eye) else one.middle()
    if middle is None:
        return False
    x, y = middle
    return bool(inside(outline, np.array([x]), np.array([y]))[0])


def moved(project: Project, affine: F64) -> Project:
    """Return a project whose places have been carried over to another picture by a (2, 3) map; the crop is not."""
    move = Move(affine)
    names = [one.name for one in fields(Project) if one.metadata["holds"].pixels]
    return replace(project, **{name: _moved(getattr(project, name), move) for name in names})
