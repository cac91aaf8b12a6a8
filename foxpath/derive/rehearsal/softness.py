"""How soft borders are made in the rehearsal, and how wide they came out."""

from collections.abc import Hashable, Sequence

import numpy as np

from foxpath.core.arrays import F32, Rgb8
from foxpath.core.edges import RELIABLE, Border, EdgePlan, read_edge, softness_map
from foxpath.core.fingerprint import fingerprint
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import OneWidth, edge_widths, edges_of
from foxpath.derive.frames import map_frame
from foxpath.derive.passes.wetness import OVER_DRY, dry_neighbours
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project

PLUMED = 0.3
"""Share of its softening that a border of feathers keeps: each ends in its own edge."""
MEETING = 0.4
"""Share of its softening that a border keeps where coat meets coat."""


def softness_of(results: Results, project: Project, hair_share: float = 1.0) -> tuple[Hashable, F32]:
    """Return a key for the edges' widths and the blur map on the zone map's grid, mm.

    Borders of hair are blurred by `hair_share` of their width: the rest of it the hairs make themselves. Where the painter
    drags over a neighbour that is dry, the border gives on one side only.
    """
    # Every part and every pass asks for it.
    return results.once(project, ("softness", hair_share), lambda: _map_softness(results, project, hair_share))


def _map_softness(results: Results, project: Project, hair_share: float) -> tuple[Hashable, F32]:
    frame = map_frame(project)
    edges, zones = edges_of(results, project), project.back_to_front()
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
        if zones[border.front].kind_of().plumed:
            return PLUMED * hair_share
        # Two coats interleave: a blur would wipe the hairs of both away.
        return hair_share * (MEETING if border.back >= 0 and zones[border.back].kind_of().hair else 1.0)

    shares = {(border.front, border.back): share_of(border) for border, _ in edges}
    plans = tuple(
        (*pair, plan.width_mm, shares[pair]) for border, plan in edges for pair in [(border.front, border.back)]
    )
    stretches = tuple((s.front, s.back, s.points, s.width_mm) for s in project.stretches)
    key = fingerprint("softness", project.outlines, frame, plans, stretches)

    def make() -> F32:
        widths = edge_widths(results, project)
        bands = [
            (run, along * shares[border.front, border.back], (border.front, border.back))
            for border, _ in edges
            for run, along in zip(border.runs, widths[border.front, border.back], strict=True)
        ]
        return softness_map(bands, frame, labels_of(results, project, frame))

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
