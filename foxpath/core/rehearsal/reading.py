"""Read a finished rehearsal zone by zone: lighter or darker, greyer, warmer than the reference, and whether its hair lies as planned."""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool, Lab
from foxpath.core.colour import difference
from foxpath.core.reference.squint import ACUITY_ARCMIN
from foxpath.core.units import count_words

SEEN_L, SEEN_C, SEEN_HUE = 2.0, 3.0, 6.0
"""Differences of L*, of chroma, and of hue in degrees, below which a part is as the reference."""
FEATHERS_LOST = 0.6
"""Where bars and gaps of fewer feathers than this share are found again, they do not read as feathers any more."""
GREY = 6.0
"""Below this chroma a hue is not told."""
ALIKE, NEAR = 2.0, 4.0
"""Colour differences (CIEDE2000) up to which an eye tells no part apart when it looks from one to the other, and only when it looks for it."""


@dataclass(frozen=True, slots=True)
class ZoneReading:
    """A part of the rehearsal against the reference.

    Attributes
    ----------
    zone : str
        Its id.
    dl, dc : float
        Mean L* and chroma, painted minus reference.
    dh_deg : float
        Hue, degrees, painted minus reference; NaN where either is grey.
    de : float
        Mean colour difference (CIEDE2000) over the part, as seen from the viewing distance.
    growth_deg : float
        Median angle between the hair as it came out and as it was planned, without root and tip, or between the barbs of
        feathers and those in the photograph; NaN where none shows.
    edge : float
        Median of painted over planned width of its edges; NaN where none was read.
    area_cm2 : float
    feathers : int
        Leading feathers of which the reference shows bars or gaps.
    found : float
        Share of them whose bars and gaps are found again, 0 to 1; NaN without any.
    """

    zone: str
    dl: float
    dc: float
    dh_deg: float
    de: float
    growth_deg: float = math.nan
    edge: float = math.nan
    area_cm2: float = 0.0
    feathers: int = 0
    found: float = math.nan

    def words(self) -> str:
        """Say it as a painter would: lighter or darker first, then warmth, then strength."""
        parts = []
        if abs(self.dl) >= SEEN_L:
            parts.append(f"{'lighter' if self.dl > 0 else 'darker'} by {abs(self.dl):.0f} L*")
        if math.isfinite(self.dh_deg) and abs(self.dh_deg) >= SEEN_HUE:
            parts.append("yellower" if self.dh_deg > 0 else "redder")
        if abs(self.dc) >= SEEN_C:
            parts.append("stronger" if self.dc > 0 else "greyer")
        if self.feathers and self.found < FEATHERS_LOST:
            parts.append("feathers lost")
        if parts or not math.isfinite(self.de) or self.de < ALIKE:
            return ", ".join(parts) or "as the reference"
        # Its mean is right, but places in it are not.
        return "right on the whole, a little off in places" if self.de < NEAR else "right on the whole, off in places"

    def more(self) -> str:
        """Say what of edges and growth came out otherwise than planned; nothing when all is well."""
        parts = []
        if math.isfinite(self.edge) and not 0.75 < self.edge < 1.33:
            parts.append(f"edges {self.edge:.1f} × planned")
        if math.isfinite(self.growth_deg) and self.growth_deg >= 8:
            parts.append(f"{'barbs' if self.feathers else 'hair'} {self.growth_deg:.0f}° off")
        if self.feathers:
            parts.append(
                f"bars and gaps found again on {100 * self.found:.0f} % of {count_words(self.feathers, 'feather')}"
            )
        return " · ".join(parts)


def viewing_sigma(distance_m: float, px_per_mm: float) -> float:
    """Return the blur, pixels, that open eyes leave at a distance: one minute of arc as full width at half maximum."""
    spot_mm = distance_m * 1000 * math.tan(math.radians(ACUITY_ARCMIN / 60))
    return spot_mm * px_per_mm / 2.355


def read_zone(
    zone: str,
    reference: Lab,
    painted: Lab,
    mask: Bool,
    area_cm2: float,
    growth_deg: float = math.nan,
    edge: float = math.nan,
) -> ZoneReading | None:
    """Compare a part; None where it is hidden.

    Parameters
    ----------
    zone : str
    reference, painted : (H, W, 3) float32 CIELAB
        As seen from the viewing distance.
    mask : (H, W) bool
        The part, without its rim: there two parts mix.
    area_cm2, growth_deg, edge : float
        As in `ZoneReading`.
    """
    if not mask.any():
        return None
    a, b = reference[mask].astype(np.float64), painted[mask].astype(np.float64)
    first, second = a.mean(axis=0), b.mean(axis=0)
    ca, cb = np.hypot(*first[1:]), np.hypot(*second[1:])
    hue = math.nan
    if min(ca, cb) > GREY:
        ha, hb = (math.degrees(math.atan2(v[2], v[1])) for v in (first, second))
        hue = (hb - ha + 180) % 360 - 180
    # Chroma where it is, not of the mean: colours of both sides of grey would cancel.
    strength = float(np.hypot(b[:, 1], b[:, 2]).mean() - np.hypot(a[:, 1], a[:, 2]).mean())
    off = float(difference(np.asarray(a, np.float32), np.asarray(b, np.float32)).mean())
    return ZoneReading(zone, float(second[0] - first[0]), strength, hue, off, growth_deg, edge, area_cm2)


def axis_off(axis: F32, weight: F32, direction: F32, shown: float) -> float:
    """Return the median angle, degrees, between axes that were read and directions that were planned; NaN where no hair shows.

    Parameters
    ----------
    axis : (2, N) float32
        Weighted (cos 2t, sin 2t).
    weight : (N,) float32
    direction : (N, 2) float32
        Unit vectors, root to tip.
    shown : float
        Least weight of a place that shows hair.
    """
    seen = weight > shown
    if seen.sum() < 12:
        return math.nan
    read = 0.5 * np.arctan2(axis[1, seen], axis[0, seen])
    planned = np.arctan2(direction[seen, 1], direction[seen, 0])
    gap = np.abs((read - planned + np.pi / 2) % np.pi - np.pi / 2)
    order = np.argsort(gap)
    total = np.cumsum(weight[seen][order])
    return float(np.degrees(gap[order][np.searchsorted(total, total[-1] / 2)]))


def differences(readings: list[ZoneReading]) -> tuple[float, float]:
    """Return the mean difference over zones, weighed by area, and the worst (CIEDE2000); NaN without zones."""
    if not readings:
        return float("nan"), float("nan")
    area = sum(one.area_cm2 for one in readings) or 1.0
    return sum(one.de * one.area_cm2 for one in readings) / area, max(one.de for one in readings)


def painting_words(readings: list[ZoneReading]) -> str:
    """Say in one sentence how near the whole comes."""
    if not readings:
        return "Nothing to compare."
    mean, worst = differences(readings)
    how = "as the reference" if mean < ALIKE else "near the reference" if mean < NEAR else "still far from it"
    return f"Mean difference {mean:.1f}, {how}; at most {worst:.1f}."


def rim_px(px_per_mm: float, least_mm: float = 1.5) -> int:
    """Return how many pixels of a part's rim are left out of its reading."""
    return max(1, round(least_mm * px_per_mm))
