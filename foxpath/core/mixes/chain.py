"""From colour to colour on one brush, and from spot to spot on the palette."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise

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


ONE_BRUSH, TWO_BRUSHES = 14.0, 34.0
"""L* from the darkest to the lightest pile of a pass that one brush, and that two, can hold apart; beyond it takes three."""
BRUSH_NAMES = {2: ("the darker brush", "a clean one"), 3: ("the darkest brush", "the next lighter", "a clean one")}
"""As a hand keeps them: what is light is laid with a brush that has been in nothing else."""


def by_value(lights: Sequence[float]) -> tuple[tuple[int, ...], ...]:
    """Return which colours of a pass share a brush, dark to light: those are together that differ least.

    Parameters
    ----------
    lights : sequence of float
        L* of its piles.

    Returns
    -------
    tuple of tuple of int
        Places in `lights`, three groups at most. Crisp whites are never on a brush with anything else.

    References
    ----------
    Fisher, W. D. (1958). On grouping for maximum homogeneity. J. Am. Stat. Assoc. 53, 789-798.
    """
    order = sorted(range(len(lights)), key=lambda k: lights[k])
    if not order:
        return ()
    rising = [lights[k] for k in order]
    white = next((n for n, light in enumerate(rising) if light >= CRISP), 0)
    wide = rising[-1] - rising[0]
    wanted = 1 if wide < ONE_BRUSH else 2 if wide < TWO_BRUSHES else 3
    count = max(min(wanted, len(order)), 2 if white else 1)
    ways = [cuts for cuts in combinations(range(1, len(order)), count - 1) if not white or white in cuts]
    cuts = min(ways, key=lambda cuts: _uneven(rising, cuts))
    edges = (0, *cuts, len(order))
    return tuple(tuple(order[a:b]) for a, b in pairwise(edges))


def _uneven(rising: Sequence[float], cuts: Sequence[int]) -> float:
    """Return the summed squares of values about the mean of their group."""
    groups = [np.array(rising[a:b]) for a, b in pairwise((0, *cuts, len(rising)))]
    return float(sum(((group - group.mean()) ** 2).sum() for group in groups))


def brushes_words(groups: Sequence[Sequence[str]]) -> str:
    """Name the brushes of a pass by value, each with its piles; nothing where one brush serves."""
    if len(groups) not in BRUSH_NAMES:
        return ""
    said = [f"{name} for {', '.join(group)}" for name, group in zip(BRUSH_NAMES[len(groups)], groups, strict=True)]
    return f"{('Two', 'Three')[len(groups) - 2]} by value: {'; '.join(said)}."
