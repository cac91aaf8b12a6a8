"""A picture without a part: what lies behind is carried on, each part from its own colours."""

import unittest

import numpy as np

from foxpath.core.progress.small import lab_of
from foxpath.core.reference.gone import Leaves, carried_on, without

SIZE = (120, 160)


def scene():
    """Blue above, brown below, a white square over both; the map of parts without the square."""
    y, x = np.mgrid[0 : SIZE[0], 0 : SIZE[1]]
    rgb = np.where((y < 60)[..., None], (60, 90, 160), (120, 80, 40)).astype(np.uint8)
    # The sky grows lighter to the right.
    rgb = np.clip(rgb + (0.3 * x * (y < 60))[..., None], 0, 255).astype(np.uint8)
    square = (abs(y - 60) < 20) & (abs(x - 80) < 20)
    rgb[square] = 250
    behind = np.where(y < 60, 0, 1).astype(np.int16)
    return rgb, square, behind


class CarriedOn(unittest.TestCase):
    def setUp(self):
        self.rgb, self.square, self.behind = scene()
        self.made = carried_on(lab_of(self.rgb), self.square, self.behind)

    def test_each_part_is_carried_on_from_its_own_colours(self):
        bare = scene()[0].copy()
        y, x = np.mgrid[0 : SIZE[0], 0 : SIZE[1]]
        want = np.where((y < 60)[..., None], (60, 90, 160), (120, 80, 40)) + (0.3 * x * (y < 60))[..., None]
        bare[:] = np.clip(want, 0, 255).astype(np.uint8)
        off = np.linalg.norm(self.made - lab_of(bare), axis=-1)
        inner = self.square & (abs(y - 60) > 4)
        self.assertLess(float(off[inner].max()), 6)
        self.assertLess(float(off[inner].mean()), 2.5)

    def test_nothing_beyond_the_hole_changes(self):
        np.testing.assert_array_equal(self.made[~self.square], lab_of(self.rgb)[~self.square])

    def test_a_restless_ground_keeps_its_grain_near_the_rim_and_a_calm_one_stays_calm(self):
        rng = np.random.default_rng(4)
        restless = self.rgb.astype(int)
        restless[:60] += rng.normal(0, 22, (60, SIZE[1], 1)).astype(int)
        restless[self.square] = 250
        rgb = np.clip(restless, 0, 255).astype(np.uint8)
        light = carried_on(lab_of(rgb), self.square, self.behind)[..., 0]
        grain = light - lab_of(self.rgb)[..., 0].mean()
        near = np.zeros(SIZE, bool)
        near[42:50, 64:96] = True
        calm = np.zeros(SIZE, bool)
        calm[70:78, 64:96] = True
        self.assertGreater(float(np.diff(grain, axis=1)[near[:, 1:]].std()), 5)
        self.assertLess(float(np.diff(grain, axis=1)[calm[:, 1:]].std()), 1)

    def test_a_part_of_which_nothing_else_is_seen_takes_what_is_seen(self):
        behind = self.behind.copy()
        behind[self.square] = 7
        made = carried_on(lab_of(self.rgb), self.square, behind)
        self.assertTrue(np.isfinite(made).all())
        self.assertLess(float(made[self.square][:, 0].max()), 75)


class Without(unittest.TestCase):
    def setUp(self):
        self.rgb, self.square, self.behind = scene()

    def leave(self, by=(0.0, 0.0)):
        part = self.square.astype(np.float32)
        return without(self.rgb, [Leaves(self.square, part, by)], self.behind)

    def test_left_out_it_is_gone(self):
        made = self.leave()
        self.assertLess(int(made[60, 80].max()), 200)
        np.testing.assert_array_equal(made[5, 5], self.rgb[5, 5])

    def test_moved_it_is_where_it_was_moved_to_and_gone_where_it_was(self):
        made = self.leave((40.0, -25.0))
        self.assertGreater(int(made[35, 120].min()), 245)
        self.assertLess(int(made[70, 70].max()), 200)
        # To the right and up: not the other way round.
        self.assertLess(int(made[85, 40].max()), 200)

    def test_on_a_grid_of_another_size_it_lies_at_the_same_place(self):
        half = self.square[::2, ::2]
        made = without(self.rgb, [Leaves(half, half.astype(np.float32), (20.0, 0.0))], self.behind[::2, ::2])
        self.assertGreater(int(made[60, 120].min()), 240)
        self.assertLess(int(made[60, 66].max()), 200)
