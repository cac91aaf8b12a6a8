"""The field of mark lengths that follows from a project, and what the photograph cannot say of it."""

from collections.abc import Hashable

import numpy as np

from foxpath.core.arrays import F32, frozen
from foxpath.core.curves import line_length, resample
from foxpath.core.fingerprint import fingerprint
from foxpath.core.frame import Frame
from foxpath.core.growth import ZoneField
from foxpath.core.growth.evidence import hair_shown, scale_for
from foxpath.core.lengths import Hair, LengthField, ZoneLengths, foreshortening, length_field
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth.fields import evidence_key, evidence_of, growth_key, growth_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of, mask_key, mask_of
from foxpath.document.model import Pairs, Project, Zone, as_array

SHOWN = 0.5
"""From this on (see `hair_shown`) a place shows its hair."""
RUN_TOGETHER = ("lost", "soft")
"""Grades of edge at which one coat runs into the other."""


def _hairy(project: Project) -> list[tuple[int, Zone]]:
    return [(k, z) for k, z in enumerate(project.back_to_front()) if z.kind_of().hair and z.kind_of().cover]


def _run_together(results: Results, project: Project) -> tuple[tuple[int, int], ...]:
    """Return the pairs of zones whose coats run into each other: softly, and of one animal."""
    zones = project.back_to_front()

    def coat(index: int) -> bool:
        return index >= 0 and zones[index].kind_of().hair

    return tuple(
        (border.front, border.back)
        for border, plan in edges_of(results, project)
        if plan.grade in RUN_TOGETHER
        and coat(border.front)
        and coat(border.back)
        and zones[border.front].group == zones[border.back].group
    )


def _lengths_story(results: Results, project: Project) -> Hashable:
    """Return everything the lengths follow from."""
    frame, hairy = growth_frame(project), _hairy(project)
    formed = tuple((z.form, growth_key(results, project, k, frame)) for k, z in hairy if z.form.kind)
    coats = tuple((k, project.coat_of(z), z.hairs) for k, z in hairy)
    pairs = _run_together(results, project)
    quiet = tuple(project.weight_of(z) for _, z in hairy)
    return ("lengths", project.outlines, frame, coats, pairs, formed, project.focal_point, project.falloff, quiet)


def lengths_of(results: Results, project: Project, progress: Progress = SILENT) -> LengthField:
    """Return length and width of the marks as multiples of each zone's coat, on the growth's grid."""
    frame, hairy, pairs, focal = (
        growth_frame(project),
        _hairy(project),
        _run_together(results, project),
        project.focal_point,
    )

    def make() -> LengthField:
        progress.at(0, "filling the lengths")
        given = tuple(
            ZoneLengths(k, project.coat_of(z), tuple(_hair(results, project, k, h) for h in z.hairs)) for k, z in hairy
        )
        labels = labels_of(results, project, frame)
        seen = np.ones(frame.shape, np.float32)
        for k, zone in hairy:
            part = seen_in(results, project, k, zone, progress)
            if part is not None:
                mask = mask_of(results, project, k, frame)
                seen[mask] = part[mask]
        quiet = np.zeros(frame.shape, np.float32)
        for k, zone in hairy:
            quiet[labels == k] = 1 - project.weight_of(zone)
        return length_field(given, labels, frame, pairs, focal, project.falloff, seen, progress, quiet)

    return results.memo.get(("lengths", lengths_key(results, project)), make)


def seen_in(results: Results, project: Project, index: int, zone: Zone, progress: Progress = SILENT) -> F32 | None:
    """Return a zone's foreshortening on the growth's grid; None without a form or where the zone is hidden."""
    field = growth_of(results, project, index, progress) if zone.form.kind else None
    if field is None:
        return None
    key = ("seen", zone.form, growth_key(results, project, index, field.frame))

    def make() -> F32:
        frame = field.frame
        height, width = field.inside.shape
        places = _places(frame, field.row, field.column, field.inside.shape)
        part = foreshortening(zone.form, field.inside, *places, field.direction)
        whole = np.ones(frame.shape, np.float32)
        whole[field.row : field.row + height, field.column : field.column + width] = part
        return whole

    return results.memo.get(key, make)


def _places(frame: Frame, row: int, column: int, shape: tuple[int, ...]) -> tuple[F32, F32]:
    """Return x and y of every cell of a window on a grid, reference pixels."""
    height, width = shape[:2]
    x = frame.crop.x + (column + np.arange(width) + 0.5) * frame.cell_px
    y = frame.crop.y + (row + np.arange(height) + 0.5) * frame.cell_px
    gx, gy = np.meshgrid(x.astype(np.float32), y.astype(np.float32))
    return gx, gy


def seen_at(results: Results, project: Project, index: int, points: Pairs) -> float:
    """Return the foreshortening at the middle of a stroke dragged along a hair, 0.3 to 1, by the stroke's own direction."""
    zone = project.back_to_front()[index]
    if not zone.form.kind or len(points) < 2:
        return 1.0
    # Of the growth nothing is needed: a stroke is measured while the painter waits.
    frame = growth_frame(project)
    mask = mask_of(results, project, index, frame)
    middle = resample(as_array(points), 3)
    way = (middle[2] - middle[0]) / (np.hypot(*(middle[2] - middle[0])) + 1e-9)
    direction = np.broadcast_to(way.astype(np.float32), (*mask.shape, 2))
    seen = foreshortening(zone.form, mask, *_places(frame, 0, 0, mask.shape), direction)
    j, i = np.clip(np.floor(frame.to_grid(middle[1:2])).astype(int), 0, (frame.columns - 1, frame.rows - 1))[0]
    return float(seen[i, j])


def _hair(results: Results, project: Project, index: int, points: Pairs) -> Hair:
    line = as_array(points)
    middle = resample(line, 3)[1]
    length = line_length(line) * project.mm_per_px / seen_at(results, project, index, points)
    return Hair((float(middle[0]), float(middle[1])), max(length, 0.05))


def window_of(field: LengthField, growth: ZoneField) -> F32:
    """Return the multiples of length and width on a growth's window, (h, w, 2) float32."""
    height, width = growth.inside.shape
    rows, columns = slice(growth.row, growth.row + height), slice(growth.column, growth.column + width)
    return np.ascontiguousarray(np.stack([field.length[rows, columns], field.width[rows, columns]], axis=-1))


def spread_of(field: LengthField, index: int, results: Results, project: Project) -> tuple[float, float, float, float]:
    """Return least and most length, mean width, and mean area of a zone's marks, as multiples of its coat's."""
    frame: Frame = field.frame
    mask = mask_of(results, project, index, frame)
    if not mask.any() or not project.back_to_front()[index].kind_of().cover:
        return 1.0, 1.0, 1.0, 1.0

    def make() -> tuple[float, float, float, float]:
        length, width = field.length[mask], field.width[mask]
        low, high = np.percentile(length, (2, 98))
        return float(low), float(high), float(width.mean()), float((length * width).mean())

    key = ("spread", lengths_key(results, project), index, mask_key(results, project, index, frame))
    return results.memo.get(key, make)


def hair_share(results: Results, project: Project, index: int) -> float:
    """Return on what share of a zone (0..1) the photograph shows hair at all; the rest is blurred, or blocked dark."""
    zone, frame = project.back_to_front()[index], growth_frame(project)
    mask, length_px = mask_of(results, project, index, frame), project.coat_of(zone).length_mm / project.mm_per_px
    if not mask.any():
        return 0.0
    key = (
        "hair share",
        mask_key(results, project, index, frame),
        evidence_key(results, project, frame),
        round(length_px, 1),
    )

    def make() -> float:
        seen = evidence_of(results, project)
        scale = scale_for(seen, mask, length_px / seen.reference_px)
        return float((hair_shown(seen.weight[scale][mask]) > SHOWN).mean())

    return results.memo.get(key, make)


def lengths_key(results: Results, project: Project) -> bytes:
    """Return a short fingerprint of everything the lengths follow from."""
    return results.once(project, "lengths key", lambda: fingerprint(_lengths_story(results, project)))


def varied_of(
    results: Results, project: Project, index: int, progress: Progress = SILENT
) -> tuple[Hashable, F32 | None]:
    """Return a zone's multiples of length and width over its growth's window, with their key; None where it is hidden."""
    key = ("varied", lengths_key(results, project), index, mask_key(results, project, index, growth_frame(project)))

    def make() -> tuple[Hashable, F32 | None]:
        field = growth_of(results, project, index, progress)
        if field is None:
            return "hidden", None
        part: F32 = frozen(window_of(lengths_of(results, project, progress), field))
        return fingerprint(part), part

    return results.memo.get(key, make)
