"""Passes of the painter's own among a school's: where they stand, what they may be, and numbers of single parts."""

import unittest
from dataclasses import replace

from foxpath.core.errors import InputError
from foxpath.core.passes import ROLES, OwnPass, PartEdit, PassEdit, Veil, ZoneFacts, check_passes, plan_passes, with_own
from foxpath.core.passes.own import MOST_OWN, checked_veil, sound_own
from foxpath.core.zones import KINDS

USUAL = tuple(ROLES.values())
ZONES = [
    ZoneFacts(KINDS["background"], KINDS["background"].coat, 1200, 160, id="b"),
    ZoneFacts(KINDS["long-fur"], KINDS["long-fur"].coat, 500, 100, id="f"),
    ZoneFacts(KINDS["short-fur"], KINDS["short-fur"].coat, 300, 80, id="s"),
    ZoneFacts(KINDS["whisker"], KINDS["whisker"].coat, 4, 12, id="w"),
]


def keys(*own, roles=USUAL):
    return [role.key for role in with_own(roles, own)]


class Places(unittest.TestCase):
    def test_a_pass_laid_once_more_follows_the_one_it_repeats_and_is_as_it_is(self):
        made = with_own(USUAL, [OwnPass("p1", of="undercoat")])
        at = [role.key for role in made].index("p1")
        self.assertEqual(made[at - 1].key, "undercoat")
        usual = made[at - 1]
        self.assertEqual(
            made[at], replace(usual, key="p1", acts="undercoat", name="Undercoat again", reason=made[at].reason)
        )
        self.assertEqual(made[at].act, "undercoat")

    def test_in_another_school_it_follows_what_acts_as_it_did_and_waits_where_nothing_does(self):
        others = tuple(replace(role, key=f"x-{role.key}", acts=role.key) for role in USUAL if role.key != "darks")
        made = keys(OwnPass("p1", of="lights"), OwnPass("p2", of="darks"), roles=others)
        self.assertEqual(made[made.index("p1") - 1], "x-lights")
        self.assertNotIn("p2", made)

    def test_a_veil_lies_under_the_last_lights_and_over_all_else(self):
        made = keys(OwnPass("v", veil=Veil()))
        self.assertEqual(made[-3:], ["v", "highlights", "whiskers"])
        without = tuple(role for role in USUAL if role.key not in ("highlights", "whiskers"))
        self.assertEqual(keys(OwnPass("v", veil=Veil()), roles=without)[-1], "v")

    def test_lights_that_are_set_early_do_not_pull_a_veil_down(self):
        early = (USUAL[0], replace(ROLES["highlights"], key="gauges", acts="highlights"), *USUAL[1:])
        made = keys(OwnPass("v", veil=Veil()), roles=early)
        self.assertGreater(made.index("v"), made.index("lights"))

    def test_a_veil_is_as_fat_as_what_it_lies_over_and_of_its_paint(self):
        veil = next(r for r in with_own(USUAL, [OwnPass("v", veil=Veil())]) if r.key == "v")
        self.assertEqual(veil.fat, ROLES["lights"].fat)
        self.assertEqual(veil.paint, "oil")
        acrylic = tuple(replace(role, paint="acrylic", fat=0.0) for role in USUAL)
        veil = next(r for r in with_own(acrylic, [OwnPass("v", veil=Veil("scumble"))]) if r.key == "v")
        self.assertEqual((veil.paint, veil.fat, veil.handling, veil.name), ("acrylic", 0.0, "scumble", "Scumble"))

    def test_one_key_is_one_pass(self):
        self.assertEqual(keys(OwnPass("lights", of="darks")), [role.key for role in USUAL])


class Bounds(unittest.TestCase):
    def test_numbers_are_brought_into_their_ranges(self):
        veil = checked_veil(Veil(strength=7.0, coats=9, strip_mm=0.0, soft_mm=999.0))
        self.assertEqual((veil.strength, veil.coats, veil.strip_mm, veil.soft_mm), (1.0, 6, 1.0, 60.0))

    def test_what_cannot_be_is_refused_with_what_to_do(self):
        for veil in (
            Veil("varnish"), Veil(place="behind"), Veil(lab=(120.0, 0.0, 0.0)), Veil(lab=(50.0, 400.0, 0.0)),
            Veil(lab=(float("nan"), 0.0, 0.0)), Veil(strength=float("inf")), Veil(place="patch", patch=((1.0, 1.0), (2.0, 2.0))),
        ):  # fmt: skip
            with self.subTest(veil=veil), self.assertRaises(InputError) as refused:
                checked_veil(veil)
            self.assertTrue(refused.exception.hint)

    def test_of_a_file_only_what_can_be_is_kept(self):
        good = OwnPass("a", veil=Veil())
        found = [
            good,
            OwnPass("b", veil=Veil("varnish")),
            OwnPass("c"),
            OwnPass("a", of="lights"),
            OwnPass("d", of="darks"),
        ]
        self.assertEqual([one.id for one in sound_own(found)], ["a", "d"])
        self.assertEqual(sound_own(found)[0].veil, checked_veil(Veil()))
        self.assertEqual(len(sound_own([OwnPass(f"n{k}", of="lights") for k in range(60)])), MOST_OWN)


class Parts(unittest.TestCase):
    def plan(self, **edit):
        plans = plan_passes(ZONES, 500, {"lights": PassEdit(**edit)})
        return next(p for p in plans if p.role.key == "lights")

    def test_a_part_has_its_own_numbers_and_the_others_keep_the_pass_s(self):
        usual, made = self.plan(), self.plan(parts=(PartEdit("s", coverage=2.5, length_share=0.5, l_high=70.0),))
        self.assertEqual((made.at(2).coverage, made.at(2).l_high), (2.5, 70.0))
        self.assertEqual((made.at(1).coverage, made.coverage), (usual.coverage, usual.coverage))
        self.assertAlmostEqual(made.mark_of(2, ZONES[2]).length_mm, 0.5 * usual.mark_of(2, ZONES[2]).length_mm)
        self.assertEqual(made.mark_of(1, ZONES[1]), usual.mark_of(1, ZONES[1]))

    def test_its_time_is_reckoned_with_its_own_numbers(self):
        usual, made = self.plan(), self.plan(parts=(PartEdit("s", coverage=2.5),))
        self.assertAlmostEqual(made.estimates[2].minutes, usual.estimates[2].minutes / 2, delta=0.5)
        self.assertEqual(made.estimates[1], usual.estimates[1])
        self.assertAlmostEqual(usual.minutes - made.minutes, usual.estimates[2].minutes - made.estimates[2].minutes)
        self.assertEqual(made.marks, sum(one.marks for one in made.estimates.values()))

    def test_what_is_decided_of_the_pass_holds_for_the_part_too_where_it_says_nothing(self):
        made = self.plan(coverage=3.0, opacity=0.4, parts=(PartEdit("s", l_high=70.0),))
        self.assertEqual((made.at(2).coverage, made.at(2).role.opacity, made.at(2).l_high), (3.0, 0.4, 70.0))

    def test_a_part_that_says_nothing_or_is_not_there_changes_nothing(self):
        self.assertEqual(self.plan(parts=(PartEdit("s"), PartEdit("gone", coverage=1.0))).own, {})

    def test_its_lengths_are_among_those_of_the_pass(self):
        usual, made = self.plan(), self.plan(parts=(PartEdit("s", length_share=0.2),))
        self.assertLess(made.length_mm[0], usual.length_mm[0])
        self.assertEqual(made.length_mm[1], usual.length_mm[1])


class Veils(unittest.TestCase):
    def plans(self, own, order=()):
        roles = {role.key: role for role in with_own(USUAL, [own])}
        return plan_passes(ZONES, 500, {}, order, roles=roles)

    def test_one_over_a_part_is_planned_there_alone_and_one_over_all_nowhere_that_covers_nothing(self):
        one = next(p for p in self.plans(OwnPass("v", zone="f", veil=Veil())) if p.role.key == "v")
        every = next(p for p in self.plans(OwnPass("v", veil=Veil())) if p.role.key == "v")
        self.assertEqual((one.zones, every.zones), ((1,), (0, 1, 2)))

    def test_where_it_belongs_it_breaks_no_rule(self):
        for manner in ("glaze", "scumble"):
            self.assertEqual(check_passes(self.plans(OwnPass("v", veil=Veil(manner)))), [])

    def test_moved_under_leaner_paint_it_is_found(self):
        order = ["ground", "darks", "v", "midtones"]
        found = check_passes(self.plans(OwnPass("v", veil=Veil()), order))
        self.assertIn(("must", "midtones"), [(one.level, one.subject) for one in found])
        # Only for what is fat: a film has no lights to spend, and may lie over body.
        self.assertFalse([one for one in found if "reach the lights" in one.says or "last lights" in one.says])
