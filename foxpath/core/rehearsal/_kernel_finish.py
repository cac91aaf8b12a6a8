"""Loops that soften borders and blend areas."""

import math

import numpy as np

from foxpath.core.arrays import F32, I32, U8
from foxpath.core.jit import kernel

STRIDE = 4
"""Wide blurs read every second to fourth pixel: the neighbours' own blur fills the gaps."""


@kernel
def soften_rows(canvas: U8, middle: F32, rows: I32, columns: I32, sigma: F32, first: int, last: int) -> None:
    """Blur listed pixels along their row, each by its own Gaussian, into a list of colours.

    The weights come from a recurrence: w(k+1) = w(k) q(k), q(k+1) = q(k) r, so that no exponential is
    taken in the inner loop.
    """
    width = canvas.shape[1]
    for n in range(first, last):
        i, j, s = rows[n], columns[n], sigma[n]
        step = min(STRIDE, max(1, int(s * np.float32(0.55))))
        taps = int(np.float32(2.2) * s / np.float32(step)) + 1
        ratio = np.float32(math.exp(-np.float32(step * step) / (s * s)))
        q = np.float32(math.sqrt(ratio))
        weight, total = np.float32(1), np.float32(1)
        a, b, c = np.float32(canvas[i, j, 0]), np.float32(canvas[i, j, 1]), np.float32(canvas[i, j, 2])
        for k in range(1, taps + 1):
            weight, q = weight * q, q * ratio
            x, y = max(j - k * step, 0), min(j + k * step, width - 1)
            a += weight * (np.float32(canvas[i, x, 0]) + np.float32(canvas[i, y, 0]))
            b += weight * (np.float32(canvas[i, x, 1]) + np.float32(canvas[i, y, 1]))
            c += weight * (np.float32(canvas[i, x, 2]) + np.float32(canvas[i, y, 2]))
            total += weight + weight
        middle[n, 0], middle[n, 1], middle[n, 2] = a / total, b / total, c / total


@kernel
def soften_columns(
    canvas: U8, middle: F32, place: I32, rows: I32, columns: I32, sigma: F32, first: int, last: int
) -> None:
    """Blur listed pixels along their column, reading listed pixels from `middle` and others as they are.

    `place` gives each pixel's number in the list, -1 for pixels that are not in it; those are never
    written, so that two threads may work on one canvas.
    """
    height = canvas.shape[0]
    for n in range(first, last):
        i, j, s = rows[n], columns[n], sigma[n]
        step = min(STRIDE, max(1, int(s * np.float32(0.55))))
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
                    a += weight * np.float32(canvas[y, j, 0])
                    b += weight * np.float32(canvas[y, j, 1])
                    c += weight * np.float32(canvas[y, j, 2])
            total += weight + weight
        half = np.float32(0.5)
        canvas[i, j, 0] = np.uint8(a / total + half)
        canvas[i, j, 1] = np.uint8(b / total + half)
        canvas[i, j, 2] = np.uint8(c / total + half)


@kernel
def blend_rows(canvas: U8, soft: F32, share: F32, first: int, last: int) -> None:
    """Mix rows `first` to `last` of a canvas with a smaller, blended one, by a share that is as small; both are read between their cells.

    Where the share is 0 in all four cells around a pixel, it stays as it is.
    """
    height, width = canvas.shape[:2]
    rows, columns = share.shape
    half = np.float32(0.5)
    down, across = np.float32(rows) / np.float32(height), np.float32(columns) / np.float32(width)
    line, parts = np.empty((columns + 1, 3), np.float32), np.empty(columns + 1, np.float32)
    left, along = np.empty(width, np.int32), np.empty(width, np.float32)
    for j in range(width):
        x = min(max((np.float32(j) + half) * across - half, np.float32(0)), np.float32(columns - 1))
        left[j] = int(x)
        along[j] = x - np.float32(left[j])
    for i in range(first, last):
        y = min(max((np.float32(i) + half) * down - half, np.float32(0)), np.float32(rows - 1))
        top = int(y)
        low, v = min(top + 1, rows - 1), y - np.float32(top)
        # Between the rows first: the cells of one line serve many pixels.
        for k in range(columns):
            parts[k] = share[top, k] + v * (share[low, k] - share[top, k])
            for c in range(3):
                line[k, c] = soft[top, k, c] + v * (soft[low, k, c] - soft[top, k, c])
        parts[columns], line[columns] = parts[columns - 1], line[columns - 1]
        for j in range(width):
            k, u = left[j], along[j]
            part = parts[k] + u * (parts[k + 1] - parts[k])
            if part > np.float32(0):
                for c in range(3):
                    mixed = line[k, c] + u * (line[k + 1, c] - line[k, c])
                    now = np.float32(canvas[i, j, c])
                    canvas[i, j, c] = np.uint8(np.int32(now + (mixed - now) * part + half))
