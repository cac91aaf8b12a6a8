"""What the finished rehearsal says of the rules: where highlights fall, what has been lost."""

from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F64, Bool, Lab, Points, Rgb8
from foxpath.core.colour import lab_from_rgb8
from foxpath.core.findings import Finding
from foxpath.core.passes.hierarchy import EQUAL, Hierarchy, hardness, hierarchy
from foxpath.core.reference.light import hour_words, toward
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import mm_words, percent
from foxpath.derive.edges.plan import edge_widths, edges_of
from foxpath.derive.frames import map_frame
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.pictures import scaled_picture
from foxpath.derive.rehearsal.painting import groups_of
from foxpath.derive.rehearsal.softness import rehearsed_widths
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of, subject_of
from foxpath.document.model import Project

LIGHT_SHARE = 0.02
"""The last lights cover at most this share of the canvas."""


FAR_SHARE = 0.5
"""At most this share of them lies in the farther half of the animal."""


SHADED = 0.12
"""At most this share of the lights along the contour lies where the light does not reach."""


OUTLINE_MM = 45.0
"""A highlight along a contour for longer than this outlines it."""


READ_PX = 900


@dataclass(frozen=True, slots=True, eq=False)
class Finish:
    """What the finished rehearsal says of the rules.

    Attributes
    ----------
    findings : tuple of Finding
    painted, reference : Hierarchy
    """

    findings: tuple[Finding, ...]
    painted: Hierarchy
    reference: Hierarchy


def read_finish(results: Results, project: Project, painted: Rgb8, progress: Progress = SILENT) -> Finish:
    """Judge a finished rehearsal: its highlights by their marks, its darks and its focal hierarchy by the picture.

    Parameters
    ----------
    results : Results
    project : Project
    painted : (H, W, 3) uint8
        Over the whole canvas.
    progress : Progress

    Raises
    ------
    Cancelled
    """
    import cv2

    canvas = project.canvas
    px_per_mm = READ_PX / max(canvas.width_mm, canvas.height_mm)
    size = max(8, round(canvas.width_mm * px_per_mm)), max(8, round(canvas.height_mm * px_per_mm))
    came = lab_from_rgb8(
        np.asarray(cv2.resize(np.ascontiguousarray(painted), size, interpolation=cv2.INTER_AREA), np.uint8)
    )
    wanted = lab_from_rgb8(scaled_picture(results, project, *size))
    labels = cv2.resize(labels_of(results, project, map_frame(project)), size, interpolation=cv2.INTER_NEAREST)
    whole = subject_of(results, project, map_frame(project)).astype(np.uint8)
    subject: Bool = cv2.resize(whole, size, interpolation=cv2.INTER_NEAREST) > 0
    x, y = (np.array(project.focal_point) - (project.crop.x, project.crop.y)) * project.mm_per_px * px_per_mm
    focal = (float(x), float(y))
    progress.at(0.4, "judging the highlights")
    found = _highlights(results, project, subject, focal, px_per_mm, progress)
    found += _lost_darks(project, came, wanted, labels)
    ours, theirs = _hierarchies(results, project, painted, (came, wanted), subject, focal, px_per_mm, progress)
    near = ours.ratio("detail")
    if np.isfinite(near) and near < EQUAL:
        says = "Everything is finished equally." if near > 0.9 else "The detail is spent far from the focal point."
        found.append(
            Finding(
                "look",
                says,
                f"{near:.2f} times as much detail near it as far, the reference has {theirs.ratio('detail'):.2f} · broaden marks away from "
                "it at Lengths, or move the focal point",
                "rehearsal",
            )
        )
    return Finish(tuple(found), ours, theirs)


def _hierarchies(
    results: Results,
    project: Project,
    painted: Rgb8,
    labs: tuple[Lab, Lab],
    subject: Bool,
    focal: tuple[float, float],
    px_per_mm: float,
    progress: Progress,
) -> tuple[Hierarchy, Hierarchy]:
    """Measure a rehearsal with its edges as they came, and its reference with the edges as they are planned."""
    ours, theirs = (hierarchy(lab, subject, focal, px_per_mm) for lab in labs)
    edges = edges_of(results, project)
    came, planned = rehearsed_widths(painted, project, edges, progress), edge_widths(results, project)
    frame = map_frame(project)
    at = {(b.front, b.back): [frame.to_mm(run) for run in b.runs] for b, _ in edges}
    middle = (focal[0] / px_per_mm, focal[1] / px_per_mm)
    in_paint: list[tuple[Points, F64 | float]] = [(run, came[key]) for key, runs in at.items() for run in runs]
    in_plan: list[tuple[Points, F64 | float]] = [
        (run, wide) for key, runs in at.items() for run, wide in zip(runs, planned[key], strict=True)
    ]
    return (
        replace(ours, hardness=hardness(in_paint, middle, ours.far_mm)),
        replace(theirs, hardness=hardness(in_plan, middle, theirs.far_mm)),
    )


def _highlights(
    results: Results, project: Project, subject: Bool, focal: tuple[float, float], px_per_mm: float, progress: Progress
) -> list[Finding]:
    import cv2

    plan = next((p for p in passes_of(results, project) if p.on and p.role.act == "highlights"), None)
    if plan is None:
        return []
    groups = [marks for _, marks in groups_of(results, project, plan, progress) if len(marks.half_mm)]
    if not groups:
        return []
    places = np.concatenate([m.lines_mm[:, 3] for m in groups]).astype(np.float64)
    areas = np.concatenate([2 * m.half_mm * m.length_mm * float(m.profile().mean()) for m in groups]).astype(np.float64)
    found: list[Finding] = []
    share = float(areas.sum()) / 100 / project.canvas.area_cm2
    if share > LIGHT_SHARE:
        found.append(
            Finding(
                "look",
                f"Highlights cover {share * 100:.1f} % of the canvas.",
                f"at most {percent(LIGHT_SHARE)} keeps them precious · lower their cover, or raise where they begin",
                "passes",
                "highlights",
            )
        )
    far = np.hypot(*(places * px_per_mm - focal).T)
    y, x = np.nonzero(subject)
    middle = float(np.median(np.hypot(x - focal[0], y - focal[1]))) if len(x) else 0.0
    away = float(areas[far > middle].sum() / max(float(areas.sum()), 1e-9))
    # What reads as no more than the rule allows is no more than it allows.
    if round(away, 2) > FAR_SHARE:
        found.append(
            Finding(
                "look",
                f"{percent(away)} of the highlights lie far from the focal point.",
                f"in the farther half of the animal · at most {percent(FAR_SHARE)}: raise the band's dark end, or move the focal point",
                "passes",
                "highlights",
            )
        )
    depth = cv2.distanceTransform(np.pad(subject.astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1] / px_per_mm
    j, i = np.clip((places * px_per_mm).astype(int), 0, (subject.shape[1] - 1, subject.shape[0] - 1)).T
    if project.light is None or project.light.height_deg >= 0:
        # A light behind the animal does light its rim.
        found += _unlit(project, depth, i, j, areas)
        found += _outlined(results, project, places)
    return found


def _unlit(project: Project, depth: np.ndarray, i: np.ndarray, j: np.ndarray, areas: np.ndarray) -> list[Finding]:
    """Name highlights along the contour where the form turns away from the light of the picture."""
    import cv2

    if project.light is None:
        return []
    smooth = cv2.GaussianBlur(depth.astype(np.float32), (0, 0), 4)
    gy, gx = np.gradient(smooth)
    rim = (depth[i, j] > 0) & (depth[i, j] < 12)
    size = np.hypot(gx, gy)[i, j] + 1e-6
    way = toward(project.light.hour, 0.0)
    # Just inside the contour the form looks outward.
    facing = -(gx[i, j] * way[0] + gy[i, j] * way[1]) / size
    near = float(areas[rim].sum())
    wrong = float(areas[rim & (facing < -0.4)].sum())
    if near <= 0 or wrong / near <= SHADED:
        return []
    return [
        Finding(
            "look",
            "Highlights fall where the light does not reach.",
            f"{percent(wrong / near)} of those along the contour, the light comes from {hour_words(project.light.hour)} · leave them out "
            "there, or paint them as the sky's cool sheen",
            "passes",
            "highlights",
        )
    ]


def _outlined(results: Results, project: Project, places: Points) -> list[Finding]:
    """Name the border along which highlights run on longest, when it is too long."""
    from scipy.spatial import KDTree

    tree = KDTree(places)
    worst, where = 0.0, None
    zones = project.back_to_front()
    for border, _ in edges_of(results, project):
        if border.length_mm < OUTLINE_MM or border.front < 0 or zones[border.front].kind_of().hair is False:
            continue
        for run in border.runs:
            mm = (run - (project.crop.x, project.crop.y)) * project.mm_per_px
            # One mark within a millimetre and a half at every step is a line.
            on = np.asarray(tree.query(mm, distance_upper_bound=1.5)[0]) < 1.5
            step = np.hypot(*np.diff(mm, axis=0).T)
            long = run_on = 0.0
            for lit, ahead in zip(on[1:], step, strict=True):
                run_on = run_on + float(ahead) if lit else 0.0
                long = max(long, run_on)
            if long > worst:
                worst, where = long, border
    if where is None or worst <= OUTLINE_MM:
        return []
    back = zones[where.back].name.lower() if where.back >= 0 else "bare canvas"
    return [
        Finding(
            "look",
            f"A highlight outlines {zones[where.front].name.lower()}.",
            f"{mm_words(worst)} on end along {back} · lights sit inside the form, broken: at most {mm_words(OUTLINE_MM)}",
            "passes",
            "highlights",
        )
    ]


def _lost_darks(project: Project, came: np.ndarray, wanted: np.ndarray, labels: np.ndarray) -> list[Finding]:
    """Name the coats whose darks between the hairs the rehearsal has lost."""
    lost = []
    for index, zone in enumerate(project.back_to_front()):
        mask = labels == index
        if not zone.kind_of().hair or not zone.kind_of().cover or mask.sum() < 400:
            continue
        reference, painted = wanted[..., 0][mask], came[..., 0][mask]
        # Against each part's own middle: a part painted lighter as a whole is another fault.
        level = float(np.percentile(reference, 15) - np.median(reference))
        if level > -4:
            continue
        left = float((painted - np.median(painted) < level).mean())
        if left < 0.04:
            lost.append((left, zone))
    if not lost:
        return []
    share, zone = min(lost, key=lambda one: one[0])
    more = f" and {len(lost) - 1} more" if len(lost) > 1 else ""
    return [
        Finding(
            "look",
            f"The darks between the hairs are lost in {zone.name.lower()}{more}.",
            f"15 % of the reference, {percent(share)} of the rehearsal · restate them after the coat: more cover in the restated darks",
            "rehearsal",
            zone.id,
        )
    ]
