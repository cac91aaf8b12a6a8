"""A first set of parts from the picture alone: the animal against what lies around it, then its parts by colour.

The animal is found by iterated graph cuts from a guess in the middle; within it small even pieces are joined, the most
alike first, until some parts are left. It is a first proposal, to be named, merged and mended.

References
----------
Rother, Kolmogorov, Blake (2004), "GrabCut", doi:10.1145/1015706.1015720.
Ward (1963), "Hierarchical grouping to optimize an objective function", doi:10.1080/01621459.1963.10500845.
"""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, I32, Bool, Points, Rgb8
from foxpath.core.colour import lab_bytes, lab_from_rgb8
from foxpath.core.frame import Crop
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.zones.outline import smooth_line, thinned

SIDE = 240
"""Cells along the longer side of the picture that is looked at."""
BLOCK = 3
MEAN_SHIFT = (9, 22)
_EVEN = (8, 16)
_UNLIKE_MOST = 30.0
"""Steps of CIELAB from the rim's colours beyond which all is equally unlike them."""
_BOUNDS = (35, 55, 85)
"""Percentiles of likeliness: below the first it is not the animal, above the last it is; the cut decides between."""
LEAST_SHARE = 0.012
"""Parts smaller than this share of the crop are joined to a neighbour."""
MOST, FEWEST = 11, 6
"""Parts that are proposed, the surroundings not counted."""
WORTH = 4200.0
"""Cost of joining two parts (L*a*b* squared times blocks) from which they are left apart once few are left."""


@dataclass(frozen=True, slots=True, eq=False)
class Proposed:
    """A proposed part: its outline (reference pixels), and its share of the crop."""

    points: Points
    share: float


def propose_parts(rgb: Rgb8, crop: Crop, progress: Progress = SILENT) -> list[Proposed]:
    """Return parts back to front: the whole animal first, then the parts that lie on it.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        The crop of the picture.
    crop : Crop
        What it covers, reference pixels.
    progress : Progress

    Raises
    ------
    Cancelled
    """
    import cv2

    shrink = min(1.0, SIDE / max(rgb.shape[:2]))
    size = (max(24, round(rgb.shape[1] * shrink)), max(24, round(rgb.shape[0] * shrink)))
    small = np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), np.uint8)
    progress.at(0.1, "looking for the animal")
    animal = _animal(small, rgb)
    progress.at(0.5, "looking for its parts")
    even = np.asarray(cv2.pyrMeanShiftFiltering(small, *MEAN_SHIFT), np.uint8)
    parts = _parts(lab_from_rgb8(even), animal)
    progress.at(0.9, "drawing the outlines")
    cell = np.array([crop.width / size[0], crop.height / size[1]])
    found = []
    order = sorted((int(k) for k in np.unique(parts) if k > 0), key=lambda k: -int((parts == k).sum()))
    whole = animal.size
    for place, key in enumerate([0, *order[1:]]):
        # The largest part is what shows of the animal itself beneath the others.
        mask = animal if place == 0 else parts == key
        line = _line(mask)
        if line is not None:
            found.append(Proposed(line * cell + (crop.x, crop.y), float((parts == (key or order[0])).sum()) / whole))
    return found


def _foreground(even: F32, rgb: Rgb8) -> F32:
    """Return (rows, columns) float32, the larger the likelier the animal: three measures, each in its own spread over the picture.

    Parameters
    ----------
    even : (rows, columns, 3) float32
        CIELAB of the picture made small, fine detail evened out.
    rgb : (H, W, 3) uint8
        The picture itself, for what is in focus.
    """
    import cv2
    from scipy.cluster.vq import kmeans

    rows, columns = even.shape[:2]
    y, x = np.mgrid[0:rows, 0:columns].astype(np.float32)
    u, v = 2 * x / columns - 1, 2 * y / rows - 1.04
    # An animal often runs on over the foot of the picture, seldom over its head.
    middle = -(0.9 * u**2 + np.where(v < 0, v**2, 0.35 * v**2))
    grey = cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY).astype(np.float32)
    fine = np.abs(grey - cv2.GaussianBlur(grey, (0, 0), 1.5))
    fine = cv2.GaussianBlur(cv2.resize(fine, (columns, rows), interpolation=cv2.INTER_AREA), (0, 0), 0.025 * columns)
    sharp = np.log(fine + 0.4)
    wide = max(3, round(0.04 * min(rows, columns)))
    # The foot is left out: there the animal itself may touch the rim.
    rim = np.concatenate([even[:wide].reshape(-1, 3), even[:, :wide].reshape(-1, 3), even[:, -wide:].reshape(-1, 3)])
    rim = rim[:: max(1, len(rim) // 1500)].astype(np.float64)
    ordered = rim[np.argsort(rim[:, 0])]
    first = np.unique(ordered[np.linspace(0, len(ordered) - 1, 8).astype(int)], axis=0)
    kept = kmeans(rim, first)[0].astype(np.float32)
    unlike = np.minimum(np.sqrt(((even[:, :, None] - kept) ** 2).sum(-1).min(-1)), _UNLIKE_MOST)
    score = sum(w * (one - one.mean()) / (one.std() + 1e-6) for w, one in ((1, sharp), (2, unlike), (1, middle)))
    return np.asarray(cv2.GaussianBlur(np.asarray(score, np.float32), (0, 0), 0.015 * columns))


def _animal(small: Rgb8, rgb: Rgb8) -> Bool:
    """Return where the animal is: a graph cut of colours, begun from what is sharp, unlike the picture's rim, and near its middle."""
    import cv2

    rows, columns = small.shape[:2]
    even = lab_from_rgb8(np.asarray(cv2.pyrMeanShiftFiltering(small, *_EVEN), np.uint8))
    likely = _foreground(even, rgb)
    bounds = np.percentile(likely, _BOUNDS)
    mask = np.full((rows, columns), cv2.GC_BGD, np.uint8)
    mask[likely > bounds[0]] = cv2.GC_PR_BGD
    mask[likely > bounds[1]] = cv2.GC_PR_FGD
    mask[likely > bounds[2]] = cv2.GC_FGD
    models = (np.zeros((1, 65)), np.zeros((1, 65)))
    # In even steps of CIELAB: coats differ from what is behind them by lightness and hue more than by red, green and blue.
    cv2.setRNGSeed(1)
    cv2.grabCut(lab_bytes(even), mask, (0, 0, 1, 1), *models, 6, cv2.GC_INIT_WITH_MASK)
    found = np.isin(mask, (cv2.GC_FGD, cv2.GC_PR_FGD)).astype(np.uint8)
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (7, 7))
    closed = cv2.morphologyEx(cv2.morphologyEx(found, cv2.MORPH_CLOSE, kernel), cv2.MORPH_OPEN, kernel)
    count, labels = cv2.connectedComponents(closed, connectivity=4)
    if count < 2:
        return np.asarray(likely > bounds[1])
    # The piece that is most likely all in all: a large even one may be what lies behind.
    said = np.bincount(labels.ravel(), np.clip(likely - bounds[1], 0, None).ravel(), minlength=count)
    body = (labels == 1 + int(said[1:].argmax())).astype(np.uint8)
    outer, _ = cv2.findContours(body, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return np.asarray(cv2.drawContours(np.zeros_like(body), outer, -1, 1, cv2.FILLED) > 0)


def _parts(lab: F32, animal: Bool) -> I32:
    """Join blocks of alike colour within the animal until few parts are left: 0 outside, then 1, 2, ..."""
    import cv2

    rows, columns = animal.shape
    down, across = -(-rows // BLOCK), -(-columns // BLOCK)
    padded = cv2.copyMakeBorder(lab, 0, down * BLOCK - rows, 0, across * BLOCK - columns, cv2.BORDER_REPLICATE)
    inside = np.zeros((down * BLOCK, across * BLOCK), np.float32)
    inside[:rows, :columns] = animal
    block_in = inside.reshape(down, BLOCK, across, BLOCK).mean(axis=(1, 3)) > 0.5
    colour = padded.reshape(down, BLOCK, across, BLOCK, 3).mean(axis=(1, 3))
    ids = np.full((down, across), -1, np.int64)
    ids[block_in] = np.arange(int(block_in.sum()))
    if not block_in.any():
        return np.zeros(animal.shape, np.int32)
    merged = _joined(colour[block_in].astype(np.float64), ids, LEAST_SHARE * down * across)
    labels = np.zeros((down, across), np.int32)
    labels[block_in] = merged + 1
    large = np.kron(labels, np.ones((BLOCK, BLOCK), np.int32))[:rows, :columns]
    # Blocks at the animal's rim that were half out belong to their nearest part.
    _, nearest = cv2.distanceTransformWithLabels(
        (large == 0).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    of_label = np.zeros(int(nearest.max()) + 1, np.int32)
    of_label[nearest[large > 0]] = large[large > 0]
    filled = np.where(large > 0, large, of_label[nearest])
    return np.where(animal, filled, 0).astype(np.int32)


def _joined(colour: np.ndarray, ids: np.ndarray, least: float) -> np.ndarray:
    """Join neighbours, the cheapest pair first, by Ward's cost; return each block's part, counted from 0."""
    import heapq

    count = len(colour)
    size, mean = np.ones(count), colour.copy()
    parent = np.arange(count)
    near: list[set[int]] = [set() for _ in range(count)]
    for here, there in ((ids[:, :-1], ids[:, 1:]), (ids[:-1], ids[1:])):
        both = (here >= 0) & (there >= 0)
        for left_id, right_id in zip(here[both].tolist(), there[both].tolist(), strict=True):
            near[left_id].add(right_id)
            near[right_id].add(left_id)

    def cost(a: int, b: int) -> float:
        gap = float(((mean[a] - mean[b]) ** 2).sum())
        joint = size[a] * size[b] / (size[a] + size[b]) * gap
        # What is smaller than a part may be is joined first of all.
        return float(joint * 1e-3) if min(size[a], size[b]) < least else joint

    heap: list[tuple[float, int, int, float, float]] = [
        (cost(a, b), a, b, 1.0, 1.0) for a in range(count) for b in near[a] if a < b
    ]
    heapq.heapify(heap)
    left = count
    while heap and left > 1:
        price, a, b, size_a, size_b = heapq.heappop(heap)
        if parent[a] != a or parent[b] != b or size[a] != size_a or size[b] != size_b:
            continue
        small = min(size[a], size[b]) < least
        if not small and (left <= FEWEST or (left <= MOST and price > WORTH)):
            break
        mean[a] = (size[a] * mean[a] + size[b] * mean[b]) / (size[a] + size[b])
        size[a] += size[b]
        parent[b] = a
        near[a] = (near[a] | near[b]) - {a, b}
        for other in near[b] - {a}:
            near[other].discard(b)
            near[other].add(a)
        left -= 1
        for other in near[a]:
            one, two = min(a, other), max(a, other)
            heapq.heappush(heap, (cost(one, two), one, two, float(size[one]), float(size[two])))

    def top(k: int) -> int:
        while parent[k] != k:
            k = int(parent[k])
        return k

    tops = np.array([top(k) for k in range(count)])
    return np.unique(tops, return_inverse=True)[1]


def _line(mask: Bool) -> Points | None:
    """Return the outline of the largest piece of a mask, cells, a little wide so that neighbours leave no gap."""
    import cv2

    fine = 4
    large = cv2.resize(np.pad(mask, 1).astype(np.float32), None, fx=fine, fy=fine, interpolation=cv2.INTER_LINEAR)
    large = cv2.GaussianBlur(large, (0, 0), 1.3 * fine)
    lines, _ = cv2.findContours((large > 0.42).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not lines:
        return None
    line = max(lines, key=cv2.contourArea).reshape(-1, 2).astype(np.float64)
    if len(line) < 12 * fine:
        return None
    return thinned((smooth_line(line, 1.5 * fine) + 0.5) / fine - 1)
