import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.brush import hair_profile, outlines, paint_outlines
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import ZoneField
from foxpath.core.lengths.visible import FINEST_PX, LONGEST_PX, _crossing, _half, looks_like, visible_hair

SIDE = 320


def combed(length, width, spread_deg, seed=0, angle_deg=30.0):
    """Return a picture (log luminance) of straight hairs of one length that grow one way."""
    rng = np.random.default_rng(seed)
    count = int(4 * SIDE**2 / (length * width))
    at = rng.random((count, 2)) * (SIDE + 2 * length) - length
    turn = np.radians(angle_deg + spread_deg * rng.standard_normal(count))
    way = np.stack([np.cos(turn), np.sin(turn)], axis=1)
    lines = at[:, None] + way[:, None] * np.linspace(0, length, 8)[None, :, None]
    image = np.full((SIDE, SIDE, 4), 0.4, np.float32)
    tone = np.repeat(np.clip(0.45 + 0.16 * rng.standard_normal(count), 0.08, 0.95)[:, None], 3, axis=1)
    half = np.full(count, width / 2, np.float32)
    shapes = outlines(lines.astype(np.float32), half, hair_profile())
    paint_outlines(image, shapes, tone.astype(np.float32), np.ones(count, np.float32))
    return np.log(np.maximum(image[..., 0], 1e-3))


def field(angle_deg=30.0, cell_px=2.0):
    cells = int(SIDE / cell_px)
    frame = Frame.over(Crop(0, 0, SIDE, SIDE), 0.25, cells)
    inside = np.zeros((cells, cells), bool)
    inside[8:-8, 8:-8] = True
    way = np.broadcast_to(
        np.array([np.cos(np.radians(angle_deg)), np.sin(np.radians(angle_deg))], np.float32), (cells, cells, 2)
    )
    one = np.ones((cells, cells), np.float32)
    return ZoneField(frame, 0, 0, way, one, inside, inside, combed=True, axis_sure=one, rooted=inside)


def seen(image, growth=None, coherence=0.8, scale=1.0):
    growth = growth or field()
    return visible_hair(image, scale, growth, np.ones_like(growth.inside), coherence)


class Lengths(unittest.TestCase):
    """Hair of known length is told within what the law says, whatever its width and however it crosses."""

    def test_lengths_are_told_within_their_doubt(self):
        off = []
        for seed, (length, width, spread) in enumerate(((10, 1.4, 6), (20, 2.0, 6), (20, 1.2, 12), (38, 1.8, 8))):
            told = seen(combed(length, width, spread, seed))
            off.append(abs(np.log(told.length_px / length)))
            self.assertGreater(told.doubt, 1.2)
        self.assertLess(np.median(off), np.log(1.5))
        self.assertLess(max(off), np.log(2.0))

    def test_it_is_no_matter_which_end_is_called_the_root(self):
        image = combed(20, 2.0, 6)
        plain = field()
        flips = np.random.default_rng(4).random(plain.inside.shape) < 0.5
        turned = replace(plain, direction=np.where(flips[..., None], -plain.direction, plain.direction))
        want, told = seen(image, plain), seen(image, turned)
        self.assertAlmostEqual(told.length_px, want.length_px, delta=0.02 * want.length_px)

    def test_longer_hair_reads_longer(self):
        told = [seen(combed(length, 1.8, 8)).length_px for length in (10, 20, 40)]
        self.assertGreater(told[1], 1.4 * told[0])
        self.assertGreater(told[2], 1.4 * told[1])

    def test_wider_hair_reads_wider(self):
        fine, broad = seen(combed(40, 1.5, 4)), seen(combed(60, 14.0, 3))
        self.assertGreater(broad.width_px, 1.7 * fine.width_px)
        self.assertTrue(fine.blurred)
        self.assertFalse(broad.blurred)
        self.assertGreater(broad.width_px, FINEST_PX)

    def test_no_longer_than_the_picture_can_show(self):
        told = seen(combed(150, 3.0, 1))
        self.assertTrue(told.least)
        self.assertAlmostEqual(told.length_px, LONGEST_PX)

    def test_a_picture_at_half_the_size_tells_twice_the_reference_pixels(self):
        image = combed(20, 2.0, 6)
        cells = int(SIDE / 2)
        frame = Frame.over(Crop(0, 0, 2 * SIDE, 2 * SIDE), 0.25, cells)
        once = field()
        half = ZoneField(frame, 0, 0, once.direction, once.sure, once.inside, once.domain, True, once.sure, once.inside)
        self.assertAlmostEqual(seen(image, half, scale=0.5).length_px, 2 * seen(image).length_px, delta=0.5)


class Silence(unittest.TestCase):
    """Where the picture does not tell, nothing is told."""

    def test_a_place_too_small_or_without_order_says_nothing(self):
        image = combed(20, 2.0, 6)
        self.assertIsNone(seen(image, coherence=0.39))
        growth = field()
        self.assertIsNone(visible_hair(image, 1.0, growth, np.zeros_like(growth.inside), 0.9))

    def test_a_flat_picture_says_nothing(self):
        self.assertIsNone(seen(np.zeros((SIDE, SIDE), np.float32)))


class Pieces(unittest.TestCase):
    """What the law is made of."""

    def test_half_lies_between_two_lags(self):
        self.assertAlmostEqual(_half(np.array([1.0, 0.8, 0.4, 0.1])), 1.75)
        self.assertEqual(_half(np.array([1.0, 0.9])), 2.0)
        self.assertIsNone(_half(np.array([-0.1, 0.2])))

    def test_crossing_grows_with_the_spread(self):
        y, x = np.mgrid[0:25, 0:101].astype(np.float32)

        def waves(turn):
            across = y * np.cos(turn) - x * np.sin(turn)
            return np.stack([np.sin(across * 1.2), np.sin((y * np.cos(turn) + x * np.sin(turn)) * 1.2)], axis=-1)

        weight = np.ones((25, 101, 2), np.float32)
        straight, order = _crossing(waves(0.0), weight)
        crossed, _ = _crossing(waves(0.3), weight)
        self.assertLess(straight, 0.05)
        self.assertAlmostEqual(crossed, 0.3, delta=0.1)
        self.assertGreater(order, 0.9)

    def test_long_and_short_by_the_canvas(self):
        self.assertEqual(looks_like(20, 500), "long-fur")
        self.assertEqual(looks_like(20, 1000), "short-fur")


if __name__ == "__main__":
    unittest.main()
