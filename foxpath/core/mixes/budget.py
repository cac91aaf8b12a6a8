"""Strength of colour as a budget: how much of the canvas is pure colour, how far from the focus, and which part spends it."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Labels, frozen

PURE = 2 / 3
"""Of the chroma the tubes reach there, from which a colour counts as pure."""
SHARE = 0.05
"""Of the canvas that may be pure, usually."""
RINGS = 10
LIGHT_BANDS, HUE_BANDS = 12, 18
LEAST_REACH = 45.0
"""C* that is taken for reached everywhere: a dull brown is not pure because the tubes reach no other one there."""


@dataclass(frozen=True, slots=True, eq=False)
class Budget:
    """Where pure colour is spent.

    Attributes
    ----------
    share : float
        Of the canvas.
    far_mm : (RINGS + 1,) float64
        Distances from the focus between which the rings lie.
    rings : (RINGS,) float64
        Share of each ring; NaN where a ring has no canvas.
    strength : (RINGS,) float64
        Mean C* over what could be reached.
    parts : tuple of (zone, share)
        Share of the canvas that each part spends, most first.
    """

    share: float
    far_mm: F64
    rings: F64
    strength: F64
    parts: tuple[tuple[int, float], ...]


def reach_table(lab: F64) -> F64:
    """Return the (LIGHT_BANDS, HUE_BANDS) largest C* among what tubes mix, smoothed over neighbours, 0 to 100 L* and 0 to 360 degrees.

    Parameters
    ----------
    lab : (n, 3) float64
        Very many mixtures.
    """
    light = np.clip((lab[:, 0] / 100 * LIGHT_BANDS).astype(np.int64), 0, LIGHT_BANDS - 1)
    hue = (np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360 / 360 * HUE_BANDS).astype(np.int64) % HUE_BANDS
    made = np.zeros((LIGHT_BANDS, HUE_BANDS))
    np.maximum.at(made, (light, hue), np.hypot(lab[:, 1], lab[:, 2]))
    beside = np.stack([np.roll(made, 1, axis=1), np.roll(made, -1, axis=1)])
    # A cell that no mixture fell into lies between two that have some.
    made = np.maximum(made, np.where(made > 0, 0.0, beside.mean(axis=0)))
    up = np.pad(made, ((1, 1), (0, 0)), mode="edge")
    return np.asarray(np.maximum(made, (up[:-2] + up[2:]) / 2 * 0.9))


def spent(lab: F32, labels: Labels, far_mm: F32, reach: F64) -> Budget:
    """Return where a picture spends pure colour.

    Parameters
    ----------
    lab : (H, W, 3) float32
    labels : (H, W) int16
        The part at each cell, -1 none.
    far_mm : (H, W) float32
        Distance from the focus.
    reach : (LIGHT_BANDS, HUE_BANDS) float64
        From `reach_table`.
    """
    light = np.clip((lab[..., 0] / 100 * LIGHT_BANDS).astype(np.int64), 0, LIGHT_BANDS - 1)
    hue = (np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360 / 360 * HUE_BANDS).astype(np.int64) % HUE_BANDS
    strength = np.hypot(lab[..., 1], lab[..., 2]) / np.maximum(reach[light, hue], LEAST_REACH)
    pure = strength > PURE
    farthest = float(far_mm.max()) + 1e-6
    edges = np.linspace(0, farthest, RINGS + 1)
    ring = np.clip((far_mm * (RINGS / farthest)).astype(np.int64), 0, RINGS - 1)
    cells = np.bincount(ring.ravel(), minlength=RINGS).astype(np.float64)
    with np.errstate(invalid="ignore"):
        rings = np.bincount(ring.ravel(), pure.ravel(), RINGS) / np.where(cells > 0, cells, np.nan)
        mean = np.bincount(ring.ravel(), np.minimum(strength, 1.5).ravel(), RINGS) / np.where(cells > 0, cells, np.nan)
    count = int(labels.max()) + 1 if labels.size else 0
    by_part = np.bincount(labels[labels >= 0], pure[labels >= 0], count) / max(labels.size, 1) if count else np.zeros(0)
    parts = tuple((int(k), float(by_part[k])) for k in np.argsort(-by_part, kind="stable") if by_part[k] > 0)
    return Budget(float(pure.mean()), frozen(edges), frozen(rings), frozen(mean), parts)
