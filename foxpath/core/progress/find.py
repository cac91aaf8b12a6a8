"""The first guess at where the canvas lies in a photograph: by the picture's own features, else by a four-sided outline.

Measured (see `docs/benchmarks.md`): features carry it though another hand painted the picture, and they alone when a side is cut off.
"""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Points, Rgb8
from foxpath.core.progress.small import blur, lab_of, resized

PHOTO_PX, PLAN_PX = 1000, 800
FEATURES, CONTRAST, RATIO = 4000, 0.015, 0.85
LEAST_AGREE = 8
SQUINT_PX, SQUINT = 320, 1.6
SURE, LEAST = 0.85, 0.35
"""Agreement from which no outline is tried any more, and below which the canvas is not found."""
LEAST_SEEN = 0.4
"""At least so much of the canvas must lie in the photograph."""
OUTLINES = 8
LEAST_AREA = 0.10


@dataclass(frozen=True, slots=True, eq=False)
class Guess:
    """A homography from the photograph's px to work px, how well the two agree under a squint (-1 to 1), and how it was found."""

    homography: F64
    agrees: float
    way: str


def first_guess(plan: Rgb8, photo: Rgb8) -> Guess | None:
    """Return the best guess; None when nothing was found at all.

    Parameters
    ----------
    plan, photo : (H, W, 3) uint8 sRGB
        Of any size.

    Notes
    -----
    Features after SIFT, joined by ratio and by MAGSAC. `Guess.agrees` is the correlation of CIELAB under a squint, each channel weighed
    by how much the plan spreads in it: a caller takes nothing below `LEAST`.
    """
    shrink, less = PHOTO_PX / max(photo.shape[:2]), PLAN_PX / max(plan.shape[:2])
    near, far = resized(photo, shrink), resized(plan, less)
    best = _by_features(far, near)
    if best is None or best.agrees < SURE:
        for one in _by_outlines(far, near):
            if best is None or one.agrees > best.agrees:
                best = one
    if best is None:
        return None
    # What was rounded when they were made smaller counts too.
    kx, ky = near.shape[1] / photo.shape[1], near.shape[0] / photo.shape[0]
    lx, ly = far.shape[1] / plan.shape[1], far.shape[0] / plan.shape[0]
    made = np.diag([1 / lx, 1 / ly, 1.0]) @ best.homography @ np.diag([kx, ky, 1.0])
    return Guess(made, best.agrees, best.way)


@dataclass(frozen=True, slots=True, eq=False)
class _Squinted:
    """A plan as it is held against photographs: smaller by `less`, CIELAB under a squint (H, W, 3)."""

    less: float
    lab: F32


def _squinted(plan: Rgb8) -> _Squinted:
    less = min(1.0, SQUINT_PX / max(plan.shape[:2]))
    return _Squinted(less, blur(lab_of(resized(plan, less)), SQUINT))


def agreement(plan: Rgb8, photo: Rgb8, homography: F64) -> float:
    """Return how well a photograph agrees with the plan under a squint, -1 to 1; -1 when too little of the canvas is seen."""
    return _agreement(_squinted(plan), photo, homography)


def _agreement(plan: _Squinted, photo: Rgb8, homography: F64) -> float:
    size = plan.lab.shape[1::-1]
    homography = np.diag([plan.less, plan.less, 1.0]) @ homography
    laid = cv2.warpPerspective(photo, homography, size, borderMode=cv2.BORDER_REPLICATE)
    seen = cv2.warpPerspective(np.ones(photo.shape[:2], np.uint8), homography, size) > 0
    if seen.mean() < LEAST_SEEN:
        return -1.0
    weights = seen.ravel().astype(np.float32)
    whole = float(weights.sum())
    # From their first pixel on: what is even is so exactly, and no rounding is taken for colour.
    away = (lab.reshape(-1, 3) - lab[0, 0] for lab in (blur(lab_of(laid), SQUINT), plan.lab))
    a, b = (lab - weights @ lab / whole for lab in away)
    weighed = a * weights[:, None]
    other, both = (np.einsum("nk,nk->k", weighed, one, dtype=np.float64) / whole for one in (a, b))
    spread = np.sqrt(np.einsum("n,nk,nk->k", weights, b, b, dtype=np.float64) / whole)
    other = np.sqrt(other)
    told = (spread > 1e-3) & (other > 1e-3)
    same = np.where(told, both / np.where(told, other * spread, 1.0), 0.0)
    return float(np.dot(same, spread) / max(float(spread.sum()), 1e-6))


def _by_features(plan: Rgb8, photo: Rgb8) -> Guess | None:
    sift = cv2.SIFT.create(FEATURES, contrastThreshold=CONTRAST)
    there, what = sift.detectAndCompute(cv2.cvtColor(photo, cv2.COLOR_RGB2GRAY), None)
    wanted, as_what = sift.detectAndCompute(cv2.cvtColor(plan, cv2.COLOR_RGB2GRAY), None)
    if what is None or as_what is None or min(len(what), len(as_what)) < 2 * LEAST_AGREE:
        return None
    pairs = [p for p in cv2.BFMatcher().knnMatch(as_what, what, k=2) if len(p) == 2]
    good = [a for a, b in pairs if a.distance < RATIO * b.distance]
    if len(good) < LEAST_AGREE:
        return None
    source = np.array([there[one.trainIdx].pt for one in good], np.float32)
    target = np.array([wanted[one.queryIdx].pt for one in good], np.float32)
    # The same photograph must give the same answer each time.
    cv2.setRNGSeed(7)
    made, agree = cv2.findHomography(source, target, cv2.USAC_MAGSAC, 8.0, maxIters=20000, confidence=0.9999)
    if made is None or int(agree.sum()) < LEAST_AGREE or np.linalg.det(made[:2, :2]) <= 0:
        return None
    found = np.asarray(made, np.float64)
    return Guess(found, agreement(plan, photo, found), "features")


def _by_outlines(plan: Rgb8, photo: Rgb8) -> list[Guess]:
    """Return guesses by four-sided outlines, each in its four turns."""
    height, width = plan.shape[:2]
    squinted = _squinted(plan)
    target = np.array([[0, 0], [width, 0], [width, height], [0, height]], np.float32)
    found = []
    for outline in four_sided(photo)[:OUTLINES]:
        for turn in range(4):
            made = cv2.getPerspectiveTransform(np.roll(outline, -turn, axis=0).astype(np.float32), target)
            laid = np.asarray(made, np.float64)
            found.append(Guess(laid, _agreement(squinted, photo, laid), "outline"))
    return found


def four_sided(photo: Rgb8) -> list[Points]:
    """Return four-sided outlines in a picture, the largest first, each (4, 2) px, clockwise."""
    lab = cv2.bilateralFilter(cv2.cvtColor(photo, cv2.COLOR_RGB2LAB), 9, 25, 9)
    found: list[Points] = []
    for low in (15, 30, 60):
        edges = np.max([cv2.Canny(np.ascontiguousarray(lab[..., k]), low, 2 * low) for k in range(3)], axis=0)
        edges = cv2.dilate(edges, np.ones((5, 5), np.uint8))
        for contour in cv2.findContours(edges, cv2.RETR_LIST, cv2.CHAIN_APPROX_SIMPLE)[0]:
            hull = cv2.convexHull(contour)
            if cv2.contourArea(hull) < LEAST_AREA * edges.size:
                continue
            for share in (0.02, 0.04, 0.07):
                four = cv2.approxPolyDP(hull, share * cv2.arcLength(hull, True), True)[:, 0].astype(np.float64)
                if len(four) == 4:
                    away = four - four.mean(axis=0)
                    found.append(four[np.argsort(np.arctan2(away[:, 1], away[:, 0]))])
                    break
    return sorted(found, key=lambda one: -float(cv2.contourArea(one.astype(np.float32))))
