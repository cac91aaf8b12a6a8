"""The piles of a painting, the budget of strong colour, and what a limited palette does."""

import unittest
from unittest import mock

import numpy as np

from foxpath.core.colour import difference, linear_from_lab, rgb_from_linear
from foxpath.core.errors import InputError
from foxpath.core.mixes import amounts, budget, words
from foxpath.core.mixes.limited import brush_colours, limited
from foxpath.core.mixes.palette import MOST, MOTHER, NEAR, SAME, Held, Palette, Want, build, chosen, from_pile, merged
from foxpath.core.mixes.recipe import Limits, Rack, solve
from foxpath.core.mixes.shortlist import shortlist
from foxpath.core.mixes.tubes import USUAL_TUBES, named_tubes

RACK = Rack(named_tubes(USUAL_TUBES), 0.5)


def wants(colours, acts=("darks", "lights")):
    return [
        Want(tuple(map(float, lab)), weight, acts[k % len(acts)], k % 3, 1.0 + k)
        for k, (lab, weight) in enumerate(colours)
    ]


COAT = wants(
    [((28, 4, 5), 3.0), ((34, 5, 8), 2.0), ((45, 15, 24), 4.0), ((52, 20, 33), 3.0), ((60, 18, 32), 2.0), ((70, 10, 25), 1.5),
     ((82, 2, 8), 2.0), ((55, 0, -2), 5.0), ((62, -1, -3), 3.0), ((40, 1, 0), 2.0), ((75, 0, 2), 1.0), ((48, -6, 14), 0.8)]
)  # fmt: skip

CLOUD = wants([(np.add((55, 5, 12), step), 1.0) for step in np.random.default_rng(0).normal(0, (18, 5, 5), (30, 3))])
"""Colours near to each other, and too far for what is added to a pile: piles are added twice."""


class Planned(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.palette = build(RACK, COAT)

    def test_every_want_has_its_pile_and_is_served(self):
        palette = self.palette
        self.assertTrue(6 <= len(palette.piles) <= MOST)
        self.assertGreater(palette.covered, 0.97)
        self.assertEqual(sorted(w for pile in palette.piles for w in pile.wants), list(range(len(COAT))))
        for k, pile in enumerate(palette.piles):
            for w in pile.wants:
                self.assertEqual(palette.pile_of[w], k)
                self.assertLessEqual(palette.steps[w], 2)
                if palette.steps[w] == 0:
                    away = float(difference(np.array(pile.lab), np.array(COAT[w].lab)))
                    self.assertAlmostEqual(palette.away[w], away, delta=SAME)
            self.assertAlmostEqual(pile.ml, sum(COAT[w].ml for w in pile.wants))

    def test_recipes_are_what_they_say(self):
        for pile in self.palette.piles:
            np.testing.assert_allclose(pile.lab, RACK.lab_of(pile.recipe.parts), atol=2e-3)

    def test_a_pile_begins_from_one_that_is_mixed_before_it(self):
        seen = set()
        for pile in self.palette.piles:
            if pile.base:
                self.assertIn(pile.base, seen)
                base = self.palette.pile(pile.base)
                whole = pile.base_parts + sum(n for _, n in pile.added)
                parts = RACK.parts(base.recipe.parts)
                mixed = parts / parts.sum() * pile.base_parts + RACK.parts(pile.added)
                # Base and additions are the recipe, told another way.
                own = RACK.parts(pile.recipe.parts)
                np.testing.assert_allclose(mixed / whole, own / own.sum(), atol=1e-4)
            seen.add(pile.key)

    def test_the_mother_takes_part_in_most(self):
        mother = self.palette.pile(MOTHER)
        self.assertEqual(len(mother.recipe.parts), 2)
        self.assertLess(mother.lab[0], 30)
        others = [one for one in self.palette.piles if one is not mother]
        self.assertGreaterEqual(sum(one.mother > 0 for one in others), len(others) / 2)
        shares = RACK.parts(mother.recipe.parts) / mother.recipe.whole
        for one in others:
            if one.base == MOTHER:
                whole = one.base_parts + sum(n for _, n in one.added)
                self.assertAlmostEqual(one.mother, one.base_parts / whole)
                own = RACK.parts(one.recipe.parts) / one.recipe.whole
                self.assertTrue((own >= shares * one.mother - 1e-4).all())

    def test_what_is_taken_for_others_is_mixed_too(self):
        for pile in self.palette.piles:
            taken = sum(
                one.mixed_ml * one.base_parts / (one.base_parts + sum(n for _, n in one.added))
                for one in self.palette.children(pile.key)
            )
            self.assertAlmostEqual(pile.mixed_ml, max(pile.ml, amounts.LEAST_ML) + taken)

    def test_the_string_is_grey_and_runs_from_dark_to_light(self):
        light = [one.lab[0] for one in self.palette.string]
        self.assertGreaterEqual(len(light), 2)
        self.assertEqual(light, sorted(light))
        self.assertTrue(all(np.hypot(*one.lab[1:]) < 7 for one in self.palette.string))

    def test_names_are_each_others_own(self):
        names = [one.name for one in self.palette.piles]
        self.assertEqual(len(set(names)), len(names))

    def test_a_mixed_pile_takes_its_colours_place_and_the_others_stay(self):
        pile = next(one for one in self.palette.piles if not one.neutral and one.key != MOTHER)
        seen = tuple(np.array(pile.lab) + (1.0, 0.5, 0.0))
        held = Held("m1", "my rust", pile.recipe.parts, seen, pile.recipe.target)
        after = build(RACK, COAT, held=(held,))
        self.assertEqual(len(after.piles), len(self.palette.piles))
        mine = after.pile("m1")
        self.assertTrue(mine.held)
        self.assertEqual((mine.name, mine.lab), ("my rust", seen))
        keys = {one.key for one in self.palette.piles} - {pile.key}
        self.assertEqual({one.key for one in after.piles} - {"m1"}, keys)

    def test_the_mother_that_lies_there_is_the_mother(self):
        mother = self.palette.pile(MOTHER)
        held = Held(
            "m1", "dark", tuple((key, 2 * n) for key, n in mother.recipe.parts), mother.lab, mother.recipe.target
        )
        after = build(RACK, COAT, held=(held,))
        self.assertIsNone(after.pile(MOTHER))
        self.assertGreaterEqual(sum(one.base == "m1" for one in after.piles), 2)

    def test_rounds_that_add_piles_reckon_nothing_twice(self):
        asked = []

        def counted(rack, target, limits):
            asked.append((len(rack), target.tobytes()))
            return solve(rack, target, limits)

        with mock.patch("foxpath.core.mixes.palette.solve", counted):
            made = build(RACK, CLOUD)
        self.assertGreater(len(made.piles), 8)
        self.assertEqual(len(asked), len(set(asked)))
        self.assertEqual(made.piles, build(RACK, CLOUD).piles)

    def test_a_chosen_mother_and_a_number_of_piles(self):
        made = build(RACK, COAT, mother=(("PB29", 1.0), ("PBr7-BU", 2.0)), count=5)
        self.assertEqual(dict(made.pile(MOTHER).recipe.parts), {"PB29": 1.0, "PBr7-BU": 2.0})
        self.assertLessEqual(len(made.piles), 6)

    def test_few_tubes_and_none_that_are_dark(self):
        made = build(Rack(named_tubes(("PW6", "PY43", "PR108"))), COAT)
        self.assertIsNone(made.pile(MOTHER))
        self.assertTrue(made.short)
        self.assertTrue(made.beyond)
        lone = build(Rack(named_tubes(("PBr7-RU",))), COAT)
        self.assertEqual(dict(lone.piles[0].recipe.parts), {"PBr7-RU": 1.0})

    def test_nothing_wanted(self):
        self.assertEqual(build(RACK, []).piles, ())
        self.assertEqual(Palette().covered, 1.0)

    def test_it_can_be_given_up(self):
        def stop(share):
            raise KeyboardInterrupt

        with self.assertRaises(KeyboardInterrupt):
            build(RACK, COAT, at=stop)


class Gathered(unittest.TestCase):
    def test_what_the_eye_cannot_tell_is_one(self):
        lab, weight, members = merged(wants([((50, 10, 10), 1.0), ((50.4, 10.3, 10), 3.0), ((60, 10, 10), 1.0)]))
        self.assertEqual(len(lab), 2)
        np.testing.assert_allclose(lab[0], (50.3, 10.225, 10))
        np.testing.assert_allclose(weight, [4, 1])
        self.assertEqual([sorted(one) for one in members], [[0, 1], [2]])

    def test_the_chosen_are_near_to_all(self):
        rng = np.random.default_rng(1)
        centres = np.array([[30.0, 0, 0], [50.0, 20, 30], [80.0, 0, 5], [60.0, 0, -20]])
        lab = np.concatenate([c + rng.normal(0, 1, (12, 3)) for c in centres])
        picks = chosen(lab, np.ones(len(lab)), 4)
        self.assertEqual(sorted(k // 12 for k in picks), [0, 1, 2, 3])
        heavy = np.ones(len(lab))
        heavy[:12] = 1000
        self.assertTrue(all(k < 12 for k in chosen(lab[:24], heavy[:24], 1)))

    def test_from_ten_parts_of_a_pile(self):
        palette = build(RACK, COAT)
        pile = next(one for one in palette.piles if one.neutral and one.lab[0] > 45)
        want = RACK.lab(RACK.parts(pile.recipe.parts) * 10 / pile.recipe.whole + RACK.parts({"PY43": 2.0}))
        step = from_pile(RACK, pile, want, most=1)
        self.assertEqual(step.added, (("PY43", 2.0),))
        self.assertIsNone(from_pile(Rack(named_tubes(("PW6",))), pile, want))


class Listed(unittest.TestCase):
    def test_the_few_tubes_that_serve_best(self):
        rack = Rack(named_tubes(("PW6", "PB29", "PBr7-BU", "PY43", "PR108", "PG7", "PV23")))
        parts = [
            {"PW6": 4.0, "PY43": 1.0},
            {"PW6": 2.0, "PBr7-BU": 1.0, "PY43": 1.0},
            {"PY43": 1.0, "PBr7-BU": 2.0},
            {"PW6": 9.0, "PBr7-BU": 1.0},
        ]
        lab = np.array([rack.lab_of(one) for one in parts])
        self.assertEqual(shortlist(rack, lab, np.ones(4), 3), ("PW6", "PBr7-BU", "PY43"))
        self.assertIn("PG7", shortlist(rack, lab, np.ones(4), 4, kept=("PG7",)))
        self.assertEqual(shortlist(rack, lab, np.ones(4), 9), rack.ids)
        with self.assertRaises(InputError):
            shortlist(rack, lab, np.ones(4), 0)


class Spent(unittest.TestCase):
    def test_where_pure_colour_lies(self):
        reach = np.full((budget.LIGHT_BANDS, budget.HUE_BANDS), 60.0)
        lab = np.zeros((20, 40, 3), np.float32)
        lab[..., 0] = 50
        lab[5:10, :8, 1] = 50
        lab[15, 20, 1] = 30
        labels = np.zeros((20, 40), np.int16)
        labels[:, :8] = 1
        far = np.broadcast_to(np.arange(40, dtype=np.float32), (20, 40))
        made = budget.spent(lab, labels, far, reach)
        self.assertAlmostEqual(made.share, 40 / 800)
        self.assertAlmostEqual(float(made.rings[0]), 0.25)
        self.assertAlmostEqual(float(made.rings[5]), 0)
        self.assertEqual(made.parts, ((1, 40 / 800),))
        self.assertAlmostEqual(float(made.far_mm[-1]), 39, places=3)
        grey = budget.spent(lab * np.array([1, 0.1, 0.1], np.float32), labels, far, reach * 0)
        self.assertEqual(grey.share, 0)

    def test_what_is_reached_is_the_strongest_mix_of_each_band(self):
        table = budget.reach_table(np.array([[50.0, 40.0, 1.0], [50.0, 20.0, 1.0], [90.0, 0.0, 30.0]]))
        self.assertEqual(table.shape, (budget.LIGHT_BANDS, budget.HUE_BANDS))
        self.assertAlmostEqual(table[6, 0], np.hypot(40, 1))
        self.assertAlmostEqual(table[10, 4], 30)


class Limit(unittest.TestCase):
    def test_every_mark_in_the_colour_of_its_pile_or_of_two(self):
        palette = build(RACK, COAT)
        table = brush_colours(RACK, palette)
        piles = np.array([one.lab for one in palette.piles])
        self.assertGreater(len(table), len(piles))
        rng = np.random.default_rng(2)
        lab = np.stack([rng.uniform(15, 95, 300), rng.normal(0, 15, 300), rng.normal(5, 20, 300)], axis=1)
        rgb = rgb_from_linear(np.clip(linear_from_lab(lab.astype(np.float32)), 0, 1))
        made = limited(rgb, table)
        shown = rgb_from_linear(np.clip(linear_from_lab(table.astype(np.float32)), 0, 1))
        far = np.abs(made[:, None] - shown[None]).max(axis=2).min(axis=1)
        self.assertLess(float(far.max()), 1e-6)
        own = rgb_from_linear(np.clip(linear_from_lab(piles.astype(np.float32)), 0, 1))
        np.testing.assert_allclose(limited(own, table), own, atol=0.02)
        self.assertIs(limited(rgb, table[:0]), rgb)

    def test_between_neighbours_lie_mixtures_of_both(self):
        palette = build(RACK, COAT)
        child = next(one for one in palette.piles if one.base)
        table = brush_colours(RACK, palette)
        a, b = RACK.parts(child.recipe.parts), RACK.parts(palette.pile(child.base).recipe.parts)
        half = RACK.lab(0.6 * a / a.sum() + 0.4 * b / b.sum())
        self.assertLess(float(difference(table, half).min()), 0.05)


class Amounts(unittest.TestCase):
    def test_millilitres_and_beads(self):
        # 30 x 40 cm of a 15 um wash, and a 6 mm bead of 3.5 cm a mL.
        self.assertAlmostEqual(amounts.millilitres(300 * 400, 15), 2.34, places=2)
        self.assertAlmostEqual(amounts.bead_cm(1.0), 3.54, places=2)
        self.assertAlmostEqual(amounts.bead_cm(1.0, 12), 3.54 / 4, places=2)

    def test_films_grow_with_the_thickness_of_the_paint(self):
        for body, um in ((0.1, 16), (0.35, 31), (0.6, 61), (0.95, 157)):
            self.assertAlmostEqual(amounts.film_um(body), um, delta=0.6)
        self.assertEqual(amounts.film_um(7), amounts.film_um(1))
        films = [amounts.film_um(t) for t in np.linspace(0, 1, 9)]
        self.assertEqual(films, sorted(films))

    def test_what_runs_out_is_said_before(self):
        needs = [("darks", 2.0), ("lights", 3.0), ("whiskers", 1.0)]
        self.assertEqual(amounts.runs_out(4.0, needs), ("lights", 2.0))
        self.assertIsNone(amounts.runs_out(6.0, needs))
        self.assertIsNone(amounts.runs_out(5.95, needs))

    def test_keeping(self):
        self.assertIn("min", amounts.keeping_words(amounts.open_days("acrylic", "medium")))
        self.assertIn("h", amounts.keeping_words(amounts.open_days("alkyd", "medium")))
        self.assertEqual(amounts.keeping_words(1.0), "open for 1 day")
        self.assertLess(amounts.open_days("oil", "fast"), amounts.open_days("oil", "slow"))
        self.assertEqual(amounts.open_days("oil", "slow", wrapped=True), 4 * amounts.open_days("oil", "slow"))

    def test_the_medium_rises_in_every_system(self):
        for system in amounts.MEDIUMS:
            drops = [amounts.medium_for(fat, "oil", system).drops for fat in (0.2, 0.35, 0.45, 0.55)]
            self.assertEqual(drops, sorted(drops), system)
        free = [amounts.medium_for(fat, "oil", "solvent-free").words for fat in np.linspace(0, 1, 21)]
        self.assertFalse(any("thinner" in one for one in free))
        self.assertEqual(amounts.medium_for(0.5, "acrylic", "solvent").words, "water")
        self.assertEqual(amounts.medium_for(0.2, "oil", "solvent").for_ml(4.0), 12)


class Words(unittest.TestCase):
    def test_names(self):
        for lab, name in (
            ((14, 1, 1), "black"), ((20, 3, 4), "warm black"), ((40, 0, 1), "dark grey"), ((97, 0, 2), "white"),
            ((52, 23, 36), "tawny"), ((30, 3, -28), "deep blue"), ((84, 1, 12), "cream"), ((55, -3, 0), "cool mid grey"),
        ):  # fmt: skip
            self.assertEqual(words.name_of(lab), name)

    def test_no_two_alike(self):
        labs = [(52, 23, 36), (60, 24, 38), (40, 0, 1), (14, 1, 1), (14.2, 1, 1), (14.4, 1, 1)]
        made = words.unlike_names(labs)
        self.assertEqual(made[:3], ("tawny", "lighter tawny", "dark grey"))
        self.assertEqual(made[3:], ("black 1", "black 2", "black 3"))
        self.assertEqual(words.unlike_names(labs[:2], ["", "tawny"]), ("tawny 2", "tawny"))

    def test_what_lacks_in_one_word(self):
        base = (50.0, 10.0, 12.0)
        for want, word in (
            ((58, 10, 12), "lighter"), ((44, 10, 12), "darker"), ((50, 18, 12), "redder"), ((50, 2, 12), "greener"),
            ((50, 10, 22), "yellower"), ((50, 10, 3), "bluer"), ((50, 20, 24), "stronger"), ((50, 5, 6), "greyer"),
            ((50.2, 10, 12), "nothing"),
        ):  # fmt: skip
            self.assertEqual(words.lacks_word(base, want), word, want)

    def test_what_lies_round_it_changes_a_grey(self):
        for around, leans in (
            ((50, 5, 30), "blue"),
            ((50, 4, -30), "yellow"),
            ((50, 30, 10), "green"),
            ((50, -30, 10), "red"),
        ):
            self.assertIn(f"read {leans}", words.alone_words((60, 1, 2), around))
        self.assertEqual(words.alone_words((60, 1, 2), (50, 2, 6)), "")
        self.assertEqual(words.alone_words((60, 12, 20), (50, 5, 30)), "")

    def test_parts(self):
        self.assertEqual([words.amount_words(n) for n in (0.5, 1, 1.5, 12, 0.3)], ["½", "1", "1½", "12", "0.3"])
        self.assertEqual(
            words.parts_words((("PW6", 2.0), ("x", 0.5)), {"PW6": "Titanium white"}), "2 titanium white, ½ x"
        )


class Limited(unittest.TestCase):
    def test_black_rule_holds_in_the_whole_palette(self):
        rack = Rack(named_tubes(("PW6", "PBk9", "PY43", "PBr7-BU")), 0.5)
        alone = tuple(not tube.black for tube in rack.tubes)
        greys = wants([((30 + 6 * k, 0, 0), 1.0) for k in range(8)])
        for pile in build(rack, greys, limits=Limits(3, alone)).piles:
            keys = {key for key, _ in pile.recipe.parts}
            if "PBk9" in keys:
                self.assertTrue(keys & {"PY43", "PBr7-BU"}, pile.recipe.parts)
        self.assertLess(NEAR, 3)


if __name__ == "__main__":
    unittest.main()
