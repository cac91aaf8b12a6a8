"""Filling, stroking and blurring that the demo pictures are drawn with."""

import numpy as np

from foxpath.core.arrays import F32, F64
from foxpath.core.brush import hair_profile, outlines, paint_outlines
from foxpath.core.curves import open_curve


def blur(image: F32, sigma: float) -> F32:
    """Blur a picture; sigma in pixels."""
    import cv2

    return np.asarray(cv2.GaussianBlur(image, (0, 0), sigma), dtype=np.float32)


def mix(base: F32, colour: tuple[float, float, float], amount: F64) -> F32:
    """Lay a colour (0..255) over a picture, as much of it as `amount` says at every place."""
    share = np.clip(amount, 0, 1)[..., None].astype(np.float32)
    return np.asarray(base * (1 - share) + np.array(colour, np.float32) / 255 * share, dtype=np.float32)


def lay(canvas: F32, strands: tuple[F32, F32, F32, F32]) -> None:
    """Lay strands: centre lines (px), half widths (px), colours, opacities."""
    lines, half, colour, alpha = strands
    paint_outlines(canvas, outlines(lines, half, hair_profile()), colour, alpha)


def polygon(canvas: F32, points: F64, colour: tuple[float, float, float], alpha: float = 1.0) -> None:
    """Fill one closed shape given in picture pixels."""
    rgb = np.array([colour], np.float32) / np.float32(255)
    paint_outlines(canvas, points[None].astype(np.float32), rgb, np.array([alpha], np.float32))


def stroke(canvas: F32, points: F64, width: float, colour: tuple[float, float, float], alpha: float = 1.0) -> None:
    """Draw one tapered stroke through points given in picture pixels."""
    curve = open_curve(points, 16)
    at = np.linspace(0, len(curve) - 1, 8)
    line = np.stack([np.interp(at, np.arange(len(curve)), curve[:, k]) for k in (0, 1)], axis=1)
    shape = outlines(line[None].astype(np.float32), np.array([width / 2], np.float32), hair_profile())
    paint_outlines(canvas, shape, np.array([colour], np.float32) / np.float32(255), np.array([alpha], np.float32))


def ellipse(centre: F64, rx: float, ry: float, turn: float = 0.0) -> F64:
    """Return an ellipse as a polygon."""
    t = np.linspace(0, 2 * np.pi, 48, endpoint=False)
    x, y = rx * np.cos(t), ry * np.sin(t)
    c, s = np.cos(turn), np.sin(turn)
    return np.asarray(centre + np.stack([c * x - s * y, s * x + c * y], axis=1))
