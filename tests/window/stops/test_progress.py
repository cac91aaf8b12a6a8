"""The Progress stop, driven as a painter would: a photograph opened, corners dragged, words said, what is held over the canvas."""

import tempfile
from pathlib import Path
from unittest import main, mock

import numpy as np
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest

from foxpath.core.errors import InputError
from foxpath.core.progress.touches import OWN
from foxpath.derive import Results
from foxpath.derive.progress import planned as planning
from foxpath.derive.progress.cameras import StandInCamera
from foxpath.document import archive, edits
from foxpath.window.stops.progress.overlay import discs
from tests.made import picture, project
from tests.window.case import WindowCase, on_grids


class ProgressCase(WindowCase):
    @classmethod
    def setUpClass(cls):
        with on_grids(cls.coarser):
            made, results = project(), Results(cls.remembered)
            after = planning.painted_passes(results, made)[-1].role.key
            camera = StandInCamera(results, made, after, 5, 3, 1200, cut=False, glare=False)
            cls.data = camera.new()[0].data
            cls.true = camera.corners
            later = StandInCamera(results, made, after, 6, 0, 1200, cut=False, glare=False)
            cls.later = later.new()[0].data

    def setUp(self):
        super().setUp()
        self.session.start(project(), None, on_disk=True)
        self.window.open_stop("progress")
        self.stop = self.window.studio.stops["progress"]
        self.settle()

    def photographed(self):
        path = self.dir / "canvas.jpg"
        path.write_bytes(self.data)
        self.stop.add_file(path)
        self.wait(lambda: self.stop.read is not None, 90)
        self.settle()
        return self.stop.read


class Photographs(ProgressCase):
    def test_before_a_photograph_the_stop_says_how_to_take_one(self):
        self.assertIn("Photograph the canvas", self.stop.next.sentence)
        self.assertFalse(self.stop.list_page.isVisible())
        self.assertEqual(self.stop.state(), "no")
        self.assertIsNone(self.stop.own_picture(""))

    def test_a_photograph_is_squared_shown_and_judged(self):
        read = self.photographed()
        off = np.hypot(*(read.looked.corners - self.true).T) / read.looked.px_per_mm
        self.assertLess(off.max(), 1.5)
        np.testing.assert_array_equal(self.window.picture._painting_rgb, read.looked.rgb)
        self.assertEqual(len(self.stop.rows.rows) + len(self.stop.below.rows), len(read.entries))
        self.assertEqual(self.stop.reading().lower(), read.words().lower())
        self.assertEqual(self.stop.open_role(), read.looked.after)
        self.assertTrue(self.stop.agrees.rows)

    def test_keys_hold_the_plan_and_the_reference_over_it(self):
        read = self.photographed()
        self.window.picture.setFocus()
        QTest.keyPress(self.window.picture, Qt.Key.Key_B)
        np.testing.assert_array_equal(self.window.picture._painting_rgb, read.looked.plan)
        QTest.keyRelease(self.window.picture, Qt.Key.Key_B)
        np.testing.assert_array_equal(self.window.picture._painting_rgb, read.looked.rgb)
        QTest.keyPress(self.window.picture, Qt.Key.Key_R)
        self.assertIsNone(self.window.picture._painting_rgb)
        QTest.keyRelease(self.window.picture, Qt.Key.Key_R)
        self.stop.over.chosen.emit("plan")
        np.testing.assert_array_equal(self.window.picture._painting_rgb, read.looked.plan)

    def test_a_picture_of_something_else_is_refused_with_what_to_do(self):
        path = self.dir / "other.png"
        path.write_bytes(picture(900, 700))
        self.stop.add_file(path)
        self.wait(lambda: self.stop._failed != "", 90)
        self.assertIn("cannot be used", self.stop.next.sentence)
        self.stop.next.asked.emit()
        self.assertTrue(self.stop.photo_page.isVisible())
        # Corners stand ready to be dragged.
        self.assertEqual(len(self.stop.photo_page.corners._corners), 4)
        broken = self.dir / "broken.jpg"
        broken.write_bytes(b"nothing")
        self.stop.add_file(broken)
        self.settle()
        self.assertEqual(len(self.project.photos), 1)

    def test_a_corner_is_dragged_and_found_again(self):
        self.photographed()
        self.stop.open_page("photo")
        self.app.processEvents()
        view = self.stop.photo_page.corners
        start = view._at(view._corners[0])
        QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start.toPoint())
        QTest.mouseMove(view, start.toPoint() + QPoint(9, 6))
        self.app.processEvents()
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=start.toPoint() + QPoint(9, 6))
        photo = self.project.photos[0]
        self.assertEqual(len(photo.corners), 4)
        self.assertGreater(photo.corners[0][0], self.true[0][0] + 10)
        self.wait(lambda: self.stop.read is not None and self.stop.read.looked.way == "corners", 90)
        view.setFocus()
        QTest.keyClick(view, Qt.Key.Key_Space)
        self.assertEqual(view.touched, 1)
        before = self.project.photos[0].corners[1][0]
        QTest.keyClick(view, Qt.Key.Key_Right)
        self.assertGreater(self.project.photos[0].corners[1][0], before)
        self.stop.photo_page.photo_acts.clicked.emit("find")
        self.assertEqual(self.project.photos[0].corners, ())
        self.settle()

    def test_a_grey_card_is_clicked_and_taken_away(self):
        self.photographed()
        self.stop.open_page("photo")
        self.app.processEvents()
        self.stop.photo_page.photo_acts.clicked.emit("card")
        box = self.stop.photo_page.corners.box()
        QTest.mouseClick(
            self.stop.photo_page.corners,
            Qt.MouseButton.LeftButton,
            pos=QPointF(box.left() + 6, box.center().y()).toPoint(),
        )
        spot = self.project.photos[0].spots[0]
        self.assertAlmostEqual(spot.at[0], 6 / box.width() * 1200, delta=8)
        self.wait(lambda: self.stop.read is not None and self.stop.read.looked.by == "spot", 90)
        self.stop.photo_page.photo_acts.clicked.emit("no card")
        self.assertEqual(self.project.photos[0].spots, ())
        self.settle()

    def test_a_dry_pile_that_was_looked_at_is_chosen_and_clicked_and_what_lies_round_is_said(self):
        self.photographed()
        self.stop.open_page("photo")
        self.app.processEvents()
        page = self.stop.photo_page
        self.assertFalse(page.known.isVisibleTo(page))
        fawn = (62.0, 9.0, 24.0)

        def mixed(p):
            p, key = edits.start_pile(p, "fawn", fawn, (("PY43", 3.0), ("PW6", 6.0)), 6.0, "2026-11-02")
            return edits.look_at_pile(p, key, (60.0, 10.0, 22.0))

        self.session.edit(mixed, "a pile")
        self.settle()
        self.wait(lambda: page.known.isVisibleTo(page), 90)
        page.known.chosen.emit(self.project.mixes.mixed[-1].id)
        self.assertTrue(page.corners.asks)
        box = page.corners.box()
        where = QPointF(box.left() + 8, box.center().y()).toPoint()
        QTest.mouseClick(page.corners, Qt.MouseButton.LeftButton, pos=where)
        self.assertEqual([one.lab for one in self.project.photos[0].spots], [(60.0, 10.0, 22.0)])
        page.photo_acts.clicked.emit("no card")
        page.border.chosen.emit("white")
        self.assertEqual(self.project.photos[0].border, "white")
        self.assertRaises(InputError, edits.change_photo, self.project, self.project.photos[0].id, border="velvet")
        # The wall behind this one is no tape: it says so, and the photograph stays.
        self.wait(lambda: self.stop._failed or self.stop.read is not None, 90)
        self.settle()

    def test_which_pass_was_done_can_be_said(self):
        self.photographed()
        self.stop.open_page("photo")
        first = self.stop.photo_page.after.rows[3].key
        self.stop.photo_page.after.chosen.emit(first)
        self.assertEqual(self.project.photos[0].after, first)
        self.wait(lambda: self.stop.read is not None or self.stop._failed, 90)
        self.settle()

    def test_two_photographs_have_a_trend_and_the_one_before_can_be_held(self):
        self.photographed()
        path = self.dir / "later.jpg"
        path.write_bytes(self.later)
        with mock.patch("foxpath.derive.progress.cameras.now", lambda: __import__("datetime").datetime(2031, 1, 1, 9)):
            self.stop.add_file(path)
            self.wait(lambda: len(self.project.photos) == 2)
        self.wait(lambda: len(self.stop._reads) == 2, 120)
        self.stop.open_page("trend")
        self.app.processEvents()
        self.assertTrue(any("→" in row.note for row in self.stop.trend_page.trend.rows))
        earlier = self.stop.before
        self.assertEqual(earlier.photo.id, self.project.photos[0].id)
        np.testing.assert_array_equal(self.stop.own_picture("earlier"), earlier.looked.rgb)
        self.stop.show_photo(self.project.photos[0].id)
        self.wait(lambda: self.stop.read is not None, 60)
        self.stop.open_page("photo")
        self.stop.photo_page.photo_acts.clicked.emit("remove")
        self.assertEqual(len(self.project.photos), 1)
        self.settle()

    def test_a_watched_folder_brings_its_photographs(self):
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            self.stop.watch(folder)
            (folder / "arrived.jpg").write_bytes(self.data)
            for _ in range(3):
                self.stop._look_in_folder()
                self.wait(lambda: not self.session.runner.running("watch"))
            self.wait(lambda: bool(self.project.photos))
            self.assertEqual([one.reference.name for one in self.project.photos], ["arrived.jpg"])
            self.wait(lambda: self.stop.read is not None, 90)
        self.settle()
        self.stop._look_in_folder()
        self.wait(lambda: self.stop.camera is None)
        self.assertIsNone(self.stop.camera)
        self.assertFalse(self.stop._watch.isActive())

    def test_the_stand_in_takes_one_without_a_canvas(self):
        self.stop._stand_in = 5
        self.stop.add.clicked.emit("stand")
        self.wait(lambda: bool(self.project.photos), 90)
        self.wait(lambda: self.stop.read is not None or self.stop._failed, 90)
        self.settle()


class Words(ProgressCase):
    def setUp(self):
        super().setUp()
        self.photographed()

    def choose_first(self):
        self.stop._choose("1")
        return self.stop.entry

    def test_said_and_taken_back_and_undone(self):
        entry = self.choose_first()
        self.stop.acts.clicked.emit("leave")
        self.settle()
        self.assertEqual(self.stop.entry.word, "leave")
        self.assertEqual((self.project.touches[0].kind, self.project.touches[0].word), (entry.kind, "leave"))
        self.stop.acts.clicked.emit("leave")
        self.settle()
        self.assertEqual(self.project.touches, ())
        self.session.undo()
        self.assertEqual(self.project.touches[0].word, "leave")
        self.settle()

    def test_keys_step_through_the_list_and_say_words(self):
        self.window.picture.setFocus()
        self.stop._entry = ""
        QTest.keyClick(self.window.picture, Qt.Key.Key_N)
        self.assertEqual(self.stop._entry, "1")
        QTest.keyClick(self.window.picture, Qt.Key.Key_K)
        self.settle()
        self.assertEqual(self.project.touches[0].word, "leave")

    def test_a_number_on_the_canvas_chooses_its_entry(self):
        view = self.window.picture.viewport
        per_mm = view.scale / self.project.mm_per_px
        placed = discs(self.stop._numbered(), view, per_mm)
        self.assertTrue(placed)
        for k, (_, a) in enumerate(placed):
            for _, b in placed[k + 1 :]:
                self.assertGreater(np.hypot(a.x() - b.x(), a.y() - b.y()), 20)
        entry, at = placed[-1]
        QTest.mouseClick(self.window.picture, Qt.MouseButton.LeftButton, pos=at.toPoint())
        self.assertEqual(self.stop._entry, str(entry.number))

    def test_own_entries_join_the_list_at_the_chosen_part(self):
        zone = next(z.id for z in self.project.zones if z.name == "Square")
        self.session.choose(zone=zone)
        self.stop.own.setFocus()
        QTest.keyClicks(self.stop.own, "the chin is too heavy")
        QTest.keyClick(self.stop.own, Qt.Key.Key_Return)
        self.settle()
        touch = self.project.touches[0]
        self.assertEqual((touch.kind, touch.zone, touch.text), (OWN, zone, "the chin is too heavy"))
        self.assertIn("the chin is too heavy", [one.says for one in self.stop.read.entries])

    def test_what_is_open_goes_to_days_and_the_easel(self):
        self.stop.add_own("the chin is too heavy")
        self.settle()
        many = len(self.stop.read.open if self.stop.read.stop == "rework" else self.stop.read.open[:3])
        self.stop._sheet("easel")
        self.assertEqual(self.session.chosen.stop, "easel")
        todo = [one for one in self.project.touches if one.word == "todo"]
        self.assertGreaterEqual(len(todo), max(1, min(many, 3)))
        self.settle()

    def test_an_area_drawn_round_is_left_alone(self):
        view = self.window.picture.viewport
        places = [view.at(one).toPoint() for one in ((70.0, 50.0), (100.0, 50.0), (100.0, 80.0), (70.0, 82.0))]
        shift = Qt.KeyboardModifier.ShiftModifier
        QTest.mousePress(self.window.picture, Qt.MouseButton.LeftButton, shift, places[0])
        for place in places[1:]:
            QTest.mouseMove(self.window.picture, place)
            self.app.processEvents()
        QTest.mouseRelease(self.window.picture, Qt.MouseButton.LeftButton, shift, places[-1])
        self.assertEqual(len(self.project.left_alone), 1)
        self.stop.open_page("photo")
        self.stop.photo_page.alone_acts.clicked.emit("again")
        self.assertEqual(self.project.left_alone, ())
        self.settle()

    def test_the_foot_says_canvas_and_plan(self):
        words = self.stop.words_at((85.0, 90.0))
        self.assertIn("canvas L*", words)
        self.assertIn("plan L*", words)

    def test_the_list_is_written(self):
        with tempfile.TemporaryDirectory() as name:
            self.stop.write_to(Path(name))
            self.settle()
            self.assertEqual(
                {one.name for one in Path(name).iterdir()}, {"squared.png", "progress.json", "touch-ups.pdf"}
            )

    def test_everything_is_saved_and_comes_back(self):
        self.choose_first()
        self.stop.say("struck")
        path = self.dir / "a.foxpath"
        archive.save(self.project, path)
        back = archive.load(path)
        self.assertEqual((back.touches, len(back.photos)), (self.project.touches, 1))
        self.settle()


if __name__ == "__main__":
    main()
