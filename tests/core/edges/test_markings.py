"""Borders of markings: where hair crosses them, which side lies over, how far; and whether both sides grow alike."""

import unittest

import numpy as np

from foxpath.core.edges.markings import CROSSED_DEG, TOLD_L, marking_places, marking_stretches

T = np.linspace(0, 2 * np.pi, 240, endpoint=False)
ROUND = np.stack([300 + 100 * np.cos(T), 200 + 100 * np.sin(T)], axis=1)


class Places(unittest.TestCase):
    def test_they_are_a_millimetre_apart_with_the_way_along_and_out(self):
        for outline in (ROUND, ROUND[::-1]):
            made = marking_places(outline, 0.5)
            self.assertEqual(len(made.at), round(np.pi * 100))
            out = (made.at - (300, 200)) / 100
            np.testing.assert_allclose(made.outward, out, atol=0.03)
            np.testing.assert_allclose((made.tangent * made.outward).sum(axis=1), 0, atol=0.03)
            ahead = np.roll(made.at, -1, axis=0) - made.at
            self.assertTrue(((ahead * made.tangent).sum(axis=1) > 0).all())
        self.assertEqual(len(marking_places(ROUND, 0.001).at), 12)


class Stretches(unittest.TestCase):
    def setUp(self):
        self.places = marking_places(ROUND, 0.5)
        self.ones = np.ones(len(self.places.at), np.float32)

    def cut(self, direction, inner=30.0, outer=70.0, length=8.0, sure=1.0):
        way = np.broadcast_to(np.asarray(direction, np.float32), self.places.at.shape)
        return marking_stretches(
            self.places, way, sure * self.ones, inner * self.ones, outer * self.ones, length * self.ones
        )

    def test_hair_to_the_right_leaves_at_the_right_enters_at_the_left_and_runs_along_above_and_below(self):
        made = self.cut((1.0, 0.0))
        self.assertEqual(len(made), 4)
        for one in made:
            off = one.line.mean(axis=0) - (300, 200)
            if one.crossed:
                self.assertEqual(one.tips_out, off[0] > 0)
                # Two thirds of each half: from 30 degrees on.
                self.assertAlmostEqual(len(one.line), len(self.places.at) * (180 - 2 * CROSSED_DEG) / 360, delta=6)
                self.assertGreater(one.angle_deg, 55)
            else:
                self.assertGreater(abs(off[1]), 90)
                self.assertEqual(one.words(), "clean, along the hair")
                self.assertEqual(one.ragged_mm, 0)
                self.assertLess(one.angle_deg, 20)

    def test_who_lies_over_whom_is_told_by_tips_and_tone(self):
        for inner, outer, right, left in (
            (30.0, 70.0, "ragged, dark hairs over light", "ragged, light hairs over dark"),
            (70.0, 30.0, "ragged, light hairs over dark", "ragged, dark hairs over light"),
            (50.0, 50.0 + TOLD_L - 0.1, "ragged, hairs across", "ragged, hairs across"),
        ):
            for one in self.cut((1.0, 0.0), inner, outer):
                if one.crossed:
                    self.assertEqual(one.words(), right if one.tips_out else left)

    def test_tips_reach_over_by_their_length_square_to_the_border(self):
        out = self.places.outward
        (one,) = self.cut(out, length=8.0)
        self.assertAlmostEqual(one.ragged_mm, 8, delta=0.05)
        a = np.radians(58)
        slanted = np.cos(a) * out + np.sin(a) * self.places.tangent
        (one,) = self.cut(slanted, length=8.0)
        self.assertAlmostEqual(one.ragged_mm, 8 * np.cos(a), delta=0.15)
        self.assertAlmostEqual(one.angle_deg, 32, delta=1)
        (one,) = self.cut(-out)
        self.assertFalse(one.tips_out)

    def test_a_few_places_of_the_other_kind_join_their_neighbours(self):
        way = np.array(self.places.outward)
        way[40:43] = self.places.tangent[40:43]
        self.assertEqual(len(self.cut(way)), 1)
        way[40:60] = self.places.tangent[40:60]
        self.assertEqual(len(self.cut(way)), 2)

    def test_without_growth_nothing_is_said_and_its_sureness_is_of_what_is_known(self):
        self.assertEqual(self.cut((np.nan, np.nan)), ())
        way = np.array(self.places.outward)
        way[: len(way) // 2] = np.nan
        made = self.cut(way, sure=0.8)
        self.assertAlmostEqual(max(one.sure for one in made), 0.8, delta=0.05)
        self.assertLess(min(one.sure for one in made), 0.05)


if __name__ == "__main__":
    unittest.main()
