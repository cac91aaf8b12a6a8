"""The easel, driven as with wet hands: a whole sitting by keys, with a clock that the test holds."""

import os
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from unittest import main, mock

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest

from foxpath.core.log.easel import REMINDERS
from foxpath.core.log.reading import carried_over, open_sitting, sittings, step_now
from foxpath.core.log.room import air_now
from foxpath.core.passes import Logged
from foxpath.document import archive, calendars, edits, errors, paces
from foxpath.window.easel import paint
from foxpath.window.easel.clock import Clock
from foxpath.window.easel.paint import fitted, left_words, scale_of
from foxpath.window.easel.view import EVERY_KEY, KEYS
from tests.made import picture, project, quick
from tests.window.case import WindowCase

BEGIN = datetime(2026, 3, 2, 19, 0)


class EaselCase(WindowCase):
    def setUp(self):
        super().setUp()
        self.enterContext(mock.patch.dict(os.environ, {"FOXPATH_NOW": f"{BEGIN.isoformat()}"}))
        self.moment = BEGIN
        made = edits.set_days(quick(project()), start="2026-03-02", prepared=True)
        self.session.start(made, None, on_disk=True)
        self.window.open_stop("easel")
        self.stop = self.window.studio.stops["easel"]
        self.stop.full = False
        self.read()

    def read(self):
        self.readings()
        self.settle()
        self.readings()

    def after(self, minutes):
        """Let minutes go by; the view looks at the clock."""
        self.moment += timedelta(minutes=minutes)
        os.environ["FOXPATH_NOW"] = self.moment.isoformat()
        if self.stop.view.isVisible():
            self.stop.view.hand.tick()

    def open(self):
        self.stop.next.asked.emit()
        self.app.processEvents()
        return self.stop.view

    def press(self, key, modifiers=Qt.KeyboardModifier.NoModifier):
        self.key(key, modifiers, widget=self.stop.view)

    def ready(self):
        """Begin the sitting, and confirm the look before a fine brush."""
        view = self.open()
        self.press(Qt.Key.Key_Space)
        if view.hand.gate:
            self.press(Qt.Key.Key_Space)
        return view


class Sitting(EaselCase):
    def test_a_whole_sitting_by_keys(self):
        view = self.open()
        self.assertTrue(view.isVisible())
        hand, many = view.hand, len(self.stop.close.steps)
        self.assertEqual((hand.page, hand.going), ("first", False))
        self.press(Qt.Key.Key_Space)
        self.assertTrue(hand.going)
        self.assertEqual(step_now(self.project.told).step, hand.steps[0].key)
        done = []
        while hand.page == "step":
            if hand.gate or hand.reminder:
                self.press(Qt.Key.Key_PageDown)
                continue
            done.append(hand.step.key)
            self.after(3)
            self.press(Qt.Key.Key_PageDown if len(done) % 2 else Qt.Key.Key_Space)
            view.grab()
        self.assertEqual(done, [one.key for one in hand.steps])
        self.assertEqual(hand.page, "end")
        self.press(Qt.Key.Key_Space)
        self.assertFalse(view.isVisible())
        (one,) = sittings(self.project.told)
        self.assertFalse(one.open)
        self.assertEqual([step.how for step in one.steps], ["done"] * many)
        self.assertEqual(one.minutes, 3.0 * many)
        self.assertEqual({row.task for row in self.project.days.done}, {step.task for step in hand.steps})
        self.read()
        self.assertEqual(self.stop.reading(), "1 sitting painted")

    def test_every_word_has_a_key_and_each_is_taken_back(self):
        view = self.ready()
        for key, kind in (
            (Qt.Key.Key_D, "dark"), (Qt.Key.Key_L, "light"), (Qt.Key.Key_W, "warm"), (Qt.Key.Key_C, "cool"), (Qt.Key.Key_J, "jumps"),
            (Qt.Key.Key_E, "smeared"), (Qt.Key.Key_F, "photo"), (Qt.Key.Key_Period, "pause"),
        ):  # fmt: skip
            before = self.project.told
            self.press(key)
            self.assertEqual(self.project.told[-1].kind, kind)
            self.press(Qt.Key.Key_U)
            self.assertEqual(self.project.told, before)
        told = set(KEYS.values())
        self.assertTrue(
            {"next", "back", "skip", "part", "dark", "dry", "tacky", "photo", "pause", "note", "undo", "leave"} <= told
        )
        self.assertGreaterEqual(len(EVERY_KEY), 14)
        self.settle()
        view.grab()

    def test_done_is_taken_back_as_one_step(self):
        view = self.ready()
        before = self.project
        self.after(5)
        self.press(Qt.Key.Key_Space)
        self.assertTrue(self.project.days.done or self.project.days.begun)
        self.press(Qt.Key.Key_U)
        self.assertEqual(self.project.told, before.told)
        self.assertEqual(self.project.days, before.days)
        self.assertEqual(view.hand.index, 0)

    def test_later_in_part_and_back(self):
        view = self.ready()
        first = view.hand.step.key
        self.press(Qt.Key.Key_K)
        self.assertEqual(carried_over(self.project.told)[0].why, "left for later")
        if view.hand.page == "step":
            self.press(Qt.Key.Key_PageUp)
            self.assertEqual(view.hand.step.key, first)
            self.assertEqual(step_now(self.project.told).step, first)
            self.press(Qt.Key.Key_P)
            self.assertEqual(carried_over(self.project.told)[-1].why, "left for later")

    def test_what_is_left_gets_a_reason_and_is_the_next_first_page(self):
        view = self.ready()
        self.press(Qt.Key.Key_Q)
        self.assertEqual(view.hand.page, "end")
        view.grab()
        self.press(Qt.Key.Key_1)
        self.press(Qt.Key.Key_Space)
        self.assertEqual({one.why for one in carried_over(self.project.told)}, {"ran out of light"})
        self.read()
        view = self.open()
        self.assertEqual(view.hand.page, "first")
        self.assertTrue(view.hand.close.carried)
        view.grab()

    def test_a_note_is_typed_and_escape_leaves_without(self):
        view = self.ready()
        self.press(Qt.Key.Key_N)
        self.assertTrue(view.line.isVisible())
        QTest.keyClicks(view.line, "the ear leans")
        QTest.keyClick(view.line, Qt.Key.Key_Return)
        self.assertEqual((self.project.told[-1].kind, self.project.told[-1].text), ("note", "the ear leans"))
        self.assertEqual(view.hand.page, "step")
        self.press(Qt.Key.Key_N)
        QTest.keyClick(view.line, Qt.Key.Key_Escape)
        self.assertEqual((view.hand.page, view.isVisible()), ("step", True))

    def test_a_tap_does_what_its_cap_says(self):
        view = self.ready()
        view.grab()
        box = next(box for box, action in view._taps if action == "dark")
        QTest.mouseClick(view, Qt.MouseButton.LeftButton, pos=box.center().toPoint())
        self.assertEqual(self.project.told[-1].kind, "dark")
        self.settle()

    def test_too_dark_opens_the_mix_loop_with_that_word(self):
        view = self.ready()
        self.press(Qt.Key.Key_D)
        self.settle()
        self.assertRegex(view.hand.words, r"is too dark: (add|leave|put)")

    def test_a_break_stops_the_minutes_and_not_the_paint(self):
        view = self.ready()
        self.after(10)
        paint_left = view.hand.timers()[0].left(view.hand.clock.now())
        self.assertAlmostEqual(view.hand.spent(), 10, delta=0.1)
        self.press(Qt.Key.Key_Period)
        self.after(15)
        self.assertAlmostEqual(view.hand.spent(), 10, delta=0.1)
        self.assertTrue(view.hand.resting)
        self.press(Qt.Key.Key_Space)
        self.assertFalse(view.hand.resting)
        self.after(5)
        self.assertAlmostEqual(view.hand.spent(), 15, delta=0.1)
        self.assertAlmostEqual(view.hand.timers()[0].left(view.hand.clock.now()), paint_left - 20, delta=0.1)


class Around(EaselCase):
    def test_reminders_come_at_their_time_and_go_with_the_same_key(self):
        view = self.ready()
        self.session.edit(lambda p: edits.set_easel(p, brush=0, mirror=0, air=0, back=10), "reminders")
        self.after(9)
        self.assertEqual(view.hand.reminder, "")
        self.after(2)
        self.assertEqual(view.hand.reminder, "back")
        self.assertIn("squint", view.hand.reminder_words())
        view.grab()
        step = view.hand.step.key
        self.press(Qt.Key.Key_Space)
        self.assertEqual((view.hand.reminder, view.hand.step.key), ("", step))
        self.after(9)
        self.assertEqual(view.hand.reminder, "")
        self.session.edit(lambda p: edits.set_easel(p, **dict.fromkeys(REMINDERS, 0)), "never")
        self.after(200)
        self.assertEqual(view.hand.reminder, "")

    def test_closed_and_opened_again_it_goes_on_where_it_was(self):
        self.ready()
        self.after(7)
        path = Path(self.dir) / "p.foxpath"
        archive.save(self.project, path)
        self.stop.view.leave()
        self.session.start(archive.load(path), path, on_disk=True)
        self.after(20)
        self.window.open_stop("easel")
        self.read()
        self.assertIn("goes on since 19:00", self.stop.next.sentence)
        view = self.open()
        self.assertEqual(view.hand.page, "step")
        self.assertAlmostEqual(view.hand.spent(), 27, delta=0.1)
        self.assertEqual(open_sitting(self.project.told).begin, BEGIN)

    def test_looking_otherwise_as_long_as_a_key_is_held(self):
        view = self.ready()
        plain = view.grab().toImage()
        for key, held in ((Qt.Key.Key_R, "reference"), (Qt.Key.Key_S, "squint"), (Qt.Key.Key_B, "after")):
            QTest.keyPress(view, key)
            self.assertEqual(view.held, held)
            self.assertNotEqual(view.grab().toImage(), plain)
            QTest.keyRelease(view, key)
            self.assertEqual(view.held, "")
        self.press(Qt.Key.Key_M)
        self.assertTrue(view.view.mirrored)
        self.press(Qt.Key.Key_V)
        self.assertTrue(view.view.upside_down)

    def test_a_millimetre_of_the_canvas_is_one_of_the_screen_as_long_as_x_is_held(self):
        view = self.ready()
        fitted = view.view.scale
        for told in (4.0, 9.0):
            with mock.patch("foxpath.window.easel.view.true_px_per_mm", return_value=(told, True)):
                QTest.keyPress(view, Qt.Key.Key_X)
                a, b = view.view.at((60.0, 60.0)), view.view.at((60.0 + 10 / self.project.mm_per_px, 60.0))
                self.assertAlmostEqual(b.x() - a.x(), 10 * told, delta=0.01)
                view.grab()
                QTest.keyRelease(view, Qt.Key.Key_X)
        self.assertEqual(view.view.scale, fitted)

    def test_it_covers_the_window_however_large_that_becomes(self):
        view = self.ready()
        self.window.resize(1600, 1000)
        self.app.processEvents()
        self.assertEqual(view.size(), self.window.body.size())
        self.assertGreater(view.view.room.width(), 560)

    def test_keys_are_the_easels_own_while_it_is_open(self):
        view = self.ready()
        stop = self.session.chosen.stop
        override = QKeyEvent(QEvent.Type.ShortcutOverride, Qt.Key.Key_PageDown, Qt.KeyboardModifier.NoModifier)
        override.ignore()
        self.assertTrue(view.event(override))
        self.assertTrue(override.isAccepted())
        undo = QKeyEvent(QEvent.Type.ShortcutOverride, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        undo.ignore()
        view.event(undo)
        self.assertFalse(undo.isAccepted())
        self.assertEqual(self.session.chosen.stop, stop)
        self.press(Qt.Key.Key_Escape)
        self.assertFalse(view.isVisible())
        self.assertIsNotNone(open_sitting(self.project.told))
        self.stop.end()
        self.assertIsNone(open_sitting(self.project.told))

    def test_a_finger_on_what_was_painted_before(self):
        view = self.ready()
        self.press(Qt.Key.Key_T)
        self.assertIn("Nothing that was noted", view.hand.words)
        while view.hand.page == "step":
            self.after(2)
            self.press(Qt.Key.Key_Space)
        self.press(Qt.Key.Key_Space)
        self.after(60 * 24)
        self.read()
        # The next sitting: what was laid last time is touched.
        view = self.open()
        self.press(Qt.Key.Key_Space)
        self.press(Qt.Key.Key_A)
        (note,) = self.project.days.notes
        self.assertTrue(note.tacky)
        self.assertIn("still tacky", view.hand.words)
        self.after(60)
        self.press(Qt.Key.Key_T)
        (note,) = self.project.days.notes
        self.assertGreater(note.dry, note.tacky)
        self.settle()
        self.assertEqual(len(calendars.noted_before("Another")), 1)

    def test_nothing_to_paint_leads_to_days(self):
        for day in range(7):
            self.session.edit(lambda p, day=day: edits.set_weekday(p, day, ()), "none")
        self.read()
        self.assertEqual(self.stop.close.steps, ())
        self.stop.next.asked.emit()
        self.assertEqual(self.session.chosen.stop, "days")

    def test_pace_is_learned_once_a_pass_is_done(self):
        view = self.ready()
        kept = []
        view.hand.learned.connect(lambda: kept.append(1))
        for _ in range(60):
            if view.hand.page != "step":
                break
            self.after(6)
            self.press(Qt.Key.Key_Space)
        acts = {one.role for one in self.project.noted}
        painted = {one.act for one in view.hand.steps if one.zone >= 0 and one.act in ("Highlights", "Ground")}
        self.assertEqual(bool(acts), bool(painted))
        self.settle()
        self.assertEqual(calendars.noted_before("Another"), ())


class Bench(EaselCase):
    def told(self):
        self.session.edit(lambda p: edits.tell(p, "begin", BEGIN), "begin")
        self.session.edit(lambda p: edits.tell(p, "note", BEGIN, text="the cheek is too cool", part="Square"), "note")
        self.session.edit(lambda p: edits.tell(p, "dark", BEGIN, part="Square", act="Darks"), "dark")
        self.read()

    def test_the_log_is_read_searched_and_corrected(self):
        self.told()
        self.stop.open_page("log")
        self.assertEqual(len(self.stop.log.rows), 3)
        self.stop.find.setText("cheek")
        self.assertEqual([row.name for row in self.stop.log.rows], ["Square: the cheek is too cool"])
        self.stop.log.chosen.emit(self.stop.log.rows[0].key)
        self.stop.text.taken.emit("the cheek is right")
        self.read()
        self.stop.find.setText("right")
        self.assertEqual(len(self.stop.log.rows), 1)
        self.stop.log.chosen.emit(self.stop.log.rows[0].key)
        self.assertIn("At first: the cheek is too cool", self.stop.entry_words.words)
        self.stop.find.setText("")
        self.stop.note.taken.emit("linen, two coats")
        self.assertEqual(self.project.told[-1].text, "linen, two coats")

    def test_it_is_handed_on(self):
        self.told()
        for key, begins in (("text", b"Blob"), ("csv", b"ref,at"), ("pdf", b"%PDF")):
            path = Path(self.dir) / f"log.{key}"
            self.stop.write(key, path)
            self.settle()
            self.assertTrue(path.read_bytes().startswith(begins), key)

    def test_parts_and_reminders(self):
        self.told()
        self.stop.open_page("log")
        self.assertEqual([row.key for row in self.stop.parts.rows], ["Square"])
        self.assertIn("1× too dark", self.stop.parts.rows[0].note)
        self.stop.open_page("remind")
        self.stop.measures["mirror"].changed.emit(0.0, False)
        self.stop.hand.chosen.emit("left")
        self.assertEqual((self.project.easel.mirror, self.project.easel.hand), (0, "left"))
        self.window.picture.grab()

    def test_what_was_learned_is_forgotten_and_taken_in_again(self):
        self.session.edit(lambda p: replace(p, noted=(Logged("lights", "lights", 90.0, 60.0),)), "a pass")
        self.stop.open_page("learned")
        page = self.stop.learned
        rows = {row.key: row for row in page.rows.rows}
        self.assertEqual((rows["pace"].right, rows["drying"].right), ("1 pass", "typical"))
        page._choose("drying")
        self.assertFalse(page.acts.buttons["forget"].isVisibleTo(page))
        page._choose("pace")
        self.assertTrue(page.acts.buttons["forget"].isVisibleTo(page))
        path = Path(self.dir) / "learned.json"
        with mock.patch("foxpath.window.stops.easel.learned.QFileDialog") as dialog:
            dialog.getSaveFileName.return_value = (str(path), "")
            page.acts.clicked.emit("write")
            self.settle()
            page.acts.clicked.emit("forget")
            self.settle()
            self.assertEqual(self.project.noted, ())
            self.assertEqual({row.key: row for row in page.rows.rows}["pace"].right, "typical")
            dialog.getOpenFileName.return_value = (str(path), "")
            page.acts.clicked.emit("read")
            self.settle()
        self.assertEqual([one.taken_min for one in self.project.earlier], [90.0])
        self.assertEqual([one.taken_min for one in paces.earlier()], [90.0])
        # Errors of all paintings are named, and forgotten in their file.
        errors.keep("jay", [("too light", 3, 2), ("too cool", 1, 1)])
        self.stop.open_page("learned")
        row = {row.key: row for row in page.rows.rows}["errors"]
        self.assertEqual((row.note, row.right), ("too light, too cool", "4 times"))
        page._choose("errors")
        page.acts.clicked.emit("forget")
        self.settle()
        self.assertEqual(errors.told(), ())
        self.assertEqual({row.key: row for row in page.rows.rows}["errors"].right, "none yet")
        # A file that is none changes nothing, and says so.
        path.write_text("{}")
        said = []
        self.session.said.connect(lambda words, level: said.append((words, level)))
        page.take_in(path)
        self.settle()
        self.assertEqual((len(self.project.earlier), said[-1][1]), (1, "must"))

    def test_brushes_are_counted_and_kept_for_texture(self):
        self.ready()
        self.after(7)
        self.press(Qt.Key.Key_Space)
        self.press(Qt.Key.Key_Escape)
        self.read()
        self.stop.open_page("log")
        row = self.stop.brushes.rows[0]
        self.assertIn("here", row.note)
        self.assertFalse(self.stop.brush_acts.buttons["texture"].isVisibleTo(self.stop.log_page))
        self.stop.brush_acts.clicked.emit("count")
        self.read()
        brush = self.project.kit[int(row.key)]
        self.assertEqual((brush.wear, self.project.easel.counted), (1, True))
        self.assertFalse(self.stop.brush_acts.buttons["count"].isVisibleTo(self.stop.log_page))
        self.stop.brushes.chosen.emit(row.key)
        self.stop.brush_acts.clicked.emit("texture")
        self.assertEqual(self.project.kit[int(row.key)].state, "worn")

    def test_materials_are_noted_and_listed(self):
        self.stop.open_page("log")
        self.assertEqual(self.stop.materials_head.note, "none noted")
        self.stop.material.taken.emit("Support: linen, two coats, warm grey")
        self.stop.material.taken.emit("varnish: satin, sprayed")
        self.assertEqual(
            next((row.name, row.note) for row in self.stop.materials.rows), ("support", "linen, two coats, warm grey")
        )
        self.assertEqual(len(self.stop.materials.rows), 2)
        self.stop.material.taken.emit("weather: rain")
        self.assertEqual(len(self.project.told), 2)

    def test_likeness_is_noted_with_a_picture_that_is_shown(self):
        path = Path(self.dir) / "ear.png"
        path.write_bytes(picture(300, 240))
        self.stop.open_page("log")
        self.stop.alike.setText("square: stands further back")
        with mock.patch("foxpath.window.stops.easel.stop.QFileDialog") as dialog:
            dialog.getOpenFileName.return_value = (str(path), "")
            self.stop.alike_acts.clicked.emit("picture")
            self.settle()
        one = self.project.told[-1]
        self.assertEqual((one.kind, one.part, one.text), ("likeness", "Square", "stands further back"))
        self.assertEqual(self.stop.alike.text(), "")
        self.assertFalse(self.stop.entry_picture.isVisibleTo(self.stop.log_page))
        self.stop.log.chosen.emit(one.ref)
        self.assertTrue(self.stop.entry_picture.isVisibleTo(self.stop.log_page))
        self.assertIn("stands further back", self.stop.entry_picture.accessibleName())
        self.stop.alike.setText("the neck is shorter: see")
        self.stop.alike_acts.clicked.emit("note")
        self.assertEqual((self.project.told[-1].part, self.project.told[-1].text), ("", "the neck is shorter: see"))
        self.stop.log.chosen.emit(self.project.told[-1].ref)
        self.assertFalse(self.stop.entry_picture.isVisibleTo(self.stop.log_page))
        self.window.bench.grab()

    def test_a_photograph_that_came_is_kept_and_shown(self):
        path = Path(self.dir) / "garden.png"
        path.write_bytes(picture(300, 240))
        self.stop.open_page("client")
        page = self.stop.client
        page.permission.chosen.emit("show")
        page.photo.setText("Runa")
        with mock.patch("foxpath.window.stops.easel.client.QFileDialog") as dialog:
            dialog.getOpenFileName.return_value = (str(path), "")
            page.photo_acts.clicked.emit("file")
            self.settle()
        (one,) = self.project.commission.photographs
        self.assertEqual((one.name, one.animal, one.permission), ("garden.jpg", "Runa", "show"))
        self.assertEqual(self.project.picture(one.picture).reference.height, 240)
        page.photo.taken.emit("post.jpg, Runa")
        self.assertEqual([row.note for row in page.photos.rows][1].split(" · ")[-1], "not kept here")
        page.photos.chosen.emit("0")
        self.assertTrue(page.thumb.isVisibleTo(page))
        page.photos.chosen.emit("1")
        self.assertFalse(page.thumb.isVisibleTo(page))
        # A file that is no picture changes nothing, and says so.
        path.write_bytes(b"nothing")
        said = []
        self.session.said.connect(lambda words, level: said.append(level))
        with mock.patch("foxpath.window.stops.easel.client.QFileDialog") as dialog:
            dialog.getOpenFileName.return_value = (str(path), "")
            page.photo_acts.clicked.emit("file")
            self.settle()
        self.assertEqual((len(self.project.commission.photographs), said[-1]), (2, "must"))

    def test_the_rooms_air_is_noted_from_the_sensor_or_as_it_was_read(self):
        self.stop.open_page("remind")
        self.stop.sensor.chosen.emit("stand-in")
        self.assertRegex(self.stop.air_words.words, r"Now [\d.]+ °C, [\d.]+ % damp")
        self.stop.air.taken.emit("17.5; 61")
        self.assertEqual((self.project.told[-1].kind, self.project.told[-1].text), ("room", "17.5 °C, 61 % damp"))
        for wrong in ("warm", "300, 40", "20"):
            self.stop.air.taken.emit(wrong)
        self.assertEqual(len(self.project.told), 1)
        self.ready()
        noted = next(one for one in reversed(self.project.told) if one.kind == "room")
        days = self.project.days
        self.assertEqual(noted.text, air_now("stand-in", BEGIN, days.celsius, days.humidity).words())
        self.assertNotEqual(noted.text, air_now("", BEGIN, days.celsius, days.humidity).words())

    def test_a_commission_and_what_a_change_costs(self):
        self.stop.open_page("client")
        page = self.stop.client
        page.client.taken.emit("the lighthouse keeper")
        page.wish.taken.emit("no snow")
        page.permission.chosen.emit("show")
        page.photo.taken.emit("garden.jpg, Runa")
        one = self.project.commission
        self.assertEqual(
            (one.client, one.wishes[0].text, one.wishes[0].day), ("the lighthouse keeper", "no snow", "2026-03-02")
        )
        self.assertEqual(
            (one.photographs[0].name, one.photographs[0].animal, one.photographs[0].permission),
            ("garden.jpg", "Runa", "show"),
        )
        view = self.ready()
        for _ in range(40):
            if view.hand.page != "step":
                break
            self.after(5)
            self.press(Qt.Key.Key_Space)
        self.press(Qt.Key.Key_Space)
        self.read()
        done = {row.task for row in self.project.days.done}
        square = next(zone for zone in self.project.zones if zone.name == "Square")
        self.stop.open_page("client")
        page.zones.chosen.emit(square.id)
        self.settle()
        again = set(page.impact.again)
        self.assertTrue(again <= done)
        self.assertIn("Handed over", page.impact_words.words)
        page.change.setText("a darker coat")
        page.change_acts.clicked.emit("take")
        (change,) = self.project.commission.changes
        self.assertEqual((change.text, change.zones, change.taken), ("a darker coat", (square.id,), True))
        self.assertEqual({row.task for row in self.project.days.done}, done - again)
        self.session.undo()
        self.assertEqual({row.task for row in self.project.days.done}, done)
        self.settle()

    def test_every_page_of_days_and_easel_fits_the_narrow_bench(self):
        self.told()
        self.window.resize(1024, 700)
        for stop in ("days", "easel"):
            self.window.open_stop(stop)
            self.read()
            one = self.window.studio.stops[stop]
            for page in one._bodies:
                one.open_page(page)
                self.app.processEvents()
                self.assertLessEqual(
                    one.panel.minimumSizeHint().width(), self.window.bench.area.viewport().width(), (stop, page)
                )

    def test_a_proof_is_written_sent_and_approved(self):
        self.stop.open_page("client")
        path = Path(self.dir) / "proof.pdf"
        with mock.patch("foxpath.derive.handout.proof.WIDTH", 400):
            self.stop.client.write_proof(path)
            self.settle()
        self.assertEqual(path.read_bytes()[:4], b"%PDF")
        self.assertEqual(path.with_suffix(".png").read_bytes()[1:4], b"PNG")
        self.assertEqual(self.project.commission.waiting.name, "proof.pdf")
        self.stop.client.proof_acts.clicked.emit("approved")
        self.assertEqual(self.project.commission.proofs[0].approved, "2026-03-02")

    def test_a_sitting_that_was_never_ended_is_said(self):
        self.told()
        self.after(60 * 20)
        self.session._read()
        self.read()
        self.assertIn("never ended", self.stop.close.findings[0].says)
        self.stop.found.asked.emit("end", self.stop.close.findings[0])
        self.assertIsNone(open_sitting(self.project.told))


class Small(WindowCase):
    def test_type_is_never_under_26_pixels_and_words_fit(self):
        for width, height in ((1280, 800), (1920, 1080), (2560, 1600)):
            s = scale_of(width, height)
            self.assertGreaterEqual(s.px(paint.LEAST), 26)
        self.assertEqual(scale_of(640, 400).k, 0.5)
        size, words = fitted("Near whiskers", 600, 64, 700, 34)
        self.assertEqual((size, words), (64, "Near whiskers"))
        size, words = fitted("Back and shoulder and all of the tail", 300, 64, 700, 34)
        self.assertEqual(size, 34)
        self.assertTrue(words.endswith("…"))

    def test_what_is_left_in_words(self):
        self.assertEqual([left_words(m) for m in (-1, 0.2, 4.4, 62, 3000)], ["over", "1 min", "4 min", "1 h", "2 days"])

    def test_the_clock_runs_on_when_the_computers_clock_is_set(self):
        with mock.patch("foxpath.window.easel.clock._running", side_effect=[100.0, 160.0, 220.0]):
            clock = Clock()
            begin = clock._wall
            with mock.patch("foxpath.window.easel.clock.wall_exact", return_value=datetime(2031, 1, 1)):
                self.assertEqual(clock.now() - begin, timedelta(seconds=60))
                self.assertEqual(clock.now() - begin, timedelta(seconds=120))


if __name__ == "__main__":
    main()
