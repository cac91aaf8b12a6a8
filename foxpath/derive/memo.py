"""Remember results by their inputs, oldest out first, from any thread."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, TypeVar, cast

import numpy as np

T = TypeVar("T")


def weight(value: object) -> int:
    """Return roughly how many bytes a result holds: its arrays, also inside tuples and dataclasses."""
    if isinstance(value, np.ndarray):
        return int(value.nbytes)
    if isinstance(value, (tuple, list)):
        return sum(weight(one) for one in value) + 64
    slots = getattr(type(value), "__slots__", None)
    if slots:
        return sum(weight(getattr(value, name, None)) for name in slots) + 64
    return 64


class Memo:
    """A store of results that forgets the least used beyond a number of bytes.

    Two threads that ask for the same result at once compute it once: the second waits.
    """

    def __init__(self, most_bytes: int = 300_000_000) -> None:
        self._most = most_bytes
        self._bytes = 0
        self._store: OrderedDict[Hashable, tuple[Any, int]] = OrderedDict()
        self._busy: dict[Hashable, threading.Event] = {}
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """Return the result for a key, making it when it is not remembered.

        What `make` raises goes to the caller, and nothing is remembered then.
        """
        while True:
            with self._lock:
                if key in self._store:
                    self._store.move_to_end(key)
                    return cast("T", self._store[key][0])
                other = self._busy.get(key)
                if other is None:
                    mine = self._busy[key] = threading.Event()
                    break
            # Somebody else is at it; when they fail or are cancelled, it is our turn.
            other.wait()
        try:
            value = make()
            size = weight(value)
            with self._lock:
                self._store[key] = (value, size)
                self._bytes += size
                while self._bytes > self._most and len(self._store) > 1:
                    _, (_, gone) = self._store.popitem(last=False)
                    self._bytes -= gone
            return value
        finally:
            with self._lock:
                del self._busy[key]
            mine.set()

    def peek(self, key: Hashable) -> Any | None:
        """Return a remembered result without making it, or None."""
        with self._lock:
            found = self._store.get(key)
            return found[0] if found else None

    def clear(self) -> None:
        """Forget everything."""
        with self._lock:
            self._store.clear()
            self._bytes = 0
