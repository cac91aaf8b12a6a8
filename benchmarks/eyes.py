"""Eyes: how exactly made ones are found from one click, and what a step costs beside its outlines alone."""

import math
import statistics
import time

import numpy as np

from foxpath.core.brush import outlines, paint_outlines
from foxpath.core.errors import InputError
from foxpath.core.eyes import clock, find_eye, hours_apart
from foxpath.core.rehearsal.eyes import eye_room, step_marks, step_pictures
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.eyes.reading import eye_plan
from tests.eyes import varied

COUNT, RIGHT = 40, 0.1
PX_PER_MM = 20.0


def measure() -> list[dict[str, object]]:
    """Find made eyes of every colour and pupil; paint the demo's near eye at five times true size."""
    return [*_finding(), _steps()]


def _finding() -> list[dict[str, object]]:
    off, hours, seconds = [], [], []
    for made in varied(COUNT, 11):
        picture = made.draw()
        begin = time.process_time()
        try:
            found = find_eye(picture, (made.cx + 1, made.cy - 1))
        except InputError:
            off.append(1.0)
            continue
        seconds.append(time.process_time() - begin)
        away = math.dist(found.iris.centre, made.iris.centre) / made.r
        off.append(max(abs(found.iris.radius / made.iris.radius - 1), away))
        if found.lights:
            hours.append(hours_apart(clock(found.iris.centre, found.lights[0]), made.hour))
    right = sum(one < RIGHT for one in off) / COUNT
    words = f"{COUNT} made eyes, six colours, four pupils, lids to 34 %; median {statistics.median(seconds):.1f} s CPU"
    return [
        {"what": "an eye found from one click", "value": 100 * right, "unit": "%", "goal": None, "detail": words},
        {
            "what": "its iris, radius or middle, median error",
            "value": 100 * statistics.median(off),
            "unit": "%",
            "goal": 2.0,
            "detail": f"of the radius; 80th percentile {100 * float(np.quantile(off, 0.8)):.1f} %",
        },
        {
            "what": "its catchlight's hour, 90th percentile",
            "value": float(np.quantile(hours, 0.9)),
            "unit": "h",
            "goal": 0.25,
            "detail": f"found in {len(hours)} of {COUNT}",
        },
    ]


def _steps() -> dict[str, object]:
    project, results = demo_project("fox"), Results()
    plan = eye_plan(results, project, project.eyes[0])
    step_pictures(plan, PX_PER_MM)
    times, ratios = [], []
    _, _, wide, tall = eye_room(plan.eye)
    size = round(tall * plan.mm_per_px * PX_PER_MM), round(wide * plan.mm_per_px * PX_PER_MM)
    for _ in range(5):
        begin = time.process_time()
        shots = step_pictures(plan, PX_PER_MM)
        total = time.process_time() - begin
        kernel = 0.0
        canvas = np.full((*size, 4), 255, np.uint8)
        for step in plan.steps:
            groups = step_marks(plan, step)
            if not groups:
                continue
            shapes = np.concatenate([outlines(m.lines_mm, m.half_mm, m.profile(), PX_PER_MM) for m in groups])
            colour, alpha = np.concatenate([m.colour for m in groups]), np.concatenate([m.alpha for m in groups])
            begin = time.process_time()
            paint_outlines(canvas, shapes, colour, alpha)
            kernel += time.process_time() - begin
        times.append(1000 * total / len(shots))
        ratios.append(total / kernel)
    detail = f"{size[1]} x {size[0]} px; {statistics.median(ratios):.1f} x painting the same outlines alone, CPU"
    return {
        "what": "a step of an eye, mean",
        "value": statistics.median(times),
        "unit": "ms",
        "goal": 150,
        "detail": detail,
    }
