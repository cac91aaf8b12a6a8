"""Features beside the eyes: their steps and marks, twins mirrored in the head's frame, and the check of a drawing."""

import unittest

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.features import (
    Feature,
    Stroke,
    Target,
    check_corners,
    check_feature,
    find_shift,
    line_map,
    marked_shift,
    plan_feature,
    squared_up,
    verdicts,
)
from foxpath.core.lengths import DEFAULT_KIT
from foxpath.core.rehearsal.features import ROOT_L, feature_marks
from tests.drawings import draw, moved, photographed

RING = np.stack([np.cos(np.linspace(0, 2 * np.pi, 40)), np.sin(np.linspace(0, 2 * np.pi, 40))], axis=1)


def dark(points):
    """A reference that is dark everywhere."""
    return np.tile(np.array([22.0, 3, 5], np.float32), (len(points), 1))


def pairs(points):
    return tuple((float(x), float(y)) for x, y in points)


class Marking(unittest.TestCase):
    def test_a_whisker_is_a_dot_at_its_root_and_a_hair_that_thins(self):
        line = np.array([[100.0, 100], [160, 104], [240, 130]])
        feature = Feature("n1", "whiskers", "Near whiskers", (Stroke("hair", pairs(line)),))
        steps = plan_feature(feature, dark, DEFAULT_KIT, 0.25, 500)
        self.assertEqual(steps[0].role, "whiskers")
        self.assertGreater(steps[0].light, 80)
        dot, hair = feature_marks(feature, steps, "whiskers", dark, (10, 97), (0, 0), 0.25, 1)
        self.assertFalse(dot.hair)
        self.assertTrue(hair.hair)
        self.assertAlmostEqual(float(dot.lightness[0]), ROOT_L)
        np.testing.assert_allclose(hair.lines_mm[0, 0], line[0] * 0.25, atol=0.02)
        np.testing.assert_allclose(hair.lines_mm[0, -1], line[-1] * 0.25, atol=0.02)
        self.assertEqual(feature_marks(feature, steps, "lights", dark, (10, 97), (0, 0), 0.25, 1), [])

    def test_a_nose_is_painted_skin_first_and_its_light_last(self):
        middle = np.array([200.0, 200.0])
        strokes = (
            Stroke("skin", pairs(middle + 60 * RING[:-1:3])),
            Stroke("nostril", pairs(middle + (20, 10) + 8 * RING[:-1:3])),
            Stroke("light", pairs(middle + (0, 40) + 8 * RING[:-1:3])),
        )
        nose = Feature("n1", "nose", "Nose", strokes)
        steps = plan_feature(nose, dark, DEFAULT_KIT, 0.25, 500)
        self.assertEqual([s.part for s in steps], ["skin", "nostril", "light"])
        self.assertLess(steps[1].light, 18)
        self.assertGreater(steps[2].light, 60)
        says = " ".join(c.says for c in check_feature(nose, steps, DEFAULT_KIT))
        self.assertIn("wet light lies low", says)
        (skin,) = feature_marks(nose, steps, "undercoat", dark, (8, 60), (0, 0), 0.25, 1)
        away = np.hypot(*(skin.lines_mm[:, 3] - middle * 0.25).T)
        self.assertLess(float(away.max()), 60 * 0.25)
        self.assertGreater(len(skin.half_mm), 20)

    def test_claws_are_counted_against_toes(self):
        claw = Stroke("claw", ((0.0, 0.0), (10.0, 4.0)))
        paw = Feature("n1", "paw", "Near paw", (claw, claw, claw), toes=4)
        steps = plan_feature(paw, dark, DEFAULT_KIT, 0.25, 500)
        self.assertIn("4 toes, 3 claws", check_feature(paw, steps, DEFAULT_KIT)[0].says)
        ridge = feature_marks(paw, steps, "highlights", dark, (60, 96), (0, 0), 0.25, 1)
        self.assertEqual(len(ridge), 3)


class Drawing(unittest.TestCase):
    def setUp(self):
        ring = np.array([120.0, 90.0]) + RING * (12, 8)
        inner = np.array([121.0, 90.0]) + RING * 6
        self.eye = Target("a", "Near eye", (ring, inner))
        self.nose = Target("b", "Nose", (np.array([80.0, 140.0]) + RING * (18, 11), np.array([[80.0, 151], [80, 160]])))

    def test_displacements_are_found_through_a_slanted_photograph(self):
        """Shift within 0.4 mm, size within 3 %, turn within 2 degrees; worst first, with the move to make."""
        off = {"a": {"right": 1.2, "down": -2.0, "wide": 1.08}, "b": {"deg": 6.0}}
        lines = [moved(l, t.middle(), **off[t.key]) for t in (self.eye, self.nose) for l in t.lines_mm]  # noqa: E741
        photo, corners = photographed(draw(lines, 200, 200))
        flat, scale = squared_up(photo, corners, 200, 200)
        drawn = line_map(flat, scale)
        eye, nose = (find_shift(drawn, scale, t, 10.0) for t in (self.eye, self.nose))
        self.assertAlmostEqual(eye.right_mm, 1.2, delta=0.4)
        self.assertAlmostEqual(eye.down_mm, -2.0, delta=0.4)
        self.assertAlmostEqual(eye.wide, 1.08, delta=0.03)
        self.assertAlmostEqual(nose.turn_deg, 6.0, delta=2)
        said = verdicts([nose, eye], {"a": self.eye.size(), "b": self.nose.size()})
        self.assertEqual(said[0].shift.key, "a")
        self.assertRegex(said[0].says, r"^Near eye .* mm too high, .* % too wide|^Near eye .* mm too high")
        self.assertRegex(said[0].move, r"lower it .* mm")

    def test_what_is_marked_by_hand_is_measured_by_its_box(self):
        drawn = [moved(self.eye.lines_mm[0], self.eye.middle(), right=3, down=1, tall=1.5)]
        shift = marked_shift(self.eye, drawn)
        self.assertAlmostEqual(shift.right_mm, 3, delta=0.05)
        self.assertAlmostEqual(shift.down_mm, 1, delta=0.05)
        self.assertAlmostEqual(shift.tall, 1.5, delta=0.01)

    def test_corners_in_any_order_and_wrong_ones(self):
        good = np.array([[90.0, 80], [10, 8], [12, 85], [95, 5]])
        np.testing.assert_allclose(check_corners(good), [[10, 8], [95, 5], [90, 80], [12, 85]])
        for bad in (good[:3], np.array([[0.0, 0], [50, 50], [100, 100], [20, 20]])):
            with self.assertRaises(InputError):
                check_corners(bad)


if __name__ == "__main__":
    unittest.main()
