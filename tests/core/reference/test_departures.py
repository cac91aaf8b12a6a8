"""Departures: what they shift, where they hold, and that hair which hangs over an outline stays with its own part."""

import unittest

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.progress.small import lab_of, rgb_of
from foxpath.core.reference.departures import (
    AIR,
    Departure,
    Laid,
    belongs,
    changed,
    checked_departure,
    falling_away,
    middle_values,
    sound_departures,
    weight_of,
)

PX = 2.0


def two(left=(40.0, 10.0, 20.0), right=(70.0, -5.0, -10.0), width=200, height=120):
    """A picture of two halves with a little grain, its labels, and its CIELAB."""
    lab = np.empty((height, width, 3), np.float32)
    lab[:, : width // 2], lab[:, width // 2 :] = left, right
    lab[..., 0] += np.random.default_rng(1).normal(0, 0.5, (height, width))
    labels = np.zeros((height, width), np.int16)
    labels[:, width // 2 :] = 1
    return rgb_of(lab), labels, lab_of(rgb_of(lab))


def shown(one, place, rgb, labels, lab, distance=(1.0, 0.0)):
    middles = middle_values(lab, labels, 2)
    weight = weight_of(one, place, labels, lab, middles, np.array(distance), PX)
    h, w = labels.shape
    return lab_of(changed(rgb, [Laid(one, weight, float(middles[place]))], (0, 0, w, h), PX)), weight


class Shifts(unittest.TestCase):
    def test_every_number_shifts_what_it_says_and_only_its_part(self):
        rgb, labels, lab = two()
        cases = (
            (Departure("a", lightness=9), (9, 0, 0)), (Departure("a", warmth=10), (0, 3, 10)), (Departure("a", redness=-7), (0, -7, 0)),
            (Departure("a", strength=0.5), (0, -5, -10)), (Departure("a", strength=1.5), (0, 5, 10)),
        )  # fmt: skip
        for one, want in cases:
            after, _ = shown(one, 0, rgb, labels, lab)
            off = (after - lab)[:, :80].mean(axis=(0, 1))
            np.testing.assert_allclose(off, want, atol=0.6, err_msg=one.words())
            self.assertLess(float(np.abs((after - lab)[:, 120:]).max()), 1.2)

    def test_contrast_turns_about_the_part_s_own_middle(self):
        rgb, labels, _ = two()
        lab = lab_of(rgb)
        lab[:60, :100, 0] += 12
        rgb = rgb_of(lab)
        after, _ = shown(Departure("a", contrast=0.5), 0, rgb, labels, lab_of(rgb))
        before = lab_of(rgb)
        apart = [float(v[10:50, 10:80, 0].mean() - v[70:110, 10:80, 0].mean()) for v in (before, after)]
        self.assertAlmostEqual(apart[1] / apart[0], 0.5, 1)
        self.assertLess(abs(float(after[:, :80, 0].mean() - before[:, :80, 0].mean())), 1.5)

    def test_a_soft_part_draws_no_colour_out_of_its_neighbour(self):
        rgb, labels, lab = two()
        after, _ = shown(Departure("a", soft_mm=8.0), 0, rgb, labels, lab)
        self.assertLess(float(after[20:100, 10:80, 0].std()), 0.6 * float(lab[20:100, 10:80, 0].std()) + 0.15)
        self.assertLess(float(np.abs(after[:, 84:97, 0].mean() - lab[:, 84:97, 0].mean())), 1.0)

    def test_a_band_s_end_is_no_line(self):
        from unittest import mock

        from foxpath.core.reference import departures

        rgb, labels, lab = two()
        whole, _ = shown(Departure("a", lightness=5, soft_mm=4.0), 0, rgb, labels, lab)
        with mock.patch.object(departures, "BAND", 17):
            parts, _ = shown(Departure("a", lightness=5, soft_mm=4.0), 0, rgb, labels, lab)
        self.assertLess(float(np.abs(whole - parts).max()), 0.6)

    def test_beyond_the_canvas_nothing_changes(self):
        rgb, _, _ = two()
        laid = Laid(Departure("", lightness=20), np.ones((60, 100), np.float32), 50.0)
        after = changed(rgb, [laid], (50, 30, 100, 60), PX)
        rim = np.ones(rgb.shape[:2], bool)
        rim[30:90, 50:150] = False
        np.testing.assert_array_equal(after[rim], rgb[rim])
        for y, x in ((60, 100), (30, 50), (89, 149), (30, 149), (89, 50)):
            self.assertGreater(int(after[y, x].sum()), int(rgb[y, x].sum()) + 20)


class Where(unittest.TestCase):
    def test_lit_and_shadow_side_part_where_a_part_turns(self):
        rgb, labels, lab = two()
        lab[..., 0] += np.linspace(-20, 20, lab.shape[0])[:, None]
        rgb = rgb_of(lab)
        lab = lab_of(rgb)
        _, lit = shown(Departure("a", "lit", lightness=5), 0, rgb, labels, lab)
        _, dark = shown(Departure("a", "shadow", lightness=5), 0, rgb, labels, lab)
        self.assertLess(float(lit[:20, :80].mean()), 0.1)
        self.assertGreater(float(lit[-20:, :80].mean()), 0.9)
        np.testing.assert_allclose(lit[:, :80] + dark[:, :80], 1, atol=0.02)
        self.assertLess(float(lit[:, 120:].max()), 0.02)

    def test_by_distance_what_lies_back_shifts_in_full_and_the_nearest_not(self):
        rgb, labels, lab = two()
        _, weight = shown(AIR, -1, rgb, labels, lab, (1.0, 0.0))
        self.assertGreater(float(weight[:, :80].min()), 0.98)
        self.assertLess(float(weight[:, 120:].max()), 0.02)
        _, half = shown(AIR, -1, rgb, labels, lab, (1.0, 0.4))
        self.assertAlmostEqual(float(half[:, 120:].mean()), 0.4, 2)

    def test_away_from_the_focal_point_it_falls_off_as_the_view_does(self):
        _rgb, labels, lab = two()
        one = falling_away(0.8, 500.0)
        self.assertEqual((one.side, round(one.strength, 3), round(one.contrast, 3)), ("away", 0.6, 0.64))
        self.assertAlmostEqual(one.soft_mm, 2.4 * 0.006 * 500 * 0.8, 1)
        weight = weight_of(one, -1, labels, lab, middle_values(lab, labels, 2), np.array([1.0, 0.0]), PX, (30.0, 60.0))
        self.assertEqual(float(weight[60, 30]), 0)
        diagonal = np.hypot(*labels.shape)
        for x in (90, 130, 170):
            want = np.clip(((x + 0.5 - 30) / diagonal - 0.08) / 0.54, 0, 1)
            self.assertAlmostEqual(float(weight[60, x]), float(want), 2)
        with self.assertRaises(InputError):
            checked_departure(Departure("a", "away", contrast=0.5))

    def test_hair_that_hangs_over_an_outline_stays_with_its_part(self):
        _, labels, lab = two()
        hair = np.zeros(labels.shape, bool)
        hair[40:80:4, 70:100] = True
        lab[hair] = (70.0, -5.0, -10.0)
        weight = belongs(labels == 0, labels == 1, lab, PX)
        self.assertLess(float(weight[hair][:, None].mean()), 0.35)
        bare = np.zeros(labels.shape, bool)
        bare[90:110, 70:96] = True
        self.assertGreater(float(weight[bare].mean()), 0.95)
        mine = belongs(labels == 1, np.zeros(labels.shape, bool), lab, PX)
        self.assertGreater(float(mine[hair].mean()), 0.6)
        self.assertLess(float(mine[bare].mean()), 0.05)

    def test_a_shadow_on_a_coloured_ground_is_ground_and_dark_hair_on_a_grey_one_is_hair(self):
        for left, kept in (((42.0, 58.0, 12.0), True), ((42.0, 1.0, 2.0), False)):
            _, labels, lab = two(left=left)
            spot = np.s_[40:80, 84:97]
            lab[spot] = 0.55 * np.array(left)
            weight = belongs(labels == 0, labels == 1, lab, PX)
            self.assertEqual(float(weight[spot].mean()) > 0.85, kept, left)

    def test_a_ground_as_restless_as_hair_is_taken_by_its_outline(self):
        _, labels, lab = two()
        lab[:, :100, 0] += np.random.default_rng(2).normal(0, 16, (120, 100))
        weight = belongs(labels == 0, labels == 1, lab, PX)
        self.assertGreater(float(weight[:, :94].mean()), 0.93)


class Said(unittest.TestCase):
    def test_it_is_said_in_words(self):
        one = Departure("a", lightness=-6, strength=0.8, warmth=5, redness=-2, contrast=1.2, soft_mm=3)
        self.assertEqual(
            one.words(), "6 L* darker, 20 % greyer, 5 warmer, 2 greener, 20 % more contrast, softened by 3.0 mm"
        )
        self.assertEqual(Departure("a", "lit", note="x").words(), "as the reference")
        self.assertTrue(Departure("a", "lit", note="x").nothing)
        self.assertFalse(Departure("a", contrast=1.01).nothing)

    def test_numbers_are_kept_in_their_ranges_and_what_cannot_be_is_refused(self):
        self.assertEqual(checked_departure(Departure("a", lightness=90, strength=-1)).lightness, 40)
        self.assertEqual(checked_departure(Departure("a", strength=-1)).strength, 0)
        for wrong in (Departure("a", "left"), Departure("a", "far"), Departure("a", lightness=float("nan"))):
            with self.assertRaises(InputError):
                checked_departure(wrong)
        kept = sound_departures(
            [Departure("a", lightness=5), Departure("a", lightness=9), Departure("b"), Departure("a", "far", warmth=3)]
        )
        self.assertEqual(kept, (Departure("a", lightness=5),))


if __name__ == "__main__":
    unittest.main()
