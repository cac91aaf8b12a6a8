"""A painter's usual errors over all paintings, as Progress told them of photographs: the painter's own file.

JSON: ``{"format": "foxpath-errors", "version": 1, "errors": [...]}``, a row for each painting and error: ``painting``, ``words``, how often it
was told (``count``), and in how many ``photographs``.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from foxpath.document import shared
from foxpath.document.convert import from_fields, to_fields

FORMAT, VERSION = "foxpath-errors", 1
MOST = 2000


@dataclass(frozen=True, slots=True)
class Told:
    """An error of a painting: in words, how often it was told, and in how many photographs."""

    painting: str
    words: str
    count: int
    photographs: int


def place() -> Path:
    """Return the file (it need not be there)."""
    return shared.folder() / "errors.json"


def told() -> tuple[Told, ...]:
    """Return every row, oldest painting first; none without a file. Raises `AppError` when it is damaged."""
    if not place().exists():
        return ()
    return tuple(
        from_fields(Told, one) for one in shared.read_rows(place(), FORMAT, VERSION, "errors", MOST, "told_error")
    )


def keep(painting: str, found: Sequence[tuple[str, int, int]]) -> None:
    """Put a painting's errors (words, count, photographs) into the file, in place of what it had. Raises `AppError`."""
    before = told()
    mine = tuple(Told(painting[:500], *one) for one in found)
    made = (*(one for one in before if one.painting != painting[:500]), *mine)[-MOST:]
    if made != before:
        _write(made)


def usual() -> tuple[tuple[str, int, int], ...]:
    """Return errors over all paintings, the most frequent first: words, how often, in how many paintings. Raises `AppError`."""
    found: dict[str, list[int]] = {}
    for one in told():
        found.setdefault(one.words, []).append(one.count)
    return tuple(sorted(((words, sum(n), len(n)) for words, n in found.items()), key=lambda one: (-one[1], one[0])))


def forget() -> None:
    """Empty the file. Raises `AppError` when it cannot be written."""
    if place().exists():
        _write(())


def _write(rows: Sequence[Told]) -> None:
    shared.write_rows(place(), FORMAT, VERSION, "errors", [to_fields(one) for one in rows])
