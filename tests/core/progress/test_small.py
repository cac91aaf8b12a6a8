"""Blurs, sizes and masks as the readers of a photograph need them."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.progress.small import blur, blurred_within, disc, grown, lab_of, resized, rgb_of, shrunk


class Blurs(unittest.TestCase):
    def spread(self, sigma, size=241):
        """Deviation of a blurred point along a row, px."""
        point = np.zeros((size, size), np.float32)
        point[size // 2, size // 2] = 1
        row = blur(point, sigma).sum(axis=0)
        x = np.arange(size) - size // 2
        self.assertAlmostEqual(float(row.sum()), 1, delta=0.02)
        return float(np.sqrt((row * x**2).sum() / row.sum()))

    def test_as_wide_as_is_asked_also_where_a_smaller_picture_is_blurred(self):
        for sigma in (0.8, 3.0, 7.9, 8.1, 12.0, 20.0):
            self.assertAlmostEqual(self.spread(sigma) / sigma, 1, delta=0.06, msg=f"{sigma} px")

    def test_what_is_hardly_a_blur_is_none_and_nothing_is_lost_at_the_border(self):
        values = np.random.default_rng(1).random((40, 50)).astype(np.float32)
        np.testing.assert_array_equal(blur(values, 0.14), values)
        self.assertGreater(float(np.abs(blur(values, 0.6) - values).max()), 0.05)
        flat = np.full((60, 70, 3), 7.0, np.float32)
        for sigma in (2.0, 15.0):
            np.testing.assert_allclose(blur(flat, sigma), 7.0, rtol=1e-5)

    def test_what_weighs_nothing_lends_nothing(self):
        values = np.full((30, 40, 3), 50.0, np.float32)
        values[:, 20:] = 900.0
        weights = np.zeros((30, 40), np.float32)
        weights[:, :20] = 1
        np.testing.assert_allclose(blurred_within(values, weights, 3.0)[:, :25], 50.0, rtol=1e-4)
        np.testing.assert_allclose(blurred_within(values[..., 0], weights, 3.0)[:, :25], 50.0, rtol=1e-4)
        half = blurred_within(values, np.full((30, 40), 0.5, np.float32), 3.0)
        np.testing.assert_allclose(half, blur(values, 3.0), rtol=1e-4)


class Sizes(unittest.TestCase):
    def test_shrunk_by_areas_and_never_to_nothing(self):
        values = np.arange(64, dtype=np.float32).reshape(8, 8)
        half = resized(values, 0.5)
        np.testing.assert_allclose(half, values.reshape(4, 2, 4, 2).mean(axis=(1, 3)))
        self.assertEqual(resized(values, 0.01).shape, (2, 2))
        self.assertEqual(resized(values[:, :6], 1.5).shape, (12, 9))
        same = resized(values.astype(np.uint8), 1.0)
        np.testing.assert_array_equal(same, values)
        self.assertEqual(same.dtype, np.float32)


class Colours(unittest.TestCase):
    def test_as_the_precise_ones_within_half_a_unit_and_back_again(self):
        rgb = np.random.default_rng(2).integers(0, 256, (40, 50, 3)).astype(np.uint8)
        np.testing.assert_allclose(lab_of(rgb), lab_from_rgb8(rgb), atol=0.5)
        self.assertLessEqual(int(np.abs(rgb_of(lab_of(rgb)).astype(int) - rgb).max()), 1)
        # Rounded to the nearest level, not down.
        ramp = np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, axis=2)
        np.testing.assert_array_equal(rgb_of(lab_of(ramp)), ramp)
        beyond = rgb_of(np.array([[[120.0, 0, 0], [-10.0, 0, 0]]], np.float32))
        self.assertEqual(beyond.tolist(), [[[255, 255, 255], [0, 0, 0]]])


class Masks(unittest.TestCase):
    def test_grown_and_shrunk_by_a_radius(self):
        mask = np.zeros((41, 41), bool)
        mask[20, 20] = True
        for radius, reach in ((0, 0), (0.4, 0), (2.6, 3), (6, 6)):
            rows, columns = np.nonzero(grown(mask, radius))
            self.assertEqual((rows.min(), rows.max(), columns.min(), columns.max()), (20 - reach, 20 + reach) * 2)
        # Round: its corners are not in it.
        self.assertEqual(grown(mask, 6)[14, 14], 0)
        block = np.zeros((41, 41), bool)
        block[10:31, 10:31] = True
        rows, columns = np.nonzero(shrunk(block, 4))
        self.assertEqual((rows.min(), rows.max(), columns.min(), columns.max()), (14, 26, 14, 26))
        self.assertTrue(shrunk(np.ones((20, 20), bool), 4).all())
        self.assertEqual(disc(-3).shape, (1, 1))


if __name__ == "__main__":
    unittest.main()
