"""The touch of a brush: a mark's line and outline (`strokes`), and painting many of them exactly (`raster`).

Everything that shows hair uses it: the growth's glyphs, the rehearsal, the sheets and the demo picture.
"""

from foxpath.core.brush.raster import paint_outlines, worker_count
from foxpath.core.brush.strokes import POINTS, dab_profile, hair_profile, outlines, trace

__all__ = ["POINTS", "dab_profile", "hair_profile", "outlines", "paint_outlines", "trace", "worker_count"]
