"""Memory given back to the system when long work is done."""

import ctypes


def give_back() -> bool:
    """Return what the C library holds on to after work in several threads; whether there was anything to return.

    Every thread takes large arrays from a pool of its own, and the holes between what is kept stay with the process: a third of a
    gigabyte after an hour of combing. Other C libraries have no such call, and nothing is done.
    """
    try:
        return bool(ctypes.CDLL(None).malloc_trim(0))
    except (OSError, AttributeError):
        return False
