"""The brushes themselves: what their edges and tips leave, and which draws a line."""

import unittest

from foxpath.core.lengths.kit import SHAPES, STATES, Brush, finest_mm, line_brush


class Marks(unittest.TestCase):
    def test_a_tip_spreads_to_twice_in_five_paintings_and_to_thrice_at_most(self):
        for wear, times in ((0, 1.0), (1, 1.2), (5, 2.0), (10, 3.0), (99, 3.0)):
            self.assertAlmostEqual(Brush("round", 4, wear).fine_mm, 4 * SHAPES["round"] * times)

    def test_a_flat_draws_a_tenth_with_its_edge_unless_it_is_said(self):
        self.assertAlmostEqual(Brush("flat", 10).fine_mm, 1.0)
        self.assertAlmostEqual(Brush("flat", 10, edge_mm=0.4).fine_mm, 0.4)
        self.assertAlmostEqual(Brush("flat", 10, edge_mm=40).fine_mm, 10)
        self.assertAlmostEqual(Brush("flat", 10, state="splayed").fine_mm, STATES["splayed"])

    def test_an_old_bristle_is_rough_and_a_soft_one_is_not(self):
        self.assertTrue(Brush("flat", 10, state="worn").rough)
        self.assertFalse(Brush("flat", 10).rough)
        self.assertFalse(Brush("round", 4, state="worn").rough)
        self.assertTrue(Brush("round", 4, hair="bristle", state="cut").rough)
        self.assertEqual(Brush("flat", 10, state="cut").words(), "cut-short 10 mm flat")

    def test_a_comb_of_older_files_is_a_rake(self):
        self.assertEqual(Brush("comb", 8), Brush("rake", 8))

    def test_the_finest_is_that_of_a_brush_for_lines(self):
        self.assertEqual(finest_mm(()), 0)
        self.assertAlmostEqual(finest_mm((Brush("fan", 0.5), Brush("round", 4), Brush("liner", 2))), 0.6)
        self.assertAlmostEqual(finest_mm((Brush("rake", 2), Brush("bright", 4))), 0.4)


class Lines(unittest.TestCase):
    kit = (Brush("liner", 1), Brush("round", 4), Brush("filbert", 5), Brush("flat", 20), Brush("rake", 4))

    def taken(self, width, kit=None, *, masses=False):
        found = line_brush(self.kit if kit is None else kit, width, masses=masses)
        return found and found.words()

    def test_the_broadest_tip_that_is_fine_enough_and_not_far_broader(self):
        self.assertEqual(self.taken(0.3), "1 mm liner")
        self.assertEqual(self.taken(1.0), "1 mm liner")
        self.assertEqual(self.taken(1.4), "4 mm round")
        self.assertEqual(self.taken(1.7, masses=True), "5 mm filbert")

    def test_without_tips_an_edge_draws_it(self):
        edges = (Brush("bright", 3), Brush("filbert", 6), Brush("fan", 20), Brush("mop", 15))
        self.assertEqual(self.taken(0.4, edges), "3 mm bright")
        self.assertEqual(self.taken(2.1, edges), "6 mm filbert")
        # Finer than all of them: the finest.
        self.assertEqual(self.taken(0.1, edges), "3 mm bright")
        self.assertIsNone(self.taken(0.4, (Brush("fan", 20), Brush("mop", 15), Brush("rake", 3))))


if __name__ == "__main__":
    unittest.main()
