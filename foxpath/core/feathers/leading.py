"""Which feathers are worth painting one by one on this canvas with this kit."""

from dataclasses import replace

import numpy as np

from foxpath.core.feathers.feathers import GAP_SHARE, Feathers

ROOM = 2.6
"""Near the focal point a feather is outlined when its dark gap is this many times the finest mark wide: it needs room
for a rim and barbs beside it."""
FAN_ROOM = 1.5
"""The same for feathers of a fan, which the painter drew, wherever they lie."""
FAR_ROOM = 5.0
"""The same, far from it."""
FAR = 0.5
"""Distance, as a share of the canvas's diagonal, that counts as far."""


def leading_of_fan(feathers: Feathers, finest_mm: float) -> Feathers:
    """Tell leading feathers of a fan: they were drawn, so that they lead wherever their gap has room for a mark."""
    return replace(feathers, leading=np.asarray(GAP_SHARE * feathers.width_mm >= FAN_ROOM * finest_mm))


def leading(
    feathers: Feathers, finest_mm: float, focal: tuple[float, float], mm_per_px: float, diagonal_mm: float
) -> Feathers:
    """Tell leading feathers from those that are only hinted.

    A feather is outlined when the dark gap under its edge can be drawn with the finest brush, and more easily so the
    further it lies from the focal point: detail is spent near it.

    Parameters
    ----------
    feathers : Feathers
    finest_mm : float
        The finest mark of the kit.
    focal : (x, y)
        Reference pixels.
    mm_per_px, diagonal_mm : float
        Of the canvas.
    """
    if not len(feathers):
        return feathers
    middle = feathers.shaft[:, feathers.shaft.shape[1] // 2]
    away = np.hypot(middle[:, 0] - focal[0], middle[:, 1] - focal[1]) * mm_per_px / (FAR * diagonal_mm)
    needed = finest_mm * (ROOM + (FAR_ROOM - ROOM) * np.clip(away, 0, 1))
    return replace(feathers, leading=np.asarray(GAP_SHARE * feathers.width_mm >= needed))
