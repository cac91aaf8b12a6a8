"""Numba, typed and without the global lock.

Numba's decorator is untyped; this one keeps the signature of what it compiles. Every kernel releases
the interpreter lock and is cached on disk, so that only the first run on a machine pays for compiling.
Numba takes a second to import: only the modules named `_kernel*.py` import this one, and they are
imported by the functions that need them.
"""

import os
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar, cast

from foxpath.core.folders import temporary, users, writable

Function = TypeVar("Function", bound=Callable[..., Any])


def _cache_folder() -> None:
    """Give Numba a folder it can write to when the package itself lies in a read-only place."""
    if "NUMBA_CACHE_DIR" in os.environ or os.access(Path(__file__).parent, os.W_OK):
        return
    own = users("XDG_CACHE_HOME", ".cache") / "kernels"
    os.environ["NUMBA_CACHE_DIR"] = str(own if writable(own) else temporary() / "kernels")


_cache_folder()

import numba  # noqa: E402  (the cache folder must be known first)


def kernel(function: Function) -> Function:
    """Compile a function over arrays and numbers; cached, lock-free, with relaxed float order."""
    compiled = numba.njit(cache=True, nogil=True, fastmath=True, error_model="numpy")(function)
    return cast("Function", compiled)
