"""A scene for drills of which everything is known: growth, edges, eyes, values and colours, 24 x 20 cm at 2 px a mm."""

from functools import cache

import numpy as np
from scipy.special import ndtr

from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.tubes import USUAL_TUBES, named_tubes
from foxpath.core.practice.scene import Edge, Growth, Part, Scene, SceneEye
from foxpath.core.progress.small import blur, rgb_of
from foxpath.core.units import WIDTH_OF_SIGMA
from tests import canvas

PX, WIDTH, HEIGHT, CELL = 2.0, 480, 400, 4
BORDER, SOFT_MM = 250.0, 5.0
"""Where flank and neck meet, and how softly."""
LEFT, RIGHT = (110.0, 120.0), (190.0, 120.0)


def angle(x, y):
    """The growth, degrees, root to tip: to the right, bending downwards."""
    return 10 + 40 * np.asarray(y) / HEIGHT + 0 * np.asarray(x)


@cache
def scene(grain_l: float = 2.2, **changes) -> Scene:
    """Return the scene, with so much grain, L*."""
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    rng = np.random.default_rng(3)
    grain = blur(rng.standard_normal((HEIGHT, WIDTH)).astype(np.float32), 1.0)
    step = 26 * ndtr((x - BORDER) * WIDTH_OF_SIGMA / (SOFT_MM * PX))
    light = 24 + 44 * y / HEIGHT + 9 * np.sin(x / 37) + step + grain_l * grain / grain.std()
    lab = np.stack([light, 14 * np.sin(x / 61 + y / 90), 6 + 20 * np.cos(y / 70 - x / 110)], axis=-1)
    eyes = []
    for number, (ex, ey) in enumerate((LEFT, RIGHT)):
        away = np.hypot(x - ex, y - ey)
        lab[away < 18] = (58, 8, 48)
        lab[away < 8] = (5, 0, 0)
        lab[np.hypot(x - ex + 7, y - ey + 8) < 3.2] = (97, 0, 2)
        eyes.append(
            SceneEye(
                ("Left eye", "Right eye")[number],
                ex,
                ey,
                18,
                18,
                (ex - 7, ey - 8),
                (ex + 2, ey - 11),
                (ex, ey - 14),
                10.6,
            )
        )
    for lx, ly, more in ((330, 90, 34), (390, 130, 30), (300, 170, 27), (420, 60, 24), (360, 190, 12)):
        lab[..., 0] += more * np.exp(-(((x - lx) ** 2 + (y - ly) ** 2) / 2 / 5.0**2))
    labels = np.where(x < BORDER, 1, 2).astype(np.int16)
    labels[:, :40] = 0
    rows, columns = HEIGHT // CELL, WIDTH // CELL
    gy, gx = (np.mgrid[:rows, :columns] + 0.5) * CELL
    a = np.radians(angle(gx, gy))
    direction = np.stack([np.cos(a), np.sin(a)], axis=-1).astype(np.float32)
    growth = Growth(direction, np.full((rows, columns), 0.97, np.float32), np.ones((rows, columns), bool), CELL)
    parts = (
        Part("z0", "Ground", "background"), Part("z1", "Flank", "long-fur", "", True, 18.0, 0.8), Part("z2", "Neck", "short-fur", "", True, 8.0, 0.4),
    )  # fmt: skip
    down = np.arange(10, HEIGHT - 10, 4.0)
    line = np.stack([np.full_like(down, BORDER), down], axis=1)
    across = np.stack([np.arange(60, 240, 4.0), np.full(45, 300.0)], axis=1)
    edges = (
        Edge(1, 2, line, SOFT_MM, 0.9, 1.6, "near the focal point"), Edge(1, 0, np.stack([np.full_like(down, 40.0), down], axis=1), None, 0.0, 13.0, "far"),
        Edge(2, 1, across, None, 0.0, 0.5, "a rim"), Edge(2, 0, across + (200, -100), None, 0.0, 5.0, "a coat"), Edge(2, 0, across + (180, 40), None, 0.0, 8.0, "soft"),
    )  # fmt: skip
    tubes = named_tubes(USUAL_TUBES)
    made = {
        "name": "the made scene", "rgb": rgb_of(lab), "px_per_mm": PX, "labels": labels, "parts": parts, "growth": growth, "edges": edges, "eyes": tuple(eyes),
        "focal": (150.0, 120.0), "rack": Rack(tubes), "names": {t.id: t.name for t in tubes}, "finest_mm": 0.4, "planned": canvas.planned(),
    }  # fmt: skip
    return Scene(**{**made, **changes})
