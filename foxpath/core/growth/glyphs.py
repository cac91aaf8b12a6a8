"""Place the hairs that stand for a zone's growth: true length and width, spaced so that the animal shows."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool
from foxpath.core.brush.strokes import trace, ways
from foxpath.core.growth.field import ZoneField
from foxpath.core.scatter import even_points
from foxpath.core.zones.kinds import Coat

STRAY = 0.7
"""How far a hair strays, radians."""
TUFT_SHARE = 0.35
"""A clump this wide, as a share of the gap between hairs, is shown as a tuft."""


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
    rooted : (N,) bool
        Whether root and tip are said; guessed ones are drawn alike at both ends.
    """

    points_px: F32
    width_px: F32
    sure: F32
    rooted: Bool


def place_glyphs(
    field: ZoneField, coat: Coat, spacing_mm: float, seed: int = 0, varied: F32 | None = None
) -> HairGlyphs:
    """Place hairs over a zone, about `spacing_mm` plus 0.3 of a hair apart, and trace each through the growth.

    They cross as far as the coat's spread says. Where clumps are wide enough to be seen, a hair is a tuft: three
    strands as far apart at the root as the clump is wide, together at the tip.

    Parameters
    ----------
    field : ZoneField
    coat : Coat
        Length, width, spread and clumps of a mark, mm on the canvas.
    spacing_mm : float
        Gap between hairs at the scale shown, mm on the canvas.
    seed : int
        The zone's own number, so that each zone has its own arrangement.
    varied : (h, w, 2) float32, optional
        Multiples of length and width over the field's window.
    """
    frame = field.frame
    cell_mm, cell_px = frame.cell_mm, frame.cell_px
    tufts = coat.clump_mm > TUFT_SHARE * spacing_mm
    # A tuft covers more of the animal than a hair: it stands further off.
    gap_mm = spacing_mm * (1.4 if tufts else 1.0) + 0.3 * coat.length_mm + (1.2 * coat.clump_mm if tufts else 0.0)
    height, width = field.inside.shape
    wanted = min(int(height * width * cell_mm**2 / gap_mm**2 * 1.15) + 1, 40_000)
    at = even_points(wanted, np.random.default_rng(seed)) * (width, height)
    # Drawn for every place, hit or not: on zooming in each hair keeps its own.
    lean = np.random.default_rng((seed, 1)).standard_normal(wanted).clip(-2, 2) * np.radians(coat.spread_deg)
    stray = np.random.default_rng((seed, 2)).random(wanted)
    # One that strays leaves the others for good, to one side or the other.
    lean = np.where(stray < coat.stray_share, STRAY * np.sign(lean + 1e-9), lean)
    hit = field.inside[at[:, 1].astype(int), at[:, 0].astype(int)]
    at, turn = at[hit], np.asarray(lean[hit], np.float32)
    sure = field.sure[at[:, 1].astype(int), at[:, 0].astype(int)]
    rooted = field.rooted[at[:, 1].astype(int), at[:, 0].astype(int)]
    long = np.full(len(at), coat.length_mm / cell_mm, np.float32)
    wide = np.full(len(at), coat.width_mm / frame.mm_per_px, np.float32)
    if varied is not None:
        share = varied[at[:, 1].astype(int), at[:, 0].astype(int)]
        long, wide = np.asarray(long * share[:, 0], np.float32), np.asarray(wide * share[:, 1], np.float32)
    # The hair's middle, not its root, sits on the chosen spot: step back half a length first.
    zeros = np.zeros(len(at), np.float32)
    way = ways(field.direction, at)
    back = trace(field.direction, at, np.float32(-0.5) * long, turn, zeros, toward=way)[:, -1]
    lines = trace(field.direction, back, long, turn, zeros, toward=way)
    if tufts and len(at):
        lines = np.concatenate([_beside(lines, side * 0.5 * coat.clump_mm / cell_mm) for side in (-1.0, 1.0, 0.0)])
        sure, rooted, wide = np.tile(sure, 3), np.tile(rooted, 3), np.tile(wide, 3)
    offset = np.array([frame.crop.x, frame.crop.y], np.float32)
    points = (lines + np.array([field.column, field.row], np.float32)) * np.float32(cell_px) + offset
    return HairGlyphs(points.astype(np.float32), wide, sure, rooted)


def _beside(lines: F32, offset: float) -> F32:
    """Return lines moved sideways by `offset` at the root and not at all at the tip."""
    step = np.gradient(lines, axis=1)
    size = np.maximum(np.hypot(step[..., 0], step[..., 1]), 1e-6)[..., None]
    across = np.stack([-step[..., 1], step[..., 0]], axis=-1) / size
    share = (1 - np.linspace(0, 1, lines.shape[1], dtype=np.float32)) ** 0.8
    return np.asarray(lines + np.float32(offset) * share[:, None] * across, dtype=np.float32)


def place_streams(field: ZoneField, spacing_mm: float, length_mm: float, width_mm: float, seed: int = 0) -> HairGlyphs:
    """Place long lines that follow the growth, to read its flow; they taper from root to tip as hairs do.

    Parameters
    ----------
    field : ZoneField
    spacing_mm : float
        Gap between lines at the scale shown.
    length_mm, width_mm : float
    seed : int
    """
    coat = Coat(length_mm, width_mm, 0.0, 0.0, 0.0)
    made = place_glyphs(field, coat, max(spacing_mm, 0.1 * length_mm), seed)
    # A line ends where the zone does: from its middle outward, the first step outside is the last.
    grid = field.frame.to_grid(made.points_px.reshape(-1, 2).astype(np.float64)) - (field.column, field.row)
    height, width = field.inside.shape
    j, i = np.floor(grid).astype(int).T
    there = (i >= 0) & (j >= 0) & (i < height) & (j < width)
    there[there] &= field.inside[i[there], j[there]]
    inside = there.reshape(made.points_px.shape[:2])
    points = made.points_px.copy()
    half = points.shape[1] // 2
    for k in range(half + 1, points.shape[1]):
        out = ~inside[:, half : k + 1].all(axis=1)
        points[out, k] = points[out, k - 1]
    for k in range(half - 1, -1, -1):
        out = ~inside[:, k : half + 1].all(axis=1)
        points[out, k] = points[out, k + 1]
    return HairGlyphs(points, made.width_px, made.sure, made.rooted)
