"""How light is this spot? Set a grey to the same value."""

from typing import Any

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, spot_radius_mm, spots
from foxpath.core.practice.task import Dial, Score, Seen, Task, ring

LOOK_MM = 70.0
EVEN_L = 5.0
"""A spot whose L* spreads more than this has no one value."""


class MatchDrill(Drill):
    """The value of a spot, in L*."""

    key, title, unit, way = "match", "value match", "L*", "near"
    range, usual = (0.8, 40.0), 8.0
    count, minutes = 20, 5
    colours = True
    mends = ("value",)

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        found = [s for s in spots(scene, rng, 12, spot_radius_mm(scene)) if s.spread < EVEN_L and 6 < s.lab[0] < 94]
        if not found:
            return None
        # Spots of all values are asked for, the rare ones too.
        want = rng.uniform(10, 90)
        spot = min(found, key=lambda s: abs(s.lab[0] - want))
        truth = {"L": round(spot.lab[0], 2), "at": list(spot.at), "radius": spot.radius}
        return Task(
            "", 0, "Set the grey to the value of the ringed spot.", Dial(0, 100, 1, float(rng.integers(20, 81)), "L*", greys=True),
            scene.rgb, scene.px_per_mm, truth, look=(*spot.at, LOOK_MM * scene.px_per_mm), shown=(ring(spot.at, spot.radius),),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = float(task.truth["L"])
        off = answer - true
        words = f"too {'light' if off > 0 else 'dark'} by {abs(off):.0f} L*" if abs(off) >= 1 else "the same value"
        pull = (
            "A light spot among darks looks lighter than it is."
            if off > 0
            else "Among lights a spot looks darker than it is."
        )
        why = f"You said {answer:.0f}, it is {true:.0f}. {pull if abs(off) >= 4 else 'Near enough to mix by.'}"
        marks = (ring(tuple(task.truth["at"]), float(task.truth["radius"]), "true", f"L* {true:.0f}"),)
        return Score(max(0.0, 1 - abs(off) / 25), words, why, (Seen(abs(off) < 6, error=abs(off)),), marks)

    def ideal(self, task: Task) -> Any:
        return task.truth["L"]
