"""Stop 3, Growth: the direction of the hair everywhere, from root to tip, and how sure it is.

A zone's growth follows from its combs alone: a screened-Poisson field on a working grid. Zone
borders are barriers, because every zone is solved by itself. Where no comb says anything the
direction is only a guess (away from nose and eyes, and down) and its sureness is 0.
"""

from foxpath.core.growth.draw import draw_combs, draw_doubt, draw_glyphs, to_rgba8
from foxpath.core.growth.field import (
    SURE_ENOUGH,
    CombStroke,
    ZoneField,
    compass_words,
    laying_rank,
    paint_field,
    prior_field,
    zone_field,
)
from foxpath.core.growth.glyphs import HairGlyphs, place_glyphs

__all__ = [
    "SURE_ENOUGH",
    "CombStroke",
    "HairGlyphs",
    "ZoneField",
    "compass_words",
    "draw_combs",
    "draw_doubt",
    "draw_glyphs",
    "laying_rank",
    "paint_field",
    "place_glyphs",
    "prior_field",
    "to_rgba8",
    "zone_field",
]
