"""The stop Days, driven as a painter would; the clock is held by the test."""

import os
from dataclasses import replace
from datetime import date, datetime, timedelta
from pathlib import Path
from types import SimpleNamespace
from unittest import TestCase, main, mock

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest

from foxpath.core.days import exact
from foxpath.core.days.diary import diary_fields
from foxpath.core.days.ical import busy_times
from foxpath.core.days.studio import too_cold
from foxpath.derive import Results
from foxpath.derive.days.plan import told_of
from foxpath.derive.days.tasks import work_of
from foxpath.document import calendars, edits, works
from foxpath.window.stops.days.hair import hours_of, pulled, short_hours
from foxpath.window.stops.days.paint import when_of
from foxpath.window.stops.days.plan import better_words
from foxpath.window.stops.days.sitting import past_due
from foxpath.window.stops.days.time import cold_words, days_off, ranges_of, ranges_words
from foxpath.window.stops.days.weeks import THIN, away_words, hours_words, label_of, lay_out, weeks_of
from tests.core.days.checker import faults
from tests.core.days.test_calendar import ICS
from tests.made import project, quick
from tests.window.case import WindowCase

NOON = "2026-03-02T12:00"


class DaysCase(WindowCase):
    made = staticmethod(lambda: quick(project()))

    def setUp(self):
        super().setUp()
        self.enterContext(mock.patch.dict(os.environ, {"FOXPATH_NOW": NOON}))
        self.session.start(self.made(), None, on_disk=True)
        self.window.open_stop("days")
        self.stop = self.window.studio.stops["days"]
        self.planned()

    def planned(self):
        """Wait until a plan stands, is searched and forecast; return it."""
        self.readings()
        self.settle()
        self.readings()
        self.settle()
        self.window.picture.grab()
        return self.stop.planned

    def at(self, moment):
        """Move the clock, and look again."""
        os.environ["FOXPATH_NOW"] = f"{moment:%Y-%m-%dT%H:%M}"
        self.session._read()
        return self.planned()

    def card(self, day):
        return next(one for one in self.stop._sheet.days if one.day == day)

    def drop(self, one, day):
        """Drag a sitting's card to a day."""
        view, a, b = self.window.picture, self.card(one.begin.date()).box.center(), self.card(day).box.center()
        QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=a.toPoint())
        for t in (0.3, 0.7, 1.0):
            self._move(QPointF(a) + (QPointF(b) - QPointF(a)) * t)
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=b.toPoint())

    def hover(self, at):
        view, none = self.window.picture, Qt.MouseButton.NoButton
        where = QPointF(view.mapToGlobal(at.toPoint()))
        event = QMouseEvent(QEvent.Type.MouseMove, at, where, none, none, Qt.KeyboardModifier.NoModifier)
        self.app.sendEvent(view, event)

    def take(self):
        self.stop.next.asked.emit()
        return self.planned()


class Plan(DaysCase):
    def test_a_plan_is_there_and_taken_by_the_one_button(self):
        self.assertIn("A plan of", self.stop.next.sentence)
        rows = {row.key: row for row in self.stop.plan_page.ends.rows}
        self.assertTrue({"painted", "half", "most", "varnish", "done"} <= set(rows))
        planned = self.take()
        self.assertTrue(planned.taken)
        self.assertEqual(self.stop.next.sentence, "Tonight, 19:00")
        self.assertEqual(self.stop.state(), "ready")
        self.assertIn("next: ", self.stop.reading())
        # Its sittings are known to other paintings.
        known = calendars.other_sittings("Another", datetime(2026, 3, 2))
        self.assertEqual([a for a, _ in known["Blob"]], [one.begin for one in self.stop.close.sittings])
        self.session.undo()
        self.planned()
        self.assertEqual(self.project.days.plan, ())

    def test_other_paintings_evenings_are_kept_free(self):
        first = self.stop.close.sittings[0]
        calendars.keep_sittings("Another", [(first.begin, first.end)])
        self.at(datetime(2026, 3, 2, 12))
        self.assertNotIn(first.begin.date(), [one.begin.date() for one in self.stop.close.sittings])
        self.stop.open_page("time")
        self.assertIn("Another", self.stop.time.beside_words.words)
        self.stop.time.beside.toggled.emit(False)
        self.planned()
        self.assertEqual(self.stop.close.sittings[0].begin, first.begin)

    def told(self, name="Other"):
        """Let another painting tell of its work, and look again."""
        other = quick(edits.rename(edits.set_days(project(), start="2026-03-02"), name))
        results = Results()
        works.keep_work(told_of(other, work_of(results, other)))
        self.session.read_anew()
        self.planned()
        return other

    def test_two_paintings_are_planned_together_and_the_other_is_offered_its_share(self):
        other = self.told()
        page = self.stop.time
        self.stop.open_page("time")
        self.assertEqual([(row.name, row.note) for row in page.others.rows], [("Other", "for itself")])
        self.assertFalse(page.other_acts.isVisibleTo(page))
        page.others.chosen.emit("Other")
        self.assertTrue(page.other_acts.isVisibleTo(page))
        page.other_acts.clicked.emit("with")
        planned = self.planned()
        self.assertEqual(self.project.days.together, ("Other",))
        self.assertEqual(planned.layout.others(), ["Other"])
        self.assertEqual(faults(diary_fields(planned.diary)), [])
        self.assertEqual([row.note for row in page.others.rows], ["planned together"])
        # Its evenings are among the sittings, with its name.
        steps = [step for one in self.stop.close.sittings for step in one.steps]
        self.assertEqual({step.painting for step in steps}, {"", "Other"})
        # How far the search came decides whether one evening is all the other's, so here it is made so.
        mixed = next(one for one in self.stop.close.sittings if any(step.painting for step in one.steps))
        theirs = replace(mixed, steps=tuple(step for step in mixed.steps if step.painting))
        self.assertEqual(label_of(self.stop.close, theirs, {}), ("", "Other"))
        self.stop.take()
        taken = self.planned()
        self.assertTrue(taken.taken)
        names = {row.task for row in self.project.days.plan}
        self.assertLessEqual(names, {task.key for task in taken.layout.problem.tasks if task.painting == "Blob"})
        offered = works.work_told("Other")
        self.assertEqual((offered.group, offered.offered), (("Blob",), taken.rows("Other")))
        self.assertEqual(calendars.other_sittings("Blob", datetime(2026, 3, 2))["Other"], taken.times("Other"))
        # The other painting, once it is opened.
        self.session.start(other, None, on_disk=True)
        self.window.open_stop("days")
        self.planned()
        self.assertEqual(self.stop.close.by, "Blob")
        self.assertEqual(self.stop.planned.rows(), offered.offered)
        self.stop.open_page("plan")
        self.assertTrue(self.stop.plan_page.offer_acts.isVisibleTo(self.stop.plan_page))
        self.assertIn("Planned beside Blob", self.stop.next.sentence)
        self.stop.next.asked.emit()
        self.planned()
        self.assertEqual((self.project.days.plan, self.project.days.together), (offered.offered, ("Blob",)))
        self.assertIsNone(self.stop.close.by)
        self.assertTrue(self.stop.planned.taken)
        self.assertEqual(works.work_told("Other").by, "")
        self.assertEqual(works.work_told("Other").plan, offered.offered)

    def test_an_offer_is_left_and_another_painting_forgotten(self):
        other = self.told()
        self.session.edit(lambda p: edits.set_days(p, together=("Other",)), "together")
        self.planned()
        self.stop.take()
        self.planned()
        self.session.start(other, None, on_disk=True)
        self.window.open_stop("days")
        self.planned()
        self.stop.plan_page.offer_left.emit()
        self.planned()
        self.assertEqual((self.stop.close.by, self.project.days.plan), (None, ()))
        self.assertEqual(works.work_told("Other").offered, ())
        self.assertNotIn("Other", calendars.other_sittings("Blob", datetime(2026, 3, 2)))
        page = self.stop.time
        self.stop.open_page("time")
        page.others.chosen.emit("Blob")
        page.other_acts.clicked.emit("forget")
        self.planned()
        self.assertIsNone(works.work_told("Blob"))
        self.assertEqual(page.others.rows, [])

    def test_a_day_that_is_not_free_says_why(self):
        first = self.stop.close.sittings[0]
        calendars.keep_sittings("Hare in snow", [(first.begin - timedelta(hours=1), first.end + timedelta(hours=1))])
        self.session.edit(lambda p: edits.set_away(p, date(2026, 3, 3), date(2026, 3, 3)), "away")
        self.planned()
        self.assertEqual(away_words(self.stop.close, first.begin.date()), "Hare")
        self.assertEqual(away_words(self.stop.close, date(2026, 3, 3)), "away")
        self.session.edit(lambda p: edits.set_days(p, celsius=14.0, seasons=True, coldest=18.0), "cold")
        self.planned()
        self.assertEqual(away_words(self.stop.close, date(2026, 3, 10)), "cold")

    def test_what_was_painted_meanwhile_is_told(self):
        self.stop.take()
        self.planned()
        before = works.work_told("Blob")
        self.assertEqual(before.done, ())
        first = self.project.days.plan[0]
        self.session.edit(lambda p: edits.mark_done(p, [first]), "painted")
        self.planned()
        self.assertEqual(works.work_told("Blob").done, (first,))
        self.assertLess(works.work_told("Blob").left_min, before.left_min)

    def test_a_date_that_cannot_be_kept_a_way_tried_beside_and_taken(self):
        done = self.stop.planned.diary.done("Blob")
        self.stop.plan_page.date.taken.emit(f"{done - timedelta(days=15):%Y-%m-%d}")
        planned = self.planned()
        self.assertIn("late", [one.subject for one in self.stop.close.findings])
        self.assertIn("too late", self.stop.reading())
        rows = self.stop.plan_page.ways.rows
        self.assertGreater(len(rows), 1)
        before = self.project
        self.stop.plan_page.ways.chosen.emit(rows[0].key)
        self.planned()
        # Tried, and nothing is decided yet: the new plan lies beside the old.
        self.assertIs(self.project, before)
        self.assertIsNotNone(self.stop._trial)
        names = [row.name for row in self.stop.plan_page.trial.rows]
        self.assertEqual(names[:2], ["Last stroke", "Hand-over"])
        self.assertNotEqual(self.stop.planned.plan, planned.plan)
        self.assertTrue(self.stop._shown().before)
        self.stop.plan_page.left.emit()
        self.assertIsNone(self.stop._trial)
        self.stop.plan_page.ways.chosen.emit(rows[0].key)
        self.planned()
        self.stop.next.asked.emit()
        taken = self.planned()
        self.assertNotEqual(self.project.days, before.days)
        self.assertEqual(taken.layout.problem.late(taken.plan), 0)
        self.assertTrue(taken.taken)

    def test_a_wrong_date_is_said_and_nothing_changes(self):
        said = []
        self.session.said.connect(lambda words, _: said.append(words))
        self.stop.plan_page.date.taken.emit("soon")
        self.assertIn("2026-03-02", said[-1])
        self.assertEqual(self.project.days.deadline, "")

    def test_varnish_rest_and_how_sure(self):
        done = self.stop.planned.diary.done("Blob")
        self.stop.plan_page.varnish.toggled.emit(False)
        self.assertLess(self.planned().diary.done("Blob"), done)
        self.assertFalse(self.stop.plan_page.rest.isVisibleTo(self.stop.panel))
        self.assertIn("on a visit", self.stop.plan_page.varnish_words.words)
        self.stop.plan_page.varnish.toggled.emit(True)
        self.stop.plan_page.rest.changed.emit(60.0, False)
        self.assertGreater(self.planned().diary.done("Blob"), done)
        self.stop.plan_page.careful.chosen.emit("sure")
        self.assertEqual(self.project.days.careful, "sure")
        self.assertIn("nine of ten", self.stop.plan_page.careful_words.words)

    def test_sheets_and_a_calendar_are_written(self):
        sheet, calendar = self.dir / "s.pdf", self.dir / "c.ics"
        self.stop.write("sheet", sheet)
        self.settle()
        self.stop.write("calendar", calendar)
        self.settle()
        self.assertEqual(sheet.read_bytes()[:4], b"%PDF")
        events = busy_times(calendar.read_bytes(), datetime(2026, 3, 1), datetime(2027, 3, 1))
        self.assertEqual(len(events), len(self.stop.close.sittings))

    def test_without_the_solver_it_plans_all_the_same_and_says_so(self):
        with mock.patch.object(exact, "installed", return_value=False):
            self.session.edit(lambda p: edits.set_days(p, celsius=19.0), "room")
            planned = self.planned()
        self.assertTrue(planned.plan.complete)
        self.assertFalse(planned.solved)
        self.assertIn("A better search is missing.", [one.says for one in self.stop.close.findings])

    def test_no_free_time_leads_to_the_week(self):
        for day in range(7):
            self.session.edit(lambda p, day=day: edits.set_weekday(p, day, ()), "none")
        self.planned()
        self.assertIn("No time is free.", [one.says for one in self.stop.close.findings])
        self.stop.next.asked.emit()
        self.assertTrue(self.stop.time.isVisibleTo(self.stop.panel))

    def test_a_better_plan_never_jumps_under_the_hand(self):
        shown = self.stop.close
        other = replace(shown, planned=replace(shown.planned, plan=replace(shown.planned.plan, used=1)))
        self.stop._choose(shown.sittings[0])
        self.stop._better(other)
        self.assertIs(self.stop.close, shown)
        self.assertIn("A better plan", self.stop.next.sentence)
        self.assertIn("fewer", self.stop.next.reason)
        self.stop.next.asked.emit()
        self.assertIs(self.stop.close, other)
        self.stop._touched_at -= timedelta(minutes=1)
        self.stop._better(shown)
        self.assertIs(self.stop.close, shown)


class Cards(DaysCase):
    def test_a_click_chooses_a_sitting_and_the_pass_it_paints(self):
        one = next(s for s in self.stop.close.sittings if s.steps[0].act == "Highlights")
        QTest.mouseClick(
            self.window.picture, Qt.MouseButton.LeftButton, pos=self.card(one.begin.date()).box.center().toPoint()
        )
        self.assertEqual(self.stop.chosen_sitting().begin, one.begin)
        self.assertEqual(self.stop.open_role(), "highlights")
        self.hover(self.card(one.begin.date()).box.center())
        self.assertIn("highlights of", self.stop.words_at((0, 0)))

    def test_dragged_to_another_day_it_stays_there_and_the_plan_obeys(self):
        one = self.stop.close.sittings[0]
        day = next(d.day for d in self.stop._sheet.days if d.free and not d.sittings and d.day > one.begin.date())
        self.drop(one, day)
        planned = self.planned()
        keys = {row.task for row in self.project.days.holds}
        self.assertEqual(keys, {planned.layout.problem.tasks[step.task].key for step in one.steps})
        for key in keys:
            begin = planned.plan.pieces[planned.layout.place(key)][0][0]
            self.assertEqual(planned.diary.at(begin).date(), day)
        self.assertTrue(self.stop._shown().held)
        self.session.undo()
        self.assertEqual(self.project.days.holds, ())

    def test_dropped_where_nothing_is_free_it_stays(self):
        one = self.stop.close.sittings[0]
        friday = next(d for d in self.stop._sheet.days if not d.free)
        self.drop(one, friday.day)
        self.assertEqual(self.project.days.holds, ())
        self.assertFalse(self.stop.busy())

    def test_a_drag_is_taken_back(self):
        one = self.stop.close.sittings[0]
        box = self.card(one.begin.date()).box.center()
        QTest.mousePress(self.window.picture, Qt.MouseButton.LeftButton, pos=box.toPoint())
        self._move(QPointF(box) + QPointF(80, 0))
        self.assertTrue(self.stop.busy())
        self.assertTrue(self.stop.take_back())
        QTest.mouseRelease(self.window.picture, Qt.MouseButton.LeftButton, pos=QPoint(400, 100))
        self.assertEqual(self.project.days.holds, ())

    def test_by_keys_alone(self):
        first = self.stop.chosen_sitting()
        self.key(Qt.Key.Key_Right)
        self.assertEqual(self.stop.chosen_sitting().begin, self.stop.close.sittings[1].begin)
        self.key(Qt.Key.Key_Left)
        self.assertEqual(self.stop.chosen_sitting().begin, first.begin)
        self.key(Qt.Key.Key_H)
        self.planned()
        self.assertTrue(self.project.days.holds)
        self.key(Qt.Key.Key_H)
        self.assertEqual(self.project.days.holds, ())
        self.planned()
        self.key(Qt.Key.Key_X)
        planned = self.planned()
        self.assertEqual([one.day for one in self.project.days.others], [first.begin.date().isoformat()])
        days = {planned.diary.at(a).date() for a, _, _ in planned.diary.sittings()}
        self.assertNotIn(first.begin.date(), days)
        moved = self.stop.chosen_sitting()
        self.key(Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
        self.planned()
        begins = [row.begin[:10] for row in self.project.days.holds]
        self.assertTrue(begins)
        self.assertGreater(begins[0], moved.begin.date().isoformat())
        for number, page in enumerate(("plan", "sitting", "time", "paint")):
            self.key(Qt.Key(Qt.Key.Key_1 + number))
            self.assertTrue(self.stop._bodies[page].isVisibleTo(self.stop.panel))

    def test_the_picture_shows_one_parts_strand_alone(self):
        self.assertGreater(len(self.stop._strands()), 1)
        room = self.window.picture.viewport.room.center().toPoint()
        QTest.mouseClick(self.window.picture, Qt.MouseButton.LeftButton, pos=room)
        (alone,) = self.stop._strands()
        self.assertEqual(len(alone.zones), 1)
        QTest.mouseClick(self.window.picture, Qt.MouseButton.LeftButton, pos=room)
        self.assertGreater(len(self.stop._strands()), 1)

    def test_weeks_of_rest_are_one_row_and_the_sheet_scrolls(self):
        rows = weeks_of(self.stop.close)
        self.assertTrue(any(one.thin and one.count > 1 for one in rows))
        self.assertEqual(rows[0].monday, date(2026, 3, 2))
        days = [one.monday + timedelta(weeks=k) for one in rows for k in range(one.count)]
        self.assertTrue(all(b - a == timedelta(weeks=1) for a, b in zip(days, days[1:], strict=False)))
        room = self.stop._sheet.room
        low = lay_out(self.stop.close, room.adjusted(0, 0, 0, -room.height() + 150), 0)
        self.assertLess(len(low.rows), low.count)
        later = lay_out(self.stop.close, room.adjusted(0, 0, 0, -room.height() + 150), 99)
        self.assertEqual(later.rows[-1][0], rows[-1])
        thin = next(top for row, top in self.stop._sheet.rows if row.thin)
        after = [top for _, top in self.stop._sheet.rows if top > thin]
        self.assertEqual(after[0] - thin, THIN)
        view = self.window.picture
        view.resize(view.width(), 190)
        self.window.picture.grab()
        first = self.stop._sheet.first
        self.stop.wheel(-1.0)
        self.window.picture.grab()
        self.assertEqual(self.stop._sheet.first, first + 1)

    def test_a_minute_lies_where_its_day_does(self):
        sheet, zero = self.stop._sheet, self.stop.planned.layout.zero
        row = sheet.rows[0][0]
        minute = (datetime(2026, 3, 4) - zero).total_seconds() / 60
        left = self.card(date(2026, 3, 4)).box.left() - 2
        self.assertAlmostEqual(sheet.x_of(row, minute, zero), left, delta=1)


class Painted(DaysCase):
    def test_a_sitting_that_is_over_is_asked_about_and_noted(self):
        self.take()
        first = self.stop.close.sittings[0]
        self.at(first.end + timedelta(hours=1))
        self.assertIn("painted?", self.stop.next.sentence)
        over = past_due(self.project, self.stop.close.now)
        self.assertEqual({one.begin[:10] for one in over}, {f"{first.begin:%Y-%m-%d}"})
        self.stop.next.asked.emit()
        planned = self.planned()
        self.assertEqual({one.task for one in self.project.days.done}, {one.task for one in over})
        self.assertTrue(planned.taken)
        self.assertEqual(self.stop.close.past[0].day, first.begin.date())
        self.hover(self.card(first.begin.date()).box.center())
        self.assertIn("painted: support", self.stop.words_at((0, 0)))

    def test_none_of_it_and_only_this_one(self):
        self.take()
        first = self.stop.close.sittings[0]
        self.at(first.end + timedelta(hours=1))
        self.stop.open_page("sitting")
        page = self.stop.sitting_page
        page.over.chosen.emit(page.over.rows[0].key)
        page.over_acts.clicked.emit("this")
        self.planned()
        self.assertEqual(len(self.project.days.done), 1)
        key = self.project.days.done[0].task
        page.done.chosen.emit(key)
        page.done_acts.clicked.emit("undo")
        self.planned()
        self.assertEqual(self.project.days.done, ())
        page.over_acts.clicked.emit("missed")
        planned = self.planned()
        self.assertFalse(past_due(self.project, self.stop.close.now))
        self.assertFalse(planned.taken)
        self.assertIn("has to change", self.stop.next.sentence)
        self.take()
        self.assertTrue(self.stop.planned.taken)

    def test_a_finger_on_the_paint_teaches_this_painting_and_the_next(self):
        self.take()
        k = next(n for n, s in enumerate(self.stop.close.sittings) if any(x.act == "Highlights" for x in s.steps))
        end = self.stop.close.sittings[k].end
        self.at(end + timedelta(minutes=30))
        for _ in range(k + 1):
            self.stop.next.asked.emit()
            self.planned()
        self.stop.open_page("paint")
        page = self.stop.paint_page
        key = next(row.key for row in page.layers.rows if row.note.startswith("Highlights"))
        page.layers.chosen.emit(key)
        before = {one.pile: one.days for one in self.stop.close.piles}
        page.when.setText("soon")
        page.finger.clicked.emit("dry")
        self.assertEqual(self.project.days.notes, ())
        page.when.setText("")
        self.at(end + timedelta(hours=20))
        page.finger.clicked.emit("dry")
        self.planned()
        (note,) = self.project.days.notes
        self.assertEqual((note.task, note.dry[:10]), (key, f"{end + timedelta(hours=20):%Y-%m-%d}"))
        after = {one.pile: one.days for one in self.stop.close.piles}
        self.assertLess(after[note.pile], before[note.pile])
        self.assertEqual(len(calendars.noted_before("Another")), 1)
        self.assertIn("learned from 1 note", page.times_head.note)
        self.assertIn("times the typical time", page.studio_words.words)
        page.forget.clicked.emit("all")
        self.planned()
        self.assertEqual(self.project.days.notes, ())
        self.assertEqual(calendars.noted_before("Another"), ())

    def test_a_pile_says_its_states(self):
        self.stop.open_page("paint")
        page = self.stop.paint_page
        self.assertIn("Choose a pile", page.states.words)
        page.times.chosen.emit(page.times.rows[0].key)
        self.assertRegex(
            page.states.words, r"open \d+ (h|days) \(.* to .*\); soft .*touch-dry .*through-dry .*cured \d+ months"
        )

    def test_notes_are_shared_as_a_file(self):
        path = Path(self.dir) / "drying.json"
        from foxpath.core.days.studio import DryNote

        calendars.write_notes(
            path, [DryNote("Fox:a", "PW6", "white", 40.0, "2026-02-01T20:00", "", "2026-02-02T20:00")]
        )
        self.stop.paint_page.take_in(path)
        self.stop.paint_page.take_in(path)
        self.planned()
        self.assertEqual(len(self.project.days.earlier), 1)
        out = Path(self.dir) / "out.json"
        self.stop.paint_page.share(out)
        self.assertEqual(calendars.read_notes(out), self.project.days.earlier)


class Time(DaysCase):
    def test_a_hair_pulled_by_mouse_and_by_keys(self):
        self.stop.open_page("time")
        hairs = self.stop.time.hairs
        x = round(hairs._x(4))
        QTest.mousePress(hairs, Qt.MouseButton.LeftButton, pos=QPoint(x, 90))
        for y in (70, 60):
            QTest.mouseMove(hairs, QPoint(x, y))
            hairs.mouseMoveEvent(_moved(hairs, x, y))
        QTest.mouseRelease(hairs, Qt.MouseButton.LeftButton, pos=QPoint(x, 60))
        hours = hours_of(self.project.days.week[4])
        self.assertGreater(hours, 2)
        self.session.undo()
        # One pull is one step.
        self.assertEqual(self.project.days.week[4], ())
        self.planned()
        hairs.value = 0
        hairs.chosen.emit(0)
        self.key(Qt.Key.Key_Up, widget=hairs)
        self.assertEqual(hours_of(self.project.days.week[0]), 3.0)
        self.key(Qt.Key.Key_Delete, widget=hairs)
        self.assertEqual(self.project.days.week[0], ())

    def test_exact_ranges_away_and_busy(self):
        self.stop.open_page("time")
        page = self.stop.time
        page.hairs.chosen.emit(4)
        page.exact.taken.emit("18:00-20:00, 21:00–23:30")
        self.assertEqual(self.project.days.week[4], (("18:00", "20:00"), ("21:00", "23:30")))
        page.exact.taken.emit("six to eight")
        self.assertEqual(len(self.project.days.week[4]), 2)
        page.off.taken.emit("2026-03-10 to 2026-03-12")
        self.assertEqual(len(self.project.days.others), 3)
        self.planned()
        page.offs.chosen.emit("2026-03-11")
        page.off_acts.clicked.emit("usual")
        self.assertEqual([one.day for one in self.project.days.others], ["2026-03-10", "2026-03-12"])
        path = Path(self.dir) / "b.ics"
        path.write_text(ICS)
        page.read_calendar(path)
        self.settle()
        self.assertTrue(self.project.days.busy)
        page.busy.clicked.emit("forget")
        self.assertEqual(self.project.days.busy, ())
        said = []
        self.session.said.connect(lambda words, _: said.append(words))
        page.read_calendar(Path(self.dir) / "none.ics")
        self.settle()
        self.assertIn("could not be read", said[-1])

    def test_daylight_doors_and_what_is_kept_for_all(self):
        page = self.stop.time
        self.stop.open_page("time")
        page.daylight.toggled.emit(True)
        self.planned()
        self.assertTrue(page.winter.isVisibleTo(page))
        page.winter.taken.emit("09:00-15:30")
        page.summer.taken.emit("always")
        self.assertEqual(self.project.days.bright[0], ("09:00", "15:30"))
        self.assertEqual(self.project.days.bright[1], ("06:00", "21:00"))
        page.doors.chosen.emit("4-10")
        self.assertEqual((self.project.days.air_from, self.project.days.air_to), (4, 10))
        page.show_project(self.project, {})
        self.assertTrue(page.air_for.isVisibleTo(page))
        page.air_for.toggled.emit(True)
        self.assertEqual(self.project.days.air_for, "thinner")
        page.keep.clicked.emit("keep")
        self.assertTrue(calendars.own_habits().daylight)
        self.session.edit(lambda p: edits.set_days(p, daylight=False), "lamp")
        page.keep.clicked.emit("own")
        self.assertTrue(self.project.days.daylight)

    def test_the_room_goes_with_the_year_and_cold_days_are_left_out(self):
        room, page = self.stop.paint_page, self.stop.time
        self.stop.open_page("paint")
        self.assertFalse(room.measures["july_celsius"].isVisibleTo(room))
        room.seasons.toggled.emit(True)
        self.planned()
        self.assertTrue(room.measures["july_celsius"].isVisibleTo(room))
        room.measures["celsius"].changed.emit(11.0, False)
        room.measures["july_celsius"].changed.emit(27.0, False)
        self.assertEqual((self.project.days.celsius, self.project.days.july_celsius), (11.0, 27.0))
        self.stop.open_page("time")
        page.coldest.changed.emit(16.0, False)
        planned = self.planned()
        self.assertEqual(self.project.days.coldest, 16.0)
        # It is March: nothing before the room is warm enough.
        page.show_project(self.project, {})
        self.assertIn("Nothing is planned from 2 Mar to ", page.cold_words.accessibleName())
        begins = [planned.diary.at(a).date() for pieces in planned.plan.pieces for a, _ in pieces]
        self.assertEqual([day for day in begins if too_cold(self.project.days, day)], [])
        self.assertIn("13 °C", self.stop.words_at(None))
        page.coldest.changed.emit(25.0, False)
        self.session.edit(lambda p: edits.set_days(p, seasons=False), "the same all year")
        self.assertIn("all year", cold_words(self.project.days, date(2026, 3, 2)))
        self.planned()
        # Said once, though both the decisions and the plan find it; and it leads to the week's page.
        said = [one.says for one in [*self.stop.close.findings, *self.stop._standing()]]
        self.assertEqual(said.count("The room is too cold all year."), 1)
        self.assertFalse([words for words in said if words.startswith("No time is free")])


def _moved(widget, x, y):
    at = QPointF(x, y)
    left = Qt.MouseButton.LeftButton
    return QMouseEvent(
        QEvent.Type.MouseMove, at, QPointF(widget.mapToGlobal(QPoint(x, y))), left, left, Qt.KeyboardModifier.NoModifier
    )


class Sooner(TestCase):
    def plan(self, used, lost, days):
        problem = SimpleNamespace(finish=lambda plan: 1440.0 * days)
        return SimpleNamespace(
            plan=SimpleNamespace(used=used, lost=range(lost)), layout=SimpleNamespace(problem=problem)
        )

    def test_a_better_plan_says_by_how_much(self):
        old = self.plan(8, 2, 40.0)
        for new, words in (
            (self.plan(7, 2, 40.0), "1 sitting fewer"),
            (self.plan(8, 0, 40.0), "2 wet edges more kept"),
            (self.plan(8, 2, 38.8), "1 day sooner"),
            (self.plan(6, 1, 30.0), "2 sittings fewer, 1 wet edge more kept, 10 days sooner"),
            (self.plan(9, 3, 39.5), "a little sooner"),
        ):
            self.assertEqual(better_words(old, new), words)


class Words(WindowCase):
    def test_hairs(self):
        self.assertEqual(hours_of((("19:00", "21:30"), ("22:00", "01:00"))), 5.5)
        self.assertEqual(pulled((), 2.0, 0), (("19:00", "21:00"),))
        self.assertEqual(pulled((), 3.0, 6), (("10:00", "13:00"),))
        self.assertEqual(pulled((("19:00", "21:00"),), 0.0, 0), ())
        self.assertEqual(pulled((("19:00", "21:00"),), 3.5, 0), (("19:00", "22:30"),))
        self.assertEqual(pulled((("22:00", "23:00"),), 3.0, 0), (("22:00", "01:00"),))
        self.assertEqual(
            pulled((("08:00", "10:00"), ("19:00", "21:00")), 3.0, 0), (("08:00", "10:00"), ("19:00", "20:00"))
        )
        self.assertEqual(pulled((("08:00", "10:00"), ("19:00", "21:00")), 1.5, 0), (("08:00", "09:30"),))
        self.assertEqual([short_hours(x) for x in (0.5, 2.0, 2.5)], ["½", "2", "2½"])
        self.assertEqual([hours_words(x) for x in (0.0, 0.5, 2.5, 4.0)], ["", "½ h", "2½ h", "4 h"])

    def test_what_is_typed(self):
        self.assertEqual(ranges_of("9:00-10:30, 19:00–21:00"), (("09:00", "10:30"), ("19:00", "21:00")))
        self.assertEqual(ranges_of("none"), ())
        self.assertEqual(ranges_words((("09:00", "10:30"), ("19:00", "21:00"))), "09:00-10:30, 19:00-21:00")
        self.assertEqual(days_off("2026-03-10 to 2026-03-12"), (date(2026, 3, 10), date(2026, 3, 12), ()))
        self.assertEqual(days_off("2026-03-10"), (date(2026, 3, 10), date(2026, 3, 10), ()))
        self.assertEqual(days_off("2026-03-10 9:00-11:00")[2], (("09:00", "11:00"),))
        for text in ("", "tomorrow", "2026-03-12 to 2026-03-10", "2026-03-10 morning"):
            with self.assertRaisesRegex(Exception, "Write"):
                days_off(text)

    def test_when_a_finger_touched(self):
        moment = datetime(2026, 3, 2, 12, 0)
        self.assertEqual(when_of("", moment), moment)
        self.assertEqual(when_of("8:00", moment), datetime(2026, 3, 2, 8))
        # It cannot have been this evening yet.
        self.assertEqual(when_of("20:00", moment), datetime(2026, 3, 1, 20))
        self.assertEqual(when_of("2026-02-27 9:30", moment), datetime(2026, 2, 27, 9, 30))
        self.assertIsNone(when_of("at eight", moment))


if __name__ == "__main__":
    main()
