"""A zone's field at places between its cells, what it says of itself, and the guess where no comb speaks: all by hand."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import SURE_ENOUGH, prior_field
from foxpath.core.growth.axis import AxisEvidence
from foxpath.core.growth.field import _RIM_REACH, _RIM_SAYS, ZoneField, _hushed, _outward
from foxpath.core.growth.sureness import REACH

FRAME = Frame(Crop(10, 20, 400, 300), 200, 150, 0.5)
"""Cells of 2 px, 1 mm."""


def cells():
    """A window of 3 by 4 cells at row 5, column 8; another way and sureness in each."""
    turn = np.radians(np.arange(12).reshape(3, 4) * 20.0)
    way = np.stack([np.cos(turn), np.sin(turn)], axis=-1).astype(np.float32)
    sure = (np.arange(12).reshape(3, 4) / 12).astype(np.float32)
    inside = np.ones((3, 4), bool)
    inside[2, 0] = False
    return ZoneField(FRAME, 5, 8, way, sure, inside, np.ones_like(inside), True, sure, inside)


def px(column, row):
    """The reference pixels of a place in cells."""
    return np.array([[10 + 2 * column, 20 + 2 * row]], float)


class Window(unittest.TestCase):
    def test_in_a_cell_s_middle_it_says_its_own(self):
        one = cells()
        for i in range(3):
            for j in range(4):
                way, sure = one.sample(px(8.5 + j, 5.5 + i))
                np.testing.assert_allclose(way[0], one.direction[i, j], atol=2e-3)
                self.assertAlmostEqual(sure[0], one.sure[i, j], delta=2e-3)

    def test_between_four_it_says_their_mixture_a_unit_long(self):
        one = cells()
        way, sure = one.sample(px(8.5 + 1.25, 5.5 + 0.75))
        weights = np.outer((0.25, 0.75), (0.75, 0.25))
        mixed = (one.direction[:2, 1:3] * weights[..., None]).sum(axis=(0, 1))
        np.testing.assert_allclose(way[0], mixed / np.hypot(*mixed), atol=1e-5)
        self.assertAlmostEqual(sure[0], float((one.sure[:2, 1:3] * weights).sum()), places=5)

    def test_beyond_its_window_the_nearest_speaks(self):
        one = cells()
        for column, row, i, j in ((0, 6.5, 1, 0), (60, 6.5, 1, 3), (9.5, 0, 0, 1), (9.5, 90, 2, 1), (60, 90, 2, 3)):
            way, sure = one.sample(px(column, row))
            np.testing.assert_allclose(way[0], one.direction[i, j], atol=2e-3)
            self.assertAlmostEqual(sure[0], one.sure[i, j], delta=2e-3)

    def test_it_holds_its_own_cells_alone(self):
        held = {
            (column, row)
            for column in range(6, 15)
            for row in range(3, 11)
            if cells().holds(px(column + 0.5, row + 0.5))[0]
        }
        self.assertEqual(held, {(8 + j, 5 + i) for i in range(3) for j in range(4)} - {(8, 7)})
        self.assertTrue(cells().holds(px(8.01, 5.01))[0])
        self.assertFalse(cells().holds(px(7.99, 5.01))[0])
        whole = cells().whole()
        self.assertEqual({(int(j), int(i)) for i, j in np.argwhere(whole)}, held)

    def test_how_much_of_it_is_unsure(self):
        one = cells()
        low = int((one.sure < SURE_ENOUGH).sum()) - 1 * (one.sure[2, 0] < SURE_ENOUGH)
        self.assertAlmostEqual(one.unsure_cm2(), low / 100)
        self.assertAlmostEqual(one.sure_share(), 1 - low / 11)
        # Cells of 2 px at 1 mm a px are four times as large.
        coarse = replace(one, frame=Frame(Crop(10, 20, 400, 300), 200, 150, 1.0))
        self.assertAlmostEqual(coarse.unsure_cm2(), 4 * low / 100)
        self.assertEqual(replace(one, inside=np.zeros((3, 4), bool)).sure_share(), 0)


class Guess(unittest.TestCase):
    def at(self, guess, x, y):
        column, row = FRAME.to_grid(np.array([[x, y]], float))[0]
        return guess[int(row), int(column)]

    def test_hair_that_stands_up_does_so_everywhere(self):
        np.testing.assert_array_equal(
            prior_field(FRAME, np.array([[100.0, 100]]), "up"), np.broadcast_to((0, -1), (150, 200, 2))
        )

    def test_without_a_head_hair_hangs(self):
        for prior in ("away", "back"):
            np.testing.assert_allclose(
                prior_field(FRAME, np.zeros((0, 2)), prior), np.broadcast_to((0, 1), (150, 200, 2)), atol=1e-6
            )

    def test_back_from_the_head_it_runs_away_and_half_as_much_down(self):
        guess = prior_field(FRAME, np.array([[90.0, 100], [110, 140]]), "back")
        # From (100, 120), the middle of what is known of the head; cells of 2 px.
        for x, y in ((301.0, 121.0), (21.0, 121.0), (181.0, 221.0)):
            dx, dy = (x - 100) / 2, (y - 120) / 2
            away = np.hypot(dx, dy) + 1
            wanted = np.array([dx / away, dy / away + 0.5])
            np.testing.assert_allclose(self.at(guess, x, y), wanted / np.hypot(*wanted), atol=1e-4)

    def test_away_from_each_eye_the_less_the_farther(self):
        eyes = np.array([[100.0, 120], [200, 120]])
        guess = prior_field(FRAME, eyes)
        for x, y in ((81.0, 121.0), (151.0, 61.0), (391.0, 301.0), (131.0, 141.0)):
            total = np.array([0.0, 0.6])
            for ex, ey in eyes:
                dx, dy = (x - ex) / 2, (y - ey) / 2
                away = np.hypot(dx, dy) + 1
                total += np.array([dx, dy]) / away / (1 + (away / (0.15 * 200)) ** 2)
            np.testing.assert_allclose(self.at(guess, x, y), total / np.hypot(*total), atol=1e-4)


class Rim(unittest.TestCase):
    def test_out_over_each_side_twice_as_strong_as_hanging_and_less_within(self):
        animal = np.zeros((150, 200), bool)
        animal[30:120, 40:160] = True
        out = _outward(animal)
        for i, j, way in ((75, 40, (-1, 0)), (75, 159, (1, 0)), (30, 100, (0, -1)), (119, 100, (0, 1))):
            size = float(np.hypot(*out[:, i, j]))
            np.testing.assert_allclose(out[:, i, j] / size, way, atol=0.02)
            self.assertAlmostEqual(size, _RIM_SAYS * np.exp(-1 / (_RIM_REACH * 200)), delta=0.01)
        self.assertAlmostEqual(
            float(np.hypot(*out[:, 75, 49])), _RIM_SAYS * np.exp(-10 / (_RIM_REACH * 200)), delta=0.01
        )
        self.assertFalse(out[:, ~animal].any())

    def test_where_the_animal_is_cut_by_the_picture_there_is_no_rim(self):
        animal = np.zeros((150, 200), bool)
        animal[:, 100:] = True
        out = _outward(animal)
        np.testing.assert_allclose(out[:, 75, 100] / np.hypot(*out[:, 75, 100]), (-1, 0), atol=0.02)
        # 80 cells within: by the left side alone, whatever lies beyond the picture.
        for i in (1, 75, 148):
            self.assertLess(abs(float(out[1, i, 120])), 0.02)
        self.assertFalse(_outward(np.ones((150, 200), bool)).any())


class Hushed(unittest.TestCase):
    def test_round_a_kept_comb_the_picture_says_nothing_and_farther_off_what_it_did(self):
        seen = AxisEvidence(np.ones((2, 40, 200), np.float32), np.full((40, 200), 0.8, np.float32))
        comb = np.zeros((40, 200), np.float32)
        comb[:, 0] = 1
        made = _hushed(seen, comb, 1000)
        reach = REACH * 1000
        for away in (0, 0.3, 0.6, 0.8, 1.2):
            column = round(away * reach)
            share = np.clip((column / reach - 0.35) / 0.65, 0, 1) ** 2
            self.assertAlmostEqual(float(made.weight[20, column]), 0.8 * share, places=4)
        np.testing.assert_array_equal(made.axis, seen.axis)
        self.assertIs(_hushed(seen, np.zeros_like(comb), 1000), seen)


if __name__ == "__main__":
    unittest.main()
