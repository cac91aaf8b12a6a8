"""A rehearsal as layers and as a film: OpenRaster with one layer a pass, animated WebP or GIF of the build-up.

OpenRaster after the baseline of its 0.0.6 description: a ZIP whose first entry is an uncompressed `mimetype`, with
`stack.xml`, the layers as PNG, the merged picture and a thumbnail.
"""

import io
import zipfile
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from xml.sax.saxutils import quoteattr

import numpy as np

from foxpath.core.arrays import Rgb8
from foxpath.core.errors import InputError
from foxpath.sheets.pictures import write_file

FILMS = (".webp", ".gif")
_STAMP = (1980, 1, 1, 0, 0, 0)
_THUMB = 256


@dataclass(frozen=True, slots=True, eq=False)
class Painted:
    """A pass: its name, and the (H, W, 3) uint8 painting as it stands after it."""

    name: str
    picture: Rgb8


def _png(array: np.ndarray) -> bytes:
    from PIL import Image

    buffer = io.BytesIO()
    Image.fromarray(array).save(buffer, "PNG", compress_level=4)
    return buffer.getvalue()


def layers_of(passes: Sequence[Painted]) -> list[np.ndarray]:
    """Return (H, W, 4) uint8 layers that, laid over one another, give each pass exactly: each covers what it changed."""
    made, before = [], None
    for one in passes:
        rgba = np.zeros((*one.picture.shape[:2], 4), np.uint8)
        changed = np.ones(one.picture.shape[:2], bool) if before is None else (one.picture != before).any(axis=2)
        rgba[changed, :3] = one.picture[changed]
        rgba[changed, 3] = 255
        made.append(rgba)
        before = one.picture
    return made


def write_layers_file(passes: Sequence[Painted], path: Path) -> int:
    """Write an OpenRaster file, first pass lowest; returns the number of layers.

    Raises
    ------
    InputError
        Without a pass.
    AppError
        When the file cannot be written.
    """
    from PIL import Image

    if not passes:
        raise InputError("There is no pass to write.", "Turn a pass on.")
    layers = layers_of(passes)
    height, width = passes[0].picture.shape[:2]
    rows = [
        f'  <layer name={quoteattr(one.name)} src="data/layer{k:02d}.png" x="0" y="0" opacity="1.0" visibility="visible" '
        'composite-op="svg:src-over"/>'
        for k, one in enumerate(passes)
    ]
    # The stack is written from the top down.
    inside = "\n".join(rows[::-1])
    stack = (
        f'<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.3" w="{width}" h="{height}">\n <stack>\n{inside}\n'
        " </stack>\n</image>\n"
    )
    last = passes[-1].picture
    small = Image.fromarray(last)
    small.thumbnail((_THUMB, _THUMB))
    entries = [
        ("mimetype", b"image/openraster"),
        ("stack.xml", stack.encode()),
        *((f"data/layer{k:02d}.png", _png(layer)) for k, layer in enumerate(layers)),
        ("mergedimage.png", _png(last)),
        ("Thumbnails/thumbnail.png", _png(np.asarray(small))),
    ]
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        for name, data in entries:
            archive.writestr(zipfile.ZipInfo(name, _STAMP), data, zipfile.ZIP_STORED)
    write_file(path, buffer.getvalue())
    return len(layers)


def write_film(frames: Sequence[Rgb8], path: Path, ms: int = 80, last_ms: int = 2500) -> int:
    """Write an animated WebP or GIF that ends on the finished painting; returns the number of frames.

    Raises
    ------
    InputError
        For another ending, or without a frame.
    AppError
        When the file cannot be written.
    """
    from PIL import Image

    kind = path.suffix.lower()
    if kind not in FILMS:
        raise InputError(f"A film cannot be written as '{kind or path.name}'.", "Name it .webp or .gif.")
    if not frames:
        raise InputError("There is no pass to show.", "Turn a pass on.")
    images = [Image.fromarray(frame) for frame in frames]
    times = [ms] * (len(images) - 1) + [last_ms]
    buffer = io.BytesIO()
    how = {"quality": 82, "method": 2} if kind == ".webp" else {"optimize": False}
    images[0].save(
        buffer, kind[1:].upper(), save_all=True, append_images=images[1:], duration=times, loop=0, **how
    )  # fmt: skip
    write_file(path, buffer.getvalue())
    return len(images)
