"""Catchlights: where they stand on the clock, whether they agree, and where to put them; the sky's soft reflection."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.eyes.eye import Eye, angle_of_hour, clock, hours_apart
from foxpath.core.eyes.placement import eye_check
from foxpath.core.findings import Finding
from foxpath.core.reference.light import Catchlight, Light, clock_of, hour_words, toward
from foxpath.core.units import mm_words, percent

APART_HOURS = 0.5
"""Catchlights farther apart than this on the clock come from two lamps, or are wrong."""
LIGHT_HOURS = 1.5
"""A catchlight may stand this far from the light's own hour: a window is wide."""
MIDDLE = 0.2
"""Nearer to the middle than this share of the radius it is a flash."""
BALL = 1.35
"""Radius of the cornea's ball over that of the iris, as far as its mirror goes."""
USUAL_SIZE = 0.17
"""A catchlight's diameter as a share of the iris's."""
SKY_AT, SKY_WIDE, SKY_HOURS = 0.62, 0.24, 2.6
"""The sky's reflection: its distance from the middle and its breadth as shares of the radius, and its length on the clock."""


@dataclass(frozen=True, slots=True)
class LightAt:
    """Where a catchlight stands: its hour, its distance from the middle as a share of the iris's radius, and in mm."""

    hour: float
    distance: float
    mm: float


@dataclass(frozen=True, slots=True, eq=False)
class Lights:
    """The plan of an eye's lights.

    Attributes
    ----------
    at : (x, y)
        Middle of the catchlight, reference pixels.
    hour, distance : float
    size_mm : float
        Its diameter.
    sky : bool
        Whether the second reflection is painted.
    sky_line : (N, 2) float64
        Along its middle, reference pixels; it bends with the ball.
    sky_wide_mm : float
    reason : str
        Where the place comes from.
    """

    at: tuple[float, float]
    hour: float
    distance: float
    size_mm: float
    sky: bool
    sky_line: Points
    sky_wide_mm: float
    reason: str


def light_at(eye: Eye, mm_per_px: float, index: int = 0) -> LightAt | None:
    """Return where a catchlight of an eye stands; None when it has none."""
    if index >= len(eye.lights):
        return None
    spot = eye.lights[index]
    away = math.dist(spot, eye.iris.centre)
    return LightAt(clock(eye.iris.centre, spot), away / eye.iris.radius, away * mm_per_px)


def mirrored(light: Light) -> tuple[float, float]:
    """Return (hour, distance as a share of the iris's radius) at which an eye mirrors a light.

    The mirror's normal halves the way between light and viewer; see `core.reference.light.from_catchlights`.
    """
    normal = toward(light.hour, light.height_deg) + np.array([0.0, 0.0, 1.0])
    normal = normal / max(float(np.linalg.norm(normal)), 1e-9)
    hour, _ = clock_of(np.array([normal[0], normal[1], 0.0]))
    return hour, float(np.clip(math.hypot(normal[0], normal[1]) * BALL, 0.0, 0.72))


def as_catchlights(eyes: Sequence[Eye]) -> list[Catchlight]:
    """Return the eyes' main catchlights as evidence of the light."""
    return [Catchlight(eye.iris.centre, BALL * eye.iris.radius, eye.lights[0]) for eye in eyes if eye.lights]


def plan_lights(eye: Eye, others: Sequence[Eye], light: Light | None, mm_per_px: float, finest_mm: float) -> Lights:
    """Plan where an eye's catchlight goes, how large it is, and its reflection of the sky.

    As the painter decided; else where the light of the picture is mirrored; else where the photograph shows it, the same in
    both eyes.

    Parameters
    ----------
    eye : Eye
    others : sequence of Eye
        The other eyes: without a light of the picture both take the mean hour.
    light : Light or None
        As the painter said it.
    mm_per_px, finest_mm : float
        The finest mark of the kit: no light is smaller.
    """
    seen = [
        place for one in (eye, *others) if (place := light_at(one, mm_per_px)) is not None and place.distance < 1.05
    ]
    if light is not None:
        hour, distance = mirrored(light)
        reason = f"where the light from {hour_words(light.hour)} is mirrored"
    elif seen:
        a = np.array([angle_of_hour(one.hour) for one in seen])
        mean = math.atan2(float(np.sin(a).mean()), float(np.cos(a).mean()))
        hour, distance = (math.degrees(mean) + 90) / 30 % 12, float(np.mean([one.distance for one in seen]))
        reason = "where the photograph shows it" if len(seen) == 1 else "the mean of both eyes, the same in each"
    else:
        hour, distance, reason = 10.5, 0.45, "the usual window light, until you say otherwise"
    if distance < MIDDLE and eye.light.distance is None:
        # A flash flattens: the light is moved out of the pupil's middle.
        distance, reason = 0.42, f"{reason}; moved out of the middle"
    said = eye.light
    if said.hour is not None or said.distance is not None:
        reason = "as you decided"
    hour = said.hour if said.hour is not None else hour
    distance = said.distance if said.distance is not None else distance
    usual = 2 * USUAL_SIZE * eye.iris.radius * mm_per_px
    size = max(said.size_mm if said.size_mm is not None else usual, finest_mm)
    at = eye.iris.at(np.array([angle_of_hour(hour)]), distance)[0]
    middle = light.sky_hour if light is not None else (hour + 1.2) % 12 if hour > 6 else (hour - 1.2) % 12
    span = np.linspace(-SKY_HOURS / 2, SKY_HOURS / 2, 17)
    # The sky lies above: its patch keeps to the upper half whatever its own hour.
    middle = middle if hours_apart(middle, 0) < 2.6 else 0.8 if middle < 6 else 11.2
    angles = np.array([angle_of_hour(middle + float(h)) for h in span])
    line = eye.iris.at(angles, SKY_AT)
    sky = said.sky if said.sky is not None else True
    wide = SKY_WIDE * eye.iris.radius * mm_per_px
    return Lights((float(at[0]), float(at[1])), hour, distance, round(size, 2), sky, line, wide, reason)


def check_lights(eyes: Sequence[Eye], light: Light | None, mm_per_px: float) -> list[Finding]:
    """Check the catchlights of the photograph: hours against each other and the light, a flash, several lamps."""
    found: list[Finding] = []
    placed = [(eye, place) for eye in eyes if (place := light_at(eye, mm_per_px)) is not None]
    for eye, place in placed:
        if place.distance < MIDDLE:
            found.append(
                eye_check(
                    "flash", "Catchlight", "look", f"{eye.name}: a flash stands in the middle of the pupil.",
                    f"{mm_words(place.mm)} from the middle · light from the camera flattens the ball: paint it toward the light instead",
                    place.mm, eye.id, eye.lights[0], "flash",
                )
            )  # fmt: skip
        if len(eye.lights) > 1:
            found.append(
                eye_check(
                    "lamps", "Catchlight", "look", f"{eye.name}: {len(eye.lights)} lamps are mirrored.",
                    f"the second at {hour_words(clock(eye.iris.centre, eye.lights[1]))} · one main light makes one catchlight: keep the "
                    "first, leave the others out",
                    math.dist(eye.lights[0], eye.lights[1]) * mm_per_px, eye.id, eye.lights[1], f"{len(eye.lights)} lamps",
                )
            )  # fmt: skip
    if len(placed) == 2:
        (a, first), (b, second) = placed
        gap = hours_apart(first.hour, second.hour)
        off = abs(first.distance - second.distance) * (a.iris.radius + b.iris.radius) / 2 * mm_per_px
        apart = gap > APART_HOURS
        found.append(
            eye_check(
                "agree", "Catchlights agree", "look" if apart else "note",
                f"The catchlights stand at {hour_words(first.hour)} and {hour_words(second.hour)}."
                if apart
                else f"Both catchlights stand at {hour_words((first.hour + ((second.hour - first.hour + 6) % 12 - 6) / 2) % 12)}.",
                f"{gap * 60:.0f} minutes of the clock and {mm_words(off)} in distance apart · one light, one hour in both eyes: "
                f"{'bring both to one hour' if apart else 'keep it'}",
                off, "", b.lights[0], "",
            )
        )  # fmt: skip
    if light is not None:
        for eye, place in placed:
            gap = hours_apart(place.hour, light.hour)
            if gap > LIGHT_HOURS and place.distance >= MIDDLE:
                found.append(
                    eye_check(
                        "light", "Catchlight and light", "look",
                        f"{eye.name}: the catchlight does not come from the light.",
                        f"it stands at {hour_words(place.hour)}, the light at {hour_words(light.hour)} · the eye mirrors the light that "
                        "shades the head: move the catchlight, or the light at Reference",
                        place.mm, eye.id, eye.lights[0], hour_words(place.hour),
                    )
                )  # fmt: skip
    found += [
        eye_check(
            "none", "Catchlight", "note", f"{eye.name}: no catchlight is marked.",
            "an eye without one looks dead · it is planned where the light is mirrored; move it there if you know better",
            0.0, eye.id, eye.iris.centre, "",
        )
        for eye in eyes
        if not eye.lights and eye.light.hour is None
    ]  # fmt: skip
    return found


def distance_words(distance: float) -> str:
    """Write a distance from the middle, e.g. "45 % of the way out"."""
    return f"{percent(distance)} of the way out"


def disc(at: tuple[float, float], radius: float, count: int = 24) -> F64:
    """Return the outline of a disc, (count, 2)."""
    turn = np.linspace(0, 2 * np.pi, count, endpoint=False)
    return np.stack([at[0] + radius * np.cos(turn), at[1] + radius * np.sin(turn)], axis=1)
