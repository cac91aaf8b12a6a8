"""Points in outlines, and the boxes of targets."""

import unittest

import numpy as np

from foxpath.core.features.drawing import Target, squared_up
from foxpath.core.features.steps import within


class Within(unittest.TestCase):
    def test_an_outline_holds_what_lies_inside_of_it(self):
        hook = np.array([(0.0, 0), (10, 0), (10, 10), (7, 10), (7, 4), (0, 4)])
        points = np.array([(1.0, 1), (9, 9), (8, 5), (5, 6), (-1, 2), (11, 5), (5, 3.9)])
        self.assertEqual(within(hook, points).tolist(), [True, True, True, False, False, False, True])
        self.assertEqual(within(hook[::-1], points).tolist(), within(hook, points).tolist())

    def test_a_target_is_measured_over_all_its_lines(self):
        target = Target("k", "Eye", (np.array([(0.0, 5), (10, 5)]), np.array([(4.0, 0), (4, 20)])))
        np.testing.assert_array_equal(target.middle(), (5, 10))
        np.testing.assert_array_equal(target.size(), (10, 20))

    def test_a_canvas_is_seen_from_the_front_at_true_scale(self):
        """A quarter of the canvas is painted red: so it is after squaring up, whatever the slant."""
        rgb = np.full((300, 400, 3), 128, np.uint8)
        corners = np.array([(60.0, 40), (340, 60), (320, 260), (80, 240)])
        made, scale = squared_up(rgb, corners, 200.0, 150.0)
        self.assertAlmostEqual(made.shape[1] / made.shape[0], 200 / 150, delta=0.01)
        self.assertAlmostEqual(made.shape[1] / scale, 200, delta=0.5)
        import cv2

        to = cv2.getPerspectiveTransform(
            np.array([(0, 0), (200, 0), (200, 150), (0, 150)], np.float32), corners.astype(np.float32)
        )
        quarter = np.array([[(0.0, 0.0), (100, 0), (100, 75), (0, 75)]])
        cv2.fillPoly(rgb, [np.round(cv2.perspectiveTransform(quarter, to) * 16).astype(np.int32)], (200, 20, 20), 8, 4)
        made, scale = squared_up(rgb, corners[[2, 0, 3, 1]], 200.0, 150.0)
        red = made[..., 1] < 70
        rows, columns = np.nonzero(red)
        np.testing.assert_allclose((columns.max() / scale, rows.max() / scale), (100, 75), atol=1.2)
        self.assertGreater(red[: int(70 * scale), : int(95 * scale)].mean(), 0.98)


if __name__ == "__main__":
    unittest.main()
