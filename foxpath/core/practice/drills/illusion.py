"""The same colour on four grounds: which patch is really the lightest, whatever its surroundings say?"""

from typing import Any

import cv2
import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.drills.relation import picked
from foxpath.core.practice.scene import Scene, a_window, apart, spot_radius_mm, spots
from foxpath.core.practice.task import Pick, Score, Task, ring
from foxpath.core.progress.small import rgb_of

GROUND, OFF = 1.5, 3.6
"""Of a patch's radius: how far its ground reaches at least, and how far patches lie apart."""
LEAST_RANGE = 12.0
"""The grounds differ at least so much, L*: else nothing pulls."""


class IllusionDrill(Drill):
    """How large a difference has to be before surroundings no longer hide it, in L*."""

    key, title, unit, way = "illusion", "pulled by its ground", "L*", "seen"
    range, usual = (0.8, 25.0), 6.0
    count, minutes = 12, 4
    colours = True
    mends = ("value", "warmth")

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        within, look = a_window(scene, rng, 0.34)
        radius = 1.2 * spot_radius_mm(scene) * scene.px_per_mm
        found = spots(scene, rng, 40, GROUND * radius / scene.px_per_mm, within=within)
        found.sort(key=lambda s: s.lab[0])
        chosen: list[Any] = []
        # From the lightest ground to the darkest; the patch that differs may lie on any of them.
        for want in np.linspace(len(found) - 1, 0, 4) if found else ():
            for spot in sorted(found, key=lambda s, w=want: abs(found.index(s) - w)):  # type: ignore[misc]
                if all(apart(spot.at, o.at) > OFF * radius for o in chosen):
                    chosen.append(spot)
                    break
        if len(chosen) < 4 or chosen[0].lab[0] - chosen[-1].lab[0] < LEAST_RANGE:
            return None
        base = np.mean([s.lab for s in chosen], axis=0)
        base[0] = float(np.clip(base[0], 25, 75))
        picture = scene.rgb.copy()
        order = rng.permutation(4)
        four = [chosen[i] for i in order]
        right = int(rng.integers(4))
        shown = []
        for k, spot in enumerate(four):
            lab = base + np.array([size if k == right else 0.0, 0.0, 0.0])
            flat = rgb_of(np.array([[lab]], np.float32))[0, 0]
            cv2.circle(
                picture, (round(spot.x), round(spot.y)), round(radius), tuple(int(v) for v in flat), -1, cv2.LINE_AA
            )
            shown.append(ring(spot.at, 1.15 * radius, "plain", "ABCD"[k]))
        grounds = [round(float(s.lab[0]), 1) for s in four]
        return Task(
            "", 0, "Three of these patches are the same. Which one is lighter?", Pick(tuple("ABCD"), tuple(s.at for s in four), 1.15 * radius),
            picture, scene.px_per_mm, {"right": right, "grounds": grounds, "L": round(float(base[0]), 1)}, size=size, look=look, shown=tuple(shown),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        grounds = ", ".join(f"{w} {v:.0f}" for w, v in zip("ABCD", task.truth["grounds"], strict=True))
        why = f"It is lighter by {task.size:.1f} L*. A light ground makes a patch look dark, a dark one light: grounds L* {grounds}."
        return picked(task, answer, f"{'ABCD'[int(task.truth['right'])]} is lighter", why)

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]
