"""How much wet paint a painter's strokes pick up, as seen in all paintings: the painter's own file.

JSON: ``{"format": "foxpath-strokes", "version": 1, "strokes": [...]}``, rows of ``painting`` and ``share``.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from foxpath.core.errors import AppError
from foxpath.core.mixes.layers import learned_pick_up
from foxpath.document import shared
from foxpath.document.convert import from_fields, to_fields
from foxpath.document.model import Project

FORMAT, VERSION = "foxpath-strokes", 1
MOST = 400
TAKEN_IN = "\u2192"
"""Stands for the painting of strokes that came from another file."""


@dataclass(frozen=True, slots=True)
class Stroke:
    """A stroke into wet paint: in which painting, and which share of the wet paint it picked up, 0 to 0.9."""

    share: float
    painting: str = ""


def place() -> Path:
    """Return the file (it need not be there)."""
    return shared.folder() / "strokes.json"


def kept() -> tuple[Stroke, ...]:
    """Return every stroke, oldest first; none without a file. Raises `AppError` when it is damaged."""
    if not place().exists():
        return ()
    rows = shared.read_rows(place(), FORMAT, VERSION, "strokes", MOST, "stroke")
    return tuple(from_fields(Stroke, one) for one in rows)


def keep(painting: str, shares: Sequence[float]) -> None:
    """Put a painting's strokes into the file, in place of what it had. Raises `AppError`."""
    name = painting[:500]
    _write([*(one for one in kept() if one.painting != name), *(Stroke(share, name) for share in shares)])


def take_in(shares: Sequence[float]) -> None:
    """Put strokes of a file that was shared into this one, those apart that it has. Raises `AppError`."""
    have = kept()
    known = {one.share for one in have}
    _write([*have, *(Stroke(share, TAKEN_IN) for share in dict.fromkeys(shares) if share not in known)])


def forget() -> None:
    """Empty the file. Raises `AppError` when it cannot be written."""
    if place().exists():
        _write([])


def with_own_strokes(project: Project) -> Project:
    """Return a new painting that begins with the pick-up of earlier ones; with the usual one where the file is damaged."""
    try:
        before = tuple(one.share for one in kept() if one.painting != project.name)
    except AppError:
        return project
    if not before:
        return project
    return replace(project, mixes=replace(project.mixes, strokes_before=before, pick_up=learned_pick_up(before)))


def _write(strokes: Sequence[Stroke]) -> None:
    shared.write_rows(place(), FORMAT, VERSION, "strokes", [to_fields(one) for one in strokes[-MOST:]])
