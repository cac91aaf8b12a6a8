"""Catchlights by the clock, and ellipses through rims."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.eyes import Ellipse, Eye, LightPlan
from foxpath.core.eyes.fit import distances, fit_ellipse
from foxpath.core.eyes.lights import (
    BALL,
    MIDDLE,
    SKY_AT,
    USUAL_SIZE,
    as_catchlights,
    check_lights,
    light_at,
    mirrored,
    plan_lights,
)
from foxpath.core.reference.light import Light, from_catchlights

MM = 0.25
IRIS = Ellipse(100, 100, 40, 40)


def eye(*spots, key="a", x=0.0, **light):
    """An eye with spots given as (right, down) of its middle in radii."""
    iris = replace(IRIS, cx=100 + x)
    lights = tuple((iris.cx + 40 * u, 100 + 40 * v) for u, v in spots)
    return Eye(key, f"Eye {key}", iris, replace(iris, rx=16, ry=16), lights=lights, light=LightPlan(**light))


class Places(unittest.TestCase):
    def test_a_spot_has_its_hour_its_share_and_its_millimetres(self):
        for spot, hour in (((0, -0.5), 0), ((0.5, 0), 3), ((0, 0.5), 6), ((-0.5, 0), 9)):
            found = light_at(eye(spot), MM)
            self.assertAlmostEqual(found.hour % 12, hour)
            self.assertAlmostEqual(found.distance, 0.5)
            self.assertAlmostEqual(found.mm, 5)
        self.assertIsNone(light_at(eye(), MM))
        self.assertIsNone(light_at(eye((0, 0)), MM, 1))

    def test_what_an_eye_mirrors_says_the_light_again(self):
        for hour, height in ((10.5, 35), (2.0, 60), (12.0, 45)):
            at, share = mirrored(Light(hour, height))
            self.assertAlmostEqual(at % 12, hour % 12)
            a = np.radians(at * 30)
            spot = share * np.sin(a), -share * np.cos(a)
            back = from_catchlights(as_catchlights([eye(spot)]))
            self.assertAlmostEqual(back.hour % 12, hour % 12, places=5)
            self.assertAlmostEqual(back.height_deg, height, places=5)
        self.assertAlmostEqual(mirrored(Light(3, 0))[1], 0.72)
        self.assertAlmostEqual(mirrored(Light(3, 60))[1], np.sin(np.radians(15)) * BALL)


class Plans(unittest.TestCase):
    def plan(self, one, *others, light=None, finest=0.1):
        return plan_lights(one, others, light, MM, finest)

    def test_what_the_photograph_shows_is_the_same_in_both_eyes(self):
        made = self.plan(eye((-0.4, 0)), eye((0, -0.6), key="b", x=200))
        self.assertAlmostEqual(made.hour, 10.5)
        self.assertAlmostEqual(made.distance, 0.5)
        np.testing.assert_allclose(made.at, (100 - 20 * np.sqrt(0.5), 100 - 20 * np.sqrt(0.5)))
        self.assertIn("mean of both", made.reason)
        self.assertIn("photograph shows", self.plan(eye((-0.4, 0))).reason)
        # A spot off the iris is none of its lights.
        self.assertIn("usual window light", self.plan(eye((-1.1, 0))).reason)

    def test_over_twelve_the_mean_stays_near_twelve(self):
        made = self.plan(eye((-0.2, -0.4)), eye((0.2, -0.4), key="b"))
        self.assertAlmostEqual((made.hour + 6) % 12 - 6, 0, places=6)

    def test_the_pictures_light_wins_over_spots_and_the_painter_over_both(self):
        made = self.plan(eye((0.5, 0)), light=Light(10, 35))
        self.assertAlmostEqual(made.hour, 10)
        self.assertIn("is mirrored", made.reason)
        made = self.plan(eye((0.5, 0), hour=1.5, distance=0.3, size_mm=2.0, sky=False), light=Light(10, 35))
        self.assertEqual((made.hour, made.distance, made.size_mm, made.sky), (1.5, 0.3, 2.0, False))
        self.assertEqual(made.reason, "as you decided")

    def test_a_flash_is_moved_out_of_the_middle_unless_that_was_decided(self):
        self.assertAlmostEqual(self.plan(eye((MIDDLE - 0.01, 0))).distance, 0.42)
        self.assertAlmostEqual(self.plan(eye((MIDDLE + 0.01, 0))).distance, MIDDLE + 0.01)
        self.assertAlmostEqual(self.plan(eye((0.05, 0), distance=0.05)).distance, 0.05)

    def test_no_light_is_smaller_than_the_finest_mark(self):
        usual = 2 * USUAL_SIZE * 40 * MM
        self.assertAlmostEqual(self.plan(eye()).size_mm, usual)
        self.assertEqual(self.plan(eye(), finest=5.0).size_mm, 5.0)
        self.assertEqual(self.plan(eye(size_mm=0.01), finest=0.2).size_mm, 0.2)

    def test_the_sky_bends_with_the_ball_in_its_upper_half(self):
        for hour in (1.0, 3.0, 5.5, 7.0, 9.0, 11.5):
            line = self.plan(eye(hour=hour)).sky_line
            off = line - (100, 100)
            np.testing.assert_allclose(np.hypot(*off.T), SKY_AT * 40)
            self.assertLess(off[len(off) // 2, 1], 0)
            # Beside the catchlight, toward twelve: on the light's own side unless that stands within an hour of twelve.
            if 1.3 < hour < 10.7:
                self.assertEqual(bool(off[:, 0].mean() > 0), hour < 6, hour)


class Checks(unittest.TestCase):
    def keys(self, *eyes, light=None):
        return {(f.key, f.level) for f in check_lights(eyes, light, MM)}

    def test_a_flash_is_said(self):
        self.assertIn(("flash", "look"), self.keys(eye((0.1, 0.1))))
        self.assertNotIn(("flash", "look"), self.keys(eye((0.3, 0.1))))
        self.assertIn(("lamps", "look"), self.keys(eye((0.3, 0.1), (0.2, -0.3))))
        self.assertEqual(self.keys(eye()), {("none", "note")})
        self.assertEqual(self.keys(eye(hour=2.0)), set())

    def at(self, hour, key="a"):
        a = np.radians(hour * 30)
        return eye((0.5 * np.sin(a), -0.5 * np.cos(a)), key=key)

    def test_half_an_hour_apart_they_agree_also_over_twelve(self):
        for first, second, level in (
            (10, 10.49, "note"),
            (10, 10.51, "look"),
            (11.8, 0.25, "note"),
            (11.8, 0.35, "look"),
        ):
            self.assertIn(("agree", level), self.keys(self.at(first), self.at(second, "b")), (first, second))
        (found,) = check_lights([self.at(11.8), self.at(0.2, "b")], None, MM)
        self.assertEqual(found.says, "Both catchlights stand at 12 h.")

    def test_a_light_from_elsewhere_is_seen_from_an_hour_and_a_half_on(self):
        for hour, seen in ((10.5, False), (11.9, False), (12.1, True), (8.9, True)):
            found = self.keys(self.at(hour), light=Light(10.5, 35))
            self.assertEqual(("light", "look") in found, seen, hour)


class Fitting(unittest.TestCase):
    def rim(self, ellipse, count=24, reach=2 * np.pi):
        return ellipse.at(np.linspace(0, reach, count, endpoint=False), 1.0)

    def test_three_points_are_a_circle_and_many_an_oval(self):
        made, off = fit_ellipse(self.rim(IRIS, 3))
        self.assertAlmostEqual(made.rx, 40, places=3)
        self.assertAlmostEqual(made.ry, 40, places=3)
        self.assertLess(off, 1e-3)
        true = Ellipse(100, 80, 50, 40, 30)
        made, _ = fit_ellipse(self.rim(true, 60), roundness=0)
        np.testing.assert_allclose((made.cx, made.cy, made.rx, made.ry, made.deg), (100, 80, 50, 40, 30), atol=0.05)
        # The pull to the circle makes it rounder, not smaller.
        pulled, _ = fit_ellipse(self.rim(true, 60), roundness=4)
        self.assertLess(pulled.rx / pulled.ry, made.rx / made.ry)
        self.assertAlmostEqual(pulled.radius, made.radius, delta=0.5)

    def test_one_stray_point_hardly_moves_it_and_is_not_counted(self):
        points = np.vstack([self.rim(IRIS, 24), [(160, 100)]])
        made, off = fit_ellipse(points)
        self.assertLess(np.hypot(made.cx - 100, made.cy - 100), 1)
        self.assertLess(off, 1)

    def test_lines_and_too_few_points_are_refused(self):
        for points in ([(0, 0), (1, 1)], [(0, 0), (10, 0), (20, 0.0), (30, 0)], [(5, 5)] * 6):
            with self.assertRaises(InputError):
                fit_ellipse(np.array(points, float))

    def test_distances_are_outward_and_true_on_a_circle(self):
        found = distances(IRIS, np.array([(150.0, 100), (100, 90), (100, 140)]))
        np.testing.assert_allclose(found, [10, -30, 0], atol=1e-9)
        oval = Ellipse(0, 0, 50, 20, 90)
        np.testing.assert_allclose(distances(oval, np.array([(0.0, 51), (21, 0)])), [1, 1], atol=0.05)


if __name__ == "__main__":
    unittest.main()
