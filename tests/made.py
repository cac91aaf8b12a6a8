"""Small made-up pictures and projects for the tests."""

import io

import cv2
import numpy as np
from PIL import Image

from foxpath.core.passes import ROLES
from foxpath.core.units import CanvasSize
from foxpath.document import edits
from foxpath.document.model import Project

SQUARE = np.array([[40.0, 30.0], [120.0, 30.0], [120.0, 110.0], [40.0, 110.0]])


def picture(
    width: int = 200, height: int = 160, kind: str = "PNG", mode: str = "RGB", *, grain: float = 0.0, **save
) -> bytes:
    """Return the bytes of a picture: a warm blob on a cool ramp, with as much grain as is asked for."""
    y, x = np.mgrid[0:height, 0:width] / max(width, height)
    blob = np.exp(-(((x - 0.5) / 0.2) ** 2) - ((y - 0.4) / 0.2) ** 2)
    rgb = np.stack([0.3 + 0.6 * blob, 0.4 + 0.2 * blob, 0.55 - 0.3 * blob + 0.2 * x], axis=-1)
    rgb = rgb + grain * np.random.default_rng(1).standard_normal((height, width, 1))
    image = Image.fromarray((np.clip(rgb, 0, 1) * 255).astype(np.uint8)).convert(mode)
    buffer = io.BytesIO()
    image.save(buffer, kind, **save)
    return buffer.getvalue()


def leaves(width: int = 900, height: int = 700, seed: int = 1) -> np.ndarray:
    """Return (height, width, 3) float32 levels: leaves of even tones over one another, every edge as sharp as a pixel."""
    rng = np.random.default_rng(seed)
    big = np.full((2 * height, 2 * width, 3), 118.0, np.float32)
    for _ in range(90):
        centre = tuple(int(v) for v in rng.uniform(0, 1, 2) * (2 * width, 2 * height))
        axes = tuple(int(v) for v in rng.uniform(70, 300, 2))
        tone = rng.uniform(50, 200) + rng.uniform(-18, 18, 3)
        cv2.ellipse(big, centre, axes, float(rng.uniform(0, 180)), 0, 360, tone.tolist(), -1)
    return cv2.resize(big, (width, height), interpolation=cv2.INTER_AREA)


def as_levels(values: np.ndarray) -> np.ndarray:
    """Return float levels as uint8."""
    return np.clip(np.round(values), 0, 255).astype(np.uint8)


def project(*, zones: bool = True, combs: bool = True, grain: float = 0.0) -> Project:
    """Return a small project: 25 x 20 cm, a square of long fur with one comb to the right."""
    made = edits.new_project(picture(grain=grain), "blob.png", CanvasSize(250, 200), "Blob")
    if zones:
        made, zone = edits.add_zone(made, "Square", "long-fur", SQUARE)
        made, _ = edits.add_zone(made, "Eye", "eye", np.array([[70.0, 60], [90, 60], [90, 76], [70, 76]]))
        if combs:
            made, _ = edits.add_comb(made, np.array([[50.0, 45.0], [110.0, 45.0]]), zone)
    return made


def quick(made: Project) -> Project:
    """Return a project that rehearses nothing but highlights: for tests of what goes before."""
    for key in ROLES:
        if key != "highlights":
            made = edits.set_pass(made, key, on=False)
    return made
