"""Turns of an axis: on fields whose singular points are known."""

import unittest

import numpy as np

from foxpath.core.growth.axis import root_and_tip
from foxpath.core.growth.winding import HEART, MOST, joined_turns, round_hearts, turns

SIZE = 60


def radial(*centres, power=1.0):
    """An axis (SIZE, SIZE) that turns `power` times round every centre."""
    y, x = np.mgrid[0:SIZE, 0:SIZE] + 0.5
    return sum(power * np.arctan2(y - cy, x - cx) for cx, cy in centres).astype(np.float32)


EVERYWHERE = np.ones((SIZE, SIZE), bool)


class Turns(unittest.TestCase):
    def test_a_crown_turns_by_two_halves_a_loop_by_one_a_delta_back(self):
        for power, halves in ((1.0, 2), (0.5, 1), (-0.5, -1), (-1.0, -2)):
            found = joined_turns(turns(radial((30.3, 20.4), power=power), EVERYWHERE), 4)
            self.assertEqual([one[2] for one in found], [halves])
            np.testing.assert_allclose(found[0][:2], (30.3, 20.4), atol=1)
        self.assertEqual(len(turns(np.full((SIZE, SIZE), 1.2, np.float32), EVERYWHERE)), 0)

    def test_nothing_is_found_outside(self):
        inside = EVERYWHERE.copy()
        inside[18:23, 28:33] = False
        self.assertEqual(len(turns(radial((30.3, 20.4)), inside)), 0)

    def test_halves_near_each_other_are_one_and_opposite_ones_none(self):
        halves = np.array([[10.0, 10, 1], [14.0, 10, 1], [40.0, 40, 1], [43.0, 40, -1]])
        self.assertEqual(joined_turns(halves, 6), [(12.0, 10.0, 2.0)])
        self.assertEqual(len(joined_turns(halves, 2)), 4)
        # The middle of three lies where their mean does.
        three = joined_turns(np.array([[0.0, 0, 1], [3.0, 0, 1], [6.0, 0, 1]]), 5)
        self.assertEqual([tuple(np.round(one, 6)) for one in three], [(3.0, 0.0, 3.0)])

    def test_of_noise_nothing_is_made(self):
        rng = np.random.default_rng(1)
        many = np.column_stack([rng.uniform(0, 50, (MOST, 2)), np.ones(MOST)])
        self.assertEqual(joined_turns(many, 1e-9), [])
        self.assertEqual(len(joined_turns(many[1:], 1e-9)), MOST - 1)


class Hearts(unittest.TestCase):
    def test_a_crowns_heart_is_shut_and_nothing_else(self):
        even, long_side = np.full((SIZE, SIZE), 0.8, np.float32), 200
        made = round_hearts(radial((30.3, 20.4)), even, EVERYWHERE, long_side)
        reach = HEART * long_side
        self.assertLess(made[20, 30], 0.05)
        self.assertAlmostEqual(float(made[20, round(30 + reach)]), 0.8 * (1 - 0.97 / np.e), delta=0.12)
        np.testing.assert_allclose(made[20, 50:], 0.8, rtol=1e-3)
        np.testing.assert_allclose(round_hearts(radial((30.3, 20.4), power=0.5), even, EVERYWHERE, long_side), even)
        np.testing.assert_allclose(round_hearts(radial((30.3, 20.4), power=-1), even, EVERYWHERE, long_side), even)

    def test_root_and_tip_go_round_it_and_not_through(self):
        # Two halves instead of a crown: between them the axis runs straight from one side to the other.
        angle = radial((30, 25), (30, 35), power=0.5)
        truth = radial((30, 30))
        marks, combed = np.zeros((2, SIZE, SIZE), np.float32), np.zeros((SIZE, SIZE), np.float32)
        marks[0, 30, 45], combed[30, 45] = 1, 1
        east, south = np.ones((2, SIZE, SIZE), np.float32)
        east[:, -1] = south[-1] = 0
        # Where neighbours hardly agree, as above and below a crown in a blurred picture, the way round is the worse one.
        sure = np.where(np.abs(np.arange(SIZE) - 30) < 4, 0.9, 0.5)[:, None].repeat(SIZE, 1).astype(np.float32)
        guess = np.zeros((2, SIZE, SIZE), np.float32)

        def flipped(quality):
            sign, _, _ = root_and_tip(angle, quality, (east, south), marks, combed, guess, EVERYWHERE)
            y, x = np.mgrid[0:SIZE, 0:SIZE]
            far = np.hypot(x - 30, y - 30) > 15
            return float((np.cos(angle - truth) * sign < 0)[far].mean())

        self.assertGreater(flipped(sure), 0.02)
        self.assertEqual(flipped(round_hearts(angle, sure, EVERYWHERE, 400)), 0)


if __name__ == "__main__":
    unittest.main()
