"""Loops that trace marks through a growth field and give them an outline."""

import math

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.jit import kernel


@kernel
def trace_all(
    field: F32, start: F32, length: F32, turn: F32, curl: F32, scale: float, dx: float, dy: float, out: F32
) -> None:
    """Trace every mark by the midpoint rule; see `strokes.trace` for the meaning of each array."""
    rows, columns = field.shape[0], field.shape[1]
    count, points = out.shape[0], out.shape[1]
    one = np.float32(1)
    factor, ox, oy = np.float32(scale), np.float32(dx), np.float32(dy)
    xmax, ymax = np.float32(columns - 1.001), np.float32(rows - 1.001)
    for n in range(count):
        x, y = start[n, 0], start[n, 1]
        out[n, 0, 0], out[n, 0, 1] = (x + ox) * factor, (y + oy) * factor
        step = length[n] / np.float32(points - 1)
        # Within a cell the field is all but straight: the step to the middle would change nothing.
        first_half = 1 if abs(step) < np.float32(0.8) else 0
        # The turn grows by the same angle at every step: one rotation more, and no cosine in the loop.
        first = turn[n] + curl[n] * (one / np.float32(points) - np.float32(0.3))
        more = curl[n] / np.float32(points)
        cosine, sine = np.float32(math.cos(first)), np.float32(math.sin(first))
        dc, ds = np.float32(math.cos(more)), np.float32(math.sin(more))
        for k in range(1, points):
            if k > 1:
                cosine, sine = cosine * dc - sine * ds, sine * dc + cosine * ds
            px, py = x, y
            for half in range(first_half, 2):
                gx = min(max(px - np.float32(0.5), np.float32(0)), xmax)
                gy = min(max(py - np.float32(0.5), np.float32(0)), ymax)
                j, i = int(gx), int(gy)
                fx, fy = gx - np.float32(j), gy - np.float32(i)
                a, b = (one - fx) * (one - fy), fx * (one - fy)
                c, d = (one - fx) * fy, fx * fy
                j1, i1 = min(j + 1, columns - 1), min(i + 1, rows - 1)
                vx = a * field[i, j, 0] + b * field[i, j1, 0] + c * field[i1, j, 0] + d * field[i1, j1, 0]
                vy = a * field[i, j, 1] + b * field[i, j1, 1] + c * field[i1, j, 1] + d * field[i1, j1, 1]
                size = np.float32(math.sqrt(vx * vx + vy * vy)) + np.float32(1e-6)
                ux, uy = (cosine * vx - sine * vy) / size, (sine * vx + cosine * vy) / size
                if half == 0:
                    px, py = x + ux * step * np.float32(0.5), y + uy * step * np.float32(0.5)
                else:
                    x, y = x + ux * step, y + uy * step
            out[n, k, 0], out[n, k, 1] = (x + ox) * factor, (y + oy) * factor


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
