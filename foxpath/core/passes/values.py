"""Value study: how light and dark the parts are, their masses, the two gauges, and where the light turns into shadow."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, U8, Bool, Points

LEAST_STEPS, MOST_STEPS = 5, 11
BINS = 50
LEAN = 4.0
"""By how much the thresholds of masses move with the light, L*: what faces it counts as lit a little sooner, what turns away as shade."""
GAUGE_MM = 2.0
"""Spots are averaged over this before the darkest and a lightest are taken: single hairs are no gauge."""
LIGHTEST_SHARE = 0.995
TURN_MM = 6.0
FOLD_L = 2.5
"""From this on a place is darker (a crevice) or lighter (a ridge) than its surroundings, L*."""


@dataclass(frozen=True, slots=True, eq=False)
class Masses:
    """A part's dark, middle and light masses.

    Attributes
    ----------
    low, high : float
        L* thresholds between them.
    shares : (dark, middle, light)
        Of its area, 0 to 1.
    crevices, ridges : float
        Shares of its area.
    histogram : (50,) float64
        Share of its area in each two L*.
    """

    low: float
    high: float
    shares: tuple[float, float, float]
    crevices: float
    ridges: float
    histogram: F64


@dataclass(frozen=True, slots=True)
class Gauge:
    """A spot everything is judged against: its place (grid) and its L*."""

    x: float
    y: float
    light: float


def histogram(light: F32, mask: Bool) -> F64:
    """Return the share of a part in each two L*, (50,) float64."""
    counts, _ = np.histogram(light[mask], bins=BINS, range=(0, 100))
    return np.asarray(counts / max(int(counts.sum()), 1), np.float64)


def ladder(shares: F64, steps: int) -> list[tuple[float, float, float]]:
    """Return a ladder's rungs, dark to light: (from L*, to L*, share of the area). `steps` is 5 to 11, else `ValueError`."""
    if not LEAST_STEPS <= steps <= MOST_STEPS:
        raise ValueError(f"a ladder has {LEAST_STEPS} to {MOST_STEPS} steps, got {steps}")
    edges = np.linspace(0, 100, steps + 1)
    whole = np.concatenate([[0.0], np.cumsum(shares)])
    at = np.interp(edges, np.linspace(0, 100, len(whole)), whole)
    return [(float(a), float(b), float(s)) for a, b, s in zip(edges[:-1], edges[1:], np.diff(at), strict=True)]


def two_thresholds(shares: F64) -> tuple[float, float]:
    """Return the two L* that part a histogram into three masses of least spread (Otsu 1979, doi:10.1109/TSMC.1979.4310076)."""
    value = (np.arange(len(shares)) + 0.5) * 100 / len(shares)
    weight = np.concatenate([[0.0], np.cumsum(shares)])
    moment = np.concatenate([[0.0], np.cumsum(shares * value)])

    def between(a: np.ndarray, b: np.ndarray) -> F64:
        w, m = weight[b] - weight[a], moment[b] - moment[a]
        return np.asarray(m * m / np.maximum(w, 1e-9))

    i, j = np.meshgrid(np.arange(1, len(shares) - 1), np.arange(2, len(shares)), indexing="ij")
    score = between(np.zeros_like(i), i) + between(i, j) + between(j, np.full_like(j, len(shares)))
    score = np.where(j > i, score, -1)
    a, b = np.unravel_index(int(np.argmax(score)), score.shape)
    return float(i[a, b] * 100 / len(shares)), float(j[a, b] * 100 / len(shares))


def facing(subject: Bool, way: tuple[float, float], reach_px: float) -> F32:
    """Return how squarely each place faces the light, -1 to 1: from the contour's normal, fading to 0 well inside.

    Parameters
    ----------
    subject : (H, W) bool
    way : (x, y)
        Unit vector toward the light, in the picture.
    reach_px : float
        How far in from the contour the form still turns.
    """
    import cv2

    depth = cv2.distanceTransform(np.pad(subject.astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
    smooth = cv2.GaussianBlur(depth, (0, 0), max(2.0, 0.1 * reach_px))
    gy, gx = np.gradient(smooth)
    size = np.maximum(np.hypot(gx, gy), 1e-6)
    fade = np.clip(1 - depth / max(reach_px, 1.0), 0, 1)
    made = -(gx * way[0] + gy * way[1]) / size * fade
    return np.asarray(np.where(subject, made, 0), np.float32)


def read_masses(light: F32, mask: Bool, lit: F32, px_per_mm: float) -> Masses | None:
    """Part an area into masses; None where it is empty.

    Parameters
    ----------
    light : (H, W) float32, L*
    mask : (H, W) bool
    lit : (H, W) float32
        How squarely places face the light (see `facing`); zeros where no light is known.
    px_per_mm : float
    """
    import cv2

    if mask.sum() < 9:
        return None
    shares = histogram(light, mask)
    low, high = two_thresholds(shares)
    classes = classify(light, lit, low, high)[mask]
    of = [float((classes == k).mean()) for k in range(3)]
    near = cv2.GaussianBlur(light, (0, 0), max(0.6, 1.5 * px_per_mm)) - cv2.GaussianBlur(light, (0, 0), 6 * px_per_mm)
    fold = near[mask]
    return Masses(
        low, high, (of[0], of[1], of[2]), float((fold < -FOLD_L).mean()), float((fold > FOLD_L).mean()), shares
    )


def classify(light: F32, lit: F32, low: float, high: float) -> U8:
    """Return 0 (dark), 1 (middle) or 2 (light) at each place; the thresholds lean with the light."""
    value = light + LEAN * lit
    return np.asarray((value >= low).astype(np.uint8) + (value >= high), np.uint8)


def gauges(light: F32, mask: Bool, px_per_mm: float) -> tuple[Gauge, Gauge] | None:
    """Return the darkest dark and one of the lightest lights of an area; None where it is empty."""
    import cv2

    if not mask.any():
        return None
    soft = cv2.GaussianBlur(light, (0, 0), max(0.6, 0.5 * GAUGE_MM * px_per_mm))
    # Not the very lightest spot, which may be a glint: one of the lightest.
    values = soft[mask]
    wanted = float(np.quantile(values, LIGHTEST_SHARE))
    dark = int(np.argmin(np.where(mask, soft, np.inf)))
    lightest = int(np.argmin(np.where(mask, np.abs(soft - wanted), np.inf)))
    found = []
    for at in (dark, lightest):
        i, j = divmod(at, light.shape[1])
        found.append(Gauge(j + 0.5, i + 0.5, float(soft[i, j])))
    return found[0], found[1]


def turning_edges(
    light: F32, subject: Bool, way: tuple[float, float], px_per_mm: float, least_mm: float = 25.0
) -> list[Points]:
    """Return the lines along which the light turns into shadow, (N, 2) grid places each, the longest first.

    On the forms seen through half-closed eyes it is where lightness crosses the middle between the animal's lit and shaded
    masses while it falls away from the light.

    Parameters
    ----------
    light : (H, W) float32, L*
    subject : (H, W) bool
    way : (x, y)
        Unit vector toward the light.
    px_per_mm, least_mm : float
        Shorter lines are markings or folds.
    """
    import cv2

    if subject.sum() < 100:
        return []
    weight = cv2.GaussianBlur(subject.astype(np.float32), (0, 0), TURN_MM * px_per_mm)
    form = cv2.GaussianBlur(light * subject, (0, 0), TURN_MM * px_per_mm) / np.maximum(weight, 1e-3)
    low, high = two_thresholds(histogram(np.asarray(form, np.float32), subject))
    level = (low + high) / 2
    gy, gx = np.gradient(form)
    size = np.maximum(np.hypot(gx, gy), 1e-6)
    falls = (gx * way[0] + gy * way[1]) / size > 0.35
    # Off the contour itself: there the background begins.
    inner = cv2.erode(subject.astype(np.uint8), np.ones((3, 3), np.uint8), iterations=max(1, round(2 * px_per_mm))) > 0
    margin = max(1, round(3 * px_per_mm))
    inner[:margin], inner[-margin:], inner[:, :margin], inner[:, -margin:] = False, False, False, False
    lit = ((form >= level) & subject).astype(np.uint8)
    lines, _ = cv2.findContours(lit, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
    found: list[Points] = []
    for line in lines:
        points = line.reshape(-1, 2)
        good = falls[points[:, 1], points[:, 0]] & inner[points[:, 1], points[:, 0]]
        if good.all():
            found.append(np.asarray(points + 0.5, np.float64))
            continue
        # Begin where it is broken, so that no run is cut in two.
        start = int(np.argmin(good))
        points, good = np.roll(points, -start, axis=0), np.roll(good, -start)
        edges = np.flatnonzero(np.diff(np.concatenate([[0], good.astype(np.int8), [0]])))
        found += [np.asarray(points[a:b] + 0.5, np.float64) for a, b in zip(edges[::2], edges[1::2], strict=True)]
    kept = [line for line in found if len(line) > least_mm * px_per_mm]
    return sorted(kept, key=lambda one: -len(one))[:12]
