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
from foxpath.core.eyes.finding import FoundEye, find_eye
from foxpath.core.eyes.fit import fit_ellipse
from foxpath.core.eyes.heads import heads_of
from foxpath.core.eyes.lights import Lights, as_catchlights, check_lights, light_at, plan_lights
from foxpath.core.eyes.placement import HeadFrame, check_eyes, head_frame
from foxpath.core.eyes.plausible import Extent, check_size, doubts
from foxpath.core.eyes.steps import EyeStep, plan_steps, size_words
from foxpath.core.eyes.values import EyeValues, check_values, measure_values

__all__ = [
    "LIGHT_WAYS",
    "PUPILS",
    "Ellipse",
    "Extent",
    "Eye",
    "EyeStep",
    "EyeValues",
    "FoundEye",
    "HeadFrame",
    "LightPlan",
    "Lights",
    "angle_of_hour",
    "as_catchlights",
    "check_eyes",
    "check_lights",
    "check_size",
    "check_values",
    "clock",
    "doubts",
    "find_eye",
    "fit_ellipse",
    "head_frame",
    "heads_of",
    "hours_apart",
    "light_at",
    "measure_values",
    "plan_lights",
    "plan_steps",
    "size_words",
    "usual_pupil",
]
