"""How strong are these colours? Sort spots into grey, middling and strong."""

from typing import Any

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.drills.three import sorted_score, sorted_task, three_bounds
from foxpath.core.practice.scene import Scene, a_window, spot_radius_mm, spots
from foxpath.core.practice.task import Score, Sort, Task, ring

NAMES = ("greyest", "middling", "strongest")
LEAST_C = 3.0
"""Two bounds of strength nearer than this make no three groups."""


class StrengthDrill(Drill):
    """How near to the bound of a group of strength a spot may lie and is still sorted right, in C*."""

    key, title, unit, way = "strength", "strength of colour", "C*", "seen"
    range, usual = (1.0, 20.0), 5.0
    count, minutes = 6, 5
    colours = True
    mends = ("strength", "warmth")

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        within, look = a_window(scene, rng, 0.34)
        found = spots(scene, rng, 90, spot_radius_mm(scene), within=within)
        if len(found) < 12:
            return None
        # The bounds are the picture's own, where its strengths part most.
        bounds = three_bounds(np.array([s.chroma for s in found]))
        if bounds[1] - bounds[0] < LEAST_C:
            return None
        size = min(size, 0.4 * (bounds[1] - bounds[0]), 0.6 * bounds[0])
        made = sorted_task(scene, rng, found, lambda s: s.chroma, bounds, size)
        if made is None:
            return None
        chosen, groups = made
        offs = [round(min(abs(s.chroma - b) for b in bounds), 2) for s in chosen]
        places, radius = tuple(s.at for s in chosen), chosen[0].radius
        return Task(
            "", 0, f"Sort the spots by strength of colour: under C* {bounds[0]:.0f}, between, and over {bounds[1]:.0f} in this picture.",
            Sort(places, NAMES, radius), scene.rgb, scene.px_per_mm,
            {"groups": groups, "offs": offs, "C": [round(s.chroma, 1) for s in chosen]}, size=min(offs), look=look,
            shown=tuple(ring(p, radius, "plain", str(k)) for k, p in enumerate(places, 1)),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        said = ", ".join(f"{k} {c:.0f}" for k, c in enumerate(task.truth["C"], 1))
        return sorted_score(task, answer, NAMES, task.truth["offs"], f"C* {said}: lights look strong, darks look grey.")

    def ideal(self, task: Task) -> Any:
        return tuple(task.truth["groups"])
