"""Stop 4, Edges: the borders between zones, how soft each is, and how wide its transition.

The width of a transition is measured across the border from 10 to 90 % of the change. A Gaussian
blur of standard deviation s turns a step into a transition of 2.563 s.
"""

from foxpath.core.edges.borders import Border, find_borders
from foxpath.core.edges.grades import (
    GRADES,
    SIGMA_SHARE,
    EdgePlan,
    Grade,
    default_edge,
    grade_of_width,
    hard_shares,
    softness_map,
)
from foxpath.core.edges.making import Making, making_of
from foxpath.core.edges.measured import NOTHING, EdgeReading, read_edge

__all__ = [
    "GRADES",
    "NOTHING",
    "SIGMA_SHARE",
    "Border",
    "EdgePlan",
    "EdgeReading",
    "Grade",
    "Making",
    "default_edge",
    "find_borders",
    "grade_of_width",
    "hard_shares",
    "making_of",
    "read_edge",
    "softness_map",
]
