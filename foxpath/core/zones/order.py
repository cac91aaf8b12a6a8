"""What must be painted before what: from depth, and from whose tips lie over whose roots at the borders."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.units import percent

LEANS = 0.35
"""Cosine of the growth to the way across the border from which tips lie over the other side."""
DEPTH = 0.6
"""How much a border's length counts for the zone in front, beside the length over which tips say so."""
SHORTEST_MM = 8.0
"""Less of a border than this is not worth a word either."""
BOTH_WAYS = 0.25
"""Share of a border's length from which the smaller party is worth a word."""


@dataclass(frozen=True, slots=True, eq=False)
class BorderGrowth:
    """Growth along a border.

    Attributes
    ----------
    front, back : int
        Indices of the zones, back to front.
    at : (N, 2) float64
        Places along it, reference pixels.
    step_mm : float
        Length that each place stands for.
    front_over, back_over : (N,) float32
        Cosine of each side's growth to the way over the border, NaN where it has none.
    """

    front: int
    back: int
    at: Points
    step_mm: float
    front_over: F32
    back_over: F32


@dataclass(frozen=True, slots=True)
class Vote:
    """One pair of neighbours.

    Attributes
    ----------
    before, after : int
        The zone that is painted first, and the one over it.
    length_mm : float
        Length of their border.
    said_mm : float
        How much of it growth says something about.
    against_mm : float
        How much of it speaks for the other order.
    spot : (x, y)
        The middle of what speaks against it, else of the border, reference pixels.
    """

    before: int
    after: int
    length_mm: float
    said_mm: float
    against_mm: float
    spot: tuple[float, float]

    @property
    def both_ways(self) -> bool:
        """Whether each lies over the other somewhere, and not by a little."""
        return self.against_mm > max(BOTH_WAYS * self.length_mm, SHORTEST_MM)


@dataclass(frozen=True, slots=True)
class LayingOrder:
    """The order within a pass.

    Attributes
    ----------
    order : tuple of int
        Zones, first painted first.
    votes : tuple of Vote
    cycles : tuple of tuple of int
        Zones that lie over one another in a ring; depth decides among them.
    said_share : float
        Share of the borders' length (0..1) about which growth says something.
    """

    order: tuple[int, ...]
    votes: tuple[Vote, ...]
    cycles: tuple[tuple[int, ...], ...]
    said_share: float


def vote_of(border: BorderGrowth) -> Vote:
    """Return who lies over whom at a border; the zone in front has depth on its side."""
    front = np.nan_to_num(border.front_over, nan=-1.0)
    back = np.nan_to_num(border.back_over, nan=-1.0)
    over, under = (front > LEANS) & (front >= back), (back > LEANS) & (back > front)
    length = len(border.at) * border.step_mm
    over_mm, under_mm = float(over.sum()) * border.step_mm, float(under.sum()) * border.step_mm
    front_wins = over_mm + DEPTH * length >= under_mm
    after, before = (border.front, border.back) if front_wins else (border.back, border.front)
    other = under if front_wins else over
    x, y = border.at[other].mean(axis=0) if other.any() else border.at.mean(axis=0)
    against = under_mm if front_wins else over_mm
    return Vote(before, after, length, over_mm + under_mm, against, (float(x), float(y)))


def laying_order(count: int, borders: Sequence[BorderGrowth], rank: Sequence[float] | None = None) -> LayingOrder:
    """Order zones so that each is painted after what lies beneath it.

    Where zones lie over one another in a ring, none can be first: the one furthest back is taken. Otherwise, too,
    the furthest back goes first among those that are free, or the one that `rank` puts first.

    Parameters
    ----------
    count : int
        Number of zones, counted back to front.
    borders : sequence of BorderGrowth
    rank : sequence of float, optional
        One number a zone, the lowest first among those that are free; by default their place from the back.
    """
    from scipy.sparse import coo_matrix
    from scipy.sparse.csgraph import connected_components

    votes = tuple(vote_of(border) for border in borders if len(border.at))
    before: list[set[int]] = [set() for _ in range(count)]
    for vote in votes:
        before[vote.after].add(vote.before)
    pairs = np.array([(vote.before, vote.after) for vote in votes], np.int64).reshape(-1, 2)
    graph = coo_matrix((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), (count, count))
    _, rings = connected_components(graph, directed=True, connection="strong")
    cycles = tuple(
        tuple(int(k) for k in np.flatnonzero(rings == ring)) for ring in np.unique(rings) if (rings == ring).sum() > 1
    )
    left, order = set(range(count)), []
    while left:
        free = [k for k in left if not before[k] & left]
        # A ring is entered at its furthest back; what waits for the ring waits on.
        waiting = free or [k for k in left if all(rings[b] == rings[k] for b in before[k] & left)]
        first = min(waiting, key=lambda k: (rank[k], k) if rank is not None else (k, k))
        order.append(first)
        left.discard(first)
    whole = sum(vote.length_mm for vote in votes)
    said = sum(vote.said_mm for vote in votes) / whole if whole > 0 else 0.0
    return LayingOrder(tuple(order), votes, cycles, said)


def side_words(spot: tuple[float, float], middle: tuple[float, float]) -> str:
    """Say on which side of a middle a spot lies: at the left, right, top or foot."""
    dx, dy = spot[0] - middle[0], spot[1] - middle[1]
    if abs(dx) >= abs(dy):
        return "at the left" if dx < 0 else "at the right"
    return "at the top" if dy < 0 else "at the foot"


def share_words(share: float) -> str:
    """Say how much of the borders' length votes on the order."""
    return f"Hair tips show which part lies over which along {percent(share)} of the borders; elsewhere the depth you gave decides."
