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
