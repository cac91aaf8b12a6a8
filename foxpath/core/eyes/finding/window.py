"""The window an eye is looked for in: a square of the picture, brought to one size whatever the eye's."""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Lab, Rgb8
from foxpath.core.colour import lab_from_linear, linear_from_rgb8

WINDOW = 240
"""Pixels across the window in which an eye is looked for; pictures are brought to it scale by scale."""
ANGLES = 72
"""Places round a circle that are read; a rim is traced at twice as many."""


@dataclass(frozen=True, slots=True, eq=False)
class Window:
    """A square about an eye: CIELAB and linear light (0..100), pixels per picture pixel, corner in the picture."""

    lab: Lab
    light: F32
    k: float
    corner: tuple[float, float]


def window_at(rgb: Rgb8, at: tuple[float, float], radius: float) -> Window:
    """Return CIELAB of a square about a place, brought to `WINDOW`; its pixels per picture pixel; its corner.

    An iris of the radius is then about 50 pixels in radius. Off the picture its border is carried on.
    """
    import cv2

    half = 2.4 * radius
    k = WINDOW / (2 * half)
    corner = (at[0] - half, at[1] - half)
    # Shrunk in two steps: the picture's own pixels are averaged, not picked.
    x0, y0 = math.floor(corner[0]) - 2, math.floor(corner[1]) - 2
    x1, y1 = math.ceil(at[0] + half) + 2, math.ceil(at[1] + half) + 2
    h, w = rgb.shape[:2]
    part = rgb[max(y0, 0) : min(y1, h), max(x0, 0) : min(x1, w)]
    pads = (max(-y0, 0), max(y1 - h, 0), max(-x0, 0), max(x1 - w, 0))
    if any(pads):
        part = np.asarray(cv2.copyMakeBorder(part, *pads, cv2.BORDER_REPLICATE), np.uint8)
    if k < 0.5:
        step = int(1 / k)
        size = (part.shape[1] // step, part.shape[0] // step)
        small = np.asarray(cv2.resize(part[: size[1] * step, : size[0] * step], size, interpolation=cv2.INTER_AREA))
    else:
        step, small = 1, np.asarray(part)
    # Pixel centres: picture place p lies at (p - x0) / step - 0.5 of `small`.
    ks = k * step
    affine = np.array(
        [[1 / ks, 0, (corner[0] - x0) / step + 0.5 / ks - 0.5], [0, 1 / ks, (corner[1] - y0) / step + 0.5 / ks - 0.5]]
    )
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    shown = cv2.warpAffine(
        np.ascontiguousarray(small), affine, (WINDOW, WINDOW), flags=flags, borderMode=cv2.BORDER_REPLICATE
    )
    linear = linear_from_rgb8(np.asarray(shown, np.uint8))
    # One pixel of the window is finer than the picture's own where an eye is small: nothing to be had there.
    lab = np.asarray(cv2.GaussianBlur(lab_from_linear(linear), (0, 0), 1.2), np.float32)
    # Light mixes linearly: in L* a blurred edge wanders to its dark side.
    return Window(lab, np.asarray(100 * cv2.GaussianBlur(linear, (0, 0), 1.2), np.float32), k, corner)


def read_lab(lab: Lab, x: F64, y: F64) -> Lab:
    """Read CIELAB at places (any shape), bilinearly; a pixel's middle lies at a half."""
    import cv2

    at = [np.ascontiguousarray(np.asarray(v, np.float32).reshape(len(v), -1) - 0.5) for v in (x, y)]
    made = cv2.remap(lab, at[0], at[1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(made, np.float32).reshape(*np.shape(x), 3)
