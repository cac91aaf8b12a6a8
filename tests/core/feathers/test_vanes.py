"""Barbs and grain as a picture shows them."""

import unittest

import numpy as np

from foxpath.core.feathers.vanes import grain_field, vane_field
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import ZoneField

FRAME = Frame.over(Crop(0, 0, 200, 160), 0.5, 200)
COARSE = Frame.over(Crop(0, 0, 200, 160), 0.5, 50)
WINDOW = (20, 30, 100, 120)


def growth(angle_deg):
    shape = COARSE.shape
    way = np.empty((*shape, 2), np.float32)
    way[...] = np.cos(np.radians(angle_deg)), np.sin(np.radians(angle_deg))
    one, whole = np.ones(shape, np.float32), np.ones(shape, bool)
    return ZoneField(COARSE, 0, 0, way, one, whole, whole, combed=True, axis_sure=one, rooted=whole)


def lines(angle_deg, strength=20.0):
    """Return L* with lines that run at an angle, six cells from one to the next."""
    y, x = np.mgrid[0:160, 0:200].astype(np.float32)
    a = np.radians(angle_deg)
    return (50 + strength * np.sin((y * np.cos(a) - x * np.sin(a)) * 2 * np.pi / 6)).astype(np.float32)


def off(field, angle_deg):
    way = np.degrees(np.arctan2(field.direction[..., 1], field.direction[..., 0]))
    return np.abs((way - angle_deg + 180) % 360 - 180)


class Vanes(unittest.TestCase):
    def test_barbs_are_read_and_go_with_the_growth(self):
        for shaft, barb in ((0, 35), (0, -35), (180, 145), (90, 60)):
            field = vane_field(lines(barb), FRAME, growth(shaft), WINDOW)
            self.assertEqual(field.direction.shape, (100, 120, 2))
            self.assertLess(np.median(off(field, barb)), 3, (shaft, barb))
            self.assertGreater(float(field.sure.mean()), 0.9)

    def test_where_nothing_is_seen_they_follow_the_growth(self):
        faint = vane_field(lines(35, 0.5), FRAME, growth(-20), WINDOW)
        self.assertLess(off(faint, -20).max(), 1)
        self.assertEqual(float(faint.sure.max()), 0)

    def test_the_window_is_that_part_of_the_grid(self):
        picture = lines(35)
        picture[:, 100:] = lines(-35)[:, 100:]
        field = vane_field(picture, FRAME, growth(0), WINDOW)
        self.assertLess(np.median(off(field, 35)[:, : 100 - 30 - 8]), 3)
        self.assertLess(np.median(off(field, -35)[:, 100 - 30 + 8 :]), 3)
        self.assertEqual((field.row, field.column), WINDOW[:2])


class Grain(unittest.TestCase):
    def test_strokes_run_with_the_grain_and_in_one_way(self):
        mask = np.ones(WINDOW[2:], bool)
        field = grain_field(lines(80), FRAME, growth(0), WINDOW, mask)
        self.assertLess(np.percentile(np.minimum(off(field, 80), off(field, -100)), 90), 4)
        first = field.direction[50, 60]
        self.assertGreater(float((field.direction @ first).min()), 0)

    def test_what_shows_nothing_runs_as_most_of_the_part_does(self):
        picture = lines(30)
        picture[:, 130:] = 50
        field = grain_field(picture, FRAME, growth(90), WINDOW, np.ones(WINDOW[2:], bool))
        empty = off(field, 30)[:, -15:]
        self.assertLess(np.minimum(empty, 180 - empty).max(), 6)


if __name__ == "__main__":
    unittest.main()
