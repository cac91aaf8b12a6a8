"""Photographs of the canvas as they are kept: upright, and no larger than they serve."""

import hashlib
import io
from dataclasses import replace
from datetime import datetime

import numpy as np

from foxpath.core.errors import PictureError
from foxpath.core.progress.spots import BORDERS
from foxpath.core.reference import picture_size
from foxpath.core.reference.picture import read_picture
from foxpath.core.text import sound_text
from foxpath.document.model import CanvasPhoto, Reference

LONGEST_PX, MOST_BYTES, QUALITY = 4200, 6 * 2**20, 92
"""A photograph that is larger is kept as a reduced JPEG: hairs of a quarter of a millimetre are still seen in it on half a metre."""
MOST = 40
LATEST = 2200


def kept_photo(name: str, data: bytes) -> Reference:
    """Return a photograph's record, turned upright and bounded in size.

    Raises
    ------
    PictureError
        When the bytes are no picture, or too small a one.
    """
    from PIL import Image

    name = sound_text(name) or "photograph"
    picture = read_picture(data, name).rgb
    height, width = picture.shape[:2]
    upright = (width, height) == _as_stored(data)
    if max(width, height) <= LONGEST_PX and len(data) <= MOST_BYTES and upright and data[:2] == b"\xff\xd8":
        return Reference(name, data, width, height, hashlib.sha256(data).hexdigest())
    image = Image.fromarray(np.ascontiguousarray(picture))
    image.thumbnail((LONGEST_PX, LONGEST_PX), Image.Resampling.LANCZOS)
    packed = io.BytesIO()
    image.save(packed, "JPEG", quality=QUALITY, subsampling=0)
    made = packed.getvalue()
    stem = name.rsplit(".", 1)[0] or "photograph"
    return Reference(f"{stem}.jpg", made, image.width, image.height, hashlib.sha256(made).hexdigest())


def _as_stored(data: bytes) -> tuple[int, int]:
    """Return width and height of a picture as its rows lie in the file, before it is turned."""
    from PIL import Image

    with Image.open(io.BytesIO(data)) as image:
        turned = image.getexif().get(0x0112, 1)
        return image.size if turned in (0, 1) else (0, 0)


def taken_at(data: bytes) -> datetime | None:
    """Return when a photograph was taken, by its own record; None where it has none."""
    from PIL import Image

    try:
        with Image.open(io.BytesIO(data)) as image:
            record = image.getexif()
            text = record.get_ifd(0x8769).get(0x9003) or record.get(0x0132)
            return datetime.strptime(str(text), "%Y:%m:%d %H:%M:%S") if text else None  # noqa: DTZ007  (a wall clock's)
    except (OSError, ValueError, SyntaxError, TypeError):
        return None


def sound_photos(photos: tuple[CanvasPhoto, ...]) -> tuple[CanvasPhoto, ...]:
    """Return photographs of a file without those that cannot be: of no moment, or of an id that comes twice; corners that are not four go."""
    made: dict[str, CanvasPhoto] = {}
    for one in photos[:MOST]:
        try:
            moment = datetime.fromisoformat(one.taken)
        except ValueError:
            continue
        if moment.tzinfo is None and 1990 <= moment.year <= LATEST:
            good = one if len(one.corners) in (0, 4) else replace(one, corners=())
            made.setdefault(one.id, good if good.border in ("", *BORDERS) else replace(good, border=""))
    return tuple(made.values())


def check_picture(reference: Reference) -> None:
    """Raise `PictureError` for a photograph too small to show anything."""
    width, height = picture_size(reference.data, reference.name)
    if min(width, height) < 400:
        raise PictureError(f"{reference.name} is only {width} × {height} px.", "Take the camera's own file.")
