"""Passes a painter adds to a school's: a pass laid once more, and veils."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.passes.roles import VEIL, Role
from foxpath.core.passes.veils import MANNERS, PLACES, Veil

MOST_OWN = 24
"""Passes a painting may have beyond its school's."""
LAST = ("highlights", "whiskers")
"""Acts that a new veil is laid before: what stands on top stays on top."""
RANGES: dict[str, tuple[float, float]] = {
    "strength": (0.01, 1.0),
    "coats": (1, 6),
    "strip_mm": (1.0, 200.0),
    "soft_mm": (0.0, 60.0),
}
"""Least and most of a veil's numbers."""


@dataclass(frozen=True, slots=True)
class OwnPass:
    """A pass of the painter's own.

    Attributes
    ----------
    id : str
        Also the key of its role.
    of : str
        Key of the pass it lays once more; empty for a veil.
    name : str
        Empty for the usual one.
    zone : str
        Id of a veil's part; empty for the whole canvas.
    veil : Veil or None
    """

    id: str
    of: str = ""
    name: str = ""
    zone: str = ""
    veil: Veil | None = field(default=None, metadata={"pixels": True})


def checked_veil(veil: Veil) -> Veil:
    """Return a veil with its numbers in their ranges.

    Raises
    ------
    InputError
        For a manner or a place there is none of, a colour that is no CIELAB, or a patch without an outline.
    """
    if veil.manner not in MANNERS:
        raise InputError(f"A veil cannot be “{veil.manner}”.", f"Say {' or '.join(MANNERS)}.")
    if veil.place not in PLACES:
        raise InputError(f"There is no place “{veil.place}” for a veil.", f"Say {', '.join(PLACES)}.")
    if veil.place == "patch" and len(veil.patch) < 3:
        raise InputError("The veil's patch has no outline.", "Draw round it on the picture.")
    values: dict[str, Any] = {}
    for name, (low, high) in RANGES.items():
        value = float(getattr(veil, name))
        if not np.isfinite(value):
            raise InputError(f"The veil's {name} is no number.", "Give one.")
        values[name] = min(max(value, low), high)
    values["coats"] = round(values["coats"])
    lab = veil.lab
    if lab is not None:
        light, red, yellow = (float(v) for v in lab)
        if not (np.isfinite([light, red, yellow]).all() and 0 <= light <= 100 and max(abs(red), abs(yellow)) <= 128):
            raise InputError("The veil's colour is none.", "Give L* 0 to 100, a* and b* -128 to 128.")
        lab = (light, red, yellow)
    patch = tuple((round(float(x), 2), round(float(y), 2)) for x, y in veil.patch)
    return replace(veil, lab=lab, patch=patch, **values)


def sound_own(found: Sequence[OwnPass]) -> tuple[OwnPass, ...]:
    """Return the own passes of a file without those that cannot be."""
    made: dict[str, OwnPass] = {}
    for one in found[:MOST_OWN]:
        try:
            good = one if one.veil is None else replace(one, veil=checked_veil(one.veil))
        except InputError:
            continue
        if good.id and (good.of or good.veil is not None):
            made.setdefault(good.id, good)
    return tuple(made.values())


def with_own(roles: Iterable[Role], own: Sequence[OwnPass]) -> tuple[Role, ...]:
    """Return a school's passes with the painter's own among them.

    A pass laid once more follows the one it repeats (or, in another school, the last that acts as it did); without either it waits
    for a school that has it. A veil lies under the last lights. Both are as fat as what they lie over.

    Parameters
    ----------
    roles : iterable of Role
        In the order they are painted.
    own : sequence of OwnPass
        In the order they were added.
    """
    made = list(roles)
    taken = {role.key for role in made}
    for one in own:
        if one.id in taken:
            continue
        taken.add(one.id)
        if one.veil is not None:
            at = _under_the_lights(made)
            made.insert(at, _veil_role(one, one.veil, made[:at]))
            continue
        base = next((k for k, role in enumerate(made) if role.key == one.of), None)
        if base is None:
            base = next((k for k in reversed(range(len(made))) if made[k].act == one.of.split("/")[-1]), None)
        if base is None:
            continue
        again = made[base]
        made.insert(
            base + 1, replace(again, key=one.id, acts=again.act, name=one.name or f"{again.name} again", reason=AGAIN)
        )
    return tuple(made)


def _under_the_lights(roles: Sequence[Role]) -> int:
    """Return before which pass a new veil lies: the last lights, or what stands at the end without them."""
    at = len(roles)
    while at and roles[at - 1].act in LAST:
        at -= 1
    return at


def _veil_role(one: OwnPass, veil: Veil, beneath: Sequence[Role]) -> Role:
    """Return a veil as a pass: of the kind of paint it lies over, and as fat."""
    paint = beneath[-1].paint if beneath else "oil"
    least = VEIL.fat if paint == "oil" else 0.0
    return replace(
        VEIL,
        key=one.id,
        acts=VEIL.key,
        name=one.name or ("Glaze" if veil.manner == "glaze" else "Scumble"),
        handling=veil.manner,
        paint=paint,
        fat=max((role.fat for role in beneath), default=least),
        coverage=min(veil.coats * VEIL.coverage, 8.0),
        veil=veil,
        only=one.zone,
    )


AGAIN = "The same once more: what it lays can be given its own numbers."
