"""Paintings worked on lately, the last canvas, how large screens are: a small file in the user's state folder."""

import json
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from foxpath.core.errors import AppError
from foxpath.core.units import CanvasSize
from foxpath.document import recovery

if TYPE_CHECKING:
    from foxpath.document.model import Project

MOST = 8


@dataclass(frozen=True, slots=True)
class Recent:
    """A painting that was open: its file and name."""

    path: Path
    name: str


def _file() -> Path:
    return recovery.folder().parent / "recent.json"


def _read() -> dict[str, object]:
    try:
        value = json.loads(_file().read_text("utf-8"))
    except (OSError, ValueError):
        return {}
    return value if isinstance(value, dict) else {}


def _write(value: dict[str, object]) -> None:
    from foxpath.document import archive

    try:
        _file().parent.mkdir(parents=True, exist_ok=True)
        archive.write_whole(_file(), json.dumps(value, indent=1).encode())
    except (OSError, AppError):
        # A list of recent files is a comfort; work goes on without it.
        return


def paintings() -> list[Recent]:
    """Return the recent paintings that are still there, newest first."""
    entries = _read().get("paintings")
    listed = [one for one in entries if isinstance(one, dict)] if isinstance(entries, list) else []
    found = [
        Recent(Path(one["path"]), str(one.get("name", "")))
        for one in listed
        if isinstance(one.get("path"), str) and Path(one["path"]).is_file()
    ]
    return found[:MOST]


def remember(path: Path, project: "Project") -> None:
    """Put a painting at the top of the list, and keep its canvas size for the next one."""
    path = path.resolve()
    entries = [{"path": str(path), "name": project.name}]
    entries += [{"path": str(one.path), "name": one.name} for one in paintings() if one.path != path]
    canvas = project.canvas
    _write({**_read(), "paintings": entries[:MOST], "canvas": [canvas.width_mm, canvas.height_mm, canvas.unit]})


def last_canvas() -> CanvasSize:
    """Return the size of the last canvas, 50 x 40 cm at first."""
    value = _read().get("canvas")
    if isinstance(value, list) and len(value) == 3:
        try:
            return CanvasSize(float(value[0]), float(value[1]), "in" if value[2] == "in" else "cm")
        except (TypeError, ValueError):
            # A damaged list of recent files is no reason to complain.
            return CanvasSize(500, 400, "cm")
    return CanvasSize(500, 400, "cm")


def evening() -> bool:
    """Return whether the evening set was in use."""
    return bool(_read().get("evening"))


def remember_evening(*, on: bool) -> None:
    """Keep the choice of day or evening."""
    _write({**_read(), "evening": on})


def screen_px_per_mm(screen: str) -> float | None:
    """Return what a ruler held to this screen gave, pixels for a millimetre; None before that was done."""
    screens = _read().get("screens")
    value = screens.get(screen) if isinstance(screens, dict) else None
    return float(value) if isinstance(value, int | float) and 0.5 < value < 60 else None


def remember_screen(screen: str, px_per_mm: float | None) -> None:
    """Keep what a ruler gave for a screen, or forget it."""
    value = _read()
    known = value.get("screens")
    screens = dict(known) if isinstance(known, dict) else {}
    screens.pop(screen, None)
    if px_per_mm is not None:
        screens[screen] = round(px_per_mm, 4)
    _write({**value, "screens": screens})


def projector_corners() -> list[tuple[float, float]] | None:
    """Return where the four corners lay last on the projector, in shares of its screen; None when straight."""
    value = _read().get("projector")
    if not isinstance(value, list) or len(value) != 4:
        return None
    try:
        corners = [(float(x), float(y)) for x, y in value]
    except (TypeError, ValueError):
        return None
    return corners if all(0 <= v <= 1 for corner in corners for v in corner) else None


def remember_projector(corners: list[tuple[float, float]] | None) -> None:
    """Keep where the four corners lie."""
    _write({**_read(), "projector": corners})
