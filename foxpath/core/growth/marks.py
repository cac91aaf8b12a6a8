"""What a painter says of the growth besides combs, brought to strokes: crowns, sources, twins, what another part lends."""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Bool, Points
from foxpath.core.frame import Frame
from foxpath.core.growth.cells import CombStroke
from foxpath.core.growth.field import ZoneField
from foxpath.core.reference.transfer import Axes

LENT_WEIGHT = 0.15
"""How much a stroke counts that is inferred from another part, beside a comb's 1."""
LEAST_LENT = 0.25
"""Sureness of an axis from which it is lent to another part."""
_AROUND = 16


def crown_strokes(at: tuple[float, float], radius_px: float, turn_deg: float) -> list[CombStroke]:
    """Return strokes round a crown.

    Parameters
    ----------
    at : (x, y)
        Reference pixels.
    radius_px : float
        As far as it is drawn; greater than 0.
    turn_deg : float
        Angle of the growth to the radius, clockwise: 0 spreads, 90 circles, 180 gathers; between them it spirals.
    """
    made = []
    turn = math.radians(turn_deg)
    for share in (0.2, 0.5, 0.85):
        for k in range(_AROUND):
            a = 2 * math.pi * (k + 0.5 * (share > 0.5)) / _AROUND
            middle = np.array(at) + share * radius_px * np.array([math.cos(a), math.sin(a)])
            half = 0.1 * radius_px * np.array([math.cos(a + turn), math.sin(a + turn)])
            made.append(CombStroke(np.stack([middle - half, middle + half])))
    return made


def source_strokes(at: tuple[float, float], radius_px: float) -> list[CombStroke]:
    """Return strokes that lead away from a ring, as hair does from a nose, an eye or an ear."""
    made = []
    for k in range(_AROUND):
        a = 2 * math.pi * k / _AROUND
        out = np.array([math.cos(a), math.sin(a)])
        made.append(CombStroke(np.stack([np.array(at) + radius_px * 1.12 * out, np.array(at) + radius_px * 1.5 * out])))
    return made


def _lattice(mask: Bool, frame: Frame) -> Points:
    """Return places spread over a mask, reference pixels."""
    step = max(3, round(0.02 * max(frame.shape)))
    rows, columns = np.nonzero(mask[step // 2 :: step, step // 2 :: step])
    at = np.stack([columns * step + step // 2 + 0.5, rows * step + step // 2 + 0.5], axis=1)
    return frame.to_px(at.astype(np.float64))


def _known(field: ZoneField, at_px: Points) -> Bool:
    """Return where a field knows its axis: a guess is not handed on."""
    grid = np.floor(field.frame.to_grid(at_px)).astype(int) - (field.column, field.row)
    height, width = field.inside.shape
    there = (grid >= 0).all(axis=1) & (grid[:, 0] < width) & (grid[:, 1] < height)
    i, j = grid[there, 1], grid[there, 0]
    there[there] &= field.inside[i, j] & (field.axis_sure[i, j] > LEAST_LENT)
    return np.asarray(there)


def _short(at: Points, direction: Points, frame: Frame) -> list[CombStroke]:
    half = direction * (0.6 * frame.cell_px)
    return [CombStroke(np.stack([p - d, p + d]), LENT_WEIGHT) for p, d in zip(at, half, strict=True)]


def twin_strokes(source: ZoneField, mask: Bool, axes: Axes) -> list[CombStroke]:
    """Return strokes for a part that grows as its mirror twin across the head's midline.

    Parameters
    ----------
    source : ZoneField
        The twin.
    mask : (rows, columns) bool
        The part itself, on the same grid.
    axes : Axes
        The head's own frame.
    """
    at = _lattice(mask, source.frame)
    across = axes.across_along(at)[:, 0]
    a = math.radians(axes.tilt_deg)
    unit = np.array([math.cos(a), math.sin(a)])
    mirrored = at - 2 * across[:, None] * unit
    there = _known(source, mirrored)
    direction, _ = source.sample(mirrored[there])
    turned = direction - 2 * (direction @ unit)[:, None] * unit
    return _short(at[there], turned.astype(np.float64), source.frame)


@dataclass(frozen=True, slots=True)
class _Body:
    """A part's middle, its longer axis, and its extent along both axes, pixels."""

    middle: Points
    axes: Points
    size: Points


def _body(mask: Bool, frame: Frame) -> _Body:
    rows, columns = np.nonzero(mask)
    at = frame.to_px(np.stack([columns + 0.5, rows + 0.5], axis=1))
    middle = at.mean(axis=0)
    values, vectors = np.linalg.eigh(np.cov((at - middle).T) + 1e-9 * np.eye(2))
    axes = vectors[:, ::-1].T.copy()
    # Of the two ways an axis may point, right and down are taken, so that two bodies are laid alike.
    for k in (0, 1):
        if axes[k] @ (1.0, 1.0) < 0:
            axes[k] *= -1
    return _Body(middle, axes, np.sqrt(np.maximum(values[::-1], 1e-9)))


def donor_strokes(
    source: ZoneField, source_mask: Bool, mask: Bool, frame: Frame, *, turned: bool = False
) -> list[CombStroke]:
    """Return strokes for a part that borrows its growth from another, mapped by the two bodies' axes.

    Parameters
    ----------
    source : ZoneField
        On a grid of its own, perhaps over another picture.
    source_mask : (rows, columns) bool
        The donor, on that grid.
    mask : (rows, columns) bool
        The part, on `frame`.
    frame : Frame
    turned : bool
        The donor is laid the other way round.
    """
    giver, taker = _body(source_mask, source.frame), _body(mask, frame)
    at = _lattice(mask, frame)
    side = -1.0 if turned else 1.0
    share = (at - taker.middle) @ taker.axes.T / taker.size
    mapped = giver.middle + (side * share * giver.size) @ giver.axes
    there = _known(source, mapped)
    direction, _ = source.sample(mapped[there])
    along = (direction.astype(np.float64) @ giver.axes.T) * side
    return _short(at[there], along @ taker.axes, frame)
