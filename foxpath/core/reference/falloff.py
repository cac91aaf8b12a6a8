"""Focus falloff: the picture as an eye that rests on the focal point sees it."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Rgb8
from foxpath.core.colour import LUMINANCE, linear_from_rgb8, rgb8_from_linear
from foxpath.core.frame import Crop

BEGINS, ENDS = 0.08, 0.62
"""Distances from the focal point, as shares of the canvas's diagonal, between which it falls away."""
BLUR_SHARE = 0.006
"""Blur (Gaussian sigma) at full strength and the far end, as a share of the diagonal."""
CONTRAST, CHROMA = 0.45, 0.5
"""What of contrast and chroma is taken away at full strength and the far end."""


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
        return 3 * BLUR_SHARE * self.diagonal_px * self.strength


def middle_of(rgb: Rgb8) -> float:
    """Return a picture's own middle: the mean of log luminance, linear 0..1."""
    grey = linear_from_rgb8(rgb[::2, ::2]) @ LUMINANCE
    return float(np.exp(np.log(grey + 1e-3).mean()))


def share_at(away: np.ndarray, diagonal: float) -> np.ndarray:
    """Return how far things have fallen away (0..1) at a distance from the focal point."""
    t = np.clip((away / diagonal - BEGINS) / (ENDS - BEGINS), 0, 1)
    return np.asarray(t * t * (3 - 2 * t))


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

    if falloff.strength <= 0:
        return rgb
    height, width = rgb.shape[:2]
    scale = width / part.width
    x = (np.arange(width) + 0.5) / scale + part.x - falloff.focal[0]
    y = (np.arange(height) + 0.5) / scale + part.y - falloff.focal[1]
    share = falloff.strength * share_at(np.hypot(x[None, :], y[:, None]), falloff.diagonal_px).astype(np.float32)
    linear = linear_from_rgb8(rgb)
    most = BLUR_SHARE * falloff.diagonal_px * scale
    # A few blurs of growing width, blended: each place takes the two nearest its own.
    sigmas = [most * f for f in (0.0, 0.2, 0.5, 1.0)]
    place = np.interp(share, (0.0, 0.2, 0.5, 1.0), (0.0, 1.0, 2.0, 3.0)).astype(np.float32)
    soft = np.zeros_like(linear)
    for k, sigma in enumerate(sigmas):
        weight = np.clip(1 - np.abs(place - k), 0, 1)
        if not weight.any():
            continue
        blurred = cv2.GaussianBlur(linear, (0, 0), sigma) if sigma > 0.3 else linear
        soft += blurred * weight[..., None]
    grey = soft @ LUMINANCE
    pale = grey[..., None] + (soft - grey[..., None]) * (1 - CHROMA * share)[..., None]
    # Contrast is what light is to the picture's own middle, so it is taken away as a power of it.
    ratio = np.maximum(grey, 1e-4) / falloff.middle
    less = ratio ** (-CONTRAST * share)
    return rgb8_from_linear(pale * less[..., None])
