"""Where a veil lies."""

import unittest

import numpy as np

from foxpath.core.passes import Veil
from foxpath.core.passes.veils import veil_minutes, veil_share

SIZE = (80, 120)
PART = np.zeros(SIZE, bool)
PART[10:70, 20:100] = True
LIGHT = np.tile(np.where(np.arange(120) < 60, 70.0, 30.0).astype(np.float32), (80, 1))


def share(place="part", soft_mm=0.0, patch=None, **more):
    return veil_share(Veil(place=place, soft_mm=soft_mm, **more), PART, LIGHT, 1.0, patch)


class Share(unittest.TestCase):
    def test_a_whole_part_is_covered_to_its_border_and_nothing_beyond_it(self):
        for soft in (0.0, 8.0):
            made = share(soft_mm=soft)
            np.testing.assert_allclose(made[PART], 1, atol=1e-3)
            self.assertEqual(float(made[~PART].max()), 0)

    def test_the_shadow_side_is_the_darker_one_and_the_lit_side_the_other(self):
        dark, lit = share("shadow"), share("lit")
        self.assertGreater(float(dark[40, 90]), 0.95)
        self.assertLess(float(dark[40, 30]), 0.05)
        np.testing.assert_allclose((dark + lit)[PART], 1, atol=1e-4)

    def test_the_strip_before_the_shadow_lies_on_the_lit_side_of_the_turn(self):
        ramp = np.tile(np.linspace(75, 35, 120, dtype=np.float32), (80, 1))
        row = veil_share(Veil(place="turn", soft_mm=0.0), PART, ramp, 1.0)[40]
        lit = veil_share(Veil(place="lit", soft_mm=0.0), PART, ramp, 1.0)[40]
        peak = int(np.argmax(row))
        self.assertGreater(float(row[peak]), 0.95)
        self.assertTrue(0.55 < float(lit[peak]) < 0.78)
        self.assertLess(float(row[25]), 0.1)
        self.assertLess(float(row[95]), 0.02)
        turns = int(np.argmin(np.abs(lit[20:100] - 0.5))) + 20
        self.assertLess(peak, turns)

    def test_a_bright_ground_beside_a_part_makes_no_lit_side(self):
        even = np.full(SIZE, 40.0, np.float32)
        even[~PART] = 99.0
        made = veil_share(Veil(place="lit", soft_mm=0.0), PART, even, 1.0)
        np.testing.assert_allclose(made[PART], 0.5, atol=0.02)

    def test_a_strip_follows_the_border_as_wide_as_it_is_said(self):
        made = share("strip", strip_mm=6.0)
        self.assertEqual([float(made[40, 20 + k]) for k in (1, 4, 8, 20)], [1, 1, 0, 0])
        np.testing.assert_array_equal(made[40, 40:80], 0)

    def test_where_a_part_meets_the_canvas_s_rim_there_is_no_strip(self):
        part = np.zeros(SIZE, bool)
        part[10:70, 20:] = True
        made = veil_share(Veil(place="strip", strip_mm=6.0, soft_mm=0.0), part, LIGHT, 1.0)
        self.assertEqual((float(made[40, 22]), float(made[40, 118])), (1, 0))

    def test_a_patch_is_what_was_drawn_within_the_part(self):
        patch = np.zeros(SIZE, bool)
        patch[30:50, 90:120] = True
        made = share("patch", patch=patch)
        self.assertEqual((float(made[40, 95]), float(made[40, 105]), float(made[20, 95])), (1, 0, 0))

    def test_it_fades_over_as_much_as_is_said_from_ten_to_ninety_per_cent(self):
        patch = np.zeros(SIZE, bool)
        patch[:, :60] = True
        for soft in (6.0, 15.0):
            row = share("patch", soft, patch)[40, 40:80]
            ten, ninety = (float(np.interp(-level, -row, np.arange(40))) for level in (0.1, 0.9))
            self.assertAlmostEqual(ten - ninety, soft, delta=0.12 * soft + 0.6)


class Time(unittest.TestCase):
    def test_twice_the_area_or_twice_the_coats_take_twice_as_long(self):
        strokes, minutes = veil_minutes(100, 20, 1)
        self.assertEqual(veil_minutes(100, 20, 2), (2 * strokes, 2 * minutes))
        self.assertAlmostEqual(veil_minutes(200, 20, 1)[1], 2 * minutes, delta=0.1)
        self.assertGreater(veil_minutes(100, 10, 1)[1], minutes)
        self.assertEqual(veil_minutes(0, 20, 3), (0, 0))

    def test_its_strokes_cover_its_area_and_a_fifth_more_and_each_is_laid_and_evened_out(self):
        # Strokes of 20 mm, five times as long as wide, six tenths of it paint: 12 cm² each.
        strokes, minutes = veil_minutes(100, 20, 1)
        self.assertEqual(strokes, 10)
        self.assertAlmostEqual(minutes, 10 * 2 * (0.9 + 0.01 * 100) / 60)

    def test_a_palm_of_glaze_takes_minutes(self):
        self.assertTrue(0.5 < veil_minutes(60, 14, 1)[1] < 6)
