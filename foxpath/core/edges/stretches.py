"""A border whose width varies along it: stretches the painter graded by dragging along them."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.curves import line_length
from foxpath.core.edges.borders import Border

REACH_MM = 5.0
"""How far a dragged stretch may lie from the border it speaks for."""
TAPER_MM = 4.0
"""Over which the width runs from the border's own to the stretch's, at its ends."""


@dataclass(frozen=True, slots=True, eq=False)
class Stretch:
    """Part of a border with a width of its own: the dragged line (reference pixels), and the width, mm."""

    line: Points
    width_mm: float


def widths_along(border: Border, width_mm: float, stretches: Sequence[Stretch], mm_per_px: float) -> tuple[F64, ...]:
    """Return the width at each point of each run, mm: the border's own, but where a stretch says otherwise.

    Parameters
    ----------
    border : Border
    width_mm : float
        The border's own width.
    stretches : sequence of Stretch
        Later ones win.
    mm_per_px : float

    Returns
    -------
    tuple of (N,) float64
        One array a run.
    """
    return tuple(_along(run, width_mm, stretches, mm_per_px) for run in border.runs)


def _along(run: Points, width_mm: float, stretches: Sequence[Stretch], mm_per_px: float) -> F64:
    from scipy.ndimage import gaussian_filter1d

    own = np.full(len(run), np.log(width_mm))
    if not stretches or len(run) < 2:
        return np.asarray(np.exp(own))
    step = max(line_length(run) / (len(run) - 1) * mm_per_px, 1e-6)
    for stretch in stretches:
        near = _distance(run, stretch.line) * mm_per_px < REACH_MM
        if near.any():
            share = gaussian_filter1d(near.astype(np.float64), min(0.5 * TAPER_MM / step, 200.0), mode="nearest")
            own = own + (np.log(stretch.width_mm) - own) * share
    return np.asarray(np.exp(own))


def _distance(points: Points, line: Points) -> F64:
    """Return the distance of (N, 2) points to an open polyline."""
    if len(line) < 2:
        return np.asarray(np.hypot(*(points - line[0]).T))
    a, span = line[:-1], np.diff(line, axis=0)
    rel = points[:, None, :] - a[None]
    t = np.clip((rel * span).sum(-1) / np.maximum((span * span).sum(-1), 1e-12), 0, 1)
    off = rel - t[..., None] * span
    return np.asarray(np.sqrt((off * off).sum(-1)).min(axis=1))
