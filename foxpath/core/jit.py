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

Function = TypeVar("Function", bound=Callable[..., Any])


def _cache_folder() -> None:
    """Give Numba a folder it can write to when the package itself lies in a read-only place."""
    here = Path(__file__).parent
    if "NUMBA_CACHE_DIR" not in os.environ and not os.access(here, os.W_OK):
        base = Path(os.environ.get("XDG_CACHE_HOME", Path.home() / ".cache"))
        os.environ["NUMBA_CACHE_DIR"] = str(base / "foxpath" / "kernels")


_cache_folder()

import numba  # noqa: E402  (the cache folder must be known first)


def kernel(function: Function) -> Function:
    """Compile a function over arrays and numbers; cached, lock-free, with relaxed float order."""
    compiled = numba.njit(cache=True, nogil=True, fastmath=True, error_model="numpy")(function)
    return cast("Function", compiled)
