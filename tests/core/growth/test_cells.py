"""Cells of a zone's window, held against every cell looked at one by one."""

import unittest
from unittest import mock

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import axis as rules
from foxpath.core.growth.axis import AxisEvidence, with_combs
from foxpath.core.growth.cells import (
    CombStroke,
    away_from,
    comb_cells,
    grown,
    joined_cells,
    spread_out,
    unit_of,
    window_of,
)

FRAME = Frame.over(Crop(10.0, 20.0, 400.0, 300.0), 0.5, 200)
"""Cells of two pixels."""


class Distances(unittest.TestCase):
    def setUp(self):
        self.rng = np.random.default_rng(3)
        self.some = self.rng.random((37, 52)) < 0.01
        self.some[0, 0] = True
        self.at = np.argwhere(self.some)

    def away(self, i, j):
        return np.hypot(*(self.at - (i, j)).T)

    def test_they_are_exact_and_the_same_every_time(self):
        told = away_from(self.some)
        for i in range(37):
            for j in range(52):
                self.assertAlmostEqual(float(told[i, j]), float(self.away(i, j).min()), places=5)
        for _ in range(20):
            np.testing.assert_array_equal(away_from(self.some), told)

    def test_what_is_unknown_takes_the_direction_of_the_nearest_that_is_known(self):
        direction = self.rng.standard_normal((37, 52, 2)).astype(np.float32)
        made = spread_out(direction, self.some)
        np.testing.assert_array_equal(made[self.some], direction[self.some])
        for i in range(37):
            for j in range(52):
                taken = (direction[self.some] == made[i, j]).all(axis=1)
                away = self.away(i, j)
                self.assertEqual(int(taken.sum()), 1)
                # To a fiftieth: the picture library measures by knight's moves.
                self.assertLessEqual(float(away[taken][0]), 1.02 * float(away.min()) + 0.5)
        whole = np.ones_like(self.some)
        np.testing.assert_array_equal(spread_out(direction, whole), direction)


class Windows(unittest.TestCase):
    def test_a_window_holds_the_mask_and_so_many_cells_more(self):
        mask = np.zeros((30, 40), bool)
        mask[10:13, 20:26] = True
        self.assertEqual(window_of(mask, 4), (slice(6, 17), slice(16, 30)))
        self.assertEqual(window_of(mask, 0), (slice(10, 13), slice(20, 26)))
        self.assertEqual(window_of(mask, 25), (slice(0, 30), slice(0, 40)))

    def test_a_mask_grows_by_a_disc(self):
        mask = np.zeros((31, 31), bool)
        mask[15, 15] = True
        i, j = np.mgrid[-15:16, -15:16]
        made = grown(mask, 6)
        self.assertTrue((made[np.hypot(i, j) <= 5.5]).all())
        self.assertFalse((made[np.hypot(i, j) > 6.5]).any())

    def test_cells_are_joined_within_the_domain_alone(self):
        domain = np.random.default_rng(2).random((9, 11)) < 0.6
        east, south = joined_cells(domain)
        for i in range(9):
            for j in range(11):
                self.assertEqual(east[i, j], j < 10 and domain[i, j] and domain[i, min(j + 1, 10)])
                self.assertEqual(south[i, j], i < 8 and domain[i, j] and domain[min(i + 1, 8), j])

    def test_vectors_are_split_into_way_and_size(self):
        way, size = unit_of(np.array([[[3.0, 0.0]], [[-4.0, 0.0]]], np.float32))
        np.testing.assert_allclose(way, [[[0.6, -0.8], [0, 0]]], rtol=1e-6)
        np.testing.assert_allclose(size, [[5, 0]])


class Strokes(unittest.TestCase):
    def test_a_comb_is_laid_into_the_cells_it_crosses(self):
        domain = np.ones((40, 60), bool)
        domain[:, 30:] = False
        # From cell 20, 10 of the grid to 40, 10: in a window that begins at row 5, column 12.
        line = np.array([[10 + 2 * 20.0, 20 + 2 * 10.5], [10 + 2 * 60.0, 20 + 2 * 10.5]])
        cells = comb_cells([CombStroke(line)], FRAME, 5, 12, domain)
        self.assertEqual(cells.shape, (4, 40, 60))
        there = np.argwhere(cells[3] > 0)
        self.assertEqual({int(i) for i, _ in there}, {5})
        self.assertEqual((there[:, 1].min(), there[:, 1].max()), (8, 29))
        np.testing.assert_allclose(cells[0][5, 8:30], cells[2][5, 8:30])
        np.testing.assert_allclose(cells[1], 0, atol=1e-5)
        # Two samples a cell.
        np.testing.assert_allclose(cells[2][5, 9:29], 2, atol=1.01)
        self.assertAlmostEqual(float(cells[2].sum()), 44, delta=2)

    def test_weights_count_and_the_heaviest_is_told(self):
        domain = np.ones((40, 60), bool)
        line = np.array([[60.0, 41.0], [120.0, 41.0]])
        light, both = (
            comb_cells([CombStroke(line, w) for w in weights], FRAME, 0, 0, domain) for weights in ((0.4,), (0.4, 1.0))
        )
        np.testing.assert_allclose(both[0], light[0] * 3.5, rtol=1e-5)
        self.assertEqual((float(light[3].max()), float(both[3].max())), (np.float32(0.4), 1))
        none = comb_cells([CombStroke(line[:1].repeat(2, 0))], FRAME, 0, 0, domain)
        self.assertFalse(none.any())


class Nearby(unittest.TestCase):
    def test_what_combs_say_beside_themselves_ends_where_nothing_is_left_of_it(self):
        rng = np.random.default_rng(1)
        shape, long_side = (180, 200), 200
        axis = rng.standard_normal((2, *shape)).astype(np.float32)
        axis /= np.hypot(*axis)
        weight = rng.random(shape).astype(np.float32)
        combs, combed = np.zeros((2, *shape), np.float32), np.zeros(shape, np.float32)
        combs[0, 60, 40:70], combed[60, 40:70] = 1, 1
        domain = np.ones(shape, bool)
        domain[:, 150:] = False
        joined = joined_cells(domain)
        told = with_combs(AxisEvidence(axis, weight), combs, combed, joined, domain, long_side)
        with mock.patch.object(rules, "_NEARBY_ENDS", 1000):
            whole = with_combs(AxisEvidence(axis, weight), combs, combed, joined, domain, long_side)
        np.testing.assert_allclose(told.axis * told.weight, whole.axis * whole.weight, atol=2e-3)
        reach = round(rules._NEARBY_ENDS * rules.NEARBY_SHARE * long_side)
        np.testing.assert_array_equal(told.weight[60 + reach + 1 :], weight[60 + reach + 1 :])
        self.assertGreater(float(np.abs(told.weight - weight)[60 + 8, 50]), 0.01)
        # What was given stays as it was.
        np.testing.assert_array_equal(np.hypot(*axis).round(4), 1)


if __name__ == "__main__":
    unittest.main()
