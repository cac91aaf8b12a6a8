"""Blacks of two tubes, opposites, even strings, and what white does: held against the rack's own mixing."""

import unittest

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.strings import (
    JUDGED,
    Black,
    black_leaning,
    blacks,
    blues,
    browns,
    leaning_blacks,
    next_white,
    opposites,
    shift_words,
    string,
    white_shift,
    with_white,
)
from foxpath.core.mixes.tubes import USUAL_TUBES, named_tubes

RACK = Rack(named_tubes(USUAL_TUBES))
WHITE = next(tube for tube in RACK.tubes if tube.white)
DARK = Rack(tuple(tube for tube in RACK.tubes if not tube.white))
"""The same without a white."""


def chroma(lab):
    return float(np.hypot(lab[1], lab[2]))


class Blacks(unittest.TestCase):
    def test_its_tubes_are_a_dark_blue_and_a_dark_dull_brown(self):
        for tube in blues(RACK):
            self.assertTrue(tube.tint[2] < -20 and tube.masstone[0] < 40, tube.id)
        for tube in browns(RACK):
            self.assertTrue(tube.masstone[0] < 36 and tube.tint[2] > 6 and chroma(tube.tint) < 40, tube.id)
        strength = [abs(tube.strength - 1) for tube in blues(RACK)]
        self.assertEqual(strength, sorted(strength))
        dull = [chroma(tube.masstone) for tube in browns(RACK)]
        self.assertEqual(dull, sorted(dull))

    def test_they_go_from_cool_to_warm_and_are_what_their_parts_come_to(self):
        found = blacks(RACK)
        self.assertGreater(len(found), 4)
        leans = [one.lean for one in found]
        self.assertEqual(leans, sorted(leans))
        self.assertLess(leans[0], -2.5)
        self.assertGreater(leans[-1], 2.5)
        for one in found:
            parts = RACK.parts(one.parts)
            np.testing.assert_allclose(one.lab, RACK.lab(parts), atol=1e-9)
            self.assertLess(one.lab[0], 33)
            tint = RACK.lab(parts / parts.sum() + RACK.parts({WHITE.id: JUDGED}))
            np.testing.assert_allclose(one.tint, tint, atol=0.6)

    def test_the_pair_is_that_which_comes_nearest_to_neutral(self):
        best = min(chroma(one.tint) for one in blacks(RACK))
        for brown in browns(RACK):
            other = blacks(RACK, warm=brown.id)
            self.assertLessEqual(best, min(chroma(one.tint) for one in other) + 1e-9)

    def test_one_is_chosen_by_its_lean(self):
        found = blacks(RACK)
        for wanted in (-6.0, 0.0, 5.0):
            chosen = black_leaning(RACK, wanted)
            self.assertEqual(abs(chosen.lean - wanted), min(abs(one.lean - wanted) for one in found))
        self.assertIsNone(black_leaning(DARK, 0.0))
        self.assertEqual(blacks(DARK), ())

    def test_words_say_how_it_leans(self):
        def words(a, b):
            return Black((), (20.0, 0.0, 0.0), (60.0, a, b)).words()

        self.assertEqual(words(0, 2.6), "warm")
        self.assertEqual(words(0, 2.5), "neutral")
        self.assertEqual(words(0, -2.6), "cool")
        self.assertEqual(words(2.9, 2), "neutral")
        # From 3 on, and from half of its blue or brown on, a lean is worth a word.
        self.assertEqual(words(3.0, 2), "neutral, leaning to red")
        self.assertEqual(words(3.0, -2), "neutral, leaning to violet")
        self.assertEqual(words(-5.0, 10), "warm, leaning to green")
        self.assertEqual(words(4.9, 10), "warm")

    def test_a_tenth_of_a_further_tube_leans_it_that_way(self):
        base = black_leaning(RACK, 0.0)
        made = dict(leaning_blacks(RACK, base))
        self.assertIn("red", made)
        for name, way in (("violet", (12.0, -14.0)), ("green", (-16.0, 2.0)), ("red", (18.0, 8.0))):
            if name in made:
                moved = np.array(made[name].tint[1:]) - base.tint[1:]
                self.assertGreater(float(moved @ np.array(way)), 0, name)


class Pairs(unittest.TestCase):
    def test_opposites_cancel_truest_first(self):
        found = opposites(RACK)
        self.assertEqual(len(found), 4)
        left = [one.chroma for one in found]
        self.assertEqual(left, sorted(left))
        for one in found:
            self.assertAlmostEqual(one.chroma, chroma(one.grey), places=6)
            mixed = RACK.parts(one.parts)
            seen = RACK.lab(mixed / mixed.sum() + RACK.parts({WHITE.id: 4.0}))
            np.testing.assert_allclose(one.grey, seen, atol=3)
            alone = [
                RACK.lab(RACK.parts({key: 1.0}) + RACK.parts({WHITE.id: 4.0 * sum(n for _, n in one.parts) / n0}))
                for key, n0 in one.parts
            ]
            # Measured out in halves it is still greyer than either of the two by itself.
            self.assertLess(chroma(seen), min(chroma(lab) for lab in alone))
        self.assertEqual(opposites(DARK), ())


class Strings(unittest.TestCase):
    def test_steps_are_even_to_the_eye_from_end_to_end(self):
        brown = RACK.parts({browns(RACK)[0].id: 2.0})
        white = RACK.parts({WHITE.id: 3.0})
        made = string(RACK, brown, white, 7)
        self.assertEqual(len(made), 7)
        np.testing.assert_allclose(made[0][0], brown / 2)
        np.testing.assert_allclose(made[-1][0], white / 3)
        lab = np.array([one for _, one in made])
        np.testing.assert_allclose(lab[3], RACK.lab(made[3][0]))
        steps = difference(lab[1:], lab[:-1])
        np.testing.assert_allclose(steps, steps.mean(), rtol=0.08)
        self.assertTrue((np.diff(lab[:, 0]) > 0).all())

    def test_white_is_added_to_one_part_of_the_colour(self):
        brown = RACK.parts({browns(RACK)[0].id: 2.0})
        made = with_white(RACK, brown, (0.0, 1.0, 4.0))
        np.testing.assert_allclose(made[0].lab, RACK.lab(brown))
        np.testing.assert_allclose(made[1].lab, RACK.lab(brown / 2 + RACK.parts({WHITE.id: 1.0})))
        self.assertLess(made[1].lab[0], made[2].lab[0])
        self.assertEqual(with_white(DARK, DARK.parts({browns(RACK)[0].id: 1.0})), ())

    def test_what_white_does_to_the_hue_is_made_up_for_beforehand(self):
        for tube in (browns(RACK)[0], blues(RACK)[0]):
            parts = RACK.parts({tube.id: 1.0})
            change, begin = white_shift(RACK, parts, 20.0)
            base = RACK.lab(parts)
            self.assertAlmostEqual(float(change[0]), 20.0, delta=0.5)
            # The mix with that value, sought by halving, has moved as was said.
            low, high = 0.0, 20.0
            for _ in range(40):
                middle = (low + high) / 2
                lab = RACK.lab(parts + RACK.parts({WHITE.id: middle}))
                low, high = (middle, high) if lab[0] < base[0] + 20 else (low, middle)
            np.testing.assert_allclose(change, lab - base, atol=0.6)
            np.testing.assert_allclose(begin, (-20.0, -change[1], -change[2]))
        np.testing.assert_array_equal(white_shift(DARK, DARK.parts({tube.id: 1.0}), 20.0), np.zeros((2, 3)))

    def test_the_shift_in_words(self):
        self.assertEqual(shift_words(np.array([20, 0.0, -9.2])), "cools it by 9")
        self.assertEqual(shift_words(np.array([20, 1.6, 1.0])), "warms it by 1 and turns it redder by 2")
        self.assertEqual(shift_words(np.array([20, -1.5, 0.9])), "turns it greener by 2")
        self.assertEqual(shift_words(np.array([20, 1.4, -0.9])), "leaves its hue")

    def test_the_next_touch_of_white_is_the_smallest_that_shows(self):
        parts = RACK.parts({browns(RACK)[0].id: 2.0})
        base = float(RACK.lab(parts)[0])
        touch = next_white(RACK, parts, 3.0)
        self.assertAlmostEqual(touch * 10, round(touch * 10), places=6)
        self.assertGreaterEqual(float(RACK.lab(parts + RACK.parts({WHITE.id: touch}))[0]), base + 3)
        if touch > 0.1:
            self.assertLess(float(RACK.lab(parts + RACK.parts({WHITE.id: touch - 0.1}))[0]), base + 3)
        self.assertEqual(next_white(DARK, DARK.parts({browns(RACK)[0].id: 2.0})), 0.0)
        # White itself gets no lighter: ten parts are the end.
        self.assertEqual(next_white(RACK, RACK.parts({WHITE.id: 1.0})), 10.0)


if __name__ == "__main__":
    unittest.main()
