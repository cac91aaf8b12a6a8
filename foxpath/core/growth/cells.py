"""Cells of the working grid: a zone's window, strokes drawn onto it, what joins it."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool, Points
from foxpath.core.curves import line_length, resample
from foxpath.core.frame import Frame


@dataclass(frozen=True, slots=True, eq=False)
class CombStroke:
    """A stroke along the hair.

    Attributes
    ----------
    points : (N, 2) float64
        Reference pixels from root to tip, N >= 2.
    weight : float
        1 for a comb; less for what is only inferred from elsewhere.
    """

    points: Points
    weight: float = 1.0


def window_of(mask: Bool, pad: int) -> tuple[slice, slice]:
    """Return the rows and columns of a mask's bounding box, grown by `pad` cells."""
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    return (
        slice(max(0, rows[0] - pad), min(mask.shape[0], rows[-1] + 1 + pad)),
        slice(max(0, columns[0] - pad), min(mask.shape[1], columns[-1] + 1 + pad)),
    )


def grown(mask: Bool, cells: int) -> Bool:
    """Return a mask grown by a disc of so many cells."""
    import cv2

    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * cells + 1, 2 * cells + 1))
    return np.asarray(cv2.dilate(mask.astype(np.uint8), disc), dtype=bool)


def comb_cells(combs: Sequence[CombStroke], frame: Frame, row: int, column: int, domain: Bool) -> F32:
    """Draw combs onto the window's cells: (4, h, w) sums of direction x, y and of samples, and the heaviest weight."""
    height, width = domain.shape
    cells = np.zeros((4, height, width), np.float32)
    for comb in combs:
        at = frame.to_grid(comb.points) - (column, row)
        length = line_length(at)
        if length < 1e-6:
            continue
        line = resample(at, max(2, int(length * 2) + 1))
        step = np.diff(line, axis=0)
        size = np.hypot(*step.T)[:, None]
        step = step / np.maximum(size, 1e-9)
        middle = (line[1:] + line[:-1]) / 2
        j, i = np.floor(middle[:, 0]).astype(int), np.floor(middle[:, 1]).astype(int)
        keep = (i >= 0) & (i < height) & (j >= 0) & (j < width)
        keep[keep] &= domain[i[keep], j[keep]]
        for plane, value in enumerate((step[:, 0], step[:, 1], np.ones(len(step)))):
            np.add.at(cells[plane], (i[keep], j[keep]), value[keep].astype(np.float32) * np.float32(comb.weight))
        np.maximum.at(cells[3], (i[keep], j[keep]), np.float32(comb.weight))
    return cells


def joined_cells(domain: Bool) -> tuple[F32, F32]:
    """Return conductances east and south: 1 between cells of the domain, 0 across its border."""
    east, south = np.zeros(domain.shape, np.float32), np.zeros(domain.shape, np.float32)
    east[:, :-1] = domain[:, :-1] & domain[:, 1:]
    south[:-1] = domain[:-1] & domain[1:]
    return east, south


def unit_of(vector: F32) -> tuple[F32, F32]:
    """Split (2, h, w) vectors into (h, w, 2) unit vectors and their (h, w) size."""
    size = np.hypot(vector[0], vector[1])
    safe = np.maximum(size, 1e-12)
    return np.stack([vector[0] / safe, vector[1] / safe], axis=-1).astype(np.float32), size


def away_from(cells: Bool) -> F32:
    """Return how far each cell lies from the nearest of some, in cells, exactly; at least one must be there."""
    import cv2

    away = cv2.distanceTransform((~cells).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    # Its last bit changes from call to call; squares of distances between cells are whole numbers.
    return np.asarray(np.sqrt(np.rint(away * away)), np.float32)


def spread_out(direction: F32, known: Bool) -> F32:
    """Give cells outside the known ones the direction of the nearest known cell; at least one must be known."""
    import cv2

    _, nearest = cv2.distanceTransformWithLabels(
        (~known).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_5, labelType=cv2.DIST_LABEL_PIXEL
    )
    # Each known cell has a number of its own, and every other cell that of the nearest.
    own = np.zeros((int(nearest.max()) + 1, direction.shape[-1]), direction.dtype)
    own[nearest[known]] = direction[known]
    made = direction.copy()
    made[~known] = own[nearest[~known]]
    return made
