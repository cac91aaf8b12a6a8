"""Requests about the reference: decode it, see it through the aids, measure its health, read its composition."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F32, Bool, Lab, Points, Rgb8, frozen
from foxpath.core.colour import lab_from_linear, lab_from_rgb8
from foxpath.core.curves import closed_curve, resample
from foxpath.core.eyes import as_catchlights
from foxpath.core.frame import Crop, Frame
from foxpath.core.passes.check import Finding
from foxpath.core.progress import SILENT, Progress
from foxpath.core.reference.composition import TOUCH_SHARE, Separation, Touch, lone_colours, pulls, separation, touches
from foxpath.core.reference.correction import spot_linear
from foxpath.core.reference.falloff import Falloff, faded, middle_of
from foxpath.core.reference.health import Health, measured, near_and_far, tiled
from foxpath.core.reference.judge import Judgement, judged, judged_composition, worst_first
from foxpath.core.reference.light import Catchlight, LightEvidence, from_catchlights, from_shading
from foxpath.core.reference.squint import acuity_blur_px, even_cuts, greys, lightness_of, poster, squint
from foxpath.core.reference.transfer import Axes, Unevenness, symmetry
from foxpath.core.units import mm_words
from foxpath.derive.results import Results
from foxpath.document.model import Pairs, Project, Reference, as_array

Point = tuple[float, float]
LENT_PIXELS = 3000
"""Longer side at which further pictures are shown at most."""
READ_CELLS = 512
"""Cells on the longer side of the grid on which composition and light are read."""


def halves(rgb: Rgb8) -> list[Rgb8]:
    """Return a picture and its halves down to 900 pixels, largest first: the levels it is shown from."""
    import cv2

    levels = [rgb]
    while max(levels[-1].shape[:2]) > 900:
        height, width = levels[-1].shape[:2]
        size = (max(1, width // 2), max(1, height // 2))
        levels.append(frozen(np.asarray(cv2.resize(levels[-1], size, interpolation=cv2.INTER_AREA), np.uint8)))
    return levels


@dataclass(frozen=True, slots=True)
class Decode:
    """Bring a project's reference to the screen: decoded, composed, corrected, and halved until it is small."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> list[Rgb8]:
        """Return the picture and its halves, largest first."""
        progress.at(0.1, "opening the picture")
        rgb = self.results.working(self.project).rgb
        progress.at(0.6, "opening the picture")
        return halves(rgb)


@dataclass(frozen=True, slots=True)
class DecodeLent:
    """Bring a further picture of the shelf to the screen."""

    results: Results
    reference: Reference

    def __call__(self, progress: Progress) -> tuple[str, list[Rgb8]]:
        """Return the picture's digest, and the picture with its halves, largest first."""
        progress.at(0.1, f"opening {self.reference.name}")
        levels = halves(self.results.picture(self.reference).rgb)
        # A shelf may hold many: beside and over the main picture the screen's own size is enough.
        return self.reference.digest, [v for v in levels if max(v.shape[:2]) <= LENT_PIXELS] or levels[-1:]


@dataclass(frozen=True, slots=True, eq=False)
class Aids:
    """What the picture is seen through.

    Attributes
    ----------
    kinds : frozenset
        Of "falloff", "squint", "greys", "poster"; together they are applied in this order.
    distance_m : float
        From where it is squinted at.
    cuts : tuple of float
        L* thresholds of the poster.
    falloff : Falloff
    mm_per_px : float
        Millimetres on the canvas for one reference pixel.
    """

    kinds: frozenset[str]
    distance_m: float
    cuts: tuple[float, ...]
    falloff: Falloff
    mm_per_px: float

    @property
    def reach_px(self) -> float:
        """How far beyond a place what is seen there depends on the picture, reference pixels."""
        reach = self.falloff.reach_px if "falloff" in self.kinds else 0.0
        if "squint" in self.kinds:
            reach = max(reach, 2 * acuity_blur_px(self.distance_m, 1 / self.mm_per_px))
        return reach

    def applied(self, rgb: Rgb8, part: Crop) -> Rgb8:
        """Return a picture that shows `part` of the reference as seen through the aids."""
        if "falloff" in self.kinds:
            rgb = faded(rgb, part, self.falloff)
        if "squint" in self.kinds:
            rgb = squint(rgb, acuity_blur_px(self.distance_m, rgb.shape[1] / part.width / self.mm_per_px))
        if "poster" in self.kinds:
            return poster(rgb, self.cuts)
        return greys(rgb) if "greys" in self.kinds else rgb


def aids_of(project: Project, kinds: frozenset[str], smallest: Rgb8) -> Aids:
    """Return the aids as a project sets them; `smallest` gives the poster's even cuts and the picture's middle."""
    seeing, cuts = project.seeing, project.seeing.cuts
    if "poster" in kinds and len(cuts) != seeing.steps - 1:
        cuts = even_cuts(lightness_of(smallest), seeing.steps)
    middle = middle_of(smallest) if "falloff" in kinds else 0.18
    diagonal = float(np.hypot(project.crop.width, project.crop.height))
    falloff = Falloff(project.focal_point, diagonal, seeing.falloff, middle)
    return Aids(kinds, seeing.distance_m, cuts, falloff, project.mm_per_px)


@dataclass(frozen=True, slots=True, eq=False)
class Look:
    """See part of a picture through the aids, at the size it has on the screen.

    Attributes
    ----------
    levels : sequence of (H, W, 3) uint8
        Each shows `whole`; largest first.
    whole, part : Crop
        Reference pixels.
    px_per_px : float
        Screen pixels for one reference pixel.
    project : Project
        Says how the aids are set.
    kinds : frozenset of str
        See `Aids`.
    """

    levels: Sequence[Rgb8]
    whole: Crop
    part: Crop
    px_per_px: float
    project: Project
    kinds: frozenset[str]

    def __call__(self, progress: Progress) -> tuple[Crop, Rgb8]:
        """Return what is shown and its picture."""
        import cv2

        progress.at(0.1, "looking again")
        aids = aids_of(self.project, self.kinds, self.levels[-1])
        wanted = self.px_per_px * self.whole.width
        level = next((v for v in reversed(self.levels) if v.shape[1] >= wanted), self.levels[0])
        k = level.shape[1] / self.whole.width
        part, reach = self.part, min(aids.reach_px, 0.25 * max(self.part.width, self.part.height))
        x0 = max(0, int((part.x - reach - self.whole.x) * k))
        y0 = max(0, int((part.y - reach - self.whole.y) * k))
        x1 = min(level.shape[1], int(np.ceil((part.x + part.width + reach - self.whole.x) * k)) + 1)
        y1 = min(level.shape[0], int(np.ceil((part.y + part.height + reach - self.whole.y) * k)) + 1)
        if x1 <= x0 or y1 <= y0:
            x0, y0, x1, y1 = 0, 0, level.shape[1], level.shape[0]
        shown = Crop(self.whole.x + x0 / k, self.whole.y + y0 / k, (x1 - x0) / k, (y1 - y0) / k)
        rgb = level[y0:y1, x0:x1]
        scale = self.px_per_px / k
        if scale < 0.9:
            size = (max(1, round(rgb.shape[1] * scale)), max(1, round(rgb.shape[0] * scale)))
            rgb = np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
        return shown, aids.applied(np.ascontiguousarray(rgb), shown)


@dataclass(frozen=True, slots=True, eq=False)
class Inspection:
    """What was found out about a reference.

    Attributes
    ----------
    project : Project
        The one it was read from.
    health : Health
    health_says, composition_says : tuple of Judgement
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
    health_says: tuple[Judgement, ...]
    composition_says: tuple[Judgement, ...]
    separation: Separation | None
    evidence: tuple[LightEvidence, ...]
    uneven: tuple[Unevenness, ...]
    away: Bool

    def useful(self) -> list[Judgement]:
        """Return what there is to do, most useful first."""
        return worst_first([*self.health_says, *self.composition_says])


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
        results.picture_key(project),
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

        def in_px(one: Judgement, whole: Crop) -> Judgement:
            if one.at is None:
                return one
            return replace(one, at=(whole.x + one.at[0] * whole.width, whole.y + one.at[1] * whole.height))

        whole = Crop(0, 0, reference.width, reference.height)
        away = ~tiled(_subject_over_all(results, project), health.blur_map.shape)
        ours = None if away.all() else ~away
        health_says = tuple(in_px(one, whole) for one in judged(health, mm, project.finest_mm, ours))
        progress.at(0.75, "reading the composition")
        frame = Frame.over(project.crop, mm, READ_CELLS)
        lab = lab_from_rgb8(results.cropped(project, frame.columns, frame.rows))
        subject = results.subject(project, frame)
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
            evidence.append(from_shading(np.ascontiguousarray(lab[..., 0]), subject, results.labels(project, frame)))
        sure = tuple(sorted((one for one in evidence if one is not None), key=lambda one: -one.sure))
        composition_says = tuple(in_px(one, project.crop) for one in says)
        return Inspection(project, health, health_says, composition_says, part, sure, uneven_of(results, project), away)


def health_of(results: Results, project: Project, progress: Progress = SILENT) -> Health:
    """Return the health of a project's reference, in pixels of the file."""
    source, shown = results.composed(project), results.working(project)
    grey = None
    correction = project.correction
    if correction.grey is not None:
        lab = spot_lab(shown.rgb, correction.grey, correction.radius_px, shown.scale)
        grey = (float(lab[1]), float(lab[2]))

    def make() -> Health:
        made = measured(source.rgb, shown.rgb, grey, progress)
        k = np.float32(1 / source.scale)
        return made if k == 1 else replace(made, blur_map=frozen(made.blur_map * k), blur_px=made.blur_px * float(k))

    health = results.memo.get(("health", results.picture_key(project)), make)
    if len(project.zones) < 2:
        return health
    return near_and_far(health, _subject_over_all(results, project))


def _subject_over_all(results: Results, project: Project) -> Bool:
    """Return the subject on a small grid over the whole picture, not only the crop."""
    whole = Crop(0, 0, project.reference.width, project.reference.height)
    return results.subject(project, Frame.over(whole, project.mm_per_px, 256))


def spot_lab(rgb: Rgb8, at: Point, radius_px: float, scale: float) -> Lab:
    """Return the (3,) CIELAB mean of a disc; `at` and radius in reference pixels, `scale` pixels of `rgb` for one."""
    return lab_from_linear(spot_linear(rgb, (at[0] * scale, at[1] * scale), radius_px * scale))


def spots_lab(levels: Sequence[Rgb8], project: Project) -> list[F32 | None]:
    """Return the colour of every spot of the chain; None for one off the picture."""
    read: list[F32 | None] = []
    scale = levels[0].shape[1] / project.reference.width
    for at in project.spots:
        try:
            read.append(spot_lab(levels[0], at, project.spot_mm / project.mm_per_px, scale))
        except ValueError:
            read.append(None)
    return read


def _outline_mm(project: Project, points: Pairs) -> Points:
    line = closed_curve(as_array(points), 6)
    at = (np.vstack([line, line[:1]]) - (project.crop.x, project.crop.y)) * project.mm_per_px
    return np.asarray(resample(at, min(len(at), 600)))


def _touches(results: Results, project: Project) -> list[Touch]:
    zones = project.back_to_front()
    kinds = {"background", "shadow", "whisker", "marking"}
    outlines = [(z.name, _outline_mm(project, z.points)) for z in zones if not z.whole and z.kind not in kinds]
    borders = [(zones[b.front], zones[b.back]) for b, _ in results.edges(project) if b.back >= 0]
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
    frame = results.map_frame(project)
    labels = results.labels(project, frame)
    i, j = min(int(at[1] * frame.rows), frame.rows - 1), min(int(at[0] * frame.columns), frame.columns - 1)
    zone = project.back_to_front()[labels[i, j]] if labels[i, j] >= 0 else None
    return zone.name.lower() if zone is not None and zone.kind != "background" else ""


def _moved_shadows(project: Project) -> list[Judgement]:
    """Say that what was placed has left its cast shadow and reflections behind."""
    made = []
    for one in project.placed:
        at = ((one.pose.x - project.crop.x) / project.crop.width, (one.pose.y - project.crop.y) / project.crop.height)
        turned = f", turned {one.pose.turn_deg:.0f}°" if one.pose.turn_deg else ""
        mirrored = ", mirrored: its light now comes from the other side" if one.pose.mirrored else ""
        made.append(
            Judgement(
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
        results.subject(project, frame).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
    )
    if not found:
        return None
    line = frame.to_px(max(found, key=cv2.contourArea)[:, 0, :].astype(np.float64) + 0.5)
    reach = 1.2 * float(np.hypot(axes.right[0] - axes.left[0], axes.right[1] - axes.left[1]))
    along = axes.across_along(line)[:, 1]
    return np.asarray(line[np.abs(along) < reach])


def reference_findings(inspection: Inspection) -> list[Finding]:
    """Return an inspection's judgements as findings of the Reference stop."""
    return [Finding(one.level, one.says, one.why, "reference", one.key) for one in inspection.useful()]  # type: ignore[arg-type]
