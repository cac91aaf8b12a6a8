"""How blurred a tile is, told from its edges: the longer and the stronger an edge, the more it says."""

import unittest

import numpy as np

from foxpath.core.reference.health import EdgePoints, _blur_tiles, overshoots


def points(*groups, x=10.0, y=10.0):
    """Edges of (count, blur, step, level), all in one place."""
    sigma, step, level = (np.concatenate([np.full(g[0], g[k]) for g in groups]) for k in (1, 2, 3))
    count = len(sigma)
    place = np.full(count, x, np.float32), np.full(count, y, np.float32)
    return EdgePoints(*place, sigma.astype(np.float32), step.astype(np.float32), level.astype(np.int32))


class Tiles(unittest.TestCase):
    def blur(self, *groups):
        return float(_blur_tiles(points(*groups), (1, 1), 100, 100)[0][0, 0])

    def test_it_is_the_median_of_its_edges(self):
        self.assertEqual(self.blur((9, 1.0, 20, 0), (7, 3.0, 20, 0)), 1.0)
        self.assertEqual(self.blur((7, 1.0, 20, 0), (9, 3.0, 20, 0)), 3.0)

    def test_a_strong_edge_says_more_up_to_a_step_of_60(self):
        self.assertEqual(self.blur((10, 1.0, 8, 0), (6, 3.0, 40, 0)), 3.0)
        self.assertEqual(self.blur((10, 1.0, 60, 0), (6, 3.0, 200, 0)), 1.0)

    def test_a_place_of_a_coarser_level_stands_for_more_of_an_edge(self):
        self.assertEqual(self.blur((10, 1.0, 20, 0), (3, 6.0, 20, 2)), 6.0)
        self.assertEqual(self.blur((10, 1.0, 20, 0), (2, 6.0, 20, 2)), 1.0)

    def test_a_tile_with_hardly_an_edge_says_nothing(self):
        self.assertTrue(np.isnan(self.blur((5, 1.0, 20, 0))))
        self.assertEqual(self.blur((6, 1.0, 20, 0)), 1.0)
        self.assertEqual(self.blur((2, 5.0, 20, 2)), 5.0)

    def test_each_lies_in_its_own_tile(self):
        made, used = _blur_tiles(points((8, 2.0, 20, 0), x=70.0, y=30.0), (2, 4), 100, 100)
        self.assertEqual(used, 8)
        self.assertEqual(np.argwhere(np.isfinite(made)).tolist(), [[0, 2]])
        none = points((8, 2.0, 20, 0))
        none = EdgePoints(*(getattr(none, name)[:0] for name in ("x", "y", "sigma", "step", "level")))
        self.assertTrue(np.isnan(_blur_tiles(none, (2, 4), 100, 100)[0]).all())


class Halos(unittest.TestCase):
    def edge(self, over, under):
        luma = np.full((60, 80), 60.0, np.float32)
        luma[:, 40:] = 160
        luma[:, 40:43] += over
        luma[:, 37:40] -= under
        spot = EdgePoints(
            np.full(8, 40.0, np.float32), np.linspace(15, 45, 8).astype(np.float32), np.full(8, 1.0, np.float32),
            np.full(8, 100.0, np.float32), np.zeros(8, np.int32),
        )  # fmt: skip
        return overshoots(luma, spot, 0.0)[2]

    def test_both_sides_count_half_each(self):
        self.assertEqual(self.edge(0, 0).tolist(), [0.0] * 8)
        np.testing.assert_allclose(self.edge(20, 0), 0.10, atol=0.01)
        np.testing.assert_allclose(self.edge(0, 12), 0.06, atol=0.01)
        np.testing.assert_allclose(self.edge(20, 12), 0.16, atol=0.01)


if __name__ == "__main__":
    unittest.main()
