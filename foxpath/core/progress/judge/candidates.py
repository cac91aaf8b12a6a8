"""Candidates: differences that were measured, with what each is told from."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.progress.sight import viewing_m

THRESHOLDS: dict[str, float] = {
    "place": 1.3, "size": 0.075, "oval": 0.088, "catchlight": 0.5, "bare": 4.0, "value part": 3.0, "value patch": 4.6,
    "warmth part": 2.8, "warmth patch": 4.8, "strength": 0.13, "stroke": 3.9, "edge": 1.0, "outline": 6.6, "growth": 17.0,
    "smooth": 1.05, "lights": 0.032, "missing": 0.5,
}  # fmt: skip
"""By the rule it is measured by: from where on it is told; set on clean photographs, about 0.05 false alarms each and a photograph."""
ORDER: dict[str, float] = {
    "place": 3.0, "shape": 2.6, "catchlight": 2.2, "bare": 2.2, "value": 1.6, "stroke": 1.4, "warmth": 1.2, "strength": 1.2,
    "missing": 1.2, "growth": 1.1, "lights": 1.0, "edge": 0.9, "smooth": 0.8,
}  # fmt: skip
"""How soon an eye goes to it."""
APART_MM = 30.0
"""Two of a kind nearer than this are one."""
SETS_OFF: dict[str, tuple[tuple[str, float], ...]] = {
    "stroke": (("growth", 16), ("smooth", 16), ("lights", 12)),
    "bare": (("stroke", 12), ("value", 14), ("smooth", 12), ("growth", 14), ("warmth", 14), ("strength", 14)),
    "lights": (("growth", 12),),
    "place": (("value", 14), ("stroke", 14), ("warmth", 14), ("catchlight", 6)),
    "edge": (("smooth", 8),),
    "value": (("warmth", 16), ("strength", 16)),
}
"""What a fault sets off besides itself, and within how many mm: only the fault is told."""
MOST = 40
REWORK_MANY, REWORK_PLACES, REWORK_FAR = 7, 2, 2.5
LIKELY, LATE = 1.5, {"edge": 2.0, "smooth": 2.0, "lights": 2.0}
"""What is hardly over its threshold is listed, and alone keeps no painting from being done; what an eye goes to last, and costs freshness to
mend, must be farther over it, by its kind."""


@dataclass(frozen=True, slots=True)
class Candidate:
    """A difference that was measured.

    Attributes
    ----------
    kind : str
        One of `KINDS`.
    rule : str
        Key of `THRESHOLDS`.
    measure : float
        What is held against the threshold, in the rule's own unit.
    x, y : float
        Where, work px.
    size : float
        How much, signed, in `unit`.
    unit : str
    seen_m : float
        From how far it is seen; 0 when it is not.
    part, beside : int
        Places in `Planned.parts`; `beside` the other side of a border; -1 for none.
    radius_mm : float
        How far it reaches.
    toward : (dx, dy)
        mm by which a feature lies off; (0, 0) for none.
    doubt : float
        How far `size` may be off, in `unit`.
    planned : float
        The plan's own, in `unit`, where there is one; 0 without.
    eye : int
        Place in `Planned.eyes`; -1 for none.
    """

    kind: str
    rule: str
    measure: float
    x: float
    y: float
    size: float
    unit: str
    seen_m: float
    part: int = -1
    beside: int = -1
    radius_mm: float = 0.0
    toward: tuple[float, float] = (0.0, 0.0)
    doubt: float = 0.0
    planned: float = 0.0
    eye: int = -1

    @property
    def times(self) -> float:
        """How many times its threshold it is."""
        return self.measure / THRESHOLDS[self.rule]

    def rank(self, from_m: float) -> float:
        """Return how soon it is seen from a distance: how far over its threshold, of which kind, and whether it is seen from there."""
        reach = float(np.clip(self.seen_m / max(from_m, 0.1), 0.25, 2))
        return float(min(4.0, max(self.times, 0.0)) ** 0.7 * ORDER[self.kind] * reach**0.5)


def _away_mm(a: Candidate, b: Candidate, px_per_mm: float) -> float:
    return float(np.hypot(a.x - b.x, a.y - b.y)) / px_per_mm


_FAMILY = {"strength": "warmth"}


def ranked(found: Sequence[Candidate], px_per_mm: float, from_m: float, most: int = MOST) -> tuple[Candidate, ...]:
    """Return what is told: over its threshold, one of a kind at a place, without what another sets off; what the eye sees first comes first."""
    over = sorted((one for one in found if one.times >= 1), key=lambda one: -one.rank(from_m))
    kept: list[Candidate] = []
    for one in over:
        family = _FAMILY.get(one.kind, one.kind)
        if all(
            _FAMILY.get(other.kind, other.kind) != family or other.eye != one.eye or other.rule == "outline" != one.rule
            or _away_mm(one, other, px_per_mm) >= APART_MM
            for other in kept
        ):  # fmt: skip
            kept.append(one)

    def set_off(one: Candidate) -> bool:
        return any(
            kind == one.kind
            and other is not one
            and _away_mm(one, other, px_per_mm) < reach
            and one.eye < 0
            # Whole parts are told beside each other; what is darker in a patch is duller there too.
            and (other.kind != "value" or (other.rule == "value patch") == one.rule.endswith("patch"))
            for other in kept
            for kind, reach in SETS_OFF.get(other.kind, ())
        )

    return tuple(one for one in kept if not set_off(one))[:most]


def verdict(told: Sequence[Candidate], diagonal_m: float, from_m: float = 0.0) -> str:
    """Return "stop", "one round" or "rework".

    Parameters
    ----------
    told : sequence of Candidate
        Over their thresholds.
    diagonal_m : float
        Of the canvas.
    from_m : float
        The distance it is looked at from; the usual one for that canvas without.

    Notes
    -----
    The threshold is a hand's own spread and not the eye's step: a clean canvas differs by 2 dE everywhere, and would never be done.
    """
    far = from_m or viewing_m(diagonal_m)
    seen = [one for one in told if one.seen_m >= far and one.times >= LATE.get(one.kind, LIKELY)]
    if not seen:
        return "stop"
    misplaced = [one for one in seen if one.kind in ("place", "shape") and one.times >= REWORK_FAR]
    return "rework" if len(seen) > REWORK_MANY or len(misplaced) >= REWORK_PLACES else "one round"
