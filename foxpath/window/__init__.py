"""The Qt interface: trail, bench, course and picture, over one session.

`main` leads and `papers` deals with files; `studio` is all that works on a painting, made when one is opened.
`session` holds the project, its history and what is being looked at; `runner` does long work off the
interface's thread; `stops` has one module per stop of the trail (its bench and what it draws and
understands on the picture); `picture` shows the reference or the rehearsal with its rulers; `bench`
has the controls; `theme` and `draw` are the look. Only this package imports PySide6.
"""

from pathlib import Path


def run(path: Path | None, demo: str | None) -> int:
    """Open the window, with a file or a demo; returns the exit status. Imports Qt only here."""
    from foxpath.window.app import run_app

    return run_app(path, demo)
