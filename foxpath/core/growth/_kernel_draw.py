"""Loops that draw doubt and bring an overlay to bytes."""

import math

import numpy as np

from foxpath.core.arrays import F32, U8
from foxpath.core.jit import kernel


@kernel
def hatch(image: F32, doubt: F32, gap: float, line: float, dark: float, light: float) -> None:
    """Blend a hatch at 45 degrees over a premultiplied image, as strong as the doubt at each pixel."""
    height, width = doubt.shape
    one, period, wide = np.float32(1), np.float32(gap), np.float32(line)
    for i in range(height):
        for j in range(width):
            if doubt[i, j] <= np.float32(0.04):
                continue
            amount = np.float32(math.sqrt(doubt[i, j])) * np.float32(0.85)
            phase = np.float32((i + j) % 100000) % period
            for tone, start in ((np.float32(dark), np.float32(0)), (np.float32(light), wide)):
                on = (one - abs(phase - start - np.float32(0.5)) / wide) * amount
                if on <= np.float32(0):
                    continue
                for c in range(3):
                    image[i, j, c] += (tone - image[i, j, c]) * on
                image[i, j, 3] += (one - image[i, j, 3]) * on


@kernel
def bytes_of(image: F32, out: U8) -> None:
    """Round a flat float image (0..1) to bytes."""
    for n in range(image.shape[0]):
        value = min(max(image[n], np.float32(0)), np.float32(1))
        out[n] = np.uint8(value * np.float32(255) + np.float32(0.5))
