"""What each brush makes of a mark."""

import unittest

import numpy as np

from foxpath.core.lengths.choice import BrushChoice
from foxpath.core.lengths.kit import Brush
from foxpath.core.rehearsal import _kernel_place as loops
from foxpath.core.rehearsal.marks import Marks
from foxpath.core.rehearsal.tools import BENEATH, DARKER, DRY_ALPHA, STRAND_MM, TEETH, dark_beneath, with_brush


def marks(count=60, *, hair=True, half=0.5):
    rng = np.random.default_rng(1)
    root = rng.random((count, 2)) * 100
    lines = root[:, None] + np.linspace(0, 10, 8)[None, :, None] * np.array([1.0, 0.0])
    one = np.ones(count, np.float32)
    colour = rng.random((count, 3)).astype(np.float32)
    return Marks(lines.astype(np.float32), 10 * one, half * one, colour, 0.9 * one, 50 * one, hair)


def choice(hold="tip", load="wiped", made_as="hair"):
    return BrushChoice(Brush("rake", 10), 1.0, made_as, "", hold, load)


class Beside(unittest.TestCase):
    def test_lines_lie_to_the_right_as_they_run_and_further_on_and_bend_alike(self):
        t = np.linspace(0, np.pi / 2, 8)
        # Down a straight way, and a quarter round (0, 0) from (20, 0): its right hand is the middle.
        straight = np.stack([np.full(8, 5.0), np.linspace(0, 14, 8)], axis=1)
        round_it = 20 * np.stack([np.cos(t), np.sin(t)], axis=1)
        lines = np.stack([straight, round_it]).astype(np.float32)
        aside = np.array([[0, 3, -2], [0, 5, -4]], np.float32)
        along = np.array([[0, 0, 1.5], [0, 0, 0]], np.float32)
        made = np.zeros((2, 3, 8, 2), np.float32)
        loops.beside(lines, aside, along, made)
        np.testing.assert_allclose(made[:, 0], lines, atol=1e-5)
        np.testing.assert_allclose(made[0, 1], straight - (3, 0), atol=1e-5)
        np.testing.assert_allclose(made[0, 2], straight + (2, 1.5), atol=1e-5)
        np.testing.assert_allclose(np.hypot(*made[1, 1].T)[1:-1], 15, atol=0.05)
        np.testing.assert_allclose(np.hypot(*made[1, 2].T)[1:-1], 24, atol=0.05)


class Tools(unittest.TestCase):
    def test_a_tip_leaves_marks_as_they_are_and_an_edge_ends_bluntly(self):
        made = marks()
        self.assertIs(with_brush(made, choice(), (1,)), made)
        self.assertIs(with_brush(made, None, (1,)), made)
        edge = with_brush(made, choice("edge"), (1,))
        np.testing.assert_array_equal(edge.lines_mm, made.lines_mm)
        # Full to the last third, where a liner has long run out.
        self.assertGreater(edge.profile()[5], 1.8 * made.profile()[5])
        self.assertLess(edge.profile()[-1], 0.3)

    def test_masses_are_no_matter_of_the_tool(self):
        made = marks(hair=False)
        self.assertIs(with_brush(made, choice("teeth"), (1,)), made)

    def test_a_rake_lays_as_many_hairs_in_fewer_touches_side_by_side(self):
        made = marks()
        raked = with_brush(made, choice("teeth"), (1,))
        self.assertEqual(len(raked.half_mm), len(made.half_mm))
        np.testing.assert_allclose(raked.half_mm, made.half_mm)
        touch = raked.lines_mm[:TEETH]
        # One touch: the same colour, beside one another across the hair, about two widths apart.
        self.assertEqual(len(np.unique(raked.colour[:TEETH], axis=0)), 1)
        gaps = np.diff(touch[:, 3, 1])
        self.assertGreater(float(np.ptp(touch[:, 3, 1])), 4)
        self.assertAlmostEqual(float(np.abs(gaps).mean()), 1.9, delta=1.0)
        self.assertLess(float(np.abs(np.diff(touch[:, 3, 0])).max()), 7)
        again = with_brush(made, choice("teeth"), (1,))
        np.testing.assert_array_equal(raked.lines_mm, again.lines_mm)
        self.assertTrue((with_brush(made, choice("teeth"), (2,)).lines_mm != raked.lines_mm).any())

    def test_an_old_bristle_breaks_into_thin_dry_strands_with_as_much_paint(self):
        made = marks()
        dry = with_brush(made, choice("flat", "nearly dry"), (1,))
        self.assertEqual(dry.handling, "dry")
        np.testing.assert_allclose(dry.half_mm, STRAND_MM * 0.5, rtol=1e-5)
        np.testing.assert_allclose(dry.alpha, DRY_ALPHA * 0.9, rtol=1e-5)
        paint = float((dry.half_mm * dry.length_mm).sum() / (made.half_mm * made.length_mm).sum())
        self.assertAlmostEqual(paint, 1, delta=0.25)


class Curls(unittest.TestCase):
    def test_each_curl_has_its_dark_laid_just_before_it_and_below(self):
        made = marks(4)
        both = dark_beneath(made)
        self.assertEqual(len(both.half_mm), 8)
        np.testing.assert_allclose(both.colour[0::2], made.colour * DARKER, rtol=1e-5)
        np.testing.assert_array_equal(both.colour[1::2], made.colour)
        np.testing.assert_array_equal(both.lines_mm[1::2], made.lines_mm)
        np.testing.assert_allclose((both.lines_mm[0::2] - made.lines_mm)[..., 1], BENEATH * 1.0, rtol=1e-4)
        self.assertTrue((both.alpha[0::2] < made.alpha).all())

    def test_no_marks_stay_none(self):
        none = marks(4).first(0)
        self.assertIs(dark_beneath(none), none)


if __name__ == "__main__":
    unittest.main()
