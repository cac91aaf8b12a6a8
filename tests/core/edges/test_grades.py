"""Grades by rule, and the map of blur they become."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.edges.grades import (
    GRADES,
    REACH,
    SIGMA_SHARE,
    EdgeLight,
    EdgePlan,
    default_edge,
    even_parts,
    grade_of_width,
    hard_shares,
    shadow_edge,
    softness_map,
)
from foxpath.core.frame import Crop, Frame
from foxpath.core.zones.kinds import KINDS

SKIN = replace(next(kind for kind in KINDS.values() if not kind.hair), edge=0.5, reason="skin")
NO_LIGHT = EdgeLight()
FUR = replace(KINDS["short-fur"], edge=0.5, reason="fur")


def graded(edge, back=None, depth=0, focal=1e6, light=NO_LIGHT, front=SKIN):
    return default_edge(replace(front, edge=edge), back, depth, focal, 1000.0, light)


class Rules(unittest.TestCase):
    def test_a_score_has_its_grade_on_either_side_of_each_bound(self):
        # Far away a skin's score is its own edge less 0.12.
        for bound, below, above in ((0.24, "lost", "soft"), (0.46, "soft", "firm"), (0.78, "firm", "hard")):
            self.assertEqual(graded(bound + 0.119).grade, below)
            self.assertEqual(graded(bound + 0.121).grade, above)
            self.assertEqual(graded(bound + 0.121).width_mm, GRADES[above][2])

    def change(self, **how):
        """By how much something raises the score: the lowest own edge that is still firm says it."""

        def least(**values):
            low, high = 0.0, 1.6
            for _ in range(40):
                middle = (low + high) / 2
                if graded(middle, **values).grade in ("firm", "hard"):
                    high = middle
                else:
                    low = middle
            return high

        return least() - least(**how)

    def test_each_circumstance_moves_it_by_its_amount(self):
        for how, by in (
            ({"focal": 0.0}, 0.30),
            ({"focal": 170.0}, 0.15),
            ({"focal": 340.0}, 0.0),
            ({"depth": 2}, 0.04),
            ({"depth": 9}, 0.08),
            ({"depth": -3}, 0.0),
            ({"light": EdgeLight(dip=-5.1)}, -0.10),
            ({"light": EdgeLight(dip=-4.9)}, 0.0),
            ({"light": EdgeLight(dip=5.1)}, 0.06),
            ({"light": EdgeLight(toward=1.0)}, 0.06),
            ({"light": EdgeLight(toward=-0.5)}, -0.03),
            ({"light": EdgeLight(toward=0.39)}, 0.0),
            ({"back": FUR}, 0.0),
        ):
            self.assertAlmostEqual(self.change(**how), by, places=5, msg=str(how))
        self.assertEqual(graded(0.58 + 0.07, back=FUR, front=FUR).grade, "soft")
        self.assertEqual(graded(0.58 + 0.09, back=FUR, front=FUR).grade, "firm")
        self.assertEqual(graded(0.58 + 0.01, back=SKIN, front=FUR).grade, "firm")

    def test_the_reason_says_what_counted(self):
        for how, reason in (
            ({}, "far from the focal point; skin"),
            ({"focal": 100.0}, "near the focal point"),
            ({"focal": 200.0}, "skin"),
            ({"focal": 200.0, "front": FUR, "back": FUR}, "one coat runs into the other"),
            ({"focal": 200.0, "light": EdgeLight(dip=-8)}, "deep in a crevice, 8 L* darker"),
            ({"focal": 200.0, "light": EdgeLight(dip=8)}, "a ridge, 8 L* lighter; skin"),
            ({"focal": 200.0, "light": EdgeLight(toward=0.5)}, "skin; toward the light"),
            ({"focal": 200.0, "light": EdgeLight(toward=-0.5)}, "skin; on the shadow side"),
        ):
            self.assertEqual(graded(0.5, **how).reason, reason)

    def test_widths_have_their_grade(self):
        for width, grade in ((0.05, "hard"), (0.79, "hard"), (0.8, "firm"), (2.99, "firm"), (3, "soft"), (10, "lost")):
            self.assertEqual(grade_of_width(width), grade)


class Shares(unittest.TestCase):
    def test_they_are_of_length_near_and_far(self):
        crop = Crop(0, 0, 300, 400)  # a fifth of its diagonal is 100
        line = np.array([(0.0, 0), (30, 0), (90, 0), (120, 0), (300, 0)])
        widths = np.array([0.5, 0.5, 2, 0.5, 0.5])
        # Near: 30 hard of 90, the middle of the third step at 105 being far. Far: 180 of 210.
        near, far = hard_shares([(line, widths)], (0.0, 0.0), crop)
        self.assertAlmostEqual(near, 30 / 90)
        self.assertAlmostEqual(far, 180 / 210)
        self.assertEqual(hard_shares([], (0, 0), crop), (0.0, 0.0))


class Shadows(unittest.TestCase):
    def test_hard_light_sharpens_a_shadow_and_soft_light_widens_it(self):
        plan = EdgePlan("soft", 6.0, "shadow edges are soft")
        for hardness, width, grade in ((0.5, 6.0, "soft"), (1.0, 2.0, "firm"), (0.0, 18.0, "lost"), (7.0, 2.0, "firm")):
            made = shadow_edge(plan, hardness)
            self.assertAlmostEqual(made.width_mm, width, places=2)
            self.assertEqual(made.grade, grade)
        self.assertIn("hard light", shadow_edge(plan, 0.9).reason)
        self.assertEqual(shadow_edge(plan, 0.5).reason, plan.reason)


class Softness(unittest.TestCase):
    frame = Frame(Crop(10, 20, 400, 200), 400, 200, 0.5)

    def test_a_border_is_blurred_by_its_width_as_far_as_its_reach(self):
        line = np.stack([np.linspace(60, 360, 61), np.full(61, 120.0)], axis=1)
        made = softness_map([(line, np.full(61, 10.0), (1, 0))], self.frame)
        column = made[:, 200]
        # 10 mm are 20 cells; the reach is 26 cells to each side, the first six tenths of it in full.
        self.assertAlmostEqual(float(column[100]), 10 * SIGMA_SHARE, places=4)
        rows = np.flatnonzero(column)
        self.assertAlmostEqual(float(rows.min() + rows.max()) / 2, 99.5, delta=1)
        self.assertAlmostEqual(rows.max() - rows.min(), 2 * REACH * 20, delta=3)
        self.assertAlmostEqual(float(column[100 + 15]), 10 * SIGMA_SHARE, places=3)
        self.assertAlmostEqual(float(column[100 + 21]), 10 * SIGMA_SHARE / 2, delta=0.25)
        self.assertFalse(made[:, :20].any())

    def test_the_wider_wins_and_a_border_finer_than_a_cell_is_left(self):
        line = np.stack([np.linspace(60, 360, 61), np.full(61, 120.0)], axis=1)
        wide, narrow = (line, np.full(61, 10.0), (1, 0)), (line, np.full(61, 4.0), (1, 0))
        np.testing.assert_array_equal(
            softness_map([wide, narrow], self.frame), softness_map([narrow, wide], self.frame)
        )
        self.assertFalse(softness_map([(line, np.full(61, 0.4), (1, 0))], self.frame).any())

    def test_only_the_two_parts_that_meet_are_softened(self):
        line = np.stack([np.linspace(60, 360, 61), np.full(61, 120.0)], axis=1)
        labels = np.zeros(self.frame.shape, np.int16)
        labels[100:] = 1
        labels[:, 190:210] = 2
        made = softness_map([(line, np.full(61, 10.0), (1, 0))], self.frame, labels)
        free = softness_map([(line, np.full(61, 10.0), (1, 0))], self.frame)
        np.testing.assert_array_equal(made[labels != 2], free[labels != 2])
        self.assertFalse(made[labels == 2].any())

    def test_what_is_hard_beside_it_stays_hard(self):
        line = np.stack([np.linspace(60, 360, 61), np.full(61, 120.0)], axis=1)
        post = np.stack([np.full(61, 210.0), np.linspace(40, 210, 61)], axis=1)
        soft, hard = (line, np.full(61, 10.0), (1, 0)), (post, np.full(61, 0.5), (2, 0))
        made = softness_map([soft, hard], self.frame)
        self.assertLess(float(made[100, 200]), 0.6)
        # Half a millimetre of blur a millimetre away from it: at 8 mm the soft border is as soft as it is planned.
        self.assertAlmostEqual(float(made[100, 204]), 2 * 0.5 + 0.8 * SIGMA_SHARE, delta=0.3)
        self.assertAlmostEqual(float(made[100, 220]), 10 * SIGMA_SHARE, places=3)

    def test_a_run_is_cut_where_its_width_has_changed(self):
        self.assertEqual(even_parts(np.array([2.0, 2, 2, 2])), [(0, 3, 2.0)])
        parts = even_parts(np.array([2.0, 2, 2.4, 2.4, 2.0]))
        self.assertEqual([(a, b) for a, b, _ in parts], [(0, 2), (2, 4)])
        self.assertAlmostEqual(parts[0][2], np.sqrt(4.8))
        self.assertEqual([(a, b) for a, b, _ in even_parts(np.array([2.0, 1.7, 1.7]))], [(0, 1), (1, 2)])


if __name__ == "__main__":
    unittest.main()
