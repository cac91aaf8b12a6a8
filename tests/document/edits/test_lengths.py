"""Forms and tracts as they are decided: what is taken, held in range, and refused."""

import unittest

from foxpath.core.errors import InputError
from foxpath.core.feathers.tract import TRACT_RANGES
from foxpath.document import edits
from tests.made import project


class Forms(unittest.TestCase):
    def setUp(self):
        self.made = project()
        self.id = self.made.zones[0].id

    def form(self, **changes):
        return edits.set_form(self.made, self.id, **changes).zone(self.id).form

    def test_a_line_is_kept_and_taken_away_again(self):
        line = ((50.0, 40.0), (90.0, 70.0))
        made = edits.set_form(self.made, self.id, kind="cylinder", line=line)
        self.assertEqual(made.zone(self.id).form.line, line)
        self.assertEqual(edits.set_form(made, self.id, line=()).zone(self.id).form.line, ())

    def test_a_line_of_hardly_a_length_or_of_other_than_two_points_is_refused(self):
        for line in (
            ((50.0, 40.0), (51.9, 40.0)),
            ((50.0, 40.0), (51.0, 41.0)),
            ((5.0, 4.0),),
            ((0.0, 0.0), (9.0, 9.0), (20.0, 9.0)),
        ):
            with self.assertRaisesRegex(InputError, "too short"):
                self.form(kind="cylinder", line=line)
        for line in (((50.0, 40.0), (52.0, 40.0)), ((50.0, 40.0), (50.0, 38.0)), ((50.0, 40.0), (48.5, 41.5))):
            self.assertEqual(self.form(kind="cylinder", line=line).line, line)

    def test_a_turn_is_held_in_range_and_rounded(self):
        self.assertEqual([self.form(turn_deg=turn).turn_deg for turn in (-3, 0, 41.26, 85, 90)], [0, 0, 41.3, 85, 85])

    def test_a_form_that_is_none_and_a_zone_that_is_none(self):
        with self.assertRaisesRegex(InputError, "no form 'cube'"):
            self.form(kind="cube")
        self.assertIs(edits.set_form(self.made, "none", kind="ball"), self.made)


class Tracts(unittest.TestCase):
    def test_numbers_are_held_in_their_ranges_and_given_back(self):
        made = project()
        zone = made.zones[0].id
        for name, (low, high) in TRACT_RANGES.items():
            for value, kept in ((low - 1, low), (high + 1, high), ((low + high) / 2, round((low + high) / 2, 3))):
                changed = edits.set_tract(made, zone, **{name: value})
                self.assertAlmostEqual(getattr(changed.zone(zone).tract, name), kept, places=3, msg=name)
            self.assertIsNone(getattr(edits.set_tract(changed, zone, **{name: None}).zone(zone).tract, name))
        self.assertIs(edits.set_tract(made, "none", overlap=0.5), made)


if __name__ == "__main__":
    unittest.main()
