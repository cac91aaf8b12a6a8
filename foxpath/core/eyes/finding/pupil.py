"""The pupil within an iris: its dark part, its border, its shape."""

import math
from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Lab, Points
from foxpath.core.errors import InputError
from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.window import ANGLES, WINDOW, read_lab
from foxpath.core.eyes.fit import fit_ellipse

_FAINT, _CENTRED = 18.0, 0.12
"""A pupil darker than its iris by less than this, L*, and farther from its middle than this, in radii, is none."""
_USUAL = 0.42
"""Radius of a pupil that is not seen, as a share of its iris's."""
_SLIT = 0.72
"""A pupil narrower than this share of its length is no round one."""
_ALIKE, _BETTER = 0.85, 1.03
"""A dark part that covers less than this of its own ellipse, and of both together, has run on into a shadow or lost what the eye
mirrors; and by how much more its rim must stand out for another ellipse to be taken."""
_BESIDE, _WITHIN = 0.05, 0.95
"""How far on both sides of a rim light is read, in radii of the iris; and the share of the iris beyond which its own rim is read."""


def find_pupil(lab: Lab, iris: Ellipse, click: tuple[float, float]) -> tuple[Ellipse, str]:
    """Return the pupil's ellipse and its kind."""
    import cv2

    y, x = np.mgrid[0:WINDOW, 0:WINDOW] + 0.5
    share = iris.share_of(np.stack([x, y], axis=-1))
    light = lab[..., 0]
    home = share < 0.88
    i, j = np.clip((int(click[1]), int(click[0])), 0, WINDOW - 1)
    around = light[max(i - 4, 0) : i + 5, max(j - 4, 0) : j + 5]
    dark = float(np.percentile(around, 20))
    ring = light[(share > 0.45) & (share < 0.9)]
    pale = float(np.percentile(ring, 62)) if len(ring) else dark
    apart = pale - dark
    if apart < 2:
        return _usual(iris), "round"
    slope = np.hypot(*np.gradient(light))
    best: tuple[float, Bool, float] | None = None
    masks = []
    for part in (0.2, 0.3, 0.4, 0.5):
        mask = _dark_part(home & (light < dark + part * apart), click)
        if mask is None:
            continue
        masks.append(mask)
        rim = mask & (cv2.erode(mask.astype(np.uint8), np.ones((3, 3), np.uint8)) == 0)
        # The pupil's own border is the steepest: a part that runs on into a shadow ends softly.
        clear = float(np.median(slope[rim])) if rim.any() else 0.0
        if best is None or clear > 1.05 * best[0]:
            best = clear, mask, part
    if best is None:
        return _usual(iris), "round"
    _, mask, part = best
    points = _pupil_points(light, mask, iris, dark + max(part, 0.3) * apart, pale)
    ellipse = _pupil_ellipse(mask, points, iris)
    if apart < _FAINT and math.dist(ellipse.centre, iris.centre) > _CENTRED * iris.radius:
        # In a dark ball the pupil is not seen: what stands apart a little, and aside, is what the ball mirrors.
        return _usual(iris), "round"
    if ellipse.ratio < _SLIT and _alike(mask, ellipse) < _ALIKE:
        ellipse = _by_rim(light, iris, [ellipse, *(_spread(one) for one in masks if one is not mask)], apart)
    return ellipse, _pupil_kind(mask, ellipse)


def _usual(iris: Ellipse) -> Ellipse:
    """Return what is taken for the pupil where none is seen."""
    radius = _USUAL * iris.radius
    return Ellipse(iris.cx, iris.cy, radius, radius)


def _alike(mask: Bool, ellipse: Ellipse) -> float:
    """Return what a mask and an ellipse share of what both cover, 0 to 1."""
    y, x = np.mgrid[0 : mask.shape[0], 0 : mask.shape[1]] + 0.5
    covers = ellipse.share_of(np.stack([x, y], axis=-1)) <= 1
    return float((mask & covers).sum() / max((mask | covers).sum(), 1))


def _by_rim(light: F32, iris: Ellipse, starts: Sequence[Ellipse], apart: float) -> Ellipse:
    """Return the ellipse round which it grows lighter outward by most, sought from some; the first where none is clearly better.

    After Daugman (1993), "High confidence visual recognition of persons by a test of statistical independence", IEEE PAMI 15:
    the rim of a pupil is where light changes most all round, whatever lies within.
    """
    from scipy.optimize import minimize

    grey = np.repeat(light[..., None], 3, axis=2)
    turn = np.linspace(0, 2 * np.pi, ANGLES, endpoint=False)
    beside = _BESIDE * iris.radius

    def missed(p: F64) -> float:
        """Return, below nothing, by how much it grows lighter outward, L*."""
        long, short, c, s = math.exp(p[2]), math.exp(p[3]), math.cos(p[4]), math.sin(p[4])
        u = (long + np.array([[-beside], [beside]])) * np.cos(turn)
        v = (short + np.array([[-beside], [beside]])) * np.sin(turn)
        x, y = p[0] + c * u - s * v, p[1] + s * u + c * v
        read = read_lab(grey, x, y)[..., 0]
        # What the eye mirrors may not count for more than the iris does, nor the rim of the iris itself at all.
        step = np.clip(read[1] - read[0], -0.5 * apart, apart)
        step[iris.share_of(np.stack([x[1], y[1]], axis=-1)) > _WITHIN] = 0
        length = np.hypot(long * np.sin(turn), short * np.cos(turn))
        return -float((step * length).sum() / length.sum())

    first = np.array(_numbers(starts[0]))
    best, told = first, -_BETTER * missed(first)
    steps = np.diag([0.12 * iris.radius, 0.12 * iris.radius, 0.25, 0.25, 0.3])
    for start in starts:
        begin = np.array(_numbers(start))
        simplex: F64 = np.vstack([begin, begin + steps])
        found = minimize(
            missed,
            begin,
            method="Nelder-Mead",
            options={"initial_simplex": simplex, "maxiter": 250, "xatol": 0.02, "fatol": 0.01},
        )
        if -found.fun > told:
            best, told = found.x, -float(found.fun)
    if best is first:
        return starts[0]
    long, short = math.exp(best[2]), math.exp(best[3])
    deg = math.degrees(best[4]) + (90 if short > long else 0)
    made = Ellipse(float(best[0]), float(best[1]), max(long, short), min(long, short), (deg + 90) % 180 - 90)
    return made if made.rx < _WITHIN * iris.radius and math.dist(made.centre, iris.centre) < iris.radius else starts[0]


def _numbers(ellipse: Ellipse) -> tuple[float, float, float, float, float]:
    return ellipse.cx, ellipse.cy, math.log(max(ellipse.rx, 1)), math.log(max(ellipse.ry, 1)), math.radians(ellipse.deg)


def _dark_part(dark: Bool, click: tuple[float, float]) -> Bool | None:
    """Return the connected part of a mask nearest to a place; None when there is none."""
    import cv2

    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5))
    count, parts = cv2.connectedComponents(cv2.morphologyEx(dark.astype(np.uint8), cv2.MORPH_OPEN, disc))
    if count < 2:
        return None
    rows, columns = np.nonzero(parts)
    nearest = int(np.argmin(np.hypot(columns + 0.5 - click[0], rows + 0.5 - click[1])))
    return np.asarray(parts == parts[rows[nearest], columns[nearest]])


def _pupil_points(light: F32, mask: Bool, iris: Ellipse, level: float, pale: float) -> Points:
    """Return where rays from the pupil's middle leave it, pixels; rays through a catchlight are left out."""
    rows, columns = np.nonzero(mask)
    cx, cy = float(columns.mean()) + 0.5, float(rows.mean()) + 0.5
    turn = np.linspace(0, 2 * np.pi, ANGLES, endpoint=False)
    reach = np.linspace(0.03, 1.0, 90) * iris.radius
    x, y = cx + reach * np.cos(turn)[:, None], cy + reach * np.sin(turn)[:, None]
    read = read_lab(np.repeat(light[..., None], 3, axis=2), x, y)[..., 0]
    points = []
    for k in range(len(turn)):
        over = np.flatnonzero(read[k] > level)
        if not len(over) or over[0] == 0:
            continue
        n = int(over[0])
        # Far lighter than the iris right behind the rim: a catchlight, not the iris.
        if read[k, min(n + 5, len(reach) - 1)] > pale + 14:
            continue
        t = (level - read[k, n - 1]) / max(read[k, n] - read[k, n - 1], 1e-6)
        r = reach[n - 1] + t * (reach[n] - reach[n - 1])
        points.append((cx + r * math.cos(turn[k]), cy + r * math.sin(turn[k])))
    return np.array(points).reshape(-1, 2)


def _pupil_ellipse(mask: Bool, points: Points, iris: Ellipse) -> Ellipse:
    """Return the pupil's ellipse: of a round one by its rim, of a slit by how its area spreads."""
    spread = _spread(mask)
    if spread.ratio < _SLIT or len(points) < 12:
        return spread
    try:
        made, off = fit_ellipse(points, error_px=0.7, roundness=1.5)
    except InputError:
        return spread
    sound = off < 0.2 * made.radius and made.radius < 0.95 * iris.radius
    return made if sound else spread


def _spread(mask: Bool) -> Ellipse:
    """Return the ellipse whose area spreads as a mask's does."""
    rows, columns = np.nonzero(mask)
    xy = np.stack([columns + 0.5, rows + 0.5], axis=1).astype(np.float64)
    middle = xy.mean(axis=0)
    values, vectors = np.linalg.eigh(np.cov((xy - middle).T) + 1e-6 * np.eye(2))
    long, short = 2 * math.sqrt(values[1]), 2 * math.sqrt(max(values[0], 1e-6))
    deg = math.degrees(math.atan2(vectors[1, 1], vectors[0, 1]))
    return Ellipse(float(middle[0]), float(middle[1]), long, short, (deg + 90) % 180 - 90)


def _pupil_kind(mask: Bool, ellipse: Ellipse) -> str:
    if ellipse.ratio > _SLIT:
        return "round"
    if abs(math.sin(math.radians(ellipse.deg))) > 0.7:
        return "upright"
    import cv2

    points = np.argwhere(mask)[:, ::-1].astype(np.float32)
    _, (a, b), _ = cv2.minAreaRect(points)
    # An ellipse fills 79 % of the rectangle about it, a bar nearly all.
    return "bar" if mask.sum() / max((a + 1) * (b + 1), 1) > 0.845 else "level"
