"""Greys, blur by distance and posters of pictures whose values are known."""

import unittest

import numpy as np

from foxpath.core.colour import grey_of_lightness
from foxpath.core.reference.squint import acuity_blur_px, even_cuts, greys, lightness_of, poster, squint


def ramp(lights):
    """A picture with one column a lightness."""
    grey = np.array([grey_of_lightness(v) for v in lights], np.uint8)
    return np.repeat(np.tile(grey, (6, 1))[..., None], 3, axis=2)


class Values(unittest.TestCase):
    def test_greys_keep_their_lightness_and_colours_lose_their_hue(self):
        lights = (0, 8, 20, 50, 80, 100)
        np.testing.assert_allclose(lightness_of(ramp(lights))[0], lights, atol=0.4)
        red = np.full((4, 4, 3), (255, 0, 0), np.uint8)
        made = greys(red)
        self.assertAlmostEqual(float(lightness_of(red)[0, 0]), 53.2, delta=0.2)
        self.assertTrue((made == made[0, 0, 0]).all())
        self.assertAlmostEqual(float(lightness_of(made)[0, 0]), 53.2, delta=0.3)

    def test_half_closed_eyes_separate_less_the_farther_they_are(self):
        # One arc minute at 2 m is 0.582 mm, four times that 2.327 mm, as a sigma 0.988 mm.
        self.assertAlmostEqual(acuity_blur_px(2.0, 1.0), 0.988, delta=0.002)
        self.assertAlmostEqual(acuity_blur_px(4.0, 3.0), 6 * acuity_blur_px(2.0, 1.0), places=6)
        picture = ramp((0, 100) * 8)
        self.assertIs(squint(picture, 0.29), picture)
        self.assertLess(np.ptp(squint(picture, 3.0).astype(int)[:, 4:12]), 40)

    def test_cuts_part_the_pictures_own_range_evenly(self):
        light = np.tile(np.linspace(20, 80, 400, dtype=np.float32), (8, 1))
        cuts = even_cuts(light, 3)
        # Of the 1st to the 99th percentile, so that a lone spark shifts nothing.
        np.testing.assert_allclose(cuts, (20.6 + 58.8 / 3, 20.6 + 2 * 58.8 / 3), atol=0.7)
        light[0, :4] = 100
        np.testing.assert_allclose(even_cuts(light, 3), cuts, atol=0.5)
        self.assertEqual(len(even_cuts(light, 7)), 6)

    def test_each_value_stands_in_the_middle_of_its_range(self):
        made = lightness_of(poster(ramp((5, 39, 41, 59, 61, 95)), (40, 60)))[0]
        np.testing.assert_allclose(made, (30, 30, 50, 50, 70, 70), atol=0.4)
        one = lightness_of(poster(ramp((10, 90)), (50,)))[0]
        np.testing.assert_allclose(one, (30, 70), atol=0.4)
        ends = lightness_of(poster(ramp((2, 98)), (10, 90)))[0]
        np.testing.assert_allclose(ends, (0, 100), atol=0.4)
        np.testing.assert_array_equal(poster(ramp((10, 90)), ()), greys(ramp((10, 90))))


if __name__ == "__main__":
    unittest.main()
