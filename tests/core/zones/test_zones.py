import unittest

import numpy as np

from foxpath.core.curves import closed_curve, inside, open_curve, simplify
from foxpath.core.edges import default_edge, find_borders, grade_of_width, softness_map, widths_along
from foxpath.core.frame import Crop, Frame
from foxpath.core.zones import KINDS, ZoneShape, area_cm2, fill, inscribed_mm, label_map

FRAME = Frame.over(Crop(0, 0, 200, 160), 1.0, 200)


def box(x0, y0, x1, y1, depth):
    """A rectangle dense enough that its smooth outline keeps its corners within half a pixel."""
    n = 20
    top = [(x0 + (x1 - x0) * k / n, y0) for k in range(n)]
    right = [(x1, y0 + (y1 - y0) * k / n) for k in range(n)]
    low = [(x1 - (x1 - x0) * k / n, y1) for k in range(n)]
    left = [(x0, y1 - (y1 - y0) * k / n) for k in range(n)]
    return ZoneShape(np.array(top + right + low + left, float), depth)


BACK = ZoneShape(np.zeros((0, 2)), 0)


class Filling(unittest.TestCase):
    def test_area_of_a_circle(self):
        t = np.linspace(0, 2 * np.pi, 40, endpoint=False)
        circle = closed_curve(np.stack([100 + 50 * np.cos(t), 80 + 50 * np.sin(t)], 1))
        mask = fill(circle, (160, 200))
        self.assertAlmostEqual(mask.sum() / (np.pi * 2500), 1, delta=0.005)
        self.assertAlmostEqual(area_cm2(mask, FRAME), np.pi * 25, delta=0.4)
        self.assertAlmostEqual(inscribed_mm(mask, FRAME), 100, delta=3)

    def test_agrees_with_point_tests(self):
        rng = np.random.default_rng(3)
        polygon = rng.random((7, 2)) * (60, 50) - 5
        mask = fill(polygon, (40, 50))
        y, x = np.mgrid[0:40, 0:50] + 0.5
        np.testing.assert_array_equal(mask, inside(polygon, x.ravel(), y.ravel()).reshape(40, 50))

    def test_front_zone_wins_and_whiskers_hide_nothing(self):
        front = box(50, 40, 150, 120, 2)
        whisker = ZoneShape(box(20, 20, 180, 140, 5).points, 5, cover=False)
        labels = label_map([BACK, front, box(20, 20, 100, 100, 1), whisker], FRAME)
        self.assertEqual(labels[80, 80], 1)
        self.assertEqual(labels[30, 30], 2)
        self.assertEqual(labels[5, 5], 0)

    def test_drawn_strokes_lose_no_corner(self):
        line = np.array([[0, 0], [1, 0.01], [2, 0], [3, 0.02], [4, 0], [4, 3.0]])
        kept = simplify(line, 0.1)
        np.testing.assert_array_equal(kept, [[0, 0], [4, 0], [4, 3]])
        np.testing.assert_allclose(open_curve(kept)[[0, -1]], [[0, 0], [4, 3]])


class Edges(unittest.TestCase):
    def test_border_lengths(self):
        """A square before a background has one border; a square half over another shares it out."""
        shapes = [BACK, box(40, 40, 100, 100, 1), box(80, 40, 140, 100, 2)]
        found = {(b.front, b.back): b.length_mm for b in find_borders(shapes, label_map(shapes, FRAME), FRAME)}
        self.assertAlmostEqual(found[2, 1], 60, delta=5)
        self.assertAlmostEqual(found[2, 0], 180, delta=6)
        self.assertAlmostEqual(found[1, 0], 140, delta=6)
        self.assertNotIn((1, 2), found)

    def test_rule_hardens_toward_the_focal_point_and_the_eye(self):
        fur, sky, eye = KINDS["long-fur"], KINDS["background"], KINDS["eye"]
        near, far = (default_edge(fur, sky, 1, mm, 640) for mm in (10, 300))
        self.assertLess(near.width_mm, far.width_mm)
        self.assertEqual(default_edge(eye, fur, 1, 0, 640).grade, "hard")
        self.assertIn("focal", near.reason)
        for width, grade in ((0.5, "hard"), (1.6, "firm"), (5, "soft"), (13, "lost")):
            self.assertEqual(grade_of_width(width), grade)

    def test_softness_follows_the_width(self):
        shapes = [BACK, box(40, 40, 140, 120, 1)]
        border = find_borders(shapes, label_map(shapes, FRAME), FRAME)[0]

        def banded(width_mm):
            return [
                (run, along, (1, 0))
                for run, along in zip(border.runs, widths_along(border, width_mm, (), 1.0), strict=True)
            ]

        soft = softness_map(banded(10.0), FRAME)
        self.assertAlmostEqual(float(soft[80, 140]), 10 / 2.563, delta=0.3)
        self.assertEqual(float(soft[80, 90]), 0)
        self.assertFalse(softness_map(banded(0.2), FRAME).any())
