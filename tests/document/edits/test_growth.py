"""Combs, marks, hairs and brushes: what is refused, what is kept within bounds, what comes of it."""

import unittest

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.lengths import Brush
from foxpath.document import edits
from foxpath.document.edits.lengths import MOST_BRUSHES
from tests.made import SQUARE, project

LINE = np.array([[50.0, 60.0], [110.0, 60.0]])


class Combs(unittest.TestCase):
    def setUp(self):
        self.made = project()
        self.comb = self.made.combs[0]
        self.zone = self.comb.zone

    def test_a_comb_turned_has_its_root_where_its_tip_was(self):
        turned = edits.turn_comb(self.made, self.comb.id).combs[0]
        self.assertEqual(turned.points, self.comb.points[::-1])

    def test_a_comb_swings_clockwise_about_its_middle(self):
        swung = edits.swing_comb(self.made, self.comb.id, 90).combs[0]
        np.testing.assert_allclose(swung.points, [(80, 15), (80, 75)], atol=1e-6)

    def test_what_is_too_short_changes_nothing_or_is_refused(self):
        short = np.array([[50.0, 60.0], [51.9, 60.0]])
        self.assertIs(edits.change_comb(self.made, self.comb.id, short), self.made)
        with self.assertRaisesRegex(InputError, "too short"):
            edits.add_comb(self.made, short)
        enough = np.array([[50.0, 60.0], [52.1, 60.0]])
        self.assertEqual(len(edits.add_comb(self.made, enough)[0].combs), 2)

    def test_a_comb_speaks_for_the_zone_under_most_of_it(self):
        made, _ = edits.add_comb(self.made, np.array([[42.0, 100.0], [110, 100], [125, 100]]))
        self.assertEqual(made.combs[-1].zone, self.zone)
        with self.assertRaises(InputError):
            edits.add_comb(self.made, np.array([[150.0, 140.0], [190, 140]]))

    def test_a_crown_turns_within_half_a_circle_and_is_two_points(self):
        made, mark = edits.add_mark(self.made, "crown", points=np.array([[60.0, 60], [70, 64], [80, 60]]), turn_deg=270)
        self.assertEqual((made.marks[-1].turn_deg, len(made.marks[-1].points)), (-90.0, 2))
        self.assertEqual(edits.change_mark(made, mark, turn_deg=-190.0).marks[-1].turn_deg, 170.0)
        self.assertEqual(edits.change_mark(made, mark, points=LINE[:1]).marks[-1].points, made.marks[-1].points)

    def test_a_zone_follows_one_other_and_never_itself(self):
        made, other = edits.add_zone(self.made, "Other", "long-fur", SQUARE + (60, 40))
        made, third = edits.add_zone(made, "Third", "long-fur", SQUARE * 0.3)
        made, _ = edits.add_mark(made, "donor", self.zone, source=other)
        made, _ = edits.add_mark(made, "donor", self.zone, source=third)
        self.assertEqual([(m.zone, m.source) for m in made.marks], [(self.zone, third)])
        with self.assertRaisesRegex(InputError, "Two zones"):
            edits.add_mark(made, "donor", self.zone, source=self.zone)
        with self.assertRaisesRegex(InputError, "midline"):
            edits.add_mark(made, "twin", self.zone, source=other)


class Hairs(unittest.TestCase):
    def setUp(self):
        self.made = project()
        self.zone = self.made.combs[0].zone

    def length(self, made):
        return made.zone(self.zone).coat.length_mm

    def hair(self, made, px, seen=1.0):
        return edits.measure_hair(made, self.zone, np.array([[50.0, 60], [50.0 + px, 60]]), seen)

    def test_half_and_double_balance_and_each_is_straightened(self):
        mm = self.made.mm_per_px
        one = self.hair(self.made, 20)
        self.assertAlmostEqual(self.length(one), 20 * mm, places=2)
        self.assertAlmostEqual(self.length(self.hair(one, 5)), 10 * mm, places=2)
        self.assertAlmostEqual(self.length(self.hair(self.made, 20, 0.5)), 40 * mm, places=2)
        # No hair is taken to stand more than end on.
        self.assertAlmostEqual(self.length(self.hair(self.made, 3, 0.01)), 10 * mm, places=2)

    def test_dropping_a_hair_takes_its_share_of_the_mean(self):
        made = self.hair(self.hair(self.made, 20), 5)
        mm = self.made.mm_per_px
        self.assertAlmostEqual(self.length(edits.remove_hair(made, self.zone, 1)), 20 * mm, places=1)
        self.assertAlmostEqual(self.length(edits.remove_hair(made, self.zone, 0)), 5 * mm, places=1)
        for index in (-1, 2):
            self.assertIs(edits.remove_hair(made, self.zone, index), made)
        none = edits.remove_hair(self.hair(self.made, 20), self.zone, 0)
        self.assertIsNone(self.length(none))

    def test_a_stroke_without_length_measures_nothing(self):
        with self.assertRaisesRegex(InputError, "too short"):
            self.hair(self.made, 1.9)


class Kit(unittest.TestCase):
    def test_brushes_that_cannot_be_are_refused_at_their_bounds(self):
        made = project()
        shape = made.kit[0].shape
        for width in (0.1, 150.0):
            self.assertEqual(edits.add_brush(made, Brush(shape, width, 0)).kit[-1].width_mm, width)
        for width in (0.09, 150.1):
            with self.assertRaisesRegex(InputError, "cannot be"):
                edits.add_brush(made, Brush(shape, width, 0))
        self.assertEqual([edits.add_brush(made, Brush(shape, 5, wear)).kit[-1].wear for wear in (-3, 200)], [0, 99])
        self.assertIs(edits.change_brush(made, len(made.kit), Brush(shape, 5, 0)), made)
        self.assertIs(edits.change_brush(made, -1, Brush(shape, 5, 0)), made)
        while len(made.kit) < MOST_BRUSHES:
            made = edits.add_brush(made, Brush(shape, 5, 0))
        with self.assertRaisesRegex(InputError, "Take one out"):
            edits.add_brush(made, Brush(shape, 5, 0))

    def test_numbers_are_kept_within_bounds(self):
        made = project()
        self.assertEqual([edits.set_falloff(made, v).falloff for v in (-1, 0.4, 7)], [0, 0.4, 1])
        with self.assertRaisesRegex(InputError, "no order"):
            edits.set_focal_order(made, "sideways")
        for count in (1, 41):
            with self.assertRaisesRegex(InputError, "fan"):
                edits.add_fan(made, made.combs[0].zone, LINE, LINE + (0, 20), count)


if __name__ == "__main__":
    unittest.main()
