"""Bare patches, and single strokes that jump out: what leaves the range that the plan has near a place, in both hands."""

import cv2
import numpy as np

from foxpath.core.arrays import F32, Bool
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.seen import Seen
from foxpath.core.progress.sight import spot_seen_m
from foxpath.core.progress.small import blur, disc, resized

BARE_PX, BARE_BLUR_MM, RANGE_MM = 2.0, 0.6, 4.0
OVER_DE, LEAST_MM2, MOST_MM2, ROUND = 4.5, 5.0, 900.0, 2.4
PALE_L, PALE_C, LIKE_GROUND = 72.0, 14.0, 7.0
OWN_GROUND_MM, OWN_GROUND = 6.0, 0.08
MEAN_MM, MEAN_RANGE_MM, MEAN_DE = 1.6, 2.5, 7.5
"""A patch of ground among hair as light as it: its mean over so many mm leaves the range of means close by."""
BORDER_MM = 2.0
BAR_PX, BAR_WIDE_MM, BAR_LONG_MM, BAR_TURNS = 1.5, 2.4, 9.0, 12
BAR_NEAR_MM, BAR_BORDER_MM, STROKES, STROKE_APART_MM = 14.0, 6.0, 6, 12.0
SPREAD_MM = 12.0
LIVELY_L = 11.0


def _spread(light: F32, over: int) -> F32:
    mean = cv2.blur(light, (over, over))
    return np.asarray(np.sqrt(np.maximum(cv2.blur(light * light, (over, over)) - mean * mean, 0)), np.float32)


def _bare_like(planned: Planned, lab: F32) -> Bool:
    """Return where a colour is that of white or of this painting's own bare ground."""
    pale = (lab[..., 0] > PALE_L) & (np.hypot(lab[..., 1], lab[..., 2]) < PALE_C)
    if planned.ground is not None:
        pale = pale | (np.linalg.norm(lab - planned.ground, axis=-1) < LIKE_GROUND)
    return np.asarray(pale)


def _beyond(a: F32, b: F32, canvas: F32, within_mm: float) -> F32:
    """Return how far a canvas leaves the range that both hands have within some mm, as a distance in CIELAB."""
    kernel = disc(within_mm * BARE_PX)
    high, low = cv2.dilate(np.maximum(a, b), kernel), cv2.erode(np.minimum(a, b), kernel)
    beyond = np.where(canvas > high, canvas - high, np.where(canvas < low, canvas - low, 0))
    return np.asarray(np.linalg.norm(beyond, axis=-1), np.float32)


def bare(planned: Planned, seen: Seen) -> list[Candidate]:
    """Return patches where the canvas shows bare, the plan's own peeks of ground excepted."""
    scale = BARE_PX / planned.px_per_mm
    a, b, canvas = (
        blur(resized(lab, scale), BARE_BLUR_MM * BARE_PX) for lab in (planned.lab, planned.other_lab, seen.fine)
    )
    over = _beyond(a, b, canvas, RANGE_MM)
    wide_a, wide_b, mean = (blur(one, MEAN_MM * BARE_PX) for one in (a, b, canvas))
    like = np.linalg.norm(mean - planned.ground, axis=-1) < LIKE_GROUND if planned.ground is not None else False
    over = np.maximum(over, np.where(like, _beyond(wide_a, wide_b, mean, MEAN_RANGE_MM) * OVER_DE / MEAN_DE, 0))
    over = over * (resized(seen.use.astype(np.float32), scale) > 0.9)
    rim = round(BORDER_MM * BARE_PX)
    over[:rim] = over[-rim:] = 0
    over[:, :rim] = over[:, -rim:] = 0
    labels = cv2.resize(planned.labels, over.shape[::-1], interpolation=cv2.INTER_NEAREST)
    ground = _bare_like(planned, canvas)
    own = _bare_like(planned, a) | _bare_like(planned, b)
    allowed = blur(own.astype(np.float32), OWN_GROUND_MM * BARE_PX) > OWN_GROUND
    spread = _spread(np.ascontiguousarray(a[..., 0]), round(SPREAD_MM * BARE_PX) | 1)
    _, pieces, stats, centres = cv2.connectedComponentsWithStats((over > OVER_DE).astype(np.uint8))
    found = []
    px = planned.px_per_mm / BARE_PX
    for k in range(1, len(stats)):
        area = stats[k, cv2.CC_STAT_AREA] / BARE_PX**2
        if not LEAST_MM2 <= area <= MOST_MM2:
            continue
        x, y, w, h = stats[k, :4]
        mine = pieces[y : y + h, x : x + w] == k
        ys, xs = np.nonzero(mine)
        spans = np.sqrt(np.linalg.eigvalsh(np.cov(np.stack([xs, ys])) + np.eye(2) * 0.1))
        cx, cy = centres[k]
        part = int(labels[int(cy), int(cx)])
        if part >= 0 and planned.parts[part].kind in ("eye", "whisker"):
            continue
        if (
            spans[1] / spans[0] >= ROUND
            or ground[y : y + h, x : x + w][mine].mean() <= 0.5
            or allowed[int(cy), int(cx)]
        ):
            continue
        strong = float(np.percentile(over[y : y + h, x : x + w][mine], 75))
        wide = 2 * float(np.sqrt(area / np.pi))
        found.append(
            Candidate(
                "bare", "bare", strong * min(1.0, wide / 5), float(cx) * px, float(cy) * px, area / 100, "cm2",
                spot_seen_m(wide, strong + 4, float(spread[int(cy), int(cx)])), part, radius_mm=wide / 2, doubt=0.3 * area / 100,
            )
        )  # fmt: skip
    return found


def _bars(light: F32) -> F32:
    """Return (turns, H, W): how much lighter a bar is than its two sides, in each direction."""
    reach = int(max(BAR_LONG_MM, 3 * BAR_WIDE_MM) * BAR_PX * 0.75)
    y, x = np.mgrid[-reach : reach + 1, -reach : reach + 1].astype(np.float32) / BAR_PX
    made = []
    for turn in np.arange(BAR_TURNS) * np.pi / BAR_TURNS:
        across, along = x * np.sin(turn) - y * np.cos(turn), x * np.cos(turn) + y * np.sin(turn)
        length = np.exp(-(along**2) / 2 / (BAR_LONG_MM * 0.36) ** 2)
        middle = length * np.exp(-(across**2) / 2 / (BAR_WIDE_MM * 0.4) ** 2)
        sides = np.clip(length * np.exp(-(across**2) / 2 / (BAR_WIDE_MM * 1.1) ** 2) - 0.9 * middle, 0, None)
        made.append(cv2.filter2D(light, -1, (middle / middle.sum() - sides / sides.sum()).astype(np.float32)))
    return np.stack(made)


def strokes(planned: Planned, seen: Seen) -> list[Candidate]:
    """Return single marks whose bar is stronger than any bar of about that direction that either hand has near."""
    scale = BAR_PX / planned.px_per_mm
    good = resized(seen.use.astype(np.float32), scale) > 0.95
    rim = int(BAR_BORDER_MM * BAR_PX)
    good[:rim] = good[-rim:] = False
    good[:, :rim] = good[:, -rim:] = False
    labels = cv2.resize(planned.labels, good.shape[::-1], interpolation=cv2.INTER_NEAREST)
    canvas = _bars(np.ascontiguousarray(resized(seen.fine, scale)[..., 0]))
    hands = [
        np.abs(_bars(np.ascontiguousarray(resized(lab, scale)[..., 0]))) for lab in (planned.lab, planned.other_lab)
    ]
    usual = np.maximum(*hands)
    usual = np.maximum.reduce([usual, np.roll(usual, 1, axis=0), np.roll(usual, -1, axis=0)])
    kernel = disc(BAR_NEAR_MM * BAR_PX)
    over = np.abs(canvas) - np.stack([cv2.dilate(one, kernel) for one in usual])
    turn = over.argmax(axis=0)
    most = np.where(good, np.take_along_axis(over, turn[None], 0)[0], -9)
    found = []
    px = planned.px_per_mm / BAR_PX
    y, x = np.mgrid[: most.shape[0], : most.shape[1]]
    for _ in range(STROKES):
        i, j = np.unravel_index(int(np.argmax(most)), most.shape)
        if most[i, j] < 1:
            break
        size, part = float(canvas[turn[i, j], i, j]), int(labels[i, j])
        if part < 0 or planned.parts[part].kind not in ("eye", "whisker"):
            wide = float(np.sqrt(BAR_WIDE_MM * BAR_LONG_MM))
            own = max(0.0, abs(size) - float(most[i, j]))
            seen_m = spot_seen_m(wide, abs(size), own)
            # Where marks are strong, the strongest of a third hand is farther from those of two.
            measure = float(most[i, j]) / float(np.hypot(1.0, own / LIVELY_L))
            found.append(
                Candidate(
                    "stroke",
                    "stroke",
                    measure,
                    float(j) * px,
                    float(i) * px,
                    size,
                    "L*",
                    seen_m,
                    part,
                    radius_mm=BAR_LONG_MM / 2,
                    doubt=2.0,
                )
            )
        most[np.hypot(y - i, x - j) < STROKE_APART_MM * BAR_PX] = -9
    return found
