"""Where each side of the canvas is seen in a photograph: the step of colour across it, along the side's own course."""

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Points, Rgb8
from foxpath.core.progress.frame import Frame
from foxpath.core.progress.small import blur, lab_of

PROFILES, FINE_MM, MEAN_MM = 70, 0.25, 2.5
REACH_MM = 12.0
NEAR_MM = 1.8
"""A profile's own step is looked for so near the side's course."""
CLOSE_MM = 0.75
"""Then its steepest place, by narrow means: wide ones are drawn aside by what lies next to the step."""
TILT_MM, BOW_MM = 2.5, 1.2
"""Usual spread of a side's tilt and bow about the guess."""
HALF_SEEN_DE = 3.0
"""A step of this colour difference counts half as much as one that cannot be missed."""
UNLIKELY = 0.03
"""Share of what is seen that each squared spread off the guess costs."""
SIDE_SEEN, STEP_SEEN = 0.45, 0.4


def side_points(
    photo: Rgb8, frame: Frame, size: tuple[int, int], px_per_mm: float, spread_mm: float = 5.0
) -> tuple[Points, F64]:
    """Return where sides are seen.

    Parameters
    ----------
    photo : (H, W, 3) uint8 sRGB
    frame : Frame
        A first guess, good to `REACH_MM`.
    size : (width, height)
        Of the work picture.
    px_per_mm : float
    spread_mm : float
        How far off the guess may be: a course farther off must be seen better.

    Returns
    -------
    points : (N, 2)
        In the photograph, px.
    sides : (N,) float64
        Which each bears: 0 top, 1 right, 2 bottom, 3 left.
    """
    width, height = size
    lab = blur(lab_of(photo), 1.2)
    courses = (
        ((0, 0), (width, 0), (0, -1)), ((width, 0), (width, height), (1, 0)),
        ((0, height), (width, height), (0, 1)), ((0, 0), (0, height), (-1, 0)),
    )  # fmt: skip
    points, sides = [], []
    for side, (start, end, outward) in enumerate(courses):
        found = _side(
            lab, frame, np.array(start, float), np.array(end, float), np.array(outward, float), px_per_mm, spread_mm
        )
        points.append(found)
        sides.append(np.full(len(found), float(side)))
    return np.concatenate(points), np.concatenate(sides)


def _side(lab: F32, frame: Frame, start: F64, end: F64, outward: F64, px_per_mm: float, spread_mm: float) -> Points:
    none = np.zeros((0, 2))
    height, width = lab.shape[:2]
    along = np.linspace(0.03, 0.97, PROFILES)[:, None]
    base = start * (1 - along) + end * along
    away = np.arange(-REACH_MM, REACH_MM, FINE_MM) * px_per_mm
    places = (base[:, None] + away[None, :, None] * outward).reshape(-1, 2)
    at = frame.to_photo(places).reshape(PROFILES, len(away), 2)
    inside = (at[..., 0] > 3) & (at[..., 0] < width - 4) & (at[..., 1] > 3) & (at[..., 1] < height - 4)
    whole = inside.all(axis=1)
    if whole.mean() < 0.5:
        return none
    # A pixel's middle lies at a half.
    there = (at - 0.5).astype(np.float32)
    profile = cv2.remap(lab, there[..., 0], there[..., 1], cv2.INTER_LINEAR)
    k = round(MEAN_MM / FINE_MM)
    sums = np.cumsum(np.pad(profile, ((0, 0), (1, 0), (0, 0))), axis=1)
    mean = (sums[:, k:] - sums[:, :-k]) / k
    step = np.linalg.norm(mean[:, k:] - mean[:, :-k], axis=-1)
    seen = np.where(whole[:, None], step / (HALF_SEEN_DE + step), 0)
    offset = away[k : k + seen.shape[1]]
    course, mean_seen = _course(seen, offset, along[:, 0] * 2 - 1, px_per_mm, spread_mm)
    if mean_seen < SIDE_SEEN:
        return none
    c = max(1, round(CLOSE_MM / FINE_MM))
    narrow = (sums[:, c:] - sums[:, :-c]) / c
    sharp = np.linalg.norm(narrow[:, c:] - narrow[:, :-c], axis=-1)
    sharp_offset = away[c : c + sharp.shape[1]] - FINE_MM / 2 * px_per_mm
    found = []
    for n in np.flatnonzero(whole):
        near = np.where(np.abs(offset - course[n]) < NEAR_MM * px_per_mm, seen[n], 0)
        j = int(np.argmax(near))
        if near[j] < STEP_SEEN:
            continue
        close = np.where(np.abs(sharp_offset - offset[j]) < 1.5 * CLOSE_MM * px_per_mm, sharp[n], 0)
        k = int(np.argmax(close))
        part = slice(max(0, k - 2), k + 3)
        weight = close[part] ** 2 + 1e-9
        found.append(base[n] + float((weight * sharp_offset[part]).sum() / weight.sum()) * outward)
    return frame.to_photo(np.array(found)) if found else none


def _course(seen: F64, offset: F64, along: F64, px_per_mm: float, spread_mm: float) -> tuple[F64, float]:
    """Return the best whole course of a side (lens and canvas bow it), by trying all, and the mean of what is seen along it."""
    best, seen_best, course = -9.0, 0.0, np.zeros(len(along))
    number = np.arange(len(along))
    fine = offset[1] - offset[0]
    for tilt in np.arange(-5, 5.1) * px_per_mm:
        for bow in np.arange(-3, 3.1) * px_per_mm:
            shape = tilt * along + bow * (along**2 - 0.5)
            at = np.round((offset[::3, None] + shape[None] - offset[0]) / fine).astype(int)
            good = (at >= 0) & (at < len(offset))
            value = np.where(good, seen[number[None], np.clip(at, 0, len(offset) - 1)], 0).sum(axis=1) / len(along)
            value[good.mean(axis=1) < 0.9] = -1
            far = (
                (offset[::3] / px_per_mm / spread_mm) ** 2
                + (tilt / px_per_mm / TILT_MM) ** 2
                + (bow / px_per_mm / BOW_MM) ** 2
            )
            likely = value - UNLIKELY * far
            j = int(np.argmax(likely))
            if likely[j] > best:
                best, seen_best, course = float(likely[j]), float(value[j]), offset[::3][j] + shape
    return course, seen_best
