"""Stop 5, Lengths: how long and wide the marks of each zone are, in millimetres on the canvas."""

from foxpath.core.lengths.coat import COAT_RANGES, CoatEdit, default_coat, measured_mm, resolved

__all__ = ["COAT_RANGES", "CoatEdit", "default_coat", "measured_mm", "resolved"]
