"""Eyes, nose and beak: whether each stands where it was planned, in size and shape, and its catchlight at its hour."""

import contextlib

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64
from foxpath.core.eyes.eye import clock
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.planned import Planned, PlannedEye
from foxpath.core.progress.seen import Seen
from foxpath.core.progress.sight import shift_seen_m
from foxpath.core.progress.small import blur

ROOM_RADII, MASK_RADII, TEMPLATE_RADII = 2.4, 1.5, 1.35
RADIUS_PX, SQUINT_PX = 48, 3.0
LEAST_FIT = 0.6
TOLD_BY = 0.2
"""Share of what an eye in its own shape leaves unlike that another shape must explain to be believed in full. Of ovals that were put into eyes
with a clear rim 0.7 and more is explained; of a dark eye in dark curls hardly anything is, whatever shape is fitted."""
STEADY_MM = 14.0
"""An eye smaller than this is drawn no steadier than one of this size."""
LIGHT_L, LIGHT_OVER = 60.0, 14.0
"""A catchlight is at least so light, and so much lighter than what lies round it."""
MIDDLE = 0.2
"""Nearer to the middle than this share of the radius a catchlight has no hour."""
LEAST_LIGHT_MM2 = 0.4


def clear_of_border(planned: Planned, seen: Seen, eye: PlannedEye) -> bool:
    """Tell whether an eye can be judged: its surroundings are on the canvas and in the photograph, without glare."""
    reach = int(ROOM_RADII * eye.radius)
    x, y = int(eye.x) - reach, int(eye.y) - reach
    width, height = planned.size
    if x < 0 or y < 0 or x + 2 * reach > width or y + 2 * reach > height or reach < 4:
        return False
    return float(seen.use[y : y + 2 * reach, x : x + 2 * reach].mean()) >= 0.9


def eyes(planned: Planned, seen: Seen) -> list[Candidate]:
    """Return what was measured of each eye that can be judged.

    Notes
    -----
    The planned eye is looked for by its template and fitted by an affine of L* (Evangelidis and Psarakis' correlation), in the stiff frame, from
    which eyes had been left out.
    """
    found: list[Candidate] = []
    for number, eye in enumerate(planned.eyes):
        if not clear_of_border(planned, seen, eye):
            continue
        fit = _fitted(planned, seen, eye)
        if fit is None:
            continue
        shift, matrix, alike, told = fit
        part = next((k for k, one in enumerate(planned.parts) if one.id == eye.zone), -1)
        wide_mm = 2 * eye.radius / planned.px_per_mm
        off = float(np.hypot(*shift))
        size = float(np.sqrt(abs(np.linalg.det(matrix))))
        oval = float(np.hypot(*matrix[:, 0]) / max(np.hypot(*matrix[:, 1]), 1e-6))
        doubt = 0.5 / max(alike, 0.3)
        found += [
            Candidate(
                "place", "place", off, eye.x, eye.y, off, "mm", shift_seen_m(off, 2 * wide_mm), part, radius_mm=wide_mm,
                toward=(float(shift[0]), float(shift[1])), doubt=doubt, eye=number,
            ),
            Candidate(
                "shape", "size", told * _told(abs(float(np.log(size))), wide_mm), eye.x, eye.y, (size - 1) * wide_mm, "mm", shift_seen_m(abs(size - 1) * wide_mm, 2 * wide_mm),
                part, radius_mm=wide_mm, doubt=0.03 * wide_mm, planned=wide_mm, eye=number,
            ),
            Candidate(
                "shape", "oval", told * _told(abs(float(np.log(oval))), wide_mm), eye.x, eye.y, (oval - 1) * wide_mm, "mm", shift_seen_m(abs(np.log(oval)) * wide_mm, 2 * wide_mm),
                part, radius_mm=wide_mm, doubt=0.03 * wide_mm, planned=wide_mm, eye=number,
            ),
        ]  # fmt: skip
        light = _light(planned, seen, eye, shift, size, part, number)
        if light is not None:
            found.append(light)
    return found


def _told(log: float, wide_mm: float) -> float:
    """Return what is held against the threshold: of a small eye a hand's own drift is a larger share."""
    return log * min(1.0, wide_mm / STEADY_MM)


def _fitted(planned: Planned, seen: Seen, eye: PlannedEye) -> tuple[F64, F64, float, float] | None:
    """Return an eye's shift, mm, its 2 x 2 matrix, how alike it is, and how far its shape is to be believed; None when nothing is like it.

    A shape is fitted to anything; it is believed as far as it explains what a mere shift leaves unlike.
    """
    reach = int(ROOM_RADII * eye.radius)
    x0, y0 = int(eye.x) - reach, int(eye.y) - reach
    scale = RADIUS_PX / eye.radius
    side = round(2 * reach * scale)

    def enlarged(lab: F32) -> F32:
        how = cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC
        return blur(
            cv2.resize(lab[y0 : y0 + 2 * reach, x0 : x0 + 2 * reach], (side, side), interpolation=how), SQUINT_PX
        )

    a, b = enlarged(planned.lab), enlarged(seen.stiff)
    k = side // 2 - int(TEMPLATE_RADII * RADIUS_PX)
    if k < 2:
        return None
    alike = cv2.matchTemplate(b, a[k : side - k, k : side - k], cv2.TM_CCOEFF_NORMED)
    _, best, _, (i, j) = cv2.minMaxLoc(alike)
    warp = np.array([[1, 0, i - k], [0, 1, j - k]], np.float32)
    y, x = np.mgrid[:side, :side]
    mask = (np.hypot(x - side / 2, y - side / 2) < MASK_RADII * RADIUS_PX).astype(np.uint8)
    until = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, 60, 1e-5)
    light, canvas = (np.ascontiguousarray(one[..., 0]) for one in (a, b))
    # Too far off to be fitted, the template's place stands.
    told = 0.0
    with contextlib.suppress(cv2.error):
        best, made = cv2.findTransformECC(light, canvas, warp.copy(), cv2.MOTION_TRANSLATION, until, mask, 1)
        warp, plain = np.asarray(made, np.float32), float(best)
        shaped, made = cv2.findTransformECC(light, canvas, warp.copy(), cv2.MOTION_AFFINE, until, mask, 1)
        if shaped > plain:
            told = min(1.0, (shaped - plain) / max(1 - plain, 1e-6) / TOLD_BY)
            best, warp = shaped, np.asarray(made, np.float32)
    if best < LEAST_FIT:
        return None
    matrix = np.asarray(warp[:, :2], np.float64)
    middle = np.array([(eye.x - x0) * scale, (eye.y - y0) * scale])
    shift = (matrix @ middle + warp[:, 2] - middle) / scale / planned.px_per_mm
    return np.asarray(shift), matrix, float(best), told


def catchlight_of(lab: F32, x: float, y: float, radius: float, px_per_mm: float) -> tuple[float, float, float] | None:
    """Return (x, y, area in mm²) of the brightest small spot in an eye; None without one.

    Parameters
    ----------
    lab : (H, W, 3) float32
    x, y, radius : float
        The iris, px.
    px_per_mm : float
    """
    reach = int(np.ceil(1.05 * radius)) + 2
    x0, y0 = max(0, int(x) - reach), max(0, int(y) - reach)
    light = np.ascontiguousarray(lab[y0 : int(y) + reach, x0 : int(x) + reach, 0])
    if min(light.shape) < 5:
        return None
    light = blur(light, max(0.2, 0.03 * radius))
    v, u = np.mgrid[: light.shape[0], : light.shape[1]]
    inside = np.hypot(u + x0 + 0.5 - x, v + y0 + 0.5 - y) < 0.9 * radius
    if inside.sum() < 12:
        return None
    top = float(light[inside].max())
    usual = float(np.percentile(light[inside], 70))
    if top < LIGHT_L or top - usual < LIGHT_OVER:
        return None
    bright = (inside & (light > (top + usual) / 2)).astype(np.uint8)
    peak = np.unravel_index(int(np.argmax(np.where(inside, light, -1))), light.shape)
    _, pieces = cv2.connectedComponents(bright)
    mine = pieces == pieces[peak]
    ys, xs = np.nonzero(mine)
    weight = light[mine] - (top + usual) / 2 + 1e-3
    cx, cy = float((weight * xs).sum() / weight.sum()), float((weight * ys).sum() / weight.sum())
    return cx + x0 + 0.5, cy + y0 + 0.5, float(mine.sum()) / px_per_mm**2


def _light(
    planned: Planned, seen: Seen, eye: PlannedEye, shift: F64, size: float, part: int, number: int
) -> Candidate | None:
    if eye.hour is None or eye.light is None:
        return None
    mm = planned.px_per_mm
    was = catchlight_of(planned.lab, eye.x, eye.y, eye.radius, mm)
    if was is None or was[2] < LEAST_LIGHT_MM2:
        return None
    x, y = eye.x + shift[0] * mm, eye.y + shift[1] * mm
    radius = eye.radius * size
    now = catchlight_of(seen.stiff, x, y, radius, mm)
    wide_mm = 2 * eye.radius / mm
    if now is None:
        return Candidate(
            "catchlight",
            "catchlight",
            1.5,
            eye.x,
            eye.y,
            0.0,
            "h",
            shift_seen_m(0.3 * wide_mm, wide_mm),
            part,
            radius_mm=wide_mm,
            eye=number,
        )
    gap = float(np.hypot(now[0] - x - (was[0] - eye.x), now[1] - y - (was[1] - eye.y))) / mm
    far = max(np.hypot(now[0] - x, now[1] - y), np.hypot(was[0] - eye.x, was[1] - eye.y)) / radius
    if far < MIDDLE:
        return None
    turn = (clock((x, y), now[:2]) - clock((eye.x, eye.y), was[:2]) + 6) % 12 - 6
    measure = min(abs(turn), 18 * gap / wide_mm)
    return Candidate(
        "catchlight", "catchlight", measure, eye.x, eye.y, float(turn), "h", shift_seen_m(gap, wide_mm), part, radius_mm=wide_mm,
        doubt=0.3, planned=clock((eye.x, eye.y), was[:2]), eye=number,
    )  # fmt: skip
