"""From colour to colour on one brush, and from spot to spot on the palette."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.colour import difference
from foxpath.core.mixes.adding import Addition
from foxpath.core.mixes.palette import Palette, from_pile
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.words import lacks_word

WIPE = 12.0
"""dE00 to the next colour from which the brush is wiped first."""
CRISP = 82.0
"""L* of a white that must stay clean: from anything dark or brown the brush is wiped, or changed."""
SOILED = 60.0


@dataclass(frozen=True, slots=True)
class Nearest:
    """The pile nearest to a colour, and how it becomes it.

    Attributes
    ----------
    key, name : str
        Of the pile.
    away : float
        dE00 between pile and colour.
    lacks : str
        What the pile lacks, in one word.
    step : Addition or None
        What to add; None where it is right, or its tubes are not at hand.
    """

    key: str
    name: str
    away: float
    lacks: str
    step: Addition | None


def nearest_pile(rack: Rack, palette: Palette, lab: F64) -> Nearest | None:
    """Return the pile nearest to a colour; None without piles."""
    if not palette.piles:
        return None
    seen = np.array([one.lab for one in palette.piles])
    far = np.asarray(difference(seen, np.asarray(lab, np.float64)), np.float64)
    at = int(np.argmin(far))
    pile = palette.piles[at]
    step = from_pile(rack, pile, np.asarray(lab, np.float64))
    return Nearest(
        pile.key, pile.name, float(far[at]), lacks_word(pile.lab, lab), step if step and step.added else None
    )


@dataclass(frozen=True, slots=True)
class Link:
    """A step of a chain.

    Attributes
    ----------
    place : int
        Which of the colours comes now.
    wipe : bool
        Wipe the brush before it.
    why : str
        Why, or what joins the two.
    away : float
        dE00 from the colour before.
    """

    place: int
    wipe: bool
    why: str
    away: float


def brush_chain(lab: F64, start: int = 0) -> tuple[Link, ...]:
    """Return an order of colours in which the next is what is on the brush and a little more.

    Nearest neighbour from the start, then two-exchanges (Croes 1958, doi:10.1287/opre.6.6.791): wipes are what costs.

    Parameters
    ----------
    lab : (n, 3) float64
    start : int
        The colour to begin with.
    """
    n = len(lab)
    if not n:
        return ()
    far = np.asarray(difference(lab[:, None], lab[None]), np.float64)
    cost = far + 25.0 * np.array([[_wiped(lab[i], lab[j], far[i, j]) for j in range(n)] for i in range(n)])
    order, left = [start], set(range(n)) - {start}
    while left:
        order.append(min(left, key=lambda j: (cost[order[-1], j], j)))
        left.remove(order[-1])
    better = True
    while better:
        better = False
        for i in range(1, n - 1):
            for j in range(i + 1, n):
                tried = order[:i] + order[i : j + 1][::-1] + order[j + 1 :]
                if _along(cost, tried) < _along(cost, order) - 1e-9:
                    order, better = tried, True
    return linked(lab, order)


def linked(lab: F64, order: Sequence[int]) -> tuple[Link, ...]:
    """Return the steps of a chain in a given order."""
    made = [Link(order[0], wipe=False, why="a clean brush", away=0.0)] if len(order) else []
    for before, now in zip(order, order[1:], strict=False):
        away = float(difference(lab[before], lab[now]))
        wipe = _wiped(lab[before], lab[now], away)
        if not wipe:
            why = f"what is on the brush, and it lacks: {lacks_word(lab[before], lab[now])}"
        elif lab[now][0] >= CRISP and lab[before][0] < SOILED:
            why = "crisp white after a dark: a clean brush"
        else:
            why = f"too far from the last ({away:.0f} dE): wipe"
        made.append(Link(now, wipe, why, away))
    return tuple(made)


def _wiped(before: F64, now: F64, away: float) -> bool:
    return bool(away > WIPE or (now[0] >= CRISP and before[0] < SOILED))


def _along(cost: F64, order: Sequence[int]) -> float:
    return float(sum(cost[a, b] for a, b in zip(order, order[1:], strict=False)))
