"""The value study: masses, gauges and the turn of the light, recovered from forms whose light is known."""

import unittest

import numpy as np

from foxpath.core.passes.hierarchy import hardness, hierarchy
from foxpath.core.passes.values import (
    classify,
    facing,
    gauges,
    histogram,
    ladder,
    read_masses,
    turning_edges,
    two_thresholds,
)

SIZE = 240
Y, X = np.mgrid[0:SIZE, 0:SIZE].astype(np.float32)
R = np.hypot(X - 120, Y - 120)
BALL = R < 90


def lit_ball():
    """L* of a ball lit from the left: light on one half, a quick turn, shadow on the other."""
    u = (X - 120) / 90
    return np.where(BALL, 75 - 50 / (1 + np.exp(-u * 14)), 50).astype(np.float32)


class Masses(unittest.TestCase):
    def test_three_masses_are_parted_where_they_are(self):
        rng = np.random.default_rng(1)
        light = np.concatenate([rng.normal(20, 3, 4000), rng.normal(50, 3, 3000), rng.normal(85, 3, 3000)]).astype(
            np.float32
        )
        plane = light[None]
        low, high = two_thresholds(histogram(plane, np.ones(plane.shape, bool)))
        self.assertTrue(28 <= low <= 42, low)
        self.assertTrue(58 <= high <= 78, high)
        found = read_masses(plane.reshape(100, 100), np.ones((100, 100), bool), np.zeros((100, 100), np.float32), 4.0)
        np.testing.assert_allclose(found.shares, (0.4, 0.3, 0.3), atol=0.03)
        self.assertAlmostEqual(float(found.histogram.sum()), 1)

    def test_thresholds_lean_with_the_light(self):
        light = np.full((2, 2), 40.0, np.float32)
        toward, away = np.full((2, 2), 0.9, np.float32), np.full((2, 2), -0.9, np.float32)
        self.assertTrue((classify(light, toward, 42, 80) == 1).all())
        self.assertTrue((classify(light, away, 38, 80) == 0).all())

    def test_a_ladder_keeps_the_area_and_refuses_other_steps(self):
        shares = histogram(lit_ball(), BALL)
        for steps in (5, 7, 11):
            rungs = ladder(shares, steps)
            self.assertEqual(len(rungs), steps)
            self.assertAlmostEqual(sum(share for _, _, share in rungs), 1, places=6)
        with self.assertRaises(ValueError):
            ladder(shares, 4)


class Light(unittest.TestCase):
    def test_the_contour_faces_as_a_ball_does(self):
        lit = facing(BALL, (-1.0, 0.0), 90)
        self.assertGreater(float(lit[120, 36]), 0.7)
        self.assertLess(float(lit[120, 204]), -0.7)
        self.assertAlmostEqual(float(lit[120, 120]), 0, delta=0.2)
        self.assertEqual(float(lit[2, 2]), 0)

    def test_the_turn_of_the_light_is_found_on_the_ball(self):
        (line, *_) = turning_edges(lit_ball(), BALL, (-1.0, 0.0), 1.0)
        self.assertAlmostEqual(float(np.median(line[:, 0])), 120, delta=8)
        self.assertGreater(len(line), 80)
        # Lit from the other side nothing falls away from the light there.
        self.assertEqual(turning_edges(lit_ball(), BALL, (1.0, 0.0), 1.0), [])

    def test_gauges_are_the_darkest_and_a_lightest_spot_and_no_glint(self):
        light = np.full((SIZE, SIZE), 50.0, np.float32)
        light[40:60, 40:60], light[150:170, 100:120], light[200, 200] = 8, 90, 100
        dark, lightest = gauges(light, np.ones(light.shape, bool), 2.0)
        self.assertTrue(40 <= dark.x <= 60 and 40 <= dark.y <= 60)
        self.assertTrue(98 <= lightest.x <= 122 and 148 <= lightest.y <= 172)
        self.assertIsNone(gauges(light, np.zeros(light.shape, bool), 2.0))


class Hierarchy(unittest.TestCase):
    def test_detail_near_the_focal_point_is_told_from_equal_finish(self):
        rng = np.random.default_rng(2)
        grain = rng.normal(0, 1, (SIZE, SIZE)).astype(np.float32)
        lab = np.zeros((SIZE, SIZE, 3), np.float32)
        whole = np.ones((SIZE, SIZE), bool)
        lab[..., 0] = 50 + 6 * grain
        self.assertAlmostEqual(hierarchy(lab, whole, (120, 120), 2.0).ratio("detail"), 1, delta=0.1)
        lab[..., 0] = 50 + 8 * grain * np.exp(-R / 60)
        self.assertGreater(hierarchy(lab, whole, (120, 120), 2.0).ratio("detail"), 2)

    def test_hardness_is_told_ring_by_ring(self):
        line = np.stack([np.arange(0.5, 60), np.zeros(60)], axis=1)
        far = np.array([20.0, 40.0, 60.0, 80.0])
        width = np.where(line[:, 0] < 20, 0.5, 4.0)
        found = hardness([(line, width), (line, float("nan"))], (0, 0), far)
        np.testing.assert_allclose(found, [2, 0.25, 0.25, np.nan])


if __name__ == "__main__":
    unittest.main()
