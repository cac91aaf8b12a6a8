"""Paired features mirrored in the head's own frame: where each would stand if it answered the other."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Points
from foxpath.core.eyes.placement import HeadFrame
from foxpath.core.units import mm_words

SIDES = (("near", "far"), ("left", "right"))


@dataclass(frozen=True, slots=True, eq=False)
class Ghost:
    """A feature beside the mirror of its twin.

    Attributes
    ----------
    name : str
        Of the pair, e.g. "ear".
    keys : (str, str)
        Ids of the one that was mirrored, and of the one it is laid over.
    ghost, own : (N, 2) float64
        The mirrored outline and the real one, reference pixels.
    across_mm, along_mm : float
        How far the real one stands outward from the midline, and below, of where its twin says.
    wide, tall : float
        Its size over that of the ghost, across and along.
    """

    name: str
    keys: tuple[str, str]
    ghost: Points
    own: Points
    across_mm: float
    along_mm: float
    wide: float
    tall: float

    @property
    def mm(self) -> float:
        """How far it stands off, mm on the canvas."""
        return float(np.hypot(self.across_mm, self.along_mm))

    def words(self) -> str:
        """Say the difference, e.g. "0.8 mm out, 1.2 mm low, 4 % wide"."""
        parts = []
        if abs(self.across_mm) >= 0.05:
            parts.append(f"{mm_words(abs(self.across_mm))} {'out' if self.across_mm > 0 else 'in'}")
        if abs(self.along_mm) >= 0.05:
            parts.append(f"{mm_words(abs(self.along_mm))} {'low' if self.along_mm > 0 else 'high'}")
        for ratio, more, less in ((self.wide, "wider", "narrower"), (self.tall, "taller", "lower")):
            if abs(ratio - 1) >= 0.02:
                parts.append(f"{abs(ratio - 1) * 100:.0f} % {more if ratio > 1 else less}")
        return ", ".join(parts) or "as its twin"


def twins(names: Sequence[tuple[str, str]]) -> list[tuple[str, str, str]]:
    """Return (name of the pair, id, id) of what answers each other by name, such as "Near ear" and "Far ear".

    Parameters
    ----------
    names : sequence of (id, name)
    """
    low = {name.lower().strip(): key for key, name in names}
    found = []
    for name, key in low.items():
        for first, second in SIDES:
            if name.startswith(f"{first} ") and (other := low.get(f"{second}{name[len(first) :]}")) is not None:
                found.append((name[len(first) + 1 :], key, other))
    return found


def ghosts(frame: HeadFrame, pairs: Sequence[tuple[str, str, Points, str, Points]], mm_per_px: float) -> list[Ghost]:
    """Mirror the first of each pair onto the second's side, largest difference first.

    Parameters
    ----------
    frame : HeadFrame
        With the turn's own ratio: a far side is narrower than a near one and still right.
    pairs : sequence of (name, id, outline, id, outline)
    mm_per_px : float
    """
    found = []
    for name, first, a, second, b in pairs:
        ghost = frame.mirrored(a)
        g, o = frame.local(ghost), frame.local(b)
        (gx0, gy0), (gx1, gy1) = g.min(axis=0), g.max(axis=0)
        (ox0, oy0), (ox1, oy1) = o.min(axis=0), o.max(axis=0)
        side = 1.0 if (ox0 + ox1) >= 0 else -1.0
        across = side * ((ox0 + ox1) - (gx0 + gx1)) / 2 * mm_per_px
        along = ((oy0 + oy1) - (gy0 + gy1)) / 2 * mm_per_px
        wide, tall = (ox1 - ox0) / max(gx1 - gx0, 1e-9), (oy1 - oy0) / max(gy1 - gy0, 1e-9)
        found.append(Ghost(name, (first, second), ghost, b, float(across), float(along), float(wide), float(tall)))
    return sorted(found, key=lambda one: -one.mm)
