"""Edits of passes of one's own, of single parts, and of what is left alone."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.passes import PassEdit, Veil
from foxpath.core.passes.own import MOST_OWN
from foxpath.document import edits
from foxpath.document.convert import project_from_fields, project_to_fields
from tests.made import project

AREA = np.array([[50.0, 50.0], [80.0, 50.0], [80.0, 70.0]])


def part(made, name="Square"):
    return next(zone.id for zone in made.zones if zone.name == name)


def reopened(made):
    pictures = {made.reference.digest: made.reference.data}
    return project_from_fields(project_to_fields(made), lambda _: pictures[made.reference.digest], "a.foxpath")


class Added(unittest.TestCase):
    def setUp(self):
        self.made = project()

    def test_one_takes_its_place_in_an_order_of_the_painter_s_own(self):
        moved = edits.move_pass(self.made, "restated", 1)
        order = list(moved.roles)
        self.assertEqual(order, list(self.made.roles))
        again, key = edits.add_again(moved, "restated")
        self.assertEqual(again.pass_order[again.pass_order.index("restated") + 1], key)
        veiled, veil = edits.add_veil(moved, Veil())
        self.assertEqual(veiled.pass_order[veiled.pass_order.index(veil) + 1], "highlights")

    def test_in_the_usual_order_nothing_is_written_down(self):
        for made in (edits.add_again(self.made, "lights")[0], edits.add_veil(self.made, Veil())[0]):
            self.assertEqual(made.pass_order, ())

    def test_a_second_one_of_a_second_one_repeats_the_first(self):
        once, first = edits.add_again(self.made, "lights")
        twice, second = edits.add_again(once, first)
        self.assertEqual(twice.own_passes[-1].of, "lights")
        keys = list(twice.roles)
        order = list(twice.pass_order) or keys
        self.assertEqual(order[order.index("lights") : order.index("lights") + 3], ["lights", first, second])

    def test_removed_it_takes_with_it_what_was_decided_of_it(self):
        made, key = edits.add_again(edits.move_pass(self.made, "restated", 1), "lights")
        made = edits.leave_alone(edits.set_pass(made, key, coverage=2.0), AREA, key)
        gone = edits.forget_pass(made, key)
        self.assertNotIn(key, gone.roles)
        self.assertNotIn(key, gone.passes)
        self.assertNotIn(key, gone.pass_order)
        self.assertEqual(gone.left_alone[0].after, "")
        with self.assertRaises(InputError):
            edits.forget_pass(made, "lights")

    def test_what_cannot_be_added_is_refused(self):
        veiled, veil = edits.add_veil(self.made, Veil())
        full = replace(self.made, own_passes=tuple(replace(veiled.own_passes[0], id=f"n{k}") for k in range(MOST_OWN)))
        for act in (
            lambda: edits.add_again(self.made, "nonsense"),
            lambda: edits.add_again(self.made, "ground"),
            lambda: edits.add_again(veiled, veil),
            lambda: edits.add_veil(self.made, Veil(), "z99"),
            lambda: edits.add_veil(full, Veil()),
            lambda: edits.set_veil(veiled, "lights", coats=2),
            lambda: edits.set_veil(veiled, veil, zone="z99"),
            lambda: edits.set_veil(veiled, veil, place="patch"),
        ):
            with self.assertRaises(InputError) as refused:
                act()
            self.assertTrue(refused.exception.hint)

    def test_ids_are_never_used_twice(self):
        made, key = edits.add_veil(self.made, Veil())
        gone = edits.forget_pass(made, key)
        self.assertNotEqual(edits.add_veil(gone, Veil())[1], key)

    def test_a_part_that_goes_takes_its_veil_and_its_numbers_with_it(self):
        made, _ = edits.add_veil(self.made, Veil(), part(self.made))
        made = edits.set_part(made, "lights", part(made), coverage=2.0)
        gone = edits.remove_zone(made, part(made))
        self.assertEqual(gone.own_passes, ())
        self.assertFalse(any(edit.parts for edit in gone.passes.values()))

    def test_a_patch_goes_with_the_picture_when_that_is_mirrored(self):
        from foxpath.document.places import moved

        made, _ = edits.add_veil(self.made, Veil(place="patch", patch=tuple(map(tuple, AREA.tolist()))))
        made = edits.leave_alone(made, AREA, "darks")
        flipped = moved(made, np.array([[-1.0, 0.0, 200.0], [0.0, 1.0, 0.0]]))
        self.assertEqual(flipped.own_passes[0].veil.patch[0], (150.0, 50.0))
        self.assertEqual(flipped.left_alone[0].points[0], (150.0, 50.0))
        self.assertEqual(flipped.left_alone[0].after, "darks")


class Parts(unittest.TestCase):
    def setUp(self):
        self.made = project()

    def test_numbers_are_given_and_given_back_one_by_one(self):
        zone = part(self.made)
        made = edits.set_part(self.made, "lights", zone, coverage=2.0, l_high=70.0)
        made = edits.set_part(made, "lights", zone, coverage=None)
        self.assertEqual(made.passes["lights"].part(zone).decided(), {"l_high": 70.0})
        self.assertEqual(edits.set_part(made, "lights", zone, l_high=None).passes, {})

    def test_two_parts_keep_to_themselves(self):
        a, b = part(self.made), part(self.made, "Eye")
        made = edits.set_part(edits.set_part(self.made, "lights", a, coverage=2.0), "lights", b, coverage=1.0)
        again = edits.set_part(made, "lights", a, coverage=3.0)
        self.assertEqual([again.passes["lights"].part(k).coverage for k in (a, b)], [3.0, 1.0])

    def test_back_to_the_plan_takes_them_back_too(self):
        made = edits.set_part(self.made, "lights", part(self.made), coverage=2.0)
        decided = made.passes["lights"].decided()
        self.assertEqual(edits.set_pass(made, "lights", **dict.fromkeys(decided)).passes, {})
        self.assertNotEqual(made.passes["lights"], PassEdit())

    def test_what_is_none_of_a_part_s_is_refused(self):
        zone = part(self.made)
        for act in (
            lambda: edits.set_part(self.made, "lights", zone, opacity=0.5),
            lambda: edits.set_part(self.made, "nonsense", zone, coverage=0.5),
            lambda: edits.set_part(self.made, "lights", "z99", coverage=0.5),
        ):
            self.assertRaises(InputError, act)


class File(unittest.TestCase):
    def test_all_of_it_is_opened_as_it_was_saved(self):
        made, _ = edits.add_veil(
            project(), Veil("scumble", (70.0, 1.0, -4.0), 0.2, 3, "strip", 9.0, 2.0, made_up=True), name="Mist"
        )
        made, _ = edits.add_again(made, "lights")
        made = edits.set_part(made, "lights", part(made), coverage=2.0)
        made = edits.leave_alone(edits.leave_alone(made, AREA), AREA + 5, "darks")
        back = reopened(made)
        for name in ("own_passes", "passes", "left_alone", "pass_order"):
            self.assertEqual(getattr(back, name), getattr(made, name), name)
        self.assertEqual(back.roles, made.roles)

    def test_an_area_of_an_earlier_file_is_left_alone_as_it_was(self):
        record = project_to_fields(project())
        record["left_alone"] = [AREA.tolist()]
        back = project_from_fields(record, lambda _: project().reference.data, "a.foxpath")
        self.assertEqual((back.left_alone[0].after, back.left_alone[0].points[1]), ("", (80.0, 50.0)))
        self.assertEqual(reopened(back).left_alone, back.left_alone)

    def test_a_veil_of_a_file_that_cannot_be_is_left_out(self):
        made, _ = edits.add_veil(project(), Veil())
        record = project_to_fields(made)
        record["own_passes"][0]["veil"]["manner"] = "varnish"
        back = project_from_fields(record, lambda _: made.reference.data, "a.foxpath")
        self.assertEqual(back.own_passes, ())


class Alone(unittest.TestCase):
    def test_it_is_said_after_which_pass_and_said_anew(self):
        made = edits.leave_alone(project(), AREA)
        self.assertEqual(made.left_alone[0].after, "")
        later = edits.leave_after(made, 0, "undercoat")
        self.assertEqual(
            (later.left_alone[0].after, later.left_alone[0].points), ("undercoat", made.left_alone[0].points)
        )
        for act in (
            lambda: edits.leave_alone(made, AREA, "varnish"),
            lambda: edits.leave_after(made, 0, "varnish"),
            lambda: edits.leave_after(made, 1, "darks"),
            lambda: edits.leave_after(made, -1, "darks"),
            lambda: edits.leave_alone(made, AREA[:2], "darks"),
        ):
            self.assertRaises(InputError, act)


class Weights(unittest.TestCase):
    def setUp(self):
        made = project()
        self.made = edits.set_group(edits.set_group(made, part(made), "Runa"), part(made, "Eye"), "Ode")

    def test_a_weight_is_kept_between_none_and_all_and_given_back(self):
        made = edits.set_weight(self.made, "Runa", 0.4)
        self.assertEqual([made.weight_of(z) for z in made.zones if z.group], [0.4, 1.0])
        self.assertEqual(made.weight_of(made.zones[0]), 1.0)
        self.assertEqual(edits.set_weight(made, "Runa", 7.0).weights, {})
        self.assertEqual(edits.set_weight(made, "Runa", -7.0).weights, {"Runa": 0.0})
        for name, weight in (("Nobody", 0.5), ("", 0.5), ("Runa", float("nan"))):
            self.assertRaises(InputError, edits.set_weight, self.made, name, weight)

    def test_an_animal_that_is_gone_is_forgotten(self):
        made = edits.set_weight(self.made, "Runa", 0.4)
        renamed = edits.set_group(made, part(made), "Ida")
        self.assertEqual(edits.set_weight(renamed, "Ode", 0.5).weights, {"Ode": 0.5})


class Markings(unittest.TestCase):
    def test_only_a_marking_gives_way_and_only_so_far(self):
        made, zone = edits.add_zone(project(), "Bar", "marking", AREA)
        self.assertEqual(edits.soften_marking(made, zone, 99.0).zone(zone).soft_mm, 30.0)
        self.assertEqual(edits.soften_marking(made, zone, -1.0).zone(zone).soft_mm, 0.0)
        for key, width in ((part(made), 3.0), ("z99", 3.0), (zone, float("inf"))):
            self.assertRaises(InputError, edits.soften_marking, made, key, width)
