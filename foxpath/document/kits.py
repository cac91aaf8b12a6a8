"""The painter's own kit of brushes, kept once for all paintings, and files to open other people's kits from.

JSON: ``{"format": "foxpath-kit", "version": 1, "brushes": [...]}``, each brush as in `project.json`.
"""

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from foxpath.core.errors import AppError
from foxpath.core.lengths import DEFAULT_KIT, Brush
from foxpath.document import shared
from foxpath.document.convert import from_fields, to_fields
from foxpath.document.model import Project

FORMAT, VERSION = "foxpath-kit", 1
MOST = 60


def place() -> Path:
    """Return the kept kit's file (it need not be there)."""
    return shared.folder() / "kit.json"


def own_kit() -> tuple[Brush, ...]:
    """Return the kit that is kept for every painting, or the usual one. Raises `AppError` when its file is damaged."""
    return read_kit(place()) if place().exists() else DEFAULT_KIT


def with_own_kit(project: Project) -> Project:
    """Return a new painting that is painted with the kept kit; with the usual one where the file is damaged."""
    try:
        return replace(project, kit=own_kit())
    except AppError:
        return project


def keep_kit(kit: Sequence[Brush]) -> None:
    """Keep a kit for every painting to come. Raises `AppError` when it cannot be written."""
    write_kit(place(), kit)


def write_kit(path: Path, kit: Sequence[Brush]) -> None:
    """Write a kit to a file that can be shared. Raises `AppError` when it cannot be written."""
    shared.write_rows(path, FORMAT, VERSION, "brushes", [to_fields(one) for one in kit])


def read_kit(path: Path) -> tuple[Brush, ...]:
    """Read a file of brushes, 60 at most.

    Raises
    ------
    AppError
        When it cannot be read, is none, is empty, or is of a later version.
    """
    kit = tuple(from_fields(Brush, one) for one in shared.read_rows(path, FORMAT, VERSION, "brushes", MOST, "brush"))
    if not kit:
        raise AppError(f"{path.name} holds no brush.", "Choose another file.")
    return kit
