"""How wide a border is in the photograph: evidence beside the plan, with how far it can be trusted."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.curves import line_length, resample
from foxpath.core.units import WIDTH_OF_SIGMA

REACH_PX = 30.0
"""How far to each side of the border the photograph is read."""
TOGETHER_PX = 31
"""Length of border whose profiles are averaged."""
NARROWEST_PX = 0.8
"""A blur below this is as sharp as pixels can show."""
LEAST_STEP = 6.0
"""Levels of 255 that the two sides must differ by."""


@dataclass(frozen=True, slots=True)
class EdgeReading:
    """A border as the photograph shows it.

    Attributes
    ----------
    width : float
        Transition from 10 to 90 %: pixels of the picture, or mm on the canvas once brought there; NaN where the
        photograph gives nothing.
    low, high : float
        The narrowest and widest tenth along the border.
    reliable : float
        0 to 1: the share of its length that shows a clear step, less where the widths scatter.
    borrowed : str
        Name of the donor it comes from, where the photograph itself gives nothing; empty for its own.
    """

    width: float
    low: float
    high: float
    reliable: float
    borrowed: str = ""

    def times(self, factor: float) -> "EdgeReading":
        """Return the reading in other units."""
        return replace(self, width=self.width * factor, low=self.low * factor, high=self.high * factor)


RELIABLE = 0.35
"""Below this an edge of the photograph is not told."""
NOTHING = EdgeReading(float("nan"), float("nan"), float("nan"), 0.0)


def read_edge(luma: F32, runs: Sequence[Points]) -> EdgeReading:
    """Measure a border in the photograph.

    Parameters
    ----------
    luma : (H, W) float32
        Grey levels, 0..255.
    runs : sequence of (N, 2) float64
        Stretches of the border, pixels of `luma`; the edge may lie a few pixels beside them.

    Notes
    -----
    Profiles across the border are laid on one another along the way of their steepest places and averaged over
    `TOGETHER_PX`: hairs that stand out of the edge widen it, an outline drawn beside it does not. For a
    step blurred by sigma the slopes after smoothing by s1 and by s2 have a ratio R with
    ``sigma^2 = (s2^2 - R^2 s1^2) / (R^2 - 1)``, from which the sampling's own 1/12 is taken; s1 follows sigma. After
    Elder and Zucker (1998), doi:10.1109/34.689301.
    """
    sigmas: list[float] = []
    windows = 0
    for run in runs:
        lines = _profiles(luma, run)
        for k in range(0, max(1, len(lines) - TOGETHER_PX // 2), TOGETHER_PX):
            part = lines[k : k + TOGETHER_PX]
            if len(part) < 8:
                continue
            windows += 1
            sigma = _blur_of(_laid_together(part))
            if sigma is not None:
                sigmas.append(sigma)
    if not sigmas:
        return NOTHING
    found = np.array(sigmas)
    middle = float(np.median(found))
    scatter = float(np.median(np.abs(found - middle))) / max(middle, NARROWEST_PX)
    reliable = len(found) / windows / (1 + 1.5 * scatter)
    low, high = np.percentile(found, (10, 90))
    return EdgeReading(WIDTH_OF_SIGMA * middle, WIDTH_OF_SIGMA * float(low), WIDTH_OF_SIGMA * float(high), reliable)


def _profiles(luma: F32, run: Points) -> F32:
    """Return grey levels across a stretch of border, one row a pixel of its length; those that leave the picture are left out."""
    import cv2

    length = line_length(run)
    if length < 8:
        return np.zeros((0, 0), np.float32)
    at = resample(run, max(8, int(length)))
    step = np.gradient(at, axis=0)
    # Turns of single pixels would fan the profiles out.
    step = cv2.GaussianBlur(step.astype(np.float32), (1, 0), sigmaX=0.01, sigmaY=6.0).astype(np.float64)
    normal = np.stack([-step[:, 1], step[:, 0]], axis=1) / (np.hypot(*step.T)[:, None] + 1e-9)
    across = np.arange(-REACH_PX, REACH_PX + 0.25, 0.5)
    x = (at[:, :1] - 0.5) + normal[:, :1] * across
    y = (at[:, 1:] - 0.5) + normal[:, 1:] * across
    height, width = luma.shape
    inside = (x.min(axis=1) >= 0) & (y.min(axis=1) >= 0) & (x.max(axis=1) < width - 1) & (y.max(axis=1) < height - 1)
    if not inside.any():
        return np.zeros((0, 0), np.float32)
    return np.asarray(
        cv2.remap(luma, x[inside].astype(np.float32), y[inside].astype(np.float32), cv2.INTER_LINEAR), np.float32
    )


def _laid_together(lines: F32) -> F32:
    """Return the mean profile, laid along the way of the steepest places: an unsteady outline does not widen it."""
    import cv2

    smooth = cv2.GaussianBlur(lines, (0, 1), sigmaX=4.0, sigmaY=0.01)
    slope = np.gradient(smooth, axis=1)
    # One direction for all: the stretch is dark on one side.
    slope = slope * np.sign(np.median(slope[:, slope.shape[1] // 4 : -slope.shape[1] // 4].sum(axis=1)) or 1.0)
    middle = lines.shape[1] // 2
    reach = lines.shape[1] // 4
    place = np.argmax(slope[:, middle - reach : middle + reach + 1], axis=1) + middle - reach
    # The edge's own way, not that of single hairs: what stands out of it belongs to the edge's width.
    index = np.arange(len(place)) - len(place) / 2
    weight = np.ones(len(place))
    way = np.zeros(len(place))
    for _ in range(3):
        way = np.polyval(np.polyfit(index, place, 2, w=weight), index)
        weight = 1 / (1 + (np.abs(place - way) / 6) ** 2)
    near = np.abs(place - way) <= 40
    moved = np.round(way).astype(int)
    shifted = [np.roll(line, middle - k)[reach:-reach] for line, k in zip(lines[near], moved[near], strict=True)]
    return np.asarray(np.mean(shifted, axis=0), dtype=np.float32)


def _slope_at(profile: F32, sigma_px: float) -> float:
    """Return the steepest slope near the middle after smoothing, levels a pixel."""
    from scipy.ndimage import gaussian_filter1d

    slope = np.abs(gaussian_filter1d(profile.astype(np.float64), 2 * sigma_px, order=1, mode="nearest")) * 2
    middle = len(slope) // 2
    return float(slope[middle - 6 : middle + 7].max())


def _blur_of(profile: F32) -> float | None:
    """Return the blur (sigma, px) of a mean profile on half pixels; None without a clear step."""
    edge = len(profile) // 5
    step = abs(float(profile[-edge:].mean() - profile[:edge].mean()))
    rough = max(float(profile[:edge].std()), float(profile[-edge:].std()))
    if step < LEAST_STEP or step < 2.5 * rough:
        return None
    sigma = 2.0
    for _ in range(4):
        s1 = min(max(0.6 * sigma, 0.7), 5.0)
        s2 = 1.8 * s1
        ratio = (_slope_at(profile, s1) / max(_slope_at(profile, s2), 1e-9)) ** 2
        if ratio <= 1.0005:
            return None
        sigma = float(np.sqrt(max((s2**2 - ratio * s1**2) / (ratio - 1) - 1 / 12, NARROWEST_PX**2)))
        if sigma > REACH_PX / 2:
            return None
    return sigma
