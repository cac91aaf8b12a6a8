"""What survives a crash: the work of each running window, written beside, at most a few seconds old.

Each window keeps one file in the recovery folder, named after its process. A file whose process has
gone was left by a crash and is offered at the next start.
"""

import json
import os
import time
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from foxpath.core.errors import AppError

if TYPE_CHECKING:
    # The start of the program looks for leftovers; it reads a project only when it finds one.
    from foxpath.document.model import Project


@dataclass(frozen=True, slots=True)
class Leftover:
    """Work found after a crash: the file, where it had been saved last ("" for nowhere), and its age."""

    file: Path
    origin: str
    seconds_old: float


def folder() -> Path:
    """Return the recovery folder (not made yet): $FOXPATH_STATE, else the user's state folder."""
    given = os.environ.get("FOXPATH_STATE")
    if given:
        return Path(given) / "recovery"
    base = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(base) / "foxpath" / "recovery"


def _own() -> Path:
    return folder() / f"{os.getpid()}.foxpath"


def keep(project: "Project", origin: str) -> None:
    """Write the present work to this process's recovery file. Raises `ProjectError`."""
    from foxpath.document import archive

    place = _own()
    place.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    archive.write_whole(place.with_suffix(".json"), json.dumps({"origin": origin}).encode())
    archive.save(project, place)


def forget() -> None:
    """Remove this process's recovery file: the work is saved, or was given up on purpose."""
    drop(_own())


def drop(file: Path) -> None:
    """Remove a recovery file."""
    file.unlink(missing_ok=True)
    file.with_suffix(".json").unlink(missing_ok=True)


def _alive(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True


def leftovers() -> list[Leftover]:
    """List what crashed windows left, newest first."""
    found = []
    place = folder()
    if not place.is_dir():
        return []
    for file in place.glob("*.foxpath"):
        if not file.stem.isdigit() or (int(file.stem) != os.getpid() and _alive(int(file.stem))):
            continue
        if int(file.stem) == os.getpid():
            continue
        origin = ""
        try:
            origin = str(json.loads(file.with_suffix(".json").read_text("utf-8"))["origin"])
        except (OSError, ValueError, KeyError, TypeError):
            origin = ""
        found.append(Leftover(file, origin, time.time() - file.stat().st_mtime))
    return sorted(found, key=lambda one: one.seconds_old)


def read(leftover: Leftover) -> "Project | None":
    """Open a recovery file, or None when it cannot be read."""
    from foxpath.document import archive

    try:
        return archive.load(leftover.file)
    except AppError:
        return None
