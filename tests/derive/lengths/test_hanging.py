"""The fringe of a border: where hair stands over it, how many, how long, how far; on a border and a growth that are known."""

import unittest

import numpy as np

from foxpath.core.edges import Border
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import ZoneField
from foxpath.derive.lengths.hanging import FRINGE_OVER, fringe_along

MM = 0.25
FRAME = Frame.over(Crop(0, 0, 800, 400), MM, 400)
COUNT = 4000


def field(direction, sure=0.8):
    way = np.broadcast_to(np.asarray(direction, np.float32), (*FRAME.shape, 2)).copy()
    ones = np.ones(FRAME.shape, np.float32)
    inside = np.ones(FRAME.shape, bool)
    return ZoneField(FRAME, 0, 0, way, ones * sure, inside, inside, True, ones, inside)


class Fringe(unittest.TestCase):
    """A level border at 200 px down, the coat above it, 700 px (175 mm) long, a point every 0.175 px."""

    def setUp(self):
        self.run = np.stack([np.linspace(50, 750, COUNT), np.full(COUNT, 200.0)], axis=1)
        self.border = Border(1, 0, (self.run[: COUNT // 2], self.run[COUNT // 2 :]), 700 * MM)
        self.out = np.tile([0.0, 1.0], (COUNT, 1))

    def fringe(self, direction=(0.0, 1.0), length=10.0, seed=3, sure=0.8):
        long = np.full(COUNT, length, np.float32)
        return fringe_along(self.border, self.out, field(direction, sure), long, MM, seed)

    def test_hair_roots_inside_and_ends_beyond_by_a_share_of_its_length(self):
        lines, sure = self.fringe()
        long = np.hypot(*(lines[:, -1] - lines[:, 0]).T) * MM
        self.assertAlmostEqual(float(np.median(long)), 10.0, delta=0.7)
        self.assertAlmostEqual(float(long.std()) / 10, 0.22, delta=0.05)
        self.assertTrue((lines[:, 0, 1] < 200).all())
        beyond = (lines[:, -1, 1] - 200) * MM / long
        self.assertAlmostEqual(float(np.median(beyond)), FRINGE_OVER, delta=0.04)
        self.assertTrue(0.15 < np.quantile(beyond, 0.02) < np.quantile(beyond, 0.98) < 0.62)
        np.testing.assert_allclose(sure, 0.8, atol=1e-6)

    def test_they_stand_a_tenth_of_their_length_apart(self):
        for length in (5.0, 10.0, 20.0):
            count = sum(len(self.fringe(length=length, seed=seed)[0]) for seed in range(8)) / 8
            self.assertAlmostEqual(count * 0.11 * length / 175, 1, delta=0.1)
        # No closer than every point of the border, nor than 0.3 mm.
        self.assertAlmostEqual(len(self.fringe(length=0.5)[0]) * 0.3 / 175, 1, delta=0.12)

    def test_only_where_growth_points_out(self):
        self.assertEqual(len(self.fringe((0.0, -1.0))[0]), 0)
        self.assertEqual(len(self.fringe((1.0, 0.0))[0]), 0)
        slanting = [len(self.fringe((np.cos(a), np.sin(a)))[0]) for a in np.radians((15, 20, 60))]
        self.assertEqual(slanting[0], 0)
        self.assertTrue(slanting[1] > 100 and abs(slanting[1] - slanting[2]) < 0.2 * slanting[2])

    def test_they_lie_as_it_grows_unevenly_and_bend_to_both_sides(self):
        lines, _ = self.fringe((np.sin(np.radians(30)), np.cos(np.radians(30))))
        way = lines[:, 1] - lines[:, 0]
        lean = np.degrees(np.arctan2(way[:, 0], way[:, 1]))
        self.assertAlmostEqual(float(np.median(lean)), 30, delta=2.5)
        self.assertTrue(7 < lean.std() < 13, lean.std())
        end = lines[:, -1] - lines[:, -2]
        bent = np.degrees(np.arctan2(way[:, 0] * end[:, 1] - way[:, 1] * end[:, 0], (way * end).sum(axis=1)))
        self.assertAlmostEqual(float(bent.mean()), 0, delta=1.5)
        self.assertTrue(6 < bent.std() < 16, bent.std())

    def test_the_same_seed_is_the_same_fringe(self):
        one, two, other = (self.fringe(seed=seed)[0] for seed in (3, 3, 4))
        np.testing.assert_array_equal(one, two)
        self.assertFalse(one.shape == other.shape and np.allclose(one, other))

    def test_growth_is_read_a_little_inside(self):
        """Beyond the border another coat grows upward: the fringe follows its own."""
        way = np.zeros((*FRAME.shape, 2), np.float32)
        way[..., 1] = np.where(np.arange(FRAME.rows) < 99, 1.0, -1.0)[:, None]
        ones, inside = np.ones(FRAME.shape, np.float32), np.ones(FRAME.shape, bool)
        own = ZoneField(FRAME, 0, 0, way, ones, inside, inside, True, ones, inside)
        lines, _ = fringe_along(self.border, self.out, own, np.full(COUNT, 10.0, np.float32), MM, 3)
        self.assertGreater(len(lines), 100)
        self.assertTrue((lines[:, -1, 1] > lines[:, 0, 1]).all())


if __name__ == "__main__":
    unittest.main()
