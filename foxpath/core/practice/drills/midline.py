"""Where does the other eye belong, with the head tilted?"""

from typing import Any

import cv2
import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, apart
from foxpath.core.practice.task import Score, Seen, Spots, Task, line, ring
from foxpath.core.progress.small import blur, rgb_of
from foxpath.core.units import mm_words

TILT_DEG = 28.0
COVER = 2.4
"""How far the hidden eye is covered, as a multiple of its radius."""
APART = (3.0, 16.0)
"""Two eyes of one head lie so many radii apart."""


class MidlineDrill(Drill):
    """How far off an eye is set on a tilted head, in mm."""

    key, title, unit, way = "midline", "eyes on a tilted head", "mm", "near"
    range, usual = (0.3, 30.0), 4.0
    count, minutes = 6, 4
    needs = frozenset({"eyes"})
    mends = ("place",)
    lacks = "Mark both eyes of a head at Eyes, or practise on a demo."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        pairs = [
            (a, b) for k, a in enumerate(scene.eyes) for b in scene.eyes[:k]
            if APART[0] * max(a.radius, b.radius) < apart((a.x, a.y), (b.x, b.y)) < APART[1] * max(a.radius, b.radius)
            and 0.5 < a.radius / b.radius < 2
        ]  # fmt: skip
        if not pairs:
            return None
        a, b = pairs[int(rng.integers(len(pairs)))]
        hidden, seen = (a, b) if rng.random() < 0.5 else (b, a)
        h, w = scene.labels.shape
        cover = np.zeros((h, w), np.float32)
        cv2.circle(cover, (round(hidden.x), round(hidden.y)), round(COVER * hidden.radius), 1.0, -1)
        # The cover lies off the eye's middle, so that it does not give the place away.
        away, turn = rng.uniform(0.3, 1.0) * hidden.radius, rng.uniform(0, 2 * np.pi)
        shift = np.array([[1, 0, away * np.cos(turn)], [0, 1, away * np.sin(turn)]], np.float32)
        cover = np.maximum(cover, cv2.warpAffine(cover, shift, (w, h)))
        soft = blur(cover, 0.25 * hidden.radius)[..., None]
        ring_px = scene.lab[(cover < 0.5) & (cv2.dilate(cover, np.ones((9, 9))) > 0.5)]
        flat = np.median(ring_px, axis=0) if len(ring_px) else np.array([60.0, 0, 0])
        picture = rgb_of((scene.lab * (1 - soft) + flat * soft).astype(np.float32))
        tilt = float(rng.uniform(-TILT_DEG, TILT_DEG))
        middle = ((a.x + b.x) / 2, (a.y + b.y) / 2)
        turned = cv2.getRotationMatrix2D(middle, tilt, 1.0)
        picture = np.ascontiguousarray(
            cv2.warpAffine(picture, turned, (w, h), flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE)
        )
        at, other = (turned @ np.array([e.x, e.y, 1.0]) for e in (hidden, seen))
        if not (0 < at[0] < w and 0 < at[1] < h):
            return None
        reach = 3 * max(apart((a.x, a.y), (b.x, b.y)), 2 * a.radius)
        truth = {"at": at.tolist(), "other": other.tolist(), "tilt": round(tilt, 1), "radius": hidden.radius}
        return Task(
            "", 0, "The head is tilted and one eye is covered. Click the middle of the eye that is missing.",
            Spots(1, (hidden.name,), (middle[0] - reach / 3, middle[1] - reach / 3, 2 * reach / 3, 2 * reach / 3), max(5.0, 0.5 * hidden.radius)), picture,
            scene.px_per_mm, truth, on_scene=False, ring=(middle[0], middle[1], reach),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true, other = np.array(task.truth["at"]), np.array(task.truth["other"])
        said = np.array(answer[0]) if answer else other
        off = float(np.hypot(*(said - true))) / task.px_per_mm
        along = (true - other) / max(float(np.hypot(*(true - other))), 1e-9)
        down = np.array([-along[1], along[0]])
        down = down if down[1] > 0 else -down
        wide, low = float((said - true) @ along) / task.px_per_mm, float((said - true) @ down) / task.px_per_mm
        parts = [
            f"{mm_words(abs(low))} too {'low' if low > 0 else 'high'}",
            f"{mm_words(abs(wide))} too far {'out' if wide > 0 else 'in'}",
        ]
        why = f"Along the head’s own axes it is {' and '.join(parts)}: draw the line through both eyes square to the midline."
        radius = float(task.truth["radius"])
        marks = (
            line([tuple(other), tuple(true)], "plain"),
            ring(tuple(true), radius, "true", "the eye"),
            ring(tuple(said), 0.4 * radius, "you", "you"),
        )
        return Score(max(0.0, 1 - off / 20), f"{mm_words(off)} off", why, (Seen(off < 3, error=off),), marks)

    def ideal(self, task: Task) -> Any:
        return (tuple(task.truth["at"]),)
