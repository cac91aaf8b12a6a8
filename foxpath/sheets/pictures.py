"""Write pictures."""

import io
from pathlib import Path

from foxpath.core.arrays import Rgb8
from foxpath.core.errors import AppError


def write_png(rgb: Rgb8, path: Path, px_per_mm: float | None = None) -> None:
    """Write an (H, W, 3) uint8 picture; with `px_per_mm` it carries its true size. Raises `AppError`."""
    from PIL import Image

    buffer = io.BytesIO()
    dpi = {"dpi": (px_per_mm * 25.4, px_per_mm * 25.4)} if px_per_mm else {}
    Image.fromarray(rgb).save(buffer, "PNG", compress_level=4, **dpi)
    write_file(path, buffer.getvalue())


def write_file(path: Path, data: bytes) -> None:
    """Write a file, or say in one sentence why it cannot be written."""
    try:
        path.write_bytes(data)
    except OSError as failure:
        reason = (failure.strerror or str(failure)).lower()
        raise AppError(f"{path} could not be written: {reason}.", "Choose another folder.") from None
