"""What passes took, of all paintings: the painter's own file, from which a new painting's estimates begin.

JSON: ``{"format": "foxpath-pace", "version": 1, "logged": [...]}``, each as in `project.json`, with the painting's name.
"""

import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import fastjsonschema

from foxpath.core.errors import AppError
from foxpath.core.passes import Logged
from foxpath.document import archive, library, shared
from foxpath.document.convert import from_fields, to_fields
from foxpath.document.model import Project

FORMAT, VERSION = "foxpath-pace", 1
MOST = 2000
TAKEN_IN = "\u2192"
"""Stands for the painting of passes that came from another file: no painting is called so."""
MOST_BYTES = 1_000_000


def place() -> Path:
    """Return the file, beside the library of kinds; it need not be there."""
    return library.place().with_name("pace.json")


def earlier() -> tuple[Logged, ...]:
    """Return every logged pass, oldest first; none without a file. Raises `AppError` when it is damaged."""
    return tuple(from_fields(Logged, one) for one in _read())


def keep(project: Project) -> None:
    """Put a painting's logged passes into the file, in place of what it had of this painting.

    Raises
    ------
    AppError
        When the file is damaged, or cannot be written.
    """
    _keep_of(project.name, project.noted)


def take_in(logged: Sequence[Logged]) -> None:
    """Put passes of a file that was shared into this one, those apart that it has. Raises `AppError`."""
    have = set(earlier())
    old = [from_fields(Logged, one) for one in _read() if one.get("painting") == TAKEN_IN]
    _keep_of(TAKEN_IN, [*old, *(one for one in dict.fromkeys(logged) if one not in have)])


def forget() -> None:
    """Empty the file. Raises `AppError` when it cannot be written."""
    if place().exists():
        _write([])


def _keep_of(painting: str, logged: Sequence[Logged]) -> None:
    others = [one for one in _read() if one.get("painting") != painting]
    _write([*others, *({"painting": painting, **to_fields(one)} for one in logged)])


def _write(rows: Sequence[dict[str, Any]]) -> None:
    kept = [*rows][-MOST:]
    data = json.dumps({"format": FORMAT, "version": VERSION, "logged": kept}, indent=1, ensure_ascii=False) + "\n"
    try:
        place().parent.mkdir(parents=True, exist_ok=True)
        archive.write_whole(place(), data.encode())
    except OSError as failure:
        reason = (failure.strerror or str(failure)).lower()
        raise AppError(f"{place()} could not be written: {reason}.", "The note is kept in the painting.") from None


def _read() -> list[dict[str, Any]]:
    path = place()
    if not path.exists():
        return []
    damaged = AppError(f"{path} is damaged: the pace of earlier paintings is not known.", "Move the file away.")
    try:
        data = path.read_bytes()
        if len(data) > MOST_BYTES:
            raise damaged
        record = json.loads(data.decode("utf-8"))
        if record["format"] != FORMAT:
            raise damaged
        rows = record["logged"][:MOST]
        for one in rows:
            shared.validator("logged_pass")(one)
    except OSError as failure:
        raise AppError(f"{path} could not be read: {(failure.strerror or '').lower()}.", "Check its rights.") from None
    except (ValueError, RecursionError, KeyError, TypeError, fastjsonschema.JsonSchemaValueException):
        raise damaged from None
    return [*rows]
