"""Faults hidden in a canvas: find them, the one that is seen first before the others."""

from typing import Any

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.drills.lights import paired
from foxpath.core.practice.scene import Found, Scene, apart
from foxpath.core.practice.task import Score, Seen, Spots, Task, ring
from foxpath.core.progress.faults import FAULTS as ALL_FAULTS
from foxpath.core.progress.faults import Fault, with_faults
from foxpath.core.progress.small import blur, lab_of

FAULTS = 4
LOCAL = tuple(name for name in ALL_FAULTS if name not in ("value of a part", "strength", "missing"))
"""Faults that lie at a place; the others are of a whole part, and are told by looking at all of it."""
LEAST_MM, MOST_MM, REACH = 12.0, 40.0, 1.2
"""A fault is found within so much of its reach; one that reaches farther than most could not be missed."""
SQUINT_MM = 3.0
CLEAR = 1.15
"""A fault is told before the next when it is so many times as plain."""
SAID = {
    "value": "value", "warmth": "warmth", "strength": "strength of colour", "stroke": "a stroke that jumps out", "edge": "an edge", "place": "an eye out of place",
    "shape": "an eye out of shape", "catchlight": "a catchlight at another hour", "bare": "bare ground", "growth": "hair against its growth", "smooth": "rubbed smooth",
    "lights": "too many lights", "missing": "single hairs forgotten",
}  # fmt: skip


class CritiqueDrill(Drill):
    """How many of the faults are found, and in which order."""

    key, title, unit, way = "critique", "find the faults", "right", "right"
    range, usual = (0.1, 10.0), 1.0
    count, minutes = 3, 8
    needs = frozenset({"planned"})
    colours, compares = True, True
    mends = (
        "value",
        "warmth",
        "strength",
        "edge",
        "place",
        "shape",
        "growth",
        "smooth",
        "lights",
        "bare",
        "stroke",
        "missing",
        "catchlight",
    )
    lacks = "Outline parts and plan passes, or practise on a demo."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        planned = scene.planned
        if scene.found:
            return _own_canvas(scene, rng)
        if planned is None:
            return None
        # By one hand or the other: nobody learns one painting by heart.
        painted = planned.rgb if rng.random() < 0.5 else planned.other
        before = lab_of(painted)
        picture, faults = with_faults(planned, painted, int(rng.integers(2**31)), FAULTS, LOCAL)
        if len(faults) < 3 or max(fault.reach_mm for fault in faults) > MOST_MM:
            return None
        change = np.linalg.norm(blur(lab_of(picture) - before, SQUINT_MM * planned.px_per_mm / 2.4), axis=-1)
        plain = [how_plain(change, fault, planned.px_per_mm) for fault in faults]
        order = np.argsort(plain)[::-1]
        put, plain = [faults[i] for i in order], [plain[i] for i in order]
        if plain[-1] < 1.0 or any(
            apart(a.at, b.at) < 2 * LEAST_MM * planned.px_per_mm for k, a in enumerate(put) for b in put[:k]
        ):
            return None
        h, w = picture.shape[:2]
        truth = {
            "places": [list(f.at) for f in put], "kinds": [f.kind for f in put], "plain": [round(p, 2) for p in plain],
            "reach": [max(f.reach_mm, LEAST_MM) for f in put], "w": w,
        }  # fmt: skip
        return Task(
            "", 0, f"{len(put)} faults were painted into this canvas. Click them, what is seen first first.",
            Spots(len(put), (), (0, 0, w, h), 5 * planned.px_per_mm), picture, planned.px_per_mm, truth, on_scene=True,
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = [tuple(p) for p in task.truth["places"]]
        reach = [REACH * r * task.px_per_mm for r in task.truth["reach"]]
        off = paired(answer, true, 1e6)
        found = [o < r for o, r in zip(off, reach, strict=True)]
        names = [SAID[k] for k in task.truth["kinds"]]
        marks = tuple(
            ring(t, r / REACH, "true" if f else "you", f"{k} {n}")
            for k, (t, r, f, n) in enumerate(zip(true, reach, found, names, strict=True), 1)
        )
        first = ""
        if answer and found[0] and task.truth["plain"][0] > CLEAR * task.truth["plain"][1]:
            first = (
                " You saw the plainest first."
                if apart(answer[0], true[0]) < reach[0]
                else f" {names[0].capitalize()} is plainer than what you named first."
            )
        missed = [n for n, f in zip(names, found, strict=True) if not f]
        why = (f"Not seen: {', '.join(missed)}." if missed else "All of them.") + first
        return Score(
            sum(found) / len(found), f"{sum(found)} of {len(found)} found", why, tuple(Seen(f) for f in found), marks
        )

    def ideal(self, task: Task) -> Any:
        return tuple(tuple(p) for p in task.truth["places"])


def _own_canvas(scene: Scene, rng: np.random.Generator) -> Task | None:
    """Return a task on a photographed canvas: what was read off it is what is to be found, three to five of the first."""
    count = int(rng.integers(3, 6))
    kept: list[Found] = []
    for one in scene.found:
        if len(kept) < count and all(apart((one.x, one.y), (o.x, o.y)) > 2 * LEAST_MM * scene.px_per_mm for o in kept):
            kept.append(one)
    if len(kept) < 3:
        return None
    h, w = scene.labels.shape
    truth = {
        "places": [[f.x, f.y] for f in kept], "kinds": [f.kind for f in kept], "plain": [float(len(kept) - k) for k in range(len(kept))],
        "reach": [max(f.reach_mm, LEAST_MM) for f in kept], "w": w,
    }  # fmt: skip
    return Task(
        "", 0, f"Your own canvas: click the {len(kept)} places that jump out most, the plainest first.",
        Spots(len(kept), (), (0, 0, w, h), 5 * scene.px_per_mm), scene.rgb, scene.px_per_mm, truth,
    )  # fmt: skip


def how_plain(change: F32, fault: Fault, px_per_mm: float) -> float:
    """Return how plainly a fault shows: the largest change at a squint within its reach, CIELAB."""
    h, w = change.shape
    reach = max(fault.reach_mm, LEAST_MM) * px_per_mm
    y0, y1 = int(max(0, fault.at[1] - reach)), int(min(h, fault.at[1] + reach)) + 1
    x0, x1 = int(max(0, fault.at[0] - reach)), int(min(w, fault.at[0] + reach)) + 1
    return float(change[y0:y1, x0:x1].max(initial=0.0))
