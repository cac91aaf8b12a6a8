import unittest
from dataclasses import replace
from itertools import combinations, product

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.errors import InputError
from foxpath.core.mixes import optics
from foxpath.core.mixes.recipe import (
    CLOSE,
    LET_DOWN,
    Limits,
    Rack,
    _fit,
    _subsets,
    everything,
    metric,
    solve,
)
from foxpath.core.mixes.tubes import USUAL_TUBES, named_tubes, table

TWELVE = Rack(named_tubes(USUAL_TUBES))
DEEP = Rack([replace(tube, k=tube.k * 300) for tube in named_tubes(("PBk9", "PB29"))], 0.0)
"""Blacker than any paint."""


def plain_lab(parts, shown=1.0):
    """The published equations, written out once more."""
    k = sum(n * table()[key].k for key, n in parts)
    s = sum(n * table()[key].s for key, n in parts)
    q = k / s
    r = 1 + q - np.sqrt(q * q + 2 * q)
    seen = shown * 0.04 + 0.96 * 0.5 * r / (1 - 0.5 * r)
    return optics.lab_of(seen)


class Solver(unittest.TestCase):
    def targets(self, rack, count, seed=5):
        rng = np.random.default_rng(seed)
        for _ in range(count):
            n = rng.integers(2, 4)
            which = rng.choice(len(rack), n, replace=False)
            parts = np.zeros(len(rack))
            parts[which] = rng.dirichlet(np.ones(n)) / rack.strength[which]
            yield rack.lab(parts)

    def test_reachable_colours_are_reached(self):
        away = [solve(TWELVE, target).away for target in self.targets(TWELVE, 40)]
        self.assertLess(np.median(away), 0.3)
        self.assertLess(np.quantile(away, 0.95), 0.8)

    def test_what_it_says_follows_from_the_table(self):
        for finish in optics.FINISHES.values():
            rack = Rack(TWELVE.tubes, finish)
            for target in self.targets(rack, 4, 9):
                made = solve(rack, target)
                np.testing.assert_allclose(made.lab, plain_lab(made.parts, finish), atol=1e-6)
                self.assertAlmostEqual(made.away, float(difference(np.array(made.lab), target)), places=4)

    def test_no_worse_than_a_brute_grid_of_the_same_parts(self):
        rack = Rack(named_tubes(("PW6", "PBr7-BS", "PB29", "PY43")))
        steps = np.arange(0, 9.0)
        grid = np.array([c for c in product(steps, repeat=4) if sum(c) > 0 and sum(v > 0 for v in c) <= 3])
        looks = rack.lab(grid)
        for target in ((55.0, 12, 20), (40.0, 2, -8), (75.0, 5, 15), (30.0, 8, 8)):
            brute = float(difference(looks, np.array(target)).min())
            self.assertLess(solve(rack, np.array(target)).away, brute + 0.35, target)

    def test_a_tube_by_itself_is_the_recipe_for_its_own_colour(self):
        for key in ("PW6", "PY43", "PBr7-BU"):
            self.assertEqual(solve(TWELVE, TWELVE.lab_of({key: 1.0})).parts, ((key, 1.0),))

    def test_parts_are_what_a_hand_can_do(self):
        for target in self.targets(TWELVE, 25, 7):
            made = solve(TWELVE, target)
            self.assertLessEqual(len(made.parts), 3)
            for key, n in made.parts:
                self.assertAlmostEqual(n * 10, round(n * 10), places=6)
                self.assertGreaterEqual(n, 0.1)
                if n * 2 != round(n * 2):
                    self.assertIn(key, made.let_down)
            finer = sum(n for _, n in made.parts if n * 2 != round(n * 2))
            self.assertLessEqual(finer * LET_DOWN, made.parts[0][1] + 1e-6)
            self.assertEqual([n for _, n in made.parts], sorted((n for _, n in made.parts), reverse=True))

    def test_two_four_and_more_tubes(self):
        target = np.array([52.0, 9.0, 21.0])
        self.assertLessEqual(len(solve(TWELVE, target, Limits(most=2)).parts), 2)
        self.assertLessEqual(
            solve(TWELVE, target, Limits(most=4)).away, solve(TWELVE, target, Limits(most=2)).away + 0.3
        )
        for most in (0, 5):
            with self.assertRaisesRegex(InputError, "refused"):
                solve(TWELVE, target, Limits(most=most))

    def test_impossible_targets(self):
        for target in ((float("nan"), 0, 0), (50, 300, 0), (130, 0, 0)):
            with self.assertRaisesRegex(InputError, "no colour"):
                solve(TWELVE, np.array(target))
        self.assertFalse(solve(TWELVE, np.array([100.0, 0, 0])).away > 3.5)
        self.assertFalse(solve(TWELVE, np.array([0.0, 0, 0])).reached)

    def test_one_tube_left_and_none(self):
        lone = Rack(named_tubes(("PBr7-RU",)))
        self.assertEqual(solve(lone, np.array([80.0, 0, 0])).parts, (("PBr7-RU", 1.0),))
        with self.assertRaisesRegex(InputError, "no tube"):
            Rack(())

    def test_needed_tubes_take_part(self):
        at = TWELVE.ids.index("PB29")
        made = solve(TWELVE, np.array([60.0, 15, 25]), Limits(needed=(at,)))
        self.assertIn("PB29", dict(made.parts))

    def test_a_tube_black_only_in_mixtures(self):
        rack = Rack(named_tubes(("PW6", "PBk9", "PBr7-BU")))
        grey = rack.lab_of({"PW6": 5.0, "PBk9": 1.0})
        alone = tuple(not tube.black for tube in rack.tubes)
        self.assertEqual({key for key, _ in solve(rack, grey).parts}, {"PW6", "PBk9"})
        self.assertIn("PBr7-BU", dict(solve(rack, grey, Limits(alone=alone)).parts))

    def test_into_wet_paint_the_result_is_the_target(self):
        beneath = TWELVE.parts({"PBr7-BU": 1.0}) * 0.2
        target = np.array([42.0, 14.0, 16.0])
        made = solve(TWELVE, target, Limits(beneath=beneath))
        laid = TWELVE.parts(made.parts)
        mixed = TWELVE.lab(laid / laid.sum() * 0.8 + beneath)
        self.assertLess(float(difference(mixed, target)), 1.0)
        self.assertGreater(made.lab[0], 42.0)


class Inside(unittest.TestCase):
    def beneath(self):
        """Yield racks of every finish, what is mixed into, and the share that is left for the tubes."""
        for shown in optics.FINISHES.values():
            rack = Rack(TWELVE.tubes, shown)
            yield rack, None, np.zeros(len(rack)), 1.0
            under = rack.parts({"PBr7-BU": 0.15, "PW6": 0.05})
            yield rack, rack.light(under), under, 0.8

    def test_many_mixtures_are_the_colours_of_each(self):
        which = np.array([[0, 1, 6], [2, 4, 7]])
        shares = np.random.default_rng(3).dirichlet(np.ones(3), 5)
        for rack, base, under, share in self.beneath():
            same = rack.colours(which, shares[None] * share, base)
            own = rack.colours(which, np.stack([shares, shares[::-1]]) * share, base)
            self.assertEqual((same.shape, own.shape), ((2, 5, 3), (2, 5, 3)))
            for p, places in enumerate(which):
                for g in range(5):
                    for made, parts in ((same, shares[g]), (own, shares[g] if p == 0 else shares[4 - g])):
                        whole = under.copy()
                        whole[places] += parts * share
                        named = [(rack.ids[k], n) for k, n in enumerate(whole) if n]
                        np.testing.assert_allclose(made[p, g], plain_lab(named, rack.shown), atol=1e-8)

    def test_deeper_than_any_black_the_colours_are_those_of_the_table_too(self):
        # Below the bend of CIELAB, where lightness grows evenly with light.
        made = DEEP.colours(np.array([[0, 1]]), np.array([[[0.7, 0.3]]]))
        self.assertLess(made[0, 0, 0], 8)
        np.testing.assert_allclose(made[0, 0], DEEP.lab(np.array([0.7, 0.3])), atol=1e-8)

    def test_slopes_are_those_of_the_mixture(self):
        three = np.array([[0, 1, 6], [2, 4, 7]])
        cases = [(rack, three, base, share) for rack, base, _, share in self.beneath()]
        cases.append((DEEP, np.array([[0, 1], [1, 0]]), None, 1.0))
        for rack, places, base, share in cases:
            logs = np.log(np.random.default_rng(2).dirichlet(np.ones(places.shape[1]), 2))

            def laid(logs, rack=rack, places=places, base=base, share=share):
                parts = np.exp(logs)
                parts *= share / parts.sum(axis=1, keepdims=True)
                return rack.colours(places, parts[:, None], base)[:, 0], parts

            there, parts = laid(logs)
            lab, slope = rack.slopes(places, parts, base)
            np.testing.assert_allclose(lab, there, atol=1e-9)
            for i, step in enumerate(np.eye(places.shape[1]) * 1e-5):
                moved = (laid(logs + step)[0] - laid(logs - step)[0]) / 2e-5
                np.testing.assert_allclose(slope[:, i], moved, rtol=1e-4, atol=1e-5)

    def test_the_metric_is_the_difference_nearby(self):
        rng = np.random.default_rng(4)
        for lab in ((50.0, 20.0, 30.0), (80.0, 0.5, -1.0), (30.0, 10.0, -40.0)):
            form = metric(np.array(lab))
            for _ in range(8):
                step = rng.normal(0, 0.8, 3)
                told = float(np.linalg.norm(step @ form))
                self.assertAlmostEqual(
                    told, float(difference(np.array(lab), np.array(lab) + step)), delta=0.2 * told + 0.08
                )

    def test_every_subset_once(self):
        self.assertEqual([tuple(row) for row in _subsets(5, 3)], list(combinations(range(5), 3)))

    def test_everything_is_as_near_as_the_fit_without_pruning(self):
        rack = Rack(named_tubes(USUAL_TUBES[:5]))
        lab = np.array([[60.0, 5, 10], [35.0, 2, -6]])
        masks, away = everything(rack, lab, 3)
        self.assertEqual(away.shape, (2, 5 + 10 + 10))
        at = masks.tolist().index(0b01011)
        where, _, near = _fit(rack, lab[0], np.array([[0, 1, 3]]), None, prune=False)
        self.assertEqual(where.tolist(), [[0, 1, 3]])
        self.assertAlmostEqual(away[0, at], near[0])
        # More tubes never come less near.
        single = away[:, :5].min(axis=1)
        self.assertTrue((away.min(axis=1) <= single + 1e-6).all())

    def test_shares_and_unknown_tubes(self):
        made = solve(TWELVE, np.array([60.0, 5, 10]))
        self.assertAlmostEqual(sum(made.share(key) for key, _ in made.parts), 1)
        self.assertEqual(made.share("none"), 0)
        self.assertEqual(made.reached, made.away <= CLOSE)
        with self.assertRaisesRegex(InputError, "not at hand"):
            TWELVE.parts({"PG7": 1.0})


if __name__ == "__main__":
    unittest.main()
