"""A sheet of paper that a photograph can be read by: four marks at its corners, one of them open, and its own number as a row of squares.

Lengths are millimetres on the paper, origin top left, y down.
"""

import zlib
from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, U8, Points, Rgb8
from foxpath.core.errors import AppError
from foxpath.core.practice.drill import Skill
from foxpath.core.practice.scene import Scene
from foxpath.core.practice.task import Seen

PAPERS_MM = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
MARK_MM, MARK_IN_MM, HOLE_MM = 8.0, 14.0, 3.2
"""Side of a corner mark, how far its middle lies from both edges, and the hole of the first one."""
BITS, CELL_MM, CODE_Y_MM = 26, 3.0, 14.0
KIND_BITS, SEED_BITS = 4, 16
MOST_SEED: int = 2**SEED_BITS
READ_PX_PER_MM = 8.0
"""At which a photographed sheet is laid flat."""
BRIDGED = 41
"""Over so many cells of 2 mm the light of a sheet is followed."""
MOST_MARKS = 28
WORK_PX = 1600
AGREE = 0.3
"""Of a mark's side: how far its corners may lie from where the others say."""


@dataclass(frozen=True, slots=True)
class Paper:
    """A sheet: the number of its kind, its seed, and its size, mm."""

    kind: int
    seed: int
    width: float
    height: float

    def marks(self) -> F64:
        """Return the middles of the corner marks, clockwise from the top left, (4, 2)."""
        a, w, h = MARK_IN_MM, self.width, self.height
        return np.array([(a, a), (w - a, a), (w - a, h - a), (a, h - a)])

    def corners(self) -> F64:
        """Return the corners of the corner marks, (4, 4, 2)."""
        half = MARK_MM / 2
        return np.asarray(self.marks()[:, None] + half * np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]))

    def cells(self) -> F64:
        """Return the middles of the cells of its number, (26, 2)."""
        left = self.width / 2 - BITS * CELL_MM / 2
        return np.array([(left + (k + 0.5) * CELL_MM, CODE_Y_MM) for k in range(BITS)])

    def code(self) -> tuple[bool, ...]:
        """Return its number: kind and size, seed, and a sum that holds them."""
        return coded(2 * self.kind + size_number(self.width), self.seed)


def size_number(width: float) -> int:
    """Return the number of a paper's size among `PAPERS_MM`."""
    return min(range(len(PAPERS_MM)), key=lambda k: abs(list(PAPERS_MM.values())[k][0] - width))


def coded(kind: int, seed: int) -> tuple[bool, ...]:
    """Return kind and seed as bits, with a sum of six bits."""
    value = (kind << SEED_BITS) | seed
    check = zlib.crc32(value.to_bytes(4, "big")) % 64
    whole = (value << (BITS - KIND_BITS - SEED_BITS)) | check
    return tuple(bool(whole >> (BITS - 1 - k) & 1) for k in range(BITS))


def decoded(bits: Sequence[bool]) -> tuple[int, int] | None:
    """Return kind and seed of bits, or None where their sum is wrong."""
    whole = sum(1 << (BITS - 1 - k) for k, on in enumerate(bits) if on)
    value = whole >> (BITS - KIND_BITS - SEED_BITS)
    kind, seed = value >> SEED_BITS, value % MOST_SEED
    return (kind, seed) if coded(kind, seed) == tuple(bool(b) for b in bits) else None


@dataclass(frozen=True, slots=True)
class Shape:
    """Something printed: a closed outline that is filled, or a line; mm, and how dark (0 black to 1 white)."""

    points: tuple[tuple[float, float], ...]
    tone: float = 0.0
    width: float = 0.0


@dataclass(frozen=True, slots=True)
class Note:
    """Words on the sheet: their left end, mm, and size in points."""

    at: tuple[float, float]
    words: str
    points: float = 8.5


@dataclass(frozen=True, slots=True, eq=False)
class Picture:
    """A picture at true size: its place (left, top, width, height), mm."""

    rgb: Rgb8
    box: tuple[float, float, float, float]


@dataclass(frozen=True, slots=True, eq=False)
class Printed:
    """All that is printed of a sheet."""

    paper: Paper
    shapes: tuple[Shape, ...]
    notes: tuple[Note, ...]
    pictures: tuple[Picture, ...] = ()


def box(middle: tuple[float, float], half: float) -> tuple[tuple[float, float], ...]:
    """Return a square about a place."""
    x, y = middle
    return (x - half, y - half), (x + half, y - half), (x + half, y + half), (x - half, y + half)


def frame(paper: Paper) -> tuple[Shape, ...]:
    """Return what every sheet has: its corner marks and its number."""
    shapes = [Shape(box((x, y), MARK_MM / 2)) for x, y in paper.marks()]
    first = paper.marks()[0]
    shapes.append(Shape(box((float(first[0]), float(first[1])), HOLE_MM / 2), 1.0))
    for (x, y), on in zip(paper.cells(), paper.code(), strict=True):
        if on:
            shapes.append(Shape(box((float(x), float(y)), CELL_MM / 2)))
    return tuple(shapes)


def drawn(printed: Printed, px_per_mm: float) -> Rgb8:
    """Return a sheet as a picture, (H, W, 3) uint8, without its words."""
    paper, k, fine = printed.paper, px_per_mm, 4
    size = (round(paper.width * k), round(paper.height * k))
    grey = np.full((size[1], size[0]), 255, np.uint8)
    for shape in printed.shapes:
        at = np.round(np.array(shape.points) * k * 2**fine - 2 ** (fine - 1)).astype(np.int32)
        tone = round(255 * shape.tone)
        if shape.width > 0:
            cv2.polylines(grey, [at], False, tone, max(1, round(shape.width * k)), cv2.LINE_AA, fine)
        else:
            cv2.fillPoly(grey, [at], tone, cv2.LINE_AA, fine)
    rgb = cv2.cvtColor(grey, cv2.COLOR_GRAY2RGB)
    for one in printed.pictures:
        x, y, w, h = (round(v * k) for v in one.box)
        if w > 1 and h > 1:
            rgb[y : y + h, x : x + w] = cv2.resize(one.rgb, (w, h), interpolation=cv2.INTER_AREA)[
                : size[1] - y, : size[0] - x
            ]
    return np.asarray(rgb, np.uint8)


@dataclass(frozen=True, slots=True, eq=False)
class Flat:
    """A photographed sheet laid flat.

    Attributes
    ----------
    paper : Paper
    lab : (H, W, 3) float32
        CIELAB at `READ_PX_PER_MM`, the paper made white.
    """

    paper: Paper
    lab: F32

    def cut(self, left: float, top: float, width: float, height: float) -> F32:
        """Return a part of it, mm."""
        k = READ_PX_PER_MM
        return self.lab[round(top * k) : round((top + height) * k), round(left * k) : round((left + width) * k)]


def laid_flat(rgb: Rgb8) -> Flat:
    """Find a sheet in a photograph and lay it flat.

    Parameters
    ----------
    rgb : (H, W, 3) uint8 sRGB

    Raises
    ------
    AppError
        When no sheet is found, or its number cannot be read.
    """
    k = min(1.0, WORK_PX / max(rgb.shape[:2]))
    small = cv2.resize(rgb, None, fx=k, fy=k, interpolation=cv2.INTER_AREA) if k < 1 else rgb
    squares = _squares(np.asarray(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), np.uint8))
    areas = [cv2.contourArea(one.astype(np.float32)) for one in squares]
    for places in combinations(range(min(len(squares), MOST_MARKS)), 4):
        # Of four marks the sizes differ by the slant of the camera at most.
        if areas[places[3]] < 0.3 * areas[places[0]]:
            continue
        four = [squares[i] for i in places]
        found = _read(rgb, np.array([one.mean(axis=0) for one in four]) / k, [one / k for one in four])
        if found is not None:
            return found
    raise AppError(
        "No practice sheet was found in this photograph.",
        "Photograph the whole sheet from above, all four dark corner marks in it, in even light.",
    )


def _squares(grey: U8) -> list[Points]:
    """Return dark four-cornered marks of a photograph, (4, 2) px each, largest first."""
    block = max(15, (min(grey.shape) // 12) | 1)
    dark = cv2.adaptiveThreshold(grey, 255, cv2.ADAPTIVE_THRESH_MEAN_C, cv2.THRESH_BINARY_INV, block, 18)
    outlines, _ = cv2.findContours(dark, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
    made = []
    for outline in outlines:
        area = cv2.contourArea(outline)
        if not 5e-5 * grey.size < area < 2e-2 * grey.size:
            continue
        four = np.asarray(cv2.approxPolyDP(outline, 0.06 * cv2.arcLength(outline, True), True)[:, 0], np.float64)
        if len(four) != 4 or not cv2.isContourConvex(four.astype(np.float32)):
            continue
        sides = np.hypot(*np.diff(np.vstack([four, four[:1]]), axis=0).T)
        if (
            sides.max() < 2.2 * sides.min()
            and area > 0.75 * cv2.contourArea(four.astype(np.float32))
            and _solid(grey, four)
        ):
            made.append((area, four))
    made.sort(key=lambda one: -one[0])
    return [four for _, four in made]


def _solid(grey: U8, four: Points) -> bool:
    """Tell whether a square is a mark: dark all round between its rim and its middle, and bare paper about it."""
    wide = 48
    # A third as large again as the square, so that the paper about it is seen too.
    inner = np.array([(9, 9), (39, 9), (39, 39), (9, 39)], np.float32)
    patch = cv2.warpPerspective(grey, cv2.getPerspectiveTransform(four.astype(np.float32), inner), (wide, wide)).astype(
        np.float32
    )
    away = np.maximum(*np.abs(np.indices((wide, wide)) - (wide - 1) / 2))
    band, outside = patch[(away > 8.5) & (away < 12.5)], patch[away > 18.5]
    return bool(np.percentile(band, 90) < 0.6 * np.percentile(outside, 30))


def _read(rgb: Rgb8, middles: F64, squares: list[Points]) -> Flat | None:
    """Return a sheet laid flat whose corner marks are these, or None where they are not."""
    about = middles - middles.mean(axis=0)
    order = np.argsort(np.arctan2(about[:, 1], about[:, 0]))
    middles, squares = middles[order], [squares[i] for i in order]
    if not cv2.isContourConvex(np.round(middles).astype(np.int32)):
        return None
    for size in PAPERS_MM.values():
        paper = Paper(0, 0, *size)
        for turn in range(4):
            at, own = np.roll(middles, -turn, axis=0), squares[turn:] + squares[:turn]
            shape = np.asarray(
                cv2.getPerspectiveTransform(paper.marks().astype(np.float32), at.astype(np.float32)), np.float64
            )
            # Four squares lie in perspective somewhere: they are the marks when their own corners do as well.
            told = _number(rgb, paper, shape) if _agree(paper, shape, own) else None
            if told is None or told[0] % 2 != size_number(paper.width):
                continue
            exact = _refined(rgb, paper, shape)
            if exact is None:
                continue
            return _flat(rgb, Paper(told[0] // 2, told[1], *size), exact)
    return None


def _through(shape: F64, points: F64) -> F64:
    return np.asarray(cv2.perspectiveTransform(points.reshape(-1, 1, 2).astype(np.float64), shape).reshape(-1, 2))


def _agree(paper: Paper, shape: F64, squares: list[Points]) -> bool:
    """Tell whether marks that a map predicts have their corners where the squares that were found have theirs."""
    for true, found in zip(paper.corners(), squares, strict=True):
        at = _through(shape, true)
        side = float(np.hypot(*(found[1] - found[0])))
        away = np.hypot(*(at[:, None] - found[None]).transpose(2, 0, 1)).min(axis=1)
        if away.max() > AGREE * side:
            return False
    return True


def _grey_at(rgb: Rgb8, at: F64) -> F64 | None:
    h, w = rgb.shape[:2]
    j, i = np.round(at).astype(int).T
    if (i < 1).any() or (j < 1).any() or (i >= h - 1).any() or (j >= w - 1).any():
        return None
    return np.asarray([rgb[y - 1 : y + 2, x - 1 : x + 2].mean() for y, x in zip(i, j, strict=True)])


def _number(rgb: Rgb8, paper: Paper, shape: F64) -> tuple[int, int] | None:
    """Return what a sheet's number says, or None where there is none."""
    first = _grey_at(rgb, _through(shape, np.vstack([paper.marks(), paper.marks()[:1] + [0.38 * MARK_MM, 0]])))
    cells = _grey_at(rgb, _through(shape, paper.cells()))
    beside = _grey_at(rgb, _through(shape, paper.cells() + [0, 2.0 * CELL_MM]))
    if first is None or cells is None or beside is None:
        return None
    white = float(np.median(beside))
    if not (first[0] > 0.6 * white and (first[1:] < 0.6 * white).all()):
        return None
    return decoded([bool(v < 0.6 * w) for v, w in zip(cells, beside, strict=True)])


def _refined(rgb: Rgb8, paper: Paper, shape: F64) -> F64 | None:
    """Return the map from the paper to the photograph by all sixteen corners of the marks."""
    grey = cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY)
    true = paper.corners().reshape(-1, 2)
    guess = _through(shape, true).astype(np.float32)
    side = float(np.hypot(*(guess[1] - guess[0])))
    reach = max(3, min(15, round(0.22 * side)))
    stop = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_MAX_ITER, 40, 0.01)
    found = cv2.cornerSubPix(grey, guess.reshape(-1, 1, 2).copy(), (reach, reach), (-1, -1), stop).reshape(-1, 2)
    exact, _ = cv2.findHomography(true, found, cv2.RANSAC, 0.12 * side)
    return np.asarray(exact, np.float64) if exact is not None else None


def _flat(rgb: Rgb8, paper: Paper, shape: F64) -> Flat:
    from foxpath.core.progress.small import blur, lab_of

    k = READ_PX_PER_MM
    scaled = shape @ np.diag([1 / k, 1 / k, 1.0])
    size = (round(paper.width * k), round(paper.height * k))
    flat = cv2.warpPerspective(
        rgb, scaled, size, flags=cv2.INTER_AREA | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE
    )
    # The paper is white wherever it is bare: its light is followed over the sheet, channel by channel, and taken out.
    few = cv2.resize(flat, (size[0] // 16, size[1] // 16), interpolation=cv2.INTER_AREA)
    # Closed, not only widened: what is painted or printed up to 8 cm across is bridged, and light that falls off keeps its level.
    bare = cv2.morphologyEx(few, cv2.MORPH_CLOSE, np.ones((BRIDGED, BRIDGED), np.uint8))
    light = blur(bare.astype(np.float32), 9.0)
    whole = cv2.resize(light, size, interpolation=cv2.INTER_LINEAR)
    even = np.clip(flat.astype(np.float32) / np.maximum(whole, 8) * 242, 0, 255).astype(np.uint8)
    return Flat(paper, lab_of(even))


@dataclass(frozen=True, slots=True)
class Measured:
    """One thing that was painted on a sheet.

    Attributes
    ----------
    number : int
    error : float
        How far off in all, mm.
    right : bool
        Whether that is near enough.
    words : str
    at : (x, y)
        Its place on the sheet, mm.
    reach : float
        How far down from there it reaches, mm.
    """

    number: int
    error: float
    right: bool
    words: str
    at: tuple[float, float]
    reach: float = 0.0

    @property
    def seen(self) -> Seen:
        """What it tells of the painter."""
        return Seen(self.right, error=self.error)


class PaperDrill(Skill, ABC):
    """A drill on paper."""

    def number(self, seed: int, scene: Scene | None) -> int:
        """Return the number that stands on the sheet of a seed."""
        return int(seed % MOST_SEED)

    @abstractmethod
    def printed(self, paper: Paper, scene: Scene | None) -> Printed:
        """Return what is printed of a sheet; the same paper and scene give the same."""

    @abstractmethod
    def measured(self, flat: Flat, scene: Scene | None) -> tuple[Measured, ...]:
        """Return what was painted on it; what was left out is not among it. Raises `AppError` when it was made from another picture."""
