"""Which way does the hair grow here? Root to tip, also at crowns and in feathers."""

from typing import Any

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, apart, hair_shows
from foxpath.core.practice.task import Score, Seen, Task, Way, hair, ring

SURE, ALIKE = 0.9, 0.97
"""What is asked about is known so well, and one direction within the spot."""
RIM_MM = 20.0
"""At the canvas's rim too little is shown about a spot."""
SPOT_MM, ROOM_MM, SHOWN_MM, RING_MM, LEAST_RING_MM, HAIR_MM = 2.5, 5.0, 6.0, 30.0, 8.0, 12.0
TURNS = 3
"""So many places are looked at for the one where the hair turns most: every third task lies at a crown or a bend."""
FLIP_DEG = 120.0


class GrowthDrill(Drill):
    """The direction of hair at a spot, in degrees."""

    key, title, unit, way = "growth", "growth", "°", "near"
    range, usual = (2.0, 90.0), 20.0
    count, minutes = 12, 8
    needs = frozenset({"growth"})
    mends = ("growth",)
    lacks = "Comb a part at Growth, so that its roots are known, or practise on a demo."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        growth = scene.growth
        if growth is None:
            return None
        turning = rng.random() < 0.34
        found = []
        free = scene.room > ROOM_MM * scene.px_per_mm
        rim = int(RIM_MM * scene.px_per_mm)
        free[:rim], free[-rim:], free[:, :rim], free[:, -rim:] = False, False, False, False
        hairy = np.array([part.hair and part.kind != "whisker" for part in scene.parts] + [False])
        ys, xs = np.nonzero(free & hairy[scene.labels])
        if not len(ys):
            return None
        for k in rng.integers(len(ys), size=TURNS if turning else 1):
            x, y = float(xs[k]), float(ys[k])
            degrees, alike, sure = growth.at(x, y, SPOT_MM * scene.px_per_mm)
            if sure >= SURE and alike >= ALIKE and hair_shows(scene, x, y, SHOWN_MM * scene.px_per_mm):
                _, wide, _ = growth.at(x, y, 4 * SPOT_MM * scene.px_per_mm)
                found.append((wide, x, y, degrees, sure))
        if not found:
            return None
        wide, x, y, degrees, sure = min(found)
        part = scene.parts[scene.labels[int(y), int(x)]]
        nearest = min((apart((x, y), (e.x, e.y)) - 1.2 * e.radius for e in scene.eyes), default=np.inf)
        if nearest < LEAST_RING_MM * scene.px_per_mm:
            return None
        shown = min(RING_MM * scene.px_per_mm, nearest)
        truth = {
            "degrees": round(degrees, 2), "at": [x, y], "part": part.name, "turns": round(1 - wide, 3), "sure": round(sure, 3),
            "hair": HAIR_MM * scene.px_per_mm,
        }  # fmt: skip
        return Task(
            "", 0, "Which way does the hair grow here? Draw it, root to tip.", Way((x, y), HAIR_MM * scene.px_per_mm), scene.rgb,
            scene.px_per_mm, truth, ring=(x, y, shown), shown=(ring((x, y), 4.0),),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true, at = float(task.truth["degrees"]), tuple(task.truth["at"])
        off = (answer - true + 180) % 360 - 180
        flipped = abs(off) > FLIP_DEG
        words = "root and tip swapped" if flipped else f"{abs(off):.0f}° off" if abs(off) >= 1 else "right on it"
        if flipped:
            why = "It grows the other way: look for the tips that lie over what is behind them."
        elif abs(off) < 1:
            why = f"{task.truth['part']}: the hair runs just there."
        else:
            side = "clockwise" if off > 0 else "anticlockwise"
            turns = ", which turns here" if task.truth["turns"] > 0.03 else ""
            why = f"{task.truth['part']}: yours is turned {abs(off):.0f}° {side} from the hair{turns}."
        long = float(task.truth["hair"])
        marks = (hair(at, true, long, "true", "the hair"), hair(at, answer, 1.15 * long, "you", "you"))
        return Score(max(0.0, 1 - abs(off) / 90), words, why, (Seen(abs(off) < 20, error=abs(off)),), marks)

    def ideal(self, task: Task) -> Any:
        return task.truth["degrees"]
