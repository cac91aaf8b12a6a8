"""The work of each of a painter's paintings, kept so that they can be planned together: tasks, relations, and the plan that was taken.

JSON in a folder beside the library of kinds, a file a painting: ``works/<name's fingerprint>.json`` (``{"format": "foxpath-work",
"version": 1, "work": [...]}``, one row). It holds no picture. Another painting never writes a project's own file: what it would change of
its plan lies here as an offer until that painting is opened and takes it.
"""

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from foxpath.core.days.studio import Laid
from foxpath.core.days.told import Told, sound_told
from foxpath.core.errors import AppError
from foxpath.core.fingerprint import fingerprint
from foxpath.document import shared
from foxpath.document.convert import from_fields, to_fields

VERSION, MOST_BYTES, MOST_WORKS = 1, 8_000_000, 100


def _folder() -> Path:
    return shared.folder() / "works"


def _place(painting: str) -> Path:
    return _folder() / f"{fingerprint('work', painting).hex()}.json"


def keep_work(told: Told) -> None:
    """Keep what a painting tells of its work, in place of what it told before; what it was offered is gone. Raises `AppError`."""
    _write(replace(told, offered=(), group=()))


def work_told(painting: str) -> Told | None:
    """Return what a painting told; None where it told nothing, or where the file is damaged."""
    return _read(_place(painting))


def other_works(painting: str) -> tuple[Told, ...]:
    """Return what every other painting told, by name; damaged files are passed over."""
    try:
        paths = sorted(_folder().glob("*.json"))[:MOST_WORKS]
    except OSError:
        return ()
    found = [told for path in paths if (told := _read(path)) is not None and told.painting != painting]
    return tuple(sorted(found, key=lambda one: one.painting))


def offer(painting: str, rows: Sequence[Laid], group: Sequence[str]) -> None:
    """Offer a painting a plan that was laid together with others, the one that offers it first. Raises `AppError`."""
    told = work_told(painting)
    if told is not None and tuple(rows) != told.plan:
        _write(replace(told, offered=tuple(rows), group=tuple(group)))


def let_offer_go(painting: str) -> None:
    """Forget what a painting was offered. Raises `AppError` when it cannot be written."""
    told = work_told(painting)
    if told is not None and told.by:
        keep_work(told)


def forget_work(painting: str) -> None:
    """Forget a painting's work: it is finished, or given up. Raises `AppError` when the file cannot be removed."""
    try:
        _place(painting).unlink(missing_ok=True)
    except OSError as failure:
        raise AppError(
            f"{painting} could not be forgotten: {(failure.strerror or '').lower()}.", "Try again."
        ) from None


def _write(told: Told) -> None:
    shared.write_rows(_place(told.painting), "foxpath-work", VERSION, "work", [to_fields(told)])


def _read(path: Path) -> Told | None:
    try:
        rows = shared.read_rows(path, "foxpath-work", VERSION, "work", 1, "told_work", most_bytes=MOST_BYTES)
    except AppError:
        return None
    return sound_told(from_fields(Told, rows[0])) if rows else None
