"""Growth on both sides of a border: whose tips lie over whose roots."""

from collections.abc import Mapping

import numpy as np

from foxpath.core.arrays import F32, Points
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


FRINGE_LEANS = 0.3
"""Cosine of the growth to the way out from which hair stands over its border."""
FRINGE_OVER = 0.4
"""Share of a hair's length that lies beyond the border."""


def fringe_along(
    border: Border, outward: Points, field: ZoneField, length_mm: F32, mm_per_px: float, seed: int
) -> tuple[F32, F32]:
    """Return the ragged fringe of a border: hairs rooted inside the front zone whose tips lie beyond it.

    The border is where the coat ends; hair hangs over it by a share of its length, unevenly.

    Parameters
    ----------
    border : Border
    outward : (N, 2) float64
        Unit vectors out of the front zone at each point of the border's runs, in their order.
    field : ZoneField
        The front zone's growth.
    length_mm : (N,) float32
        Length of the hair at each point.
    mm_per_px : float
    seed : int

    Returns
    -------
    (M, 8, 2) float32
        Hairs root to tip, reference pixels.
    (M,) float32
        How sure their direction is.
    """
    rng = np.random.default_rng(seed)
    at = np.concatenate(border.runs)
    direction, sure = field.sample(at - 2 * field.frame.cell_px * outward)
    lean = (direction * outward).sum(axis=1)
    step_px = border.length_mm / mm_per_px / max(len(at), 1)
    # As many as stand about a tenth of their length apart.
    share = np.clip(step_px * mm_per_px / np.maximum(0.11 * length_mm, 0.3), 0, 1)
    pick = np.flatnonzero((lean > FRINGE_LEANS) & (rng.random(len(at)) < share))
    length_px = (length_mm[pick] * rng.normal(1, 0.22, len(pick)).clip(0.5, 1.6) / mm_per_px)[:, None]
    turn = rng.normal(0, 0.16, len(pick))
    c, s = np.cos(turn), np.sin(turn)
    way = direction[pick]
    way = np.stack([c * way[:, 0] - s * way[:, 1], s * way[:, 0] + c * way[:, 1]], axis=1)
    bend = rng.normal(0, 0.12, len(pick))[:, None]
    side = np.stack([-way[:, 1], way[:, 0]], axis=1)
    over = FRINGE_OVER * rng.uniform(0.5, 1.5, len(pick))[:, None]
    root = at[pick] - way * (1 - over) * length_px
    t = np.linspace(0, 1, 8)[None, :, None]
    lines = root[:, None] + way[:, None] * t * length_px[:, None] + side[:, None] * (bend * length_px)[:, None] * t * t
    return lines.astype(np.float32), sure[pick].astype(np.float32)
