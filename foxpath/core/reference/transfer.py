"""Bring the drawing onto the canvas: squared grid, the head's own axes, symmetry, a line drawing without hair."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64, Points, Rgb8
from foxpath.core.curves import line_length, simplify
from foxpath.core.units import CanvasSize, mm_words

LEAST_SQUARES, MOST_SQUARES = 2, 40
_AROUND = ((0, 1), (0, -1), (1, 0), (-1, 0), (1, 1), (1, -1), (-1, 1), (-1, -1))
"""Neighbours of a cell, those that share a side first."""


@dataclass(frozen=True, slots=True)
class Grid:
    """A squared grid over the canvas.

    Attributes
    ----------
    square_mm : float
        Side of a square; 0 takes the usual one.
    diagonals : bool
    """

    square_mm: float = 0.0
    diagonals: bool = False

    def side(self, canvas: CanvasSize) -> float:
        """Return the side of a square on a canvas, mm."""
        longest = max(canvas.width_mm, canvas.height_mm)
        if self.square_mm <= 0:
            return usual_square_mm(canvas)
        return min(max(self.square_mm, longest / MOST_SQUARES), longest / LEAST_SQUARES)

    def lines(self, canvas: CanvasSize) -> list[tuple[Points, bool]]:
        """Return the lines in mm on the canvas, each with whether it is a diagonal."""
        side = self.side(canvas)
        width, height = canvas.width_mm, canvas.height_mm
        made: list[tuple[Points, bool]] = []
        made += [
            (np.array([[k * side, 0], [k * side, height]]), False) for k in range(1, math.ceil(width / side - 1e-9))
        ]
        made += [
            (np.array([[0, k * side], [width, k * side]]), False) for k in range(1, math.ceil(height / side - 1e-9))
        ]
        if self.diagonals:
            # Each square's own diagonals join into long lines; they are cut at the canvas's rim.
            span = width + height
            for k in range(-math.ceil(height / side), math.ceil(width / side) + 1):
                made += _within(np.array([[k * side, 0], [k * side + span, span]]), width, height)
            for k in range(math.ceil(span / side) + 1):
                made += _within(np.array([[k * side, 0], [k * side - span, span]]), width, height)
        return made


def usual_square_mm(canvas: CanvasSize) -> float:
    """Return the usual square, mm: 5 cm (2 in), halved or doubled until 6 to 14 cross the canvas."""
    step = 50.0 if canvas.unit == "cm" else 50.8
    while canvas.width_mm / step > 14:
        step *= 2
    while canvas.width_mm / step < 6:
        step /= 2
    return step


def letter(index: int) -> str:
    """Return a column's letter: A to Z, then AA."""
    name = ""
    index += 1
    while index:
        index, rest = divmod(index - 1, 26)
        name = chr(65 + rest) + name
    return name


def _within(line: Points, width: float, height: float) -> list[tuple[Points, bool]]:
    """Cut a line to the canvas; nothing is left of one that misses it."""
    a, b = line
    low, high = 0.0, 1.0
    for k, most in ((0, width), (1, height)):
        way = b[k] - a[k]
        if way == 0:
            continue
        t0, t1 = sorted(((0 - a[k]) / way, (most - a[k]) / way))
        low, high = max(low, t0), min(high, t1)
    if high - low < 1e-6:
        return []
    return [(np.array([a + (b - a) * low, a + (b - a) * high]), True)]


@dataclass(frozen=True, slots=True)
class Axes:
    """The head's own frame: the eye line, and the midline square to it.

    Attributes
    ----------
    left, right : (x, y)
        Two points on the eye line, reference pixels.
    middle : (x, y)
        A point on the midline.
    """

    left: tuple[float, float]
    right: tuple[float, float]
    middle: tuple[float, float]

    @property
    def tilt_deg(self) -> float:
        """Tilt of the eye line, degrees, clockwise."""
        return math.degrees(math.atan2(self.right[1] - self.left[1], self.right[0] - self.left[0]))

    def across_along(self, points: Points) -> F64:
        """Return (N, 2): distance right of the midline and below the eye line, pixels, in the head's frame."""
        a = math.radians(self.tilt_deg)
        across, along = np.array([math.cos(a), math.sin(a)]), np.array([-math.sin(a), math.cos(a)])
        return np.stack([(points - np.array(self.middle)) @ across, (points - np.array(self.left)) @ along], axis=-1)

    def place(self, across: float, along: float) -> tuple[float, float]:
        """Return the pixel at a place in the head's frame."""
        a = math.radians(self.tilt_deg)
        u, v = np.array([math.cos(a), math.sin(a)]), np.array([-math.sin(a), math.cos(a)])
        foot = float((np.array(self.middle) - np.array(self.left)) @ v)
        x, y = np.array(self.middle) + across * u + (along - foot) * v
        return float(x), float(y)


@dataclass(frozen=True, slots=True)
class Unevenness:
    """A difference between left and right in the head's frame.

    Attributes
    ----------
    what : str
    px : float
        Right minus left, pixels.
    at : (x, y)
        Where to look, reference pixels.
    """

    what: str
    px: float
    at: tuple[float, float]


def symmetry(
    axes: Axes, pairs: Sequence[tuple[str, Points, Points]], contour: Points | None, mm_per_px: float = 1.0
) -> list[Unevenness]:
    """Compare left and right in the head's frame, largest difference first.

    Parameters
    ----------
    axes : Axes
    pairs : sequence of (name, left outline, right outline)
        Parts that answer each other, e.g. the two ears.
    contour : (N, 2) or None
        Outline of the whole head: its half widths are compared at five heights.
    mm_per_px : float
        Millimetres on the canvas for one pixel; heights are named by it.
    """
    found = []
    for name, left, right in pairs:
        a, b = axes.across_along(left), axes.across_along(right)
        (ax, ay), (bx, by) = a.mean(axis=0), b.mean(axis=0)
        spot = (float(right[:, 0].mean()), float(right[:, 1].mean()))
        found.append(Unevenness(f"{name}: height", float(by - ay), spot))
        found.append(Unevenness(f"{name}: from midline", float(bx + ax), spot))
        found.append(Unevenness(f"{name}: how tall", float(np.ptp(b[:, 1]) - np.ptp(a[:, 1])), spot))
    if contour is not None and len(contour) > 8:
        at = axes.across_along(contour)
        low, high = np.percentile(at[:, 1], (12, 88))
        for share in (0.1, 0.3, 0.5, 0.7, 0.9):
            along = float(low + (high - low) * share)
            cross = _crossings(at, along)
            if len(cross) >= 2 and cross[0] < 0 < cross[-1]:
                where = "above" if along < 0 else "below"
                name = f"Half width, {mm_words(abs(along) * mm_per_px)} {where}"
                found.append(Unevenness(name, cross[-1] + cross[0], axes.place(cross[-1], along)))
    return sorted(found, key=lambda one: -abs(one.px))


def _crossings(points: F64, along: float) -> list[float]:
    """Return where a closed line in the head's frame crosses a height, left to right."""
    y = points[:, 1] - along
    after = np.roll(points, -1, axis=0)
    z = after[:, 1] - along
    cut = np.flatnonzero((y < 0) != (z < 0))
    share = y[cut] / (y[cut] - z[cut])
    return sorted(float(v) for v in points[cut, 0] + share * (after[cut, 0] - points[cut, 0]))


def picture_lines(rgb: Rgb8, hair_px: float, least_px: float = 16.0) -> list[Points]:
    """Find the borders of markings and features: clear edges at a scale at which hair has melted away.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
    hair_px : float
        Length of a hair, pixels of `rgb`; anything narrower than about a third of it is left out.
    least_px : float
        Shortest line kept.

    Returns
    -------
    list of (N, 2) float64
        Open lines, pixels of `rgb`.

    References
    ----------
    Canny (1986), doi:10.1109/TPAMI.1986.4767851, on colours smoothed by edge-keeping means.
    """
    import cv2

    sigma = min(max(0.22 * hair_px, 1.2), 9.0)
    scale = min(1.0, 2.0 / sigma)
    size = (max(16, round(rgb.shape[1] * scale)), max(16, round(rgb.shape[0] * scale)))
    small = cv2.resize(rgb, size, interpolation=cv2.INTER_AREA)
    calm = cv2.GaussianBlur(cv2.bilateralFilter(small, 0, 28, 4), (0, 0), max(1.0, sigma * scale * 0.6))
    edges = cv2.Canny(calm, 26, 62, L2gradient=True)
    lines = []
    for chain in _chains(edges):
        at = (chain + 0.5) * (rgb.shape[1] / size[0], rgb.shape[0] / size[1])
        if len(at) > 2 and line_length(at) >= least_px:
            lines.append(simplify(_smoothed(at), 0.15 / scale))
    return lines


def _chains(edges: np.ndarray) -> list[F64]:
    """Follow one-pixel-wide edges into open chains of (x, y), longest first; forks end a chain."""
    left = {(int(i), int(j)) for i, j in zip(*np.nonzero(edges), strict=True)}

    def near(at: tuple[int, int]) -> list[tuple[int, int]]:
        i, j = at
        return [(i + a, j + b) for a, b in _AROUND if (i + a, j + b) in left]

    def followed(at: tuple[int, int]) -> list[tuple[int, int]]:
        way = []
        while following := near(at):
            at = following[0]
            left.discard(at)
            way.append(at)
        return way

    ends = [at for at in left if len(near(at)) == 1]
    chains = []
    for start in [*sorted(ends), *sorted(left)]:
        if start not in left:
            continue
        left.discard(start)
        ahead = followed(start)
        chain = [*reversed(followed(start)), start, *ahead]
        if len(chain) > 5:
            chains.append(np.array([(j, i) for i, j in chain], np.float64))
    return sorted(chains, key=lambda c: -len(c))


def _smoothed(points: Points) -> Points:
    """Take the steps of pixels out of a chain; its ends stay."""
    for _ in range(10):
        middle = 0.25 * points[:-2] + 0.5 * points[1:-1] + 0.25 * points[2:]
        points = np.vstack([points[:1], middle, points[-1:]])
    return points


def without(lines: Sequence[Points], rubbed: Sequence[Points], reach: float) -> list[Points]:
    """Return lines with everything nearer than `reach` to rubbed strokes taken out."""
    if not rubbed:
        return list(lines)
    dust = np.concatenate([_dense(stroke, reach / 2) for stroke in rubbed])
    from scipy.spatial import cKDTree

    tree = cKDTree(dust)
    kept: list[Points] = []
    for line in lines:
        at = _dense(line, reach / 2)
        free = np.asarray(tree.query(at)[0]) > reach
        if free.all():
            kept.append(line)
            continue
        starts = np.flatnonzero(np.diff(np.r_[0, free.astype(int), 0]) == 1)
        ends = np.flatnonzero(np.diff(np.r_[0, free.astype(int), 0]) == -1)
        kept += [at[a:b] for a, b in zip(starts, ends, strict=True) if b - a >= 3]
    return kept


def _dense(line: Points, step: float) -> Points:
    """Return a line with a point at least each `step`."""
    parts = [line[:1]]
    for a, b in zip(line[:-1], line[1:], strict=True):
        count = max(1, math.ceil(float(np.hypot(*(b - a))) / step))
        parts.append(a + (b - a) * (np.arange(1, count + 1) / count)[:, None])
    return np.concatenate(parts)
