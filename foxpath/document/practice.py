"""Answers to drills, of all paintings: the painter's own file, to which every answer is added at once.

JSON, a line each: ``{"format": "foxpath-practice", "version": 1}`` first, then an answer a line. A line that was cut off when the machine went
down is passed over; the others are still read.
"""

import json
import os
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import fastjsonschema

from foxpath.core.days.studio import moment_of
from foxpath.core.errors import AppError
from foxpath.core.practice.weeks import Answered
from foxpath.document import archive, shared
from foxpath.document.convert import from_fields, to_fields

FORMAT, VERSION = "foxpath-practice", 1
MOST, MOST_BYTES, LONGEST_LINE = 40_000, 12_000_000, 4000


def place() -> Path:
    """Return the file (it need not be there)."""
    return shared.folder() / "practice.jsonl"


def answers() -> tuple[Answered, ...]:
    """Return every answer, oldest first; none without a file.

    Raises
    ------
    AppError
        When the file cannot be read, is none, or is of a later version.
    """
    path = place()
    if not path.exists():
        return ()
    try:
        if path.stat().st_size > MOST_BYTES:
            raise AppError(f"{path} is too large to be read.", "Move the file away; practice begins anew.")
        lines = path.read_bytes().splitlines()
    except OSError as failure:
        raise AppError(f"{path} could not be read: {(failure.strerror or '').lower()}.", "Check its rights.") from None
    if not lines:
        return ()
    _check_head(lines[0])
    made = []
    for line in lines[1:]:
        row = _row(line)
        if row is None:
            continue
        try:
            shared.validator("answered")(row)
        except fastjsonschema.JsonSchemaValueException:
            continue
        if moment_of(row["at"]) is not None:
            made.append(from_fields(Answered, row))
    return tuple(sorted(made[-MOST:], key=lambda one: one.at))


def add(given: Sequence[Answered]) -> None:
    """Add answers to the file. Raises `AppError` when it cannot be written, or is none: what is added there would never be read."""
    path = place()
    head = _line({"format": FORMAT, "version": VERSION})
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        with path.open("a+b") as out:
            if out.tell():
                out.seek(0)
                _check_head(out.readline(LONGEST_LINE))
                out.seek(0, os.SEEK_END)
                head = ""
            text = head + "".join(_line(to_fields(one)) for one in given)
            # A line that was cut off must not swallow the next one.
            if out.tell() and not head:
                out.seek(-1, os.SEEK_END)
                if out.read(1) != b"\n":
                    text = "\n" + text
            out.write(text.encode())
    except OSError as failure:
        reason = (failure.strerror or str(failure)).lower()
        raise AppError(
            f"{path} could not be written: {reason}.", "This answer does not count over the weeks."
        ) from None


def forget(drill: str = "") -> int:
    """Take a drill's answers out of the file, or all without a key; returns how many. Raises `AppError`."""
    known = answers()
    left = [one for one in known if drill and one.drill != drill]
    if len(left) == len(known):
        return 0
    path = place()
    if not left:
        try:
            path.unlink(missing_ok=True)
        except OSError as failure:
            reason = (failure.strerror or str(failure)).lower()
            raise AppError(f"{path} could not be taken away: {reason}.", "Check its rights.") from None
        return len(known)
    data = "".join(map(_line, [{"format": FORMAT, "version": VERSION}, *(to_fields(one) for one in left)]))
    archive.write_whole(path, data.encode())
    return len(known) - len(left)


def _check_head(line: bytes) -> None:
    """Raise `AppError` when a file's first line is not that of a file of answers."""
    head = _row(line)
    if head is None or head.get("format") != FORMAT:
        raise AppError(f"{place()} is damaged: what was practised before is not known.", "Move the file away.")
    if isinstance(head.get("version"), int) and head["version"] > VERSION:
        raise AppError(f"{place()} was written by a newer Fox Path.", "Update Fox Path to read it.")


def _line(fields: Any) -> str:
    return json.dumps(fields, ensure_ascii=False) + "\n"


def _row(line: bytes) -> dict[str, Any] | None:
    try:
        row = json.loads(line.decode("utf-8"), parse_constant=shared.no_number)
    except (ValueError, RecursionError):
        return None
    return row if isinstance(row, dict) else None
