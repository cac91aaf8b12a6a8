"""The painter's own kinds of zone: a personal library, and files to share it by.

Both are JSON: ``{"format": "foxpath-kinds", "version": 1, "kinds": [...]}``, each kind as in `project.json`.
"""

from collections.abc import Sequence
from pathlib import Path

from foxpath.core.errors import AppError
from foxpath.core.zones import KINDS, OwnKind
from foxpath.document import shared
from foxpath.document.convert import from_fields, to_fields

FORMAT, VERSION = "foxpath-kinds", 1
MOST = 200


def place() -> Path:
    """Return the library's file (it need not be there)."""
    return shared.folder() / "kinds.json"


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
    shared.write_rows(path, FORMAT, VERSION, "kinds", [to_fields(one) for one in kinds])


def read_kinds(path: Path) -> tuple[OwnKind, ...]:
    """Read a file of kinds.

    Raises
    ------
    AppError
        When it cannot be read, is none, is too large, or is of a later version.
    """
    rows = shared.read_rows(path, FORMAT, VERSION, "kinds", MOST, "own_kind")
    return tuple(from_fields(OwnKind, one) for one in rows if one["base"] in KINDS)


def _keep(kinds: Sequence[OwnKind]) -> tuple[OwnKind, ...]:
    if len(kinds) > MOST:
        raise AppError(f"The library holds {MOST} kinds.", "Forget one first.")
    kept = tuple(sorted(kinds, key=lambda one: one.name.lower()))
    write_kinds(place(), kept)
    return kept
