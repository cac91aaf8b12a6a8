"""Stop 5, Lengths: how long and wide the marks are at every place, in millimetres on the canvas, and with which brush."""

from foxpath.core.lengths.choice import BrushChoice, brush_for_hair, brush_for_mass
from foxpath.core.lengths.coat import COAT_RANGES, CoatEdit, default_coat, measured_mm, resolved
from foxpath.core.lengths.field import Hair, LengthField, ZoneLengths, length_field
from foxpath.core.lengths.form import FORMS, Form, foreshortening
from foxpath.core.lengths.kit import DEFAULT_KIT, SHAPES, STATES, Brush, finest_mm, line_brush

__all__ = [
    "COAT_RANGES",
    "DEFAULT_KIT",
    "FORMS",
    "SHAPES",
    "STATES",
    "Brush",
    "BrushChoice",
    "CoatEdit",
    "Form",
    "Hair",
    "LengthField",
    "ZoneLengths",
    "brush_for_hair",
    "brush_for_mass",
    "default_coat",
    "finest_mm",
    "foreshortening",
    "length_field",
    "line_brush",
    "measured_mm",
    "resolved",
]
