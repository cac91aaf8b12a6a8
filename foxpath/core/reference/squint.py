"""Seeing aids: greys, the blur of a viewing distance, and posters of a few values."""

import math

import numpy as np

from foxpath.core.arrays import Rgb8
from foxpath.core.colour import grey_of_lightness, lab_from_rgb8

ACUITY_ARCMIN = 1.0
"""What a normal eye just separates; half-closed lids are taken as four times coarser."""
LIDS = 4.0


def greys(rgb: Rgb8) -> Rgb8:
    """Return the picture in greys of equal CIE L*."""
    ramp = np.array([grey_of_lightness(v / 4) for v in range(401)], np.uint8)
    lightness = lab_from_rgb8(rgb)[..., 0]
    grey = ramp[np.clip(lightness * 4 + 0.5, 0, 400).astype(np.int32)]
    return np.repeat(grey[..., None], 3, axis=-1)


def acuity_blur_px(distance_m: float, px_per_mm: float) -> float:
    """Return the blur radius (Gaussian sigma, pixels) that half-closed eyes leave at a distance.

    One minute of arc at `distance_m`, times `LIDS`, taken as the full width at half maximum.
    """
    spot_mm = distance_m * 1000 * math.tan(math.radians(ACUITY_ARCMIN / 60)) * LIDS
    return spot_mm * px_per_mm / 2.355


def squint(rgb: Rgb8, sigma_px: float) -> Rgb8:
    """Blur a picture by a Gaussian of `sigma_px`."""
    import cv2

    if sigma_px < 0.3:
        return rgb
    return np.asarray(cv2.GaussianBlur(rgb, (0, 0), sigma_px), dtype=np.uint8)


def poster(rgb: Rgb8, steps: int) -> Rgb8:
    """Return the picture in `steps` greys, cut at equal shares of its own L* range (1st to 99th percentile)."""
    lightness = lab_from_rgb8(rgb)[..., 0]
    low, high = np.percentile(lightness[::4, ::4], (1, 99))
    index = np.clip((lightness - low) / max(high - low, 1e-3) * steps, 0, steps - 1).astype(np.int32)
    values = [grey_of_lightness(low + (high - low) * (k + 0.5) / steps) for k in range(steps)]
    grey = np.array(values, np.uint8)[index]
    return np.repeat(grey[..., None], 3, axis=-1)
