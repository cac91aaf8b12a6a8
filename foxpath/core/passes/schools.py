"""Schools of painting: recipes of passes as open data, each with one line of reason; the painter may bring one of their own."""

import json
from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from functools import cache
from pathlib import Path
from typing import Any

from foxpath.core.errors import InputError
from foxpath.core.passes.roles import ACTS, HANDLINGS, STRONGEST, WARMEST, WETNESS, Role

USUAL = "layered-oil"
FORMAT = "foxpath-schools"
MOST_PASSES = 24
_RANGES: dict[str, tuple[float, float]] = {
    "ceiling": (0, 100), "coverage": (0, 8), "length_share": (0.1, 4), "spread_share": (0, 4), "width_share": (0.1, 8), "opacity": (0.05, 1),
    "fat": (0, 1), "belongs": (0.001, 1), "thickness": (0, 1), "tint": (0, 2), "chroma": (0, STRONGEST), "lean": (-20, 20), "lift": (0, 2),
    "coolest": (-WARMEST, WARMEST), "warmest": (-WARMEST, WARMEST),
}  # fmt: skip
_CHOICES: dict[str, tuple[str, ...]] = {
    "beneath": WETNESS, "paint": ("oil", "acrylic"), "handling": HANDLINGS, "black": ("", "mixed", "tube"),
}  # fmt: skip
_OWN = [f.name for f in fields(Role) if f.name not in {"schools", "veil", "only"}]
"""What a file says of a pass; whose zones it paints, and veils, are the painting's affair."""


@dataclass(frozen=True, slots=True)
class School:
    """A recipe.

    Attributes
    ----------
    key, name, reason : str
    roles : tuple of Role
        In the order they are painted; keys differ, several may act as one.
    """

    key: str
    name: str
    reason: str
    roles: tuple[Role, ...]

    def by_key(self) -> dict[str, Role]:
        """Return its passes by their key, in their order."""
        return {role.key: role for role in self.roles}

    def waits(self) -> int:
        """Return before how many passes paint must have dried (acrylic is dry by itself)."""
        return drying_waits(self.roles)


def together(main: Sequence[Role], others: Sequence[School]) -> tuple[Role, ...]:
    """Return the passes of a painting in which some zones follow schools of their own.

    A pass that another school has just so is shared. Its other passes paint its zones only; each is put where the
    painting's own pass of the same act stands, or behind its own last one. The ground is the painting's.

    Parameters
    ----------
    main : sequence of Role
        The painting's school.
    others : sequence of School
        Those that some zone follows.
    """
    if not others:
        return tuple(main)
    made = [role if role.act == "ground" else replace(role, schools=("",)) for role in main]
    for other in others:
        at, school = 0, other.key
        for role in other.roles:
            if role.act == "ground":
                continue
            same = next((k for k, one in enumerate(made) if replace(one, schools=()) == role), -1)
            if same >= at:
                made[same] = replace(made[same], schools=(*made[same].schools, school))
                at = same + 1
                continue
            acting = [k + 1 for k, one in enumerate(made) if one.act == role.act and school not in one.schools]
            at = max(at, max(acting, default=at))
            told = f"{other.name}: {role.name.lower()}"
            made.insert(at, replace(role, key=f"{school}/{role.key}", acts=role.act, name=told, schools=(school,)))
            at += 1
    return tuple(made)


def drying_waits(roles: Sequence[Role]) -> int:
    """Return how often oil must have dried before the next pass."""
    pairs = zip(roles[:-1], roles[1:], strict=True)
    return sum(upper.beneath == "touch-dry" and lower.paint == "oil" for lower, upper in pairs)


@cache
def schools() -> dict[str, School]:
    """Return the schools that ship, by their key."""
    record = json.loads(Path(__file__).with_name("schools.json").read_text("utf-8"))
    return {one.key: one for one in schools_from_record(record, "schools.json")}


def schools_from_record(record: Any, name: str) -> list[School]:
    """Read schools from the fields of a file.

    Every pass names its `key` and may name what it `acts` as (a pass of layered oil, from which it takes what it does not
    say itself).

    Raises
    ------
    InputError
        With one sentence on what is wrong, for anything that is no recipe.
    """
    if not isinstance(record, dict) or record.get("format") != FORMAT or not isinstance(record.get("schools"), list):
        raise InputError(f"{name} holds no schools.", 'It needs "format": "foxpath-schools" and a list of schools.')
    return [school_from_fields(one, name) for one in record["schools"]]


def school_from_fields(record: Any, name: str) -> School:
    """Read one school (see `schools_from_record`)."""
    if not isinstance(record, dict) or not all(isinstance(record.get(k), str) and record[k] for k in ("key", "name")):
        raise InputError(f"{name}: a school needs a key and a name.", "Write both as text.")
    given = record.get("passes")
    if not isinstance(given, list) or not 1 <= len(given) <= MOST_PASSES:
        raise InputError(f"{name}: {record['name']} needs 1 to {MOST_PASSES} passes.", "List them in painting order.")
    roles = tuple(_role(one, f"{name}: {record['name']}") for one in given)
    if len({role.key for role in roles}) != len(roles):
        raise InputError(f"{name}: two passes of {record['name']} share a key.", "Give each its own.")
    return School(record["key"][:60], record["name"][:60], str(record.get("reason", ""))[:300], roles)


def _role(record: Any, where: str) -> Role:
    key = record.get("key") if isinstance(record, dict) else None
    if not isinstance(key, str) or not key or len(key) > 40:
        raise InputError(f"{where}: a pass needs a key.", "Write it as text.")
    acts = record.get("acts", key)
    if not isinstance(acts, str) or acts not in ACTS:
        raise InputError(
            f"{where}: there is no pass {json.dumps(acts)[:60]} to act as.", f"Passes are {', '.join(ACTS)}."
        )
    changes: dict[str, Any] = {}
    for field, value in record.items():
        if field in {"key", "acts"} or field not in _OWN:
            continue
        changes[field] = _checked(field, value, f"{where}, {key}")
    return replace(ACTS[acts], key=key, acts=acts, **changes)


def _checked(field: str, value: Any, where: str) -> Any:
    if field in {"name", "reason"}:
        if isinstance(value, str) and value.strip():
            return value.strip()[:120]
    elif field == "band":
        if (
            isinstance(value, list)
            and len(value) == 2
            and all(_is_number(v) for v in value)
            and 0 <= value[0] < value[1] <= 100
        ):
            return float(value[0]), float(value[1])
    elif field in _CHOICES:
        if isinstance(value, str) and value in _CHOICES[field]:
            return value
    elif field == "block_in":
        if isinstance(value, bool):
            return value
    elif field in _RANGES and _is_number(value):
        low, high = _RANGES[field]
        if low <= value <= high:
            return float(value)
    raise InputError(f"{where}: '{field}' cannot be {json.dumps(value)[:60]}.", _hint(field))


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def _hint(field: str) -> str:
    if field in _RANGES:
        low, high = _RANGES[field]
        return f"Give a number from {low:g} to {high:g}."
    if field in _CHOICES:
        return f"Give one of {', '.join(choice or 'an empty text' for choice in _CHOICES[field])}."
    return "Give two L* from 0 to 100, the darker first." if field == "band" else "Write it as text."


def school_to_fields(school: School) -> dict[str, Any]:
    """Return a school's fields: each pass with all its numbers, ready to be edited."""
    return {
        "key": school.key,
        "name": school.name,
        "reason": school.reason,
        "passes": [{name: _plain(getattr(role, name)) for name in _OWN} for role in school.roles],
    }


def _plain(value: Any) -> Any:
    """Return a value as a file has it: numbers as they read back, so that saving twice gives the same bytes."""
    if isinstance(value, tuple):
        return [float(v) for v in value]
    return float(value) if _is_number(value) else value


def schools_to_record(many: list[School]) -> dict[str, Any]:
    """Return the fields of a file of schools."""
    return {"format": FORMAT, "version": 1, "schools": [school_to_fields(one) for one in many]}
