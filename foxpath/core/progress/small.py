"""Blurs and sizes, as every reader of the photograph needs them; widths are in pixels of what is given."""

from typing import Any

import cv2
import numpy as np

from foxpath.core.arrays import F32, U8

_WIDE = 8.0
"""A Gaussian wider than this is applied to a smaller picture: there it is the same and quick."""


def blur(values: Any, sigma: float) -> F32:
    """Blur (H, W) or (H, W, C) by a Gaussian of `sigma` pixels; nothing is lost beyond the border, which is repeated."""
    if sigma < 0.15:
        return np.asarray(values, np.float32)
    if sigma > _WIDE and min(values.shape[:2]) > 4 * _WIDE:
        k = int(sigma / (_WIDE / 2))
        size = (max(8, values.shape[1] // k), max(8, values.shape[0] // k))
        less = cv2.resize(values, size, interpolation=cv2.INTER_AREA)
        made = cv2.GaussianBlur(less, (0, 0), sigma * size[0] / values.shape[1], borderType=cv2.BORDER_REPLICATE)
        return np.asarray(cv2.resize(made, values.shape[1::-1], interpolation=cv2.INTER_LINEAR), np.float32)
    return np.asarray(cv2.GaussianBlur(values, (0, 0), sigma, borderType=cv2.BORDER_REPLICATE), np.float32)


def blurred_within(values: F32, weights: F32, sigma: float) -> F32:
    """Blur values where their weights (H, W), 0 to 1, are: what weighs nothing lends nothing."""
    wide = weights[..., None] if values.ndim == 3 else weights
    below = np.maximum(blur(weights, sigma), 1e-3)
    return np.asarray(blur(values * wide, sigma) / (below[..., None] if values.ndim == 3 else below), np.float32)


def resized(values: Any, scale: float) -> Any:
    """Return (H, W) or (H, W, C) at another size, by areas where it shrinks; at least 2 px each way."""
    if abs(scale - 1) < 1e-6:
        return np.asarray(values, np.float32)
    size = (max(2, round(values.shape[1] * scale)), max(2, round(values.shape[0] * scale)))
    how = cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR
    return cv2.resize(values, size, interpolation=how)


def lab_of(rgb: Any) -> F32:
    """Return CIELAB (D65) of (H, W, 3) uint8 sRGB, float32: as `core.colour` within 0.5, in less than half its time."""
    return np.asarray(cv2.cvtColor(rgb.astype(np.float32) * np.float32(1 / 255), cv2.COLOR_RGB2LAB), np.float32)


def rgb_of(lab: Any) -> U8:
    """Return (H, W, 3) uint8 sRGB of CIELAB (D65), float32; what a screen cannot show is clipped."""
    rgb = cv2.cvtColor(np.asarray(lab, np.float32), cv2.COLOR_LAB2RGB)
    return np.asarray(np.clip(rgb * 255 + 0.5, 0, 255), np.uint8)


def disc(radius: float) -> U8:
    """Return a round mask for growing and shrinking, at least one pixel wide."""
    side = 2 * max(0, round(radius)) + 1
    return np.asarray(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side)), np.uint8)


def grown(mask: Any, radius: float) -> U8:
    """Return a bool or uint8 mask grown by a radius in pixels."""
    return np.asarray(cv2.dilate(np.asarray(mask, np.uint8), disc(radius)), np.uint8)


def shrunk(mask: Any, radius: float) -> U8:
    """Return a bool or uint8 mask shrunk by a radius in pixels; the picture's border is not shrunk from."""
    return np.asarray(cv2.erode(np.asarray(mask, np.uint8), disc(radius), borderValue=1), np.uint8)
