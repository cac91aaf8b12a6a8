"""A feature laid over its twin, mirrored in the head's own frame."""

import math
import unittest

import numpy as np

from foxpath.core.eyes.placement import HeadFrame
from foxpath.core.features.symmetry import ghosts, twins

MM = 0.5


def frame(deg=0.0, ratio=1.0):
    """A head at (300, 300) so tilted and turned, and what brings places in it to the picture."""
    head = HeadFrame((300.0, 300.0), deg, ratio, "axes")
    return head, lambda points: head.place(np.array(points))


EAR = ((-90.0, -100.0), (-50.0, -100.0), (-70.0, -160.0))


class Frames(unittest.TestCase):
    def test_a_tilt_turns_clockwise_on_the_picture(self):
        _, place = frame(90)
        np.testing.assert_allclose(place([(10, 0), (0, 10)]), [(300, 310), (290, 300)], atol=1e-9)


class Ghosts(unittest.TestCase):
    def one(self, other, deg):
        head, place = frame(deg)
        (found,) = ghosts(head, [("ear", "a", place(EAR), "b", place(other))], MM)
        return found

    def test_what_mirrors_it_is_as_its_twin(self):
        for deg in (0, 25, -60):
            found = self.one([(-x, y) for x, y in EAR], deg)
            self.assertAlmostEqual(found.mm, 0, places=6)
            self.assertEqual(found.words(), "as its twin")
            np.testing.assert_allclose(found.ghost, found.own, atol=1e-6)

    def test_how_far_it_stands_off_is_told_outward_and_below(self):
        for deg in (0, 40):
            found = self.one([(-x + 8, y + 4) for x, y in EAR], deg)
            self.assertAlmostEqual(found.across_mm, 4, places=6)
            self.assertAlmostEqual(found.along_mm, 2, places=6)
            self.assertAlmostEqual(found.mm, math.hypot(4, 2), places=6)
            self.assertEqual(found.words(), "4 mm out, 2 mm low")
            found = self.one([(-x - 8, y - 4) for x, y in EAR], deg)
            self.assertEqual(found.words(), "4 mm in, 2 mm high")

    def test_outward_is_away_from_the_midline_on_either_side(self):
        head, place = frame()
        right = [(-x, y) for x, y in EAR]
        (found,) = ghosts(head, [("ear", "b", place(right), "a", place([(x - 8, y) for x, y in EAR]))], MM)
        self.assertAlmostEqual(found.across_mm, 4, places=6)

    def test_a_turned_head_is_narrower_on_its_far_side_and_still_right(self):
        head, place = frame(15, 0.6)
        (found,) = ghosts(head, [("ear", "a", place(EAR), "b", place([(-0.6 * x, y) for x, y in EAR]))], MM)
        self.assertEqual(found.words(), "as its twin")
        (found,) = ghosts(head, [("ear", "b", place([(-0.6 * x, y) for x, y in EAR]), "a", place(EAR))], MM)
        self.assertEqual(found.words(), "as its twin")

    def test_its_size_is_a_share_of_its_twins(self):
        wider = self.one([(70 + (-x - 70) * 1.5, -130 + (y + 130) * 0.8) for x, y in EAR], 0)
        self.assertAlmostEqual(wider.wide, 1.5, places=6)
        self.assertAlmostEqual(wider.tall, 0.8, places=6)
        self.assertEqual(wider.words(), "50 % wider, 20 % lower")

    def test_the_largest_difference_comes_first(self):
        head, place = frame()
        pairs = [(f"p{d}", "a", place(EAR), "b", place([(-x + d, y) for x, y in EAR])) for d in (2, 20, -10)]
        self.assertEqual([one.name for one in ghosts(head, pairs, MM)], ["p20", "p-10", "p2"])


class Twins(unittest.TestCase):
    def test_they_are_told_by_their_names(self):
        names = [
            ("1", "Near ear"),
            ("2", " far EAR"),
            ("3", "Left brow"),
            ("4", "right brow"),
            ("5", "Near lip"),
            ("6", "Nose"),
        ]
        self.assertEqual(twins(names), [("ear", "1", "2"), ("brow", "3", "4")])


if __name__ == "__main__":
    unittest.main()
