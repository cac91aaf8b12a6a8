"""How small a difference is seen: curves, what is believed, what is asked next."""

import unittest

import numpy as np

from foxpath.core.practice.drills import drill_called
from foxpath.core.practice.task import Seen
from foxpath.core.practice.threshold import LAPSE, Belief, error_density, right_share, share_right

COLOUR, GROWTH = drill_called("relation"), drill_called("growth")


class Curves(unittest.TestCase):
    def test_nothing_is_told_by_chance_and_the_threshold_three_times_in_four(self):
        for choices in (2, 3, 4, 8):
            self.assertAlmostEqual(float(right_share(0.0, 5.0, 2.0, choices)), 1 / choices)
            for steep in (1.0, 2.0, 4.0):
                self.assertAlmostEqual(float(right_share(5.0, 5.0, steep, choices)), 0.75)
            self.assertAlmostEqual(float(right_share(500.0, 5.0, 2.0, choices)), 1 - LAPSE)
        sizes = right_share(np.geomspace(0.1, 60, 40), 5.0, 2.0, 4)
        self.assertTrue((np.diff(sizes) >= 0).all())
        self.assertGreater(float(right_share(8.0, 5.0, 4.0, 4)), float(right_share(8.0, 5.0, 1.0, 4)))

    def test_three_errors_in_four_lie_within_the_threshold(self):
        errors = np.arange(0, 400, 0.01)
        density = error_density(errors, np.array(12.0), 400.0)
        self.assertAlmostEqual(float(density.sum() * 0.01), 1, 2)
        within = float(density[errors <= 12].sum() * 0.01)
        self.assertLess(abs(within - (0.75 * (1 - LAPSE) + LAPSE * 12 / 400)), 0.002)


def painter(drill, threshold, steep, choices, seed, count=40):
    """Answers of a painter whose threshold is known."""
    rng = np.random.default_rng(seed)
    seen = []
    for _ in range(count):
        size = Belief(drill, seen).next_size(choices)
        seen.append(Seen(bool(rng.random() < right_share(size, threshold, steep, choices)), size=size, choices=choices))
    return seen


class Found(unittest.TestCase):
    def off(self, drill, make):
        made = []
        for seed in range(24):
            true = float(np.exp(np.random.default_rng(900 + seed).uniform(np.log(2), np.log(15))))
            value = Belief(drill, make(true, seed)).threshold().value
            made.append(abs(np.log(value / true)))
        return np.exp(np.array(made)) - 1

    def test_a_painter_s_threshold_is_found_after_forty_answers(self):
        for choices, steep in ((4, 2.0), (4, 3.5), (3, 3.5)):
            off = self.off(COLOUR, lambda true, seed, c=choices, s=steep: painter(COLOUR, true, s, c, seed))
            self.assertLess(np.median(off), 0.15, (choices, steep))

    def test_and_from_forty_errors(self):
        def errors(true, seed):
            rng = np.random.default_rng(seed)
            return [Seen(True, error=abs(float(rng.normal(0, true / 1.150349)))) for _ in range(40)]

        off = self.off(GROWTH, errors)
        self.assertLess(np.median(off), 0.12)
        self.assertLess(np.percentile(off, 90), 0.3)

    def test_a_slip_does_not_carry_it_away(self):
        rng = np.random.default_rng(4)
        errors = [Seen(True, error=abs(float(rng.normal(0, 8 / 1.15)))) for _ in range(30)]
        before = Belief(GROWTH, errors).threshold().value
        after = Belief(GROWTH, [*errors, Seen(False, error=178.0)]).threshold().value
        self.assertLess(after / before, 1.15)

    def test_the_band_holds_it_four_times_in_five(self):
        held = []
        for seed in range(40):
            true = float(np.exp(np.random.default_rng(300 + seed).uniform(np.log(2.5), np.log(12))))
            level = Belief(COLOUR, painter(COLOUR, true, 2.0, 4, seed, 30)).threshold()
            self.assertLess(level.low, level.value)
            self.assertLess(level.value, level.high)
            held.append(level.low <= true <= level.high)
        self.assertTrue(0.65 <= np.mean(held) <= 0.98, np.mean(held))


class Asking(unittest.TestCase):
    def test_it_begins_at_what_is_usual_and_follows_the_painter(self):
        first = Belief(COLOUR).next_size(4)
        self.assertTrue(COLOUR.usual / 2 < first < 2 * COLOUR.usual, first)
        sharp = [Seen(True, size=s, choices=4) for s in (6, 4, 3, 2, 2, 1.5, 1.5)]
        blunt = [Seen(False, size=s, choices=4) for s in (6, 8, 10, 12)]
        self.assertLess(Belief(COLOUR, sharp).next_size(4), 0.6 * first)
        self.assertGreater(Belief(COLOUR, blunt).next_size(4), 1.6 * first)

    def test_after_many_answers_what_is_asked_lies_near_the_threshold(self):
        seen = painter(COLOUR, 5.0, 2.0, 4, 1, 60)
        level = Belief(COLOUR, seen).threshold()
        self.assertTrue(0.6 * level.value < Belief(COLOUR, seen).next_size(4) < 2.2 * level.value)

    def test_what_was_answered_long_ago_counts_less(self):
        old = [Seen(True, error=e) for e in [40.0, 35, 50, 45] * 10]
        new = [Seen(True, error=e) for e in [4.0, 3, 5, 4] * 20]
        self.assertLess(Belief(GROWTH, old + new).threshold().value, 0.8 * Belief(GROWTH, new + old).threshold().value)

    def test_before_anything_is_known_the_band_is_wide(self):
        level = Belief(COLOUR).threshold()
        self.assertFalse(level.known)
        self.assertGreater(level.high / level.low, 4)
        self.assertTrue(Belief(COLOUR, painter(COLOUR, 5.0, 2.0, 4, 1)).threshold().known)


class RightOrWrong(unittest.TestCase):
    def test_a_share_comes_with_its_band_and_what_chance_would_give(self):
        level = share_right([Seen(k % 4 != 0, choices=2) for k in range(40)])
        self.assertLess(abs(level.value - 0.74), 0.03)
        self.assertTrue(0.6 < level.low < level.value < level.high < 0.86, level)
        self.assertEqual(level.chance, 0.5)
        self.assertEqual(level.answers, 40)
        few = share_right([Seen(True, choices=4)] * 3)
        self.assertGreater(few.high - few.low, level.high - level.low)
        self.assertEqual(few.chance, 0.25)

    def test_of_the_same_answers_the_later_ones_count_more(self):
        wrong, right = [Seen(False, choices=2)] * 60, [Seen(True, choices=2)] * 60
        self.assertGreater(share_right(wrong + right).value, 0.55)
        self.assertLess(share_right(right + wrong).value, 0.45)


if __name__ == "__main__":
    unittest.main()
