"""Open a demo by its name."""

import json
from pathlib import Path

from foxpath.core.errors import InputError
from foxpath.document.convert import project_from_fields
from foxpath.document.model import Project

DEMOS = ("fox", "jay", "cavies")
_DATA = Path(__file__).with_name("data")


def is_demo(text: str) -> bool:
    """Tell whether a command-line argument names a demo, e.g. ``demo:fox``."""
    return text.startswith("demo:")


def demo_project(name: str) -> Project:
    """Open a demo's project.

    Raises
    ------
    InputError
        When there is no demo of that name.
    """
    if name not in DEMOS:
        raise InputError(f"There is no demo '{name}'.", f"Choose one of: {', '.join(DEMOS)}.")
    fields = json.loads((_DATA / f"{name}.json").read_text("utf-8"))
    return project_from_fields(fields, lambda _: (_DATA / f"{name}.jpg").read_bytes(), f"demo:{name}")
