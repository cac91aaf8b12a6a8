"""Doubt is hatched where it is, as strong as it is."""

import unittest

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth.draw import draw_combs, draw_doubt
from foxpath.core.growth.field import ZoneField
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
