"""Compile every drawing kernel once: ``python -m foxpath.derive.warm``, or in the background at start.

A tiny painting goes the whole way, so that each loop is compiled for just the arrays it will meet.
"""

import io

import numpy as np

from foxpath.core.frame import Crop
from foxpath.core.mixes.recipe import Rack, solve
from foxpath.core.mixes.tubes import USUAL_TUBES, named_tubes
from foxpath.core.reference.correction import develop
from foxpath.core.reference.picture import Picture
from foxpath.core.reporting import SILENT
from foxpath.core.units import CanvasSize
from foxpath.derive.lengths.overlay import GrowthOverlay
from foxpath.derive.readings import Read
from foxpath.derive.reference.seeing import Look
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.results import Results
from foxpath.document import edits


def warm() -> None:
    """Run each kernel on a few pixels; what is compiled is cached on disk."""
    from PIL import Image

    ramp = np.linspace(0, 255, 96 * 72 * 3).reshape(72, 96, 3).astype(np.uint8)
    picture = io.BytesIO()
    Image.fromarray(ramp).save(picture, "PNG")
    project = edits.new_project(picture.getvalue(), "warm.png", CanvasSize(40, 30))
    square = np.array([[20.0, 15], [76, 15], [76, 60], [20, 60]])
    project, zone = edits.add_zone(project, "Coat", "long-fur", square)
    project, _ = edits.add_comb(project, np.array([[30.0, 30.0], [60.0, 30.0]]), zone)
    project = edits.set_edge(project, zone, project.zones[0].id, "lost", 12.0)
    results = Results()
    Read(results, project)(SILENT)
    affine = np.array([[2.0, 0, 0], [0, 2.0, 0]])
    GrowthOverlay(results, project, affine, 192, 144, combs=(project.combs[0].points,))(SILENT)
    rehearse(results, project, 240)
    whole, every = Crop(0, 0, 96, 72), frozenset({"falloff", "squint", "greys"})
    Look([ramp], whole, whole, 1.0, project, every)(SILENT)
    for one in (Picture(ramp), Picture(ramp, deep=ramp.astype(np.uint16))):
        develop(one, np.ones(3), 0.5, 0.5)
    solve(Rack(named_tubes(USUAL_TUBES[:4])), np.array([50.0, 10.0, 20.0]))


if __name__ == "__main__":
    warm()
