"""Colours in a row on one brush, when it is wiped, and how many brushes a pass takes."""

import unittest
from itertools import pairwise

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.mixes.chain import (
    CRISP,
    ONE_BRUSH,
    SOILED,
    TWO_BRUSHES,
    WIPE,
    brush_chain,
    brushes_words,
    by_value,
    linked,
    nearest_pile,
)
from foxpath.core.mixes.palette import Palette, Want, build
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.tubes import named_tubes

RACK = Rack(named_tubes(("PW6", "PY43", "PBr7-BS", "PB29")))


def cost(lab, order):
    steps = 0.0
    for a, b in pairwise(order):
        away = float(difference(lab[a], lab[b]))
        steps += away + 25 * (away > WIPE)
    return steps


class Chains(unittest.TestCase):
    def test_greys_run_along_the_scale_from_where_the_brush_is(self):
        lab = np.array([[light, 0, 0] for light in (30.0, 62, 46, 54, 38)])
        links = brush_chain(lab)
        self.assertEqual([one.place for one in links], [0, 4, 2, 3, 1])
        self.assertFalse(any(one.wipe for one in links))
        self.assertEqual((links[0].why, links[0].away), ("a clean brush", 0.0))
        for before, now in pairwise(links):
            self.assertAlmostEqual(now.away, float(difference(lab[before.place], lab[now.place])))
            self.assertEqual(now.why, "what is on the brush, and it lacks: lighter")
        self.assertEqual(brush_chain(lab, 3)[0].place, 3)
        self.assertEqual(brush_chain(np.zeros((0, 3))), ())
        self.assertEqual([one.place for one in brush_chain(lab[:1])], [0])

    def test_no_turning_round_of_a_stretch_would_be_cheaper(self):
        rng = np.random.default_rng(5)
        shorter = 0
        for _ in range(12):
            lab = rng.uniform((20, -30, -30), (80, 30, 30), (8, 3))
            order = [one.place for one in brush_chain(lab, 2)]
            self.assertEqual((order[0], sorted(order)), (2, list(range(8))))
            mine = cost(lab, order)
            for i in range(1, 8):
                for j in range(i + 1, 9):
                    turned = order[:i] + order[i:j][::-1] + order[j:]
                    self.assertGreaterEqual(cost(lab, turned), mine - 1e-6)
            # By the nearest neighbour alone it would cost more, at times.
            plain, left = [2], set(range(8)) - {2}
            while left:
                plain.append(min(left, key=lambda k: cost(lab, (plain[-1], k))))
                left.remove(plain[-1])
            shorter += cost(lab, plain) > mine + 1
        self.assertGreater(shorter, 2)

    def test_a_wipe_costs_more_than_a_way_round(self):
        # The straight way is one leap, the way round four steps that need no wiping.
        lab = np.array([[30.0, 0, 0], [37, 0, 0], [44, 0, 0], [51, 0, 0], [30, 30, 20]])
        self.assertEqual([one.place for one in brush_chain(lab)], [0, 1, 2, 3, 4])

    def test_where_the_brush_is_wiped(self):
        lab = np.array([[50.0, 0, 0], [50, 0, 11], [50, 30, 11], [SOILED - 1, 0, 0], [CRISP, 0, 0], [SOILED + 8, 0, 0]])
        near, far, down, white, dark = linked(lab, (0, 1, 2, 3, 4, 5))[1:]
        self.assertFalse(near.wipe)
        self.assertLess(near.away, WIPE)
        self.assertTrue(far.wipe)
        self.assertGreater(far.away, WIPE)
        self.assertEqual(far.why, f"too far from the last ({far.away:.0f} dE): wipe")
        self.assertIn("too far", down.why)
        self.assertEqual((white.wipe, white.why), (True, "crisp white after a dark: a clean brush"))
        self.assertFalse(dark.wipe)
        # From a light colour the way to white may be too far, but it is no dark.
        strong = np.array([[SOILED, 0, 60.0], [CRISP, 0, 0]])
        self.assertIn("too far", linked(strong, (0, 1))[1].why)
        self.assertEqual(linked(lab, ()), ())


class Brushes(unittest.TestCase):
    def test_how_many_by_how_far_apart(self):
        self.assertEqual(by_value((40.0, 40 + ONE_BRUSH - 0.1)), ((0, 1),))
        self.assertEqual(by_value((40.0 + ONE_BRUSH, 40)), ((1,), (0,)))
        self.assertEqual(len(by_value((40, 47, 60, 40 + TWO_BRUSHES - 0.1))), 2)
        self.assertEqual(by_value((40, 57, 40 + TWO_BRUSHES)), ((0,), (1,), (2,)))
        self.assertEqual((by_value(()), by_value((50.0,))), ((), ((0,),)))
        self.assertEqual(len(by_value((20.0, 70))), 2)

    def test_those_are_together_that_differ_least(self):
        self.assertEqual(by_value((61.0, 30, 33, 36, 63)), ((1, 2, 3), (0, 4)))
        self.assertEqual(by_value((20.0, 22, 50, 52, 70, 72)), ((0, 1), (2, 3), (4, 5)))
        self.assertEqual(by_value((20.0, 21, 22, 23, 40, 60)), ((0, 1, 2, 3), (4,), (5,)))

        # A string without a gap is parted too, where its values bunch.
        self.assertEqual(by_value((22.0, 28, 33, 39, 50, 52, 56, 69, 81)), ((0, 1, 2, 3), (4, 5, 6), (7, 8)))

    def test_a_crisp_white_has_its_own(self):
        self.assertEqual(by_value((CRISP - 1, CRISP)), ((0,), (1,)))
        self.assertEqual(by_value((74.0, 79, 83, 90)), ((0, 1), (2, 3)))
        # Left to the values alone the whites would be parted.
        self.assertEqual(by_value((72.0, 81, 82, 95)), ((0, 1), (2, 3)))
        self.assertEqual(by_value((CRISP, CRISP + 3)), ((0, 1),))

    def test_words(self):
        self.assertEqual(brushes_words([["dark", "brown"]]), "")
        self.assertEqual(brushes_words([]), "")
        self.assertEqual(
            brushes_words([["dark", "brown"], ["white"]]),
            "Two by value: the darker brush for dark, brown; a clean one for white.",
        )
        three = brushes_words([["a"], ["b"], ["c"]])
        self.assertEqual(three, "Three by value: the darkest brush for a; the next lighter for b; a clean one for c.")


class Nearest(unittest.TestCase):
    def test_the_pile_that_is_nearest_and_what_it_lacks(self):
        palette = build(RACK, [Want((30.0, 8, 10), 1.0, "darks", 0, 1.0), Want((75.0, 3, 14), 1.0, "lights", 0, 1.0)])
        for pile in palette.piles:
            want = np.array(pile.lab) + (4.0, 0, 0)
            found = nearest_pile(RACK, palette, want)
            self.assertEqual((found.key, found.name, found.lacks), (pile.key, pile.name, "lighter"))
            self.assertAlmostEqual(found.away, float(difference(np.array(pile.lab), want)))
            self.assertEqual(found.step.added[0][0], "PW6")
            self.assertLess(found.step.away, found.away)
            self.assertIsNone(nearest_pile(RACK, palette, np.array(pile.lab)).step)

    def test_none_without_piles(self):
        empty = Palette()
        self.assertIsNone(nearest_pile(RACK, empty, np.zeros(3)))


if __name__ == "__main__":
    unittest.main()
