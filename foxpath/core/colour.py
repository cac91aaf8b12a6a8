"""Colour: sRGB, linear light and CIELAB under D65.

Formulas and the sRGB curve after IEC 61966-2-1; CIELAB after ISO/CIE 11664-4. The matrix is that of
sRGB primaries under the D65 white, scaled so that (1, 1, 1) is L* = 100 exactly.
"""

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
    mean = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - np.sqrt(mean / (mean + 25.0**7)))
    a1, a2 = (1 + g) * a1, (1 + g) * a2
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.degrees(np.arctan2(b1, a1)) % 360, np.degrees(np.arctan2(b2, a2)) % 360
    grey = c1 * c2 == 0
    turn = np.where(grey, 0, (h2 - h1 + 180) % 360 - 180)
    # Opposite hues lie half a turn apart either way; the formula takes the positive one.
    turn = np.where((turn == -180) & (h2 > h1), 180, turn)
    dl, dc = l2 - l1, c2 - c1
    dh = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(turn / 2))
    lm, cm = (l1 + l2) / 2, (c1 + c2) / 2
    total = h1 + h2
    far = np.abs(h1 - h2) > 180
    hm = np.where(grey, total, np.where(far, np.where(total < 360, total + 360, total - 360), total) / 2)
    t = (
        1
        - 0.17 * np.cos(np.radians(hm - 30))
        + 0.24 * np.cos(np.radians(2 * hm))
        + 0.32 * np.cos(np.radians(3 * hm + 6))
        - 0.20 * np.cos(np.radians(4 * hm - 63))
    )
    sl = 1 + 0.015 * (lm - 50) ** 2 / np.sqrt(20 + (lm - 50) ** 2)
    sc, sh = 1 + 0.045 * cm, 1 + 0.015 * cm * t
    rc = 2 * np.sqrt(cm**7 / (cm**7 + 25.0**7))
    rt = -np.sin(np.radians(60 * np.exp(-(((hm - 275) / 25) ** 2)))) * rc
    squares = (dl / sl) ** 2 + (dc / sc) ** 2 + (dh / sh) ** 2 + rt * (dc / sc) * (dh / sh)
    return np.asarray(np.sqrt(np.maximum(squares, 0)), dtype=np.float32)
