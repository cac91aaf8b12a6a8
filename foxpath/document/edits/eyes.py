"""The Eyes stop: eyes, features, the drawing that is checked."""

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from foxpath.core.arrays import Points
from foxpath.core.curves import closed_curve, inside, line_length, resample, simplify
from foxpath.core.errors import InputError
from foxpath.core.eyes import LIGHT_WAYS, PUPILS, Ellipse, Eye, FoundEye, LightPlan, fit_ellipse, usual_pupil
from foxpath.core.features import FEATURES, Feature, Stroke, check_corners
from foxpath.document.edits.zones import add_zone
from foxpath.document.model import Drawing, Pairs, Project, Zone, as_array, pairs
from foxpath.document.pictures import reference_of

MOST_EYES, MOST_FEATURES, MOST_LIGHTS = 12, 60, 4
LID_POINTS = 9


_CLICK_PX = 1.5
"""Usual error of a click, reference pixels on a picture of usual size."""


Place = tuple[float, float]


def _place(at: Place) -> Place:
    return round(float(at[0]), 2), round(float(at[1]), 2)


def _ellipse(one: Ellipse) -> Ellipse:
    return Ellipse(*(round(float(v), 2) for v in (one.cx, one.cy, max(one.rx, 0.5), max(one.ry, 0.5), one.deg)))


def eye_zone(project: Project, at: Place) -> Zone | None:
    """Return the eye's zone at a place: the front-most of that kind whose outline holds it, or None."""
    for zone in reversed(project.back_to_front()):
        if zone.kind == "eye" and not zone.whole:
            outline = closed_curve(as_array(zone.points))
            if bool(inside(outline, np.array([at[0]]), np.array([at[1]]))[0]):
                return zone
    return None


def lids_of(outline: Points) -> tuple[Pairs, Pairs, Place, Place]:
    """Return upper and lower lid and both corners (left, right) of an eye's outline.

    The corners are where it is farthest apart.
    """
    gaps = np.hypot(*(outline[:, None] - outline[None]).transpose(2, 0, 1))
    left, right = np.unravel_index(int(np.argmax(gaps)), gaps.shape)
    if outline[left, 0] > outline[right, 0]:
        left, right = right, left
    turned = np.roll(outline, -int(left), axis=0)
    cut = int(right - left) % len(outline)
    one, other = turned[: cut + 1], np.vstack([turned[cut:], turned[:1]])[::-1]
    if one[:, 1].mean() > other[:, 1].mean():
        one, other = other, one
    upper, lower = (pairs(resample(line, LID_POINTS)) for line in (one, other))
    return upper, lower, upper[0], upper[-1]


def _toward_nose(project: Project, at: Place, left: Place, right: Place) -> tuple[Place, Place]:
    """Return the inner and the outer of two corners: the inner lies toward the nose, the other eye, or the crop's middle."""
    nose, others = project.nose, [eye.iris.centre for eye in project.eyes if math.dist(eye.iris.centre, at) > 1]
    others += [
        z.middle()
        for z in project.zones
        if z.kind == "eye" and not z.whole and math.dist(z.middle(), at) > math.dist(left, right)
    ]
    if others:
        toward = min(others, key=lambda place: math.dist(place, at))
    else:
        toward = nose or (project.crop.x + project.crop.width / 2, project.crop.y)
    return (left, right) if math.dist(left, toward) < math.dist(right, toward) else (right, left)


def add_eye(project: Project, found: FoundEye, name: str = "") -> tuple[Project, str]:
    """Add an eye that was found; the one it lies on is replaced. Returns the project and the eye's id.

    Its lids are those of the zone it lies in; without a zone it is given one, so that it is painted.

    Raises
    ------
    InputError
        When there are too many eyes.
    """
    same = next((e for e in project.eyes if math.dist(e.iris.centre, found.iris.centre) < e.iris.radius), None)
    others = tuple(e for e in project.eyes if e is not same)
    if len(others) >= MOST_EYES:
        raise InputError(f"There are {MOST_EYES} eyes already.", "Take one away first.")
    at = found.iris.centre
    zone = eye_zone(project, at)
    if zone is not None:
        upper, lower, left, right = lids_of(closed_curve(as_array(zone.points), 10))
    else:
        upper, lower = found.upper, found.lower
        left, right = _corners_of(found)
    inner, outer = _toward_nose(project, at, left, right)
    eye_id = same.id if same is not None else f"y{project.next_id}"
    title = name or (same.name if same is not None else zone.name if zone is not None else _eye_name(project, at))
    # The painting's word on catchlights is for eyes that are still to come too.
    light = same.light if same is not None else LightPlan(way=project.ways.catchlight or LightPlan().way)
    marked = zone is not None or bool(upper and lower)
    eye = Eye(
        eye_id, title, _ellipse(found.iris), _ellipse(found.pupil), found.pupil_kind, upper, lower,
        _place(inner) if marked else None, _place(outer) if marked else None, found.lights[:MOST_LIGHTS], (), light,
        round(float(found.sure), 3),
    )  # fmt: skip
    made = replace(project, eyes=(*others, eye), next_id=project.next_id + (same is None))
    return (made if zone is not None else _with_zone(made, eye)), eye_id


def _corners_of(found: FoundEye) -> tuple[Place, Place]:
    """Return the left and the right corner where both lids are known: where they meet, else beside the iris."""
    if found.upper and found.lower:
        return found.upper[0], found.upper[-1]
    r = found.iris.radius
    return (found.iris.cx - 1.15 * r, found.iris.cy), (found.iris.cx + 1.15 * r, found.iris.cy)


def _eye_name(project: Project, at: Place) -> str:
    if not project.eyes:
        return "Eye"
    taken = {eye.name for eye in project.eyes}
    side = "Left eye" if at[0] < project.eyes[0].iris.cx else "Right eye"
    return side if side not in taken else f"Eye {len(project.eyes) + 1}"


def _with_zone(project: Project, eye: Eye) -> Project:
    """Give an eye a zone of its own, in front of everything: what its lids leave open."""
    outline = eye.opening()
    points = resample(np.vstack([outline, outline[:1]]), 17)[:-1]
    return add_zone(project, eye.name, "eye", points)[0]


def mark_rim(project: Project, points: Points, pupil_kind: str = "round") -> tuple[Project, str]:
    """Make an eye from clicks on its iris's rim; returns the project and the eye's id.

    Raises
    ------
    InputError
        With fewer than three clicks, or clicks on a line.
    """
    iris, _ = fit_ellipse(points, error_px=_CLICK_PX)
    iris = _ellipse(iris)
    found = FoundEye(iris, usual_pupil(iris, pupil_kind), pupil_kind, (), (), (), 1.0, 0.0, ())
    made, eye_id = add_eye(project, found)
    return change_eye(made, eye_id, rim=pairs(points)), eye_id


def rim_residual(eye: Eye) -> float:
    """Return the root mean square distance of the clicks from the iris's rim, reference pixels; 0 without clicks."""
    if len(eye.rim) < 3:
        return 0.0
    from foxpath.core.eyes.fit import distances

    return float(np.sqrt((distances(eye.iris, as_array(eye.rim)) ** 2).mean()))


def change_eye(project: Project, eye_id: str, **changes: Any) -> Project:
    """Change fields of an eye: name, iris, pupil, pupil_kind, upper, lower, inner, outer, lights, rim.

    Raises
    ------
    InputError
        For a pupil that does not exist, or a pupil or catchlight far off the iris.
    """
    eye = project.eye(eye_id)
    if eye is None:
        return project
    if changes.get("pupil_kind", "round") not in PUPILS:
        raise InputError(f"There is no pupil '{changes['pupil_kind']}'.", f"Pupils are {', '.join(PUPILS)}.")
    for name in ("iris", "pupil"):
        if name in changes:
            changes[name] = _ellipse(changes[name])
    for name in ("inner", "outer"):
        if changes.get(name) is not None:
            changes[name] = _place(changes[name])
    if "lights" in changes:
        changes["lights"] = tuple(_place(at) for at in changes["lights"])[:MOST_LIGHTS]
    made = replace(eye, **changes)
    if "name" in changes and not made.name.strip():
        return project
    if float(made.iris.share_of(np.array([made.pupil.centre]))[0]) > 1:
        raise InputError("That pupil lies off its iris.", "Drag it back into the iris.")
    for at in made.lights:
        if float(made.iris.share_of(np.array([at]))[0]) > 1.3:
            raise InputError("That catchlight lies off the eye.", "Click the bright spot on the eyeball.")
    return replace(project, eyes=tuple(made if e.id == eye_id else e for e in project.eyes))


def set_pupil_kind(project: Project, eye_id: str, kind: str) -> Project:
    """Give a pupil another shape: the usual one of that kind, in the same place. Raises `InputError` for others."""
    eye = project.eye(eye_id)
    if eye is None or kind == eye.pupil_kind:
        return project
    if kind not in PUPILS:
        raise InputError(f"There is no pupil '{kind}'.", f"Pupils are {', '.join(PUPILS)}.")
    level = {"level", "bar"}
    pupil = (
        eye.pupil
        if {kind, eye.pupil_kind} <= level
        else replace(usual_pupil(eye.iris, kind), cx=eye.pupil.cx, cy=eye.pupil.cy)
    )
    return change_eye(project, eye_id, pupil_kind=kind, pupil=pupil)


def set_light_plan(project: Project, eye_id: str, **values: Any) -> Project:
    """Decide on an eye's lights (see `LightPlan`); None gives one back to the plan. Raises `InputError` for a way that is not known."""
    eye = project.eye(eye_id)
    if eye is None:
        return project
    made = replace(eye.light, **values)
    if made.way not in LIGHT_WAYS:
        raise InputError(f"There is no way '{made.way}'.", f"Ways are {', '.join(LIGHT_WAYS)}.")
    made = LightPlan(
        None if made.hour is None else round(made.hour % 12, 2),
        None if made.distance is None else round(min(max(made.distance, 0.0), 0.95), 3),
        None if made.size_mm is None else round(min(max(made.size_mm, 0.1), 60.0), 2),
        made.sky,
        made.way,
    )
    return replace(project, eyes=tuple(replace(e, light=made) if e.id == eye_id else e for e in project.eyes))


def remove_eye(project: Project, eye_id: str) -> Project:
    """Take an eye's marks away; its zone stays."""
    return replace(project, eyes=tuple(e for e in project.eyes if e.id != eye_id))


def take_zone_lids(project: Project, eye_id: str) -> Project:
    """Give an eye the lids and corners of its zone's outline again."""
    eye = project.eye(eye_id)
    zone = eye_zone(project, eye.iris.centre) if eye is not None else None
    if eye is None or zone is None:
        return project
    upper, lower, left, right = lids_of(closed_curve(as_array(zone.points), 10))
    inner, outer = _toward_nose(project, eye.iris.centre, left, right)
    return change_eye(project, eye_id, upper=upper, lower=lower, inner=inner, outer=outer)


def add_feature(project: Project, kind: str, name: str = "") -> tuple[Project, str]:
    """Begin a feature of a kind; returns the project and its id.

    Raises
    ------
    InputError
        For a kind that is not known, or too many features.
    """
    if kind not in FEATURES:
        raise InputError(f"There is no feature '{kind}'.", f"Features are {', '.join(FEATURES)}.")
    if len(project.features) >= MOST_FEATURES:
        raise InputError(f"There are {MOST_FEATURES} features already.", "Take one away first.")
    taken = {one.name for one in project.features}
    title = name.strip() or FEATURES[kind].name.capitalize()
    number = 2
    while title in taken:
        title = f"{FEATURES[kind].name.capitalize()} {number}"
        number += 1
    made = Feature(f"n{project.next_id}", kind, title[:120])
    return replace(project, features=(*project.features, made), next_id=project.next_id + 1), made.id


def _change(project: Project, feature_id: str, **changes: Any) -> Project:
    return replace(
        project, features=tuple(replace(f, **changes) if f.id == feature_id else f for f in project.features)
    )


def add_stroke(project: Project, feature_id: str, part: str, points: Points) -> Project:
    """Draw a part of a feature; a part there is only one of is drawn anew.

    Raises
    ------
    InputError
        When the stroke is too short, or the feature has no such part.
    """
    feature = project.feature(feature_id)
    if feature is None:
        return project
    what = FEATURES[feature.kind].part(part)
    if what is None:
        raise InputError(f"A {FEATURES[feature.kind].name} has no '{part}'.", "Choose one of its parts.")
    line = np.asarray(points, np.float64).reshape(-1, 2)
    least = 12.0 if what.closed else 4.0
    if len(line) < 2 or line_length(line) < least:
        raise InputError(
            f"That {what.name} is too short.", "Drag round it." if what.closed else "Drag along it, from root to tip."
        )
    if what.closed:
        closed = np.vstack([line, line[:1]])
        line = resample(closed, int(np.clip(line_length(closed) / 8, 8, 24)) + 1)[:-1]
    else:
        line = simplify(line, 0.6)
        line = resample(line, min(max(len(line), 3), 12))
    own, others = feature.of(part), tuple(s for s in feature.strokes if s.part != part)
    kept = (*own, Stroke(part, pairs(line)))[-what.most :]
    made = _change(project, feature_id, strokes=(*others, *kept))
    return _whisker_zone(made, feature.name) if what.paint == "hair" else made


def _whisker_zone(project: Project, name: str) -> Project:
    """Give whiskers a zone when there is none for them: whiskers are painted as a part of their own."""
    if any(zone.kind == "whisker" for zone in project.zones):
        return project
    points = np.concatenate([s.line() for f in project.features if f.kind == "whiskers" for s in f.strokes])
    (x0, y0), (x1, y1) = points.min(axis=0) - 4, points.max(axis=0) + 4
    box = np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]])
    return add_zone(project, name, "whisker", box)[0]


def remove_stroke(project: Project, feature_id: str, index: int) -> Project:
    """Take one stroke of a feature away."""
    feature = project.feature(feature_id)
    if feature is None or not 0 <= index < len(feature.strokes):
        return project
    return _change(project, feature_id, strokes=feature.strokes[:index] + feature.strokes[index + 1 :])


def move_stroke_point(project: Project, feature_id: str, index: int, point: int, at: Place) -> Project:
    """Move one point of a stroke of a feature."""
    feature = project.feature(feature_id)
    if feature is None or not 0 <= index < len(feature.strokes):
        return project
    stroke = feature.strokes[index]
    if not 0 <= point < len(stroke.points):
        return project
    moved = (*stroke.points[:point], _place(at), *stroke.points[point + 1 :])
    strokes = (*feature.strokes[:index], replace(stroke, points=moved), *feature.strokes[index + 1 :])
    return _change(project, feature_id, strokes=strokes)


def rename_feature(project: Project, feature_id: str, name: str) -> Project:
    """Give a feature another name; "Near ear" and "Far ear" answer each other. An empty one changes nothing."""
    return _change(project, feature_id, name=name.strip()[:120]) if name.strip() else project


def set_toes(project: Project, feature_id: str, toes: int) -> Project:
    """Say how many toes a paw has, 0 (unsaid) to 6."""
    return _change(project, feature_id, toes=min(max(toes, 0), 6))


def remove_feature(project: Project, feature_id: str) -> Project:
    """Take a feature away."""
    return replace(project, features=tuple(f for f in project.features if f.id != feature_id))


def set_drawing(project: Project, data: bytes, name: str) -> Project:
    """Take a photograph or scan of the drawing; its corners begin as the picture's own. Raises `PictureError`."""
    reference = reference_of(name, data)
    w, h = float(reference.width), float(reference.height)
    return replace(project, drawing=Drawing(reference, ((0.0, 0.0), (w, 0.0), (w, h), (0.0, h))))


def set_corners(project: Project, corners: Sequence[Place]) -> Project:
    """Say where the canvas's corners lie in the drawing's photograph, its own pixels; hand marks on it are dropped.

    Raises
    ------
    InputError
        When they enclose no canvas.
    """
    if project.drawing is None:
        return project
    made = pairs(check_corners(np.array(corners, np.float64)))
    return replace(project, drawing=replace(project.drawing, corners=made, marked=()))


def mark_drawn(project: Project, key: str, strokes: Sequence[Points]) -> Project:
    """Mark a feature on the drawing by hand (main reference's pixels); without strokes it is found again."""
    if project.drawing is None:
        return project
    others = tuple(one for one in project.drawing.marked if one[0] != key)
    mine = ((key, tuple(pairs(line) for line in strokes)),) if strokes else ()
    return replace(project, drawing=replace(project.drawing, marked=(*others, *mine)))


def drop_drawing(project: Project) -> Project:
    """Put the drawing away."""
    return replace(project, drawing=None)
