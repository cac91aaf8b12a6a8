"""Stop 3, Growth: the direction of the hair everywhere, from root to tip, and how sure it is.

`evidence` reads the hair's axis from the picture, `axis` fuses it with the combs in one robust system and floods
root and tip from the combs, `field` puts both together zone by zone: zone borders are barriers. Where no comb says
anything, root and tip are only a guess (away from nose and eyes, and down) and the sureness stays low.
"""

from foxpath.core.growth.cells import CombStroke
from foxpath.core.growth.draw import draw_combs, draw_doubt, draw_glyphs, to_rgba8
from foxpath.core.growth.evidence import Evidence, read_evidence
from foxpath.core.growth.field import ZoneField, compass_words, laying_rank, paint_field, prior_field, zone_field
from foxpath.core.growth.glyphs import HairGlyphs, place_glyphs, place_streams
from foxpath.core.growth.guidance import OVERRULES_DEG, best_spot, disagreement
from foxpath.core.growth.marks import crown_strokes, donor_strokes, source_strokes, twin_strokes
from foxpath.core.growth.singular import Singular, singular_points, where_words
from foxpath.core.growth.sureness import SURE_ENOUGH

__all__ = [
    "OVERRULES_DEG",
    "SURE_ENOUGH",
    "CombStroke",
    "Evidence",
    "HairGlyphs",
    "Singular",
    "ZoneField",
    "best_spot",
    "compass_words",
    "crown_strokes",
    "disagreement",
    "donor_strokes",
    "draw_combs",
    "draw_doubt",
    "draw_glyphs",
    "laying_rank",
    "paint_field",
    "place_glyphs",
    "place_streams",
    "prior_field",
    "read_evidence",
    "singular_points",
    "source_strokes",
    "to_rgba8",
    "twin_strokes",
    "where_words",
    "zone_field",
]
