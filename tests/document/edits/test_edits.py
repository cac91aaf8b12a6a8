import tempfile
import unittest
from dataclasses import replace
from unittest import mock

import numpy as np

from foxpath.core.errors import AppError, InputError
from foxpath.core.frame import Crop
from foxpath.core.passes import schools
from foxpath.core.units import CanvasSize
from foxpath.derive import Results
from foxpath.derive.passes.plan import passes_of
from foxpath.document import edits, paces
from foxpath.document.history import History
from tests.made import SQUARE, project


class Marks(unittest.TestCase):
    def test_marks_need_room_and_their_zones(self):
        made = project()
        square = made.zones[1].id
        for kind, zone, points, source in (
            ("moon", square, np.array([[1.0, 1], [30, 30]]), ""),
            ("crown", square, np.array([[60.0, 60], [61, 60]]), ""),
            ("twin", square, None, square),
            ("twin", square, None, made.zones[0].id),
            ("donor", square, None, "z99"),
        ):
            with self.assertRaises(InputError, msg=kind):
                edits.add_mark(made, kind, zone, points, 0.0, source)

    def test_marks_are_moved_turned_and_dropped_and_go_with_their_zone(self):
        made = project()
        square = made.zones[1].id
        made, crown = edits.add_mark(made, "crown", square, np.array([[70.0, 70], [80, 75], [85, 70]]), 200.0)
        self.assertEqual(made.marks[0].turn_deg, -160)
        self.assertAlmostEqual(made.marks[0].radius, 15)
        made = edits.change_mark(made, crown, points=np.array([[60.0, 60], [70, 60]]), turn_deg=20)
        self.assertEqual((made.marks[0].points[0], made.marks[0].turn_deg), ((60.0, 60.0), 20.0))
        self.assertEqual(edits.change_mark(made, crown, points=np.array([[60.0, 60], [60, 60.5]])).marks, made.marks)
        made, eye = edits.add_zone(made, "Tail", "long-fur", SQUARE + (60, 0))
        made, _ = edits.add_mark(made, "donor", eye, None, 0.0, square)
        made, again = edits.add_mark(made, "donor", eye, None, 180.0, square)
        self.assertEqual([m.id for m in made.marks], [crown, again])
        self.assertEqual(edits.remove_zone(made, square).marks, ())
        self.assertEqual(edits.remove_mark(made, again).marks, made.marks[:1])

    def test_a_comb_swings_about_its_middle(self):
        made = project()
        comb = made.combs[0]
        turned = edits.swing_comb(made, comb.id, 90).combs[0]
        np.testing.assert_allclose(turned.points[0], (80, 15), atol=0.01)
        np.testing.assert_allclose(turned.points[-1], (80, 75), atol=0.01)
        self.assertEqual(edits.swing_comb(made, "none", 90), made)


class Edits(unittest.TestCase):
    def test_an_edit_shares_what_it_does_not_touch(self):
        before = project()
        after, _ = edits.add_comb(before, np.array([[60.0, 80], [100, 80]]))
        self.assertIs(after.zones, before.zones)
        self.assertEqual(len(before.combs), 1)
        self.assertEqual(len(after.combs), 2)

    def test_a_comb_speaks_for_the_front_zone_under_most_of_it(self):
        made = project()
        eye = made.zones[2].id
        square = made.zones[1].id
        for points in ([[45, 95], [115, 95]], [[20, 95], [115, 95]]):
            after, _ = edits.add_comb(made, np.array(points, float))
            self.assertEqual(after.combs[-1].zone, square)
        furry = edits.set_kind(made, eye, "short-fur")
        after, _ = edits.add_comb(furry, np.array([[72, 66], [88, 68]], float))
        self.assertEqual(after.combs[-1].zone, eye)

    def test_what_has_no_coat_is_not_combed(self):
        made = project()
        for points, words in (([[72, 66], [88, 68]], "Eye has no coat"), ([[2, 2], [30, 4]], "Outline the part first")):
            with self.assertRaises(InputError) as caught:
                edits.add_comb(made, np.array(points, float))
            self.assertIn(words, str(caught.exception))

    def test_bad_strokes_say_what_to_do(self):
        made = project()
        for points in ([[50, 50], [50.5, 50]],):
            with self.assertRaises(InputError) as caught:
                edits.add_comb(made, np.array(points))
            self.assertIn("root to tip", caught.exception.hint)
        with self.assertRaises(InputError):
            edits.add_zone(made, "line", "eye", np.array([[0.0, 0], [10, 10]]))
        with self.assertRaises(InputError):
            edits.add_zone(made, "flat", "eye", np.array([[0.0, 0], [10, 10], [20, 20]]))

    def test_removing_a_zone_takes_its_combs_and_edges(self):
        made = project()
        zone = made.zones[1].id
        made = edits.set_edge(made, zone, made.zones[0].id, "hard", 0.4)
        after = edits.remove_zone(made, zone)
        self.assertFalse(after.combs)
        self.assertFalse(after.edges)

    def test_depth_closes_up(self):
        made = project()
        order = [z.id for z in made.back_to_front()]
        after = edits.set_depth(made, order[2], 0)
        self.assertEqual([z.id for z in after.back_to_front()], [order[2], order[0], order[1]])
        self.assertEqual(sorted(z.depth for z in after.zones), [0, 1, 2])

    def test_outline_points(self):
        made = project()
        zone = made.zones[1].id
        made = edits.insert_point(made, zone, 1, (130, 70))
        self.assertEqual(made.zone(zone).points[2], (130, 70))
        made = edits.move_point(made, zone, 2, (140, 71))
        self.assertEqual(made.zone(zone).points[2], (140, 71))
        for _ in range(5):
            made = edits.remove_point(made, zone, 0)
        self.assertEqual(len(made.zone(zone).points), 3)

    def test_canvas_and_crop_keep_their_aspect(self):
        made = edits.set_canvas(project(), CanvasSize(200, 300))
        self.assertAlmostEqual(made.crop.width / made.crop.height, 2 / 3)
        made = edits.set_crop(made, Crop(-50, -50, 60, 10))
        self.assertGreaterEqual(made.crop.x, 0)
        self.assertAlmostEqual(made.mm_per_px * made.crop.width, 200)

    def test_measured_hair_is_in_millimetres(self):
        made = project()
        zone = made.zones[1].id
        after = edits.measure_hair(made, zone, np.array([[50.0, 50], [80, 50]]))
        self.assertAlmostEqual(after.zone(zone).coat.length_mm, 30 * made.mm_per_px, places=2)
        self.assertEqual(edits.reset_coat(after, zone).zone(zone).coat.length_mm, None)

    def test_pass_order_returns_to_usual(self):
        made = project()
        moved = edits.move_pass(made, "lights", -1)
        self.assertTrue(moved.pass_order)
        self.assertEqual(edits.move_pass(moved, "lights", 1).pass_order, ())
        with self.assertRaises(InputError):
            edits.set_pass(made, "varnish", on=False)

    def test_another_school_keeps_what_was_decided_of_its_passes(self):
        made = edits.set_pass(project(), "lights", l_high=70.0)
        wet = edits.set_school(edits.move_pass(made, "lights", -1), "one-sitting")
        self.assertEqual((wet.recipe, wet.pass_order), (schools()["one-sitting"], ()))
        self.assertEqual(wet.passes["lights"].l_high, 70.0)
        with self.assertRaisesRegex(InputError, "one-sitting"):
            edits.set_school(made, "cubism")

    def test_a_recipe_of_ones_own_does_not_hide_the_one_that_ships(self):
        mine = edits.take_school(project(), schools()["layered-oil"])
        self.assertNotEqual(mine.school, "layered-oil")
        self.assertIs(edits.set_school(mine, "layered-oil").recipe, schools()["layered-oil"])
        self.assertEqual(edits.set_school(edits.set_school(mine, "dry-brush"), mine.school).recipe, mine.own_school)


class Settings(unittest.TestCase):
    """Sides that are taken, parts in schools of their own, and passes noted as painted."""

    def test_a_side_is_taken_and_given_back(self):
        made = edits.set_way(project(), "finish", "loose")
        self.assertEqual(made.ways.taken(), (("finish", "loose"),))
        self.assertNotEqual(made.roles["lights"], project().roles["lights"])
        self.assertEqual(edits.set_way(made, "finish", "").roles, project().roles)
        for key, side in (("mood", "loose"), ("finish", "middling")):
            with self.assertRaises(InputError):
                edits.set_way(made, key, side)

    def test_a_word_on_catchlights_is_for_eyes_that_are_there_and_to_come(self):
        from tests.document.edits.test_eyes import FOUND

        made, key = edits.add_eye(edits.set_way(project(), "catchlight", "reserve"), FOUND)
        self.assertEqual(made.eye(key).light.way, "reserve")
        self.assertEqual(edits.set_way(made, "catchlight", "last").eye(key).light.way, "last")
        # Given back to the school, each eye keeps its own word.
        self.assertEqual(edits.set_way(made, "catchlight", "").eye(key).light.way, "reserve")

    def test_a_part_follows_a_school_of_its_own_until_the_painting_does_too(self):
        made = project()
        zone = made.zones[1].id
        own = edits.set_zone_school(made, zone, "dry-brush")
        self.assertIn("dry-brush/lights", own.roles)
        self.assertEqual(edits.set_zone_school(own, zone, ""), made)
        self.assertEqual(edits.set_zone_school(made, zone, made.recipe.key), made)
        whole = edits.set_school(own, "dry-brush")
        self.assertEqual(list(whole.roles), [role.key for role in schools()["dry-brush"].roles])
        decided = edits.set_pass(own, "dry-brush/lights", opacity=0.4)
        self.assertEqual(decided.passes["dry-brush/lights"].opacity, 0.4)
        with self.assertRaises(InputError):
            edits.set_zone_school(made, zone, "cubism")

    def test_a_pass_noted_as_painted_changes_what_others_are_thought_to_take(self):
        made = project()
        (plan,) = (p for p in passes_of(Results(), made) if p.role.key == "undercoat")
        for minutes, day in ((0, ""), (9000, ""), (float("nan"), ""), (30, "yesterday")):
            with self.assertRaises(InputError):
                edits.log_pass(made, plan, minutes, day)
        slow = edits.log_pass(made, plan, 3 * plan.minutes, "2026-03-21")
        later = {p.role.key: p for p in passes_of(Results(), slow)}
        usual = {p.role.key: p for p in passes_of(Results(), made)}
        self.assertGreater(later["lights"].minutes, 1.2 * usual["lights"].minutes)
        self.assertGreater(
            later["undercoat"].minutes / usual["undercoat"].minutes, later["lights"].minutes / usual["lights"].minutes
        )
        # Noted again, the pass is judged against the usual pace, not against what was learned from it.
        again = edits.log_pass(slow, later["undercoat"], 3 * plan.minutes)
        self.assertEqual(again.pace, slow.pace)
        self.assertEqual(edits.forget_log(again, "undercoat").pace, made.pace)

    def test_later_paintings_begin_at_the_pace_of_earlier_ones(self):
        folder = self.enterContext(tempfile.TemporaryDirectory())
        self.enterContext(mock.patch.dict("os.environ", {"FOXPATH_DATA": folder}))
        self.assertEqual(paces.earlier(), ())
        made = project()
        plans = passes_of(Results(), made)
        for plan in plans[:2]:
            made = edits.log_pass(made, plan, 200.0)
            paces.keep(made)
        self.assertEqual(paces.earlier(), made.noted)
        other = replace(edits.log_pass(project(), plans[3], 50.0), name="Another")
        paces.keep(other)
        self.assertEqual(paces.earlier(), (*made.noted, *other.noted))
        for wrong in (b"{", b"[]", b'{"format": "foxpath-pace", "logged": [{"role": 5}]}', b"\xff"):
            paces.place().write_bytes(wrong)
            with self.assertRaises(AppError):
                paces.keep(made)
            self.assertEqual(paces.place().read_bytes(), wrong)


class Undo(unittest.TestCase):
    def test_back_and_forth(self):
        first = project()
        history = History(first)
        second = edits.rename(first, "Two")
        third = edits.rename(second, "Three")
        history.do(second, "rename")
        history.do(third, "rename")
        self.assertEqual(history.undo(), "rename")
        self.assertIs(history.present, second)
        history.undo()
        self.assertIs(history.present, first)
        self.assertEqual(history.undo(), "")
        history.redo()
        history.redo()
        self.assertIs(history.present, third)
        self.assertEqual(history.redo(), "")

    def test_a_drag_is_one_step(self):
        history = History(project())
        start = history.present
        zone = start.zones[1].id
        for k in range(10):
            history.do(edits.move_point(history.present, zone, 0, (40 + k, 30)), "move", "drag")
        history.seal()
        history.do(edits.move_point(history.present, zone, 0, (90, 30)), "move", "drag")
        history.undo()
        self.assertEqual(history.present.zone(zone).points[0], (49, 30))
        history.undo()
        self.assertIs(history.present, start)

    def test_saved_follows_the_present(self):
        history = History(project())
        self.assertTrue(history.saved)
        history.do(edits.rename(history.present, "Other"), "rename")
        self.assertFalse(history.saved)
        history.undo()
        self.assertTrue(history.saved)
        self.assertEqual(SQUARE.shape, (4, 2))
