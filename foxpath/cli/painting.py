"""A project bent for one command, without changing it: another school, sides taken."""

import argparse
from collections.abc import Sequence
from typing import Any

from foxpath.cli.reading import read_json
from foxpath.core.errors import InputError


def add_settings(parser: argparse.ArgumentParser) -> None:
    """Let a command take sides where painters disagree."""
    parser.add_argument(
        "--set", action="append", default=[], metavar="SETTING=SIDE", dest="ways",
        help="take a side where painters disagree, e.g. first=eyes, range=middle, finish=loose; may be repeated",
    )  # fmt: skip


def following(project: Any, school: str | None) -> Any:
    """Return a project that follows a school by key, or the first recipe of a file."""
    from foxpath.core.passes.schools import schools_from_record
    from foxpath.document import edits

    if school is None:
        return project
    if not school.lower().endswith(".json"):
        return edits.set_school(project, school)
    found = schools_from_record(read_json(school), school)
    if not found:
        raise InputError(f"{school} holds no school.", "Save a recipe from the Passes stop to see the form.")
    return edits.take_school(project, found[0])


def bent(project: Any, ways: Sequence[str]) -> Any:
    """Return a project with sides taken as ``setting=side``."""
    from foxpath.document import edits

    for text in ways:
        key, sign, side = text.partition("=")
        if not sign:
            raise InputError(f"--set {text} takes no side.", "Write it as setting=side, e.g. first=eyes.")
        project = edits.set_way(project, key, side)
    return project
