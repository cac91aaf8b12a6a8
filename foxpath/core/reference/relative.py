"""Relative reading: one spot judged against another, in the words a painter asks the question in."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.colour import difference

STEPS = ((1.0, ""), (3.0, "just visibly"), (6.0, "a little"), (14.0, "clearly"), (np.inf, "much"))
"""Differences below each bound, in Lab units, in steps that can be felt; below the first nothing is said."""


_HUES = (
    (20, "red"), (45, "russet"), (70, "orange"), (95, "yellow"), (125, "yellow green"), (170, "green"),
    (215, "blue green"), (285, "blue"), (325, "violet"), (345, "rose"), (361, "red"),
)  # fmt: skip
"""Hues by the angle in CIELAB below which they lie, degrees."""


@dataclass(frozen=True, slots=True)
class Relation:
    """How spot B stands to spot A.

    Attributes
    ----------
    lightness, red, yellow, strength : float
        B minus A in L*, a*, b* and chroma.
    apart : float
        CIEDE2000.
    words : str
        Lighter or darker first, then redder or greener, yellower or bluer, stronger or greyer.
    """

    lightness: float
    red: float
    yellow: float
    strength: float
    apart: float
    words: str


def step_words(amount: float) -> str:
    """Return how strongly a difference (Lab units, 0 or more) is felt; empty for not at all."""
    return next(words for bound, words in STEPS if amount < bound)


def relation(a: F32, b: F32) -> Relation:
    """Judge the CIELAB colour `b` against `a`, both (3,)."""
    light, red, yellow = (float(v) for v in np.asarray(b, np.float64) - np.asarray(a, np.float64))
    strength = float(np.hypot(b[1], b[2]) - np.hypot(a[1], a[2]))
    apart = float(difference(np.asarray(a), np.asarray(b)))
    said = []
    for value, more, less in (
        (light, "lighter", "darker"),
        (red, "redder", "greener"),
        (yellow, "yellower", "bluer"),
        (strength, "stronger", "greyer"),
    ):
        how = step_words(abs(value))
        if how:
            said.append(f"{how} {more if value > 0 else less}")
    return Relation(
        light, red, yellow, strength, apart, ", ".join(said) if said and apart >= 1 else "the same to the eye"
    )


def colour_words(lab: F32) -> str:
    """Name a CIELAB colour plainly: how light, how strong, which hue."""
    light, a, b = (float(v) for v in lab)
    tone = _named(light, ((18, "very dark"), (38, "dark"), (62, "middle"), (82, "light"), (101, "very light")))
    chroma, hue = float(np.hypot(a, b)), float(np.degrees(np.arctan2(b, a)) % 360)
    if chroma < 4:
        return f"{tone} grey"
    strong = "greyish " if chroma < 14 else "" if chroma < 40 else "strong "
    return f"{tone} {strong}{_named(hue, _HUES)}"


def _named(value: float, names: Sequence[tuple[float, str]]) -> str:
    return next(name for bound, name in names if value < bound)
