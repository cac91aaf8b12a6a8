"""A clock that a change of the computer's clock does not move while the program runs, and that sleep does not stop."""

import os
import time
from datetime import datetime, timedelta

from foxpath.core.clock import now as wall


class Clock:
    """Wall-clock time from a moment on, counted by the machine's own running time."""

    def __init__(self) -> None:
        self._wall, self._ran = wall_exact(), _running()

    def now(self) -> datetime:
        """Return the local moment, whole seconds."""
        if os.environ.get("FOXPATH_NOW"):
            return wall_exact()
        return (self._wall + timedelta(seconds=_running() - self._ran)).replace(microsecond=0)


def wall_exact() -> datetime:
    """Return the local time by the computer's clock, whole seconds."""
    held = os.environ.get("FOXPATH_NOW", "")
    if held:
        return datetime.fromisoformat(held) if len(held) > 16 else wall()
    return datetime.now().astimezone().replace(tzinfo=None, microsecond=0)


def _running() -> float:
    """Return seconds since the machine was started, its sleep counted."""
    which = getattr(time, "CLOCK_BOOTTIME", None)
    return time.clock_gettime(which) if which is not None else time.monotonic()
