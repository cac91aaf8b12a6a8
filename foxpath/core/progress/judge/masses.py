"""Masses at a squint: parts, then patches of parts, in lightness, warmth and strength of colour.

Everything is looked at on one pixel for a mm of the canvas: a squint needs no more, and mm and pixels are the same number.
"""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, Bool
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.seen import Seen
from foxpath.core.progress.sight import spot_seen_m
from foxpath.core.progress.small import blur, blurred_within, resized, shrunk

SQUINT_MM, PATCH_MM, SPREAD_OVER_MM = 1.5, 6.0, 18.0
LEAST_CELLS, LEAST_MM2 = 40, 150.0
"""A part is measured 2 mm within its rim where so much of it lies there, else up to its rim; below so many mm2 it is no mass."""
COLOURED = 9.0
"""A part below this chroma has no strength of colour to speak of."""
USUAL_SPREAD = 1.2
RIM_MM = 5.0
"""So near the canvas's border a patch is not told: the frame's own doubt lies there."""
DRIFTS = 1.5
PATCHES, PATCH_APART_MM, PATCH_REACH_MM = 4, 35, 60.0


@dataclass(frozen=True, slots=True)
class PartOff:
    """How a part differs from its plan under a squint.

    Attributes
    ----------
    part : int
    d_l, d_c, d_h : float
        L*, chroma and hue angle (degrees, NaN where it has no hue), photograph less plan.
    de : float
        Distance in CIELAB.
    warmer : float
        b* with a third of a*.
    area_cm2 : float
    seen : float
        Share of the part that could be judged.
    """

    part: int
    d_l: float
    d_c: float
    d_h: float
    de: float
    warmer: float
    area_cm2: float
    seen: float


def _warmth(difference: F32) -> F32:
    return np.asarray((0.3 * difference[..., 1] + difference[..., 2]) / 1.04, np.float32)


def masses(planned: Planned, seen: Seen) -> tuple[list[Candidate], tuple[PartOff, ...]]:
    """Return candidates, and how every part differs."""
    px = planned.px_per_mm
    scale = 1 / px
    mean_plan = (blur(resized(planned.lab, scale), SQUINT_MM) + blur(resized(planned.other_lab, scale), SQUINT_MM)) / 2
    canvas = blur(resized(seen.fine, scale), SQUINT_MM)
    good = resized(seen.use.astype(np.float32), scale) > 0.95
    labels = cv2.resize(planned.labels, good.shape[::-1], interpolation=cv2.INTER_NEAREST)
    off = np.asarray(canvas - mean_plan, np.float32)
    judged = np.zeros(labels.shape, np.float32)
    table: list[PartOff] = []
    found: list[Candidate] = []
    usual = np.zeros_like(off)
    for k, part in enumerate(planned.parts):
        mine = labels == k
        inner = shrunk(mine, 2) > 0
        inner = (inner if inner.sum() >= LEAST_CELLS else mine) & good
        if inner.sum() < LEAST_CELLS or part.kind == "whisker":
            continue
        judged[inner] = 1
        d, base = np.median(off[inner], axis=0), np.median(mean_plan[inner], axis=0)
        usual[mine] = d
        area = float(inner.sum())
        was, now = float(np.hypot(base[1], base[2])), float(np.hypot(base[1] + d[1], base[2] + d[2]))
        turn = np.degrees(np.arctan2(base[2] + d[2], base[1] + d[1]) - np.arctan2(base[2], base[1]))
        warmer = float(_warmth(d))
        table.append(
            PartOff(
                k, float(d[0]), now - was, float((turn + 180) % 360 - 180) if was > 5 else float("nan"), float(np.linalg.norm(d)), warmer,
                area / 100, float(inner.sum() / max(mine.sum(), 1)),
            )
        )  # fmt: skip
        if area < LEAST_MM2 or part.kind == "eye":
            continue
        ys, xs = np.nonzero(inner)
        # The middle of a bent part may lie outside it: its own point nearest to there.
        j = int(np.argmin((xs - xs.mean()) ** 2 + (ys - ys.mean()) ** 2))
        where = (float(xs[j]) * px, float(ys[j]) * px)
        side = float(np.sqrt(area))
        found += _part(k, d, was, now, warmer, where, side)
    rim = round(RIM_MM)
    judged[:rim] = judged[-rim:] = 0
    judged[:, :rim] = judged[:, -rim:] = 0
    found += _patches(planned, np.asarray(mean_plan, np.float32), off - usual, judged, labels, seen.registration_mm)
    return found, tuple(table)


def _part(
    k: int, d: F32, was: float, now: float, warmer: float, where: tuple[float, float], side: float
) -> list[Candidate]:
    found = [
        Candidate(
            "value",
            "value part",
            abs(float(d[0])),
            *where,
            float(d[0]),
            "L*",
            spot_seen_m(side, float(d[0])),
            k,
            radius_mm=side / 2,
            doubt=1.0,
        )
    ]
    ratio = (now + 2) / (was + 2)
    if was > COLOURED:
        told = abs(np.log(ratio)) if abs(now - was) > 3 else 0.0
        found.append(
            Candidate("strength", "strength", float(told), *where, 100 * (ratio - 1), "%", spot_seen_m(side, now - was, colour=True), k, radius_mm=side / 2, doubt=6)
        )  # fmt: skip
    # Of an orange coat warmer and stronger are one direction: the larger word is taken.
    other = was <= COLOURED or abs(now - was) < 0.8 * float(np.hypot(d[1], d[2]))
    found.append(
        Candidate("warmth", "warmth part", abs(warmer) * (1.0 if other else 0.8), *where, warmer, "dE", spot_seen_m(side, warmer, colour=True), k, radius_mm=side / 2, doubt=1.2)
    )  # fmt: skip
    return found


def _patches(
    planned: Planned, plan: F32, off: F32, judged: F32, labels: np.ndarray, drift_mm: float
) -> list[Candidate]:
    """Return patches that differ from their part: under a wider squint, less the spread of two hands there."""
    px = planned.px_per_mm
    scale = 1 / px
    rest = blurred_within(off, judged, PATCH_MM)
    hands = blur(resized(planned.lab, scale), PATCH_MM) - blur(resized(planned.other_lab, scale), PATCH_MM)
    spread = np.sqrt(blur(np.asarray(hands * hands, np.float32), SPREAD_OVER_MM))
    # What lies a little elsewhere differs by as much as the plan rises there.
    squint = blur(plan, PATCH_MM)
    rise = np.hypot(np.gradient(squint, axis=0), np.gradient(squint, axis=1))
    spread = np.hypot(spread, DRIFTS * max(drift_mm, 0.5) * rise)
    known = blur(judged, PATCH_MM) > 0.45
    y, x = np.mgrid[: known.shape[0], : known.shape[1]]
    found = []
    for kind, rule, value, sd in (
        ("value", "value patch", rest[..., 0], spread[..., 0]), ("warmth", "warmth patch", _warmth(rest), spread[..., 2]),
    ):  # fmt: skip
        measure = np.where(known, value / np.sqrt(1 + (sd / USUAL_SPREAD) ** 2), 0)
        for _ in range(PATCHES):
            i, j = np.unravel_index(int(np.argmax(np.abs(measure))), measure.shape)
            if abs(measure[i, j]) < 2:
                break
            away = np.hypot(y - i, x - j)
            radius = _reach(value, int(i), int(j), away)
            unit, colour = ("L*", False) if kind == "value" else ("dE", True)
            found.append(
                Candidate(
                    kind, rule, float(abs(measure[i, j])), float(j) * px, float(i) * px, float(value[i, j]), unit,
                    spot_seen_m(2 * radius, float(value[i, j]), float(sd[i, j]), colour=colour), int(labels[i, j]), radius_mm=radius, doubt=1.5 + float(sd[i, j]),
                )
            )  # fmt: skip
            measure[away < PATCH_APART_MM] = 0
    return found


def _reach(value: F32, i: int, j: int, away: F32) -> float:
    """Return the radius, mm, of what is at least half as far off round a place."""
    half: Bool = (
        (np.abs(value) > 0.5 * abs(value[i, j])) & (away < PATCH_REACH_MM) & (np.sign(value) == np.sign(value[i, j]))
    )
    _, pieces = cv2.connectedComponents(half.astype(np.uint8))
    return float(np.sqrt((pieces == pieces[i, j]).sum() / np.pi))
