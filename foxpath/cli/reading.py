"""Read what the command line names, or say in one sentence what is wrong with it."""

import json
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from foxpath.core.errors import AppError, InputError


def read_bytes(path: str) -> bytes:
    """Return a file's bytes. Raises `AppError` when it cannot be read, is no file, or is larger than a picture can be."""
    from foxpath.document.archive import bytes_of

    return bytes_of(Path(path), AppError)


@dataclass(frozen=True, slots=True, eq=False)
class Opened:
    """A picture that was named, or a project with its reference.

    Attributes
    ----------
    project : Project or None
    picture : Picture
        Decoded; of a project composed and corrected.
    size : (width, height)
        Upright pixels.
    """

    project: Any
    picture: Any
    size: tuple[int, int]


def is_project(path: str) -> bool:
    """Tell whether a name is that of a project or a demo."""
    from foxpath.demo import is_demo

    return is_demo(path) or path.lower().endswith(".foxpath")


def read_opened(path: str) -> Opened:
    """Return a picture or a project's reference by its name. Raises `AppError`."""
    from foxpath.core.reference import picture_size, read_picture
    from foxpath.derive import Results
    from foxpath.derive.pictures import working_picture

    if is_project(path):
        project = read_project(path)
        size = (project.reference.width, project.reference.height)
        return Opened(project, working_picture(Results(), project), size)
    data, name = read_bytes(path), Path(path).name
    return Opened(None, read_picture(data, name), picture_size(data, name))


def read_json(path: str) -> Any:
    """Return what a JSON file holds. Raises `AppError` or `InputError`."""
    try:
        return json.loads(read_bytes(path).decode("utf-8"))
    except (ValueError, RecursionError):
        raise InputError(f"{path} is not JSON.", "Write lists of [x, y] pixel coordinates.") from None


def read_points(value: object, least: int, what: str, path: str) -> Any:
    """Return an (N, 2) array of at least so many points. Raises `InputError`."""
    from foxpath.core.arrays import as_points

    try:
        return as_points(value, least=least, what=what)
    except ValueError as failure:
        raise InputError(f"{path}: {failure}.") from None


def read_combs(path: str) -> list[Any]:
    """Return a file's combs, each root to tip. Raises `AppError` or `InputError`."""
    value = read_json(path)
    if not isinstance(value, list):
        raise InputError(f"{path}: combs must be a list of strokes.", "Write [[[x, y], ...], ...], each root to tip.")
    return [read_points(stroke, 2, f"comb {k}", path) for k, stroke in enumerate(value, 1)]


def read_parts(path: str) -> dict[str, Any]:
    """Return a file's outlines by name. Raises `AppError` or `InputError`."""
    value = read_json(path)
    if not isinstance(value, dict):
        raise InputError(f"{path}: zones must be an object.", 'Write {"name": [[x, y], ...], ...}.')
    return {str(name): read_points(points, 3, f"zone '{name}'", path) for name, points in value.items()}


def read_project(path: str) -> Any:
    """Return a project, or a demo by `demo:NAME`. Raises `AppError`."""
    from foxpath.demo import demo_project, is_demo
    from foxpath.document import archive

    if is_demo(path):
        return demo_project(path.removeprefix("demo:"))
    return archive.load(Path(path))


def part_called(project: Any, name: str) -> str:
    """Return the id of a part by its name, large or small letters; empty for no name. Raises `InputError` for one there is none of."""
    if not name:
        return ""
    found = next((zone.id for zone in project.zones if zone.name.lower() == name.lower()), None)
    if found is None:
        raise InputError(f"There is no part “{name}”.", f"Parts are {', '.join(z.name for z in project.zones)}.")
    return str(found)


def made_folder(path: str) -> Path:
    """Return a folder, made when it is not there. Raises `AppError`."""
    folder = Path(path)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as failure:
        raise AppError(
            f"{path} cannot be made: {(failure.strerror or '').lower()}.", "Choose another folder."
        ) from None
    return folder


def checked_width(value: int) -> int:
    """Return a width that can be drawn. Raises `InputError`."""
    if not 200 <= value <= 8000:
        raise InputError(f"--width {value} is out of range.", "Give 200 to 8000 pixels.")
    return value


def read_canvas(text: str) -> Any:
    """Return a canvas's size. Raises `InputError`."""
    from foxpath.core.units import parse_size

    try:
        return parse_size(text)
    except AppError as failure:
        raise InputError(f"--canvas: {failure.message}", failure.hint) from None
