"""Seeing aids: greys, the blur of a viewing distance, and posters of a few values."""

import math
from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import F32, Rgb8
from foxpath.core.colour import grey_of_lightness, lab_from_linear, linear_from_rgb8

ACUITY_ARCMIN = 1.0
"""What a normal eye just separates; half-closed lids are taken as four times coarser."""
LIDS = 4.0
POSTER_STEPS = (2, 3, 5, 7)
_RAMP = 10
"""Steps of one L* in the tables."""


def lightness_of(rgb: Rgb8) -> F32:
    """Return the (H, W) float32 CIE L* of an sRGB picture."""
    from foxpath.core.reference import _kernel_look as loops

    out = np.empty(rgb.shape[:2], np.float32)
    loops.lightness(np.ascontiguousarray(rgb), linear_from_rgb8(np.arange(256, dtype=np.uint8)), _cube_table(), out)
    return out


def _cube_table() -> F32:
    """Return L* at 4096 even steps of the square root of luminance, so that darks keep their steps."""
    y = np.linspace(0, 1, 4096, dtype=np.float32) ** 2
    grey = np.repeat(y[:, None], 3, axis=1)
    return np.ascontiguousarray(lab_from_linear(grey)[:, 0])


def _as_greys(lightness: F32, values: Sequence[float]) -> Rgb8:
    """Return greys: each tenth of an L* takes the L* that `values` gives it."""
    import cv2

    ramp = np.array([grey_of_lightness(round(v, 1)) for v in values], np.uint8)
    grey = ramp[np.clip(lightness * _RAMP + 0.5, 0, len(ramp) - 1).astype(np.int32)]
    return np.asarray(cv2.merge([grey, grey, grey]), dtype=np.uint8)


def greys(rgb: Rgb8) -> Rgb8:
    """Return the picture in greys of equal CIE L*."""
    return _as_greys(lightness_of(rgb), [k / _RAMP for k in range(100 * _RAMP + 1)])


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


def even_cuts(lightness: F32, steps: int) -> tuple[float, ...]:
    """Return the `steps` - 1 L* thresholds that cut a picture's own range (1st to 99th percentile) evenly."""
    low, high = (float(v) for v in np.percentile(lightness[::4, ::4], (1, 99)))
    return tuple(round(low + (high - low) * k / steps, 1) for k in range(1, steps))


def poster(rgb: Rgb8, cuts: Sequence[float]) -> Rgb8:
    """Return the picture in flat greys, cut at L* thresholds; each value stands in the middle of its own range.

    The outermost values stand half a range beyond the outermost cuts.
    """
    edges = sorted(cuts)
    if not edges:
        return greys(rgb)
    first = edges[1] - edges[0] if len(edges) > 1 else 40.0
    last = edges[-1] - edges[-2] if len(edges) > 1 else 40.0
    middles = [max(edges[0] - first / 2, 0.0)]
    middles += [(a + b) / 2 for a, b in zip(edges, edges[1:], strict=False)]
    middles.append(min(edges[-1] + last / 2, 100.0))
    index = np.searchsorted(edges, np.arange(100 * _RAMP + 1) / _RAMP, side="right")
    return _as_greys(lightness_of(rgb), [middles[k] for k in index])
