"""Bare patches and single strokes on a canvas of even colours."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.progress.judge.spots import (
    BAR_LONG_MM,
    BAR_WIDE_MM,
    LEAST_MM2,
    LIVELY_L,
    STROKE_APART_MM,
    _beyond,
    _spread,
    bare,
    strokes,
)
from foxpath.core.progress.sight import spot_seen_m
from tests.canvas import HEIGHT, PX, WIDTH
from tests.flat import BAND, flat, lab, seen

WHITE = (93.0, 1.0, 5.0)
THERE = (504, 240)
"""A place in the band."""


def patch(radius_mm, colour=WHITE, at=THERE, soft=0.4, base=None):
    """The canvas with a round patch of a colour."""
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    share = np.clip((radius_mm + soft / 2 - np.hypot(x - at[0], y - at[1]) / PX) / soft, 0, 1)[..., None]
    made = lab() if base is None else base
    return np.asarray(made * (1 - share) + np.array(colour) * share, np.float32)


class Bare(unittest.TestCase):
    def found(self, fine, plan=None, **changes):
        plan = plan or flat()
        return bare(plan, seen(fine, plan, **changes))

    def test_a_patch_is_told_where_it_lies_and_how_large_it_is(self):
        (one,) = self.found(patch(6.0))
        self.assertLess(np.hypot(one.x - THERE[0], one.y - THERE[1]) / PX, 0.6)
        self.assertEqual((one.part, one.unit), (BAND, "cm2"))
        # Its soft rim counts from a twelfth of the difference on: 0.85 mm more on each side.
        self.assertAlmostEqual(one.radius_mm, 6.85, delta=0.15)
        self.assertAlmostEqual(one.size, np.pi * one.radius_mm**2 / 100)
        self.assertAlmostEqual(one.doubt, 0.3 * one.size)
        # Twice as far across as 5 mm: as strong as it is, about the difference to what is darkest near.
        self.assertAlmostEqual(one.measure, np.linalg.norm(np.subtract(WHITE, (40, 2, 3))), delta=1)
        self.assertAlmostEqual(one.seen_m, spot_seen_m(2 * one.radius_mm, one.measure + 4, 0.0), delta=0.5)

    def test_a_small_one_counts_for_less_and_a_speck_for_nothing(self):
        ground = (60, 0, 4)
        (one,) = self.found(patch(1.6, at=(420, 60)))
        self.assertLess(one.radius_mm, 2.4)
        (large,) = self.found(patch(6.0, at=(420, 60)))
        self.assertAlmostEqual(large.measure, np.linalg.norm(np.subtract(WHITE, ground)), delta=1)
        self.assertLess(one.measure, large.measure * 2 * one.radius_mm / 5)
        self.assertGreater(one.measure, 0.6 * large.measure * 2 * one.radius_mm / 5)
        radius = float(np.sqrt(LEAST_MM2 / np.pi))
        self.assertEqual(self.found(patch(radius - 0.7, at=(420, 60))), [])
        self.assertEqual(len(self.found(patch(15.0, at=(60, 60)))), 1)
        self.assertEqual(self.found(patch(17.5, at=(60, 60))), [])

    def test_a_bar_is_a_stroke_and_no_patch(self):
        for wide, told in ((6.0, 1), (18.0, 0)):
            fine = lab()
            fine[round(240 - 2 * PX) : round(240 + 2 * PX), round(504 - wide / 2 * PX) : round(504 + wide / 2 * PX)] = (
                WHITE
            )
            self.assertEqual(len(self.found(fine)), told, wide)

    def test_only_white_and_the_ground_are_bare(self):
        self.assertEqual(self.found(patch(5.0, (93, 1, 24))), [])
        self.assertEqual(self.found(patch(5.0, (66, 1, 5))), [])
        ground = np.array((66, 9, 24), np.float32)
        self.assertEqual(len(self.found(patch(5.0, ground), flat(ground=ground))), 1)
        self.assertEqual(self.found(patch(5.0, ground + (8, 0, 0)), flat(ground=ground)), [])
        self.assertEqual(self.found(patch(5.0, ground - (8, 0, 0)), flat(ground=ground)), [])

    def test_a_plan_s_own_peeks_of_ground_are_allowed(self):
        # Its own bare places end 7 mm from there: near enough that more of it may show.
        peeks = patch(14.0, at=(THERE[0], THERE[1] + 50), base=patch(14.0, at=(THERE[0], THERE[1] - 50)))
        for plan in (replace(flat(), lab=peeks), replace(flat(), other_lab=peeks)):
            self.assertEqual(self.found(patch(2.8, base=peeks.copy()), plan), [])
        self.assertEqual(len(self.found(patch(2.8))), 1)
        far = patch(14.0, at=(60, 60))
        self.assertEqual(len(self.found(patch(2.8, base=far.copy()), replace(flat(), lab=far))), 1)

    def test_neither_in_an_eye_nor_at_the_rim_nor_in_glare(self):
        self.assertEqual(self.found(patch(5.0, at=(220, 240))), [])
        self.assertEqual(self.found(patch(1.4, at=(300, 2))), [])
        use = np.ones((HEIGHT, WIDTH), bool)
        use[200:280, 460:550] = False
        self.assertEqual(self.found(patch(5.0), use=use), [])

    def test_how_far_it_leaves_the_range_near_it(self):
        a, b = np.zeros((40, 40, 3), np.float32), np.zeros((40, 40, 3), np.float32)
        a[20, 10] = (10, 0, 0)
        b[20, 10] = (0, -4, 0)
        canvas = np.zeros((40, 40, 3), np.float32)
        canvas[20, 13] = (13, -8, 0)
        canvas[20, 35] = (0, 3, -4)
        over = _beyond(a, b, canvas, 2.0)
        # Within 2 mm, 4 px, of what either hand has: 3 over it and 4 below; farther off all of it.
        self.assertAlmostEqual(float(over[20, 13]), 5)
        self.assertAlmostEqual(float(over[20, 35]), 5)
        self.assertEqual(float(over.sum()), 10)

    def test_spread_is_a_deviation(self):
        light = np.where(np.arange(60) % 2 == 0, 40.0, 50.0).astype(np.float32)[None].repeat(60, 0)
        np.testing.assert_allclose(_spread(light, 24)[20:40, 20:40], 5, atol=0.05)


class Strokes(unittest.TestCase):
    def bar(self, much, at=THERE, angle=0.0, long=12.0, wide=1.6, base=None):
        """The canvas with one stroke lighter by so much."""
        line = np.zeros((HEIGHT, WIDTH), np.uint8)
        d = long / 2 * PX * np.array((np.cos(angle), np.sin(angle)))
        ends = (np.round(np.subtract(at, d)).astype(int).tolist(), np.round(np.add(at, d)).astype(int).tolist())
        cv2.line(line, *ends, 255, round(wide * PX), cv2.LINE_AA)
        made = lab() if base is None else base
        made[..., 0] += much * (line / 255.0)
        return made

    def found(self, fine, plan=None, **changes):
        plan = plan or flat()
        return strokes(plan, seen(fine, plan, **changes))

    def test_one_is_told_where_it_lies_whichever_way_it_runs(self):
        for angle in (0.0, 0.7, 1.57, 2.5):
            one = max(self.found(self.bar(24, angle=angle)), key=lambda c: c.measure)
            self.assertLess(np.hypot(one.x - THERE[0], one.y - THERE[1]) / PX, 2)
            self.assertEqual((one.part, one.unit, one.radius_mm, one.doubt), (BAND, "L*", BAR_LONG_MM / 2, 2.0))
            self.assertGreater(one.size, 10)
            # On an even plan it is as strong as it is, and seen as a spot of its length and width is.
            self.assertAlmostEqual(one.measure, one.size, delta=0.6)
            self.assertAlmostEqual(one.seen_m, spot_seen_m(np.sqrt(BAR_WIDE_MM * BAR_LONG_MM), one.size), delta=0.2)
        dark = max(self.found(self.bar(-24)), key=lambda c: c.measure)
        self.assertLess(dark.size, -10)

    def test_where_marks_of_the_plan_are_strong_it_must_be_stronger(self):
        plan = replace(flat(), lab=self.bar(12, at=(THERE[0], THERE[1] + 20)))
        other = replace(flat(), other_lab=self.bar(12, at=(THERE[0], THERE[1] + 20)))
        alone = max(self.found(self.bar(24)), key=lambda c: c.measure)
        for one in (plan, other):
            beside = max(self.found(self.bar(24), one), key=lambda c: c.measure)
            own = abs(beside.size) / 2
            self.assertAlmostEqual(beside.size, alone.size, delta=0.5)
            self.assertAlmostEqual(beside.measure, (abs(beside.size) - own) / np.hypot(1, own / LIVELY_L), delta=0.6)
        # A stroke of the plan that runs across is none of its kind; nor is one 30 mm away.
        for there in (self.bar(12, at=(THERE[0], THERE[1] + 20), angle=np.pi / 2), self.bar(12, at=(140, 400))):
            self.assertAlmostEqual(
                max(self.found(self.bar(24), replace(flat(), lab=there)), key=lambda c: c.measure).measure,
                alone.measure,
                delta=0.35 * alone.measure,
            )

    def test_two_are_told_apart_from_so_many_millimetres_on(self):
        for apart, told in ((STROKE_APART_MM + 4, 2), (STROKE_APART_MM - 6, 1)):
            fine = self.bar(24, at=(THERE[0], 200))
            fine = self.bar(24, at=(THERE[0], 200 + round(apart * PX)), base=fine)
            strong = [one for one in self.found(fine) if one.measure > 6]
            self.assertEqual(len(strong), told, apart)

    def test_neither_in_an_eye_nor_near_the_rim_nor_in_glare(self):
        self.assertEqual([one for one in self.found(self.bar(30, at=(220, 240), long=8)) if one.part == 3], [])
        self.assertEqual([one for one in self.found(self.bar(30, at=(300, 8))) if one.measure > 8], [])
        self.assertGreater(max(one.measure for one in self.found(self.bar(30, at=(300, 24)))), 8)
        use = np.ones((HEIGHT, WIDTH), bool)
        use[200:280, 460:550] = False
        self.assertEqual([one for one in self.found(self.bar(24), use=use) if one.measure > 4], [])


if __name__ == "__main__":
    unittest.main()
