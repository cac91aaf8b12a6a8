"""Stop 1, Reference: read the picture of the animal and fit it to the canvas."""

from foxpath.core.reference.fit import canvas_for, fitted, mm_per_px
from foxpath.core.reference.picture import FORMATS, MAX_PIXELS, Picture, picture_size, read_picture
from foxpath.core.reference.squint import acuity_blur_px, greys, poster, squint

__all__ = [
    "FORMATS",
    "MAX_PIXELS",
    "Picture",
    "acuity_blur_px",
    "canvas_for",
    "fitted",
    "greys",
    "mm_per_px",
    "picture_size",
    "poster",
    "read_picture",
    "squint",
]
