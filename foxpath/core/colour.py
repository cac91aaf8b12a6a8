"""Colour: sRGB, linear light and CIELAB under D65.

Formulas and the sRGB curve after IEC 61966-2-1; CIELAB after ISO/CIE 11664-4. The matrix is that of
sRGB primaries under the D65 white, scaled so that (1, 1, 1) is L* = 100 exactly.
"""

import math
from functools import cache

import numpy as np

from foxpath.core.arrays import F32, F64, U8, Lab, Linear

_TO_XYZ = np.array(
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]]
)
_WHITE = _TO_XYZ.sum(axis=1)
_TO_XYZ_N = (_TO_XYZ / _WHITE[:, None]).astype(np.float32)
FROM_XYZ = np.linalg.inv(_TO_XYZ / _WHITE[:, None]).astype(np.float32)
"""(3, 3): XYZ over the white's XYZ to linear sRGB."""
LUMINANCE = _TO_XYZ_N[1]
"""(3,) float32: linear sRGB to luminance, 1 for white."""
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


def linear_from_rgb(rgb: F32) -> Linear:
    """Decode (...) float32 sRGB, 0..1, to linear light."""
    value = np.clip(rgb, 0, 1)
    low = value / 12.92
    return np.where(value <= 0.04045, low, ((value + 0.055) / 1.055) ** 2.4).astype(np.float32)


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


def lab_bytes(lab: Lab) -> U8:
    """Put (..., 3) CIELAB into bytes of about even steps, for what works on pictures of bytes alone."""
    even = lab * np.array((2.55, 1.2, 1.2), np.float32) + np.array((0, 128, 128), np.float32)
    return np.ascontiguousarray(np.clip(even, 0, 255).astype(np.uint8))


def linear_from_lab(lab: F32) -> Linear:
    """Return (..., 3) float32 linear light of CIELAB (D65); what no screen can show lies outside 0..1."""
    lab = np.asarray(lab, np.float64)
    fy = (lab[..., 0] + 16) / 116
    f = np.stack([fy + lab[..., 1] / 500, fy, fy - lab[..., 2] / 200], axis=-1)
    xyz = np.where(f > 6 / 29, f**3, 3 * (6 / 29) ** 2 * (f - 4 / 29))
    return np.asarray(xyz.astype(np.float32) @ FROM_XYZ.T, np.float32)


def rgb8_from_lab(lab: F32) -> U8:
    """Return the (..., 3) uint8 sRGB colours of CIELAB (D65); what a screen cannot show is clipped."""
    return rgb8_from_linear(np.clip(linear_from_lab(lab), 0, 1))


@cache
def grey_of_lightness(lightness: float) -> int:
    """Return the 8-bit sRGB grey of an L* (0..100)."""
    y = ((lightness + 16) / 116) ** 3 if lightness > 8 else lightness / _KAPPA
    return int(rgb8_from_linear(np.array([y], np.float32))[0])


def difference(a: F32 | F64, b: F32 | F64) -> F32:
    """Return the CIEDE2000 difference of (..., 3) CIELAB colours, float32.

    References
    ----------
    Sharma, Wu, Dalal (2005), "The CIEDE2000 color-difference formula", doi:10.1002/col.20070.
    """
    l1, a1, b1 = np.moveaxis(np.asarray(a, np.float64), -1, 0)
    l2, a2, b2 = np.moveaxis(np.asarray(b, np.float64), -1, 0)
    mean = _seventh((np.sqrt(a1 * a1 + b1 * b1) + np.sqrt(a2 * a2 + b2 * b2)) / 2)
    g = 1.5 - 0.5 * np.sqrt(mean / (mean + 25.0**7))
    a1, a2 = g * a1, g * a2
    c1, c2 = np.sqrt(a1 * a1 + b1 * b1), np.sqrt(a2 * a2 + b2 * b2)
    h1, h2 = _hue(a1, b1), _hue(a2, b2)
    turn, total = h2 - h1, h1 + h2
    # Opposite hues lie half a turn apart either way; the formula takes the one without the way over zero.
    over = np.where(np.abs(turn) > np.pi, 2 * np.pi, 0.0)
    turn = turn - np.copysign(over, turn)
    dl, dc = l2 - l1, c2 - c1
    # Where one is grey this is 0, and its hue, which is none, counts nowhere.
    dh = 2 * np.sqrt(c1 * c2) * np.sin(turn / 2)
    lm, cm = (l1 + l2) / 2, (c1 + c2) / 2
    hm = (total + np.where(total < 2 * np.pi, over, -over)) / 2
    # Waves of the hue by the sums of angles: of all that is reckoned here, sines take longest.
    c, s = np.cos(hm), np.sin(hm)
    cos2, sin2 = c * c - s * s, 2 * s * c
    cos3, sin3 = cos2 * c - sin2 * s, sin2 * c + cos2 * s
    cos4, sin4 = cos2 * cos2 - sin2 * sin2, 2 * sin2 * cos2
    t = (
        1
        - 0.17 * (_COS[30] * c + _SIN[30] * s)
        + 0.24 * cos2
        + 0.32 * (_COS[6] * cos3 - _SIN[6] * sin3)
        - 0.20 * (_COS[63] * cos4 + _SIN[63] * sin4)
    )
    off = (lm - 50) * (lm - 50)
    dl = dl / (1 + 0.015 * off / np.sqrt(20 + off))
    dc, dh = dc / (1 + 0.045 * cm), dh / (1 + 0.015 * cm * t)
    seventh = _seventh(cm)
    near_blue = (hm - math.radians(275)) / math.radians(25)
    turned = np.sin(math.radians(60) * np.exp(-near_blue * near_blue)) * 2 * np.sqrt(seventh / (seventh + 25.0**7))
    squares = dl * dl + dc * dc + dh * dh - turned * dc * dh
    return np.asarray(np.sqrt(np.maximum(squares, 0)), dtype=np.float32)


_COS = {degrees: math.cos(math.radians(degrees)) for degrees in (6, 30, 63)}
_SIN = {degrees: math.sin(math.radians(degrees)) for degrees in (6, 30, 63)}


def _seventh(value: F64) -> F64:
    """Return the seventh power, without a logarithm."""
    square = value * value
    return np.asarray(square * square * square * value)


def _hue(a: F64, b: F64) -> F64:
    """Return the hue, 0 to a whole turn, radians."""
    hue = np.arctan2(b, a)
    return np.where(hue < 0, hue + 2 * np.pi, hue)
