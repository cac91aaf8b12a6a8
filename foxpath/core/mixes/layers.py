"""Paint over paint: veils over what has dried, and strokes into what is still wet."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.colour import difference
from foxpath.core.mixes import optics
from foxpath.core.mixes.recipe import (
    MOST_TUBES,
    PER_PART,
    PER_TUBE,
    Limits,
    Rack,
    Recipe,
    check_most,
    check_target,
    solve,
)

PICK_UP = 0.2
"""Share of the wet paint beneath that a stroke takes up."""
DIRTY = 2.0
"""dE00 by which the paint on a brush may drift before it is to be wiped."""
COATS = 4
DILUTIONS = (0.1, 0.2, 0.35, 0.6, 1.0)
"""Shares of paint in a veil, the rest medium."""
MUDDY = 3.0
"""dE00 from the target at which a stroke into wet paint does not reach it."""


def veil(rack: Rack, parts: F64, over: F64, film_um: float, *, paint: float = 1.0, coats: int = 1) -> F64:
    """Return the (..., 3) CIELAB of a veil over dry colours.

    Parameters
    ----------
    rack : Rack
    parts : (n,) float64
        Its recipe.
    over : (..., 3) float64
        CIELAB of what lies beneath, as it looks on this surface.
    film_um : float
        Thickness of a coat, micrometres.
    paint : float
        Share of paint in it, the rest clear medium.
    coats : int
    """
    grounds = np.asarray(over, np.float64)
    beneath = optics.spectra_of(grounds.reshape(-1, 3), rack.shown).reshape(*grounds.shape[:-1], optics.BANDS)
    return veil_over(rack, parts, beneath, film_um, paint=paint, coats=coats)


def veil_over(rack: Rack, parts: F64, beneath: F64, film_um: float, *, paint: float = 1.0, coats: int = 1) -> F64:
    """Return the (..., 3) CIELAB of a veil over dry grounds, whose (..., 36) reflectance within the paint is known; else as `veil`."""
    whole = max(float(parts.sum()), 1e-9)
    k, s = parts @ rack.k / whole * paint, parts @ rack.s / whole * paint
    return optics.lab_of(optics.seen(optics.film(k, s, film_um * coats, beneath), rack.shown))


@dataclass(frozen=True, slots=True)
class Veil:
    """A veil that brings a wanted shift.

    Attributes
    ----------
    name : str
        The tube or pile it is made of.
    paint : float
        Share of paint in it.
    coats : int
    lab : (L*, a*, b*)
        What it comes to.
    away : float
        dE00 from what was wanted.
    """

    name: str
    paint: float
    coats: int
    lab: tuple[float, float, float]
    away: float


def best_veils(
    rack: Rack, piles: Sequence[tuple[str, F64]], over: F64, want: F64, film_um: float, most: int = 3
) -> tuple[Veil, ...]:
    """Return the veils that bring a colour nearest to a wanted one, best first, one of each pile."""
    beneath = optics.spectrum_of(over, rack.shown)
    recipes = np.array([parts / max(float(parts.sum()), 1e-9) for _, parts in piles]).reshape(-1, len(rack))
    paint = np.array(DILUTIONS)[:, None, None]
    # Every pile, share of paint and number of coats at once: a coat more is that much more of both.
    depth = paint[..., None] * np.arange(1, COATS + 1)[:, None]
    k, s = ((recipes @ one)[:, None, None] * depth.reshape(1, len(DILUTIONS), COATS, 1) for one in (rack.k, rack.s))
    lab = optics.lab_of(optics.seen(optics.film(k, s, film_um, beneath), rack.shown))
    away = np.asarray(difference(lab, want), np.float64)
    score = away + 0.3 * np.arange(1, COATS + 1)
    found = []
    for number, (name, _) in enumerate(piles):
        share, coat = np.unravel_index(int(np.argmin(score[number])), score[number].shape)
        one = lab[number, share, coat]
        looks = (float(one[0]), float(one[1]), float(one[2]))
        found.append(Veil(name, DILUTIONS[share], int(coat) + 1, looks, float(away[number, share, coat])))
    return tuple(sorted(found, key=lambda one: one.away)[:most])


THIN = (0.01, 0.02, 0.035, 0.06, 0.1, 0.16, 0.25, 0.4, 0.65, 1.0)
"""Shares of paint in a shadow's glaze that are tried."""
SHARES = (0.2, 0.35, 0.5, 0.65, 0.8)
"""Shares of the first of two tubes that are tried in it."""


def shadow_film(rack: Rack, target: F64, over: F64, film_um: float) -> tuple[Recipe, float]:
    """Return the mix of one or two tubes, and the share of paint in its medium, whose film brings a lit colour to that of its shadow.

    Every pair, ratio and share is reckoned (they are few): a film so thin has one best, and no fit that runs away.

    Parameters
    ----------
    rack : Rack
    target, over : (3,) float64
        CIELAB in the shadow, and of the same coat in the light.
    film_um : float
        Thickness of all its coats, micrometres.
    """
    beneath = optics.spectrum_of(check_target(over), rack.shown)
    count = len(rack)
    rows = list(np.eye(count))
    rows += [
        a * np.eye(count)[i] + (1 - a) * np.eye(count)[j]
        for i in range(count)
        for j in range(i + 1, count)
        for a in SHARES
    ]
    parts = np.array(rows)
    paint = np.array(THIN)[:, None, None]
    inside = optics.film(parts @ rack.k * paint, parts @ rack.s * paint, film_um, beneath)
    away = np.asarray(difference(optics.lab_of(optics.seen(inside, rack.shown)), check_target(target)), np.float64)
    # Of two that look alike the one of fewer tubes.
    score = away + 0.12 * (parts > 0).sum(axis=1)
    thin, row = (int(v) for v in np.unravel_index(int(np.argmin(score)), score.shape))
    return rack.recipe(np.round(parts[row] * 10) / 2, target), THIN[thin]


def solve_film(rack: Rack, target: F64, over: F64, film_um: float, most: int = MOST_TUBES) -> Recipe:
    """Return the recipe whose film over a dry colour comes nearest to a target.

    Films are not linear in their parts: every pair of tubes is reckoned on a coarse net of ratios, the likeliest are joined by
    each further tube, and the best of every size are fitted (Nelder and Mead 1965, doi:10.1093/comjnl/7.4.308) and rounded to
    parts a hand can take.

    Parameters
    ----------
    rack : Rack
    target, over : (3,) float64
        CIELAB that is wanted, and of the dry paint beneath.
    film_um : float
        Thickness, micrometres.
    most : int
        Tubes at most.

    Raises
    ------
    InputError
        As `solve`.
    """
    target = check_target(target)
    check_most(most)
    beneath = optics.spectrum_of(check_target(over), rack.shown)

    def looks(parts: F64) -> F64:
        whole = parts.sum(axis=-1, keepdims=True)
        inside = optics.film(parts @ rack.k / whole, parts @ rack.s / whole, film_um, beneath)
        return optics.lab_of(optics.seen(inside, rack.shown))

    def away(parts: F64) -> F64:
        return np.asarray(difference(looks(parts), target), np.float64)

    best: tuple[float, F64] | None = None
    for begun in _likely_films(rack, away, most):
        shares = _fitted_film(begun, away)
        used = shares > 0
        parts = np.array([1.0]) if used.sum() == 1 else np.arange(used.sum(), 21)
        tried = np.maximum(np.round(shares[used] * parts[:, None] * 2) / 2, 0.5)
        whole = np.zeros((len(tried), len(rack)))
        whole[:, used] = tried
        score = away(whole) + PER_TUBE * used.sum() + PER_PART * whole.sum(axis=1)
        at = int(np.argmin(score))
        if best is None or score[at] < best[0]:
            best = (float(score[at]), whole[at])
    assert best is not None
    recipe = rack.recipe(best[1], target)
    lab = looks(best[1])
    return replace(recipe, lab=(float(lab[0]), float(lab[1]), float(lab[2])), away=float(away(best[1])))


_NET = (0.03, 0.08, 0.2, 0.4, 0.6, 0.8, 0.92, 0.97)
"""Shares of a further tube that are tried."""
_JOINED, _BEGUN = 24, 5
"""Mixtures of a size that are joined by each further tube, and that are fitted."""


def _likely_films(rack: Rack, away: Callable[[F64], F64], most: int) -> list[F64]:
    """Return shares (n,) of the likeliest films of one tube, of two, and so on, each of another set of tubes."""
    single = np.eye(len(rack))
    here, found = single, []
    share = np.array(_NET)[:, None, None, None]
    for size in range(1, min(most, len(rack)) + 1):
        if size > 1:
            joined = (1 - share) * here[None, :, None] + share * single[None, None]
            here = joined.reshape(-1, len(rack))
            here = here[(here > 0).sum(axis=1) == size]
        order = np.argsort(away(here), kind="stable")
        # Of the same tubes the nearest ratio stands for all.
        sets = (here[order] > 0) @ (1 << np.arange(len(rack)))
        _, first = np.unique(sets, return_index=True)
        here = here[order[np.sort(first)]]
        found += list(here[:_BEGUN])
        here = here[: len(rack) if size == 1 else _JOINED]
    return found


def _fitted_film(begun: F64, away: Callable[[F64], F64]) -> F64:
    """Return shares (n,) of the same tubes whose film comes nearest; they sum to 1."""
    from scipy.optimize import minimize

    used = begun > 0
    count = int(used.sum())
    if count == 1:
        return begun

    def shares(logs: F64) -> F64:
        made = np.zeros(len(begun))
        # Only ratios count: the last tube stands for itself.
        weights = np.exp(np.clip(np.append(logs, 0.0), -6, 6))
        made[used] = weights / weights.sum()
        return made

    start = np.log(begun[used][:-1] / begun[used][-1])
    # Steps that are seen: from nothing, a simplex would be too small to move.
    simplex: F64 = np.vstack([start, start + 0.5 * np.eye(count - 1)])

    def miss(logs: F64) -> float:
        return float(away(shares(logs)))

    made = minimize(
        miss,
        start,
        method="Nelder-Mead",
        options={"maxiter": 160, "xatol": 0.02, "fatol": 0.01, "initial_simplex": simplex},
    )
    return shares(made.x)


def veil_words(over: F64, lab: F64) -> str:
    """Say what a veil did: lighter or darker, warmer or cooler, stronger or weaker."""
    light = float(lab[0] - over[0])
    warm = float(lab[2] - over[2])
    strong = float(np.hypot(*lab[1:]) - np.hypot(*over[1:]))
    said = [
        word
        for value, up, down, least in (
            (light, "lighter", "darker", 1.0),
            (warm, "warmer", "cooler", 1.5),
            (strong, "stronger", "greyer", 1.5),
        )
        if abs(value) >= least
        for word in [f"{up if value > 0 else down} by {abs(value):.0f}"]
    ]
    return ", ".join(said) or "hardly a change"


def cannot_words(over: F64, want: F64, reached: float) -> str:
    """Say why a veil does not bring a wanted colour; empty when it does.

    Clear paint only takes light away; a thin pale one scatters, so that it greys and cools.
    """
    if reached <= MUDDY:
        return ""
    if want[0] > over[0] + 2:
        return "A glaze never lightens: lay a thin scumble of a lighter pile, or body paint, first."
    if float(np.hypot(*want[1:])) > float(np.hypot(*over[1:])) + 4 and want[0] >= over[0]:
        return "No veil makes it stronger without making it darker: lighten the place beforehand, then glaze."
    return "No veil of these tubes gets there: repaint the place with body paint."


def after_strokes(rack: Rack, laid: F64, beneath: F64, pick_up: float, strokes: int) -> F64:
    """Return the (strokes, 3) CIELAB that each stroke with one load leaves on wet paint.

    What lies on the canvas is the brush's paint with the picked-up share beneath; what is on the brush takes up as much at every stroke.

    Parameters
    ----------
    rack : Rack
    laid, beneath : (n,) float64
        Recipes; only their proportions count.
    pick_up : float
        Share of wet paint in a stroke, 0 to 0.9.
    strokes : int
    """
    brush, wet = laid / laid.sum(), beneath / beneath.sum()
    made = []
    for _ in range(strokes):
        brush = brush * (1 - pick_up) + wet * pick_up
        made.append(rack.lab(brush))
    return np.array(made)


@dataclass(frozen=True, slots=True)
class OverWet:
    """What to lay into wet paint so that the result is the wanted colour.

    Attributes
    ----------
    lay : Recipe or None
        Its `lab` is what the pile looks like; None where no paint reaches it.
    result : (L*, a*, b*)
        What stands there after the first stroke.
    away : float
        dE00 of the result from the target.
    strokes : int
        Strokes until what it leaves has drifted too far: then wipe.
    """

    lay: Recipe | None
    result: tuple[float, float, float]
    away: float
    strokes: int

    def words(self) -> str:
        """Say what to do."""
        if self.lay is None:
            return "Not reachable into the wet: wait until it is touch-dry, or scrape it off first."
        return f"wipe after {self.strokes} stroke{'' if self.strokes == 1 else 's'}"


def over_wet(rack: Rack, target: F64, beneath: F64, pick_up: float = PICK_UP, limits: Limits | None = None) -> OverWet:
    """Return what to lay into wet paint of a known recipe.

    Parameters
    ----------
    rack : Rack
    target : (3,) float64
    beneath : (n,) float64
        Recipe of the wet paint.
    pick_up : float
        0 to 0.9.
    limits : Limits
    """
    wet = beneath / beneath.sum()
    found = solve(rack, target, replace(limits or Limits(), beneath=wet * pick_up))
    laid = rack.parts(found.parts)
    left = after_strokes(rack, laid, wet, pick_up, 12)
    first = left[0]
    away = float(difference(first, np.asarray(target)))
    drift = np.asarray(difference(left, first))
    strokes = int(np.argmax(drift > DIRTY)) if (drift > DIRTY).any() else len(left)
    lay = None if away > MUDDY else found
    return OverWet(lay, (float(first[0]), float(first[1]), float(first[2])), away, max(1, strokes))


MOST_PICK_UP, SHARES_TRIED = 0.9, 181
UNEXPLAINED = 4.0
"""dE00 from which no share of the wet paint explains what a stroke came to."""
USUAL_STROKES = 2.0
"""What is usual counts as so many strokes that were seen."""


def pick_up_seen(rack: Rack, laid: F64, beneath: F64, seen: F64) -> tuple[float, float]:
    """Return which share of the wet paint a stroke picked up, by what it came to, and what is left unexplained (dE00).

    Parameters
    ----------
    rack : Rack
    laid, beneath : (n,) float64
        Recipes of the brush's paint and of the wet one; only their proportions count.
    seen : (3,) float64
        CIELAB of the stroke.

    Returns
    -------
    float, float
        Share 0 to 0.9, in steps of half a hundredth; dE00.
    """
    brush, wet = laid / laid.sum(), beneath / beneath.sum()
    shares = np.linspace(0.0, MOST_PICK_UP, SHARES_TRIED)
    came = np.array([rack.lab(brush * (1 - share) + wet * share) for share in shares])
    away = np.asarray(difference(came, np.asarray(seen, np.float64)), np.float64)
    at = int(np.argmin(away))
    return float(shares[at]), float(away[at])


def learned_pick_up(shares: Sequence[float]) -> float:
    """Return the share that strokes pick up, of those that were seen and of what is usual."""
    return (USUAL_STROKES * PICK_UP + sum(shares)) / (USUAL_STROKES + len(shares))
