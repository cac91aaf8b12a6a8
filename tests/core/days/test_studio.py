"""What a painter decides of days: what cannot be is refused, what a file holds is made sound, light and doors follow the year."""

import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta

from foxpath.core.days.studio import (
    Days,
    DryNote,
    Laid,
    OtherDay,
    airy,
    bright_range,
    check_days,
    clock_of,
    clock_text,
    cold_days,
    day_of,
    daylit,
    moment_of,
    room_on,
    sound_days,
    too_cold,
)
from foxpath.core.errors import InputError

NOTE = DryNote("darks.z1", "PW6", "white", 30.0, "2026-03-02T20:00", "2026-03-03T08:00", "2026-03-04T08:00")


class Words(unittest.TestCase):
    def test_days_and_moments(self):
        self.assertEqual(day_of("2028-02-29"), date(2028, 2, 29))
        self.assertEqual(moment_of("2026-03-02T19:15:40"), datetime(2026, 3, 2, 19, 15))
        for text in ("", "2027-02-29", "2.3.2026", "1989-12-31", "2201-01-01", None):
            self.assertIsNone(day_of(text), text)
        for text in ("", "soon", "2026-03-02T25:00", "2026-03-02T19:00+01:00", "9999-12-31T00:00"):
            self.assertIsNone(moment_of(text), text)

    def test_times_of_day(self):
        self.assertEqual([clock_of(x) for x in ("00:00", "07:05", "24:00")], [0, 425, 1440])
        self.assertEqual([clock_of(x) for x in ("7:05", "24:01", "12:60", "1200", "ab:cd", "-1:00", "")], [None] * 7)
        self.assertEqual([clock_text(x) for x in (0, 425, 1440)], ["00:00", "07:05", "24:00"])


class Room(unittest.TestCase):
    def setUp(self):
        self.days = Days(celsius=12.0, humidity=70.0, seasons=True, july_celsius=26.0, july_humidity=50.0)

    def test_the_same_all_year_as_long_as_nobody_says_otherwise(self):
        still = replace(self.days, seasons=False)
        self.assertEqual({room_on(still, date(2026, month, 3)) for month in range(1, 13)}, {(12.0, 70.0)})

    def test_it_goes_from_january_to_july_and_back(self):
        warm, damp = zip(*(room_on(self.days, date(2026, month, 20)) for month in range(1, 13)), strict=True)
        self.assertEqual((warm[0], damp[0]), (12.0, 70.0))
        self.assertAlmostEqual(warm[6], 26.0, delta=0.01)
        self.assertAlmostEqual(damp[6], 50.0, delta=0.01)
        self.assertEqual(list(warm[:7]), sorted(warm[:7]))
        self.assertEqual(list(warm[6:]), sorted(warm[6:], reverse=True))
        # In the middle of spring and of autumn it is between the two.
        self.assertAlmostEqual(room_on(self.days, date(2026, 4, 21))[0], 19.0, delta=0.2)
        self.assertAlmostEqual(room_on(self.days, date(2026, 10, 20))[0], 19.0, delta=0.2)

    def test_in_the_south_july_is_the_cold_one(self):
        south = replace(self.days, celsius=26.0, july_celsius=12.0)
        self.assertGreater(room_on(south, date(2026, 1, 20))[0], room_on(south, date(2026, 7, 20))[0])

    def test_too_cold_is_under_what_was_asked_for(self):
        day = date(2026, 4, 21)
        warmth = room_on(self.days, day)[0]
        self.assertFalse(too_cold(replace(self.days, coldest=warmth), day))
        self.assertTrue(too_cold(replace(self.days, coldest=warmth + 0.01), day))
        self.assertFalse(too_cold(self.days, date(2026, 1, 20)))

    def test_the_next_cold_stretch(self):
        days = replace(self.days, coldest=16.0)
        first, last = cold_days(days, date(2026, 6, 1))
        self.assertEqual((first.year, last.year), (2026, 2027))
        for inside, outside in ((first, first - timedelta(days=1)), (last, last + timedelta(days=1))):
            self.assertTrue(too_cold(days, inside))
            self.assertFalse(too_cold(days, outside))
        # In the middle of it, it begins today.
        self.assertEqual(cold_days(days, date(2027, 1, 10)), (date(2027, 1, 10), last))
        self.assertIsNone(cold_days(replace(days, coldest=11.0), date(2026, 6, 1)))
        whole = cold_days(replace(days, coldest=25.0, seasons=False), date(2026, 6, 1))
        self.assertEqual((whole[1] - whole[0]).days, 365)


class Checked(unittest.TestCase):
    def test_the_usual_is_fine(self):
        check_days(Days())
        self.assertEqual(sound_days(Days()), Days())

    def test_what_cannot_be_is_refused_with_what_to_do(self):
        for values, words in (
            ({"celsius": 41.0}, "0 to 40"), ({"alkyd": 0.51}, "0 to 0.5"), ({"rest_days": -1.0}, "0 to 400"),
            ({"humidity": float("nan")}, "5 to 95"), ({"longest": 29}, "30 to 720"), ({"careful": "never"}, "likely, usual, sure"),
            ({"air_for": "cats"}, "varnish or thinner"), ({"together": ("Cat",) * 21}, "20 together"), ({"coldest": 26.0}, "0 to 25"), ({"july_celsius": 41.0}, "0 to 40"),
            ({"deadline": "tomorrow"}, "2026-03-02"), ({"start": "2026-13-01"}, "2026-03-02"), ({"week": ((),) * 6}, "Monday first"),
            ({"week": ((("7 pm", "21:00"),),) + ((),) * 6}, "19:00-21:30"), ({"bright": (("08:00", "16:00"), ("24:00", "25:00"))}, "19:00"),
            ({"others": (OtherDay("2026-03-04", (("19:00", "99:00"),)),)}, "19:00"),
        ):  # fmt: skip
            with self.subTest(values=values), self.assertRaises(InputError) as caught:
                check_days(replace(Days(), **values))
            self.assertIn(words, str(caught.exception))

    def test_bounds_themselves_are_kept(self):
        check_days(
            replace(Days(), celsius=40.0, alkyd=0.5, rest_days=400.0, humidity=5.0, longest=30, film=0.3, pause=0)
        )


class Sound(unittest.TestCase):
    def test_only_what_is_bad_goes_back_to_the_usual(self):
        made = sound_days(
            replace(Days(), celsius=99.0, humidity=60.0, week=((("x", "y"),),) * 7, deadline="2026-05-01")
        )
        self.assertEqual(
            (made.celsius, made.humidity, made.week, made.deadline), (20.0, 60.0, Days().week, "2026-05-01")
        )

    def test_rows_that_no_calendar_holds_go(self):
        good = Laid("a", "2026-03-02T19:00", "2026-03-02T20:00")
        backwards, nonsense = replace(good, end="2026-03-02T19:00"), replace(good, begin="noon")
        made = sound_days(
            replace(
                Days(), plan=(good, backwards), holds=(nonsense,), done=(good,), begun=(backwards,),
                busy=(("2026-03-02T19:00", "2026-03-02T20:00"), ("2026-03-02T20:00", "2026-03-02T19:00")),
                others=(OtherDay("2026-02-30"), OtherDay("2026-03-01")),
            )
        )  # fmt: skip
        self.assertEqual((made.plan, made.holds, made.done, made.begun), ((good,), (), (good,), ()))
        self.assertEqual((len(made.busy), [one.day for one in made.others]), (1, ["2026-03-01"]))

    def test_notes_that_cannot_be_go(self):
        before = replace(NOTE, tacky="2026-03-02T19:00")
        crossed = replace(NOTE, tacky="2026-03-04T09:00")
        empty = replace(NOTE, tacky="", dry="")
        self.assertEqual(sound_days(replace(Days(), notes=(NOTE, before, crossed, empty))).notes, (NOTE,))
        self.assertEqual((NOTE.hours(NOTE.tacky), NOTE.hours(NOTE.dry), NOTE.hours("")), (12.0, 36.0, 0.0))


class LightAndAir(unittest.TestCase):
    def test_daylight_is_shortest_in_december_and_longest_in_june(self):
        days = Days()
        ranges = {month: bright_range(days, date(2026, month, 21)) for month in range(1, 13)}
        lengths = {month: b - a for month, (a, b) in ranges.items()}
        self.assertEqual(min(lengths, key=lengths.get), 12)
        self.assertEqual(max(lengths, key=lengths.get), 6)
        self.assertEqual(bright_range(days, date(2026, 12, 21)), (510, 960))
        a, b = bright_range(days, date(2026, 6, 21))
        self.assertTrue(abs(a - 360) <= 1 and abs(b - 1260) <= 1)
        spring = bright_range(days, date(2026, 3, 22))
        self.assertTrue(430 < spring[0] < 440 and 1105 < spring[1] < 1115)

    def test_free_time_is_cut_to_daylight_night_by_night(self):
        evening = (datetime(2026, 12, 21, 15), datetime(2026, 12, 21, 21))
        night = (datetime(2026, 12, 21, 22), datetime(2026, 12, 22, 9))
        dark = (datetime(2026, 12, 21, 18), datetime(2026, 12, 21, 21))
        made = daylit(Days(), [evening, dark, night])
        self.assertEqual(
            made, [(evening[0], datetime(2026, 12, 21, 16)), (datetime(2026, 12, 22, 8, 30), datetime(2026, 12, 22, 9))]
        )

    def test_doors_stand_open_between_two_months_also_over_new_year(self):
        summer, winter = replace(Days(), air_from=4, air_to=10), replace(Days(), air_from=11, air_to=2)
        self.assertEqual([airy(summer, date(2026, m, 1)) for m in (3, 4, 10, 11)], [False, True, True, False])
        self.assertEqual([airy(winter, date(2026, m, 1)) for m in (10, 11, 2, 3)], [False, True, True, False])
        self.assertTrue(airy(Days(), date(2026, 1, 1)))
        self.assertTrue(airy(replace(Days(), air_from=4), date(2026, 1, 1)))


class Facts(unittest.TestCase):
    def test_what_follows_from_decisions(self):
        days = replace(
            Days(),
            deadline="2026-05-01",
            others=(OtherDay("2026-03-02"), OtherDay("2026-03-04", (("08:00", "09:00"),))),
        )
        self.assertEqual(days.ends(), datetime(2026, 5, 2))
        self.assertIsNone(Days().ends())
        self.assertEqual(days.free.on(date(2026, 3, 2)), [])
        self.assertEqual(days.free.on(date(2026, 3, 4)), [(datetime(2026, 3, 4, 8), datetime(2026, 3, 4, 9))])
        self.assertEqual(len(days.free.on(date(2026, 3, 3))), 1)
        self.assertEqual(Days().begins(date(2026, 3, 5)), date(2026, 3, 5))
        self.assertEqual(replace(Days(), start="2026-04-01").begins(date(2026, 3, 5)), date(2026, 4, 1))
        self.assertEqual([replace(Days(), careful=key).z for key in ("likely", "usual", "sure")], [0.0, 0.8416, 1.2816])
        self.assertEqual(replace(Days(), setup=5, pause=0).rule.setup, 5)


if __name__ == "__main__":
    unittest.main()
