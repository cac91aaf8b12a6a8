"""Where the program may keep things of its own: the user's folders, or the machine's temporary one where there are none."""

import os
import tempfile
from pathlib import Path


def home() -> Path | None:
    """Return the user's home, or None for a user who has none or is not known."""
    try:
        found = Path.home()
    except (RuntimeError, KeyError):
        return None
    return found if str(found) not in ("", "/") and found.is_dir() else None


def temporary() -> Path:
    """Return a folder of this user's in the machine's temporary one (not made yet)."""
    return Path(tempfile.gettempdir()) / f"foxpath-{os.getuid()}"


def users(variable: str, under_home: str) -> Path:
    """Return a folder for the program: where a variable says, else under the user's home, else a temporary one.

    Parameters
    ----------
    variable : str
        Name of the environment variable that holds the folder of all programs, e.g. ``"XDG_STATE_HOME"``.
    under_home : str
        That folder's usual place under the home, e.g. ``".local/state"``.
    """
    given, own = os.environ.get(variable), home()
    if given and Path(given).is_absolute():
        return Path(given) / "foxpath"
    return own / under_home / "foxpath" if own is not None else temporary()


def writable(folder: Path) -> bool:
    """Tell whether files can be made in a folder, which is made when it is not there."""
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        with tempfile.NamedTemporaryFile(dir=folder, prefix=".try-"):
            return True
    except OSError:
        return False
