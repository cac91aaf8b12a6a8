"""Mix, look, correct: on simulated tubes that are not as strong as the table says."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.mixes.adding import EQUAL, MOST_GROWTH, addition
from foxpath.core.mixes.learning import Look, _slopes, agrees, learn, seen_in_words
from foxpath.core.mixes.recipe import Rack, solve
from foxpath.core.mixes.tubes import USUAL, KeptTube, named_tubes, tubes_of

BASE = Rack(tubes_of(USUAL))


def real_rack(rng, *, both=True):
    made = []
    for tube in tubes_of(USUAL):
        taken = rng.uniform(0.7, 1.3)
        made.append(replace(tube, k=tube.k * taken, s=tube.s * (taken if both else rng.uniform(0.7, 1.3))))
    return Rack(made)


def colour(rng):
    n = rng.integers(2, 4)
    which = rng.choice(len(BASE), n, replace=False)
    parts = np.zeros(len(BASE))
    parts[which] = rng.dirichlet(np.ones(n)) / BASE.strength[which]
    return BASE.lab(parts)


def named(rack, parts):
    return tuple((rack.ids[i], float(parts[i])) for i in np.flatnonzero(parts))


def worked(real, target, looks, rounds=2):
    """Mix a colour and correct it; return the differences after each look, and all looks."""
    looks = list(looks)
    rack = Rack(tubes_of(learn(USUAL, BASE, looks)))
    pile = rack.parts(solve(rack, target).parts)
    away = []
    for _ in range(rounds):
        seen = real.lab(pile)
        away.append(float(difference(seen, target)))
        looks.append(Look(named(rack, pile), tuple(seen)))
        rack = Rack(tubes_of(learn(USUAL, BASE, looks)))
        step = addition(rack, pile, target, shift=seen - rack.lab(pile))
        pile = pile * (0.5 if step.halve else 1) + rack.parts(step.added)
    away.append(float(difference(real.lab(pile), target)))
    return away, looks


class Loop(unittest.TestCase):
    def test_one_look_brings_it_near_and_two_nearer(self):
        rng = np.random.default_rng(1)
        found = np.array([worked(real_rack(rng, both=k % 2 == 0), colour(rng), ())[0] for k in range(16)])
        first, once, twice = np.median(found, axis=0)
        self.assertLess(first, 2.5)
        self.assertLess(once, 1.0)
        self.assertLess(twice, 0.6)
        self.assertLess(np.quantile(found[:, 2], 0.9), 1.0)

    def test_ten_corrected_piles_teach_the_tubes(self):
        """With what ten piles taught the first mix of a further one is nearer than without."""
        knowing, blank = [], []
        for seed in range(3):
            rng = np.random.default_rng(40 + seed)
            real, looks = real_rack(rng), []
            for _ in range(10):
                _, looks = worked(real, colour(rng), looks, 1)
            for _ in range(4):
                target = colour(rng)
                knowing.append(worked(real, target, looks, 1)[0][0])
                blank.append(worked(real, target, (), 1)[0][0])
        self.assertLess(np.median(knowing), 1.0)
        self.assertLess(np.mean(knowing), 0.7 * np.mean(blank))


class Learned(unittest.TestCase):
    def test_a_tube_that_is_twice_as_strong_is_told_from_its_tints(self):
        strong = {tube.id: tube for tube in tubes_of(USUAL)}
        real = Rack([replace(t, k=t.k * 1.5, s=t.s * 1.5) if t.id == "PB29" else t for t in strong.values()])
        looks = [Look(parts, tuple(real.lab_of(parts))) for parts in (
            (("PB29", 1.0), ("PW6", 4.0)), (("PB29", 1.0), ("PW6", 12.0)), (("PB29", 2.0), ("PY43", 3.0)),
        )]  # fmt: skip
        learned = {one.id: one for one in learn(USUAL, BASE, looks)}
        self.assertGreater(learned["PB29"].taken, 1.25)
        self.assertEqual((learned["PB29"].looks, learned["PW6"].looks, learned["PV19"].looks), (3, 2, 0))
        self.assertEqual((learned["PV19"].taken, learned["PV19"].thrown), (1.0, 1.0))
        after = Rack(tubes_of(learned.values()))
        self.assertLess(agrees(after, looks), 0.4 * agrees(BASE, looks))

    def test_what_agrees_teaches_nothing(self):
        parts = (("PW6", 4.0), ("PBr7-BS", 1.0))
        learned = {one.id: one for one in learn(USUAL, BASE, [Look(parts, tuple(BASE.lab_of(parts)))])}
        self.assertAlmostEqual(learned["PBr7-BS"].taken, 1, delta=1e-3)

    def test_words_weigh_less_than_a_measure_and_many_looks_hold_on(self):
        parts = (("PW6", 4.0), ("PBr7-BS", 1.0))
        seen = tuple(BASE.lab_of(parts) + (-4.0, 2.0, 2.0))

        def strength(sure, kept=USUAL):
            return next(one.taken for one in learn(kept, BASE, [Look(parts, seen, sure)]) if one.id == "PBr7-BS")

        self.assertGreater(strength(1.0), strength(0.1))
        self.assertGreater(strength(0.1), 1.0)
        old = tuple(replace(one, looks=60) for one in USUAL)
        self.assertLess(strength(1.0, old), strength(1.0))

    def test_looks_with_tubes_that_are_not_there_are_passed_over(self):
        self.assertEqual(learn(USUAL, BASE, [Look((("PG7", 1.0),), (40.0, -20.0, 0.0))]), USUAL)
        self.assertEqual(learn(USUAL, BASE, []), USUAL)

    def test_strengths_stay_within_reason(self):
        parts = (("PW6", 1.0), ("PB29", 1.0))
        looks = [Look(parts, (96.0, 0.0, 0.0))] * 30
        for one in learn(USUAL, BASE, looks):
            self.assertTrue(0.04 < one.taken < 20 and 0.04 < one.thrown < 20)

    def test_slopes(self):
        rng = np.random.default_rng(8)
        parts = rng.dirichlet(np.ones(len(BASE)), 2)
        lab, by_k, by_s = _slopes(parts, BASE.k, BASE.s, 1.0)
        for i in (0, 3, 7):
            for slope, k_step, s_step in ((by_k, 1e-5, 0.0), (by_s, 0.0, 1e-5)):
                k, s = BASE.k.copy(), BASE.s.copy()
                k[i] *= np.exp(k_step)
                s[i] *= np.exp(s_step)
                moved = _slopes(parts, k, s, 1.0)[0]
                np.testing.assert_allclose(slope[:, i], (moved - lab) / 1e-5, rtol=2e-3, atol=2e-3)

    def test_words(self):
        want = np.array([50.0, 10.0, 20.0])
        first = seen_in_words(want, 1, 0, -1)
        self.assertEqual((first[0] > 50, first[1] == 10, first[2] < 20), (True, True, True))
        later = seen_in_words(want, 1, 0, -1, 2)
        self.assertTrue(50 < later[0] < first[0])
        np.testing.assert_allclose(seen_in_words(want, 0, 0, 0), want)


class Additions(unittest.TestCase):
    def setUp(self):
        self.rack = BASE
        self.pile = self.rack.parts({"PW6": 6.0, "PBr7-BS": 3.0, "PB29": 1.0})

    def test_the_right_tube_for_what_lacks(self):
        now = self.rack.lab(self.pile)
        lighter = addition(self.rack, self.pile, now + (8.0, 0, 0))
        self.assertEqual(lighter.added[0][0], "PW6")
        self.assertLess(lighter.away, 2.0)
        bluer = addition(self.rack, self.pile, self.rack.lab(self.pile + self.rack.parts({"PB29": 0.5})), most=1)
        self.assertEqual(bluer.added, (("PB29", 0.5),))
        self.assertAlmostEqual(bluer.grows, 1.05)
        np.testing.assert_allclose(bluer.lab, self.rack.lab(self.pile + self.rack.parts({"PB29": 0.5})))

    def test_equal_is_left_alone(self):
        now = self.rack.lab(self.pile)
        step = addition(self.rack, self.pile, now + (0.3 * EQUAL, 0, 0))
        self.assertEqual((step.added, step.grows), ((), 1.0))

    def test_two_tubes_and_threefold_at_most(self):
        rng = np.random.default_rng(6)
        for _ in range(6):
            step = addition(self.rack, self.pile, colour(rng))
            self.assertLessEqual(len(step.added), 2)
            self.assertLessEqual(step.grows, MOST_GROWTH + 1e-9)
            for _, n in step.added:
                self.assertAlmostEqual(n * 10, round(n * 10), places=6)

    def test_too_far_is_halved_first_and_says_what_it_costs(self):
        dark = self.rack.parts({"PBr7-BU": 8.0, "PB29": 4.0, "PW6": 1.0})
        want = self.rack.lab(self.rack.parts({"PW6": 42.0, "PBr7-BU": 4.0, "PB29": 2.0}))
        step = addition(self.rack, dark, want)
        self.assertTrue(step.halve)
        self.assertEqual(step.wasted, 0.5)
        self.assertLessEqual(step.grows, MOST_GROWTH)
        self.assertAlmostEqual(step.grows, 0.5 + sum(n for _, n in step.added) / 13)
        whole = dark / 2 + self.rack.parts(step.added)
        self.assertAlmostEqual(float(difference(self.rack.lab(whole), want)), step.away, places=4)
        held = addition(self.rack, dark, want, halving=False)
        self.assertFalse(held.halve)
        self.assertGreater(held.away, step.away + 1)

    def test_what_may_not_be_added_is_not(self):
        usable = [key != "PW6" for key in self.rack.ids]
        step = addition(self.rack, self.pile, self.rack.lab(self.pile) + (8.0, 0, 0), usable=usable)
        self.assertNotIn("PW6", dict(step.added))
        none = addition(self.rack, self.pile, self.rack.lab(self.pile) + (8.0, 0, 0), most=0)
        self.assertEqual(none.added, ())

    def test_a_real_piles_shift_stays(self):
        shift = np.array([-3.0, 1.0, 2.0])
        want = self.rack.lab(self.pile)
        step = addition(self.rack, self.pile, want, shift=shift)
        self.assertTrue(step.added)
        reached = self.rack.lab(self.pile + self.rack.parts(step.added)) + shift
        self.assertAlmostEqual(float(difference(reached, want)), step.away, places=4)


class Named(unittest.TestCase):
    def test_kept_tubes_compare_by_what_they_say(self):
        self.assertEqual(KeptTube("PW6"), KeptTube("PW6"))
        self.assertEqual(len(named_tubes(("PW6",))), 1)


if __name__ == "__main__":
    unittest.main()
