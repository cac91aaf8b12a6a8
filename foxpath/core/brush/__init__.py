"""The touch of a brush: a mark's line and outline (`strokes`), and painting many of them exactly (`raster`).

Everything that shows hair uses it: the growth's glyphs, the rehearsal, the sheets and the demo picture.
"""

from foxpath.core.brush.raster import differing_tiles, paint_outlines, tile_grid, tiles_at, touched_tiles, worker_count
from foxpath.core.brush.strokes import POINTS, blade_profile, dab_profile, hair_profile, outlines, trace, ways

__all__ = [
    "POINTS",
    "blade_profile",
    "dab_profile",
    "differing_tiles",
    "hair_profile",
    "outlines",
    "paint_outlines",
    "tile_grid",
    "tiles_at",
    "touched_tiles",
    "trace",
    "ways",
    "worker_count",
]
