"""Edges that follow from a project: their plan by rule and by the painter, widths along them, what the photograph shows."""

from collections.abc import Hashable, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np

from foxpath.core.arrays import F32, F64, Labels, Points, Rgb8
from foxpath.core.edges import (
    RELIABLE,
    Border,
    EdgeLight,
    EdgePlan,
    EdgeReading,
    Stretch,
    default_edge,
    read_edge,
    softness_map,
    widths_along,
)
from foxpath.core.frame import Frame
from foxpath.core.growth import ZoneField
from foxpath.core.progress import SILENT, Progress
from foxpath.core.reference.light import toward
from foxpath.derive.laying import fringe_along
from foxpath.derive.wetness import OVER_DRY, dry_neighbours
from foxpath.document.model import BARE, Project, as_array

if TYPE_CHECKING:
    from foxpath.derive.results import Results

EDGE_PX = 3000
"""Longer side of the picture on which its own edges are measured."""
MEETING = 0.4
"""Share of its softening that a border keeps where coat meets coat."""
BESIDE_MM = 3.0
"""How far to each side of a border its neighbours' values are read, to tell a crevice or a ridge."""

Widths = dict[tuple[int, int], tuple[F64, ...]]
OneWidth = dict[tuple[int, int], float]


def ids_of(project: Project, border: Border) -> tuple[str, str]:
    """Return the ids of the zones on both sides, front first; "" for bare canvas."""
    zones = project.back_to_front()
    return zones[border.front].id, zones[border.back].id if border.back >= 0 else BARE


def plan_edges(results: "Results", project: Project) -> list[tuple[Border, EdgePlan]]:
    """Return every border with its plan: the painter's word, else the default."""
    zones = project.back_to_front()
    canvas = project.canvas
    diagonal = float(np.hypot(canvas.width_mm, canvas.height_mm))
    focal = np.array(project.focal_point)
    lights = edge_lights(results, project)
    planned = []
    for border in results.borders(project):
        front = zones[border.front]
        back = zones[border.back] if border.back >= 0 else None
        key = ids_of(project, border)
        choice = project.edge_choice(*key)
        if choice is not None:
            plan = EdgePlan(choice.grade, choice.width_mm, "decided by you", decided=True)
        else:
            away = float(np.hypot(*(border.middle() - focal))) * project.mm_per_px
            step = front.depth - (back.depth if back else -1)
            light = lights.get((border.front, border.back), EdgeLight())
            plan = default_edge(front.kind_of(), back.kind_of() if back else None, step, away, diagonal, light)
        stretches = len(project.stretches_of(*key))
        if stretches:
            plan = replace(plan, reason=f"{plan.reason}; it varies along the border", decided=True)
        planned.append((border, plan))
    return planned


def edge_lights(results: "Results", project: Project) -> dict[tuple[int, int], EdgeLight]:
    """Return how every border lies to the light, by the indices of its zones; the side only when the light is said."""
    light = project.light
    key = ("edge lights", results.picture_key(project), project.outlines, project.crop, project.mm_per_px, light)

    def make() -> dict[tuple[int, int], EdgeLight]:
        frame = results.map_frame(project)
        labels, study = results.labels(project, frame), results.study(project)
        way = toward(light.hour, light.height_deg)[:2] if light is not None else None
        found = {}
        for border in results.borders(project):
            at = np.concatenate(border.runs)
            out = np.concatenate([outward(run, border.back, labels, frame) for run in border.runs])
            reach = BESIDE_MM / project.mm_per_px
            line, inner, outer = (study.at(at + side * reach * out)[:, 0] for side in (0.0, -1.0, 1.0))
            low, high = np.minimum(inner, outer), np.maximum(inner, outer)
            dip = np.where(line < low, line - low, np.where(line > high, line - high, 0.0))
            side = float((out @ way).mean()) if way is not None else 0.0
            found[border.front, border.back] = EdgeLight(side, float(dip.mean()))
        return found

    return results.memo.get(key, make)


def outward(run: Points, back: int, labels: Labels, frame: Frame) -> Points:
    """Return unit vectors from the front zone to the zone behind at each point of a run, (N, 2)."""
    step = np.gradient(run, axis=0)
    across = np.stack([-step[:, 1], step[:, 0]], axis=1) / (np.hypot(*step.T)[:, None] + 1e-9)
    hits = 0
    for cells in (1.5, 3.0):
        for side in (1.0, -1.0):
            grid = np.floor(frame.to_grid(run + side * cells * frame.cell_px * across)).astype(int)
            j, i = np.clip(grid, 0, (frame.columns - 1, frame.rows - 1)).T
            hits += int(side) * int((labels[i, j] == back).sum())
    return np.asarray(across if hits >= 0 else -across)


def edge_widths(results: "Results", project: Project) -> Widths:
    """Return the width at every point of every border's runs, mm, by the indices of its zones."""
    found = {}
    for border, plan in results.edges(project):
        own = [Stretch(as_array(s.points), s.width_mm) for s in project.stretches_of(*ids_of(project, border))]
        found[border.front, border.back] = widths_along(border, plan.width_mm, own, project.mm_per_px)
    return found


def edge_readings(
    results: "Results", project: Project, progress: Progress = SILENT
) -> dict[tuple[int, int], EdgeReading]:
    """Return every border's width in the photograph, mm on the canvas, by the indices of its zones."""
    import cv2

    key = ("edge readings", results.picture_key(project), project.outlines, project.crop, project.mm_per_px)

    def make() -> dict[tuple[int, int], EdgeReading]:
        crop = project.crop
        scale = min(1.0, EDGE_PX / max(crop.width, crop.height))
        columns, rows = max(16, round(crop.width * scale)), max(16, round(crop.height * scale))
        grey = cv2.cvtColor(results.scaled(project, columns, rows), cv2.COLOR_RGB2GRAY).astype(np.float32)
        k = columns / crop.width
        mm = project.mm_per_px / k
        found = {}
        borders = results.borders(project)
        for number, border in enumerate(borders):
            progress.at(number / len(borders), "reading the photograph's edges")
            one = read_edge(grey, [(run - (crop.x, crop.y)) * k for run in border.runs])
            found[border.front, border.back] = one.times(mm)
        return found

    return _with_donors(project, results.memo.get(key, make))


def _with_donors(project: Project, found: dict[tuple[int, int], EdgeReading]) -> dict[tuple[int, int], EdgeReading]:
    """Fill in what the photograph does not show of a zone's borders from those of its donor."""
    zones = project.back_to_front()
    places = {zone.id: k for k, zone in enumerate(zones)}
    filled = dict(found)
    for (front, back), reading in found.items():
        donor = project.donor_of(zones[front].id) if reading.reliable < RELIABLE else None
        source = places.get(donor.source, -1) if donor is not None else -1
        told = [one for (f, _), one in found.items() if f == source and one.reliable >= RELIABLE]
        if told:
            best = max(told, key=lambda one: one.reliable)
            filled[front, back] = replace(best, borrowed=zones[source].name)
    return filled


def softness(results: "Results", project: Project, hair_share: float = 1.0) -> tuple[Hashable, F32]:
    """Return a key for the edges' widths and the blur map on the zone map's grid, mm.

    Borders of hair are blurred by `hair_share` of their width: the rest of it the hairs make themselves. Where the painter
    drags over a neighbour that is dry, the border gives on one side only.
    """
    frame = results.map_frame(project)
    edges, zones = results.edges(project), project.back_to_front()
    dry = (
        {(border.front, border.back) for border in dry_neighbours(results, project)}
        if project.ways.edges == "dry"
        else set()
    )

    def share_of(border: Border) -> float:
        return way_of(border) * (OVER_DRY if (border.front, border.back) in dry else 1.0)

    def way_of(border: Border) -> float:
        if not zones[border.front].kind_of().hair:
            return 1.0
        # Two coats interleave: a blur would wipe the hairs of both away.
        return hair_share * (MEETING if border.back >= 0 and zones[border.back].kind_of().hair else 1.0)

    shares = {(border.front, border.back): share_of(border) for border, _ in edges}
    plans = tuple(
        (*pair, plan.width_mm, shares[pair]) for border, plan in edges for pair in [(border.front, border.back)]
    )
    stretches = tuple((s.front, s.back, s.points, s.width_mm) for s in project.stretches)
    key = ("softness", project.outlines, frame, plans, stretches)

    def make() -> F32:
        widths = results.edge_widths(project)
        bands = [
            (run, along * shares[border.front, border.back])
            for border, _ in edges
            for run, along in zip(border.runs, widths[border.front, border.back], strict=True)
        ]
        return softness_map(bands, frame)

    return key, results.memo.get(key, make)


READ_PX = 5.0
"""An edge of the rehearsal is read at the size at which its planned width is so many pixels: there it is read best."""


def rehearsed_widths(
    rgb: Rgb8, project: Project, edges: Sequence[tuple[Border, EdgePlan]], progress: Progress = SILENT
) -> OneWidth:
    """Return every border's width as it was rehearsed, mm, by the indices of its zones; NaN where it shows no clear step.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        The rehearsal, over the whole canvas.
    project : Project
    edges : sequence of (Border, EdgePlan)
    progress : Progress

    Raises
    ------
    Cancelled
    """
    import cv2

    grey = cv2.cvtColor(np.ascontiguousarray(rgb), cv2.COLOR_RGB2GRAY).astype(np.float32)
    crop, scale = project.crop, rgb.shape[1] / project.crop.width
    found, sized = {}, {}
    for border, plan in edges:
        progress.at(1.0, "reading the rehearsal's edges")
        # In steps of the square root of two: a few sizes serve all.
        wanted = READ_PX / (plan.width_mm / project.mm_per_px * scale)
        k = min(1.0, float(2 ** (round(2 * np.log2(max(wanted, 1e-3))) / 2)))
        if k not in sized:
            sized[k] = grey if k == 1 else cv2.resize(grey, None, fx=k, fy=k, interpolation=cv2.INTER_AREA)
        at = [(run - (crop.x, crop.y)) * scale * k for run in border.runs]
        one = read_edge(np.asarray(sized[k], np.float32), at).times(project.mm_per_px / (scale * k))
        found[border.front, border.back] = one.width if one.reliable >= RELIABLE else float("nan")
    return found


Fringes = dict[tuple[int, int], tuple[F32, F32]]


def fringes(results: "Results", project: Project, progress: Progress = SILENT) -> Fringes:
    """Return the hairs that hang over each border of a coat, (N, 8, 2) reference pixels, with their sureness."""
    frame, growth_frame = results.map_frame(project), results.growth_frame(project)
    zones, field_of = project.back_to_front(), results.lengths(project)
    labels = results.labels(project, frame)
    found = {}
    for border in results.borders(project):
        zone = zones[border.front]
        field = results.field(project, border.front, progress) if zone.kind_of().hair else None
        if field is None:
            continue
        length = project.coat_of(zone).length_mm
        varied, _ = results.varied(project, border.front)
        key = ("fringe", border.front, border.back, project.outlines, varied, length,
               results.field_key(project, border.front, growth_frame))  # fmt: skip

        def make(border: Border = border, field: ZoneField = field, length: float = length) -> tuple[F32, F32]:
            out = np.concatenate([outward(run, border.back, labels, frame) for run in border.runs])
            share, _ = field_of.at(np.concatenate(border.runs))
            return fringe_along(
                border, out, field, length * share, project.mm_per_px, border.front * 1000 + border.back + 1
            )

        found[border.front, border.back] = results.memo.get(key, make)
    return found
