"""What a feature is marked by, where its middle lies, and which way a line faces."""

import unittest

import numpy as np

from foxpath.core.features.kinds import FEATURES, Feature, Stroke, facing
from foxpath.core.passes.roles import ROLES

SKIN = Stroke("skin", ((10.0, 20.0), (30.0, 20.0), (30.0, 50.0)))
NOSTRIL = Stroke("nostril", ((100.0, 100.0), (120.0, 100.0), (120.0, 130.0)))
PLANE = Stroke("plane", ((0.0, 0.0), (200.0, 4.0)))


class Features(unittest.TestCase):
    def test_every_part_goes_with_a_pass_and_says_what_to_do(self):
        roles = set(ROLES)
        for kind in FEATURES.values():
            self.assertEqual(len({part.key for part in kind.parts}), len(kind.parts))
            for part in kind.parts:
                self.assertIn(part.role, roles)
                self.assertIn(part.beneath, ("wet", "tacky", "touch-dry"))
                self.assertTrue(part.how.endswith(".") and part.most >= 1)
                self.assertIs(kind.part(part.key), part)
            self.assertIsNone(kind.part("feather"))

    def test_its_middle_is_that_of_its_outline_whatever_else_is_marked(self):
        for strokes in ((SKIN,), (SKIN, NOSTRIL, PLANE), (PLANE, NOSTRIL, SKIN)):
            self.assertEqual(Feature("f1", "nose", "Nose", strokes).middle(), (20.0, 35.0))
        # A second outline, and one of another part, are not asked.
        other = Stroke("skin", ((500.0, 500.0), (600.0, 600.0)))
        self.assertEqual(Feature("f1", "nose", "Nose", (SKIN, other)).middle(), (20.0, 35.0))

    def test_without_an_outline_it_is_that_of_all_that_is_marked(self):
        self.assertEqual(Feature("f1", "nose", "Nose", (NOSTRIL, PLANE)).middle(), (100.0, 65.0))
        line = Stroke("line", ((10.0, 10.0), (50.0, 14.0)))
        self.assertEqual(Feature("f2", "mouth", "Mouth", (line,)).middle(), (30.0, 12.0))
        self.assertIsNone(Feature("f3", "ear", "Ear").middle())

    def test_strokes_of_a_part(self):
        one = Feature("f1", "nose", "Nose", (SKIN, NOSTRIL, SKIN))
        self.assertEqual((one.of("skin"), one.of("nostril"), one.of("light")), ((SKIN, SKIN), (NOSTRIL,), ()))
        self.assertEqual(Stroke("light", ()).line().shape, (0, 2))


class Facing(unittest.TestCase):
    def test_from_root_to_tip_on_the_full_circle(self):
        for end, degrees in (((3, 0), 0), ((0, 3), 90), ((-3, 0), 180), ((0, -3), -90), ((3, -3), -45)):
            length, angle = facing(np.array([(5.0, 7.0), (90.0, 1.0), (5.0 + end[0], 7.0 + end[1])]))
            self.assertAlmostEqual(length, float(np.hypot(*end)))
            self.assertAlmostEqual(angle, degrees)


if __name__ == "__main__":
    unittest.main()
