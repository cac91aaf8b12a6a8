import contextlib
import json
import os
import time
from unittest import mock

import numpy as np
from PySide6.QtCore import Qt

from foxpath.core.errors import AppError, InputError
from foxpath.core.reporting import Progress
from foxpath.document import archive, edits, recovery
from foxpath.window.work import recent
from tests.made import project
from tests.window.case import WindowCase


class Editing(WindowCase):
    def setUp(self):
        super().setUp()
        self.session.start(project(), None, on_disk=True)
        self.said = []
        self.session.said.connect(lambda words, level: self.said.append((words, level)))

    def test_an_edit_that_cannot_be_done_is_said_and_changes_nothing(self):
        before = self.project

        def refuse(_):
            raise InputError("The comb is too short.", "Draw it along the hair.")

        self.assertFalse(self.session.edit(refuse, "comb"))
        self.assertIs(self.project, before)
        self.assertEqual(self.said, [("The comb is too short. Draw it along the hair.", "must")])

    def test_an_edit_without_effect_is_no_step(self):
        self.assertFalse(self.session.edit(lambda p: p, "nothing"))
        self.assertFalse(self.session.edit(lambda p: edits.rename(p, "Blob"), "same name"))
        self.assertEqual(self.session.history.undo_words, "")

    def test_undo_says_what_it_took_back(self):
        self.session.edit(lambda p: edits.rename(p, "Other"), "rename the painting")
        self.session.undo()
        self.session.redo()
        self.session.undo()
        self.session.undo()
        self.assertEqual([words for words, _ in self.said], [
            "Undone: rename the painting", "Done again: rename the painting", "Undone: rename the painting",
        ])  # fmt: skip

    def test_readings_follow_the_hand_and_never_show_an_older_project(self):
        self.readings()
        zone = self.project.zones[1].id
        for k in range(6):
            self.session.edit(lambda p, k=k: edits.move_point(p, zone, 0, (40.0 - k, 30.0)), "move", "drag")
        self.settle()
        self.assertIs(self.session.readings.project, self.project)
        self.assertGreater(self.session.readings.facts[1].area_cm2, 0)

    def test_work_can_be_stopped(self):
        self.window.open_stop("rehearsal")
        self.wait(lambda: self.session.runner.running("rehearsal"))
        self.session.stop_work()
        self.assertFalse(self.session.runner.running("rehearsal"))
        self.settle()
        self.assertFalse(self.session.rehearsal.complete)

    def test_a_gone_zone_is_no_longer_chosen(self):
        zone = self.project.zones[1].id
        self.session.choose(zone=zone, comb=self.project.combs[0].id)
        self.session.edit(lambda p: edits.remove_zone(p, zone), "remove")
        self.assertEqual((self.session.chosen["zone"], self.session.chosen["comb"]), ("", ""))

    def test_another_picture_drops_what_was_derived(self):
        self.settle()
        self.session.start(project(combs=False), None, on_disk=True)
        self.assertEqual(self.session.rehearsal.passes, [])
        self.assertIsNone(self.session.readings)
        self.settle()
        self.assertTrue(self.session.rehearsal.complete)


class Running(WindowCase):
    def test_each_request_ends_exactly_once(self):
        done, failed, idle = [], [], []
        self.session.runner.idle.connect(idle.append)

        def refuse(_):
            raise AppError("No.", "Try again.")

        self.session.runner.start("a", lambda _: 1, done.append, failed=failed.append)
        self.session.runner.start("b", refuse, done.append, failed=failed.append)
        self.wait(lambda: len(idle) == 2)
        self.assertEqual((done, failed, sorted(idle)), ([1], ["No. Try again."], ["a", "b"]))

    def test_parts_come_in_order_and_stop_when_cancelled(self):
        parts = []

        def count(progress):
            for k in range(2000):
                progress.at(k / 2000, "counting")
                progress.hand_on(k)
                time.sleep(0.001)

        self.session.runner.start("x", count, self.fail, part=parts.append)
        self.wait(lambda: len(parts) > 10)
        self.session.runner.cancel("x")
        seen = list(parts)
        self.settle()
        self.assertEqual(parts, seen)
        self.assertEqual(parts, list(range(len(parts))))

    def test_long_work_shows_progress_and_closing_waits_for_it(self):
        shown, ended = [], []
        self.session.runner.busy.connect(lambda key, share, words: shown.append(share))

        def slow(progress):
            try:
                for k in range(3000):
                    progress.at(k / 3000, "working")
                    time.sleep(0.002)
            finally:
                ended.append(1)

        self.session.runner.start("x", slow, self.fail)
        self.wait(lambda: len(shown) > 3)
        self.assertEqual(shown, sorted(shown))
        self.session.runner.close()
        self.assertEqual(ended, [1])
        self.session.runner.start("y", self.fail, self.fail)
        self.app.processEvents()

    def test_progress_of_a_part_is_a_part(self):
        told = []
        whole = Progress(lambda share, words: told.append(round(share, 3)))
        part = whole.part(0.5, 1.0).part(0.0, 0.5)
        part.at(0)
        part.at(1)
        self.assertEqual(told, [0.5, 0.75])


@contextlib.contextmanager
def written_slowly():
    """Let every project take a while to be packed."""
    pack = archive.to_bytes

    def slowly(project):
        time.sleep(0.15)
        return pack(project)

    with mock.patch.object(archive, "to_bytes", slowly):
        yield


class Keeping(WindowCase):
    def test_work_is_kept_aside_without_being_asked(self):
        self.session.start(project(), None, on_disk=True)
        self.session.keep()
        self.assertFalse(recovery._own().exists())
        self.session.edit(lambda p: edits.rename(p, "Kept"), "rename")
        self.session.keep()
        self.wait(lambda: recovery._own().exists() and not self.session.runner.running("keep"))
        self.assertEqual(archive.load(recovery._own()).name, "Kept")
        before = recovery._own().stat().st_mtime_ns
        self.session.keep()
        self.settle()
        self.assertEqual(recovery._own().stat().st_mtime_ns, before)
        self.session.forget()
        self.assertFalse(recovery._own().exists())

    def test_a_copy_being_written_while_closing_is_not_taken_for_a_crash(self):
        self.session.start(project(), None, on_disk=True)
        self.session.edit(lambda p: edits.rename(p, "Dropped"), "rename")
        keep = recovery.keep

        def slowly(*args):
            time.sleep(0.4)
            keep(*args)

        with mock.patch.object(recovery, "keep", slowly):
            self.session.keep()
            time.sleep(0.1)
            self.window.close_for_good()
        self.assertFalse(recovery._own().exists())

    def test_what_is_changed_while_it_is_saved_stays_unsaved(self):
        self.session.start(project(), None, on_disk=True)
        self.session.edit(lambda p: edits.rename(p, "First"), "rename")
        path = self.dir / "x.foxpath"
        with written_slowly():
            self.session.save(path)
            self.assertTrue(self.session.saving)
            self.assertIn("being saved", self.window.header.note)
            self.session.edit(lambda p: edits.rename(p, "Second"), "rename")
            self.session.keep()
            self.wait(lambda: not self.session.runner.running())
        self.assertFalse(self.session.saving)
        self.assertEqual(archive.load(path).name, "First")
        self.assertEqual(self.session.path, path)
        self.assertFalse(self.session.saved)
        self.assertEqual(archive.load(recovery._own()).name, "Second")
        self.session.undo()
        self.assertTrue(self.session.saved)

    def test_saves_are_written_in_the_order_they_were_asked_for(self):
        self.session.start(project(), None, on_disk=True)
        path = self.dir / "x.foxpath"
        done = []
        with written_slowly():
            for name in ("First", "Second", "Third"):
                self.session.edit(lambda p, name=name: edits.rename(p, name), "rename")
                self.session.save(path, lambda name=name: done.append((name, archive.load(path).name)))
            self.assertEqual(done, [])
            self.settle()
        self.assertEqual([name for name, _ in done], ["First", "Second", "Third"])
        self.assertEqual(archive.load(path).name, "Third")
        self.assertTrue(self.session.saved)

    def test_closing_waits_for_what_is_being_written(self):
        self.session.start(project(), self.dir / "x.foxpath", on_disk=True)
        self.session.edit(lambda p: edits.rename(p, "Last"), "rename")
        with written_slowly():
            self.window.save()
            self.window.close()
            self.assertIsNone(self.window.question)
            self.assertTrue(self.window.isVisible())
            self.wait(lambda: not self.window.isVisible())
        self.assertEqual(archive.load(self.dir / "x.foxpath").name, "Last")
        self.assertFalse(recovery._own().exists())

    def test_closing_asks_again_about_what_was_changed_meanwhile(self):
        self.session.start(project(), self.dir / "x.foxpath", on_disk=True)
        self.session.edit(lambda p: edits.rename(p, "First"), "rename")
        self.window.close()
        with written_slowly():
            self.window.question.buttons["save"].clicked.emit()
            self.session.edit(lambda p: edits.rename(p, "Second"), "rename")
            self.settle()
        self.assertTrue(self.window.isVisible())
        self.assertIn("Second", self.window.question.sentence)
        self.assertEqual(archive.load(self.dir / "x.foxpath").name, "First")

    def test_a_fault_of_ours_while_saving_is_said_and_closing_asks(self):
        self.session.start(project(), self.dir / "x.foxpath", on_disk=True)
        self.session.edit(lambda p: edits.rename(p, "Lost?"), "rename")
        # Quiet first: the copy for recovery, every few seconds, would say its own.
        self.settle()
        self.slot_errors = []
        self.session.runner.went_wrong.disconnect()
        with mock.patch.object(archive, "to_bytes", side_effect=ValueError("a number that cannot be written")):
            self.window.save()
            self.window.close()
            self.settle()
        self.assertIn("Not saved", self.window.foot.said)
        self.assertIn("not saved", self.window.question.sentence)
        self.assertFalse(self.session.saved)
        self.assertFalse(self.session.saving)

    def test_another_painting_opened_while_one_is_saved_keeps_its_own_place(self):
        self.session.start(project(), self.dir / "x.foxpath", on_disk=True)
        self.session.edit(lambda p: edits.rename(p, "Mine"), "rename")
        with written_slowly():
            self.session.save(self.dir / "x.foxpath")
            self.session.start(project(), None, on_disk=False)
            self.settle()
        self.assertIsNone(self.session.path)
        self.assertFalse(self.session.saved)
        self.assertEqual(archive.load(self.dir / "x.foxpath").name, "Mine")

    def test_leftovers_of_living_windows_and_damaged_ones_are_left_alone(self):
        place = recovery.folder()
        place.mkdir(parents=True)
        (place / f"{os.getppid()}.foxpath").write_bytes(archive.to_bytes(project()))
        (place / "notes.foxpath").write_bytes(b"x")
        self.assertEqual(recovery.leftovers(), [])
        (place / "999999.foxpath").write_bytes(b"damaged")
        self.assertEqual(len(recovery.leftovers()), 1)
        self.window.offer_leftovers()
        self.assertIsNone(self.window.question)
        self.assertFalse((place / "999999.foxpath").exists())

    def test_a_damaged_list_of_recent_files_is_no_reason_to_complain(self):
        file = recent._file()
        file.parent.mkdir(parents=True, exist_ok=True)
        for text in (
            "",
            "[]",
            "{",
            json.dumps({"paintings": 5, "canvas": ["a", None, 3]}),
            json.dumps({"paintings": [{"path": 1}, 7]}),
        ):
            file.write_text(text)
            self.assertEqual(recent.paintings(), [])
            self.assertEqual(recent.last_canvas().words(), "50 × 40 cm")
            self.assertFalse(recent.evening())
        recent.remember_evening(on=True)
        self.assertTrue(recent.evening())

    def test_recent_paintings_open_from_the_first_screen(self):
        path = self.dir / "old.foxpath"
        archive.save(project(), path)
        recent.remember(path, project())
        self.window.begin.refresh()
        self.assertEqual([row.name for row in self.window.begin.recent.rows], ["Blob"])
        self.window.begin.recent.chosen.emit(self.window.begin.recent.rows[0].key)
        self.assertEqual(self.session.path, path.resolve())
        self.assertTrue(self.session.saved)

    def test_recent_paintings_open_from_the_menu(self):
        path = self.dir / "old.foxpath"
        archive.save(project(), path)
        recent.remember(path, project())
        self.window._show_menu()
        entries = self.window.recent_menu.actions()
        self.assertEqual([entry.text() for entry in entries], ["Blob  ·  old.foxpath"])
        self.assertFalse(self.window.save_action.isEnabled())
        entries[0].trigger()
        self.assertEqual(self.session.path, path.resolve())
        self.session.edit(lambda p: edits.rename(p, "Other"), "rename the painting")
        self.window._show_menu()
        self.assertEqual(self.window.undo_action.text(), "Undo rename the painting")
        self.assertTrue(self.window.save_action.isEnabled())
        self.window.menu.close()

    def test_the_recovery_folder_that_cannot_be_written_is_said(self):
        self.session.start(project(), None, on_disk=False)
        with mock.patch.object(recovery, "keep", side_effect=OSError(13, "Permission denied")):
            self.session.keep()
            self.settle()
            self.assertIn("Save your work", self.window.foot.said)
            self.window.foot.say("", "note")
            self.session._kept = None
            self.session.keep()
            self.settle()
        self.assertIn("Save your work", self.window.foot.said)


class Rehearsing(WindowCase):
    def test_before_and_reference_while_a_key_is_held(self):
        from PySide6.QtCore import Qt
        from PySide6.QtTest import QTest

        self.session.start(project(), None, on_disk=True)
        self.settle()
        self.window.open_stop("rehearsal")
        self.session.choose(role="lights")
        number = self.session.rehearsal.number_of("lights")
        passes = self.session.rehearsal.passes
        shown = self.window.picture
        np.testing.assert_array_equal(shown._painting_rgb, passes[number].standing.shown)
        QTest.keyPress(self.window, Qt.Key.Key_B)
        np.testing.assert_array_equal(shown._painting_rgb, passes[number - 1].standing.shown)
        QTest.keyRelease(self.window, Qt.Key.Key_B)
        QTest.keyPress(self.window, Qt.Key.Key_R)
        self.assertIsNone(shown.painting)
        QTest.keyRelease(self.window, Qt.Key.Key_R)
        np.testing.assert_array_equal(shown._painting_rgb, passes[number].standing.shown)

    def test_what_was_read_is_gone_through_with_the_arrow_keys(self):
        self.session.start(project(), None, on_disk=True)
        self.settle()
        self.window.open_stop("rehearsal")
        stop = self.window.rehearsal
        self.wait(lambda: bool(self.session.rehearsal.zones))
        self.settle()
        keys = [row.key for row in stop.read.rows]
        self.assertEqual(set(keys), {zone.id for zone in self.project.zones})
        worst = [row.reading.de for row in stop.read.rows]
        self.assertEqual(worst, sorted(worst, reverse=True))
        self.key(Qt.Key.Key_Down, widget=stop.read)
        self.assertEqual(self.session.chosen["zone"], keys[0])
        self.key(Qt.Key.Key_Down, widget=stop.read)
        self.assertEqual(self.session.chosen["zone"], keys[1])
        self.key(Qt.Key.Key_Up, widget=stop.read)
        self.assertEqual(stop.read.value, keys[0])
        # The border of the square is planned, and came out: both have a hardness somewhere.
        for one in (stop.focal.painted, stop.focal.reference):
            self.assertTrue(np.isfinite(one.hardness).any())
        self.assertFalse(stop.read.grab().toImage().isNull())

    def test_play_all_goes_through_every_pass_and_stops(self):
        self.session.start(project(), None, on_disk=True)
        self.settle()
        self.window.open_stop("rehearsal")
        stop = self.window.rehearsal
        with mock.patch("foxpath.window.stops.rehearsal.stop.Play", side_effect=self.quick):
            stop.play_all()
            self.assertTrue(stop.playing)
            self.key(Qt.Key.Key_Right, widget=stop.speed)
            self.assertEqual(stop.speed.value, "3")
            roles = []
            self.session.chosen_changed.connect(lambda: roles.append(self.session.chosen.role))
            self.wait(lambda: not stop.playing)
        wanted = [one.plan.role.key for one in self.session.rehearsal.passes]
        self.assertEqual([r for k, r in enumerate(roles) if k == 0 or r != roles[k - 1]], wanted[1:])

    def quick(self, *args, **more):
        from foxpath.derive.rehearsal.requests import Play

        # What is asked at each slice is how fast it is played now, not when it was begun.
        self.assertEqual(more["speed"](), float(self.window.rehearsal.speed.value))
        return Play(*args, seconds=0.02, steps=3, **more)

    def test_another_hand_is_a_step_that_can_be_undone(self):
        self.session.start(project(), None, on_disk=True)
        self.settle()
        self.window.open_stop("rehearsal")
        first = self.session.rehearsal.passes[-1].standing.kept.copy()
        self.window.stop.again.clicked.emit()
        self.settle()
        self.assertFalse(np.array_equal(self.session.rehearsal.passes[-1].standing.kept, first))
        self.session.undo()
        self.settle()
        np.testing.assert_array_equal(self.session.rehearsal.passes[-1].standing.kept, first)
