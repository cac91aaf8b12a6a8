"""What the finished rehearsal says, zone by zone, against reference and plan."""

import math
from dataclasses import replace
from typing import Any

import numpy as np

from foxpath.core.arrays import Bool, Rgb8
from foxpath.core.colour import lab_from_linear, linear_from_rgb8
from foxpath.core.frame import Frame
from foxpath.core.growth import read_evidence
from foxpath.core.growth.evidence import FAINTEST, scale_for
from foxpath.core.rehearsal.feathers import within
from foxpath.core.rehearsal.reading import ZoneReading, axis_off, read_zone, rim_px, viewing_sigma
from foxpath.core.rehearsal.structure import found_again, read_feathers
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.growth.fields import EVIDENCE_PX, evidence_of, growth_of
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.lengths.feathers import feathered, feathers_of
from foxpath.derive.mixes.films import changed_by_veils
from foxpath.derive.pictures import scaled_picture
from foxpath.derive.rehearsal.softness import rehearsed_widths
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import growing, labels_of, mask_of
from foxpath.document.model import Project

READ_PX = 1000
"""Longer side at which colours are compared."""


def _seen(rgb: Rgb8, size: tuple[int, int], sigma: float) -> np.ndarray:
    import cv2

    small = cv2.resize(np.ascontiguousarray(rgb), size, interpolation=cv2.INTER_AREA)
    # Light mixes in the eye, not L*.
    linear = cv2.GaussianBlur(linear_from_rgb8(np.asarray(small, np.uint8)), (0, 0), max(sigma, 0.3))
    return lab_from_linear(np.asarray(linear, np.float32))


def read_painting(
    results: Results, project: Project, painted: Rgb8, progress: Progress = SILENT
) -> tuple[ZoneReading, ...]:
    """Compare a rehearsal of the whole canvas with the reference and the plan, the farthest off first.

    Parameters
    ----------
    results : Results
    project : Project
    painted : (H, W, 3) uint8
    progress : Progress

    Raises
    ------
    Cancelled
    """
    import cv2

    canvas, zones = project.canvas, project.back_to_front()
    px_per_mm = READ_PX / max(canvas.width_mm, canvas.height_mm)
    size = max(8, round(canvas.width_mm * px_per_mm)), max(8, round(canvas.height_mm * px_per_mm))
    sigma = viewing_sigma(project.seeing.distance_m, px_per_mm)
    progress.at(0.05, "reading the rehearsal")
    # A veil that changes the painting on purpose belongs to what is wanted.
    wanted = _seen(changed_by_veils(results, project, scaled_picture(results, project, *size)), size, sigma)
    came = _seen(painted, size, sigma)
    labels = cv2.resize(labels_of(results, project, map_frame(project)), size, interpolation=cv2.INTER_NEAREST)
    widths = rehearsed_widths(painted, project, edges_of(results, project), progress)
    plans = {(border.front, border.back): plan.width_mm for border, plan in edges_of(results, project)}
    rim = np.ones((2 * rim_px(px_per_mm) + 1,) * 2, np.uint8)
    progress.at(0.4, "reading the rehearsal's hair")
    growth = _growth(results, project, painted, progress)
    plumage = _plumage(results, project, painted, progress)
    found = []
    for index, zone in enumerate(zones):
        mask: Bool = np.asarray(labels == index)
        inner = cv2.erode(mask.astype(np.uint8), rim) > 0
        ratios = [w / plans[key] for key, w in widths.items() if index in key and math.isfinite(w) and key in plans]
        edge = float(np.median(ratios)) if ratios else math.nan
        area = facts_of(results, project)[index].area_cm2
        # A narrow part is nothing but rim: all of it is read.
        part = inner if inner.sum() > 0.2 * mask.sum() else mask
        one = read_zone(zone.id, wanted, came, part, area, growth.get(index, math.nan), edge)
        if one is not None and zone.kind_of().cover:
            many, share = plumage.get(index, (0, math.nan))
            found.append(replace(one, feathers=many, found=share))
    return tuple(sorted(found, key=lambda one: -one.de))


def _plumage(results: Results, project: Project, painted: Rgb8, progress: Progress) -> dict[int, tuple[int, float]]:
    """Return how many leading feathers of each zone show bars or gaps in the reference, and on what share they are found again."""
    crop, frame = project.crop, map_frame(project)
    size = frame.columns, frame.rows
    told: dict[int, tuple[int, float]] = {}
    zones = feathered(project)
    if not zones:
        return told
    first, second = (
        np.ascontiguousarray(_seen(picture, size, 0.0)[..., 0])
        for picture in (scaled_picture(results, project, *size), painted)
    )
    for index, _ in zones:
        made = within(feathers_of(results, project, index, progress), mask_of(results, project, index, frame), frame)
        lead = made.pick(made.leading)
        if not len(lead):
            continue
        place = ((crop.x, crop.y), frame.cell_px)
        shown, again = found_again(read_feathers(lead, first, *place), read_feathers(lead, second, *place))
        if shown.any():
            told[index] = int(shown.sum()), float(again[shown].mean())
    return told


def _growth(results: Results, project: Project, painted: Rgb8, progress: Progress) -> dict[int, float]:
    """Return how far the hair that was painted lies off the growth, and barbs off those in the photograph, by zone, degrees."""
    import cv2

    frame: Frame = growth_frame(project)
    scale = min(1.0, EVIDENCE_PX / max(painted.shape[:2]))
    rgb = np.ascontiguousarray(painted)
    if scale < 1:
        rgb = np.asarray(cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA), np.uint8)
    seen = read_evidence(rgb, frame.rows, frame.columns, project.crop.width / rgb.shape[1], progress)
    photographed, plumed = evidence_of(results, project), {index for index, _ in feathered(project)}
    found = {}
    for index, zone in growing(project):
        field = growth_of(results, project, index, progress)
        if field is None or not zone.kind_of().cover:
            continue
        mask = mask_of(results, project, index, frame)
        level = scale_for(seen, mask, project.coat_of(zone).length_mm / project.mm_per_px / seen.reference_px)
        h, w = field.inside.shape
        window = slice(field.row, field.row + h), slice(field.column, field.column + w)
        inside = field.inside & mask[window]
        axis, weight = seen.axis[level][(slice(None), *window)][:, inside], seen.weight[level][window][inside]
        wanted = field.direction[inside]
        if index in plumed:
            # Barbs leave their shaft to both sides, as the photograph shows them: that is what they are held against.
            theirs = photographed.axis[level][(slice(None), *window)][:, inside]
            t = 0.5 * np.arctan2(theirs[1], theirs[0])
            wanted = np.stack([np.cos(t), np.sin(t)], axis=-1)
            weight = np.minimum(weight, photographed.weight[level][window][inside])
        found[index] = axis_off(axis, weight, wanted, FAINTEST)
    return found


def reading_records(project: Project, readings: tuple[ZoneReading, ...]) -> list[dict[str, Any]]:
    """Return the readings for `rehearsal.json` and `plan.json`; null where nothing was read."""
    names = {zone.id: zone.name for zone in project.zones}

    def number(value: float, digits: int = 2) -> float | None:
        return round(value, digits) if math.isfinite(value) else None

    return [
        {
            "zone": names.get(one.zone, one.zone),
            "dl": number(one.dl),
            "dc": number(one.dc),
            "dh_deg": number(one.dh_deg, 1),
            "de00": number(one.de),
            "growth_off_deg": number(one.growth_deg, 1),
            "edge_ratio": number(one.edge),
            "feathers": one.feathers or None,
            "feathers_found_again": number(one.found),
            "says": one.words(),
        }
        for one in readings
    ]
