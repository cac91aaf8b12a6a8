"""Judging the reference: its health, its composition, its light."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import Bool, Points, frozen
from foxpath.core.colour import lab_from_rgb8
from foxpath.core.curves import closed_curve, resample
from foxpath.core.eyes import as_catchlights
from foxpath.core.findings import Finding, worst_first
from foxpath.core.frame import Crop, Frame
from foxpath.core.reference.composition import TOUCH_SHARE, Separation, Touch, lone_colours, pulls, separation, touches
from foxpath.core.reference.health import Health, measured, near_and_far, tiled
from foxpath.core.reference.judge import judged, judged_composition, judgement
from foxpath.core.reference.light import Catchlight, LightEvidence, from_catchlights, from_shading
from foxpath.core.reference.transfer import Axes, Unevenness, symmetry
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import mm_words
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.frames import map_frame
from foxpath.derive.pictures import composed_picture, cropped_picture, measured_key, measured_picture, picture_key
from foxpath.derive.reference.seeing import spot_lab
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of, subject_of
from foxpath.document.model import Pairs, Project, as_array

Point = tuple[float, float]


READ_CELLS = 512
"""Cells on the longer side of the grid on which composition and light are read."""


@dataclass(frozen=True, slots=True, eq=False)
class Inspection:
    """What was found out about a reference.

    Attributes
    ----------
    project : Project
        The one it was read from.
    health : Health
    health_says, composition_says : tuple of Finding
        Places are reference pixels.
    separation : Separation or None
    evidence : tuple of LightEvidence
        Surest first.
    uneven : tuple of Unevenness
        Left against right in the head's frame, largest first.
    away : (rows, columns) bool
        Tiles of the health maps that lie off the subject; all of them when no subject is known.
    """

    project: Project
    health: Health
    health_says: tuple[Finding, ...]
    composition_says: tuple[Finding, ...]
    separation: Separation | None
    evidence: tuple[LightEvidence, ...]
    uneven: tuple[Unevenness, ...]
    away: Bool

    def useful(self) -> list[Finding]:
        """Return what there is to do, most useful first."""
        return worst_first(one for one in (*self.health_says, *self.composition_says) if one.level)


def all_catchlights(project: Project) -> list[Catchlight]:
    """Return the catchlights that tell of the light: those marked for it, and of marked eyes without."""
    own = list(project.catchlights)
    return own + [
        one
        for one in as_catchlights(project.eyes)
        if all(np.hypot(*(np.array(one.centre) - other.centre)) > other.radius for other in own)
    ]


def inspection_key(results: Results, project: Project) -> object:
    """Return what an inspection follows from."""
    return (
        picture_key(results, project),
        project.crop,
        project.canvas,
        project.outlines,
        tuple(zone.kind for zone in project.back_to_front()),
        tuple(zone.name for zone in project.back_to_front()),
        project.focal_point,
        project.finest_mm,
        project.catchlights,
        project.eyes,
        project.axes_or_eyes(),
    )


@dataclass(frozen=True, slots=True)
class Inspect:
    """Measure the reference's health, read its composition and its light."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> Inspection:
        """Return what was found. Raises `Cancelled`."""
        key = ("inspection", inspection_key(self.results, self.project))
        found = self.results.memo.get(key, lambda: self._make(progress))
        return replace(found, project=self.project)

    def _make(self, progress: Progress) -> Inspection:
        results, project = self.results, self.project
        health = health_of(results, project, progress.part(0, 0.7))
        reference, mm = project.reference, project.mm_per_px

        def in_px(one: Finding, whole: Crop) -> Finding:
            if one.at is None:
                return one
            return replace(one, at=(whole.x + one.at[0] * whole.width, whole.y + one.at[1] * whole.height))

        whole = Crop(0, 0, reference.width, reference.height)
        away = ~tiled(_subject_over_all(results, project), health.blur_map.shape)
        ours = None if away.all() else ~away
        health_says = tuple(in_px(one, whole) for one in judged(health, mm, project.finest_mm, ours))
        progress.at(0.75, "reading the composition")
        frame = Frame.over(project.crop, mm, READ_CELLS)
        lab = lab_from_rgb8(cropped_picture(results, project, frame.columns, frame.rows))
        subject = subject_of(results, project, frame)
        part = separation(lab, subject)
        focal = frame.to_grid(np.array([project.focal_point]))[0]
        says = judged_composition(
            part,
            pulls(lab, (float(focal[0]), float(focal[1]))),
            _touches(results, project),
            lone_colours(lab),
            (frame.columns, frame.rows),
            (project.canvas.width_mm, project.canvas.height_mm),
            lambda at: _zone_name(results, project, at),
        )
        says += _moved_shadows(project)
        evidence = [from_catchlights(all_catchlights(project))]
        if subject.any():
            evidence.append(
                from_shading(np.ascontiguousarray(lab[..., 0]), subject, labels_of(results, project, frame))
            )
        sure = tuple(sorted((one for one in evidence if one is not None), key=lambda one: -one.sure))
        composition_says = tuple(in_px(one, project.crop) for one in says)
        return Inspection(project, health, health_says, composition_says, part, sure, uneven_of(results, project), away)


def health_of(results: Results, project: Project, progress: Progress = SILENT) -> Health:
    """Return the health of a project's reference, in pixels of the file."""
    source, shown = composed_picture(results, project), measured_picture(results, project)
    grey = None
    correction = project.correction
    if correction.grey is not None:
        lab = spot_lab(shown.rgb, correction.grey, correction.radius_px, shown.scale)
        grey = (float(lab[1]), float(lab[2]))

    def make() -> Health:
        made = measured(source.rgb, shown.rgb, grey, progress)
        k = np.float32(1 / source.scale)
        return made if k == 1 else replace(made, blur_map=frozen(made.blur_map * k), blur_px=made.blur_px * float(k))

    health = results.memo.get(("health", measured_key(results, project)), make)
    if len(project.zones) < 2:
        return health
    return near_and_far(health, _subject_over_all(results, project))


def _subject_over_all(results: Results, project: Project) -> Bool:
    """Return the subject on a small grid over the whole picture, not only the crop."""
    whole = Crop(0, 0, project.reference.width, project.reference.height)
    return subject_of(results, project, Frame.over(whole, project.mm_per_px, 256))


def _outline_mm(project: Project, points: Pairs) -> Points:
    line = closed_curve(as_array(points), 6)
    at = (np.vstack([line, line[:1]]) - (project.crop.x, project.crop.y)) * project.mm_per_px
    return np.asarray(resample(at, min(len(at), 600)))


def _touches(results: Results, project: Project) -> list[Touch]:
    zones = project.back_to_front()
    kinds = {"background", "shadow", "whisker", "marking"}
    outlines = [(z.name, _outline_mm(project, z.points)) for z in zones if not z.whole and z.kind not in kinds]
    borders = [(zones[b.front], zones[b.back]) for b, _ in edges_of(results, project) if b.back >= 0]
    bodies = _bodies([(a.id, b.id) for a, b in borders if not {a.kind, b.kind} & kinds and not b.whole])
    # Parts of one body meet, as an ear and a brow do, and are meant to.
    joined = {
        frozenset((a.name, b.name)) for body in bodies for a in zones for b in zones if a.id in body and b.id in body
    }
    canvas = project.canvas
    gap = TOUCH_SHARE * float(np.hypot(canvas.width_mm, canvas.height_mm))
    return list(touches(outlines, canvas.width_mm, canvas.height_mm, gap, joined))[:3]


def _bodies(pairs: Sequence[tuple[str, str]]) -> list[set[str]]:
    """Return the groups of ids that pairs link together."""
    bodies: list[set[str]] = []
    for pair in pairs:
        meeting = [body for body in bodies if body & set(pair)]
        bodies = [body for body in bodies if not body & set(pair)] + [set(pair).union(*meeting)]
    return bodies


def _zone_name(results: Results, project: Project, at: Point) -> str:
    """Return the name of the zone at a place given in shares of the crop, empty on the background."""
    frame = map_frame(project)
    labels = labels_of(results, project, frame)
    i, j = min(int(at[1] * frame.rows), frame.rows - 1), min(int(at[0] * frame.columns), frame.columns - 1)
    zone = project.back_to_front()[labels[i, j]] if labels[i, j] >= 0 else None
    return zone.name.lower() if zone is not None and zone.kind != "background" else ""


def _moved_shadows(project: Project) -> list[Finding]:
    """Say that what was placed has left its cast shadow and reflections behind."""
    made = []
    for one in project.placed:
        at = ((one.pose.x - project.crop.x) / project.crop.width, (one.pose.y - project.crop.y) / project.crop.height)
        turned = f", turned {one.pose.turn_deg:.0f}°" if one.pose.turn_deg else ""
        mirrored = ", mirrored: its light now comes from the other side" if one.pose.mirrored else ""
        made.append(
            judgement(
                f"moved-{one.id}",
                "Placed part",
                mm_words(one.soft_mm),
                "look",
                f"{one.note or one.reference.name} has no cast shadow here.",
                f"it was placed from another picture{turned}{mirrored} · paint its shadow and reflections by this picture's light",
                0.65,
                at,
            )
        )
    return made


def uneven_of(results: Results, project: Project) -> tuple[Unevenness, ...]:
    """Compare left and right in the head's frame: paired parts, and the outline of what lies round the eyes."""
    axes = project.axes_or_eyes()
    if axes is None:
        return ()
    pairs = []
    named = {z.name.lower(): z for z in project.zones if not z.whole}
    for name, zone in named.items():
        if not name.startswith("near "):
            continue
        other = named.get("far " + name.removeprefix("near "))
        if other is None or zone.kind == "whisker":
            continue
        first, second = zone.shape.outline(), other.shape.outline()
        if first[:, 0].mean() > second[:, 0].mean():
            first, second = second, first
        pairs.append((name.removeprefix("near ").capitalize(), first, second))
    return tuple(symmetry(axes, pairs, _head(results, project, axes), project.mm_per_px))


def _head(results: Results, project: Project, axes: Axes) -> Points | None:
    """Return the animal's outline about the eyes, reference pixels: as far up and down as the head goes."""
    import cv2

    frame = Frame.over(project.crop, project.mm_per_px, READ_CELLS)
    found, _ = cv2.findContours(
        subject_of(results, project, frame).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
    )
    if not found:
        return None
    line = frame.to_px(max(found, key=cv2.contourArea)[:, 0, :].astype(np.float64) + 0.5)
    reach = 1.2 * float(np.hypot(axes.right[0] - axes.left[0], axes.right[1] - axes.left[1]))
    along = axes.across_along(line)[:, 1]
    return np.asarray(line[np.abs(along) < reach])
