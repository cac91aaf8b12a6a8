"""From wet to dry: by how much paint changes its colour as it dries, typically and as the painter's own tubes were seen to do.

Acrylic turns darker, most in middle tones, as its binder clears. Darks in oil sink in and look a little lighter. Both are typical, and
differ from tube to tube: each dab that is looked at wet, and again when it has dried, teaches the tubes it holds.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.mixes.tubes import KeptTube, Triple

CLEARS, CLEARS_MIDDLE = 1.0, 2.5
"""L* by which acrylic turns darker: everywhere, and so much more at L* 50."""
SINKS, SINKS_BELOW = 1.5, 30.0
"""L* by which black in oil turns lighter where its oil sinks in, and the L* from which on nothing does."""
ACRYLIC = ("acrylic", "slow acrylic")
APART, NOISE = 1.5, 0.7
"""How much a tube differs from what is typical, and how far two looks at one dab are uncertain: CIELAB."""
SEEN = 0.5
"""A shift below this is not worth a word."""
_ROUNDS = 6


@dataclass(frozen=True, slots=True)
class Dab:
    """A dab that was looked at wet, and again dry.

    Attributes
    ----------
    parts : tuple of (tube id, parts)
    wet, dry : (L*, a*, b*)
    """

    parts: tuple[tuple[str, float], ...]
    wet: Triple
    dry: Triple


def typical(system: str, lightness: float) -> float:
    """Return by how much L* rises as paint of a system dries that has this L* wet; negative where it turns darker."""
    part = min(max(lightness, 0.0), 100.0) / 100
    if system in ACRYLIC:
        return -(CLEARS + CLEARS_MIDDLE * 4 * part * (1 - part))
    return SINKS * max(0.0, 1 - lightness / SINKS_BELOW)


def shift(tubes: Sequence[KeptTube], parts: Sequence[tuple[str, float]], wet: Triple) -> F64:
    """Return dry minus wet of a pile, (3,) CIELAB: the typical shift, and what is known of its tubes, by their parts.

    Parameters
    ----------
    tubes : sequence of KeptTube
    parts : sequence of (tube id, parts)
    wet : (L*, a*, b*)
    """
    known = {one.id: one for one in tubes}
    whole = sum(n for _, n in parts)
    made = np.zeros(3)
    if whole <= 0:
        return made
    for key, n in parts:
        one = known.get(key)
        made += n / whole * _usual(one, wet)
        if one is not None:
            made += n / whole * np.array(one.dries)
    return made


def system_of(one: KeptTube) -> str:
    """Return the paint system of a tube in the cupboard."""
    return one.system if one.own is None else one.own.system


def _usual(one: KeptTube | None, wet: Triple) -> F64:
    return np.array([typical("oil" if one is None else system_of(one), wet[0]), 0.0, 0.0])


def when_dry(tubes: Sequence[KeptTube], parts: Sequence[tuple[str, float]], wet: Triple) -> Triple:
    """Return what a pile that looks so wet looks like dry."""
    return _triple(np.array(wet) + shift(tubes, parts, wet))


def wet_for(tubes: Sequence[KeptTube], parts: Sequence[tuple[str, float]], dry: Triple) -> Triple:
    """Return what a pile must look like wet so that it dries to a colour; the inverse of `when_dry`."""
    wet = np.array(dry)
    for _ in range(_ROUNDS):
        wet = np.array(dry) - shift(tubes, parts, _triple(wet))
    return _triple(wet)


def learn_dried(kept: Sequence[KeptTube], dabs: Sequence[Dab]) -> tuple[KeptTube, ...]:
    """Return the tubes as dabs say they dry.

    What a dab shows beyond the typical shift is its tubes' own, by their parts. Each tube's is likely small (`APART`), the less is
    moved the more dabs it rests on already (ridge regression; Hoerl and Kennard 1970, doi:10.1080/00401706.1970.10488634).

    Parameters
    ----------
    kept : sequence of KeptTube
    dabs : sequence of Dab
        Those that hold a tube which is not in `kept` are passed over.
    """
    place = {one.id: k for k, one in enumerate(kept)}
    usable = [dab for dab in dabs if dab.parts and all(key in place for key, _ in dab.parts)]
    if not usable:
        return tuple(kept)
    parts, beyond = np.zeros((len(usable), len(kept))), np.zeros((len(usable), 3))
    for row, dab in enumerate(usable):
        for key, n in dab.parts:
            parts[row, place[key]] += n
        parts[row] /= parts[row].sum()
        beyond[row] = np.array(dab.dry) - np.array(dab.wet) - shift(kept, dab.parts, dab.wet)
    stiff = np.array([(1 + one.dabs) / APART**2 for one in kept])
    normal = parts.T @ parts / NOISE**2 + np.diag(stiff)
    moved = np.linalg.solve(normal, parts.T @ beyond / NOISE**2)
    count = (parts > 0).sum(axis=0)
    return tuple(
        replace(one, dries=_triple(np.array(one.dries) + moved[k]), dabs=one.dabs + int(count[k])) if count[k] else one
        for k, one in enumerate(kept)
    )


def drying_words(tubes: Sequence[KeptTube], parts: Sequence[tuple[str, float]], dry: Triple) -> str:
    """Say how a pile must look wet to dry to a colour, and what that rests on; nothing where it stays as it is."""
    away = np.array(dry) - np.array(wet_for(tubes, parts, dry))
    if float(np.hypot(away[0], np.hypot(*away[1:]))) < SEEN:
        return ""
    known: Mapping[str, KeptTube] = {one.id: one for one in tubes}
    dabs = sum(known[key].dabs for key, _ in parts if key in known)
    said = [
        f"{abs(v):.0f} {unit} {up if v > 0 else down}" if abs(v) >= 1 else f"a little {up if v > 0 else down}"
        for v, unit, up, down in (
            (away[0], "L*", "lighter", "darker"),
            (away[1], "dE", "redder", "greener"),
            (away[2], "dE", "yellower", "bluer"),
        )
        if abs(v) >= SEEN
    ]
    rests = f"seen on {dabs} dabs of its tubes" if dabs > 1 else "seen on one dab" if dabs else "typical"
    return f"It dries {', '.join(said)} ({rests})."


def _triple(lab: F64) -> Triple:
    return float(lab[0]), float(lab[1]), float(lab[2])
