"""Cut a part out of the picture, or mend one, from scribbles inside and outside it: a random walk that edges hold back.

Each cell belongs to whichever scribble a random walker from there reaches first. The walk crosses borders of colour
unwillingly, so the border settles on them; where the picture shows none it keeps halfway between the scribbles, and
those stretches are told apart as guessed.

References
----------
Grady (2006), "Random walks for image segmentation", doi:10.1109/TPAMI.2006.233.
Grady (2005), "Multilabel random walker image segmentation using prior models", doi:10.1109/CVPR.2005.239.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, U8, Bool, Points, Rgb8
from foxpath.core.colour import lab_from_rgb8
from foxpath.core.curves import closed_curve
from foxpath.core.errors import AppError
from foxpath.core.multigrid import Multigrid
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.zones.map import fill
from foxpath.core.zones.outline import smooth_line, spliced, thinned

CELLS = 288
"""Cells along the longer side of what is looked at."""
ROOM = 0.25
"""How far around the scribbles is looked, as a share of their extent; without any beyond, four times that."""
STEP = 5.0
"""Steps in CIELAB between neighbours over which the walk is held back to 1/e^(1/2)."""
HAIR = (6, 18)
"""Reach in cells, and in steps of a byte, within which hair is evened out before borders are looked for."""
NEAR = 4.0
"""Cells around a border or a stroke within which a mended border is free to settle."""
LIKENESS = 0.004
"""How much a cell's likeness in colour to the scribbles counts beside the walk."""
COLOURS = 6
"""Colours kept of each side's scribbles."""
SHARPNESS = 10.0
"""How far apart in likeness it sets two cells, in steps of CIELAB, that one is e times as sharp: what lies behind an animal is often out of focus."""
_FAINT = 0.3
"""Fine contrast, in steps of a byte, below which all is equally soft."""
UNLIKE = 1e-3
"""Likeness of a colour that no scribble has; four times as much beyond, for the animal is scribbled more closely than what lies round it."""
FIRM_RISE = 0.12
"""Rise of the walk's share across one cell from which the picture shows a border there."""


@dataclass(frozen=True, slots=True, eq=False)
class Cut:
    """A part found in the picture.

    Attributes
    ----------
    points : (N, 2) float64
        Points of its smooth closed outline, reference pixels.
    shown : (N,) bool
        Whether the picture shows the border near that point; elsewhere it is a guess.
    shown_share : float, 0..1
        The same as a share of the outline.
    """

    points: Points
    shown: Bool
    shown_share: float


@dataclass(frozen=True, slots=True, eq=False)
class _Ground:
    """The part of the picture around the scribbles, as colours, sharpness, and willingness to cross to the right and below."""

    lab: F32
    sharp: F32
    east: F32
    south: F32
    corner: Points
    cell_px: Points

    def cells(self, points_px: Points) -> Points:
        """Map reference pixels to cells."""
        return np.asarray((points_px - self.corner) / self.cell_px)

    def at(self, points: Points) -> Points:
        """Map cells to reference pixels."""
        return np.asarray(points * self.cell_px + self.corner)


def cut_part(
    rgb: Rgb8,
    size: tuple[float, float],
    within: Sequence[Points],
    beyond: Sequence[Points],
    progress: Progress = SILENT,
    others: Sequence[Points] = (),
) -> Cut:
    """Return the part that holds the strokes `within` and none of the strokes `beyond`.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        The picture, of any resolution.
    size : (width, height)
        What the whole picture measures in reference pixels.
    within, beyond : sequence of (N, 2) float64
        Scribbles, reference pixels. Without any beyond, what lies further off stands for it.
    progress : Progress
    others : sequence of (N, 2) float64
        Scribbles inside other parts: beyond this one too, but it may lie all round them, behind.

    Raises
    ------
    AppError
        Without a stroke within on the picture, or when what is left is too small to outline, or would have a hole.
    """
    ground = _ground(rgb, size, within, [*beyond, *others])
    seed, share = np.zeros((2, *ground.lab.shape[:2]), np.uint8)
    _mark(ground, within, [*beyond, *others], seed, share)
    if not ((seed > 0) & (share == 0)).any():
        for side in (np.s_[[0, -1]], np.s_[:, [0, -1]]):
            seed[side] = np.where(share[side] > 0, seed[side], 1)
    line, shown = _border(ground, seed, share, beyond, progress)
    points = thinned(line)
    return Cut(ground.at(points), shown(points), float(shown(line).mean()))


def mend_part(
    rgb: Rgb8,
    size: tuple[float, float],
    points: Points,
    within: Sequence[Points],
    beyond: Sequence[Points],
    progress: Progress = SILENT,
) -> Cut:
    """Return a part grown by the strokes `within` and lessened by those `beyond`, the border settling near them.

    What lies further from every stroke than its own way to the border, or half its extent, stays, and so do the points
    there. Without a
    stroke the whole border settles on the picture's.

    Parameters
    ----------
    rgb, size, within, beyond, progress
        As for `cut_part`.
    points : (N, 2) float64
        Points of the part's smooth outline, reference pixels.

    Raises
    ------
    AppError
        When what is left is too small to outline, or would have a hole.
    """
    import cv2

    outline = closed_curve(points)
    ground = _ground(rgb, size, [outline, *within], beyond or [outline])
    share = fill(ground.cells(outline), ground.lab.shape[:2]).astype(np.uint8)
    padded = np.pad(share, 1)
    into, off = (cv2.distanceTransform(one, cv2.DIST_L2, 5)[1:-1, 1:-1] for one in (padded, 1 - padded))
    away = np.maximum(into, off)
    free = away < max(NEAR, 0.15 * float(into.max())) if not (within or beyond) else np.zeros(share.shape, bool)
    for stroke in (*within, *beyond):
        swept = np.ones(share.shape, np.uint8)
        _draw(ground, stroke, swept, 0)
        if not swept.all():
            # A long stroke speaks for more of the border than the place it crosses.
            reach = max(float(away[swept == 0].max()), 0.5 * float(np.ptp(ground.cells(stroke), axis=0).max())) + NEAR
            free |= cv2.distanceTransform(swept, cv2.DIST_L2, 5) < reach
    seed = (~free).astype(np.uint8)
    _mark(ground, within, beyond, seed, share)
    line, shown = _border(ground, seed, share, beyond, progress)
    kept = ground.cells(points)
    inner = np.clip(np.floor(kept).astype(int), 0, np.array(free.shape[::-1]) - 1)
    loose = cv2.dilate(free.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    found = spliced(line, kept[~loose[inner[:, 1], inner[:, 0]]], loose)
    return Cut(ground.at(found), shown(found), float(shown(line).mean()))


def _border(
    ground: _Ground, seed: U8, share: U8, beyond: Sequence[Points], progress: Progress
) -> tuple[Points, Callable[[Points], Bool]]:
    """Return the line found, in cells, and what tells whether the picture shows it at given points."""
    marked, side = seed > 0, np.asarray(share * (seed > 0), np.float32)
    if not (side > 0.5).any():
        raise AppError("Nothing marks the inside.", "Scribble inside the part.")
    progress.at(0.3, "finding the border")
    weight = np.where(marked, np.float32(60), np.float32(LIKENESS))
    told = np.concatenate([ground.lab, ground.sharp[..., None]], axis=-1)
    aim = np.where(marked, side, _likeness(told, marked, side))
    walk = Multigrid(weight, ground.east, ground.south, 1).solve((weight * aim)[None], 1e-4, progress, aim[None])[0]
    progress.at(0.9, "drawing the outline")
    off = np.zeros_like(seed)
    for stroke in beyond:
        _draw(ground, stroke, off, 1)
    return _outlined(walk, marked & (side > 0.5), (off > 0) & (side < 0.5))


def _ground(rgb: Rgb8, size: tuple[float, float], within: Sequence[Points], beyond: Sequence[Points]) -> _Ground:
    import cv2

    if not within:
        raise AppError("Nothing marks the inside.", "Scribble inside the part.")
    whole = np.array(size, np.float64)
    strokes = np.vstack([*within, *beyond])
    room = (ROOM if beyond else 4 * ROOM) * max(*np.ptp(strokes, axis=0), 0.04 * max(size))
    scale = np.array(rgb.shape[1::-1]) / whole
    low = np.clip(np.floor((strokes.min(axis=0) - room) * scale), 0, np.array(rgb.shape[1::-1]) - 8).astype(int)
    high = np.clip(np.ceil((strokes.max(axis=0) + room) * scale), low + 8, rgb.shape[1::-1]).astype(int)
    part = rgb[low[1] : high[1], low[0] : high[0]]
    shrink = min(1.0, CELLS / max(part.shape[:2]))
    columns, rows = (max(8, round(n * shrink)) for n in (part.shape[1], part.shape[0]))
    small = cv2.resize(part, (columns, rows), interpolation=cv2.INTER_AREA)
    # Hairs are borders too, and there are many: evened out, they do not stop the walk on its way to the coat's own.
    even = np.asarray(cv2.pyrMeanShiftFiltering(small, *HAIR), np.uint8)
    lab = lab_from_rgb8(even)
    grey = cv2.cvtColor(part, cv2.COLOR_RGB2GRAY).astype(np.float32)
    fine = np.abs(grey - cv2.GaussianBlur(grey, (0, 0), 1.5))
    fine = cv2.GaussianBlur(cv2.resize(fine, (columns, rows), interpolation=cv2.INTER_AREA), (0, 0), 4.0)
    sharp = np.asarray(SHARPNESS * np.log(fine + _FAINT), np.float32)
    east, south = np.zeros((2, rows, columns), np.float32)
    east[:, :-1] = _willing(lab[:, 1:], lab[:, :-1])
    south[:-1] = _willing(lab[1:], lab[:-1])
    return _Ground(lab, sharp, east, south, low / scale, (high - low) / scale / (columns, rows))


def _willing(a: F32, b: F32) -> F32:
    return np.asarray(np.exp(-((a - b) ** 2).sum(-1) / (2 * STEP**2)) + 1e-4, np.float32)


def _draw(ground: _Ground, stroke: Points, onto: U8, value: int) -> None:
    import cv2

    cells = ground.cells(stroke)
    at = np.round((cells - 0.5) * 16).astype(np.int32).reshape(-1, 1, 2)
    cv2.polylines(onto, [at], False, value, 1, cv2.LINE_8, 4)
    if np.ptp(cells, axis=0).max() < 1:
        # A dot is a stroke too.
        j, i = np.floor(cells[0]).astype(int)
        if 0 <= i < onto.shape[0] and 0 <= j < onto.shape[1]:
            onto[i, j] = value


def _mark(ground: _Ground, within: Sequence[Points], beyond: Sequence[Points], seed: U8, share: U8) -> None:
    """Mark where scribbles lie, and 1 under those within; what lies within wins where both do."""
    for strokes, value in ((beyond, 0), (within, 1)):
        for stroke in strokes:
            _draw(ground, stroke, seed, 1)
            _draw(ground, stroke, share, value)


def _likeness(told: F32, seed: Bool, share: F32) -> F32:
    """Return 0..1, how much more a cell, by colour and sharpness, is like the scribbles within than like those beyond."""
    from scipy.cluster.vq import kmeans

    far = []
    for value in (0, 1):
        seen = told[seed & (share == value)].astype(np.float64)
        seen = seen[:: max(1, len(seen) // 4000)]
        # Begun from colours dark to light, so that the same scribbles always give the same outline.
        ordered = seen[np.argsort(seen[:, 0])]
        first = np.unique(ordered[np.linspace(0, len(seen) - 1, COLOURS).round().astype(int)], axis=0)
        kept = kmeans(seen, first)[0]
        gap = ((told[:, :, None, :] - kept.astype(np.float32)) ** 2).sum(-1).min(-1)
        far.append(np.exp(-gap / (2 * (2 * STEP) ** 2)) + UNLIKE * (1 if value else 4))
    return np.asarray(far[1] / (far[0] + far[1]), np.float32)


def _outlined(walk: F32, inner: Bool, off: Bool) -> tuple[Points, Callable[[Points], Bool]]:
    """Follow the line where the walk is as likely to end within as beyond; points and line in cells."""
    import cv2

    fine = 4

    def enlarged(plane: Bool) -> Bool:
        small = np.pad(plane, 1).astype(np.uint8)
        return np.asarray(cv2.resize(small, None, fx=fine, fy=fine, interpolation=cv2.INTER_NEAREST) > 0)

    # Padded, so that a part cut by the picture's border is closed along it.
    large = cv2.resize(np.pad(walk, 1), None, fx=fine, fy=fine, interpolation=cv2.INTER_LINEAR)
    mask = (large > 0.5).astype(np.uint8)
    count, pieces = cv2.connectedComponents(mask, connectivity=4)
    sizes = np.bincount(pieces[enlarged(inner) & (mask > 0)], minlength=max(count, 2))
    sizes[0] = 0
    chosen = (pieces == int(sizes.argmax())).astype(np.uint8) if sizes.any() else mask * 0
    lines, _ = cv2.findContours(chosen, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    line = max(lines, key=len).reshape(-1, 2).astype(np.float64) if lines else np.zeros((0, 2))
    if len(line) < 6 * fine:
        raise AppError("The part is too small to outline.", "Scribble more inside it, or less outside.")
    holes = cv2.drawContours(np.zeros_like(chosen), lines, -1, 1, cv2.FILLED) - chosen
    if (enlarged(off) & (holes > 0)).any():
        raise AppError("A part has no holes.", "Make what lies inside it a zone of its own, in front.")
    line = (smooth_line(line, 2.0 * fine) + 0.5) / fine - 1
    gy, gx = np.gradient(walk)
    rise = cv2.dilate(np.hypot(gx, gy), np.ones((3, 3), np.uint8))

    def shown(at: Points) -> Bool:
        j, i = np.clip(np.floor(at).astype(int), 0, np.array(walk.shape[::-1]) - 1).T
        return np.asarray(rise[i, j] > FIRM_RISE)

    return line, shown
