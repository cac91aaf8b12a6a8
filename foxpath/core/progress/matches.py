"""Where places of the plan are found on the canvas: windows looked for near their place, and smooth fields of shifts through them.

A straight border says only where it lies across itself. Each match therefore carries a 2 x 2 matrix of what it knows: the structure tensor
of its window, weighed by how well it was found.
"""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Bool
from foxpath.core.progress.small import blur, resized

LEAST_SPREAD, LEAST_ALIKE = 2.0, 0.5
"""L* that a window must spread, and how alike it must be where it is found."""
STEP = 8
"""Fields are reckoned on every so many pixels."""


@dataclass(frozen=True, slots=True)
class Window:
    """How places are looked for: side, distance and reach in mm, px per mm, and the squint, mm."""

    side: float = 30.0
    step: float = 20.0
    reach: float = 7.0
    px: float = 1.5
    squint: float = 1.2


@dataclass(frozen=True, slots=True, eq=False)
class Matches:
    """Places found.

    Attributes
    ----------
    at : (N, 2) float64
        mm on the canvas, where the plan has them.
    shift : (N, 2) float64
        mm by which they lie off.
    knows : (N, 3) float64
        xx, xy and yy of the matrix of what each knows.
    """

    at: F64
    shift: F64
    knows: F64

    def __len__(self) -> int:
        """Return how many there are."""
        return len(self.at)

    def without(self, mask: Bool, px_per_mm: float) -> "Matches":
        """Return those that do not lie in a mask of the work picture."""
        x, y = np.clip((self.at * px_per_mm).astype(int), 0, (mask.shape[1] - 1, mask.shape[0] - 1)).T
        keep = ~mask[y, x]
        return Matches(self.at[keep], self.shift[keep], self.knows[keep])


def _between(before: float, best: float, after: float) -> float:
    """Return where a parabola through three neighbours is highest, in steps from the middle."""
    below = before - 2 * best + after
    return 0.0 if abs(below) < 1e-9 else 0.5 * (before - after) / below


def find_places(plan: F32, seen: F32, px_per_mm: float, window: Window) -> Matches:
    """Look for windows of the plan in what is seen.

    Parameters
    ----------
    plan, seen : (H, W, 3) float32 CIELAB
        Of one size.
    px_per_mm : float
    window : Window
    """
    scale = window.px / px_per_mm
    a, b = blur(resized(plan, scale), window.squint * window.px), blur(resized(seen, scale), window.squint * window.px)
    # What was rounded when they were made smaller counts: the true pixels for a mm, each way.
    px = np.array([a.shape[1] / plan.shape[1], a.shape[0] / plan.shape[0]]) * px_per_mm
    reach, half = int(window.reach * window.px), int(window.side * window.px / 2)
    gx, gy = cv2.Sobel(a[..., 0], cv2.CV_32F, 1, 0), cv2.Sobel(a[..., 0], cv2.CV_32F, 0, 1)
    tensor = [cv2.boxFilter(v, -1, (2 * half, 2 * half)) for v in (gx * gx, gx * gy, gy * gy)]
    wide = cv2.copyMakeBorder(b, reach, reach, reach, reach, cv2.BORDER_REPLICATE)
    step, rows = max(1, round(window.step * window.px)), []
    for y in range(half, a.shape[0] - half, step):
        for x in range(half, a.shape[1] - half, step):
            patch = a[y - half : y + half, x - half : x + half]
            if float(patch[..., 0].std()) < LEAST_SPREAD:
                continue
            room = wide[y - half : y + half + 2 * reach, x - half : x + half + 2 * reach]
            alike = cv2.matchTemplate(room, patch, cv2.TM_CCOEFF_NORMED)
            _, best, _, (i, j) = cv2.minMaxLoc(alike)
            if best < LEAST_ALIKE or not (0 < i < 2 * reach and 0 < j < 2 * reach):
                continue
            dx = i - reach + _between(alike[j, i - 1], best, alike[j, i + 1])
            dy = j - reach + _between(alike[j - 1, i], best, alike[j + 1, i])
            weight = (best - 0.4) ** 2
            rows.append((x, y, dx, dy, *(float(t[y, x]) * weight for t in tensor)))
    found = np.array(rows, np.float64).reshape(-1, 7)
    return Matches(found[:, :2] / px, found[:, 2:4] / px, found[:, 4:])


def smooth_field(matches: Matches, size: tuple[int, int], px_per_mm: float, sigma_mm: float, hold: float = 0.05) -> F32:
    """Return a smooth field of shifts through matches, (H, W, 2) work px.

    Parameters
    ----------
    matches : Matches
    size : (width, height)
        Of the work picture.
    px_per_mm : float
    sigma_mm : float
        How far a match speaks.
    hold : float
        How strongly a place that nobody knows is held where it is, as a share of the best known.

    Notes
    -----
    Normalised convolution with matrices: what a match knows across a border adds up with what another knows along it.
    """
    width, height = size
    columns, rows = width // STEP + 1, height // STEP + 1
    if not len(matches):
        return np.zeros((height, width, 2), np.float32)
    knows = matches.knows / (float(np.median(matches.knows[:, 0] + matches.knows[:, 2])) + 1e-6)
    xx, xy, yy = knows.T
    dx, dy = matches.shift.T
    x, y = np.clip((matches.at * px_per_mm / STEP).astype(int), 0, (columns - 1, rows - 1)).T
    sums = np.zeros((rows, columns, 5), np.float32)
    np.add.at(sums, (y, x), np.stack([xx, xy, yy, xx * dx + xy * dy, xy * dx + yy * dy], axis=1).astype(np.float32))
    sums = np.dstack(
        [blur(sums[..., :3], sigma_mm * px_per_mm / STEP), blur(sums[..., 3:], sigma_mm * px_per_mm / STEP)]
    )
    held = hold * float(sums[..., [0, 2]].max())
    a, b, c = sums[..., 0] + held, sums[..., 1], sums[..., 2] + held
    below = np.maximum(a * c - b * b, 1e-12)
    field = np.dstack([(c * sums[..., 3] - b * sums[..., 4]) / below, (a * sums[..., 4] - b * sums[..., 3]) / below])
    made = cv2.resize(np.asarray(field * px_per_mm, np.float32), (width, height), interpolation=cv2.INTER_CUBIC)
    return np.asarray(made, np.float32)
