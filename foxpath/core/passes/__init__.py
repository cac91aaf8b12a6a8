"""Stop 7, Passes: the ordered layers, darks to highlights, made from the zones."""

from foxpath.core.passes.check import Finding, check_passes
from foxpath.core.passes.plan import PASS_RANGES, ROLES, PassEdit, PassPlan, Role, ZoneFacts, brush_words, plan_passes
from foxpath.core.passes.schools import USUAL, School, schools

__all__ = [
    "PASS_RANGES",
    "ROLES",
    "USUAL",
    "Finding",
    "PassEdit",
    "PassPlan",
    "Role",
    "School",
    "ZoneFacts",
    "brush_words",
    "check_passes",
    "plan_passes",
    "schools",
]
