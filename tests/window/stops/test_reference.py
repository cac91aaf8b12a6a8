import io
import re
from unittest import mock

import numpy as np
from PIL import Image
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from foxpath.document import edits
from foxpath.window.picture.glass import true_px_per_mm
from foxpath.window.stops.reference.projector import Projector
from foxpath.window.work import recent
from tests.made import project, quick
from tests.window.case import WindowCase

NONE = Qt.KeyboardModifier.NoModifier


class ReferenceBench(WindowCase):
    def setUp(self):
        super().setUp()
        made, _ = edits.add_zone(project(), "Far eye", "eye", np.array([[100.0, 56], [116, 56], [116, 70], [100, 70]]))
        self.session.start(quick(made), None, on_disk=True)
        self.window.open_stop("reference")
        self.settle()
        self.stop = self.window.stop

    def open(self, code):
        """Open a fold by its head, from the keyboard."""
        fold = self.stop.folds[code]
        fold.head.setFocus(Qt.FocusReason.TabFocusReason)
        self.key(Qt.Key.Key_Return, widget=fold.head)
        self.assertEqual(self.stop.open, code)
        return fold

    def level(self):
        return self.session.levels[0]

    def test_one_fold_is_open_at_a_time_and_says_its_matter_when_closed(self):
        for code, fold in self.stop.folds.items():
            if code != self.stop.open:
                self.open(code)
            self.assertEqual([c for c, f in self.stop.folds.items() if f.body.isVisibleTo(self.stop.panel)], [code])
            self.assertEqual(fold.head.note, "")
        self.assertTrue(all(f.head.note for c, f in self.stop.folds.items() if c != self.stop.open))
        self.key(Qt.Key.Key_Return, widget=self.stop.folds[self.stop.open].head)
        self.assertEqual(self.stop.open, "")

    def test_findings_come_first_and_show_me_flies_there(self):
        self.assertIsNotNone(self.session.inspection)
        useful = self.session.inspection.useful()
        rows = self.stop.found._rows
        self.assertEqual([row.finding.says for row in rows], [one.says for one in useful[:3]])
        before = self.window.picture.viewport.centre
        at = next(k for k, one in enumerate(useful) if one.at is not None)
        rows[at]._links[0].clicked.emit()
        self.wait(lambda: not self.window.picture.flying())
        self.assertIn(self.stop.open, ("health", "composition"))
        self.assertEqual(self.stop.fold.chosen, useful[at].key)
        self.assertNotEqual(self.window.picture.viewport.centre, before)

    def test_health_rows_choose_the_map(self):
        fold = self.open("health")
        clean = self.window.picture.grab().toImage()
        fold.rows.setFocus()
        for _ in fold.rows.rows:
            self.key(Qt.Key.Key_Down, widget=fold.rows)
            self.assertTrue(fold.mark.says)
            self.window.picture.grab()
        self.assertEqual(fold.chosen, "focus")
        # A white corner without information is drawn where it lies.
        lost = np.asarray(Image.open(io.BytesIO(self.project.reference.data))).copy()
        lost[100:160, 120:200] = 255
        fold.choose("clipped")
        self.assertEqual(self.window.picture.grab().toImage(), clean)
        self.session.start(self._with_picture(lost), None, on_disk=True)
        self.settle()
        self.assertNotEqual(self.window.picture.grab().toImage(), clean)
        self.assertIn("lost 100 %", fold.words_at((160, 130)))

    def _with_picture(self, rgb):
        buffer = io.BytesIO()
        Image.fromarray(rgb).save(buffer, "PNG")
        return edits.new_project(buffer.getvalue(), "made.png", self.project.canvas)

    def test_a_picked_grey_changes_what_is_shown_and_measured_and_can_be_taken_back(self):
        fold = self.open("correction")
        plain = self.level().copy()
        self.click(20, 140)
        self.assertIsNotNone(self.project.correction.grey)
        self.settle()
        balanced = self.level().copy()
        spot = balanced[138:142, 18:22].astype(int)
        self.assertLess(int(np.ptp(spot.mean(axis=(0, 1)))), 3)
        self.assertIn("Balanced", fold.state.says)
        self.key(Qt.Key.Key_Right, widget=fold.exposure)
        self.settle()
        brighter = self.level().copy()
        self.assertGreater(brighter.mean(), balanced.mean())
        QTest.keyPress(self.window.picture, Qt.Key.Key_R)
        self.settle()
        np.testing.assert_array_equal(self.level(), plain)
        QTest.keyRelease(self.window.picture, Qt.Key.Key_R)
        self.settle()
        np.testing.assert_array_equal(self.level(), brighter)
        self.assertEqual(self.project.reference.data, project().reference.data)
        while self.session.history.undo_words:
            self.session.undo()
        self.settle()
        np.testing.assert_array_equal(self.level(), plain)

    def test_spots_are_picked_dragged_judged_and_dropped(self):
        fold = self.open("spots")
        self.click(100, 64)
        self.click(20, 140)
        self.assertEqual(len(self.project.spots), 2)
        self.assertRegex(fold.says.says, r"^B against A: (much|clearly) darker")
        self.assertIn("CIEDE2000", fold.says.why)
        self.drag((20, 140), (30, 130))
        self.assertAlmostEqual(self.project.spots[1][0], 30, delta=1)
        self.assertEqual(len(self.project.spots), 2)
        self.key(Qt.Key.Key_Left, widget=fold.patches)
        self.assertEqual(fold.index, 0)
        self.key(Qt.Key.Key_Delete)
        self.assertEqual(len(self.project.spots), 1)
        self.session.undo()
        self.assertEqual(len(self.project.spots), 2)

    def test_catchlights_tell_the_light_until_it_is_said(self):
        fold = self.open("light")
        self.click(30, 140)
        self.assertIn("No eye lies there", self.window.foot.said)
        self.click(77, 63)
        self.assertEqual(len(self.project.catchlights), 1)
        self.settle()
        self.assertEqual(self.session.inspection.evidence[0].why, "one catchlight")
        light = fold.light()
        self.assertTrue(9 < light.hour < 12, light.hour)
        self.assertIsNone(self.project.light)
        self.key(Qt.Key.Key_Right, widget=fold.ball)
        self.assertAlmostEqual(self.project.light.hour, (light.hour + 0.5) % 12, places=1)
        self.key(Qt.Key.Key_Right, widget=fold.measures["warmth"])
        self.assertGreater(self.project.light.warmth, light.warmth)
        # An eyeball that has no outline is drawn out by hand.
        self.drag((150, 120), (170, 120))
        self.click(145, 112)
        self.assertAlmostEqual(self.project.catchlights[1].centre[0], 150, delta=1)
        self.assertAlmostEqual(self.project.catchlights[1].radius, 20, delta=1)

    def test_seeing_is_set_by_keys_and_saved_as_a_picture(self):
        fold = self.open("seeing")
        self.key(Qt.Key.Key_Left, widget=fold.steps)
        self.assertEqual(self.project.seeing.steps, 3)
        self.assertIn("poster", self.session.chosen.aids)
        self.key(Qt.Key.Key_Right, widget=fold.cuts)
        self.assertEqual(len(self.project.seeing.cuts), 2)
        self.assertEqual(self.window.header.words["poster"], "Values 3")
        path = self.dir / "seen.png"
        fold.save_seen(path)
        self.settle()
        seen = np.asarray(Image.open(path))
        self.assertEqual(seen.shape, (160, 200, 3))
        self.assertEqual(len(np.unique(seen)), 3)
        self.drag((10, 10), (12, 12))
        QTest.mouseDClick(self.window.picture, Qt.MouseButton.LeftButton, NONE, self.screen(150, 40))
        self.assertAlmostEqual(self.project.focal[0], 150, delta=1)

    def test_a_ruler_on_the_screen_gives_true_size(self):
        fold = self.open("seeing")
        QTest.mousePress(fold.bar, Qt.MouseButton.LeftButton, NONE, fold.bar.rect().center())
        QTest.mouseRelease(fold.bar, Qt.MouseButton.LeftButton, NONE, fold.bar.rect().center())
        px = (fold.bar.rect().center().x() - 6) / 50
        self.assertAlmostEqual(recent.screen_px_per_mm(self.window.screen().name()), px, places=2)
        self.assertEqual(true_px_per_mm(self.window), (round(px, 4), True))
        self.key(Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier, self.window)
        view = self.window.picture.viewport
        self.assertAlmostEqual(view.scale / self.project.mm_per_px, round(px, 4), places=3)
        self.key(Qt.Key.Key_L)
        self.assertTrue(self.session.chosen.glass)
        self.window.picture.pointer = QPointF(300, 250)
        inner = self.window.picture.glass.view()
        self.assertAlmostEqual(inner.scale, view.scale)
        np.testing.assert_allclose(inner.to_reference(QPointF(300, 250)), view.to_reference(QPointF(300, 250)))

    def test_the_shelf_composes_the_reference_from_decisions(self):
        fold = self.open("shelf")
        path = self.dir / "red.png"
        Image.fromarray(np.full((80, 100, 3), (200, 30, 30), np.uint8)).save(path)
        (self.dir / "no.jpg").write_bytes(b"hello")
        fold.add(self.dir / "no.jpg")
        self.assertIn("not a picture", self.window.foot.said)
        with mock.patch("PySide6.QtWidgets.QFileDialog.getOpenFileNames", return_value=([str(path)], "")):
            self.key(Qt.Key.Key_Insert, widget=fold.pictures)
        self.settle()
        self.assertEqual((fold.mode, self.window.picture.room_share), ("beside", 0.5))
        self.key(Qt.Key.Key_Right, widget=fold.modes)
        self.assertEqual((fold.mode, self.window.picture.room_share), ("over", 1.0))
        plain = self.level().copy()
        lent = self.project.shelf[0]
        self.drag((100, 80), (130, 70))
        self.assertAlmostEqual(self.project.shelf[0].pose.x - lent.pose.x, 30, delta=1)
        self.key(Qt.Key.Key_Left)
        self.assertLess(self.project.shelf[0].pose.x - lent.pose.x, 30)
        fold.cut.clicked.emit()
        self.drag((120, 60), (150, 60), (150, 85), (120, 85), (120, 62))
        self.settle()
        self.assertEqual(len(self.project.placed), 1)
        np.testing.assert_allclose(self.level()[72, 135], (200, 30, 30), atol=3)
        np.testing.assert_array_equal(self.level()[140, 20], plain[140, 20])
        self.assertTrue(any(one.key.startswith("moved") for one in self.session.inspection.composition_says))
        self.session.undo()
        self.settle()
        np.testing.assert_array_equal(self.level(), plain)
        fold.main.clicked.emit()
        self.settle()
        self.assertEqual(self.project.reference.name, "red.png")
        self.assertEqual(self.project.shelf[0].reference.name, "blob.png")

    def test_transfer_axes_lines_and_files(self):
        fold = self.open("transfer")
        axes = self.project.axes_or_eyes()
        self.drag(axes.right, (axes.right[0] + 4, axes.right[1] + 6))
        self.assertAlmostEqual(self.project.transfer.axes.right[1], axes.right[1] + 6, delta=1)
        self.key(Qt.Key.Key_Space, widget=fold.draw_lines)
        self.settle()
        before = fold.lines
        self.assertTrue(before)
        self.key(Qt.Key.Key_E)
        self.assertEqual(fold.tool, "rub")
        self.drag((30, 70), (50, 70))
        self.key(Qt.Key.Key_D)
        self.drag((150, 30), (180, 60))
        self.settle()
        points = np.concatenate(fold.lines)
        self.assertFalse((np.hypot(points[:, 0] - 40, points[:, 1] - 70) < 1.5).any())
        self.assertTrue((np.hypot(points[:, 0] - 150, points[:, 1] - 30) < 1.5).any())
        fold.save_lines(self.dir / "a.svg")
        self.settle()
        svg = (self.dir / "a.svg").read_text()
        self.assertIn('width="250mm" height="200mm"', svg)
        self.assertEqual(len(re.findall("<path", svg.split('id="drawing"')[1])), len(fold.lines))
        fold.save_lines(self.dir / "a.pdf")
        self.settle()
        self.assertIn("pages", self.window.foot.said)

    def test_the_projector_keeps_straight_lines_straight_and_its_corners(self):
        fold = self.open("transfer")
        fold.open_projector()
        self.settle()
        thrown = fold.projector
        self.assertTrue(thrown.lines)
        before = thrown.corners()
        thrown.move_corner(1, before[1] + QPointF(30, -20))
        for at, to in (((0, 0), before[0]), ((250, 0), before[1] + QPointF(30, -20)), ((250, 200), before[2])):
            self.assertLess((thrown.map().map(QPointF(*at)) - to).manhattanLength(), 0.01)
        folded = thrown.corners()
        thrown.move_corner(1, before[3] + QPointF(-10, 10))
        self.assertEqual(thrown.corners(), folded)
        self.key(Qt.Key.Key_3, widget=thrown)
        self.key(Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier, thrown)
        self.assertAlmostEqual(thrown.corners()[2].x(), before[2].x() - 10, places=3)
        self.key(Qt.Key.Key_Escape, widget=thrown)
        self.assertFalse(thrown.isVisible())
        again = Projector()
        again.resize(thrown.size())
        self.assertLess((again.corners()[2] - thrown.corners()[2]).manhattanLength(), 0.01)


class Aids(WindowCase):
    def setUp(self):
        super().setUp()
        self.session.start(quick(project()), None, on_disk=True)
        self.settle()

    def test_they_go_together_at_every_stop_and_plain_puts_them_away(self):
        for key in (Qt.Key.Key_F3, Qt.Key.Key_F4, Qt.Key.Key_F11, Qt.Key.Key_F6, Qt.Key.Key_F8):
            self.key(key, widget=self.window)
        chosen = self.session.chosen
        self.assertEqual(
            (chosen.aids, chosen.mirrored, chosen.turns), (frozenset({"greys", "squint", "falloff"}), True, 1)
        )
        self.settle()
        for stop in self.window.stops:
            self.window.open_stop(stop)
            self.settle()
            seen = self.window.picture._seen
            bits = np.frombuffer(seen.image.constBits(), np.uint8).reshape(seen.image.height(), -1)
            grey = bits[:, : 3 * seen.image.width()].reshape(seen.image.height(), -1, 3)
            self.assertEqual(int(np.ptp(grey.astype(int), axis=2).max()), 0, stop)
        self.key(Qt.Key.Key_F2, widget=self.window)
        self.assertEqual((self.session.chosen.aids, self.session.chosen.turns), (frozenset(), 0))
        self.assertIsNone(self.window.picture._seen)

    def test_one_zone_alone_covers_the_rest(self):
        self.window.open_stop("zones")
        self.window.choose_aid("alone")
        self.assertIn("Point at a zone", self.window.foot.said)
        self.session.choose(zone=self.project.zones[1].id)
        self.key(Qt.Key.Key_F12, widget=self.window)
        image = self.window.picture.grab().toImage()
        away = image.pixelColor(self.screen(180, 140))
        self.assertEqual(away.name(), "#777777")
        self.assertNotEqual(image.pixelColor(self.screen(110, 100)).name(), "#777777")
        # The eye lies over the zone: it is covered too.
        self.assertEqual(image.pixelColor(self.screen(86, 72)).name(), "#777777")

    def test_a_cross_stands_in_for_the_mouse(self):
        """Alt and arrows point, Ctrl Space presses and lets go: a spot picked, then dragged, without a mouse."""
        self.window.open_stop("reference")
        self.window.stop.open_fold("spots")
        picture, alt, control = (
            self.window.picture,
            Qt.KeyboardModifier.AltModifier,
            Qt.KeyboardModifier.ControlModifier,
        )
        for _ in range(3):
            self.key(Qt.Key.Key_Right, alt)
        at = picture.viewport.to_reference(picture.pointer)
        self.key(Qt.Key.Key_Space, control)
        self.key(Qt.Key.Key_Space, control)
        np.testing.assert_allclose(self.project.spots[0], at, atol=0.1)
        self.key(Qt.Key.Key_Space, control)
        for _ in range(4):
            self.key(Qt.Key.Key_Down, alt)
        self.key(Qt.Key.Key_Space, control)
        self.assertEqual(len(self.project.spots), 1)
        self.assertAlmostEqual(self.project.spots[0][1], at[1] + 32 / picture.viewport.scale, delta=0.2)
        self.key(Qt.Key.Key_F)
        self.assertAlmostEqual(self.project.focal[1], self.project.spots[0][1], delta=0.2)
