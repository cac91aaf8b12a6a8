"""Decode a picture from its bytes: orientation and colour profile applied, hostile input refused."""

import io
import warnings
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from foxpath.core.arrays import U16, Rgb8, frozen
from foxpath.core.errors import PictureError

if TYPE_CHECKING:
    # The decoder is imported where a picture is opened; the start of the program does not wait for it.
    from PIL.Image import Image

FORMATS = {"JPEG": ".jpg", "PNG": ".png", "TIFF": ".tif", "WEBP": ".webp", "MPO": ".jpg", "HEIF": ".heic"}
"""What is read (the name the decoder gives) and the ending it is kept under."""
MAX_PIXELS = 260_000_000
WORK_PIXELS = 48_000_000
"""A larger picture is worked on as a reduced copy; its own bytes stay as they are."""
_ASK = "Open a JPEG, PNG, TIFF, WebP or HEIC picture."
_OTHERS = (
    (b"%PDF", "a PDF document"),
    (b"PK\x03\x04", "a ZIP archive or an office document"),
    (b"GIF8", "a GIF animation"),
    (b"BM", "a BMP picture"),
    (b"8BPS", "a layered picture of an image editor"),
    (b"<!DOC", "a web page"),
    (b"<html", "a web page"),
    (b"<?xml", "an XML or SVG file"),
    (b"<svg", "an SVG drawing"),
    (b"\x1aE\xdf\xa3", "a video"),
)
"""How other things that are given a picture's name begin."""


@dataclass(frozen=True, slots=True, eq=False)
class Picture:
    """A decoded reference.

    Attributes
    ----------
    rgb : (H, W, 3) uint8 sRGB, upright
    scale : float
        Pixels of `rgb` for one pixel of the file, 1 unless a huge picture was reduced.
    deep : (H, W, 3) uint16 sRGB or None
        The same picture as finely as the file holds it, when that is finer than a byte.
    """

    rgb: Rgb8
    scale: float = 1.0
    deep: U16 | None = None

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in pixels."""
        return self.rgb.shape[1], self.rgb.shape[0]


def _open(data: bytes, name: str) -> "Image":
    from PIL import Image as Pil
    from PIL import JpegImagePlugin, MpoImagePlugin, PngImagePlugin, TiffImagePlugin, WebPImagePlugin

    if not data:
        raise PictureError(f"{name} is empty.", "Copy it from the camera once more.")
    Pil.MAX_IMAGE_PIXELS = None
    if data[4:8] == b"ftyp":
        # The decoder of phone pictures is registered only when one is opened.
        import pillow_heif

        pillow_heif.register_heif_opener()
    # Naming the decoders loads them; Pillow would otherwise look for more than thirty.
    _ = (JpegImagePlugin, MpoImagePlugin, PngImagePlugin, TiffImagePlugin, WebPImagePlugin)
    try:
        image = Pil.open(io.BytesIO(data), formats=tuple(k for k in FORMATS if k in Pil.OPEN))
    except Exception:
        # The decoders raise many kinds of error on foreign bytes; to the painter they are one.
        raise PictureError(f"{name} is {_what_it_is(data)}.", _ASK) from None
    width, height = image.size
    if width * height > MAX_PIXELS:
        raise PictureError(
            f"{name} has {width * height / 1e6:.0f} megapixels.",
            f"Save a copy with at most {MAX_PIXELS / 1e6:.0f} megapixels and open that.",
        )
    if min(width, height) < 16:
        raise PictureError(f"{name} is only {width} x {height} pixels.", "Choose a larger picture.")
    return image


def _what_it_is(data: bytes) -> str:
    """Say what bytes that are no picture seem to be."""
    head = data[:64].lstrip().lower()
    for begin, words in _OTHERS:
        if head.startswith(begin.lower()):
            return f"not a picture Fox Path can read: it looks like {words}"
    if data[4:8] == b"ftyp":
        return "a video, or a phone picture of a kind Fox Path cannot read"
    return "not a picture Fox Path can read"


def picture_size(data: bytes, name: str) -> tuple[int, int]:
    """Return (width, height) in upright pixels, reading the header only. Raises `PictureError`."""
    image = _open(data, name)
    try:
        orientation = image.getexif().get(274, 1)
    except Exception:
        # A broken EXIF block says nothing about the picture: read it as it lies.
        orientation = 1
    width, height = image.size
    return (height, width) if orientation in (5, 6, 7, 8) else (width, height)


def read_picture(data: bytes, name: str) -> Picture:
    """Decode JPEG, PNG, TIFF, WebP or HEIC bytes.

    The EXIF orientation is applied, an embedded colour profile is converted to sRGB, transparency is
    laid over white. Sixteen bits a colour are kept in `Picture.deep` as well. A picture of more than
    `WORK_PIXELS` is reduced by whole factors.

    Raises
    ------
    PictureError
        When the bytes are empty, damaged, cut short, of another kind, or too large.
    """
    from PIL import ImageOps

    image = _open(data, name)
    whole = max(image.size)
    step = _step(*image.size)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            if step > 1:
                # JPEG can leave half of its pixels in the file; the rest is averaged.
                image.draft(None, (image.width // step, image.height // step))
            image.load()
            profile = image.info.get("icc_profile")
            orientation = image.getexif().get(274, 1)
            deep = _deep(data, orientation) if step == 1 and image.format in {"PNG", "TIFF"} and not profile else None
            # Reduced first: everything after it takes as many copies as it likes.
            image = _reduced(image, _step(*image.size))
            ImageOps.exif_transpose(image, in_place=True)
            image = _to_rgb(image, profile)
            rgb = np.asarray(image)
    except Exception:
        # A cut or damaged file fails anywhere inside the decoder; nothing half-read is kept.
        raise PictureError(f"{name} is damaged or stops half way.", "Copy it from the camera once more.") from None
    return Picture(frozen(np.ascontiguousarray(rgb)), max(image.size) / whole, deep)


def _step(width: int, height: int) -> int:
    """Return by what a picture is reduced to be worked on."""
    step = 1
    while (width // step) * (height // step) > WORK_PIXELS:
        step += 1
    return step


STRIP_ROWS = 64
"""So many rows of a reduced picture are made at a time."""


def _reduced(image: "Image", step: int) -> "Image":
    """Return a picture averaged down by a whole factor; where it is seen through, colours count by how much they cover."""
    from PIL import Image as Pil

    if step == 1:
        return image
    if image.mode in {"P", "PA"} or "transparency" in image.info:
        return _strips(image, step, "RGBA", "RGBa")
    if image.mode in {"RGBA", "LA"}:
        return _strips(image, step, "RGBA", "RGBa")
    if image.mode in {"I;16", "I;16B", "I;16L", "1"}:
        wide = "I" if image.mode.startswith("I") else "L"
        return _strips(image, step, wide, wide)
    made: Pil.Image = image.reduce(step)
    made.info = image.info
    return made


def _strips(image: "Image", step: int, mode: str, between: str) -> "Image":
    """Reduce a picture strip by strip in another mode, so that only the result is ever whole."""
    from PIL import Image as Pil

    width, height = -(-image.width // step), -(-image.height // step)
    made = Pil.new(mode, (width, height))
    made.info = {key: value for key, value in image.info.items() if key != "transparency"}
    for top in range(0, height, STRIP_ROWS):
        part = image.crop((0, top * step, image.width, min((top + STRIP_ROWS) * step, image.height)))
        part.info = image.info
        part = part.convert(mode).convert(between).reduce(step)
        made.paste(part.convert(mode), (0, top))
    return made


def _deep(data: bytes, orientation: int) -> U16 | None:
    """Return a picture's sixteen bits a colour, upright; None when it has eight, or more than three colours."""
    import cv2

    if b"IHDR" in data[:24] and data[24:25] != b"\x10":
        return None
    found = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
    if found is None or found.dtype != np.uint16 or (found.ndim == 3 and found.shape[2] != 3):
        return None
    rgb = np.repeat(found[..., None], 3, axis=2) if found.ndim == 2 else found[..., ::-1]
    if orientation in (2, 4, 5, 7):
        rgb = rgb[:, ::-1]
    if orientation in (3, 4):
        rgb = rgb[::-1, ::-1]
    turns = {5: 1, 6: 3, 7: 3, 8: 1}.get(orientation, 0)
    made: U16 = frozen(np.ascontiguousarray(np.rot90(rgb, turns)))
    return made


def _to_rgb(image: "Image", profile: bytes | None) -> "Image":
    from PIL import Image as Pil
    from PIL import ImageCms

    if image.mode in {"I;16", "I;16B", "I;16L", "I"}:
        values = np.asarray(image, dtype=np.float32) / 257
        return Pil.fromarray(np.clip(values + 0.5, 0, 255).astype(np.uint8)).convert("RGB")
    if image.mode in {"RGBA", "LA", "PA"} or "transparency" in image.info:
        over = image.convert("RGBA")
        flat = Pil.new("RGBA", over.size, (255, 255, 255, 255))
        flat.alpha_composite(over)
        image = flat.convert("RGB")
    if profile and image.mode in {"RGB", "CMYK", "L"}:
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            target = ImageCms.createProfile("sRGB")
            return ImageCms.profileToProfile(image, source, target, outputMode="RGB") or image.convert("RGB")
        except ImageCms.PyCMSError:
            # A profile that does not fit its picture is ignored, as every viewer does.
            return image.convert("RGB")
    return image if image.mode == "RGB" else image.convert("RGB")
