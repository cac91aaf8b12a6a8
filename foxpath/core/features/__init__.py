"""Nose, mouth, beak, ears, whiskers and paws beside the eyes; their twins mirrored, and the check of a drawing."""

from foxpath.core.features.drawing import (
    Shift,
    Target,
    Verdict,
    check_corners,
    find_shift,
    line_map,
    marked_shift,
    squared_up,
    verdicts,
)
from foxpath.core.features.kinds import FEATURES, Feature, FeatureKind, Part, Stroke
from foxpath.core.features.steps import FeatureStep, check_feature, plan_feature
from foxpath.core.features.symmetry import Ghost, ghosts, twins

__all__ = [
    "FEATURES",
    "Feature",
    "FeatureKind",
    "FeatureStep",
    "Ghost",
    "Part",
    "Shift",
    "Stroke",
    "Target",
    "Verdict",
    "check_corners",
    "check_feature",
    "find_shift",
    "ghosts",
    "line_map",
    "marked_shift",
    "plan_feature",
    "squared_up",
    "twins",
    "verdicts",
]
