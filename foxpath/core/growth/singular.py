"""Places where the growth has no direction: crowns, gatherings, loops and deltas, found and named."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.growth.field import ZoneField
from foxpath.core.growth.winding import HEART, MERGE, joined_turns, turns
from foxpath.core.units import with_article

LEAST_SURE = 0.45


@dataclass(frozen=True, slots=True)
class Singular:
    """A singular point.

    Attributes
    ----------
    at : (x, y)
        Reference pixels.
    kind : str
        "spreading", "spiral", "circling", "gathering", "loop" or "delta".
    turn_deg : float
        Angle of the growth to the radius, clockwise; of crowns only.
    rooted : bool
        Whether root and tip are said round it, or guessed.
    """

    at: tuple[float, float]
    kind: str
    turn_deg: float = 0.0
    rooted: bool = True

    @property
    def crown(self) -> bool:
        """Whether it can be kept as a crown."""
        return self.kind not in ("loop", "delta")

    def words(self) -> str:
        """Say it, e.g. ``"crown, spiral to the left"``."""
        return self._name() + ("" if self.rooted else ", root and tip a guess")

    def short(self) -> str:
        """Say it in a word or two, e.g. ``"crown, left?"``; what is guessed has a question mark."""
        name = {
            "spreading": "crown",
            "circling": "crown, round",
            "gathering": "gathers",
            "loop": "hair turns back",
            "delta": "three growths meet",
        }
        said = name.get(self.kind) or f"crown, {'right' if self.turn_deg > 0 else 'left'}"
        return said if self.rooted else f"{said}?"

    def _name(self) -> str:
        if self.kind == "spiral":
            side = "right" if self.turn_deg > 0 else "left"
            inward = ", inward" if abs(self.turn_deg) > 90 else ""
            return f"crown, spiral to the {side}{inward}"
        return {
            "spreading": "crown, hair spreads from it",
            "circling": "crown, hair circles it",
            "gathering": "hair gathers here",
            "loop": "hair turns back in a loop",
            "delta": "three growths meet",
        }[self.kind]


def singular_points(field: ZoneField) -> list[Singular]:
    """Find and classify the singular points of a zone's growth.

    The winding number of the axis on every four cells; halves nearer than `MERGE` are joined. A crown is named by
    the mean angle of the growth to the radius. Points in doubt are left out.
    """
    frame = field.frame
    long_side = max(frame.shape)
    angle = np.arctan2(field.direction[..., 1], field.direction[..., 0]).astype(np.float32)
    found = turns(angle, field.inside)
    made = []
    # Noise makes pairs of opposite halves: they go out first, then what belongs together is joined.
    for x, y, half in joined_turns(found, MERGE * long_side):
        at = frame.to_px(np.array([[x + field.column, y + field.row]]))[0]
        ring, sure, rooted = _ring(field, x, y, HEART * long_side)
        if len(ring) < 8 or float(np.median(sure)) < LEAST_SURE:
            continue
        place = (round(float(at[0]), 1), round(float(at[1]), 1))
        if half >= 2:
            made.append(_crown(place, ring, rooted))
        elif half == 1:
            made.append(Singular(place, "loop"))
        elif half < 0:
            made.append(Singular(place, "delta"))
    return made


def _ring(field: ZoneField, x: float, y: float, radius: float) -> tuple[Points, F32, F32]:
    """Return on a ring: angle to the radius (N,), sureness of the axis, and whether root and tip are said."""
    t = np.linspace(0, 2 * np.pi, 48, endpoint=False)
    j, i = np.floor(x + radius * np.cos(t)).astype(int), np.floor(y + radius * np.sin(t)).astype(int)
    height, width = field.inside.shape
    ok = (i >= 0) & (j >= 0) & (i < height) & (j < width)
    ok[ok] &= field.inside[i[ok], j[ok]]
    i, j, t = i[ok], j[ok], t[ok]
    direction = field.direction[i, j]
    away = np.arctan2(direction[:, 1], direction[:, 0]) - t
    return away, field.axis_sure[i, j], field.rooted[i, j].astype(np.float32)


def _crown(at: tuple[float, float], away: Points, rooted: F32) -> Singular:
    said = bool(rooted.mean() > 0.5)
    out, round_ = float(np.cos(away).mean()), float(np.sin(away).mean())
    turn = math.degrees(math.atan2(round_, out))
    if abs(turn) < 22:
        return Singular(at, "spreading", turn, said)
    if abs(turn) > 158:
        return Singular(at, "gathering", turn, said)
    return Singular(at, "circling" if 75 < abs(turn) < 105 else "spiral", turn, said)


_ACROSS, _DOWN = ("left", "", "right"), ("upper", "", "lower")


def where_words(at: tuple[float, float], eyes: Sequence[tuple[float, float]], zone: str, outline: Points) -> str:
    """Say where a point lies: between the eyes, or in which third of its zone, e.g. ``"upper left of the brow"``.

    Parameters
    ----------
    at : (x, y)
    eyes : sequence of (x, y)
    zone : str
        Its name; empty leaves it out.
    outline : (N, 2) float64
        Of the zone, in the unit of `at`.
    """
    if len(eyes) == 2:
        (ax, ay), (bx, by) = eyes
        size = math.hypot(bx - ax, by - ay)
        middle = ((ax + bx) / 2, (ay + by) / 2)
        if math.hypot(at[0] - middle[0], at[1] - middle[1]) < 0.45 * size:
            return "between the eyes"
    low = outline.min(axis=0)
    share = (np.asarray(at) - low) / np.maximum(outline.max(axis=0) - low, 1e-9)
    column, row = (int(np.clip(3 * v, 0, 2)) for v in share)
    said = " ".join(word for word in (_DOWN[row], _ACROSS[column]) if word) or "middle"
    return f"{said} of {with_article(zone)}" if zone else said
