"""Recipes: which tubes, in which whole and half parts, come nearest to a colour.

Every subset of at most three (or four) tubes is fitted at once by Levenberg-Marquardt on the logarithms of its parts (Marquardt 1963,
doi:10.1137/0111030), in a metric that is CIEDE2000 near the target; the likeliest are rounded to parts a hand can measure, up and
down, for every size of the pile, and the best of those wins by difference, tubes and parts.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from functools import cached_property, lru_cache
from itertools import combinations, product

import numpy as np

from foxpath.core.arrays import F64, I64
from foxpath.core.colour import difference
from foxpath.core.errors import InputError
from foxpath.core.fingerprint import fingerprint
from foxpath.core.mixes import optics
from foxpath.core.mixes.tubes import Tube

MOST_TUBES, EVER_TUBES = 3, 4
"""Tubes in a recipe: usually, and on demand. More make mud, and none can be mixed again."""
MOST_PARTS = 20
FINEST = 0.1
"""Parts; less than a tenth no hand measures, and no tube is known so well."""
LET_DOWN = 9.0
"""Parts of the pile's main tube that a strong tube is let down with, to one of it, before tenths are taken."""
CLOSE = 1.0
"""dE00 within which a colour counts as reached."""
PER_TUBE, PER_PART, PER_STOCK = 0.12, 0.008, 0.1
"""dE00 that one tube, part or let-down less is worth."""
_ROUNDS, _EARLY, _KEPT, _ROUNDED = 8, 3, 60, 24
_NOTHING = np.zeros((2, optics.BANDS))


@dataclass(frozen=True, slots=True)
class Recipe:
    """A mixture of tubes.

    Attributes
    ----------
    parts : tuple of (tube id, parts)
        By volume, largest first.
    lab : (L*, a*, b*)
        What it will look like, by the table and what was learned.
    target : (L*, a*, b*)
    away : float
        dE00 between them.
    """

    parts: tuple[tuple[str, float], ...]
    lab: tuple[float, float, float]
    target: tuple[float, float, float]
    away: float

    @property
    def reached(self) -> bool:
        """Whether the eye would hardly tell it from the target."""
        return self.away <= CLOSE

    @property
    def whole(self) -> float:
        """All its parts."""
        return sum(n for _, n in self.parts)

    def share(self, tube: str) -> float:
        """Return the share of a tube, 0 to 1."""
        return dict(self.parts).get(tube, 0.0) / self.whole

    @property
    def let_down(self) -> tuple[str, ...]:
        """The tubes measured in tenths: let down 1:9 with the main tube first."""
        return tuple(key for key, n in self.parts[1:] if _tenths(n))


def _tenths(n: float) -> bool:
    return abs(n * 2 - round(n * 2)) > 1e-6


@dataclass(frozen=True, eq=False)
class Rack:
    """Tubes side by side, ready to be mixed in numbers.

    Attributes
    ----------
    tubes : tuple of Tube
        One or more; `InputError` is raised without any.
    shown : float
        Share of the surface's reflection that is seen, see `optics.FINISHES`.
    """

    tubes: Sequence[Tube]
    shown: float = 1.0

    def __post_init__(self) -> None:
        if not self.tubes:
            raise InputError("There is no tube to mix with.", "Choose at least one tube that is in the studio.")
        object.__setattr__(self, "tubes", tuple(self.tubes))

    @cached_property
    def ids(self) -> tuple[str, ...]:
        """The tubes' ids, in their order."""
        return tuple(tube.id for tube in self.tubes)

    @cached_property
    def k(self) -> F64:
        """(n, 36) light taken up, a part."""
        return np.stack([tube.k for tube in self.tubes])

    @cached_property
    def s(self) -> F64:
        """(n, 36) light thrown back, a part."""
        return np.stack([tube.s for tube in self.tubes])

    @cached_property
    def strength(self) -> F64:
        """(n,) how far a part goes, none below 0.15: white goes far too."""
        return np.clip([tube.strength for tube in self.tubes], 0.15, None)

    @cached_property
    def own(self) -> dict[str, tuple[float, float, float]]:
        """CIELAB of every tube by itself, by its id."""
        labs = self.lab(np.eye(len(self)))
        return {key: (float(lab[0]), float(lab[1]), float(lab[2])) for key, lab in zip(self.ids, labs, strict=True)}

    @cached_property
    def told(self) -> bytes:
        """Fingerprint of the tubes, as strong as they are taken to be, and of how they are seen."""
        return fingerprint(self.shown, *([getattr(tube, one.name) for one in fields(tube)] for tube in self.tubes))

    def __len__(self) -> int:
        return len(self.tubes)

    def parts(self, amounts: Mapping[str, float] | Sequence[tuple[str, float]]) -> F64:
        """Return (n,) parts in the rack's order. Raises `InputError` when a tube is missing from it."""
        made = np.zeros(len(self))
        for key, n in dict(amounts).items():
            if key not in self.ids:
                raise InputError(f"The tube “{key}” is not at hand.", "Add it to the tubes, or mix without it.")
            made[self.ids.index(key)] += n
        return made

    def inside(self, parts: F64) -> F64:
        """Return the (..., 36) reflectance within paint of (..., n) parts."""
        return optics.endless((parts @ self.k) / np.maximum(parts @ self.s, 1e-12))

    def colours(self, which: I64, parts: F64, base: F64 | None = None) -> F64:
        """Return the (p, g, 3) CIELAB of many mixtures of few tubes, laid as thick as for `lab`.

        Parameters
        ----------
        which : (p, m) int64
            Places of the tubes.
        parts : (p or 1, g, m) float64
            Parts of them; one for all rows where they are the same.
        base : (2, 36) float64, optional
            What they are mixed into: the light it takes up and throws back, see `light`.
        """
        from foxpath.core.mixes import _kernel_mixed as loops

        made = np.empty((len(which), parts.shape[1], 3))
        there = _NOTHING if base is None else base
        loops.colours(self.k, self.s, there, which, np.ascontiguousarray(parts), *optics.eye(self.shown), made)
        return made

    def light(self, parts: F64) -> F64:
        """Return the (2, 36) light that (n,) parts take up, and throw back."""
        return np.stack([parts @ self.k, parts @ self.s])

    def slopes(self, which: I64, parts: F64, base: F64 | None = None) -> tuple[F64, F64]:
        """Return CIELAB (p, 3) of mixtures and its derivatives by the logarithms of their parts (p, m, 3).

        Parameters
        ----------
        which : (p, m) int64
        parts : (p, m) float64
            What they sum to stays: what one gains, all lose.
        base : (2, 36) float64, optional
        """
        from foxpath.core.mixes import _kernel_mixed as loops

        lab, slope = np.empty((len(which), 3)), np.empty((*which.shape, 3))
        there = _NOTHING if base is None else base
        loops.slopes(self.k, self.s, there, which, np.ascontiguousarray(parts), *optics.eye(self.shown), lab, slope)
        return lab, slope

    def lab(self, parts: F64) -> F64:
        """Return the (..., 3) CIELAB of (..., n) parts, laid so thick that nothing beneath shows."""
        return optics.lab_of(optics.seen(self.inside(parts), self.shown))

    def lab_of(self, amounts: Mapping[str, float] | Sequence[tuple[str, float]]) -> F64:
        """Return the (3,) CIELAB of named parts."""
        return self.lab(self.parts(amounts))

    def recipe(self, parts: F64, target: F64) -> Recipe:
        """Return named parts as a recipe, largest first."""
        lab = self.lab(parts)
        order = sorted(np.flatnonzero(parts > 0), key=lambda i: (-parts[i], int(i)))
        return Recipe(
            tuple((self.ids[i], round(float(parts[i]), 4)) for i in order),
            (float(lab[0]), float(lab[1]), float(lab[2])),
            (float(target[0]), float(target[1]), float(target[2])),
            float(difference(lab, np.asarray(target))),
        )


@dataclass(frozen=True, slots=True, eq=False)
class Limits:
    """What a recipe may be.

    Attributes
    ----------
    most : int
        Tubes at most.
    alone : tuple of bool
        For each tube of the rack, whether it may stand in a recipe without another tube that has colour.
    needed : tuple of int
        Places of tubes that must take part.
    beneath : (n,) float64 or None
        Parts of wet paint that mixes in, as shares of the result that sum to less than 1.
    """

    most: int = MOST_TUBES
    alone: tuple[bool, ...] = ()
    needed: tuple[int, ...] = ()
    beneath: F64 | None = None


def metric(target: F64) -> F64:
    """Return the (3, 3) matrix by which small differences become lengths in dE00 near a colour."""
    step = 2.0
    eye = np.eye(3) * step
    pairs = [*eye, *-eye, *(eye[i] + eye[j] for i, j in ((0, 1), (0, 2), (1, 2)))]
    squares = np.asarray(difference(np.asarray(target), np.asarray(target) + np.array(pairs)), np.float64) ** 2
    both = (squares[:3] + squares[3:6]) / 2
    form = np.diag(both)
    for place, (i, j) in enumerate(((0, 1), (0, 2), (1, 2))):
        form[i, j] = form[j, i] = (squares[6 + place] - both[i] - both[j]) / 2
    values, vectors = np.linalg.eigh(form / step**2)
    return np.asarray(vectors * np.sqrt(np.clip(values, values.max() * 1e-3, None)))


def solve(rack: Rack, target: F64, limits: Limits | None = None) -> Recipe:
    """Return the best recipe for a colour.

    Parameters
    ----------
    rack : Rack
    target : (3,) float64
        CIELAB, D65.
    limits : Limits

    Raises
    ------
    InputError
        When more than four tubes are asked for, or the target is no colour.
    """
    limits, target = limits or Limits(), check_target(target)
    check_most(limits.most)
    best: tuple[float, F64] | None = None
    for count in range(1, min(limits.most, len(rack)) + 1):
        places = _subsets(len(rack), count)
        if limits.needed:
            places = places[np.isin(places, limits.needed).sum(axis=1) == len(limits.needed)]
        if limits.alone:
            places = places[_allowed(rack, places, limits.alone)]
        if not len(places):
            continue
        where, shares, away = _fit(rack, target, places, limits.beneath)
        found = _rounded(rack, target, where, shares, away, limits.beneath)
        if found is not None and (best is None or found[0] < best[0]):
            best = found
    if best is None:
        raise InputError("No mixture is allowed by these limits.", "Allow a tube black, or add a tube.")
    return rack.recipe(best[1], target)


def check_most(most: int) -> None:
    """Raise `InputError` for a number of tubes that nobody mixes."""
    if not 1 <= most <= EVER_TUBES:
        raise InputError(
            f"{most} tubes in a mixture are refused.",
            f"Take 1 to {EVER_TUBES}: a mixture of more turns to mud, and cannot be mixed again.",
        )


def check_target(target: F64) -> F64:
    """Return a target as float64. Raises `InputError` when it is no colour."""
    made = np.asarray(target, np.float64)
    if made.shape != (3,) or not np.isfinite(made).all() or not -1 <= made[0] <= 101 or np.abs(made[1:]).max() > 160:
        raise InputError("This is no colour.", "Write L*, a*, b*, e.g. 44, 18, 25; L* is 0 to 100.")
    return made


@lru_cache(maxsize=64)
def _subsets(count: int, size: int) -> I64:
    return np.array(list(combinations(range(count), size)), np.int64).reshape(-1, size)


def _allowed(rack: Rack, places: I64, alone: Sequence[bool]) -> np.ndarray:
    """Tell which subsets hold a tube with colour, or none that may not stand alone."""
    black = ~np.asarray(alone)
    colour = ~black & ~np.array([tube.white for tube in rack.tubes])
    return np.asarray(~black[places].any(axis=1) | colour[places].any(axis=1))


def everything(rack: Rack, lab: F64, most: int) -> tuple[I64, F64]:
    """Return how near every subset of the tubes comes to some colours, before parts are rounded.

    Parameters
    ----------
    rack : Rack
    lab : (m, 3) float64
    most : int
        Tubes in a subset, at most.

    Returns
    -------
    masks : (s,) int64
        The subsets, a bit for each tube of the rack.
    away : (m, s) float64
        dE00.
    """
    masks, away = [], []
    for count in range(1, min(most, len(rack)) + 1):
        places = _subsets(len(rack), count)
        masks.append((1 << places).sum(axis=1))
        away.append(np.stack([_fit(rack, target, places, None, prune=False)[2] for target in lab]))
    return np.concatenate(masks), np.concatenate(away, axis=1)


def _fit(rack: Rack, target: F64, places: I64, beneath: F64 | None, *, prune: bool = True) -> tuple[I64, F64, F64]:
    """Fit the shares of every subset at once; return places, shares and dE00, the hopeless left out where asked."""
    base, share = _under(rack, beneath)
    form = metric(target)
    size = places.shape[1]
    logs = -np.log(rack.strength[places])
    c = np.exp(logs - logs.max(axis=1, keepdims=True))
    c /= c.sum(axis=1, keepdims=True)
    logs, damp = np.log(c), np.full(len(places), 0.05)
    lab, slope = rack.slopes(places, c * share, base)
    miss = (lab - target) @ form
    cost = (miss * miss).sum(axis=1)
    for number in range(_ROUNDS if size > 1 else 0):
        by = slope @ form
        square = by @ by.transpose(0, 2, 1)
        down = np.einsum("mkj,mj->mk", by, miss)
        ridge = damp * (np.einsum("mkk->mk", square).mean(axis=1) + 1e-6) + 1e-9
        step = -np.linalg.solve(square + ridge[:, None, None] * np.eye(size), down[..., None])[..., 0]
        tried = logs + np.clip(step, -2.5, 2.5)
        tried = np.maximum(tried - tried.max(axis=1, keepdims=True), -9)
        c2 = np.exp(tried)
        c2 /= c2.sum(axis=1, keepdims=True)
        lab2, slope2 = rack.slopes(places, c2 * share, base)
        miss2 = (lab2 - target) @ form
        cost2 = (miss2 * miss2).sum(axis=1)
        good = cost2 < cost
        logs, c = np.where(good[:, None], tried, logs), np.where(good[:, None], c2, c)
        lab, miss = np.where(good[:, None], lab2, lab), np.where(good[:, None], miss2, miss)
        slope, cost = np.where(good[:, None, None], slope2, slope), np.where(good, cost2, cost)
        damp = np.where(good, damp * 0.3, damp * 5)
        kept = _KEPT if number >= _EARLY else 4 * _KEPT
        if prune and number >= 1 and len(places) > kept:
            best = np.argpartition(cost, kept)[:kept]
            places, c, logs = places[best], c[best], logs[best]
            lab, miss, slope, cost, damp = lab[best], miss[best], slope[best], cost[best], damp[best]
    return places, c, np.asarray(difference(lab, target), np.float64)


def _under(rack: Rack, beneath: F64 | None) -> tuple[F64 | None, float]:
    """Return the light of wet paint beneath, and the share of the result that is left for what is mixed in."""
    return (None, 1.0) if beneath is None else (rack.light(beneath), 1.0 - float(beneath.sum()))


def _rounded(
    rack: Rack, target: F64, places: I64, shares: F64, away: F64, beneath: F64 | None
) -> tuple[float, F64] | None:
    """Round the likeliest subsets to parts a hand can measure; return the best one's score and parts."""
    best = np.argsort(away, kind="stable")[:_ROUNDED]
    places, shares = places[best], shares[best]
    size = places.shape[1]
    up = np.array(list(product((0, 1), repeat=size)), np.float64)
    totals = np.array([1.0]) if size == 1 else np.arange(size, MOST_PARTS + 1, dtype=np.float64)
    wanted = shares[:, None, :] * totals[None, :, None]
    unit = np.where(wanted >= 4, 1.0, np.where(wanted >= 0.45, 0.5, FINEST))
    parts = (np.floor(wanted / unit + 1e-9)[:, :, None] + up) * unit[:, :, None]
    parts = parts.reshape(-1, size)
    which = np.repeat(np.arange(len(places)), len(totals) * len(up))
    tenths = np.where(np.abs(parts * 2 - np.round(parts * 2)) > 1e-6, parts, 0.0)
    stocked = tenths.sum(axis=1)
    # What is let down takes its nine parts out of the main tube's.
    good = (parts > 0.05).all(axis=1) & (stocked * LET_DOWN <= parts.max(axis=1) + 1e-9)
    if size == 1:
        good = parts[:, 0] == 1
    parts, which, stocked = parts[good], which[good], stocked[good]
    if not len(parts):
        return None
    base, share = _under(rack, beneath)
    whole = parts.sum(axis=1)
    lab = rack.colours(places[which], (parts / whole[:, None] * share)[:, None], base)[:, 0]
    score = (
        np.asarray(difference(lab, target), np.float64) + PER_TUBE * size + PER_PART * whole + PER_STOCK * (stocked > 0)
    )
    at = int(np.argmin(score))
    made = np.zeros(len(rack))
    made[places[which[at]]] = parts[at]
    return float(score[at]), made
