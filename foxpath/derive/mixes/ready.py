"""The piles to have ready for each pass, and for each part in it."""

from dataclasses import dataclass

from foxpath.core.mixes.chain import brushes_words, by_value
from foxpath.core.mixes.palette import Palette
from foxpath.core.reporting import Progress
from foxpath.core.units import count_words
from foxpath.derive.mixes.palette import palette_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

LEAST_SHARE = 0.02
"""Of a pass's paint, below which a pile is not worth having ready for it."""


@dataclass(frozen=True, slots=True)
class ReadyPile:
    """A pile to have ready.

    Attributes
    ----------
    number : int
        Its place in the order of mixing, from 1.
    key, name : str
    lab : (L*, a*, b*)
    ml : float
    """

    number: int
    key: str
    name: str
    lab: tuple[float, float, float]
    ml: float


def ready_for(palette: Palette, act: str, zone: int | None = None) -> tuple[ReadyPile, ...]:
    """Return the piles a pass takes, most paint first; with a `zone` (counted back to front) those it takes there."""
    found = []
    for number, pile in enumerate(palette.piles, 1):
        mine = [palette.wants[w] for w in pile.wants if palette.wants[w].act == act]
        ml = sum(want.ml for want in mine if zone is None or want.zone == zone)
        if ml > 0:
            found.append(ReadyPile(number, pile.key, pile.name, pile.lab, ml))
    whole = sum(one.ml for one in found)
    kept = [one for one in found if one.ml >= LEAST_SHARE * whole]
    return tuple(sorted(kept, key=lambda one: -one.ml))


def ready_words(piles: tuple[ReadyPile, ...], most: int = 4) -> str:
    """Name the piles of a pass with their millilitres, e.g. "5 cool mid grey 14.3 mL, 4 dark grey 6.9 mL"."""
    said = [f"{one.number} {one.name} {one.ml:.1f} mL" for one in piles[:most]]
    left = len(piles) - most
    return ", ".join(said) + (f", {count_words(left, 'pile')} more" if left > 0 else "")


MOST_NAMED = 4
"""Piles of one brush that are named."""


def sorted_brushes(piles: tuple[ReadyPile, ...]) -> tuple[tuple[ReadyPile, ...], ...]:
    """Return which piles of a pass share a brush, dark to light."""
    return tuple(tuple(piles[k] for k in group) for group in by_value([one.lab[0] for one in piles]))


def sorted_words(piles: tuple[ReadyPile, ...]) -> str:
    """Say how many brushes to keep apart by value in a pass, and for which piles; nothing where one serves."""
    named = []
    for group in sorted_brushes(piles):
        left = len(group) - MOST_NAMED
        more = [f"{left} more"] if left > 0 else []
        named.append([*(f"{one.number} {one.name}" for one in group[:MOST_NAMED]), *more])
    return brushes_words(named)


@dataclass(frozen=True, slots=True)
class PlanPiles:
    """Plan the piles of a painting, for stops that only name them."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> tuple[Project, Palette]:
        """Return the project and its palette. Raises `Cancelled`."""
        return self.project, palette_of(self.results, self.project, progress)
