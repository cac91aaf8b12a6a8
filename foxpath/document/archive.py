"""The `.foxpath` file: a ZIP with `project.json` and the references' own bytes.

Reading treats the file as hostile: the number, names and sizes of its entries are checked before
anything is unpacked, nothing is written outside, and the project is opened whole or not at all.
"""

import io
import json
import os
import stat
import struct
import tempfile
import zipfile
import zlib
from pathlib import Path
from typing import Any

from foxpath.core.errors import AppError, PictureError, ProjectError
from foxpath.core.text import sound_text
from foxpath.document.convert import VERSION, project_from_fields, project_to_fields
from foxpath.document.model import Project
from foxpath.document.pictures import entry_name
from foxpath.document.places import pictures_of

MAX_ENTRIES = 64
MAX_JSON_BYTES = 32 * 1024 * 1024
MAX_REFERENCE_BYTES = 400 * 1024 * 1024
MAX_FILE_BYTES = 1024 * 1024 * 1024
_STAMP = (1980, 1, 1, 0, 0, 0)


def picture_bytes(path: Path) -> bytes:
    """Return the bytes of a picture that is to become a reference.

    Raises
    ------
    PictureError
        When the file cannot be read or is too large to be kept in a project.
    """
    return bytes_of(path, PictureError)


def bytes_of(path: Path, error: type[AppError], most: int = MAX_REFERENCE_BYTES) -> bytes:
    """Return the bytes of a file, never more than `most`.

    Raises
    ------
    error
        When it cannot be read, is no file (a pipe or a device might never end), or is larger.
    """
    name = sound_text(path.name) or str(path)
    data: bytes | None = None
    try:
        kind = path.stat().st_mode
        if stat.S_ISREG(kind):
            with path.open("rb") as file:
                data = file.read(most + 1)
    except (OSError, ValueError) as failure:
        reason = (getattr(failure, "strerror", None) or str(failure)).lower()
        raise error(f"{name} could not be read: {reason}.", "Check the name and the folder.") from None
    if stat.S_ISDIR(kind):
        raise error(f"{name} is a folder.", "Choose a file in it.")
    if data is None:
        raise error(f"{name} is no file.", "Save what it gives to a file, and open that.")
    if len(data) > most:
        raise error(f"{name} is larger than {most / 2**20:.0f} MB.", "Save a smaller copy and open that.")
    return data


def to_bytes(project: Project) -> bytes:
    """Return the project as the bytes of a `.foxpath` file; the same project gives the same bytes."""
    fields = project_to_fields(project)
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        text = json.dumps(fields, indent=1, ensure_ascii=False, allow_nan=False)
        archive.writestr(zipfile.ZipInfo("project.json", _STAMP), text.encode(), zipfile.ZIP_DEFLATED)
        # A picture is packed already; the bytes go in as they came.
        for name, data in {entry_name(one): one.data for one in pictures_of(project)}.items():
            archive.writestr(zipfile.ZipInfo(name, _STAMP), data, zipfile.ZIP_STORED)
    return buffer.getvalue()


def save(project: Project, path: Path) -> None:
    """Write a project file: whole or not at all, the old one kept until the new one is on the disk.

    Raises
    ------
    ProjectError
        When the place cannot be written to.
    """
    write_whole(path, to_bytes(project))


def write_whole(path: Path, data: bytes) -> None:
    """Write a file atomically: beside its place, flushed to the disk, then moved over it."""
    temporary: Path | None = None
    try:
        sweep(path)
        handle, name = tempfile.mkstemp(prefix=f".{path.name}.{os.getpid()}-", dir=path.parent)
        temporary = Path(name)
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        temporary.chmod((path.stat().st_mode & 0o777) if path.exists() else (0o666 & ~_umask()))
        temporary.replace(path)
    except OSError as failure:
        if temporary is not None:
            temporary.unlink(missing_ok=True)
        raise ProjectError(
            f"{path.name} could not be written: {(failure.strerror or str(failure)).lower()}.",
            "Your work is still here: save it in another place.",
        ) from None


def alive(pid: int) -> bool:
    """Tell whether a process of this number is running."""
    try:
        os.kill(pid, 0)
    except (ProcessLookupError, OverflowError):
        return False
    except PermissionError:
        return True
    return True


def sweep(path: Path) -> None:
    """Remove what processes that were ended in the middle of writing a file have left beside it."""
    before = f".{path.name}."
    with os.scandir(path.parent) as entries:
        names = [one.name for one in entries if one.name.startswith(before)]
    for name in names:
        pid, dash, _ = name[len(before) :].partition("-")
        if dash and pid.isdigit() and not alive(int(pid)):
            (path.parent / name).unlink(missing_ok=True)


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def load(path: Path) -> Project:
    """Open a project file.

    Raises
    ------
    ProjectError
        With one clear message, for anything that is not a sound project file.
    """
    return from_bytes(bytes_of(path, ProjectError, MAX_FILE_BYTES), sound_text(path.name))


def from_bytes(data: bytes, name: str) -> Project:
    """Open a project from the bytes of its file; `name` is used in messages. Raises `ProjectError`."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entries = _checked(archive, name)
            fields = _parsed(_unpacked(archive, entries, "project.json", MAX_JSON_BYTES, name), name)

            def reference(file: str) -> bytes:
                return _unpacked(archive, entries, file, MAX_REFERENCE_BYTES, name)

            return project_from_fields(fields, reference, name)
    except AppError as failure:
        if isinstance(failure, ProjectError):
            raise
        raise ProjectError(f"{name} cannot be opened: {failure.message}", failure.hint) from None
    except (*_DAMAGED, OSError, ValueError, TypeError, LookupError, ArithmeticError, RuntimeError, EOFError):
        # What zipfile, zlib and the readers of numbers raise on foreign, cut, encrypted or damaged bytes.
        raise ProjectError(f"{name} is damaged or is no Fox Path project.", "Open a copy or a backup.") from None


_DAMAGED = (zipfile.BadZipFile, zlib.error, struct.error, NotImplementedError)


def _checked(archive: zipfile.ZipFile, name: str) -> dict[str, zipfile.ZipInfo]:
    """Check the directory of the ZIP before anything is unpacked."""
    infos = archive.infolist()
    if len(infos) > MAX_ENTRIES:
        raise ProjectError(
            f"{name} holds {len(infos)} entries.", f"A project has at most {MAX_ENTRIES}; it is damaged."
        )
    entries: dict[str, zipfile.ZipInfo] = {}
    for info in infos:
        parts = info.filename.split("/")
        if info.filename.startswith("/") or "\\" in info.filename or ".." in parts or ":" in info.filename:
            raise ProjectError(f"{name} holds an entry with an unsafe name.", "Do not open files you do not trust.")
        if info.filename in entries:
            raise ProjectError(f"{name} holds the same entry twice.", "It was made or damaged by something else.")
        entries[info.filename] = info
    if sum(info.file_size for info in infos) > MAX_FILE_BYTES:
        raise ProjectError(f"{name} would unpack to more than a project can be.", "Do not open files you do not trust.")
    if "project.json" not in entries:
        raise ProjectError(f"{name} is no Fox Path project.", "Choose a .foxpath file.")
    return entries


def _unpacked(archive: zipfile.ZipFile, entries: dict[str, zipfile.ZipInfo], entry: str, most: int, name: str) -> bytes:
    """Unpack one entry, never more than `most` bytes whatever its header says."""
    info = entries.get(entry)
    if info is None:
        raise ProjectError(f"{name} has lost its picture ({entry}).", "Open a copy or a backup.")
    with archive.open(info) as stream:
        data = stream.read(most + 1)
    if len(data) > most:
        raise ProjectError(f"{name} would unpack to more than a project can be.", "Do not open files you do not trust.")
    return data


def _sound(value: Any) -> Any:
    """Return what a file holds with its texts fit to be shown and saved, and no number larger than any float."""
    if isinstance(value, str):
        return sound_text(value)
    if isinstance(value, int) and not isinstance(value, bool):
        float(value)
    if isinstance(value, dict):
        return {sound_text(key): _sound(one) for key, one in value.items()}
    return [_sound(one) for one in value] if isinstance(value, list) else value


def _parsed(text: bytes, name: str) -> dict[str, Any]:
    def refuse(constant: str) -> float:
        raise ValueError(constant)

    try:
        fields = _sound(json.loads(text.decode("utf-8"), parse_constant=refuse))
    except (ValueError, RecursionError, OverflowError):
        raise ProjectError(f"{name} is damaged: its plan cannot be read.", "Open a copy or a backup.") from None
    if not isinstance(fields, dict) or fields.get("format") != "foxpath":
        raise ProjectError(f"{name} is no Fox Path project.", "Choose a .foxpath file.")
    version = fields.get("version")
    if isinstance(version, int) and not isinstance(version, bool) and version > VERSION:
        raise ProjectError(
            f"{name} was made by a newer Fox Path (file version {version}, this one reads up to {VERSION}).",
            "Update Fox Path to open it; nothing was changed.",
        )
    return fields
