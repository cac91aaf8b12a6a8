"""Array types with meaning, so that a signature says what an array holds."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

F32 = NDArray[np.float32]
"""Any float32 array; the shape stands in the docstring."""
F64 = NDArray[np.float64]
"""Any float64 array; the shape stands in the docstring."""
I8 = NDArray[np.int8]
I16 = NDArray[np.int16]
I32 = NDArray[np.int32]
I64 = NDArray[np.int64]
U8 = NDArray[np.uint8]
U16 = NDArray[np.uint16]
Bool = NDArray[np.bool_]

Points = F64
"""(N, 2) float64: x right, y down, in reference pixels unless the name says `_mm`."""
Rgb8 = U8
"""(H, W, 3) uint8 sRGB, as a viewer shows it."""
Linear = F32
"""(H, W, 3) float32 linear light, sRGB primaries, 0..1."""
Lab = F32
"""(..., 3) float32 CIELAB under D65: L* 0..100, a*, b*."""
Labels = NDArray[np.int16]
"""(H, W) int16: index of the front-most zone at each cell, -1 where there is none."""


def frozen(array: NDArray[Any]) -> NDArray[Any]:
    """Make an array read-only, so that a remembered result cannot be changed by whoever reads it."""
    array.setflags(write=False)
    return array


FARTHEST_PX = 1_000_000.0
"""No picture is so large: places farther off are mistakes."""


def as_points(value: object, *, least: int, what: str) -> Points:
    """Check and convert a list of (x, y) pairs.

    Parameters
    ----------
    value : sequence of pairs
        Reference pixels.
    least : int
        The smallest number of points that makes sense.
    what : str
        The name used in the error, e.g. ``"comb"``.

    Returns
    -------
    (N, 2) float64 array

    Raises
    ------
    ValueError
        When the shape is not (N, 2), fewer than `least` points are given, or a value is not finite or lies off every picture.
    """
    try:
        points = np.array(value, dtype=np.float64)
    except (TypeError, ValueError, OverflowError):
        raise ValueError(f"{what} must be a list of [x, y] pairs of numbers") from None
    if points.ndim != 2 or points.shape[1] != 2:
        raise ValueError(f"{what} must be a list of [x, y] pairs, got shape {points.shape}")
    if len(points) < least:
        raise ValueError(f"{what} needs at least {least} points, got {len(points)}")
    if not np.isfinite(points).all():
        raise ValueError(f"{what} holds a coordinate that is not a finite number")
    if (np.abs(points) > FARTHEST_PX).any():
        raise ValueError(f"{what} holds a coordinate that lies off every picture")
    return points
