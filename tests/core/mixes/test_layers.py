"""Veils and strokes into the wet against everything reckoned one by one, and what is said of them."""

import unittest
from itertools import product

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.errors import InputError
from foxpath.core.mixes import layers, optics
from foxpath.core.mixes.layers import COATS, DILUTIONS, DIRTY, MUDDY, PICK_UP, THIN, OverWet
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.tubes import named_tubes

FIVE = Rack(named_tubes(("PW6", "PBr7-BS", "PB29", "PY43", "PR108")), 0.5)


def away(a, b):
    """Return the difference of two colours."""
    return float(difference(np.asarray(a), np.asarray(b)))


def filmed(rack, parts, over, film_um, paint=1.0):
    """Return the colour of a film over a ground, by the equations once more."""
    share = np.asarray(parts, float) / np.sum(parts) * paint
    inside = optics.film(share @ rack.k, share @ rack.s, film_um, optics.spectrum_of(np.asarray(over), rack.shown))
    return optics.lab_of(optics.seen(inside, rack.shown))


class Veils(unittest.TestCase):
    over = np.array([62.0, 8.0, 20.0])

    def test_a_veil_is_a_film_of_its_paint_in_medium_as_thick_as_its_coats(self):
        parts = FIVE.parts({"PBr7-BS": 2.0, "PB29": 1.0})
        for paint, coats in ((0.1, 1), (0.35, 3), (1.0, 2)):
            made = layers.veil(FIVE, parts, self.over, 9.0, paint=paint, coats=coats)
            np.testing.assert_allclose(made, filmed(FIVE, parts, self.over, 9.0 * coats, paint), atol=1e-3)
        both = layers.veil(FIVE, parts, np.stack([self.over, self.over + 9]), 9.0)
        self.assertEqual(both.shape, (2, 3))
        np.testing.assert_allclose(both[1], layers.veil(FIVE, parts, self.over + 9, 9.0), atol=1e-3)

    def test_the_best_veils_are_the_best_of_all_that_can_be_laid(self):
        piles = [(key, FIVE.parts({key: 3.0})) for key in FIVE.ids] + [
            ("mix", FIVE.parts({"PBr7-BS": 1.0, "PY43": 2.0}))
        ]
        for want in (np.array([50.0, 14.0, 30.0]), np.array([70.0, 2.0, 6.0]), np.array([40.0, 4.0, -4.0])):
            every = []
            for name, parts in piles:
                tried = []
                for paint, coats in product(DILUTIONS, range(1, COATS + 1)):
                    lab = filmed(FIVE, parts, self.over, 10.0 * coats, paint)
                    off = away(lab, want)
                    tried.append((off + 0.3 * coats, off, name, paint, coats, lab))
                every.append(min(tried, key=lambda one: one[0]))
            every.sort(key=lambda one: one[1])
            made = layers.best_veils(FIVE, piles, self.over, want, 10.0, 4)
            self.assertEqual([(v.name, v.paint, v.coats) for v in made], [one[2:5] for one in every[:4]])
            for veil, one in zip(made, every, strict=False):
                self.assertAlmostEqual(veil.away, one[1], places=3)
                np.testing.assert_allclose(veil.lab, one[5], atol=1e-3)
        self.assertEqual(layers.best_veils(FIVE, [], self.over, self.over, 10.0), ())

    def test_what_it_did_is_said(self):
        over = np.array([50.0, 0.0, 10.0])
        for lab, words in (
            ((53.4, 0, 10), "lighter by 3"),
            ((45.6, 0, 10), "darker by 4"),
            ((50.9, 0, 10), "hardly a change"),
            ((51.0, 0, 10), "lighter by 1"),
            ((50, 9, 12.0), "warmer by 2, stronger by 5"),
            ((50, 0, 6), "cooler by 4, greyer by 4"),
            ((50, 0, 11.4), "hardly a change"),
        ):
            self.assertEqual(layers.veil_words(over, np.array(lab, float)), words)

    def test_why_it_cannot_be_is_said(self):
        over = np.array([50.0, 6.0, 8.0])
        self.assertEqual(layers.cannot_words(over, np.array([80.0, 0, 0]), MUDDY), "")
        self.assertIn("never lightens", layers.cannot_words(over, np.array([52.1, 6, 8]), 3.1))
        for want, strong in (((50, 9, 12), True), ((52, 9, 12), True), ((49.9, 9, 12), False), ((50, 8, 11.4), False)):
            words = layers.cannot_words(over, np.array(want, float), 9.0)
            self.assertEqual("stronger without making it darker" in words, strong, want)
            self.assertEqual("repaint the place" in words, not strong, want)


class Films(unittest.TestCase):
    def test_the_film_of_a_shadow_is_the_best_of_every_pair_ratio_and_share(self):
        rack = Rack(FIVE.tubes[1:4], 0.5)
        over = np.array([64.0, 10.0, 26.0])
        for target in (np.array([40.0, 8.0, 12.0]), np.array([55.0, 10.0, 20.0]), np.array([30.0, 6.0, -2.0])):
            rows = [np.eye(3)[i] for i in range(3)]
            rows += [
                a * np.eye(3)[i] + (1 - a) * np.eye(3)[j]
                for i, j in ((0, 1), (0, 2), (1, 2))
                for a in (0.2, 0.35, 0.5, 0.65, 0.8)
            ]
            tried = [
                (away(filmed(rack, parts, over, 12.0, paint), target) + 0.12 * np.count_nonzero(parts), parts, paint)
                for parts in rows
                for paint in THIN
            ]
            score, parts, paint = min(tried, key=lambda one: one[0])
            recipe, thin = layers.shadow_film(rack, target, over, 12.0)
            self.assertEqual(thin, paint)
            np.testing.assert_allclose(rack.parts(recipe.parts), np.round(parts * 10) / 2)
            self.assertEqual(recipe.target, tuple(target))
            self.assertLess(score, 30)
        with self.assertRaises(InputError):
            layers.shadow_film(rack, np.array([400.0, 0, 0]), over, 12.0)

    def test_a_films_recipe_is_as_near_as_any_that_a_hand_can_measure(self):
        over = np.array([70.0, 5.0, 12.0])
        for shares, um in (((0, 3, 1, 0, 0), 15.0), ((2, 1, 0, 2, 0), 25.0), ((0, 0, 0, 1, 0), 8.0)):
            target = filmed(FIVE, np.array(shares, float), over, um)
            made = layers.solve_film(FIVE, target, over, um)
            laid = FIVE.parts(made.parts)
            lab = filmed(FIVE, laid, over, um)
            np.testing.assert_allclose(made.lab, lab, atol=1e-3)
            self.assertAlmostEqual(made.away, away(lab, target), places=3)
            self.assertLess(made.away, 0.7)
            self.assertLessEqual(len(made.parts), 3)
            # Whole and half parts, and no more of them than a pile has.
            np.testing.assert_allclose(laid * 2, np.round(laid * 2))
            self.assertLessEqual(laid.sum(), 21.5)
        lone = layers.solve_film(FIVE, target, over, 8.0)
        self.assertEqual(lone.parts, (("PY43", 1.0),))
        one = layers.solve_film(FIVE, filmed(FIVE, (0, 3, 1, 0, 0), over, 15.0), over, 15.0, 1)
        self.assertEqual(len(one.parts), 1)
        single = min(
            FIVE.ids,
            key=lambda key: away(
                filmed(FIVE, FIVE.parts({key: 1.0}), over, 15.0), filmed(FIVE, (0, 3, 1, 0, 0), over, 15.0)
            ),
        )
        self.assertEqual(one.parts[0][0], single)
        two = layers.solve_film(FIVE, filmed(FIVE, (1, 2, 1, 0, 0), over, 15.0), over, 15.0, 2)
        self.assertLessEqual(len(two.parts), 2)


class Wet(unittest.TestCase):
    laid, wet = FIVE.parts({"PW6": 4.0}), FIVE.parts({"PB29": 1.0, "PBr7-BS": 1.0})

    def test_each_stroke_takes_up_a_share_of_what_is_beneath(self):
        made = layers.after_strokes(FIVE, self.laid, self.wet, 0.25, 3)
        brush, wet = self.laid / 4, self.wet / 2
        for k in range(3):
            brush = 0.75 * brush + 0.25 * wet
            np.testing.assert_allclose(made[k], FIVE.lab(brush))
        self.assertEqual(len(made), 3)
        np.testing.assert_allclose(layers.after_strokes(FIVE, self.laid, self.wet, 0.0, 1)[0], FIVE.lab(self.laid))

    def test_what_is_laid_makes_up_for_what_is_taken_up(self):
        target = FIVE.lab(0.8 * FIVE.parts({"PW6": 0.75, "PY43": 0.25}) + 0.2 * self.wet / 2)
        made = layers.over_wet(FIVE, target, self.wet)
        laid = FIVE.parts(made.lay.parts)
        first = FIVE.lab((1 - PICK_UP) * laid / laid.sum() + PICK_UP * self.wet / 2)
        np.testing.assert_allclose(made.result, first)
        self.assertAlmostEqual(made.away, away(first, target), places=4)
        self.assertLess(made.away, MUDDY)
        left = layers.after_strokes(FIVE, laid, self.wet, PICK_UP, 12)
        drift = [away(one, left[0]) for one in left]
        self.assertEqual(made.strokes, max(1, next((k for k, one in enumerate(drift) if one > DIRTY), 12)))
        self.assertEqual(made.words(), f"wipe after {made.strokes} stroke{'' if made.strokes == 1 else 's'}")
        # Into paint of its own colour no stroke drifts.
        same = layers.over_wet(FIVE, FIVE.lab(self.wet), self.wet)
        self.assertEqual(same.strokes, 12)

    def test_white_into_wet_black_is_not_to_be_had(self):
        made = layers.over_wet(FIVE, np.array([95.0, 0.0, 2.0]), self.wet, 0.5)
        self.assertIsNone(made.lay)
        self.assertGreater(made.away, MUDDY)
        self.assertIn("wait until it is touch-dry", made.words())
        self.assertEqual(OverWet(made.lay, made.result, made.away, 1).words(), made.words())

    def test_what_was_picked_up_is_told_by_what_a_stroke_came_to(self):
        for share in (0.0, 0.145, 0.3, 0.9):
            seen = FIVE.lab((1 - share) * self.laid / 4 + share * self.wet / 2)
            found, left = layers.pick_up_seen(FIVE, self.laid, self.wet, seen)
            self.assertAlmostEqual(found, share, delta=0.0026)
            self.assertLess(left, 0.4)
        _, left = layers.pick_up_seen(FIVE, self.laid, self.wet, np.array([50.0, 60.0, 40.0]))
        self.assertGreater(left, layers.UNEXPLAINED)

    def test_what_is_usual_counts_as_two_strokes(self):
        self.assertEqual(layers.learned_pick_up([]), PICK_UP)
        self.assertAlmostEqual(layers.learned_pick_up([0.4, 0.5]), (2 * 0.2 + 0.9) / 4)


if __name__ == "__main__":
    unittest.main()
