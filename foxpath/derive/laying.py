"""Growth on both sides of a border: whose tips lie over whose roots."""

from collections.abc import Mapping

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.curves import arc_length, resample
from foxpath.core.edges import Border
from foxpath.core.growth import SURE_ENOUGH, ZoneField
from foxpath.core.zones import BorderGrowth


def growth_along(border: Border, fields: Mapping[int, ZoneField | None], mm_per_px: float) -> BorderGrowth:
    """Return how both sides' growth runs over a border, a place for each millimetre."""
    front, back = fields.get(border.front), fields.get(border.back)
    places, normals = [], []
    for run in border.runs:
        count = max(2, round(float(arc_length(run)[-1]) * mm_per_px))
        at = resample(run, count)
        step = np.gradient(at, axis=0)
        across = np.stack([-step[:, 1], step[:, 0]], axis=1) / (np.hypot(*step.T)[:, None] + 1e-9)
        # A stretch is walked one way: which side is which, all its places tell together.
        votes = 0.0
        for field, side in ((front, 1.0), (back, -1.0)):
            if field is None:
                continue
            for cells in (1.0, 3.0):
                way = side * cells * field.frame.cell_px * across
                votes += float(field.holds(at - way).sum()) - float(field.holds(at + way).sum())
        places.append(at)
        normals.append(across if votes >= 0 else -across)
    at, across = np.concatenate(places), np.concatenate(normals)

    def lean(field: ZoneField | None, side: float) -> F32:
        if field is None:
            return np.full(len(at), np.nan, np.float32)
        inside = at - side * 2 * field.frame.cell_px * across
        direction, sure = field.sample(inside)
        said = (direction * across).sum(axis=1) * side
        return np.where(sure >= SURE_ENOUGH, said, np.nan).astype(np.float32)

    return BorderGrowth(border.front, border.back, at, 1.0, lean(front, 1.0), lean(back, -1.0))
