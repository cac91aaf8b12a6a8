"""Remember results by their inputs, from any thread; what is soonest made anew goes first."""

import heapq
import threading
import time
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Any, TypeVar, cast

import numpy as np

T = TypeVar("T")


def weight(value: object) -> int:
    """Return roughly how many bytes a result holds: its arrays, also inside tuples, dictionaries and dataclasses."""
    if isinstance(value, np.ndarray):
        return int(value.nbytes)
    if isinstance(value, (tuple, list)):
        return sum(weight(one) for one in value) + 64
    if isinstance(value, dict):
        return sum(weight(one) for one in value.values()) + 64
    total = 64
    for name in getattr(type(value), "__slots__", ()):
        one = getattr(value, name, None)
        # Marks hold little but arrays, and there are thousands of marks.
        total += one.nbytes if isinstance(one, np.ndarray) else weight(one)
    return total


DEAREST = 1e-6
"""Seconds a byte: what took longer than this ages no slower, or small results of long ago would stay for ever."""


@dataclass(slots=True)
class _Kept:
    """A result, its bytes, what a byte of it took to make, and when it goes: at which level of the floor, among equals in which turn."""

    value: Any
    size: int
    worth: float
    due: tuple[float, int]


class Memo:
    """A store of results that forgets, beyond a number of bytes, what was not used for long and is soon made anew.

    One rehearsal's canvases are larger than all readings they were made from, and are painted in a moment: by age alone
    they would drive the readings out. Each result goes by its time to make over its size, above a floor that rises to
    whatever was forgotten last: so those that were not asked for sink.

    Two threads that ask for the same result at once compute it once: the second waits.

    Parameters
    ----------
    most_bytes : int
    clock : callable
        Tells the seconds it takes to make a result.

    References
    ----------
    Cao, P. and Irani, S. (1997). Cost-aware WWW proxy caching algorithms. USITS: GreedyDual-Size.
    """

    def __init__(self, most_bytes: int = 300_000_000, clock: Callable[[], float] = time.perf_counter) -> None:
        self._most, self._clock = most_bytes, clock
        self._bytes, self._floor, self._turn = 0, 0.0, 0
        self._store: dict[Hashable, _Kept] = {}
        # Each once, the soonest due first; where it was asked for since, it is put right when its turn comes.
        self._queue: list[tuple[tuple[float, int], Hashable]] = []
        self._busy: dict[Hashable, threading.Event] = {}
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """Return the result for a key, making it when it is not remembered.

        What `make` raises goes to the caller, and nothing is remembered then.
        """
        while True:
            with self._lock:
                found = self._store.get(key)
                if found is not None:
                    found.due = self._due(found.worth)
                    return cast("T", found.value)
                other = self._busy.get(key)
                if other is None:
                    mine = self._busy[key] = threading.Event()
                    break
            # Somebody else is at it; when they fail or are cancelled, it is our turn.
            other.wait()
        try:
            begin = self._clock()
            value = make()
            size, taken = weight(value), self._clock() - begin
            with self._lock:
                worth = min(max(taken, 0.0) / size, DEAREST)
                kept = self._store[key] = _Kept(value, size, worth, self._due(worth))
                self._bytes += size
                heapq.heappush(self._queue, (kept.due, key))
                while self._bytes > self._most and len(self._store) > 1:
                    self._forget_one()
            return value
        finally:
            with self._lock:
                del self._busy[key]
            mine.set()

    def _due(self, worth: float) -> tuple[float, int]:
        self._turn += 1
        return self._floor + worth, self._turn

    def _forget_one(self) -> None:
        while True:
            due, key = heapq.heappop(self._queue)
            kept = self._store[key]
            if kept.due == due:
                break
            # It was asked for since.
            heapq.heappush(self._queue, (kept.due, key))
        self._floor = due[0]
        self._bytes -= kept.size
        del self._store[key]

    def peek(self, key: Hashable) -> Any | None:
        """Return a remembered result without making it, or None."""
        with self._lock:
            found = self._store.get(key)
            return found.value if found else None

    def clear(self) -> None:
        """Forget everything."""
        with self._lock:
            self._store.clear()
            self._queue.clear()
            self._bytes = 0
