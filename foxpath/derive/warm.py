"""Compile every drawing kernel once: ``python -m foxpath.derive.warm``, or in the background at start."""

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import CombStroke, laying_rank, place_glyphs, prior_field, zone_field
from foxpath.core.growth.draw import draw_doubt, draw_glyphs, to_rgba8
from foxpath.core.rehearsal.stage import bare_canvas, keep, lay, resume, soft_pixels, soften
from foxpath.core.zones import KINDS


def warm() -> None:
    """Run each kernel on a few cells; what is compiled is cached on disk."""
    from foxpath.core.rehearsal.marks import Marks

    frame = Frame.over(Crop(0, 0, 64, 64), 1.0, 64)
    mask = np.zeros(frame.shape, bool)
    mask[16:48, 16:48] = True
    comb = CombStroke(np.array([[20.0, 20.0], [40.0, 40.0]]))
    field = zone_field(mask, [comb], frame, prior_field(frame, np.zeros((0, 2))))
    laying_rank(field)
    glyphs = place_glyphs(field, KINDS["short-fur"].coat, 4.0)
    overlay = np.zeros((64, 64, 4), np.float32)
    affine = np.array([[1.0, 0, 0], [0, 1.0, 0]])
    draw_doubt(overlay, [field], affine)
    draw_glyphs(overlay, [glyphs], affine)
    to_rgba8(overlay)
    canvas = bare_canvas(64, 64)
    line = np.linspace(8, 40, 16).reshape(1, 8, 2).astype(np.float32)
    one = np.ones(1, np.float32)
    lay(canvas, [Marks(line, one, one, np.ones((1, 3), np.float32), one, one, hair=True)], 1.0)
    for blur in (2.0, 8.0):
        soften(canvas, soft_pixels(np.full((8, 8), blur, np.float32), 64, 64, 1.0))
    resume(keep(canvas))


if __name__ == "__main__":
    warm()
