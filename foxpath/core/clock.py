"""The time of day, read in one place: a test or a made-up picture holds it by ``FOXPATH_NOW=2026-03-02T18:00``."""

import os
from datetime import datetime


def now() -> datetime:
    """Return the local time without a zone, whole minutes."""
    held = os.environ.get("FOXPATH_NOW", "")
    if held:
        return datetime.fromisoformat(held).replace(second=0, microsecond=0, tzinfo=None)
    return datetime.now().astimezone().replace(second=0, microsecond=0, tzinfo=None)
