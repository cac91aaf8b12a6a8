"""Loops of the seeing aids."""

import math

import numpy as np

from foxpath.core.arrays import F32, U8
from foxpath.core.jit import kernel


@kernel
def lightness(rgb: U8, decode: F32, table: F32, out: F32) -> None:
    """Write each pixel's L*: decoded, weighed, and read from a table over the square root of luminance."""
    rows, columns = out.shape
    last = np.float32(table.shape[0] - 1)
    for i in range(rows):
        for j in range(columns):
            y = np.float32(0.2126729) * decode[rgb[i, j, 0]] + np.float32(0.7151522) * decode[rgb[i, j, 1]]
            y += np.float32(0.0721750) * decode[rgb[i, j, 2]]
            at = np.float32(math.sqrt(min(y, np.float32(1)))) * last
            k = min(np.int64(at), np.int64(table.shape[0] - 2))
            out[i, j] = table[k] + (table[k + 1] - table[k]) * (at - np.float32(k))


@kernel
def fade(
    sharp: F32, soft1: F32, soft2: F32, soft3: F32, x: F32, y: F32, plan: F32, knots: F32, encode: U8, out: U8
) -> None:
    """Write a picture that falls away from a focal point.

    `sharp` and the three softer pictures are linear light; `x` and `y` are distances from the focal point in shares
    of the canvas's diagonal. `plan` holds where it begins and ends, the strength, what of contrast and chroma is
    taken away, and the picture's middle; `knots` the shares at which each softness is reached.
    """
    rows, columns = out.shape[0], out.shape[1]
    last = np.float32(encode.shape[0] - 1)
    begins, ends, strength, contrast, chroma, middle = plan[0], plan[1], plan[2], plan[3], plan[4], plan[5]
    for i in range(rows):
        for j in range(columns):
            t = (np.float32(math.sqrt(x[j] * x[j] + y[i] * y[i])) - begins) / (ends - begins)
            t = min(max(t, np.float32(0)), np.float32(1))
            share = strength * t * t * (np.float32(3) - np.float32(2) * t)
            if share < knots[1]:
                low, high, mix = sharp, soft1, share / knots[1]
            elif share < knots[2]:
                low, high, mix = soft1, soft2, (share - knots[1]) / (knots[2] - knots[1])
            else:
                low, high, mix = soft2, soft3, (share - knots[2]) / (knots[3] - knots[2])
            r = low[i, j, 0] + (high[i, j, 0] - low[i, j, 0]) * mix
            g = low[i, j, 1] + (high[i, j, 1] - low[i, j, 1]) * mix
            b = low[i, j, 2] + (high[i, j, 2] - low[i, j, 2]) * mix
            grey = np.float32(0.2126729) * r + np.float32(0.7151522) * g + np.float32(0.0721750) * b
            # Contrast is what light is to the picture's own middle, so it is taken away as a power of it.
            less = np.float32(1)
            if share > 0:
                less = np.float32(math.exp(-contrast * share * math.log(max(grey, np.float32(1e-4)) / middle)))
            keep = np.float32(1) - chroma * share
            for c in range(3):
                v = r if c == 0 else g if c == 1 else b
                v = (grey + (v - grey) * keep) * less
                v = min(max(v, np.float32(0)), np.float32(1))
                out[i, j, c] = encode[np.int64(np.float32(math.sqrt(v)) * last + np.float32(0.5))]
