"""The flood that carries root and tip from marks to everywhere, best connections first."""

import math

from foxpath.core.arrays import F32, I8, I32, I64
from foxpath.core.jit import kernel


@kernel
def _offer(
    i: int, j: int, angle: F32, sure: F32, east: F32, south: F32, sign: I8, worst: F32,
    head: I64, after: I64, cell: I32, carried: I8, quality: F32, count: int, top: int,
) -> tuple[int, int]:  # fmt: skip
    """Offer a cell's sign to its neighbours; returns the number of offers and the best bucket."""
    rows, columns = angle.shape
    buckets = head.shape[0]
    for d in range(4):
        a = i + (1 if d == 0 else -1 if d == 1 else 0)
        b = j + (1 if d == 2 else -1 if d == 3 else 0)
        if a < 0 or b < 0 or a >= rows or b >= columns or sign[a, b] != 0:
            continue
        joined = south[min(i, a), j] if d < 2 else east[i, min(j, b)]
        if joined <= 0:
            continue
        turn = math.cos(angle[i, j] - angle[a, b])
        good = min(joined, 1.0) * min(sure[i, j], sure[a, b]) * abs(turn)
        k = min(buckets - 1, int(good * (buckets - 1)))
        cell[count] = a * columns + b
        carried[count] = sign[i, j] if turn >= 0 else -sign[i, j]
        quality[count] = min(worst[i, j], good)
        after[count] = head[k]
        head[k] = count
        count += 1
        top = max(top, k)
    return count, top


@kernel
def flood(
    angle: F32, sure: F32, east: F32, south: F32, sign: I8, worst: F32, seeds: I64,
    head: I64, after: I64, cell: I32, carried: I8, quality: F32,
) -> None:  # fmt: skip
    """Fill `sign` (0 where unknown) from seeds, cells that have theirs; `worst` gets the worst connection on each cell's way, 0 to 1."""
    columns = angle.shape[1]
    count, top = 0, -1
    for seed in seeds:
        count, top = _offer(
            seed // columns, seed % columns, angle, sure, east, south, sign, worst, head, after, cell, carried, quality, count, top
        )  # fmt: skip
    while top >= 0:
        k = head[top]
        if k < 0:
            top -= 1
            continue
        head[top] = after[k]
        i, j = cell[k] // columns, cell[k] % columns
        if sign[i, j] != 0:
            continue
        sign[i, j] = carried[k]
        worst[i, j] = quality[k]
        count, top = _offer(
            i, j, angle, sure, east, south, sign, worst, head, after, cell, carried, quality, count, top
        )  # fmt: skip
