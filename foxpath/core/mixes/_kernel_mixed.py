"""Loops over thousands of mixtures at once: their colour, and how it moves with their parts."""

import math

import numpy as np

from foxpath.core.arrays import F64, I64
from foxpath.core.jit import kernel

_EPSILON, _SLOPE, _STEP = (6 / 29) ** 3, 3 * (6 / 29) ** 2, 4 / 29


@kernel
def _summed(k: F64, s: F64, base: F64, which: I64, parts: F64, taken: F64, thrown: F64) -> None:
    """Sum up the light that tubes take up and throw back, so many parts of each, with what is there already."""
    for b in range(taken.shape[0]):
        taken[b], thrown[b] = base[0, b], base[1, b]
    for i in range(which.shape[0]):
        row, part = which[i], parts[i]
        for b in range(taken.shape[0]):
            taken[b] += part * k[row, b]
            thrown[b] += part * s[row, b]


@kernel
def colours(k: F64, s: F64, base: F64, which: I64, parts: F64, weights: F64, surface: F64, out: F64) -> None:
    """Fill `out` (p, g, 3) with the CIELAB of mixtures.

    Parameters
    ----------
    k, s : (n, 36) float64
        The tubes.
    base : (2, 36) float64
        What lies there already: light taken up, and thrown back.
    which : (p, m) int64
        Tubes of each row.
    parts : (p or 1, g, m) float64
        Their parts; one for all rows where they are the same.
    weights : (36, 3) float64
        Reflectance to XYZ, white 1.
    surface : (3,) float64
        What the surface shows of its own reflection, what passes it both ways, and the share it turns back inside.
    """
    bands = k.shape[1]
    taken, thrown = np.empty(bands), np.empty(bands)
    for p in range(which.shape[0]):
        row = p if parts.shape[0] > 1 else 0
        for g in range(parts.shape[1]):
            _summed(k, s, base, which[p], parts[row, g], taken, thrown)
            for b in range(bands):
                q = taken[b] / max(thrown[b], 1e-12)
                within = 1 / (1 + q + math.sqrt(q * q + 2 * q))
                taken[b] = surface[0] + surface[1] * within / (1 - surface[2] * within)
            x, y, z = 0.0, 0.0, 0.0
            for b in range(bands):
                x += taken[b] * weights[b, 0]
                y += taken[b] * weights[b, 1]
                z += taken[b] * weights[b, 2]
            fx, fy, fz = _root(x), _root(y), _root(z)
            out[p, g, 0], out[p, g, 1], out[p, g, 2] = 116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)


@kernel
def _root(t: float) -> float:
    return float(np.cbrt(t)) if t > _EPSILON else t / _SLOPE + _STEP


@kernel
def _rise(t: float) -> float:
    return 1 / (3 * np.cbrt(t) ** 2) if t > _EPSILON else 1 / _SLOPE


@kernel
def slopes(k: F64, s: F64, base: F64, which: I64, parts: F64, weights: F64, surface: F64, lab: F64, slope: F64) -> None:
    """Fill `lab` (p, 3) with the CIELAB of mixtures, and `slope` (p, m, 3) with how it moves with the logarithms of their parts.

    As `colours`, with `parts` (p, m): what one gains, all lose.
    """
    bands, count = k.shape[1], which.shape[1]
    taken, thrown, moves = np.empty(bands), np.empty(bands), np.empty(bands)
    for p in range(which.shape[0]):
        _summed(k, s, base, which[p], parts[p], taken, thrown)
        x, y, z = 0.0, 0.0, 0.0
        for b in range(bands):
            low = max(thrown[b], 1e-12)
            q = taken[b] / low
            root = math.sqrt(q * q + 2 * q)
            within = 1 / (1 + q + root)
            through = 1 - surface[2] * within
            # The slope of the reflectance within is that of 1 + q - root.
            moves[b] = (1 - (q + 1) / max(root, 1e-12)) * surface[1] / (through * through) / low
            taken[b] = q
            thrown[b] = surface[0] + surface[1] * within / through
        for b in range(bands):
            x += thrown[b] * weights[b, 0]
            y += thrown[b] * weights[b, 1]
            z += thrown[b] * weights[b, 2]
        fx, fy, fz = _root(x), _root(y), _root(z)
        lab[p, 0], lab[p, 1], lab[p, 2] = 116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)
        rx, ry, rz = _rise(x), _rise(y), _rise(z)
        sum_l, sum_a, sum_b, whole = 0.0, 0.0, 0.0, 0.0
        for i in range(count):
            row = which[p, i]
            x, y, z = 0.0, 0.0, 0.0
            for b in range(bands):
                moved = (k[row, b] - taken[b] * s[row, b]) * moves[b]
                x += moved * weights[b, 0]
                y += moved * weights[b, 1]
                z += moved * weights[b, 2]
            part = parts[p, i]
            x, y, z = x * rx * part, y * ry * part, z * rz * part
            slope[p, i, 0], slope[p, i, 1], slope[p, i, 2] = 116 * y, 500 * (x - y), 200 * (y - z)
            sum_l += slope[p, i, 0]
            sum_a += slope[p, i, 1]
            sum_b += slope[p, i, 2]
            whole += part
        for i in range(count):
            part = parts[p, i] / whole
            slope[p, i, 0] -= part * sum_l
            slope[p, i, 1] -= part * sum_a
            slope[p, i, 2] -= part * sum_b
