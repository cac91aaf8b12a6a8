"""Doubt is hatched where it is, as strong as it is."""

import unittest

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth.draw import draw_doubt
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


if __name__ == "__main__":
    unittest.main()
