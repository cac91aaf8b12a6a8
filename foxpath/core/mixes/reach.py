"""What these tubes cannot mix: what is nearest, what it lacks, and which further tube would bring it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.colour import difference
from foxpath.core.mixes.recipe import CLOSE, Limits, Rack, Recipe, check_target, solve
from foxpath.core.mixes.tubes import Tube, table

_SCANNED, _HALVINGS = 8, 3
_NEAR = 1.5
"""dE00 within which a muted colour counts as had: between two recipes of three tubes there are gaps."""
_ASKED = 8
"""Further tubes that are tried: those whose swatches lie nearest."""
_HELPS = 0.5
"""A further tube is named when the colour comes this much nearer, as a share of what is missing."""


@dataclass(frozen=True, slots=True)
class Missing:
    """What a colour out of reach lacks.

    Attributes
    ----------
    lightness : float
        L* of the nearest mix, less that of the target.
    chroma : float
        C* of the target that cannot be had at its own value and hue, 0 when it can.
    at_value : Recipe
        The strongest mix of the same value and hue.
    tube : str
        Id of the tube of the table that would bring it nearest; empty when none would.
    tube_away : float
        dE00 that would be left with it.
    """

    lightness: float
    chroma: float
    at_value: Recipe
    tube: str
    tube_away: float


def missing(
    rack: Rack, nearest: Recipe, limits: Limits | None = None, others: Sequence[Tube] | None = None
) -> Missing | None:
    """Return what the nearest recipe lacks, or None when it reaches its target.

    The chroma that can be had is sought from the target down to grey at its own value and hue, then by halving: weighing value more in
    the difference would only make the answer grey, and halving from the start falls into the gaps between recipes.

    Parameters
    ----------
    rack : Rack
    nearest : Recipe
        The best of `solve` for the target.
    limits : Limits
    others : sequence of Tube, optional
        Tubes that could be bought; those of the table without.
    """
    if nearest.reached:
        return None
    limits, target = limits or Limits(), check_target(np.array(nearest.target))
    wanted = float(np.hypot(target[1], target[2]))
    high, low, kept = 1.0, 0.0, None
    for share in np.linspace(1, 0, _SCANNED + 1)[1:]:
        tried = _muted(rack, target, float(share), limits)
        if tried.away <= _NEAR:
            low, kept = float(share), tried
            break
        high = float(share)
    for _ in range(_HALVINGS if kept is not None else 0):
        middle = (low + high) / 2
        tried = _muted(rack, target, middle, limits)
        if tried.away <= _NEAR:
            low, kept = middle, tried
        else:
            high = middle
    kept = kept or _muted(rack, target, 0.0, limits)
    tube, left = _helper(rack, target, nearest.away, limits, others)
    # A mix that is strong enough already misses by its hue or value, not by chroma.
    had = max(
        wanted * low, min(wanted, float(np.hypot(nearest.lab[1], nearest.lab[2]))) if kept.away > nearest.away else 0.0
    )
    return Missing(nearest.lab[0] - float(target[0]), max(0.0, wanted - had), kept, tube, left)


def _muted(rack: Rack, target: F64, share: float, limits: Limits) -> Recipe:
    return solve(rack, target * np.array([1.0, share, share]), limits)


def _helper(rack: Rack, target: F64, away: float, limits: Limits, others: Sequence[Tube] | None) -> tuple[str, float]:
    """Return the further tube that brings a colour nearest, and what is left with it."""
    found, left = "", away
    offered = [tube for tube in (others if others is not None else table().values()) if tube.id not in rack.ids]

    def far(tube: Tube) -> float:
        swatches = difference(np.array([tube.masstone, tube.tint]), target)
        return float(swatches.min())

    for tube in sorted(offered, key=far)[:_ASKED]:
        # With it or not at all: subsets without it have been tried.
        alone = (*limits.alone, not tube.black) if limits.alone else ()
        more = replace(limits, needed=(len(rack),), alone=alone, beneath=None)
        tried = solve(Rack((*rack.tubes, tube), rack.shown), target, more)
        if tried.away < left:
            found, left = tube.id, tried.away
    return (found, left) if left <= max(CLOSE, away * (1 - _HELPS)) else ("", away)


def lacking_words(nearest: Recipe, lacks: Missing) -> str:
    """Say in words how the nearest mix differs, e.g. "duller by 12, same value"."""
    wanted, lab = np.array(nearest.target), np.array(nearest.lab)
    said = []
    chroma = float(np.hypot(*wanted[1:]) - np.hypot(*lab[1:]))
    if abs(chroma) >= 1:
        said.append(f"{'duller' if chroma > 0 else 'stronger'} by {abs(chroma):.0f}")
    light = lacks.lightness
    said.append(f"{'lighter' if light > 0 else 'darker'} by {abs(light):.0f} L*" if abs(light) >= 1 else "same value")
    return ", ".join(said)


def deepest(rack: Rack) -> float:
    """Return the lowest L* these tubes reach on this surface."""
    return min(float(rack.lab(np.eye(len(rack)))[:, 0].min()), solve(rack, np.zeros(3)).lab[0])


def gamut(rack: Rack) -> F64:
    """Return the (n, 3) CIELAB of very many mixtures of two tubes and their tints: what can be reached, roughly."""
    shares = 1 / (1 + np.exp(-np.linspace(-5, 5, 15)))
    n = len(rack)
    made = [np.eye(n)]
    for i in range(n):
        for j in range(i):
            part = np.zeros((len(shares), n))
            part[:, i], part[:, j] = shares / rack.strength[i], (1 - shares) / rack.strength[j]
            made.append(part)
    # A third, white, opens every pair to its tints.
    every = np.concatenate(made)
    white = next((k for k, tube in enumerate(rack.tubes) if tube.white), None)
    if white is not None:
        tints = []
        for n_white in (0.5, 1.5, 4.0, 10.0):
            tint = every.copy()
            tint[:, white] += n_white * every.sum(axis=1)
            tints.append(tint)
        every = np.concatenate([every, *tints])
    return rack.lab(every)
