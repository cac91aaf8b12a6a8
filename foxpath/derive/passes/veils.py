"""Where a painting's veils lie, which parts they lie over, and what they take."""

from collections.abc import Hashable, Sequence
from dataclasses import replace

import numpy as np

from foxpath.core.arrays import F32, Bool, frozen
from foxpath.core.lengths.choice import brush_for_mass
from foxpath.core.passes import Estimate, PassPlan
from foxpath.core.passes.plan import READY_MIN
from foxpath.core.passes.veils import SIDED, veil_minutes, veil_share
from foxpath.core.reference.departures import belongs
from foxpath.core.zones import fill
from foxpath.derive.frames import map_frame
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.pictures import picture_key, study_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of, subject_of, zone_index
from foxpath.document.model import Project, as_array

LEAST_CM2 = 0.15
"""A part that less of a veil lies over has none of it."""


def veil_key(results: Results, project: Project, plan: PassPlan) -> Hashable:
    """Return the fingerprint of where a veil lies."""
    role = plan.role
    return ("veil share", role.veil, role.only, plan.edit.left_out, project.outlines, _own(project, role.only), map_frame(project), picture_key(results, project))  # fmt: skip


def _own(project: Project, zone_id: str) -> Hashable:
    """Return the outline of a part that covers nothing, which is in no map of zones."""
    zone = project.zone(zone_id) if zone_id else None
    return (zone.points, zone.depth) if zone is not None and not zone.kind_of().cover else None


def veil_of(results: Results, project: Project, plan: PassPlan) -> F32:
    """Return how far a veil lies everywhere, (rows, columns) float32 on the grid of the zone map, 0 to 1."""
    veil = plan.role.veil
    assert veil is not None

    def make() -> F32:
        frame = map_frame(project)
        part = _part(results, project, plan)
        patch = fill(frame.to_grid(as_array(veil.patch)), frame.shape) if len(veil.patch) >= 3 else None
        light = np.ascontiguousarray(study_of(results, project).fine[..., 0])
        share = veil_share(veil, part, light, 1 / frame.cell_mm, patch)
        index = zone_index(project, plan.role.only) if plan.role.only else -1
        if index >= 0 and project.back_to_front()[index].kind_of().cover:
            # A neighbour's hair that hangs in over it is not veiled with it.
            labels = labels_of(results, project, frame)
            lab = study_of(results, project).fine
            share = share * belongs(np.asarray(labels == index), np.asarray(labels > index), lab, 1 / frame.cell_mm)
        made: F32 = frozen(np.asarray(share, np.float32))
        return made

    return results.memo.get(veil_key(results, project, plan), make)


def _part(results: Results, project: Project, plan: PassPlan) -> Bool:
    """Return where a veil's part is seen; without one, the whole canvas but for what is left out.

    A shadow side is the animals': the ground behind them has none.
    """
    frame, labels = map_frame(project), labels_of(results, project, map_frame(project))
    if not plan.role.only:
        left = [k for key in plan.edit.left_out if (k := zone_index(project, key)) >= 0]
        # Nor is an eye ever veiled with its face.
        left += [k for k, zone in enumerate(project.back_to_front()) if zone.kind == "eye"]
        sided = plan.role.veil is not None and plan.role.veil.place in SIDED
        whole = subject_of(results, project, frame) if sided else np.ones(frame.shape, bool)
        return np.asarray(whole & ~np.isin(labels, left))
    index = zone_index(project, plan.role.only)
    if index < 0:
        return np.zeros(frame.shape, bool)
    zone = project.back_to_front()[index]
    if zone.kind_of().cover:
        return np.asarray(labels == index)
    # What lies over a coat lies beneath what stands in front of it, and on no ground beside it.
    coats = [k for k, z in enumerate(project.back_to_front()) if k < index and z.kind_of().hair and z.kind_of().cover]
    return np.asarray(fill(frame.to_grid(zone.shape.outline()), frame.shape) & np.isin(labels, coats))


def with_veils(results: Results, project: Project, plans: Sequence[PassPlan]) -> tuple[PassPlan, ...]:
    """Return passes in which each veil has the parts it lies over, with their times; one that lies nowhere has none."""
    return tuple(plan if plan.role.veil is None else _laid(results, project, plan) for plan in plans)


def _laid(results: Results, project: Project, plan: PassPlan) -> PassPlan:
    veil = plan.role.veil
    assert veil is not None
    frame, labels = map_frame(project), labels_of(results, project, map_frame(project))
    share, facts = veil_of(results, project, plan), facts_of(results, project)
    cells = np.bincount(labels.ravel() + 1, weights=share.ravel(), minlength=len(facts) + 1)[1:]
    areas = {k: float(n) * frame.cell_mm**2 / 100 for k, n in enumerate(cells)}
    factor = project.pace.factor(plan.role.act)
    estimates, brushes = {}, {}
    for k, area in areas.items():
        if area < LEAST_CM2:
            continue
        room = facts[k].inscribed_mm
        choice = brush_for_mass(project.kit, room, min(plan.edit.brush_mm or room * 0.3, room * 0.3))
        if choice is not None:
            brushes[k] = choice
        brush = choice.mark_mm if choice is not None else max(room * 0.3, 1.0)
        strokes, minutes = veil_minutes(area, brush, veil.coats)
        estimates[k] = Estimate(strokes, minutes * factor, area * veil.coats)
    work = sum(one.minutes for one in estimates.values())
    widths = [choice.mark_mm for choice in brushes.values()] or [0.0]
    return replace(
        plan,
        zones=tuple(estimates),
        estimates=estimates,
        brushes=brushes,
        brush_mm=max(widths),
        length_mm=(5 * min(widths), 5 * max(widths)),
        spread_deg=(0.0, 0.0),
        minutes=READY_MIN * factor + work if estimates else 0.0,
        usual_minutes=READY_MIN + work / factor if estimates else 0.0,
        marks=sum(one.marks for one in estimates.values()),
    )


def veil_area(plan: PassPlan) -> float:
    """Return how much of the canvas a veil lies over, cm2."""
    veil = plan.role.veil
    return sum(one.area_cm2 for one in plan.estimates.values()) / max(veil.coats if veil is not None else 1, 1)
