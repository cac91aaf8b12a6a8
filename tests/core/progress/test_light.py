import unittest

import numpy as np

from foxpath.core.colour import linear_from_lab, linear_from_rgb8, rgb8_from_linear
from foxpath.core.progress.light import balance, border_is_plain, glare_of, lab_from_balanced, without_skirt
from foxpath.core.progress.sight import shift_seen_m, spot_seen_m, viewing_m
from foxpath.core.progress.small import lab_of, rgb_of
from tests.canvas import HEIGHT, PX, WIDTH, painted, planned, spot

EVERY = np.ones((HEIGHT, WIDTH), bool)
V, U = np.mgrid[:HEIGHT, :WIDTH] / (HEIGHT, WIDTH)[0]


def lit(rgb, lamp=(1.0, 0.9, 0.75), fall=0.0, much=0.8):
    """Return a canvas in a lamp's light that falls off to the right."""
    light = much * (1 - fall * (U / U.max() - 0.5))[..., None] * np.array(lamp)
    return rgb8_from_linear(np.clip(linear_from_rgb8(rgb) * light, 0, 1).astype(np.float32))


def off(made, want):
    """Return the median difference in CIELAB."""
    return np.median(lab_from_balanced(made) - lab_of(want), axis=(0, 1))


class Balancing(unittest.TestCase):
    def test_a_lamp_and_its_fall_are_taken_out(self):
        made = balance(planned(), lit(painted(2), fall=0.4), EVERY)
        np.testing.assert_allclose(off(made.linear, painted(2)), 0, atol=1.0)
        lab = lab_from_balanced(made.linear) - lab_of(painted(2))
        left, right = np.median(lab[:, :80, 0]), np.median(lab[:, -80:, 0])
        self.assertLess(abs(left - right), 2.0)
        self.assertAlmostEqual(made.slope, 1.5, delta=0.25)
        self.assertEqual(made.by, "plan")

    def test_without_a_known_spot_all_too_dark_is_not_told_and_with_one_it_is(self):
        lab = lab_of(painted(2)).copy()
        lab[..., 0] -= 8
        dark = rgb_of(lab)
        photo = lit(dark)
        self.assertLess(abs(off(balance(planned(), photo, EVERY).linear, painted(2))[0]), 1.5)
        card = linear_from_lab(np.array([50.0, 0, 0], np.float32)) * 0.8 * np.array([1.0, 0.9, 0.75])
        known = (np.array([0.0, -1.1]), card, np.array([50.0, 0, 0], np.float32))
        made = balance(planned(), photo, EVERY, spots=[known])
        self.assertEqual(made.by, "spot")
        # Of a curve of tones a part is taken for one: most of the eight remains.
        self.assertLess(off(made.linear, painted(2))[0], -4.5)

    def round_it(self, lamp=(1.0, 0.9, 0.75), fall=0.0, much=0.8, lab=(94.0, 0.0, 2.0), noise=0.0, seed=3):
        """Places of a border in the same light as `lit`."""
        rng = np.random.default_rng(seed)
        along = np.linspace(-0.95, 0.95, 12)
        places = [(x, y) for x in along for y in (-1.06, 1.06)] + [(x, y) for y in along for x in (-1.04, 1.04)]
        colour = linear_from_lab(np.array(lab, np.float32))
        made = []
        for x, y in places:
            light = much * (1 - fall * x / 2) * np.array(lamp) * (1 + noise * rng.standard_normal())
            made.append((np.array([x, y]), colour * light, np.array(lab, np.float32)))
        return made

    def test_a_border_tells_how_the_light_falls_where_the_plan_would_take_paint_for_light(self):
        lab = lab_of(painted(2)).copy()
        # Painted darker toward the right, and all of it: to the plan that is a lamp at the left.
        lab[..., 0] -= 6 + 6 * (U / U.max())
        photo = lit(rgb_of(lab), fall=0.3)
        want = lab - lab_of(painted(2))
        blind = lab_from_balanced(balance(planned(), photo, EVERY).linear) - lab_of(painted(2))
        border = self.round_it(fall=0.3)
        made = balance(planned(), photo, EVERY, spots=border)
        told = lab_from_balanced(made.linear) - lab_of(painted(2))
        self.assertEqual(made.by, "spot")
        for part, name in ((np.s_[:, :90], "left"), (np.s_[:, -90:], "right")):
            true = float(np.median(want[part][..., 0]))
            self.assertAlmostEqual(float(np.median(told[part][..., 0])), true, delta=2.2, msg=name)
        gap = float(np.median(told[:, :90, 0]) - np.median(told[:, -90:, 0]))
        self.assertGreater(gap, 2.5)
        self.assertLess(abs(float(np.median(blind[:, :90, 0]) - np.median(blind[:, -90:, 0]))), gap - 1.5)
        # Nor is its warmth taken for the lamp's.
        self.assertLess(float(np.abs(np.median(told[..., 1:] - want[..., 1:], axis=(0, 1))).max()), 1.2)

    def test_a_border_with_a_hand_on_it_still_tells_and_one_of_many_colours_is_none(self):
        border = self.round_it(fall=0.3, noise=0.02)
        self.assertTrue(border_is_plain(border))
        covered = [(at, linear * (0.3 if k % 5 == 0 else 1), lab) for k, (at, linear, lab) in enumerate(border)]
        self.assertTrue(border_is_plain(covered))
        photo = lit(painted(2), fall=0.3)
        straight, mended = (
            off(balance(planned(), photo, EVERY, spots=spots).linear, painted(2)) for spots in (border, covered)
        )
        np.testing.assert_allclose(mended, straight, atol=1.0)
        self.assertFalse(border_is_plain(self.round_it(noise=0.5)))
        self.assertFalse(border_is_plain(border[:10]))

    def test_a_patch_is_not_taken_for_light(self):
        lab = lab_of(painted(2)).copy()
        lab[..., 0:1] += 9 * spot(300, 380, 16)
        made = lab_from_balanced(balance(planned(), lit(rgb_of(lab)), EVERY).linear)
        there = spot(300, 380, 10)[..., 0] > 0.9
        self.assertAlmostEqual(float(np.median((made - lab_of(painted(2)))[there, 0])), 9, delta=1.8)

    def test_what_is_left_out_has_no_vote(self):
        rgb = painted(2).copy()
        rgb[:, 380:] = 250
        without = np.zeros((HEIGHT, WIDTH), bool)
        without[:, 370:] = True
        made = balance(planned(), lit(rgb), EVERY, without=without)
        part = lab_from_balanced(made.linear)[60:420, 40:340] - lab_of(painted(2))[60:420, 40:340]
        self.assertLess(abs(float(np.median(part[..., 0]))), 1.5)


class Glare(unittest.TestCase):
    def glaring(self, strength=0.25, wide=30.0):
        away = ((U * HEIGHT - 420) ** 2 + (V * HEIGHT - 150) ** 2) / PX**2
        return (linear_from_rgb8(painted(2)) + (strength * np.exp(-away / 2 / wide**2))[..., None]).astype(np.float32)

    def test_a_lamp_s_reflection_is_found_where_it_lies(self):
        mask, amount = glare_of(planned(), self.glaring())
        self.assertTrue(mask[150, 420])
        self.assertFalse(mask[420, 60])
        self.assertGreater(amount[150, 420], 0.12)
        self.assertLess(amount[420, 60], 0.03)

    def test_paint_that_is_too_light_is_no_glare(self):
        lab = lab_of(painted(2)).copy()
        lab[..., 0:1] += 12 * spot(300, 380, 18)
        mask, _ = glare_of(planned(), linear_from_rgb8(rgb_of(lab)))
        self.assertFalse(mask.any())
        mask, _ = glare_of(planned(), linear_from_rgb8(painted(2)))
        self.assertFalse(mask.any())

    def test_coloured_light_is_none_either(self):
        linear = self.glaring()
        only_red = linear_from_rgb8(painted(2)).copy()
        only_red[..., 0] = linear[..., 0]
        self.assertFalse(glare_of(planned(), only_red)[0].any())

    def test_its_skirt_is_taken_off_near_it_alone(self):
        linear = self.glaring()
        mask, amount = glare_of(planned(), linear)
        made = without_skirt(planned(), linear, mask, amount)
        ring = (spot(420, 150, 75)[..., 0] > 0.9) & ~mask
        true = linear_from_rgb8(painted(2))
        self.assertLess(np.abs((made - true)[ring]).mean(), np.abs((linear - true)[ring]).mean())
        np.testing.assert_array_equal(made[440:, :40], linear[440:, :40])
        self.assertIs(without_skirt(planned(), linear, np.zeros_like(mask), amount), linear)


class Sight(unittest.TestCase):
    def test_the_distance_is_where_the_spot_meets_its_threshold(self):
        for size, difference, spread, colour, ricco in ((8.0, 6.0, 0.0, False, 0.06), (20.0, 9.0, 4.0, True, 0.15)):
            metres = spot_seen_m(size, difference, spread, colour=colour)
            angle = np.degrees(size / 1000 / metres)
            step = np.hypot(1.5, spread / 2)
            self.assertAlmostEqual(step * (1 + (ricco / angle) ** 2), difference, delta=0.02 * difference)

    def test_larger_and_stronger_is_seen_from_farther_and_little_not_at_all(self):
        self.assertGreater(spot_seen_m(10, 8), spot_seen_m(10, 5))
        self.assertGreater(spot_seen_m(10, 8), spot_seen_m(6, 8))
        self.assertGreater(spot_seen_m(10, 8), spot_seen_m(10, 8, 5))
        self.assertGreater(spot_seen_m(10, 8), spot_seen_m(10, 8, colour=True))
        self.assertEqual(spot_seen_m(10, -8), spot_seen_m(10, 8))
        self.assertEqual(spot_seen_m(10, 1.5), 0)
        self.assertEqual(spot_seen_m(0, 50), 0)
        self.assertEqual(spot_seen_m(5000, 90), 20)

    def test_a_shift_is_judged_by_what_it_stands_beside(self):
        self.assertEqual(shift_seen_m(1.9, 50), 0)
        metres = shift_seen_m(2.1, 50)
        self.assertAlmostEqual(np.degrees(2.1 / 1000 / metres) * 60, 1.5, delta=0.01)

    def test_a_painting_is_looked_at_from_three_diagonals_and_no_nearer_than_two_metres(self):
        self.assertEqual(viewing_m(0.3), 2)
        self.assertEqual(viewing_m(1.2), 3.5999999999999996)


if __name__ == "__main__":
    unittest.main()
