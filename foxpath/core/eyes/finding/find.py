"""Find an eye from one click: iris or dark ball, pupil, catchlights, lids."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Points, Rgb8
from foxpath.core.errors import InputError
from foxpath.core.eyes.eye import Ellipse, Pairs
from foxpath.core.eyes.finding.hypotheses import Hypothesis, hypotheses_at, learned
from foxpath.core.eyes.finding.lids import find_lids, find_lights
from foxpath.core.eyes.finding.looks import Tried, looks_of
from foxpath.core.eyes.finding.pupil import find_pupil
from foxpath.core.eyes.finding.rim import trace_rim, well_inside
from foxpath.core.eyes.finding.window import ANGLES, Window, window_at
from foxpath.core.eyes.fit import fit_ellipse

_TRACED_NEAR, _TRACED_OFF = 0.2, 0.2
"""How far a traced rim may lie from the hypothesis it began at: in the logarithm of the radius, and in radii."""
_TRACED_LOSS = 1.5
"""By how much a traced rim may look less like an eye."""
_SURE = ((0.0, 0.4, 0.7, 0.9, 0.96, 1.0), (0.0, 0.33, 0.5, 0.67, 0.8, 0.93))
_SHARP, _SHARP_SHARE = 0.0035, 0.15
"""A rim whose places lie this near an ellipse, in radii, over this share of the way round, is taken whatever lids leave of it."""


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
        The rim's points; none where no rim could be traced.
    others : tuple of (Ellipse, float)
        What else the eye may be, with how sure that is, the likeliest first.
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
    others: tuple[tuple[Ellipse, float], ...] = ()


def find_eye(
    rgb: Rgb8,
    at: tuple[float, float],
    scale: float = 1.0,
    radius: float = 0.0,
    *,
    opening: Points | None = None,
    others: Sequence[float] = (),
) -> FoundEye:
    """Find the visible eye about a click: the iris, or the whole dark ball where iris and pupil are one dark shape.

    Ellipses of all sizes are tried and weighed (`hypotheses_at`). The likeliest one's rim is traced ray by ray and fitted with an
    ellipse; that is taken where it looks no less like an eye.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
    at : (x, y)
        A place in the pupil or near the eye's middle, reference pixels.
    scale : float
        Pixels of `rgb` for one of the reference.
    radius : float
        About the eye's radius, reference pixels, when it is known; 0 tries all sizes.
    opening : (N, 2) float64 or None
        What the lids leave open, reference pixels, when it is known: no rim is looked for along it.
    others : sequence of float
        Radii of the animal's other eyes, reference pixels: this one is about as large.

    Raises
    ------
    InputError
        When the place lies off the picture, or nothing there looks like an eye.
    """
    height, width = rgb.shape[:2]
    x, y = at[0] * scale, at[1] * scale
    if not (0 <= x < width and 0 <= y < height):
        raise InputError("That place lies off the picture.", "Click in the middle of a pupil.")
    found = hypotheses_at(rgb, (x, y), radius * scale, [one * scale for one in others])
    if not found and radius > 0:
        found = [Hypothesis(Ellipse(x, y, radius * scale, radius * scale), 0.0)]
    if not found:
        raise InputError(
            "Nothing there looks like an eye.", "Click in the middle of a pupil, or drag from its middle to its rim."
        )
    first = found[0]
    window = window_at(rgb, first.ellipse.centre, first.ellipse.radius)
    k, corner = window.k, window.corner
    click = ((x - corner[0]) * k, (y - corner[1]) * k)
    guess = _moved(first.ellipse, corner, k)
    iris, rim, residual = _traced(window, guess, None if opening is None else (opening * scale - corner) * k)
    sharp = residual < _SHARP * iris.radius and len(rim) > _SHARP_SHARE * 2 * ANGLES
    if not len(rim) or not _holds(rgb, (x, y), first.ellipse, _moved_back(iris, corner, k), sharp=sharp):
        iris, rim, residual = guess, np.zeros((0, 2)), 0.0
    pupil, kind = find_pupil(window.lab, iris, click)
    lights = find_lights(window.lab, iris, pupil)
    upper, lower = find_lids(window.lab, iris, pupil, lights)

    def back(ellipse: Ellipse) -> Ellipse:
        one = _moved_back(ellipse, corner, k)
        return Ellipse(one.cx / scale, one.cy / scale, one.rx / scale, one.ry / scale, one.deg)

    def place(points: Points) -> Pairs:
        return tuple(
            (round(float(px / k + corner[0]) / scale, 2), round(float(py / k + corner[1]) / scale, 2))
            for px, py in points
        )

    rest = tuple((back(_moved(one.ellipse, corner, k)), sureness(one.share)) for one in found[1:])
    return FoundEye(
        back(iris), back(pupil), kind, place(lights), place(upper), place(lower), sureness(first.share),
        residual / (k * scale), place(rim), rest,
    )  # fmt: skip


def sureness(share: float) -> float:
    """Return how sure a hypothesis is, 0 to 1, from its share of what was tried.

    Set on photographs left out while learning: of hypotheses with 0.96 of the share or more nine in ten were right.
    """
    return round(float(np.interp(share, *_SURE)), 3)


def _holds(rgb: Rgb8, at: tuple[float, float], guess: Ellipse, traced: Ellipse, *, sharp: bool) -> bool:
    """Tell whether a traced rim is still the hypothesis it began at, and looks about as much like an eye."""
    if (
        abs(math.log(traced.radius / guess.radius)) > _TRACED_NEAR
        or math.dist(traced.centre, guess.centre) > _TRACED_OFF * guess.radius
    ):
        return False
    if sharp:
        return True
    rows = [(one.rx, one.ry / one.rx, one.deg, one.cx - at[0], one.cy - at[1]) for one in (guess, traced)]
    before, after = learned().score(looks_of(rgb, at, Tried(*np.array(rows).T)))
    return bool(after > before - _TRACED_LOSS)


def _moved(ellipse: Ellipse, corner: tuple[float, float], k: float) -> Ellipse:
    x, y = (ellipse.cx - corner[0]) * k, (ellipse.cy - corner[1]) * k
    return Ellipse(x, y, ellipse.rx * k, ellipse.ry * k, ellipse.deg)


def _moved_back(ellipse: Ellipse, corner: tuple[float, float], k: float) -> Ellipse:
    return Ellipse(ellipse.cx / k + corner[0], ellipse.cy / k + corner[1], ellipse.rx / k, ellipse.ry / k, ellipse.deg)


_PASSES = (
    (0.12, 4.0, 0.0),
    (0.10, 4.0, 0.0),
    (0.07, 2.0, 0.06),
    (0.07, 1.5, 0.045),
    (0.07, 1.0, 0.035),
    (0.06, 1.0, 0.03),
)
"""Passes along the rim: half width of the rays, pull to the circle, and how far off the rim a place may lie (0: the sides only).

First only the sides, which lids leave free; then all round, but only what runs on from there.
"""


def _traced(window: Window, guess: Ellipse, lids: Points | None) -> tuple[Ellipse, Points, float]:
    """Return the ellipse fitted to the rim about a guess, the rim's places, and how far they lie off it."""
    iris, rim, residual = guess, np.zeros((0, 2)), 0.0
    for spread, roundness, gate in _PASSES:
        # At last in linear light: there the middle of a blurred edge is where the edge is.
        found, share, turn, side = trace_rim(window.lab if spread > 0.06 else window.light, iris, spread)
        kept = np.abs(share - 1) < gate if gate else np.abs(np.cos(turn - side)) > 0.8
        if lids is not None and len(found):
            kept &= well_inside(lids, found, 0.06 * iris.radius)
        if kept.sum() < 12:
            break
        try:
            iris, residual = fit_ellipse(found[kept], error_px=0.6, roundness=roundness)
        except InputError:
            # A straight border is no rim: the hypothesis stays.
            return guess, np.zeros((0, 2)), 0.0
        rim = found[kept]
    return iris, rim, residual
