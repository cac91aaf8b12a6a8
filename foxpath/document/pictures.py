"""Pictures a project holds: their bytes as they came, and the name under which they lie in its file."""

import hashlib
import re

from foxpath.core.reference import picture_size
from foxpath.core.text import sound_text
from foxpath.document.model import Reference


def reference_of(name: str, data: bytes) -> Reference:
    """Return a picture's record. Raises `PictureError` when the bytes are no picture."""
    name = sound_text(name)
    width, height = picture_size(data, name)
    return Reference(name, data, width, height, hashlib.sha256(data).hexdigest())


def entry_name(reference: Reference) -> str:
    """Return the name under which a picture's bytes lie in the archive."""
    ending = re.sub(r"[^A-Za-z0-9]", "", reference.name.rsplit(".", 1)[-1])[:8].lower() or "picture"
    return f"references/{reference.digest[:16]}.{ending}"
