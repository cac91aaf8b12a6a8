"""Departures at Passes, driven as a painter would: a part chosen, knobs turned, the changed picture looked at."""

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from foxpath.core.progress.small import lab_of
from foxpath.core.reference.departures import AIR
from foxpath.document import edits
from tests.made import project, quick
from tests.window.case import WindowCase


class ChangesPage(WindowCase):
    def setUp(self):
        super().setUp()
        self.session.start(quick(project()), None, on_disk=True)
        self.window.open_stop("passes")
        self.stop = self.window.studio.stops["passes"]
        self.settle()
        self.stop.open_page("changes")
        self.panel = self.stop.changes
        self.square = next(z.id for z in self.project.zones if z.name == "Square")
        self.settle()

    def test_a_part_is_changed_and_everything_later_follows(self):
        self.click(55, 95)
        self.assertEqual(self.panel.zone, self.square)
        self.assertEqual(self.panel.head.note, "Square")
        self.panel.measures["lightness"].changed.emit(-14.0, False)
        self.settle()
        (one,) = self.project.departures
        self.assertEqual((one.zone, one.side, one.lightness), (self.square, "all", -14))
        self.assertIn("14 L* darker", self.panel.words.words)
        self.wait(lambda: self.panel.changes is not None)
        changes = self.panel.changes
        self.assertEqual(changes.parts[0].name, "Square")
        off = lab_of(changes.changed) - lab_of(changes.reference)
        self.assertLess(abs(float(off[int(0.6 * off.shape[0]), int(0.28 * off.shape[1]), 0]) + 14), 2)
        # The picture of the window is the changed one.
        self.wait(lambda: self.session.levels[0][95, 55].sum() < 0.9 * self.before().sum())
        self.window._undo()
        self.settle()
        self.assertEqual(self.project.departures, ())

    def before(self):
        from foxpath.derive.pictures import measured_picture

        return measured_picture(self.session.results, self.project).rgb[95, 55]

    def test_reference_changed_and_difference_are_shown_in_place_of_the_painting(self):
        self.session.choose(zone=self.square)
        self.panel.measures["warmth"].changed.emit(12.0, False)
        self.settle()
        self.wait(lambda: self.panel.changes is not None)
        for key in ("reference", "changed", "difference"):
            self.panel.shown.chosen.emit(key)
            self.settle()
            np.testing.assert_array_equal(self.window.picture._painting_rgb, getattr(self.panel.changes, key))
        self.stop.open_page("pass")
        self.assertIsNone(self.stop.own_picture(""))
        self.stop.open_page("changes")
        self.window.picture.setFocus()
        QTest.keyPress(self.window.picture, Qt.Key.Key_R)
        np.testing.assert_array_equal(self.window.picture._painting_rgb, self.panel.changes.reference)
        QTest.keyRelease(self.window.picture, Qt.Key.Key_R)

    def test_sides_and_distance_are_said_apart_and_taken_back(self):
        self.session.choose(zone=self.square)
        self.settle()
        self.assertFalse(self.panel.sides[True].isVisible())
        self.panel.sides[False].chosen.emit("lit")
        self.panel.measures["warmth"].changed.emit(5.0, False)
        self.settle()
        self.session.choose(zone="")
        self.settle()
        self.panel.side = "all"
        self.panel.refresh(self.project)
        self.assertTrue(self.panel.sides[True].isVisible())
        self.panel.acts.clicked.emit("air")
        self.settle()
        lit, far = self.project.departures
        self.assertEqual((lit.side, lit.warmth), ("lit", 5))
        self.assertEqual((far.zone, far.side, far.lightness, far.note), ("", "far", AIR.lightness, AIR.note))
        self.assertEqual([row.name for row in self.panel.list.rows], ["Square", "Whole canvas"])
        self.panel.list.chosen.emit(f"{self.square}|lit")
        self.settle()
        self.assertEqual(self.panel.side, "lit")
        self.panel.acts.clicked.emit("back")
        self.settle()
        self.assertEqual([d.side for d in self.project.departures], ["far"])

    def test_the_falloff_of_the_view_is_taken_over(self):
        self.session.choose(zone="")
        self.settle()
        self.assertTrue(self.panel.acts.buttons["focus"].isVisible())
        self.panel.acts.clicked.emit("focus")
        self.settle()
        (one,) = self.project.departures
        self.assertEqual((one.zone, one.side), ("", "away"))
        self.assertAlmostEqual(one.contrast, 1 - 0.45 * self.project.seeing.falloff, 3)
        self.assertEqual(self.panel.side, "away")
        self.assertFalse(self.panel.acts.buttons["focus"].isVisible())

    def test_a_knob_given_back_leaves_nothing(self):
        self.session.choose(zone=self.square)
        self.panel.measures["contrast"].changed.emit(1.4, False)
        self.settle()
        self.assertEqual(len(self.project.departures), 1)
        self.panel.measures["contrast"].reset.emit()
        self.settle()
        self.assertEqual(self.project.departures, ())

    def test_a_part_is_left_out_and_brought_back(self):
        self.click(55, 95)
        self.assertTrue(self.panel.acts.buttons["out"].isVisibleTo(self.panel.acts))
        self.panel.acts.clicked.emit("out")
        self.settle()
        (one,) = self.project.gone
        self.assertEqual(one.zone.name, "Square")
        self.assertIsNone(self.project.zone(self.square))
        self.assertFalse(self.panel.acts.buttons["bring"].isVisibleTo(self.panel.acts))
        self.panel.list.chosen.emit(f"gone:{one.id}")
        self.assertTrue(self.panel.acts.buttons["bring"].isVisibleTo(self.panel.acts))
        self.panel.acts.clicked.emit("bring")
        self.settle()
        self.assertEqual(self.project.gone, ())
        self.assertEqual(self.project.zone(self.square).name, "Square")

    def test_a_part_is_dragged_elsewhere_and_a_click_chooses_again(self):
        self.click(55, 95)
        before = np.array(self.project.zone(self.square).middle())
        self.panel.acts.clicked.emit("move")
        self.assertTrue(self.panel.moving)
        self.drag((55, 95), (75, 85))
        self.assertFalse(self.panel.moving)
        moved = np.array(self.project.zone(self.square).middle()) - before
        self.assertLess(float(np.abs(moved - (20, -10)).max()), 1.5)
        self.click(5, 5)
        self.assertNotEqual(self.session.chosen["zone"], self.square)
        self.assertEqual(len(self.project.gone), 1)

    def test_all_of_an_animal_departs_as_one_of_its_parts_does(self):
        eye = next(z.id for z in self.project.zones if z.name == "Eye")
        for zone in (self.square, eye):
            self.session.edit(lambda p, zone=zone: edits.set_group(p, zone, "Runa"), "animal")
        self.settle()
        self.session.choose(zone=self.square)
        self.panel.measures["warmth"].changed.emit(6.0, False)
        self.settle()
        self.panel.acts.clicked.emit("animal")
        self.settle()
        self.assertEqual({(d.zone, d.warmth) for d in self.project.departures}, {(self.square, 6.0), (eye, 6.0)})

    def test_a_part_is_brought_to_a_colour_that_is_clicked(self):
        self.session.choose(zone=self.square)
        self.settle()
        self.panel.acts.clicked.emit("match")
        self.assertTrue(self.panel.matching)
        self.click(180, 150)
        self.assertFalse(self.panel.matching)
        # It is found beside the window.
        self.wait(lambda: bool(self.project.departures))
        self.settle()
        (one,) = self.project.departures
        self.assertEqual(one.zone, self.square)
        self.assertNotEqual((one.lightness, one.warmth), (0.0, 0.0))
        self.assertEqual(self.session.chosen["zone"], self.square)
