import json
from unittest import mock

import numpy as np
from PySide6.QtCore import Qt

from foxpath.core.units import CanvasSize
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.subjects import GROWTH
from foxpath.document import edits
from tests.coats import coat
from tests.made import quick
from tests.window.case import WindowCase


class GrowthStop(WindowCase):
    """The Growth stop on a picture with real hair."""

    @classmethod
    def setUpClass(cls):
        import io

        from PIL import Image

        made = coat("body", "clear", "none", seed=2)
        buffer = io.BytesIO()
        Image.fromarray(made.rgb).save(buffer, "PNG")
        project = edits.new_project(buffer.getvalue(), "body.png", CanvasSize(400, 300), "Body")
        flank = np.array([[260.0, 360], [620, 340], [700, 560], [600, 640], [300, 600]])
        haunch = np.array([[770.0, 420], [900, 340], [1060, 420], [1060, 640], [900, 690], [770, 620]])
        project, _ = edits.add_zone(project, "Near flank", "short-fur", flank)
        cls.start, _ = edits.add_zone(project, "Far flank", "short-fur", haunch)

    def setUp(self):
        super().setUp()
        self.session.start(quick(self.start), None, on_disk=True)
        self.window.open_stop("growth")
        self.settle()
        self.stop = self.window.stop
        self.flank, self.haunch = (z.id for z in self.project.zones[1:3])

    def field(self, zone):
        results, readings = self.session.results, self.readings()
        return growth_of(results, self.project, [z.id for z in readings.zones].index(zone))

    def test_root_ends_are_guessed_until_a_comb_says_them(self):
        readings = self.readings()
        self.assertEqual(readings.of(GROWTH).fields[self.flank].guessed_share, 1)
        self.assertIn("root and tip guessed", self.stop.words_at((450, 480)))
        self.drag((400, 470), (480, 490))
        readings = self.readings()
        self.assertEqual(readings.of(GROWTH).fields[self.flank].guessed_share, 0)
        self.assertGreater(readings.of(GROWTH).fields[self.flank].sure_share, 0.9)
        self.assertRegex(self.stop.words_at((550, 450)), r"toward [34] o'clock, \d+° below level, sure \(\d+ %\)")

    def test_a_comb_against_the_picture_is_kept_turned_or_let_go(self):
        self.drag((600, 420), (592, 540))
        self.settle()
        against = [f for f in self.session.readings.findings if "speaks against" in f.says]
        self.assertEqual(len(against), 1)
        self.stop.findings._rows[[r.finding for r in self.stop.findings._rows].index(against[0])]._links[
            0
        ].clicked.emit()
        self.assertIn("says otherwise", self.stop.against.words)
        self.stop.keep.clicked.emit()
        self.settle()
        self.assertTrue(self.project.combs[0].kept)
        self.assertFalse([f for f in self.session.readings.findings if "speaks against" in f.says])
        self.session.undo()
        self.settle()
        self.stop.swing.clicked.emit()
        self.settle()
        self.assertFalse([f for f in self.session.readings.findings if "speaks against" in f.says])
        (ax, ay), (bx, by) = self.project.combs[0].points[0], self.project.combs[0].points[-1]
        self.assertLess(abs(np.degrees(np.arctan((by - ay) / (bx - ax))) - 25), 20)

    def test_marks_are_drawn_changed_and_dropped_by_hand_and_key(self):
        self.key(Qt.Key.Key_3)
        self.assertEqual(self.stop.tool, "crown")
        self.drag((440, 480), (470, 485), (490, 480))
        mark = self.project.marks[0]
        self.assertEqual((mark.kind, mark.zone), ("crown", self.flank))
        self.assertAlmostEqual(mark.radius, 50, delta=2)
        self.key(Qt.Key.Key_Right, widget=self.stop.mark_turn)
        self.assertEqual(self.project.marks[0].turn_deg, 5)
        self.drag(mark.points[0], (mark.points[0][0] + 30, mark.points[0][1] - 10))
        moved = self.project.marks[0]
        self.assertAlmostEqual(moved.points[0][0] - mark.points[0][0], 30, delta=2)
        self.assertAlmostEqual(moved.radius, mark.radius, delta=1)
        self.window.picture.grab()
        self.key(Qt.Key.Key_Delete)
        self.assertEqual(self.project.marks, ())
        self.key(Qt.Key.Key_2)
        self.drag((350, 450), (450, 460), (560, 450))
        self.assertEqual(self.project.marks[0].kind, "parting")
        self.key(Qt.Key.Key_4)
        self.drag((900, 520), (930, 520))
        self.assertEqual((self.project.marks[1].kind, self.project.marks[1].zone), ("source", ""))
        self.assertTrue(self.field(self.haunch).rooted.any())
        self.session.undo()
        self.assertEqual(len(self.project.marks), 1)

    def test_what_was_found_is_offered_as_a_crown_to_keep(self):
        self.drag((960, 440), (1010, 440))
        self.settle()
        found = self.session.readings.of(GROWTH).fields[self.haunch].singular
        crowns = [one for one in found if one.crown]
        self.assertEqual(len(crowns), 1)
        self.assertLess(np.hypot(crowns[0].at[0] - 900, crowns[0].at[1] - 440), 25)
        row = next(r for r in self.stop.found.rows.rows if "crown" in r.name)
        self.stop.found.rows.chosen.emit(row.key)
        self.wait(lambda: not self.window.picture.flying())
        self.stop.found.keep.clicked.emit()
        self.assertEqual(self.project.marks[0].kind, "crown")
        self.assertAlmostEqual(self.project.marks[0].turn_deg, crowns[0].turn_deg, delta=0.1)
        self.settle()
        self.assertFalse([r for r in self.stop.found.rows.rows if r.key == row.key])

    def test_one_zone_follows_another(self):
        self.drag((400, 470), (480, 490))
        self.session.choose(zone=self.haunch)
        self.stop.follow.donor.clicked.emit()
        self.assertEqual(self.stop.follow.rows.rows[0].note, "its other side")
        self.stop.follow.rows.chosen.emit(self.flank)
        self.assertEqual((self.project.marks[0].kind, self.project.marks[0].source), ("donor", self.flank))
        self.assertTrue(self.field(self.haunch).rooted.all() or self.field(self.haunch).rooted.any())
        # Without the head's axes a mirror twin cannot be.
        self.stop.follow.twin.clicked.emit()
        self.stop.follow.rows.chosen.emit(self.flank)
        self.assertIn("midline", self.window.foot.said)

    def test_flow_lines_and_files(self):
        hairs = self.window.picture.overlay.image.copy()
        self.key(Qt.Key.Key_S)
        self.settle()
        self.assertNotEqual(self.window.picture.overlay.image, hairs)
        path = self.dir / "combs.json"
        path.write_text(json.dumps([[[400, 470], [480, 490]], [[5, 5], [40, 8]]]))
        self.stop.files.read_combs(path)
        self.assertEqual(len(self.project.combs), 1)
        self.assertIn("1 over no coat left out", self.window.foot.said)
        self.session.undo()
        self.assertFalse(self.project.combs)
        path.write_text("nonsense")
        self.stop.files.read_combs(path)
        self.assertIn("holds no combs", self.window.foot.said)
        target = str(self.dir / "growth")
        with mock.patch(
            "PySide6.QtWidgets.QFileDialog.getSaveFileName", return_value=(target, "Growth as arrays (*.npz)")
        ):
            self.stop.files.save.clicked.emit()
        self.settle()
        made = np.load(self.dir / "growth.npz")
        self.assertEqual(made["angle_deg"].shape, (900, 1200))
        self.assertTrue(np.isfinite(made["angle_deg"][480, 450]))


class EdgesOfThePhotograph(WindowCase):
    def test_plan_and_photograph_stand_side_by_side(self):
        import io

        import cv2
        from PIL import Image

        rgb = np.full((300, 400, 3), 70, np.uint8)
        cv2.ellipse(rgb, (200, 150), (110, 80), 0, 0, 360, (180, 170, 150), -1)
        soft = cv2.GaussianBlur(rgb, (0, 0), 4)
        buffer = io.BytesIO()
        Image.fromarray(soft).save(buffer, "PNG")
        made = edits.new_project(buffer.getvalue(), "oval.png", CanvasSize(400, 300))
        t = np.linspace(0, 2 * np.pi, 25)[:-1]
        outline = np.stack([200 + 110 * np.cos(t), 150 + 80 * np.sin(t)], axis=1)
        made, zone = edits.add_zone(made, "Ball", "skin", outline)
        self.session.start(quick(made), None, on_disk=True)
        self.window.open_stop("edges")
        self.readings()
        stop = self.window.stop
        self.session.choose(edge=(zone, made.zones[0].id))
        photo = next(row for row in stop.photo.rows if row.key == "photo")
        self.assertAlmostEqual(float(photo.right.split(" ")[0]), 2.563 * 4, delta=1.5)
        self.assertIn("reliable", photo.note)
        self.assertTrue(stop.making.words)
        stop.take.clicked.emit()
        choice = self.project.edge_choice(zone, made.zones[0].id)
        self.assertAlmostEqual(choice.width_mm, 2.563 * 4, delta=1.5)
        self.assertEqual(choice.grade, "lost")
        self.settle()
        self.assertFalse(stop.take.isVisibleTo(stop.panel))
        self.assertIn("as in the photograph", next(row for row in stop.photo.rows if row.key == "plan").note)
        self.session.undo()
        self.assertIsNone(self.project.edge_choice(zone, made.zones[0].id))
