"""Fit the reference to the canvas: a crop of the canvas's aspect, and the millimetres a pixel is."""

from foxpath.core.frame import Crop
from foxpath.core.units import CanvasSize

FINEST_MM = 0.25
"""The finest mark that a good liner leaves."""


def mm_per_px(crop: Crop, canvas: CanvasSize) -> float:
    """Return the millimetres on the canvas for one reference pixel."""
    return canvas.width_mm / crop.width


def canvas_for(width: float, height: float, canvas: CanvasSize) -> Crop:
    """Return the largest centred crop of a picture (width x height px) with the canvas's aspect."""
    return Crop(0, 0, width, height).largest_with(canvas.aspect)


def fitted(crop: Crop, width: float, height: float, canvas: CanvasSize) -> Crop:
    """Bring a crop to the canvas's aspect and inside the picture, keeping its centre where it can.

    The width is kept when the picture allows it; at least a twentieth of the picture remains.
    """
    largest = canvas_for(width, height, canvas)
    new_width = min(max(crop.width, largest.width / 20), largest.width)
    new_height = new_width / canvas.aspect
    x = crop.x + (crop.width - new_width) / 2
    y = crop.y + (crop.height - new_height) / 2
    x = min(max(x, 0.0), width - new_width)
    y = min(max(y, 0.0), height - new_height)
    return Crop(x, y, new_width, new_height)
