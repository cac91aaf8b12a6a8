"""Which of four spots is the yellowest, bluest, reddest or greenest?"""

from typing import Any

import cv2
import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.drills.relation import picked, quartet
from foxpath.core.practice.scene import Scene, a_window
from foxpath.core.practice.task import Pick, Score, Task, ring
from foxpath.core.progress.small import rgb_of

AXES = (("yellowest", 2, 1), ("bluest", 2, -1), ("reddest", 1, 1), ("greenest", 1, -1))
"""What is asked for: the axis of CIELAB and its sense."""


class ColourDrill(Drill):
    """How small a step of hue is told between neighbours, in a* or b*."""

    key, title, unit, way = "colour", "warmer or cooler", "a* b*", "seen"
    range, usual = (1.0, 24.0), 6.0
    count, minutes = 16, 5
    colours = True
    mends = ("warmth",)

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        word, axis, sense = AXES[int(rng.integers(len(AXES)))]
        within, look = a_window(scene, rng)
        found = quartet(scene, rng, lambda s: sense * s.lab[axis], size, within=within)
        if found is None:
            return None
        four, right, gap = found
        places, radius = tuple(s.at for s in four), four[0].radius
        picture = scene.rgb.copy()
        for spot in four:
            # Each spot is its own colour all over, so that no single hair decides.
            flat = rgb_of(np.array([[spot.lab]], np.float32))[0, 0]
            cv2.circle(
                picture, (round(spot.x), round(spot.y)), round(radius), tuple(int(v) for v in flat), -1, cv2.LINE_AA
            )
        return Task(
            "", 0, f"Which of the four spots is the {word}?", Pick(tuple("ABCD"), places, radius), picture, scene.px_per_mm,
            {"right": right, "word": word, "axis": "a*" if axis == 1 else "b*", "values": [round(s.lab[axis], 1) for s in four]}, size=gap, look=look,
            shown=tuple(ring(p, radius, "plain", w) for p, w in zip(places, "ABCD", strict=True)),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        said = ", ".join(f"{w} {v:+.0f}" for w, v in zip("ABCD", task.truth["values"], strict=True))
        why = f"{task.truth['axis']} {said}: judge a colour beside its neighbours, never alone."
        return picked(task, answer, f"{'ABCD'[int(task.truth['right'])]} is the {task.truth['word']}", why)

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]
