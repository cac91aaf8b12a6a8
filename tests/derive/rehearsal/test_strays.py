"""Strays: hairs that leave the coat over its border, as far as the border's width allows."""

import unittest

import cv2
import numpy as np

from foxpath.core.zones import KINDS
from foxpath.derive import Results
from foxpath.derive.frames import map_frame
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.rehearsal.marks import marks_of
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.strays import OVER_MM, OVER_WIDTHS, stray_marks
from foxpath.derive.zones.shapes import mask_of, zone_index
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Strays(unittest.TestCase):
    def setUp(self):
        self.made, self.results = project(), Results()
        self.zone = self.made.zones[1].id
        self.index = zone_index(self.made, self.zone)

    def graded(self, grade, width_mm):
        return edits.set_edge(self.made, self.zone, self.made.zones[0].id, grade, width_mm)

    def strays(self, made):
        plan = next(p for p in passes_of(self.results, made) if p.role.key == "lights")
        return [marks for _, marks in stray_marks(self.results, made, plan, self.index)]

    def over(self, made):
        """How far the tips of the strays lie beyond the coat, mm."""
        (marks,) = self.strays(made)
        frame = map_frame(made)
        outside = (~mask_of(self.results, made, self.index, frame)).astype(np.uint8)
        away = cv2.distanceTransform(outside, cv2.DIST_L2, 5) * frame.cell_mm
        j, i = np.clip((marks.lines_mm[:, -1] / frame.cell_mm).astype(int), 0, (frame.columns - 1, frame.rows - 1)).T
        return away[i, j]

    def test_they_stand_over_the_border_as_far_as_it_is_wide(self):
        for width in (2.0, 8.0):
            beyond = self.over(self.graded("soft", width))
            self.assertGreater(len(beyond), 5)
            self.assertGreater(float(np.median(beyond)), 0.3)
            # Their share of the length varies from hair to hair.
            self.assertLess(float(np.median(beyond)), OVER_WIDTHS * width + OVER_MM + 1)
        narrow, wide = (float(np.median(self.over(self.graded("soft", w)))) for w in (1.0, 8.0))
        self.assertGreater(wide, narrow + 1)

    def test_a_lost_border_has_few_and_feathers_none(self):
        soft, lost = (len(self.over(self.graded(grade, 6.0))) for grade in ("soft", "lost"))
        self.assertLess(lost, 0.6 * soft)
        plumage = edits.change_zone(self.made, self.zone, kind="covert")
        self.assertTrue(KINDS["covert"].feathers)
        self.assertEqual(self.strays(plumage), [])

    def test_they_are_laid_crisp_and_the_same_each_time(self):
        made = self.graded("soft", 8.0)
        first, again = (rehearse(Results(), made, 400) for _ in range(2))
        lights = next(one for one in first if one.plan.role.key == "lights")
        same = next(one for one in again if one.plan.role.key == "lights")
        np.testing.assert_array_equal(lights.standing.shown, same.standing.shown)
        (marks,) = self.strays(made)
        coat = marks_of(self.results, made, lights.plan, self.index)[1]
        self.assertGreaterEqual(lights.marks, len(coat.half_mm) + len(marks.half_mm))
        self.assertGreaterEqual(float(marks.lightness.min()), lights.plan.l_low - 1e-3)
        self.assertLessEqual(float(marks.lightness.max()), min(lights.plan.l_high, lights.plan.ceiling) + 1e-3)


if __name__ == "__main__":
    unittest.main()
