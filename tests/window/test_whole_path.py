from unittest import mock

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog

from foxpath.derive.growth.fields import growth_of
from foxpath.derive.subjects import EDGES
from foxpath.document import archive
from tests.made import picture
from tests.window.case import WindowCase

CONTROL = Qt.KeyboardModifier.ControlModifier


class WholePath(WindowCase):
    def test_from_a_picture_to_a_rehearsed_plan_on_paper(self):
        """Open, size, outline, name, comb, grade, measure, edit a pass, rehearse, play, print, undo, save, reopen."""
        image = self.dir / "blob.png"
        image.write_bytes(picture(400, 320))
        self.window.open_path(str(image))
        self.wait(lambda: bool(self.session.levels))
        self.assertEqual(self.session.chosen.stop, "reference")
        reference = self.window.stops["reference"]
        reference.folds["canvas"].size.setText("30x24 cm")
        reference.folds["canvas"].size.editingFinished.emit()
        self.assertAlmostEqual(self.project.canvas.width_mm, 300)
        self.assertAlmostEqual(self.project.mm_per_px, 0.75)

        # Zones: click round a part, close on the first point, name it, say what it is.
        self.key(Qt.Key.Key_2, CONTROL, self.window)
        self.assertEqual(self.session.chosen.stop, "zones")
        self.readings()
        corners = [(80, 60), (240, 60), (240, 220), (80, 220)]
        for x, y in corners:
            self.click(x, y)
        self.assertEqual(len(self.window.stop.draft), 4)
        self.click(*corners[0])
        self.assertEqual(len(self.project.zones), 2)
        zone = self.project.zones[1]
        np.testing.assert_allclose(zone.points, corners, atol=1.5)
        stop = self.window.stop
        stop.name.setText("Ruff")
        stop.name.editingFinished.emit()
        stop.kinds._take(1)
        self.assertEqual((self.project.zones[1].name, self.project.zones[1].kind), ("Ruff", "long-fur"))
        self.readings()
        self.drag((240, 220), (270, 240))
        np.testing.assert_allclose(self.project.zones[1].points[2], (270, 240), atol=1.5)

        # Growth: a drag along the hair is a comb, and the hairs turn to it.
        self.window.open_stop("growth")
        self.settle()
        before = self.window.picture.overlay.image.copy()
        self.drag((100, 100), (160, 100), (210, 110))
        self.assertEqual(len(self.project.combs), 1)
        self.assertEqual(self.project.combs[0].zone, zone.id)
        self.settle()
        self.assertNotEqual(self.window.picture.overlay.image, before)
        field = growth_of(self.session.results, self.project, 1)
        direction, sure = field.sample(np.array([[150.0, 100.0]]))
        self.assertGreater(direction[0, 0], 0.95)
        self.assertGreater(sure[0], 0.8)
        self.assertIn("1 comb", self.window.stop.reading())
        words = self.window.stop.words_at((150, 100))
        self.assertIn("toward 3 o'clock", words)

        # Edges: click the border, key 1 makes it lost.
        self.window.open_stop("edges")
        border, _ = self.readings().of(EDGES).edges[0]
        self.click(*border.middle())
        self.assertEqual(self.session.chosen.edge, (zone.id, self.project.zones[0].id))
        self.key(Qt.Key.Key_1)
        self.assertEqual(self.project.edges[0].grade, "lost")

        # Lengths: drag along a hair.
        self.window.open_stop("lengths")
        self.readings()
        self.drag((100, 150), (140, 150))
        self.assertAlmostEqual(self.project.zone(zone.id).coat.length_mm, 30, delta=1.5)

        # Passes: the ladder and the knobs make decisions.
        self.window.open_stop("passes")
        self.settle()
        self.session.choose(role="lights")
        self.window.stop.ladder.changed.emit("l_high", 70.0, False)
        self.window.stop.measures["coverage"].changed.emit(1.5, False)
        self.assertEqual(self.project.passes["lights"].l_high, 70.0)
        self.assertEqual(self.project.passes["lights"].coverage, 1.5)
        self.settle()
        rehearsal = self.session.rehearsal
        self.assertTrue(rehearsal.complete)
        lights = rehearsal.passes[rehearsal.number_of("lights")]
        self.assertGreater(lights.marks, 100)
        self.assertLessEqual(lights.l_max, 70.01)
        self.assertEqual(set(self.window.course.small), {one.plan.role.key for one in rehearsal.passes})

        # Rehearsal: play a pass; marks come up one after the other.
        self.window.open_stop("rehearsal")
        self.assertIsNotNone(self.window.picture.painting)
        seen = []
        self.window.rehearsal.at_mark.connect(lambda laid, total: seen.append((laid, total)))
        self.window.rehearsal.play("lights")
        self.wait(lambda: len(seen) > 5)
        self.assertEqual([laid for laid, _ in seen], sorted(laid for laid, _ in seen))
        self.window.rehearsal.stop()
        self.window.rehearsal.scrub(0.5)
        self.settle()
        self.assertAlmostEqual(self.window.foot.laid / self.window.foot.total, 0.5, delta=0.02)

        # Sheets, save, undo everything, do it again, reopen.
        pdf = self.dir / "sheets.pdf"
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(pdf), "PDF, A4 (*.pdf)")):
            self.key(Qt.Key.Key_P, CONTROL, self.window)
        self.settle()
        self.assertTrue(pdf.read_bytes().startswith(b"%PDF"))
        path = self.dir / "blob.foxpath"
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(path), "")):
            self.key(Qt.Key.Key_S, CONTROL, self.window)
            self.settle()
        self.assertTrue(self.session.saved)
        final = self.project
        while self.session.history.undo_words:
            self.key(Qt.Key.Key_Z, CONTROL, self.window)
        self.assertEqual((len(self.project.zones), len(self.project.combs), self.project.passes), (1, 0, {}))
        self.assertFalse(self.session.saved)
        while self.session.history.redo_words:
            self.key(Qt.Key.Key_Y, CONTROL, self.window)
        self.assertIs(self.project, final)
        self.assertTrue(self.session.saved)
        self.window.open_path(str(path))
        self.assertIsNot(self.project, final)
        self.assertEqual(self.project.zones, final.zones)
        self.assertEqual(self.project.passes, final.passes)
        self.assertEqual(archive.load(path).combs, final.combs)
