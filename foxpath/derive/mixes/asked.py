"""What a spot of the picture asks of the palette, worked out beside the window."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.mixes.chain import Nearest, nearest_pile
from foxpath.core.mixes.layers import OverWet, over_wet
from foxpath.core.mixes.palette import Palette, Pile
from foxpath.core.mixes.recipe import Limits, Rack
from foxpath.core.mixes.tubes import Triple
from foxpath.core.reporting import Progress

OFFERED = 4
"""Wet piles that are offered to paint into, those nearest in value."""


@dataclass(frozen=True, slots=True, eq=False)
class Asked:
    """An answer.

    Attributes
    ----------
    lab : (L*, a*, b*)
        The spot's colour.
    nearest : Nearest or None
    wets : tuple of Pile
        Offered as what lies wet beneath.
    wet : Pile or None
        The one that was taken.
    into : OverWet or None
        What to lay into it; None where its tubes are not at hand.
    """

    lab: Triple
    nearest: Nearest | None
    wets: tuple[Pile, ...]
    wet: Pile | None
    into: OverWet | None


@dataclass(frozen=True, slots=True, eq=False)
class AskSpot:
    """Ask for a colour: the nearest pile, and what to lay into wet paint; `wet` is a pile's key, empty for the nearest in value."""

    rack: Rack
    palette: Palette
    limits: Limits
    pick_up: float
    lab: Triple
    wet: str = ""

    def __call__(self, progress: Progress) -> Asked:
        """Return the answer. Raises `Cancelled`."""
        progress.at(0, "asking the palette")
        lab = np.array(self.lab)
        found = nearest_pile(self.rack, self.palette, lab)
        wets = sorted(self.palette.piles, key=lambda one: abs(one.lab[0] - self.lab[0]))[:OFFERED]
        wet = self.palette.pile(self.wet) or (wets[0] if wets else None)
        progress.at(0.5)
        into = None
        if wet is not None and all(key in self.rack.ids for key, _ in wet.recipe.parts):
            into = over_wet(self.rack, lab, self.rack.parts(wet.recipe.parts), self.pick_up, self.limits)
        return Asked(self.lab, found, tuple(wets), wet, into)
