"""The palette of a painting: the fewest piles from which every colour of the plan is one or two additions away.

Colours the eye cannot tell apart are one; of what is left, the piles are chosen to be near to all the rest, weighed by area and focus
(facility location by greedy addition and exchange; Teitz and Bart 1968, doi:10.1287/opre.16.5.955). Then they are mixed on paper: a
mother of two tubes takes part in what it can, and each further pile begins from the one that needs least to become it.
"""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar, cast

import numpy as np

from foxpath.core.arrays import F64, I64, frozen
from foxpath.core.colour import difference
from foxpath.core.mixes.adding import Addition, addition
from foxpath.core.mixes.recipe import MOST_TUBES, Limits, Rack, Recipe, solve
from foxpath.core.mixes.strings import Black, black_leaning, blacks
from foxpath.core.mixes.tubes import Tube
from foxpath.core.mixes.words import GREY, unlike_names

T = TypeVar("T")
FEWEST, MOST = 6, 14
SAME = 1.8
"""dE00 below which two colours are one pile: no eye tells them apart at a step back."""
NEAR = 2.0
"""dE00 within which a colour counts as had from a pile, by one or two additions."""
OUT = 3.0
"""dE00 from which a pile is said to be out of reach."""
SERVED = 9.0
"""dE00 at which a pile begins to be far: additions carry it farther, but a hand would rather have another."""
UNSERVED = 0.03
"""Share of what can be reached, by weight, that may be left without a pile near enough before another is made."""
TEN = 10.0
"""Parts of a pile that additions are told for."""
TAKES_PART = 1.5
"""dE00 that the mother mix's taking part is worth: what shares a dark hangs together."""
LEAST_SHARE = 0.02
"""Of the mother in a pile, below which it is no part of it."""
DARK = 40.0
MOTHER = "mother"
_EXCHANGES, _AGAIN = 3, 3


@dataclass(frozen=True, slots=True)
class Want:
    """A colour that the plan asks for.

    Attributes
    ----------
    lab : (L*, a*, b*)
    weight : float
        How much it matters, by area and focus.
    act : str
        Key of the pass.
    zone : int
        Place of the part, counted back to front; -1 the whole canvas.
    ml : float
        Paint of it, with what is lost.
    """

    lab: tuple[float, float, float]
    weight: float
    act: str
    zone: int
    ml: float


@dataclass(frozen=True, slots=True)
class Held:
    """A pile that the painter has mixed: it is there, and the palette is built around it.

    Attributes
    ----------
    key : str
    name : str
    parts : tuple of (tube id, parts)
    lab : (L*, a*, b*)
        As it was seen last, or as it should look.
    want : (L*, a*, b*)
    """

    key: str
    name: str
    parts: tuple[tuple[str, float], ...]
    lab: tuple[float, float, float]
    want: tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Pile:
    """A pile of the palette.

    Attributes
    ----------
    key : str
        Held piles keep theirs; the others are numbered.
    name : str
    recipe : Recipe
        Down to the tubes.
    base : str
        Key of the pile it begins from; empty where it is mixed from tubes.
    base_parts : float
        Parts of that pile.
    added : tuple of (tube id, parts)
        What is added to it.
    mother : float
        Share of the mother mix in it, 0 to 1.
    wants : tuple of int
        Places of the wants it serves.
    ml : float
        Paint for its own places.
    mixed_ml : float
        Paint to mix: with what further piles begin from.
    held : bool
        It has been mixed.
    """

    key: str
    name: str
    recipe: Recipe
    base: str = ""
    base_parts: float = 0.0
    added: tuple[tuple[str, float], ...] = ()
    mother: float = 0.0
    wants: tuple[int, ...] = ()
    ml: float = 0.0
    mixed_ml: float = 0.0
    held: bool = False

    @property
    def lab(self) -> tuple[float, float, float]:
        """What it looks like."""
        return self.recipe.lab

    @property
    def neutral(self) -> bool:
        """Whether it belongs to the string of greys."""
        return float(np.hypot(self.lab[1], self.lab[2])) < GREY


@dataclass(frozen=True, slots=True, eq=False)
class Palette:
    """The piles of a painting, in the order they are mixed.

    Attributes
    ----------
    piles : tuple of Pile
    wants : tuple of Want
        What was asked for.
    pile_of : (n,) int64
        For each want, the place of its pile; -1 without piles.
    away : (n,) float64
        dE00 that is left after its addition.
    steps : (n,) int64
        Additions each want needs, 0 to 2.
    reach : (n,) float64
        dE00 of the best recipe the tubes have for it; 0 where it was not asked, because a pile serves.
    short : tuple of int
        Piles out of reach of the tubes.
    """

    piles: tuple[Pile, ...] = ()
    wants: tuple[Want, ...] = ()
    pile_of: I64 = field(default_factory=lambda: frozen(np.zeros(0, np.int64)))
    away: F64 = field(default_factory=lambda: frozen(np.zeros(0)))
    steps: I64 = field(default_factory=lambda: frozen(np.zeros(0, np.int64)))
    reach: F64 = field(default_factory=lambda: frozen(np.zeros(0)))
    short: tuple[int, ...] = ()

    def pile(self, key: str) -> Pile | None:
        """Return a pile by its key, or None."""
        return next((one for one in self.piles if one.key == key), None)

    @property
    def string(self) -> tuple[Pile, ...]:
        """The neutral piles, dark to light."""
        return tuple(sorted((one for one in self.piles if one.neutral), key=lambda one: one.lab[0]))

    def children(self, key: str) -> tuple[Pile, ...]:
        """Return the piles that begin from one."""
        return tuple(one for one in self.piles if one.base == key)

    @property
    def covered(self) -> float:
        """Share of what is wanted, by weight, that is had from a pile by two additions at most, or as well as these tubes can."""
        weights = np.array([one.weight for one in self.wants])
        return float(weights[served(self.away, self.reach)].sum() / weights.sum()) if len(weights) else 1.0

    @property
    def beyond(self) -> tuple[int, ...]:
        """Places of the wants that no mixture of these tubes reaches."""
        return tuple(int(k) for k in np.flatnonzero(self.reach > OUT))


def served(away: F64, reach: F64) -> np.ndarray:
    """Tell which colours are had, within `NEAR` of what the tubes can do."""
    return np.asarray(away <= np.maximum(NEAR, reach + 0.8))


def merged(wants: Sequence[Want], same: float = SAME) -> tuple[F64, F64, list[list[int]]]:
    """Gather colours that the eye cannot tell apart, the weightiest first.

    Returns
    -------
    lab : (m, 3) float64
        Mean colours by weight.
    weight : (m,) float64
    members : list of lists of int
    """
    order = sorted(range(len(wants)), key=lambda k: (-wants[k].weight, k))
    middles: list[F64] = []
    weights: list[float] = []
    members: list[list[int]] = []
    for k in order:
        lab, weight = np.array(wants[k].lab), wants[k].weight
        if middles:
            far = np.asarray(difference(np.array(middles), lab), np.float64)
            near = int(np.argmin(far))
            if far[near] < same:
                has = weights[near]
                middles[near] = (middles[near] * has + lab * weight) / max(has + weight, 1e-12)
                weights[near] += weight
                members[near].append(k)
                continue
        middles.append(lab)
        weights.append(weight)
        members.append([k])
    return np.array(middles).reshape(-1, 3), np.array(weights), members


def chosen(lab: F64, weight: F64, count: int) -> list[int]:
    """Choose so many of some colours that all are near to one chosen.

    Parameters
    ----------
    lab : (m, 3) float64
    weight : (m,) float64
    count : int

    Returns
    -------
    list of int
    """
    farthest = SERVED * 3
    far = np.minimum(np.asarray(difference(lab[:, None], lab[None]), np.float64), farthest)
    near = np.full(len(lab), farthest)
    taken: list[int] = []
    for _ in range(min(count, len(lab))):
        left = (weight[:, None] * np.minimum(near[:, None], far)).sum(axis=0)
        left[taken] = np.inf
        taken.append(int(np.argmin(left)))
        near = np.minimum(near, far[:, taken[-1]])
    for _ in range(_EXCHANGES):
        before = list(taken)
        for place in range(len(taken)):
            others = [k for j, k in enumerate(taken) if j != place]
            rest = far[:, others].min(axis=1) if others else np.full(len(lab), farthest)
            left = (weight[:, None] * np.minimum(rest[:, None], far)).sum(axis=0)
            left[others] = np.inf
            taken[place] = int(np.argmin(left))
        if taken == before:
            break
    return taken


def build(
    rack: Rack,
    wants: Sequence[Want],
    *,
    limits: Limits | None = None,
    held: Sequence[Held] = (),
    count: int = 0,
    mother: tuple[tuple[str, float], ...] = (),
    at: Callable[[float], None] = lambda _: None,
) -> Palette:
    """Build the palette of a painting.

    Parameters
    ----------
    rack : Rack
        The tubes in the studio, as strong as they were learned to be.
    wants : sequence of Want
        Colours of every pass and part.
    limits : Limits
    held : sequence of Held
        Piles that are mixed already.
    count : int
        Piles to make; 0 makes as many as are needed, 6 to 14.
    mother : parts
        The dark that takes part in most; the one that leans as the painting's darks do when empty.
    at : callable
        Told the share that is done; may raise to give up.
    """
    limits = limits or Limits()
    lab, weight, members = merged(wants)
    if not len(lab):
        return Palette(tuple(_held_pile(one) for one in held))
    dark = mother or _mother(rack, lab, weight)
    # The mother may lie beside what was chosen.
    heads, most = (count, count) if count else (FEWEST, MOST - bool(dark))
    while not count and heads < min(most, len(lab)):
        far = np.asarray(difference(lab[:, None], lab[chosen(lab, weight, heads)][None]), np.float64).min(axis=1)
        if not ((far > SERVED) & (weight > 0.01 * weight.sum())).any():
            break
        heads += 1
    mixer = _Mixer(rack, limits, dark)
    best = np.zeros(len(lab))
    for again in range(_AGAIN):
        piles = mixer.piles(lab, weight, chosen(lab, weight, heads), held, lambda share: at(0.1 + 0.3 * share))
        pile_of, away, steps = _assigned(mixer.paper, rack, piles, lab, lambda share: at(0.4 + 0.4 * share))
        for k in np.flatnonzero((away > NEAR) & (best == 0)):
            at(0.8)
            best[k] = max(mixer.paper.recipe(rack, lab[k], limits).away, 1e-6)
        left = float(weight[~served(away, best)].sum()) / float(weight.sum())
        if count or left <= UNSERVED or heads >= most or again == _AGAIN - 1:
            break
        heads = min(most, heads + 2)
    back = np.zeros(len(wants), np.int64)
    for group, those in enumerate(members):
        back[those] = group
    own = [np.flatnonzero(pile_of[back] == k) for k in range(len(piles))]
    named = unlike_names([one.lab for one in piles], [one.name for one in piles])
    numbered = [
        replace(
            pile,
            name=pile.name or name,
            wants=tuple(int(w) for w in mine),
            ml=float(sum(wants[int(w)].ml for w in mine)),
        )
        for pile, name, mine in zip(piles, named, own, strict=True)
    ]
    final = _with_amounts(numbered)
    short = tuple(k for k, one in enumerate(final) if not one.held and one.recipe.away > OUT)
    at(1.0)
    return Palette(
        final, tuple(wants), frozen(pile_of[back]), frozen(away[back]), frozen(steps[back]), frozen(best[back]), short
    )


def _mother(rack: Rack, lab: F64, weight: F64) -> tuple[tuple[str, float], ...]:
    """Return the dark of two tubes that leans as the painting's darks and greys do; empty where the tubes have none."""
    dull = (lab[:, 0] < 60) & (np.hypot(lab[:, 1], lab[:, 2]) < 2.5 * GREY)
    found = blacks(rack)
    if not found:
        return ()
    if not dull.any():
        return black_leaning(rack, 0.0).parts  # type: ignore[union-attr]
    white = next(k for k, tube in enumerate(rack.tubes) if tube.white)
    ladder = np.concatenate([[0.0], np.geomspace(0.05, 12, 18)])

    def miss(black: Black) -> float:
        parts = rack.parts(black.parts)
        mixes = np.repeat(parts[None] / parts.sum(), len(ladder), axis=0)
        mixes[:, white] += ladder
        far = np.asarray(difference(lab[dull][:, None], rack.lab(mixes)[None]), np.float64).min(axis=1)
        return float((far * weight[dull]).sum())

    # As the painting's darks and greys lean when this black is let down with white.
    return min(found, key=miss).parts


def _held_pile(one: Held, mother: float = 0.0) -> Pile:
    away = float(difference(np.array(one.lab), np.array(one.want)))
    return Pile(one.key, one.name, Recipe(one.parts, one.lab, one.want, away), mother=mother, held=True)


class _Paper:
    """Sums on paper: what one round of building a palette reckoned, the next asks again."""

    def __init__(self) -> None:
        self._done: dict[Hashable, Any] = {}

    def recipe(self, rack: Rack, target: F64, limits: Limits) -> Recipe:
        """Return what `solve` does."""
        return self._once((rack, limits, target.tobytes()), lambda: solve(rack, target, limits))

    def step(self, rack: Rack, pile: Pile, target: F64) -> Addition | None:
        """Return what `from_pile` does."""
        key = (rack, pile.recipe.parts, pile.lab, target.tobytes())
        return self._once(key, lambda: from_pile(rack, pile, target))

    def _once(self, key: Hashable, make: Callable[[], T]) -> T:
        if key not in self._done:
            self._done[key] = make()
        return cast("T", self._done[key])


class _Mixer:
    """Mixes chosen colours on paper, each from tubes or from the pile that needs least to become it."""

    def __init__(self, rack: Rack, limits: Limits, dark: tuple[tuple[str, float], ...]) -> None:
        self.rack, self.limits, self.dark, self.paper = rack, limits, dark, _Paper()
        self.with_mother = _with_mother(rack, dark)
        self.mother_key = MOTHER
        alone = (*limits.alone, True) if limits.alone else ()
        self.taking = replace(limits, most=min(limits.most, MOST_TUBES), needed=(len(rack),), alone=alone)

    def piles(
        self, lab: F64, weight: F64, picks: Sequence[int], held: Sequence[Held], at: Callable[[float], None]
    ) -> list[Pile]:
        """Return the piles in the order they are mixed: the mother, then what covers most first.

        A pile that is there already takes the place of the colour it was mixed for, so that the others stay as they were.
        """
        mine: dict[int, Held] = {}
        spare: list[Held] = []
        for one in held:
            far = np.asarray(difference(lab[list(picks)], np.array(one.want)), np.float64)
            order = [int(k) for k in np.argsort(far, kind="stable") if far[k] < 2 * SAME and picks[int(k)] not in mine]
            if order:
                mine[picks[order[0]]] = one
            else:
                spare.append(one)
        piles = self._first(lab, picks, mine, spare)
        done = {one.key for one in piles}
        piles += [_held_pile(one) for one in spare if one.key not in done]
        ranked = sorted(picks, key=lambda k: (-float(weight[k]), float(lab[k, 0])))
        for number, k in enumerate(ranked):
            at(number / max(len(ranked), 1))
            if k in mine:
                piles += [_held_pile(mine[k])] if mine[k].key not in done else []
            elif k != self.taken:
                piles.append(self._one(lab[k], piles))
        return piles

    def _first(self, lab: F64, picks: Sequence[int], mine: dict[int, Held], spare: Sequence[Held]) -> list[Pile]:
        """Return the mother mix, as it lies there or as it is planned; it may serve the darkest dull colour itself."""
        self.taken = -1
        if not self.dark or not len(picks):
            return []
        rack = self.rack
        there = next((one for one in (*mine.values(), *spare) if self._is_mother(one)), None)
        if there is not None:
            if there.parts != self.dark:
                self.with_mother = _with_mother(rack, there.parts)
            self.mother_key, self.dark = there.key, there.parts
            return [_held_pile(there, 1.0)]
        self.mother_key = MOTHER
        free = [k for k in picks if k not in mine]
        if not free:
            return []
        first = min(free, key=lambda k: float(lab[k, 0]) + 0.7 * float(np.hypot(*lab[k, 1:])))
        recipe = rack.recipe(rack.parts(self.dark), lab[first])
        # The darkest dull pile is the mother mix itself where it comes as close as any; else that lies beside it.
        if lab[first, 0] < DARK and recipe.away <= max(
            self.paper.recipe(rack, lab[first], self.limits).away + 1.5, NEAR
        ):
            self.taken = first
        else:
            recipe = replace(recipe, target=recipe.lab, away=0.0)
        return [Pile(MOTHER, "mother mix", recipe, mother=1.0)]

    def _is_mother(self, one: Held) -> bool:
        """Tell whether a pile that lies there is the mother, as it was planned or as it was corrected since."""
        if any(key not in self.rack.ids for key, _ in one.parts):
            return False
        meant = float(difference(np.array(one.want), self.rack.lab_of(self.dark)))
        return _same_ratio(one.parts, self.dark) or meant < SAME

    def _one(self, target: F64, piles: Sequence[Pile]) -> Pile:
        """Return a pile for a colour, from tubes, with the mother, or from one of the piles nearest to it."""
        rack, limits = self.rack, self.limits
        plain = self.paper.recipe(rack, target, limits)
        made = Pile(_key_of(target, piles), "", plain)
        score = plain.away + 0.3 * len(plain.parts)
        if self.with_mother is not None:
            found = self.paper.recipe(self.with_mother, target, self.taking)
            share = found.share(MOTHER)
            other = found.away + 0.3 * len(found.parts) - TAKES_PART
            if other < score and share >= LEAST_SHARE:
                made, score = self._from_mother(made.key, found, target), other
        for one in sorted(piles, key=lambda one: float(difference(np.array(one.lab), target)))[:3]:
            step = self.paper.step(rack, one, target)
            if step is None or not step.added or not _no_mud(one, step, limits):
                continue
            # White and colour are added to what is there: the pile that needs least comes first.
            other = (
                step.away + 0.25 * len(step.added) + 0.15 * (step.grows - 1) - TAKES_PART * (one.mother > LEAST_SHARE)
            )
            if other < score:
                recipe = rack.recipe(_ten(rack, one) + rack.parts(step.added), target)
                if one.held:
                    recipe = replace(recipe, lab=step.lab, away=step.away)
                base, added = _plainly(TEN, step.added)
                made, score = Pile(made.key, "", recipe, one.key, base, added, one.mother / step.grows), other
        return made

    def _from_mother(self, key: str, found: Recipe, target: F64) -> Pile:
        tubes = _down_to_tubes(self.rack, found.parts, self.dark, target)
        added = tuple((tube, n) for tube, n in found.parts if tube != MOTHER)
        share = found.share(MOTHER)
        return Pile(key, "", tubes, self.mother_key, share * found.whole, added, mother=share)


def _key_of(target: F64, piles: Sequence[Pile]) -> str:
    """Name a planned pile by its colour, so that it keeps its name while others come and go."""
    base = "p" + "-".join(f"{v:.0f}".replace("-", "m") for v in target)
    taken = {one.key for one in piles}
    return next(key for n in range(1, 100) if (key := base if n == 1 else f"{base}-{n}") not in taken)


def _same_ratio(parts: tuple[tuple[str, float], ...], other: tuple[tuple[str, float], ...]) -> bool:
    a, b = dict(parts), dict(other)
    whole, whole_b = sum(a.values()), sum(b.values())
    return a.keys() == b.keys() and all(abs(a[key] / whole - b[key] / whole_b) < 0.03 for key in a)


def _with_mother(rack: Rack, dark: tuple[tuple[str, float], ...]) -> Rack | None:
    """Return the rack with the mother mix as a further tube; None without one."""
    if not dark:
        return None
    parts = rack.parts(dark)
    whole = float(parts.sum())
    tube = Tube(
        MOTHER, "Mother mix", "", (20.0, 0.0, 0.0), (50.0, 0.0, 0.0), 0.5,
        float((parts * rack.strength).sum() / whole), "medium", "medium", "", 1.4, "oil",
        frozen(parts @ rack.k / whole), frozen(parts @ rack.s / whole),
    )  # fmt: skip
    return Rack((*rack.tubes, tube), rack.shown)


def _plainly(base: float, added: tuple[tuple[str, float], ...]) -> tuple[float, tuple[tuple[str, float], ...]]:
    """Return parts of a pile and what is added to them in the smallest halves, where they are halves: 10 and 5 are 2 and 1."""
    tenths = [round(n * 10) for n in (base, *(n for _, n in added))]
    common = int(np.gcd.reduce(tenths))
    if common % 5:
        return base, added
    step = common / 5 if common % 10 else common / 10
    return base / step, tuple((key, n / step) for key, n in added)


def _no_mud(pile: Pile, step: Addition, limits: Limits) -> bool:
    """Tell whether a pile with an addition still is no mud: one tube more than a recipe may have, its mother's counted."""
    return len({key for key, _ in (*pile.recipe.parts, *step.added)}) <= limits.most + 1


def _down_to_tubes(
    rack: Rack, parts: Sequence[tuple[str, float]], dark: tuple[tuple[str, float], ...], target: F64
) -> Recipe:
    whole = sum(n for _, n in dark)
    made = np.zeros(len(rack))
    for key, n in parts:
        if key == MOTHER:
            made += rack.parts(dark) / whole * n
        else:
            made += rack.parts({key: n})
    return rack.recipe(made, target)


def _assigned(
    paper: _Paper, rack: Rack, piles: Sequence[Pile], lab: F64, at: Callable[[float], None]
) -> tuple[I64, F64, I64]:
    """Give every colour its pile, and the additions it needs from it."""
    pile_of, away, steps = np.zeros(len(lab), np.int64), np.zeros(len(lab)), np.zeros(len(lab), np.int64)
    if not piles:
        return pile_of - 1, away + 99, steps
    seen = np.array([one.lab for one in piles])
    far = np.asarray(difference(lab[:, None], seen[None]), np.float64)
    for k in range(len(lab)):
        at(k / len(lab))
        order = np.argsort(far[k], kind="stable")
        pile_of[k], away[k] = order[0], far[k, order[0]]
        if away[k] <= NEAR:
            continue
        for j in order[:2]:
            step = paper.step(rack, piles[j], lab[k])
            if step is not None and step.away < away[k] - 0.3:
                pile_of[k], away[k], steps[k] = j, step.away, len(step.added)
            if away[k] <= NEAR:
                break
    return pile_of, away, steps


def from_pile(rack: Rack, pile: Pile, target: F64, most: int = 2) -> Addition | None:
    """Return what to add to ten parts of a pile for a colour; None where its tubes are not at hand."""
    if any(key not in rack.ids for key, _ in pile.recipe.parts):
        return None
    parts = _ten(rack, pile)
    return addition(rack, parts, target, shift=np.array(pile.lab) - rack.lab(parts), most=most, halving=False)


def _ten(rack: Rack, pile: Pile) -> F64:
    """Return ten parts of a pile, in the rack's order."""
    parts = rack.parts(pile.recipe.parts)
    return np.asarray(parts * (TEN / parts.sum()))


def _with_amounts(piles: Sequence[Pile]) -> tuple[Pile, ...]:
    """Return the piles with what must be mixed of each: its own places, and what others take from it."""
    from foxpath.core.mixes.amounts import LEAST_ML

    mixed = {one.key: max(one.ml, LEAST_ML) for one in piles}
    for one in reversed(piles):
        if one.base:
            whole = one.base_parts + sum(n for _, n in one.added)
            mixed[one.base] += mixed[one.key] * one.base_parts / max(whole, 1e-9)
    return tuple(replace(one, mixed_ml=mixed[one.key]) for one in piles)
