"""What the picture shows where a part has gone, and what is painted there."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.derive import Results
from foxpath.derive.pictures import composed_key, measured_picture, picture_key
from foxpath.derive.reference.changes import changes_of, departures_record
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.document import edits
from tests.made import project


def part(made, name="Square"):
    return next(zone.id for zone in made.zones if zone.name == name)


class Gone(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, made = Results(), project()
        bar = np.array([[150.0, 20.0], [180.0, 20.0], [180.0, 60.0], [150.0, 60.0]])
        cls.made, cls.bar = edits.add_zone(made, "Bar", "short-fur", bar)

    def rgb(self, made):
        return measured_picture(self.results, made).rgb

    def test_nothing_has_gone_and_the_picture_is_the_photograph(self):
        self.assertEqual(composed_key(self.results, self.made), self.made.reference.digest)

    def test_left_out_what_lies_behind_is_seen_and_painted(self):
        gone = edits.leave_out_part(self.made, part(self.made, "Eye"))
        self.assertNotEqual(picture_key(self.results, gone), picture_key(self.results, self.made))
        before, after = (lab_from_rgb8(self.rgb(p)) for p in (self.made, gone))
        np.testing.assert_array_equal(after[130:], before[130:])
        names = [plan.zone for plan in changes_of(self.results, gone, 200).parts]
        self.assertNotIn(part(self.made, "Eye"), names)
        off = changes_of(self.results, gone, 200).difference
        self.assertGreater(float(np.abs(off[60:76, 72:88].astype(int) - off[150, 5]).max()), 4)
        record = departures_record(gone)
        self.assertEqual(record["gone"], [{"part": "Eye", "moved_mm": None}])
        self.assertEqual(len(rehearse(self.results, gone, 200)) > 3, True)

    def test_moved_its_pixels_lie_where_it_is_now(self):
        moved = edits.move_part(self.made, self.bar, (-30.0, 60.0))
        # The ramp behind it is bluer below: what came along is told by where it was.
        here, there = self.rgb(moved)[100, 135], self.rgb(self.made)[40, 165]
        self.assertLess(float(np.abs(here.astype(int) - there).max()), 4)
        self.assertEqual(departures_record(moved)["gone"][0]["moved_mm"], [-37.5, 75.0])

    def test_what_lies_in_front_of_it_stays(self):
        behind = edits.leave_out_part(self.made, part(self.made))
        before, after = self.rgb(self.made), self.rgb(behind)
        # The eye lies over the square: its middle is as it was.
        np.testing.assert_array_equal(after[68, 80], before[68, 80])
        self.assertFalse(np.array_equal(after[95, 55], before[95, 55]))
