import io
import unittest

import cv2
import numpy as np
from PIL import Image

from foxpath.core.edges import grade_of_width
from foxpath.core.units import CanvasSize
from foxpath.core.zones import kind_of
from foxpath.derive import Results
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.softness import rehearsed_widths
from foxpath.document import edits
from tests.remembered import remember

setUpModule = remember


def part_on_ground(kind, width_mm):
    """A dark rectangle of one kind on a light ground, combed to the right, its border planned at a width."""
    rgb = np.full((600, 800, 3), (178, 182, 186), np.uint8)
    cv2.rectangle(rgb, (240, 160), (560, 450), (92, 62, 44), -1)
    rgb = np.clip(rgb + np.random.default_rng(3).normal(0, 3, rgb.shape), 0, 255).astype(np.uint8)
    out = io.BytesIO()
    Image.fromarray(rgb).save(out, "PNG")
    project = edits.new_project(out.getvalue(), "made.png", CanvasSize(320, 240))
    corners = np.array([(240, 160), (560, 160), (560, 450), (240, 450)], float)
    sides = [a + (b - a) * t for a, b in zip(corners, np.roll(corners, -1, 0), strict=True) for t in np.arange(8) / 8]
    project, zone = edits.add_zone(project, "Part", kind, np.array(sides))
    if kind_of(kind).hair:
        project, _ = edits.add_comb(project, np.array([[340.0, 300], [460, 300]]), zone)
    return edits.set_edge(project, zone, project.zones[0].id, grade_of_width(width_mm), width_mm)


class Rehearsed(unittest.TestCase):
    """Borders come out as wide in the rehearsal as they were planned."""

    def reading(self, project):
        results = Results()
        done = rehearse(results, project, 1100)
        return rehearsed_widths(done[-1].standing.shown, project, edges_of(results, project))

    def test_planned_widths_are_painted(self):
        for kind, width in (("skin", 3.0), ("short-fur", 7.0), ("long-fur", 4.0)):
            with self.subTest(kind=kind, width=width):
                (found,) = self.reading(part_on_ground(kind, width)).values()
                self.assertAlmostEqual(found / width, 1, delta=0.15)

    def test_a_stretch_is_painted_at_its_own_width(self):
        project = part_on_ground("skin", 8.0)
        front, back = project.zones[1].id, project.zones[0].id
        line = np.array([[240.0, 200], [240, 420]])
        project, _ = edits.add_stretch(project, front, back, line, 2.0)
        results = Results()
        rgb = rehearse(results, project, 1600)[-1].standing.shown
        across = [rgb[600, :, 1].astype(float)[x0:x1] for x0, x1 in ((380, 580), (1020, 1220))]
        steps = [
            float(np.ptp(row)) / float(np.abs(np.gradient(cv2.GaussianBlur(row[None], (0, 0), 2)[0])).max())
            for row in across
        ]
        self.assertLess(steps[0], 0.6 * steps[1])
