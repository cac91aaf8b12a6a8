"""What the picture itself says about the growth: the axis of the hair, without root and tip."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from foxpath.core.arrays import F32, Bool, Rgb8, frozen
from foxpath.core.colour import linear_from_rgb8
from foxpath.core.reporting import SILENT, Progress

SCALES = (1.0, 1.4, 2.0, 2.8)
"""Deviations across the hair of the oriented filters, pixels of the picture: in photographs the finest hair shows at about one."""
_HALVED = 2.4
"""Scales from this on are read on the picture at half its size."""
ORIENTATIONS = 8
ASPECT = 2.5
"""How much longer than wide the filters are."""
CALM = 8.0
"""Deviation, px, over which coherence is judged."""
FINEST_SHARE = 0.75
"""The finest scale is taken whose coherence is at least this share of the best."""
LENGTH_SHARE = 0.6
"""A scale is too coarse for hair shorter than pi s over this."""
BLENDED = 3
"""So many scales say the axis together: each sees other hairs, and what only one of them sees is mostly chance."""


FAINTEST, PLAIN = 0.012, 0.04
"""Weights below which a picture shows no hair, only the steps of its bytes, and from which it plainly does."""


@dataclass(frozen=True, slots=True, eq=False)
class Evidence:
    """Axes on a grid, for every scale.

    Attributes
    ----------
    axis : (S, 2, rows, columns) float32
        Weighted means of (cos 2t, sin 2t), t the hair's axis, clockwise from right.
    weight : (S, rows, columns) float32
        Mean weights; ``axis / weight`` has length 1 where everything agrees.
    coherence : (S, rows, columns) float32
        How well axes agree around a place, 0 to 1.
    reference_px : float
        Reference pixels for one pixel of the picture it was read from.
    """

    axis: F32
    weight: F32
    coherence: F32
    reference_px: float


@cache
def _kernels(sigma: float) -> tuple[F32, ...]:
    """Return the filters of one scale: narrow bands across the hair, long along it, even, without mean, of unit size.

    The band is the fourth derivative of a Gaussian: the borders of markings, broad and soft, hardly stir it.
    """
    along = ASPECT * sigma
    reach = int(np.ceil(3.3 * along))
    y, x = np.mgrid[-reach : reach + 1, -reach : reach + 1].astype(np.float64)
    made = []
    for k in range(ORIENTATIONS):
        t = np.pi * k / ORIENTATIONS
        u, v = (-x * np.sin(t) + y * np.cos(t)) / sigma, (x * np.cos(t) + y * np.sin(t)) / along
        bell = np.exp(-(u**2 + v**2) / 2)
        f = (u**4 - 6 * u**2 + 3) * bell
        f -= f.sum() * bell / bell.sum()
        made.append((f / np.sqrt((f * f).sum())).astype(np.float32))
    return tuple(made)


def log_luminance(rgb: Rgb8) -> F32:
    """Return log luminance: hair in shadow counts as much as hair in light."""
    linear = linear_from_rgb8(rgb)
    grey = linear @ np.array([0.2126729, 0.7151522, 0.0721750], np.float32)
    return np.log(np.sqrt(grey) + np.float32(0.02))


def _axes(image: F32, sigma: float, progress: Progress, share: tuple[float, float]) -> tuple[F32, F32]:
    """Return double-angle axes (2, H, W), as long as their weight, and the weight (H, W), of one scale."""
    from scipy import fft

    kernels = _kernels(sigma)
    reach = kernels[0].shape[0] // 2
    height, width = image.shape
    padded = np.pad(image - image.mean(), reach, mode="reflect")
    size = [fft.next_fast_len(n, real=True) for n in padded.shape]
    spectrum = fft.rfft2(padded, size, workers=2)
    both = np.zeros((2, height, width), np.float32)
    for k, kernel in enumerate(kernels):
        progress.at(share[0] + (share[1] - share[0]) * k / len(kernels), "reading the hair in the picture")
        answer = fft.irfft2(spectrum * fft.rfft2(kernel, size, workers=2), size, workers=2)
        part = answer[2 * reach : 2 * reach + height, 2 * reach : 2 * reach + width]
        energy = part * part
        t = 2 * np.pi * k / len(kernels)
        both[0] += np.float32(np.cos(t)) * energy
        both[1] += np.float32(np.sin(t)) * energy
    size2 = np.hypot(both[0], both[1]) + np.float32(1e-12)
    # A weight of the root of the contrast: strong hairs do not outvote all others.
    weight = np.sqrt(size2)
    return both / weight, weight


def read_evidence(
    rgb: Rgb8, rows: int, columns: int, reference_px: float = 1.0, progress: Progress = SILENT
) -> Evidence:
    """Read the hair's axis everywhere in a picture, at every scale, and bring it to a grid.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        What lies under the grid.
    rows, columns : int
        The grid's.
    reference_px : float
        Reference pixels for one pixel of `rgb`.
    progress : Progress

    Raises
    ------
    Cancelled

    Notes
    -----
    Linear in the picture's pixels. Coarse scales are read on the picture at half its size.
    """
    import cv2

    image = log_luminance(rgb)
    half = cv2.resize(image, (max(16, image.shape[1] // 2), max(16, image.shape[0] // 2)), interpolation=cv2.INTER_AREA)
    axis = np.empty((len(SCALES), 2, rows, columns), np.float32)
    weight = np.empty((len(SCALES), rows, columns), np.float32)
    coherence = np.empty_like(weight)
    # A fine scale has four times the pixels of one on half the picture.
    cost = np.cumsum([0, *(4 if sigma < _HALVED else 1 for sigma in SCALES)])
    for s, sigma in enumerate(SCALES):
        fine = sigma < _HALVED
        share = (float(cost[s] / cost[-1]), float(cost[s + 1] / cost[-1]))
        axes, own = _axes(image if fine else np.asarray(half), sigma if fine else sigma / 2, progress, share)
        for plane in range(2):
            axis[s, plane] = cv2.resize(axes[plane], (columns, rows), interpolation=cv2.INTER_AREA)
        weight[s] = cv2.resize(own, (columns, rows), interpolation=cv2.INTER_AREA)
        calm = max(0.6, CALM * columns / rgb.shape[1])
        smooth = [cv2.GaussianBlur(plane, (0, 0), calm) for plane in (*axis[s], weight[s])]
        coherence[s] = np.hypot(smooth[0], smooth[1]) / (smooth[2] + 1e-12)
    progress.at(1)
    return Evidence(frozen(axis), frozen(weight), frozen(coherence), reference_px)


def hair_shown(weight: F32) -> F32:
    """Return how plainly hair shows at weights of evidence, 0 to 1."""
    return np.asarray(np.clip((weight - FAINTEST) / (PLAIN - FAINTEST), 0, 1), dtype=np.float32)


def _fitting(length_px: float) -> int:
    """Return how many scales fit hair of a length; the finest always does."""
    return max(1, sum(np.pi * s <= LENGTH_SHARE * length_px for s in SCALES))


def scale_for(evidence: Evidence, mask: Bool, length_px: float) -> int:
    """Choose the scale for a zone: the finest that is nearly as coherent as the best, and fit for the hair's length.

    Never the most coherent one: markings make coarse scales coherent, and in short hair a coarse filter reads across
    the growth.

    Parameters
    ----------
    evidence : Evidence
    mask : (rows, columns) bool
        The zone; at least one cell.
    length_px : float
        Hair length, pixels of the picture the evidence was read from.
    """
    return _finest(_agreement(evidence, mask, _fitting(length_px)))


def _finest(agreed: F32) -> int:
    return int(np.flatnonzero(agreed >= FINEST_SHARE * agreed.max())[0])


def scale_shares(evidence: Evidence, mask: Bool, length_px: float) -> dict[int, float]:
    """Choose the scales that say a zone's axis together, and how much each counts: as far as its axes agree.

    They are the finest that fit the hair; coarser ones, which read markings as well, only where those say nothing.

    Parameters
    ----------
    evidence, mask, length_px : as for `scale_for`

    Returns
    -------
    dict of scale to share
        The shares make 1.
    """
    agreed = _agreement(evidence, mask, _fitting(length_px))
    end = max(min(BLENDED, len(agreed)), _finest(agreed) + 1)
    chosen = range(max(0, end - BLENDED), end)
    agreed = agreed[chosen.start : end]
    whole = float(agreed.sum())
    return {s: float(own) / whole if whole > 0 else 1 / len(chosen) for s, own in zip(chosen, agreed, strict=True)}


def _agreement(evidence: Evidence, mask: Bool, count: int) -> F32:
    """Return how well the axes of the finest scales agree in a zone where they show hair, 0 to 1."""
    # A soft picture may agree at a scale at which it shows nothing: such a scale has little to say.
    shown = evidence.coherence[:count, mask] * hair_shown(evidence.weight[:count, mask])
    return np.asarray(shown.mean(axis=1), dtype=np.float32)
