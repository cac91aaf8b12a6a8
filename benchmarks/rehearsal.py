"""Rehearsal: the demo at 2000 x 1600 px, against the bare painting kernel on the same outlines."""

import gc
import statistics
import time
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from foxpath.core.brush import outlines, paint_outlines
from foxpath.core.rehearsal.stage import bare_canvas
from foxpath.core.rehearsal.surface import in_relief
from foxpath.core.reporting import SILENT
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.readings import Read
from foxpath.derive.rehearsal import painting as derived
from foxpath.derive.rehearsal.painting import Rehearsed, laid_in, rehearse
from foxpath.derive.rehearsal.reading import read_painting
from foxpath.document import edits
from foxpath.document.model import Project

WIDTH = 2000
UNMEASURED, MEASURED = 3, 13
"""The first runs ask the system for the memory that the later ones use again."""


def measure() -> list[dict[str, object]]:
    """Compare processor time: planning, placing, tracing, painting, softening and keeping against painting alone."""
    project, results = demo_project("fox"), Results()
    Read(results, project)(SILENT)
    rehearse(results, project, 400)
    # As the window does once it stands: what is loaded is not looked through again for garbage.
    gc.freeze()
    ratios: dict[bool, list[float]] = {True: [], False: []}
    totals, kernels, marks = [], [], 0
    softened = dict(derived.SOFTENED)
    for seed in range(20, 20 + UNMEASURED + MEASURED):
        # What comes first pays for memory that the one before has given back: each comes first in turn.
        for soft in (False, True) if seed % 2 else (True, False):
            # Another seed: every mark is placed, traced and painted anew; growth and zones stand.
            fresh = replace(project, seed=seed + 1000 * soft)
            derived.SOFTENED.clear()
            derived.SOFTENED.update(softened if soft else {})
            total, kernel, marks = _against_its_kernel(results, fresh)
            if seed < 20 + UNMEASURED:
                continue
            ratios[soft].append(total / kernel)
            if soft:
                totals.append(total)
                kernels.append(kernel)
    detail = f"{statistics.median(totals):.2f} s and {statistics.median(kernels):.2f} s CPU, {marks} marks"
    what = {False: "rehearsal / bare kernel, CPU, borders left hard", True: "rehearsal / bare kernel, CPU"}
    goal = {False: 1.3, True: 2.5}
    rows = [
        {"what": what[k], "value": statistics.median(v), "unit": "x", "goal": goal[k], "detail": detail if k else ""}
        for k, v in ratios.items()
    ]
    return [*rows[::-1], *_changes(project, results), *_likeness()]


def _against_its_kernel(results: Results, project: Project) -> tuple[float, float, int]:
    """Return the processor time of a rehearsal and that of painting alone, seconds, and how many marks it has.

    Pass by pass, one right after the other: a machine that is quicker now and slower then is so for both.
    """
    canvas, before, spent = bare_canvas(WIDTH, round(WIDTH / project.canvas.aspect)), [], [0.0, 0.0]
    begin = time.process_time()

    def each(_: int, one: Rehearsed) -> None:
        nonlocal begin
        spent[0] += time.process_time() - begin
        # All that is laid: also hair beyond outlines, and the shade and the ridge of thick paint.
        laid = laid_in(results, project, before, one.plan)
        before.append(one.plan)
        groups = in_relief([m for m in laid if len(m.half_mm)])
        if groups:
            scale = WIDTH / project.canvas.width_mm
            shapes = np.concatenate([outlines(m.lines_mm, m.half_mm, m.profile(), scale) for m in groups])
            colour, alpha = np.concatenate([m.colour for m in groups]), np.concatenate([m.alpha for m in groups])
            start = time.process_time()
            paint_outlines(canvas, shapes, colour, alpha)
            spent[1] += time.process_time() - start
        begin = time.process_time()

    done = rehearse(results, project, WIDTH, each=each)
    return spent[0] + time.process_time() - begin, spent[1], sum(one.marks for one in done)


def _likeness() -> list[dict[str, object]]:
    """Read the finished rehearsals of both demos against their references, part by part."""
    colour, hair, mean = [], [], []
    for name in ("fox", "jay"):
        project, results = demo_project(name), Results()
        done = rehearse(results, project, SHOWN)
        for one in read_painting(results, project, done[-1].standing.shown):
            said = f"{name}, {project.zone(one.zone).name.lower()}"  # type: ignore[union-attr]
            colour.append((one.de, said))
            mean.append(one.de)
            if np.isfinite(one.growth_deg):
                hair.append((one.growth_deg, said))
    (de, where), (off, there) = max(colour), max(hair)
    return [
        {"what": "rehearsal and reference, the farthest part", "value": de, "unit": "dE", "goal": 6,
         "detail": f"CIEDE2000, {where}; median of all parts {statistics.median(mean):.1f}"},
        {"what": "rehearsed hair and its growth, the farthest part", "value": off, "unit": "°", "goal": 12,
         "detail": f"median within a part, {there}"},
    ]  # fmt: skip


SHOWN = 1600
"""Width of the rehearsal in the window."""


def _changes(project: Project, results: Results) -> list[dict[str, object]]:
    """Time a changed pass and a changed part, at the size that is shown, against the whole painting anew."""

    def seconds(changed: Project) -> float:
        begin = time.perf_counter()
        rehearse(results, changed, SHOWN)
        return time.perf_counter() - begin

    def edited(make: Callable[[int], Project]) -> float:
        # Each change follows one that stands, as they do when a painter tries something.
        taken = []
        for number in range(5):
            rehearse(results, project, SHOWN)
            taken.append(seconds(make(number)))
        return statistics.median(taken[1:])

    anew = statistics.median([seconds(replace(project, seed=100 + k)) for k in range(4)][1:])
    ear = next(zone for zone in project.zones if zone.name == "Near ear")
    last = edited(lambda k: edits.set_pass(project, "whiskers", coverage=0.4 + 0.01 * k))
    coat = edited(lambda k: edits.set_pass(project, "lights", l_high=80.0 + k))
    part = edited(lambda k: edits.set_coat(project, ear.id, spread_deg=14.0 + k))
    glazed = edits.set_school(project, "white-hair")
    glaze = statistics.median([seconds(replace(glazed, seed=200 + k)) for k in range(4)][1:])
    return [
        {"what": "the last pass changed, until it is shown", "value": last, "unit": "s", "goal": 0.5,
         "detail": f"whiskers, {SHOWN} px; the painting anew takes {anew:.2f} s"},
        {"what": "the top coat changed / the painting anew", "value": coat / anew, "unit": "x", "goal": None, "detail": f"{coat:.2f} s"},
        {"what": "one part changed / the painting anew", "value": part / anew, "unit": "x", "goal": None,
         "detail": f"{part:.2f} s, the ear's spread: its marks alone are placed again, and painted with what shares their tiles"},
        {"what": "white hair and glazes / covering paint", "value": glaze / anew, "unit": "x", "goal": None,
         "detail": f"{glaze:.2f} s, 11 passes against 9"},
    ]  # fmt: skip
