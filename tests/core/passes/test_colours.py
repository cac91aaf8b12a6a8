"""The few colours of a pass."""

import unittest

import numpy as np

from foxpath.core.passes.colours import APART, gather

RED, DARK, PALE = (0.7, 0.25, 0.2), (0.1, 0.1, 0.12), (0.9, 0.88, 0.8)


def paint(*parts):
    colour = np.concatenate([np.tile(np.array([rgb], np.float32), (count, 1)) for rgb, count, _ in parts])
    area = np.concatenate([np.full(count, each, np.float32) for _, count, each in parts])
    return colour, area


class Gathered(unittest.TestCase):
    def test_shares_are_of_the_area_and_dark_comes_first(self):
        # Many small marks and few large ones: 10, 30 and 60 % of the paint.
        found = gather(*paint((PALE, 10, 6.0), (DARK, 100, 0.1), (RED, 30, 1.0)))
        np.testing.assert_allclose([one.rgb for one in found], np.array((DARK, RED, PALE)) * 255, atol=1)
        np.testing.assert_allclose([one.share for one in found], [0.1, 0.3, 0.6], atol=1e-4)
        self.assertTrue(0 < found[1].hue_deg < 60 and found[1].chroma > 40)
        self.assertGreater(found[2].light, 85)

    def test_what_is_nearly_alike_is_one_mix(self):
        near = tuple(v + 0.01 for v in RED)
        self.assertEqual(len(gather(*paint((RED, 20, 1.0), (near, 20, 1.0)))), 1)
        rng = np.random.default_rng(1)
        made = gather(rng.uniform(0, 1, (900, 3)).astype(np.float32), np.ones(900, np.float32))
        self.assertLessEqual(len(made), 5)
        self.assertAlmostEqual(sum(one.share for one in made), 1, places=5)
        places = np.array(
            [
                (c.light, c.chroma * np.cos(np.radians(c.hue_deg)), c.chroma * np.sin(np.radians(c.hue_deg)))
                for c in made
            ]
        )
        apart = np.linalg.norm(places[:, None] - places[None], axis=2) + 1e3 * np.eye(len(made))
        self.assertGreater(apart.min(), APART)

    def test_without_paint_there_is_no_colour(self):
        self.assertEqual(gather(np.zeros((0, 3), np.float32), np.zeros(0, np.float32)), ())
        self.assertEqual(gather(*paint((RED, 5, 0.0))), ())


if __name__ == "__main__":
    unittest.main()
