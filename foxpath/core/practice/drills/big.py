"""The whole picture in a few strokes of a brush that is far too large: where do they lie?"""

from typing import Any

import cv2
import numpy as np

from foxpath.core.arrays import F32, Rgb8
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Place, Scene
from foxpath.core.practice.task import Score, Seen, Strokes, Task
from foxpath.core.progress.small import blur, lab_of, resized, rgb_of

COUNT = 10
TIMES_FINER = 14.0
"""The picture's longer side holds so many widths of the brush."""
WORK_PX = 140
SQUINT = 0.35
"""Of the brush's width: the blur of the squint through which both are judged."""
TRIED = 70


class BigBrushDrill(Drill):
    """How far the canvas lies from the reference at a squint, beside the best that was found with as many strokes: as a factor."""

    key, title, unit, way = "big", "big brush first", "times", "near"
    range, usual = (0.02, 3.0), 0.4
    count, minutes = 2, 6
    mends = ("smooth", "lights", "value")

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        h, w = scene.labels.shape
        share = float(rng.uniform(0.6, 1.0))
        ch, cw = int(h * share), int(w * share)
        y0, x0 = int(rng.integers(h - ch + 1)), int(rng.integers(w - cw + 1))
        cut = np.ascontiguousarray(scene.rgb[y0 : y0 + ch, x0 : x0 + cw])
        small = _small(cut)
        if float(small[..., 0].std()) < 5:
            return None
        k = max(cw, ch) / WORK_PX
        best = [[[round(x * k, 1), round(y * k, 1)] for x, y in one] for one in laid_best(small, rng)]
        # As it will be scored: what is written down is what was measured.
        left = off(small, [[(x / k, y / k) for x, y in one] for one in best])
        truth = {"best": best, "left": round(left, 3), "bare": round(off(small, []), 3)}
        width = max(cw, ch) / TIMES_FINER
        return Task(
            "", 0, f"Lay {COUNT} strokes of a brush {width / scene.px_per_mm:.0f} mm wide: what counts is how it looks at a squint.",
            Strokes(COUNT, width, (cw, ch)), cut, scene.px_per_mm, truth, on_scene=False,
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        small = _small(task.picture)
        k = WORK_PX / max(task.picture.shape[:2])
        mine = [tuple((x * k, y * k) for x, y in one) for one in answer]
        left, best, bare = off(small, mine), float(task.truth["left"]), float(task.truth["bare"])
        more = max(left / max(best, 0.1) - 1, 0.0)
        h, w = task.picture.shape[:2]
        shown = cv2.resize(_painted(small, mine), (w, h), interpolation=cv2.INTER_LINEAR)
        why = f"The bare middle tone lies ΔE {bare:.1f} off at a squint, yours {left:.1f}, the best that was found {best:.1f}: largest masses first."
        share = float(np.clip((bare - left) / max(bare - best, 0.1), 0, 1))
        words = f"ΔE {left:.1f} at a squint, {best:.1f} can be had"
        return Score(share, words, why, (Seen(more < 0.2, error=more),), picture=rgb_of(shown))

    def ideal(self, task: Task) -> Any:
        return tuple(tuple((float(x), float(y)) for x, y in one) for one in task.truth["best"])


def _small(rgb: Rgb8) -> F32:
    return lab_of(np.clip(resized(rgb.astype(np.float32), WORK_PX / max(rgb.shape[:2])), 0, 255))


def _stroke(lab: F32, canvas: F32, stroke: Any) -> F32:
    """Return a canvas with one stroke, of the colour that lies under it in the mean."""
    h, w = lab.shape[:2]
    mask = np.zeros((h, w), np.uint8)
    at = np.round(np.asarray(stroke, np.float64)).astype(np.int32)
    wide = max(1, round(max(h, w) / TIMES_FINER))
    if len(at) > 1:
        cv2.polylines(mask, [at], False, 1, wide, cv2.LINE_8)
    else:
        cv2.circle(mask, (int(at[0][0]), int(at[0][1])), wide // 2, 1, -1)
    inside = mask > 0
    if not inside.any():
        return canvas
    made = canvas.copy()
    made[inside] = lab[inside].mean(axis=0)
    return made


def _painted(lab: F32, strokes: Any) -> F32:
    canvas = np.broadcast_to(np.median(lab.reshape(-1, 3), axis=0), lab.shape).astype(np.float32)
    for one in strokes:
        canvas = _stroke(lab, canvas, one)
    return canvas


def _squint(lab: F32) -> F32:
    return blur(lab, SQUINT * max(lab.shape[:2]) / TIMES_FINER)


def off(lab: F32, strokes: Any) -> float:
    """Return how far a picture of strokes lies from the reference at a squint: mean distance in CIELAB."""
    return float(np.linalg.norm(_squint(_painted(lab, strokes)) - _squint(lab), axis=-1).mean())


def laid_best(lab: F32, rng: np.random.Generator) -> list[tuple[Place, ...]]:
    """Return the strokes that bring most, each the best of many tried after those before it, (x, y) px of `lab`."""
    h, w = lab.shape[:2]
    aim = _squint(lab)
    canvas = np.broadcast_to(np.median(lab.reshape(-1, 3), axis=0), lab.shape).astype(np.float32)
    wide = max(h, w) / TIMES_FINER
    made: list[tuple[Place, ...]] = []
    for _ in range(COUNT):
        far = np.linalg.norm(_squint(canvas) - aim, axis=-1)
        weight = far.ravel() / max(float(far.sum()), 1e-9)
        best = None
        for k in rng.choice(h * w, TRIED, p=weight):
            y, x = divmod(int(k), w)
            a, long = rng.uniform(0, np.pi), rng.uniform(0.5, 7) * wide
            dx, dy = 0.5 * long * np.cos(a), 0.5 * long * np.sin(a)
            stroke = ((float(x - dx), float(y - dy)), (float(x + dx), float(y + dy)))
            tried = _stroke(lab, canvas, stroke)
            left = float(np.linalg.norm(_squint(tried) - aim, axis=-1).mean())
            if best is None or left < best[0]:
                best = (left, stroke, tried)
        if best is None or best[0] >= float(far.mean()):
            break
        made.append(best[1])
        canvas = best[2]
    return made
