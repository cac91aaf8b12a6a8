import unittest

import numpy as np

from foxpath.core.errors import PictureError
from foxpath.core.progress.frame import Frame, frame_from, through
from tests.canvas import HEIGHT, WIDTH, painted

TILTED = np.array([[1.1, 0.08, -30.0], [-0.05, 0.95, 12.0], [2e-5, -4e-5, 1.0]])
SIZE = (900, 700)


class Frames(unittest.TestCase):
    def test_there_and_back_with_a_lens(self):
        for lens in (0.0, 0.04, -0.05):
            frame = Frame(TILTED, lens, SIZE)
            places = np.array([[0.0, 0], [WIDTH, HEIGHT], [300, 20], [-40, 500]])
            np.testing.assert_allclose(frame.to_work(frame.to_photo(places)), places, atol=1e-4)

    def test_a_lens_moves_the_corners_outward_and_not_the_middle(self):
        bent, straight = Frame(np.eye(3), 0.1, SIZE), Frame(np.eye(3), 0.0, SIZE)
        middle = np.array([[450.0, 350.0]])
        np.testing.assert_allclose(bent.to_work(middle), middle)
        corner = bent.to_work(np.array([[900.0, 700.0]])) - straight.to_work(np.array([[900.0, 700.0]]))
        # Half the diagonal lies at r = 1, and becomes a tenth longer.
        np.testing.assert_allclose(corner, [[45.0, 35.0]])

    def test_four_corners_say_the_frame(self):
        corners = np.array([[80.0, 60], [820, 90], [790, 640], [60, 610]])
        frame = frame_from(corners, SIZE, WIDTH, HEIGHT)
        np.testing.assert_allclose(
            frame.to_work(corners), [[0, 0], [WIDTH, 0], [WIDTH, HEIGHT], [0, HEIGHT]], atol=1e-3
        )
        np.testing.assert_allclose(frame.corners(WIDTH, HEIGHT), corners, atol=1e-3)

    def test_corners_that_are_none_are_refused(self):
        good = np.array([[80.0, 60], [820, 90], [790, 640], [60, 610]])
        for bad in (good[::-1], good[[0, 2, 1, 3]], np.zeros((4, 2)), good * np.nan, good[:3]):
            with self.assertRaisesRegex(PictureError, "clockwise"):
                frame_from(bad, SIZE, WIDTH, HEIGHT)

    def test_scale_is_pixels_of_the_photograph_for_one_of_the_canvas(self):
        corners = np.array(
            [[100.0, 100], [100 + 1.5 * WIDTH, 100], [100 + 1.5 * WIDTH, 100 + 1.5 * HEIGHT], [100, 100 + 1.5 * HEIGHT]]
        )
        self.assertAlmostEqual(frame_from(corners, (1200, 1000), WIDTH, HEIGHT).scale, 1.5, places=3)

    def test_what_is_squared_is_the_canvas_again_and_what_is_cut_off_is_known(self):
        rgb = painted(0)
        wide = np.full((HEIGHT + 100, WIDTH + 100, 3), 90, np.uint8)
        wide[50 : 50 + HEIGHT, 50 : 50 + WIDTH] = rgb
        corners = np.array([[50.0, 50], [50 + WIDTH, 50], [50 + WIDTH, 50 + HEIGHT], [50, 50 + HEIGHT]])
        made, seen = frame_from(corners, (WIDTH + 100, HEIGHT + 100), WIDTH, HEIGHT).squared(wide, WIDTH, HEIGHT)
        self.assertLess(np.abs(made.astype(int) - rgb).mean(), 0.5)
        self.assertTrue(seen.all())
        _, seen = frame_from(corners - (120, 0), (WIDTH + 100, HEIGHT + 100), WIDTH, HEIGHT).squared(
            wide, WIDTH, HEIGHT
        )
        self.assertAlmostEqual(float(seen.mean()), 1 - 71 / WIDTH, delta=0.003)
        self.assertFalse(seen[:, :60].any())

    def test_a_shift_asks_for_another_place(self):
        rgb = painted(0)
        frame = Frame(np.eye(3), 0.0, (WIDTH, HEIGHT))
        shift = np.zeros((HEIGHT, WIDTH, 2), np.float32)
        shift[..., 0], shift[..., 1] = 6, -4
        made, _ = frame.squared(rgb, WIDTH, HEIGHT, shift)
        np.testing.assert_array_equal(made[50:400, 50:400], rgb[46:396, 56:406])

    def test_through_divides(self):
        np.testing.assert_allclose(
            through(np.array([[1.0, 0, 0], [0, 1, 0], [0.01, 0, 1]]), np.array([[100.0, 50]])), [[50, 25]]
        )


if __name__ == "__main__":
    unittest.main()
