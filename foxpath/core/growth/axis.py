"""The axis of the hair in a zone: combs and the picture's evidence in one robust system; then root and tip."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, I8, I64, Bool, Points
from foxpath.core.growth.cells import window_of
from foxpath.core.growth.evidence import hair_shown
from foxpath.core.multigrid import Multigrid
from foxpath.core.reporting import SILENT, Progress

COMB_WEIGHT = 40.0
NEARBY, NEARBY_SHARE = 0.3, 0.03
"""What combs say beside themselves against the zone's usual hair, and how far it reaches, as a share of the longer side."""
TAU = 0.8
"""Evidence that disagrees with the field by more than this (length of the double-angle difference) is outvoted."""
ROUNDS = 2
SHORTEST_SHARE = 0.0075
"""Length of hair, as a share of the longer side, from which smoothing widens."""
TOLERANCE = 1e-2
KAPPA = 0.08
"""Turn between neighbouring cells (length of the double-angle difference) at which they hold each other half."""
_NEARBY_TOLERANCE = 1e-4
"""Coarser, and what combs say would leak through a parting and die away too soon."""
_NEARBY_ENDS = 6
"""Multiples of that reach beyond which nothing is left of it: a quarter of a hundredth."""
_LOOSE = 1e-4
_HANGS_TOGETHER = 0.25
"""How well neighbours must be connected to share one answer about root and tip."""


@dataclass(frozen=True, slots=True, eq=False)
class AxisEvidence:
    """A zone's evidence at its own scale, on the window's cells.

    Attributes
    ----------
    axis : (2, h, w) float32
        Unit double-angle vectors.
    weight : (h, w) float32
        1 for the zone's usual hair, at most 3; 0 outside and where the picture shows none.
    """

    axis: F32
    weight: F32


def evidence_of(axis: F32, weight: F32, coherence: F32, inside: Bool) -> AxisEvidence:
    """Bring a zone's evidence to weights.

    Parameters
    ----------
    axis : (2, h, w) float32
    weight, coherence : (h, w) float32
    inside : (h, w) bool
    """
    size = np.hypot(axis[0], axis[1])
    unit = (axis / np.maximum(size, 1e-9)).astype(np.float32)
    if not inside.any():
        return AxisEvidence(unit, np.zeros_like(weight))
    usual = float(size[inside].mean()) + 1e-9
    shown = hair_shown(weight) * np.clip((coherence - 0.1) / 0.35, 0, 1)
    made = np.minimum(size / usual, 3) * shown * inside
    return AxisEvidence(unit, made.astype(np.float32))


def blended(parts: Sequence[tuple[float, AxisEvidence]]) -> AxisEvidence:
    """Return what several scales say together: the mean of their axes by shares, each as long as its weight."""
    return _from_vectors(np.sum([part.axis * part.weight * np.float32(share) for share, part in parts], axis=0))


def _from_vectors(both: F32) -> AxisEvidence:
    size = np.hypot(both[0], both[1])
    return AxisEvidence((both / np.maximum(size, 1e-9)).astype(np.float32), size.astype(np.float32))


def with_combs(
    evidence: AxisEvidence, combs: F32, combed: F32, joined: tuple[F32, F32], domain: Bool, long_side: int
) -> AxisEvidence:
    """Let combs speak, more faintly the farther off, beside themselves too: where the picture is in doubt they settle it.

    Parameters
    ----------
    evidence, combs, combed, joined, domain : as for `solve_axis`
    long_side : int
        Cells of the whole grid's longer side.
    """
    if not combed.any():
        return evidence
    reach = NEARBY_SHARE * long_side
    window = window_of(combed > 0, round(_NEARBY_ENDS * reach))
    outside = (~domain[window]).astype(np.float32)
    pull = combed[window] * np.float32(COMB_WEIGHT)
    east, south = (side[window].copy() for side in joined)
    east[:, -1], south[-1] = 0, 0
    solver = Multigrid(pull + outside + np.float32(1 / reach**2), east, south, 2)
    said = solver.solve(doubled(combs[:, *window]) * pull, _NEARBY_TOLERANCE)
    axis, weight = evidence.axis.copy(), evidence.weight.copy()
    here = _from_vectors(axis[:, *window] * weight[window] + said * np.float32(NEARBY))
    axis[:, *window], weight[window] = here.axis, here.weight
    return AxisEvidence(axis, weight)


def smoothing_cells(length_share: float, long_side: int) -> float:
    """Return over how many cells the field is smoothed: four to eleven of 512, more for longer hair."""
    cells = 2.8 + 2.3 * math.log2(max(length_share, 1e-4) / SHORTEST_SHARE)
    return min(max(cells, 4.0), 11.0) * long_side / 512


def doubled(direction: F32) -> F32:
    """Return double-angle vectors of (2, ...) unit vectors."""
    x, y = direction
    return np.stack([x * x - y * y, 2 * x * y]).astype(np.float32)


def solve_axis(
    evidence: AxisEvidence,
    combs: F32,
    combed: F32,
    joined: tuple[F32, F32],
    domain: Bool,
    smooth: float,
    start: F32 | None = None,
    progress: Progress = SILENT,
) -> F32:
    """Return the (2, h, w) double-angle field; its length says how well everything near a place agrees.

    It minimises ``sum W |u - d|^2 + sum c |u - comb|^2 + sum b l^2 |u_i - u_j|^2`` with two rounds of
    ``W = w / (1 + |d - u|^2 / 2 tau^2)^2``, so that what disagrees, as a marking's border, loses its vote.

    Parameters
    ----------
    evidence : AxisEvidence
    combs : (2, h, w) float32
        Unit vectors of the marks, root to tip.
    combed : (h, w) float32
        How much each cell's mark weighs; 0 for none.
    joined : (east, south)
        Conductances; 0 is a barrier.
    domain : (h, w) bool
    smooth : float
        l, cells.
    start : (2, h, w) float32, optional
        A field to begin the reweighting from.
    progress : Progress
    """
    said = doubled(combs) * combed
    east, south = (np.asarray(side * np.float32(smooth**2), np.float32) for side in joined)
    outside = (~domain).astype(np.float32)
    pull = combed * np.float32(COMB_WEIGHT * smooth)
    field, weight, rounds = start, evidence.weight, ROUNDS
    if start is not None:
        # The evidence has been weighed already; a comb changes that near by only.
        weight, rounds = _reweighted(evidence, start), 1
        east, south = loosened(joined, start, smooth)
    for turn in range(rounds + 1):
        progress.at(0.2 + 0.6 * turn / (rounds + 1))
        solver = Multigrid(weight + pull + outside + _LOOSE, east, south, 2)
        field = solver.solve(
            evidence.axis * weight + said * np.float32(COMB_WEIGHT * smooth), TOLERANCE, progress, start=field
        )
        if turn < rounds:
            if not evidence.weight.any():
                break
            weight = _reweighted(evidence, field)
            east, south = loosened(joined, field, smooth)
    return said if field is None else field


def loosened(joined: tuple[F32, F32], field: F32, smooth: float) -> tuple[F32, F32]:
    """Return conductances that give way where the field turns abruptly, as at a border nobody outlined."""
    from foxpath.core.growth import _kernel_axis as loops

    east, south = (np.asarray(side * np.float32(smooth**2), np.float32) for side in joined)
    loops.loosen(_unit(field), KAPPA, east, south)
    return east, south


def _unit(field: F32) -> F32:
    from foxpath.core.growth import _kernel_axis as loops

    made = np.empty(field.shape, np.float32)
    loops.unit(np.ascontiguousarray(field, np.float32), made)
    return made


def _reweighted(evidence: AxisEvidence, field: F32) -> F32:
    from foxpath.core.growth import _kernel_axis as loops

    made = np.empty(evidence.weight.shape, np.float32)
    loops.reweigh(evidence.axis, evidence.weight, _unit(field), TAU, made)
    return made


def root_and_tip(
    angle: F32, sure: F32, joined: tuple[F32, F32], combs: F32, combed: F32, guess: F32, domain: Bool
) -> tuple[I8, F32, Bool]:
    """Give every axis its root and tip: flooded from the marks, best connections first; guessed where none reaches.

    Parameters
    ----------
    angle : (h, w) float32
        Axes, radians.
    sure : (h, w) float32
        0 to 1; how good a cell is to pass through.
    joined : (east, south)
    combs, combed : as for `solve_axis`
    guess : (2, h, w) float32
        Unit vectors for places that no mark reaches.
    domain : (h, w) bool

    Returns
    -------
    sign : (h, w) int8
        1 where the tip lies at `angle`, -1 where it lies the other way.
    worst : (h, w) float32
        The worst connection on the way from the mark; 0 where guessed.
    rooted : (h, w) bool
        Whether a mark says it.
    """
    from foxpath.core.growth import _kernel_flood as loops

    cos, sin = np.cos(angle), np.sin(angle)
    sign = np.zeros(angle.shape, np.int8)
    here = combed > 0
    toward = cos[here] * combs[0][here] + sin[here] * combs[1][here]
    sign[here] = np.where(toward >= 0, 1, -1)
    worst = np.ones(angle.shape, np.float32)
    rows, columns = angle.shape
    east, south = (np.ascontiguousarray(side, np.float32) for side in joined)
    quality = np.clip(sure, 0, 1).astype(np.float32)

    room = 4 * rows * columns + 4
    offers = np.empty(room, np.int64), np.empty(room, np.int32), np.empty(room, np.int8), np.empty(room, np.float32)

    def fill(seeds: I64) -> None:
        loops.flood(angle, quality, east, south, sign, worst, seeds, np.full(256, -1, np.int64), *offers)

    if here.any():
        fill(np.flatnonzero(here))
    rooted = sign != 0
    # Islands no mark reaches: each begins where its axis and the guess agree best.
    along = cos * guess[0] + sin * guess[1]
    plain = np.abs(along) * quality
    for _ in range(40):
        left = domain & (sign == 0)
        if not left.any():
            break
        agree = np.where(left, plain, -1)
        i, j = np.unravel_index(int(np.argmax(agree)), agree.shape)
        sign[i, j] = 1 if along[i, j] >= 0 else -1
        fill(np.array([i * columns + j]))
    left = sign == 0
    sign[left] = np.where(along[left] >= 0, 1, -1)
    free = domain & ~rooted
    if free.any():
        window = window_of(free, 0)
        sides = joined[0][window], joined[1][window]
        voted = _voted(sign[window], (along * quality)[window], angle[window], quality[window], sides, free[window])
        sign[window][free[window]] = voted[free[window]]
    return sign, np.where(rooted, worst, 0).astype(np.float32), rooted


def _voted(sign: I8, along: F32, angle: F32, quality: F32, joined: tuple[F32, F32], free: Bool) -> I8:
    """Turn what hangs together well, where no mark speaks, so that most of it agrees with the guess.

    One seed may be wrong by chance; a whole coat seldom is.
    """
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    number = np.arange(angle.size).reshape(angle.shape)
    pairs = []
    for side, one, other in (
        (joined[0][:, :-1], np.s_[:, :-1], np.s_[:, 1:]),
        (joined[1][:-1], np.s_[:-1], np.s_[1:]),
    ):
        turn = np.abs(np.cos(angle[one] - angle[other]))
        good = np.minimum(side, 1) * np.minimum(quality[one], quality[other]) * turn > _HANGS_TOGETHER
        good &= free[one] & free[other]
        pairs.append((number[one][good], number[other][good]))
    begin, end = (np.concatenate([pair[k] for pair in pairs]) for k in (0, 1))
    graph = coo_array((np.ones(len(begin), np.int8), (begin, end)), shape=(angle.size, angle.size))
    _, part = connected_components(graph, directed=False)
    vote = np.bincount(part, (sign * along * free).ravel())
    return np.where(vote[part].reshape(sign.shape) < 0, -sign, sign).astype(np.int8)


def cut_along(joined: tuple[F32, F32], partings: Sequence[Points]) -> tuple[F32, F32]:
    """Return conductances with barriers along lines, given in the window's grid units (cell j spans j to j + 1)."""
    east, south = (side.copy() for side in joined)
    rows, columns = east.shape
    for line in partings:
        at = np.asarray(line, np.float64) - 0.5
        for (x0, y0), (x1, y1) in zip(at[:-1], at[1:], strict=True):
            for i in range(max(0, math.ceil(min(y0, y1))), min(rows - 1, math.floor(max(y0, y1))) + 1):
                if abs(y1 - y0) > 1e-9:
                    j = math.floor(x0 + (i - y0) / (y1 - y0) * (x1 - x0))
                    if 0 <= j < columns:
                        east[i, j] = 0
            for j in range(max(0, math.ceil(min(x0, x1))), min(columns - 1, math.floor(max(x0, x1))) + 1):
                if abs(x1 - x0) > 1e-9:
                    i = math.floor(y0 + (j - x0) / (x1 - x0) * (y1 - y0))
                    if 0 <= i < rows:
                        south[i, j] = 0
    return east, south
