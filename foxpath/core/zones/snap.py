"""Cut a part out of the picture from scribbles inside and outside it: a random walk that edges hold back.

Each cell belongs to whichever scribble a random walker from there reaches first. The walk crosses borders of colour
unwillingly, so the border settles on them; where the picture shows none it keeps halfway between the scribbles, and
those stretches are told apart as guessed.

References
----------
Grady (2006), "Random walks for image segmentation", doi:10.1109/TPAMI.2006.233.
Grady (2005), "Multilabel random walker image segmentation using prior models", doi:10.1109/CVPR.2005.239.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool, Points, Rgb8
from foxpath.core.colour import lab_from_rgb8
from foxpath.core.curves import arc_length, closed_curve, nearest_on, resample
from foxpath.core.errors import AppError
from foxpath.core.multigrid import Multigrid
from foxpath.core.progress import SILENT, Progress

CELLS = 288
"""Cells along the longer side of what is looked at."""
ROOM = 0.25
"""How far around the scribbles is looked, as a share of their extent; without any beyond, four times that."""
STEP = 5.0
"""Steps in CIELAB between neighbours over which the walk is held back to 1/e^(1/2)."""
HAIR = (6, 18)
"""Reach in cells, and in steps of a byte, within which hair is evened out before borders are looked for."""
LIKENESS = 0.004
"""How much a cell's likeness in colour to the scribbles counts beside the walk."""
COLOURS = 6
"""Colours kept of each side's scribbles."""
MOST_POINTS = 72
WAVER = 1.6
"""Cells by which the smooth outline may leave the line that was found."""
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
    """The part of the picture around the scribbles, as colours and as willingness to cross to the right and below."""

    lab: F32
    east: F32
    south: F32
    corner: Points
    cell_px: Points


def cut_part(
    rgb: Rgb8,
    size: tuple[float, float],
    within: Sequence[Points],
    beyond: Sequence[Points],
    progress: Progress = SILENT,
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

    Raises
    ------
    AppError
        Without a stroke within on the picture, or when what is left is too small to outline.
    """
    ground = _ground(rgb, size, within, beyond)
    seed, share = _seeds(ground, within, beyond)
    if not (share > 0.5).any():
        raise AppError("Nothing marks the inside.", "Scribble inside the part.")
    progress.at(0.3, "finding the border")
    likely = _likeness(ground.lab, seed, share)
    weight = np.where(seed, np.float32(60), np.float32(LIKENESS))
    aim = np.where(seed, share, likely)
    walk = Multigrid(weight, ground.east, ground.south, 1).solve((weight * aim)[None], 1e-4, progress, aim[None])[0]
    progress.at(0.9, "drawing the outline")
    points, shown, shown_share = _outlined(walk, seed & (share > 0.5))
    return Cut(points * ground.cell_px + ground.corner, shown, shown_share)


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
    east, south = np.zeros((2, rows, columns), np.float32)
    east[:, :-1] = _willing(lab[:, 1:], lab[:, :-1])
    south[:-1] = _willing(lab[1:], lab[:-1])
    return _Ground(lab, east, south, low / scale, (high - low) / scale / (columns, rows))


def _willing(a: F32, b: F32) -> F32:
    return np.asarray(np.exp(-((a - b) ** 2).sum(-1) / (2 * STEP**2)) + 1e-4, np.float32)


def _seeds(ground: _Ground, within: Sequence[Points], beyond: Sequence[Points]) -> tuple[Bool, F32]:
    """Return where scribbles lie, and 1 under those within; what lies within wins where both do."""
    import cv2

    seed = np.zeros(ground.lab.shape[:2], np.uint8)
    share = np.zeros(seed.shape, np.uint8)
    for strokes, value in ((beyond, 0), (within, 1)):
        for stroke in strokes:
            at = [np.round(((stroke - ground.corner) / ground.cell_px - 0.5) * 16).astype(np.int32).reshape(-1, 1, 2)]
            cv2.polylines(seed, at, False, 1, 1, cv2.LINE_8, 4)
            cv2.polylines(share, at, False, value, 1, cv2.LINE_8, 4)
    if not ((seed > 0) & (share == 0)).any():
        for side in (np.s_[[0, -1]], np.s_[:, [0, -1]]):
            seed[side] = np.where(share[side] > 0, seed[side], 1)
    return seed > 0, np.asarray(share * (seed > 0), np.float32)


def _likeness(lab: F32, seed: Bool, share: F32) -> F32:
    """Return 0..1, how much more a cell's colour is like the scribbles within than like those beyond."""
    from scipy.cluster.vq import kmeans

    far = []
    for value in (0, 1):
        seen = lab[seed & (share == value)].astype(np.float64)
        # Begun from colours dark to light, so that the same scribbles always give the same outline.
        ordered = seen[np.argsort(seen[:, 0])]
        first = np.unique(ordered[np.linspace(0, len(seen) - 1, COLOURS).round().astype(int)], axis=0)
        kept = kmeans(seen, first)[0]
        gap = ((lab[:, :, None, :] - kept.astype(np.float32)) ** 2).sum(-1).min(-1)
        far.append(np.exp(-gap / (2 * (2 * STEP) ** 2)) + 1e-3)
    return np.asarray(far[1] / (far[0] + far[1]), np.float32)


def _outlined(walk: F32, inner: Bool) -> tuple[Points, Bool, float]:
    """Follow the line where the walk is as likely to end within as beyond; points and line in cells."""
    import cv2

    fine = 4
    # Padded, so that a part cut by the picture's border is closed along it.
    large = cv2.resize(np.pad(walk, 1), None, fx=fine, fy=fine, interpolation=cv2.INTER_LINEAR)
    mask = (large > 0.5).astype(np.uint8)
    count, pieces = cv2.connectedComponents(mask, connectivity=4)
    marked = cv2.resize(np.pad(inner, 1).astype(np.uint8), None, fx=fine, fy=fine, interpolation=cv2.INTER_NEAREST)
    sizes = np.bincount(pieces[(marked > 0) & (mask > 0)], minlength=max(count, 2))
    sizes[0] = 0
    chosen = (pieces == int(sizes.argmax())).astype(np.uint8) if sizes.any() else mask * 0
    lines, _ = cv2.findContours(chosen, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    line = max(lines, key=len).reshape(-1, 2).astype(np.float64) if lines else np.zeros((0, 2))
    if len(line) < 6 * fine:
        raise AppError("The part is too small to outline.", "Scribble more inside it, or less outside.")
    line = (_smooth(line, 2.0 * fine) + 0.5) / fine - 1
    points = _thinned(line)
    gy, gx = np.gradient(walk)
    rise = cv2.dilate(np.hypot(gx, gy), np.ones((3, 3), np.uint8))

    def shown(at: Points) -> Bool:
        j, i = np.clip(np.floor(at).astype(int), 0, np.array(walk.shape[::-1]) - 1).T
        return np.asarray(rise[i, j] > FIRM_RISE)

    return points, shown(points), float(shown(line).mean())


def _smooth(line: Points, sigma: float) -> Points:
    from scipy.ndimage import gaussian_filter1d

    return np.asarray(gaussian_filter1d(line, sigma, axis=0, mode="wrap"))


def _thinned(line: Points) -> Points:
    """Return as few evenly spaced points as keep the smooth outline near the line."""
    closed = np.vstack([line, line[:1]])
    length = float(arc_length(closed)[-1])
    count = int(np.clip(length / 12, 8, MOST_POINTS))
    while True:
        points = resample(closed, count + 1)[:-1]
        curve = closed_curve(points, 6)
        worst = max(nearest_on(curve, at, closed=True)[1] for at in resample(closed, min(4 * count, 300))[:-1])
        if worst < WAVER or count >= MOST_POINTS:
            return points
        count = min(MOST_POINTS, round(count * 1.4))
