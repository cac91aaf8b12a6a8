"""Filling, layering and measuring zones on a grid, cell by cell."""

import unittest

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.zones.map import ZoneShape, area_cm2, fill, inscribed_mm, label_map

FRAME = Frame(Crop(10, 20, 80, 60), 40, 30, 0.5)  # cells of 2 px, 1 mm


class Filling(unittest.TestCase):
    def test_a_cell_belongs_to_what_holds_its_centre(self):
        square = np.array([(2.4, 1.4), (5.6, 1.4), (5.6, 4.6), (2.4, 4.6)])
        found = np.argwhere(fill(square, (8, 9)))
        self.assertEqual((found.min(axis=0).tolist(), found.max(axis=0).tolist(), len(found)), ([1, 2], [4, 5], 16))
        barely = square + (0.11, 0)  # its left side passes a column's centres
        self.assertEqual(int(fill(barely, (8, 9)).sum()), 12)

    def test_either_way_round_and_beyond_the_grid(self):
        square = np.array([(-5.0, -5), (3, -5), (3, 3), (-5, 3)])
        for line in (square, square[::-1]):
            self.assertEqual(int(fill(line, (8, 9)).sum()), 9)
        self.assertTrue(fill(np.array([(-5.0, -5), (30, -5), (30, 30), (-5, 30)]), (8, 9)).all())
        self.assertFalse(fill(np.array([(20.0, 1), (30, 1), (30, 5)]), (8, 9)).any())

    def test_what_is_crossed_twice_is_outside(self):
        ring = np.array([(0, 0), (8, 0), (8, 8), (0, 8), (0, 0), (2, 2), (2, 6), (6, 6), (6, 2), (2, 2)], float)
        found = fill(ring, (8, 8))
        self.assertFalse(found[4, 4])
        self.assertEqual(int(found.sum()), 64 - 16)


class Layers(unittest.TestCase):
    def shape(self, x, depth, **how):
        return ZoneShape(np.array([(x, 30.0), (x + 30, 30), (x + 30, 60), (x, 60)]), depth, **how)

    def test_the_front_most_wins_and_of_equals_the_later(self):
        everywhere = ZoneShape(np.zeros((0, 2)), 0)
        labels = label_map([self.shape(40, 2), everywhere, self.shape(20, 1), self.shape(50, 2)], FRAME)

        def at(x, y):
            return int(labels[int((y - 20) / 2), int((x - 10) / 2)])

        self.assertEqual([at(12, 70), at(30, 45), at(45, 45), at(60, 45), at(75, 45)], [1, 2, 0, 3, 3])

    def test_what_hides_nothing_is_not_on_the_map(self):
        labels = label_map([self.shape(40, 2, cover=False)], FRAME)
        self.assertTrue((labels == -1).all())


class Measures(unittest.TestCase):
    def test_areas_and_the_widest_disc_are_in_true_measures(self):
        mask = np.zeros(FRAME.shape, bool)
        mask[5:15, 10:35] = True
        self.assertAlmostEqual(area_cm2(mask, FRAME), 2.5)
        self.assertAlmostEqual(inscribed_mm(mask, FRAME), 10, delta=0.5)
        # The grid's own rim bounds it too.
        mask[:] = False
        mask[:6] = True
        self.assertAlmostEqual(inscribed_mm(mask, FRAME), 6, delta=1.1)
        self.assertEqual(inscribed_mm(np.zeros(FRAME.shape, bool), FRAME), 0)


if __name__ == "__main__":
    unittest.main()
