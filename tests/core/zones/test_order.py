import time
import unittest

import numpy as np

from foxpath.core.zones import BorderGrowth, laying_order, side_words


def border(front, back, front_over=np.nan, back_over=np.nan, length=40, split=None):
    """A border along which both sides grow alike; with `split` the first places have the two exchanged."""
    at = np.stack([np.arange(length, dtype=float), np.zeros(length)], axis=1)
    a, b = np.full(length, front_over, np.float32), np.full(length, back_over, np.float32)
    if split:
        a[:split], b[:split] = back_over, front_over
    return BorderGrowth(front, back, at, 1.0, a, b)


class Laying(unittest.TestCase):
    def test_without_growth_depth_says_it(self):
        made = laying_order(3, [border(2, 1), border(1, 0), border(2, 0)])
        self.assertEqual(made.order, (0, 1, 2))
        self.assertEqual((made.cycles, made.said_share), ((), 0))

    def test_tips_over_most_of_a_border_outvote_depth(self):
        made = laying_order(3, [border(1, 0), border(2, 1, front_over=-0.9, back_over=0.9)])
        self.assertEqual(made.order, (0, 2, 1))
        self.assertAlmostEqual(made.said_share, 0.5)
        weak = laying_order(2, [border(1, 0, front_over=-0.2, back_over=0.3)])
        self.assertEqual(weak.order, (0, 1))
        self.assertEqual(weak.said_share, 0)

    def test_neighbours_that_lie_over_each_other_are_named_with_the_place(self):
        made = laying_order(2, [border(1, 0, front_over=0.9, back_over=-0.9, split=14)])
        (vote,) = made.votes
        self.assertEqual((vote.before, vote.after), (0, 1))
        self.assertTrue(vote.both_ways)
        self.assertAlmostEqual(vote.against_mm, 14)
        self.assertLess(vote.spot[0], 14)
        self.assertEqual(side_words(vote.spot, (20.0, 0.0)), "at the left")
        self.assertEqual(side_words((5.0, 40.0), (5.0, 10.0)), "at the foot")
        little = laying_order(2, [border(1, 0, front_over=0.9, back_over=-0.9, split=6)])
        self.assertFalse(little.votes[0].both_ways)

    def test_a_ring_is_found_and_broken_at_its_furthest_back(self):
        ring = [
            border(2, 1, 0.9, -0.9),
            border(3, 2, 0.9, -0.9),
            border(3, 1, -0.9, 0.9),
            border(4, 3, 0.9),
            border(1, 0),
        ]
        made = laying_order(5, ring)
        self.assertEqual(made.cycles, ((1, 2, 3),))
        self.assertEqual(made.order, (0, 1, 2, 3, 4))

    def test_every_zone_once_and_after_what_lies_beneath_it(self):
        rng = np.random.default_rng(5)
        borders = []
        for _ in range(160):
            back, front = sorted(rng.choice(40, 2, replace=False))
            borders.append(border(int(front), int(back), *rng.uniform(-1, 1, 2)))
        begin = time.perf_counter()
        made = laying_order(40, borders)
        self.assertLess(time.perf_counter() - begin, 1)
        self.assertEqual(sorted(made.order), list(range(40)))
        place = {k: n for n, k in enumerate(made.order)}
        ringed = {k for ring in made.cycles for k in ring}
        for vote in made.votes:
            if not {vote.before, vote.after} <= ringed:
                self.assertLess(place[vote.before], place[vote.after])
