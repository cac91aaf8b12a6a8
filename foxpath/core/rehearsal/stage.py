"""The canvas of a rehearsal: bare panel, then pass after pass of marks, borders softened, each pass kept."""

import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, I32, U8, Bool, Rgb8, frozen
from foxpath.core.brush import POINTS, outlines, paint_outlines, touched_tiles, worker_count
from foxpath.core.rehearsal.marks import Marks
from foxpath.core.rehearsal.surface import in_relief, manner_of, picked_up, tooth
from foxpath.core.reporting import SILENT, Progress

BARE = (0.93, 0.91, 0.87)
"""sRGB of a gessoed panel before the ground."""


@dataclass(frozen=True, slots=True, eq=False)
class Standing:
    """The painting as it stands after a pass.

    Attributes
    ----------
    kept : (H, W, 4) uint8
        sRGB and opacity. The next pass goes on from just this, so that a rehearsal taken up in the
        middle gives the same bytes as one from the start.
    """

    kept: U8

    @property
    def shown(self) -> Rgb8:
        """The (H, W, 3) uint8 sRGB picture to look at."""
        return self.kept[..., :3]


@dataclass(frozen=True, slots=True, eq=False)
class Listed:
    """Pixels to blur.

    Attributes
    ----------
    rows, columns : (N,) int32
    sigma : (N,) float32
        Blur of each (Gaussian), pixels.
    place : (H, W) int32
        Number of each pixel in the list, -1 for the others.
    """

    rows: I32
    columns: I32
    sigma: F32
    place: I32


@dataclass(frozen=True, slots=True, eq=False)
class SoftPixels:
    """The pixels that borders soften: narrow blurs as they are, wide ones on a canvas `STEP` times smaller.

    Attributes
    ----------
    narrow : Listed
        On the canvas.
    wide : Listed
        On the smaller canvas.
    taken : (h, w) uint8
        255 where the canvas takes its colour from the smaller one, over the window's part of the canvas.
    window : (top, bottom, left, right)
        The part of the smaller canvas that is needed.
    """

    narrow: Listed
    wide: Listed
    taken: U8
    window: tuple[int, int, int, int]


STEP = 4
_WIDE = 3.0
"""Blurs of this many pixels have nothing left that a canvas a quarter the size could not show."""
_OWN = 3.0
"""Variance in pixels that halving twice and reading back bilinearly adds: about 16/6, and the pairs' own."""


def _list(sigma: F32, where: Bool) -> Listed:
    rows, columns = np.nonzero(where)
    place = np.full(sigma.shape, -1, np.int32)
    place[rows, columns] = np.arange(len(rows), dtype=np.int32)
    return Listed(rows.astype(np.int32), columns.astype(np.int32), sigma[rows, columns].astype(np.float32), place)


def soft_pixels(softness_mm: F32, width: int, height: int, px_per_mm: float, share: float = 1.0) -> SoftPixels:
    """Bring `share` of a softness map (mm) to a picture of width x height pixels and list what is to be blurred."""
    import cv2

    def sized(columns: int, rows: int) -> F32:
        made = cv2.resize(softness_mm, (columns, rows), interpolation=cv2.INTER_LINEAR)
        return np.asarray(made * np.float32(px_per_mm * share), dtype=np.float32)

    sigma = sized(width, height)
    small = sized(max(1, width // STEP), max(1, height // STEP))
    own = np.sqrt(np.maximum(small**2 - np.float32(_OWN), 0.25)) / np.float32(STEP)
    wide = _list(own.astype(np.float32), small > 0.5 * _WIDE)
    window = (0, 0, 0, 0)
    if len(wide.rows):
        reach = int(2.2 * float(wide.sigma.max())) + 2
        window = (
            max(0, int(wide.rows.min()) - reach),
            min(small.shape[0], int(wide.rows.max()) + reach + 1),
            max(0, int(wide.columns.min()) - reach),
            min(small.shape[1], int(wide.columns.max()) + reach + 1),
        )
    narrow = _list(sigma, (sigma > 0.9) & (sigma <= _WIDE))
    top, bottom, left, right = (STEP * edge for edge in window)
    taken = np.where(sigma[top:bottom, left:right] > _WIDE, 255, 0).astype(np.uint8)
    return SoftPixels(narrow, wide, taken, window)


def bare_canvas(width: int, height: int) -> U8:
    """Return the (height, width, 4) uint8 canvas before the first pass."""
    pixel = np.array([*(round(255 * v) for v in BARE), 255], np.uint8)
    # Whole pixels at once: filling channel by channel takes ten times as long.
    return np.full((height, width), pixel.view(np.uint32)[0]).view(np.uint8).reshape(height, width, 4)


def resume(standing: Standing) -> U8:
    """Return a canvas that goes on from a kept pass."""
    return standing.kept.copy()


def lay(
    canvas: U8,
    groups: Sequence[Marks],
    px_per_mm: float,
    progress: Progress = SILENT,
    workers: int | None = None,
    *,
    over: Standing | None = None,
    beneath: U8 | None = None,
    surface: str = "smooth",
    tiles: Bool | None = None,
) -> None:
    """Paint groups of marks onto a canvas, in order; with `over`, as that painting goes on.

    Parameters
    ----------
    canvas : (H, W, 4) uint8, changed in place
    groups : sequence of Marks
    px_per_mm : float
    progress : Progress
    workers : int, optional
    over : Standing, optional
    beneath : (H, W, 4) uint8, optional
        The painting before the pass, of which wet marks pick up; by default `over`.
    surface : "smooth" or "toothed"
        What nearly dry paint catches.
    tiles : (down, across) bool, optional
        Only these are painted; the others stay as they stand in `canvas`.

    Raises
    ------
    Cancelled
    """
    under = beneath if beneath is not None else over.kept if over is not None else None
    if under is not None:
        groups = [picked_up(group, under, px_per_mm) for group in groups]
    groups = in_relief(groups)
    counts = [len(group.half_mm) for group in groups]
    outline = _outlines(groups, px_per_mm)
    colour = np.concatenate([np.zeros((0, 3), np.float32), *(group.colour for group in groups)])
    alpha = np.concatenate([np.zeros(0, np.float32), *(group.alpha for group in groups)])
    manner = np.repeat([manner_of(group, surface) for group in groups], counts).astype(np.uint8)
    caught = len(manner) > 0 and int(manner.max()) > 1
    paint_outlines(
        canvas,
        outline,
        colour,
        alpha,
        manner=manner,
        tooth=tooth(px_per_mm, surface) if caught else None,
        before=None if over is None else over.kept,
        tiles=tiles,
        progress=progress,
        workers=workers,
    )


def _outlines(groups: Sequence[Marks], px_per_mm: float) -> F32:
    counts = [len(group.half_mm) for group in groups]
    outline = np.empty((sum(counts), 2 * POINTS, 2), np.float32)
    first = 0
    for group, count in zip(groups, counts, strict=True):
        outlines(group.lines_mm, group.half_mm, group.profile(), px_per_mm, out=outline[first : first + count])
        first += count
    return outline


def touched(groups: Sequence[Marks], canvas: U8, px_per_mm: float) -> Bool:
    """Return which tiles of a canvas marks are painted in, (down, across) bool."""
    return touched_tiles(_outlines(in_relief(groups), px_per_mm), *canvas.shape[:2])


def soften(canvas: U8, soft: SoftPixels, workers: int | None = None) -> None:
    """Blur the borders of a canvas in place, each pixel by its own width."""
    import cv2

    if soft.taken.size:
        top, bottom, left, right = soft.window
        small = np.empty((*soft.wide.place.shape, 4), np.uint8)
        # Four pixels of sixteen are enough: the blur that follows averages dozens of these.
        part = canvas[top * STEP : bottom * STEP, left * STEP : right * STEP]
        size = (right - left, bottom - top)
        small[top:bottom, left:right] = cv2.resize(part, size, interpolation=cv2.INTER_LINEAR)
        _blur(small, soft.wide, workers)
    _blur(canvas, soft.narrow, workers)
    if soft.taken.size:
        part = canvas[top * STEP : bottom * STEP, left * STEP : right * STEP]
        wide = cv2.resize(small[top:bottom, left:right], part.shape[1::-1], interpolation=cv2.INTER_LINEAR)
        cv2.copyTo(wide, soft.taken, part)


@dataclass(frozen=True, slots=True, eq=False)
class Blended:
    """An area whose strokes are blended into one another.

    Attributes
    ----------
    share : (h, w) float32
        Share of each cell of a canvas `STEP` times smaller that belongs to it, 0 to 1.
    sigma_px : float
        Blur (Gaussian), pixels of the canvas.
    """

    share: F32
    sigma_px: float


COARSE = 1.9
"""Cells that the deviation of a blur spans at least, on the grid it is taken on."""


def blend(canvas: U8, area: Blended, workers: int | None = None) -> None:
    """Blend the strokes of an area in place; nothing beyond its borders is drawn in, nor touched."""
    import cv2

    from foxpath.core.rehearsal import _kernel_finish as loops

    height = canvas.shape[0]
    sigma = max(0.5, area.sigma_px / STEP)
    # A wide blur has no detail to lose: it is taken on a coarser grid, in a small part of the time.
    times = max(1, int(sigma / COARSE))
    full = area.share.shape[1::-1]
    size = max(1, full[0] // times), max(1, full[1] // times)
    share = cv2.resize(area.share, size, interpolation=cv2.INTER_AREA) if times > 1 else area.share
    # Four pixels of sixteen are enough, as for borders: the blur that follows averages dozens of these.
    small = cv2.resize(canvas, full, interpolation=cv2.INTER_LINEAR)
    if times > 1:
        small = cv2.resize(small, size, interpolation=cv2.INTER_AREA)
    small = small[..., :3] * share[..., None]
    near = cv2.GaussianBlur(share, (0, 0), sigma / times) + np.float32(1e-4)
    soft = cv2.GaussianBlur(small, (0, 0), sigma / times) / near[..., None]
    if times > 1:
        soft = cv2.resize(soft, full, interpolation=cv2.INTER_LINEAR)
    flat = canvas.reshape(height, -1)
    _split(height, workers, lambda first, last: loops.blend_rows(flat, soft, area.share, first, last))


def _blur(canvas: U8, listed: Listed, workers: int | None) -> None:
    from foxpath.core.rehearsal import _kernel_finish as loops

    count = len(listed.rows)
    if count == 0:
        return
    where = (listed.rows, listed.columns, listed.sigma)
    middle = np.empty((count, 3), np.float32)
    _split(count, workers, lambda a, b: loops.soften_rows(canvas, middle, *where, a, b))
    _split(count, workers, lambda a, b: loops.soften_columns(canvas, middle, listed.place, *where, a, b))


def keep(canvas: U8) -> Standing:
    """Keep a canvas as it stands; it must not be painted on any more."""
    return Standing(frozen(canvas))


def _split(count: int, workers: int | None, work: Callable[[int, int], None]) -> None:
    """Cut 0..count into equal shares, one thread each."""
    parts = workers or worker_count()
    cuts = [count * k // parts for k in range(parts + 1)]
    helpers = [threading.Thread(target=work, args=(cuts[k], cuts[k + 1])) for k in range(1, parts)]
    for helper in helpers:
        helper.start()
    work(cuts[0], cuts[1])
    for helper in helpers:
        helper.join()
