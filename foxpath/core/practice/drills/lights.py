"""Where do the lights go? So many, and no more."""

from typing import Any

import cv2
import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, apart
from foxpath.core.practice.task import Score, Seen, Spots, Task, line, ring
from foxpath.core.progress.small import blurred_within, shrunk
from foxpath.core.units import mm_words

FINE_MM, BROAD_MM, OFF_MM, RIM_MM = 1.0, 7.0, 9.0, 2.0
LEAST, MOST = 3, 7
GAP = 1.12
"""The last light counted is so many times as strong as the next: else how many there are would be a matter of taste."""
LEAST_L = 4.0
HIT_MM = 5.0


class LightsDrill(Drill):
    """How far off the strongest lights are set, in mm."""

    key, title, unit, way = "lights", "the strongest lights", "mm", "near"
    range, usual = (0.5, 40.0), 8.0
    count, minutes = 4, 5
    colours = True
    mends = ("lights",)

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        h, w = scene.labels.shape
        side = float(rng.uniform(0.35, 0.6)) * min(h, w)
        ys, xs = np.nonzero(scene.animal & (scene.room > 4 * scene.px_per_mm))
        if not len(ys):
            return None
        k = int(rng.integers(len(ys)))
        cx, cy = float(np.clip(xs[k], side / 2, w - side / 2)), float(np.clip(ys[k], side / 2, h - side / 2))
        found = strongest(scene, (cx, cy), side)
        fit = [n for n in range(LEAST, min(MOST, len(found) - 1) + 1) if found[n - 1][0] > GAP * found[n][0]]
        if not fit:
            return None
        count = fit[int(rng.integers(len(fit)))]
        truth = {
            "places": [list(at) for _, at in found[:count]], "strength": [round(s, 2) for s, _ in found[: count + 1]], "box": [cx - side / 2, cy - side / 2, side, side],
            "even": side / scene.px_per_mm,
        }  # fmt: skip
        x, y = cx - side / 2, cy - side / 2
        frame = np.array([(x, y), (x + side, y), (x + side, y + side), (x, y + side), (x, y)])
        return Task(
            "", 0, f"Set the {count} strongest lights within the frame.", Spots(count, (), (x, y, side, side), 0.5 * HIT_MM * scene.px_per_mm),
            scene.rgb, scene.px_per_mm, truth, look=(cx, cy, 0.6 * side), shown=(line(frame, "plain"),),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = [tuple(p) for p in task.truth["places"]]
        off = paired(answer, true, float(task.truth["even"]) * 0.5 * task.px_per_mm)
        mm = [d / task.px_per_mm for d in off]
        hits = sum(d < HIT_MM for d in mm)
        radius = 0.5 * HIT_MM * task.px_per_mm
        marks = [ring(t, radius, "true", str(k)) for k, t in enumerate(true, 1)] + [
            ring(a, 0.5 * radius, "you") for a in answer
        ]
        strong = task.truth["strength"]
        why = f"They stand {strong[0]:.0f} to {strong[len(true) - 1]:.0f} L* over what is about them; the next only {strong[len(true)]:.0f}."
        mean = float(np.mean(mm))
        return Score(
            hits / len(true),
            f"{hits} of {len(true)}, {mm_words(mean)} off in the mean",
            why,
            (Seen(hits == len(true), error=mean),),
            tuple(marks),
        )

    def ideal(self, task: Task) -> Any:
        return tuple(tuple(p) for p in task.truth["places"])


def strongest(scene: Scene, middle: tuple[float, float], side: float) -> list[tuple[float, tuple[float, float]]]:
    """Return the lights within a square: by how much each stands over what is about it, L*, and where; strongest first."""
    mm = scene.px_per_mm
    far, room = round(OFF_MM * mm), int(side / 2 + 3 * BROAD_MM * mm)
    x0, y0 = max(0, int(middle[0]) - room), max(0, int(middle[1]) - room)
    there = np.s_[y0 : int(middle[1]) + room, x0 : int(middle[0]) + room]
    light, animal = np.ascontiguousarray(scene.lab[there][..., 0]), scene.animal[there].astype(np.float32)
    # Only against what is about it on the animal itself: at a rim a bright ground would count as light, or hide one.
    over = blurred_within(light, animal, FINE_MM * mm) - blurred_within(light, animal, BROAD_MM * mm)
    over = np.where(shrunk(animal > 0, RIM_MM * mm) > 0, over, -np.inf).astype(np.float32)
    # A light is the highest about itself: rows first, then columns, a square window costs little.
    highest = cv2.dilate(over, np.ones((2 * far + 1, 1), np.uint8))
    highest = cv2.dilate(highest, np.ones((1, 2 * far + 1), np.uint8))
    yy, xx = np.mgrid[: over.shape[0], : over.shape[1]]
    inside = (np.abs(xx + x0 - middle[0]) < side / 2 - 2) & (np.abs(yy + y0 - middle[1]) < side / 2 - 2)
    ys, xs = np.nonzero((over == highest) & inside & (over > LEAST_L))
    return sorted(
        ((float(over[y, x]), (float(x + x0), float(y + y0))) for y, x in zip(ys, xs, strict=True)), reverse=True
    )


def paired(answer: Any, true: Any, lost: float) -> list[float]:
    """Return how far each true place lies from its answer: the pairs that are nearest in all; `lost` where none is left or it is farther."""
    from scipy.optimize import linear_sum_assignment

    if not len(answer):
        return [lost] * len(true)
    cost = np.array([[min(apart(t, a), lost) for a in answer] for t in true])
    rows, columns = linear_sum_assignment(cost)
    made = [lost] * len(true)
    for i, j in zip(rows, columns, strict=True):
        made[i] = float(cost[i, j])
    return made
