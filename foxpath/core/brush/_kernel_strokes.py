"""Loops that trace marks through a growth field and give them an outline."""

import math

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.jit import kernel

_BLOCK = 64
"""Marks traced side by side: a step of one mark waits for the step before, those of others need not wait,
and the arithmetic of several is done at once."""


@kernel
def _flow(field: F32, at: F32, count: int, before: F32, heads: F32) -> None:
    """Read the unit direction of a field at the places (x, y) of a block: bilinear on cell centres, clamped.

    A cell that points against the way a mark came counts the other way round: where root and tip change ends, the hair's axis
    runs on, and a mark is not thrown back.
    """
    rows, columns = field.shape[0], field.shape[1]
    one, half, nothing = np.float32(1), np.float32(0.5), np.float32(0)
    # A field of one row or column has no next one to blend with.
    xmax, ymax = max(np.float32(columns - 1.001), nothing), max(np.float32(rows - 1.001), nothing)
    right, below = np.uint64(min(1, columns - 1)), np.uint64(min(1, rows - 1))
    for b in range(count):
        gx = min(max(at[0, b] - half, nothing), xmax)
        gy = min(max(at[1, b] - half, nothing), ymax)
        # Whole, then without sign: one instruction each, and an index that need not be checked for being negative.
        j, i = np.uint64(np.int64(gx)), np.uint64(np.int64(gy))
        fx, fy = gx - np.float32(j), gy - np.float32(i)
        j1, i1 = j + right, i + below
        c, d = (one - fx) * fy, fx * fy
        a, e = one - fx - c, fx - d
        u, v = before[0, b], before[1, b]
        a = math.copysign(a, u * field[i, j, 0] + v * field[i, j, 1])
        e = math.copysign(e, u * field[i, j1, 0] + v * field[i, j1, 1])
        c = math.copysign(c, u * field[i1, j, 0] + v * field[i1, j, 1])
        d = math.copysign(d, u * field[i1, j1, 0] + v * field[i1, j1, 1])
        heads[0, b] = a * field[i, j, 0] + e * field[i, j1, 0] + c * field[i1, j, 0] + d * field[i1, j1, 0]
        heads[1, b] = a * field[i, j, 1] + e * field[i, j1, 1] + c * field[i1, j, 1] + d * field[i1, j1, 1]
    for b in range(count):
        u, v = heads[0, b], heads[1, b]
        share = one / (np.float32(math.sqrt(u * u + v * v)) + np.float32(1e-6))
        heads[0, b], heads[1, b] = u * share, v * share


@kernel
def trace_all(
    field: F32, start: F32, toward: F32, length: F32, turn: F32, curl: F32, scale: float, dx: float, dy: float, out: F32
) -> None:
    """Trace every mark; see `strokes.trace` for the meaning of each array.

    Two points at a time, and the field is read twice for them: the first by Heun's rule over half the way, the second by the
    midpoint rule over all of it, from what was read at the first (Hairer, Norsett, Wanner 1993, II.1). Both err by the third power
    of the step, as reading it four times would.
    """
    count, points = out.shape[0], out.shape[1]
    one, half = np.float32(1), np.float32(0.5)
    factor, ox, oy = np.float32(scale), np.float32(dx), np.float32(dy)
    at, middle = np.empty((2, _BLOCK), np.float32), np.empty((2, _BLOCK), np.float32)
    heads, ahead = np.empty((2, _BLOCK), np.float32), np.empty((2, _BLOCK), np.float32)
    # Length of a step, cosine and sine of the turn there, and of how much it grows with a step.
    step, c, s = np.empty(_BLOCK, np.float32), np.empty(_BLOCK, np.float32), np.empty(_BLOCK, np.float32)
    dc, ds = np.empty(_BLOCK, np.float32), np.empty(_BLOCK, np.float32)
    for first in range(0, count, _BLOCK):
        block = min(_BLOCK, count - first)
        for b in range(block):
            n = first + b
            # The turn grows by the same small angle at every step: one rotation more, and no cosine in the loop.
            angle = turn[n] + curl[n] * (one / np.float32(points) - np.float32(0.3))
            more = curl[n] / np.float32(points)
            square = more * more
            at[0, b], at[1, b], step[b] = start[n, 0], start[n, 1], length[n] / np.float32(points - 1)
            c[b], s[b] = np.float32(math.cos(angle)), np.float32(math.sin(angle))
            dc[b] = one - square * (half - square / np.float32(24))
            ds[b] = more * (one - square / np.float32(6))
            out[n, 0, 0], out[n, 0, 1] = (start[n, 0] + ox) * factor, (start[n, 1] + oy) * factor
            ahead[0, b], ahead[1, b] = toward[n, 0], toward[n, 1]
        for k in range(0, points - 1, 2):
            _flow(field, at, block, ahead, heads)
            for b in range(block):
                u, v = heads[0, b], heads[1, b]
                middle[0, b] = at[0, b] + step[b] * (c[b] * u - s[b] * v)
                middle[1, b] = at[1, b] + step[b] * (s[b] * u + c[b] * v)
            _flow(field, middle, block, heads, ahead)
            for b in range(block):
                u, v = half * (heads[0, b] + ahead[0, b]), half * (heads[1, b] + ahead[1, b])
                middle[0, b] = at[0, b] + step[b] * (c[b] * u - s[b] * v)
                middle[1, b] = at[1, b] + step[b] * (s[b] * u + c[b] * v)
                # The second step has turned on.
                c2, s2 = c[b] * dc[b] - s[b] * ds[b], s[b] * dc[b] + c[b] * ds[b]
                both_c, both_s, u, v = c[b] + c2, s[b] + s2, ahead[0, b], ahead[1, b]
                at[0, b] += step[b] * (both_c * u - both_s * v)
                at[1, b] += step[b] * (both_s * u + both_c * v)
                c[b], s[b] = c2 * dc[b] - s2 * ds[b], s2 * dc[b] + c2 * ds[b]
            for b in range(block):
                n = first + b
                out[n, k + 1, 0], out[n, k + 1, 1] = (middle[0, b] + ox) * factor, (middle[1, b] + oy) * factor
                if k + 2 < points:
                    out[n, k + 2, 0], out[n, k + 2, 1] = (at[0, b] + ox) * factor, (at[1, b] + oy) * factor


@kernel
def outline_all(lines: F32, half: F32, profile: F32, scale: float, dx: float, dy: float, out: F32) -> None:
    """Give each centre line its tapered outline: out[n] runs down one side and back up the other."""
    count, points = lines.shape[0], lines.shape[1]
    factor, ox, oy = np.float32(scale), np.float32(dx), np.float32(dy)
    for n in range(count):
        for k in range(points):
            a, b = max(k - 1, 0), min(k + 1, points - 1)
            tx, ty = lines[n, b, 0] - lines[n, a, 0], lines[n, b, 1] - lines[n, a, 1]
            size = np.float32(math.sqrt(tx * tx + ty * ty)) + np.float32(1e-9)
            wide = half[n] * profile[k] * factor / size
            x, y = lines[n, k, 0] * factor + ox, lines[n, k, 1] * factor + oy
            out[n, k, 0], out[n, k, 1] = x - ty * wide, y + tx * wide
            out[n, 2 * points - 1 - k, 0], out[n, 2 * points - 1 - k, 1] = x + ty * wide, y - tx * wide
