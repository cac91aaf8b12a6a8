import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.eyes.finding.window import WINDOW, read_lab, window_at


def ramp(width=300, height=200):
    """A picture whose grey says the column."""
    return np.repeat(
        np.broadcast_to((np.arange(width) % 256).astype(np.uint8)[None, :, None], (height, width, 1)), 3, axis=2
    ).copy()


class Windows(unittest.TestCase):
    def test_an_eye_is_brought_to_one_size_with_its_middle_in_the_middle(self):
        for radius in (8.0, 20.0, 47.0):
            window = window_at(ramp(), (120.5, 90.0), radius)
            self.assertAlmostEqual(window.k * radius, WINDOW / 4.8)
            np.testing.assert_allclose(np.array(window.corner) + WINDOW / 2 / window.k, (120.5, 90.0))
            wanted = lab_from_rgb8(np.full((1, 1, 3), 120, np.uint8))[0, 0, 0]
            self.assertAlmostEqual(float(window.lab[WINDOW // 2, WINDOW // 2, 0]), wanted, delta=0.8)
            # As many columns further on as its scale says.
            step = 10 if radius > 10 else 4
            beyond = lab_from_rgb8(np.full((1, 1, 3), 120 + step, np.uint8))[0, 0, 0]
            self.assertAlmostEqual(
                float(window.lab[WINDOW // 2, round(WINDOW / 2 + step * window.k), 0]), beyond, delta=1.0
            )

    def test_beyond_the_picture_its_border_is_carried_on(self):
        window = window_at(ramp(), (2.0, 3.0), 20.0)
        self.assertEqual(window.lab.shape, (WINDOW, WINDOW, 3))
        self.assertLess(float(window.lab[:, : WINDOW // 3].max()), 3)
        self.assertGreater(float(window.lab[:, -1, 0].min()), 10)

    def test_light_is_linear_of_a_hundred(self):
        window = window_at(np.full((80, 80, 3), 188, np.uint8), (40, 40), 10.0)
        np.testing.assert_allclose(window.light, 50.3, atol=0.4)

    def test_places_are_read_between_pixels_whose_middles_lie_at_halves(self):
        lab = np.zeros((4, 5, 3), np.float32)
        lab[..., 0] = np.arange(5) * 10
        lab[..., 1] = np.arange(4)[:, None]
        x, y = np.array([[0.5, 1.0, 3.25], [2.5, 9.0, -4.0]]), np.array([[0.5, 1.0, 2.0], [3.5, 9.0, -4.0]])
        read = read_lab(lab, x, y)
        self.assertEqual(read.shape, (2, 3, 3))
        np.testing.assert_allclose(read[..., 0], [[0, 5, 27.5], [20, 40, 0]], atol=1e-4)
        np.testing.assert_allclose(read[..., 1], [[0, 0.5, 1.5], [3, 3, 0]], atol=1e-4)
