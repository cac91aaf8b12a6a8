"""Edits of days."""

import unittest
from datetime import date, datetime, timedelta

from foxpath.core.days.studio import DryNote, Laid
from foxpath.core.errors import InputError
from foxpath.document import edits
from foxpath.document.edits.days import as_habits
from tests.made import project

EVENING = datetime(2026, 3, 2, 19, 15)
LAID = Laid("darks.z1", "2026-03-02T19:15", "2026-03-02T20:00")
NOTE = DryNote("darks.z1", "PW6", "white", 30.0, "2026-03-02T20:00")


class DaysEdits(unittest.TestCase):
    def setUp(self):
        self.project = project()

    def test_a_weekday_and_other_days(self):
        made = edits.set_weekday(self.project, 4, (("18:00", "20:00"),))
        self.assertEqual(made.days.week[4], (("18:00", "20:00"),))
        self.assertEqual(made.days.week[3], self.project.days.week[3])
        made = edits.set_day(made, date(2026, 3, 4), ())
        made = edits.set_day(made, date(2026, 3, 3), (("08:00", "09:00"),))
        self.assertEqual([one.day for one in made.days.others], ["2026-03-03", "2026-03-04"])
        made = edits.set_day(made, date(2026, 3, 4), (("10:00", "11:00"),))
        self.assertEqual(made.days.others[1].ranges, (("10:00", "11:00"),))
        made = edits.set_day(made, date(2026, 3, 4), None)
        self.assertEqual([one.day for one in made.days.others], ["2026-03-03"])
        with self.assertRaises(InputError):
            edits.set_weekday(self.project, 0, (("8", "9"),))

    def test_away_takes_both_ends_and_replaces_what_was_said_of_those_days(self):
        made = edits.set_day(self.project, date(2026, 3, 5), (("10:00", "11:00"),))
        made = edits.set_away(made, date(2026, 3, 4), date(2026, 3, 6))
        self.assertEqual(
            [(one.day, one.ranges) for one in made.days.others], [(f"2026-03-0{k}", ()) for k in (4, 5, 6)]
        )
        for last in (date(2026, 3, 3), date(2027, 3, 6)):
            with self.assertRaises(InputError):
                edits.set_away(self.project, date(2026, 3, 4), last)
        self.assertEqual(len(edits.set_away(self.project, date(2026, 3, 4), date(2027, 3, 4)).days.others), 366)

    def test_busy_times_are_joined_and_replaced(self):
        hour = timedelta(hours=1)
        made = edits.take_busy(self.project, [(EVENING, EVENING + hour), (EVENING + hour / 2, EVENING + 2 * hour)])
        self.assertEqual(made.days.busy, (("2026-03-02T19:15", "2026-03-02T21:15"),))
        self.assertEqual(made.days.taken(), [(EVENING, EVENING + 2 * hour)])
        made = edits.take_busy(made, [(EVENING, EVENING + hour), (EVENING + 2 * hour, EVENING + 3 * hour)])
        self.assertEqual(len(made.days.busy), 2)
        self.assertEqual(edits.take_busy(made, ()).days.busy, ())
        with self.assertRaises(InputError):
            edits.take_busy(made, [(EVENING + 2 * k * hour, EVENING + (2 * k + 1) * hour) for k in range(5001)])

    def test_a_plan_is_taken_and_forgotten_with_its_holds(self):
        made = edits.take_plan(self.project, [LAID])
        made = edits.hold_tasks(made, ["darks.z1", "x"], EVENING, EVENING + timedelta(hours=2))
        made = edits.hold_tasks(made, ["x"], EVENING, EVENING + timedelta(hours=3))
        self.assertEqual([(one.task, one.end[-5:]) for one in made.days.holds], [("darks.z1", "21:15"), ("x", "22:15")])
        self.assertEqual([one.task for one in edits.let_go(made, ["x"]).days.holds], ["darks.z1"])
        gone = edits.forget_plan(made)
        self.assertEqual((gone.days.plan, gone.days.holds), ((), ()))
        with self.assertRaises(InputError):
            edits.take_plan(self.project, [])
        with self.assertRaises(InputError):
            edits.hold_tasks(made, ["x"], EVENING, EVENING)

    def test_done_begun_missed_and_taken_back(self):
        made = edits.mark_done(edits.take_plan(self.project, [LAID]), [LAID])
        later = Laid("darks.z1", "2026-03-03T19:15", "2026-03-03T20:00")
        made = edits.mark_done(made, [later])
        self.assertEqual(made.days.done, (later,))
        made = edits.mark_begun(edits.mark_begun(made, [LAID]), [LAID])
        self.assertEqual(made.days.begun, (LAID,))
        made = edits.note_drying(made, NOTE, "dry", EVENING + timedelta(days=2))
        back = edits.mark_undone(made, ["darks.z1"])
        self.assertEqual((back.days.done, back.days.begun, back.days.notes), ((), (), ()))
        self.assertEqual(edits.mark_missed(made, [LAID]).days.plan, ())
        with self.assertRaises(InputError):
            edits.mark_done(made, [Laid("a", "2026-03-02T19:15", "2026-03-02T19:15")])

    def test_a_finger_keeps_the_last_tacky_and_the_first_dry(self):
        def at(hours):
            return EVENING + timedelta(hours=hours)

        made = edits.note_drying(self.project, NOTE, "tacky", at(8))
        made = edits.note_drying(made, NOTE, "tacky", at(5))
        self.assertEqual(made.days.notes[0].tacky, "2026-03-03T03:15")
        made = edits.note_drying(made, NOTE, "tacky", at(10))
        made = edits.note_drying(made, NOTE, "dry", at(30))
        made = edits.note_drying(made, NOTE, "dry", at(40))
        (one,) = made.days.notes
        self.assertEqual((one.tacky, one.dry), ("2026-03-03T05:15", "2026-03-04T01:15"))
        made = edits.note_drying(made, NOTE, "dry", at(20))
        self.assertEqual(made.days.notes[0].dry, "2026-03-03T15:15")
        for state, hours in (("tacky", 21), ("dry", 9), ("tacky", 0), ("wet", 3)):
            with self.subTest(state=state, hours=hours), self.assertRaises(InputError):
                edits.note_drying(made, NOTE, state, at(hours))

    def test_what_was_learned_of_a_pile_is_forgotten(self):
        made = edits.note_drying(self.project, NOTE, "dry", EVENING + timedelta(days=1))
        other = DryNote("lights.z1", "PY43", "ochre", 30.0, "2026-03-02T20:00")
        made = edits.note_drying(made, other, "dry", EVENING + timedelta(days=1))
        self.assertEqual([one.pile for one in edits.forget_drying(made, "PW6").days.notes], ["PY43"])
        self.assertEqual(edits.forget_drying(made).days.notes, ())

    def test_habits_are_what_holds_for_every_painting(self):
        made = edits.set_days(edits.take_plan(self.project, [LAID]), celsius=17.0, deadline="2026-05-01", alkyd=0.1)
        habits = as_habits(made.days)
        self.assertEqual((habits.celsius, habits.deadline, habits.alkyd, habits.plan), (17.0, "", 0.0, ()))


if __name__ == "__main__":
    unittest.main()
