"""What real mixes teach: how strongly the painter's own tubes take up and throw back light, against the table.

Every look gives three numbers of a pile whose parts are known. The likeliest strengths are those that explain all looks at once with
tubes that differ from the table as tubes do (Gauss-Newton on a posterior mode; Tarantola 2005, doi:10.1137/1.9780898717921).
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.mixes import optics
from foxpath.core.mixes.recipe import Rack, metric
from foxpath.core.mixes.tubes import KeptTube

TOGETHER, APART = 0.26, 0.14
"""How much tubes differ from the table, as logarithms: in strength, and in taking up over throwing back."""
LOOK_NOISE = 0.8
"""dE00 that a look is uncertain by."""
FARTHEST = 1.4
"""No tube is more than fourfold, or less than a quarter, of the table's."""
_ROUNDS = 8
PRIOR_LOOKS = 6.0
"""Earlier paintings' looks at a tube tighten what is thought of it, as so many do."""


@dataclass(frozen=True, slots=True)
class Look:
    """A real pile, looked at.

    Attributes
    ----------
    parts : tuple of (tube id, parts)
        What lay in it.
    seen : (L*, a*, b*)
    sure : float
        Weight of the look: 1 measured, less in words.
    """

    parts: tuple[tuple[str, float], ...]
    seen: tuple[float, float, float]
    sure: float = 1.0


def learn(kept: Sequence[KeptTube], rack: Rack, looks: Sequence[Look]) -> tuple[KeptTube, ...]:
    """Return the tubes as strong as the looks say.

    Parameters
    ----------
    kept : sequence of KeptTube
        As they were before these looks; their own numbers are what is thought so far.
    rack : Rack
        Those of them that are in the studio, made from `kept`.
    looks : sequence of Look
        Those that hold a tube which is not in the rack are passed over.

    Returns
    -------
    tuple of KeptTube
        The same tubes, in the same order.
    """
    usable = [one for one in looks if one.parts and all(key in rack.ids for key, _ in one.parts)]
    if not usable:
        return tuple(kept)
    before = {one.id: one.looks for one in kept}
    n = len(rack)
    parts = np.stack([rack.parts(one.parts) for one in usable])
    parts /= parts.sum(axis=1, keepdims=True)
    forms = [metric(np.array(one.seen)) / LOOK_NOISE * np.sqrt(max(one.sure, 0.01)) for one in usable]
    wanted = np.array([one.seen for one in usable])
    held = np.array([1 + before[key] / PRIOR_LOOKS for key in rack.ids])
    # Strength moves both alike; only a little moves one against the other.
    both, against = np.sqrt(held) / TOGETHER, np.sqrt(held) / APART
    x = np.zeros(2 * n)
    for _ in range(_ROUNDS):
        taken, thrown = np.exp(x[:n] + x[n:]), np.exp(x[:n] - x[n:])
        k, s = rack.k * taken[:, None], rack.s * thrown[:, None]
        lab, by_taken, by_thrown = _slopes(parts, k, s, rack.shown)
        rows, misses = [], []
        for number, form in enumerate(forms):
            up = np.concatenate([by_taken[number] + by_thrown[number], by_taken[number] - by_thrown[number]])
            rows.append((up @ form).T)
            misses.append((wanted[number] - lab[number]) @ form)
        slope = np.concatenate([*rows, np.diag(np.concatenate([both, against]))])
        miss = np.concatenate([*misses, -np.concatenate([both, against]) * x])
        step = np.linalg.lstsq(slope, miss, rcond=None)[0]
        x = np.clip(x + np.clip(step, -0.5, 0.5), -FARTHEST, FARTHEST)
        if float(np.abs(step).max()) < 1e-4:
            break
    touched = (parts > 0).sum(axis=0)
    told = {
        key: (float(np.exp(x[i] + x[n + i])), float(np.exp(x[i] - x[n + i])), int(touched[i]))
        for i, key in enumerate(rack.ids)
    }
    made = []
    for one in kept:
        taken_up, thrown_back, count = told.get(one.id, (1.0, 1.0, 0))
        if not count:
            made.append(one)
            continue
        made.append(replace(one, taken=one.taken * taken_up, thrown=one.thrown * thrown_back, looks=one.looks + count))
    return tuple(made)


def _slopes(parts: F64, k: F64, s: F64, shown: float) -> tuple[F64, F64, F64]:
    """Return CIELAB (m, 3) and derivatives (m, n, 3) by the logarithms of what each tube takes up and throws back."""
    up, back = parts @ k, parts @ s
    q = up / back
    inside = optics.endless(q)
    reflectance = optics.seen(inside, shown)
    root = np.sqrt(q * q + 2 * q)
    slope = (1 - (q + 1) / np.maximum(root, 1e-12)) * optics.seen_slope(inside) / back
    colour = optics.lab_slope(reflectance) @ optics.weights().T
    by_taken = np.einsum("mn,nb,mb,mlb->mnl", parts, k, slope, colour)
    by_thrown = -np.einsum("mn,nb,mb,mlb->mnl", parts, s, slope * q, colour)
    return optics.lab_of(reflectance), by_taken, by_thrown


WORDS_STEP = (4.0, 4.0, 4.0)
"""What "lighter", "redder" and "yellower" are taken for at the first look: L*, a*, b*."""


def seen_in_words(said: F64, lighter: int, redder: int, yellower: int, earlier: int = 0) -> F64:
    """Return what a pile is taken to look like when it was compared in words.

    Parameters
    ----------
    said : (3,) float64
        The wanted colour, CIELAB.
    lighter, redder, yellower : int
        How the pile is against it: -1, 0 or 1.
    earlier : int
        How many looks the pile has had: with each the words mean less, as in a search that halves.
    """
    step = np.array(WORDS_STEP) / (1 + 0.6 * earlier)
    return np.asarray(said, np.float64) + step * np.array([lighter, redder, yellower], np.float64)


def agrees(rack: Rack, looks: Sequence[Look]) -> float:
    """Return the mean dE00 between looks and what the rack says of their piles; 0 without looks."""
    from foxpath.core.colour import difference

    usable = [one for one in looks if one.parts and all(key in rack.ids for key, _ in one.parts)]
    away = [float(difference(rack.lab_of(one.parts), np.array(one.seen))) for one in usable]
    return float(np.mean(away)) if away else 0.0
