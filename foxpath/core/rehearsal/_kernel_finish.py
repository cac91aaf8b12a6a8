"""Loops that soften borders and keep a finished pass."""

import math

import numpy as np

from foxpath.core.arrays import F32, I32
from foxpath.core.jit import kernel

STRIDE = 3
"""Wide blurs read every second or third pixel: the neighbour's own blur fills the gaps."""


@kernel
def soften_rows(canvas: F32, middle: F32, rows: I32, columns: I32, sigma: F32, first: int, last: int) -> None:
    """Blur listed pixels along their row, each by its own Gaussian, into a list of colours.

    The weights come from a recurrence: w(k+1) = w(k) q(k), q(k+1) = q(k) r, so that no exponential is
    taken in the inner loop.
    """
    width = canvas.shape[1]
    for n in range(first, last):
        i, j, s = rows[n], columns[n], sigma[n]
        step = min(STRIDE, max(1, int(s * np.float32(0.5))))
        taps = int(np.float32(2.2) * s / np.float32(step)) + 1
        ratio = np.float32(math.exp(-np.float32(step * step) / (s * s)))
        q = np.float32(math.sqrt(ratio))
        weight, total = np.float32(1), np.float32(1)
        a, b, c = canvas[i, j, 0], canvas[i, j, 1], canvas[i, j, 2]
        for k in range(1, taps + 1):
            weight, q = weight * q, q * ratio
            x, y = max(j - k * step, 0), min(j + k * step, width - 1)
            a += weight * (canvas[i, x, 0] + canvas[i, y, 0])
            b += weight * (canvas[i, x, 1] + canvas[i, y, 1])
            c += weight * (canvas[i, x, 2] + canvas[i, y, 2])
            total += weight + weight
        middle[n, 0], middle[n, 1], middle[n, 2] = a / total, b / total, c / total


@kernel
def soften_columns(
    canvas: F32, middle: F32, place: I32, rows: I32, columns: I32, sigma: F32, first: int, last: int
) -> None:
    """Blur listed pixels along their column, reading listed pixels from `middle` and others as they are.

    `place` gives each pixel's number in the list, -1 for pixels that are not in it; those are never
    written, so that two threads may work on one canvas.
    """
    height = canvas.shape[0]
    for n in range(first, last):
        i, j, s = rows[n], columns[n], sigma[n]
        step = min(STRIDE, max(1, int(s * np.float32(0.5))))
        taps = int(np.float32(2.2) * s / np.float32(step)) + 1
        ratio = np.float32(math.exp(-np.float32(step * step) / (s * s)))
        q = np.float32(math.sqrt(ratio))
        weight, total = np.float32(1), np.float32(1)
        a, b, c = middle[n, 0], middle[n, 1], middle[n, 2]
        for k in range(1, taps + 1):
            weight, q = weight * q, q * ratio
            for y in (max(i - k * step, 0), min(i + k * step, height - 1)):
                m = place[y, j]
                if m >= 0:
                    a += weight * middle[m, 0]
                    b += weight * middle[m, 1]
                    c += weight * middle[m, 2]
                else:
                    a += weight * canvas[y, j, 0]
                    b += weight * canvas[y, j, 1]
                    c += weight * canvas[y, j, 2]
            total += weight + weight
        canvas[i, j, 0], canvas[i, j, 1], canvas[i, j, 2] = a / total, b / total, c / total


@kernel
def keep_values(canvas: F32, kept: np.ndarray, first: int, last: int) -> None:
    """Round the values of a flat canvas to 16 bits and write them back, so that both say the same."""
    for n in range(first, last):
        whole = np.uint16(min(max(canvas[n], np.float32(0)), np.float32(1)) * np.float32(65535) + np.float32(0.5))
        kept[n] = whole
        canvas[n] = np.float32(whole) * np.float32(1 / 65535)
