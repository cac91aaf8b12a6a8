"""Solve ``(w - div b grad) u = f`` on a grid by conjugate gradients, preconditioned by multigrid.

Aggregation by two by two blocks, damped Jacobi smoothing, one V-cycle a step. The convergence does
not depend on how large the zone is; 100,000 cells take some hundredths of a second.

References
----------
Tatebe (1993), "The multigrid preconditioned conjugate gradient method", NASA CP-3224.
"""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64
from foxpath.core.reporting import SILENT, Progress

_DAMPING = 0.8
_SWEEPS = 2
_COARSEST = 6


@dataclass(slots=True)
class _Level:
    diagonal: F32
    inverse: F32
    first: F32
    east: F32
    south: F32
    u: F32
    spare: F32
    rest: F32
    f: F32


class Multigrid:
    """The operator and its coarser copies, ready for any right-hand side.

    Parameters
    ----------
    weight : (H, W) float32, >= 0
        The screening w.
    east, south : (H, W) float32, >= 0
        Conductance to the cell on the right and below; 0 is a barrier.
    planes : int
        How many right-hand sides are solved at once.
    """

    def __init__(self, weight: F32, east: F32, south: F32, planes: int) -> None:
        rows, columns = weight.shape
        depth = max(0, int(math.log2(max(1, min(rows, columns) / _COARSEST))))
        block = 2**depth
        pad = ((1, -rows % block + 1), (1, -columns % block + 1))
        self.shape = (rows, columns)
        # Cells of the padding stand alone: weight 1, joined to nothing.
        w = np.pad(weight.astype(np.float32), pad, constant_values=1)
        e, s = (np.pad(a.astype(np.float32), pad) for a in (east, south))
        self._levels: list[_Level] = []
        for level in range(depth + 1):
            diagonal = w + e + s
            diagonal[:, 1:] += e[:, :-1]
            diagonal[1:] += s[:-1]
            diagonal = np.maximum(diagonal, np.float32(1e-12))
            full = (planes, *w.shape)
            work = [np.zeros(full, np.float32) for _ in range(4)]
            self._levels.append(_Level(diagonal, 1 / diagonal, np.float32(_DAMPING) / diagonal, e, s, *work))
            if level < depth:
                w, e, s = _coarser(w, e, s)

    def _cycle(self, f: F32, level: int = 0) -> F32:
        from foxpath.core import _kernel_multigrid as loops

        at = self._levels[level]
        args = (f, at.inverse, at.east, at.south)
        u, spare = at.u, at.spare
        np.multiply(f, at.first, out=u)
        last = level == len(self._levels) - 1
        for _ in range(16 if last else _SWEEPS - 1):
            loops.relax(u, *args, spare, _DAMPING)
            u, spare = spare, u
        if last:
            return u
        loops.residual(u, f, at.diagonal, at.east, at.south, at.rest)
        below = self._levels[level + 1]
        loops.restrict(at.rest, below.f)
        loops.prolong(u, self._cycle(below.f, level + 1))
        for _ in range(_SWEEPS):
            loops.relax(u, *args, spare, _DAMPING)
            u, spare = spare, u
        return u

    def solve(self, f: F32, tolerance: float = 1e-4, progress: Progress = SILENT, start: F32 | None = None) -> F32:
        """Return the (planes, H, W) float32 solution for right-hand sides of the same shape, begun at `start`.

        Stops when every residual is below `tolerance` of its right-hand side, or after 80 steps.
        """
        from foxpath.core import _kernel_multigrid as loops

        top = self._levels[0]
        rows, columns = self.shape
        right = np.zeros((f.shape[0], *top.diagonal.shape), np.float32)
        right[:, 1 : rows + 1, 1 : columns + 1] = f
        u, less, zero = np.zeros_like(right), np.zeros_like(right), np.zeros_like(right)
        rest = right.copy()
        if start is not None:
            u[:, 1 : rows + 1, 1 : columns + 1] = start
            loops.residual(u, right, top.diagonal, top.east, top.south, rest)
        goal = tolerance * (np.sqrt(_dot(right, right)) + 1e-30)
        z = self._cycle(rest)
        search, rz = z.copy(), _dot(rest, z)
        for _ in range(80):
            if (np.sqrt(_dot(rest, rest)) <= goal).all():
                break
            progress.at(0.5)
            loops.residual(search, zero, top.diagonal, top.east, top.south, less)
            loops.advance(u, rest, search, less, -rz / (_dot(search, less) - 1e-30))
            z = self._cycle(rest)
            fresh = _dot(rest, z)
            loops.turn(search, z, fresh / (rz + 1e-30))
            rz = fresh
        return u[:, 1 : rows + 1, 1 : columns + 1].copy()


def _dot(a: F32, b: F32) -> F64:
    return np.array([np.vdot(x, y) for x, y in zip(a, b, strict=True)], np.float64)


def _coarser(w: F32, east: F32, south: F32) -> tuple[F32, F32, F32]:
    """Join blocks of two by two: weights add up, conductances across the seam add up and halve."""
    rows, columns = (n - 2 for n in w.shape)

    a = np.ones((rows // 2 + 2, columns // 2 + 2), np.float32)
    b, c = np.zeros((2, *a.shape), np.float32)
    # By strides: a sum over axes two long takes ten times as long.
    even, odd = slice(1, -1, 2), slice(2, None, 2)
    a[1:-1, 1:-1] = w[even, even] + w[even, odd] + w[odd, even] + w[odd, odd]
    b[1:-1, 1:-1] = np.float32(0.5) * (east[even, odd] + east[odd, odd])
    c[1:-1, 1:-1] = np.float32(0.5) * (south[odd, even] + south[odd, odd])
    return a, b, c
