"""The steps of an eye at every size: widths, values, brushes and what survives; its measured values on flat irises."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.eyes import Ellipse, Eye, LightPlan
from foxpath.core.eyes.lights import plan_lights
from foxpath.core.eyes.steps import VEINS, plan_steps, size_words
from foxpath.core.eyes.values import measure_values
from foxpath.core.lengths import Brush

MM = 0.25
IRIS = Ellipse(200, 200, 80, 80)
EYE = Eye("e1", "Eye", IRIS, replace(IRIS, rx=30, ry=30))
SKY = np.array([60.0, -1.0, -6.0], np.float32)
KIT = (Brush("liner", 0.5), Brush("round", 2), Brush("round", 6), Brush("flat", 5), Brush("comb", 4))


def lab(light):
    """Return a reader of grey whose L* is a function of place, relative to the middle in radii."""

    def read(points):
        u, v = ((np.asarray(points, float) - 200) / 80).T
        made = np.zeros((len(u), 3), np.float32)
        made[:, 0] = light(u, v)
        return made

    return read


def iris(tone=50.0, pupil=8.0, rim=20.0):
    def light(u, v):
        r = np.hypot(u, v)
        return np.where(r < 30 / 80, pupil, np.where(r < 1, tone, rim))

    return light


def steps(eye=EYE, kit=KIT, mm=MM, values=None, **said):
    values = values or measure_values(EYE, lab(iris()))
    lights = plan_lights(eye, [], None, mm, min((b.fine_mm for b in kit), default=0.0))
    return {step.key: step for step in plan_steps(eye, values, replace(lights, **said), kit, mm, SKY)}


def measured_once():
    return measure_values(EYE, lab(iris())), plan_lights(EYE, [], None, MM, 0.15)


class Steps(unittest.TestCase):
    def test_widths_follow_the_iris_and_stop_at_the_finest_mark(self):
        across = 160 * MM  # 40 mm; the finest mark is 0.15 mm
        made = steps()
        for key, share in (("rim", 0.085), ("base", 0.16), ("texture", 0.03), ("lashes", 0.022)):
            self.assertAlmostEqual(made[key].width_mm, round(share * across, 2))
        self.assertEqual(steps(mm=0.01)["lashes"].width_mm, 0.15)

    def test_values_are_those_of_the_eye(self):
        made = steps()
        band = {key: (step.l_low, step.l_high) for key, step in made.items()}
        self.assertEqual(band["rim"], (8, 12))
        self.assertEqual(band["base"], (44, 50))
        # A flat eye is shaded by twelve all the same.
        self.assertEqual(band["shadow"], (36, 38))
        self.assertEqual((band["ring"], band["soften"], band["sky"]), ((50, 60), (46, 54), (56, 64)))
        self.assertEqual((band["catchlight"], band["lashes"]), ((94, 97), (8, 18)))
        # Flecks are hardly seen: texture spreads six to each side.
        self.assertEqual(band["texture"], (44, 56))
        values = measure_values(EYE, lab(iris()))
        made = steps(values=replace(values, shadow=20.0, flecks=9.0, rim=2.0))
        self.assertEqual((made["shadow"].l_low, made["shadow"].l_high), (28, 30))
        self.assertEqual((made["texture"].l_low, made["texture"].l_high), (32, 68))
        self.assertEqual(made["rim"].l_low, 3)
        # Of a dark iris the shadow takes four tenths, not twelve.
        dark = replace(values, iris=np.array([20.0, 0, 0], np.float32), shadow=2.0)
        self.assertEqual(steps(values=dark)["shadow"].l_high, 12)

    def test_each_takes_the_broadest_brush_that_leaves_so_fine_a_mark(self):
        made = steps()
        # The rim is 3.4 mm: a 6 mm round leaves 1.5. Texture is 1.2 mm: a 2 mm round leaves 0.5.
        self.assertEqual(made["rim"].brush, KIT[2])
        self.assertEqual(made["texture"].brush, KIT[1])
        # Masses may be laid with a flat where the iris is wide enough, hairs never with a comb.
        self.assertEqual(steps(kit=(KIT[0], KIT[3]))["base"].brush, KIT[3])
        self.assertEqual(steps(kit=(KIT[0], KIT[3]), mm=0.07)["base"].brush, KIT[0])
        self.assertEqual(steps(kit=(KIT[4], KIT[1]))["lashes"].brush, KIT[1])
        self.assertIsNone(steps(kit=(KIT[4],))["rim"].brush)

    def test_what_survives_is_said_at_its_bound(self):
        finest = 0.15
        bounds = {
            "texture": VEINS * 3 * finest / (np.pi * 0.7),
            "sky": finest * 25,
            "ring": finest * 1.6 / 0.09,
            "shadow": finest * 10,
            "soften": finest * 3 / 0.16,
            "lashes": finest * 20,
            "base": finest * 3,
        }
        for key, across in bounds.items():
            self.assertFalse(steps(mm=0.999 * across / 160)[key].painted, key)
            self.assertTrue(steps(mm=1.001 * across / 160)[key].painted, key)
        self.assertEqual(steps(sky=False)["sky"].left_out, "you left it out")
        self.assertEqual(steps(kit=())["rim"].left_out, "no fine brush in your kit")

    def test_a_reserved_light_comes_after_everything_but_the_lashes(self):
        self.assertEqual(list(steps())[-3:], ["catchlight", "wet", "lashes"])
        kept = replace(EYE, light=LightPlan(way="reserve"))
        made = steps(kept)
        self.assertEqual(list(made)[-1], "lashes")
        self.assertIn("leave the light free", made["rim"].how)
        self.assertIn("Clean the place", made["catchlight"].how)
        self.assertIn("One thick touch", steps()["catchlight"].how)

    def test_a_sky_is_painted_in_its_own_value_where_it_is_seen_or_asked_for(self):
        values, lights = measured_once()
        seen = {s.key: s for s in plan_steps(EYE, values, lights, KIT, MM, SKY)}["sky"]
        self.assertEqual((seen.l_low, seen.l_high), (56.0, 64.0))
        none = {s.key: s for s in plan_steps(EYE, values, lights, KIT, MM)}["sky"]
        self.assertEqual(none.left_out, "the photograph shows none")
        wanted = replace(EYE, light=LightPlan(sky=True))
        self.assertTrue({s.key: s for s in plan_steps(wanted, values, lights, KIT, MM)}["sky"].painted)
        self.assertNotIn("sky", size_words(EYE, plan_steps(EYE, values, lights, KIT, MM), MM))

    def test_a_bird_has_a_ring_of_skin_and_an_unmarked_lid_no_wet_line(self):
        values, lights = measured_once()
        made = {s.key: s for s in plan_steps(EYE, values, lights, KIT, MM, SKY, ringed=True)}
        self.assertEqual(made["lashes"].name, "skin ring")
        self.assertAlmostEqual(made["lashes"].width_mm, 0.11 * 2 * EYE.iris.radius * MM, places=2)
        bare = {s.key: s for s in plan_steps(replace(EYE, lower=()), values, lights, KIT, MM, SKY)}
        self.assertEqual(bare["wet"].left_out, "mark the lower lid for it")

    def test_small_eyes_take_hardly_less(self):
        for mm, times in ((18 / 160, 1.0), (0.001, 0.6), (45 / 160, 1.6), (99 / 160, 1.6)):
            self.assertAlmostEqual(steps(mm=mm)["texture"].minutes, 8 * times, delta=0.06)

    def test_the_whole_is_said_in_a_sentence(self):
        self.assertIn("every step can be painted", size_words(EYE, list(steps().values()), MM))
        made = list(steps(mm=0.01, sky=False).values())
        words = size_words(EYE, made, 0.01)
        self.assertIn("leave out", words)
        self.assertNotIn("sky", words)


class Measured(unittest.TestCase):
    def measured(self, light, eye=EYE):
        return measure_values(eye, lab(light))

    def test_iris_pupil_and_rim(self):
        found = self.measured(iris(56, 9, 21))
        self.assertAlmostEqual(float(found.iris[0]), 56, delta=0.1)
        self.assertAlmostEqual(found.pupil, 9, delta=0.1)
        self.assertAlmostEqual(found.rim, 21, delta=0.1)
        self.assertAlmostEqual(found.shadow, 0, delta=0.5)
        self.assertEqual(found.shadow_share, 0)
        self.assertLess(found.flecks, 0.5)
        np.testing.assert_allclose(found.along(3.0)[1:], 56, atol=0.1)

    def test_a_shadow_has_its_depth_and_its_share(self):
        plain = iris()
        for share, depth in ((0.3, 15.0), (0.42, 9.0)):
            found = self.measured(lambda u, v, s=share, d=depth: plain(u, v) - d * (v < -1 + 2 * s))
            self.assertAlmostEqual(found.shadow, depth, delta=1)
            self.assertAlmostEqual(found.shadow_share, share, delta=0.05)

    def test_the_lighter_side_has_its_hour(self):
        plain = iris()
        # Below the middle only: above it lies the lid's shadow.
        for hour in (4.0, 6.0, 8.0):
            a = np.radians(hour * 30)
            found = self.measured(lambda u, v, a=a: plain(u, v) + 8 * (u * np.sin(a) - v * np.cos(a)))
            self.assertAlmostEqual(found.light_hour, hour, delta=0.4)
            self.assertGreater(found.side, 5)

    def test_a_darker_outer_ring_and_a_lighter_middle_have_their_sign(self):
        plain = iris()
        found = self.measured(lambda u, v: plain(u, v) - 7 * (np.hypot(u, v) > 0.76))
        self.assertAlmostEqual(found.ring, -7, delta=0.5)
        found = self.measured(lambda u, v: plain(u, v) + 5 * (np.hypot(u, v) < 0.5))
        self.assertAlmostEqual(found.centre, 5, delta=0.5)

    def test_flecks_and_veins_are_counted_round_the_clock(self):
        plain = iris()
        for veins in (12, 18):
            found = self.measured(lambda u, v, n=veins: plain(u, v) + 4 * np.cos(n * np.arctan2(v, u)))
            self.assertEqual(found.veins, veins)
            self.assertAlmostEqual(found.flecks, 4 / np.sqrt(2), delta=0.7)


if __name__ == "__main__":
    unittest.main()
