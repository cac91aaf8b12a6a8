"""Blacks, opposites, white, strings, veils, strokes into wet paint, what is out of reach, and a dab in a photograph."""

import unittest

import numpy as np

from foxpath.core.colour import difference, rgb8_from_lab, rgb8_from_linear
from foxpath.core.errors import InputError
from foxpath.core.mixes import layers, optics, strings
from foxpath.core.mixes.dab import CARD_Y, dab_lab
from foxpath.core.mixes.reach import deepest, gamut, lacking_words, missing
from foxpath.core.mixes.recipe import Rack, solve
from foxpath.core.mixes.tubes import USUAL_TUBES, named_tubes, table

RACK = Rack(named_tubes(USUAL_TUBES))


class Blacks(unittest.TestCase):
    def test_they_slide_from_cool_to_warm_by_their_tint(self):
        found = strings.blacks(RACK, "PB29", "PBr7-BU")
        self.assertGreater(len(found), 5)
        lean = [one.lean for one in found]
        self.assertEqual(lean, sorted(lean))
        self.assertLess(lean[0], -15)
        self.assertGreater(lean[-1], 0)
        # More blue, cooler.
        shares = [dict(one.parts)["PB29"] / sum(n for _, n in one.parts) for one in found]
        self.assertEqual(shares, sorted(shares, reverse=True))
        for one in found:
            np.testing.assert_allclose(one.lab, RACK.lab_of(one.parts))
            whole = sum(n for _, n in one.parts)
            tint = RACK.lab_of({**{key: n / whole for key, n in one.parts}, "PW6": 8.0})
            np.testing.assert_allclose(one.tint, tint, atol=0.5)

    def test_the_pair_is_one_that_passes_near_a_true_neutral(self):
        found = strings.blacks(RACK)
        self.assertLess(min(float(np.hypot(*one.tint[1:])) for one in found), 3)
        self.assertEqual(strings.black_leaning(RACK, -20).words().split(",")[0], "cool")
        self.assertEqual(strings.black_leaning(RACK, 9).words().split(",")[0], "warm")
        self.assertEqual(strings.black_leaning(RACK, 0).words().split(",")[0], "neutral")

    def test_leaning_further(self):
        base = strings.black_leaning(RACK, 0)
        made = dict(strings.leaning_blacks(RACK, base))
        self.assertGreater(made["red"].tint[1], base.tint[1] + 1)
        self.assertLess(made["green"].tint[1], base.tint[1] - 0.5)
        self.assertLess(made["violet"].tint[2], base.tint[2])

    def test_none_without_a_blue_a_brown_or_a_white(self):
        for ids in (("PW6", "PY43", "PBr7-BU"), ("PW6", "PB29"), ("PB29", "PBr7-BU")):
            self.assertEqual(strings.blacks(Rack(named_tubes(ids))), ())
        self.assertIsNone(strings.black_leaning(Rack(named_tubes(("PW6",))), 0))


class White(unittest.TestCase):
    def test_it_cools_a_brown_black_less_than_a_blue_one(self):
        brown = RACK.parts({"PBr7-BU": 1.0})
        blue = RACK.parts({"PB29": 2.0, "PBr7-BU": 3.0})
        warm, cool = strings.white_shift(RACK, brown, 20)[0], strings.white_shift(RACK, blue, 20)[0]
        self.assertGreater(warm[2], 0)
        self.assertLess(cool[2], -2)
        self.assertAlmostEqual(cool[0], 20, delta=0.3)
        start = strings.white_shift(RACK, blue, 20)[1]
        np.testing.assert_allclose(start, [-20, -cool[1], -cool[2]])
        self.assertIn("cools", strings.shift_words(cool))
        self.assertEqual(strings.shift_words(np.array([20, 0.3, 0.4])), "leaves its hue")

    def test_the_smallest_step_brings_two_steps_of_lightness(self):
        parts = RACK.parts({"PBr7-BS": 10.0})
        step = strings.next_white(RACK, parts)
        before = RACK.lab(parts)[0]
        self.assertGreaterEqual(RACK.lab(parts + RACK.parts({"PW6": step}))[0], before + 2)
        self.assertLess(RACK.lab(parts + RACK.parts({"PW6": step - 0.1}))[0], before + 2)
        lone = Rack(named_tubes(("PB29",)))
        self.assertEqual(strings.next_white(lone, np.array([1.0])), 0)
        self.assertEqual(strings.with_white(lone, np.array([1.0])), ())
        self.assertFalse(strings.white_shift(lone, np.array([1.0]), 10)[0].any())

    def test_tints_grow_lighter(self):
        light = [one.lab[0] for one in strings.with_white(RACK, RACK.parts({"PBr7-RU": 3.0}))]
        self.assertEqual(light, sorted(light))
        np.testing.assert_allclose(
            strings.with_white(RACK, RACK.parts({"PBr7-RU": 3.0}))[0].lab, RACK.lab_of({"PBr7-RU": 1})
        )


class Strings(unittest.TestCase):
    def test_steps_are_equal_to_the_eye(self):
        made = strings.string(RACK, RACK.parts({"PB29": 2.0, "PBr7-BU": 3.0}), RACK.parts({"PW6": 1.0}), 7)
        lab = np.array([one for _, one in made])
        self.assertEqual(len(made), 7)
        steps = difference(lab[1:], lab[:-1])
        self.assertLess(float(steps.max() / steps.min()), 1.12)
        np.testing.assert_allclose(lab[0], RACK.lab_of({"PB29": 2.0, "PBr7-BU": 3.0}))
        np.testing.assert_allclose(lab[-1], RACK.lab_of({"PW6": 1.0}))
        for parts, one in made:
            np.testing.assert_allclose(RACK.lab(parts), one)

    def test_opposites_cancel_to_grey(self):
        found = strings.opposites(RACK)
        self.assertEqual([one.chroma for one in found], sorted(one.chroma for one in found))
        for one in found:
            self.assertLess(one.chroma, 4)
            self.assertLess(
                float(np.hypot(*RACK.lab_of({**dict(one.parts), "PW6": 4 * sum(n for _, n in one.parts)})[1:])), 6
            )


class Layers(unittest.TestCase):
    def test_a_glaze_only_takes_light_away_and_more_coats_more(self):
        over = np.array([[88.0, 0, 6], [60.0, 0, -4]])
        sienna = RACK.parts({"PBr7-BS": 1.0})
        light = [layers.veil(RACK, sienna, over, 10, paint=0.2, coats=n)[:, 0] for n in (1, 2, 3)]
        self.assertTrue((light[0] < over[:, 0]).all())
        self.assertTrue((np.diff(light, axis=0) < 0).all())
        warm = layers.veil(RACK, sienna, over, 10, paint=0.2)
        self.assertTrue((warm[:, 2] > over[:, 2]).all())
        np.testing.assert_allclose(
            layers.veil(RACK, sienna, over, 20, paint=0.2),
            layers.veil(RACK, sienna, over, 10, paint=0.2, coats=2),
            atol=1e-6,
        )

    def test_a_scumble_of_white_greys_and_cools_a_dark(self):
        over = np.array([30.0, 12.0, 18.0])
        laid = layers.veil(RACK, RACK.parts({"PW6": 1.0}), over, 8, paint=0.25)
        self.assertGreater(laid[0], over[0])
        self.assertLess(laid[2], over[2])
        self.assertIn("lighter", layers.veil_words(over, laid))
        self.assertIn("cooler", layers.veil_words(over, laid))
        self.assertEqual(layers.veil_words(over, over), "hardly a change")

    def test_the_best_veil_is_the_one_it_was_made_with(self):
        over = np.array([62.0, 2.0, 8.0])
        want = layers.veil(RACK, RACK.parts({"PR101-T": 1.0}), over, 15, paint=0.2, coats=2)
        piles = [(key, RACK.parts({key: 1.0})) for key in ("PB29", "PR101-T", "PW6")]
        best = layers.best_veils(RACK, piles, over, want, 15)
        self.assertEqual((best[0].name, best[0].paint, best[0].coats), ("PR101-T", 0.2, 2))
        self.assertLess(best[0].away, 1e-3)
        self.assertEqual(len(layers.best_veils(RACK, piles, over, want, 15, most=2)), 2)

    def test_what_a_veil_cannot_do_is_said(self):
        over = np.array([40.0, 5.0, 10.0])
        self.assertIn("never lightens", layers.cannot_words(over, over + (20, 0, 0), 9))
        self.assertIn("stronger", layers.cannot_words(over, over + (1, 10, 20), 9))
        self.assertIn("body paint", layers.cannot_words(over, over + (-5, 0, -9), 9))
        self.assertEqual(layers.cannot_words(over, over + (20, 0, 0), 1), "")

    def test_strokes_take_up_what_lies_beneath(self):
        white, dark = RACK.parts({"PW6": 2.0}), RACK.parts({"PBr7-BU": 3.0})
        left = layers.after_strokes(RACK, white, dark, 0.2, 4)
        np.testing.assert_allclose(left[0], RACK.lab_of({"PW6": 0.8, "PBr7-BU": 0.2}))
        np.testing.assert_allclose(left[1], RACK.lab_of({"PW6": 0.64, "PBr7-BU": 0.36}))
        self.assertTrue((np.diff(left[:, 0]) < 0).all())

    def test_into_the_wet(self):
        dark = RACK.parts({"PBr7-BU": 1.0})
        none = layers.over_wet(RACK, np.array([85.0, 0, 5]), dark)
        self.assertIsNone(none.lay)
        self.assertIn("wait", none.words())
        some = layers.over_wet(RACK, np.array([38.0, 8.0, 10.0]), dark)
        self.assertIsNotNone(some.lay)
        self.assertGreater(some.lay.lab[0], some.result[0])
        np.testing.assert_allclose(some.result, (38, 8, 10), atol=2)
        self.assertIn("stroke", some.words())
        # What is alike wet and laid never soils the brush.
        # Wiped at the first stroke that has drifted too far from the one before all others.
        for pick_up in (layers.PICK_UP, 0.05, 0.1):
            one = layers.over_wet(RACK, np.array([38.0, 8.0, 10.0]), dark, pick_up)
            left = layers.after_strokes(RACK, RACK.parts(one.lay.parts), dark, pick_up, 12)
            drift = difference(left, left[0])
            self.assertGreater(float(drift[-1]), layers.DIRTY)
            self.assertEqual(one.strokes, max(1, int(np.flatnonzero(drift > layers.DIRTY)[0])))
        self.assertGreater(one.strokes, 1)
        same = layers.over_wet(RACK, RACK.lab(dark), dark)
        self.assertEqual(same.strokes, 12)
        dry = layers.over_wet(RACK, np.array([38.0, 8.0, 10.0]), dark, 0.0)
        self.assertAlmostEqual(dry.away, solve(RACK, np.array([38.0, 8.0, 10.0])).away, places=5)

    def test_a_film_recipe_looks_as_it_says(self):
        over = np.array([60.0, 2.0, 6.0])
        want = layers.veil(RACK, RACK.parts({"PR101-T": 1.0, "PB29": 1.0}), over, 12)
        made = layers.solve_film(RACK, want, over, 12)
        np.testing.assert_allclose(layers.veil(RACK, RACK.parts(made.parts), over, 12), made.lab, atol=1e-6)
        self.assertLess(made.away, 1.5)
        self.assertLessEqual(len(layers.solve_film(RACK, want, over, 12, 1).parts), 1)


class Reach(unittest.TestCase):
    def test_what_is_reached_lacks_nothing(self):
        self.assertIsNone(missing(RACK, solve(RACK, np.array([50.0, 8, 14]))))

    def test_a_strong_green_is_out_of_reach_and_a_tube_would_bring_it(self):
        earths = Rack(named_tubes(("PW6", "PBr7-BU", "PBr7-BS", "PY43", "PB29")))
        near = solve(earths, np.array([48.0, -30.0, 5.0]))
        lacks = missing(earths, near)
        self.assertGreater(lacks.chroma, 10)
        self.assertIn(lacks.tube, ("PG7", "PG18"))
        self.assertLess(lacks.tube_away, near.away / 2)
        self.assertIn("duller", lacking_words(near, lacks))
        at = np.array(lacks.at_value.lab)
        self.assertAlmostEqual(at[0], 48, delta=2.5)
        none = missing(earths, near, others=[table()["PR108"]])
        self.assertEqual(none.tube, "")

    def test_what_is_strong_enough_already_misses_by_its_hue_not_by_chroma(self):
        blue = Rack(named_tubes(("PW6", "PB29")))
        near = solve(blue, np.array([45.0, 0, -20]))
        self.assertGreater(np.hypot(*near.lab[1:]), 20)
        self.assertEqual(missing(blue, near, others=()).chroma, 0)
        yellow = Rack(named_tubes(("PW6", "PY43")))
        near = solve(yellow, np.array([80.0, 10, 60]))
        # No mix of that hue is nearer: what is nearest has a part of the chroma.
        had = np.hypot(*near.lab[1:])
        self.assertTrue(20 < had < 50)
        self.assertAlmostEqual(missing(yellow, near, others=()).chroma, np.hypot(10, 60) - had, places=6)

    def test_darker_than_any_dark(self):
        near = solve(RACK, np.array([8.0, 2, 2]))
        lacks = missing(RACK, near)
        self.assertGreater(lacks.lightness, 15)
        self.assertIn("lighter by", lacking_words(near, lacks))
        self.assertAlmostEqual(deepest(RACK), 25, delta=1.5)
        self.assertLess(deepest(Rack(RACK.tubes, optics.FINISHES["varnished"])), 6)

    def test_the_gamut_holds_tubes_and_tints(self):
        lab = gamut(Rack(named_tubes(("PW6", "PR108"))))
        self.assertLess(float(difference(lab, np.array(table()["PR108"].masstone)).min()), 1.5)
        self.assertGreater(lab[:, 0].max(), 96)


class Dab(unittest.TestCase):
    def photograph(self, lab, light=(1.0, 0.8, 0.55), exposure=1.0):
        """A dab and a grey card under a warm lamp."""
        made = np.full((80, 160, 3), 40, np.uint8)
        card = CARD_Y * np.array(light) * exposure
        from foxpath.core.colour import linear_from_lab

        paint = np.asarray(linear_from_lab(np.array([lab], np.float32))[0]) * np.array(light) * exposure
        made[10:70, 10:70] = rgb8_from_linear(np.clip(card, 0, 1).astype(np.float32))
        made[10:70, 90:150] = rgb8_from_linear(np.clip(paint, 0, 1).astype(np.float32))
        return made

    def test_read_whatever_the_lamp_and_the_exposure(self):
        for exposure in (0.6, 1.2):
            rgb = self.photograph((55.0, 18.0, 30.0), exposure=exposure)
            seen = dab_lab(rgb, (40, 40), (120, 40), 8)
            self.assertLess(float(difference(seen, np.array([55.0, 18, 30]))), 1.0)

    def test_what_cannot_be_read_is_said(self):
        rgb = self.photograph((55.0, 18.0, 30.0))
        with self.assertRaisesRegex(InputError, "off the photograph"):
            dab_lab(rgb, (40, 40), (900, 40), 8)
        with self.assertRaisesRegex(InputError, "card is burnt"):
            dab_lab(np.full((50, 50, 3), 255, np.uint8), (10, 10), (40, 40), 4)
        bright = self.photograph((55.0, 18.0, 30.0))
        bright[10:70, 90:150] = 255
        with self.assertRaisesRegex(InputError, "dab is burnt"):
            dab_lab(bright, (40, 40), (120, 40), 8)

    def test_the_shown_colour_is_the_asked_one(self):
        self.assertEqual(rgb8_from_lab(np.array([[100.0, 0, 0]], np.float32))[0].tolist(), [255, 255, 255])


class PickedUp(unittest.TestCase):
    def setUp(self):
        self.laid, self.wet = RACK.parts({"PW6": 3.0, "PY43": 1.0}), RACK.parts({"PB29": 2.0, "PBr7-BU": 1.0})

    def test_what_a_stroke_came_to_tells_how_much_it_picked_up(self):
        for share in (0.0, 0.08, 0.2, 0.55, 0.9):
            came = layers.after_strokes(RACK, self.laid, self.wet, share, 1)[0]
            found, away = layers.pick_up_seen(RACK, 5 * self.laid, 0.3 * self.wet, came)
            self.assertAlmostEqual(found, share, delta=0.004)
            self.assertLess(away, 0.2)

    def test_a_colour_that_neither_explains_says_so(self):
        _, away = layers.pick_up_seen(RACK, self.laid, self.wet, np.array([50.0, 60.0, 30.0]))
        self.assertGreater(away, layers.UNEXPLAINED)

    def test_few_strokes_are_not_trusted_far(self):
        self.assertAlmostEqual(layers.learned_pick_up(()), layers.PICK_UP)
        self.assertAlmostEqual(layers.learned_pick_up((0.5,)), (2 * layers.PICK_UP + 0.5) / 3)
        self.assertAlmostEqual(layers.learned_pick_up((0.5,) * 98), (2 * layers.PICK_UP + 49) / 100)


if __name__ == "__main__":
    unittest.main()
