"""What is the smallest addition that brings this pile to the wanted colour?"""

from typing import Any

import numpy as np

from foxpath.core.mixes.adding import addition
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene
from foxpath.core.practice.swatches import PX_PER_MM, a_mix, dE, labelled, sheet, shown_on_screen
from foxpath.core.practice.task import Pick, Score, Seen, Task

PILE = 10.0
"""Parts in the pile."""
REACHED = 1.5
"""dE00 within which the addition reaches the wanted colour."""


class AdditionDrill(Drill):
    """Which tube a pile lacks: how much worse the next one has to be for the right one to be told, in dE00."""

    key, title, unit, way = "addition", "smallest addition", "dE", "seen"
    range, usual = (0.8, 20.0), 5.0
    count, minutes = 10, 5
    needs = frozenset({"paint"})
    mirrors, colours = False, True
    mends = ("warmth", "strength", "value")
    lacks = "Lay out tubes at Mixes."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        rack = scene.rack
        if rack is None or len(rack) < 4:
            return None
        pile = PILE * a_mix(rack, rng)
        tube = int(rng.integers(len(rack)))
        want = rack.lab(
            pile + PILE * float(rng.uniform(0.1, 0.6)) / float(rack.strength[tube]) * np.eye(len(rack))[tube]
        )
        have = rack.lab(pile)
        if dE(have, want) < 4 or not (shown_on_screen(have) and shown_on_screen(want)):
            return None
        away = []
        for k in range(len(rack)):
            usable = [j == k for j in range(len(rack))]
            away.append(addition(rack, pile, want, most=1, usable=usable, halving=False))
        order = sorted(range(len(rack)), key=lambda k: away[k].away)
        first, others = order[0], order[1:]
        if away[first].away > REACHED:
            return None
        # The second best stands as far behind as is asked for; the rest are worse still.
        fit = [k for k in range(len(others) - 2) if abs(away[others[k]].away - away[first].away - size) < 0.4 * size]
        if not fit:
            return None
        k = fit[int(rng.integers(len(fit)))]
        four = [first, *others[k : k + 3]]
        mixed = rng.permutation(4)
        tubes = [four[i] for i in mixed]
        right = int(np.flatnonzero(mixed == 0)[0])
        gap = away[others[k]].away - away[first].away
        page = sheet([have, want], [np.array(rack.own[rack.ids[t]]) for t in tubes])
        names = tuple(scene.names.get(rack.ids[t], rack.tubes[t].name) for t in tubes)
        added = sum(n for _, n in away[first].added)
        truth = {
            "right": right, "dE": [round(away[t].away, 2) for t in tubes], "names": list(names), "parts": round(added, 2),
            "grows": [round(away[t].grows, 2) for t in tubes],
        }  # fmt: skip
        return Task(
            "", 0, "Above the pile, and beside it the wanted colour. What do you add, as little as may be?", Pick(names, page.places, page.half),
            page.picture, PX_PER_MM, truth, size=gap, on_scene=False,
            shown=labelled(page, "ABCD", ("the pile", "wanted")),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true, names = int(task.truth["right"]), task.truth["names"]
        parts, left = task.truth["parts"], task.truth["dE"]
        why = f"{parts:g} parts of {names[true].lower()} to {PILE:.0f} of the pile leave ΔE {left[true]:.1f}."
        if answer != true:
            why += f" With {names[answer].lower()} the best that can be had is {left[answer]:.1f}, in a pile {task.truth['grows'][answer]:.1f} times as large."
        return Score(float(answer == true), names[true], why, (Seen(answer == true, size=task.size, choices=4),))

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]
