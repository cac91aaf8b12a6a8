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
def _widened(soft: F32, share: F32, row: int, left: I32, along: F32, colours: F32, parts: F32) -> None:
    """Read one line of a smaller canvas and of its shares between their cells, for every channel of every pixel across; alpha has no share."""
    last = share.shape[1] - 1
    for j in range(left.shape[0]):
        k, u = left[j], along[j]
        k1 = min(k + 1, last)
        part = share[row, k] + u * (share[row, k1] - share[row, k])
        for c in range(3):
            colours[4 * j + c] = soft[row, k, c] + u * (soft[row, k1, c] - soft[row, k, c])
            parts[4 * j + c] = part


@kernel
def blend_rows(canvas: U8, soft: F32, share: F32, first: int, last: int) -> None:
    """Mix rows `first` to `last` of a canvas with a smaller, blended one, by a share that is as small; both are read between their cells.

    The canvas comes as (H, 4 W) bytes, four a pixel; where the share is 0 in all four cells around a pixel, it stays as it is.
    """
    height, width = canvas.shape[0], canvas.shape[1] // 4
    rows, columns = share.shape
    half = np.float32(0.5)
    down, across = np.float32(rows) / np.float32(height), np.float32(columns) / np.float32(width)
    left, along = np.empty(width, np.int32), np.empty(width, np.float32)
    for j in range(width):
        x = min(max((np.float32(j) + half) * across - half, np.float32(0)), np.float32(columns - 1))
        left[j] = int(x)
        along[j] = x - np.float32(left[j])
    # Across first, two lines at a time: they serve several rows, and what is left to do in a row runs straight through it.
    above, below = np.zeros(4 * width, np.float32), np.zeros(4 * width, np.float32)
    parts_above, parts_below = np.zeros(4 * width, np.float32), np.zeros(4 * width, np.float32)
    at = -1
    for i in range(first, last):
        y = min(max((np.float32(i) + half) * down - half, np.float32(0)), np.float32(rows - 1))
        top = int(y)
        v = y - np.float32(top)
        if top != at:
            if top == at + 1 and at >= 0:
                above, below, parts_above, parts_below = below, above, parts_below, parts_above
            else:
                _widened(soft, share, top, left, along, above, parts_above)
            _widened(soft, share, min(top + 1, rows - 1), left, along, below, parts_below)
            at = top
        for m in range(4 * width):
            part = parts_above[m] + v * (parts_below[m] - parts_above[m])
            mixed = above[m] + v * (below[m] - above[m])
            now = np.float32(canvas[i, m])
            canvas[i, m] = np.uint8(np.int32(now + (mixed - now) * part + half))
