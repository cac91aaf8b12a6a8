"""Hairs, combs and doubt are drawn where they are, as strong as they are."""

import unittest

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth.draw import draw_combs, draw_doubt, draw_glyphs
from foxpath.core.growth.field import ZoneField
from foxpath.core.growth.glyphs import HairGlyphs
from foxpath.core.growth.sureness import SURE_ENOUGH


def field(sure, row=4, column=7):
    """A field of 10 x 12 cells of 5 px, its window's corner at a row and column of a grid that begins at (20, 30)."""
    cells = np.ones((10, 12), np.float32)
    direction = np.zeros((10, 12, 2), np.float32)
    frame = Frame(Crop(20, 30, 200, 150), 40, 30, 0.2)
    inside = np.ones((10, 12), bool)
    return ZoneField(frame, row, column, direction, cells * sure, inside, inside, True, cells, inside)


class Doubt(unittest.TestCase):
    def hatched(self, fields, affine=((1, 0, 0), (0, 1, 0)), shape=(220, 300)):
        image = np.zeros((*shape, 4), np.float32)
        draw_doubt(image, fields, np.array(affine, float))
        return image[..., 3]

    def box(self, alpha):
        rows, columns = np.nonzero(alpha > 0.3)
        return columns.min(), columns.max() + 1, rows.min(), rows.max() + 1

    def test_it_lies_on_the_cells_that_are_unsure(self):
        # Cells 7 to 19 across and 4 to 14 down, of 5 px, from (20, 30).
        np.testing.assert_allclose(self.box(self.hatched([field(0.0)])), (55, 115, 50, 100), atol=3)
        sure = np.ones((10, 12), np.float32)
        sure[6:8, 9:11] = 0
        np.testing.assert_allclose(self.box(self.hatched([field(sure)])), (100, 110, 80, 90), atol=4)

    def test_it_goes_with_the_picture_when_that_is_moved_and_enlarged(self):
        alpha = self.hatched([field(0.0)], ((2, 0, -60), (0, 2, -70)))
        np.testing.assert_allclose(self.box(alpha), (50, 170, 30, 130), atol=4)
        self.assertFalse(self.hatched([field(0.0)], ((1, 0, -500), (0, 1, 0))).any())

    def test_the_surer_the_fainter_and_what_is_sure_enough_not_at_all(self):
        sums = [float(self.hatched([field(sure)]).sum()) for sure in (0.0, 0.2, 0.4, SURE_ENOUGH, 1.0)]
        self.assertTrue(sums[0] > sums[1] > sums[2] > 0)
        self.assertEqual(sums[3:], [0.0, 0.0])

    def test_of_two_fields_the_more_doubtful_shows(self):
        both = self.hatched([field(0.3), field(0.0)])
        np.testing.assert_allclose(both, self.hatched([field(0.0)]), atol=1e-6)
        np.testing.assert_allclose(both, self.hatched([field(0.0), field(0.3)]), atol=1e-6)


class Hairs(unittest.TestCase):
    """Hairs of 40 px to the right, 6 px wide at the root."""

    def drawn(self, *hairs, sure=1.0, rooted=True, strength=1.0, affine=((1, 0, 0), (0, 1, 0)), width=6.0, length=40.0):
        points = np.array([[(x + length * t, y) for t in np.linspace(0, 1, 8)] for x, y in hairs], np.float32)
        count = len(points)
        group = HairGlyphs(
            points, np.full(count, width, np.float32), np.full(count, sure, np.float32), np.full(count, rooted)
        )
        image = np.zeros((60, 120, 4), np.float32)
        draw_glyphs(image, [group], np.array(affine, float), strength)
        return image

    def tall(self, image, column, level=0.5):
        return float((image[:, column, 0] > level).sum())

    def test_thick_at_the_root_and_fine_at_the_tip_light_within_dark(self):
        image = self.drawn((30, 30))
        self.assertGreater(self.tall(image, 36), 1.5 * self.tall(image, 68))
        self.assertAlmostEqual(self.tall(image, 36), 6, delta=1.6)
        # The casing is dark, and reaches a little beyond the light.
        covered = (image[:, 36, 3] > 0.3).sum()
        self.assertTrue(self.tall(image, 36) <= covered <= self.tall(image, 36) + 3)
        # Dark beside the light, above and below it.
        for row in (28, 31):
            self.assertTrue(image[row, 68, 3] > 0.3 and image[row, 68, 0] < 0.1)
        self.assertGreater(float(image[30, 36, 0]), 0.9)
        self.assertAlmostEqual(float(image[30, 36, 3]), 1 - (1 - 0.62) * (1 - 0.96), delta=0.01)
        self.assertFalse(image[:, 75:].any() or image[:, :25].any())

    def test_where_the_root_is_a_guess_both_ends_are_alike(self):
        image = self.drawn((30, 30), rooted=False)
        self.assertAlmostEqual(self.tall(image, 33), self.tall(image, 67), delta=1)
        flat = image[..., 0].sum(axis=0)
        np.testing.assert_allclose(flat[34:50], flat[66:50:-1], rtol=0.15)

    def test_unsure_ones_are_fainter_and_all_as_strong_as_is_asked(self):
        whole = self.drawn((30, 30), sure=SURE_ENOUGH)[30, 40, 3]
        faint = self.drawn((30, 30), sure=SURE_ENOUGH - 0.01)[30, 40, 3]
        self.assertAlmostEqual(float(faint), 1 - (1 - 0.42 * 0.62) * (1 - 0.42 * 0.96), delta=0.01)
        self.assertLess(float(faint), 0.7 * float(whole))
        half = self.drawn((30, 30), strength=0.5)[30, 40, 3]
        self.assertAlmostEqual(float(half), 1 - (1 - 0.31) * (1 - 0.48), delta=0.01)

    def test_it_goes_with_the_picture_and_never_below_a_pixel(self):
        large = self.drawn((15, 15), affine=((2, 0, 0), (0, 2, 0)), width=3.0, length=20.0)
        np.testing.assert_allclose(large, self.drawn((30, 30)), atol=0.02)
        fine = self.drawn((30, 30), width=0.1)
        self.assertGreater(float(fine[28:32, 36, 3].max()), 0.3)
        # What lies far off the image is left out, what reaches into it is not.
        self.assertFalse(self.drawn((-200, 30), (30, 200)).any())
        self.assertTrue(self.drawn((-20, 30)).any())
        image = np.zeros((20, 20, 4), np.float32)
        draw_glyphs(image, [], np.eye(2, 3))
        self.assertFalse(image.any())


class Combs(unittest.TestCase):
    def drawn(self, *combs, affine=((1, 0, 0), (0, 1, 0))):
        image = np.zeros((80, 160, 4), np.float32)
        draw_combs(image, [np.array(comb, float) for comb in combs], np.array(affine, float))
        return image

    def test_a_spine_lies_across_the_root_and_tracks_run_to_the_tip(self):
        alpha = self.drawn(((30, 40), (110, 40)))[..., 3] > 0.5
        columns = np.nonzero(alpha)[1]
        # Root and tip, a little wider by the casing.
        self.assertTrue(26 <= columns.min() <= 29 and 106 <= columns.max() <= 112)
        spine = np.nonzero(alpha[:, 30])[0]
        self.assertAlmostEqual(float(np.ptp(spine)) + 1, 2 * 5.6 + 1.6, delta=1.8)
        self.assertAlmostEqual(float(spine.mean()), 39.5, delta=0.6)
        # Three tracks that fan out: from 2.8 px beside the middle to a third more, over 0.9 of the way.
        for column, aside in ((42, 2.8 * 1.045), (62, 2.8 * 1.12)):
            across = self.drawn(((30, 40), (110, 40)))[:, column, 0]
            light = np.nonzero(across > 0.3)[0]
            self.assertAlmostEqual(float(light.min()) + 0.5, 40 - aside, delta=0.8)
            self.assertAlmostEqual(float(light.max()) + 0.5, 40 + aside, delta=0.8)
        self.assertFalse(alpha[:37, 106:].any() or alpha[44:, 106:].any())

    def test_the_middle_one_is_the_widest_and_none_hides_the_next(self):
        image = self.drawn(((30, 40), (110, 40)))
        core = image[:, 45, 0]
        rows = np.arange(80) + 0.5
        own, beside = core[(rows > 38.4) & (rows < 41.6)].sum(), core[(rows > 41.6) & (rows < 45)].sum()
        # 2.9 px wide, and 1.5.
        self.assertTrue(2.0 < own < 3.2, own)
        self.assertTrue(0.8 < beside < 1.8, beside)

    def test_it_goes_with_the_picture_at_its_own_width_and_a_point_is_left_out(self):
        large = self.drawn(((10, 20), (50, 20)), affine=((2, 0, 10), (0, 2, 0)))
        np.testing.assert_allclose(large, self.drawn(((30, 40), (110, 40))), atol=1e-4)
        self.assertFalse(self.drawn(((30, 40), (30.4, 40))).any())


if __name__ == "__main__":
    unittest.main()
