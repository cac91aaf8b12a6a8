"""Loops of the rasteriser: exact area coverage of tapered outlines, tile by tile, mark order kept.

For each mark the signed area under its sides is accumulated in a row buffer; the running sum along
the row is the covered share of each pixel. The image is premultiplied RGBA, so that the same loops
paint an opaque canvas and a clear overlay.
"""

import numpy as np

from foxpath.core.arrays import F32, F64, I32, U8
from foxpath.core.jit import kernel

TILE_W, TILE_H = 256, 128
TOOTH = TILE_W
"""Pixels after which a tooth repeats: a tile is as wide."""
OPAQUE, GLAZE, TOOTHED = range(3)
"""Manners of a mark: it covers; it lies transparent; from here on it catches the first, second … tooth only."""
_NONE = np.int32(1 << 20)


@kernel
def count_tiles(outline: F32, across: int, down: int, counts: F64, box: I32) -> None:
    """Find the tiles each outline touches, and how many marks each tile gets."""
    for n in range(outline.shape[0]):
        x0, y0, x1, y1 = np.float32(1e9), np.float32(1e9), np.float32(-1e9), np.float32(-1e9)
        for k in range(outline.shape[1]):
            x, y = outline[n, k, 0], outline[n, k, 1]
            x0, x1, y0, y1 = min(x0, x), max(x1, x), min(y0, y), max(y1, y)
        box[n, 0] = max(0, int(np.floor((x0 - 1) / TILE_W)))
        box[n, 1] = min(across - 1, int(np.floor((x1 + 1) / TILE_W)))
        box[n, 2] = max(0, int(np.floor(y0 / TILE_H)))
        box[n, 3] = min(down - 1, int(np.floor(y1 / TILE_H)))
        for ty in range(box[n, 2], box[n, 3] + 1):
            for tx in range(box[n, 0], box[n, 1] + 1):
                counts[ty * across + tx] += 1


@kernel
def fill_tiles(box: I32, across: int, position: F64, members: I32) -> None:
    """List each tile's marks in their order."""
    for n in range(box.shape[0]):
        for ty in range(box[n, 2], box[n, 3] + 1):
            for tx in range(box[n, 0], box[n, 1] + 1):
                tile = ty * across + tx
                members[int(position[tile])] = n
                position[tile] += 1


@kernel
def _paint_marks(
    outline: F32,
    colour: F32,
    alpha: F32,
    manner: U8,
    tooth: F32,
    members: I32,
    first: int,
    last: int,
    left: int,
    top: int,
    right: int,
    bottom: int,
    area: F32,
    low: I32,
    high: I32,
    local: F32,
) -> None:
    """Paint the marks of one tile, which lies at (left, top), onto its pixels `local`."""
    rows, columns, corners = bottom - top, right - left, outline.shape[1]
    height, limit = np.float32(rows), np.float32(columns)
    for r in range(rows):
        low[r], high[r] = _NONE, -1
    shift_x, shift_y = np.float32(-left), np.float32(-top)
    half, one = np.float32(0.5), np.float32(1)
    for q in range(first, last):
        n = members[q]
        rmin, rmax = rows, -1
        px, py = outline[n, corners - 1, 0] + shift_x, outline[n, corners - 1, 1] + shift_y
        for k in range(corners):
            cx, cy = outline[n, k, 0] + shift_x, outline[n, k, 1] + shift_y
            ax, ay, bx, by, sign = px, py, cx, cy, one
            px, py = cx, cy
            if ay > by:
                ax, ay, bx, by, sign = bx, by, ax, ay, -one
            if by <= np.float32(0) or ay >= height or by - ay < np.float32(1e-6):
                continue
            slope = (bx - ax) / (by - ay)
            if ay < np.float32(0):
                ax, ay = ax - slope * ay, np.float32(0)
            by = min(by, height)
            r0, r1 = int(ay), min(rows - 1, int(np.ceil(by)) - 1)
            rmin, rmax = min(rmin, r0), max(rmax, r1)
            x = ax
            for r in range(r0, r1 + 1):
                dy = min(np.float32(r + 1), by) - max(np.float32(r), ay)
                xn = x + slope * dy
                weight = sign * dy
                xl, xr = min(x, xn), max(x, xn)
                x = xn
                # What of the side runs beyond the tile on the right covers nothing of it, but the row is
                # inked up to there; what runs beyond it on the left covers the row from its first pixel on.
                if xr > limit:
                    high[r] = np.int32(columns)
                    if xl >= limit:
                        continue
                    weight *= (limit - xl) / (xr - xl)
                    xr = limit
                if xl < np.float32(0):
                    beyond = weight if xr <= np.float32(0) else weight * (-xl) / (xr - xl)
                    low[r], high[r] = np.int32(0), max(high[r], np.int32(1))
                    area[r, 0] += beyond
                    if xr <= np.float32(0):
                        continue
                    weight -= beyond
                    xl = np.float32(0)
                i0, i1 = int(xl), int(np.ceil(xr))
                ur = np.uint64(r)
                low[ur], high[ur] = min(low[ur], np.int32(i0)), max(high[ur], np.int32(i1 + 1))
                if i1 <= i0 + 1:
                    part = (half * (xl + xr) - np.float32(i0)) * weight
                    u0 = np.uint64(i0)
                    area[ur, u0] += weight - part
                    area[ur, u0 + np.uint64(1)] += part
                else:
                    s = one / (xr - xl)
                    f0 = xl - np.float32(i0)
                    a0 = half * s * (one - f0) * (one - f0)
                    f1 = xr - np.float32(i1) + one
                    am = half * s * f1 * f1
                    area[ur, i0] += weight * a0
                    if i1 == i0 + 2:
                        area[ur, i0 + 1] += weight * (one - a0 - am)
                    else:
                        a1 = s * (np.float32(1.5) - f0)
                        area[ur, i0 + 1] += weight * (a1 - a0)
                        each = weight * s
                        for k2 in range(i0 + 2, i1 - 1):
                            area[ur, k2] += each
                        a2 = a1 + np.float32(i1 - i0 - 3) * s
                        area[ur, i1 - 1] += weight * (one - a2 - am)
                    area[ur, i1] += weight * am
        c0, c1, c2, opacity, how = colour[n, 0], colour[n, 1], colour[n, 2], alpha[n], manner[n]
        for r in range(rmin, rmax + 1):
            if high[r] < 0:
                continue
            ur = np.uint64(r)
            total, start, stop = np.float32(0), low[r], high[r]
            if how == GLAZE:
                # A transparent layer takes its share of the light that comes back through it.
                for k in range(start, min(stop, columns - 1) + 1):
                    u = np.uint64(k)
                    total += area[ur, u]
                    v = min(abs(total), one) * opacity
                    local[ur, u, 0] *= one + (c0 - one) * v
                    local[ur, u, 1] *= one + (c1 - one) * v
                    local[ur, u, 2] *= one + (c2 - one) * v
            elif how >= TOOTHED:
                # Nearly dry paint stays on what stands up of the ground; tiles are as wide as a tooth, and begin where it does.
                which, down = np.uint64(how - TOOTHED), np.uint64((top + r) % TOOTH)
                for k in range(start, min(stop, columns - 1) + 1):
                    u = np.uint64(k)
                    total += area[ur, u]
                    v = min(abs(total), one) * opacity * tooth[which, down, u]
                    local[ur, u, 0] += (c0 - local[ur, u, 0]) * v
                    local[ur, u, 1] += (c1 - local[ur, u, 1]) * v
                    local[ur, u, 2] += (c2 - local[ur, u, 2]) * v
                    local[ur, u, 3] += (one - local[ur, u, 3]) * v
            else:
                for k in range(start, min(stop, columns - 1) + 1):
                    u = np.uint64(k)
                    total += area[ur, u]
                    v = min(abs(total), one) * opacity
                    local[ur, u, 0] += (c0 - local[ur, u, 0]) * v
                    local[ur, u, 1] += (c1 - local[ur, u, 1]) * v
                    local[ur, u, 2] += (c2 - local[ur, u, 2]) * v
                    local[ur, u, 3] += (one - local[ur, u, 3]) * v
            for k in range(start, stop + 1):
                area[ur, np.uint64(k)] = np.float32(0)
            low[r], high[r] = _NONE, -1


@kernel
def paint_tiles(
    image: F32 | U8,
    before: F32 | U8,
    full: float,
    outline: F32,
    colour: F32,
    alpha: F32,
    manner: U8,
    tooth: F32,
    members: I32,
    offset: F64,
    across: int,
    order: I32,
    start: int,
    count: int,
) -> None:
    """Paint `count` tiles of `order` from `start` on: what stands in `before`, and the marks over it, into `image`.

    `full` is what an image of this type holds for 1. Bytes are rounded once for each tile, after its last mark.
    """
    area = np.zeros((TILE_H, TILE_W + 4), np.float32)
    low, high = np.empty(TILE_H, np.int32), np.empty(TILE_H, np.int32)
    local = np.empty((TILE_H, TILE_W, 4), np.float32)
    scale, unit, half = np.float32(full), np.float32(1 / full), np.float32(0.5 if full > 1 else 0)
    for q in range(start, start + count):
        tile = order[q]
        first, last = int(offset[tile]), int(offset[tile + 1])
        x, y = (tile % across) * TILE_W, (tile // across) * TILE_H
        right, bottom = min(x + TILE_W, image.shape[1]), min(y + TILE_H, image.shape[0])
        for i in range(y, bottom):
            for j in range(x, right):
                for c in range(4):
                    local[i - y, j - x, c] = np.float32(before[i, j, c]) * unit
        _paint_marks(
            outline, colour, alpha, manner, tooth, members, first, last, x, y, right, bottom, area, low, high, local
        )
        for i in range(y, bottom):
            for j in range(x, right):
                for c in range(4):
                    value = min(max(local[i - y, j - x, c], np.float32(0)), np.float32(1))
                    image[i, j, c] = value * scale + half
