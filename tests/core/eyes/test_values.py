"""What is measured of an eye's values, on irises drawn by formula: each measure alone, and what is judged of it."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.eyes import Ellipse, Eye
from foxpath.core.eyes.eye import USUAL_PUPIL, angle_of_hour, usual_pupil
from foxpath.core.eyes.values import (
    FLECK_L,
    RIM_L,
    RING_L,
    SHADOW_L,
    SHADOW_SHARE,
    SIDE_L,
    check_values,
    measure_values,
    rays,
)

IRIS = Ellipse(200, 150, 80, 80)
EYE = Eye("e1", "Eye", IRIS, Ellipse(200, 150, 28, 28))


def measured(light, eye=EYE, hue=(0.0, 0.0)):
    """Measure an eye whose L* is a function of place, in radii from the middle (x right, y down)."""

    def read(points):
        u, v = ((np.asarray(points, float) - (200, 150)) / 80).T
        made = np.zeros((len(u), 3), np.float32)
        made[:, 0], made[:, 1], made[:, 2] = light(u, v), *hue
        return made

    return measure_values(eye, read)


def drawn(tone=lambda u, v: 50.0 + 0 * u, pupil=8.0, rim=20.0):
    """An iris of a tone, with its pupil and its rim."""

    def light(u, v):
        r = np.hypot(u, v)
        return np.where(r < 0.36, pupil, np.where(r < 1, tone(u, v), rim))

    return light


class Measured(unittest.TestCase):
    def test_rays_go_from_the_pupil_s_border_to_the_rim(self):
        places, shares = rays(EYE)
        self.assertEqual(shares.shape, (72, 20))
        np.testing.assert_allclose(shares[0, 0], 0.35 + 0.65 * 0.025, atol=1e-6)
        np.testing.assert_allclose(shares[0, -1], 1 - 0.65 * 0.025, atol=1e-6)
        # From twelve o'clock on, with the clock.
        np.testing.assert_allclose(places[0, 5, 0], 200, atol=1e-6)
        self.assertLess(places[0, 5, 1], 150)
        self.assertGreater(places[18, 5, 0], 200)
        # A pupil as wide as the iris leaves a seventh of it, a point of one begins near the middle.
        self.assertAlmostEqual(float(rays(replace(EYE, pupil=Ellipse(200, 150, 79, 79)))[1][0, 0]), 0.85 + 0.15 * 0.025)
        self.assertAlmostEqual(float(rays(replace(EYE, pupil=Ellipse(200, 150, 1, 1)))[1][0, 0]), 0.05 + 0.95 * 0.025)

    def test_a_pupil_that_is_not_marked_yet_has_the_size_of_its_kind(self):
        for kind, (wide, tall) in USUAL_PUPIL.items():
            one = usual_pupil(replace(IRIS, rx=90, ry=70, deg=20), kind)
            radius = replace(IRIS, rx=90, ry=70).radius
            self.assertEqual((one.cx, one.cy, one.rx, one.ry), (200, 150, wide * radius, tall * radius), kind)

    def test_a_flat_eye(self):
        flat = measured(drawn(), hue=(6.0, 14.0))
        np.testing.assert_allclose(flat.iris, (50, 6, 14), atol=0.1)
        self.assertAlmostEqual(flat.pupil, 8)
        self.assertAlmostEqual(flat.rim, 20)
        for name in ("shadow", "side", "ring", "centre", "flecks"):
            self.assertAlmostEqual(getattr(flat, name), 0, delta=0.3, msg=name)
        self.assertEqual(flat.shadow_share, 0)
        np.testing.assert_allclose(flat.along(3.0), 50, atol=0.1)

    def test_a_lid_s_shadow_over_its_share_of_the_height(self):
        for share in (0.2, 0.3, 0.4):
            one = measured(drawn(lambda u, v, share=share: np.where((v + 1) / 2 < share, 34.0, 50.0)))
            self.assertAlmostEqual(one.shadow, 16, delta=1.5)
            self.assertAlmostEqual(one.shadow_share, share, delta=0.05)
        lighter = measured(drawn(lambda u, v: np.where(v < -0.4, 60.0, 50.0)))
        self.assertLess(lighter.shadow, -5)
        self.assertEqual(lighter.shadow_share, 0)

    def test_the_lighter_side_and_by_how_much(self):
        for hour in (2.0, 4.5, 8.0):
            turn = angle_of_hour(hour)
            way = np.cos(turn), np.sin(turn)

            def leaning(u, v, way=way):
                r = np.maximum(np.hypot(u, v), 1e-6)
                return 50 + 4 * (u * way[0] + v * way[1]) / r

            one = measured(drawn(leaning))
            self.assertAlmostEqual(one.side, 8, delta=1.0)
            self.assertAlmostEqual(one.light_hour, hour, delta=0.3)

    def test_ring_and_centre_against_what_lies_between(self):
        one = measured(
            drawn(lambda u, v: np.select([np.hypot(u, v) < 0.51, np.hypot(u, v) > 0.755], [58.0, 41.0], 50.0))
        )
        self.assertAlmostEqual(one.ring, -9, delta=0.8)
        self.assertAlmostEqual(one.centre, 8, delta=0.8)

    def test_veins_are_counted_round_the_clock(self):
        for veins in (6, 9):
            one = measured(drawn(lambda u, v, n=veins: 50 + 5.0 * np.maximum(np.cos(n * np.arctan2(u, -v)), 0) ** 6))
            self.assertEqual(one.veins, veins)
            self.assertGreater(one.flecks, 0.8)

    def test_neither_a_catchlight_nor_the_pupil_counts(self):
        def spotted(u, v):
            return np.where(np.hypot(u - 0.5, v + 0.2) < 0.2, 97.0, 50.0)

        marked = measured(drawn(spotted), replace(EYE, lights=((240.0, 134.0),)))
        self.assertAlmostEqual(float(marked.iris[0]), 50, delta=0.1)
        self.assertAlmostEqual(marked.side, 0, delta=0.5)
        self.assertFalse(marked.seen[:, :1].any())
        self.assertLess(marked.seen.sum(), measured(drawn()).seen.sum())

    def test_along_a_radius_from_the_pupil_outward(self):
        one = measured(drawn(lambda u, v: 30 + 40 * np.hypot(u, v) + np.where(u > 0, 10.0, 0.0)))
        right, left = one.along(3.0), one.along(9.0)
        self.assertTrue((np.diff(right) > 0).all())
        np.testing.assert_allclose(right - left, 10, atol=0.5)
        self.assertEqual(len(one.along(3.0, 9)), 9)


class Judged(unittest.TestCase):
    flat = measured(drawn())

    def said(self, hour=None, **values):
        return {one.key: one for one in check_values(EYE, replace(self.flat, **values), hour)}

    def faults(self, hour=None, **values):
        return {key for key, one in self.said(hour, **values).items() if one.level == "look"}

    def test_a_shadow_that_is_too_weak_or_too_deep(self):
        high = SHADOW_SHARE[1]
        self.assertIn("shadow", self.faults(shadow=0.6 * SHADOW_L - 0.1, shadow_share=0.3))
        self.assertNotIn("shadow", self.faults(shadow=0.6 * SHADOW_L, shadow_share=0.3))
        self.assertNotIn("shadow", self.faults(shadow=SHADOW_L, shadow_share=high))
        self.assertIn("shadow", self.faults(shadow=SHADOW_L, shadow_share=high + 0.01))

    def test_the_lit_side_lies_away_from_the_light(self):
        self.assertIn("side", self.faults(side=SIDE_L - 0.1, light_hour=4.0))
        self.assertNotIn("side", self.faults(side=SIDE_L, light_hour=4.0))
        # Light from ten: lightest at four. Three hours off are borne.
        self.assertNotIn("side", self.faults(10.0, side=SIDE_L, light_hour=7.0))
        self.assertIn("side", self.faults(10.0, side=SIDE_L, light_hour=7.1))
        self.assertIn("side", self.faults(10.0, side=SIDE_L, light_hour=10.0))

    def test_a_rim_that_is_hardly_darker(self):
        iris = np.array([50, 0, 0], np.float32)
        self.assertIn("rim", self.faults(iris=iris, rim=50 - RIM_L + 0.1))
        self.assertNotIn("rim", self.faults(iris=iris, rim=50 - RIM_L))
        # Of a dark iris half its own lightness is asked for.
        dark = np.array([RIM_L, 0, 0], np.float32)
        self.assertIn("rim", self.faults(iris=dark, rim=0.5 * RIM_L + 0.1))
        self.assertNotIn("rim", self.faults(iris=dark, rim=0.5 * RIM_L))

    def test_an_iris_of_one_colour(self):
        self.assertIn("ring", self.faults(ring=RING_L - 0.1, centre=0.1 - RING_L))
        self.assertNotIn("ring", self.faults(ring=RING_L, centre=0.0))
        self.assertNotIn("ring", self.faults(ring=0.0, centre=-RING_L))
        self.assertNotIn("ring", self.faults(ring=0.0, centre=float("nan")))

    def test_what_could_not_be_measured_is_not_judged_and_smoothness_is_no_fault(self):
        none = float("nan")
        names = ("shadow", "side", "rim", "ring", "flecks", "wet")
        self.assertEqual(self.said(**dict.fromkeys(names, none)), {})
        self.assertNotIn("flecks", self.faults(flecks=0.1))
        self.assertIn("no veins", self.said(flecks=0.5 * FLECK_L - 0.01)["flecks"].says)
        self.assertIn("3 light veins", self.said(flecks=0.5 * FLECK_L, veins=3)["flecks"].says)


if __name__ == "__main__":
    unittest.main()
