"""Check a drawing or a first lay-in: square its photograph up, find the features on it, list what to move and how far."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Points, Rgb8
from foxpath.core.curves import line_length
from foxpath.core.errors import InputError
from foxpath.core.units import mm_words

PX_PER_MM_MOST = 6.0
SIDE_PX = 1600
"""Longer side of a drawing that is squared up."""
REACH = 0.05
"""How far off a feature is looked for, as a share of the canvas's longer side."""
SEEN_MM, SEEN_SHARE, SEEN_DEG = 0.5, 0.03, 2.0
"""Displacements, sizes and turns below these are not worth a stroke."""


def check_corners(corners: Points) -> Points:
    """Return four corners in the order top left, top right, bottom right, bottom left.

    Raises
    ------
    InputError
        When they are not four, or enclose no proper four-sided shape.
    """
    points = np.asarray(corners, np.float64).reshape(-1, 2)
    if len(points) != 4:
        raise InputError("A drawing is squared up by four corners.", "Mark each corner of the canvas once.")
    middle = points.mean(axis=0)
    order = np.argsort(np.arctan2(points[:, 1] - middle[1], points[:, 0] - middle[0]))
    points = points[order]
    # Round the clock as seen, beginning at the corner nearest the top left.
    points = np.roll(points, -int(np.argmin(points.sum(axis=1))), axis=0)
    sides = np.roll(points, -1, axis=0) - points
    turns = sides[:, 0] * np.roll(sides, -1, axis=0)[:, 1] - sides[:, 1] * np.roll(sides, -1, axis=0)[:, 0]
    if turns.min() <= 1e-6 or np.hypot(*sides.T).min() < 8:
        raise InputError("Those corners enclose no canvas.", "Drag each corner onto a corner of the canvas.")
    return points


def squared_up(rgb: Rgb8, corners: Points, width_mm: float, height_mm: float) -> tuple[Rgb8, float]:
    """Return the canvas as seen from the front, (H, W, 3) uint8, and its pixels per millimetre.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        A photograph at any angle, or a scan.
    corners : (4, 2) float64
        Of the canvas in it, pixels (see `check_corners`).
    width_mm, height_mm : float
        Of the canvas.
    """
    import cv2

    scale = min(SIDE_PX / max(width_mm, height_mm), PX_PER_MM_MOST)
    size = max(8, round(width_mm * scale)), max(8, round(height_mm * scale))
    flat = np.array([[0, 0], [size[0], 0], [size[0], size[1]], [0, size[1]]], np.float32) - np.float32(0.5)
    map_ = cv2.getPerspectiveTransform((check_corners(corners) - 0.5).astype(np.float32), flat)
    made = cv2.warpPerspective(rgb, map_, size, flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(made, np.uint8), scale


@dataclass(frozen=True, slots=True, eq=False)
class Target:
    """A feature to be found on a drawing: its lines on the canvas, mm."""

    key: str
    name: str
    lines_mm: tuple[Points, ...]

    def middle(self) -> F64:
        """Return the middle of its box, mm."""
        points = np.concatenate(self.lines_mm)
        return np.asarray((points.min(axis=0) + points.max(axis=0)) / 2)

    def size(self) -> F64:
        """Return width and height of its box, mm."""
        return np.asarray(np.ptp(np.concatenate(self.lines_mm), axis=0))


@dataclass(frozen=True, slots=True)
class Shift:
    """Where a feature stands on a drawing, against the plan.

    Attributes
    ----------
    key, name : str
    right_mm, down_mm : float
        How far it stands to the right and below of where it should.
    wide, tall : float
        Its size over the planned one.
    turn_deg : float
        How far it is turned, clockwise.
    sure : float
        0 to 1; 1 when it was marked by hand.
    """

    key: str
    name: str
    right_mm: float
    down_mm: float
    wide: float = 1.0
    tall: float = 1.0
    turn_deg: float = 0.0
    sure: float = 1.0

    @property
    def mm(self) -> float:
        """How far it stands off."""
        return math.hypot(self.right_mm, self.down_mm)

    def placed(self, lines_mm: Sequence[Points], middle: F64) -> list[Points]:
        """Return lines as they stand on the drawing, mm."""
        return [
            _moved(line, middle, np.array([self.right_mm, self.down_mm, self.wide, self.tall, self.turn_deg]))
            for line in lines_mm
        ]


@dataclass(frozen=True, slots=True)
class Verdict:
    """One line of the check.

    Attributes
    ----------
    shift : Shift
    says : str
        E.g. "Left eye 2 mm too high, 6 % too wide."
    move : str
        What to do.
    weight_mm : float
        The largest of its faults as a length on the canvas: the worst come first.
    """

    shift: Shift
    says: str
    move: str
    weight_mm: float


def _moved(points: F64, middle: F64, p: F64) -> Points:
    """Return points turned, sized and shifted about a middle: p = right, down, wide, tall, degrees."""
    a = math.radians(p[4])
    c, s = math.cos(a), math.sin(a)
    d = (points - middle) * (p[2], p[3])
    return np.asarray(np.stack([d[:, 0] * c - d[:, 1] * s, d[:, 0] * s + d[:, 1] * c], axis=1) + middle + p[:2])


def line_map(rgb: Rgb8, px_per_mm: float) -> F32:
    """Return how much of a line or a border there is at each pixel, 0..1: of pencil lines and of painted edges alike."""
    import cv2

    grey = cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY).astype(np.float32)
    fine = max(0.8, 0.25 * px_per_mm)
    soft = cv2.GaussianBlur(grey, (0, 0), fine)
    # A line is dark between lighter sides; a border is steep.
    line = np.clip(cv2.GaussianBlur(grey, (0, 0), 3.2 * fine) - soft, 0, None)
    gx, gy = cv2.Sobel(soft, cv2.CV_32F, 1, 0), cv2.Sobel(soft, cv2.CV_32F, 0, 1)
    steep = np.hypot(gx, gy) / 4
    made = np.maximum(line, 0.7 * steep)
    top = float(np.percentile(made, 99.3))
    return np.asarray(np.clip(made / max(top, 1e-3), 0, 1), np.float32)


def find_shift(lines: F32, px_per_mm: float, target: Target, reach_mm: float) -> Shift:
    """Find how a feature is displaced on a drawing.

    Its lines are laid over the map of the drawing's lines: first shifted over a coarse grid with the map blurred, then
    sized, turned and shifted more finely while the blur shrinks.

    Parameters
    ----------
    lines : (H, W) float32
        See `line_map`.
    px_per_mm : float
    target : Target
    reach_mm : float
        How far off it is looked for.
    """
    import cv2
    from scipy.optimize import minimize

    middle, size = target.middle(), np.maximum(target.size(), 0.5)
    points = np.concatenate([_evenly(line, 0.6) for line in target.lines_mm])

    def score(p: F64, grid: F32) -> float:
        at = _moved(points, middle, p) * px_per_mm - 0.5
        x, y = (np.ascontiguousarray(v, np.float32)[None] for v in at.T)
        return float(cv2.remap(grid, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT, borderValue=0).mean())

    def blurred(mm: float) -> F32:
        sigma = max(mm * px_per_mm, 0.6)
        soft = cv2.GaussianBlur(lines, (0, 0), sigma)
        return np.asarray(soft / max(float(soft.max()), 1e-6), np.float32)

    wide = max(0.25 * reach_mm, 0.8)
    grid = blurred(0.5 * wide)
    best, found = -1.0, np.array([0.0, 0.0, 1.0, 1.0, 0.0])
    count = math.ceil(reach_mm / (0.5 * wide))
    for i in range(-count, count + 1):
        for j in range(-count, count + 1):
            for grown in (0.92, 1.0, 1.09):
                p = np.array([i * 0.5 * wide, j * 0.5 * wide, grown, grown, 0.0])
                # Among equally good places the nearest is taken: most features stand nearly right.
                value = score(p, grid) * (1 - 0.12 * math.hypot(i, j) / max(count, 1))
                if value > best:
                    best, found = value, p
    units = np.array([wide, wide, 0.08, 0.08, 5.0])
    for blur in (0.4 * wide, 0.2 * wide, 0.35):
        grid = blurred(blur)
        start = found.copy()

        def cost(q: F64, start: F64 = start, grid: F32 = grid, units: F64 = units) -> float:
            p = start + q * units
            strain = 0.06 * ((p[2] - p[3]) / 0.15) ** 2 + 0.02 * (p[4] / 8) ** 2 + 0.04 * ((p[2] * p[3] - 1) / 0.3) ** 2
            return float(strain - score(p, grid))

        solved = minimize(
            cost,
            np.zeros(5),
            method="Nelder-Mead",
            options={"maxiter": 260, "xatol": 0.004, "fatol": 1e-5, "initial_simplex": _simplex()},
        )
        found = start + solved.x * units
        units = units * 0.55
    # How clearly the lines are hit: against the same lines a little aside.
    grid = blurred(0.3)
    hit = score(found, grid)
    aside = np.mean(
        [score(found + np.array([dx, dy, 0, 0, 0]), grid) for dx, dy in ((1.6, 0), (-1.6, 0), (0, 1.6), (0, -1.6))]
    )
    sure = float(np.clip((hit - float(aside)) / max(hit, 1e-6) * 2.2, 0, 1))
    span = size / np.maximum(size, 2.0)
    wide_, tall_ = 1 + (found[2] - 1) * span[0], 1 + (found[3] - 1) * span[1]
    return Shift(
        target.key, target.name, round(float(found[0]), 3), round(float(found[1]), 3), round(float(wide_), 4), round(float(tall_), 4),
        round(float(found[4]), 2), round(sure, 3),
    )  # fmt: skip


def _simplex() -> F64:
    start = np.zeros((6, 5))
    start[1:] = np.eye(5) * 0.5
    return start


def _evenly(line: Points, step_mm: float) -> Points:
    from foxpath.core.curves import resample

    return resample(line, max(4, math.ceil(line_length(line) / step_mm))) if len(line) > 1 else line


def marked_shift(target: Target, drawn_mm: Sequence[Points]) -> Shift:
    """Return the displacement of a feature that was marked on the drawing by hand, by the boxes of both."""
    drawn = np.concatenate([np.asarray(line, np.float64) for line in drawn_mm])
    (x0, y0), (x1, y1) = drawn.min(axis=0), drawn.max(axis=0)
    middle, size = target.middle(), target.size()
    right, down = (x0 + x1) / 2 - middle[0], (y0 + y1) / 2 - middle[1]
    wide = (x1 - x0) / size[0] if size[0] > 1 and x1 > x0 else 1.0
    tall = (y1 - y0) / size[1] if size[1] > 1 and y1 > y0 else 1.0
    made = (round(float(right), 3), round(float(down), 3), round(float(wide), 4), round(float(tall), 4))
    return Shift(target.key, target.name, *made)


def common(shifts: Sequence[Shift]) -> tuple[float, float]:
    """Return by how much the whole drawing is shifted, right and down, mm: the median of what was found."""
    if len(shifts) < 3:
        return 0.0, 0.0
    return float(np.median([s.right_mm for s in shifts])), float(np.median([s.down_mm for s in shifts]))


def verdicts(shifts: Sequence[Shift], sizes: dict[str, F64]) -> list[Verdict]:
    """Put displacements into words with the move to make, worst first.

    Parameters
    ----------
    shifts : sequence of Shift
    sizes : dict of key to (2,) float64
        Planned width and height of each feature, mm: what a percentage means on the canvas.
    """
    made = []
    for shift in shifts:
        width, height = (float(v) for v in sizes.get(shift.key, np.array([10.0, 10.0])))
        faults: list[tuple[float, str, str]] = []
        if abs(shift.down_mm) >= SEEN_MM:
            by = mm_words(abs(shift.down_mm))
            low = shift.down_mm > 0
            faults.append(
                (abs(shift.down_mm), f"{by} too {'low' if low else 'high'}", f"{'raise' if low else 'lower'} it {by}")
            )
        if abs(shift.right_mm) >= SEEN_MM:
            by = mm_words(abs(shift.right_mm))
            right = shift.right_mm > 0
            faults.append(
                (
                    abs(shift.right_mm),
                    f"{by} too far {'right' if right else 'left'}",
                    f"shift it {by} to the {'left' if right else 'right'}",
                )
            )
        for ratio, span, more, less, shrink, enlarge in (
            (shift.wide, width, "wide", "narrow", "narrow", "widen"),
            (shift.tall, height, "tall", "low in itself", "shorten", "heighten"),
        ):
            grown = abs(ratio - 1) * span
            if abs(ratio - 1) >= SEEN_SHARE and grown >= SEEN_MM:
                big = ratio > 1
                words = f"{abs(ratio - 1) * 100:.0f} % too {more if big else less}"
                faults.append((grown, words, f"{shrink if big else enlarge} it by {mm_words(grown)}"))
        if abs(shift.turn_deg) >= SEEN_DEG and math.radians(abs(shift.turn_deg)) * max(width, height) / 2 >= SEEN_MM:
            way = "clockwise" if shift.turn_deg > 0 else "counter-clockwise"
            back = "counter-clockwise" if shift.turn_deg > 0 else "clockwise"
            weight = math.radians(abs(shift.turn_deg)) * max(width, height) / 2
            faults.append(
                (weight, f"turned {abs(shift.turn_deg):.0f}° {way}", f"turn it back {abs(shift.turn_deg):.0f}° {back}")
            )
        faults.sort(key=lambda one: -one[0])
        if not faults:
            made.append(Verdict(shift, f"{shift.name} stands right.", "keep it", 0.0))
            continue
        says = f"{shift.name} {', '.join(words for _, words, _ in faults)}."
        made.append(Verdict(shift, says, "; ".join(move for _, _, move in faults), round(faults[0][0], 2)))
    return sorted(made, key=lambda one: -one.weight_mm)
