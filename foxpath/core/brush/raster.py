"""Paint tapered outlines onto an image with exact coverage, on several threads."""

import os
import threading

import numpy as np

from foxpath.core.arrays import F32, U8, Bool
from foxpath.core.reporting import SILENT, Cancelled, Progress

_CHUNK = 4


def worker_count() -> int:
    """Return how many threads paint: two, or one on a machine with a single core."""
    return 2 if (os.cpu_count() or 1) > 1 else 1


def tile_grid(height: int, width: int) -> tuple[int, int]:
    """Return how many tiles an image is painted in, down and across."""
    from foxpath.core.brush import _kernel_paint as loops

    return -(-height // loops.TILE_H), -(-width // loops.TILE_W)


def touched_tiles(outline: F32, height: int, width: int) -> Bool:
    """Return which tiles of an image outlines lie in, (down, across) bool."""
    from foxpath.core.brush import _kernel_paint as loops

    down, across = tile_grid(height, width)
    counts = np.zeros(across * down, np.float64)
    if len(outline):
        loops.count_tiles(outline, across, down, counts, np.empty((len(outline), 4), np.int32))
    return np.asarray(counts.reshape(down, across) > 0)


def tiles_at(points_px: F32, height: int, width: int) -> tuple[np.ndarray, np.ndarray]:
    """Return the row and column of the tile each of (N, 2) places lies in; those off the image count as at its border."""
    from foxpath.core.brush import _kernel_paint as loops

    down, across = tile_grid(height, width)
    i = np.clip(points_px[:, 1] / loops.TILE_H, 0, down - 1).astype(int)
    return i, np.clip(points_px[:, 0] / loops.TILE_W, 0, across - 1).astype(int)


def differing_tiles(one: F32 | U8, other: F32 | U8, within: Bool | None = None) -> Bool:
    """Return in which tiles two images of one shape differ, (down, across) bool; with `within` only those are looked at."""
    from foxpath.core.brush import _kernel_paint as loops

    down, across = tile_grid(*one.shape[:2])
    found = np.zeros((down, across), bool)
    whole = one.dtype == np.uint8 and one.shape[2] == 4
    # Whole pixels are compared four times as fast as their bytes.
    a, b = (image.view(np.uint32) if whole else image for image in (one, other))
    for i in range(down):
        for j in range(across):
            if within is not None and not within[i, j]:
                continue
            part = np.s_[i * loops.TILE_H : (i + 1) * loops.TILE_H, j * loops.TILE_W : (j + 1) * loops.TILE_W]
            found[i, j] = not np.array_equal(a[part], b[part])
    return found


def paint_outlines(
    image: F32 | U8,
    outline: F32,
    colour: F32,
    alpha: F32,
    *,
    manner: U8 | None = None,
    tooth: F32 | None = None,
    before: F32 | U8 | None = None,
    tiles: Bool | None = None,
    workers: int | None = None,
    progress: Progress = SILENT,
) -> None:
    """Paint marks in order, each over the ones before.

    The image is cut into tiles; each tile keeps the order of its marks, and threads take the
    heaviest tiles first. The result does not depend on the number of threads.

    Parameters
    ----------
    image : (H, W, 4) float32 or uint8, changed in place
        Premultiplied RGBA, 0..1 (0..255 as bytes). Bytes are rounded once for each call.
    outline : (N, M, 2) float32
        Closed outlines in pixels (pixel j spans j to j + 1).
    colour : (N, 3) float32, 0..1
    alpha : (N,) float32, 0..1
    manner : (N,) uint8, optional
        How each mark is laid: 0 covers, 1 lies transparent (its colour is what it lets through), 2 and more catch only the
        first, second … `tooth`. By default all cover.
    tooth : (K, 256, 256) float32, optional
        Share of paint that stays on each pixel, 0..1; it repeats over the image. Needed for manners from 2 on.
    before : like `image`, optional
        What the marks are painted over; `image` is then only written. By default `image` itself.
    tiles : (down, across) bool, optional
        Only these tiles are painted, the others left as they stand in `image`; see `tile_grid`.
    workers : int, optional
        Threads; two by default.
    progress : Progress

    Raises
    ------
    Cancelled
        Between tiles; the image is then half painted and must be dropped.
    ValueError
        When the shapes do not belong together.
    """
    from foxpath.core.brush import _kernel_paint as loops

    if image.ndim != 3 or image.shape[2] != 4 or image.dtype not in (np.float32, np.uint8):
        raise ValueError(f"the image must be (H, W, 4) float32 or uint8, got {image.shape} {image.dtype}")
    if not len(outline) == len(colour) == len(alpha):
        raise ValueError("outline, colour and alpha must have one entry for each mark")
    if before is not None and (before.shape != image.shape or before.dtype != image.dtype):
        raise ValueError(f"what is painted over must be like the image, got {before.shape} {before.dtype}")
    if manner is not None and len(manner) != len(alpha):
        raise ValueError("there must be one manner for each mark")
    if tooth is not None and tooth.shape[1:] != (loops.TOOTH, loops.TOOTH):
        raise ValueError(f"a tooth is (K, {loops.TOOTH}, {loops.TOOTH}), got {tooth.shape}")
    most = loops.TOOTHED + (0 if tooth is None else len(tooth))
    if manner is not None and len(manner) and int(manner.max()) >= most:
        raise ValueError("there is no tooth for a mark to catch")
    ways = np.zeros(len(alpha), np.uint8) if manner is None else manner
    grain = np.ones((1, 1, 1), np.float32) if tooth is None else tooth
    source = image if before is None or tiles is None else before
    if not len(outline) and tiles is None:
        if before is not None:
            image[:] = before
        return
    height, width = image.shape[:2]
    across, down = -(-width // loops.TILE_W), -(-height // loops.TILE_H)
    counts = np.zeros(across * down, np.float64)
    box = np.empty((len(outline), 4), np.int32)
    loops.count_tiles(outline, across, down, counts, box)
    offset = np.concatenate([[0.0], np.cumsum(counts)])
    members = np.empty(int(offset[-1]), np.int32)
    loops.fill_tiles(box, across, offset[:-1].copy(), members)
    order = np.argsort(-counts, kind="stable").astype(np.int32)
    if tiles is not None:
        order = order[tiles.ravel()[order]]
    if before is not None and tiles is None:
        # In one sweep: row by row where no mark lies, which is less, takes longer.
        image[:] = before
    elif before is not None:
        for tile in order[counts[order] == 0]:
            top, left = (tile // across) * loops.TILE_H, (tile % across) * loops.TILE_W
            part = np.s_[top : top + loops.TILE_H, left : left + loops.TILE_W]
            image[part] = before[part]
    order = order[counts[order] > 0]
    full = 1.0 if image.dtype == np.float32 else 255.0

    lock = threading.Lock()
    taken = 0
    failures: list[BaseException] = []

    def work() -> None:
        nonlocal taken
        try:
            while not progress.is_cancelled() and not failures:
                with lock:
                    start, taken = taken, taken + _CHUNK
                if start >= len(order):
                    return
                count = min(_CHUNK, len(order) - start)
                marks = (outline, colour, alpha, ways, grain, members, offset)
                loops.paint_tiles(image, source, full, *marks, across, order, start, count)
        except BaseException as failure:
            failures.append(failure)

    helpers = [threading.Thread(target=work) for _ in range((workers or worker_count()) - 1)]
    for helper in helpers:
        helper.start()
    work()
    for helper in helpers:
        helper.join()
    if failures:
        raise failures[0]
    if progress.is_cancelled():
        raise Cancelled
