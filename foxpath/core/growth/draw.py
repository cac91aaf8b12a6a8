"""Draw growth as it is read: hairs of true size with a dark and a light line, doubt as a hatch."""

from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import F32, F64, U8, Points
from foxpath.core.brush import POINTS, hair_profile, outlines, paint_outlines
from foxpath.core.curves import line_length, resample
from foxpath.core.growth.field import ZoneField
from foxpath.core.growth.glyphs import HairGlyphs
from foxpath.core.growth.sureness import SURE_ENOUGH

LIGHT, DARK = (0.98, 0.98, 0.98), (0.04, 0.04, 0.04)
_FINEST_PX = 0.9
_HATCH_GAP, _HATCH_LINE = 11.0, 1.1

Affine = F64
"""(2, 3) float64: picture pixels (x, y, 1) to pixels of the image drawn on."""


def draw_glyphs(image: F32, groups: Sequence[HairGlyphs], affine: Affine, strength: float = 1.0) -> None:
    """Draw hairs onto a premultiplied (H, W, 4) float32 image, in place.

    Each hair is a dark casing under a light core, thick at the root and fine at the tip; unsure ones
    are fainter, and those whose root end is only guessed are alike at both ends. A hair thinner than a
    pixel keeps a pixel's width.
    """
    height, width = image.shape[:2]
    scale = float(np.sqrt(abs(np.linalg.det(affine[:, :2]))))
    lines, half, alpha, rooted = [], [], [], []
    for group in groups:
        at = (group.points_px @ affine[:, :2].T + affine[:, 2]).astype(np.float32)
        near = ((at[:, 0] > -80) & (at[:, 0] < (width + 80, height + 80))).all(axis=1)
        lines.append(at[near])
        rooted.append(group.rooted[near])
        half.append(np.maximum(group.width_px[near] * scale, _FINEST_PX) / 2)
        alpha.append(np.where(group.sure[near] < SURE_ENOUGH, 0.42, 1.0).astype(np.float32) * np.float32(strength))
    if not lines:
        return
    line, wide, opacity = np.concatenate(lines), np.concatenate(half), np.concatenate(alpha)
    said = np.concatenate(rooted)
    profile = hair_profile()
    casing = outlines(line, wide + np.float32(0.8), np.maximum(profile, 0.45).astype(np.float32))
    core = outlines(line, wide, np.maximum(profile, 0.12).astype(np.float32))
    if not said.all():
        even = np.full_like(profile, 0.55)
        casing[~said] = outlines(line[~said], wide[~said] + np.float32(0.8), even)
        core[~said] = outlines(line[~said], wide[~said], even)
    both = np.stack([casing, core], axis=1).reshape(-1, *core.shape[1:])
    colour = np.tile(np.array([DARK, LIGHT], np.float32), (len(line), 1))
    alphas = np.stack([opacity * 0.62, opacity * 0.96], axis=1).reshape(-1).astype(np.float32)
    paint_outlines(image, both, colour, alphas)


_TRACKS = ((0.0, 1.0, 2.9), (0.5, 0.9, 1.5), (-0.5, 0.9, 1.5))
"""Side, reach and width (pixels) of a resting comb's tracks."""
_SPINE = 5.6


def draw_combs(image: F32, combs: Sequence[Points], affine: Affine) -> None:
    """Draw resting combs onto a premultiplied image: a spine across the root, tracks to the tip that fan out.

    Parameters
    ----------
    combs : sequence of (N, 2) float64
        Root to tip, reference pixels. Combs shorter than a pixel on the image are left out.
    """
    placed = [comb @ affine[:, :2].T + affine[:, 2] for comb in combs]
    drawn = [resample(at, 16) for at in placed if line_length(at) >= 1]
    if not drawn:
        return
    line = np.stack(drawn)
    step = np.gradient(line, axis=1)
    normal = np.stack([-step[..., 1], step[..., 0]], axis=-1) / (np.linalg.norm(step, axis=-1, keepdims=True) + 1e-9)
    fan = (1 + 0.3 * np.linspace(0, 1, 16))[:, None]

    def picked(track: F64, reach: float) -> F64:
        # The points lie evenly along the comb: a place along it is a place in the list.
        at = np.linspace(0, 15 * reach, POINTS)
        low = np.minimum(at.astype(int), 14)
        return np.asarray(track[:, low] + (track[:, low + 1] - track[:, low]) * (at - low)[:, None])

    centre = np.stack([picked(line + normal * fan * (_SPINE * side), reach) for side, reach, _ in _TRACKS], axis=1)
    tracks: F32 = centre.reshape(-1, POINTS, 2).astype(np.float32)
    half = np.tile(np.array([width / 2 for _, _, width in _TRACKS], np.float32), len(line))
    across = np.linspace(1, -1, POINTS)[:, None] * _SPINE
    bars: F32 = (line[:, :1] + normal[:, :1] * across).astype(np.float32)
    even = np.ones(POINTS, np.float32)
    # All casings lie under all cores, so that no comb cuts another.
    shapes, colours = [], []
    for grow, tone in ((np.float32(0.8), DARK), (np.float32(0), LIGHT)):
        profile = np.maximum(hair_profile(), 0.3 if grow else 0.15).astype(np.float32)
        shapes += [
            outlines(tracks, (half + grow).astype(np.float32), profile),
            outlines(bars, np.full(len(bars), 1.6, np.float32) + grow, even),
        ]
        colours.append(np.tile(np.array(tone, np.float32), (len(tracks) + len(bars), 1)))
    outline = np.concatenate(shapes)
    paint_outlines(image, outline, np.concatenate(colours), np.full(len(outline), 0.94, np.float32))


def draw_doubt(image: F32, fields: Sequence[ZoneField], affine: Affine) -> None:
    """Hatch the places whose growth is unsure onto a premultiplied image; the surer, the fainter."""
    import cv2

    from foxpath.core.growth import _kernel_draw as loops

    height, width = image.shape[:2]
    doubt = np.zeros((height, width), np.float32)
    for field in fields:
        unsure = np.where(field.inside, np.clip(1 - field.sure / SURE_ENOUGH, 0, 1), 0).astype(np.float32)
        if not unsure.any():
            continue
        cell = field.frame.cell_px
        to_px = np.array(
            [
                [cell, 0, field.frame.crop.x + (field.column + 0.5) * cell],
                [0, cell, field.frame.crop.y + (field.row + 0.5) * cell],
                [0, 0, 1],
            ]
        )
        whole = np.vstack([affine, [0, 0, 1]]) @ to_px
        # The image's pixel j has its centre at j + 0.5.
        whole[:2, 2] -= 0.5
        # Only the part of the image that the zone's window reaches.
        rows, columns = unsure.shape
        corners = np.array([[-1, -1, 1], [columns, -1, 1], [-1, rows, 1], [columns, rows, 1]]) @ whole[:2].T
        left, top = np.maximum(np.floor(corners.min(axis=0)).astype(int), 0)
        right, bottom = np.minimum(np.ceil(corners.max(axis=0)).astype(int) + 1, (width, height))
        if left >= right or top >= bottom:
            continue
        whole[:2, 2] -= (left, top)
        warped = cv2.warpAffine(unsure, whole[:2], (int(right - left), int(bottom - top)), flags=cv2.INTER_LINEAR)
        part = doubt[top:bottom, left:right]
        np.maximum(part, warped, out=part)
    if not doubt.any():
        return
    loops.hatch(image, doubt, _HATCH_GAP, _HATCH_LINE, DARK[0], LIGHT[0])


def to_rgba8(image: F32) -> U8:
    """Return a premultiplied float image as (H, W, 4) uint8, red first."""
    from foxpath.core.growth import _kernel_draw as loops

    out = np.empty(image.shape, np.uint8)
    loops.bytes_of(image.reshape(-1), out.reshape(-1))
    return out
