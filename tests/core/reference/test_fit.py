"""A crop takes the canvas's shape about its own middle, within the picture, and never shrinks to nothing."""

import unittest

from foxpath.core.frame import Crop
from foxpath.core.reference import canvas_for, fitted, mm_per_px
from foxpath.core.units import CanvasSize

WIDE = CanvasSize(400, 300)


class Fitted(unittest.TestCase):
    def crop(self, *given, canvas=WIDE):
        """Return a crop of a picture of 1000 x 600 px as it is fitted, rounded."""
        made = fitted(Crop(*given), 1000, 600, canvas)
        return tuple(round(v, 6) for v in (made.x, made.y, made.width, made.height))

    def test_its_middle_stays_and_its_width_where_the_picture_allows_it(self):
        self.assertEqual(self.crop(300, 200, 400, 300), (300, 200, 400, 300))
        self.assertEqual(self.crop(300, 100, 400, 400), (300, 150, 400, 300))
        self.assertEqual(self.crop(300, 250, 400, 100), (300, 150, 400, 300))
        # Too wide for the picture's height: the largest there is, about the same middle.
        self.assertEqual(self.crop(60, 0, 900, 600), (110, 0, 800, 600))
        self.assertEqual(self.crop(300, 100, 200, 400, canvas=CanvasSize(300, 600)), (300, 100, 200, 400))

    def test_it_is_moved_into_the_picture(self):
        self.assertEqual(self.crop(-50, -40, 400, 300), (0, 0, 400, 300))
        self.assertEqual(self.crop(800, 500, 400, 300), (600, 300, 400, 300))
        self.assertEqual(self.crop(0, 0, 1000, 600), (100, 0, 800, 600))

    def test_a_twentieth_of_the_picture_remains(self):
        self.assertEqual(self.crop(500, 300, 4, 4), (482, 287, 40, 30))

    def test_the_largest_crop_lies_in_the_middle(self):
        made = canvas_for(1000, 600, WIDE)
        self.assertEqual((made.x, made.y, made.width, made.height), (100, 0, 800, 600))
        tall = canvas_for(600, 1000, WIDE)
        self.assertEqual((tall.x, tall.y, tall.width, tall.height), (0, 275, 600, 450))

    def test_millimetres_of_a_pixel(self):
        self.assertEqual(mm_per_px(Crop(0, 0, 800, 600), WIDE), 0.5)


if __name__ == "__main__":
    unittest.main()
