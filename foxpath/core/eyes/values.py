"""The values of an eye, measured along radii and by the hour, and what of them makes it look round and wet."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Lab, Points
from foxpath.core.eyes.eye import Eye, angle_of_hour, clock, hours_apart
from foxpath.core.eyes.placement import eye_check
from foxpath.core.findings import Finding
from foxpath.core.reference.light import hour_words
from foxpath.core.units import percent

SHADOW_L, SHADOW_SHARE = 12.0, (0.22, 0.45)
"""By how much the lid's shadow darkens the iris, L*, and which share of the iris's height it takes, on an eye that looks round."""
SIDE_L, RIM_L, RING_L, FLECK_L, WET_L = 5.0, 14.0, 3.0, 2.2, 8.0
"""Least differences, L*: lit side against the other, iris against its rim, outer ring, flecks, wet line on the lower lid."""
_HOURS, _SHELLS = 72, 20


@dataclass(frozen=True, slots=True, eq=False)
class EyeValues:
    """What was measured, L* unless said otherwise; NaN where lids or lights hide it.

    Attributes
    ----------
    polar : (hours, shells, 3) float32
        CIELAB from pupil to rim, by the hour: 72 rays from twelve o'clock on, 20 steps.
    seen : (hours, shells) bool
        Where iris is seen: neither pupil, lid nor catchlight.
    iris : (3,) float32
        CIELAB of the iris's lit part.
    pupil, rim : float
    shadow : float
        By how much the part under the upper lid is darker.
    shadow_share : float
        Share of the iris's height that it takes.
    light_hour : float
        Where the iris is lightest.
    side : float
        By how much it is lighter there than opposite.
    ring, centre : float
        Outer ring, and round the pupil, against what lies between.
    flecks : float
        Deviation round the clock.
    veins : int
        Light veins that point to the pupil.
    wet : float
        Brightest of the lower lid's edge against the lid.
    """

    polar: Lab
    seen: Bool
    iris: F32
    pupil: float
    rim: float
    shadow: float
    shadow_share: float
    light_hour: float
    side: float
    ring: float
    centre: float
    flecks: float
    veins: int
    wet: float

    def along(self, hour: float, steps: int = 6) -> F64:
        """Return L* along a radius, from the pupil outward, (steps,); the mean of half an hour on both sides."""
        rows = (np.arange(-2, 3) + round(hour * _HOURS / 12)) % _HOURS
        light = self.polar[rows][..., 0].mean(axis=0)
        return np.asarray(np.interp(np.linspace(0, _SHELLS - 1, steps), np.arange(_SHELLS), light), np.float64)


def rays(eye: Eye) -> tuple[Points, F64]:
    """Return (hours, shells, 2) places from the pupil's border to the rim, and their shares of the iris's radius."""
    angles = np.array([angle_of_hour(12 * k / _HOURS) for k in range(_HOURS)])
    # From the pupil's own border, as seen from the iris's middle.
    inner = eye.pupil.reach(angles) / np.maximum(eye.iris.reach(angles), 1e-9)
    inner = np.clip(inner, 0.05, 0.85)
    shares = inner[:, None] + (1 - inner)[:, None] * (np.arange(_SHELLS) + 0.5)[None] / _SHELLS
    return eye.iris.at(angles[:, None], shares), shares


def measure_values(eye: Eye, read: Callable[[Points], Lab]) -> EyeValues:
    """Measure an eye's values.

    Parameters
    ----------
    eye : Eye
    read : callable
        Returns (N, 3) CIELAB at (N, 2) reference pixels.
    """
    places, shares = rays(eye)
    flat = places.reshape(-1, 2)
    polar = np.asarray(read(flat), np.float32).reshape(*shares.shape, 3)
    seen = eye.open_at(flat).reshape(shares.shape)
    seen &= eye.pupil.share_of(places) > 1.08
    for spot in eye.lights:
        seen &= np.hypot(*(places - spot).transpose(2, 0, 1)) > 0.24 * eye.iris.radius
    light = polar[..., 0].astype(np.float64)
    hours = 12 * np.arange(_HOURS) / _HOURS
    body = seen & (shares > 0.4) & (shares < 0.92)
    shadow, share = _lid_shadow(eye, places, light, body)
    below = body & (places[..., 1] > eye.iris.cy - 0.1 * eye.iris.radius)
    lit = below if below.sum() > 20 else body
    colour = np.median(polar[lit], axis=0) if lit.any() else np.array([40, 5, 10], np.float32)
    side, at = _lit_side(hours, light, lit)
    mid = _mean(light, body & (shares > 0.52) & (shares < 0.75) & lit)
    # The last of the way fades into the rim: the ring lies before it.
    ring = _mean(light, seen & (shares > 0.76) & (shares < 0.9) & lit) - mid
    centre = _mean(light, seen & (shares < 0.5) & lit) - mid
    flecks, veins = _flecks(light, seen & (shares > 0.45) & (shares < 0.85))
    rim_at = eye.iris.at(np.array([angle_of_hour(h) for h in hours]), 1.05)
    open_rim = eye.iris.at(np.array([angle_of_hour(h) for h in hours]), 0.97)
    rim_light = np.asarray(read(rim_at))[:, 0]
    shown = eye.open_at(open_rim)
    rim = float(np.percentile(rim_light[shown], 30)) if shown.any() else float("nan")
    inside = eye.pupil.scaled(0.6).outline(24)
    pupil = float(np.percentile(np.asarray(read(inside))[:, 0], 30))
    return EyeValues(
        polar, seen, np.asarray(colour, np.float32), pupil, rim, shadow, share, at, side, ring, centre, flecks, veins,
        _wet_line(eye, read),
    )  # fmt: skip


def _mean(light: F64, where: Bool) -> float:
    return float(light[where].mean()) if where.sum() > 4 else float("nan")


def _lid_shadow(eye: Eye, places: Points, light: F64, body: Bool) -> tuple[float, float]:
    """Return by how much the iris is darker under the upper lid, L*, and how deep that reaches, as a share of its height.

    Level by level down the iris, the median; the shadow ends at the steepest rise, as a step fits best.
    """
    r = eye.iris.radius
    down = (places[..., 1] - eye.iris.cy) / r
    edges = np.linspace(-1, 1, 25)
    levels, at = [], []
    for low, high in zip(edges[:-1], edges[1:], strict=True):
        inside = body & (down >= low) & (down < high)
        if inside.sum() >= 5:
            levels.append(float(np.median(light[inside])))
            at.append((low + high) / 2)
    if len(levels) < 8:
        return float("nan"), float("nan")
    value, depth = np.array(levels), np.array(at)
    best: tuple[float, float, float] = (np.inf, 0.0, 0.0)
    for cut in range(2, len(value) - 2):
        if depth[cut] > 0.35:
            break
        above, under = value[:cut], value[cut:]
        off = float(((above - above.mean()) ** 2).sum() + ((under - under.mean()) ** 2).sum())
        if off < best[0]:
            best = off, float(under.mean() - above.mean()), (float(depth[cut - 1] + depth[cut]) / 2 + 1) / 2
    # What is no darker than the rest is no shadow.
    return (best[1], best[2]) if best[1] > 1 else (best[1], 0.0)


def _lit_side(hours: F64, light: F64, lit: Bool) -> tuple[float, float]:
    """Return by how much one side of the iris is lighter than the other, L*, and its hour."""
    row, column = np.nonzero(lit)
    if len(row) < 40:
        return float("nan"), float("nan")
    angle = np.radians(30 * hours[row] - 90)
    matrix = np.stack([np.ones(len(row)), np.cos(angle), np.sin(angle)], axis=1)
    value = light[row, column]
    weight = np.ones(len(row))
    solved = np.zeros(3)
    for _ in range(3):
        root = np.sqrt(weight)[:, None]
        solved = np.linalg.lstsq(matrix * root, value * root[:, 0], rcond=None)[0]
        off = np.abs(value - matrix @ solved)
        weight = 1 / (1 + (off / (2 * np.median(off) + 1e-6)) ** 2)
    way = (float(solved[1]), float(solved[2]))
    return 2 * float(np.hypot(*way)), clock((0.0, 0.0), way)


def _flecks(light: F64, where: Bool) -> tuple[float, int]:
    """Return how much lightness varies round the clock at fine scale, L*, and the number of light veins."""
    counts = where.sum(axis=1)
    sums = np.where(where, light, 0).sum(axis=1)
    known = counts > 3
    if known.sum() < 20:
        return float("nan"), 0
    profile = np.where(known, sums / np.maximum(counts, 1), np.nan)
    profile = np.interp(np.arange(_HOURS), np.flatnonzero(known), profile[known])
    broad = np.convolve(np.concatenate([profile[-4:], profile, profile[:4]]), np.ones(9) / 9, "valid")
    fine = np.where(known, profile - broad, 0)
    deviation = float(fine[known].std())
    peaks = (fine > np.roll(fine, 1)) & (fine > np.roll(fine, -1)) & (fine > 0.8)
    return deviation, int(peaks.sum())


def _wet_line(eye: Eye, read: Callable[[Points], Lab]) -> float:
    """Return how much lighter the wet line on the lower lid's edge is than the lid, L*; NaN without a lower lid."""
    lid = eye.lid_curve("lower")
    if len(lid) < 3:
        return float("nan")
    inner = lid[(lid[:, 0] > eye.iris.cx - 1.4 * eye.iris.radius) & (lid[:, 0] < eye.iris.cx + 1.4 * eye.iris.radius)]
    if len(inner) < 3:
        return float("nan")
    steps = np.linspace(-0.35, 0.2, 12) * eye.iris.radius
    across = np.stack([np.asarray(read(inner + (0.0, s)))[:, 0] for s in steps], axis=1)
    free = eye.iris.share_of(inner[:, None] + np.stack([np.zeros(12), steps], axis=1)[None]) > 1.08
    values = np.where(free, across, np.nan)
    if np.isfinite(values).sum() < 12:
        return float("nan")
    top = np.nanpercentile(values, 95)
    return float(top - np.nanpercentile(values, 35))


def _round_pupil(centre: float) -> str:
    return f"round the pupil {centre:+.0f} L* · " if np.isfinite(centre) else ""


def check_values(eye: Eye, values: EyeValues, light_hour: float | None) -> list[Finding]:
    """Compare an eye's values with what makes an eye look round; the photograph's faults are to be painted better.

    Parameters
    ----------
    light_hour : float or None
        Where the light comes from: the iris is lit on the side away from it.
    """
    checks = (
        _judged_shadow(eye, values),
        _judged_side(eye, values, light_hour),
        _judged_rim(eye, values),
        _judged_rings(eye, values),
        _judged_flecks(eye, values),
        _judged_wet(eye, values),
    )
    return [one for one in checks if one is not None]


def _said(eye: Eye, key: str, title: str, says: str, why: str, number: float, *, fault: bool) -> Finding:
    return eye_check(key, title, "look" if fault else "note", says, why, number, eye.id, eye.iris.centre)


def _judged_shadow(eye: Eye, values: EyeValues) -> Finding | None:
    """Judge the lid's shadow over the upper third."""
    if not np.isfinite(values.shadow):
        return None
    flat = values.shadow < SHADOW_L * 0.6
    low, high = SHADOW_SHARE
    deep = percent(values.shadow_share)
    if flat:
        return _said(
            eye, "shadow", "Lid's shadow",
            f"{eye.name}: the upper third is only {max(values.shadow, 0):.0f} L* darker; the eye will look flat.",
            f"{values.shadow:.0f} L* under the lid, over {deep} of the iris's height · a lid shades the ball by {SHADOW_L:.0f} or "
            f"more over about a third: take it {SHADOW_L:.0f} darker",
            values.shadow, fault=True,
        )  # fmt: skip
    much = values.shadow_share > high
    return _said(
        eye, "shadow", "Lid's shadow",
        f"{eye.name}: the lid's shadow is {values.shadow:.0f} L* deep over {deep} of the height.",
        f"rule: {SHADOW_L:.0f} or more over {percent(low)} to {percent(high)} · "
        f"{'end it higher, or the iris loses its colour' if much else 'paint it as it is'}",
        values.shadow, fault=much,
    )  # fmt: skip


def _judged_side(eye: Eye, values: EyeValues, light_hour: float | None) -> Finding | None:
    """Judge which side of the iris is lighter."""
    if not np.isfinite(values.side):
        return None
    even = values.side < SIDE_L
    wanted = (light_hour + 6) % 12 if light_hour is not None else None
    wrong = wanted is not None and not even and hours_apart(values.light_hour, wanted) > 3
    where = hour_words(wanted) if wanted is not None else "the side away from the light"
    says = (
        f"{eye.name}: both sides of the iris are equally light."
        if even
        else f"{eye.name}: the iris is lightest at {hour_words(values.light_hour)}, by {values.side:.0f} L*."
    )
    do = f"lighten it toward {where}" if even or wrong else "paint it as it is"
    return _said(
        eye, "side", "Lighter side", says,
        f"light that enters at the catchlight leaves at the other side: lightest away from the light, by {SIDE_L:.0f} or more · {do}",
        values.side, fault=even or wrong,
    )  # fmt: skip


def _judged_rim(eye: Eye, values: EyeValues) -> Finding | None:
    """Judge the dark rim."""
    if not np.isfinite(values.rim):
        return None
    iris_l = float(values.iris[0])
    weak = iris_l - values.rim < min(RIM_L, 0.5 * iris_l)
    return _said(
        eye, "rim", "Dark rim",
        f"{eye.name}: the rim is {'hardly darker than' if weak else f'{iris_l - values.rim:.0f} L* darker than'} the iris.",
        f"iris L* {iris_l:.0f}, rim {values.rim:.0f} · a dark rim all round sets the eye into the head: "
        f"{'darken it' if weak else 'keep it unbroken'}",
        iris_l - values.rim, fault=weak,
    )  # fmt: skip


def _judged_rings(eye: Eye, values: EyeValues) -> Finding | None:
    """Judge the rings of the iris."""
    if not np.isfinite(values.ring):
        return None
    words = "lighter" if values.ring > 0 else "darker"
    return _said(
        eye, "ring", "Rings", f"{eye.name}: the outer ring is {abs(values.ring):.0f} L* {words} than the middle of the iris.",
        f"{_round_pupil(values.centre)}an iris is never one colour: let ring and centre differ by {RING_L:.0f} or more",
        values.ring, fault=abs(values.ring) < RING_L and abs(values.centre) < RING_L if np.isfinite(values.centre) else False,
    )  # fmt: skip


def _judged_flecks(eye: Eye, values: EyeValues) -> Finding | None:
    """Judge veins and flecks."""
    if not np.isfinite(values.flecks):
        return None
    smooth = values.flecks < FLECK_L * 0.5
    return _said(
        eye, "flecks", "Veins and flecks",
        f"{eye.name}: {'the iris shows no veins' if smooth else f'{values.veins} light veins point to the pupil'}.",
        f"{values.flecks:.1f} L* round the clock · short strokes toward the pupil, light and dark by turns: "
        f"{'add them, the photograph is blurred here' if smooth else 'fewer in the shadow, more on the lit side'}",
        values.flecks, fault=False,
    )  # fmt: skip


def _judged_wet(eye: Eye, values: EyeValues) -> Finding | None:
    """Judge the wet line on the lower lid."""
    if not np.isfinite(values.wet):
        return None
    dry = values.wet < WET_L
    return _said(
        eye, "wet", "Wet line", f"{eye.name}: the lower lid's wet line {'is missing' if dry else f'is {values.wet:.0f} L* lighter'}.",
        f"{values.wet:.0f} L* along the lower lid · a thin light line there makes the eye wet: "
        f"{'add it, broken, never from corner to corner' if dry else 'keep it broken'}",
        values.wet, fault=False,
    )  # fmt: skip
