"""Decode a picture from its bytes: orientation and colour profile applied, hostile input refused."""

import io
import warnings
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from foxpath.core.arrays import Rgb8, frozen
from foxpath.core.errors import PictureError

if TYPE_CHECKING:
    # The decoder is imported where a picture is opened; the start of the program does not wait for it.
    from PIL.Image import Image

FORMATS = {"JPEG": ".jpg", "PNG": ".png", "TIFF": ".tif", "WEBP": ".webp", "MPO": ".jpg"}
"""What is read (the name the decoder gives) and the ending it is kept under."""
MAX_PIXELS = 120_000_000
_ASK = "Open a JPEG, PNG, TIFF or WebP picture."


@dataclass(frozen=True, slots=True, eq=False)
class Picture:
    """A decoded reference.

    Attributes
    ----------
    rgb : (H, W, 3) uint8 sRGB, upright
    scale : float
        Pixels of `rgb` for one pixel of the file, 1 unless a huge picture was reduced.
    """

    rgb: Rgb8
    scale: float = 1.0

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in pixels."""
        return self.rgb.shape[1], self.rgb.shape[0]


def _open(data: bytes, name: str) -> "Image":
    from PIL import Image as Pil

    if not data:
        raise PictureError(f"{name} is empty.", "Copy it from the camera once more.")
    Pil.MAX_IMAGE_PIXELS = None
    try:
        image = Pil.open(io.BytesIO(data), formats=tuple(k for k in FORMATS))
    except Exception:
        # The decoders raise many kinds of error on foreign bytes; to the painter they are one.
        raise PictureError(f"{name} is not a picture Fox Path can read.", _ASK) from None
    width, height = image.size
    if width * height > MAX_PIXELS:
        raise PictureError(
            f"{name} has {width * height / 1e6:.0f} megapixels.",
            f"Save a copy with at most {MAX_PIXELS / 1e6:.0f} megapixels and open that.",
        )
    if min(width, height) < 16:
        raise PictureError(f"{name} is only {width} x {height} pixels.", "Choose a larger picture.")
    return image


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
    """Decode JPEG, PNG, TIFF or WebP bytes.

    The EXIF orientation is applied, an embedded colour profile is converted to sRGB, transparency is
    laid over white, and 16-bit greys are scaled to 8.

    Raises
    ------
    PictureError
        When the bytes are empty, damaged, cut short, of another kind, or too large.
    """
    from PIL import ImageOps

    image = _open(data, name)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            image.load()
            profile = image.info.get("icc_profile")
            ImageOps.exif_transpose(image, in_place=True)
            image = _to_rgb(image, profile)
            rgb = np.asarray(image)
    except Exception:
        # A cut or damaged file fails anywhere inside the decoder; nothing half-read is kept.
        raise PictureError(f"{name} is damaged or stops half way.", "Copy it from the camera once more.") from None
    return Picture(frozen(np.ascontiguousarray(rgb)))


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
