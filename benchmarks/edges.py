"""Edges: widths read from the photograph, and planned widths read back from the rehearsal."""

import time

import numpy as np

from foxpath.core.edges import read_edge
from foxpath.core.reporting import SILENT
from foxpath.core.zones import propose_parts
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.pictures import cropped_picture
from foxpath.derive.readings import Read
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.softness import rehearsed_widths
from tests.core.edges.test_edges import oval
from tests.derive.rehearsal.test_widths import part_on_ground


def _rehearsed(kind: str, width_mm: float) -> float:
    """Return the width read back from the rehearsal over the planned one."""
    results, project = Results(), part_on_ground(kind, width_mm)
    done = rehearse(results, project, 1600)
    (found,) = rehearsed_widths(done[-1].standing.shown, project, edges_of(results, project)).values()
    return found / width_mm


def measure() -> list[dict[str, object]]:
    """Compare with widths that are known; time what follows from the demos."""
    photo = max(
        abs(read_edge(*((image, [run]))).width / (2.563 * sigma) - 1)
        for sigma in (2, 3, 5, 8)
        for grain in (0, 4)
        for image, run in [oval(sigma, grain)]
    )
    plans = {
        (kind, width): _rehearsed(kind, width)
        for kind in ("skin", "short-fur", "long-fur")
        for width in (2.0, 3.0, 6.0, 10.0)
    }
    worst = max(plans, key=lambda key: abs(plans[key] - 1))
    fox, results = demo_project("fox"), Results()
    Read(results, fox)(SILENT)
    rgb = cropped_picture(results, fox, 900, 720)
    begin = time.perf_counter()
    parts = propose_parts(rgb, fox.crop)
    took = time.perf_counter() - begin
    return [
        {
            "what": "a photograph's edge, worst error",
            "value": 100 * photo,
            "unit": "%",
            "goal": 15,
            "detail": "blur of 2 to 8 px, without and with grain, an outline drawn beside the edge",
        },
        {
            "what": "a planned edge in the rehearsal, worst error",
            "value": 100 * abs(plans[worst] - 1),
            "unit": "%",
            "goal": 15,
            "detail": f"{worst[0]}, {worst[1]:g} mm; median {100 * float(np.median([abs(v - 1) for v in plans.values()])):.1f} %, 2 to 10 mm",
        },
        {
            "what": "parts proposed from the picture alone",
            "value": took,
            "unit": "s",
            "goal": None,
            "detail": f"{len(parts)} parts of the fox",
        },
    ]
