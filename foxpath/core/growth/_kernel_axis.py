"""Loops of the axis solver: what gives way at turns, and what disagrees; both once for every round of it."""

import math

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.jit import kernel


@kernel
def unit(field: F32, out: F32) -> None:
    """Bring (2, h, w) vectors to length 1; those of no length stay so."""
    _, rows, columns = field.shape
    for i in range(rows):
        for j in range(columns):
            x, y = field[0, i, j], field[1, i, j]
            size = np.float32(math.sqrt(x * x + y * y)) + np.float32(1e-6)
            out[0, i, j], out[1, i, j] = x / size, y / size


@kernel
def loosen(units: F32, kappa: float, east: F32, south: F32) -> None:
    """Divide conductances, in place, by 1 + |turn from cell to cell|^2 / kappa^2."""
    _, rows, columns = units.shape
    share = np.float32(1 / kappa**2)
    one = np.float32(1)
    for i in range(rows):
        for j in range(columns - 1):
            x, y = units[0, i, j + 1] - units[0, i, j], units[1, i, j + 1] - units[1, i, j]
            east[i, j] /= one + (x * x + y * y) * share
    for i in range(rows - 1):
        for j in range(columns):
            x, y = units[0, i + 1, j] - units[0, i, j], units[1, i + 1, j] - units[1, i, j]
            south[i, j] /= one + (x * x + y * y) * share


@kernel
def reweigh(axis: F32, weight: F32, units: F32, tau: float, out: F32) -> None:
    """Out = weight / (1 + |axis - unit|^2 / 2 tau^2)^2."""
    _, rows, columns = units.shape
    share = np.float32(1 / (2 * tau * tau))
    for i in range(rows):
        for j in range(columns):
            x, y = axis[0, i, j] - units[0, i, j], axis[1, i, j] - units[1, i, j]
            off = np.float32(1) + (x * x + y * y) * share
            out[i, j] = weight[i, j] / (off * off)
