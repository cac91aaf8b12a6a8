"""Focus falloff: the picture as an eye that rests on the focal point sees it."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from foxpath.core.arrays import Linear, Rgb8
from foxpath.core.colour import LUMINANCE, linear_from_rgb8, rgb8_from_linear
from foxpath.core.frame import Crop

BEGINS, ENDS = 0.08, 0.62
"""Distances from the focal point, as shares of the canvas's diagonal, between which it falls away."""
BLUR_SHARE = 0.006
"""Blur (Gaussian sigma) at full strength and the far end, as a share of the diagonal."""
CONTRAST, CHROMA = 0.45, 0.5
"""What of contrast and chroma is taken away at full strength and the far end."""
KNOTS = (0.0, 0.2, 0.5, 1.0)
"""How far things have fallen away when each of the softer pictures is reached; between two they are mixed."""


@dataclass(frozen=True, slots=True)
class Falloff:
    """Where the eye rests and how strongly the rest falls away.

    Attributes
    ----------
    focal : (x, y)
        Reference pixels.
    diagonal_px : float
        The canvas's diagonal in reference pixels.
    strength : float
        0 to 1.
    middle : float
        The picture's own middle, linear luminance: contrast falls toward it.
    """

    focal: tuple[float, float]
    diagonal_px: float
    strength: float
    middle: float = 0.18

    @property
    def reach_px(self) -> float:
        """How far beyond a place its blur reaches at most, reference pixels."""
        return 2 * BLUR_SHARE * self.diagonal_px * self.strength


def middle_of(rgb: Rgb8) -> float:
    """Return a picture's own middle: the mean of log luminance, linear 0..1."""
    grey = linear_from_rgb8(rgb[::2, ::2]) @ LUMINANCE
    return float(np.exp(np.log(grey + 1e-3).mean()))


@cache
def _encode_table() -> Rgb8:
    """Return sRGB bytes at 4096 even steps of the square root of linear light."""
    return rgb8_from_linear(np.linspace(0, 1, 4096, dtype=np.float32) ** 2)


def _softer(linear: Linear, sigma: float) -> Linear:
    """Blur by `sigma` pixels; a wide blur is done on a smaller picture, which it leaves nothing to miss of."""
    import cv2

    step = min(8, int(sigma / 1.2))
    if step < 2:
        return np.asarray(cv2.GaussianBlur(linear, (0, 0), max(sigma, 0.05)), dtype=np.float32)
    height, width = linear.shape[:2]
    size = (max(1, round(width / step)), max(1, round(height / step)))
    small = cv2.resize(linear, size, interpolation=cv2.INTER_AREA)
    # Averaging and enlarging blur by themselves: a box and a tent of `step` pixels.
    rest = max(sigma**2 - step**2 / 4, 0.01) ** 0.5 / step
    small = cv2.GaussianBlur(small, (0, 0), rest)
    return np.asarray(cv2.resize(small, (width, height), interpolation=cv2.INTER_LINEAR), dtype=np.float32)


def faded(rgb: Rgb8, part: Crop, falloff: Falloff) -> Rgb8:
    """Return a picture with sharpness, contrast and chroma falling away from the focal point.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        Shows `part` of the reference.
    part : Crop
    falloff : Falloff
    """
    import cv2

    from foxpath.core.reference import _kernel_look as loops

    if falloff.strength <= 0:
        return rgb
    height, width = rgb.shape[:2]
    scale = width / part.width
    x = ((np.arange(width) + 0.5) / scale + part.x - falloff.focal[0]) / falloff.diagonal_px
    y = ((np.arange(height) + 0.5) / scale + part.y - falloff.focal[1]) / falloff.diagonal_px
    linear = np.asarray(cv2.LUT(rgb, linear_from_rgb8(np.arange(256, dtype=np.uint8))), dtype=np.float32)
    most = BLUR_SHARE * falloff.diagonal_px * scale
    first, second, third = (_softer(linear, most * knot) for knot in KNOTS[1:])
    plan = np.array([BEGINS, ENDS, falloff.strength, CONTRAST, CHROMA, falloff.middle], np.float32)
    knots, at_x, at_y = np.array(KNOTS, np.float32), x.astype(np.float32), y.astype(np.float32)
    out = np.empty_like(rgb)
    loops.fade(linear, first, second, third, at_x, at_y, plan, knots, _encode_table(), out)
    return out
