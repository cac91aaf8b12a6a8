"""Which brush is taken, how it is held and loaded, at the bounds of each rule."""

import unittest
from dataclasses import replace

from foxpath.core.lengths.choice import blender_for, brush_for_hair, brush_for_mass, liked_choice
from foxpath.core.lengths.kit import Brush
from foxpath.core.zones.kinds import KINDS

COAT = replace(KINDS["short-fur"].coat, clump_mm=4.0, length_mm=10.0)


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

    def test_in_a_narrow_place_a_corner_reaches_in(self):
        found = brush_for_mass(self.kit, 1.0, 100.0)
        self.assertEqual((found.brush.width_mm, found.hold), (3, "corner"))
        self.assertLessEqual(found.mark_mm, 1.0)
        self.assertIsNone(brush_for_mass(self.kit, 0.5, 100.0))
        # Neither mops nor rakes lay a mass.
        self.assertIsNone(self.taken(50.0, kit=(Brush("mop", 9), Brush("rake", 8))))

    def test_a_mop_blends_what_has_room_for_it_else_a_fan(self):
        kit = (Brush("mop", 15), Brush("mop", 9), Brush("fan", 20))
        self.assertEqual(blender_for(kit, 25.0), kit[0])
        self.assertEqual(blender_for(kit, 24.9), kit[1])
        self.assertEqual(blender_for(kit[2:], 34.0), kit[2])
        self.assertIsNone(blender_for(kit[2:], 33.0))


class Hairs(unittest.TestCase):
    kit = (Brush("liner", 1), Brush("round", 4), Brush("dagger", 12), Brush("flat", 20))

    def choice(self, mark, inscribed=100.0, coat=COAT, kit=None, act="lights"):
        return brush_for_hair(kit or self.kit, mark, coat, inscribed, act)

    def taken(self, *args, **more):
        found = self.choice(*args, **more)
        return found and (found.brush.width_mm, found.made_as, round(found.mark_mm, 3))

    def test_the_largest_tip_that_draws_it_within_a_tuft(self):
        # Finest marks: 0.3, 1 and 1.44 mm; a tuft is 4 mm wide, or three marks.
        self.assertEqual(self.taken(0.3), (1, "hair", 0.3))
        self.assertEqual(self.taken(1.0), (4, "hair", 1.0))
        self.assertEqual(self.taken(3.9), (4, "hair", 3.9))
        self.assertEqual(self.taken(4.0), (12, "hair", 4.0))
        self.assertEqual(self.taken(1.0, inscribed=3.9), (1, "hair", 1.0))
        # When all that could draw it are wider than its tufts, the narrowest of them.
        self.assertEqual(self.taken(1.2, coat=replace(COAT, clump_mm=2.0), kit=self.kit[1:3]), (4, "hair", 1.2))

    def test_a_filbert_on_its_edge_is_quicker_than_a_liner_but_for_the_last_hairs(self):
        kit = (Brush("liner", 1), Brush("filbert", 5), Brush("filbert", 3))
        self.assertEqual((self.choice(0.6, kit=kit).brush, self.choice(0.6, kit=kit).hold), (kit[1], "edge"))
        self.assertEqual(self.choice(0.59, kit=kit).brush, kit[2])
        self.assertEqual(self.choice(0.6, kit=kit, act="highlights").brush, kit[0])

    def test_with_brights_a_filbert_a_fan_and_a_mop_every_hair_is_drawn(self):
        kit = (Brush("bright", 6), Brush("bright", 12), Brush("filbert", 8), Brush("fan", 20), Brush("mop", 15))
        for mark in (0.2, 0.33, 0.7, 1.5):
            for act in ("undercoat", "restated", "lights", "highlights", "whiskers"):
                found = self.choice(mark, kit=kit, act=act)
                self.assertIn(found.brush.shape, ("bright", "filbert"), (mark, act))
        self.assertEqual(self.choice(0.7, kit=kit).hold, "edge")
        self.assertEqual(self.taken(0.33, kit=kit), (6, "clump", 0.6))

    def test_a_rake_lays_the_first_hair_where_tufts_allow(self):
        kit = (*self.kit, Brush("rake", 10))
        found = self.choice(0.7, kit=kit, act="undercoat")
        self.assertEqual((found.brush.shape, found.hold, round(found.mark_mm, 2)), ("rake", "teeth", 1.0))
        self.assertEqual(found.then, self.kit[0])
        self.assertIn("then the 1 mm liner", found.follow_up())
        # Not for finer hair, in finer tufts, in a narrow place, nor for the later hairs.
        for mark, more in (
            (0.66, {}), (0.7, {"coat": replace(COAT, clump_mm=1.9)}), (0.7, {"inscribed": 33.0}), (0.7, {"act": "lights"}),
        ):  # fmt: skip
            self.assertNotEqual(
                self.choice(mark, kit=kit, **{"act": "undercoat", **more}).brush.shape, "rake", (mark, more)
            )

    def test_an_old_bristle_is_dragged_nearly_dry(self):
        old = Brush("flat", 8, state="splayed")
        found = self.choice(0.7, kit=(*self.kit, old), act="undercoat")
        self.assertEqual((found.brush, found.load), (old, "nearly dry"))
        self.assertIn("nearly dry", found.words())
        self.assertNotEqual(self.choice(0.7, kit=(*self.kit, old), act="undercoat", inscribed=26.0).brush, old)
        # It is no brush for single hairs.
        self.assertNotEqual(self.choice(3.0, kit=(*self.kit, old)).brush, old)

    def test_a_thinner_hair_becomes_a_clump_or_a_hint(self):
        self.assertEqual(self.taken(0.2), (1, "clump", 0.3))
        self.assertEqual(self.taken(0.2, coat=replace(COAT, length_mm=1.5)), (1, "clump", 0.3))
        self.assertEqual(self.taken(0.2, coat=replace(COAT, length_mm=1.49)), (1, "hint", 0.3))
        self.assertIn("3 hairs a mark", self.choice(0.1).why)
        self.assertIsNone(self.taken(0.3, inscribed=0.9))
        self.assertIsNone(self.taken(0.3, kit=(Brush("fan", 3), Brush("mop", 9))))


class Liked(unittest.TestCase):
    def test_what_is_asked_for_is_taken_and_said(self):
        usual = brush_for_hair((Brush("liner", 1),), 0.4, COAT, 100.0)
        found = liked_choice(Brush("filbert", 8), 0.4, mass=False, usual=usual)
        self.assertTrue(found.liked)
        self.assertEqual((found.hold, found.made_as), ("edge", "clump"))
        self.assertAlmostEqual(found.mark_mm, 0.96)
        self.assertIn("instead of the 1 mm liner", found.why)
        self.assertEqual(liked_choice(Brush("filbert", 8), 0.4, mass=True, usual=None).mark_mm, 8)
        self.assertEqual(liked_choice(Brush("fan", 8), 2.0, mass=False, usual=None).load, "nearly dry")


if __name__ == "__main__":
    unittest.main()
