"""The Qt interface: trail, bench, course and picture, over one session.

`main` leads and `papers` deals with files; `studio` is all that works on a painting, made when one is opened.
`session` holds the project, its history and what is being looked at; `runner` does long work off the
interface's thread; `stops` has one module per stop of the trail (its bench and what it draws and
understands on the picture); `picture` shows the reference or the rehearsal with its rulers; `bench`
has the controls; `theme` and `draw` are the look. Only this package imports PySide6.
"""

import os
from pathlib import Path

from foxpath.core.errors import AppError


def run(path: Path | None, demo: str | None) -> int:
    """Open the window, with a file or a demo; returns the exit status. Imports Qt only here.

    Raises
    ------
    AppError
        When there is no screen; Qt itself would end the process.
    """
    if not any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        raise AppError(
            "There is no screen to open a window on.",
            "Start it in a desktop, or use new, growth, plan, rehearse or check, which need none.",
        )
    from foxpath.window.shell.app import run_app

    return run_app(path, demo)
