"""The air of a room: the stand-in's day and year, and readings that cannot be."""

import math
import unittest
from datetime import datetime, timedelta
from unittest import mock

from foxpath.core.errors import InputError
from foxpath.core.log import room
from foxpath.core.log.easel import Easel, check_easel, sound_easel
from foxpath.core.log.room import COLDEST, HOTTEST, Air, StandIn, air_now, sound_air

NOON = datetime(2026, 7, 19, 15, 0)


def mean(moment, hours=1.0):
    """Return the mean air over so many hours, so that what wanders cancels."""
    read = [StandIn().read(moment + timedelta(minutes=k)) for k in range(round(60 * hours))]
    return sum(one.celsius for one in read) / len(read), sum(one.humidity for one in read) / len(read)


class TheStandIn(unittest.TestCase):
    def test_a_moment_reads_the_same_and_the_next_hardly_differs(self):
        first = StandIn().read(NOON)
        self.assertEqual(first, StandIn().read(NOON + timedelta(seconds=20)))
        for k in range(60):
            after = StandIn().read(NOON + timedelta(minutes=k))
            self.assertLess(abs(after.celsius - first.celsius), 1.5)

    def test_it_is_warm_and_dry_by_day_and_heated_dry_in_winter(self):
        day, night = mean(NOON), mean(NOON - timedelta(hours=12))
        self.assertAlmostEqual(day[0] - night[0], 3.6, delta=0.4)
        self.assertAlmostEqual(night[1] - day[1], 7.0, delta=1.5)
        winter = mean(datetime(2026, 1, 18, 15, 0))
        self.assertAlmostEqual(day[0] - winter[0], 4.4, delta=0.5)
        self.assertAlmostEqual(day[1] - winter[1], 18.0, delta=2.5)

    def test_its_room_can_be_set(self):
        cold = StandIn(celsius=12.0, humidity=70.0).read(NOON)
        usual = StandIn().read(NOON)
        self.assertAlmostEqual(usual.celsius - cold.celsius, 7.5, delta=0.11)
        self.assertAlmostEqual(cold.humidity - usual.humidity, 22.0, delta=0.11)


class Readings(unittest.TestCase):
    def test_what_cannot_be_is_no_reading(self):
        self.assertEqual(sound_air(Air(19.5, 46.0)), Air(19.5, 46.0))
        self.assertIsNotNone(sound_air(Air(COLDEST, 100.0)))
        self.assertIsNotNone(sound_air(Air(HOTTEST, 1.0)))
        for wrong in (
            Air(COLDEST - 0.1, 50), Air(HOTTEST + 0.1, 50), Air(20, 0), Air(20, 100.1), Air(math.nan, 50), Air(20, math.inf), None,
        ):  # fmt: skip
            self.assertIsNone(sound_air(wrong))
        self.assertEqual(Air(19.5, 46.0).words(), "19.5 °C, 46 % damp")

    def test_a_sensor_that_fails_leaves_what_was_typed(self):
        self.assertEqual(air_now("", NOON, 20.0, 50.0), Air(20.0, 50.0))
        self.assertEqual(air_now("stand-in", NOON, 20.0, 50.0), StandIn().read(NOON))

        class Broken:
            name = "broken"

            def read(self, moment):
                return Air(-127.0, 50.0)

        with mock.patch.dict(room.SENSORS, {"broken": Broken()}):
            self.assertEqual(air_now("broken", NOON, 20.0, 50.0), Air(20.0, 50.0))

    def test_only_known_sensors_are_taken(self):
        check_easel(Easel(sensor="stand-in"))
        with self.assertRaisesRegex(InputError, "no sensor"):
            check_easel(Easel(sensor="nose"))
        self.assertEqual(sound_easel(Easel(sensor="nose")), Easel())


if __name__ == "__main__":
    unittest.main()
