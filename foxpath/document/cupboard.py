"""The painter's cupboard of tubes, kept once for all paintings, and files to open other people's from.

JSON: ``{"format": "foxpath-cupboard", "version": 1, "tubes": [...]}``, each tube as in `project.json`: with what was learned of it.
"""

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from foxpath.core.errors import AppError, InputError
from foxpath.core.mixes.tubes import USUAL, KeptTube, check_swatches, table
from foxpath.document import shared
from foxpath.document.convert import from_fields, to_fields
from foxpath.document.model import Project

FORMAT, VERSION = "foxpath-cupboard", 1
MOST = 80


def place() -> Path:
    """Return the kept cupboard's file (it need not be there)."""
    return shared.folder() / "cupboard.json"


def own_cupboard() -> tuple[KeptTube, ...]:
    """Return the cupboard that is kept for every painting, or the usual one. Raises `AppError` when its file is damaged."""
    return read_cupboard(place()) if place().exists() else USUAL


def with_own_cupboard(project: Project) -> Project:
    """Return a new painting that is mixed from the kept cupboard; from the usual one where the file is damaged."""
    try:
        return replace(project, mixes=replace(project.mixes, tubes=own_cupboard()))
    except AppError:
        return project


def keep_cupboard(tubes: Sequence[KeptTube]) -> None:
    """Keep a cupboard for every painting to come. Raises `AppError` when it cannot be written."""
    write_cupboard(place(), tubes)


def write_cupboard(path: Path, tubes: Sequence[KeptTube]) -> None:
    """Write a cupboard to a file that can be shared. Raises `AppError` when it cannot be written."""
    shared.write_rows(path, FORMAT, VERSION, "tubes", [to_fields(one) for one in tubes])


def read_cupboard(path: Path) -> tuple[KeptTube, ...]:
    """Read a file of tubes, 80 at most, each once.

    Raises
    ------
    AppError
        When it cannot be read, is none, is empty, names a tube that is not known, has impossible swatches, or is of a later version.
    """
    rows = shared.read_rows(path, FORMAT, VERSION, "tubes", MOST, "tube")
    found = sound_tubes(path.name, rows)
    if not found:
        raise AppError(f"{path.name} holds no tube.", "Choose another file.")
    return found


def sound_tubes(name: str, rows: Sequence[dict[str, Any]]) -> tuple[KeptTube, ...]:
    """Return the tubes of a file's rows, each once; `name` is the file's. Raises `AppError` for what can be none."""
    found: dict[str, KeptTube] = {}
    for row in rows:
        one = from_fields(KeptTube, {key: value for key, value in row.items() if value is not None})
        if one.own is None and one.id not in table():
            raise AppError(
                f"{name} names a tube “{one.id}” that is not known.",
                "Take it out of the file, or give its two swatches.",
            )
        if one.own is not None:
            try:
                check_swatches(one.own)
            except InputError as failure:
                raise AppError(f"{name}: {failure.message}", failure.hint) from None
            one = replace(one, own=replace(one.own, id=one.id))
        found[one.id] = one
    return tuple(found.values())
