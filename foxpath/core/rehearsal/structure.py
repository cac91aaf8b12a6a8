"""Read whether feathers came out as feathers: gaps, rows and bars of the painting against those of the reference."""

import numpy as np

from foxpath.core.arrays import F32, Bool
from foxpath.core.feathers.feathers import Feathers, gaps, half_px, half_width, on_shaft, rims

POINTS = 20
"""Places read along each vane, over what is seen of it."""
SEEN_FROM, SEEN_TO, SIDE = 0.42, 0.94, 0.45
"""Where vanes are read: shares of the length, and of the half width to both sides of the shaft."""
BARS_SHOWN, GAP_SHOWN = 2.5, 4.0
"""Bars are there where the light and dark along a vane deviate by this, L*; a gap where it is this much darker than its feather."""
ALIKE, KEPT = 0.5, 0.5
"""Bars are found again where they run alike (correlation) and keep this share of their contrast, and a gap where it keeps it."""


def vane_lines(feathers: Feathers) -> F32:
    """Return (N, 2 * POINTS, 2) places along both vanes of each feather, reference pixels."""
    t = np.linspace(SEEN_FROM, SEEN_TO, POINTS).astype(np.float32)
    at, _, normal = on_shaft(feathers, t)
    wide = (SIDE * half_px(feathers)[:, None] * half_width(t))[..., None]
    return np.asarray(np.concatenate([at + normal * wide, at - normal * wide], axis=1), np.float32)


def found_again(reference: tuple[F32, F32, F32], painted: tuple[F32, F32, F32]) -> tuple[Bool, Bool]:
    """Return of which feathers the reference shows structure, and of which it is found again in the painting.

    Parameters
    ----------
    reference, painted : (vanes, gap, rim)
        L* along the vanes (N, K), and means over gap and rim (N,), as from `read_feathers`.

    Returns
    -------
    shown, found : (N,) bool
        `found` only where `shown`: bars where there are bars, the gap where there is one.
    """
    (vanes, gap, rim), (vanes2, gap2, rim2) = reference, painted
    a, b = vanes - vanes.mean(axis=1, keepdims=True), vanes2 - vanes2.mean(axis=1, keepdims=True)
    size_a, size_b = a.std(axis=1), b.std(axis=1)
    alike = (a * b).mean(axis=1) / np.maximum(size_a * size_b, 1e-6)
    bars, dark = size_a > BARS_SHOWN, rim - gap > GAP_SHOWN
    bars_kept = (alike > ALIKE) & (size_b > KEPT * size_a)
    gap_kept = rim2 - gap2 > KEPT * (rim - gap)
    shown = bars | dark
    return shown, shown & (~bars | bars_kept) & (~dark | gap_kept)


def read_feathers(feathers: Feathers, lightness: F32, origin: tuple[float, float], px: float) -> tuple[F32, F32, F32]:
    """Return L* along the vanes (N, K), and the means over gap and rim (N,), of a picture.

    Parameters
    ----------
    feathers : Feathers
    lightness : (H, W) float32
    origin : (x, y)
        Reference pixel of the picture's corner.
    px : float
        Reference pixels to one of the picture's.
    """
    height, width = lightness.shape

    def read(lines: F32) -> F32:
        j = np.clip(((lines[..., 0] - origin[0]) / px).astype(int), 0, width - 1)
        i = np.clip(((lines[..., 1] - origin[1]) / px).astype(int), 0, height - 1)
        return np.asarray(lightness[i, j], np.float32)

    return read(vane_lines(feathers)), read(gaps(feathers)).mean(axis=1), read(rims(feathers)).mean(axis=1)
