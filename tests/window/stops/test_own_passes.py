"""Passes of one's own, driven as a painter would: laid twice, veiled, set part by part, left alone, played area by area."""

from unittest import mock

import numpy as np
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from foxpath.core.passes import PassEdit
from foxpath.document import edits
from tests.made import project, quick
from tests.window.case import WindowCase


class OwnPasses(WindowCase):
    def setUp(self):
        super().setUp()
        self.session.start(quick(project()), None, on_disk=True)
        self.window.open_stop("passes")
        self.stop = self.window.studio.stops["passes"]
        self.settle()
        self.square = next(z.id for z in self.project.zones if z.name == "Square")

    def choose(self, **chosen):
        self.session.choose(**chosen)
        self.settle()

    def press(self, key):
        """Press one of the buttons under the order."""
        button = self.stop.acts.buttons[key]
        self.assertTrue(button.isVisibleTo(self.stop.acts))
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        self.settle()

    def round(self, *places, keys=Qt.KeyboardModifier.NoModifier):
        """Drag round an area of the picture."""
        picture = self.window.picture
        at = [picture.viewport.at(place).toPoint() for place in places]
        QTest.mousePress(picture, Qt.MouseButton.LeftButton, keys, at[0])
        for point in at[1:]:
            for step in range(1, 5):
                before = at[at.index(point) - 1]
                QTest.mouseMove(
                    picture, before + QPoint(*((point - before).x() * step // 4, (point - before).y() * step // 4))
                )
        QTest.mouseRelease(picture, Qt.MouseButton.LeftButton, keys, at[-1])
        self.settle()

    def test_a_pass_is_laid_twice_moved_and_removed_and_every_step_undone(self):
        self.choose(role="highlights")
        self.press("again")
        (one,) = self.project.own_passes
        self.assertEqual((one.of, self.session.chosen.role), ("highlights", one.id))
        self.assertEqual(self.stop.current().role.name, "Highlights again")
        self.assertTrue(self.stop.acts.buttons["remove"].isVisibleTo(self.stop.acts))
        QTest.mouseClick(self.stop.earlier, Qt.MouseButton.LeftButton)
        self.settle()
        order = list(self.project.pass_order)
        self.assertEqual(order.index(one.id), order.index("highlights") - 1)
        self.press("remove")
        self.assertEqual(self.project.own_passes, ())
        for _ in range(3):
            self.window._undo()
        self.settle()
        self.assertEqual((self.project.own_passes, self.project.pass_order), ((), ()))
        self.choose(role="highlights")
        self.assertFalse(self.stop.acts.buttons["remove"].isVisibleTo(self.stop.acts))

    def test_a_veil_over_the_chosen_part_is_set_by_its_knobs(self):
        self.choose(zone=self.square)
        self.press("veil")
        (one,) = self.project.own_passes
        self.assertEqual((one.zone, one.veil.place), (self.square, "part"))
        panel = self.stop.veil
        self.assertTrue(panel.isVisibleTo(self.stop.one))
        self.assertFalse(self.stop.ladder.isVisibleTo(self.stop.one))
        self.assertEqual(panel.over_head.note, "Square")
        panel.measures["strength"].changed.emit(0.3, False)
        panel.measures["coats"].changed.emit(2.0, False)
        panel.place.chosen.emit("shadow")
        panel.made_up.toggled.emit(True)
        self.settle()
        veil = self.project.own_passes[0].veil
        self.assertEqual((veil.strength, veil.coats, veil.place, veil.made_up), (0.3, 2, "shadow", True))
        self.wait(lambda: "medium" in panel.mix.words)
        self.assertIn("2 of medium to 1 of paint", panel.mix.words)
        panel.how.chosen.emit("scumble")
        self.settle()
        self.assertEqual(self.project.own_passes[0].veil.manner, "scumble")
        self.assertGreater(self.project.own_passes[0].veil.lab[0], 65)
        panel.measures["strength"].reset.emit()
        self.settle()
        self.assertEqual(self.project.own_passes[0].veil.strength, 0.05)

    def test_its_colour_is_taken_from_a_tube_from_the_picture_or_by_knobs(self):
        self.choose(zone=self.square)
        self.press("veil")
        panel = self.stop.veil
        panel.tubes.chosen.emit("PB29")
        self.settle()
        blue = self.project.own_passes[0].veil.lab
        self.assertLess(blue[2], -15)
        QTest.mouseClick(panel.pick, Qt.MouseButton.LeftButton)
        self.assertTrue(panel.picking)
        self.click(55, 95)
        self.assertFalse(panel.picking)
        taken = self.project.own_passes[0].veil.lab
        self.assertGreater(taken[0], blue[0] + 15)
        panel.colour["b"].changed.emit(33.0, False)
        self.settle()
        self.assertEqual(self.project.own_passes[0].veil.lab, (taken[0], taken[1], 33.0))

    def test_a_patch_is_drawn_and_a_click_chooses_parts_again(self):
        self.press("veil")
        panel = self.stop.veil
        panel.place.chosen.emit("patch")
        self.assertTrue(panel.drawing)
        self.round((50, 50), (110, 50), (110, 100), (50, 100))
        veil = self.project.own_passes[0].veil
        self.assertFalse(panel.drawing)
        self.assertEqual(veil.place, "patch")
        points = np.array(veil.patch)
        self.assertLess(float(np.abs(points.min(axis=0) - (50, 50)).max()), 2)
        self.assertLess(float(np.abs(points.max(axis=0) - (110, 100)).max()), 2)
        self.click(55, 95)
        self.assertEqual(self.session.chosen["zone"], self.square)
        self.assertEqual(self.project.own_passes[0].veil, veil)

    def test_over_another_part_or_the_whole_canvas(self):
        self.choose(zone=self.square)
        self.press("veil")
        panel = self.stop.veil
        QTest.mouseClick(panel.over, Qt.MouseButton.LeftButton)
        self.settle()
        self.assertEqual(self.project.own_passes[0].zone, "")
        QTest.mouseClick(panel.over, Qt.MouseButton.LeftButton)
        self.settle()
        self.assertEqual(self.project.own_passes[0].zone, self.square)

    def test_numbers_of_a_part_are_its_own(self):
        self.choose(role="highlights")
        self.assertFalse(self.stop.whose.isVisibleTo(self.stop.one))
        self.choose(zone=self.square)
        self.assertTrue(self.stop.whose.isVisibleTo(self.stop.one))
        self.stop.whose.chosen.emit("part")
        self.stop.measures["coverage"].changed.emit(1.5, False)
        self.settle()
        edit = self.project.passes["highlights"]
        self.assertEqual(edit.part(self.square).coverage, 1.5)
        self.assertNotEqual(edit.coverage, 1.5)
        self.assertEqual(self.stop.measures["coverage"].value, 1.5)
        self.assertIn("1 zone", dict(self.stop.facts.facts)["where"])
        self.stop.whose.chosen.emit("")
        self.assertNotEqual(self.stop.measures["coverage"].value, 1.5)
        self.stop.whose.chosen.emit("part")
        self.stop.measures["coverage"].reset.emit()
        self.settle()
        self.assertFalse(self.project.passes.get("highlights", PassEdit()).parts)

    def test_an_area_drawn_round_with_shift_stays_as_this_pass_leaves_it(self):
        self.choose(role="highlights")
        self.round((50, 50), (110, 50), (110, 100), (50, 100), keys=Qt.KeyboardModifier.ShiftModifier)
        (one,) = self.project.left_alone
        self.assertEqual(one.after, "highlights")
        self.assertIn("1 area as this pass leaves it", self.stop.alone.words)
        QTest.mouseClick(self.stop.alone_acts.buttons["back"], Qt.MouseButton.LeftButton)
        self.settle()
        self.assertEqual(self.project.left_alone, ())

    def test_a_stroke_that_goes_nowhere_leaves_nothing_alone(self):
        self.round((50, 50), keys=Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(self.project.left_alone, ())


class AreaByArea(WindowCase):
    def test_it_is_played_turn_by_turn_and_says_which(self):
        self.enterContext(mock.patch("foxpath.derive.rehearsal.requests.TURN_S", 0.01))
        self.session.start(edits.set_school(project(), "one-sitting"), None, on_disk=True)
        self.window.open_stop("rehearsal")
        stop = self.window.studio.stops["rehearsal"]
        self.wait(lambda: self.session.rehearsal.complete)
        self.settle()
        self.assertEqual(stop.turns.value, "areas")
        seen, said = [], []
        stop.frame.connect(lambda rgb: (seen.append(rgb), said.append(stop.words.words)))
        stop.play_all()
        self.assertTrue(stop.playing)
        self.wait(lambda: not stop.playing)
        pictures = [rgb for rgb in seen if rgb is not None]
        self.assertGreaterEqual(len(pictures), 3)
        np.testing.assert_array_equal(pictures[-1], self.session.rehearsal.passes[-1].standing.shown)
        self.assertIn("midtones", " ".join(said))

    def test_row_by_row_is_asked_for_and_kept(self):
        self.session.start(edits.set_school(quick(project()), "one-sitting"), None, on_disk=True)
        self.window.open_stop("rehearsal")
        stop = self.window.studio.stops["rehearsal"]
        self.settle()
        stop.turns.chosen.emit("rows")
        stop.refresh()
        self.assertEqual(stop.turns.value, "rows")


class OfAnimals(WindowCase):
    def test_how_much_the_eye_rests_on_one_is_said_and_given_back(self):
        made = quick(project())
        square, eye = (next(z.id for z in made.zones if z.name == name) for name in ("Square", "Eye"))
        self.session.start(edits.set_group(edits.set_group(made, square, "Runa"), eye, "Ode"), None, on_disk=True)
        self.window.open_stop("zones")
        stop = self.window.studio.stops["zones"]
        self.session.choose(zone=square)
        self.settle()
        self.assertTrue(stop.weight.isVisibleTo(stop.weight.parentWidget()))
        stop.weight.changed.emit(0.4, False)
        self.settle()
        self.assertEqual(self.project.weights, {"Runa": 0.4})
        self.assertEqual(stop.weight.value, 0.4)
        stop.weight.reset.emit()
        self.settle()
        self.assertEqual(self.project.weights, {})

    def test_a_marking_gives_way_by_a_knob_of_its_own(self):
        bar = np.array([[60.0, 82.0], [110.0, 82.0], [110.0, 94.0], [60.0, 94.0]])
        made, zone = edits.add_zone(quick(project()), "Bar", "marking", bar)
        self.session.start(made, None, on_disk=True)
        self.window.open_stop("edges")
        stop = self.window.studio.stops["edges"]
        self.settle()
        self.assertFalse(stop.marking_soft.isVisibleTo(stop.marking_soft.parentWidget()))
        self.session.choose(zone=zone)
        self.settle()
        self.assertTrue(stop.marking_soft.isVisibleTo(stop.marking_soft.parentWidget()))
        stop.marking_soft.changed.emit(6.0, False)
        self.settle()
        self.assertEqual(self.project.zone(zone).soft_mm, 6.0)
        stop.marking_soft.reset.emit()
        self.settle()
        self.assertEqual(self.project.zone(zone).soft_mm, 0.0)
