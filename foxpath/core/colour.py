"""Colour: sRGB, linear light and CIELAB under D65.

Formulas and the sRGB curve after IEC 61966-2-1; CIELAB after ISO/CIE 11664-4. The matrix is that of
sRGB primaries under the D65 white, scaled so that (1, 1, 1) is L* = 100 exactly.
"""

from functools import cache

import numpy as np

from foxpath.core.arrays import F32, U8, Lab, Linear

_TO_XYZ = np.array(
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]]
)
_WHITE = _TO_XYZ.sum(axis=1)
_TO_XYZ_N = (_TO_XYZ / _WHITE[:, None]).astype(np.float32)
FROM_XYZ = np.linalg.inv(_TO_XYZ / _WHITE[:, None]).astype(np.float32)
"""(3, 3): XYZ over the white's XYZ to linear sRGB."""
_EPSILON, _KAPPA = 216 / 24389, 24389 / 27


def _curve(steps: int) -> F32:
    value = np.arange(steps, dtype=np.float64) / (steps - 1)
    linear = np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)
    return linear.astype(np.float32)


_DECODE = _curve(256)


def linear_from_rgb8(rgb: U8) -> Linear:
    """Decode (..., 3) uint8 sRGB to float32 linear light, 0..1."""
    return _DECODE[rgb]


def rgb_from_linear(linear: F32) -> F32:
    """Encode (...) float32 linear light (clipped to 0..1) to sRGB, 0..1."""
    value = np.clip(linear, 0, 1)
    low = value * 12.92
    high = 1.055 * np.power(value, 1 / 2.4, dtype=np.float32) - 0.055
    return np.where(value <= 0.0031308, low, high).astype(np.float32)


def rgb8_from_linear(linear: F32) -> U8:
    """Encode (...) float32 linear light to uint8 sRGB."""
    return np.asarray(rgb_from_linear(linear) * 255 + 0.5, dtype=np.uint8)


def lab_from_linear(linear: F32) -> Lab:
    """Convert (..., 3) float32 linear light to CIELAB."""
    xyz = np.clip(linear @ _TO_XYZ_N.T, 0, None)
    f = np.where(xyz > _EPSILON, np.cbrt(xyz), (_KAPPA * xyz + 16) / 116).astype(np.float32)
    out: Lab = np.empty_like(f)
    out[..., 0] = 116 * f[..., 1] - 16
    out[..., 1] = 500 * (f[..., 0] - f[..., 1])
    out[..., 2] = 200 * (f[..., 1] - f[..., 2])
    return out


def lab_from_rgb8(rgb: U8) -> Lab:
    """Convert (..., 3) uint8 sRGB to CIELAB."""
    return lab_from_linear(linear_from_rgb8(rgb))


@cache
def grey_of_lightness(lightness: float) -> int:
    """Return the 8-bit sRGB grey of an L* (0..100)."""
    y = ((lightness + 16) / 116) ** 3 if lightness > 8 else lightness / _KAPPA
    return int(rgb8_from_linear(np.array([y], np.float32))[0])
