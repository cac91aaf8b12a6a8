import unittest

import numpy as np

from foxpath.core.eyes.finding.looks import LEAST_PX, LOOKS, MOST_SHARE, looks_of, tried_about


def look(name, row):
    return float(row[LOOKS.index(name)])


def looked(rgb, at, half, ratio=1.0):
    """The looks of the ellipse of about a size, not shifted."""
    tried = next(iter(tried_about(min(rgb.shape[:2]), half, half)))
    k = next(
        k for k in range(len(tried.half)) if tried.ratio[k] == ratio and tried.cx[k] == tried.cy[k] == tried.deg[k] == 0
    )
    return looks_of(rgb, at, tried)[k]


def disc(inner=20, outer=150, radius=20, size=200):
    """A disc of one grey on another, rims a pixel soft."""
    y, x = np.mgrid[0:size, 0:size] + 0.5
    inside = np.clip(radius + 0.5 - np.hypot(x - size / 2, y - size / 2), 0, 1)[..., None]
    return np.round(outer + (inner - outer) * inside * np.ones(3)).astype(np.uint8)


class Trying(unittest.TestCase):
    def test_sizes_run_from_a_few_pixels_to_a_share_of_the_picture(self):
        halves = np.unique(np.concatenate([tried.half for tried in tried_about(400, 0, np.inf)]))
        self.assertAlmostEqual(halves[0], LEAST_PX)
        self.assertLessEqual(halves[-1], MOST_SHARE * 400)
        self.assertGreater(halves[-1], MOST_SHARE * 400 / 1.14)
        np.testing.assert_allclose(halves[1:] / halves[:-1], 1.13)

    def test_a_size_that_is_known_is_tried_alone(self):
        halves = np.concatenate([tried.half for tried in tried_about(400, 20, 25)])
        self.assertGreater(halves.min(), 18)
        self.assertLess(halves.max(), 27)

    def test_shapes_lie_all_ways_and_middles_about_the_click(self):
        tried = next(iter(tried_about(400, 0, np.inf)))
        self.assertEqual(set(tried.ratio), {1.0, 0.82, 0.66, 0.5})
        self.assertEqual(set(tried.deg[tried.ratio < 1]), {0.0, 45.0, 90.0, 135.0})
        self.assertAlmostEqual(float(np.hypot(tried.cx, tried.cy).max() / tried.half.max()), 0.28)
        self.assertAlmostEqual(float(tried.cx.sum()), 0, places=6)


class Looking(unittest.TestCase):
    def test_a_dark_disc_has_a_whole_rim_of_one_kind_at_its_own_size_only(self):
        rgb = disc()
        own, within = looked(rgb, (100, 100), 20), looked(rgb, (100, 100), 11)
        self.assertGreater(look("rim", own), 2)
        self.assertGreater(look("rim of one kind", own), 0.9)
        self.assertEqual(look("rim agrees", own), 1)
        self.assertGreater(look("rim's weakest ninth", own), 0.8)
        self.assertGreater(look("darker than near", own), 0.9)
        self.assertLess(look("spread within", own), 0.1)
        self.assertLess(look("rim", within), 0.1)
        self.assertGreater(look("ring outside", within), 2)

    def test_a_light_disc_is_the_same_the_other_way_round(self):
        own = looked(disc(150, 20), (100, 100), 20)
        self.assertGreater(look("rim of one kind", own), 0.9)
        self.assertLess(look("darker than near", own), -0.9)

    def test_half_a_rim_is_told_from_a_whole_one(self):
        rgb = disc()
        rgb[:, 100:] = 150
        own = looked(rgb, (100, 100), 20)
        self.assertLess(look("rim agrees", own), 0.62)
        self.assertLess(look("rim's weakest ninth", own), 0.1)
        self.assertLess(look("rim's weaker half", own), 0.2)

    def test_a_pupil_within_an_iris_and_a_light_are_seen(self):
        rgb = disc(110, 150, 30)
        small = disc(10, 110, 10)
        y, x = np.mgrid[0:200, 0:200] + 0.5
        rgb = np.where((np.hypot(x - 100, y - 100) < 15)[..., None], small, rgb)
        self.assertGreater(look("pupil", looked(rgb, (100, 100), 30)), 0.8)
        self.assertLess(abs(look("pupil", looked(disc(110, 150, 30), (100, 100), 30))), 0.1)
        rgb[78:90, 104:116] = 255
        self.assertGreater(look("glint", looked(rgb, (100, 100), 30)), 0.9)

    def test_size_counts_against_the_picture(self):
        self.assertLess(
            look("size", looked(disc(size=200), (100, 100), 11)), look("size", looked(disc(size=200), (100, 100), 20))
        )
        self.assertGreater(
            look("size", looked(disc(size=200), (100, 100), 20)), look("size", looked(disc(size=400), (200, 200), 20))
        )
