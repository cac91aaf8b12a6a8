"""Where do the lid's shadow, the sky and the catchlight belong in this eye, under this light?"""

from typing import Any

import cv2
import numpy as np

from foxpath.core.eyes.eye import clock
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, apart
from foxpath.core.practice.task import Score, Seen, Spots, Task, ring
from foxpath.core.progress.small import blur, rgb_of
from foxpath.core.units import mm_words

LEAST_PX = 7.0
NAMES = ("lid shadow", "sky", "catchlight")


class GlintDrill(Drill):
    """How far off the eye's shadow and lights are set, in mm."""

    key, title, unit, way = "glint", "lights of an eye", "mm", "near"
    range, usual = (0.1, 8.0), 1.5
    count, minutes = 6, 4
    needs = frozenset({"eyes"})
    mirrors = False
    mends = ("catchlight", "lights")
    lacks = "Mark an eye at Eyes, or practise on a demo."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        fit = [e for e in scene.eyes if e.light and e.sky and e.shadow and e.radius > LEAST_PX]
        if not fit:
            return None
        eye = fit[int(rng.integers(len(fit)))]
        light, sky, shadow = eye.light, eye.sky, eye.shadow
        assert light is not None
        assert sky is not None
        assert shadow is not None
        hour = float(rng.uniform(0, 12)) if rng.random() < 0.6 else eye.light_hour
        turn = np.radians(30 * (hour - eye.light_hour))
        # Under another light the catchlight wanders about the ball; sky and lid stay above.
        dx, dy = light[0] - eye.x, light[1] - eye.y
        light = (
            eye.x + dx * float(np.cos(turn)) - dy * float(np.sin(turn)),
            eye.y + dx * float(np.sin(turn)) + dy * float(np.cos(turn)),
        )
        picture = scene.rgb.copy()
        mask = np.zeros(scene.labels.shape, np.float32)
        cv2.ellipse(mask, ((eye.x, eye.y), (1.9 * eye.rx, 1.9 * eye.ry), 0), 1.0, -1)
        soft = blur(mask, 0.06 * eye.radius)[..., None]
        inside = scene.lab[mask > 0.5]
        iris = np.median(inside, axis=0)
        # A bare iris about its pupil: no light of the photograph is left to go by.
        bare = np.where(
            np.hypot(*(np.indices(mask.shape)[::-1] - np.array([eye.x, eye.y])[:, None, None]))[..., None]
            < 0.42 * eye.radius,
            np.array([6.0, 0, 0]),
            iris,
        )
        lab = scene.lab * (1 - soft) + bare * soft
        box = np.s_[
            max(0, int(eye.y - 2 * eye.radius)) : int(eye.y + 2 * eye.radius),
            max(0, int(eye.x - 2 * eye.radius)) : int(eye.x + 2 * eye.radius),
        ]
        picture[box] = rgb_of(lab[box].astype(np.float32))
        truth = {
            "places": [list(shadow), list(sky), list(light)],
            "hour": round(hour, 2),
            "radius": eye.radius,
            "at": [eye.x, eye.y],
        }
        o_clock = round(hour) % 12 or 12
        return Task(
            "", 0, f"The light comes from {o_clock} o’clock. Set the middle of the lid’s shadow, of the sky, then the catchlight.",
            Spots(3, NAMES, (eye.x - eye.radius, eye.y - eye.radius, 2 * eye.radius, 2 * eye.radius), max(4.0, 0.12 * eye.radius)),
            picture, scene.px_per_mm, truth, ring=(eye.x, eye.y, 4 * eye.radius),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = [tuple(p) for p in task.truth["places"]]
        off = [apart(a, t) / task.px_per_mm for a, t in zip(answer, true, strict=False)]
        off += [2 * float(task.truth["radius"]) / task.px_per_mm] * (3 - len(off))
        mean = float(np.mean(off))
        worst = int(np.argmax(off))
        radius = 0.12 * float(task.truth["radius"])
        marks = [ring(t, radius, "true", n) for t, n in zip(true, NAMES, strict=True)]
        marks += [ring(a, radius, "you") for a in answer]
        middle = tuple(task.truth["at"])
        want, said = clock(middle, true[2]), clock(middle, answer[2]) if len(answer) == 3 else None
        hours = f" Yours stands at {said:.1f} h, the light mirrors at {want:.1f} h." if said is not None else ""
        why = f"{NAMES[worst].capitalize()} is farthest off, {mm_words(off[worst])}.{hours}"
        share = max(0.0, 1 - mean / (float(task.truth["radius"]) / task.px_per_mm))
        return Score(share, f"{mm_words(mean)} off in the mean", why, (Seen(mean < 1.5, error=mean),), tuple(marks))

    def ideal(self, task: Task) -> Any:
        return tuple(tuple(p) for p in task.truth["places"])
