"""A suggestion in words, when it says something new, and which kind of coat it speaks for."""

import math
import unittest
from dataclasses import replace

from foxpath.core.lengths.visible import LONG_SHARE, Visible
from foxpath.derive import Results
from foxpath.derive.lengths.suggested import HIDDEN, Suggestion, _on_canvas, suggested_of
from foxpath.document import edits
from tests.made import SQUARE, project

SEEN = Visible(40.0, 4.0, 1.5, least=False, blurred=False, places=120)


class Words(unittest.TestCase):
    def test_the_length_with_its_doubt_or_as_the_least(self):
        one = Suggestion(12.0, 0.8, SEEN, "")
        self.assertEqual((one.length_words(), one.width_words()), ("12 mm (8 mm to 18 mm)", "0.8 mm"))
        rough = Suggestion(12.0, 0.8, replace(SEEN, least=True, blurred=True), "")
        self.assertEqual((rough.length_words(), rough.width_words()), ("12 mm or more", "0.8 mm or finer"))

    def test_it_says_something_new_beyond_fifteen_in_the_hundred_either_way(self):
        one = Suggestion(10.0, 0.8, SEEN, "")
        told = [one.differs(10.0 * times) for times in (1 / 1.16, 1 / 1.14, 1.0, 1.14, 1.16)]
        self.assertEqual(told, [True, False, False, False, True])
        least = Suggestion(10.0, 0.8, replace(SEEN, least=True), "")
        self.assertEqual([least.differs(mm) for mm in (9.9, 10.0, 40.0)], [True, False, False])


class OnTheCanvas(unittest.TestCase):
    """The small project is 250 mm wide on 200 px."""

    def setUp(self):
        self.project = project(combs=False)
        self.mm = 1.25
        self.bound = LONG_SHARE * 250

    def on(self, kind, length_mm, **seen):
        zone = replace(next(zone for zone in self.project.zones if zone.name == "Square"), kind=kind)
        return _on_canvas(self.project, zone, replace(SEEN, length_px=length_mm / self.mm, **seen))

    def test_millimetres_and_no_hair_wider_than_a_third_of_its_length(self):
        one = self.on("short-fur", 6.0, width_px=1.0)
        self.assertAlmostEqual(one.length_mm, 6.0)
        self.assertAlmostEqual(one.width_mm, 1.25)
        self.assertAlmostEqual(self.on("short-fur", 6.0, width_px=3.0).width_mm, 2.0)

    def test_long_fur_is_told_at_once_and_short_only_where_nothing_can_hide(self):
        self.assertEqual(self.on("short-fur", self.bound + 0.1).kind, "long-fur")
        self.assertEqual(self.on("short-fur", self.bound + 0.1, least=True).kind, "long-fur")
        self.assertEqual(self.on("long-fur", self.bound + 0.1).kind, "")
        # Shorter than the bound: hair may be five times as long as what is followed of it.
        self.assertEqual(self.on("long-fur", self.bound - 0.1).kind, "")
        self.assertEqual(self.on("long-fur", self.bound / HIDDEN - 0.01).kind, "short-fur")
        self.assertEqual(self.on("long-fur", self.bound / HIDDEN + 0.01).kind, "")
        self.assertEqual(self.on("long-fur", self.bound / HIDDEN - 0.01, least=True).kind, "")
        # What the painter called curly or bare is not argued with.
        self.assertEqual(self.on("curly-fur", self.bound + 0.1).kind, "")


class Asked(unittest.TestCase):
    def test_only_of_coats_of_hair(self):
        made = project()
        for kind in ("bare-skin", "covert", "eye"):
            other, key = edits.add_zone(made, "Other", kind, SQUARE + (10.0, 40.0))
            index = next(k for k, zone in enumerate(other.back_to_front()) if zone.id == key)
            self.assertIsNone(suggested_of(Results(), other, index))

    def test_where_no_hair_shows_nothing_is_said(self):
        smooth = project()
        index = next(k for k, zone in enumerate(smooth.back_to_front()) if zone.name == "Square")
        self.assertIsNone(suggested_of(Results(), smooth, index))
        hidden, _ = edits.add_zone(smooth, "Over", "short-fur", SQUARE * 1.5 - (40.0, 35.0))
        index = next(k for k, zone in enumerate(hidden.back_to_front()) if zone.name == "Square")
        self.assertIsNone(suggested_of(Results(), hidden, index))

    def test_doubt_is_a_factor(self):
        self.assertGreaterEqual(math.log(SEEN.doubt), math.log(1.2))


if __name__ == "__main__":
    unittest.main()
