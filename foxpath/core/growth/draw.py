"""Draw growth as it is read: hairs of true size with a dark and a light line, doubt as a hatch."""

from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import F32, F64, U8
from foxpath.core.brush import hair_profile, outlines, paint_outlines
from foxpath.core.growth.field import SURE_ENOUGH, ZoneField
from foxpath.core.growth.glyphs import HairGlyphs

LIGHT, DARK = (0.98, 0.98, 0.98), (0.04, 0.04, 0.04)
_FINEST_PX = 0.9
_HATCH_GAP, _HATCH_LINE = 11.0, 1.1

Affine = F64
"""(2, 3) float64: picture pixels (x, y, 1) to pixels of the image drawn on."""


def draw_glyphs(image: F32, groups: Sequence[HairGlyphs], affine: Affine, strength: float = 1.0) -> None:
    """Draw hairs onto a premultiplied (H, W, 4) float32 image, in place.

    Each hair is a dark casing under a light core, thick at the root and fine at the tip; unsure ones
    are fainter. A hair thinner than a pixel keeps a pixel's width.
    """
    height, width = image.shape[:2]
    scale = float(np.sqrt(abs(np.linalg.det(affine[:, :2]))))
    lines, half, alpha = [], [], []
    for group in groups:
        at = (group.points_px @ affine[:, :2].T + affine[:, 2]).astype(np.float32)
        near = ((at[:, 0] > -80) & (at[:, 0] < (width + 80, height + 80))).all(axis=1)
        lines.append(at[near])
        half.append(np.maximum(group.width_px[near] * scale, _FINEST_PX) / 2)
        alpha.append(np.where(group.sure[near] < SURE_ENOUGH, 0.42, 1.0).astype(np.float32) * np.float32(strength))
    if not lines:
        return
    line, wide, opacity = np.concatenate(lines), np.concatenate(half), np.concatenate(alpha)
    profile = hair_profile()
    casing = outlines(line, wide + np.float32(0.8), np.maximum(profile, 0.45).astype(np.float32))
    core = outlines(line, wide, np.maximum(profile, 0.12).astype(np.float32))
    both = np.stack([casing, core], axis=1).reshape(-1, *core.shape[1:])
    colour = np.tile(np.array([DARK, LIGHT], np.float32), (len(line), 1))
    alphas = np.stack([opacity * 0.62, opacity * 0.96], axis=1).reshape(-1).astype(np.float32)
    paint_outlines(image, both, colour, alphas)


def draw_doubt(image: F32, fields: Sequence[ZoneField], affine: Affine) -> None:
    """Hatch the places whose growth is unsure onto a premultiplied image; the surer, the fainter."""
    import cv2

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
        warped = cv2.warpAffine(unsure, whole[:2], (width, height), flags=cv2.INTER_LINEAR)
        np.maximum(doubt, warped, out=doubt)
    if not doubt.any():
        return
    y, x = np.nonzero(doubt > 0.04)
    phase = (x + y) % _HATCH_GAP
    amount = np.sqrt(doubt[y, x]) * 0.85
    for tone, start in ((DARK, 0.0), (LIGHT, _HATCH_LINE)):
        on = np.clip(1 - np.abs(phase - start - 0.5) / _HATCH_LINE, 0, 1) * amount
        pixels = image[y, x]
        pixels += (np.array([*tone, 1.0], np.float32) - pixels) * on[:, None].astype(np.float32)
        image[y, x] = pixels


def to_rgba8(image: F32) -> U8:
    """Return a premultiplied float image as (H, W, 4) uint8, red first."""
    return (np.clip(image, 0, 1) * 255 + 0.5).astype(np.uint8)
