"""Find an eye from one click in its pupil: iris, pupil, catchlights, lids."""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Lab, Points, Rgb8
from foxpath.core.colour import lab_from_linear, linear_from_rgb8
from foxpath.core.errors import InputError
from foxpath.core.eyes.eye import Ellipse, Pairs
from foxpath.core.eyes.fit import fit_ellipse

WINDOW = 240
"""Pixels across the window in which an eye is looked for; pictures are brought to it scale by scale."""
LEAST_PX, MOST_SHARE = 4.0, 0.3
"""Least radius of an iris, and the most as a share of the picture's shorter side."""
_ANGLES = 72
MOST_TRIED = 6
"""Circles whose rims are traced."""
MOST_TRACED, _NEAR = 3, 0.4
"""How many of them are traced to the end, and how near the best they must come."""
_LIGHT_RISE = 16.0
"""By how much a catchlight is lighter than what surrounds it, L*."""


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
        seen = _window(rgb, (x, y), size)
        k, corner = seen.k, seen.corner
        for radii in (np.geomspace(34, 47, 7), np.geomspace(47, 66, 7)):
            score, (cx, cy, r) = _best_circle(seen.lab, ((x - corner[0]) * k, (y - corner[1]) * k), radii)
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
    window = _window(rgb, circle.centre, circle.rx)
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


@dataclass(frozen=True, slots=True, eq=False)
class _Window:
    """A square about an eye: CIELAB and linear light (0..100), pixels per picture pixel, corner in the picture."""

    lab: Lab
    light: F32
    k: float
    corner: tuple[float, float]


def _window(rgb: Rgb8, at: tuple[float, float], radius: float) -> _Window:
    """Return CIELAB of a square about a place, brought to `WINDOW`; its pixels per picture pixel; its corner.

    An iris of the radius is then about 50 pixels in radius. Off the picture its border is carried on.
    """
    import cv2

    half = 2.4 * radius
    k = WINDOW / (2 * half)
    corner = (at[0] - half, at[1] - half)
    # Shrunk in two steps: the picture's own pixels are averaged, not picked.
    x0, y0 = math.floor(corner[0]) - 2, math.floor(corner[1]) - 2
    x1, y1 = math.ceil(at[0] + half) + 2, math.ceil(at[1] + half) + 2
    h, w = rgb.shape[:2]
    part = rgb[max(y0, 0) : min(y1, h), max(x0, 0) : min(x1, w)]
    pads = (max(-y0, 0), max(y1 - h, 0), max(-x0, 0), max(x1 - w, 0))
    if any(pads):
        part = np.asarray(cv2.copyMakeBorder(part, *pads, cv2.BORDER_REPLICATE), np.uint8)
    if k < 0.5:
        step = int(1 / k)
        size = (part.shape[1] // step, part.shape[0] // step)
        small = np.asarray(cv2.resize(part[: size[1] * step, : size[0] * step], size, interpolation=cv2.INTER_AREA))
    else:
        step, small = 1, np.asarray(part)
    # Pixel centres: picture place p lies at (p - x0) / step - 0.5 of `small`.
    ks = k * step
    affine = np.array(
        [[1 / ks, 0, (corner[0] - x0) / step + 0.5 / ks - 0.5], [0, 1 / ks, (corner[1] - y0) / step + 0.5 / ks - 0.5]]
    )
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    shown = cv2.warpAffine(
        np.ascontiguousarray(small), affine, (WINDOW, WINDOW), flags=flags, borderMode=cv2.BORDER_REPLICATE
    )
    linear = linear_from_rgb8(np.asarray(shown, np.uint8))
    # One pixel of the window is finer than the picture's own where an eye is small: nothing to be had there.
    lab = np.asarray(cv2.GaussianBlur(lab_from_linear(linear), (0, 0), 1.2), np.float32)
    # Light mixes linearly: in L* a blurred edge wanders to its dark side.
    return _Window(lab, np.asarray(100 * cv2.GaussianBlur(linear, (0, 0), 1.2), np.float32), k, corner)


def _read(lab: Lab, x: F64, y: F64) -> Lab:
    """Read CIELAB at places (any shape), bilinearly; a pixel's middle lies at a half."""
    import cv2

    at = [np.ascontiguousarray(np.asarray(v, np.float32).reshape(len(v), -1) - 0.5) for v in (x, y)]
    made = cv2.remap(lab, at[0], at[1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(made, np.float32).reshape(*np.shape(x), 3)


def _best_circle(lab: Lab, click: tuple[float, float], radii: F64) -> tuple[float, tuple[float, float, float]]:
    """Return the score and (x, y, r) of the best circle of some radii about a click in a window."""
    import cv2

    soft = np.asarray(cv2.GaussianBlur(lab, (0, 0), 2.0), np.float32)
    turn = np.linspace(0, 2 * np.pi, _ANGLES, endpoint=False)
    cos, sin = np.cos(turn), np.sin(turn)
    best: tuple[float, tuple[float, float, float]] | None = None
    for step, reach in ((8.0, 3), (3.0, 2), (1.0, 2)):
        middle = click if best is None else best[1][:2]
        shifts = np.arange(-reach, reach + 1) * step
        near = radii if step > 4 else np.linspace(0.9, 1.1, 9) * best[1][2]  # type: ignore[index]
        centres = np.array([(middle[0] + dx, middle[1] + dy) for dy in shifts for dx in shifts])
        shells = np.sort(np.concatenate([near * 0.94, near, near * 1.06]))
        order = {float(r): k for k, r in enumerate(shells)}
        x = centres[:, 0, None, None] + shells[:, None] * cos
        y = centres[:, 1, None, None] + shells[:, None] * sin
        read = _read(soft, x.reshape(len(centres), -1), y.reshape(len(centres), -1)).reshape(*x.shape, 3)
        score = np.full((len(centres), len(near)), -1.0)
        for k, r in enumerate(near):
            out, within = read[:, order[float(r * 1.06)]], read[:, order[float(r * 0.94)]]
            score[:, k] = _arcs(out - within)
        # The click lies in the pupil: not far out in the iris.
        off = np.hypot(*(centres - click).T)
        score -= 12.0 * np.clip(off[:, None] / near[None] - 0.25, 0, None)
        pupil = _pupil_apart(soft, click, centres, near)
        total = score + 0.12 * pupil
        total[pupil < 4] -= 4.0
        i, j = np.unravel_index(int(np.argmax(total)), total.shape)
        best = float(total[i, j]), (float(centres[i, 0]), float(centres[i, 1]), float(near[j]))
    assert best is not None
    return best


def _arcs(step: Lab) -> F64:
    """Return how well colour steps the same way across a rim, judged by the best pair of opposite arcs: (N,), 0 to 20.

    `step` is (N, angles, 3): outside minus inside.
    """
    count = step.shape[1]
    wide = count // 5
    size = np.linalg.norm(step, axis=2)
    # Means over an arc that begins at each angle, round and round.
    wrapped = np.concatenate([step, size[..., None]], axis=2)
    wrapped = np.concatenate([np.zeros_like(wrapped[:, :1]), wrapped, wrapped[:, :wide]], axis=1)
    run = np.cumsum(wrapped, axis=1, dtype=np.float64)
    means = (run[:, wide : wide + count] - run[:, :count]) / wide
    mean, spread = means[..., :3], means[..., 3]
    long = np.linalg.norm(mean, axis=2)
    # What varies along an arc is texture or a border that is no circle.
    clear = np.maximum(1.5 * long - 0.5 * spread, 0)
    other = np.roll(mean, count // 2, axis=1)
    both = np.einsum("nak,nak->na", mean, other) / (long * np.roll(long, count // 2, axis=1) + 1e-6)
    pair = np.minimum(clear, np.roll(clear, count // 2, axis=1)) * (0.6 + 0.4 * both)
    # Lids lie above and below more often than at the sides.
    middle = 2 * np.pi * (np.arange(count) + wide / 2) / count
    pair = pair * (0.4 + 0.6 * np.cos(middle) ** 2)
    at = pair.argmax(axis=1)
    rows = np.arange(len(step))
    best = np.maximum(pair[rows, at], 0)
    kind = 0.5 * (mean[rows, at] + other[rows, at])
    length = np.linalg.norm(kind, axis=1) + 1e-6
    along = np.einsum("nak,nk->na", step, kind / length[:, None])
    agree = ((along > 0.45 * length[:, None]) & (along > 0.75 * size)).mean(axis=1)
    # A rim that is faint but runs all round beats a strong border that is round only in part.
    return np.asarray(20 * best / (best + 6) * agree, np.float64)


def _pupil_apart(lab: Lab, click: tuple[float, float], centres: Points, radii: F64) -> F64:
    """Return by how much the clicked place is darker than the ring inside each circle, (N, R), L*, at most 30."""
    turn = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    x0, y0 = click
    around = np.array([(x0 + dx, y0 + dy) for dx in (-3, 0, 3) for dy in (-3, 0, 3)])
    own = float(np.percentile(_read(lab, around[:, 0][None], around[:, 1][None])[..., 0], 25))
    shells = np.concatenate([0.7 * radii, 0.86 * radii])
    x = centres[:, 0, None, None] + shells[:, None] * np.cos(turn)
    y = centres[:, 1, None, None] + shells[:, None] * np.sin(turn)
    light = _read(lab, x.reshape(len(centres), -1), y.reshape(len(centres), -1))[..., 0].reshape(x.shape)
    # The lighter half: lids and their shadow may be as dark as the pupil.
    upper = np.percentile(light, 65, axis=2)
    return np.asarray(np.clip(np.minimum(upper[:, : len(radii)], upper[:, len(radii) :]) - own, 0, 30), np.float64)


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
    window: _Window,
    circle: Ellipse,
    click: tuple[float, float],
    lids: Points | None,
    passes: tuple[tuple[float, float, float], ...] = _ALL,
) -> _Made:
    lab, light = window.lab, window.light
    iris, rim, residual, seen, side = circle, np.zeros((0, 2)), 0.0, 0.0, 0.0
    for spread, roundness, gate in passes:
        # At last in linear light: there the middle of a blurred edge is where the edge is.
        found, share, turn, side = _trace_rim(lab if spread > 0.06 else light, iris, spread)
        kept = np.abs(share - 1) < gate if gate else np.abs(np.cos(turn - side)) > 0.8
        if lids is not None and len(found):
            kept &= _well_inside(lids, found, 0.06 * iris.radius)
        if kept.sum() < 12:
            break
        rim = found[kept]
        iris, residual = fit_ellipse(rim, error_px=0.6, roundness=roundness)
        seen = len(rim) / (2 * _ANGLES)
    pupil, kind = _find_pupil(lab, iris, click)
    lights = upper = lower = np.zeros((0, 2))
    if passes is _ALL:
        lights = _find_lights(lab, iris, pupil)
        upper, lower = _find_lids(lab, iris, pupil, lights)
    _, share, turn, side = _trace_rim(lab, iris, 0.05)
    on = np.abs(share - 1) < 0.035
    shown = float(on.sum()) / (2 * _ANGLES)
    # No lid hides the sides: an iris shows its rim there.
    sides = float((on & (np.abs(np.cos(turn - side)) > 0.85)).sum()) / (2 * _ANGLES * 0.354)
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


def _well_inside(outline: Points, points: Points, room: float) -> Bool:
    """Tell which points lie in an outline and farther than `room` from it."""
    import cv2

    shape = np.ascontiguousarray(outline, np.float32).reshape(-1, 1, 2)
    return np.array([cv2.pointPolygonTest(shape, (float(x), float(y)), True) > room for x, y in points], bool)


def _trace_rim(lab: Lab, iris: Ellipse, spread: float) -> tuple[Points, F64, F64, float]:
    """Return where rays cross the rim: places, shares of the ellipse, the rays' angles; and the angle of the clear sides.

    The rim is where colour steps most clearly in the way it steps at both sides.
    """
    turn = np.linspace(0, 2 * np.pi, 2 * _ANGLES, endpoint=False)
    shares = np.linspace(1 - 2 * spread, 1 + 2 * spread, 49)
    at = iris.at(turn[:, None], np.broadcast_to(shares, (len(turn), len(shares))))
    read = _read(lab, at[..., 0], at[..., 1])
    lag = 4
    step = np.zeros_like(read)
    step[:, lag:-lag] = read[:, 2 * lag :] - read[:, : -2 * lag]
    # The kind of step: that of the two opposite arcs that agree best, wherever along the rays it lies.
    half = len(turn) // 2
    arcs = _smooth_round(_smooth_rays(step, 3), len(turn) // 9)
    pair = np.linalg.norm(arcs + np.roll(arcs, half, axis=0), axis=2)
    pair *= np.exp(-(((shares - 1) / (3 * spread)) ** 2))
    # At the sides, where no lid is; elsewhere only when they show nothing.
    side = pair * (np.abs(np.cos(turn)) > 0.8)[:, None]
    best, far = np.unravel_index(int(np.argmax(side if side.max() > 0.2 * pair.max() else pair)), pair.shape)
    kind = arcs[best, far] + arcs[(best + half) % len(turn), far]
    size = float(np.linalg.norm(kind))
    if size < 1e-3:
        return np.zeros((0, 2)), np.zeros(0), np.zeros(0), 0.0
    along = _smooth_round(step @ (kind / size), 3)
    peak = np.argmax(along[:, lag + 1 : -lag - 1], axis=1) + lag + 1
    rows = np.arange(len(turn))
    a, b, c = along[rows, peak - 1], along[rows, peak], along[rows, peak + 1]
    shift = np.clip(0.5 * (a - c) / np.minimum(a - 2 * b + c, -1e-6), -0.5, 0.5)
    share = shares[peak] + shift * (shares[1] - shares[0])
    good = b > 0.42 * size / 2
    # A lid's border steps between other colours than the rim does.
    there = step[rows, peak]
    good &= there @ (kind / size) > 0.8 * np.linalg.norm(there, axis=1)
    # What lies outside must be what lies outside at the sides: elsewhere a lid's skin is.
    home = good & (np.abs(np.cos(turn - turn[best])) > 0.87)
    if spread < 0.09 and home.sum() > 6:
        beyond = read[rows[:, None], np.minimum(peak[:, None] + np.arange(6, 14), 48)].mean(axis=1)
        usual = np.median(beyond[home], axis=0)
        good &= np.linalg.norm(beyond - usual, axis=1) < max(6.0 if spread > 0.06 else 0.0, 0.4 * size / 2)
    # Neighbours must agree: a lid's border runs across the rays.
    jump = np.abs(np.roll(share, 1) - share) + np.abs(np.roll(share, -1) - share)
    good &= jump < 0.5 * spread
    return iris.at(turn[good], share[good]), share[good], turn[good], float(turn[best])


def _smooth_rays(values: F32 | F64, wide: int) -> F64:
    """Average along the second axis over `wide` neighbours on both sides; its ends fade to nothing."""
    padded = np.pad(values, ((0, 0), (wide, wide), (0, 0)))
    total = np.cumsum(np.pad(padded, ((0, 0), (1, 0), (0, 0))), axis=1, dtype=np.float64)
    return np.asarray((total[:, 2 * wide + 1 :] - total[:, : -2 * wide - 1]) / (2 * wide + 1))


def _smooth_round(values: F32 | F64, wide: int) -> F64:
    """Average round the first axis over `wide` neighbours on both sides, from the end back to the start."""
    total = np.zeros_like(values, dtype=np.float64)
    for k in range(-wide, wide + 1):
        total += np.roll(values, k, axis=0)
    return total / (2 * wide + 1)


def _find_pupil(lab: Lab, iris: Ellipse, click: tuple[float, float]) -> tuple[Ellipse, str]:
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
        r = 0.42 * iris.radius
        return Ellipse(iris.cx, iris.cy, r, r), "round"
    slope = np.hypot(*np.gradient(light))
    best: tuple[float, Bool, float] | None = None
    for part in (0.2, 0.3, 0.4, 0.5):
        mask = _dark_part(home & (light < dark + part * apart), click)
        if mask is None:
            continue
        rim = mask & (cv2.erode(mask.astype(np.uint8), np.ones((3, 3), np.uint8)) == 0)
        # The pupil's own border is the steepest: a part that runs on into a shadow ends softly.
        clear = float(np.median(slope[rim])) if rim.any() else 0.0
        if best is None or clear > 1.05 * best[0]:
            best = clear, mask, part
    if best is None:
        r = 0.42 * iris.radius
        return Ellipse(iris.cx, iris.cy, r, r), "round"
    _, mask, part = best
    points = _pupil_points(light, mask, iris, dark + max(part, 0.3) * apart, pale)
    ellipse = _pupil_ellipse(mask, points, iris)
    return ellipse, _pupil_kind(mask, ellipse)


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
    turn = np.linspace(0, 2 * np.pi, _ANGLES, endpoint=False)
    reach = np.linspace(0.03, 1.0, 90) * iris.radius
    x, y = cx + reach * np.cos(turn)[:, None], cy + reach * np.sin(turn)[:, None]
    read = _read(np.repeat(light[..., None], 3, axis=2), x, y)[..., 0]
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
    rows, columns = np.nonzero(mask)
    xy = np.stack([columns + 0.5, rows + 0.5], axis=1).astype(np.float64)
    middle = xy.mean(axis=0)
    values, vectors = np.linalg.eigh(np.cov((xy - middle).T) + 1e-6 * np.eye(2))
    long, short = 2 * math.sqrt(values[1]), 2 * math.sqrt(max(values[0], 1e-6))
    deg = math.degrees(math.atan2(vectors[1, 1], vectors[0, 1]))
    spread = Ellipse(float(middle[0]), float(middle[1]), long, short, (deg + 90) % 180 - 90)
    if short / long < 0.72 or len(points) < 12:
        return spread
    try:
        made, off = fit_ellipse(points, error_px=0.7, roundness=1.5)
    except InputError:
        return spread
    sound = off < 0.2 * made.radius and made.radius < 0.95 * iris.radius
    return made if sound else spread


def _pupil_kind(mask: Bool, ellipse: Ellipse) -> str:
    if ellipse.ratio > 0.72:
        return "round"
    if abs(math.sin(math.radians(ellipse.deg))) > 0.7:
        return "upright"
    import cv2

    points = np.argwhere(mask)[:, ::-1].astype(np.float32)
    _, (a, b), _ = cv2.minAreaRect(points)
    # An ellipse fills 79 % of the rectangle about it, a bar nearly all.
    return "bar" if mask.sum() / max((a + 1) * (b + 1), 1) > 0.845 else "level"


def _find_lights(lab: Lab, iris: Ellipse, pupil: Ellipse) -> Points:
    """Return the middles of the catchlights, the brightest and largest first."""
    import cv2

    y, x = np.mgrid[0:WINDOW, 0:WINDOW] + 0.5
    share = iris.share_of(np.stack([x, y], axis=-1))
    light = lab[..., 0]
    home = share < 1.02
    # What a small spot rises over: the picture with everything so small taken away.
    wide = max(5, int(0.55 * iris.radius)) | 1
    ground = cv2.morphologyEx(light, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (wide, wide)))
    rise = np.where(home, light - ground, 0)
    if float(rise.max()) < _LIGHT_RISE:
        return np.zeros((0, 2))
    # Lighter than all of the iris but a spot of it.
    ring = light[(share < 0.95) & (pupil.share_of(np.stack([x, y], axis=-1)) > 1.15)]
    least = max(50.0, 0.4 * 97 + 0.6 * float(np.percentile(ring, 92))) if len(ring) else 55.0
    count, parts, stats, _ = cv2.connectedComponentsWithStats(((rise > _LIGHT_RISE) & (light > least)).astype(np.uint8))
    found = []
    for n in range(1, count):
        area = float(stats[n, cv2.CC_STAT_AREA])
        part = parts == n
        long = max(stats[n, cv2.CC_STAT_WIDTH], stats[n, cv2.CC_STAT_HEIGHT])
        if area < 0.0012 * math.pi * iris.radius**2 or long > 0.8 * iris.radius:
            continue
        weight = ((light - least) * part).astype(np.float64)
        found.append(
            (float(weight.sum()), float((weight * x).sum() / weight.sum()), float((weight * y).sum() / weight.sum()))
        )
    found.sort(reverse=True)
    # Lesser glints than a quarter of the first are wetness, not lamps.
    kept = [(cx, cy) for size, cx, cy in found if size > 0.25 * found[0][0]][:4]
    return np.array(kept).reshape(-1, 2)


def _find_lids(lab: Lab, iris: Ellipse, pupil: Ellipse, lights: Points) -> tuple[Points, Points]:
    """Return points on the upper and the lower lid's edge, left to right, where they cut the iris; none where they do not."""
    r = iris.radius
    across = np.linspace(-1.15, 1.15, 31) * r
    found = []
    for side in (-1.0, 1.0):
        down = np.linspace(0.2, 1.3, 61) * r * side
        x = np.broadcast_to(iris.cx + across[:, None], (len(across), len(down)))
        y = np.broadcast_to(iris.cy + down[None], (len(across), len(down)))
        read = _read(lab, x, y)
        step = np.zeros(read.shape[:2])
        step[:, 3:-3] = np.linalg.norm(read[:, 6:] - read[:, :-6], axis=2)
        # The iris's own rim is no lid.
        share = iris.share_of(np.stack([x, y], axis=-1))
        step = step * (1 - 0.75 * np.exp(-(((share - 1) / 0.06) ** 2)))
        # Nor are the pupil's border and a catchlight's.
        places = np.stack([x, y], axis=-1)
        step[pupil.share_of(places) < 1.3] = 0
        for spot in lights:
            step[np.hypot(*(places - spot).transpose(2, 0, 1)) < 0.28 * r] *= 0.2
        path = _path(step)
        strength = step[np.arange(len(across)), path]
        place = np.stack([iris.cx + across, iris.cy + down[path]], axis=1)
        cuts = iris.share_of(place) < 0.95
        good = strength > 0.5 * float(np.median(strength))
        if (cuts & good).sum() < 7 or float(np.median(strength[cuts & good])) < 5:
            found.append(np.zeros((0, 2)))
            continue
        keep = good & (np.abs(across) < 1.1 * r)
        curve = np.polyfit(place[keep, 0] - iris.cx, place[keep, 1], 2)
        for _ in range(3):
            off = np.abs(np.polyval(curve, place[keep, 0] - iris.cx) - place[keep, 1])
            near = off < max(2.5, 1.6 * float(np.median(off)))
            curve = np.polyfit(place[keep][near, 0] - iris.cx, place[keep][near, 1], 2)
        at = np.linspace(-1.1, 1.1, 7) * r
        # An upper lid falls toward its corners, a lower one rises.
        if curve[0] * side > 0.05 / r:
            found.append(np.zeros((0, 2)))
            continue
        found.append(np.stack([iris.cx + at, np.polyval(curve, at)], axis=1))
    return found[0], found[1]


def _path(step: F64) -> np.ndarray[tuple[int, ...], np.dtype[np.intp]]:
    """Return the smooth path through columns along which steps are clearest, by dynamic programming."""
    columns, rows = step.shape
    best = np.zeros_like(step)
    back = np.zeros((columns, rows), np.intp)
    best[0] = step[0]
    reach = 4
    for c in range(1, columns):
        shifted = np.full((2 * reach + 1, rows), -1e9)
        for n, by in enumerate(range(-reach, reach + 1)):
            lo, hi = max(0, by), rows + min(0, by)
            shifted[n, lo - by : hi - by] = best[c - 1, lo:hi] - 0.35 * abs(by)
        pick = shifted.argmax(axis=0)
        best[c] = step[c] + shifted[pick, np.arange(rows)]
        back[c] = np.clip(np.arange(rows) + pick - reach, 0, rows - 1)
    path = np.zeros(columns, np.intp)
    path[-1] = int(best[-1].argmax())
    for c in range(columns - 1, 0, -1):
        path[c - 1] = back[c, path[c]]
    return path
