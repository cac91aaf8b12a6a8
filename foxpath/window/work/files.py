"""Names of files as dialogs give them."""

import re
from collections.abc import Sequence
from pathlib import Path


def with_ending(name: str, kind: str, endings: Sequence[str]) -> Path:
    """Return a file's name with an ending that can be written.

    Parameters
    ----------
    name : str
        As it was typed, perhaps without an ending or with a foreign one.
    kind : str
        The kind that was chosen beside it, e.g. ``"Combs (*.json)"``; some dialogs give none.
    endings : sequence of str
        What can be written, e.g. ``".json"``; the first is usual.
    """
    path = Path(name)
    if path.suffix.lower() in endings:
        return path
    said = re.search(r"\*(\.\w+)", kind)
    return path.with_name(path.name + (said.group(1) if said and said.group(1) in endings else endings[0]))
