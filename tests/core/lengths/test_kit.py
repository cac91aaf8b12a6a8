"""Which brush is taken: the largest that fits, at its bounds."""

import unittest
from dataclasses import replace

from foxpath.core.lengths.kit import SHAPES, Brush, brush_for_hair, brush_for_mass, finest_mm
from foxpath.core.zones.kinds import KINDS

COAT = replace(KINDS["short-fur"].coat, clump_mm=4.0, length_mm=10.0)


class Marks(unittest.TestCase):
    def test_a_tip_spreads_to_twice_in_five_paintings_and_to_thrice_at_most(self):
        for wear, times in ((0, 1.0), (1, 1.2), (5, 2.0), (10, 3.0), (99, 3.0)):
            self.assertAlmostEqual(Brush("round", 4, wear).fine_mm, 4 * SHAPES["round"] * times)

    def test_the_finest_is_that_of_a_brush_for_hairs(self):
        self.assertEqual(finest_mm(()), 0)
        self.assertAlmostEqual(finest_mm((Brush("fan", 0.5), Brush("round", 4), Brush("liner", 2))), 0.6)


class Masses(unittest.TestCase):
    kit = (Brush("flat", 20), Brush("filbert", 10), Brush("bright", 3), Brush("round", 2), Brush("mop", 9))

    def taken(self, inscribed, most=100.0, kit=None):
        found = brush_for_mass(kit or self.kit, inscribed, most)
        return found and found.brush.width_mm

    def test_it_is_at_most_half_of_the_widest_place(self):
        self.assertEqual([self.taken(v) for v in (40.0, 39.9, 20.0, 19.9)], [20, 10, 10, 3])
        self.assertEqual([self.taken(80.0, most) for most in (20.0, 19.9)], [20, 10])

    def test_where_none_is_small_enough_the_smallest_that_goes_in_is_taken(self):
        self.assertEqual([self.taken(v) for v in (5.9, 2.0)], [2, 2])
        self.assertIsNone(self.taken(1.9))
        # Neither mops nor combs lay a mass.
        self.assertIsNone(self.taken(50.0, kit=(Brush("mop", 9), Brush("comb", 8))))


class Hairs(unittest.TestCase):
    kit = (Brush("liner", 1), Brush("round", 4), Brush("dagger", 12), Brush("flat", 20))

    def taken(self, mark, inscribed=100.0, coat=COAT, kit=None):
        found = brush_for_hair(kit or self.kit, mark, coat, inscribed)
        return found and (found.brush.width_mm, found.made_as, round(found.mark_mm, 3))

    def test_the_largest_that_draws_it_within_a_tuft(self):
        # Finest marks: 0.3, 1 and 2.4 mm; a tuft is 4 mm wide, or three marks.
        self.assertEqual(self.taken(0.3), (1, "hair", 0.3))
        self.assertEqual(self.taken(1.0), (4, "hair", 1.0))
        self.assertEqual(self.taken(3.9), (4, "hair", 3.9))
        self.assertEqual(self.taken(4.0), (12, "hair", 4.0))
        self.assertEqual(self.taken(1.0, inscribed=3.9), (1, "hair", 1.0))
        # When all that could draw it are wider than its tufts, the narrowest of them.
        self.assertEqual(self.taken(1.2, coat=replace(COAT, clump_mm=2.0), kit=self.kit[1:]), (4, "hair", 1.2))

    def test_a_thinner_hair_becomes_a_clump_or_a_hint(self):
        self.assertEqual(self.taken(0.2), (1, "clump", 0.3))
        self.assertEqual(self.taken(0.2, coat=replace(COAT, length_mm=1.5)), (1, "clump", 0.3))
        self.assertEqual(self.taken(0.2, coat=replace(COAT, length_mm=1.49)), (1, "hint", 0.3))
        self.assertIn("3 hairs a mark", brush_for_hair(self.kit, 0.1, COAT, 100.0).why)
        self.assertIsNone(self.taken(0.3, inscribed=0.9))
        self.assertIsNone(self.taken(0.3, kit=(Brush("flat", 3),)))


if __name__ == "__main__":
    unittest.main()
