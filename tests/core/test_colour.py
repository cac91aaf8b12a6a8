import unittest

import numpy as np

from foxpath.core.colour import (
    difference,
    grey_of_lightness,
    lab_bytes,
    lab_from_rgb8,
    linear_from_lab,
    linear_from_rgb,
    linear_from_rgb8,
    rgb8_from_lab,
    rgb8_from_linear,
)
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


PUBLISHED = (
    ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425), ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
    ((50, 2.8361, -74.02), (50, 0, -82.7485), 3.4412), ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0),
    ((50, -1.1848, -84.8006), (50, 0, -82.7485), 1.0), ((50, -0.9009, -85.5211), (50, 0, -82.7485), 1.0),
    ((50, 0, 0), (50, -1, 2), 2.3669), ((50, 2.49, -0.001), (50, -2.49, 0.0009), 7.1792),
    ((50, 2.49, -0.001), (50, -2.49, 0.0011), 7.2195), ((50, -0.001, 2.49), (50, 0.0009, -2.49), 4.8045),
    ((50, -0.001, 2.49), (50, 0.0011, -2.49), 4.7461), ((50, 2.5, 0), (50, 0, -2.5), 4.3065),
    ((50, 2.5, 0), (73, 25, -18), 27.1492), ((50, 2.5, 0), (61, -5, 29), 22.8977),
    ((50, 2.5, 0), (56, -27, -3), 31.903), ((50, 2.5, 0), (58, 24, 15), 19.4535),
    ((50, 2.5, 0), (50, 3.1736, 0.5854), 1.0), ((50, 2.5, 0), (50, 3.2972, 0), 1.0),
    ((50, 2.5, 0), (50, 1.8634, 0.5757), 1.0), ((50, 2.5, 0), (50, 3.2592, 0.335), 1.0),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
    ((63.0109, -31.0961, -5.8663), (62.8187, -29.7946, -4.0864), 1.2630),
    ((61.2901, 3.7196, -5.3901), (61.4292, 2.248, -4.962), 1.8731),
    ((35.0831, -44.1164, 3.7933), (35.0232, -40.0716, 1.5901), 1.8645),
    ((22.7233, 20.0904, -46.694), (23.0331, 14.973, -42.5619), 2.0373),
    ((36.4612, 47.858, 18.3852), (36.2715, 50.5065, 21.2231), 1.4146),
    ((90.8027, -2.0831, 1.441), (91.1528, -1.6435, 0.0447), 1.4441),
    ((90.9257, -0.5406, -0.9208), (88.6381, -0.8985, -0.7239), 1.5381),
    ((6.7747, -0.2908, -2.4247), (5.8714, -0.0985, -2.2286), 0.6377),
    ((2.0776, 0.0795, -1.135), (0.9033, -0.0636, -0.5514), 0.9082),
)  # fmt: skip
"""Pairs of CIELAB and their CIEDE2000, as published with the formula (Sharma, Wu, Dalal 2005, table 1)."""


class Difference(unittest.TestCase):
    def test_it_is_the_published_one_both_ways(self):
        one, other, told = (np.array([row[k] for row in PUBLISHED], float) for k in range(3))
        np.testing.assert_allclose(difference(one, other), told, atol=6e-5)
        np.testing.assert_allclose(difference(other, one), told, atol=6e-5)
        self.assertEqual(float(difference(one, one).max()), 0)

    def test_to_a_grey_the_way_is_the_same_there_and_back(self):
        grey = np.array([50.0, 0.0, 0.0])
        for hue in range(0, 360, 15):
            strong = np.array([52.0, 20 * np.cos(np.radians(hue)), 20 * np.sin(np.radians(hue))])
            self.assertAlmostEqual(float(difference(strong, grey)), float(difference(grey, strong)), places=5)

    def test_a_lightness_far_from_the_middle_counts_less(self):
        def step(lightness):
            return float(difference(np.array([lightness, 0.0, 0]), np.array([lightness + 2.0, 0, 0])))

        # 1 + 0.015 x 40 squared over the root of 20 more, by hand.
        self.assertAlmostEqual(step(89.0), 2 / (1 + 0.015 * 1600 / np.sqrt(1620)), places=4)
        self.assertAlmostEqual(step(49.0), 2, places=4)
        self.assertAlmostEqual(step(9.0), step(89.0), places=4)


class Lab(unittest.TestCase):
    def test_there_and_back(self):
        rgb = np.random.default_rng(1).integers(0, 256, (300, 3)).astype(np.uint8)
        self.assertLessEqual(int(np.abs(rgb8_from_lab(lab_from_rgb8(rgb)).astype(int) - rgb).max()), 1)

    def test_a_picture_is_brought_back_as_single_colours_are(self):
        rgb = np.random.default_rng(4).integers(0, 256, (5, 7, 3)).astype(np.uint8)
        lab = lab_from_rgb8(rgb)
        np.testing.assert_allclose(linear_from_lab(lab)[3, 2], linear_from_lab(lab[3, 2]), atol=1e-6)
        np.testing.assert_allclose(linear_from_lab(lab), linear_from_rgb8(rgb), atol=2e-4)

    def test_levels_between_bytes_are_decoded_on_the_same_curve(self):
        levels = np.arange(256, dtype=np.float32) / 255
        np.testing.assert_allclose(
            linear_from_rgb(levels), linear_from_rgb8(np.arange(256).astype(np.uint8)), atol=1e-6
        )
        between = linear_from_rgb(np.array([-0.2, 0.02, 0.5, 1.4], np.float32))
        np.testing.assert_allclose(between, [0, 0.02 / 12.92, ((0.5 + 0.055) / 1.055) ** 2.4, 1], atol=1e-6)

    def test_bytes_of_a_colour_have_grey_in_the_middle_and_room_on_both_sides(self):
        lab = np.array([[0.0, 0, 0], [100, 0, 0], [50, 80, -80], [50, 400, -400]], np.float32)
        np.testing.assert_array_equal(lab_bytes(lab), [[0, 128, 128], [255, 128, 128], [127, 224, 32], [127, 255, 0]])
