"""How long and how wide the marks are at every place: smooth inside a coat, shorter where the form turns away.

Each zone's own values are brought together by a screened diffusion of their logarithms that crosses only where one coat
runs into the other; measured hairs bend it, and marks grow broader away from the focal point.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool, Labels, Points, frozen
from foxpath.core.frame import Frame
from foxpath.core.multigrid import Multigrid
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.zones.kinds import Coat

MEETS = 0.01
"""Reach over which two coats meet, as a share of the canvas's longer side."""
HAIR_REACH = 0.3
"""Reach of a measured hair, as a share of its zone's extent (the root of its area)."""
BROADER, LONGER = 0.6, 0.25
"""By how much marks are broader and longer far from the focal point, at full falloff."""
FAR = 0.6
"""Distance from the focal point, as a share of the canvas's diagonal, from which nothing changes any more."""


@dataclass(frozen=True, slots=True, eq=False)
class Hair:
    """A measured hair: its middle (reference pixels), and its length on the canvas as it would be unforeshortened, mm."""

    at: tuple[float, float]
    length_mm: float


@dataclass(frozen=True, slots=True, eq=False)
class ZoneLengths:
    """What the field needs of a zone with hair.

    Attributes
    ----------
    index : int
        Its place back to front, as in the map of labels.
    coat : Coat
    hairs : tuple of Hair
        Their mean is the coat's length; they say where it is longer and where shorter.
    """

    index: int
    coat: Coat
    hairs: tuple[Hair, ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class LengthField:
    """Length and width of the marks as multiples of each zone's coat.

    Attributes
    ----------
    frame : Frame
    length, width : (rows, columns) float32
        1 where there is no hair.
    """

    frame: Frame
    length: F32
    width: F32

    def at(self, points_px: Points) -> tuple[F32, F32]:
        """Return length and width, as multiples, at (N, 2) reference pixels; clamped to the grid."""
        grid = np.floor(self.frame.to_grid(points_px)).astype(int)
        j, i = np.clip(grid, 0, (self.frame.columns - 1, self.frame.rows - 1)).T
        return self.length[i, j], self.width[i, j]


def length_field(
    zones: Sequence[ZoneLengths],
    labels: Labels,
    frame: Frame,
    run_together: Sequence[tuple[int, int]],
    focal: tuple[float, float],
    falloff: float,
    seen: F32 | None = None,
    progress: Progress = SILENT,
    quiet: F32 | None = None,
) -> LengthField:
    """Return the field of mark lengths and widths.

    Parameters
    ----------
    zones : sequence of ZoneLengths
    labels : (rows, columns) int16
        The map of zones.
    frame : Frame
        Its grid.
    run_together : sequence of (int, int)
        Pairs of zones whose coats run into each other.
    focal : (x, y)
        Reference pixels.
    falloff : float, 0..1
    seen : (rows, columns) float32, optional
        Foreshortening (see `foreshortening`).
    quiet : (rows, columns) float32, optional
        By how much less than the others an animal is looked at, 0 to 1: its marks are as broad as if they lay so far from the focus.
    """
    value, hairy = np.zeros((2, *frame.shape), np.float32), np.zeros(frame.shape, bool)
    own = np.zeros((2, *frame.shape), np.float32)
    for zone in zones:
        mask = labels == zone.index
        hairy |= mask
        own[0][mask], own[1][mask] = np.log(zone.coat.length_mm), np.log(zone.coat.width_mm)
        value[1][mask] = own[1][mask]
        value[0][mask] = own[0][mask] + _hairs(zone, mask, frame)
    long_side = max(frame.crop.width, frame.crop.height)
    reach = max(1.0, MEETS * long_side / frame.cell_px)
    pairs = {frozenset(pair) for pair in run_together}
    east, south = np.zeros((2, *frame.shape), np.float32)
    east[:, :-1] = reach**2 * _joined(labels[:, :-1], labels[:, 1:], hairy[:, :-1] & hairy[:, 1:], pairs)
    south[:-1] = reach**2 * _joined(labels[:-1], labels[1:], hairy[:-1] & hairy[1:], pairs)
    weight = np.ones(frame.shape, np.float32)
    if hairy.any():
        value = Multigrid(weight, east, south, 2).solve(value, 1e-4, progress, value)
    length, width = (np.where(hairy, np.exp(value[k] - own[k]), 1).astype(np.float32) for k in (0, 1))
    far = _far(frame, focal)
    away = falloff * far if quiet is None else np.maximum(falloff * far, quiet)
    length = length * np.where(hairy, 1 + LONGER * away, 1)
    width = width * np.where(hairy, 1 + BROADER * away, 1)
    if seen is not None:
        length = length * np.where(hairy, seen, 1)
    return LengthField(frame, frozen(length.astype(np.float32)), frozen(width.astype(np.float32)))


def _hairs(zone: ZoneLengths, mask: Bool, frame: Frame) -> F32:
    """Return by how much (logarithm) hair is longer than the zone's own value at each cell of the mask."""
    if len(zone.hairs) < 2 or not mask.any():
        return np.zeros(int(mask.sum()), np.float32)
    lengths = np.log([hair.length_mm for hair in zone.hairs])
    rows, columns = np.nonzero(mask)
    at = np.stack([columns + 0.5, rows + 0.5], axis=1)
    sigma = max(2.0, HAIR_REACH * float(np.sqrt(mask.sum())))
    gap = np.array([((at - frame.to_grid(np.array([hair.at]))) ** 2).sum(axis=1) for hair in zone.hairs])
    near = np.exp(-gap / (2 * sigma**2)) + 1e-12
    # Beyond the reach of every hair the zone's own value holds again.
    held = near.sum(axis=0)
    off = ((lengths - lengths.mean())[:, None] * near).sum(axis=0) / held
    return np.asarray(off * np.clip(held / 0.15, 0, 1), np.float32)


def _joined(a: Labels, b: Labels, hairy: Bool, pairs: set[frozenset[int]]) -> F32:
    same = (a == b) & hairy
    for pair in pairs:
        if len(pair) == 2:
            one, other = sorted(pair)
            same |= ((a == one) & (b == other)) | ((a == other) & (b == one))
    return np.asarray(same, np.float32)


def _far(frame: Frame, focal: tuple[float, float]) -> F32:
    """Return 0 at the focal point, rising smoothly to 1 far from it."""
    x = frame.crop.x + (np.arange(frame.columns) + 0.5) * frame.cell_px
    y = frame.crop.y + (np.arange(frame.rows) + 0.5) * frame.cell_px
    away = np.hypot(x[None, :] - focal[0], y[:, None] - focal[1])
    t = np.clip(away / (FAR * np.hypot(frame.crop.width, frame.crop.height)), 0, 1)
    return np.asarray(t * t * (3 - 2 * t), np.float32)
