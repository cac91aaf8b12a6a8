"""Focal hierarchy: how a painting is finished, ring by ring about the focal point."""

import unittest

import numpy as np

from foxpath.core.passes.hierarchy import hardness, hierarchy

SIZE = 240
Y, X = np.mgrid[0:SIZE, 0:SIZE].astype(np.float32)
R = np.hypot(X - 120, Y - 120)


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
