"""Edges that follow from a project: their plan by rule and by the painter, widths along them, what the photograph shows."""

from dataclasses import replace

import numpy as np

from foxpath.core.arrays import F64, Labels, Points
from foxpath.core.curves import normals
from foxpath.core.edges import (
    RELIABLE,
    Border,
    EdgeLight,
    EdgePlan,
    EdgeReading,
    Stretch,
    default_edge,
    find_borders,
    read_edge,
    shadow_edge,
    widths_along,
)
from foxpath.core.frame import Frame
from foxpath.core.reference.light import toward
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.frames import map_frame
from foxpath.derive.pictures import measured_key, picture_key, scaled_measured, study_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of, shapes_of
from foxpath.document.model import BARE, Project, as_array

EDGE_PX = 3000
"""Longer side of the picture on which its own edges are measured."""
BESIDE_MM = 3.0
"""How far to each side of a border its neighbours' values are read, to tell a crevice or a ridge."""

Widths = dict[tuple[int, int], tuple[F64, ...]]
OneWidth = dict[tuple[int, int], float]


def ids_of(project: Project, border: Border) -> tuple[str, str]:
    """Return the ids of the zones on both sides, front first; "" for bare canvas."""
    zones = project.back_to_front()
    return zones[border.front].id, zones[border.back].id if border.back >= 0 else BARE


def plan_edges(results: Results, project: Project) -> list[tuple[Border, EdgePlan]]:
    """Return every border with its plan: the painter's word, else the default."""
    zones = project.back_to_front()
    canvas = project.canvas
    diagonal = float(np.hypot(canvas.width_mm, canvas.height_mm))
    focal = np.array(project.focal_point)
    lights = edge_lights(results, project)
    planned = []
    for border in borders_of(results, project):
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
            if front.kind == "shadow" and project.light is not None:
                plan = shadow_edge(plan, project.light.hardness)
        stretches = len(project.stretches_of(*key))
        if stretches:
            plan = replace(plan, reason=f"{plan.reason}; it varies along the border", decided=True)
        planned.append((border, plan))
    return planned


def edge_lights(results: Results, project: Project) -> dict[tuple[int, int], EdgeLight]:
    """Return how every border lies to the light, by the indices of its zones; the side only when the light is said."""
    light = project.light
    key = ("edge lights", picture_key(results, project), project.outlines, project.crop, project.mm_per_px, light)

    def make() -> dict[tuple[int, int], EdgeLight]:
        frame = map_frame(project)
        labels, study = labels_of(results, project, frame), study_of(results, project)
        way = toward(light.hour, light.height_deg)[:2] if light is not None else None
        found = {}
        for border in borders_of(results, project):
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
    across = normals(run)
    hits = 0
    for cells in (1.5, 3.0):
        for side in (1.0, -1.0):
            grid = np.floor(frame.to_grid(run + side * cells * frame.cell_px * across)).astype(int)
            j, i = np.clip(grid, 0, (frame.columns - 1, frame.rows - 1)).T
            hits += int(side) * int((labels[i, j] == back).sum())
    return np.asarray(across if hits >= 0 else -across)


def edge_widths(results: Results, project: Project) -> Widths:
    """Return the width at every point of every border's runs, mm, by the indices of its zones."""
    found = {}
    for border, plan in edges_of(results, project):
        own = [Stretch(as_array(s.points), s.width_mm) for s in project.stretches_of(*ids_of(project, border))]
        found[border.front, border.back] = widths_along(border, plan.width_mm, own, project.mm_per_px)
    return found


def edge_readings(
    results: Results, project: Project, progress: Progress = SILENT
) -> dict[tuple[int, int], EdgeReading]:
    """Return every border's width in the photograph, mm on the canvas, by the indices of its zones."""
    import cv2

    key = ("edge readings", measured_key(results, project), project.outlines, project.crop, project.mm_per_px)

    def make() -> dict[tuple[int, int], EdgeReading]:
        crop = project.crop
        scale = min(1.0, EDGE_PX / max(crop.width, crop.height))
        columns, rows = max(16, round(crop.width * scale)), max(16, round(crop.height * scale))
        grey = cv2.cvtColor(scaled_measured(results, project, columns, rows), cv2.COLOR_RGB2GRAY).astype(np.float32)
        k = columns / crop.width
        mm = project.mm_per_px / k
        found = {}
        borders = borders_of(results, project)
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


def borders_of(results: Results, project: Project) -> list[Border]:
    """Return every visible border, longest first."""
    frame = map_frame(project)
    key = ("borders", project.outlines, frame)
    return results.memo.get(key, lambda: find_borders(shapes_of(project), labels_of(results, project, frame), frame))


def edges_of(results: Results, project: Project) -> list[tuple[Border, EdgePlan]]:
    """Return every border with its plan: the painter's word, else the default."""

    def make() -> list[tuple[Border, EdgePlan]]:
        kinds = tuple((zone.id, zone.kind, zone.own) for zone in project.zones)
        said = (project.edges, project.stretches, project.light, project.focal_point, kinds)
        key = ("edges", project.outlines, project.crop, project.canvas, picture_key(results, project), said)
        return results.memo.get(key, lambda: plan_edges(results, project))

    return results.once(project, "edges", make)
