"""Which black is the coolest, which grey the truest? Judged as they show themselves, in white."""

from typing import Any

import numpy as np

from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.strings import JUDGED, Black, blues, browns
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, to_lab
from foxpath.core.practice.swatches import PX_PER_MM, labelled, sheet, shown_on_screen
from foxpath.core.practice.task import Pick, Score, Seen, Task

MOST_C = 16.0


class BlackDrill(Drill):
    """How small a lean of a black is told in its tint, in b*."""

    key, title, unit, way = "black", "cool or warm black", "b*", "seen"
    range, usual = (0.5, 10.0), 2.5
    count, minutes = 10, 3
    needs = frozenset({"paint"})
    mirrors, colours = False, True
    mends = ("warmth",)
    lacks = "Lay out a blue, a brown and a white at Mixes."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        if scene.rack is None:
            return None
        known = some_blacks(scene.rack, rng)
        cool = bool(rng.random() < 0.5)
        known.sort(key=lambda b: b.tint[2] if cool else -b.tint[2])
        fit = [
            (k, j)
            for k in range(len(known))
            for j in range(k + 1, len(known) - 1)
            if abs(abs(known[j].tint[2] - known[k].tint[2]) - size) < 0.35 * size
        ]
        if not fit:
            return None
        k, j = fit[int(rng.integers(len(fit)))]
        three = [known[k], known[j], known[int(rng.integers(j + 1, len(known)))]]
        order = rng.permutation(3)
        shown = [three[i] for i in order]
        right = int(np.flatnonzero(order == 0)[0])
        gap = abs(known[j].tint[2] - known[k].tint[2])
        page = sheet([], [np.array(b.tint) for b in shown])
        recipe = " and ".join(f"{n:g} {scene.names.get(t, t).lower()}" for t, n in known[k].parts)
        word = "coolest" if cool else "warmest"
        return Task(
            "", 0, f"Three blacks, each with eight parts of white. Which is the {word}?", Pick(tuple("ABC"), page.places, page.half), page.picture,
            PX_PER_MM, {"right": right, "b": [round(b.tint[2], 2) for b in shown], "word": word, "recipe": recipe}, size=gap, on_scene=False,
            shown=labelled(page, "ABC"),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = int(task.truth["right"])
        said = ", ".join(f"{w} {v:+.1f}" for w, v in zip("ABC", task.truth["b"], strict=True))
        why = f"b* {said}. {'ABC'[true]} is {task.truth['recipe']}."
        return Score(
            float(answer == true),
            f"{'ABC'[true]} is the {task.truth['word']}",
            why,
            (Seen(answer == true, size=task.size, choices=3),),
        )

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]


def some_blacks(rack: Rack, rng: np.random.Generator) -> list[Black]:
    """Return blacks at random, tube blacks and mixed ones, each with its tint; none without a white."""
    white = next((t for t in rack.tubes if t.white), None)
    if white is None:
        return []
    recipes: list[tuple[tuple[str, float], ...]] = [((t.id, 1.0),) for t in rack.tubes if t.black]
    blue, brown = blues(rack), browns(rack)
    for _ in range(16 if blue and brown else 0):
        a, b = blue[int(rng.integers(len(blue)))], brown[int(rng.integers(len(brown)))]
        recipes.append(((a.id, float(rng.choice([1, 2, 3, 4, 5]))), (b.id, float(rng.choice([1, 2, 3, 4, 5])))))
    made = []
    for parts in recipes:
        own = rack.parts(parts)
        tint = rack.lab(own / own.sum() + rack.parts({white.id: JUDGED}))
        # What has a colour of its own in white is no black.
        if float(np.hypot(tint[1], tint[2])) < MOST_C and shown_on_screen(tint):
            made.append(Black(parts, to_lab(rack.lab(own)), to_lab(tint)))
    return made
