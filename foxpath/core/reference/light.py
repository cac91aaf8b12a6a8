"""Where the light comes from: set by hand, from catchlights, or from how the animal's contour is shaded."""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Labels, Rgb8, frozen
from foxpath.core.colour import rgb8_from_linear

Vector = F64
"""(3,) unit vector toward the light: x right, y down, z toward the viewer."""


BEHIND_DEG = -60.0
"""The farthest a light is said to stand behind the animal."""


@dataclass(frozen=True, slots=True)
class Light:
    """A main light and the sky.

    Attributes
    ----------
    hour : float
        Where the light comes from on the clock, 0 to 12; 12 (or 0) is from above.
    height_deg : float
        How far it stands toward the viewer: 0 from the side (grazing), 90 from behind the viewer; below 0 it stands behind the animal, and
        lights its rim.
    warmth : float
        -1 (cool) to 1 (warm).
    hardness : float
        0 (overcast) to 1 (sun).
    sky_hour : float
        Where the second, softer light comes from.
    sky : float
        Its strength beside the main light, 0 to 1.
    """

    hour: float = 10.5
    height_deg: float = 35.0
    warmth: float = 0.3
    hardness: float = 0.5
    sky_hour: float = 1.0
    sky: float = 0.35


@dataclass(frozen=True, slots=True)
class Catchlight:
    """An eye's ball and the bright spot on it, reference pixels."""

    centre: tuple[float, float]
    radius: float
    spot: tuple[float, float]


@dataclass(frozen=True, slots=True)
class LightEvidence:
    """A light that was measured.

    Attributes
    ----------
    hour, height_deg : float
    sure : float
        0 to 1.
    why : str
        What it was read from.
    """

    hour: float
    height_deg: float
    sure: float
    why: str


def toward(hour: float, height_deg: float) -> Vector:
    """Return the unit vector toward a light."""
    a, h = math.radians(hour * 30), math.radians(height_deg)
    return np.array([math.sin(a) * math.cos(h), -math.cos(a) * math.cos(h), math.sin(h)])


def clock_of(vector: Vector) -> tuple[float, float]:
    """Return (hour, height_deg) of a vector toward a light."""
    x, y, z = vector / max(float(np.linalg.norm(vector)), 1e-9)
    hour = (math.degrees(math.atan2(x, -y)) / 30) % 12
    return hour, math.degrees(math.asin(min(max(z, -1.0), 1.0)))


def hour_words(hour: float) -> str:
    """Write an hour on the clock to the half hour, e.g. "10 h 30"."""
    half = round(hour * 2) % 24
    whole = half // 2 or 12
    return f"{whole} h 30" if half % 2 else f"{whole} h"


def from_catchlights(catchlights: list[Catchlight]) -> LightEvidence | None:
    """Return the light that the eyes mirror; the eye is taken as a ball seen from the front.

    A mirror at normal n sends the light L = 2 (n.v) n - v to a viewer at v. Catchlights that disagree make
    it unsure.
    """
    found = []
    for one in catchlights:
        x, y = ((one.spot[k] - one.centre[k]) / max(one.radius, 1e-6) for k in (0, 1))
        if x * x + y * y >= 1:
            continue
        n = np.array([x, y, math.sqrt(1 - x * x - y * y)])
        found.append(2 * n[2] * n - np.array([0.0, 0.0, 1.0]))
    if not found:
        return None
    mean = np.mean(found, axis=0)
    agree = float(np.linalg.norm(mean))
    hour, height = clock_of(mean)
    # A spot near the rim mirrors a light from behind: seen from the front it grazes.
    height = max(height, 0.0)
    sure = (0.75 if len(found) == 1 else 0.95) * agree**4
    eyes = "one catchlight" if len(found) == 1 else f"{len(found)} catchlights"
    return LightEvidence(hour, height, sure, eyes)


def from_shading(lightness: F32, mask: Bool, parts: Labels | None = None) -> LightEvidence | None:
    """Return the light that shades the animal's contour.

    Just inside an occluding contour the surface looks outward in the picture's plane, so its lightness runs
    with the cosine to the light (after Nillius and Eklundh 2001, doi:10.1109/CVPR.2001.990650). Colours of
    the coat disturb it: how much of the variation the cosine explains says how sure it is.

    Parameters
    ----------
    lightness : (h, w) float32, L*
    mask : (h, w) bool
        The animal.
    parts : (h, w) int16 or None
        Parts of one coat colour each: a part's own lightness then is not taken for light.
    """
    import cv2

    inside = np.pad(mask.astype(np.uint8), 1)
    depth = cv2.distanceTransform(inside, cv2.DIST_L2, 5)[1:-1, 1:-1]
    room = float(depth.max())
    if room < 6:
        return None
    # The picture's own rim is no contour: the animal goes on beyond it.
    rim = np.zeros_like(mask)
    band = max(3, int(0.1 * room))
    rim[band:-band, band:-band] = True
    ring = mask & rim & (depth > 0.04 * room) & (depth < 0.28 * room)
    if ring.sum() < 60:
        return None
    smooth = cv2.GaussianBlur(depth, (0, 0), max(1.0, 0.08 * room))
    gx, gy = cv2.Sobel(smooth, cv2.CV_32F, 1, 0), cv2.Sobel(smooth, cv2.CV_32F, 0, 1)
    size = np.maximum(np.hypot(gx, gy), 1e-6)
    nx, ny = (-gx / size)[ring].astype(np.float64), (-gy / size)[ring].astype(np.float64)
    value = lightness[ring].astype(np.float64)
    own = np.zeros(len(value), np.int64) if parts is None else parts[ring].astype(np.int64)
    names, own, counts = np.unique(own, return_inverse=True, return_counts=True)
    # Everything is taken from its part's mean, each part with a level of its own.
    few = counts[own] < 12
    weight = np.where(few, 0.0, 1.0)
    way: F64 = np.zeros(2)
    for _ in range(5):
        means = [_means(v, own, weight, len(names)) for v in (nx, ny, value)]
        x, y, v = nx - means[0][own], ny - means[1][own], value - means[2][own]
        root = np.sqrt(weight)
        way = np.asarray(np.linalg.lstsq(np.stack([x, y], axis=1) * root[:, None], v * root, rcond=None)[0])
        off = v - way[0] * x - way[1] * y
        # Patches of another colour are outvoted, not averaged in.
        weight = np.where(few, 0.0, 1 / (1 + (off / (1.5 * np.median(np.abs(off)) + 1e-6)) ** 2))
    explained = 1 - float((weight * off**2).sum() / max(float((weight * v**2).sum()), 1e-9))
    amplitude = float(np.hypot(*way))
    if amplitude < 1:
        return None
    height = _height_of(lightness, mask & (depth > 0.6 * room), ring, nx * way[0] + ny * way[1], amplitude)
    hour, _ = clock_of(np.array([way[0], way[1], 0.0]))
    # Markings may be brighter on one side by themselves: shading alone never settles it.
    sure = float(np.clip(explained * 1.2, 0, 0.6)) * float(np.clip(amplitude / 8, 0, 1))
    return LightEvidence(hour, height, sure, "the shading")


def _height_of(lightness: F32, middle: Bool, ring: Bool, toward_it: F64, amplitude: float) -> float:
    """Return the light's height, degrees: how light the form's middle is between its dark rim and its light one.

    On a round form the rim toward the light sends cos(height), the middle sin(height), the rim away nothing.
    """
    luminance = ((lightness.astype(np.float64) + 16) / 116) ** 3
    rim = luminance[ring]
    lit, away = rim[toward_it > 0.85 * amplitude], rim[toward_it < -0.5 * amplitude]
    if not (len(lit) and len(away) and middle.any()):
        return 0.0
    dark = float(np.median(away))
    across, front = float(np.median(lit)) - dark, float(np.median(luminance[middle])) - dark
    return min(math.degrees(math.atan2(max(front, 0.0), max(across, 1e-6))), 80.0)


def _means(values: F64, own: np.ndarray, weight: F64, count: int) -> F64:
    """Return each part's weighted mean."""
    total = np.bincount(own, weights=weight, minlength=count)
    return np.bincount(own, weights=weight * values, minlength=count) / np.maximum(total, 1e-9)


def lit_sphere(light: Light, size: int) -> Rgb8:
    """Return a (size, size, 3) uint8 picture of a grey ball under a light, on mid grey."""
    y, x = (np.mgrid[0:size, 0:size] + 0.5) / (size / 2) - 1
    r2 = x**2 + y**2
    z = np.sqrt(np.clip(1 - r2 / 0.94**2, 0, 1))
    n = np.stack([x / 0.94, y / 0.94, z], axis=-1)
    main, sky = n @ toward(light.hour, light.height_deg), n @ toward(light.sky_hour, 10.0)
    wrap = 0.55 * (1 - light.hardness)
    shade = np.clip((main + wrap) / (1 + wrap), 0, 1) ** (1 + 0.3 * light.hardness)
    warm = np.array([1 + 0.22 * light.warmth, 1.0, 1 - 0.28 * light.warmth])
    cool = np.array([0.82, 0.97, 1.25])
    lit = (
        0.03 + 0.42 * shade[..., None] * warm + 0.16 * light.sky * np.clip(0.5 + 0.5 * sky, 0, 1)[..., None] ** 2 * cool
    )
    ground = 0.184
    cover = np.clip((0.94 - np.sqrt(r2)) * size / 2 + 0.5, 0, 1)[..., None]
    made: Rgb8 = frozen(rgb8_from_linear((lit * cover + ground * (1 - cover)).astype(np.float32)))
    return made
