"""Find an eye from one click in its pupil: iris, pupil, catchlights, lids."""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Points, Rgb8
from foxpath.core.errors import InputError
from foxpath.core.eyes.eye import Ellipse, Pairs
from foxpath.core.eyes.finding.circles import best_circle
from foxpath.core.eyes.finding.lids import find_lids, find_lights
from foxpath.core.eyes.finding.pupil import find_pupil
from foxpath.core.eyes.finding.rim import trace_rim, well_inside
from foxpath.core.eyes.finding.window import ANGLES, WINDOW, Window, window_at
from foxpath.core.eyes.fit import fit_ellipse

LEAST_PX, MOST_SHARE = 4.0, 0.3
"""Least radius of an iris, and the most as a share of the picture's shorter side."""
MOST_TRIED = 6
"""Circles whose rims are traced."""
MOST_TRACED, _NEAR = 3, 0.4
"""How many of them are traced to the end, and how near the best they must come."""


@dataclass(frozen=True, slots=True)
class FoundEye:
    """An eye that was found, reference pixels.

    Attributes
    ----------
    iris, pupil : Ellipse
    pupil_kind : str
        Key of `PUPILS`.
    lights : Pairs
        Catchlights, the brightest and largest first.
    upper, lower : Pairs
        Points on the lids' edges from left to right; empty where none cuts the iris.
    sure : float
        0 to 1.
    residual_px : float
        Root mean square distance of the rim's points from the ellipse.
    rim : Pairs
        The rim's points.
    """

    iris: Ellipse
    pupil: Ellipse
    pupil_kind: str
    lights: Pairs
    upper: Pairs
    lower: Pairs
    sure: float
    residual_px: float
    rim: Pairs


def find_eye(
    rgb: Rgb8, at: tuple[float, float], scale: float = 1.0, radius: float = 0.0, *, opening: Points | None = None
) -> FoundEye:
    """Find the eye whose pupil is clicked.

    Circles are tried over all sizes: on two opposite arcs, so that lids may hide the others, the colour must step
    the same way across the rim (after Daugman 1993, doi:10.1109/34.244676, on all of CIELAB and in any tilt), and
    a pupil must stand apart inside. The best one's rim is then traced ray by ray and fitted with an ellipse.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
    at : (x, y)
        A place in the pupil, reference pixels.
    scale : float
        Pixels of `rgb` for one of the reference.
    radius : float
        About the iris's radius, reference pixels, when it is known; 0 tries all sizes.
    opening : (N, 2) float64 or None
        What the lids leave open, reference pixels, when it is known: no rim is looked for along it.

    Raises
    ------
    InputError
        When the place lies off the picture, or nothing there looks like an eye.
    """
    height, width = rgb.shape[:2]
    x, y = at[0] * scale, at[1] * scale
    if not (0 <= x < width and 0 <= y < height):
        raise InputError("That place lies off the picture.", "Click in the middle of a pupil.")
    most = MOST_SHARE * min(height, width)
    sizes = [radius * scale] if radius > 0 else _sizes(most)
    circles: list[tuple[float, Ellipse]] = []
    lids = None if opening is None else opening * scale
    for size in sizes:
        seen = window_at(rgb, (x, y), size)
        k, corner = seen.k, seen.corner
        for radii in (np.geomspace(34, 47, 7), np.geomspace(47, 66, 7)):
            score, (cx, cy, r) = best_circle(seen.lab, ((x - corner[0]) * k, (y - corner[1]) * k), radii)
            circles.append((score, Ellipse(cx / k + corner[0], cy / k + corner[1], r / k, r / k)))
    circles.sort(key=lambda one: -one[0])
    if circles[0][0] < 4.0:
        raise InputError(
            "Nothing there looks like an eye.", "Click in the middle of a pupil, or click its rim by hand."
        )
    tried: list[tuple[float, _Made, float, tuple[float, float]]] = []
    for score, circle in _apart(circles):
        if len(tried) < MOST_TRIED and score > 0.5 * circles[0][0]:
            looks, eye, k, corner = _tried(rgb, circle, (x, y), lids, _FIRST)
            tried.append((score * looks, eye, k, corner))
    tried.sort(key=lambda one: -one[0])
    # What comes near the best is traced to the end: the last passes tell a rim from a ring within it.
    traced = []
    for _, first, k, corner in [one for one in tried if one[0] >= _NEAR * tried[0][0]][:MOST_TRACED]:
        rough = first.iris
        circle = Ellipse(rough.cx / k + corner[0], rough.cy / k + corner[1], rough.rx / k, rough.ry / k, rough.deg)
        traced.append(_tried(rgb, circle, (x, y), lids, _ALL))
    _, made, k, corner = max(traced, key=lambda one: one[0])

    def back(ellipse: Ellipse) -> Ellipse:
        to = 1 / (k * scale)
        x0, y0 = ellipse.cx * to + corner[0] / scale, ellipse.cy * to + corner[1] / scale
        return Ellipse(float(x0), float(y0), float(ellipse.rx * to), float(ellipse.ry * to), float(ellipse.deg))

    def place(points: Points) -> Pairs:
        return tuple(
            (round(float(px / k + corner[0]) / scale, 2), round(float(py / k + corner[1]) / scale, 2))
            for px, py in points
        )

    return FoundEye(
        back(made.iris), back(made.pupil), made.pupil_kind, place(made.lights), place(made.upper), place(made.lower),
        round(made.sure, 3), made.residual / (k * scale), place(made.rim),
    )  # fmt: skip


def _apart(circles: list[tuple[float, Ellipse]]) -> list[tuple[float, Ellipse]]:
    """Return circles without those that are nearly a better one, best first."""
    kept: list[tuple[float, Ellipse]] = []
    for score, one in circles:
        same = (
            abs(one.rx / other.rx - 1) < 0.06 and math.dist(one.centre, other.centre) < 0.07 * other.rx
            for _, other in kept
        )
        if not any(same):
            kept.append((score, one))
    return kept


def _tried(
    rgb: Rgb8,
    circle: Ellipse,
    click: tuple[float, float],
    lids: Points | None,
    passes: tuple[tuple[float, float, float], ...],
) -> tuple[float, "_Made", float, tuple[float, float]]:
    """Trace the rim about a circle; returns how much it looks like an eye, the eye, and its window's scale and corner."""
    window = window_at(rgb, circle.centre, circle.rx)
    k, corner = window.k, window.corner
    own = None if lids is None else (lids - corner) * k
    made = _refined(
        window, _moved(circle, corner, k), ((click[0] - corner[0]) * k, (click[1] - corner[1]) * k), own, passes
    )
    at = ((click[0] - corner[0]) * k, (click[1] - corner[1]) * k)
    off = min(math.dist(made.iris.centre, place) for place in (made.pupil.centre, at)) / made.iris.radius
    # Round, about its pupil, with a rim that shows all the way: the more of this, the more an iris.
    round_one = float(np.clip((made.iris.ratio - 0.5) / 0.32, 0.05, 1))
    return made.clear * made.shown * round_one * math.exp(-((off / 0.3) ** 2)), made, k, corner


def _sizes(most: float) -> list[float]:
    """Return radii a factor of 1.75 apart: each window sees those about its own."""
    sizes, r = [], LEAST_PX * 1.3
    while r < most * 1.3:
        sizes.append(r)
        r *= 1.75
    return sizes or [max(LEAST_PX, most)]


def _moved(ellipse: Ellipse, corner: tuple[float, float], k: float) -> Ellipse:
    x, y = (ellipse.cx - corner[0]) * k, (ellipse.cy - corner[1]) * k
    return Ellipse(x, y, ellipse.rx * k, ellipse.ry * k, ellipse.deg)


@dataclass(slots=True)
class _Made:
    iris: Ellipse
    pupil: Ellipse
    pupil_kind: str
    lights: Points
    upper: Points
    lower: Points
    sure: float
    residual: float
    rim: Points
    clear: float
    shown: float


_ALL = (
    (0.12, 4.0, 0.0),
    (0.10, 4.0, 0.0),
    (0.07, 2.0, 0.06),
    (0.07, 1.5, 0.045),
    (0.07, 1.0, 0.035),
    (0.06, 1.0, 0.03),
)
_FIRST = _ALL[:4]
"""Passes along the rim: half width of the rays, pull to the circle, and how far off the rim a place may lie (0: the sides only).

First only the sides, which lids leave free; then all round, but only what runs on from there. A few passes tell whether it is an eye.
"""


def _refined(
    window: Window,
    circle: Ellipse,
    click: tuple[float, float],
    lids: Points | None,
    passes: tuple[tuple[float, float, float], ...] = _ALL,
) -> _Made:
    lab, light = window.lab, window.light
    iris, rim, residual, seen, side = circle, np.zeros((0, 2)), 0.0, 0.0, 0.0
    for spread, roundness, gate in passes:
        # At last in linear light: there the middle of a blurred edge is where the edge is.
        found, share, turn, side = trace_rim(lab if spread > 0.06 else light, iris, spread)
        kept = np.abs(share - 1) < gate if gate else np.abs(np.cos(turn - side)) > 0.8
        if lids is not None and len(found):
            kept &= well_inside(lids, found, 0.06 * iris.radius)
        if kept.sum() < 12:
            break
        rim = found[kept]
        iris, residual = fit_ellipse(rim, error_px=0.6, roundness=roundness)
        seen = len(rim) / (2 * ANGLES)
    pupil, kind = find_pupil(lab, iris, click)
    lights = upper = lower = np.zeros((0, 2))
    if passes is _ALL:
        lights = find_lights(lab, iris, pupil)
        upper, lower = find_lids(lab, iris, pupil, lights)
    _, share, turn, side = trace_rim(lab, iris, 0.05)
    on = np.abs(share - 1) < 0.035
    shown = float(on.sum()) / (2 * ANGLES)
    # No lid hides the sides: an iris shows its rim there.
    sides = float((on & (np.abs(np.cos(turn - side)) > 0.85)).sum()) / (2 * ANGLES * 0.354)
    shown *= (0.1 + sides) * (0.3 + 0.7 * math.cos(side) ** 2)
    fit = float(np.clip(1 - residual / (0.06 * iris.radius), 0, 1))
    sure = float(np.clip(0.25 + 0.4 * fit + 0.35 * min(1.0, seen / 0.55), 0, 1))
    dark = float(np.clip(_inner_rise(lab[..., 0], iris, click) / 8, 0.02, 1))
    return _Made(iris, pupil, kind, lights, upper, lower, sure * max(dark, 0.4), residual, rim, dark * fit, shown)


def _inner_rise(light: F32, iris: Ellipse, click: tuple[float, float]) -> float:
    """Return by how much the iris well inside its rim is lighter than the clicked place, L*: of a pupil taken for it, nothing."""
    y, x = np.mgrid[0:WINDOW, 0:WINDOW] + 0.5
    share = iris.share_of(np.stack([x, y], axis=-1))
    i, j = np.clip((int(click[1]), int(click[0])), 2, WINDOW - 3)
    own = float(np.percentile(light[i - 2 : i + 3, j - 2 : j + 3], 20))
    ring = light[(share > 0.5) & (share < 0.75)]
    return float(np.median(ring)) - own if len(ring) else 0.0
