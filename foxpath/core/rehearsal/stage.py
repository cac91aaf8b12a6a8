"""The canvas of a rehearsal: bare panel, then pass after pass of marks, borders softened, each pass kept."""

import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, I32, Rgb8, frozen
from foxpath.core.brush.raster import paint_outlines, worker_count
from foxpath.core.brush.strokes import outlines
from foxpath.core.progress import SILENT, Progress
from foxpath.core.rehearsal.marks import Marks

BARE = (0.93, 0.91, 0.87)
"""sRGB of a gessoed panel before the ground."""

Kept = np.ndarray[tuple[int, ...], np.dtype[np.uint16]]


@dataclass(frozen=True, slots=True, eq=False)
class Standing:
    """The painting as it stands after a pass.

    Attributes
    ----------
    kept : (H, W, 4) uint16
        sRGB and opacity, full scale 65535: what the next pass goes on from.
    """

    kept: Kept

    def shown(self) -> Rgb8:
        """Return the (H, W, 3) uint8 sRGB picture to look at."""
        return (self.kept[..., :3] >> 8).astype(np.uint8)


@dataclass(frozen=True, slots=True, eq=False)
class SoftPixels:
    """The pixels that borders soften.

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


def soft_pixels(softness_mm: F32, width: int, height: int, px_per_mm: float) -> SoftPixels:
    """Bring a softness map (mm) to a picture of width x height pixels and list what is to be blurred."""
    import cv2

    sigma = cv2.resize(softness_mm, (width, height), interpolation=cv2.INTER_LINEAR) * np.float32(px_per_mm)
    rows, columns = np.nonzero(sigma > 0.35)
    place = np.full(sigma.shape, -1, np.int32)
    place[rows, columns] = np.arange(len(rows), dtype=np.int32)
    listed = rows.astype(np.int32), columns.astype(np.int32), sigma[rows, columns].astype(np.float32)
    return SoftPixels(*listed, place)


def bare_canvas(width: int, height: int) -> F32:
    """Return the (height, width, 4) float32 canvas before the first pass."""
    canvas = np.empty((height, width, 4), np.float32)
    canvas[...] = (*BARE, 1.0)
    return canvas


def resume(standing: Standing) -> F32:
    """Return the float canvas that goes on from a kept pass."""
    height, width = standing.kept.shape[:2]
    canvas = np.empty((height, width, 4), np.float32)
    np.multiply(standing.kept, np.float32(1 / 65535), out=canvas)
    return canvas


def lay(
    canvas: F32, groups: Sequence[Marks], px_per_mm: float, progress: Progress = SILENT, workers: int | None = None
) -> None:
    """Paint groups of marks onto a canvas, in order. Raises `Cancelled`."""
    drawn = [
        outlines(group.lines_mm, group.half_mm, group.profile(), px_per_mm) for group in groups if len(group.half_mm)
    ]
    if not drawn:
        return
    colour = np.concatenate([group.colour for group in groups])
    alpha = np.concatenate([group.alpha for group in groups])
    paint_outlines(canvas, np.concatenate(drawn), colour, alpha, progress=progress, workers=workers)


def soften(canvas: F32, soft: SoftPixels, share: float = 1.0, workers: int | None = None) -> None:
    """Blur the borders of a canvas in place, each pixel by `share` of its own width."""
    from foxpath.core.rehearsal import _kernel_finish as loops

    count = len(soft.rows)
    if count == 0:
        return
    where = (soft.rows, soft.columns, soft.sigma * np.float32(share))
    middle = np.empty((count, 3), np.float32)
    _split(count, workers, lambda a, b: loops.soften_rows(canvas, middle, *where, a, b))
    _split(count, workers, lambda a, b: loops.soften_columns(canvas, middle, soft.place, *where, a, b))


def keep(canvas: F32, workers: int | None = None) -> Standing:
    """Round a canvas to what is kept, in place, and return it; later passes go on from just that."""
    from foxpath.core.rehearsal import _kernel_finish as loops

    kept = np.empty(canvas.shape, np.uint16)
    flat, out = canvas.reshape(-1), kept.reshape(-1)
    _split(len(flat), workers, lambda a, b: loops.keep_values(flat, out, a, b))
    return Standing(frozen(kept))


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
