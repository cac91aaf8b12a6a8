"""Hair that hangs over its part's outline: what lies beyond it and looks like the coat, not like what is behind."""

import numpy as np

from foxpath.core.arrays import F32, Bool, Lab

STANDS_OUT = 6.0
"""What hangs over differs from the ground behind by at least this (Euclidean, CIELAB)."""
NEARER = 0.75
"""And lies nearer to the coat's colours than this share of its distance to the ground's."""
PLAINLY = 18.0
"""From this difference on it is no ground at all, whatever the colour of its coat."""
COARSE = 4.0
"""Cells of a coarser grid that an average's deviation spans at least."""
SPECK = 12
"""Patches of fewer cells are noise."""


def overhang(lab: Lab, coat: Bool, ground: Bool, reach_cells: float) -> Bool:
    """Return the cells of the ground that a coat's hair hangs over.

    Parameters
    ----------
    lab : (rows, columns, 3) float32
        CIELAB of the photograph.
    coat, ground : (rows, columns) bool
        The part with hair, and what is behind it.
    reach_cells : float
        How far hair may hang, cells.

    Returns
    -------
    (rows, columns) bool
        Only cells that hang together with the coat.
    """
    import cv2

    away = cv2.distanceTransform((~coat).astype(np.uint8), cv2.DIST_L2, 5)
    near = ground & (away <= reach_cells)
    if not near.any():
        return near
    top, bottom, left, right = _window(near | (coat & (_rim(coat, reach_cells))), int(reach_cells) + 4)
    cut = (slice(top, bottom), slice(left, right))
    seen, own, back, distance = lab[cut], coat[cut], ground[cut], away[cut]
    # The ground as it is where no hair reaches it, brought in from further out.
    behind = _spread(seen, back & (distance > reach_cells), 0.7 * reach_cells)
    before = _spread(seen, own, 0.35 * reach_cells)
    to_ground, to_coat = (np.sqrt(((seen - one) ** 2).sum(axis=-1)) for one in (behind, before))
    hair = near[cut] & (to_ground > STANDS_OUT) & ((to_coat < NEARER * to_ground) | (to_ground > PLAINLY))
    joined = cv2.morphologyEx((hair | own).astype(np.uint8), cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8))
    count, pieces, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    keep = [k for k in range(1, count) if own[pieces == k].any() and stats[k, cv2.CC_STAT_AREA] >= SPECK]
    out = np.zeros(coat.shape, bool)
    out[cut] = np.isin(pieces, keep) & hair
    return out


def _rim(mask: Bool, reach: float) -> Bool:
    import cv2

    return np.asarray(cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 5) <= reach)


def _window(mask: Bool, margin: int) -> tuple[int, int, int, int]:
    rows, columns = np.flatnonzero(mask.any(1)), np.flatnonzero(mask.any(0))
    return (
        max(0, int(rows[0]) - margin),
        min(mask.shape[0], int(rows[-1]) + margin + 1),
        max(0, int(columns[0]) - margin),
        min(mask.shape[1], int(columns[-1]) + margin + 1),
    )


def _spread(lab: Lab, mask: Bool, sigma: float) -> Lab:
    """Return the colours of a mask averaged over `sigma` cells, and carried on beyond it."""
    import cv2

    weight = mask.astype(np.float32)
    colours = lab * weight[..., None]
    # Three widths: near the mask its nearest colours count, far from it any.
    height, width = weight.shape
    total, share = np.zeros_like(colours), np.zeros_like(weight)
    for times, part in ((1.0, 1.0), (3.0, 1e-2), (9.0, 1e-4)):
        s = max(0.6, times * sigma)
        # A wide average has no detail to lose: it is taken on a coarser grid, in a small part of the time.
        step = max(1, int(s / COARSE))
        size = (max(1, width // step), max(1, height // step))

        def wide(values: F32, s: float = s, step: int = step, size: tuple[int, int] = size) -> F32:
            small = cv2.resize(values, size, interpolation=cv2.INTER_AREA) if step > 1 else values
            small = cv2.GaussianBlur(small, (0, 0), s / step)
            return np.asarray(cv2.resize(small, (width, height)) if step > 1 else small, np.float32)

        total += part * wide(colours)
        share += part * wide(weight)
    made: F32 = (total / np.maximum(share, 1e-9)[..., None]).astype(np.float32)
    return made
