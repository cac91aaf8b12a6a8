"""Light by the clock, read from balls and contours whose light is known."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.reference.compose import Part, Pose, compose
from foxpath.core.reference.light import Catchlight, Light, clock_of, from_catchlights, from_shading, lit_sphere, toward


class Clock(unittest.TestCase):
    def test_twelve_is_above_three_is_right_and_height_comes_to_the_viewer(self):
        for hour, height, wanted in (
            (12, 0, (0, -1, 0)),
            (3, 0, (1, 0, 0)),
            (6, 0, (0, 1, 0)),
            (9, 0, (-1, 0, 0)),
            (5, 90, (0, 0, 1)),
            (3, 30, (np.sqrt(0.75), 0, 0.5)),
        ):
            np.testing.assert_allclose(toward(hour, height), wanted, atol=1e-9)

    def test_there_and_back(self):
        for hour in (0.5, 4.0, 7.25, 11.5):
            for height in (-20, 0, 50):
                self.assertEqual(tuple(round(v, 6) for v in clock_of(3 * toward(hour, height))), (hour, height))


class Catchlights(unittest.TestCase):
    def test_a_spot_half_out_mirrors_a_light_at_twice_its_angle(self):
        # At 0.5 of the radius the surface leans 30 degrees, so the light stands 60 off the viewer: 30 high.
        found = from_catchlights([Catchlight((10, 10), 8, (14, 10))])
        self.assertAlmostEqual(found.hour, 3)
        self.assertAlmostEqual(found.height_deg, 30)
        self.assertAlmostEqual(found.sure, 0.75)
        self.assertEqual(found.why, "one catchlight")

    def test_those_that_agree_are_surer_than_those_that_do_not(self):
        one, same, other = ((10, 10), 8, (14, 10)), ((40, 10), 8, (44, 10)), ((40, 10), 8, (36, 10))
        self.assertAlmostEqual(from_catchlights([Catchlight(*one), Catchlight(*same)]).sure, 0.95)
        # They point 120 degrees apart: their mean is half as long.
        self.assertAlmostEqual(from_catchlights([Catchlight(*one), Catchlight(*other)]).sure, 0.95 / 16)

    def test_a_spot_off_the_ball_says_nothing_and_one_near_its_rim_grazes(self):
        self.assertIsNone(from_catchlights([Catchlight((10, 10), 8, (18.1, 10))]))
        self.assertEqual(from_catchlights([Catchlight((10, 10), 8, (17.5, 10))]).height_deg, 0)


class Shading(unittest.TestCase):
    size = 160
    y, x = np.mgrid[0:160, 0:160] - 79.5
    ball = np.hypot(x, y) < 60

    def lightness(self, hour, height):
        z = np.sqrt(np.clip(1 - (self.x**2 + self.y**2) / 3600, 0, 1))
        n = np.stack([self.x / 60, self.y / 60, z], axis=-1)
        shade = np.clip(n @ toward(hour, height), 0.02, 1)
        return np.where(self.ball, 116 * np.cbrt(0.7 * shade) - 16, 50).astype(np.float32)

    def off(self, a, b):
        return abs((a - b + 6) % 12 - 6)

    def test_a_balls_light_is_read_and_never_settled_by_shading_alone(self):
        for hour, height in ((1.5, 20), (4.0, 40), (9.0, 30), (11.0, 55)):
            found = from_shading(self.lightness(hour, height), self.ball)
            self.assertLess(self.off(found.hour, hour), 0.25)
            self.assertLess(abs(found.height_deg - height), 14)
            self.assertLessEqual(found.sure, 0.6)
            self.assertGreater(found.sure, 0.4)

    def test_a_parts_own_colour_is_not_taken_for_light(self):
        light, parts = self.lightness(10.0, 30), (self.x > 0).astype(np.int16)
        patched = light + 25 * parts
        told = from_shading(patched, self.ball, parts)
        self.assertLess(self.off(told.hour, 10.0), 0.4)
        self.assertGreater(self.off(from_shading(patched, self.ball).hour, 10.0), self.off(told.hour, 10.0))

    def test_flat_light_and_small_animals_say_nothing(self):
        self.assertIsNone(from_shading(np.full((160, 160), 50, np.float32), self.ball))
        self.assertIsNone(from_shading(self.lightness(3, 30), np.hypot(self.x, self.y) < 5))


class Spheres(unittest.TestCase):
    def test_the_brightest_place_looks_to_the_light(self):
        for hour in (1.5, 4.5, 7.5, 10.5):
            light = lab_from_rgb8(lit_sphere(Light(hour, 20, 0, 0.5, 1, 0), 120))[..., 0]
            i, j = np.unravel_index(int(np.argmax(light)), light.shape)
            self.assertLess(abs((clock_of(np.array([j - 59.5, i - 59.5, 0]))[0] - hour + 6) % 12 - 6), 0.4)

    def test_warmth_sky_and_hardness_are_seen(self):
        def lit(**values):
            return lab_from_rgb8(
                lit_sphere(Light(12, 40, **{"warmth": 0.0, "sky": 0.0, "hardness": 0.5} | values), 100)
            )

        plain, warm, cool = lit(), lit(warmth=1.0), lit(warmth=-1.0)
        self.assertGreater(warm[30, 50, 2], plain[30, 50, 2] + 5)
        self.assertLess(cool[30, 50, 2], plain[30, 50, 2] - 5)
        # The sky, from six, lightens and cools what the main light leaves.
        sky = lit(sky=1.0, sky_hour=6.0)
        self.assertGreater(sky[92, 50, 0], plain[92, 50, 0] + 5)
        self.assertLess(sky[92, 50, 2], plain[92, 50, 2] - 3)
        self.assertLess(lit(hardness=1.0)[75, 50, 0], lit(hardness=0.0)[75, 50, 0])
        # Off the ball lies middle grey: L* 50.
        self.assertAlmostEqual(float(plain[2, 2, 0]), 50, delta=0.5)


class Composing(unittest.TestCase):
    def test_a_part_much_reduced_lies_where_it_lies_and_is_averaged(self):
        """Fine stripes become their mean, not one of their tones; a corner stays in its place."""
        for mirrored, turn in ((False, 0.0), (True, 0.0), (False, 90.0)):
            source = np.zeros((400, 400, 3), np.uint8)
            source[:, ::2] = 200
            source[:200, :200] = (255, 0, 0)
            square = np.array([(20.0, 20), (380, 20), (380, 380), (20, 380)])
            affine = Pose(60, 50, 0.2, turn, mirrored).affine(400, 400)
            made = compose(np.full((100, 120, 3), 30, np.uint8), 1.0, [Part(source, square, affine, 1.0, 0.0)])
            # The red quarter: upper left; mirrored upper right; turned clockwise upper right too.
            dx = 1 if mirrored or turn else -1
            np.testing.assert_allclose(made[40, 60 + 10 * dx], (255, 0, 0), atol=6)
            np.testing.assert_allclose(made[60, 60 - 10 * dx], (100, 100, 100), atol=22)
            self.assertTrue((made[:4] == 30).all())
            red = (made[..., 0] > 150) & (made[..., 1] < 60)
            rows, columns = np.nonzero(red)
            self.assertLess(abs(rows.max() - 49.5), 1.6)
            self.assertLess(abs((columns.min() if dx > 0 else columns.max()) - 59.5), 1.6)


if __name__ == "__main__":
    unittest.main()
