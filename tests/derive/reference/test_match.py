"""A part is brought to a colour: a target, or an accent that is echoed."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.errors import InputError
from foxpath.core.reference.departures import Departure, matching
from foxpath.derive import Results
from foxpath.derive.frames import map_frame
from foxpath.derive.pictures import scaled_picture
from foxpath.derive.reference.changes import match_colour
from foxpath.derive.zones.shapes import labels_of
from foxpath.document import edits
from tests.made import project


def mean_of(results, made, zone):
    frame = map_frame(made)
    place = next(k for k, one in enumerate(made.back_to_front()) if one.id == zone)
    lab = lab_from_rgb8(scaled_picture(results, made, frame.columns, frame.rows))
    return lab[labels_of(results, made, frame) == place].mean(axis=0)


class Matching(unittest.TestCase):
    def test_the_shifts_are_what_lies_between(self):
        one = matching(Departure("z"), (50.0, 4.0, 10.0), (44.0, 10.0, 18.0))
        self.assertAlmostEqual(one.lightness, -6)
        self.assertAlmostEqual(one.warmth, 8)
        # Part of the red comes with the warmth.
        self.assertAlmostEqual(one.redness, 6 - 0.3 * 8)

    def test_a_strength_that_was_said_is_reckoned_with(self):
        one = matching(Departure("z", strength=0.5), (50.0, 4.0, 10.0), (50.0, 4.0, 10.0))
        self.assertAlmostEqual(one.warmth, 5)
        self.assertAlmostEqual(one.redness, 2 - 0.3 * 5)
        self.assertEqual(one.strength, 0.5)

    def test_what_is_too_far_is_gone_toward_as_far_as_it_goes(self):
        one = matching(Departure("z"), (50.0, 0.0, 0.0), (99.0, 0.0, 80.0))
        self.assertEqual((one.lightness, one.warmth), (40.0, 30.0))

    def test_the_changed_picture_has_the_colour(self):
        results, made = Results(), project()
        zone = next(z.id for z in made.zones if z.name == "Square")
        target = (52.0, 9.0, 16.0)
        one = match_colour(results, made, zone, "all", target)
        values = {name: getattr(one, name) for name in ("lightness", "warmth", "redness")}
        matched = edits.depart(made, zone, **values)
        # Its rim gives way to what lies beside it, and to hair that hangs over it.
        np.testing.assert_allclose(mean_of(results, matched, zone), target, atol=2.6)
        # Asked again nothing changes: it goes by the photograph, not by what was done to it.
        again = match_colour(results, matched, zone, "all", target)
        self.assertAlmostEqual(again.lightness, one.lightness, places=4)

    def test_of_what_is_seen_nowhere_nothing_can_be_matched(self):
        results, made = Results(), project()
        covered, zone = edits.add_zone(made, "Under", "short-fur", np.array([[80.0, 66], [84, 66], [84, 70], [80, 70]]))
        zones = tuple(replace(z, depth=-5) if z.id == zone else z for z in covered.zones)
        hidden = replace(covered, zones=zones)
        self.assertRaises(InputError, match_colour, results, hidden, zone, "all", (50.0, 0.0, 0.0))
