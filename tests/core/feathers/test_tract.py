"""Rows of feathers on growths that can be reckoned by hand: how deep, how far apart, how set off, and where each is rooted."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.feathers.tract import (
    LEAST_CELLS,
    MOST,
    SHOWN,
    TRACT_RANGES,
    Tract,
    TractEdit,
    _along,
    _in_order,
    _level_lines,
    lay_tract,
    tract_of,
)
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth.field import ZoneField

FRAME = Frame(Crop(10, 20, 400, 300), 200, 150, 0.5)
"""Cells of 2 px, 1 mm."""
TRACT = Tract(overlap=0.5, stagger=0.5, broad=0.8, barb_deg=30.0)
ROW, COLUMN, H, W = 12, 25, 90, 120


def growth(deg=0.0, sure=0.7):
    """A zone of 90 by 120 cells whose window begins at row 12, column 25; growth of one angle."""
    way = np.empty((H + 10, W + 10, 2), np.float32)
    way[...] = np.cos(np.radians(deg)), np.sin(np.radians(deg))
    inside = np.zeros((H + 10, W + 10), bool)
    inside[5:-5, 5:-5] = True
    known = np.full(inside.shape, sure, np.float32)
    return ZoneField(FRAME, ROW, COLUMN, way, known, inside, np.ones_like(inside), True, known, inside)


def even(field, factor=1.0):
    return np.full(field.inside.shape, factor, np.float32)


def laid(deg=0.0, length=20.0, tract=TRACT, factor=1.0):
    field = growth(deg)
    return lay_tract(field, tract, length, even(field, factor))


def in_cells(feathers, share):
    """Places on the feathers' shafts, in cells of the window."""
    shaft = feathers.shaft.astype(float)
    k = share * (shaft.shape[1] - 1)
    low = int(k)
    at = shaft[:, low] * (1 - k + low) + shaft[:, min(low + 1, shaft.shape[1] - 1)] * (k - low)
    return (at - (10, 20)) / 2 - (COLUMN, ROW)


class Decided(unittest.TestCase):
    def test_the_kind_s_own_until_something_is_decided_and_never_out_of_range(self):
        self.assertEqual(tract_of("contour-feather", TractEdit()), Tract(0.5, 0.5, 0.7, 38.0))
        self.assertEqual(tract_of("covert", TractEdit()), Tract(0.42, 0.5, 0.62, 32.0))
        self.assertEqual(tract_of("covert", TractEdit(overlap=0.0, barb_deg=50)), Tract(0.1, 0.5, 0.62, 50.0))
        self.assertEqual(tract_of("", TractEdit(stagger=0.0, broad=9)), Tract(0.5, 0.0, 1.5, 38.0))
        for name, (least, most) in TRACT_RANGES.items():
            self.assertEqual(getattr(tract_of("covert", TractEdit(**{name: -99.0})), name), least)
            self.assertEqual(getattr(tract_of("covert", TractEdit(**{name: 99.0})), name), most)


class Rows(unittest.TestCase):
    def test_each_feather_is_as_long_as_broad_and_lies_as_it_grows(self):
        for deg in (0, 90, 145, 250):
            made = laid(deg)
            step = (made.shaft[:, -1] - made.shaft[:, 0]).astype(float)
            np.testing.assert_allclose(np.hypot(*step.T), 40, rtol=1e-3)
            np.testing.assert_allclose(np.degrees(np.arctan2(step[:, 1], step[:, 0])) % 360, deg, atol=0.1)
            np.testing.assert_allclose(made.length_mm, 20)
            np.testing.assert_allclose(made.width_mm, 16)
            np.testing.assert_allclose(made.sure, 0.7)
            self.assertEqual(made.barb_deg, 30.0)
            self.assertFalse(made.leading.any())

    def test_a_row_lies_as_deep_as_it_is_not_covered(self):
        for overlap, depth in ((0.5, 10.0), (0.25, 15.0)):
            made = laid(tract=replace(TRACT, overlap=overlap))
            at = in_cells(made, SHOWN)
            rows = [np.median(at[made.row == k, 0]) for k in np.unique(made.row)]
            np.testing.assert_allclose(np.diff(rows), depth, rtol=0.03)
            # The first stands half a row in from the root's side.
            self.assertAlmostEqual(rows[0], 5 + depth / 2, delta=0.12 * depth)
        # Row by row from the roots on, whichever way it grows.
        back = laid(180.0)
        at = in_cells(back, SHOWN)
        self.assertGreater(np.median(at[back.row == 0, 0]), np.median(at[back.row == back.row.max(), 0]) + 60)

    def test_what_is_seen_of_a_feather_stands_on_its_row_within_the_zone(self):
        made = laid(length=30.0)
        for k in np.unique(made.row):
            self.assertLess(float(np.ptp(in_cells(made, SHOWN)[made.row == k, 0])), 0.5)
        at = in_cells(made, SHOWN)
        self.assertTrue(((at >= 4.9) & (at <= (W + 5.1, H + 5.1))).all())

    def test_along_a_row_they_stand_less_than_a_width_apart(self):
        made = laid()
        for k in np.unique(made.row):
            across = np.sort(in_cells(made, SHOWN)[made.row == k, 1])
            np.testing.assert_allclose(np.diff(across), 20 * 0.8 * 0.72, rtol=0.03)
        self.assertAlmostEqual(len(made.length_mm), H * W / (10 * 20 * 0.8 * 0.72), delta=10)

    def test_each_row_is_set_off_against_the_one_before(self):
        gap = 20 * 0.8 * 0.72
        for stagger in (0.5, 0.25, 0.0):
            made = laid(tract=replace(TRACT, stagger=stagger))
            rows = [in_cells(made, SHOWN)[made.row == k, 1] for k in np.unique(made.row)]
            for one, other in zip(rows[:-1], rows[1:], strict=True):
                off = np.abs(((other[len(other) // 2] - one) / gap + 0.5) % 1 - 0.5)
                np.testing.assert_allclose(off, stagger, atol=0.06)

    def test_they_grow_where_the_zone_s_feathers_are_longer(self):
        field = growth()
        factor = even(field)
        factor[:, 65:] = 1.5
        made = lay_tract(field, TRACT, 20.0, factor)
        at = in_cells(made, SHOWN)
        np.testing.assert_allclose(made.length_mm[at[:, 0] > 66], 30)
        np.testing.assert_allclose(made.length_mm[at[:, 0] < 64], 20)
        far = [np.median(at[made.row == k, 0]) for k in np.unique(made.row)]
        steps = np.diff(far)
        self.assertAlmostEqual(float(steps[0]), 10, delta=0.8)
        self.assertAlmostEqual(float(steps[-1]), 15, delta=1.2)

    def test_rows_too_fine_for_the_grid_and_far_too_many_are_counted_and_not_laid(self):
        fine = laid(length=2 * LEAST_CELLS - 0.1)
        self.assertEqual(len(fine.length_mm), 0)
        depth = LEAST_CELLS - 0.05
        self.assertAlmostEqual(fine.hinted_more, H * W / (depth * 2 * depth * 0.8 * 0.72), delta=2)
        self.assertGreater(len(laid(length=2 * LEAST_CELLS + 0.1).length_mm), 100)
        narrow = replace(TRACT, overlap=0.1, broad=0.2)
        length = 3.0
        many = laid(length=length, tract=narrow)
        wanted = H * W / (0.9 * length * 0.2 * 0.72 * length)
        self.assertGreater(wanted, MOST)
        self.assertEqual((len(many.length_mm), many.hinted_more), (0, int(wanted)))

    def test_a_zone_without_a_cell_has_none(self):
        field = replace(growth(), inside=np.zeros((H + 10, W + 10), bool))
        self.assertEqual(len(lay_tract(field, TRACT, 20.0, even(field)).length_mm), 0)


class Lines(unittest.TestCase):
    def test_a_level_is_passed_between_cells_where_the_rank_says(self):
        rank = np.tile((np.arange(60) * 0.37).astype(np.float32), (40, 1))
        way = np.tile(np.array([1.0, 0.0], np.float32), (40, 60, 1))
        (line,) = _level_lines(rank, 5.0, np.ones((40, 60), bool), way)
        np.testing.assert_allclose(line[:, 0], 5.0 / 0.37 + 0.5, atol=1e-3)
        np.testing.assert_allclose(line[3:-3, 1], np.arange(3, 37) + 0.5, atol=0.05)
        (down,) = _level_lines(rank.T.copy(), 5.0, np.ones((60, 40), bool), way[..., ::-1].transpose(1, 0, 2).copy())
        np.testing.assert_allclose(down[:, 1], 5.0 / 0.37 + 0.5, atol=1e-3)

    def test_outside_the_zone_there_is_none_and_two_pieces_are_two(self):
        rank = np.tile((np.arange(60) * 0.37).astype(np.float32), (40, 1))
        way = np.tile(np.array([1.0, 0.0], np.float32), (40, 60, 1))
        domain = np.ones((40, 60), bool)
        domain[15:25] = False
        lines = _level_lines(rank, 5.0, domain, way)
        self.assertEqual(
            sorted((round(float(one[:, 1].min())), round(float(one[:, 1].max()))) for one in lines), [(1, 14), (26, 39)]
        )
        self.assertEqual(_level_lines(rank, 99.0, domain, way), [])

    def test_from_its_left_end_to_its_right_seen_along_the_growth(self):
        a = np.linspace(0.2, np.pi - 0.2, 60)
        arc = np.stack([50 + 30 * np.cos(a), 50 + 30 * np.sin(a)], axis=1)
        mixed = arc[np.random.default_rng(3).permutation(60)]
        for sense in (1, -1):
            # Grown down, the left is where x is large.
            way = np.tile(np.array([0.0, sense], np.float32), (100, 100, 1))
            np.testing.assert_allclose(_in_order(mixed, way), arc if sense > 0 else arc[::-1])


class Along(unittest.TestCase):
    line = np.stack([np.full(101, 7.0), np.linspace(0, 50, 101)], axis=1)
    gap = np.full(101, 8.0, np.float32)

    def test_without_a_row_before_half_a_gap_in(self):
        made = _along(self.line, self.gap, np.zeros((0, 2)), 0.5)
        np.testing.assert_allclose(made[:, 1], 4 + 8 * np.arange(6), atol=1e-6)
        np.testing.assert_allclose(made[:, 0], 7)

    def test_set_off_against_those_near_and_not_against_those_far(self):
        before = np.stack([np.full(6, 2.0), 3 + 8.0 * np.arange(6)], axis=1)
        for stagger in (0.5, 0.2):
            made = _along(self.line, self.gap, before, stagger)
            np.testing.assert_allclose((made[:, 1] - 3) % 8, 8 * stagger, atol=1e-3)
        far = before - (3 * 8.0 - 5.1, 0)
        np.testing.assert_allclose((_along(self.line, self.gap, far, 0.2)[:, 1] - 3) % 8, 1.6, atol=1e-3)
        np.testing.assert_allclose(
            _along(self.line, self.gap, far - (0.2, 0), 0.2)[:, 1], 4 + 8 * np.arange(6), atol=1e-6
        )

    def test_gaps_that_widen_are_followed_and_a_stub_bears_none(self):
        made = _along(self.line, np.linspace(4, 12, 101).astype(np.float32), np.zeros((0, 2)), 0.5)
        self.assertGreater(made[-1, 1] - made[-2, 1], 1.8 * (made[1, 1] - made[0, 1]))
        # How often its gaps go into it: the integral of 1 over 4 + 0.16 y.
        whole = np.log(12 / 4) / 0.16
        self.assertEqual(len(made), int(whole - 0.5) + 1)
        self.assertEqual(len(_along(self.line[:5], self.gap[:5], np.zeros((0, 2)), 0.5)), 0)
        self.assertEqual(len(_along(self.line[:7], self.gap[:7], np.zeros((0, 2)), 0.5)), 0)
        self.assertEqual(len(_along(self.line[:10], self.gap[:10], np.zeros((0, 2)), 0.5)), 1)


if __name__ == "__main__":
    unittest.main()
