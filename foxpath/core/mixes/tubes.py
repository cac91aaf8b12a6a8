"""Tubes of paint: the shipped table of typical ones, and a painter's own, told from two swatches.

The table's numbers are typical of a pigment, not measured on any paint: real tubes differ by a quarter and more. What a tube really
does is learned from the painter's own mixes (`learning`).
"""

import csv
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache, lru_cache

import numpy as np

from foxpath.core.arrays import F64, frozen
from foxpath.core.errors import InputError
from foxpath.core.mixes import optics

Triple = tuple[float, float, float]
"""CIELAB under D65, all surface reflection seen."""
WHITE = "PW6"
TINT_PARTS = 4.0
"""Parts of white in a tint swatch, to one of the tube."""
STRONG = 1.8
"""A tube this strong (ultramarine is 1) is let down before it is measured out in tenths."""
SYSTEMS: dict[str, str] = {
    "oil": "oil",
    "alkyd": "alkyd oil",
    "water oil": "water-mixable oil",
    "acrylic": "acrylic",
    "slow acrylic": "slow acrylic",
}
DRYING = ("fast", "medium", "slow")
USUAL_TUBES = (
    "PW6", "PB29", "PB35", "PBk9", "PBr7-BU", "PBr7-RU", "PBr7-BS", "PY43", "PR101-T", "PY35", "PR108", "PV19",
)  # fmt: skip
"""A studio of twelve."""


@dataclass(frozen=True, slots=True)
class OwnTube:
    """A tube of the painter's own, by two swatches.

    Attributes
    ----------
    id, name : str
    masstone : (L*, a*, b*)
        Straight from the tube, thick.
    tint : (L*, a*, b*)
        One part with four parts of titanium white.
    pigment : str
        As the label names it; may be empty.
    system : str
        One of `SYSTEMS`.
    transparency : float
        0 covers, 1 is clear.
    drying : str
        One of `DRYING`.
    hazard : str
        What its label warns of.
    """

    id: str
    name: str
    masstone: Triple
    tint: Triple
    pigment: str = ""
    system: str = "oil"
    transparency: float = 0.5
    drying: str = "medium"
    hazard: str = ""


@dataclass(frozen=True, slots=True)
class KeptTube:
    """A tube in the cupboard.

    Attributes
    ----------
    id : str
        Of the table, or the own tube's.
    own : OwnTube or None
    here : bool
        In the studio, so that it may be used.
    taken, thrown : float
        How many times as strongly as the table's it takes up and throws back light, learned from real mixes.
    looks : int
        How many looks that rests on.
    system : str
        The paint system of a tube of the table.
    dries : (L*, a*, b*)
        By how much more than is typical its colour changes as it dries, learned from dabs (`dried`).
    dabs : int
        How many dabs that rests on.
    """

    id: str
    own: OwnTube | None = None
    here: bool = True
    taken: float = 1.0
    thrown: float = 1.0
    looks: int = 0
    system: str = "oil"
    dries: Triple = (0.0, 0.0, 0.0)
    dabs: int = 0


def as_typical(tube: KeptTube, what: str) -> KeptTube:
    """Return a tube as it was before it was learned: in its strength ("tubes"), or in how it dries ("dried")."""
    if what == "tubes":
        return replace(tube, taken=1.0, thrown=1.0, looks=0)
    return replace(tube, dries=(0.0, 0.0, 0.0), dabs=0)


@dataclass(frozen=True, slots=True, eq=False)
class Tube:
    """A tube as the engine mixes it.

    Attributes
    ----------
    id, name, pigment : str
    masstone, tint : (L*, a*, b*)
    transparency : float
    strength : float
        How far a part of it goes in white; ultramarine is 1, white 0.
    drying, oil, hazard : str
    density : float
        g/mL.
    system : str
    k, s : (36,) float64
        Light taken up and thrown back, a part; titanium white throws back 1 at 550 nm.
    """

    id: str
    name: str
    pigment: str
    masstone: Triple
    tint: Triple
    transparency: float
    strength: float
    drying: str
    oil: str
    hazard: str
    density: float
    system: str
    k: F64
    s: F64

    @property
    def white(self) -> bool:
        """Whether it lightens: hardly any colour, and light straight from the tube."""
        return self.masstone[0] > 88 and float(np.hypot(self.masstone[1], self.masstone[2])) < 12

    @property
    def black(self) -> bool:
        """Whether it is a tube black: dark and grey, also in the tint."""
        return self.masstone[0] < 30 and float(np.hypot(self.tint[1], self.tint[2])) < 4


@cache
def table() -> Mapping[str, Tube]:
    """Return the shipped tubes by their id, in the order of the table."""
    with (optics.DATA / "ks_10nm.csv").open(encoding="utf-8") as file:
        numbers = {(row[0], row[1]): np.array([float(v) for v in row[2:]]) for row in list(csv.reader(file))[1:]}
    with (optics.DATA / "tubes.csv").open(encoding="utf-8") as file:
        rows = list(csv.DictReader(line for line in file if not line.startswith("#")))
    made = {}
    for row in rows:
        made[row["id"]] = Tube(
            row["id"],
            row["name"],
            row["pigment"],
            (float(row["masstone_L"]), float(row["masstone_a"]), float(row["masstone_b"])),
            (float(row["tint_L"]), float(row["tint_a"]), float(row["tint_b"])),
            float(row["transparency"]),
            float(row["strength"]),
            row["drying"],
            row["oil"],
            row["hazard"],
            float(row["density_g_ml"]),
            "oil",
            frozen(numbers[row["id"], "K"]),
            frozen(numbers[row["id"], "S"]),
        )
    return made


USUAL = tuple(KeptTube(key) for key in USUAL_TUBES)
"""The cupboard before the painter has said what is in it."""


def tubes_of(kept: Iterable[KeptTube]) -> tuple[Tube, ...]:
    """Return the tubes that may be used, each once and as strong as it has been learned to be.

    Unknown ones are left out, and own ones whose swatches no paint has: such a file stays as it is, and can be mended.
    """
    found: dict[str, Tube] = {}
    for one in kept:
        base = _made(one)
        if one.here and base is not None and base.id not in found:
            system = one.own.system if one.own is not None else one.system
            found[base.id] = _as_learned(base, one.taken, one.thrown, system)
    return tuple(found.values())


def _made(one: KeptTube) -> Tube | None:
    if one.own is None:
        return table().get(one.id)
    try:
        return tube_of(one.own)
    except InputError:
        return None


@lru_cache(maxsize=256)
def _as_learned(base: Tube, taken: float, thrown: float, system: str) -> Tube:
    return Tube(
        base.id, base.name, base.pigment, base.masstone, base.tint, base.transparency, base.strength * taken, base.drying,
        base.oil, base.hazard, base.density, system, frozen(base.k * taken), frozen(base.s * thrown),
    )  # fmt: skip


@lru_cache(maxsize=256)
def named_tubes(ids: Sequence[str]) -> tuple[Tube, ...]:
    """Return tubes of the table by their ids, each once.

    Raises
    ------
    InputError
        When one is not in the table.
    """
    found = {}
    for key in ids:
        tube = table().get(key)
        if tube is None:
            raise InputError(f"There is no tube “{key}”.", f"The table has {', '.join(table())}.")
        found[key] = tube
    return tuple(found.values())


def check_swatches(own: OwnTube) -> None:
    """Check that two swatches can be of one tube.

    Raises
    ------
    InputError
        When a colour is none, or the tint cannot come from the masstone and white.
    """
    for name, lab in (("masstone", own.masstone), ("tint", own.tint)):
        if not all(np.isfinite(v) for v in lab) or not 0 <= lab[0] <= 100 or max(abs(lab[1]), abs(lab[2])) > 128:
            raise InputError(
                f"The {name} of {own.name or 'the tube'} is no colour.",
                "Write L*, a*, b*, e.g. 42, 18, 25; L* is 0 to 100.",
            )
    if own.masstone[0] < own.tint[0] + 1 or own.masstone[0] > 90:
        return
    raise InputError(
        f"The tint of {own.name or 'the tube'} is darker than its masstone.",
        "White can only lighten: check that the swatches are not exchanged, and that both lay in the same light.",
    )


def _waves(count: int) -> F64:
    """Return (36, count) smooth humps over the bands: cubic B-splines."""
    middle = np.linspace(0, optics.BANDS - 1, count)
    x = np.abs(np.arange(optics.BANDS)[:, None] - middle) / ((optics.BANDS - 1) / (count - 1))
    return np.where(x < 1, 2 / 3 - x**2 + x**3 / 2, np.where(x < 2, (2 - np.minimum(x, 2)) ** 3 / 6, 0.0))


@lru_cache(maxsize=128)
def tube_of(own: OwnTube) -> Tube:
    """Return a tube from its two swatches.

    The table's most similar tube is bent, smoothly and as little as the swatches allow: a swatch says three numbers, a spectrum has 36,
    so that without a neighbour to start from the answer would be worse than the table.

    Raises
    ------
    InputError
        When the swatches cannot be of one tube.
    """
    from scipy.optimize import least_squares

    from foxpath.core.colour import difference

    check_swatches(own)
    masstone, tint = np.array(own.masstone), np.array(own.tint)
    near = min(
        table().values(),
        key=lambda t: (
            float(difference(np.array(t.masstone), masstone)) + 1.5 * float(difference(np.array(t.tint), tint))
        ),
    )
    white = table()[WHITE]
    taken, thrown = _waves(9), _waves(4)

    def numbers(p: F64) -> tuple[F64, F64]:
        return near.k * np.exp(taken @ p[:9] + p[13]), near.s * np.exp(thrown @ p[9:13])

    def misses(p: F64) -> F64:
        k, s = numbers(p)
        full = optics.lab_of(optics.seen(optics.endless(k / s))) - masstone
        let = (k + TINT_PARTS * white.k) / (s + TINT_PARTS * white.s)
        pale = optics.lab_of(optics.seen(optics.endless(let))) - tint
        held = [0.3 * p[:9], 0.8 * np.diff(p[:9], 2), 0.6 * p[9:13], 0.15 * p[13:]]
        return np.concatenate([2 * full, 2 * pale, *held])

    found = least_squares(misses, np.zeros(14), max_nfev=200)
    k, s = numbers(found.x)
    left = misses(found.x)
    if float(np.abs(left[:6]).max()) / 2 > 12:
        raise InputError(
            f"No paint looks like both swatches of {own.name or 'the tube'}.",
            "Check that the tint is one part with four of white, and that both lay in the same light.",
        )
    strength = near.strength * float(np.exp(found.x[13] + found.x[:9].mean()))
    return Tube(
        own.id, own.name, own.pigment, own.masstone, own.tint, own.transparency, strength, own.drying, near.oil,
        own.hazard, near.density, own.system, frozen(k), frozen(s),
    )  # fmt: skip
