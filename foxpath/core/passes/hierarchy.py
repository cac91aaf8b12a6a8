"""Focal hierarchy: detail, contrast, chroma and hardness of edges against the distance from the focal point.

Measured in a painting and in its reference; the hardness of edges is compared with the plan's.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Lab, Points

BINS = 6
EQUAL = 1.12
"""Near the focal point at least this much more detail than far from it; below, everything is finished equally."""


@dataclass(frozen=True, slots=True, eq=False)
class Hierarchy:
    """How a painting is finished, by rings about the focal point.

    Attributes
    ----------
    far_mm : (B,) float64
        Outer radius of each ring, mm on the canvas.
    detail, contrast, chroma : (B,) float64
        Deviation of L* below 2 mm, deviation of L* over 15 mm, mean chroma; NaN in rings without the subject.
    hardness : (B,) float64
        One over the width of the edges there, 1/mm; NaN in rings without an edge.
    """

    far_mm: F64
    detail: F64
    contrast: F64
    chroma: F64
    hardness: F64 = field(default_factory=lambda: np.full(BINS, np.nan))

    def ratio(self, name: str) -> float:
        """Return how much of it is near the focal point (the first two rings) over what is far (the last two that are known)."""
        values = getattr(self, name)
        known = values[np.isfinite(values)]
        if len(known) < 4:
            return float("nan")
        return float(known[:2].mean() / max(float(known[-2:].mean()), 1e-6))


def hierarchy(lab: Lab, subject: Bool, focal_px: tuple[float, float], px_per_mm: float) -> Hierarchy:
    """Measure a painting or a reference.

    Parameters
    ----------
    lab : (H, W, 3) float32 CIELAB
    subject : (H, W) bool
        The animal: what lies behind it is soft on purpose.
    focal_px : (x, y)
    px_per_mm : float
    """
    import cv2

    light = np.ascontiguousarray(lab[..., 0])

    def deviation(sigma_mm: float, over_mm: float) -> F32:
        fine = light - cv2.GaussianBlur(light, (0, 0), max(0.6, sigma_mm * px_per_mm))
        return np.asarray(np.sqrt(cv2.GaussianBlur(fine * fine, (0, 0), max(1.0, over_mm * px_per_mm))), np.float32)

    y, x = np.mgrid[0 : light.shape[0], 0 : light.shape[1]]
    far = np.hypot(x + 0.5 - focal_px[0], y + 0.5 - focal_px[1]) / px_per_mm
    reach = float(far[subject].max()) if subject.any() else 1.0
    edges = np.linspace(0, reach, BINS + 1)
    maps = (deviation(1.0, 3.0), deviation(8.0, 12.0), np.hypot(lab[..., 1], lab[..., 2]))
    found = np.full((3, BINS), np.nan)
    for k in range(BINS):
        ring = subject & (far >= edges[k]) & (far < edges[k + 1])
        if ring.sum() > 60:
            found[:, k] = [float(one[ring].mean()) for one in maps]
    return Hierarchy(edges[1:], *found)


def hardness(edges: Sequence[tuple[Points, F64 | float]], focal: tuple[float, float], far: F64) -> F64:
    """Return how hard edges are by rings about the focal point, 1/mm; NaN in rings without one.

    Parameters
    ----------
    edges : sequence of ((N, 2) float64, (N,) float64 or float)
        Places along each edge in mm, evenly spaced, and its width there, mm; NaN widths are left out.
    focal : (x, y)
        The focal point, mm.
    far : (B,) float64
        Outer radius of each ring, mm.
    """
    sums, counts = np.zeros(len(far)), np.zeros(len(far))
    for places, width in edges:
        wide = np.broadcast_to(np.asarray(width, np.float64), len(places))
        ring = np.asarray(np.searchsorted(far, np.hypot(*(places - focal).T)))
        kept = (ring < len(far)) & np.isfinite(wide) & (wide > 0)
        np.add.at(sums, ring[kept], 1 / wide[kept])
        np.add.at(counts, ring[kept], 1)
    return np.asarray(np.where(counts > 0, sums / np.maximum(counts, 1), np.nan))
