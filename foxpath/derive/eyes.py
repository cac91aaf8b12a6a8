"""Eyes and features that follow from a project: their values, lights, steps, checks, twins, marks, and the checked drawing."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from foxpath.core.arrays import Lab, Points, Rgb8, frozen
from foxpath.core.curves import closed_curve, open_curve
from foxpath.core.errors import InputError
from foxpath.core.eyes import (
    Check,
    Eye,
    FoundEye,
    HeadFrame,
    check_eyes,
    check_lights,
    check_values,
    find_eye,
    head_frame,
    light_at,
    measure_values,
    plan_lights,
    plan_steps,
    size_words,
)
from foxpath.core.features import (
    FEATURES,
    Feature,
    FeatureStep,
    Ghost,
    Shift,
    Target,
    Verdict,
    check_feature,
    find_shift,
    ghosts,
    line_map,
    marked_shift,
    plan_feature,
    squared_up,
    twins,
    verdicts,
)
from foxpath.core.features.drawing import REACH
from foxpath.core.passes import Estimate, Finding, PassPlan
from foxpath.core.progress import SILENT, Progress
from foxpath.core.rehearsal.eyes import EyePlan, Read, eye_marks, eye_room, reader, step_pictures
from foxpath.core.rehearsal.features import feature_marks
from foxpath.core.rehearsal.marks import Marks
from foxpath.document.edits import zone_under
from foxpath.document.eye_edits import eye_zone, rim_residual
from foxpath.document.model import Project, Zone, as_array

if TYPE_CHECKING:
    from foxpath.derive.results import Results

EYE_ROLES = ("undercoat", "restated", "lights", "highlights")
"""Passes that an eye's own steps take over; before them it is blocked in like any part."""
SEED = 1
"""Of the marks of eyes and features."""
STEP_PX = 220
"""Width of the enlarged picture of a step."""


@dataclass(frozen=True, slots=True, eq=False)
class EyeReading:
    """What is known of an eye.

    Attributes
    ----------
    eye : Eye
    plan : EyePlan
        Its values, lights and steps.
    checks : tuple of Check
        Of this eye alone: placement, lights, values.
    size : str
        How large it is on the canvas, and what survives.
    residual_mm : float
        How far the clicks lie off the fitted rim.
    """

    eye: Eye
    plan: EyePlan
    checks: tuple[Check, ...]
    size: str
    residual_mm: float


@dataclass(frozen=True, slots=True, eq=False)
class EyesReading:
    """What is known of eyes and features.

    Attributes
    ----------
    eyes : tuple of EyeReading
    checks : tuple of Check
        All of them, the pair's included, faults first.
    frame : HeadFrame or None
    features : tuple of (Feature, steps, checks)
    twins : tuple of Ghost
        Paired parts beside the mirror of their twin, largest difference first.
    """

    eyes: tuple[EyeReading, ...] = ()
    checks: tuple[Check, ...] = ()
    frame: HeadFrame | None = None
    features: tuple[tuple[Feature, tuple[FeatureStep, ...], tuple[Check, ...]], ...] = ()
    twins: tuple[Ghost, ...] = ()

    def of(self, eye_id: str) -> EyeReading | None:
        """Return what is known of one eye, or None."""
        return next((one for one in self.eyes if one.eye.id == eye_id), None)


def read_near(results: "Results", project: Project, box: tuple[float, float, float, float]) -> Read:
    """Return a reader of CIELAB at reference pixels within a box (x0, y0, x1, y1) of the reference; its rim is carried on."""
    picture = results.working(project)
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


def eye_key(results: "Results", project: Project, eye: Eye) -> Hashable:
    """Return the fingerprint of everything an eye's plan follows from."""
    others = tuple((e.iris, e.lights) for e in project.eyes if e.id != eye.id)
    where = (project.mm_per_px, project.crop.x, project.crop.y)
    return ("eye", eye, others, results.picture_key(project), project.light, project.kit, where)


def eye_plan(results: "Results", project: Project, eye: Eye) -> EyePlan:
    """Return an eye's values, lights and steps."""

    def make() -> EyePlan:
        x, y, wide, tall = eye_room(eye)
        read = read_near(results, project, (x, y, x + wide, y + tall))
        values = measure_values(eye, read)
        others = [e for e in project.eyes if e.id != eye.id]
        lights = plan_lights(eye, others, project.light, project.mm_per_px, project.finest_mm)
        steps = plan_steps(eye, values, lights, project.kit, project.mm_per_px)
        origin = (project.crop.x, project.crop.y)
        return EyePlan(eye, values, lights, steps, origin, project.mm_per_px, read, SEED)

    return results.memo.get(eye_key(results, project, eye), make)


def with_eye_times(results: "Results", project: Project, plans: Sequence[PassPlan]) -> tuple[PassPlan, ...]:
    """Return passes in which a zone with a marked eye takes the time of the eye's own steps, once an act."""
    made, seen = [], set()
    for plan in plans:
        act = plan.role.act
        if not plan.on or act not in (*EYE_ROLES, "eyes"):
            made.append(plan)
            continue
        estimates, factor = dict(plan.estimates), project.pace.factor(act)
        for index in plan.zones:
            eyes = eyes_in(results, project, index)
            if not eyes:
                continue
            mine = {"lights": ("lights", "lashes"), "eyes": ("undercoat", "lights", "highlights", "lashes")}.get(
                act, (act,)
            )
            steps = [step for eye in eyes for step in eye_plan(results, project, eye).steps if step.painted]
            minutes = sum(step.minutes for step in steps if step.role in mine) if (act, index) not in seen else 0.0
            seen.add((act, index))
            # The strokes of its steps are few, and counted by no coverage.
            estimates[index] = Estimate(0, minutes * factor, 0.0)
        more = sum(one.minutes for one in estimates.values()) - sum(one.minutes for one in plan.estimates.values())
        made.append(
            replace(
                plan,
                estimates=estimates,
                minutes=plan.minutes + more,
                usual_minutes=plan.usual_minutes + more / factor,
                marks=sum(one.marks for one in estimates.values()),
            )
        )
    return tuple(made)


def feature_steps(results: "Results", project: Project, feature: Feature) -> tuple[FeatureStep, ...]:
    """Return a feature's steps; none without strokes."""
    if not feature.strokes:
        return ()
    canvas = max(project.canvas.width_mm, project.canvas.height_mm)
    key = ("feature", feature, results.picture_key(project), project.kit, project.mm_per_px, canvas)
    return results.memo.get(
        key,
        lambda: plan_feature(feature, _feature_read(results, project, feature), project.kit, project.mm_per_px, canvas),
    )


def _feature_read(results: "Results", project: Project, feature: Feature) -> Read:
    key = ("feature read", feature.strokes, results.picture_key(project))

    def make() -> Read:
        points = np.concatenate([s.line() for s in feature.strokes])
        return read_near(results, project, _box(points, 12))

    return results.memo.get(key, make)


def eyes_reading(results: "Results", project: Project) -> EyesReading:
    """Return what is known of eyes and features."""
    light = project.light
    axes = project.transfer.axes
    mm = project.mm_per_px
    placed = check_eyes(project.eyes, mm, axes, project.nose) + check_lights(project.eyes, light, mm)
    read = []
    for eye in project.eyes:
        plan = eye_plan(results, project, eye)
        place = light_at(eye, mm)
        hour = light.hour if light is not None else place.hour if place is not None else None
        checks = [c for c in placed if c.eye == eye.id] + check_values(eye, plan.values, hour)
        size = size_words(eye, plan.steps, mm)
        read.append(EyeReading(eye, plan, tuple(checks), size, rim_residual(eye) * mm))
    every = [*placed, *(c for one in read for c in one.checks if c not in placed)]
    every.sort(key=lambda c: ("must", "look", "note").index(c.level))
    frame = head_frame(project.eyes, axes)
    features = []
    for feature in project.features:
        steps = feature_steps(results, project, feature)
        features.append((feature, steps, tuple(check_feature(feature, steps, project.kit))))
    found = ghosts(frame, _pairs(project), mm) if frame is not None else []
    return EyesReading(tuple(read), tuple(every), frame, tuple(features), tuple(found))


def outline_of_feature(feature: Feature) -> Points:
    """Return what stands for a feature where its outline is asked for: its first outline, else all its points."""
    kind = FEATURES[feature.kind]
    closed = [s for s in feature.strokes if (part := kind.part(s.part)) is not None and part.closed]
    return closed_curve(closed[0].line(), 6) if closed else np.concatenate([s.line() for s in feature.strokes])


def _pairs(project: Project) -> list[tuple[str, str, Points, str, Points]]:
    """Return what answers each other on both sides of the head: eyes, features, and zones of such names."""
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
    found = [(name, a, outlines[a], b, outlines[b]) for name, a, b in twins(names)]
    if len(project.eyes) == 2 and not any({a, b} == {e.id for e in project.eyes} for _, a, _, b, _ in found):
        first, second = project.eyes
        found.append(("eye", first.id, first.opening(), second.id, second.opening()))
    return found


def eye_findings(reading: EyesReading) -> list[Finding]:
    """Return the findings of the Eyes stop: faults, and where nothing is marked nothing."""
    found = [Finding(c.level, c.says, c.why, "eyes", c.eye) for c in reading.checks if c.level != "note"]
    for _, _, checks in reading.features:
        found += [Finding(c.level, c.says, c.why, "eyes", c.eye) for c in checks if c.level != "note"]
    for one in reading.eyes:
        out = [s.name for s in one.plan.steps if s.left_out and s.left_out != "you left it out"]
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


# Marks --------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Homes:
    """Which marked eyes and which features are painted in each zone, by its place counted back to front."""

    eyes: dict[int, tuple[Eye, ...]]
    features: dict[int, tuple[Feature, ...]]


def homes_of(project: Project) -> Homes:
    """Return where eyes and features are painted: eyes in their zone, whiskers in the nearest of theirs, others where they lie."""
    place = {zone.id: k for k, zone in enumerate(project.back_to_front())}
    eyes: dict[int, tuple[Eye, ...]] = {}
    for eye in project.eyes:
        zone = eye_zone(project, eye.iris.centre)
        if zone is not None:
            eyes[place[zone.id]] = (*eyes.get(place[zone.id], ()), eye)
    features: dict[int, tuple[Feature, ...]] = {}
    for feature in project.features:
        if not feature.strokes:
            continue
        if feature.kind == "whiskers":
            home = next((z.id for z in _nearest_first(project, feature)), None)
        else:
            home = zone_under(project, outline_of_feature(feature))
        if home is not None:
            features[place[home]] = (*features.get(place[home], ()), feature)
    return Homes(eyes, features)


def eyes_in(results: "Results", project: Project, index: int) -> tuple[Eye, ...]:
    """Return the marked eyes that are painted in a zone, by its place counted back to front."""
    return results.homes(project).eyes.get(index, ())


def features_in(results: "Results", project: Project, index: int) -> tuple[Feature, ...]:
    """Return the features that are painted in a zone, by its place counted back to front."""
    return results.homes(project).features.get(index, ())


def _nearest_first(project: Project, feature: Feature) -> list[Zone]:
    """Return the zones of whiskers, the one nearest to a feature's roots first."""
    roots = np.mean([s.line()[0] for s in feature.strokes], axis=0)
    zones = [z for z in project.zones if z.kind == "whisker"]
    return sorted(zones, key=lambda z: float(np.hypot(*(as_array(z.points) - roots).T).min()) if not z.whole else 0.0)


def drawn_whiskers(results: "Results", project: Project, index: int) -> bool:
    """Tell whether a zone's whiskers were drawn one by one: they take the place of those the plan would scatter."""
    return any(feature.kind == "whiskers" for feature in features_in(results, project, index))


def further_marks(results: "Results", project: Project, plan: PassPlan, index: int) -> list[tuple[Hashable, Marks]]:
    """Return what a pass adds in a zone for its eyes and features, each group with its key."""
    role, band = plan.role.act, (plan.l_low, min(plan.l_high, plan.ceiling))
    made: list[tuple[Hashable, Marks]] = []
    if not results.first_of_act(project, plan, index):
        # Where several passes act alike, eyes and features are painted in the first.
        return made
    for eye in eyes_in(results, project, index):
        key = ("eye marks", eye_key(results, project, eye), role, band)

        def paint(eye: Eye = eye) -> tuple[Marks, ...]:
            # Another hand lays the coat afresh; eyes and features come as they were planned.
            steps = EYE_ROLES if role == "eyes" else (role,)
            return tuple(one for each in steps for one in eye_marks(eye_plan(results, project, eye), each, band))

        made += [((key, k), one) for k, one in enumerate(results.memo.get(key, paint))]
    for feature in features_in(results, project, index):
        steps = feature_steps(results, project, feature)
        claws = role == "highlights" and any(step.part == "claw" for step in steps)
        if not claws and all(step.role != role for step in steps):
            continue
        where = (project.mm_per_px, project.crop.x, project.crop.y)
        own = ("feature marks", feature, results.picture_key(project), project.kit, role, band, where, project.canvas)

        def make(feature: Feature = feature, steps: tuple[FeatureStep, ...] = steps) -> tuple[Marks, ...]:
            read = _feature_read(results, project, feature)
            origin = (project.crop.x, project.crop.y)
            return tuple(feature_marks(feature, steps, role, read, band, origin, project.mm_per_px, SEED))

        made += [((own, k), one) for k, one in enumerate(results.memo.get(own, make))]
    return made


# Pictures, finding, the drawing -------------------------------------------------------------------


def step_shots(results: "Results", project: Project, eye: Eye, width: int = STEP_PX) -> tuple[Rgb8, ...]:
    """Return an eye's picture after each step, `width` pixels across."""
    key = ("eye steps", eye_key(results, project, eye), width)

    def make() -> tuple[Rgb8, ...]:
        plan = eye_plan(results, project, eye)
        scale = width / (eye_room(eye)[2] * project.mm_per_px)
        return tuple(frozen(shot) for shot in step_pictures(plan, scale))

    return results.memo.get(key, make)


@dataclass(frozen=True, slots=True)
class FindEye:
    """Find the eye whose pupil was clicked."""

    results: "Results"
    project: Project
    at: tuple[float, float]

    def __call__(self, progress: Progress) -> FoundEye:
        """Return the eye. Raises `InputError` when nothing there looks like one."""
        progress.at(0.1, "looking for the eye")
        picture = self.results.working(self.project)
        zone = eye_zone(self.project, self.at)
        opening = zone.shape.outline() if zone is not None else None
        return find_eye(picture.rgb, self.at, picture.scale, opening=opening)


@dataclass(frozen=True, slots=True)
class PaintSteps:
    """Paint an eye step by step."""

    results: "Results"
    project: Project
    eye_id: str
    width: int = STEP_PX

    def __call__(self, progress: Progress) -> tuple[Eye, tuple[Rgb8, ...]]:
        """Return the eye and its picture after each step. Raises `InputError` when it is gone."""
        progress.at(0.1, "painting the eye")
        eye = self.project.eye(self.eye_id)
        if eye is None:
            raise InputError("That eye is gone.", "Choose another.")
        return eye, step_shots(self.results, self.project, eye, self.width)


@dataclass(frozen=True, slots=True, eq=False)
class DrawingCheck:
    """What was found on a drawing.

    Attributes
    ----------
    flat : (H, W, 3) uint8
        The drawing squared up: the canvas from corner to corner.
    verdicts : tuple of Verdict
        Worst first.
    placed : dict of key to lines
        Where each feature stands on the drawing, reference pixels.
    planned : dict of key to lines
        Where it should stand, reference pixels.
    """

    flat: Rgb8
    verdicts: tuple[Verdict, ...]
    placed: dict[str, tuple[Points, ...]]
    planned: dict[str, tuple[Points, ...]]


def targets(project: Project) -> list[Target]:
    """Return what can be found on a drawing: every eye with lids and pupil, every feature, by its lines on the canvas, mm."""
    made = []
    for eye in project.eyes:
        iris = np.vstack([eye.iris.outline(48), eye.iris.outline(48)[:1]])
        lines = [iris[eye.open_at(iris)] if eye.covered() > 0.02 else iris]
        lines += [line for which in ("upper", "lower") if len(line := eye.lid_curve(which)) > 2]
        lines.append(np.vstack([eye.pupil.outline(32), eye.pupil.outline(32)[:1]]))
        made.append((eye.id, eye.name, lines))
    for feature in project.features:
        kind = FEATURES[feature.kind]
        lines = []
        for stroke in feature.strokes:
            part = kind.part(stroke.part)
            if part is None or part.paint in {"hair", "light", "shine"}:
                continue
            line = closed_curve(stroke.line(), 6) if part.closed else open_curve(stroke.line(), 6)
            lines.append(np.vstack([line, line[:1]]) if part.closed else line)
        if lines:
            made.append((feature.id, feature.name, lines))
    marked = {name.lower() for _, name, _ in made}
    # Ears, nose and beak that are outlined only as zones.
    for zone in project.zones:
        low = zone.name.lower()
        if zone.whole or low in marked or not ("ear" in low.split() or low in {"nose", "beak", "head"}):
            continue
        line = zone.shape.outline()
        made.append((zone.id, zone.name, [np.vstack([line, line[:1]])]))
    corner, k = (project.crop.x, project.crop.y), project.mm_per_px
    return [
        Target(key, name, tuple((line - corner) * k for line in lines if len(line) > 2)) for key, name, lines in made
    ]


def check_drawing(results: "Results", project: Project, progress: Progress = SILENT) -> DrawingCheck:
    """Square the drawing up, find every feature on it, and say what to move.

    Raises
    ------
    InputError
        Without a drawing, or without anything to look for.
    Cancelled
    """
    drawing = project.drawing
    if drawing is None:
        raise InputError("There is no drawing to check.", "Open a photograph of it at Eyes.")
    wanted = targets(project)
    if not wanted:
        raise InputError("Nothing is marked to look for.", "Mark the eyes first, then nose and ears.")
    picture = results.picture(drawing.reference)
    canvas = project.canvas
    progress.at(0.05, "squaring the drawing up")
    key = ("flat", drawing.reference.digest, drawing.corners, canvas.width_mm, canvas.height_mm)

    def flatten() -> tuple[Rgb8, float]:
        flat, scale = squared_up(
            picture.rgb, as_array(drawing.corners) * picture.scale, canvas.width_mm, canvas.height_mm
        )
        return frozen(flat), scale

    flat, scale = results.memo.get(key, flatten)
    lines = results.memo.get(("lines of", *key), lambda: frozen(line_map(flat, scale)))
    by_hand = dict(drawing.marked)
    corner, k = np.array([project.crop.x, project.crop.y]), project.mm_per_px
    reach = REACH * max(canvas.width_mm, canvas.height_mm)
    shifts: list[Shift] = []
    for number, target in enumerate(wanted):
        progress.at(0.1 + 0.9 * number / len(wanted), f"looking for {target.name.lower()}")
        if target.key in by_hand:
            drawn = [(as_array(line) - corner) * k for line in by_hand[target.key]]
            shifts.append(marked_shift(target, drawn))
            continue
        found = ("shift", key, target.key, tuple(line.tobytes() for line in target.lines_mm))
        shifts.append(results.memo.get(found, lambda target=target: find_shift(lines, scale, target, reach)))  # type: ignore[misc]
    sizes = {target.key: target.size() for target in wanted}
    placed = {
        target.key: tuple(line / k + corner for line in shift.placed(target.lines_mm, target.middle()))
        for target, shift in zip(wanted, shifts, strict=True)
    }
    planned = {target.key: tuple(line / k + corner for line in target.lines_mm) for target in wanted}
    return DrawingCheck(flat, tuple(verdicts(shifts, sizes)), placed, planned)


@dataclass(frozen=True, slots=True)
class CheckDrawing:
    """Check the drawing."""

    results: "Results"
    project: Project

    def __call__(self, progress: Progress) -> tuple[Project, DrawingCheck]:
        """Return the project and what was found. Raises `InputError` or `Cancelled`."""
        return self.project, check_drawing(self.results, self.project, progress)
