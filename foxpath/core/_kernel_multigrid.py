"""Loops of the multigrid solver: five-point operator with varying conductance on padded grids.

All arrays carry a border of one cell that stays zero. `east[i, j]` joins cell (i, j) to (i, j + 1),
`south[i, j]` joins it to (i + 1, j).
"""

import numpy as np

from foxpath.core.arrays import F32, F64
from foxpath.core.jit import kernel


@kernel
def relax(u: F32, f: F32, inverse: F32, east: F32, south: F32, out: F32, damping: float) -> None:
    """One damped Jacobi sweep of all right-hand sides: out from u."""
    planes, rows, columns = u.shape
    for c in range(planes):
        for i in range(1, rows - 1):
            for j in range(1, columns - 1):
                near = east[i, j] * u[c, i, j + 1] + east[i, j - 1] * u[c, i, j - 1]
                near += south[i, j] * u[c, i + 1, j] + south[i - 1, j] * u[c, i - 1, j]
                out[c, i, j] = u[c, i, j] + damping * ((f[c, i, j] + near) * inverse[i, j] - u[c, i, j])


@kernel
def residual(u: F32, f: F32, diagonal: F32, east: F32, south: F32, out: F32) -> None:
    """Out = f - A u."""
    planes, rows, columns = u.shape
    for c in range(planes):
        for i in range(1, rows - 1):
            for j in range(1, columns - 1):
                near = east[i, j] * u[c, i, j + 1] + east[i, j - 1] * u[c, i, j - 1]
                near += south[i, j] * u[c, i + 1, j] + south[i - 1, j] * u[c, i - 1, j]
                out[c, i, j] = f[c, i, j] - diagonal[i, j] * u[c, i, j] + near


@kernel
def advance(u: F32, rest: F32, search: F32, less: F32, step: F64) -> None:
    """Go a step along each right-hand side's search, with `less` = -A search: u += step search, rest += step less."""
    planes, rows, columns = u.shape
    for c in range(planes):
        s = np.float32(step[c])
        for i in range(1, rows - 1):
            for j in range(1, columns - 1):
                u[c, i, j] += s * search[c, i, j]
                rest[c, i, j] += s * less[c, i, j]


@kernel
def turn(search: F32, z: F32, share: F64) -> None:
    """Search = z + share search."""
    planes, rows, columns = search.shape
    for c in range(planes):
        s = np.float32(share[c])
        for i in range(1, rows - 1):
            for j in range(1, columns - 1):
                search[c, i, j] = z[c, i, j] + s * search[c, i, j]


@kernel
def restrict(fine: F32, coarse: F32) -> None:
    """Sum each two by two block."""
    planes, rows, columns = coarse.shape
    for c in range(planes):
        for i in range(1, rows - 1):
            for j in range(1, columns - 1):
                a, b = 2 * i - 1, 2 * j - 1
                coarse[c, i, j] = fine[c, a, b] + fine[c, a + 1, b] + fine[c, a, b + 1] + fine[c, a + 1, b + 1]


@kernel
def prolong(fine: F32, coarse: F32) -> None:
    """Add each coarse value to its two by two block."""
    planes, rows, columns = coarse.shape
    for c in range(planes):
        for i in range(1, rows - 1):
            for j in range(1, columns - 1):
                a, b = 2 * i - 1, 2 * j - 1
                value = coarse[c, i, j]
                fine[c, a, b] += value
                fine[c, a + 1, b] += value
                fine[c, a, b + 1] += value
                fine[c, a + 1, b + 1] += value
