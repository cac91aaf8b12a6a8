"""Rehearsal: the demo at 2000 x 1600 px, against the bare painting kernel on the same outlines."""

import statistics
import time
from dataclasses import replace

import numpy as np

from foxpath.core.brush import outlines, paint_outlines
from foxpath.core.progress import SILENT
from foxpath.core.rehearsal.stage import bare_canvas
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.rehearsal import groups_of, rehearse
from foxpath.derive.requests import Read

WIDTH = 2000
UNMEASURED, MEASURED = 3, 7
"""The first runs ask the system for the memory that the later ones use again."""


def measure() -> list[dict[str, object]]:
    """Compare processor time: placing, tracing, painting, softening and keeping against painting alone."""
    project, results = demo_project("fox"), Results()
    Read(results, project)(SILENT)
    rehearse(results, project, 400)
    ratios, totals, kernels, marks = [], [], [], 0
    for seed in range(20, 20 + UNMEASURED + MEASURED):
        # Another seed: every mark is placed, traced and painted anew; growth and zones stand.
        fresh = replace(project, seed=seed)
        begin = time.process_time()
        done = rehearse(results, fresh, WIDTH)
        total = time.process_time() - begin
        marks = sum(one.marks for one in done)
        canvas = bare_canvas(WIDTH, round(WIDTH / project.canvas.aspect))
        kernel = 0.0
        for one in done:
            groups = [m for _, m in groups_of(results, fresh, one.plan, SILENT) if len(m.half_mm)]
            scale = WIDTH / project.canvas.width_mm
            shapes = np.concatenate([outlines(m.lines_mm, m.half_mm, m.profile(), scale) for m in groups])
            colour, alpha = np.concatenate([m.colour for m in groups]), np.concatenate([m.alpha for m in groups])
            begin = time.process_time()
            paint_outlines(canvas, shapes, colour, alpha)
            kernel += time.process_time() - begin
        if seed < 20 + UNMEASURED:
            continue
        ratios.append(total / kernel)
        totals.append(total)
        kernels.append(kernel)
    detail = f"{statistics.median(totals):.2f} s and {statistics.median(kernels):.2f} s CPU, {marks} marks"
    row = {"what": "rehearsal / bare kernel, CPU", "value": statistics.median(ratios), "unit": "x", "goal": 1.3}
    return [{**row, "detail": detail}]
