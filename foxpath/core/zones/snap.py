"""Cut a part out of the picture, or mend one, from scribbles inside and outside it: a random walk that edges hold back.

Each cell belongs to whichever scribble a random walker from there reaches first. The walk crosses borders of colour
unwillingly, so the border settles on them; where the picture shows none it keeps halfway between the scribbles, and
those stretches are told apart as guessed.

A few scribbles seldom touch every colour of a part. So the walk's answer is looked at again: colours are gathered anew from
all of it by a graph cut, and weighed against the walk, the sharpness, and how near the scribbles of either side are; the second
walk, which goes by what comes of that, settles on the borders again.

References
----------
Rother, Kolmogorov, Blake (2004), "GrabCut", doi:10.1145/1015706.1015720.
Grady (2006), "Random walks for image segmentation", doi:10.1109/TPAMI.2006.233.
Grady (2005), "Multilabel random walker image segmentation using prior models", doi:10.1109/CVPR.2005.239.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, U8, Bool, Points, Rgb8
from foxpath.core.colour import lab_bytes, lab_from_rgb8
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
AGAIN = {"walk": 0.6, "colours": 1.0, "sharp": 0.6, "near": 1.1, "bias": -0.7}
"""What the second look goes by, as weights of log odds: learned by logistic regression on labelled photographs, each left out in turn."""
AGAIN_LIKENESS = 0.02
"""How much what comes of the second look counts beside the walk: it has seen more than the scribbles."""
NEAR_SHARE = 0.01
"""Shares of the longer side within which all is equally near a scribble."""
WEAK, WEAK_SCRIBBLED = 0.75, 0.95
"""What encloses ground that is beyond is opened where the walk's share is below the first: it leaked there; below the second where a
scribble says that the ground is beyond. A firmer ring is a ring."""
ASKED_SHARE = 0.02
"""Size of the patch whose doubt is told, a Gaussian's share of the longer side: about as wide as a short stroke."""
ASKED_FROM = 0.5
"""Doubt of a patch, 0 to 2, from which a further stroke is asked for: an even coat on an even ground comes to 0.1, photographs to 0.7 and more."""
LEAST_CELLS = 40
"""Cells on either side from which colours can be gathered."""
POCKET = 0.02
"""Ground so large within a part, as a share of it, is looked at even where no scribble lies on it."""
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
    asks : (x, y) or None
        Where a further stroke, within or beyond, would tell most, reference pixels; None where nothing is much in doubt.
    """

    points: Points
    shown: Bool
    shown_share: float
    asks: tuple[float, float] | None = None


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
    line, shown, asks = _border(ground, seed, share, beyond, progress, again=True)
    points = thinned(line)
    if asks is not None:
        x, y = ground.at(np.array([asks]))[0]
        asks = float(x), float(y)
    return Cut(ground.at(points), shown(points), float(shown(line).mean()), asks)


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
    line, shown, _ = _border(ground, seed, share, beyond, progress)
    kept = ground.cells(points)
    inner = np.clip(np.floor(kept).astype(int), 0, np.array(free.shape[::-1]) - 1)
    loose = cv2.dilate(free.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    found = spliced(line, kept[~loose[inner[:, 1], inner[:, 0]]], loose)
    return Cut(ground.at(found), shown(found), float(shown(line).mean()))


def _border(
    ground: _Ground, seed: U8, share: U8, beyond: Sequence[Points], progress: Progress, *, again: bool = False
) -> tuple[Points, Callable[[Points], Bool], tuple[float, float] | None]:
    """Return the line found, in cells, what tells whether the picture shows it at given points, and what is most in doubt.

    With `again` by a second look; without one nothing is called in doubt.
    """
    marked, side = seed > 0, np.asarray(share * (seed > 0), np.float32)
    if not (side > 0.5).any():
        raise AppError("Nothing marks the inside.", "Scribble inside the part.")
    progress.at(0.3, "finding the border")
    told = np.concatenate([ground.lab, ground.sharp[..., None]], axis=-1)
    aim = np.where(marked, side, _likeness(told, marked, side))
    walk, asks = _walked(ground, marked, aim, LIKENESS, progress.part(0.3, 0.6)), None
    if again:
        progress.at(0.6, "looking again")
        aim, first = np.where(marked, side, _second_look(ground, marked, side, walk)), walk
        walk = _walked(ground, marked, aim, AGAIN_LIKENESS, progress.part(0.6, 0.9))
        asks = _most_in_doubt(aim, (first > 0.5) != (walk > 0.5))
    progress.at(0.9, "drawing the outline")
    off = np.zeros_like(seed)
    for stroke in beyond:
        _draw(ground, stroke, off, 1)
    inner, outer = marked & (side > 0.5), (off > 0) & (side < 0.5)
    # Other parts may lie in it: their strokes are marked as not within, but are none of those beyond.
    others = marked & (side < 0.5) & (off == 0)
    line, shown = _outlined(_opened(walk, inner, outer, others) if again else walk, inner, outer)
    return line, shown, asks


def _most_in_doubt(aim: F32, undecided: Bool) -> tuple[float, float] | None:
    """Return the place, in cells, about which a stroke would tell most: not how sure a cell is counts, but a whole patch of cells.

    Parameters
    ----------
    aim : (h, w) float32
        How likely each cell is within, 0..1.
    undecided : (h, w) bool
        Where the first walk and the second come to different ends.
    """
    import cv2

    doubt = (1 - np.abs(2 * aim - 1) + undecided).astype(np.float32)
    patch = cv2.GaussianBlur(doubt, (0, 0), ASKED_SHARE * max(aim.shape), borderType=cv2.BORDER_CONSTANT)
    i, j = np.unravel_index(int(patch.argmax()), patch.shape)
    return (float(j) + 0.5, float(i) + 0.5) if patch[i, j] >= ASKED_FROM else None


def _walked(ground: _Ground, marked: Bool, aim: F32, likeness: float, progress: Progress) -> F32:
    """Return each cell's share 0..1 of walks that end within, which aim at `aim`: firmly where it is marked, elsewhere by `likeness`."""
    weight = np.where(marked, np.float32(60), np.float32(likeness))
    solved = Multigrid(weight, ground.east, ground.south, 1).solve((weight * aim)[None], 1e-4, progress, aim[None])
    return np.asarray(solved[0], np.float32)


def _second_look(ground: _Ground, marked: Bool, side: F32, walk: F32) -> F32:
    """Return 0..1, how likely each cell is within, by all that the first walk has found (see `AGAIN`)."""
    import cv2

    colours = 2 * _cut_by_colours(ground.lab, marked, side, walk).astype(np.float32) - 1
    unlike = [np.sqrt(gap) for gap in _gaps(ground.sharp[..., None], marked, side)]
    sharp = np.clip((unlike[0] - unlike[1]) / SHARPNESS, -4, 4)
    away = [
        cv2.distanceTransform((~(marked & ((side > 0.5) == within))).astype(np.uint8), cv2.DIST_L2, 5) / max(walk.shape)
        for within in (False, True)
    ]
    near = np.log((away[0] + NEAR_SHARE) / (away[1] + NEAR_SHARE))
    sure = np.clip(walk, 1e-3, 1 - 1e-3)
    odds = AGAIN["walk"] * np.log(sure / (1 - sure)) + AGAIN["colours"] * colours
    odds += AGAIN["sharp"] * sharp + AGAIN["near"] * near + AGAIN["bias"]
    return np.asarray(1 / (1 + np.exp(-odds)), np.float32)


def _cut_by_colours(lab: F32, marked: Bool, side: F32, walk: F32) -> Bool:
    """Return what a graph cut takes for the part, which gathers its colours from all that the walk has found."""
    import cv2

    mask = np.where(walk > 0.5, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
    mask[marked] = np.where(side[marked] > 0.5, cv2.GC_FGD, cv2.GC_BGD)
    if min(np.count_nonzero(mask & 1), np.count_nonzero(~mask & 1)) < LEAST_CELLS:
        return walk > 0.5
    cv2.setRNGSeed(1)
    models = (np.zeros((1, 65)), np.zeros((1, 65)))
    cv2.grabCut(lab_bytes(lab), mask, (0, 0, 1, 1), *models, 4, cv2.GC_INIT_WITH_MASK)
    return np.asarray(mask & 1, bool)


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
    far = [
        np.exp(-gap / (2 * (2 * STEP) ** 2)) + UNLIKE * (1 if value else 4)
        for value, gap in enumerate(_gaps(told, seed, share))
    ]
    return np.asarray(far[1] / (far[0] + far[1]), np.float32)


def _gaps(told: F32, seed: Bool, share: F32) -> list[F32]:
    """Return how far each cell is from the nearest of few values of the scribbles beyond, and of those within, squared."""
    from scipy.cluster.vq import kmeans

    gaps = []
    for value in (0, 1):
        seen = told[seed & (share == value)].astype(np.float64)
        seen = seen[:: max(1, len(seen) // 4000)]
        # Begun from colours dark to light, so that the same scribbles always give the same outline.
        ordered = seen[np.argsort(seen[:, 0])]
        first = np.unique(ordered[np.linspace(0, len(seen) - 1, COLOURS).round().astype(int)], axis=0)
        # A single one, as of a dot, would be taken for a number of colours.
        kept = kmeans(seen, first)[0] if len(first) > 1 else first
        gaps.append(((told[:, :, None, :] - kept.astype(np.float32)) ** 2).sum(-1).min(-1))
    return gaps


def _opened(walk: F32, within: Bool, beyond: Bool, others: Bool) -> F32:
    """Return the walk with a way cut out to the ground that a part encloses, through the weakest of what encloses it.

    Ground between the legs is beyond, but may be enclosed where the part leaked below it; what is enclosed firmly, or behind a
    scribble within, is left as it is, and so is another part that lies in it.
    """
    import cv2

    # Padded with what is beyond: a part that the picture cuts is open there.
    walk = np.pad(walk, 1)
    within, beyond, others = np.pad(within, 1), np.pad(beyond, 1), np.pad(others, 1)
    _, pieces = cv2.connectedComponents((walk <= 0.5).astype(np.uint8), connectivity=4)
    outer = pieces == pieces[0, 0]
    count, holes = cv2.connectedComponents(((walk <= 0.5) & ~outer).astype(np.uint8), connectivity=4)
    least = POCKET * float((walk > 0.5).sum())
    for hole in range(1, count):
        ground = holes == hole
        scribbled = bool((ground & beyond).any())
        if not scribbled and (ground.sum() < least or (ground & others).any()):
            continue
        for level in np.arange(0.55, (WEAK_SCRIBBLED if scribbled else WEAK) + 1e-6, 0.05):
            free = ((walk <= level) & ~within) | outer | ground
            _, joined = cv2.connectedComponents(free.astype(np.uint8), connectivity=4)
            if joined[ground][0] == joined[0, 0]:
                way = cv2.dilate(_way_out(ground, outer, free).astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
                walk = np.where(way, np.minimum(walk, 0.3), walk)
                break
    return np.asarray(walk[1:-1, 1:-1], np.float32)


def _way_out(ground: Bool, outer: Bool, free: Bool) -> Bool:
    """Return the shortest way from enclosed ground to what lies outside, over free cells; there is one."""
    import cv2

    cross = cv2.getStructuringElement(cv2.MORPH_CROSS, (3, 3))
    reached: list[U8] = [ground.astype(np.uint8)]
    while not (reached[-1] & outer).any():
        reached.append(np.asarray(cv2.dilate(reached[-1], cross), np.uint8) & free.astype(np.uint8))
    i, j = (int(at) for at in np.argwhere((reached[-1] > 0) & outer)[0])
    rows, columns = ground.shape[:2]
    way = np.zeros((rows, columns), bool)
    for before in reversed(reached):
        way[i, j] = True
        for di, dj in ((0, 0), (0, 1), (1, 0), (0, -1), (-1, 0)):
            a, b = i + di, j + dj
            if 0 <= a < rows and 0 <= b < columns and before[a, b]:
                i, j = a, b
                break
    return way


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
        raise AppError(
            "A part has no holes.",
            "Make what lies inside it a zone of its own, in front; or let the stroke run out over the border.",
        )
    line = (smooth_line(line, 2.0 * fine) + 0.5) / fine - 1
    gy, gx = np.gradient(walk)
    rise = cv2.dilate(np.hypot(gx, gy), np.ones((3, 3), np.uint8))

    def shown(at: Points) -> Bool:
        j, i = np.clip(np.floor(at).astype(int), 0, np.array(walk.shape[::-1]) - 1).T
        return np.asarray(rise[i, j] > FIRM_RISE)

    return line, shown
