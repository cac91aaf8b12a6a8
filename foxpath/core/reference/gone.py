"""A reference without a part, or with a part elsewhere: what lies behind is carried on over the place it leaves."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np

from foxpath.core.arrays import F32, U8, Bool, Labels, Rgb8, frozen
from foxpath.core.progress.small import blur, blurred_within, lab_of, rgb_of

WORK_PX = 900
"""Longer side at which what lies behind is carried on: it is soft there."""
REACHES = (2.0, 4.0, 8.0, 16.0, 32.0, 64.0, 128.0, 256.0)
"""Blurs, pixels, over which a place is sought that tells what lies behind: the nearest that has any."""
LEAST, LEAST_CELLS = 0.02, 60
"""Share of a blur that is told something, and the pixels of a part that can tell anything."""
BAND = 512
"""Rows worked on at once."""
JOIN_PX = 1.6
"""Blur of the seam, pixels of the work."""
GRAIN_PX, CLEAR_PX, DEEP_PX = 5.0, 4, 70.0
"""What is finer than this belongs to the grain of a ground, how far off the rim of a hole it is read, and how deep it is laid, pixels of the work."""


@dataclass(frozen=True, slots=True, eq=False)
class Leaves:
    """A part that leaves its place.

    Attributes
    ----------
    hole : (h, w) bool
        Its place with all that hangs over its outline.
    part : (h, w) float32
        The part itself, 0 to 1, soft at its rim; what is laid down again where it moves to.
    by : (dx, dy)
        Where it goes, cells; (0, 0) for nowhere.
    """

    hole: Bool
    part: F32
    by: tuple[float, float] = (0.0, 0.0)


def carried_on(lab: F32, hole: Bool, behind: Labels) -> F32:
    """Return a picture in which a hole shows what lies behind it, part by part: each from its own colours nearby.

    Parameters
    ----------
    lab : (h, w, 3) float32
        CIELAB.
    hole : (h, w) bool
    behind : (h, w) int
        The map of parts without the one that leaves.
    """
    made = lab.copy()
    for part in np.unique(behind[hole]):
        own = (behind == part) & ~hole
        # A part of which nothing else is seen says nothing: all that is seen does.
        told = (own if int(own.sum()) >= LEAST_CELLS else ~hole).astype(np.float32)
        left = hole & (behind == part)
        for reach in REACHES:
            known = blur(told, reach) > LEAST
            here = left & known
            if here.any():
                made[here] = blurred_within(lab, told, reach)[here]
                left &= ~known
            if not left.any():
                break
    # Steps between reaches are no edges.
    soft = blur(made, 2 * JOIN_PX)
    share = blur(hole.astype(np.float32), JOIN_PX)[..., None] * hole[..., None]
    smooth = made * (1 - share) + soft * share
    return np.asarray(smooth + _grain(lab, hole, behind), np.float32)


def _grain(lab: F32, hole: Bool, behind: Labels) -> F32:
    """Return the light and dark that a ground has of its own, (h, w, 3), mirrored into a hole over its rim; none beyond the hole.

    A restless ground that was carried on smooth would show where something stood. Deep in a hole, and where the mirror finds no ground of
    the same part, it stays smooth: nothing is known there.
    """
    import scipy.ndimage as ndi

    made = np.zeros_like(lab)
    i, j = np.nonzero(hole)
    rows, columns = hole.shape
    for part in np.unique(behind[hole]):
        own = (behind == part) & ~hole
        if int(own.sum()) < LEAST_CELLS:
            continue
        # Of the part alone: its border against another is no grain of it.
        fine = lab - blurred_within(lab, own.astype(np.float32), GRAIN_PX)
        # What hangs in over the rim is no grain of the ground either: it is read a little way off.
        told = ndi.binary_erosion(own, iterations=CLEAR_PX, border_value=1)
        _, (near_i, near_j) = ndi.distance_transform_edt(~told, return_indices=True)
        here = behind[i, j] == part
        a, b = i[here], j[here]
        ri, rj = near_i[a, b], near_j[a, b]
        ti, tj = 2 * ri - a, 2 * rj - b
        seen = (ti >= 0) & (ti < rows) & (tj >= 0) & (tj < columns)
        seen[seen] = told[ti[seen], tj[seen]]
        # Deep in a hole a mirror tells less and less.
        deep = np.exp(-((np.hypot(ri - a, rj - b)[seen] / DEEP_PX) ** 2))[:, None]
        made[a[seen], b[seen]] = fine[ti[seen], tj[seen]] * deep
    return made


def without(rgb: Rgb8, leaving: Sequence[Leaves], behind: Labels) -> Rgb8:
    """Return a picture without parts, or with parts elsewhere; what was under them is carried on from around.

    Parameters
    ----------
    rgb : (H, W, 3) uint8 sRGB
    leaving : sequence of Leaves
        On any grid of the same extent as the picture.
    behind : (h, w) int
        The map of parts without those that leave.
    """
    height, width = rgb.shape[:2]
    scale = min(1.0, WORK_PX / max(height, width))
    size = max(2, round(width * scale)), max(2, round(height * scale))
    small = cv2.resize(rgb, size, interpolation=cv2.INTER_AREA)
    labels = np.asarray(cv2.resize(np.asarray(behind, np.int16), size, interpolation=cv2.INTER_NEAREST), np.int16)
    holes = np.zeros(size[::-1], bool)
    for one in leaving:
        holes |= cv2.resize(one.hole.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0
    filled = rgb_of(carried_on(lab_of(small), holes, labels))
    whole = cv2.resize(filled, (width, height), interpolation=cv2.INTER_CUBIC)
    share = cv2.resize(holes.astype(np.uint8) * 255, (width, height), interpolation=cv2.INTER_LINEAR)
    made = rgb.copy()
    _lay(made, whole, share)
    for one in leaving:
        if one.by == (0.0, 0.0):
            continue
        k = width / one.part.shape[1]
        shift = np.array([[1, 0, one.by[0] * k], [0, 1, one.by[1] * k]], np.float64)
        part = np.asarray(np.clip(one.part * 255 + 0.5, 0, 255), np.uint8)
        laid = cv2.warpAffine(cv2.resize(part, (width, height), interpolation=cv2.INTER_LINEAR), shift, (width, height))
        moved = cv2.warpAffine(rgb, shift, (width, height), borderMode=cv2.BORDER_REPLICATE)
        _lay(made, moved, laid)
    out: Rgb8 = frozen(made)
    return out


def _lay(canvas: U8, over: Any, share: Any) -> None:
    """Lay a picture over a canvas in place, (H, W, 3) uint8, by a share of 0 to 255; band by band, so that a large one takes no more room."""
    for top in range(0, len(canvas), BAND):
        band = slice(top, top + BAND)
        if share[band].any():
            s = share[band][..., None] * np.float32(1 / 255)
            canvas[band] = np.clip(canvas[band] * (1 - s) + over[band] * s + 0.5, 0, 255)
