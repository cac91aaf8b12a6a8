"""Fingerprints: short names for contents, by which results are remembered."""

import hashlib
import struct
from collections.abc import Callable, Hashable
from dataclasses import fields, is_dataclass
from enum import Enum
from functools import cache, lru_cache
from typing import Any

import numpy as np

_EXACT = 2**53
"""Whole numbers up to this are floats too."""

_NUMBER, _PLACE = struct.Struct("<cd"), struct.Struct("<3scdcd")


@cache
def _compared(cls: type) -> tuple[str, ...]:
    """Return the names of a dataclass's fields that make two of it equal. Raises `TypeError` where none do."""
    if "__eq__" not in vars(cls) and not any("__eq__" in vars(base) for base in cls.__mro__[1:-1]):
        raise TypeError(f"{cls.__name__} compares by identity, and has no content to go by: name what matters of it")
    return tuple(f.name for f in fields(cls) if f.compare)


def _tell(value: Any, say: Callable[[bytes], None]) -> None:
    """Say a value's kind, size and content, so that no two different values say the same."""
    kind = type(value)
    # The commonest first: keys are made of little else.
    if kind is bytes:
        say(b"b%d:" % len(value))
        say(value)
    elif (kind is tuple or kind is list) and len(value) == 2 and type(value[0]) is type(value[1]) is float:
        # A place, as outlines have thousands: what the lines below would say, at once.
        say(_PLACE.pack(b"(2:", b"d", value[0] or 0.0, b"d", value[1] or 0.0))
    elif kind is tuple or kind is list:
        say(b"(%d:" % len(value))
        for one in value:
            _tell(one, say)
    elif kind is float:
        # Zero has one name, whatever its sign: as it compares.
        say(_NUMBER.pack(b"d", value or 0.0))
    elif kind is str:
        told = value.encode("utf-8", "surrogatepass")
        say(b"s%d:" % len(told) + told)
    elif value is None:
        say(b"n")
    elif kind is bool:
        say(b"t" if value else b"f")
    elif kind is int:
        # A whole number is the same whether it is kept with a point or without: as it compares.
        if -_EXACT <= value <= _EXACT:
            _tell(float(value), say)
        else:
            say(b"i%d;" % value)
    else:
        _tell_rarer(value, say)


def _tell_rarer(value: Any, say: Callable[[bytes], None]) -> None:
    if isinstance(value, Enum):
        say(b"e")
        _tell((type(value).__qualname__, value.name), say)
    elif isinstance(value, np.ndarray):
        if value.dtype.hasobject:
            raise TypeError("an array of objects has no content to go by")
        say(f"a{value.dtype.str}{value.shape}:".encode())
        say(np.ascontiguousarray(value).tobytes())
    elif isinstance(value, np.generic):
        _tell(value.item(), say)
    elif isinstance(value, dict):
        say(b"{%d:" % len(value))
        # Two dictionaries are equal in whatever order they were filled.
        for one in sorted(fingerprint(pair) for pair in value.items()):
            say(one)
    elif isinstance(value, (set, frozenset)):
        say(b"<%d:" % len(value))
        for one in sorted(fingerprint(member) for member in value):
            say(one)
    elif is_dataclass(value) and not isinstance(value, type):
        names = _compared(type(value))
        say(f"c{type(value).__qualname__}/{len(names)}:".encode())
        for name in names:
            _tell(getattr(value, name), say)
    elif isinstance(value, tuple):
        # A named one goes by what it holds, as it compares.
        _tell(tuple(value), say)
    else:
        raise TypeError(f"{type(value).__name__} has no content to go by: name what matters of it")


def fingerprint(*content: object) -> bytes:
    """Return a short name for some content: the same in every process, and another for other content.

    Unlike `hash`, it tells -1 from -2; unlike `id`, it outlives what it names.

    Parameters
    ----------
    *content : object
        Numbers, texts, bytes, None, members of an enumeration, arrays, dataclasses that compare by their fields, and tuples, lists,
        sets and dictionaries of them. Fields that do not make a dataclass equal are left out.

    Returns
    -------
    bytes
        16 of them.

    Raises
    ------
    TypeError
        For anything that has no content to go by.

    References
    ----------
    BLAKE2, RFC 7693.
    """
    told = hashlib.blake2b(digest_size=16)
    _tell(content, told.update)
    return told.digest()


@lru_cache(maxsize=1024)
def told(value: Hashable) -> bytes:
    """Return the fingerprint of a small value that keys name again and again, as grids and coats are: worked out once."""
    return fingerprint(value)
