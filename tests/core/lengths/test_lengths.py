import unittest

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.lengths import (
    DEFAULT_KIT,
    Brush,
    Form,
    Hair,
    ZoneLengths,
    brush_for_hair,
    brush_for_mass,
    foreshortening,
    length_field,
)
from foxpath.core.lengths.field import BROADER, LONGER
from foxpath.core.zones import Coat

FRAME = Frame.over(Crop(0, 0, 400, 200), 1.0, 200)
SHORT, LONG = Coat(6, 0.5, 9, 1.5, 0.02), Coat(24, 0.6, 12, 3, 0.04)


def two_coats():
    labels = np.zeros(FRAME.shape, np.int16)
    labels[:, 100:] = 1
    return labels


class Field(unittest.TestCase):
    """A smooth field of lengths, from what each zone says."""

    def field(self, together=((1, 0),), falloff=0.0, hairs=(), seen=None, quiet=None):
        zones = [ZoneLengths(0, SHORT), ZoneLengths(1, LONG, hairs)]
        return length_field(zones, two_coats(), FRAME, together, (0.0, 100.0), falloff, seen, quiet=quiet)

    def millimetres(self, field):
        return field.length * np.where(two_coats() == 0, SHORT.length_mm, LONG.length_mm)

    def test_no_jump_where_coats_run_together(self):
        length = self.millimetres(self.field())[50]
        self.assertLess(np.abs(np.diff(np.log(length))).max(), 0.35)
        self.assertAlmostEqual(length[5], 6, delta=0.1)
        self.assertAlmostEqual(length[-5], 24, delta=0.3)
        self.assertTrue((np.diff(length) > -1e-3).all())

    def test_a_firm_border_keeps_them_apart(self):
        length = self.millimetres(self.field(together=()))[50]
        self.assertAlmostEqual(length[99], 6, places=3)
        self.assertAlmostEqual(length[100], 24, places=2)

    def test_measured_hairs_bend_it_and_keep_its_mean(self):
        hairs = (Hair((240.0, 100.0), 12.0), Hair((380.0, 100.0), 48.0))
        length = self.millimetres(self.field(together=(), hairs=hairs))[50]
        self.assertAlmostEqual(length[120], 12, delta=1.5)
        self.assertAlmostEqual(length[189], 48, delta=6)
        self.assertLess(np.abs(np.diff(np.log(length[101:]))).max(), 0.1)

    def test_marks_are_broader_far_from_the_focal_point(self):
        field = self.field(together=(), falloff=1.0)
        self.assertAlmostEqual(float(field.width[50, 0]), 1, delta=0.01)
        self.assertGreater(float(field.width[50, -1]), 1.5)
        self.assertTrue((np.diff(field.width[50]) > -1e-5).all())
        np.testing.assert_allclose(self.field(together=(), falloff=0.0).width, 1, atol=1e-4)

    def test_an_animal_that_is_looked_at_less_has_broader_marks_even_at_the_focus(self):
        quiet = np.where(two_coats() == 1, 0.0, 0.6).astype(np.float32)
        field = self.field(together=(), quiet=quiet)
        self.assertAlmostEqual(float(field.width[50, 0]), 1 + 0.6 * BROADER, delta=0.01)
        self.assertAlmostEqual(float(field.length[50, 0]), 1 + 0.6 * LONGER, delta=0.01)
        np.testing.assert_allclose(field.width[:, 100:], 1, atol=1e-4)
        # Far away and looked at less is no broader than far away.
        both, far = self.field(together=(), falloff=1.0, quiet=quiet), self.field(together=(), falloff=1.0)
        self.assertAlmostEqual(float(both.width[50, -1]), float(far.width[50, -1]), places=4)


class Forms(unittest.TestCase):
    """Known foreshortening of a ball, a cylinder and a plane."""

    y, x = np.mgrid[-100:101, -100:101].astype(np.float32)

    def seen(self, form, mask, direction):
        way = np.broadcast_to(np.array(direction, np.float32), (*self.x.shape, 2))
        return foreshortening(form, mask, self.x, self.y, way)

    def test_ball(self):
        mask = np.hypot(self.x, self.y) <= 100
        for form in (Form("ball"), Form("ball", ((0, 0), (0, 100)))):
            seen = self.seen(form, mask, (1, 0))
            self.assertAlmostEqual(float(seen[100, 100]), 1, places=2)
            self.assertAlmostEqual(float(seen[100, 160]), 0.8, delta=0.02)
            # Along the rim, and across the middle line, it keeps its length.
            self.assertAlmostEqual(float(seen[160, 100]), 1, places=2)


class Kit(unittest.TestCase):
    """The largest brush that fits."""

    def test_never_larger_than_the_inscribed_width(self):
        rng = np.random.default_rng(2)
        for _ in range(300):
            kit = [Brush(b.shape, b.width_mm * rng.uniform(0.3, 3), int(rng.integers(0, 9))) for b in DEFAULT_KIT]
            room, mark = float(rng.uniform(0.2, 80)), float(rng.uniform(0.05, 3))
            coat = Coat(float(rng.uniform(1, 40)), mark, 9, float(rng.uniform(0, 8)), 0)
            for choice in (brush_for_mass(kit, room, 30.0), brush_for_hair(kit, mark, coat, room)):
                if choice is not None:
                    self.assertLessEqual(
                        choice.mark_mm if choice.hold in {"edge", "corner", "teeth"} else choice.brush.width_mm,
                        max(room, mark),
                    )
