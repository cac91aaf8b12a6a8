"""The Practice stop, driven as a painter would: answers on the picture and by keys, weeks, other pictures, paper."""

import unittest
from datetime import timedelta

import numpy as np
from PIL import Image
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from foxpath.core.clock import now
from foxpath.core.practice.drill import made
from foxpath.core.practice.drills import drill_called
from foxpath.core.practice.paper import hand, paper_called
from foxpath.core.practice.paper.page import drawn
from foxpath.core.practice.weeks import Answered
from foxpath.derive.practice.keeping import WriteAnswers
from foxpath.derive.practice.paper import sheet_of
from foxpath.derive.practice.scenes import CANVAS
from foxpath.derive.progress import planned as planning
from foxpath.derive.progress.cameras import StandInCamera
from foxpath.document import edits
from foxpath.document import practice as kept
from foxpath.document.photos import kept_photo
from foxpath.window.stops.practice.ground import Ground
from tests.core.practice.test_paper import photograph
from tests.drilled import scene
from tests.made import project
from tests.window.case import WindowCase


class PracticeCase(WindowCase):
    def setUp(self):
        super().setUp()
        self.session.start(project(grain=0.04), None, on_disk=True)
        self.window.open_stop("practice")
        self.stop = self.window.studio.stops["practice"]
        self.settle()

    def begun(self, key, source=""):
        if source:
            self.stop.choose_source(source)
        self.stop.choose_drill(key)
        self.assertEqual(self.stop.next.button.words, "Begin")
        QTest.mouseClick(self.stop.next.button, Qt.MouseButton.LeftButton)
        self.asked()
        return self.stop.task

    def asked(self):
        self.wait(lambda: self.stop.task is not None and self.stop.score is None)
        self.settle()

    def told(self):
        self.wait(lambda: self.stop.score is not None)
        self.settle()
        return self.stop.score

    def truth(self):
        return drill_called(self.stop.task.drill).ideal(self.stop.task)

    def at(self, place):
        """A place of the task as a reference pixel."""
        return self.stop._ground.to_reference(tuple(place))


class Answering(PracticeCase):
    def test_a_hair_is_drawn_root_to_tip_and_told_with_its_error(self):
        task = self.begun("growth")
        self.assertIn("Spot 1 of 12", self.stop.next.sentence)
        self.assertFalse(self.stop.next.button.isVisible())
        self.assertIn("Which way", self.stop.asked.words)
        x, y = task.ask.at
        a = np.radians(self.truth() + 25)
        tip = (x + 40 * np.cos(a), y + 40 * np.sin(a))
        self.drag(self.at((x, y)), self.at(tip))
        score = self.told()
        self.assertLess(abs(score.seen[0].error - 25), 3)
        self.assertIn("25" if "25" in score.words else "° off", self.stop.next.reason)
        self.assertEqual(self.stop.hairs.count, 12)
        self.assertEqual(len(self.stop.hairs.words), 1)
        self.assertTrue(self.stop.hairs.isVisible())
        self.assertEqual(self.stop.reading(), "1 of 12 answered")
        self.assertEqual(self.stop.next.button.words, "Next")
        self.key(Qt.Key.Key_Return)
        self.asked()
        self.assertIn("Spot 2 of 12", self.stop.next.sentence)

    def test_a_mirrored_and_upside_down_picture_asks_for_the_same_hair(self):
        for turned in ("mirror", "upside"):
            self.stop.turned.chosen.emit(turned)
            task = self.begun("growth")
            x, y = task.ask.at
            a = np.radians(self.truth())
            self.drag(self.at((x, y)), self.at((x + 40 * np.cos(a), y + 40 * np.sin(a))))
            self.assertLess(self.told().seen[0].error, 4)
            self.assertTrue(self.session.chosen.mirrored if turned == "mirror" else self.session.chosen.upside_down)
            self.stop._act("stop")

    def test_by_keys_a_hair_is_turned_and_taken(self):
        self.begun("growth")
        self.assertIsNone(self.stop._answer.value)
        self.key(Qt.Key.Key_Right)
        self.assertEqual(self.stop._answer.value, -85)
        self.key(Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(self.stop._answer.value, -86)
        self.assertEqual(self.stop.next.button.words, "That is it")
        self.key(Qt.Key.Key_Return)
        self.assertAlmostEqual(self.told().seen[0].error, abs((-86 - self.truth() + 180) % 360 - 180), 3)

    def test_a_short_twitch_is_no_answer(self):
        task = self.begun("growth")
        x, y = self.at(task.ask.at)
        self.drag((x, y), (x + 3 / self.window.picture.viewport.scale, y))
        self.assertIsNone(self.stop.score)
        self.assertIsNone(self.stop._answer.value)

    def test_a_grey_is_set_on_the_strip_and_by_keys(self):
        task = self.begun("match")
        self.assertTrue(self.stop.dial.isVisible())
        self.assertEqual(self.stop.dial.value, task.ask.start)
        strip = self.stop.dial
        QTest.mouseClick(strip, Qt.MouseButton.LeftButton, pos=QPointF(6 + 0.25 * (strip.width() - 12), 40).toPoint())
        self.assertLess(abs(self.stop._answer.value - 25), 1)
        value = self.stop._answer.value
        self.key(Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
        self.key(Qt.Key.Key_Up)
        self.assertAlmostEqual(self.stop._answer.value, value + 1 - 5, 5)
        self.stop.go()
        score = self.told()
        self.assertAlmostEqual(score.seen[0].error, abs(value - 4 - task.truth["L"]), 2)
        self.assertAlmostEqual(strip.true, task.truth["L"])
        before = self.stop._answer.value
        QTest.mouseClick(strip, Qt.MouseButton.LeftButton, pos=QPointF(200, 40).toPoint())
        self.assertEqual(self.stop._answer.value, before)

    def test_one_of_four_spots_is_clicked_or_chosen_by_its_number(self):
        task = self.begun("relation")
        true = self.truth()
        wrong = (true + 1) % 4
        middle = np.mean([task.ask.places[true], task.ask.places[wrong]], axis=0)
        away = np.hypot(*(np.array(task.ask.places) - middle).T).min() * self.stop._ground.px(
            self.window.picture.viewport
        )
        if away > 60:
            self.click(*self.at(middle))
            self.assertIsNone(self.stop.score)
        self.click(*self.at(task.ask.places[wrong]))
        self.assertEqual(self.told().share, 0)
        self.stop.go()
        self.asked()
        self.key(Qt.Key(Qt.Key.Key_1 + self.truth()))
        self.assertEqual(self.told().share, 1)
        self.assertEqual(self.stop.hairs.words, ["no", "yes"])

    def test_words_are_chosen_in_the_bench(self):
        task = self.begun("repair")
        self.assertEqual(self.stop.options.options, task.ask.options)
        box, _ = self.stop.options._boxes()[self.truth()]
        QTest.mouseClick(self.stop.options, Qt.MouseButton.LeftButton, pos=box.center().toPoint())
        self.assertEqual(self.told().share, 1)
        self.assertEqual((self.stop.options.true, self.stop.options.mine), (self.truth(), self.truth()))

    def test_spots_are_sorted_by_clicks_and_numbers(self):
        task = self.begun("strength")
        true = self.truth()
        self.assertFalse(self.stop._answer.ready)
        for k, place in enumerate(task.ask.places):
            if k % 2:
                for _ in range(true[k] + 1):
                    self.click(*self.at(place))
            else:
                self.stop._answer._item = k
                self.key(Qt.Key(Qt.Key.Key_1 + true[k]))
        self.assertEqual(tuple(self.stop._answer.value), tuple(true))
        self.stop.go()
        self.assertEqual(self.told().share, 1)

    def test_places_are_clicked_taken_back_and_set(self):
        task = self.begun("lights", "demo:fox")
        true = self.truth()
        self.click(*self.at((task.ask.room[0] + 9, task.ask.room[1] + 9)))
        self.assertEqual(len(self.stop._answer.value), 1)
        self.key(Qt.Key.Key_Backspace)
        self.assertIsNone(self.stop._answer.value)
        for place in true:
            self.click(*self.at(place))
        self.assertIn("Enter", self.stop.hint.words)
        self.key(Qt.Key.Key_Return)
        self.assertEqual(self.told().share, 1)

    def test_strokes_of_the_big_brush_are_laid(self):
        task = self.begun("big")
        h, w = task.picture.shape[:2]
        self.drag(self.at((0.2 * w, 0.2 * h)), self.at((0.6 * w, 0.2 * h)))
        self.drag(self.at((0.2 * w, 0.7 * h)), self.at((0.6 * w, 0.7 * h)))
        self.assertEqual(len(self.stop._answer.value), 2)
        self.window._undo()
        self.assertEqual(len(self.stop._answer.value), 1)
        self.stop.go()
        self.assertIsNotNone(self.told().picture)
        self.assertIsNotNone(self.stop._images[1])


class Going(PracticeCase):
    def test_a_drill_goes_to_its_end_and_stands_in_the_weeks(self):
        self.begun("window")
        for k in range(8):
            self.key(Qt.Key(Qt.Key.Key_1 + self.truth()))
            self.told()
            self.assertEqual(len(self.stop.hairs.scores), k + 1)
            self.stop.go()
            if k < 7:
                self.asked()
        self.wait(lambda: self.stop._weeks is not None and "window" in self.stop._weeks.standings)
        self.settle()
        self.assertFalse(self.stop.running)
        self.assertEqual(len(kept.answers()), 8)
        self.assertTrue(self.stop.weeks_plot.isVisible())
        self.assertIn("One sitting", self.stop.change.words)
        row = next(r for r in self.stop.list.rows if r.key == "window")
        self.assertRegex(row.right, r"×\d")
        self.assertEqual(self.stop.state(), "ready")
        self.assertEqual(len({one.seed for one in kept.answers()}), 8)

    def test_escape_stops_it_and_what_was_answered_stays(self):
        self.begun("window")
        self.key(Qt.Key.Key_1)
        self.told()
        self.stop.go()
        self.asked()
        QTest.keyClick(self.window, Qt.Key.Key_Escape)
        self.settle()
        self.assertFalse(self.stop.running)
        self.assertIsNone(self.stop.task)
        self.assertEqual(len(kept.answers()), 1)
        self.assertTrue(self.stop.list.isVisible())

    def test_another_stop_ends_it_and_nothing_is_in_the_way(self):
        before = self.project
        self.begun("match")
        self.window.open_stop("growth")
        self.settle()
        self.assertFalse(self.stop.running)
        self.assertIs(self.project, before)
        self.assertTrue(self.session.saved)

    def test_what_cannot_be_made_here_is_said_with_what_to_do(self):
        self.stop.choose_drill("midline")
        self.stop.go()
        self.wait(lambda: "cannot be made" in self.stop.next.sentence)
        self.assertIn("both eyes", self.stop.next.reason)
        self.assertFalse(self.stop.running)
        self.stop.choose_drill("match")
        self.assertNotIn("cannot", self.stop.next.sentence)

    def test_size_follows_the_painter(self):
        day = now().date() - timedelta(days=3)
        kept.add([Answered(f"{day}T19:{k:02d}", "relation", k, right=True, size=2.0, choices=4) for k in range(30)])
        self.stop.enter()
        self.wait(lambda: self.stop._weeks is not None and self.stop._weeks.answers)
        self.assertLess(self.begun("relation", "demo:fox").size, 3.2)

    def test_own_errors_lead_the_advice_and_weeks_are_told(self):
        day = now().date()
        rows = []
        for k, back in enumerate((60, 30, 2)):
            rows += [
                Answered(
                    f"{day - timedelta(days=back)}T19:{n:02d}",
                    "growth",
                    n,
                    right=True,
                    error=float(30 / 2**k + n % 3),
                    picture="Blob",
                )
                for n in range(20)
            ]
        kept.add(rows)
        self.stop.enter()
        self.wait(lambda: self.stop._weeks is not None and self.stop._weeks.answers)
        self.settle()
        self.assertTrue(self.stop.weeks_plot.isVisible())
        self.assertEqual(len(self.stop.weeks_plot.days), 3)
        self.assertRegex(self.stop.change.words, "better|times as good")
        self.assertTrue(self.stop.advice.rows)
        self.assertIn("days", self.stop.change.words)
        path = self.dir / "weeks.csv"
        self.session.write(WriteAnswers(path))
        self.wait(lambda: path.exists() and path.read_text("utf-8").count("\n") == 61)

    def test_answers_are_forgotten_only_when_asked_twice(self):
        kept.add(
            [
                Answered("2026-03-01T19:00", "growth", 1, right=True, error=3.0),
                Answered("2026-03-01T19:00", "edge", 1, right=True, size=2.0, choices=4),
            ]
        )
        self.stop.enter()
        self.wait(lambda: self.stop._weeks is not None and self.stop._weeks.answers)
        self.stop._act("forget")
        self.assertEqual(len(kept.answers()), 2)
        self.stop.question.buttons["keep"].clicked.emit()
        self.settle()
        self.assertEqual(len(kept.answers()), 2)
        self.stop._act("forget")
        self.stop.question.buttons["one"].clicked.emit()
        self.wait(lambda: len(kept.answers()) == 1)
        self.assertEqual(kept.answers()[0].drill, "edge")

    def test_a_damaged_file_is_said_and_practice_goes_on(self):
        kept.place().parent.mkdir(parents=True, exist_ok=True)
        kept.place().write_bytes(b"words\n")
        self.stop.enter()
        self.wait(lambda: "damaged" in self.stop.next.reason)
        self.assertEqual(kept.place().read_bytes(), b"words\n")


class Lying(PracticeCase):
    def test_a_task_of_this_painting_lies_on_it_and_needs_no_picture_of_its_own(self):
        task = self.begun("growth")
        ground = self.stop._ground
        self.assertTrue(ground.bare)
        x, y = ground.to_reference(task.ask.at)
        self.assertAlmostEqual(ground.to_task((x, y))[0], task.ask.at[0], 6)
        scale = self.project.crop.width / task.picture.shape[1]
        self.assertAlmostEqual(x, self.project.crop.x + task.ask.at[0] * scale, 6)
        self.assertTrue(self.stop.ruled)

    def test_another_picture_lies_true_to_scale_and_its_own_picture_is_shown(self):
        task = self.begun("match", "demo:jay")
        ground = self.stop._ground
        self.assertFalse(ground.bare)
        self.assertIsNotNone(self.stop._images[0])
        a, b = ground.to_reference((0, 0)), ground.to_reference((100, 0))
        self.assertAlmostEqual((b[0] - a[0]) * self.project.mm_per_px, 100 / task.px_per_mm, 6)

    def test_the_photographed_canvas_is_shown_and_not_the_reference_it_was_painted_from(self):
        painting, results = self.project, self.session.results
        after = planning.painted_passes(results, painting)[-1].role.key
        shot = StandInCamera(results, painting, after, 5, 2, 1200, cut=False, glare=False).new()[0]
        self.session.edit(lambda p: edits.add_photo(p, kept_photo(shot.name, shot.data), now(), after)[0], "photograph")
        self.settle()
        task = self.begun("match", CANVAS)
        ground = self.stop._ground
        self.assertTrue(ground.own)
        self.assertFalse(ground.bare)
        image = self.stop._images[0]
        self.assertEqual((image.width(), image.height()), task.picture.shape[1::-1])
        x, _y = ground.to_reference(tuple(task.truth["at"]))
        crop = self.project.crop
        self.assertAlmostEqual((x - crop.x) / crop.width, task.truth["at"][0] / task.picture.shape[1], 6)

    def test_while_r_is_held_faults_are_looked_at_beside_the_reference_and_only_they(self):
        self.begun("match")
        self.assertFalse(self.stop.compares)
        self.key(Qt.Key.Key_Escape, widget=self.window)
        self.stop.choose_drill("critique")
        self.stop._begun = now()
        self.stop._take_task(made(drill_called("critique"), scene(), 0))
        self.assertIn("Hold R", self.stop.hint.words)
        asked = self.window.picture.grab().toImage()
        self.window.picture.setFocus()
        QTest.keyPress(self.window.picture, Qt.Key.Key_R)
        held = self.window.picture.grab().toImage()
        QTest.keyRelease(self.window.picture, Qt.Key.Key_R)
        again = self.window.picture.grab().toImage()
        self.assertNotEqual(asked, held)
        self.assertEqual(asked, again)
        middle = held.rect().center()
        self.stop._end()
        self.stop.picture.update()
        self.assertEqual(held.pixelColor(middle), self.window.picture.grab().toImage().pixelColor(middle))

    def test_a_sheet_of_swatches_has_no_rulers_of_the_canvas(self):
        task = self.begun("pile")
        self.assertFalse(self.stop.ruled)
        ground = Ground(task, self.project, own=True, reference=True)
        crop = self.project.crop
        self.assertLessEqual(ground.crop.width, 0.9 * crop.width + 1e-6)
        self.assertAlmostEqual(ground.crop.x + ground.crop.width / 2, crop.x + crop.width / 2, 6)

    def test_all_but_the_ring_steps_back(self):
        task = self.begun("growth")
        image = self.window.picture.grab().toImage()
        view = self.window.picture.viewport
        x, y, radius = task.ring
        at = self.stop._ground.on_screen(view, (x, y))
        out = 1.25 * radius * self.stop._ground.px(view)

        def light(dx, dy):
            colour = image.pixelColor(round(at.x() + dx), round(at.y() + dy))
            return colour.lightnessF()

        inside = np.mean([light(18 * dx, 18 * dy) for dx, dy in ((1, 1), (-1, 1), (1, -1), (-1, -1))])
        outside = np.mean(
            [light(out * dx, out * dy) for dx, dy in ((0.8, 0.6), (-0.8, 0.6), (0.8, -0.6), (-0.8, -0.6))]
        )
        self.assertLess(outside, inside - 0.03)

    def test_what_lies_under_the_pointer_is_not_told_while_it_is_asked(self):
        self.begun("growth")
        self.assertEqual(self.stop.words_at((80.0, 70.0)), "")


class Paper(PracticeCase):
    def test_a_sheet_is_written_photographed_and_measured(self):
        self.stop.choose_drill("hand")
        self.assertTrue(self.stop.paper.isVisible())
        self.assertEqual(self.stop.next.button.words, "Print …")
        self.stop.paper.paper.chosen.emit("Letter")
        first, second = self.dir / "a.pdf", self.dir / "b.pdf"
        self.stop.paper.write_to(first)
        self.wait(first.exists)
        self.settle()
        self.stop.paper.write_to(second)
        self.wait(second.exists)
        self.settle()
        self.assertIn(b"612 792", first.read_bytes())
        self.assertNotEqual(first.read_bytes(), second.read_bytes())
        self.photographed()
        read = self.stop.paper.last
        self.assertEqual([m.number for m in read.measured], [1])
        self.assertEqual(self.stop.paper.rows.rows[0].right, f"{read.measured[0].error:.1f} mm")
        self.wait(lambda: len(kept.answers()) == 1)
        self.assertEqual(kept.answers()[0].drill, "hand")
        self.assertFalse(self.stop.ruled)
        self.assertEqual(len(self.stop.paper.marks()), 1)
        self.stop.paper.rows._take(0)
        self.assertEqual(self.stop.paper.marks()[0].kind, "ring")

    def photographed(self):
        import cv2

        sheet = drawn(sheet_of(paper_called("hand"), None, 31, "A4"), 12)
        one = hand.targets(hand.Paper(0, 31, 210, 297))[0]
        at = np.round(np.array(hand.outline(one, one.root)) * 12 * 16).astype(np.int32)
        cv2.fillPoly(sheet, [at], (60, 40, 30), cv2.LINE_AA, 4)
        path = self.dir / "shot.jpg"
        Image.fromarray(photograph(sheet, 2)).save(path, quality=93)
        self.stop.paper.open_photo(path)
        self.wait(lambda: self.stop.paper.last is not None)
        self.settle()

    def test_a_photograph_without_a_sheet_is_refused_with_what_to_do(self):
        self.stop.choose_drill("hand")
        path = self.dir / "other.png"
        Image.fromarray(np.full((400, 300, 3), 128, np.uint8)).save(path)
        self.stop.paper.open_photo(path)
        self.wait(lambda: "corner marks" in self.stop.next.reason)
        self.stop.paper.open_photo(self.dir / "none.png")
        self.wait(lambda: "none.png" in self.stop.next.reason)


if __name__ == "__main__":
    unittest.main()
