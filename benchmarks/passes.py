"""Passes: what a veil takes beside the painting it lies on, whether it comes out as the reference where it is made up for, and the order of work."""

import statistics
import time
from datetime import UTC, datetime

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.passes import Veil
from foxpath.core.reporting import SILENT
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.days.plan import plan_of
from foxpath.derive.mixes.films import film_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.passes.veils import veil_of
from foxpath.derive.readings import Read
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.document import edits
from foxpath.document.model import Project

WIDTH = 1400
SURE = 0.9
"""How far a veil must lie on a place that is read."""
MONDAY = datetime(2026, 3, 2, 8, 0, tzinfo=UTC).replace(tzinfo=None)


def measure() -> list[dict[str, object]]:
    """Lay a glaze over the shadow side of each demo's animals, once as a change and once made up for; plan one wet sitting both ways."""
    takes, away, does = [], [], []
    for name in ("fox", "jay", "cavies"):
        plain, results = demo_project(name), Results()
        Read(results, plain)(SILENT)
        before = rehearse(results, plain, WIDTH)
        usual = _light(before[-1].standing.shown)
        changed, key = edits.add_veil(plain, Veil(lab=(28.0, 8.0, 10.0), strength=0.04, place="shadow"))
        made_up = edits.set_veil(changed, key, made_up=True)
        for project, kept in ((changed, does), (made_up, away)):
            done = rehearse(results, project, WIDTH)
            here = _where(results, project, key, usual.shape)
            kept.append(float(np.median((_light(done[-1].standing.shown) - usual)[here])))
        takes.append(_takes(plain, changed, key))
    ways = [_sitting(name) for name in ("fox", "jay")]
    rows, areas = (statistics.mean(one[k] for one in ways) for k in (0, 1))
    return [
        _row("a veil over the shadow side / the painting anew, CPU", statistics.median(takes), "x", None, "1400 px; its mix, its table of colours, and the passes that follow it"),
        _row("a veil that is made up for, off the reference", max(abs(v) for v in away), "L*", 2.0, f"median over its place, the worst of three; as a change it takes {-statistics.mean(does):.1f} L*"),
        _row("wet edges and layers lost, area by area", 100 * areas, "%", None, f"of one wet sitting, two hours an evening; row by row {100 * rows:.0f} %"),
    ]  # fmt: skip


def _light(rgb: np.ndarray) -> np.ndarray:
    import cv2

    return cv2.GaussianBlur(lab_from_rgb8(np.ascontiguousarray(rgb))[..., 0], (0, 0), 6)


def _where(results: Results, project: Project, key: str, shape: tuple[int, ...]) -> np.ndarray:
    import cv2

    plan = next(one for one in passes_of(results, project) if one.role.key == key)
    share = cv2.resize(veil_of(results, project, plan), shape[1::-1], interpolation=cv2.INTER_LINEAR)
    return np.asarray(share > SURE)


def _takes(plain: Project, changed: Project, key: str) -> float:
    """Return the processor time of a veil over that of the painting anew."""
    results = Results()
    Read(results, changed)(SILENT)
    rehearse(results, plain, 400)
    begin = time.process_time()
    rehearse(results, plain, WIDTH)
    middle = time.process_time()
    film_of(results, changed, next(one for one in passes_of(results, changed) if one.role.key == key))
    rehearse(results, changed, WIDTH)
    # What follows it is painted anew too; that is not the veil's.
    return max(time.process_time() - middle, 1e-6) / max(middle - begin, 1e-6)


def _sitting(name: str) -> tuple[float, float]:
    """Return which share of the wet windows of one wet sitting is lost, row by row and area by area."""
    lost = []
    for work in ("rows", "areas"):
        project = edits.set_way(edits.set_school(demo_project(name), "one-sitting"), "work", work)
        planned = plan_of(Results(), [project], MONDAY)
        relations = planned.layout.problem.relations
        wet = {k for k, one in enumerate(relations) if one.kind == "while_open"}
        lost.append(len(wet & planned.plan.lost) / max(len(wet), 1))
    return lost[0], lost[1]


def _row(what: str, value: float, unit: str, goal: float | None, detail: str) -> dict[str, object]:
    return {"what": what, "value": value, "unit": unit, "goal": goal, "detail": detail}
