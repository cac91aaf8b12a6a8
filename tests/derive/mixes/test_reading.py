"""What is said of piles: where each goes, until when it is kept, what it can begin, and what is found; on piles made by hand."""

import unittest
from dataclasses import replace
from types import SimpleNamespace

import numpy as np

from foxpath.core.mixes.amounts import open_days
from foxpath.core.mixes.budget import Budget
from foxpath.core.mixes.palette import Palette, Pile, Want
from foxpath.core.mixes.reach import Missing
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.studio import MixedPile
from foxpath.core.mixes.tubes import KeptTube, named_tubes
from foxpath.core.passes import ROLES
from foxpath.derive import Results
from foxpath.derive.mixes import reading
from foxpath.derive.mixes.reading import BACKGROUND_SHARE, CLEAR, LEFT_AWAY, SLIGHT, PileNote
from foxpath.document import edits
from tests.made import SQUARE, project

RACK = Rack(named_tubes(("PW6", "PY43", "PBr7-BS", "PB29")), 0.5)
GREY = RACK.parts({"PW6": 6.0, "PB29": 1.0, "PBr7-BS": 1.0})


def pile(key, parts=GREY, target=None, **more):
    lab = RACK.lab(parts)
    return Pile(key, more.pop("name", key), RACK.recipe(parts, lab if target is None else np.array(target)), **more)


def want(act, zone, ml, weight=1.0):
    return Want((50.0, 0.0, 0.0), weight, act, zone, ml)


def palette(piles, wants=(), short=()):
    return Palette(tuple(piles), tuple(wants), short=tuple(short))


def plan(key, zones=(), handling="opaque"):
    """As much of a pass as is asked here."""
    return SimpleNamespace(role=replace(ROLES[key], handling=handling), zones=tuple(zones))


def note(needs=(), *, clear=False, lacks=None):
    return PileNote(tuple(needs), (), 1, "", "", "", (), clear, lacks)


class Used(unittest.TestCase):
    def test_paint_is_added_up_by_pass_and_by_part(self):
        wants = [want("lights", 2, 1.1), want("darks", 1, 1.0), want("lights", 1, 0.65), want("odd", -1, 0.1)]
        made = palette([pile("a", wants=(0, 1, 2, 3)), pile("b", wants=(2,))], wants)
        needs, zones = reading._used(made.piles[0], made, {"darks": 0, "lights": 1})
        # In the order of the passes, what is of none last; parts with most paint first.
        self.assertEqual(needs, (("darks", 1.0), ("lights", 1.75), ("odd", 0.1)))
        # 1.65 mL of the one, 1.1 of the other.
        self.assertEqual(zones, (1, 2, -1))
        self.assertEqual(reading._used(made.piles[1], made, {}), ((("lights", 0.65),), (1,)))


class Noted(unittest.TestCase):
    def notes(self, minutes, wants, piles, short=()):
        plans = [plan("darks", (1,)), plan("lights", (1,))]
        for one, taken in zip(plans, minutes, strict=True):
            one.minutes = taken
        return reading._notes(project(combs=False), palette(piles, wants, short), RACK, plans)

    def test_it_is_mixed_as_often_as_its_longest_pass_has_sittings(self):
        wants = [want("darks", 1, 1.0), want("lights", 1, 1.0)]
        for minutes, both, first in (
            ((0.0, 149.0), 1, 1), ((150.0, 151.0), 2, 1), ((301.0, 10.0), 3, 3),
        ):  # fmt: skip
            made = self.notes(minutes, wants, [pile("a", wants=(0, 1)), pile("b", wants=(0,)), pile("c")])
            self.assertEqual([made[key].sittings for key in "abc"], [both, first, 1])

    def test_what_three_weigh_most_of_those_out_of_reach_is_explained(self):
        weights = (1.0, 5.0, 3.0, 4.0, 9.0)
        wants = [want("darks", 1, 1.0, weight) for weight in weights]
        far = RACK.parts({"PB29": 1.0})
        piles = [pile(str(k), far, (40.0, 60.0, 30.0), wants=(k,)) for k in range(5)]
        made = self.notes((10.0, 10.0), wants, piles, short=(0, 1, 2, 3))
        self.assertEqual([key for key, one in made.items() if one.lacks is not None], ["1", "2", "3"])


class Spent(unittest.TestCase):
    def test_colour_is_counted_by_its_distance_from_the_focus_on_the_canvas(self):
        made = edits.set_focal(project(combs=False), (150.0, 40.0))
        budget = reading.budget_of(Results(), made, RACK)
        # The farthest cell's middle from there, in millimetres of the canvas.
        x, y, width, height = made.crop.x, made.crop.y, made.crop.width, made.crop.height
        farthest = max(np.hypot(a - 150, b - 40) for a in (x, x + width) for b in (y, y + height)) * made.mm_per_px
        self.assertAlmostEqual(float(budget.far_mm[-1]), farthest, delta=1.0)
        self.assertIsNone(reading.budget_of(Results(), made, None))


class Kept(unittest.TestCase):
    """The ground lies at 0, the square at 1, the eye at 2."""

    @classmethod
    def setUpClass(cls):
        cls.project = project(combs=False)
        cls.grounds = [k for k, zone in enumerate(cls.project.back_to_front()) if zone.kind == "background"]

    def until(self, wants, plans, needs):
        made = palette([pile("a", wants=tuple(range(len(wants))), ml=sum(one.ml for one in wants))], wants)
        return reading._kept(self.project, made, made.piles[0], plans, needs)

    def test_a_backgrounds_pile_waits_for_the_coats_that_meet_it(self):
        (ground,) = self.grounds
        plans = [plan("background", (ground,)), plan("darks", (1,)), plan("lights", (1,)), plan("highlights", (2,))]
        needs = (("background", 1.0),)
        only = [want("background", ground, 1.0)]
        self.assertEqual(self.until(only, plans, needs), ("highlights", "the last edge against it"))
        # What is laid over the ground alone makes no edge.
        bare = [plan("background", (ground,)), plan("lights", (ground,))]
        self.assertEqual(self.until(only, bare, needs), ("background", "its last pass"))
        # Nor does a coat that is painted before.
        first = [plan("lights", (1,)), plan("background", (ground,))]
        self.assertEqual(self.until(only, first, needs), ("background", "its last pass"))

    def test_it_is_the_backgrounds_from_a_fifth_of_it_on(self):
        (ground,) = self.grounds
        plans = [plan("background", (ground,)), plan("darks", (1,)), plan("lights", (1,))]
        needs = (("background", BACKGROUND_SHARE), ("darks", 1 - BACKGROUND_SHARE))
        for more, kept in ((0.01, "lights"), (-0.01, "darks")):
            share = BACKGROUND_SHARE + more
            wants = [want("background", ground, 3 * share), want("darks", 1, 3 - 3 * share)]
            self.assertEqual(self.until(wants, plans, needs)[0], kept)
        self.assertEqual(self.until([want("darks", 1, 1.0)], plans, (("darks", 1.0),)), ("darks", "its last pass"))
        self.assertEqual(self.until([], plans, ()), ("", ""))


ORDER = {"darks": 0, "lights": 1, "highlights": 2}


class Begun(unittest.TestCase):
    def begins(self, other, needs=(("lights", 1.0),), mine=(("darks", 1.0),), **more):
        made = palette([pile("a"), pile("b", other, **more)])
        return reading._begins(made, RACK, 0, (mine, needs), ORDER)

    def test_what_is_left_begins_a_later_pile_that_a_little_more_makes(self):
        lighter = GREY * 10 / GREY.sum() + RACK.parts({"PW6": 2.0})
        self.assertEqual(self.begins(lighter), ("b",))
        # Not one of the same pass, nor one that begins from it anyway, nor one that is wanted nowhere.
        self.assertEqual(self.begins(lighter, (("darks", 1.0),)), ())
        self.assertEqual(self.begins(lighter, base="a"), ())
        self.assertEqual(self.begins(lighter, ()), ())
        self.assertEqual(self.begins(lighter, mine=()), ())
        self.assertEqual(self.begins(lighter, (("highlights", 1.0),), (("darks", 1.0), ("lights", 1.0))), ("b",))
        self.assertEqual(self.begins(lighter, (("lights", 1.0),), (("darks", 1.0), ("lights", 1.0))), ())

    def test_what_lies_far_off_is_mixed_anew(self):
        white = RACK.parts({"PW6": 10.0})
        away = float(np.abs(RACK.lab(white) - RACK.lab(GREY))[0])
        self.assertGreater(away, LEFT_AWAY)
        self.assertEqual(self.begins(white), ())
        self.assertEqual(reading._begins(palette([pile("a"), pile("b")]), None, 0, ((), ()), ORDER), ())


class OfTheTubes(unittest.TestCase):
    def test_a_pile_is_clear_by_the_mean_of_its_tubes(self):
        tubes = [
            replace(tube, transparency=share) for tube, share in zip(RACK.tubes, (0.1, 1.0, 0.8, 0.6), strict=True)
        ]
        rack = Rack(tubes)
        # One part in ten of the opaque and nine of the clear, against five and five.
        for parts, clear in (((1.0, 9.0), True), ((5.0, 5.0), False), ((3.0, 7.0), True), ((3.4, 6.6), False)):
            one = Pile("a", "a", rack.recipe(rack.parts({"PW6": parts[0], "PY43": parts[1]}), np.zeros(3)))
            mean = (0.1 * parts[0] + 1.0 * parts[1]) / 10
            self.assertEqual((reading._clear(one, rack), mean > CLEAR), (clear, clear))
        self.assertFalse(reading._clear(pile("a"), None))

    def test_it_keeps_as_long_as_its_fastest_system_by_its_largest_tube(self):
        tubes = [
            replace(tube, system=system, drying=drying)
            for tube, system, drying in zip(
                RACK.tubes, ("oil", "alkyd", "oil", "oil"), ("slow", "fast", "medium", "fast"), strict=True
            )
        ]
        rack = Rack(tubes)

        def keeps(parts):
            return reading._keeps(Pile("a", "a", rack.recipe(rack.parts(parts), np.zeros(3))), rack)

        self.assertEqual(keeps({"PW6": 4.0, "PB29": 1.0}), f"open for {open_days('oil', 'slow'):.0f} days")
        self.assertEqual(keeps({"PW6": 1.0, "PB29": 4.0}), f"open for {open_days('oil', 'fast'):.0f} days")
        self.assertEqual(keeps({"PW6": 4.0, "PY43": 1.0}), f"open for {open_days('alkyd', 'slow') * 24:.0f} h")
        self.assertEqual(reading._keeps(pile("a"), None), "")

    def test_acrylic_says_how_it_dries_as_far_as_that_is_known(self):
        made = project()

        def said(*tubes):
            (one,) = [reading._dries_darker(replace(made, mixes=replace(made.mixes, tubes=tubes)))]
            return one.says, one.why

        blue, white = KeptTube("PB29", system="acrylic"), KeptTube("PW6", system="acrylic")
        self.assertEqual(said(blue, white)[0], "Acrylic dries darker.")
        self.assertEqual(said(replace(blue, dabs=3, here=False), white)[0], "Acrylic dries darker.")
        says, why = said(replace(blue, dabs=3, dries=(9.0, 0, 0)), replace(white, dabs=1, dries=(5.0, 0, 0)))
        typical = reading.typical("acrylic", 50.0)
        self.assertEqual(says, "Your acrylic dries lighter.")
        self.assertIn(f"by {typical + 8:.1f} L* in middle tones, seen on 4 dabs", why)
        self.assertIn(
            "darker", said(replace(blue, dabs=1, dries=(-2.0, 0, 0)), replace(white, system="oil", dabs=9))[0]
        )


class Found(unittest.TestCase):
    def setUp(self):
        self.project = project(combs=False)

    def found(self, made, notes, plans=(), budget=None, rack=RACK, changed=None):
        return reading._findings(changed or self.project, made, rack, notes, budget, plans)

    def test_what_is_out_of_reach_and_worth_a_word(self):
        lacks = Missing(0.0, 20.0, pile("x").recipe, "PG7", 1.0)
        for share, told in ((SLIGHT - 0.001, 0), (SLIGHT, 1), (0.5, 1)):
            wants = [want("lights", 1, 1.0, 4 * share), want("darks", 1, 1.0, 4 - 4 * share)]
            green = pile("a", target=(50.0, -40.0, 20.0), name="moss", wants=(0,))
            made = palette([green, pile("b", wants=(1,))], wants, short=(0,))
            found = self.found(made, {"a": note(lacks=lacks), "b": note()})
            self.assertEqual(len(found), told)
        self.assertEqual((found[0].says, found[0].subject, found[0].weight), ("Moss is out of reach.", "a", 0.5))
        self.assertIn("duller by", found[0].why)
        self.assertIn("PG7 would bring it", found[0].why)
        self.assertEqual(self.found(made, {"a": note(), "b": note()}), [])

    def test_a_pile_that_runs_out_says_in_which_pass_and_by_how_much(self):
        mixed = MixedPile("m1", "my rust", (40.0, 20.0, 30.0), (("PBr7-BS", 3.0),), ml=2.0)
        made = palette([pile("m1", held=True)])
        needs = (("darks", 1.5), ("lights", 2.0))
        changed = replace(self.project, mixes=replace(self.project.mixes, mixed=(mixed,)))
        (one,) = self.found(made, {"m1": note(needs)}, [plan("darks"), plan("lights")], changed=changed)
        self.assertEqual((one.says, one.subject), ("My rust runs out in top coat.", "m1"))
        self.assertIn("2.0 mL lie there · mix 1.5 mL more now", one.why)
        # Nobody said how much lies there.
        unknown = replace(changed, mixes=replace(changed.mixes, mixed=(replace(mixed, ml=0.0),)))
        self.assertEqual(self.found(made, {"m1": note(needs)}, changed=unknown), [])

    def test_what_will_not_cover_is_said_of_body_paint_in_the_coat(self):
        made = palette([pile("a", name="rust"), pile("b"), pile("c")])
        needs, plans = (("lights", 1.0),), [plan("darks"), plan("lights")]
        notes = {"a": note(needs, clear=True), "b": note(needs), "c": note(needs, clear=True)}
        (one,) = self.found(made, notes, plans)
        self.assertEqual((one.says, one.subject), ("Rust and 1 more will not cover in one coat.", "a"))
        (one,) = self.found(made, {"a": note(needs, clear=True)}, plans)
        self.assertEqual(one.says, "Rust will not cover in one coat.")
        # Clear paint is right in a glaze and in the first darks.
        self.assertEqual(self.found(made, notes, [plan("darks"), plan("lights", handling="glaze")]), [])
        self.assertEqual(self.found(made, {"a": note((("darks", 1.0),), clear=True)}, plans), [])

    def test_pure_colour_names_the_parts_that_spend_most(self):
        rings = np.zeros(10)
        budget = Budget(0.2, np.zeros(11), rings, rings, ((1, 0.12), (2, 0.076), (0, 0.004), (9, 0.3)))
        made = palette([pile("a")])
        names = [zone.name.lower() for zone in self.project.back_to_front()]
        (one,) = self.found(made, {"a": note()}, budget=budget)
        self.assertIn(f"20 % of the canvas, 5 % set; {names[1]} 12 %, {names[2]} 8 % ·", one.why)
        self.assertEqual((one.subject, one.weight), ("budget", 0.2))
        self.assertEqual(self.found(made, {"a": note()}, budget=replace(budget, share=0.05)), [])

    def test_without_tubes_or_piles_there_is_nothing_to_mix_with(self):
        for found in (self.found(palette([]), {}), self.found(palette([pile("a")]), {}, rack=None)):
            self.assertEqual([one.level for one in found], ["must"])


class Places(unittest.TestCase):
    def test_parts_by_name_and_how_many_more(self):
        made = project(combs=False)
        for k in range(2):
            made, _ = edits.add_zone(made, f"Spot {k}", "short-fur", SQUARE * 0.3 + (100 + 20 * k, 10))
        names = [zone.name.lower() for zone in made.back_to_front()]
        self.assertEqual(reading.place_words(made, (-1, 1)), f"the ground, {names[1]}")
        self.assertEqual(reading.place_words(made, (1, 2, 3)), f"{names[1]}, {names[2]}, {names[3]}")
        self.assertEqual(reading.place_words(made, (-1, 1, 2, 3, 4)), f"the ground, {names[1]}, {names[2]} and 2 more")
        # A part that is there no more.
        self.assertEqual(reading.place_words(made, (1, 99)), names[1])

    def test_what_is_mixed_is_not_out_of_reach(self):
        far = pile("a", target=(50.0, -60.0, 40.0))
        held = [replace(far, key=key, held=True) for key in "xyz"]
        self.assertEqual(reading.out_of_reach(palette([far, replace(far, key="b"), *held, pile("c")])), 2)


if __name__ == "__main__":
    unittest.main()
