import os
import time
import unittest
from datetime import date, datetime, timedelta
from unittest import mock

from foxpath.core.days.calendar import Rule, Week, free_time, read_week, sittings
from foxpath.core.days.ical import Event, busy_times, calendar_of
from foxpath.core.errors import InputError

START = datetime(2026, 3, 2)


def day(n, hour=0, minute=0):
    return START + timedelta(days=n, hours=hour, minutes=minute)


class Free(unittest.TestCase):
    def test_weeks_exceptions_and_midnight(self):
        week = read_week({"mon": [["19:00", "21:00"]], "fri": [["22:00", "01:00"]], "sat": [["20:00", "24:00"]],
                          "except": {"2026-03-09": [], "2026-03-10": [["08:00", "09:00"]]}}, "f.json")  # fmt: skip
        free = free_time(week, START, 10)
        self.assertEqual(
            free,
            [(day(0, 19), day(0, 21)), (day(4, 22), day(5, 1)), (day(5, 20), day(6)), (day(8, 8), day(8, 9))],
        )

    def test_what_began_yesterday_is_cut_at_the_start(self):
        week = Week({"sun": (("22:00", "02:00"),)})
        self.assertEqual(free_time(week, START, 3), [(START, day(0, 2))])

    def test_a_leap_day_is_a_day(self):
        week = Week({}, {date(2028, 2, 29): (("10:00", "12:00"),)})
        found = free_time(week, datetime(2028, 2, 28), 4)
        self.assertEqual(found, [(datetime(2028, 2, 29, 10), datetime(2028, 2, 29, 12))])

    def test_busy_times_are_cut_out_and_what_touches_is_one(self):
        week = Week({"mon": (("10:00", "12:00"), ("12:00", "14:00"))})
        busy = [(day(0, 11), day(0, 11, 30)), (day(0, 13, 30), day(0, 20))]
        self.assertEqual(free_time(week, START, 1, busy), [(day(0, 10), day(0, 11)), (day(0, 11, 30), day(0, 13, 30))])
        self.assertEqual(free_time(week, START, 1, [(day(0, 9), day(0, 15))]), [])

    def test_what_is_no_free_time_is_said(self):
        for record, words in (
            ([], "no free time"), ({"mo": []}, "no day"), ({"mon": "x"}, "list of ranges"), ({"mon": [["19:00"]]}, "two times"),
            ({"mon": [["19:00", "25:00"]]}, "no time of day"), ({"mon": [], "except": {}}, "no free time at all"),
            ({"mon": [["1:00", "2:00"]], "except": {"x": []}}, "no time of day|no date"), ({"except": []}, "names no days"),
        ):  # fmt: skip
            with self.assertRaisesRegex(InputError, words):
                read_week(record, "f.json")


class Sittings(unittest.TestCase):
    def test_set_up_and_clean_up_are_taken_off_and_long_ones_cut(self):
        free = [(day(0, 19), day(0, 21)), (day(1, 9), day(1, 17)), (day(2, 9), day(2, 9, 40))]
        made = sittings(free, START, Rule())
        self.assertEqual(made[0], (19 * 60 + 15, 21 * 60 - 15))
        second = [one for one in made if 1440 <= one[0] < 2880]
        self.assertEqual(len(second), 3)
        for (_, b), (c, _) in zip(second, second[1:], strict=False):
            self.assertGreaterEqual(c - b, 15 + 30 + 15 - 1)
        for a, b in second:
            self.assertLessEqual(b - a, 150)
        # Forty minutes less half an hour is not worth unpacking.
        self.assertFalse([one for one in made if one[0] >= 2880])


ICS = """BEGIN:VCALENDAR
VERSION:2.0
PRODID:-//made up//EN
BEGIN:VEVENT
UID:a
DTSTART:20260302T180000
DTEND:20260302T200000
SUMMARY:Once
END:VEVENT
BEGIN:VEVENT
UID:b
DTSTART:20260303T190000
DURATION:PT1H
RRULE:FREQ=WEEKLY;COUNT=4
EXDATE:20260310T190000
SUMMARY:Weekly
END:VEVENT
BEGIN:VEVENT
UID:b
RECURRENCE-ID:20260317T190000
DTSTART:20260318T100000
DTEND:20260318T110000
SUMMARY:Moved
END:VEVENT
BEGIN:VEVENT
UID:c
DTSTART;VALUE=DATE:20260305
DTEND;VALUE=DATE:20260307
SUMMARY:Away
END:VEVENT
BEGIN:VEVENT
UID:d
DTSTART:20260304T100000
DTEND:20260304T110000
TRANSP:TRANSPARENT
SUMMARY:Only a note
END:VEVENT
BEGIN:VEVENT
UID:e
DTSTART:20260304T100000
DTEND:20260304T110000
STATUS:CANCELLED
SUMMARY:Off
END:VEVENT
END:VCALENDAR
"""


class Busy(unittest.TestCase):
    def test_repeats_exceptions_moves_and_days(self):
        found = busy_times(ICS.encode(), START, day(40))
        self.assertEqual(
            found,
            [
                (day(0, 18), day(0, 20)), (day(1, 19), day(1, 20)), (day(3), day(5)), (day(16, 10), day(16, 11)),
                (day(22, 19), day(22, 20)),
            ],
        )  # fmt: skip

    def test_what_reaches_into_the_weeks_asked_for_is_busy_and_what_ended_before_is_not(self):
        def one(begin, end):
            return (
                f"BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\nBEGIN:VEVENT\nUID:q\nDTSTART:{begin}\nDTEND:{end}\nSUMMARY:x\n"
                "END:VEVENT\nEND:VCALENDAR\n"
            ).encode()

        night = busy_times(one("20260301T220000", "20260302T013000"), START, day(10))
        self.assertEqual(night, [(datetime(2026, 3, 1, 22), day(0, 1, 30))])
        self.assertEqual(busy_times(one("20260301T200000", "20260302T000000"), START, day(10)), [])
        last = busy_times(one("20260311T233000", "20260312T010000"), START, day(10))
        self.assertEqual(last, [(day(9, 23, 30), day(10, 1))])
        self.assertEqual(busy_times(one("20260312T000000", "20260312T010000"), START, day(10)), [])

    def test_the_clock_change_is_in_the_zone(self):
        ics = ICS.split("BEGIN:VEVENT", maxsplit=1)[0] + (
            "BEGIN:VEVENT\nUID:z\nDTSTART;TZID=Europe/Berlin:20260323T180000\nDTEND;TZID=Europe/Berlin:20260323T190000\n"
            "RRULE:FREQ=WEEKLY;COUNT=2\nSUMMARY:Zoned\nEND:VEVENT\nEND:VCALENDAR\n"
        )
        self.addCleanup(time.tzset)
        with mock.patch.dict(os.environ, {"TZ": "UTC"}):
            time.tzset()
            found = busy_times(ics.encode(), START, day(60))
        # 18:00 in Berlin is 17:00 UTC before the last Sunday of March, and 16:00 after it.
        self.assertEqual([a for a, _ in found], [datetime(2026, 3, 23, 17), datetime(2026, 3, 30, 16)])

    def test_what_is_no_calendar_is_said(self):
        for data in (b"", b"nothing", b"\xff\xfe", b"BEGIN:VCALENDAR\nBEGIN:VEVENT\n"):
            with self.assertRaisesRegex(InputError, "is no calendar|cannot be read"):
                busy_times(data, START, day(10), "b.ics")

    def test_written_and_read_again(self):
        events = [
            Event("u1@foxpath", day(0, 19), day(0, 21), "Fox: lights", "19:15 ears\n20:00 bib"),
            Event("u2@foxpath", day(1, 9), day(1, 10), "Fox"),
        ]
        data = calendar_of(events, START)
        self.assertEqual(busy_times(data, START, day(5)), [(day(0, 19), day(0, 21)), (day(1, 9), day(1, 10))])
        self.assertEqual(data.count(b"UID:u1@foxpath"), 1)


if __name__ == "__main__":
    unittest.main()
