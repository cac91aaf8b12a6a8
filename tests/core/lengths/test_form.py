"""Hair on a ball, a cylinder and a plane looks shorter by what geometry says."""

import unittest

import numpy as np

from foxpath.core.lengths.coat import CoatEdit, measured_mm, resolved
from foxpath.core.lengths.form import SHORTEST, Form, foreshortening
from foxpath.core.zones.kinds import KINDS

Y, X = (np.mgrid[0:101, 0:101] + 0.0).astype(np.float32)
ALL = np.ones(X.shape, bool)


def along(dx, dy):
    way = np.zeros((*X.shape, 2), np.float32)
    way[...] = (dx, dy)
    return way


class Foreshortening(unittest.TestCase):
    def test_on_a_plane_it_is_the_cosine_of_its_turn_along_and_nothing_across(self):
        for turn in (0, 30, 60):
            form = Form("plane", ((0, 0), (10, 0)), turn)
            np.testing.assert_allclose(
                foreshortening(form, ALL, X, Y, along(1, 0)), np.cos(np.radians(turn)), rtol=1e-4
            )
            np.testing.assert_allclose(
                foreshortening(form, ALL, X, Y, along(-1, 0)), np.cos(np.radians(turn)), rtol=1e-4
            )
            np.testing.assert_allclose(foreshortening(form, ALL, X, Y, along(0, 1)), 1)

    def test_on_a_ball_it_falls_toward_the_rim_along_the_radius_only(self):
        form = Form("ball", ((50, 50), (100, 50)))
        outward, around = (foreshortening(form, ALL, X, Y, way) for way in (along(1, 0), along(0, 1)))
        for x in (50, 60, 80, 95):
            # A unit ball at r = sin(t): along the radius a hair looks cos(t) long.
            wanted = max(np.sqrt(1 - ((x - 50) / 50) ** 2), SHORTEST)
            self.assertAlmostEqual(float(outward[50, x]), wanted, places=3)
            self.assertAlmostEqual(float(around[50, x]), 1, places=5)

    def test_on_a_cylinder_only_what_runs_around_it(self):
        form = Form("cylinder", ((50, 0), (50, 100)))
        around, down = (foreshortening(form, ALL, X, Y, way) for way in (along(1, 0), along(0, 1)))
        np.testing.assert_allclose(down, 1)
        self.assertAlmostEqual(float(around[50, 50]), 1, places=5)
        # The half width is where 96 in 100 of the part lie within: 48 of 50.
        self.assertAlmostEqual(float(around[50, 74]), np.sqrt(1 - (24 / 48) ** 2), delta=0.02)
        np.testing.assert_allclose(around[50, 51:90], around[50, 49:10:-1], atol=1e-3)

    def test_a_ball_without_a_line_takes_the_parts_own_outline(self):
        oval = ((X - 50) / 40) ** 2 + ((Y - 50) / 20) ** 2 <= 1
        shown = foreshortening(Form("ball"), oval, X, Y, along(1, 0))
        self.assertAlmostEqual(float(shown[50, 50]), 1, places=3)
        self.assertLess(float(shown[50, 86]), float(shown[50, 70]))
        self.assertLess(float(shown[50, 70]), 0.99)

    def test_nothing_is_shorter_than_the_least_nor_without_a_form(self):
        steep = Form("plane", ((0, 0), (0, 10)), 85)
        self.assertAlmostEqual(float(foreshortening(steep, ALL, X, Y, along(0, 1)).min()), SHORTEST, places=5)
        for form in (Form(), Form("cube")):
            self.assertTrue((foreshortening(form, ALL, X, Y, along(0, 1)) == 1).all())
        self.assertTrue((foreshortening(steep, ~ALL, X, Y, along(0, 1)) == 1).all())


class Coats(unittest.TestCase):
    def test_what_is_decided_goes_over_the_kind_and_stays_within_its_range(self):
        coat = KINDS["short-fur"].coat
        found = resolved(coat, CoatEdit(length_mm=1e6, spread_deg=-5, stray_share=0.25))
        self.assertEqual((found.length_mm, found.spread_deg, found.stray_share), (300, 0, 0.25))
        self.assertEqual((found.width_mm, found.clump_mm), (coat.width_mm, coat.clump_mm))
        self.assertEqual(resolved(coat, CoatEdit(length_mm=0.0)).length_mm, 0.5)

    def test_a_dragged_hair_is_measured_along_its_bends(self):
        self.assertAlmostEqual(measured_mm(np.array([(0, 0), (3, 4), (3, 10.0)]), 0.5), 5.5)


if __name__ == "__main__":
    unittest.main()
