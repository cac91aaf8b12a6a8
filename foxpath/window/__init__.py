"""The Qt interface: trail, bench, course and picture, over one session. Only this package imports PySide6.

shell
    The window round the painting: trail, header, course, foot, papers, keys.
work
    What is worked on: the session, and long work off the interface's thread.
look
    Colours, type, and how lines and signs are drawn.
bench
    The column beside the trail, and its controls.
picture
    The reference or the rehearsal, with rulers, overlays, seeing aids and the glass.
stops
    The list of stops, and a package for each: its bench, what it draws on the picture, what a gesture there means.
"""

from pathlib import Path


def run(path: Path | None, demo: str | None) -> int:
    """Open the window, with a file or a demo; returns the exit status. Imports Qt only here."""
    from foxpath.window.shell.app import run_app

    return run_app(path, demo)
