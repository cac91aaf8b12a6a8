"""Feathers: rows of overlapping tiles along the growth, fans of flight feathers, and which of them are worth painting."""

from foxpath.core.feathers.fan import fan_feathers
from foxpath.core.feathers.feathers import GAP_SHARE, Feathers, barbs, gaps, half_px, joined, on_shaft, outline_of, rims
from foxpath.core.feathers.leading import leading, leading_of_fan
from foxpath.core.feathers.tract import TRACT_RANGES, Tract, TractEdit, lay_tract, tract_of

__all__ = [
    "GAP_SHARE",
    "TRACT_RANGES",
    "Feathers",
    "Tract",
    "TractEdit",
    "barbs",
    "fan_feathers",
    "gaps",
    "half_px",
    "joined",
    "lay_tract",
    "leading",
    "leading_of_fan",
    "on_shaft",
    "outline_of",
    "rims",
    "tract_of",
]
