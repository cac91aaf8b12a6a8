import unittest

import numpy as np

from foxpath.core.brush import hair_profile, outlines, paint_outlines, trace
from foxpath.core.brush.raster import tile_grid, tiles_at
from foxpath.core.reporting import Cancelled, Progress


def polygon_area(points):
    x, y = points.T
    return abs((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) / 2


class Raster(unittest.TestCase):
    def marks(self, count=600, seed=6):
        rng = np.random.default_rng(seed)
        field = np.zeros((20, 20, 2), np.float32)
        field[..., 0] = 1
        start = (rng.random((count, 2)) * 20).astype(np.float32)
        length = (rng.random(count) * 4).astype(np.float32)
        turn = rng.normal(0, 2, count).astype(np.float32)
        lines = trace(field, start, length, turn, np.zeros(count, np.float32))
        shapes = outlines(lines, np.full(count, 0.08, np.float32), hair_profile(), 30)
        return shapes, rng.random((count, 3)).astype(np.float32), rng.random(count).astype(np.float32)

    def test_coverage_is_the_exact_area(self):
        """Wherever a polygon lies on the pixel grid or across tiles, what is inked is its area."""
        rng = np.random.default_rng(7)
        for _ in range(40):
            turn = np.sort(rng.random(16)) * 2 * np.pi
            radius = 4 + 30 * rng.random()
            shape = np.stack([250 + radius * np.cos(turn), 126 + radius * np.sin(turn)], 1) + rng.random(2) * 20
            image = np.zeros((300, 600, 4), np.float32)
            one = np.ones(1, np.float32)
            paint_outlines(image, shape[None].astype(np.float32), np.ones((1, 3), np.float32), one)
            self.assertAlmostEqual(float(image[..., 3].sum()) / polygon_area(shape), 1, delta=5e-4)

    def test_later_marks_lie_over_earlier_ones(self):
        square = np.array([[10, 10], [30, 10], [30, 30], [10, 30]], np.float32)
        image = np.zeros((40, 40, 4), np.float32)
        colour = np.array([[1, 0, 0], [0, 0, 1]], np.float32)
        paint_outlines(image, np.stack([square, square]), colour, np.array([1, 0.25], np.float32))
        np.testing.assert_allclose(image[20, 20], [0.75, 0, 0.25, 1], atol=1e-6)

    def test_threads_do_not_change_a_byte(self):
        images = []
        for workers in (1, 2, 3):
            image = np.zeros((600, 600, 4), np.float32)
            paint_outlines(image, *self.marks(), workers=workers)
            images.append(image)
        self.assertTrue(images[0].any())
        np.testing.assert_array_equal(images[0], images[1])
        np.testing.assert_array_equal(images[0], images[2])

    def test_marks_off_the_canvas_and_none_at_all(self):
        image = np.zeros((64, 64, 4), np.float32)
        shapes, colour, alpha = self.marks(50)
        paint_outlines(image, shapes + 10_000, colour, alpha)
        paint_outlines(image, shapes[:0], colour[:0], alpha[:0])
        self.assertFalse(image.any())

    def test_cancel_and_wrong_shapes(self):
        image = np.zeros((600, 600, 4), np.float32)
        with self.assertRaises(Cancelled):
            paint_outlines(image, *self.marks(), progress=Progress(cancelled=lambda: True))
        with self.assertRaisesRegex(ValueError, "float32"):
            paint_outlines(image.astype(float), *self.marks())


class Strokes(unittest.TestCase):
    def test_a_place_lies_in_its_tile_and_one_beyond_in_that_at_the_rim(self):
        height, width = 300, 900
        at = np.array([[0, 0], [255.9, 127.9], [256, 128], [899, 299], [-40, -1], [5000, 5000], [600, 130]], np.float32)
        i, j = tiles_at(at, height, width)
        self.assertEqual(
            list(zip(i.tolist(), j.tolist(), strict=True)), [(0, 0), (0, 0), (1, 1), (2, 3), (0, 0), (2, 3), (1, 2)]
        )
        self.assertEqual(tile_grid(height, width), (3, 4))

    def test_trace_follows_a_circle(self):
        """The midpoint rule stays on the circle of a turning field; length is kept, backwards too."""
        y, x = np.mgrid[0:80, 0:80] + 0.5 - 40
        size = np.hypot(x, y) + 1e-9
        field = np.stack([-y / size, x / size], -1).astype(np.float32)
        start = np.array([[60.0, 40.0]], np.float32)
        zero = np.zeros(1, np.float32)
        for length in (30.0, -30.0):
            line = trace(field, start, np.array([length], np.float32), zero, zero)[0]
            np.testing.assert_allclose(np.hypot(*(line - 40).T), 20, atol=0.2)
            self.assertAlmostEqual(float(np.hypot(*np.diff(line, axis=0).T).sum()), 30, delta=0.3)
            self.assertEqual(np.sign(line[-1, 1] - 40), np.sign(length))

    def test_thick_root_fine_tip(self):
        line = np.stack([np.linspace(0, 70, 8), np.zeros(8)], 1).astype(np.float32)[None]
        shape = outlines(line, np.array([3], np.float32), hair_profile())[0]
        wide = shape[:8, 1] - shape[:7:-1, 1]
        self.assertAlmostEqual(float(np.abs(wide).max()), 6, delta=1)
        self.assertLess(abs(wide[-1]), 0.2)
        self.assertGreater(abs(wide[1]), abs(wide[5]))
