"""Correct a reference as decisions: white balance, exposure and a local lift of blocked darks; the original stays."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Linear, Rgb8, frozen
from foxpath.core.colour import FROM_XYZ, LUMINANCE, linear_from_rgb8, rgb8_from_linear
from foxpath.core.reference.picture import Picture

COOLEST_K, WARMEST_K = 20000.0, 2000.0
GAINS = 48
"""Steps of the local lift, from none to the most: a twentieth of a stop each."""
MOST_LIFT = 2.4
"""Stops by which a full lift raises the deepest darks."""


@dataclass(frozen=True, slots=True)
class Correction:
    """What the painter decided about the picture's colour and light.

    Attributes
    ----------
    grey : (x, y) or None
        A spot that is neutral in truth, reference pixels.
    radius_px : float
        How far around the spot is averaged.
    light_k : float or None
        Colour temperature of the light, kelvin, 2000 to 20000; used without a grey spot.
    exposure : float
        Stops, -3 to 3.
    lift : float
        0 to 1; how far blocked darks are raised, locally.
    """

    grey: tuple[float, float] | None = None
    radius_px: float = 12.0
    light_k: float | None = None
    exposure: float = 0.0
    lift: float = 0.0

    @property
    def nothing(self) -> bool:
        """Whether the picture stays as it came."""
        return self.grey is None and self.light_k is None and self.exposure == 0 and self.lift == 0


def gains_of_grey(linear: F32) -> F64:
    """Return the (3,) gains in linear light that make a colour neutral at its own luminance."""
    colour = np.clip(np.asarray(linear, np.float64), 1e-4, None)
    return np.clip(float(colour @ LUMINANCE) / colour, 0.2, 5.0)


def gains_of_light(kelvin: float) -> F64:
    """Return the (3,) gains that turn the light of a colour temperature into that of daylight (D65).

    Daylight locus above 4000 K (CIE 15), the cubic approximation of the Planckian locus below (Kim et al.
    2002, US patent 7024034).
    """
    t = min(max(kelvin, WARMEST_K), COOLEST_K)
    if t >= 4000:
        a, b, c, d = (-4.6070e9, 2.9678e6, 99.11, 0.244063) if t <= 7000 else (-2.0064e9, 1.9018e6, 247.48, 0.237040)
        x = a / t**3 + b / t**2 + c / t + d
        y = -3 * x * x + 2.87 * x - 0.275
    else:
        x = -0.2661239e9 / t**3 - 0.2343589e6 / t**2 + 877.6956 / t + 0.179910
        if t >= 2222:
            y = -0.9549476 * x**3 - 1.37418593 * x**2 + 2.09137015 * x - 0.16748867
        else:
            y = -1.1063814 * x**3 - 1.34811020 * x**2 + 2.18555832 * x - 0.20219683
    white = np.array([0.95047, 1.0, 1.08883])
    xyz = np.array([x / y, 1.0, (1 - x - y) / y]) / white
    return gains_of_grey((FROM_XYZ @ xyz.astype(np.float32)).astype(np.float32))


def spot_linear(rgb: Rgb8, at: tuple[float, float], radius_px: float) -> Linear:
    """Return the (3,) mean linear colour of a disc; `at` and radius in pixels of `rgb`.

    Raises
    ------
    ValueError
        When the disc lies off the picture.
    """
    x, y, r = at[0], at[1], max(radius_px, 0.5)
    height, width = rgb.shape[:2]
    x0, x1 = max(0, int(np.floor(x - r))), min(width, int(np.ceil(x + r)) + 1)
    y0, y1 = max(0, int(np.floor(y - r))), min(height, int(np.ceil(y + r)) + 1)
    if x0 >= x1 or y0 >= y1:
        raise ValueError(f"the spot ({x:.0f}, {y:.0f}) lies off the picture; choose one on it")
    rows, columns = np.mgrid[y0:y1, x0:x1]
    disc = (rows + 0.5 - y) ** 2 + (columns + 0.5 - x) ** 2 <= r * r
    if not disc.any():
        disc = np.ones_like(disc)
    mean: Linear = linear_from_rgb8(rgb[y0:y1, x0:x1])[disc].mean(axis=0).astype(np.float32)
    return mean


def lift_map(rgb: Rgb8, lift: float) -> F32:
    """Return the stops by which each place is raised, (h, w) float32 on a small grid: dark masses, not dark hairs.

    The base is a bilateral average of log luminance (Tomasi and Manduchi 1998, doi:10.1109/ICCV.1998.710815), so
    that the lift keeps to a dark mass and leaves no halo round it.
    """
    import cv2

    scale = min(1.0, 320 / max(rgb.shape[:2]))
    size = (max(1, round(rgb.shape[1] * scale)), max(1, round(rgb.shape[0] * scale)))
    fewer = np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
    small = linear_from_rgb8(fewer) @ LUMINANCE
    base = cv2.bilateralFilter(np.log2(small + 0.002).astype(np.float32), 0, 1.2, 7)
    # Full below 0.6 % of white, none above 9 %.
    share = np.clip((np.log2(0.09) - base) / (np.log2(0.09) - np.log2(0.006)), 0, 1)
    return np.asarray(MOST_LIFT * lift * share * share * (3 - 2 * share), dtype=np.float32)


def develop(picture: Picture, gains: F64, exposure: float, lift: float) -> Rgb8:
    """Return the corrected picture, (H, W, 3) uint8 sRGB; sixteen bits are used when the file has them.

    Parameters
    ----------
    picture : Picture
    gains : (3,) float64
        Factors of linear red, green and blue.
    exposure : float
        Stops. Lights that would run past white are bent below it, as a brush would keep them.
    lift : float
        0 to 1.
    """
    import cv2

    source = picture.rgb if picture.deep is None else picture.deep
    levels = 256 if picture.deep is None else 4096
    value = np.arange(levels, dtype=np.float64) / (levels - 1)
    linear = np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)

    def table(stops: float) -> Rgb8:
        light = linear[:, None] * gains * 2.0**stops
        if stops > 0:
            light = np.where(light > 0.8, 0.8 + 0.2 * (1 - np.exp(-(light - 0.8) / 0.2)), light)
        return rgb8_from_linear(light.astype(np.float32))

    if lift == 0 and picture.deep is None:
        made: Rgb8 = frozen(np.asarray(cv2.LUT(source, table(exposure)[None]), dtype=np.uint8))
        return made
    from foxpath.core.reference import _kernel_develop as loops

    tables = np.stack([table(exposure + MOST_LIFT * k / (GAINS - 1)) for k in range(GAINS if lift > 0 else 1)])
    height, width = source.shape[:2]
    steps = np.zeros((height, width), np.uint8)
    if lift > 0:
        raised = lift_map(picture.rgb, lift) * np.float32((GAINS - 1) / MOST_LIFT)
        rounded = np.round(raised).astype(np.uint8)
        steps = np.asarray(cv2.resize(rounded, (width, height), interpolation=cv2.INTER_LINEAR), dtype=np.uint8)
    out = np.empty((height, width, 3), np.uint8)
    loops.develop(source, 0 if picture.deep is None else 4, steps, tables, out)
    return frozen(out)
