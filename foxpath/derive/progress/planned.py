"""What a photograph is compared with: the rehearsal of the passes done by two hands, with parts, eyes and borders."""

import numpy as np

from foxpath.core.arrays import Bool, Rgb8
from foxpath.core.errors import InputError
from foxpath.core.eyes.eye import clock
from foxpath.core.fingerprint import fingerprint
from foxpath.core.frame import Frame
from foxpath.core.passes import PassPlan
from foxpath.core.progress.judge.features import catchlight_of
from foxpath.core.progress.planned import Planned, PlannedEdge, PlannedEye, PlannedPart, planned_of
from foxpath.core.progress.small import lab_of
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.eyes.homes import outline_of_feature
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.rehearsal.painting import Rehearsed, one_by_one, rehearse, size_for
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document import edits
from foxpath.document.edits import eye_zone, zone_under
from foxpath.document.model import Project, as_array

WORK_PX = 1500
"""Width of the work picture; that of the window's rehearsal, which is there already."""
OTHER_HAND = 7919
PLACED, LEAST_FEATURE_PX, MOST_FEATURE = ("nose", "beak"), 6.0, 0.12
"""Features whose place and shape are read as an eye's are, and how large they must and may be."""
"""Added to the seed for the other hand."""


def painted_passes(results: Results, project: Project) -> tuple[PassPlan, ...]:
    """Return the passes that are on, in their order."""
    return tuple(plan for plan in passes_of(results, project) if plan.on)


def last_done(results: Results, project: Project) -> str:
    """Return the key of the last pass that is known to be done from the log and the days; empty when none is."""
    keys = [plan.role.key for plan in painted_passes(results, project)]
    done = {one.role for one in project.noted}
    done |= {one.task.split(".")[0] for one in project.days.done}
    known = [k for k, key in enumerate(keys) if key in done]
    return keys[max(known)] if known else ""


def resolved_pass(results: Results, project: Project, after: str) -> str:
    """Return the key of the pass that `after` names: its key, its number from 1, "last" or "" for the last that is known to be done, else the last.

    Raises
    ------
    InputError
        When the plan has no such pass, or no pass at all.
    """
    plans = painted_passes(results, project)
    keys = [plan.role.key for plan in plans]
    if not keys:
        raise InputError("Nothing is planned yet that a photograph could be compared with.", "Outline a part first.")
    if after in ("", "last"):
        return last_done(results, project) or keys[-1]
    named = {str(k): key for k, key in enumerate(keys, 1)} | {key: key for key in keys}
    if after not in named:
        raise InputError(f"There is no pass “{after}”.", f"Passes are {', '.join(keys)}.")
    return named[after]


def standing_key(results: Results, project: Project, after: str, progress: Progress = SILENT) -> str:
    """Return the fingerprint of all that a photograph taken after a pass is compared with. Raises `Cancelled`."""
    standing = _rehearsed(results, project, after, progress)[-1].standing
    borders = [(border.front, border.back, round(plan.width_mm, 2)) for border, plan in edges_of(results, project)]
    parts = [(z.id, z.name, z.kind, z.group) for z in project.back_to_front()]
    return fingerprint(
        "planned",
        standing.kept,
        project.outlines,
        project.eyes,
        project.features,
        project.left_alone,
        borders,
        parts,
        WORK_PX,
        after,
    ).hex()


def _rehearsed(results: Results, project: Project, after: str, progress: Progress) -> list[Rehearsed]:
    """Return the passes as rehearsed, to the one that is done; the window's own rehearsal is taken up."""
    keys = [plan.role.key for plan in painted_passes(results, project)]
    return rehearse(results, project, WORK_PX, progress, keep=False)[: keys.index(after) + 1]


def planned_for(results: Results, project: Project, after: str, progress: Progress = SILENT) -> Planned:
    """Return what a photograph taken after a pass is compared with. Raises `Cancelled`.

    Parameters
    ----------
    results : Results
    project : Project
    after : str
        Key of the last pass that was done (see `resolved_pass`).
    progress : Progress
    """
    done = _rehearsed(results, project, after, progress.part(0, 0.5))
    key = ("another hand", standing_key(results, project, after))
    number = len(done) - 1
    other = results.memo.get(key, lambda: _by_another_hand(results, project, number, progress.part(0.5, 1)))
    ground = next((one.standing.shown for one in done if one.plan.role.act == "ground"), None)
    whisker = next((k for k, one in enumerate(done) if one.plan.role.act == "whiskers"), 0)
    before = done[whisker - 1].standing.shown if whisker > 0 else None
    progress.at(1)
    return _made(results, project, done[-1].standing.shown, other, before, ground)


def _by_another_hand(results: Results, project: Project, number: int, progress: Progress) -> Rgb8:
    other = edits.another_hand(project, OTHER_HAND)
    for k, one in enumerate(one_by_one(results, other, WORK_PX, progress)):
        if k == number:
            return np.ascontiguousarray(one.standing.shown)
    raise AssertionError("the other hand paints the same passes")


def _made(
    results: Results, project: Project, rgb: Rgb8, other: Rgb8, before: Rgb8 | None, ground: Rgb8 | None
) -> Planned:
    columns, rows, px_per_mm = size_for(project, WORK_PX)
    frame = Frame(project.crop, columns, rows, project.mm_per_px)
    zones = project.back_to_front()
    parts = [
        PlannedPart(z.id, z.name, z.kind, z.group, project.coat_of(z).length_mm, bool(z.kind_of().hair)) for z in zones
    ]
    borders = [
        PlannedEdge(border.front, border.back, float(plan.width_mm), tuple(frame.to_grid(run) for run in border.runs))
        for border, plan in edges_of(results, project)
    ]
    shown = np.ascontiguousarray(rgb)
    return planned_of(
        shown, other, labels_of(results, project, frame), parts, px_per_mm, _eyes(project, frame, shown, px_per_mm), borders,
        np.ascontiguousarray(before) if before is not None else None,
        np.ascontiguousarray(ground[::8, ::8]) if ground is not None else None, _alone(project, frame),
    )  # fmt: skip


def _eyes(project: Project, frame: Frame, rgb: Rgb8, px_per_mm: float) -> list[PlannedEye]:
    lab = lab_of(rgb)
    made = []
    for eye in project.eyes:
        zone = eye_zone(project, eye.iris.centre)
        x, y = (float(v) for v in frame.to_grid(np.array([eye.iris.centre]))[0])
        a, b = eye.iris.axes()
        scale = 1 / frame.cell_px
        rx, ry = float(np.hypot(a[0], b[0])) * scale, float(np.hypot(a[1], b[1])) * scale
        if not (0 < x < frame.columns and 0 < y < frame.rows) or max(rx, ry) < 3:
            continue
        light = catchlight_of(lab, x, y, max(rx, ry), px_per_mm)
        hour = clock((x, y), light[:2]) if light is not None else None
        made.append(
            PlannedEye(
                eye.name or "eye", zone.id if zone is not None else "", x, y, rx, ry, hour, light[:2] if light else None
            )
        )
    return [*made, *_features(project, frame)]


def _features(project: Project, frame: Frame) -> list[PlannedEye]:
    """Return nose, mouth and beak: they stand at a place as eyes do, and have no catchlight."""
    made = []
    for feature in project.features:
        if feature.kind not in PLACED or not feature.strokes:
            continue
        outline = outline_of_feature(feature)
        at = frame.to_grid(outline)
        (x, y), (rx, ry) = (at.min(axis=0) + at.max(axis=0)) / 2, np.ptp(at, axis=0) / 2
        zone = zone_under(project, outline)
        if min(rx, ry) > LEAST_FEATURE_PX and max(rx, ry) < MOST_FEATURE * frame.columns:
            made.append(PlannedEye(feature.name or feature.kind, zone or "", float(x), float(y), float(rx), float(ry)))
    return made


def _alone(project: Project, frame: Frame) -> Bool | None:
    """Return where the painter leaves things alone on purpose; None where nowhere."""
    import cv2

    if not project.left_alone:
        return None
    mask = np.zeros(frame.shape, np.uint8)
    for patch in project.left_alone:
        cv2.fillPoly(mask, [np.round(frame.to_grid(as_array(patch.points))).astype(np.int32)], 1)
    return np.asarray(mask > 0)
