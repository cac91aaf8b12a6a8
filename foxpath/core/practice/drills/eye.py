"""What is off with this eye? Beside the reference lies the same eye as somebody painted it."""

from typing import Any

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene
from foxpath.core.practice.task import Pick, Score, Seen, Task, line, ring
from foxpath.core.progress.faults import at_another_hour, warped
from foxpath.core.progress.judge.features import catchlight_of
from foxpath.core.progress.small import rgb_of
from foxpath.core.units import mm_words

WORDS = (
    "too high",
    "too low",
    "too wide",
    "too tall",
    "grown",
    "shrunk",
    "upper part too light",
    "looks elsewhere",
    "light at another hour",
)
ROOM, AWAY = 3.2, 0.6
"""Half width of what is shown about an eye, and how far the eye lies off its middle, as multiples of its radius."""
LEAST_PX = 7.0
PUPIL = 0.42
"""What is taken for the pupil, as a share of the iris's radius."""
LIGHTER_A_MM = 14.0
"""L* by which the upper part is lightened for each mm that is asked for: told about as well as a shift of that size."""
SHOWN_PX = 420


class EyeDrill(Drill):
    """How small an error of an eye is told, in mm on the canvas."""

    key, title, unit, way = "eye", "what is off in an eye", "mm", "seen"
    range, usual = (0.15, 4.0), 1.0
    count, minutes = 8, 5
    needs = frozenset({"eyes"})
    mirrors = False
    mends = ("place", "shape", "catchlight")
    lacks = "Mark an eye at Eyes, or practise on a demo."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        h, w = scene.labels.shape
        fit = [
            e for e in scene.eyes if e.radius > LEAST_PX and ROOM * e.radius < e.x < w - ROOM * e.radius
            and ROOM * e.radius < e.y < h - ROOM * e.radius
        ]  # fmt: skip
        if not fit:
            return None
        eye = fit[int(rng.integers(len(fit)))]
        right = int(rng.integers(len(WORDS)))
        off = min(size * float(np.exp(rng.uniform(-0.12, 0.12))) * scene.px_per_mm, 0.45 * eye.radius)
        half = int(ROOM * eye.radius)
        # Seldom in the middle, and as often the other way round: no two tasks look alike.
        dx, dy = rng.uniform(-AWAY, AWAY, 2) * eye.radius
        x0, y0 = int(eye.x + dx) - half, int(eye.y + dy) - half
        if min(x0, y0) < 0 or x0 + 2 * half > w or y0 + 2 * half > h:
            return None
        lab = scene.lab[y0 : y0 + 2 * half, x0 : x0 + 2 * half]
        ex, ey = eye.x - x0, eye.y - y0
        if rng.random() < 0.5:
            lab, ex = np.ascontiguousarray(lab[:, ::-1]), 2 * half - ex
        painted = _spoilt(lab, ex, ey, eye.radius, WORDS[right], off, scene.px_per_mm)
        if painted is None:
            return None
        zoom = max(1, round(SHOWN_PX / (2 * half)))
        both = np.concatenate(
            [_large(rgb_of(lab), zoom), np.full((2 * half * zoom, 10, 3), 60, np.uint8), _large(rgb_of(painted), zoom)],
            axis=1,
        )
        shift = 2 * half * zoom + 10
        middle = [round(float(ex * zoom), 1), round(float(ey * zoom), 1)]
        truth = {
            "right": right, "mm": round(off / scene.px_per_mm, 3), "reference": middle, "painted": [middle[0] + shift, middle[1]],
            "radius": eye.radius * zoom,
        }  # fmt: skip
        return Task(
            "", 0, f"Left the reference, right the {eye.name.lower()} as it was painted. What is off?", Pick(WORDS), np.ascontiguousarray(both),
            scene.px_per_mm * zoom, truth, size=off / scene.px_per_mm, on_scene=False,
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true, mm = int(task.truth["right"]), float(task.truth["mm"])
        word = WORDS[true]
        amount = f" by {LIGHTER_A_MM * mm:.0f} L*" if "too light" in word else f" by {mm_words(mm)}"
        how = {
            "too high": "Measure from the corner of the mouth or the nose, not from the other eye alone.",
            "too low": "Measure from the corner of the mouth or the nose, not from the other eye alone.",
            "too wide": "Turn the canvas by a quarter: an oval shows at once.",
            "too tall": "Turn the canvas by a quarter: an oval shows at once.",
            "grown": "Eyes grow with every pass over their rim: cut them back from outside.",
            "shrunk": "The skin crept in: measure across the iris.",
            "upper part too light": "The lid throws its shadow on the upper part of the ball.",
            "looks elsewhere": "The pupil sits off the middle of its iris: look where both eyes meet.",
            "light at another hour": "Set the catchlight by the clock: the lamp gives both eyes the same hour.",
        }[word]
        marks = (
            ring(tuple(task.truth["painted"]), float(task.truth["radius"]), "true"),
            line([(task.truth["painted"][0] - 1.4 * task.truth["radius"], task.truth["painted"][1]), (task.truth["painted"][0] + 1.4 * task.truth["radius"], task.truth["painted"][1])], "plain"),
        )  # fmt: skip
        return Score(
            float(answer == true),
            f"{word}{amount}",
            how,
            (Seen(answer == true, size=task.size, choices=len(WORDS)),),
            marks,
        )

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]


def _large(rgb: Any, zoom: int) -> Any:
    return np.repeat(np.repeat(rgb, zoom, axis=0), zoom, axis=1)


def _spoilt(lab: F32, x: float, y: float, radius: float, word: str, off: float, px_per_mm: float) -> F32 | None:
    """Return an eye with one thing off by `off` px; None where that cannot be done: its light is not seen."""
    one = np.eye(2, dtype=np.float32)
    k = 1 + off / radius
    if word in ("too high", "too low"):
        return warped(lab, (x, y), radius, one, (0.0, -off if word == "too high" else off))
    if word in ("too wide", "too tall"):
        wide = np.diag([k, 1 / k] if word == "too wide" else [1 / k, k]).astype(np.float32)
        return warped(lab, (x, y), radius, wide, (0.0, 0.0))
    if word in ("grown", "shrunk"):
        return warped(lab, (x, y), radius, one * np.float32(k if word == "grown" else 1 / k), (0.0, 0.0))
    if word == "looks elsewhere":
        # The pupil alone, to the side where its iris leaves it room.
        return warped(lab, (x, y), PUPIL * radius, one, (min(off, 0.3 * radius), 0.0))
    if word == "light at another hour":
        light = catchlight_of(lab, x, y, radius, px_per_mm)
        if light is None or np.hypot(light[0] - x, light[1] - y) < 0.25 * radius:
            return None
        hours = 6 / np.pi * off / float(np.hypot(light[0] - x, light[1] - y))
        return at_another_hour(lab, (x, y), radius, light[:2], float(hours))
    yy, xx = np.mgrid[: lab.shape[0], : lab.shape[1]]
    away = np.hypot(xx - x, yy - y) / radius
    upper = np.clip((1.05 - away) / 0.15, 0, 1) * np.clip((y - yy) / (0.35 * radius) + 0.2, 0, 1)
    made = lab.copy()
    made[..., 0] = np.clip(made[..., 0] + LIGHTER_A_MM * off / px_per_mm * upper, 0, 100)
    return np.asarray(made, np.float32)
