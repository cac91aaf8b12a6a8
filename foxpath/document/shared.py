"""Small files of the painter's own that are kept once for all paintings, and shared: read and written as hostile."""

import json
import os
from collections.abc import Callable, Sequence
from functools import cache
from pathlib import Path
from typing import Any

import fastjsonschema

from foxpath.core.errors import AppError
from foxpath.core.folders import users
from foxpath.document import archive

MOST_BYTES = 1_000_000


def folder() -> Path:
    """Return where they lie (it need not be there): in $FOXPATH_DATA, else in the user's data folder."""
    given = os.environ.get("FOXPATH_DATA")
    return Path(given) if given else users("XDG_DATA_HOME", ".local/share")


def write_rows(path: Path, name: str, version: int, key: str, rows: Sequence[Any]) -> None:
    """Write a file ``{"format": name, "version": version, key: rows}``. Raises `AppError` when it cannot be written."""
    data = (
        json.dumps({"format": name, "version": version, key: list(rows)}, indent=1, ensure_ascii=False) + "\n"
    ).encode()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        archive.write_whole(path, data)
    except OSError as failure:
        reason = (failure.strerror or str(failure)).lower()
        raise AppError(f"{path} could not be written: {reason}.", "Choose another folder.") from None


def read_rows(
    path: Path, name: str, version: int, key: str, most: int, what: str, *, most_bytes: int = MOST_BYTES
) -> list[Any]:
    """Read the rows of such a file, each checked against the definition `what` of the project's schema.

    Raises
    ------
    AppError
        When it cannot be read, is no such file, is too large, or is of a later version.
    """
    data = archive.bytes_of(path, AppError, most_bytes)
    wrong = AppError(f"{path.name} holds no {NAMED[what]}.", "Choose a file that was shared from Fox Path.")
    try:
        record: Any = json.loads(data.decode("utf-8"), parse_constant=no_number)
        if record.get("format") != name:
            raise wrong
        if isinstance(record.get("version"), int) and record["version"] > version:
            raise AppError(f"{path.name} was made by a newer Fox Path.", "Update Fox Path to read it.")
        rows = record[key][:most]
        for one in rows:
            validator(what)(one)
    except (ValueError, RecursionError, AttributeError, KeyError, TypeError, fastjsonschema.JsonSchemaValueException):
        raise wrong from None
    return [*rows]


def no_number(text: str) -> float:
    """Refuse what JSON has no number for: NaN and infinities. Raises `ValueError`."""
    raise ValueError(f"{text} is no number")


NAMED = {
    "own_kind": "kinds of zone",
    "brush": "kit of brushes",
    "tube": "cupboard of tubes",
    "days": "free time",
    "taken_sitting": "sittings",
    "told_work": "work of a painting",
    "dry_note": "notes of drying",
    "stroke": "strokes into wet paint",
    "told_error": "usual errors",
    "logged_pass": "passes that took their time",
}
"""What rows of a definition are called."""


@cache
def validator(what: str) -> Callable[[Any], Any]:
    """Return what checks a row against the definition `what` of the project's schema, and raises `fastjsonschema.JsonSchemaValueException`."""
    schema = json.loads(Path(__file__).with_name("project.schema.json").read_text("utf-8"))
    whole = {**schema["definitions"][what], "definitions": schema["definitions"]}
    check: Callable[[Any], Any] = fastjsonschema.compile(whole)
    return check
