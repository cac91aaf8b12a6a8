"""What a painter's days have in common, kept once for all paintings: free time and the room, other paintings' sittings, notes of drying.

JSON beside the library of kinds: ``habits.json`` (``{"format": "foxpath-habits", "version": 1, "days": [...]}``), ``sittings.json`` and
``drying.json``, rows as in `project.json`.
"""

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from pathlib import Path

from foxpath.core.days.calendar import Interval
from foxpath.core.days.studio import MOST_NOTES, Days, DryNote, moment_of, sound_days
from foxpath.core.errors import AppError
from foxpath.document import shared
from foxpath.document.convert import from_fields, to_fields
from foxpath.document.edits.days import as_habits
from foxpath.document.model import Project

VERSION = 1
MOST_SITTINGS = 3000


def _place(name: str) -> Path:
    return shared.folder() / f"{name}.json"


# Free time and the room ---------------------------------------------------------------------------


def keep_habits(days: Days) -> None:
    """Keep free time, sittings and the room for every painting to come. Raises `AppError` when they cannot be written."""
    shared.write_rows(_place("habits"), "foxpath-habits", VERSION, "days", [to_fields(as_habits(days))])


def own_habits() -> Days:
    """Return the kept ones, or the usual ones. Raises `AppError` when the file is damaged."""
    if not _place("habits").exists():
        return Days()
    rows = shared.read_rows(_place("habits"), "foxpath-habits", VERSION, "days", 1, "days")
    return sound_days(as_habits(from_fields(Days, rows[0]))) if rows else Days()


def with_own_days(project: Project) -> Project:
    """Return a new painting that begins with the kept free time, room and notes; with the usual ones where a file is damaged."""
    days = project.days
    try:
        days = own_habits()
        return replace(project, days=replace(days, earlier=noted_before(project.name)))
    except AppError:
        return replace(project, days=days)


# Sittings of other paintings ----------------------------------------------------------------------


def keep_sittings(project: str, sittings: Sequence[Interval]) -> None:
    """Put a painting's sittings into the file, in place of what it had. Raises `AppError` when it cannot be written."""
    others = [one for one in _sittings() if one["painting"] != project]
    mine = [
        {"painting": project, "begin": a.isoformat(timespec="minutes"), "end": b.isoformat(timespec="minutes")}
        for a, b in sittings
    ]
    shared.write_rows(_place("sittings"), "foxpath-sittings", VERSION, "sittings", [*others, *mine][-MOST_SITTINGS:])


def other_sittings(project: str, now: datetime) -> dict[str, list[Interval]]:
    """Return the sittings to come of every other painting, by its name; none where the file is damaged."""
    try:
        rows = _sittings()
    except AppError:
        return {}
    found: dict[str, list[Interval]] = {}
    for one in rows:
        a, b = moment_of(one["begin"]), moment_of(one["end"])
        if one["painting"] != project and a is not None and b is not None and a < b and b > now:
            found.setdefault(one["painting"], []).append((a, b))
    return found


def _sittings() -> list[dict[str, str]]:
    path = _place("sittings")
    if not path.exists():
        return []
    return shared.read_rows(path, "foxpath-sittings", VERSION, "sittings", MOST_SITTINGS, "taken_sitting")


# Notes of drying ----------------------------------------------------------------------------------


def keep_notes(project: Project) -> None:
    """Put a painting's notes of drying into the file, in place of what it had. Raises `AppError` when they cannot be written."""
    write_notes(_place("drying"), [*noted_before(project.name), *(_named(project.name, n) for n in project.days.notes)])


def noted_before(painting: str) -> tuple[DryNote, ...]:
    """Return the notes of every other painting, oldest first. Raises `AppError` when the file is damaged."""
    if not _place("drying").exists():
        return ()
    return tuple(one for one in read_notes(_place("drying")) if not one.task.startswith(f"{painting}:"))


def forget_notes(pile: str | None = None) -> None:
    """Take what was learned of a pile out of the file, or all of it. Raises `AppError` when it cannot be written."""
    if _place("drying").exists():
        left = [] if pile is None else [one for one in read_notes(_place("drying")) if one.pile != pile]
        write_notes(_place("drying"), left)


def write_notes(path: Path, notes: Sequence[DryNote]) -> None:
    """Write notes of drying to a file that can be shared. Raises `AppError` when it cannot be written."""
    shared.write_rows(path, "foxpath-drying", VERSION, "notes", [to_fields(one) for one in notes[-MOST_NOTES:]])


def read_notes(path: Path) -> tuple[DryNote, ...]:
    """Read notes of drying. Raises `AppError` when the file cannot be read, is none, or is of a later version."""
    rows = shared.read_rows(path, "foxpath-drying", VERSION, "notes", MOST_NOTES, "dry_note")
    return sound_notes([from_fields(DryNote, one) for one in rows])


def sound_notes(notes: Sequence[DryNote]) -> tuple[DryNote, ...]:
    """Return those of a file's notes that can be."""
    return sound_days(Days(notes=tuple(notes))).notes


def take_in(notes: Sequence[DryNote]) -> None:
    """Put notes of a file that was shared into this one, those apart that it has. Raises `AppError`."""
    have = list(read_notes(_place("drying"))) if _place("drying").exists() else []
    write_notes(_place("drying"), [*have, *(one for one in dict.fromkeys(notes) if one not in have)])


def _named(painting: str, note: DryNote) -> DryNote:
    return note if note.task.startswith(f"{painting}:") else replace(note, task=f"{painting}:{note.task}")
