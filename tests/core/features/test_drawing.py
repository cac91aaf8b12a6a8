"""What is said of a drawing: the words and moves of each fault, and displacements that are known."""

import unittest

import cv2
import numpy as np

from foxpath.core.features.drawing import (
    SEEN_MM,
    Shift,
    Target,
    check_corners,
    common,
    find_shift,
    line_map,
    marked_shift,
    verdicts,
)

SIZES = {"a": np.array([40.0, 20.0])}
PX = 3.0
T = np.linspace(0, 2 * np.pi, 60)
OVAL = np.stack([60 + 18 * np.cos(T), 50 + 9 * np.sin(T)], axis=1)
CROSS = np.array([(48.0, 44.0), (72.0, 57.0)])


def said(**values):
    (one,) = verdicts(
        [Shift("a", "Left eye", values.pop("right_mm", 0.0), values.pop("down_mm", 0.0), **values)], SIZES
    )
    return one


class Words(unittest.TestCase):
    def test_each_fault_has_its_word_and_the_move_against_it(self):
        for values, says, move in (
            ({"down_mm": 2.0}, "2 mm too low", "raise it 2 mm"),
            ({"down_mm": -2.0}, "2 mm too high", "lower it 2 mm"),
            ({"right_mm": 2.0}, "2 mm too far right", "shift it 2 mm to the left"),
            ({"right_mm": -2.0}, "2 mm too far left", "shift it 2 mm to the right"),
            ({"wide": 1.1}, "10 % too wide", "narrow it by 4 mm"),
            ({"wide": 0.9}, "10 % too narrow", "widen it by 4 mm"),
            ({"tall": 1.1}, "10 % too tall", "shorten it by 2 mm"),
            ({"tall": 0.9}, "10 % too low in itself", "heighten it by 2 mm"),
            ({"turn_deg": 5.0}, "turned 5° clockwise", "turn it back 5° counter-clockwise"),
            ({"turn_deg": -5.0}, "turned 5° counter-clockwise", "turn it back 5° clockwise"),
        ):
            found = said(**values)
            self.assertEqual((found.says, found.move), (f"Left eye {says}.", move))

    def test_what_cannot_be_seen_stands_right(self):
        almost = SEEN_MM - 0.01
        for values in (
            {"down_mm": almost, "right_mm": -almost},
            {"wide": 1.029, "tall": 0.971},
            {"tall": 1.024},
            {"turn_deg": 1.9},
        ):
            self.assertEqual(said(**values).says, "Left eye stands right.", values)
        # 3 % of a width of 10 mm is no more than a third of a millimetre; a turn of it moves nothing.
        (one,) = verdicts([Shift("b", "Nose", 0, 0, wide=1.04, turn_deg=4.0)], {})
        self.assertEqual((one.move, one.weight_mm), ("keep it", 0.0))

    def test_the_worst_fault_comes_first_in_a_line_and_the_worst_line_of_all(self):
        one = said(down_mm=1.0, right_mm=-3.0, wide=1.05)
        self.assertEqual(one.says, "Left eye 3 mm too far left, 5 % too wide, 1 mm too low.")
        self.assertEqual(one.weight_mm, 3.0)
        found = verdicts([Shift("a", "A", 1.0, 0), Shift("a", "B", 0, -4.0), Shift("a", "C", 0, 0)], SIZES)
        self.assertEqual([v.shift.name for v in found], ["B", "A", "C"])
        self.assertAlmostEqual(said(turn_deg=9.0).weight_mm, np.radians(9) * 20, delta=0.01)

    def test_the_whole_is_shifted_by_the_median_of_three_or_more(self):
        shifts = [Shift("a", "A", x, y) for x, y in ((1, -2), (2, -3), (90, 80))]
        self.assertEqual(common(shifts), (2.0, -2.0))
        self.assertEqual(common(shifts[:2]), (0.0, 0.0))


class Found(unittest.TestCase):
    def drawn(self, *lines):
        rgb = np.full((300, 360, 3), 235, np.uint8)
        for line in lines:
            cv2.polylines(
                rgb, [np.round((line * PX - 0.5) * 16).astype(np.int32)], False, (60, 58, 55), 2, cv2.LINE_AA, 4
            )
        return line_map(rgb, PX)

    def test_lines_are_found_where_they_are_and_paper_is_empty(self):
        lines = self.drawn(OVAL)
        self.assertGreater(lines[round(50 * PX), round(78 * PX)], 0.5)
        self.assertLess(lines[:60].max(), 0.05)

    def test_a_displacement_that_is_known_is_found(self):
        target = Target("a", "Eye", (OVAL, CROSS))
        middle = target.middle()
        for right, down, grown, turn in ((2.0, -1.5, 1.0, 0.0), (-1.0, 2.0, 1.08, 0.0), (0.0, 0.0, 1.0, 6.0)):
            wanted = Shift("a", "Eye", right, down, grown, grown, turn)
            found = find_shift(self.drawn(*wanted.placed(target.lines_mm, middle)), PX, target, 6.0)
            self.assertAlmostEqual(found.right_mm, right, delta=0.09)
            self.assertAlmostEqual(found.down_mm, down, delta=0.09)
            self.assertAlmostEqual(found.wide, grown, delta=0.015)
            self.assertAlmostEqual(found.tall, grown, delta=0.015)
            self.assertAlmostEqual(found.turn_deg, turn, delta=1.3)
            self.assertGreater(found.sure, 0.5)

    def test_as_far_off_as_it_is_looked_for(self):
        target = Target("a", "Eye", (OVAL, CROSS))
        for right, down in ((5.4, 0.0), (0.0, -5.4), (-5.0, 5.0)):
            lines = self.drawn(*Shift("a", "Eye", right, down).placed(target.lines_mm, target.middle()))
            found = find_shift(lines, PX, target, 6.0)
            self.assertAlmostEqual(found.right_mm, right, delta=0.12)
            self.assertAlmostEqual(found.down_mm, down, delta=0.12)

    def test_two_alike_the_nearer_one_is_taken(self):
        target = Target("a", "Eye", (OVAL,))
        both = [
            line for dx in (-2.0, 5.0) for line in Shift("a", "Eye", dx, 0).placed(target.lines_mm, target.middle())
        ]
        self.assertAlmostEqual(find_shift(self.drawn(*both), PX, target, 6.0).right_mm, -2, delta=0.45)

    def test_what_is_narrow_has_no_height_to_be_off(self):
        brow = np.array([(40.0, 50.0), (60, 50.6), (80, 50.0)])
        target = Target("a", "Brow", (brow,))
        placed = Shift("a", "Brow", 1.0, 0.5, 0.94, 1.0).placed(target.lines_mm, target.middle())
        found = find_shift(self.drawn(*placed), PX, target, 6.0)
        self.assertAlmostEqual(found.wide, 0.94, delta=0.02)
        # Of a height of 0.6 mm 0.3 of what was fitted is told.
        self.assertAlmostEqual(found.tall, 1.0, delta=0.05)

    def test_on_empty_paper_nothing_is_sure(self):
        rng = np.random.default_rng(3)
        noise = np.clip(rng.normal(230, 4, (300, 360, 3)), 0, 255).astype(np.uint8)
        self.assertLess(find_shift(line_map(noise, PX), PX, Target("a", "Eye", (OVAL,)), 6.0).sure, 0.4)

    def test_a_turn_is_clockwise_about_the_features_own_middle(self):
        (line,) = Shift("a", "Eye", 1.0, 2.0, 2.0, 1.0, 90.0).placed([np.array([(10.0, 0), (0, 10)])], np.zeros(2))
        np.testing.assert_allclose(line, [(1, 22), (-9, 2)], atol=1e-9)

    def test_by_hand_sizes_are_told_where_there_is_one(self):
        flat = Target("a", "Brow", (np.array([(10.0, 5.0), (30.0, 5.0)]),))
        found = marked_shift(flat, [np.array([(12.0, 8.0), (42.0, 9.0)])])
        self.assertEqual((found.right_mm, found.down_mm, found.wide, found.tall), (7.0, 3.5, 1.5, 1.0))
        ear = Target("b", "Ear", (np.array([(10.0, 5.0), (30.0, 45.0)]), np.array([(12.0, 25.0)])))
        np.testing.assert_array_equal((ear.middle(), ear.size()), ((20, 25), (20, 40)))
        found = marked_shift(ear, [np.array([(18.0, 4.0), (28.0, 54.0)])])
        self.assertEqual((found.right_mm, found.down_mm, found.wide, found.tall), (3.0, 4.0, 0.5, 1.25))
        dot = marked_shift(ear, [np.array([(18.0, 4.0)])])
        self.assertEqual((dot.right_mm, dot.down_mm, dot.wide, dot.tall, dot.sure), (-2.0, -21.0, 1.0, 1.0, 1.0))
        self.assertAlmostEqual(dot.mm, np.hypot(2, 21))

    def test_corners_come_back_round_the_clock_from_the_upper_left(self):
        square = np.array([(10.0, 12), (200, 8), (210, 150), (14, 160)])
        for order in ((2, 0, 3, 1), (3, 2, 1, 0), (1, 2, 3, 0)):
            np.testing.assert_array_equal(check_corners(square[list(order)]), square)


if __name__ == "__main__":
    unittest.main()
