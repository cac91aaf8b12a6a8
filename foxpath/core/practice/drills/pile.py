"""Which pile is nearest to the wanted colour, and what does it lack?"""

from typing import Any

import numpy as np

from foxpath.core.mixes.words import lacks_word
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene
from foxpath.core.practice.swatches import PX_PER_MM, a_mix, dE, labelled, sheet, shown_on_screen
from foxpath.core.practice.task import Pick, Score, Seen, Task, ring


class PileDrill(Drill):
    """How much farther off the next pile has to lie for the nearest to be told, in dE00."""

    key, title, unit, way = "pile", "nearest pile", "dE", "seen"
    range, usual = (0.6, 15.0), 4.0
    count, minutes = 12, 4
    needs = frozenset({"paint"})
    mirrors, colours = False, True
    mends = ("warmth", "strength", "value")
    lacks = "Lay out tubes at Mixes."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        if scene.rack is None or len(scene.rack) < 3:
            return None
        piles = [scene.rack.lab(a_mix(scene.rack, rng)) for _ in range(14)]
        want = piles.pop()
        near = sorted((dE(lab, want), k) for k, lab in enumerate(piles) if shown_on_screen(lab))
        if len(near) < 4 or not shown_on_screen(want):
            return None
        best = None
        for i in range(len(near) - 3):
            gap = near[i + 1][0] - near[i][0]
            if near[i][0] < 14 and gap > self.range[0] and (best is None or abs(gap - size) < best[0]):
                best = (abs(gap - size), i, gap)
        if best is None or best[0] > 0.5 * size:
            return None
        four = [near[best[1] + j][1] for j in range(4)]
        order = rng.permutation(4)
        labs = [piles[four[i]] for i in order]
        right = int(np.flatnonzero(order == 0)[0])
        page = sheet([want], labs)
        return Task(
            "", 0, "The wanted colour lies above. Which pile is nearest to it?", Pick(tuple("ABCD"), page.places, page.half), page.picture, PX_PER_MM,
            {"right": right, "dE": [round(dE(lab, want), 2) for lab in labs], "lacks": lacks_word(labs[right], want), "above": list(page.above[0])},
            size=best[2], on_scene=False,
            shown=labelled(page, "ABCD", ("wanted",)),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = int(task.truth["right"])
        said = ", ".join(f"{w} {v:.1f}" for w, v in zip("ABCD", task.truth["dE"], strict=True))
        lacks = task.truth["lacks"]
        why = f"ΔE from the wanted: {said}. {'ABCD'[true]} lacks: {lacks}." if lacks else f"ΔE from the wanted: {said}."
        places = task.ask.places if isinstance(task.ask, Pick) else ()
        marks = [ring(places[true], 30, "true")]
        if answer != true:
            marks.append(ring(places[answer], 30, "you"))
        waste = task.truth["dE"][answer] - task.truth["dE"][true]
        words = f"{'ABCD'[true]} is nearest" + (f"; yours lies {waste:.1f} ΔE farther" if answer != true else "")
        return Score(
            float(answer == true), words, why, (Seen(answer == true, size=task.size, choices=4),), tuple(marks)
        )

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]
