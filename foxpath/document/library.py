"""The painter's own kinds of zone: a personal library, and files to share it by.

Both are JSON: ``{"format": "foxpath-kinds", "version": 1, "kinds": [...]}``, each kind as in `project.json`.
"""

import json
import os
from collections.abc import Callable, Sequence
from functools import cache
from pathlib import Path
from typing import Any

import fastjsonschema

from foxpath.core.errors import AppError
from foxpath.core.folders import users
from foxpath.core.zones import KINDS, OwnKind
from foxpath.document import archive
from foxpath.document.convert import from_fields, to_fields

FORMAT, VERSION = "foxpath-kinds", 1
MOST = 200
MOST_BYTES = 1_000_000


def place() -> Path:
    """Return the library's file (it need not be there): in $FOXPATH_DATA, else in the user's data folder."""
    given = os.environ.get("FOXPATH_DATA")
    return (Path(given) if given else users("XDG_DATA_HOME", ".local/share")) / "kinds.json"


def own_kinds() -> tuple[OwnKind, ...]:
    """Return the kinds of the library, none when there is no library yet. Raises `AppError` when it is damaged."""
    return read_kinds(place()) if place().exists() else ()


def save_kind(own: OwnKind) -> tuple[OwnKind, ...]:
    """Put a kind into the library, in place of one of the same name; returns them all. Raises `AppError`."""
    return _keep([*(one for one in own_kinds() if one.name != own.name), own])


def forget_kind(name: str) -> tuple[OwnKind, ...]:
    """Take a kind out of the library; returns what is left. Zones that have it keep it. Raises `AppError`."""
    return _keep([one for one in own_kinds() if one.name != name])


def take_in(path: Path) -> tuple[OwnKind, ...]:
    """Put the kinds of a shared file into the library; those of the same name are replaced. Raises `AppError`."""
    new = read_kinds(path)
    names = {one.name for one in new}
    return _keep([*(one for one in own_kinds() if one.name not in names), *new])


def write_kinds(path: Path, kinds: Sequence[OwnKind]) -> None:
    """Write kinds to a file that can be shared. Raises `AppError` when it cannot be written."""
    record = {"format": FORMAT, "version": VERSION, "kinds": [to_fields(one) for one in kinds]}
    data = (json.dumps(record, indent=1, ensure_ascii=False) + "\n").encode()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        archive.write_whole(path, data)
    except OSError as failure:
        reason = (failure.strerror or str(failure)).lower()
        raise AppError(f"{path} could not be written: {reason}.", "Choose another folder.") from None


def read_kinds(path: Path) -> tuple[OwnKind, ...]:
    """Read a file of kinds.

    Raises
    ------
    AppError
        When it cannot be read, is none, is too large, or is of a later version.
    """
    try:
        data = path.read_bytes()
    except OSError as failure:
        raise AppError(f"{path} could not be read: {(failure.strerror or '').lower()}.", "Check the name.") from None
    wrong = AppError(f"{path.name} holds no kinds of zone.", "Choose a file that was shared from Fox Path.")
    if len(data) > MOST_BYTES:
        raise wrong
    try:
        record: Any = json.loads(data.decode("utf-8"))
        if record.get("format") != FORMAT:
            raise wrong
        if isinstance(record.get("version"), int) and record["version"] > VERSION:
            raise AppError(f"{path.name} was made by a newer Fox Path.", "Update Fox Path to read it.")
        for one in record["kinds"][:MOST]:
            _validator()(one)
    except (ValueError, RecursionError, AttributeError, KeyError, TypeError):
        raise wrong from None
    except fastjsonschema.JsonSchemaValueException:
        raise wrong from None
    return tuple(from_fields(OwnKind, one) for one in record["kinds"][:MOST] if one["base"] in KINDS)


@cache
def _validator() -> Callable[[Any], Any]:
    schema = json.loads(Path(__file__).with_name("project.schema.json").read_text("utf-8"))
    check: Callable[[Any], Any] = fastjsonschema.compile(schema["definitions"]["own_kind"])
    return check


def _keep(kinds: Sequence[OwnKind]) -> tuple[OwnKind, ...]:
    if len(kinds) > MOST:
        raise AppError(f"The library holds {MOST} kinds.", "Forget one first.")
    kept = tuple(sorted(kinds, key=lambda one: one.name.lower()))
    write_kinds(place(), kept)
    return kept
