import unittest

import numpy as np

from foxpath.core.colour import grey_of_lightness, lab_from_rgb8, linear_from_rgb8, rgb8_from_linear
from foxpath.core.reference.squint import acuity_blur_px, even_cuts, greys, lightness_of, poster


class Colour(unittest.TestCase):
    def test_known_values(self):
        """CIELAB of sRGB primaries under D65, as published."""
        rgb = np.array([[255, 255, 255], [0, 0, 0], [255, 0, 0], [0, 0, 255], [119, 119, 119]], np.uint8)
        lab = lab_from_rgb8(rgb)
        known = [[100, 0, 0], [0, 0, 0], [53.24, 80.09, 67.20], [32.30, 79.19, -107.86], [50.03, 0, 0]]
        np.testing.assert_allclose(lab, known, atol=0.06)

    def test_linear_light_and_back(self):
        rgb = np.random.default_rng(1).integers(0, 256, (400, 3)).astype(np.uint8)
        np.testing.assert_array_equal(rgb8_from_linear(linear_from_rgb8(rgb)), rgb)

    def test_aids_keep_lightness(self):
        """Greys keep L*; a poster has as many values as asked for; a longer distance blurs more."""
        rgb = np.random.default_rng(2).integers(0, 256, (40, 40, 3)).astype(np.uint8)
        grey = greys(rgb)
        np.testing.assert_allclose(lab_from_rgb8(grey)[..., 0], lab_from_rgb8(rgb)[..., 0], atol=0.5)
        self.assertEqual(len(np.unique(poster(rgb, even_cuts(lightness_of(rgb), 5)))), 5)
        self.assertGreater(acuity_blur_px(6, 2), acuity_blur_px(3, 2))
        self.assertEqual(grey_of_lightness(100), 255)
