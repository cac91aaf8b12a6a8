"""Points that fill an area evenly, however many are asked for."""

import numpy as np

from foxpath.core.arrays import F32

_PLASTIC = 1.32471795724474602596


def even_points(count: int, rng: np.random.Generator) -> F32:
    """Return (count, 2) float32 points in the unit square.

    The additive recurrence on the plastic number (Roberts 2018), started at random: the first n points
    stay where they are when more are asked for, so that asking for more adds and never reshuffles.
    """
    index = np.arange(count, dtype=np.float64)[:, None]
    points = (rng.random(2) + index / np.array([_PLASTIC, _PLASTIC**2])) % 1
    return np.asarray(points, dtype=np.float32)
