"""Borders: how crisp each is against its plan, and outlines that were not planned.

Each border is laid out straight, as a band: along it, and across from one part into the other. In the band the colours are laid on the axis from
one side's to the other's. Then the path along the band is looked for on which the step is steepest; it may wander a few millimetres, as a hand
does, but not jump, so that single hairs make no edge and a cut contour does (dynamic programming over the band). The steepness along that path is
held against the same of both hands' plans, and what the camera blurs, found from all borders together, is allowed for.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Points
from foxpath.core.curves import line_length, normals, resample
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.seen import Seen
from foxpath.core.progress.sight import spot_seen_m
from foxpath.core.progress.small import blur

REACH_MM, ACROSS_MM, ALONG_MM = 9.0, 0.3, 0.5
STRETCH_MM, EVERY_MM = 22.0, 8.0
SIDE_FROM_MM, NARROW_FROM_MM, SIDE_TO_MM = 3.5, 1.5, 8.0
PATH_MM = 3.5
LEAST_STEP, LEAST_POINTS = 8.0, 8
RIM_MM = 4.0
"""So near the canvas's border the frame's own doubt makes edges soft."""
STEEP_MM, OVER_MM = 0.5, 1.2
"""A step is read over so many mm across, and its path over so many along."""
FLOOR_MM = 0.35
HANDS, USUAL_LOG, TOLD_AT = 0.7, 0.14, 3.9
BESIDE_MM = 1.8


@dataclass(frozen=True, slots=True, eq=False)
class Stretch:
    """A stretch of a border: its middle (work px), and for plan, other hand and canvas its width, mm, its step, and its outline, L*."""

    front: int
    back: int
    at: tuple[float, float]
    width: tuple[float, float, float]
    step: tuple[float, float, float]
    outline: tuple[float, float, float]


def _band(run: Points, px_per_mm: float) -> tuple[F32, F32]:
    """Return where a band along a line lies: x and y, (along, across)."""
    count = int(line_length(run) / (ALONG_MM * px_per_mm)) + 1
    if count < LEAST_POINTS:
        return np.zeros((0, 0), np.float32), np.zeros((0, 0), np.float32)
    line = resample(run, count)
    # Across is said by a few mm: outlines are drawn with corners.
    k = min(9, count // 2)
    wide = np.ones(2 * k + 1) / (2 * k + 1)
    across = normals(np.stack([np.convolve(np.pad(one, k, mode="edge"), wide, "valid") for one in line.T], axis=1))
    away = np.arange(-REACH_MM, REACH_MM + ACROSS_MM / 2, ACROSS_MM) * px_per_mm
    x = line[:, :1] + across[:, :1] * away
    y = line[:, 1:] + across[:, 1:] * away
    return x.astype(np.float32), y.astype(np.float32)


def stretches(planned: Planned, seen: Seen) -> list[Stretch]:
    """Read every border that has room on both sides, stretch by stretch."""
    pictures = [planned.lab, planned.other_lab, seen.fine]
    # A band that is coarser than the picture averages it.
    fine = 0.35 * ACROSS_MM * planned.px_per_mm
    pictures = [blur(one, fine) for one in pictures] if fine > 0.3 else pictures
    use = seen.use.astype(np.uint8)
    rim = round(RIM_MM * planned.px_per_mm)
    use[:rim] = use[-rim:] = 0
    use[:, :rim] = use[:, -rim:] = 0
    found = []
    for edge in planned.edges:
        kinds = {planned.parts[k].kind for k in (edge.front, edge.back) if k >= 0}
        if edge.back < 0 or kinds & {"eye", "whisker"}:
            continue
        for run in edge.runs:
            x, y = _band(run, planned.px_per_mm)
            if not x.size:
                continue
            labels = cv2.remap(planned.labels, x - 0.5, y - 0.5, cv2.INTER_NEAREST, borderValue=-2)
            good = cv2.remap(use, x - 0.5, y - 0.5, cv2.INTER_NEAREST, borderValue=0) > 0
            colours = [
                np.asarray(
                    cv2.remap(one, x - 0.5, y - 0.5, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE), np.float32
                )
                for one in pictures
            ]
            found += _along(colours, labels, good, edge.front, edge.back, x, y)
    return found


def _along(
    colours: Sequence[F32], labels: np.ndarray, good: Bool, front: int, back: int, x: F32, y: F32
) -> list[Stretch]:
    away = np.linspace(-REACH_MM, REACH_MM, labels.shape[1])
    rows, every = round(STRETCH_MM / ALONG_MM), round(EVERY_MM / ALONG_MM)
    # Which way the band was laid out, its own line says.
    right = (labels[:, away > 1] == front).mean() >= (labels[:, away < -1] == front).mean()
    if not right:
        labels, good, colours = labels[:, ::-1], good[:, ::-1], [one[:, ::-1] for one in colours]
    found = []
    for begin in range(0, max(1, len(x) - rows // 2), every):
        part = slice(begin, begin + rows)
        if len(x[part]) < rows // 2:
            continue
        read = _read([one[part] for one in colours], labels[part], good[part], front, back, away)
        if read is not None:
            middle = begin + len(x[part]) // 2
            at = (float(x[middle, x.shape[1] // 2]), float(y[middle, y.shape[1] // 2]))
            found.append(Stretch(front, back, at, *read))
    return found


Three = tuple[float, float, float]


def _read(
    colours: Sequence[F32], labels: np.ndarray, good: Bool, front: int, back: int, away: F64
) -> tuple[Three, Three, Three] | None:
    """Return widths, steps and outlines of a stretch in each picture; None where its sides have no room."""
    sides = []
    for sign, part in ((-1, back), (1, front)):
        for least in (SIDE_FROM_MM, NARROW_FROM_MM):
            room = (labels == part) & good & (away[None] * sign > least) & (away[None] * sign < SIDE_TO_MM)
            if room.sum() > 120:
                break
        else:
            return None
        sides.append(room)
    middle = (np.abs(away)[None] < PATH_MM) & good & ((labels == front) | (labels == back))
    if middle.sum() < 0.8 * (np.abs(away) < PATH_MM).sum() * len(labels):
        return None
    widths, steps, lines = [], [], []
    for colour in colours:
        low, high = (np.median(colour[room], axis=0) for room in sides)
        axis = high - low
        step = float(np.linalg.norm(axis))
        if step < LEAST_STEP / 2:
            return None
        share = np.asarray((colour - low) @ axis / step**2, np.float32)
        share = blur(share, OVER_MM / ALONG_MM / 2)
        k = max(1, round(STEEP_MM / ACROSS_MM))
        slope = np.zeros_like(share)
        slope[:, k:-k] = (share[:, 2 * k :] - share[:, : -2 * k]) / (2 * k * ACROSS_MM)
        steep = _path(slope, away)
        widths.append(1.02 / max(steep, 0.04))
        steps.append(step)
        lines.append(_line(colour[..., 0], away))
    return tuple(widths), tuple(steps), tuple(lines)  # type: ignore[return-value]


def _path(value: F32, away: F64) -> float:
    """Return the highest mean of a value along a path down the rows that never jumps: by dynamic programming."""
    near = np.abs(away) < PATH_MM
    band = value[:, near]
    best = band[0].copy()
    for row in band[1:]:
        left = np.concatenate([[-np.inf], best[:-1]])
        right = np.concatenate([best[1:], [-np.inf]])
        best = np.maximum.reduce([best, left, right]) + row
    return float(best.max()) / len(band)


def _line(light: F32, away: F64) -> float:
    """Return by how much L* along the best path stands over both its sides (or under both, negative)."""
    fine = blur(np.ascontiguousarray(light), 0.6)
    far = round(BESIDE_MM / ACROSS_MM)
    left, right = np.roll(fine, far, axis=1), np.roll(fine, -far, axis=1)
    over = _path(blur(np.minimum(fine - left, fine - right), 1.5), away)
    under = _path(blur(np.minimum(left - fine, right - fine), 1.5), away)
    return over if over >= under else -under


def edges(planned: Planned, seen: Seen) -> list[Candidate]:
    """Return stretches that came out too hard or too soft, and outlines."""
    read = stretches(planned, seen)
    clear = [one for one in read if min(one.step) > LEAST_STEP]
    camera = _camera_mm(clear)
    found = []
    for one in clear:
        a, b, canvas = (
            np.log(np.hypot(w, extra) + FLOOR_MM) for w, extra in zip(one.width, (camera, camera, 0.0), strict=True)
        )
        off = float(canvas - (a + b) / 2)
        measure = abs(off) / float(np.hypot(USUAL_LOG, HANDS * (a - b))) / TOLD_AT
        wide, was = one.width[2], float(np.exp((a + b) / 2)) - FLOOR_MM
        found.append(
            Candidate(
                "edge", "edge", measure, *one.at, wide, "mm", spot_seen_m(2 * max(abs(wide - was), 0.3), 0.5 * min(one.step)), one.front, one.back,
                radius_mm=STRETCH_MM / 2, doubt=0.4 * wide, planned=max(was, 0.1),
            )
        )  # fmt: skip
    for one in read:
        mine, hands = one.outline[2], one.outline[:2]
        over = mine - max(*hands, 0.0) if mine > 0 else min(*hands, 0.0) - mine
        found.append(
            Candidate(
                "lights", "outline", over, *one.at, mine, "L*", spot_seen_m(4.0, max(0.0, over)), one.front, one.back, radius_mm=STRETCH_MM / 2, doubt=1.5,
            )
        )  # fmt: skip
    return found


def _camera_mm(read: Sequence[Stretch]) -> float:
    """Return by how much the camera widens a border: what the crisp ones gained, their lower quartile."""
    gains = [one.width[2] ** 2 - float(np.mean(one.width[:2])) ** 2 for one in read if max(one.width[:2]) < 3]
    return float(np.sqrt(max(0.0, float(np.percentile(gains, 30))))) if len(gains) >= 4 else 0.0
