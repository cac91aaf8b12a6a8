"""How a border's width is read off a photograph: profiles, how they are laid together, slopes and blurs, on steps that are known."""

import math
import unittest

import numpy as np
from scipy.special import erf

from foxpath.core.edges.measured import (
    LEAST_STEP,
    NARROWEST_PX,
    REACH_PX,
    TOGETHER_PX,
    EdgeReading,
    _blur_of,
    _laid_together,
    _profiles,
    _slope_at,
    read_edge,
)
from foxpath.core.units import WIDTH_OF_SIGMA

HEIGHT, WIDTH = 240, 320


def down(x, first=40.0, last=200.0):
    """A straight run downward."""
    return np.array([[x, first], [x, last]])


def step(sigma, middle=0.0, height=100.0, low=60.0):
    """A blurred step on half pixels, as a profile has it: `height` levels, `middle` px from its middle."""
    across = np.arange(-REACH_PX, REACH_PX + 0.25, 0.5) - middle
    return (low + height * (1 + erf(across / sigma / math.sqrt(2))) / 2).astype(np.float32)


def upright(sigmas, height=100.0, at=160.0):
    """A picture with an upright border at `at`; each row blurred by its own sigma, px, or without any step (None)."""
    x = np.arange(WIDTH) + 0.5
    rows = [
        np.full(WIDTH, 60.0) if s is None else 60 + height * (1 + erf((x - at) / s / math.sqrt(2))) / 2 for s in sigmas
    ]
    return np.array(rows, np.float32)


class Profiles(unittest.TestCase):
    ramp = np.tile(np.arange(WIDTH, dtype=np.float32), (HEIGHT, 1))

    def test_one_row_a_pixel_of_its_length_across_it_on_half_pixels(self):
        lines = _profiles(self.ramp, down(100.0))
        self.assertEqual(lines.shape, (160, 4 * REACH_PX + 1))
        # A level of the ramp lies in the middle of its pixel; what runs down has the smaller x on its far side.
        np.testing.assert_allclose(lines[80], 99.5 - np.arange(-REACH_PX, REACH_PX + 0.25, 0.5), atol=0.02)
        up = _profiles(self.ramp, down(100.0)[::-1])
        np.testing.assert_allclose(up[80], lines[80][::-1], atol=0.02)

    def test_it_is_crossed_at_a_right_angle(self):
        slanting = np.array([[100.0, 60.0], [160.0, 140.0]])
        lines = _profiles(self.ramp, slanting)
        self.assertEqual(len(lines), 100)
        # Its direction is (0.6, 0.8): across it x changes by 0.8 a px.
        np.testing.assert_allclose(lines[50, 0] - lines[50, -1], 0.8 * 2 * REACH_PX, atol=0.05)
        rows = np.tile(np.arange(HEIGHT, dtype=np.float32)[:, None], (1, WIDTH))
        np.testing.assert_allclose(
            _profiles(rows, slanting)[50, -1] - _profiles(rows, slanting)[50, 0], 0.6 * 2 * REACH_PX, atol=0.05
        )

    def test_a_row_is_read_at_its_own_height(self):
        rows = np.tile(np.arange(HEIGHT, dtype=np.float32)[:, None], (1, WIDTH))
        lines = _profiles(rows, down(100.0))
        np.testing.assert_allclose(lines[:, 60], np.linspace(40, 200, 160) - 0.5, atol=0.02)

    def test_what_would_leave_the_picture_is_left_out(self):
        self.assertEqual(len(_profiles(self.ramp, down(29.0))), 0)
        self.assertEqual(len(_profiles(self.ramp, down(32.0))), 160)
        self.assertEqual(len(_profiles(self.ramp, down(WIDTH - 29.0))), 0)
        across = np.array([[10.0, 120.0], [310.0, 120.0]])
        self.assertEqual(len(_profiles(self.ramp, across)), 300)
        self.assertEqual(len(_profiles(self.ramp, across + (0, 95))), 0)
        out = _profiles(self.ramp, np.array([[100.0, 120.0], [100.0, 320.0]]))
        self.assertAlmostEqual(len(out), HEIGHT - 1 - 120, delta=2)

    def test_a_run_of_less_than_eight_pixels_is_none(self):
        self.assertEqual(len(_profiles(self.ramp, down(100.0, 40, 47.5))), 0)
        self.assertEqual(len(_profiles(self.ramp, down(100.0, 40, 48.5))), 8)


class Together(unittest.TestCase):
    def steepest(self, lines):
        return float(np.abs(np.diff(_laid_together(np.asarray(lines, np.float32)))).max())

    def test_an_unsteady_outline_does_not_widen_the_edge(self):
        alone = float(np.abs(np.diff(step(2.0))).max())
        for way in (np.linspace(-7, 7, 31), 5 * np.linspace(-1, 1, 31) ** 2 - 3, np.full(31, 6.0)):
            for sense in (1, -1):
                lines = [60 + sense * (step(2.0, float(m)) - 60) for m in way]
                self.assertGreater(self.steepest(lines), 0.93 * alone)

    def test_hairs_that_stand_out_do_and_one_that_is_far_off_bends_nothing(self):
        rng = np.random.default_rng(3)
        ragged = [step(2.0, float(m)) for m in rng.normal(0, 3, 31)]
        self.assertLess(self.steepest(ragged), 0.75 * self.steepest([step(2.0)] * 31))
        far = [step(2.0, 14.0 if k in (4, 25) else 0.0) for k in range(31)]
        self.assertGreater(self.steepest(far), 0.85 * self.steepest([step(2.0)] * 31))

    def test_the_edge_lies_in_its_middle_and_the_rest_is_cut_off(self):
        made = _laid_together(np.array([step(2.0, 5.0)] * 31))
        self.assertEqual(len(made), 121 - 2 * 30)
        self.assertAlmostEqual(int(np.argmax(np.diff(made))), len(made) // 2, delta=1)


class Blur(unittest.TestCase):
    def test_slopes_are_levels_a_pixel_after_smoothing_in_pixels(self):
        for sigma, more in ((1.0, 2.0), (3.0, 1.0), (2.0, 4.0)):
            told = 100 / math.sqrt(2 * math.pi * (sigma**2 + more**2))
            self.assertAlmostEqual(_slope_at(step(sigma), more) / told, 1, delta=0.01)
            self.assertAlmostEqual(_slope_at(160 - step(sigma), more) / told, 1, delta=0.01)
        # Three pixels beside the middle it is still the edge's own, farther off another's.
        self.assertAlmostEqual(_slope_at(step(1.0, 3.0), 0.7) / _slope_at(step(1.0), 0.7), 1, delta=0.02)
        self.assertLess(_slope_at(step(1.0, 8.0), 0.7), 0.05 * _slope_at(step(1.0), 0.7))

    def test_the_blur_of_a_step_is_found_and_the_sampling_s_own_taken_off(self):
        for sigma in (1.2, 2.0, 4.0, 7.0):
            self.assertAlmostEqual(_blur_of(step(sigma)), math.sqrt(sigma**2 - 1 / 12), delta=0.02 * sigma)
        self.assertAlmostEqual(_blur_of(step(0.05)), NARROWEST_PX, delta=0.05)

    def test_without_a_clear_step_there_is_none(self):
        self.assertIsNone(_blur_of(step(2.0, height=LEAST_STEP - 0.3)))
        self.assertIsNotNone(_blur_of(step(2.0, height=LEAST_STEP + 0.3)))
        self.assertIsNone(_blur_of(step(40.0)))
        self.assertIsNone(_blur_of(np.linspace(0, 200, 61, dtype=np.float32)))

    def test_a_side_that_is_rough_needs_a_larger_step(self):
        wave = np.zeros(121, np.float32)
        wave[:24] = 10 * np.where(np.arange(24) % 8 < 4, 1, -1)
        # The side spreads by 10: a step of 25 and less is none.
        self.assertIsNone(_blur_of(step(2.0, height=24) + wave))
        self.assertIsNotNone(_blur_of(step(2.0, height=27) + wave))
        self.assertIsNone(_blur_of((step(2.0, height=24) + wave)[::-1]))


class Read(unittest.TestCase):
    def test_the_width_is_that_from_a_tenth_to_nine(self):
        one = read_edge(upright([3.0] * HEIGHT), [down(161.0)])
        self.assertAlmostEqual(one.width, WIDTH_OF_SIGMA * math.sqrt(9 - 1 / 12), delta=0.15)
        self.assertAlmostEqual(one.reliable, 1, delta=0.03)
        self.assertAlmostEqual(one.high, one.low, delta=0.1)

    def test_the_share_of_its_length_that_shows_a_step_is_how_far_it_is_believed(self):
        windows = 160 / TOGETHER_PX
        half = read_edge(upright([3.0 if row < 120 else None for row in range(HEIGHT)]), [down(160.0)])
        self.assertAlmostEqual(half.reliable, 80 / 160, delta=0.75 / windows)
        self.assertAlmostEqual(half.width, WIDTH_OF_SIGMA * 3, delta=0.5)
        both = read_edge(upright([3.0] * HEIGHT), [down(160.0), down(60.0)])
        self.assertAlmostEqual(both.reliable, 0.5, delta=0.03)

    def test_widths_that_scatter_are_believed_less_and_their_tenths_are_told(self):
        image = upright([2.0 if row < 120 else 6.0 for row in range(HEIGHT)])
        one = read_edge(image, [down(160.0, 20, 220)])
        self.assertAlmostEqual(one.low, WIDTH_OF_SIGMA * 2, delta=0.8)
        self.assertAlmostEqual(one.high, WIDTH_OF_SIGMA * 6, delta=1.2)
        self.assertGreater(one.width, one.low)
        self.assertLess(one.width, one.high)
        # Half of the widths lie the whole difference from the middle one, or all of them half of it.
        self.assertLess(one.reliable, 0.75)

    def test_in_other_units_its_widths_change_and_its_trust_does_not(self):
        self.assertEqual(EdgeReading(4.0, 2.0, 6.0, 0.7, "x").times(0.5), EdgeReading(2.0, 1.0, 3.0, 0.7, "x"))


if __name__ == "__main__":
    unittest.main()
