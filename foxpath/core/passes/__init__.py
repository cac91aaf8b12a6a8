"""Stop 7, Passes: the ordered layers, darks to highlights, made from the zones."""

from foxpath.core.passes.check import check_passes
from foxpath.core.passes.own import OwnPass, with_own
from foxpath.core.passes.pace import USUAL_PACE, Logged, Pace, learn
from foxpath.core.passes.plan import (
    PASS_RANGES,
    Estimate,
    PartEdit,
    PassEdit,
    PassPlan,
    ZoneFacts,
    brush_words,
    plan_passes,
)
from foxpath.core.passes.roles import ACTS, HANDLINGS, ROLES, WETNESS, Role
from foxpath.core.passes.schools import USUAL, School, schools
from foxpath.core.passes.veils import Veil
from foxpath.core.passes.ways import WAYS, Ways, bend, under_light

__all__ = [
    "ACTS",
    "HANDLINGS",
    "PASS_RANGES",
    "ROLES",
    "USUAL",
    "USUAL_PACE",
    "WAYS",
    "WETNESS",
    "Estimate",
    "Logged",
    "OwnPass",
    "Pace",
    "PartEdit",
    "PassEdit",
    "PassPlan",
    "Role",
    "School",
    "Veil",
    "Ways",
    "ZoneFacts",
    "bend",
    "brush_words",
    "check_passes",
    "learn",
    "plan_passes",
    "schools",
    "under_light",
    "with_own",
]
