"""Place the hairs that stand for a zone's growth: true length and width, spaced so that the animal shows."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.brush.strokes import trace
from foxpath.core.growth.field import ZoneField
from foxpath.core.scatter import even_points
from foxpath.core.zones.kinds import Coat


@dataclass(frozen=True, slots=True, eq=False)
class HairGlyphs:
    """Traced hairs.

    Attributes
    ----------
    points_px : (N, 8, 2) float32
        Centre lines from root to tip, reference pixels.
    width_px : (N,) float32
        Width at the root, reference pixels.
    sure : (N,) float32
        Sureness at the root.
    """

    points_px: F32
    width_px: F32
    sure: F32


def place_glyphs(field: ZoneField, coat: Coat, spacing_mm: float, seed: int = 0) -> HairGlyphs:
    """Place hairs over a zone, about `spacing_mm` plus 0.3 of a hair apart, and trace each through the growth.

    Parameters
    ----------
    field : ZoneField
    coat : Coat
        Length and width of a mark, mm on the canvas.
    spacing_mm : float
        Gap between hairs at the scale shown, mm on the canvas.
    seed : int
        The zone's own number, so that each zone has its own arrangement.
    """
    frame = field.frame
    cell_mm, cell_px = frame.cell_mm, frame.cell_px
    gap_mm = spacing_mm + 0.3 * coat.length_mm
    height, width = field.inside.shape
    wanted = int(height * width * cell_mm**2 / gap_mm**2 * 1.15) + 1
    at = even_points(min(wanted, 40_000), np.random.default_rng(seed)) * (width, height)
    hit = field.inside[at[:, 1].astype(int), at[:, 0].astype(int)]
    at = at[hit]
    sure = field.sure[at[:, 1].astype(int), at[:, 0].astype(int)]
    half = coat.length_mm / cell_mm / 2
    # The hair's middle, not its root, sits on the chosen spot: step back half a length first.
    zeros = np.zeros(len(at), np.float32)
    back = trace(field.direction, at, np.full(len(at), -half, np.float32), zeros, zeros)[:, -1]
    lines = trace(field.direction, back, np.full(len(at), 2 * half, np.float32), zeros, zeros)
    offset = np.array([frame.crop.x, frame.crop.y], np.float32)
    points = (lines + np.array([field.column, field.row], np.float32)) * np.float32(cell_px) + offset
    width_px = np.full(len(at), coat.width_mm / frame.mm_per_px, np.float32)
    return HairGlyphs(points.astype(np.float32), width_px, sure)
