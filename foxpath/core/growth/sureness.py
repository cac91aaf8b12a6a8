"""How sure the growth is: calibrated on made-up coats, so that of places called 0.9 sure nine in ten are right."""

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.growth.cells import away_from

SURE_ENOUGH = 0.5
"""Below this a place is called unsure and is hatched."""
REACH = 0.075
"""How far a comb speaks, as a share of the canvas's longer side: alone, it is half sure there."""
AXIS_CURVE = (
    (0.0, 0.25, 0.35, 0.45, 0.55, 0.65, 0.75, 0.85, 0.93),
    (0.15, 0.25, 0.38, 0.46, 0.57, 0.8, 0.93, 0.98, 0.997),
)
ROOT_CURVE = ((0.0, 0.035, 0.075, 0.15, 0.25, 0.4, 0.6, 0.85), (0.3, 0.7, 0.9, 0.95, 0.97, 0.985, 0.987, 0.999))
INFERRED = 0.7
"""Sureness where a stroke lies that was taken over from another part."""
GUESSED_ROOT = 0.45
"""Sureness of root and tip where no mark says them."""


def comb_nearness(combed: F32, long_side: int) -> F32:
    """Return how sure a place is by the nearest comb alone: half at `REACH`; less by what is only inferred."""
    near = np.zeros_like(combed)
    for said, most in ((combed >= 1, 1.0), ((combed > 0) & (combed < 1), INFERRED)):
        if said.any():
            away = away_from(said) / np.float32(REACH * long_side)
            near = np.maximum(near, np.float32(most) * np.exp2(-away * np.sqrt(away)))
    return near


def calm_of(direction: F32, joined: tuple[F32, F32]) -> F32:
    """Return 1 away from places where root and tip of neighbours clash, 0 there."""
    clash = np.zeros(direction.shape[:2], bool)
    x, y = direction[..., 0], direction[..., 1]
    across, down = x[:, :-1] * x[:, 1:] + y[:, :-1] * y[:, 1:], x[:-1] * x[1:] + y[:-1] * y[1:]
    clash[:, :-1] |= (across < -0.5) & (joined[0][:, :-1] > 0)
    clash[:-1] |= (down < -0.5) & (joined[1][:-1] > 0)
    if not clash.any():
        return np.ones(clash.shape, np.float32)
    away = away_from(clash) / np.float32(0.02 * max(direction.shape[:2]) + 2)
    return np.asarray(1 - np.exp2(-away * away), dtype=np.float32)


def sure_of_axis(size: F32) -> F32:
    """Return how sure an axis is by the length of its double-angle vector: calibrated on made-up coats."""
    return np.interp(size, *AXIS_CURVE).astype(np.float32)


def sure_of_root(worst: F32) -> F32:
    """Return how sure root and tip are by the worst connection on the way from a mark: calibrated on made-up coats."""
    return np.interp(worst, *ROOT_CURVE).astype(np.float32)
