"""Which zone lies in front of which, and where the outline between them is seen: round zones, whose lengths are known."""

import unittest

import numpy as np

from foxpath.core.edges.borders import Border, find_borders
from foxpath.core.frame import Crop, Frame
from foxpath.core.zones import label_map
from foxpath.core.zones.map import ZoneShape

FRAME = Frame.over(Crop(0.0, 0.0, 400.0, 300.0), 0.5, 400)
"""A cell is a pixel, and half a millimetre."""


def circle(x, y, radius, depth, *, cover=True):
    t = np.linspace(0, 2 * np.pi, 40, endpoint=False)
    return ZoneShape(np.stack([x + radius * np.cos(t), y + radius * np.sin(t)], axis=1), depth, cover)


GROUND = ZoneShape(np.zeros((0, 2)), 0)


def borders(*shapes):
    made = find_borders(shapes, label_map(shapes, FRAME), FRAME)
    return {(one.front, one.back): one for one in made}


class Borders(unittest.TestCase):
    def test_one_on_bare_canvas_has_its_whole_outline(self):
        found = borders(circle(200, 150, 60, 1))
        self.assertEqual(list(found), [(0, -1)])
        self.assertAlmostEqual(found[0, -1].length_mm, 2 * np.pi * 60 * 0.5, delta=3)
        (run,) = found[0, -1].runs
        np.testing.assert_allclose(np.hypot(*(run - (200, 150)).T), 60, atol=1.0)

    def test_one_before_a_ground_is_in_front_of_it_and_not_the_ground_of_it(self):
        for order in ((GROUND, circle(200, 150, 60, 1)), (circle(200, 150, 60, 1), GROUND)):
            front = next(k for k, one in enumerate(order) if len(one.points))
            self.assertEqual(list(borders(*order)), [(front, 1 - front)])

    def test_of_two_that_overlap_the_one_in_front_has_the_border_and_each_the_rest(self):
        near, far = circle(220, 150, 60, 2), circle(160, 150, 60, 1)
        found = borders(GROUND, far, near)
        self.assertEqual(set(found), {(2, 1), (2, 0), (1, 0)})
        # They lie a radius apart: a third of the near one's outline is seen against the far one, of whose own a third is hidden.
        whole = 2 * np.pi * 60 * 0.5
        self.assertAlmostEqual(found[2, 1].length_mm, whole / 3, delta=3)
        self.assertAlmostEqual(found[2, 0].length_mm, whole * 2 / 3, delta=4)
        self.assertAlmostEqual(found[1, 0].length_mm, whole * 2 / 3, delta=4)
        self.assertTrue((np.concatenate(found[2, 1].runs)[:, 0] < 192).all())
        self.assertTrue((np.concatenate(found[1, 0].runs)[:, 0] < 192).all())
        lengths = [
            one.length_mm for one in find_borders((GROUND, far, near), label_map((GROUND, far, near), FRAME), FRAME)
        ]
        self.assertEqual(lengths, sorted(lengths, reverse=True))

    def test_of_equals_the_later_lies_in_front(self):
        found = borders(circle(160, 150, 60, 1), circle(220, 150, 60, 1))
        self.assertIn((1, 0), found)
        self.assertNotIn((0, 1), found)

    def test_what_is_hidden_what_covers_nothing_and_what_runs_out_of_the_canvas_has_no_border_there(self):
        self.assertEqual(set(borders(circle(200, 150, 20, 1), circle(200, 150, 60, 2))), {(1, -1)})
        self.assertEqual(set(borders(circle(200, 150, 60, 1), circle(200, 150, 20, 2, cover=False))), {(0, -1)})
        half = borders(circle(0, 150, 60, 1))[0, -1]
        self.assertAlmostEqual(half.length_mm, np.pi * 60 * 0.5, delta=3)

    def test_a_joint_of_three_is_no_edge_to_plan(self):
        # The far one looks out by 4 px: its outline there is about 44 px, half as many mm; at 1 px about 22.
        for out, told in ((4, True), (0.05, False)):
            found = borders(GROUND, circle(200 - out, 150, 60, 1), circle(200, 150, 60, 2))
            self.assertEqual((1, 0) in found, told, out)

    def test_the_middle_of_a_border_lies_half_way_along_its_longest_stretch(self):
        short, long = np.array([[0.0, 0], [10, 0]]), np.array([[50.0, 50], [50, 60], [90, 60]])
        np.testing.assert_allclose(Border(1, 0, (short, long), 30.0).middle(), (65, 60), atol=1e-6)


if __name__ == "__main__":
    unittest.main()
