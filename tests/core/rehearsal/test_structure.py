"""Feathers read in a painting: found again where bars and gaps are kept, and not where they are lost."""

import unittest

import numpy as np

from foxpath.core.feathers import Feathers
from foxpath.core.feathers.feathers import half_width
from foxpath.core.rehearsal.structure import POINTS, found_again, read_feathers, vane_lines


def feathers(count=3, apart=60.0):
    shaft = np.stack([np.stack([np.full(8, 30.0 + k * apart), np.linspace(10, 90, 8)], axis=1) for k in range(count)])
    ones = np.ones(count, np.float32)
    return Feathers(
        shaft.astype(np.float32), 20 * ones, 8 * ones, np.arange(count, dtype=np.int32), ones, ones > 0, 30.0
    )


def barred(depth=12.0, shift=0.0, period=12.0):
    """Return a picture (L*) with bars across the shafts and a dark gap beyond the tips."""
    y, _ = np.mgrid[0:120, 0:200].astype(np.float32)
    light = 50 + depth * np.sign(np.sin((y + shift) * 2 * np.pi / period))
    light[y > 91] = 0
    return light.astype(np.float32)


def told(reference, painted):
    made = feathers()
    return found_again(*(read_feathers(made, picture, (0.0, 0.0), 1.0) for picture in (reference, painted)))


class Lines(unittest.TestCase):
    def test_vanes_lie_beside_the_shaft_over_what_is_seen(self):
        lines = vane_lines(feathers(1))[0]
        self.assertEqual(lines.shape, (2 * POINTS, 2))
        left, right = lines[:POINTS], lines[POINTS:]
        np.testing.assert_allclose(left[:, 1], right[:, 1], atol=1e-4)
        np.testing.assert_allclose(left[:, 0] + right[:, 0], 60, atol=1e-3)
        # 20 mm are 80 pixels: half of 8 mm is 16 pixels, of which 0.45 at the widest.
        self.assertAlmostEqual(float(np.abs(left[:, 0] - 30).max()), 0.45 * 16, delta=0.2)
        self.assertGreater(left[0, 1], 10 + 0.4 * 80)
        # Toward the tip they draw in as the feather does.
        wide = 0.45 * 16 * half_width(np.linspace(0.42, 0.94, POINTS).astype(np.float32))
        np.testing.assert_allclose(np.abs(left[:, 0] - 30), wide, atol=0.1)
        self.assertLess(wide[-1], 0.6 * wide.max())

    def test_a_picture_is_read_at_its_own_place_and_size(self):
        picture = barred()
        whole = read_feathers(feathers(), picture, (0.0, 0.0), 1.0)
        half = read_feathers(feathers(), picture[::2, ::2].copy(), (0.0, 0.0), 2.0)
        self.assertLess(np.abs(whole[0].mean(axis=1) - half[0].mean(axis=1)).max(), 4)
        moved = read_feathers(feathers(), np.roll(picture, (7, 5), (0, 1)), (-5.0, -7.0), 1.0)
        np.testing.assert_array_equal(moved[0], whole[0])


class Found(unittest.TestCase):
    def test_the_same_picture_is_found_whole(self):
        shown, found = told(barred(), barred())
        self.assertTrue(shown.all() and found.all())

    def test_flat_paint_loses_them_and_bars_elsewhere_are_others(self):
        for painted in (np.full((120, 200), 50, np.float32), barred(shift=6), barred(depth=-12)):
            shown, found = told(barred(), painted)
            self.assertTrue(shown.all())
            self.assertFalse(found.any())

    def test_half_their_contrast_is_enough_and_less_is_not(self):
        for depth, kept in ((6.6, True), (5.4, False)):
            painted = barred(depth)
            self.assertEqual(told(barred(), painted)[1].all(), kept, depth)

    def test_a_gap_that_is_filled_is_lost(self):
        flat, rim = np.full((1, 8), 50, np.float32), np.full(1, 50, np.float32)

        def kept(gap, painted):
            return found_again((flat, rim - gap, rim), (flat, rim - painted, rim))

        for gap, painted, shown, found in (
            (20, 10.1, True, True),
            (20, 9.9, True, False),
            (4.1, 3, True, True),
            (3.9, 9, False, False),
        ):
            self.assertEqual(tuple(bool(one[0]) for one in kept(gap, painted)), (shown, found), (gap, painted))

    def test_where_the_reference_shows_nothing_nothing_is_asked(self):
        plain = np.full((120, 200), 50, np.float32)
        shown, found = told(plain, barred())
        self.assertFalse(shown.any() or found.any())


if __name__ == "__main__":
    unittest.main()
