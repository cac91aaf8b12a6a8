"""Correcting a pile that is already mixed: the smallest addition that brings it to the wanted colour.

What lies on the palette cannot be taken out again, so that a pile only grows. At most two tubes are added, and it grows threefold
at most; where that does not do, half of it is put aside first, which costs that half.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from foxpath.core.arrays import F64, I64
from foxpath.core.colour import difference
from foxpath.core.mixes.recipe import Rack, metric

MOST_ADDED, MOST_GROWTH = 2, 3.0
EQUAL = 0.5
"""dE00 that is not seen from where the painting is looked at: the pile stays as it is."""
_LADDER = np.array([0.1, 0.2, 0.3, 0.4, 0.5, 0.7, 1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 60])
_PER_TUBE, _PER_GROWTH = 0.1, 0.45
_HALVED = 1.5
"""dE00 that putting half the pile aside must bring to be worth the waste."""
_PAIRED = 8
"""Pairs of tubes that are tried on the whole ladder."""


_Try = tuple[float, float, tuple[int, ...], F64, F64]
"""Score, dE00, tubes, amounts and CIELAB."""


@dataclass(frozen=True, slots=True)
class Addition:
    """What to add to a pile.

    Attributes
    ----------
    added : tuple of (tube id, parts)
        Empty when it is right as it is. Parts of the pile's own recipe.
    grows : float
        Size of the pile afterwards, over what it was; 3 at most, also where half is put aside first.
    lab : (L*, a*, b*)
        What it will look like.
    away : float
        dE00 from the wanted colour.
    halve : bool
        Put half of it aside first.
    """

    added: tuple[tuple[str, float], ...]
    grows: float
    lab: tuple[float, float, float]
    away: float
    halve: bool = False

    @property
    def wasted(self) -> float:
        """Share of the pile (0 to 1) that halving costs."""
        return 0.5 if self.halve else 0.0


def addition(
    rack: Rack,
    pile: F64,
    want: F64,
    *,
    shift: F64 | None = None,
    most: int = MOST_ADDED,
    usable: Sequence[bool] | None = None,
    halving: bool = True,
) -> Addition:
    """Return the smallest addition that brings a pile to a colour.

    Parameters
    ----------
    rack : Rack
        With strengths as they were learned.
    pile : (n,) float64
        Parts that lie in it.
    want : (3,) float64
        CIELAB.
    shift : (3,) float64, optional
        By how much the real pile looks different from what the rack says, CIELAB; it is taken to stay.
    most : int
        Tubes to add, 0 to 2.
    usable : sequence of bool, optional
        For each tube of the rack, whether it may be added.
    halving : bool
        Whether half of it may be put aside.
    """
    moved = np.zeros(3) if shift is None else np.asarray(shift, np.float64)
    aim = np.asarray(want, np.float64)
    may = np.flatnonzero(np.ones(len(rack), bool) if usable is None else np.asarray(usable))
    now = rack.lab(pile) + moved
    stays = float(difference(now, aim))
    if stays <= EQUAL:
        return Addition((), 1.0, (float(now[0]), float(now[1]), float(now[2])), stays)
    first = _smallest(rack, pile, aim, moved, most, may)
    if first.away <= _HALVED or not most or not halving:
        return first
    half = _smallest(rack, pile / 2, aim, moved, most, may, 2 * MOST_GROWTH)
    if half.away < first.away - _HALVED:
        return Addition(half.added, half.grows / 2, half.lab, half.away, halve=True)
    return first


def _smallest(
    rack: Rack, pile: F64, want: F64, shift: F64, most: int, may: np.ndarray, growth: float = MOST_GROWTH
) -> Addition:
    whole = float(pile.sum())
    now = rack.lab(pile) + shift
    stays = float(difference(now, want))
    best: _Try = (stays, stays, (), np.zeros(0), now)
    steps = _LADDER[(growth - 1) * whole >= _LADDER]
    if not len(steps) or not len(may):
        return _told(rack, best, whole)
    there = rack.light(pile)
    if most >= 1:
        best = min(best, _best(rack, there, may[:, None], steps[:, None], want, shift, whole), key=lambda one: one[0])
    if most >= 2 and len(may) > 1:
        # First every pair on a coarse ladder, in a plain metric; then the likeliest on the whole one.
        pairs = np.array(list(combinations(may, 2)))
        coarse = _grid(steps[::3], whole, growth)
        far = (rack.colours(pairs, coarse[None], there) + shift - want) @ metric(want)
        score = np.sqrt((far * far).sum(axis=-1)) + _PER_GROWTH * coarse.sum(axis=1) / whole
        likely = pairs[np.argsort(score.min(axis=1), kind="stable")[:_PAIRED]]
        best = min(
            best, _best(rack, there, likely, _grid(steps, whole, growth), want, shift, whole), key=lambda one: one[0]
        )
    return _told(rack, best, whole)


def _best(rack: Rack, there: F64, which: I64, parts: F64, want: F64, shift: F64, whole: float) -> _Try:
    """Return the best of some tubes (p, n) in some amounts (g, n)."""
    lab = rack.colours(which, parts[None], there) + shift
    away = np.asarray(difference(lab, want), np.float64)
    score = away + _PER_TUBE * which.shape[1] + _PER_GROWTH * parts.sum(axis=1) / whole
    p, g = np.unravel_index(int(np.argmin(score)), score.shape)
    return float(score[p, g]), float(away[p, g]), tuple(int(i) for i in which[p]), parts[g], lab[p, g]


def _grid(steps: F64, whole: float, growth: float) -> F64:
    """Return the (n, 2) amounts of two tubes that let a pile grow no further than it may."""
    grid = np.array(np.meshgrid(steps, steps, indexing="ij")).reshape(2, -1).T
    fits = grid[grid.sum(axis=1) <= (growth - 1) * whole + 1e-9]
    return fits if len(fits) else grid[:1]


def _told(rack: Rack, best: _Try, whole: float) -> Addition:
    _, away, which, parts, lab = best
    added = tuple((rack.ids[i], round(float(n), 4)) for i, n in zip(which, parts, strict=True))
    grows = 1 + sum(n for _, n in added) / whole
    return Addition(added, grows, (float(lab[0]), float(lab[1]), float(lab[2])), away)
