"""Marks placed on a small made-up coat, where what each must read can be written down."""

import unittest
from types import SimpleNamespace

import numpy as np

from foxpath.core.colour import lab_from_linear, linear_from_rgb
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth.field import ZoneField
from foxpath.core.passes.roles import ROLES
from foxpath.core.rehearsal import _kernel_place as loops
from foxpath.core.rehearsal.marks import (
    Local,
    bounding_box,
    make_study,
    packed_limit,
    packed_study,
    pass_marks,
)
from foxpath.core.zones import Coat, kind_of

ROWS, COLUMNS = 60, 90
FRAME = Frame(Crop(0.0, 0.0, 900.0, 600.0), COLUMNS, ROWS, 0.1)
"""A cell is a millimetre."""
HAIR = Coat(length_mm=4.0, width_mm=0.8, spread_deg=4.0, clump_mm=0.0, stray_share=0.0)


def field():
    """Hair that runs to the right everywhere."""
    direction = np.zeros((ROWS, COLUMNS, 2), np.float32)
    direction[..., 0] = 1
    whole, one = np.ones((ROWS, COLUMNS), bool), np.ones((ROWS, COLUMNS), np.float32)
    return ZoneField(FRAME, 0, 0, direction, one, whole, whole, combed=True, axis_sure=one, rooted=whole)


def two_halves():
    """Orange light above, brown dark below."""
    lab = np.empty((ROWS, COLUMNS, 3), np.float32)
    lab[: ROWS // 2], lab[ROWS // 2 :] = (70, 25, 40), (25, 10, 12)
    return lab


def place(
    role="lights",
    *,
    lab=None,
    mask=None,
    local=None,
    home=None,
    seed=(1, 2),
    coverage=2.0,
    band=(0.0, 100.0),
    rank=None,
):
    study = make_study(two_halves() if lab is None else lab, FRAME, 2.0)
    mask = np.ones((ROWS, COLUMNS), bool) if mask is None else mask
    box = bounding_box(mask)
    room = np.full((box[2], box[3]), 50, np.float32)
    home = study.packed[box[0] : box[0] + box[2], box[1] : box[1] + box[3]] if home is None else home
    plan = SimpleNamespace(role=ROLES[role], coverage=coverage, l_low=band[0], l_high=band[1], ceiling=band[1])
    kind = kind_of("short-fur")
    return pass_marks(plan, kind, HAIR, mask, box, room, field(), rank, study, home, mask.sum() / 100, seed, local)


class Packed(unittest.TestCase):
    def test_both_readings_of_a_place_lie_side_by_side(self):
        rng = np.random.default_rng(1)
        fine, around = rng.uniform(-90, 99, (2, 7, 5, 3)).astype(np.float32)
        made = packed_study(fine, around)
        self.assertEqual((made.shape, made.dtype, made.flags.writeable), ((7, 5, 6), np.int16, False))
        np.testing.assert_allclose(made[..., :3] / loops.STEPS, fine, atol=0.51 / loops.STEPS)
        np.testing.assert_allclose(made[..., 3:] / loops.STEPS, around, atol=0.51 / loops.STEPS)

    def test_what_no_coat_shows_is_held_at_the_end_and_does_not_turn_round(self):
        wild = np.full((1, 1, 3), (140.0, -140.0, 0.0), np.float32)
        np.testing.assert_array_equal(packed_study(wild, wild)[0, 0, :3], (32767, -32768, 0))

    def test_a_study_is_packed_as_it_stands(self):
        study = make_study(two_halves(), FRAME, 6.0)
        np.testing.assert_array_equal(study.packed, packed_study(study.fine, study.local))
        self.assertFalse(np.array_equal(study.packed[..., :3], study.packed[..., 3:]))


class Placing(unittest.TestCase):
    def test_a_hair_has_the_colour_of_its_place(self):
        made = place()
        self.assertGreater(len(made.half_mm), 800)
        middle = made.lines_mm[:, 4, 1]
        lab = lab_from_linear(linear_from_rgb(made.colour))
        above, below = middle < 27, middle > 33
        np.testing.assert_allclose(np.median(lab[above], axis=0), (70, 25, 40), atol=3)
        np.testing.assert_allclose(np.median(lab[below], axis=0), (25, 10, 12), atol=3)
        np.testing.assert_allclose(made.lightness[below], lab[below, 0], atol=0.3)

    def test_they_lie_in_their_part_and_evenly_all_over_it(self):
        mask = np.zeros((ROWS, COLUMNS), bool)
        mask[12:40, 50:84] = mask[30:40, 20:84] = True
        made = place(mask=mask)
        x, y = made.lines_mm[:, 0].T
        i, j = np.floor(y).astype(int), np.floor(x).astype(int)
        near = np.pad(mask, 3)
        # A root may lie a step behind its place.
        self.assertTrue(all(near[a : a + 7, b : b + 7].any() for a, b in zip(i, j, strict=True)))
        share = (i < 30).mean(), mask[:30].sum() / mask.sum()
        self.assertAlmostEqual(share[0], share[1], delta=0.04)

    def test_none_is_left_out_wherever_it_lies(self):
        mask = np.zeros((ROWS, COLUMNS), bool)
        mask[5:53, 10:80] = True
        grey = np.full((ROWS, COLUMNS, 3), (60, 0, 0), np.float32)
        made = place("midtones", lab=grey, mask=mask, coverage=9.0)
        # Hair is rooted in its place: as many in each strip of the part as in any other.
        rows = np.floor(made.lines_mm[:, 0, 1]).astype(int) - 5
        self.assertTrue((rows >= 0).all() and (rows < 48).all())
        strips = np.bincount(rows // 6, minlength=8)
        np.testing.assert_allclose(strips, len(rows) / 8, rtol=0.12)

    def test_without_a_laying_order_they_are_scattered(self):
        x, y = place(coverage=6.0).lines_mm[:, 0].T
        self.assertGreater(np.abs(np.diff(y)).mean(), ROWS / 5)
        self.assertGreater(np.abs(np.diff(x)).mean(), COLUMNS / 5)

    def test_with_one_tips_come_first_and_roots_last(self):
        rank = np.broadcast_to(np.arange(COLUMNS, dtype=np.float32), (ROWS, COLUMNS)).copy()
        first = place(rank=rank).lines_mm[:, 0, 0]
        tenth = len(first) // 10
        self.assertGreater(first[:tenth].min(), 0.75 * COLUMNS)
        self.assertLess(first[-tenth:].max(), 0.25 * COLUMNS)

    def test_an_order_by_key_is_that_of_sorting_and_leaves_equals_as_they_came(self):
        key = np.random.default_rng(3).integers(-40, 40, 900).astype(np.float32)
        np.testing.assert_array_equal(loops.by_key(key), np.argsort(key, kind="stable"))
        np.testing.assert_array_equal(loops.by_key(np.full(5, 2.5, np.float32)), np.arange(5))
        for wrong in (np.nan, np.inf, -np.inf):
            key[7] = wrong
            np.testing.assert_array_equal(np.sort(loops.by_key(key)), np.arange(900), str(wrong))

    def test_masses_read_their_own_colours_over_the_box(self):
        mask = np.zeros((ROWS, COLUMNS), bool)
        mask[20:50, 30:80] = True
        own = np.zeros((30, 50, 3), np.float32)
        own[...], own[:, 25:] = (50, 0, 0), (50, 0, 40)
        made = place("midtones", mask=mask, home=packed_study(own, own), coverage=4.0)
        b = lab_from_linear(linear_from_rgb(made.colour))[:, 2]
        middle = made.lines_mm[:, 3:5, 0].mean(axis=1)
        self.assertLess(np.median(b[middle < 50]), 4)
        self.assertGreater(np.median(b[middle > 60]), 34)

    def test_the_same_seed_places_the_same_and_another_does_not(self):
        one, two, other = place(), place(), place(seed=(1, 3))
        np.testing.assert_array_equal(one.lines_mm, two.lines_mm)
        np.testing.assert_array_equal(one.colour, two.colour)
        self.assertFalse(np.array_equal(one.lines_mm[:50], other.lines_mm[:50]))

    def test_values_keep_to_the_band(self):
        made = place(band=(40.0, 60.0))
        self.assertGreaterEqual(float(made.lightness.min()), 40.0)
        self.assertLessEqual(float(made.lightness.max()), 60.0)

    def test_hair_that_points_at_a_border_ends_at_it(self):
        free = np.broadcast_to(COLUMNS - np.arange(COLUMNS, dtype=np.float32), (ROWS, COLUMNS))
        ahead, nothing = np.ones((ROWS, COLUMNS), np.float32), np.zeros((ROWS, COLUMNS), np.float32)
        over = []
        for width in (0.4, 4.0):
            limit = packed_limit(free, ahead, nothing, np.full((ROWS, COLUMNS), width, np.float32))
            tips = place(local=Local(None, limit)).lines_mm[:, -1, 0]
            over.append(np.quantile(tips, 0.999) - COLUMNS)
        self.assertLess(over[0], 1.0)
        # Planned wider, tips hang over by as much as was planned.
        self.assertGreater(over[1], over[0] + 1.0)
        self.assertLess(over[1], 4.5)
        self.assertGreater(place().lines_mm[:, -1, 0].max(), COLUMNS + 2)


if __name__ == "__main__":
    unittest.main()
