"""Stop 4, Edges: the borders between zones, how soft each is, and how wide its transition.

The width of a transition is measured across the border from 10 to 90 % of the change. A Gaussian
blur of standard deviation s turns a step into a transition of 2.563 s.
"""

from foxpath.core.edges.borders import Border, find_borders
from foxpath.core.edges.grades import (
    GRADES,
    SIGMA_SHARE,
    EdgeLight,
    EdgePlan,
    Grade,
    default_edge,
    even_parts,
    grade_of_width,
    hard_shares,
    shadow_edge,
    softness_map,
)
from foxpath.core.edges.making import Making, making_of
from foxpath.core.edges.markings import MarkingStretch, marking_places, marking_stretches
from foxpath.core.edges.measured import NOTHING, RELIABLE, EdgeReading, read_edge
from foxpath.core.edges.stretches import Stretch, widths_along

__all__ = [
    "GRADES",
    "NOTHING",
    "RELIABLE",
    "SIGMA_SHARE",
    "Border",
    "EdgeLight",
    "EdgePlan",
    "EdgeReading",
    "Grade",
    "Making",
    "MarkingStretch",
    "Stretch",
    "default_edge",
    "even_parts",
    "find_borders",
    "grade_of_width",
    "hard_shares",
    "making_of",
    "marking_places",
    "marking_stretches",
    "read_edge",
    "shadow_edge",
    "softness_map",
    "widths_along",
]
