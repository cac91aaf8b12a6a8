"""What is known of eyes and features: values, lights, steps, checks, twins."""

import math
from dataclasses import dataclass, field, replace

import numpy as np

from foxpath.core.arrays import Lab, Points
from foxpath.core.eyes import (
    Extent,
    Eye,
    HeadFrame,
    check_eyes,
    check_lights,
    check_size,
    check_values,
    head_frame,
    heads_of,
    light_at,
    measure_values,
    plan_lights,
    plan_steps,
    size_words,
)
from foxpath.core.eyes.steps import UNSAID
from foxpath.core.features import Feature, FeatureStep, Ghost, check_feature, ghosts, plan_feature, twins
from foxpath.core.findings import LEVELS, Finding
from foxpath.core.fingerprint import fingerprint
from foxpath.core.rehearsal.eyes import EyePlan, Read, eye_room, reader, sky_seen
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.eyes.homes import outline_of_feature
from foxpath.derive.pictures import picture_key, working_picture
from foxpath.derive.results import Results
from foxpath.document.edits import eye_zone, rim_residual, zone_under
from foxpath.document.model import Project

SEED = 1
"""Of the marks of eyes and features."""


@dataclass(frozen=True, slots=True, eq=False)
class EyeReading:
    """What is known of an eye.

    Attributes
    ----------
    eye : Eye
    plan : EyePlan
        Its values, lights and steps.
    checks : tuple of Finding
        Of this eye alone: placement, lights, values.
    size : str
        How large it is on the canvas, and what survives.
    residual_mm : float
        How far the clicks lie off the fitted rim.
    """

    eye: Eye
    plan: EyePlan
    checks: tuple[Finding, ...]
    size: str
    residual_mm: float


@dataclass(frozen=True, slots=True, eq=False)
class EyesReading:
    """What is known of eyes and features.

    Attributes
    ----------
    eyes : tuple of EyeReading
    checks : tuple of Finding
        All of them, the pair's included, faults first.
    frame : HeadFrame or None
    features : tuple of (Feature, steps, checks)
    twins : tuple of Ghost
        Paired parts beside the mirror of their twin, largest difference first.
    frames : dict of eye id to HeadFrame
        The frame of each eye's own head; none for one that stands alone.
    """

    eyes: tuple[EyeReading, ...] = ()
    checks: tuple[Finding, ...] = ()
    frame: HeadFrame | None = None
    features: tuple[tuple[Feature, tuple[FeatureStep, ...], tuple[Finding, ...]], ...] = ()
    twins: tuple[Ghost, ...] = ()
    frames: dict[str, HeadFrame] = field(default_factory=dict)

    def of(self, eye_id: str) -> EyeReading | None:
        """Return what is known of one eye, or None."""
        return next((one for one in self.eyes if one.eye.id == eye_id), None)


def read_near(results: Results, project: Project, box: tuple[float, float, float, float]) -> Read:
    """Return a reader of CIELAB at reference pixels within a box (x0, y0, x1, y1) of the reference; its rim is carried on."""
    picture = working_picture(results, project)
    k = picture.scale
    height, width = picture.rgb.shape[:2]
    x0, y0 = max(0, int(box[0] * k) - 4), max(0, int(box[1] * k) - 4)
    x1, y1 = min(width, int(box[2] * k) + 5), min(height, int(box[3] * k) + 5)
    x0, y0 = min(x0, width - 2), min(y0, height - 2)
    part = np.ascontiguousarray(picture.rgb[y0 : max(y1, y0 + 2), x0 : max(x1, x0 + 2)])
    inner = reader(part, k)
    corner = np.array([x0 / k, y0 / k])

    def read(points: Points) -> Lab:
        return inner(np.asarray(points, np.float64).reshape(-1, 2) - corner)

    return read


def _box(points: Points, room: float) -> tuple[float, float, float, float]:
    (x0, y0), (x1, y1) = points.min(axis=0), points.max(axis=0)
    return float(x0 - room), float(y0 - room), float(x1 + room), float(y1 + room)


def eye_key(results: Results, project: Project, eye: Eye) -> bytes:
    """Return the fingerprint of everything an eye's plan follows from."""
    return results.once(project, ("eye key", eye), lambda: _eye_key(results, project, eye))


def _eye_key(results: Results, project: Project, eye: Eye) -> bytes:
    others = tuple((e.iris, e.lights) for e in project.eyes if e.id != eye.id)
    where = (project.mm_per_px, project.crop.x, project.crop.y)
    picture = picture_key(results, project)
    return fingerprint("eye", eye, others, picture, project.light, project.kit, where, _ringed(project, eye))


def _ringed(project: Project, eye: Eye) -> bool:
    """Tell whether an eye is a bird's: the animal it belongs to has feathers and no fur."""
    animal = _animal(project, eye)
    kinds = [z.kind_of() for z in project.zones if z.group == animal and not z.whole]
    plumed = any(kind.plumed or kind.key == "down" for kind in kinds)
    return plumed and not any(kind.key.endswith("fur") for kind in kinds)


def eye_plan(results: Results, project: Project, eye: Eye) -> EyePlan:
    """Return an eye's values, lights and steps."""
    ringed = _ringed(project, eye)

    def make() -> EyePlan:
        x, y, wide, tall = eye_room(eye)
        read = read_near(results, project, (x, y, x + wide, y + tall))
        values = measure_values(eye, read)
        others = [e for e in project.eyes if e.id != eye.id]
        lights = plan_lights(eye, others, project.light, project.mm_per_px, project.finest_mm)
        sky = sky_seen(eye, lights, values.iris, read)
        steps = plan_steps(eye, values, lights, project.kit, project.mm_per_px, sky, ringed=ringed)
        origin = (project.crop.x, project.crop.y)
        return EyePlan(eye, values, lights, steps, origin, project.mm_per_px, read, SEED, sky, ringed)

    return results.memo.get(("eye", eye_key(results, project, eye)), make)


def feature_steps(results: Results, project: Project, feature: Feature) -> tuple[FeatureStep, ...]:
    """Return a feature's steps; none without strokes."""
    if not feature.strokes:
        return ()
    canvas = max(project.canvas.width_mm, project.canvas.height_mm)
    key = ("feature", feature, picture_key(results, project), project.kit, project.mm_per_px, canvas)
    return results.memo.get(
        key,
        lambda: plan_feature(feature, _feature_read(results, project, feature), project.kit, project.mm_per_px, canvas),
    )


def _feature_read(results: Results, project: Project, feature: Feature) -> Read:
    key = ("feature read", feature.strokes, picture_key(results, project))

    def make() -> Read:
        points = np.concatenate([s.line() for s in feature.strokes])
        return read_near(results, project, _box(points, 12))

    return results.memo.get(key, make)


_FILLS = 0.95
"""An animal that takes more than this share of the crop both ways runs off it: how large it is is not known."""


def extent_of(project: Project) -> Extent:
    """Return how large the animal is by the parts that are outlined; the crop's extent where that is not known."""
    outlines = [zone.shape.outline() for zone in project.zones if not zone.whole and zone.kind != "eye"]
    size = np.array([project.crop.width, project.crop.height])
    across = np.ptp(np.concatenate(outlines), axis=0) if outlines else size
    if not outlines or bool((across > _FILLS * size).all()):
        return Extent.of_picture(float(size.min()))
    return Extent.of_animal(float(across.min()))


def eyes_reading(results: Results, project: Project) -> EyesReading:
    """Return what is known of eyes and features."""
    light = project.light
    axes = project.transfer.axes
    mm = project.mm_per_px
    heads = heads_of(project.eyes, [_animal(project, eye) for eye in project.eyes])
    frames = [head_frame(head, axes if _has_axes(head, heads, project) else None) for head in heads]
    nosed = _nearest_head(heads, project.nose)
    stand = [
        check
        for head in heads
        for check in check_eyes(
            head, mm, axes if _has_axes(head, heads, project) else None, project.nose if head == nosed else None
        )
    ]
    if project.ways.likeness != "ideal":
        stand = [_as_fact(check) for check in stand]
    placed = stand + check_lights(project.eyes, light, mm)
    read, extent = [], extent_of(project)
    for eye in project.eyes:
        plan = eye_plan(results, project, eye)
        place = light_at(eye, mm)
        hour = light.hour if light is not None else place.hour if place is not None else None
        size_checks = check_size(eye, extent, mm)
        checks = [*size_checks, *(c for c in placed if c.subject == eye.id), *check_values(eye, plan.values, hour)]
        size = size_words(eye, plan.steps, mm)
        read.append(EyeReading(eye, plan, tuple(checks), size, rim_residual(eye) * mm))
    every = [*placed, *(c for one in read for c in one.checks if c not in placed)]
    every.sort(key=lambda c: LEVELS.index(c.level))
    frame = next((one for one in frames if one is not None), None)
    features = []
    for feature in project.features:
        steps = feature_steps(results, project, feature)
        features.append((feature, steps, tuple(check_feature(feature, steps, project.kit))))
    found = [
        ghost
        for head, own in zip(heads, frames, strict=True)
        if own is not None
        for ghost in ghosts(own, _pairs(project, head, heads), mm)
    ]
    found.sort(key=lambda ghost: -ghost.mm)
    by_eye = {eye.id: own for head, own in zip(heads, frames, strict=True) if own is not None for eye in head}
    return EyesReading(tuple(read), tuple(every), frame, tuple(features), tuple(found), by_eye)


def _animal(project: Project, eye: Eye) -> str:
    """Return the name of the animal an eye belongs to; empty where nobody said."""
    zone = eye_zone(project, eye.iris.centre) or project.zone(zone_under(project, eye.opening()) or "")
    return zone.group if zone is not None else ""


def _has_axes(head: tuple[Eye, ...], heads: list[tuple[Eye, ...]], project: Project) -> bool:
    """Tell whether the axes that the painter drew are those of a head: the nearest pair's."""
    axes = project.transfer.axes
    return axes is not None and head == _nearest_head([one for one in heads if len(one) > 1], axes.middle)


def _nearest_head(heads: list[tuple[Eye, ...]], place: tuple[float, float] | None) -> tuple[Eye, ...] | None:
    if place is None or not heads:
        return None
    return min(heads, key=lambda head: math.dist(_middle(head), place))


def _middle(head: tuple[Eye, ...]) -> tuple[float, float]:
    count = len(head)
    return sum(eye.iris.cx for eye in head) / count, sum(eye.iris.cy for eye in head) / count


def _as_fact(check: Finding) -> Finding:
    """Return what was measured in the photograph as a fact to keep: only a drawing or a canvas is judged against it."""
    if check.level == "note":
        return check
    measured, _, _ = check.why.partition(" · ")
    return replace(
        check, level="note", why=f"{measured} · it stands so in the photograph: keep it, or idealise at School"
    )


def _pairs(
    project: Project, head: tuple[Eye, ...], heads: list[tuple[Eye, ...]]
) -> list[tuple[str, str, Points, str, Points]]:
    """Return what answers each other on both sides of a head: eyes, features, and zones of such names."""
    outlines: dict[str, Points] = {}
    names: list[tuple[str, str]] = []
    marked = {eye.name.lower() for eye in project.eyes}
    for eye in project.eyes:
        outlines[eye.id] = eye.opening()
        names.append((eye.id, eye.name))
    for feature in project.features:
        if feature.strokes:
            outlines[feature.id] = outline_of_feature(feature)
            names.append((feature.id, feature.name))
    said = {name.lower() for _, name in names}
    for zone in project.zones:
        if not zone.whole and zone.name.lower() not in marked | said and zone.kind != "whisker":
            outlines[zone.id] = zone.shape.outline()
            names.append((zone.id, zone.name))
    others = {eye.id for eye in project.eyes} - {eye.id for eye in head}

    def own(key: str) -> bool:
        """Whether something belongs to this head rather than to another."""
        if len(heads) == 1:
            return True
        x, y = outlines[key].mean(axis=0)
        return key not in others and _nearest_head(heads, (float(x), float(y))) == head

    names = [(key, name) for key, name in names if own(key)]
    found = [(name, a, outlines[a], b, outlines[b]) for name, a, b in twins(names)]
    pair = [eye for eye in project.eyes if eye.id not in others]
    if len(pair) == 2 and not any({a, b} == {e.id for e in pair} for _, a, _, b, _ in found):
        first, second = pair
        found.append(("eye", first.id, first.opening(), second.id, second.opening()))
    return found


def read_eyes(results: Results, project: Project, progress: Progress = SILENT) -> EyesReading:
    """Return what is known of eyes and features; made once a project."""
    progress.at(0, "reading the eyes")
    return results.once(project, "eyes", lambda: eyes_reading(results, project))


def eye_findings(results: Results, project: Project, progress: Progress = SILENT) -> list[Finding]:
    """Return the findings of the Eyes stop: faults, and where nothing is marked nothing."""
    reading = read_eyes(results, project, progress)
    found = [c for c in reading.checks if c.asks]
    for _, _, checks in reading.features:
        found += [c for c in checks if c.asks]
    for one in reading.eyes:
        out = [s.name for s in one.plan.steps if s.left_out and s.left_out not in UNSAID]
        if out:
            found.append(
                Finding("look", f"{one.eye.name} is small for {_some(out)}.", f"{one.size}", "eyes", one.eye.id)
            )
        if one.eye.found < 0.6:
            found.append(
                Finding(
                    "look",
                    f"{one.eye.name} was found with doubt.",
                    f"{one.eye.found * 100:.0f} % sure · look at its rim, and drag what is off",
                    "eyes",
                    one.eye.id,
                )
            )
    return found


def _some(names: list[str]) -> str:
    return names[0] if len(names) == 1 else f"{names[0]} and {len(names) - 1} more"
