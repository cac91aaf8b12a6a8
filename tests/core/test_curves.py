"""Known shapes: lengths, areas, directions across and outward."""

import unittest

import numpy as np

from foxpath.core.curves import (
    arc_length,
    closed_curve,
    inside,
    line_length,
    normals,
    open_curve,
    outward_normals,
    resample,
    signed_area,
    simplify,
)

SQUARE = np.array([[0.0, 0], [4, 0], [4, 3], [0, 3]])


class Shapes(unittest.TestCase):
    def test_the_way_round_tells_the_sign_of_an_area(self):
        self.assertEqual(signed_area(SQUARE), 12.0)
        self.assertEqual(signed_area(SQUARE[::-1]), -12.0)
        self.assertEqual(signed_area(SQUARE + (100, -50)), 12.0)

    def test_lengths(self):
        self.assertEqual(line_length(SQUARE), 11.0)
        self.assertEqual(line_length(SQUARE[:1]), 0.0)
        np.testing.assert_allclose(arc_length(SQUARE), [0, 4, 7, 11])

    def test_outward_is_outward_whichever_way_round(self):
        ring = np.array([[np.cos(a), np.sin(a)] for a in np.linspace(0, 2 * np.pi, 40, endpoint=False)]) * (5, 3) + (
            9,
            9,
        )
        for outline in (ring, ring[::-1]):
            out = outward_normals(outline)
            np.testing.assert_allclose(np.hypot(*out.T), 1, atol=1e-6)
            self.assertTrue((((outline - (9, 9)) * out).sum(axis=1) > 0).all())

    def test_across_a_line_is_to_its_right(self):
        line = np.array([[0.0, 0], [1, 0], [2, 0], [2, 1], [2, 2]])
        across = normals(line)
        np.testing.assert_allclose(across[0], (0, 1), atol=1e-6)
        np.testing.assert_allclose(across[-1], (-1, 0), atol=1e-6)
        np.testing.assert_allclose(np.hypot(*across.T), 1, atol=1e-6)

    def test_resampled_points_lie_evenly_and_keep_the_ends(self):
        points = resample(SQUARE, 12)
        np.testing.assert_allclose(points[0], SQUARE[0])
        np.testing.assert_allclose(points[-1], SQUARE[-1])
        np.testing.assert_allclose(points[4], (4, 0))
        np.testing.assert_allclose(points[7], (4, 3))

    def test_curves_go_through_their_points(self):
        closed = closed_curve(SQUARE, 6)
        np.testing.assert_allclose(closed[::6], SQUARE)
        self.assertEqual(len(closed), 24)
        self.assertGreater(signed_area(closed), 12.0)
        opened = open_curve(SQUARE, 5)
        np.testing.assert_allclose(opened[::5], SQUARE)
        np.testing.assert_allclose(open_curve(SQUARE[:2]), SQUARE[:2])

    def test_what_lies_on_the_way_is_dropped(self):
        line = np.array([[0.0, 0], [1, 0.01], [2, 0], [3, 2], [4, 4.02]])
        np.testing.assert_allclose(simplify(line, 0.1), line[[0, 2, 4]])
        self.assertEqual(len(simplify(line, 0.001)), 5)

    def test_inside_an_outline(self):
        x, y = np.array([2.0, 5, 2, -1]), np.array([1.0, 1, 4, 1])
        self.assertEqual(inside(SQUARE, x, y).tolist(), [True, False, False, False])


if __name__ == "__main__":
    unittest.main()
