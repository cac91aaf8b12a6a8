"""Squares, letters, the head's own frame, and lines of a drawing whose places are known."""

import unittest

import numpy as np

from foxpath.core.reference.transfer import Axes, Grid, letter, symmetry, usual_square_mm
from foxpath.core.units import CanvasSize


class Squares(unittest.TestCase):
    def test_the_usual_one_gives_six_to_fourteen_across(self):
        for width, side in ((500, 50), (300, 50), (299, 25), (700, 50), (701, 100), (90, 12.5), (2000, 200)):
            self.assertEqual(usual_square_mm(CanvasSize(width, 400)), side)
        self.assertAlmostEqual(usual_square_mm(CanvasSize(254, 203, "in")), 25.4)
        self.assertAlmostEqual(usual_square_mm(CanvasSize(508, 406, "in")), 50.8)

    def test_an_own_side_is_kept_between_two_and_forty_squares(self):
        canvas = CanvasSize(400, 300)
        for said, side in ((1, 10), (10, 10), (33, 33), (200, 200), (900, 200), (0, 50)):
            self.assertEqual(Grid(said).side(canvas), side)

    def test_lines_lie_at_every_square_and_none_on_the_rim(self):
        lines = Grid(50).lines(CanvasSize(200, 120))
        upright = sorted(float(line[0, 0]) for line, _ in lines if line[0, 0] == line[1, 0])
        level = sorted(float(line[0, 1]) for line, _ in lines if line[0, 1] == line[1, 1])
        self.assertEqual((upright, level), ([50, 100, 150], [50, 100]))
        self.assertFalse(any(diagonal for _, diagonal in lines))

    def test_diagonals_go_through_every_corner_of_a_square_and_end_at_the_rim(self):
        made = [line for line, diagonal in Grid(50, diagonals=True).lines(CanvasSize(200, 120)) if diagonal]
        for line in made:
            step = np.abs(line[1] - line[0])
            self.assertAlmostEqual(step[0], step[1])
            for x, y in line:
                self.assertTrue(min(abs(x), abs(x - 200), abs(y), abs(y - 120)) < 1e-6)
                self.assertTrue(-1e-6 <= x <= 200 + 1e-6 and -1e-6 <= y <= 120 + 1e-6)
        for x in (50, 100, 150):
            for y in (50, 100):
                through = {
                    int(np.sign((line[1] - line[0])[0] * (line[1] - line[0])[1]))
                    for line in made
                    if abs(np.cross(line[1] - line[0], np.array([x, y]) - line[0])) < 1e-6
                }
                self.assertEqual(through, {-1, 1}, (x, y))

    def test_every_diagonal_is_there_once(self):
        for width, height in ((200, 120), (120, 200), (150, 150)):
            lines = [line for line, diagonal in Grid(50, diagonals=True).lines(CanvasSize(width, height)) if diagonal]
            falls = sorted(round(float(a[0] - a[1])) for a, b in lines if (b - a)[0] * (b - a)[1] > 0)
            rises = sorted(round(float(a[0] + a[1])) for a, b in lines if (b - a)[0] * (b - a)[1] < 0)
            self.assertEqual(falls, [k for k in range(-500, 501, 50) if -height < k < width])
            self.assertEqual(rises, [k for k in range(0, 501, 50) if 0 < k < width + height])

    def test_letters_go_on_after_z(self):
        self.assertEqual(
            [letter(k) for k in (0, 25, 26, 27, 51, 52, 701, 702)], ["A", "Z", "AA", "AB", "AZ", "BA", "ZZ", "AAA"]
        )


class Frames(unittest.TestCase):
    def axes(self, deg):
        a = np.radians(deg)

        def at(x, y):
            return float(200 + np.cos(a) * x - np.sin(a) * y), float(150 + np.sin(a) * x + np.cos(a) * y)

        return Axes(at(-60, 0), at(60, 0), at(0, 20)), at

    def test_there_and_back_in_any_tilt(self):
        for deg in (0, 35, -80):
            axes, at = self.axes(deg)
            self.assertAlmostEqual(axes.tilt_deg, deg)
            np.testing.assert_allclose(axes.across_along(np.array([at(33, -12)])), [(33, -12)], atol=1e-9)
            np.testing.assert_allclose(axes.place(33, -12), at(33, -12), atol=1e-9)

    def test_differences_have_their_sign_and_the_largest_is_first(self):
        for deg in (0, 25):
            axes, at = self.axes(deg)
            left = np.array([at(x, y) for x, y in ((-80, -50), (-60, -50), (-70, -90))])
            right = np.array([at(x, y) for x, y in ((67, -44), (87, -44), (77, -94))])
            found = {one.what: one.px for one in symmetry(axes, [("Ears", left, right)], None)}
            self.assertAlmostEqual(found["Ears: height"], (-44 * 2 - 94) / 3 + (50 * 2 + 90) / 3)
            self.assertAlmostEqual(found["Ears: from midline"], 7)
            self.assertAlmostEqual(found["Ears: how tall"], 10)
            self.assertEqual(next(iter(found)), "Ears: how tall")

    def test_half_widths_of_a_head_are_compared_where_they_are(self):
        axes, at = self.axes(10)
        t = np.linspace(0, 2 * np.pi, 200, endpoint=False)
        head = np.array([at(90 * np.cos(k) + (12 if np.cos(k) > 0 else 0), 100 * np.sin(k)) for k in t])
        found = symmetry(axes, [], head, 0.5)
        self.assertEqual(len(found), 5)
        for one in found:
            self.assertAlmostEqual(one.px, 12, delta=1.5)
        self.assertEqual(sum("above" in one.what for one in found if "0 mm" not in one.what), 2)


if __name__ == "__main__":
    unittest.main()
