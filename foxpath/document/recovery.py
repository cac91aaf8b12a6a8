"""What survives a crash: the work of each running window, written beside, at most a few seconds old.

Each window keeps its work in the recovery folder under the number of its process, with a note (``.json``) of where it was saved
last. A file whose process has gone was left by a crash and is offered at the next start, unless what was saved since is newer:
before a save the note says what is about to be written, so that a crash right after it is told from one before.
"""

import hashlib
import json
import os
import time
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

from foxpath.core.errors import AppError
from foxpath.core.folders import users

if TYPE_CHECKING:
    # The start of the program looks for leftovers; it reads a project only when it finds one.
    from foxpath.document.model import Project

SAVED = "saved"
"""Ending of the note about a save: beside the other, so that a copy written at the same time cannot take its place."""


@dataclass(frozen=True, slots=True)
class Leftover:
    """Work found after a crash: the file, where it had been saved last ("" for nowhere), and its age."""

    file: Path
    origin: str
    seconds_old: float


def folder() -> Path:
    """Return the recovery folder (not made yet): $FOXPATH_STATE, else the user's state folder."""
    given = os.environ.get("FOXPATH_STATE")
    return (Path(given) if given else users("XDG_STATE_HOME", ".local/state")) / "recovery"


def _own() -> Path:
    return folder() / f"{os.getpid()}.foxpath"


def keep(project: "Project", origin: str, step: int = 0) -> None:
    """Write the present work to this process's recovery file; `step` counts the changes. Raises `ProjectError`."""
    from foxpath.document import archive

    place = _own()
    place.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    archive.write_whole(place.with_suffix(".json"), json.dumps({"origin": origin, "step": step}).encode())
    archive.save(project, place)


def about_to_save(path: Path, data: bytes, step: int) -> None:
    """Note what is about to be written to a project's own file. What cannot be noted is left: the save matters more."""
    from foxpath.document import archive

    note = {"origin": str(path), "step": step, "digest": hashlib.sha256(data).hexdigest()}
    try:
        if _own().parent.is_dir():
            archive.write_whole(_own().with_suffix(f".{SAVED}"), json.dumps(note).encode())
    except (OSError, AppError):
        return


def forget() -> None:
    """Remove this process's recovery file: the work is saved, or was given up on purpose."""
    drop(_own())


def drop(file: Path) -> None:
    """Remove a recovery file with its notes."""
    for ending in (".foxpath", ".json", f".{SAVED}"):
        file.with_suffix(ending).unlink(missing_ok=True)


def _note(file: Path) -> dict[str, Any]:
    try:
        value = json.loads(file.read_text("utf-8"))
    except (OSError, ValueError):
        return {}
    return value if isinstance(value, dict) else {}


def _saved_since(file: Path) -> bool:
    """Tell whether what a recovery file holds, or something newer, was saved to the project's own file before the crash."""
    kept, saved = _note(file.with_suffix(".json")), _note(file.with_suffix(f".{SAVED}"))
    try:
        newer = int(saved["step"]) >= int(kept.get("step", 0))
        data = Path(str(saved["origin"])).read_bytes()
    except (OSError, KeyError, TypeError, ValueError):
        return False
    return newer and hashlib.sha256(data).hexdigest() == saved.get("digest")


def leftovers() -> list[Leftover]:
    """List what crashed windows left, newest first; what is of no use any more is removed."""
    from foxpath.document import archive

    found = []
    place = folder()
    if not place.is_dir():
        return []
    gone: set[int] = set()
    for file in place.iterdir():
        # 123.foxpath, 123.json, 123.saved, and .123.foxpath.123-x while one is being written.
        number = file.name.lstrip(".").partition(".")[0]
        if number.isdigit() and int(number) != os.getpid() and not archive.alive(int(number)):
            gone.add(int(number))
    for pid in sorted(gone):
        file = place / f"{pid}.foxpath"
        for ending in (".foxpath", ".json", f".{SAVED}"):
            archive.sweep(file.with_suffix(ending))
        if not file.exists() or _saved_since(file):
            drop(file)
            continue
        origin = str(_note(file.with_suffix(".json")).get("origin", ""))
        found.append(Leftover(file, origin, time.time() - file.stat().st_mtime))
    return sorted(found, key=lambda one: one.seconds_old)


def read(leftover: Leftover) -> "Project | None":
    """Open a recovery file, or None when it cannot be read."""
    from foxpath.document import archive

    try:
        return archive.load(leftover.file)
    except AppError:
        return None
