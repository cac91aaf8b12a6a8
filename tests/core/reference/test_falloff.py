"""The picture as an eye sees it that rests on one place."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.frame import Crop
from foxpath.core.reference.falloff import BEGINS, BLUR_SHARE, ENDS, Falloff, faded, middle_of

WIDTH, HEIGHT = 400, 300
WHOLE = Crop(0, 0, WIDTH, HEIGHT)


def noise(seed=1):
    return np.random.default_rng(seed).integers(0, 256, (HEIGHT, WIDTH, 3), dtype=np.uint8)


def focus(x=120.0, y=90.0, strength=1.0, middle=0.18):
    return Falloff((x, y), 500.0, strength, middle)


class Fading(unittest.TestCase):
    def test_without_strength_nothing_is_changed(self):
        rgb = noise()
        self.assertIs(faded(rgb, WHOLE, focus(strength=0.0)), rgb)

    def test_near_the_focal_point_it_stays_as_it_is(self):
        rgb = noise()
        made = faded(rgb, WHOLE, focus())
        y, x = np.mgrid[0:HEIGHT, 0:WIDTH] + 0.5
        away = np.hypot(x - 120, y - 90)
        changed = np.abs(made.astype(int) - rgb).max(axis=2)
        # Rounding of light in tables is all that differs there.
        self.assertLessEqual(changed[away < BEGINS * 500 - 1].max(), 2)
        self.assertGreater(np.median(changed[away > ENDS * 500 * 0.8]), 30)

    def test_contrast_and_chroma_fall_away_evenly_in_every_way(self):
        rgb = np.full((HEIGHT, WIDTH, 3), (220, 60, 40), np.uint8)
        lab = lab_from_rgb8(faded(rgb, WHOLE, focus(200.0, 150.0)))
        chroma = np.hypot(lab[..., 1], lab[..., 2])
        for a, b in (((150, 20), (150, 379)), ((20, 200), (279, 200)), ((30, 60), (269, 339))):
            self.assertAlmostEqual(float(chroma[a]), float(chroma[b]), delta=0.5)
        along = chroma[150, 200:]
        self.assertTrue((np.diff(along[::20]) <= 0.3).all())
        self.assertLess(along[-1], along[0] - 8)

    def test_a_part_looks_as_it_does_in_the_whole(self):
        """What is shown of it is moved and enlarged, and it falls away from the same place."""
        rgb = np.repeat(np.repeat(noise()[::10, ::10], 10, axis=0), 10, axis=1)
        whole = faded(rgb, WHOLE, focus())
        part = faded(rgb[60:260, 150:390], Crop(150, 60, 240, 200), focus())
        inner = np.s_[20:-20, 20:-20]
        off = np.abs(whole[60:260, 150:390][inner].astype(int) - part[inner])
        self.assertLessEqual(int(np.percentile(off, 99.5)), 2)
        double = np.repeat(np.repeat(rgb, 2, axis=0), 2, axis=1)
        twice = faded(double, WHOLE, focus())[::2, ::2]
        self.assertLess(np.abs(twice.astype(int) - whole).mean(), 3)

    def test_more_strength_takes_more(self):
        rgb = noise()
        spread = [float(faded(rgb, WHOLE, focus(strength=s))[220:, 300:].std()) for s in (0.0, 0.3, 0.6, 1.0)]
        self.assertEqual(spread, sorted(spread, reverse=True))
        self.assertLess(spread[-1], 0.5 * spread[0])

    def test_how_far_it_reaches_and_the_pictures_own_middle(self):
        self.assertAlmostEqual(focus(strength=0.5).reach_px, BLUR_SHARE * 500)
        grey = np.full((20, 20, 3), 188, np.uint8)
        self.assertAlmostEqual(middle_of(grey), 0.5028 + 0.001, delta=0.002)
        half = grey.copy()
        half[:10] = 50
        self.assertTrue(0.03 < middle_of(half) < 0.5)
        self.assertAlmostEqual(middle_of(half), float(np.sqrt((0.5028 + 1e-3) * (0.0319 + 1e-3))), delta=0.002)


if __name__ == "__main__":
    unittest.main()
