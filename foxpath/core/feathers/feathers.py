"""Feathers and the lines each is drawn with: outline, shaft, barbs, the dark gap under its edge and the light rim inside."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F32, I32, Bool

POINTS = 8
"""Points of a shaft, and of every line drawn on a feather."""
GAP_SHARE = 0.12
"""Width of the dark gap under a feather's edge, as a share of the feather's width."""
_WIDEST = 0.66
"""Where along its length a feather is widest."""
_ROOT = 0.4
"""Width at the root, as a share of the widest."""


@dataclass(frozen=True, slots=True, eq=False)
class Feathers:
    """Feathers of one zone.

    Attributes
    ----------
    shaft : (N, 8, 2) float32
        From root to tip, reference pixels.
    length_mm, width_mm : (N,) float32
    row : (N,) int32
        Counted from the root end; a fan's feathers count from its first. Of two, that with the higher row is painted
        first.
    sure : (N,) float32
        Of the growth there.
    leading : (N,) bool
        Worth outlining on this canvas with this kit; the rest are hinted.
    barb_deg : float
        Between shaft and barbs.
    hinted_more : int
        Feathers too small to be laid one by one.
    """

    shaft: F32
    length_mm: F32
    width_mm: F32
    row: I32
    sure: F32
    leading: Bool
    barb_deg: float
    hinted_more: int = 0

    def __len__(self) -> int:
        return len(self.row)

    @property
    def count(self) -> int:
        """How many there are, those too small to be laid included."""
        return len(self.row) + self.hinted_more

    def pick(self, which: np.ndarray) -> "Feathers":
        """Return some of them, by index or mask."""
        return replace(
            self,
            shaft=self.shaft[which],
            length_mm=self.length_mm[which],
            width_mm=self.width_mm[which],
            row=self.row[which],
            sure=self.sure[which],
            leading=self.leading[which],
        )

    def in_order(self) -> "Feathers":
        """Return them as they are painted: from the tip end back, so that each overlaps the one behind."""
        return self.pick(np.argsort(-self.row, kind="stable"))


def no_feathers(barb_deg: float = 35.0, more: int = 0) -> Feathers:
    """Return none, but a count of those too small to be laid."""
    none = np.zeros(0, np.float32)
    return Feathers(
        np.zeros((0, POINTS, 2), np.float32), none, none, none.astype(np.int32), none, none > 0, barb_deg, more
    )


def joined(groups: Sequence[Feathers]) -> Feathers:
    """Return several groups as one."""
    if not groups:
        return no_feathers()

    def all_of(name: str) -> np.ndarray:
        return np.concatenate([getattr(group, name) for group in groups])

    return Feathers(
        all_of("shaft"),
        all_of("length_mm"),
        all_of("width_mm"),
        all_of("row"),
        all_of("sure"),
        all_of("leading"),
        groups[0].barb_deg,
        sum(group.hinted_more for group in groups),
    )


def half_width(t: F32) -> F32:
    """Return the half width of a feather at shares `t` of its length, as a share of the widest: rounded at the tip."""
    body = _ROOT + (1 - _ROOT) * np.sin(np.pi / 2 * np.clip(t / _WIDEST, 0, 1))
    tip = np.sqrt(np.clip(1 - (np.clip(t - _WIDEST, 0, None) / (1 - _WIDEST)) ** 2, 0, 1))
    return np.asarray(body * tip, np.float32)


def on_shaft(feathers: Feathers, t: F32) -> tuple[F32, F32, F32]:
    """Return places, unit directions and unit normals (N, K, 2) on the shafts at shares `t` (K,) or (N, K)."""
    shares = np.broadcast_to(t, (len(feathers), t.shape[-1])) * (POINTS - 1)
    low = np.clip(shares.astype(int), 0, POINTS - 2)
    part = (shares - low)[..., None]
    index = np.arange(len(feathers))[:, None]
    a, b = feathers.shaft[index, low], feathers.shaft[index, low + 1]
    way = b - a
    way = way / (np.hypot(way[..., 0], way[..., 1])[..., None] + 1e-9)
    normal = np.stack([-way[..., 1], way[..., 0]], axis=-1)
    return a + (b - a) * part, way, normal


def half_px(feathers: Feathers) -> F32:
    """Return the widest half width, reference pixels."""
    step = np.diff(feathers.shaft, axis=1)
    long = np.hypot(step[..., 0], step[..., 1]).sum(axis=1)
    return np.asarray(0.5 * feathers.width_mm * long / np.maximum(feathers.length_mm, 1e-6), np.float32)


def outline_of(feathers: Feathers, points: int = 14) -> F32:
    """Return the (N, 2 * points, 2) float32 closed outlines, reference pixels: down one side, round the tip, back."""
    t = (1 - (1 - np.linspace(0, 1, points)) ** 1.8).astype(np.float32)
    at, _, normal = on_shaft(feathers, t)
    wide = (half_px(feathers)[:, None] * half_width(t))[..., None]
    return np.asarray(np.concatenate([at + normal * wide, (at - normal * wide)[:, ::-1]], axis=1), np.float32)


def _round_tip(feathers: Feathers, grow: float, reach: float) -> F32:
    """Return the (N, 8, 2) line round the tip, at `grow` times the half width, over the outer `reach` of the length."""
    u = np.linspace(-1, 1, POINTS).astype(np.float32)
    t = (1 - reach * np.abs(u) ** 1.6).astype(np.float32)
    at, way, normal = on_shaft(feathers, t)
    half = half_px(feathers)[:, None]
    wide = half * grow * half_width(t) * np.sign(u)
    # The curve over the tip lies so much further out (or in) as the sides do.
    beyond = half * (grow - 1) * np.cos(0.5 * np.pi * u)
    return np.asarray(at + normal * wide[..., None] + way * beyond[..., None], np.float32)


def gaps(feathers: Feathers, reach: float = 0.5) -> F32:
    """Return the (N, 8, 2) line of the dark gap just under each feather's edge, round its tip."""
    return _round_tip(feathers, 1 + GAP_SHARE, reach)


def rims(feathers: Feathers, reach: float = 0.42) -> F32:
    """Return the (N, 8, 2) line of the light rim just inside each feather's edge."""
    return _round_tip(feathers, 1 - 0.8 * GAP_SHARE, reach)


def barbs(feathers: Feathers, each: int, rng: np.random.Generator) -> F32:
    """Return (N * 2 * each, 8, 2) barbs, from the shaft out to the edge on both sides, at the barb angle.

    They sit on the outer part of the feather, which is seen; the root is covered.
    """
    count = len(feathers)
    even = np.linspace(0.34, 0.86, each)
    t = (even + rng.normal(0, 0.25 / each, (count, each))).clip(0.2, 0.93).astype(np.float32)
    at, way, normal = on_shaft(feathers, t)
    half = half_px(feathers)[:, None]
    step = np.diff(feathers.shaft, axis=1)
    long = np.hypot(step[..., 0], step[..., 1]).sum(axis=1)[:, None]
    angle = np.radians(feathers.barb_deg)
    # A barb ends at the edge: forward by what its angle makes of the half width there, but never past the tip.
    forward = np.minimum(half * half_width(t) / np.tan(angle), (1 - t) * long * 0.8)
    end_t = np.clip(t + forward / long, 0, 0.985)
    u = np.linspace(0, 1, POINTS).astype(np.float32)
    lines = []
    for side in (1.0, -1.0):
        out = half * half_width(end_t.astype(np.float32)) * 0.94 * side
        # Barbs bend toward the tip.
        line = (
            at[:, :, None]
            + way[:, :, None] * (forward[..., None] * u**1.25)[..., None]
            + normal[:, :, None] * (out[..., None] * u)[..., None]
        )
        lines.append(line.reshape(-1, POINTS, 2))
    return np.asarray(np.concatenate(lines), np.float32)
