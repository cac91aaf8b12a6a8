"""Masses, thresholds, ladders and gauges of pictures whose values are set."""

import unittest

import numpy as np

from foxpath.core.passes.values import (
    LEAN,
    classify,
    facing,
    gauges,
    histogram,
    ladder,
    read_masses,
    turning_edges,
    two_thresholds,
)

Y, X = np.mgrid[0:200, 0:240].astype(float)
BALL = np.hypot(X - 120, Y - 100) < 80


class Histograms(unittest.TestCase):
    def test_each_two_l_is_a_share_of_the_part_alone(self):
        light = np.array([[0, 1.9, 2, 99.9, 100, 50]], np.float32)
        mask = np.array([[1, 1, 1, 1, 1, 0]], bool)
        found = histogram(light, mask)
        self.assertEqual((found[0], found[1], found[49], found.sum()), (0.4, 0.2, 0.4, 1.0))
        self.assertEqual(histogram(light, ~mask & False).sum(), 0)

    def test_rungs_are_even_and_hold_what_lies_between(self):
        shares = np.zeros(50)
        shares[5], shares[30] = 0.25, 0.75  # L* 10 to 12 and 60 to 62
        rungs = ladder(shares, 5)
        self.assertEqual([(a, b) for a, b, _ in rungs], [(0, 20), (20, 40), (40, 60), (60, 80), (80, 100)])
        np.testing.assert_allclose([s for _, _, s in rungs], [0.25, 0, 0, 0.75, 0], atol=1e-9)
        np.testing.assert_allclose([s for _, _, s in ladder(np.full(50, 0.02), 7)], 1 / 7)
        for steps in (4, 12):
            with self.assertRaises(ValueError):
                ladder(shares, steps)
        self.assertEqual([len(ladder(shares, n)) for n in (5, 11)], [5, 11])

    def test_three_heaps_are_parted_between_them(self):
        for heaps in ((5, 20, 45), (2, 30, 40), (10, 25, 28)):
            shares = np.zeros(50)
            shares[list(heaps)] = (0.2, 0.5, 0.3)
            low, high = two_thresholds(shares)
            self.assertTrue(2 * heaps[0] < low <= 2 * heaps[1] < high <= 2 * heaps[2], (heaps, low, high))


class Parts(unittest.TestCase):
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

    def test_an_area_is_parted_by_its_own_values(self):
        light = np.where(X < 60, 15, np.where(X < 180, 50, 85)).astype(np.float32)
        found = read_masses(light, np.ones(light.shape, bool), np.zeros(light.shape, np.float32), 1.0)
        np.testing.assert_allclose(found.shares, (0.25, 0.5, 0.25))
        self.assertTrue(15 < found.low <= 50 < found.high <= 85)
        self.assertIsNone(read_masses(light, X < 0, light, 1.0))

    def test_a_fold_is_dark_and_a_ridge_light_within_what_surrounds_it(self):
        whole = np.ones(X.shape, bool)
        for tone, name, other in ((42, "crevices", "ridges"), (58, "ridges", "crevices")):
            light = np.where(np.abs(X - 120) < 3, tone, 50).astype(np.float32)
            found = read_masses(light, whole, np.zeros(X.shape, np.float32), 1.0)
            self.assertAlmostEqual(getattr(found, name), 6 / 240, delta=0.012)
            self.assertLess(getattr(found, other), 0.01)

    def test_what_faces_the_light_counts_as_lighter(self):
        light = np.array([30.0, 30, 30, 60, 60, 60], np.float32)
        lit = np.array([0, 1, -1, 0, 1, -1], np.float32)
        just = LEAN * 0.99
        np.testing.assert_array_equal(classify(light, lit, 30 + just, 60 + just), [0, 1, 0, 1, 2, 1])
        np.testing.assert_array_equal(classify(light, 0 * lit, 30.0, 60.0), [1, 1, 1, 2, 2, 2])

    def test_the_contour_faces_outward_and_the_middle_nothing(self):
        found = facing(BALL, (0.0, -1.0), 40.0)
        self.assertGreater(found[24, 120], 0.8)
        self.assertLess(found[176, 120], -0.8)
        self.assertLess(abs(found[100, 42]), 0.1)
        self.assertEqual(found[100, 120], 0)
        self.assertFalse(found[~BALL].any())
        # Half way in it has faded by half.
        self.assertAlmostEqual(float(found[40, 120]), 0.5, delta=0.06)

    def test_gauges_are_the_darkest_and_one_of_the_lightest(self):
        light = np.full(X.shape, 50, np.float32)
        light[np.hypot(X - 60, Y - 70) < 9] = 8
        light[np.hypot(X - 170, Y - 120) < 25] = 80
        light[np.hypot(X - 120, Y - 30) < 1.5] = 100  # a glint
        dark, pale = gauges(light, np.ones(light.shape, bool), 1.0)
        self.assertLess(np.hypot(dark.x - 60.5, dark.y - 70.5), 8)
        self.assertAlmostEqual(dark.light, 8, delta=1)
        self.assertLess(np.hypot(pale.x - 170.5, pale.y - 120.5), 26)
        self.assertAlmostEqual(pale.light, 80, delta=2)
        self.assertIsNone(gauges(light, X < 0, 1.0))

    def test_light_turns_into_shadow_across_the_middle_of_a_lit_ball(self):
        shade = np.where(BALL, 50 + 35 * (120 - X) / 80, 50).astype(np.float32)
        (line, *_) = turning_edges(shade, BALL, (-1.0, 0.0), 1.0)
        self.assertLess(abs(line[:, 0].mean() - 120), 6)
        self.assertGreater(np.ptp(line[:, 1]), 100)
        # Seen with the light from the other side nothing falls away from it there.
        self.assertEqual(turning_edges(shade, BALL, (1.0, 0.0), 1.0), [])
        self.assertEqual(turning_edges(shade, BALL, (-1.0, 0.0), 1.0, least_mm=400.0), [])


if __name__ == "__main__":
    unittest.main()
