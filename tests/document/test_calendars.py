"""What paintings have in common: free time, one another's sittings, and what a finger taught."""

import os
import tempfile
import unittest
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from unittest import mock

from foxpath.core.days.studio import Days, DryNote
from foxpath.core.errors import AppError
from foxpath.document import calendars, edits
from tests.made import project

EVENING = datetime(2026, 3, 2, 19, 0)
NOTE = DryNote("darks.z1", "PW6", "white", 30.0, "2026-03-02T20:00", "", "2026-03-04T20:00")


class Kept(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict(os.environ, {"FOXPATH_DATA": str(self.folder)}))

    def test_free_time_and_room(self):
        self.assertEqual(calendars.own_habits(), Days())
        made = edits.set_days(
            edits.set_weekday(project(), 4, (("18:00", "20:00"),)), celsius=17.0, deadline="2026-09-01"
        )
        calendars.keep_habits(made.days)
        new = calendars.with_own_days(project())
        self.assertEqual((new.days.week[4], new.days.celsius, new.days.deadline), ((("18:00", "20:00"),), 17.0, ""))

    def test_a_damaged_file_is_said_and_a_painting_is_begun_all_the_same(self):
        (self.folder / "habits.json").write_text("{}")
        with self.assertRaises(AppError):
            calendars.own_habits()
        self.assertEqual(calendars.with_own_days(project()).days, Days())
        (self.folder / "sittings.json").write_text("no")
        self.assertEqual(calendars.other_sittings("fox", EVENING), {})
        with self.assertRaises(AppError):
            calendars.keep_sittings("fox", [])

    def test_hostile_habits_go_back_to_the_usual(self):
        text = '{"format": "foxpath-habits", "version": 1, "days": [{"celsius": 21.0, "week": [[["99:99", "0"]], [], [], [], [], [], []]}]}'
        (self.folder / "habits.json").write_text(text)
        self.assertEqual((calendars.own_habits().celsius, calendars.own_habits().week), (21.0, Days().week))

    def test_sittings_of_other_paintings_that_are_to_come(self):
        hour = timedelta(hours=1)
        calendars.keep_sittings("fox", [(EVENING, EVENING + hour)])
        calendars.keep_sittings("jay", [(EVENING + hour, EVENING + 2 * hour), (EVENING - hour, EVENING)])
        self.assertEqual(calendars.other_sittings("fox", EVENING), {"jay": [(EVENING + hour, EVENING + 2 * hour)]})
        self.assertEqual(set(calendars.other_sittings("cavy", EVENING)), {"fox", "jay"})
        calendars.keep_sittings("jay", [])
        self.assertEqual(calendars.other_sittings("fox", EVENING), {})

    def test_notes_are_learned_from_by_the_next_painting_and_not_twice_by_their_own(self):
        mine = edits.rename(project(), "Fox")
        mine = replace(mine, days=replace(mine.days, notes=(NOTE,)))
        calendars.keep_notes(mine)
        calendars.keep_notes(mine)
        self.assertEqual([one.task for one in calendars.noted_before("Jay")], ["Fox:darks.z1"])
        self.assertEqual(calendars.noted_before("Fox"), ())
        self.assertEqual(len(calendars.with_own_days(edits.rename(project(), "Jay")).days.earlier), 1)
        calendars.forget_notes("PY43")
        self.assertEqual(len(calendars.noted_before("Jay")), 1)
        calendars.forget_notes("PW6")
        self.assertEqual(calendars.noted_before("Jay"), ())

    def test_notes_as_a_file(self):
        path = self.folder / "shared.json"
        calendars.write_notes(path, [NOTE, replace(NOTE, dry="2026-03-01T00:00")])
        self.assertEqual(calendars.read_notes(path), (NOTE,))
        path.write_text('{"format": "foxpath-drying", "version": 9, "notes": []}')
        with self.assertRaisesRegex(AppError, "newer"):
            calendars.read_notes(path)


if __name__ == "__main__":
    unittest.main()
