"""Masses of parts in even colours: every figure can be reckoned by hand."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.progress.judge.candidates import THRESHOLDS
from foxpath.core.progress.judge.masses import masses
from foxpath.core.progress.sight import spot_seen_m
from tests.canvas import HEIGHT, PX, WIDTH, best
from tests.flat import BAND, CENTRE, COLOURS, EYE, LABELS, RING, SPECK, flat, lab, seen


def read(fine, plan=None, **changes):
    plan = plan or flat()
    return masses(plan, seen(fine, plan, **changes))


class Parts(unittest.TestCase):
    def row(self, part, off, **changes):
        return next(one for one in read(lab(**{f"p{part}": off}), **changes)[1] if one.part == part)

    def test_a_part_is_measured_in_lightness_strength_hue_and_warmth(self):
        one = self.row(RING, (-6, 5, -4))
        was, now = np.array((20.0, 30)), np.array((25.0, 26))
        self.assertAlmostEqual(one.d_l, -6, places=3)
        self.assertAlmostEqual(one.d_c, np.hypot(*now) - np.hypot(*was), places=3)
        turn = np.degrees(np.arctan2(now[1], now[0]) - np.arctan2(was[1], was[0]))
        self.assertAlmostEqual(one.d_h, turn, places=3)
        self.assertAlmostEqual(one.de, np.sqrt(36 + 25 + 16), places=3)
        self.assertAlmostEqual(one.warmer, (0.3 * 5 - 4) / 1.04, places=3)

    def test_a_hue_turns_the_short_way_over_half_a_turn(self):
        plan = flat()
        base = lab(p1=(0, -50, -29))
        plan = replace(plan, lab=base, other_lab=base)
        # From -30, 1 to -30, -2: a few degrees on, though the angle jumps by nearly a whole turn.
        one = next(r for r in read(lab(p1=(0, -50, -32)), plan)[1] if r.part == RING)
        self.assertAlmostEqual(one.d_h, np.degrees(np.arctan2(1, 30) + np.arctan2(2, 30)), places=2)
        back = next(
            r
            for r in read(base, replace(plan, lab=lab(p1=(0, -50, -32)), other_lab=lab(p1=(0, -50, -32))))[1]
            if r.part == RING
        )
        self.assertAlmostEqual(back.d_h, -one.d_h, places=2)

    def test_its_size_is_what_lies_within_and_is_judged(self):
        one = self.row(RING, (0, 0, 0))
        within = np.pi * ((168 / PX - 2) ** 2 - (108 / PX + 2) ** 2)
        self.assertAlmostEqual(one.area_cm2, within / 100, delta=0.04 * within / 100)
        self.assertAlmostEqual(one.seen, within / (np.pi * (168**2 - 108**2) / PX**2), delta=0.04)
        use = np.ones((HEIGHT, WIDTH), bool)
        use[:240] = False
        half = self.row(RING, (0, 0, 0), use=use)
        self.assertAlmostEqual(half.seen, one.seen / 2, delta=0.02)
        self.assertAlmostEqual(half.area_cm2, one.area_cm2 / 2, delta=0.03 * one.area_cm2)

    def test_a_small_part_is_measured_up_to_its_rim_and_is_no_mass(self):
        # 5 by 5 mm are none, of 10 by 10 mm 6 by 6 lie 2 mm within: too few, so that all of it is measured.
        self.assertNotIn(SPECK, [one.part for one in read(lab(p4=(9, 0, 0)))[1]])
        large = LABELS.copy()
        large[12:36, 12:36] = SPECK
        shifted = lab(p4=(9, 0, 0))
        shifted[12:36, 12:36] = (79, 10, 10)
        base = lab()
        base[12:36, 12:36] = COLOURS[SPECK]
        found, table = read(shifted, replace(flat(), labels=large, lab=base, other_lab=base))
        one = next(row for row in table if row.part == SPECK)
        # Less than 9: the squint lays what lies round it over its rim.
        self.assertAlmostEqual(one.d_l, 7.5, delta=0.5)
        self.assertAlmostEqual(one.area_cm2, 1, delta=0.2)
        self.assertNotIn(SPECK, [c.part for c in found if c.rule == "value part"])

    def test_an_eye_is_measured_and_left_to_its_own_readers(self):
        found, table = read(lab(p3=(9, 0, 0)))
        self.assertAlmostEqual(next(row for row in table if row.part == EYE).d_l, 9, places=2)
        self.assertNotIn(EYE, [one.part for one in found if one.rule.endswith("part")])

    def test_both_hands_are_the_plan(self):
        plan = replace(flat(), other_lab=lab(p1=(8, 0, 0)))
        one = next(row for row in read(lab(p1=(4, 0, 0)), plan)[1] if row.part == RING)
        self.assertAlmostEqual(one.d_l, 0, places=3)


class Told(unittest.TestCase):
    def part(self, rule, off, part=RING):
        return next(one for one in read(lab(**{f"p{part}": off}))[0] if one.rule == rule and one.part == part)

    def test_a_bent_part_is_told_at_a_place_that_is_its_own(self):
        one = self.part("value part", (-6, 0, 0))
        self.assertEqual(LABELS[round(one.y), round(one.x)], RING)
        # Of all its places one of those nearest to its middle: on its inner rim, 2 mm within.
        self.assertAlmostEqual(np.hypot(one.x - CENTRE[0], one.y - CENTRE[1]) / PX, 108 / PX + 2, delta=1.2)
        band = self.part("value part", (5, 0, 0), BAND)
        self.assertLess(np.hypot(band.x - 504, band.y - 240) / PX, 1.5)

    def test_its_size_sense_and_how_far_it_is_seen(self):
        one = self.part("value part", (5, 0, 0), BAND)
        side = np.sqrt((96 / PX - 4) * (240 / PX - 4))
        self.assertAlmostEqual(one.size, 5, places=3)
        self.assertAlmostEqual(one.measure, 5, places=3)
        self.assertAlmostEqual(one.radius_mm, side / 2, delta=0.05 * side)
        self.assertAlmostEqual(one.seen_m, spot_seen_m(2 * one.radius_mm, 5.0), places=3)
        self.assertAlmostEqual(self.part("value part", (-5, 0, 0), BAND).measure, 5, places=3)

    def test_a_part_that_is_off_as_a_whole_has_no_patches(self):
        found, _ = read(lab(p1=(-9, 3, -9), p2=(8, 0, 8)))
        self.assertEqual([one for one in found if one.rule.endswith("patch") and one.times > 0.7], [])

    def test_strength_is_a_ratio_and_of_coloured_parts_alone(self):
        was = np.hypot(20, 30)
        for factor in (0.7, 1.3):
            one = self.part("strength", (0, (factor - 1) * 20, (factor - 1) * 30))
            ratio = (factor * was + 2) / (was + 2)
            self.assertAlmostEqual(one.size, 100 * (ratio - 1), places=2)
            self.assertAlmostEqual(one.measure, abs(np.log(ratio)), places=3)
            self.assertEqual((one.unit, one.doubt), ("%", 6))
            self.assertAlmostEqual(one.radius_mm, self.part("value part", (5, 0, 0)).radius_mm, places=3)
            self.assertAlmostEqual(
                one.seen_m, spot_seen_m(2 * one.radius_mm, (factor - 1) * was, colour=True), places=2
            )
        # A change of less than 3 is none, however large its share.
        self.assertEqual(self.part("strength", (0, 1.5, 2.2)).measure, 0)
        with self.assertRaises(StopIteration):
            self.part("strength", (0, 4, 4), BAND)

    def test_of_a_coloured_part_that_gains_strength_warmth_is_the_smaller_word(self):
        # Straight away from grey: warmer because stronger.
        stronger = self.part("warmth part", (0, 6, 9))
        self.assertAlmostEqual(stronger.size, (0.3 * 6 + 9) / 1.04, places=3)
        self.assertAlmostEqual(stronger.measure, 0.8 * stronger.size, places=3)
        # Across that way: another hue, and warmer by itself.
        across = self.part("warmth part", (0, -9, 6))
        self.assertAlmostEqual(across.measure, abs(across.size), places=3)
        dull = self.part("warmth part", (0, 2, 3), BAND)
        self.assertAlmostEqual(dull.measure, abs(dull.size), places=3)


class Patches(unittest.TestCase):
    def patch(self, much, *, channel=0, at=(504, 240), radius=10.0, plan=None, **changes):
        y, x = np.mgrid[:HEIGHT, :WIDTH]
        there = np.clip(radius + 0.5 - np.hypot(x - at[0], y - at[1]) / PX, 0, 1)
        fine = (plan or flat()).lab.copy()
        fine[..., channel] += much * there
        return best(read(fine, plan, **changes)[0], "warmth patch" if channel else "value patch")

    def test_one_is_told_where_it_lies_in_its_unit_and_as_far_as_it_reaches(self):
        for much in (12.0, -12.0):
            one = self.patch(much)
            self.assertLess(np.hypot(one.x - 504, one.y - 240) / PX, 2)
            self.assertEqual((one.part, one.unit, np.sign(one.size)), (BAND, "L*", np.sign(much)))
            self.assertAlmostEqual(one.radius_mm, 10, delta=2)
        warm = self.patch(12.0, channel=2)
        self.assertEqual(warm.unit, "dE")
        self.assertGreater(warm.size, 0)
        self.assertAlmostEqual(
            warm.seen_m, spot_seen_m(2 * warm.radius_mm, warm.size, warm.doubt - 1.5, colour=True), places=3
        )

    def test_what_two_hands_do_by_chance_is_taken_off(self):
        rough = np.random.default_rng(2).normal(0, 1, (HEIGHT, WIDTH)).astype(np.float32)
        rough = cv2.GaussianBlur(rough, (0, 0), 5 * PX)
        other = lab()
        other[..., 0] += 10 * rough / rough.std()
        quiet, loud = self.patch(12.0), self.patch(12.0, plan=replace(flat(), other_lab=other))
        self.assertGreater(loud.doubt, quiet.doubt + 1)
        self.assertLess(loud.measure / abs(loud.size), 0.8 * quiet.measure / abs(quiet.size))

    def test_where_the_plan_rises_a_drift_differs_by_as_much(self):
        slope = lab()
        slope[..., 0] += np.linspace(-25, 25, WIDTH, dtype=np.float32)
        plan = replace(flat(), lab=slope, other_lab=slope)
        even, steep = (self.patch(12.0, plan=one, registration_mm=4.0) for one in (flat(), plan))
        # 50 L* over 250 mm: 0.2 a mm, by one and a half times a drift of 4 mm.
        self.assertAlmostEqual(np.hypot(0, steep.doubt - 1.5), 1.2, delta=0.35)
        self.assertLess(even.doubt - 1.5, 0.3)

    def test_near_the_canvas_s_rim_none_is_told(self):
        inside = self.patch(-14.0, at=(60, 420), radius=8)
        self.assertGreater(inside.measure, THRESHOLDS["value patch"])
        with self.assertRaises(ValueError):
            self.patch(-14.0, at=(3, 420), radius=4)

    def test_another_patch_lies_at_least_35_mm_away(self):
        y, x = np.mgrid[:HEIGHT, :WIDTH]
        fine = lab()
        for at in ((504, 170), (504, 310)):
            fine[..., 0] += 12 * np.clip(8.5 - np.hypot(x - at[0], y - at[1]) / PX, 0, 1)
        found = [one for one in read(fine)[0] if one.rule == "value patch" and one.measure > 3]
        self.assertEqual(len(found), 2)
        a, b = found
        self.assertGreater(np.hypot(a.x - b.x, a.y - b.y) / PX, 35)


if __name__ == "__main__":
    unittest.main()
