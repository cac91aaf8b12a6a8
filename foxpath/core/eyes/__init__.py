"""Stop 6, Eyes: where they stand, how round and wet they look, and how they are built up."""

from foxpath.core.eyes.eye import (
    LIGHT_WAYS,
    PUPILS,
    Ellipse,
    Eye,
    LightPlan,
    angle_of_hour,
    clock,
    hours_apart,
    usual_pupil,
)
from foxpath.core.eyes.find import FoundEye, find_eye
from foxpath.core.eyes.fit import fit_ellipse

__all__ = [
    "LIGHT_WAYS",
    "PUPILS",
    "Ellipse",
    "Eye",
    "FoundEye",
    "LightPlan",
    "angle_of_hour",
    "clock",
    "find_eye",
    "fit_ellipse",
    "hours_apart",
    "usual_pupil",
]
