"""Which two tubes cancel to the truest grey?"""

from typing import Any

import numpy as np

from foxpath.core.mixes.strings import opposites
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene
from foxpath.core.practice.swatches import PX_PER_MM, sheet
from foxpath.core.practice.task import Pick, Score, Seen, Task, label


class GreyDrill(Drill):
    """By how much more colour another pair has to keep, for the pair that cancels to be told, in C*."""

    key, title, unit, way = "grey", "grey from opposites", "C*", "seen"
    range, usual = (0.8, 30.0), 6.0
    count, minutes = 8, 4
    needs = frozenset({"paint"})
    mirrors, colours = False, True
    mends = ("strength",)
    lacks = "Lay out strong tubes and a white at Mixes."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        if scene.rack is None:
            return None
        known = list(opposites(scene.rack, 400))
        if len(known) < 4:
            return None
        best = None
        for _ in range(40):
            four = sorted((known[i] for i in rng.choice(len(known), 4, replace=False)), key=lambda p: p.chroma)
            gap = four[1].chroma - four[0].chroma
            if gap > self.range[0] and (best is None or abs(np.log(gap / size)) < best[0]):
                best = (abs(np.log(gap / size)), four, gap)
        if best is None:
            return None
        order = rng.permutation(4)
        pairs = [best[1][i] for i in order]
        rack = scene.rack
        # Shown are the tubes themselves: what they cancel to is the question.
        above = [np.array(rack.own[key]) for pair in pairs for key, _ in pair.parts]
        page = sheet([], above)
        names = tuple(" + ".join(scene.names.get(t, t) for t, _ in pair.parts) for pair in pairs)
        truth = {
            "right": int(np.flatnonzero(order == 0)[0]),
            "C": [round(p.chroma, 1) for p in pairs],
            "names": list(names),
            "tubes": [[t for t, _ in p.parts] for p in pairs],
        }
        places = tuple(
            ((page.places[2 * k][0] + page.places[2 * k + 1][0]) / 2, page.places[2 * k][1]) for k in range(4)
        )
        return Task(
            "", 0, "Four pairs of tubes, side by side. Which pair cancels to the truest grey?", Pick(names, places, 2 * page.half), page.picture, PX_PER_MM,
            truth, size=best[2], on_scene=False, shown=tuple(label((x, y + page.half + 18), w) for (x, y), w in zip(places, "ABCD", strict=True)),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true, names = int(task.truth["right"]), task.truth["names"]
        why = f"With white it keeps C* {task.truth['C'][true]:.1f}"
        why += f", yours {task.truth['C'][answer]:.1f}." if answer != true else ": the least of the four."
        return Score(float(answer == true), names[true], why, (Seen(answer == true, size=task.size, choices=4),))

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]
