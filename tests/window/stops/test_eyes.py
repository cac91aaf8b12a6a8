"""The Eyes stop driven as a painter would: a click in a pupil, a drag of a lid, whiskers, a drawing."""

import io
import unittest
from dataclasses import fields, replace
from unittest import mock

import numpy as np
from PIL import Image
from PySide6.QtCore import Qt

from foxpath.core.eyes import Ellipse, FoundEye
from foxpath.derive.eyes.steps import FindEye, Guessed
from foxpath.window.stops.eyes.overlay import handles_of
from tests import made
from tests.derive.eyes.test_eyes import MADE, project
from tests.window.case import WindowCase


class Eyes(WindowCase):
    def open(self, one):
        self.session.start(made.quick(one), None, on_disk=True)
        self.window.open_stop("eyes")
        self.readings()
        self.wait(lambda: bool(self.session.levels))
        return self.window.stop

    def test_one_click_finds_the_eye_and_undo_takes_it_away(self):
        one, _ = project()
        stop = self.open(replace(one, eyes=()))
        self.assertEqual(stop.reading(), "none marked yet")
        self.click(MADE.cx + 2, MADE.cy)
        self.wait(lambda: bool(self.project.eyes))
        eye = self.project.eyes[0]
        self.assertAlmostEqual(eye.iris.radius, MADE.r, delta=2)
        self.assertEqual(self.session.chosen["eye"], eye.id)
        self.readings()
        self.settle()
        self.assertEqual(len(stop.eyes.steps.images), 10)
        self.assertIn("mm across", stop.words_at((MADE.cx + 20, MADE.cy)))
        self.session.undo()
        self.assertEqual(self.project.eyes, ())

    def test_a_drag_from_the_middle_to_the_rim_says_how_large_it_is(self):
        one, _ = project()
        stop = self.open(replace(one, eyes=()))
        self.drag((MADE.cx, MADE.cy), (MADE.cx + 0.42 * MADE.r, MADE.cy))
        self.wait(lambda: bool(self.project.eyes))
        self.assertLess(self.project.eyes[0].iris.radius, 0.6 * MADE.r)
        self.session.undo()
        self.drag((MADE.cx, MADE.cy), (MADE.cx + MADE.r, MADE.cy))
        self.wait(lambda: bool(self.project.eyes))
        self.assertAlmostEqual(self.project.eyes[0].iris.radius, MADE.r, delta=2)
        self.assertFalse(stop.busy())

    def guess(self, stop, radius, doubts, others=()):
        """Let the finder answer this."""
        eyes = [Ellipse(MADE.cx, MADE.cy, r, r) for r in (radius, *others)]
        found = FoundEye(
            eyes[0], Ellipse(MADE.cx, MADE.cy, 0.4 * radius, 0.4 * radius), "round", (), (), (), 0.5, 0.0, ()
        )
        answers = [replace(found, iris=eye, others=tuple((o, 0.3) for o in eyes if o is not eye)) for eye in eyes]

        def answer(request, progress):
            nearest = min(answers, key=lambda one: abs(one.iris.radius - (request.radius or radius)))
            return Guessed(request.at, nearest, () if request.radius else doubts)

        with mock.patch.object(FindEye, "__call__", answer):
            self.click(MADE.cx, MADE.cy)
            self.wait(lambda: not self.session.runner.running("find eye"))
            yield stop.eyes

    def test_a_doubtful_eye_is_asked_about_and_taken_by_enter_or_dropped(self):
        one, _ = project()
        for key, taken in ((Qt.Key.Key_Return, 1), (Qt.Key.Key_Escape, 0)):
            stop = self.open(replace(one, eyes=()))
            for page in self.guess(stop, 90.0, ("It would be as large as the face.",)):
                self.assertEqual(self.project.eyes, ())
                self.assertEqual(page.next_step()[0], "Is this the eye?")
                self.assertIn("as large as the face", stop.next.reason)
                self.assertTrue(stop.busy())
                self.key(key)
                self.assertEqual(len(self.project.eyes), taken)
                self.assertFalse(stop.busy())

    def test_n_shows_the_next_size_and_leaves_nothing_of_the_first(self):
        one, _ = project()
        stop = self.open(replace(one, eyes=(), zones=tuple(z for z in one.zones if z.kind != "eye")))
        zones = len(self.project.zones)
        for page in self.guess(stop, 40.0, (), (18.0, 60.0)):
            self.assertAlmostEqual(self.project.eyes[0].iris.radius, 40)
            for radius in (18, 60, 40):
                self.key(Qt.Key.Key_N)
                self.wait(lambda: not self.session.runner.running("find eye"))
                self.assertAlmostEqual(self.project.eyes[0].iris.radius, radius)
                self.assertEqual((len(self.project.eyes), len(self.project.zones)), (1, zones + 1))
            self.session.undo()
            self.assertEqual(self.project.eyes, ())
            self.assertFalse(page.busy())

    def test_a_click_on_fur_says_what_to_do(self):
        one, _ = project()
        self.open(replace(one, eyes=()))
        said = []
        self.session.said.connect(lambda words, level: said.append((words, level)))
        self.click(14, 16)
        self.wait(lambda: any(level == "must" for _, level in said))
        self.assertIn("pupil", said[-1][0])
        self.assertEqual(self.project.eyes, ())

    def test_rim_clicks_lids_and_light_are_marked_by_hand(self):
        one, key = project()
        stop = self.open(one)
        self.key(Qt.Key.Key_2)
        for x, y in MADE.iris.at(np.array([0.1, 1.9, 3.3, 4.6])):
            self.click(float(x), float(y))
        self.assertTrue(stop.busy())
        self.key(Qt.Key.Key_Return)
        self.assertEqual(len(self.project.eye(key).rim), 4)
        self.key(Qt.Key.Key_3)
        self.click(MADE.cx + 20, MADE.cy - 12)
        self.assertAlmostEqual(self.project.eye(key).lights[0][0], MADE.cx + 20, delta=1.5)
        self.key(Qt.Key.Key_1)
        x, y = self.project.eye(key).upper[4]
        self.drag((x, y), (x, y - 6))
        self.assertAlmostEqual(self.project.eye(key).upper[4][1], y - 6, delta=1.5)
        self.assertEqual(self.session.history.undo_words, "the upper of an eye")

    def test_every_handle_moves_its_own_part_and_undo_brings_it_back(self):
        one, key = project()
        stop = self.open(one)
        self.window.picture.viewport.show((MADE.cx, MADE.cy), 4.0)
        self.window.picture.moved()
        start = self.project.eye(key)
        names = [handle[0] for handle in handles_of(start)]
        self.assertLessEqual({"middle", "light", "upper", "lower", "inner", "outer"}, set(names))
        for name in dict.fromkeys(names):
            x, y = next(handle[2] for handle in handles_of(start) if handle[0] == name)
            self.drag((x, y), (x + 5, y + 3))
            moved = self.project.eye(key)
            with self.subTest(name):
                self.assertNotEqual(moved, start)
                # Nothing but what was taken hold of has changed: an eye moves with its pupil, a corner with its lids.
                own = {"middle": {"iris", "pupil"}, "light": {"lights"}, "inner": {"inner", "upper", "lower"},
                       "outer": {"outer", "upper", "lower"}}.get(name, {name})  # fmt: skip
                changed = {f.name for f in fields(moved) if getattr(moved, f.name) != getattr(start, f.name)}
                self.assertLessEqual(changed, own)
                self.session.undo()
                self.assertEqual(self.project.eye(key), start)
        self.assertFalse(stop.busy())

    def test_a_half_made_rim_is_taken_back_click_by_click(self):
        one, key = project()
        stop = self.open(one)
        before = self.project.eye(key)
        self.key(Qt.Key.Key_2)
        for x, y in MADE.iris.at(np.array([0.3, 2.0])):
            self.click(float(x), float(y))
        for left in (True, False):
            self.window._undo()
            self.assertEqual(stop.busy(), left)
        self.assertEqual(self.project.eye(key), before)

    def test_the_light_is_decided_and_given_back(self):
        one, key = project()
        stop = self.open(one)
        stop.eyes.measures["hour"].changed.emit(2.0, False)
        self.assertEqual(self.project.eye(key).light.hour, 2.0)
        stop.eyes.way.chosen.emit("reserve")
        self.assertEqual(self.project.eye(key).light.way, "reserve")
        stop.eyes.measures["hour"].reset.emit()
        self.assertIsNone(self.project.eye(key).light.hour)

    def test_whiskers_are_drawn_moved_and_taken_back(self):
        one, _ = project()
        stop = self.open(one)
        stop.open_page("features")
        stop.features.add.clicked.emit("whiskers")
        self.drag((60, 170), (120, 176), (200, 190))
        (feature,) = self.project.features
        self.assertEqual(len(feature.strokes), 1)
        self.assertEqual(self.project.zones[-1].kind, "whisker")
        tip = feature.strokes[0].points[-1]
        self.drag(tip, (205, 170))
        self.assertAlmostEqual(self.project.features[0].strokes[0].points[-1][1], 170, delta=1.5)
        self.key(Qt.Key.Key_Delete)
        self.assertEqual(self.project.features[0].strokes, ())

    def test_a_drawing_is_opened_squared_up_and_read(self):
        one, _ = project()
        stop = self.open(one)
        stop.open_page("drawing")
        path = self.dir / "drawing.png"
        buffer = io.BytesIO()
        Image.fromarray(MADE.draw()).save(buffer, "PNG")
        path.write_bytes(buffer.getvalue())
        stop.drawing.open(path)
        self.assertEqual(stop.drawing.view_way.value, "corners")
        view = self.window.picture.viewport
        start = stop.drawing._corner_place(view, self.project.drawing.corners[0])
        a = view.to_reference(start)
        self.drag(a, (a[0] + 6, a[1] + 5))
        self.assertNotEqual(self.project.drawing.corners[0], (0.0, 0.0))
        self.key(Qt.Key.Key_Return)
        self.assertEqual(stop.drawing.view_way.value, "over")
        self.settle()
        self.assertTrue(stop.drawing._check.verdicts)
        stop.drawing._act("drop")
        self.assertIsNone(self.project.drawing)

    def test_a_file_that_is_no_picture_changes_nothing(self):
        one, _ = project()
        stop = self.open(one)
        stop.open_page("drawing")
        path = self.dir / "notes.jpg"
        path.write_text("not a picture")
        said = []
        self.session.said.connect(lambda words, level: said.append((words, level)))
        stop.drawing.open(path)
        self.assertIsNone(self.project.drawing)
        self.assertEqual(said[-1][1], "must")


if __name__ == "__main__":
    unittest.main()
