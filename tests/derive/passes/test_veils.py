"""Veils of a painting: where they lie, what they do to it, what lies beneath, and what stays as it is."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.passes import Veil
from foxpath.core.passes.plan import READY_MIN
from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.mixes.films import beneath_key, changed_by_veils, film_of, mix_of, study_beneath
from foxpath.derive.mixes.wants import wants_of
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.passes.rules import plan_findings
from foxpath.derive.passes.veils import veil_area, veil_of
from foxpath.derive.pictures import study_of
from foxpath.derive.rehearsal.painting import build_up, by_turns, rehearse
from foxpath.derive.rehearsal.requests import StandAt
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember

WIDTH = 260
SHADE = np.array([[50.0, 70.0], [110.0, 70.0], [110.0, 100.0], [50.0, 100.0]])


def part(made, name="Square"):
    return next(zone.id for zone in made.zones if zone.name == name)


def light_of(shown, box):
    """Mean CIELAB of a picture in a box of reference pixels."""
    k = shown.shape[1] / 200
    x0, y0, x1, y1 = (round(v * k) for v in box)
    return lab_from_rgb8(np.ascontiguousarray(shown[y0:y1, x0:x1])).reshape(-1, 3).mean(axis=0)


INSIDE, OUTSIDE = (50, 85, 64, 105), (150, 40, 190, 140)


class Laid(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.plain = Results(), project()
        cls.veiled, cls.key = edits.add_veil(cls.plain, Veil(lab=(28.0, 12.0, 20.0), strength=0.1), part(cls.plain))
        cls.before = rehearse(cls.results, cls.plain, WIDTH)[-1].standing.shown
        cls.done = rehearse(cls.results, cls.veiled, WIDTH)

    def plan(self, made=None, key=None):
        made = made if made is not None else self.veiled
        return next(p for p in passes_of(self.results, made) if p.role.key == (key or self.key))

    def test_it_darkens_its_part_and_nothing_else(self):
        after = self.done[-1].standing.shown
        inside, outside = (light_of(after, box) - light_of(self.before, box) for box in (INSIDE, OUTSIDE))
        self.assertLess(float(inside[0]), -4)
        self.assertLess(float(np.abs(outside).max()), 0.3)

    def test_an_eye_in_a_veiled_canvas_stays_as_it_is(self):
        over, key = edits.add_veil(self.plain, Veil(strength=0.1))
        share = veil_of(self.results, over, self.plan(over, key))
        frame_k = share.shape[1] / 200
        self.assertEqual(float(share[int(68 * frame_k), int(80 * frame_k)]), 0)
        self.assertEqual(float(share[int(20 * frame_k), int(10 * frame_k)]), 1)

    def test_its_own_place_lies_before_the_last_lights_and_its_marks_are_none(self):
        keys = [one.plan.role.key for one in self.done]
        one = self.done[keys.index(self.key)]
        self.assertEqual((one.marks, keys[keys.index(self.key) + 1]), (0, "highlights"))

    def test_its_time_goes_by_its_area_and_coats(self):
        twice = edits.set_veil(self.veiled, self.key, coats=2)
        one, two = self.plan(), self.plan(twice)
        square = next(k for k, z in enumerate(self.veiled.back_to_front()) if z.name == "Square")
        self.assertEqual(one.zones, (square,))
        self.assertAlmostEqual(two.estimates[square].minutes, 2 * one.estimates[square].minutes)
        self.assertAlmostEqual(veil_area(two), veil_area(one))
        for plan in (one, two):
            self.assertAlmostEqual(plan.minutes, READY_MIN + plan.estimates[square].minutes)
            self.assertAlmostEqual(plan.usual_minutes, plan.minutes)
        area = facts_of(self.results, self.plain)[square].area_cm2
        # At its rim it gives way to what lies beside and over it.
        self.assertTrue(0.85 * area < veil_area(one) < area)

    def test_more_paint_and_more_coats_do_more(self):
        made = [
            edits.set_veil(self.veiled, self.key, **more)
            for more in ({}, {"strength": 0.2}, {"coats": 2}, {"coats": 3})
        ]
        once, strong, twice, thrice = (film_of(self.results, one, self.plan(one)).shift.mean() for one in made)
        self.assertLess(float(strong), 1.15 * float(once))
        self.assertLess(float(thrice), float(twice))
        # Twice the paint is as much as two coats of it.
        self.assertAlmostEqual(float(strong), float(twice), delta=0.02 * abs(float(twice)))

    def test_a_glaze_is_mixed_of_clear_tubes_where_they_do(self):
        mixed = mix_of(self.results, self.veiled, self.plan())
        tubes = {tube.id: tube.transparency for tube in self.veiled.mixes.usable()}
        self.assertGreaterEqual(min(tubes[key] for key, _ in mixed.recipe.parts), 0.55)
        self.assertAlmostEqual(mixed.medium, 9.0)

    def test_its_mix_is_wanted_as_a_pile_with_the_paint_that_is_in_it(self):
        mine = [want for want in wants_of(self.results, self.veiled) if want.act == self.key]
        self.assertEqual(len(mine), 1)
        thick = edits.set_veil(self.veiled, self.key, strength=0.2)
        more = [want for want in wants_of(self.results, thick) if want.act == self.key]
        self.assertAlmostEqual(more[0].ml, 2 * mine[0].ml)

    def test_its_card_says_part_brush_medium_and_coats(self):
        twice = edits.set_veil(self.veiled, self.key, coats=2)
        (card,) = pass_cards(self.results, twice, self.plan(twice))
        for words in ("Square:", "glaze", "9 of medium", "2 coats", "hair and markings run on beneath"):
            self.assertIn(words, card)

    def test_what_it_changes_on_purpose_is_wanted_and_what_it_is_made_up_for_is_not(self):
        picture = np.full((80, 100, 3), 160, np.uint8)
        wanted = changed_by_veils(self.results, self.veiled, picture)
        self.assertLess(int(wanted[45, 28, 0]), 155)
        self.assertEqual(int(wanted[5, 5, 0]), 160)
        made_up = edits.set_veil(self.veiled, self.key, made_up=True)
        self.assertIs(changed_by_veils(self.results, made_up, picture), picture)

    def test_it_comes_up_coat_by_coat_as_it_is_played(self):
        number = [one.plan.role.key for one in self.done].index(self.key)
        frames = [s.shown for _, _, s in build_up(self.results, self.veiled, WIDTH, number, 6)]
        light = [float(light_of(frame, INSIDE)[0]) for frame in frames]
        self.assertEqual(light, sorted(light, reverse=True))
        np.testing.assert_array_equal(frames[-1], self.done[number].standing.shown)
        _, _, half = StandAt(self.results, self.veiled, WIDTH, number, 0.5)(SILENT)
        self.assertTrue(light[-1] + 1 < float(light_of(half, INSIDE)[0]) < light[0] + 1)


class Beneath(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.plain = Results(), project()
        made, cls.key = edits.add_veil(
            cls.plain, Veil(lab=(28.0, 4.0, 6.0), strength=0.08, made_up=True), part(cls.plain)
        )
        cls.made = made
        cls.done = rehearse(cls.results, made, WIDTH)

    def test_what_lies_beneath_is_lighter_and_what_comes_out_is_the_reference(self):
        plain = rehearse(self.results, self.plain, WIDTH)
        keys = [one.plan.role.key for one in self.done]
        before = light_of(self.done[keys.index(self.key) - 1].standing.shown, INSIDE)
        after, usual = (light_of(done[-1].standing.shown, INSIDE) for done in (self.done, plain))
        self.assertGreater(float(before[0] - usual[0]), 4)
        self.assertLess(abs(float(after[0] - usual[0])), 1.5)

    def test_only_passes_before_it_are_made_up(self):
        self.assertNotEqual(
            beneath_key(self.results, self.made, "lights"), beneath_key(self.results, self.plain, "lights")
        )
        self.assertEqual(
            beneath_key(self.results, self.made, "highlights"), beneath_key(self.results, self.plain, "highlights")
        )
        self.assertIs(study_beneath(self.results, self.made, "highlights"), study_of(self.results, self.made))
        off = edits.set_pass(self.made, self.key, on=False)
        self.assertIs(study_beneath(self.results, off, "lights"), study_of(self.results, off))

    def test_elsewhere_the_reference_is_painted_as_it_is(self):
        beneath, usual = study_beneath(self.results, self.made, "lights").fine, study_of(self.results, self.made).fine
        k = usual.shape[1] / 200
        np.testing.assert_array_equal(beneath[:, : int(30 * k)], usual[:, : int(30 * k)])


class Shadows(unittest.TestCase):
    def setUp(self):
        self.results = Results()
        self.plain = project()

    def test_one_that_covers_a_coat_is_found_and_one_on_the_coat_is_not(self):
        cast = edits.add_zone(self.plain, "Branch", "shadow", SHADE)[0]
        found = [one.says for one in plan_findings(self.results, cast) if "covers the hair" in one.says]
        self.assertEqual(found, ["Branch covers the hair of square."])
        shade = edits.set_kind(cast, cast.zones[-1].id, "shade")
        self.assertFalse([one for one in plan_findings(self.results, shade) if "covers the hair" in one.says])
        beside = edits.add_zone(self.plain, "Branch", "shadow", SHADE + (80, 0))[0]
        self.assertFalse([one for one in plan_findings(self.results, beside) if "covers the hair" in one.says])

    def test_on_a_coat_it_takes_no_hair_away_and_is_glazed_where_that_is_asked(self):
        shade, zone = edits.add_zone(self.plain, "Branch", "shade", SHADE)
        keys = [plan.role.key for plan in passes_of(self.results, shade)]
        self.assertEqual(keys, [plan.role.key for plan in passes_of(self.results, self.plain)])
        square = next(k for k, z in enumerate(shade.back_to_front()) if z.name == "Square")
        under = rehearse(self.results, shade, WIDTH)[-1].standing.shown
        np.testing.assert_array_equal(under, rehearse(self.results, self.plain, WIDTH)[-1].standing.shown)
        glazed = edits.set_way(shade, "shadow", "glaze")
        plan = next(p for p in passes_of(self.results, glazed) if p.role.veil is not None)
        self.assertEqual((plan.role.only, plan.zones), (zone, (square,)))
        share = veil_of(self.results, glazed, plan)
        k = share.shape[1] / 200
        # On the coat alone, and in front of nothing that stands before it.
        self.assertGreater(float(share[int(90 * k), int(80 * k)]), 0.9)
        self.assertEqual(float(share[int(72 * k), int(80 * k)]), 0)


class Alone(unittest.TestCase):
    AREA = np.array([[46.0, 84.0], [66.0, 84.0], [66.0, 104.0], [46.0, 104.0]])

    def setUp(self):
        self.results, self.made = Results(), edits.leave_alone(project(), self.AREA, "darks")

    def at(self, done, key):
        return next(one.standing.shown for one in done if one.plan.role.key == key)

    def test_no_later_pass_touches_it_and_all_touch_what_lies_beside(self):
        done = rehearse(self.results, self.made, WIDTH)
        k = WIDTH / 200
        inside = np.s_[int(86 * k) : int(102 * k), int(48 * k) : int(64 * k)]
        np.testing.assert_array_equal(done[-1].standing.shown[inside], self.at(done, "darks")[inside])
        beside = np.s_[int(86 * k) : int(102 * k), int(90 * k) : int(110 * k)]
        self.assertGreater(
            float(np.abs(done[-1].standing.shown[beside].astype(int) - self.at(done, "darks")[beside]).mean()), 3
        )

    def test_a_veil_keeps_off_it_too_and_a_pass_that_is_off_holds_nothing_back(self):
        veiled, _ = edits.add_veil(self.made, Veil(strength=0.5))
        done = rehearse(self.results, veiled, WIDTH)
        k = WIDTH / 200
        inside = np.s_[int(86 * k) : int(102 * k), int(48 * k) : int(64 * k)]
        np.testing.assert_array_equal(done[-1].standing.shown[inside], self.at(done, "darks")[inside])
        off = edits.set_pass(self.made, "darks", on=False)
        plain = edits.set_pass(project(), "darks", on=False)
        np.testing.assert_array_equal(
            rehearse(self.results, off, WIDTH)[-1].standing.shown,
            rehearse(self.results, plain, WIDTH)[-1].standing.shown,
        )

    def test_the_cards_of_later_passes_say_so_and_no_earlier_one(self):
        said = {plan.role.key: pass_cards(self.results, self.made, plan) for plan in passes_of(self.results, self.made)}
        keeping = [key for key, cards in said.items() if any("keep off the area" in card for card in cards)]
        self.assertIn("lights", keeping)
        self.assertFalse({"ground", "darks"} & set(keeping))
        self.assertIn("Square: keep off the area that stays as darks left it.", said["lights"])


class Turns(unittest.TestCase):
    def test_area_by_area_what_is_through_stands_and_the_rest_waits(self):
        results, made = Results(), edits.set_school(project(), "one-sitting")
        done = rehearse(results, made, WIDTH)
        shown = list(by_turns(results, made, WIDTH))
        self.assertEqual(len(shown[0][0].roles), 1)
        wet = [(turn, standing) for turn, standing in shown if len(turn.roles) > 1]
        self.assertTrue(wet)
        last = wet[-1][0].roles[-1]
        after = next(one.standing.kept for one in done if one.plan.role.key == last)
        np.testing.assert_array_equal(wet[-1][1].kept, after)
        np.testing.assert_array_equal(shown[-1][1].kept, done[-1].standing.kept)

    def test_row_by_row_every_pass_stands_as_it_was_rehearsed(self):
        results, made = Results(), project()
        done = rehearse(results, made, WIDTH)
        shown = list(by_turns(results, made, WIDTH, work="rows"))
        self.assertEqual(len(shown), len(done))
        for (_, standing), one in zip(shown, done, strict=True):
            np.testing.assert_array_equal(standing.kept, one.standing.kept)
