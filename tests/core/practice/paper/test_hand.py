"""Strokes on a sheet laid flat: how wide they are at every place is known, and so is what is said of them."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.practice.paper.hand import (
    BESIDE_MM,
    COLUMNS,
    FOOT_MM,
    LINE_MM,
    LINE_TONE,
    NEAR_MM,
    PAINT_DE,
    ROWS,
    SIDE_MM,
    TAPER,
    TOP_MM,
    HandOnPaper,
    Target,
    judged,
    outline,
    painted,
    targets,
    widths,
)
from foxpath.core.practice.paper.page import READ_PX_PER_MM, Flat, Paper, box, frame

A4 = Paper(0, 51, 210.0, 297.0)
BARE, PAINT = (95.0, 0.0, 0.0), (30.0, 10.0, 12.0)
UPRIGHT = Target(4, (30.0, 60.0), -90.0, 30.0, 4.0, 0.4, (15.0, 20.0, 35.0, 55.0))


def sheet(*outlines, paint=PAINT):
    """A bare sheet laid flat with filled outlines, mm."""
    k = READ_PX_PER_MM
    mask = np.zeros((round(A4.height * k), round(A4.width * k)), np.uint8)
    for one in outlines:
        # Pixel (i, j) is the place (j, i) / k.
        cv2.fillPoly(mask, [np.round(np.array(one) * k * 16).astype(np.int32)], 255, cv2.LINE_AA, 4)
    share = mask[..., None] / 255.0
    return Flat(A4, np.asarray(np.array(BARE) * (1 - share) + np.array(paint) * share, np.float32))


def bar(x, y, wide, tall):
    return ((x, y), (x + wide, y), (x + wide, y + tall), (x, y + tall))


class Sheets(unittest.TestCase):
    def test_a_sheet_printed_once_asks_for_the_same_strokes_for_ever(self):
        first, last = targets(A4)[0], targets(A4)[-1]
        for one, number, root, degrees, length, wide, tip in (
            (first, 1, (57.533, 87.75), -82.24472, 32.30749, 5.61560, 0.48575),
            (last, 12, (176.2, 261.0), -81.89630, 34.25177, 3.73851, 0.46495),
        ):
            self.assertEqual(one.number, number)
            np.testing.assert_allclose(one.root, root, atol=1e-3)
            np.testing.assert_allclose(
                (one.degrees, one.length, one.wide, one.tip), (degrees, length, wide, tip), atol=1e-5
            )
        np.testing.assert_allclose(first.cell, (39.7333, 37.0, 34.6, 55.75), atol=1e-3)
        np.testing.assert_allclose(last.cell, (158.4, 210.25, 34.6, 55.75), atol=1e-3)
        self.assertNotEqual(targets(replace(A4, seed=52))[0], first)

    def test_cells_fill_the_sheet_and_strokes_keep_within_what_can_be_painted(self):
        wide, tall = (A4.width - 2 * SIDE_MM) / COLUMNS, (A4.height - TOP_MM - FOOT_MM) / ROWS
        for seed in range(60):
            for k, one in enumerate(targets(replace(A4, seed=seed))):
                left, top = SIDE_MM + k % COLUMNS * wide, TOP_MM + k // COLUMNS * tall
                np.testing.assert_allclose(one.root, (left + 0.7 * wide, top + tall - 6))
                self.assertTrue(-112 <= one.degrees <= -68 and 16 <= one.length <= min(46, tall - 14))
                self.assertTrue(1.2 <= one.wide <= 6 and 0.2 <= one.tip <= 0.5)
                self.assertEqual(one.number, k + 1)

    def test_an_outline_is_as_wide_as_the_stroke_and_runs_its_way(self):
        one = Target(1, (50.0, 80.0), -60.0, 20.0, 4.0, 0.5, (0, 0, 0, 0))
        at = np.array(outline(one, one.root))
        self.assertEqual(at.shape, (48, 2))
        t = np.linspace(0, 1, 24)
        right, left = at[:24], at[:23:-1]
        np.testing.assert_allclose(np.hypot(*(right - left).T), 4 + (0.5 - 4) * t**TAPER)
        way = np.array([np.cos(np.radians(-60)), np.sin(np.radians(-60))])
        np.testing.assert_allclose((right + left) / 2, np.array(one.root) + 20 * t[:, None] * way)
        np.testing.assert_allclose((right - left) @ way, 0, atol=1e-9)

    def test_what_is_printed_of_each_stroke(self):
        made = HandOnPaper().printed(A4)
        own = made.shapes[len(frame(A4)) :]
        self.assertEqual(len(own), 3 * ROWS * COLUMNS)
        for one, model, line, dot in zip(targets(A4), own[::3], own[1::3], own[2::3], strict=True):
            beside = (one.cell[0] - 0.26 * one.cell[2], one.root[1])
            self.assertEqual((model.points, model.tone, model.width), (outline(one, beside), 0.35, 0))
            # Its model stands farther off than a stroke may lie.
            self.assertGreater(one.root[0] - beside[0], BESIDE_MM + 6)
            self.assertEqual((line.tone, line.width), (LINE_TONE, LINE_MM))
            way = np.array([np.cos(np.radians(one.degrees)), np.sin(np.radians(one.degrees))])
            np.testing.assert_allclose(line.points, (one.root, np.array(one.root) + one.length * way))
            self.assertEqual((dot.points, dot.tone), (box(one.root, 0.35), LINE_TONE))
        notes = {note.words: note for note in made.notes}
        self.assertIn("1   32 mm, 5.6 mm at the root", notes)
        x, y = notes["1   32 mm, 5.6 mm at the root"].at
        np.testing.assert_allclose((x, y), (39.7333 - 0.55 * 34.6, 91.75), atol=1e-3)
        self.assertIn("Sheet 51. Print at 100 %, paint, photograph it whole from above.", notes)


class Painted(unittest.TestCase):
    def test_what_differs_enough_from_bare_paper_is_paint(self):
        for off, told in (((PAINT_DE - 1, 0, 0), 0), ((PAINT_DE + 1, 0, 0), 400), ((12, 14, 9), 400), ((-8, -6, 4), 0)):
            lab = np.tile(np.array(BARE, np.float32), (80, 80, 1))
            lab[20:40, 20:40] -= off
            self.assertEqual(int(painted(lab).sum()), told, off)

    def test_bare_paper_is_what_is_lightest_whatever_its_colour(self):
        lab = np.tile(np.array((80, 4, 14), np.float32), (80, 80, 1))
        lab[:30] = (40, 4, 14)
        np.testing.assert_array_equal(painted(lab), np.arange(80)[:, None].repeat(80, 1) < 30)

    def test_a_soft_rim_counts_up_to_its_middle(self):
        lab = np.tile(np.array(BARE, np.float32), (80, 80, 1))
        lab[:, 20:60] = PAINT
        depth = np.linalg.norm(np.subtract(PAINT, BARE))
        for share, told in ((0.40, False), (0.44, True)):
            soft = lab.copy()
            soft[:, 60] = np.array(BARE) + share * np.subtract(PAINT, BARE)
            self.assertGreater(share * depth, PAINT_DE)
            self.assertEqual(bool(painted(soft)[40, 60]), told)


class Widths(unittest.TestCase):
    def read(self, *outlines, one=UPRIGHT, **changes):
        return widths(sheet(*outlines, **changes).cut(*one.cell), one)

    def test_a_bar_is_as_wide_and_as_long_as_it_is(self):
        at, wide = self.read(bar(28.5, 35.0, 3.0, 25.0))
        np.testing.assert_allclose(np.diff(at), 0.5)
        inner = (at > 0.5) & (at < 24.5)
        np.testing.assert_allclose(wide[inner], 3.1, atol=0.15)
        self.assertAlmostEqual(wide.sum() * 0.5, 3 * 25, delta=4)
        self.assertLess(abs(at[0]), 0.6)
        self.assertLess(abs(at[-1] - 25), 0.6)

    def test_a_leaning_stroke_is_measured_along_itself(self):
        for degrees in (-112.0, -75.0):
            one = replace(UPRIGHT, degrees=degrees)
            at, wide = self.read(outline(one, one.root), one=one)
            model = one.width_at(at / one.length)
            inner = (at > 1) & (at < 28)
            np.testing.assert_allclose(wide[inner], model[inner], atol=0.3)
            self.assertLess(abs(float((wide - model)[inner].mean())), 0.25)

    def test_the_largest_one_counts_and_nothing_far_beside_the_hairline(self):
        stroke = bar(29.0, 35.0, 2.0, 25.0)
        _, alone = self.read(stroke)
        _, speck = self.read(stroke, bar(34.0, 40.0, 2.0, 2.0))
        np.testing.assert_array_equal(alone, speck)
        _, beside = self.read(stroke, bar(30 + BESIDE_MM + 1, 25.0, 6.0, 45.0))
        np.testing.assert_array_equal(alone, beside)
        at, _ = self.read(stroke, bar(30 + BESIDE_MM - 4, 25.0, 3.0, 45.0))
        self.assertGreater(np.ptp(at), 40)

    def test_nothing_and_a_dot_are_no_stroke(self):
        self.assertIsNone(self.read())
        self.assertIsNone(self.read(bar(30, 50, 0.8, 0.8)))
        self.assertIsNotNone(self.read(bar(30, 50, 1.2, 1.2)))


class Judged(unittest.TestCase):
    def stroke(self, wide=UPRIGHT.wide, length=UPRIGHT.length, tip=UPRIGHT.tip, begin=0.0):
        """Places and widths of a stroke as a perfect reading gives them."""
        at = np.arange(begin + 0.25, begin + length, 0.5)
        made = replace(UPRIGHT, wide=wide, length=length, tip=tip)
        return at, made.width_at((at - begin) / length)

    def test_as_its_model(self):
        one = judged(UPRIGHT, *self.stroke())
        self.assertEqual((one.number, one.words, one.right, one.at), (4, "as its model", True, UPRIGHT.root))
        self.assertLess(one.error, 0.12)

    def test_the_error_is_the_mean_over_all_its_length(self):
        at, wide = self.stroke()
        one = judged(UPRIGHT, at, wide + 0.5)
        # From the root to the tip, where nothing is read beyond half a step.
        grid = np.arange(0, 30.25, 0.5)
        mine = np.interp(grid, at, wide + 0.5, left=0, right=0)
        self.assertAlmostEqual(one.error, np.abs(mine - UPRIGHT.width_at(grid / 30)).mean())
        self.assertAlmostEqual(judged(UPRIGHT, *self.stroke()).error, one.error, delta=0.52)
        self.assertEqual(judged(UPRIGHT, at, wide + NEAR_MM + 0.15).right, False)

    def test_what_was_painted_before_the_root_and_beyond_the_tip_counts(self):
        late = judged(UPRIGHT, *self.stroke(begin=-6.0))
        self.assertEqual(late.words, "as its model")
        grid = np.arange(-5.75, 30.25, 0.5)
        at, wide = self.stroke(begin=-6.0)
        want = np.abs(np.interp(grid, at, wide, left=0, right=0) - UPRIGHT.width_at(grid / 30)).mean()
        self.assertAlmostEqual(late.error, want)
        self.assertFalse(late.right)
        long = judged(UPRIGHT, *self.stroke(length=40.0))
        at, wide = self.stroke(length=40.0)
        grid = np.arange(0, at.max() + 0.25, 0.5)
        want = np.abs(np.interp(grid, at, wide, left=0, right=0) - UPRIGHT.width_at(grid / 30)).mean()
        self.assertAlmostEqual(long.error, want)

    def test_too_long_and_too_short_from_a_share_of_its_length(self):
        # 6 % of 30 mm: 1.8 mm; of a short one 1.5 mm.
        for length, words in (
            (28.5, "as its model"), (31.5, "as its model"), (32.0, "2 mm too long"), (28.0, "2 mm too short"),
            (36.0, "6 mm too long"),
        ):  # fmt: skip
            self.assertEqual(judged(UPRIGHT, *self.stroke(length=length)).words, words, length)
        short = replace(UPRIGHT, length=18.0)
        for length, words in ((19.0, "as its model"), (16.0, "2 mm too short")):
            at = np.arange(0.25, length, 0.5)
            self.assertEqual(judged(short, at, replace(short, length=length).width_at(at / length)).words, words)

    def test_its_root_is_told_from_two_fifths_of_a_millimetre_on(self):
        for wide, words in (
            (4.3, "as its model"), (3.7, "as its model"), (4.8, "0.77 mm too wide at the root"),
            (3.2, "0.75 mm too thin at the root"), (6.0, "1.9 mm too wide at the root"),
        ):  # fmt: skip
            self.assertEqual(judged(UPRIGHT, *self.stroke(wide=wide)).words, words, wide)

    def test_a_blunt_tip_is_told(self):
        at, wide = self.stroke()
        self.assertEqual(judged(UPRIGHT, *self.stroke(tip=0.6)).words, "as its model")
        one = judged(UPRIGHT, *self.stroke(tip=1.6))
        self.assertRegex(one.words, r"^its tip is blunt, 1\.\d mm: lift sooner$")
        cut = judged(UPRIGHT, at[at < 20], wide[at < 20])
        self.assertRegex(cut.words, r"^10 mm too short, its tip is blunt, 2 mm: lift sooner$")

    def test_a_whole_sheet_is_measured_and_what_was_left_out_is_not_told(self):
        all_of_them = targets(A4)
        flat = sheet(*(outline(one, one.root) for one in (all_of_them[0], all_of_them[5], all_of_them[11])))
        self.assertEqual([one.number for one in HandOnPaper().measured(flat)], [1, 6, 12])
        self.assertTrue(all(one.right and one.error < 0.3 for one in HandOnPaper().measured(flat)))
        self.assertEqual(HandOnPaper().measured(sheet()), ())


if __name__ == "__main__":
    unittest.main()
