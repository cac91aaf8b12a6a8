"""The colours a pass is painted with: its marks' colours gathered into a few, each with its share of the paint."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.colour import lab_from_linear, linear_from_lab, linear_from_rgb, rgb_from_linear

MOST = 5
APART = 7.0
"""Colours nearer than this (CIE76) are one mix."""
SAMPLE = 3000
_ROUNDS = 12


@dataclass(frozen=True, slots=True)
class PassColour:
    """A colour to have ready.

    Attributes
    ----------
    rgb : (r, g, b)
        sRGB, 0 to 255.
    light, chroma, hue_deg : float
        L*, C* and hue angle of CIELAB.
    share : float
        Of the pass's paint, by area, 0 to 1.
    """

    rgb: tuple[int, int, int]
    light: float
    chroma: float
    hue_deg: float
    share: float


def gather(colour: F32, area: F32, most: int = MOST) -> tuple[PassColour, ...]:
    """Gather colours into a few, dark to light.

    k-means in CIELAB weighed by area (Lloyd 1982, doi:10.1109/TIT.1982.1056489), begun from even steps of lightness so that the
    same marks always give the same colours; what comes out nearly alike is joined.

    Parameters
    ----------
    colour : (N, 3) float32
        sRGB, 0 to 1.
    area : (N,) float32
    most : int
    """
    if not len(colour) or float(area.sum()) <= 0:
        return ()
    step = max(1, len(colour) // SAMPLE)
    lab = lab_from_linear(linear_from_rgb(np.ascontiguousarray(colour[::step], np.float32))).astype(np.float64)
    weight = area[::step].astype(np.float64)
    order = np.argsort(lab[:, 0], kind="stable")
    along = np.cumsum(weight[order]) / weight.sum()
    middles = lab[order[np.searchsorted(along, (np.arange(most) + 0.5) / most)]]
    for _ in range(_ROUNDS):
        nearest = ((lab[:, None] - middles[None]) ** 2).sum(axis=2).argmin(axis=1)
        mass = np.bincount(nearest, weight, most)
        sums = np.stack([np.bincount(nearest, weight * lab[:, c], most) for c in range(3)], axis=1)
        middles = np.where(mass[:, None] > 0, sums / np.maximum(mass, 1e-9)[:, None], middles)
    kept: list[tuple[np.ndarray, float]] = []
    for middle, share in sorted(zip(middles, mass, strict=True), key=lambda one: -float(one[1])):
        near = next((k for k, (other, _) in enumerate(kept) if np.linalg.norm(other - middle) < APART), -1)
        if near >= 0:
            other, has = kept[near]
            kept[near] = ((other * has + middle * share) / max(has + share, 1e-9), has + float(share))
        elif share > 0:
            kept.append((middle, float(share)))
    whole = sum(share for _, share in kept)
    return tuple(_colour(middle, share / whole) for middle, share in sorted(kept, key=lambda one: float(one[0][0])))


def _colour(lab: np.ndarray, share: float) -> PassColour:
    rgb = rgb_from_linear(np.clip(linear_from_lab(lab[None].astype(np.float32)), 0, 1))[0]
    r, g, b = (round(float(v) * 255) for v in rgb)
    light, a, c = (float(v) for v in lab)
    return PassColour((r, g, b), light, float(np.hypot(a, c)), float(np.degrees(np.arctan2(c, a)) % 360), share)
