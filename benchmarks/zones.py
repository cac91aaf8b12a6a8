"""Zones: a coat scribbled out of 12 megapixels, against a library's random walk on as many cells; the laying order."""

import statistics
import time
from collections.abc import Callable

import numpy as np

from foxpath.core.curves import closed_curve
from foxpath.core.zones import BorderGrowth, cut_part, fill, laying_order
from foxpath.core.zones.snap import CELLS
from tests.core.zones.test_snap import BEYOND, HEIGHT, INSIDE, WIDTH, hairy

LARGE = (4000, 3000)


def _timed(work: Callable[[], object], times: int = 5) -> float:
    """Return the median seconds of processor time; one run is made first and not counted."""
    work()
    took = []
    for _ in range(times):
        begin = time.process_time()
        work()
        took.append(time.process_time() - begin)
    return statistics.median(took)


def _library_walk(rgb: np.ndarray) -> np.ndarray:
    """Return what the library's walk finds from the same strokes, at its own settings."""
    import cv2
    from skimage.color import rgb2lab
    from skimage.segmentation import random_walker

    scale = CELLS / rgb.shape[1]
    small = cv2.resize(rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    marks = np.zeros(small.shape[:2], np.uint8)
    for strokes, value in ((BEYOND, 2), (INSIDE, 1)):
        for stroke in strokes:
            at = np.round(stroke * small.shape[1] / WIDTH - 0.5).astype(np.int32).reshape(-1, 1, 2)
            cv2.polylines(marks, [at], isClosed=False, color=value)
    return np.asarray(random_walker(rgb2lab(small), marks, mode="cg_j", tol=1e-4, channel_axis=-1) == 1)


def _overlap(found: np.ndarray, truth: np.ndarray) -> float:
    return 100 * float((found & truth).sum() / (found | truth).sum())


def measure() -> list[dict[str, object]]:
    """Cut on one made picture of 12 megapixels; order 40 zones of a row with borders on every side."""
    import cv2

    rgb, oval = hairy()
    large = np.asarray(cv2.resize(rgb, LARGE, interpolation=cv2.INTER_CUBIC), np.uint8)
    grow = LARGE[0] / WIDTH
    within, beyond = [s * grow for s in INSIDE], [s * grow for s in BEYOND]
    ours = _timed(lambda: cut_part(large, LARGE, within, beyond))
    library = _timed(lambda: _library_walk(large), 1)
    found = fill(closed_curve(cut_part(large, LARGE, within, beyond).points / grow), (HEIGHT, WIDTH))
    theirs = _library_walk(large)
    theirs = cv2.resize(theirs.astype(np.uint8), (WIDTH, HEIGHT), interpolation=cv2.INTER_NEAREST) > 0

    rng = np.random.default_rng(4)
    at = np.stack([np.arange(60.0), np.zeros(60)], axis=1)
    borders = [
        BorderGrowth(a, b, at, 1.0, *rng.uniform(-1, 1, (2, 60)).astype(np.float32))
        for a in range(40)
        for b in range(max(0, a - 6), a)
    ]
    order = _timed(lambda: laying_order(40, borders))
    return [
        {
            "what": "a scribbled part / library's walk, CPU",
            "value": ours / library,
            "unit": "x",
            "goal": None,
            "detail": f"12 megapixels, {ours:.2f} s and {library:.2f} s CPU; at most 1 s is wanted",
        },
        {
            "what": "a scribbled part, overlap with the coat",
            "value": _overlap(found, oval),
            "unit": "%",
            "goal": None,
            "detail": f"the library's walk alone {_overlap(theirs, oval):.1f} %",
        },
        {
            "what": "laying order of 40 zones",
            "value": 1000 * order,
            "unit": "ms",
            "goal": 100,
            "detail": f"{len(borders)} borders",
        },
    ]
