import unittest
from dataclasses import replace

import numpy as np
from scipy.spatial import cKDTree

from foxpath.core.feathers import (
    Tract,
    TractEdit,
    barbs,
    fan_feathers,
    gaps,
    lay_tract,
    leading,
    on_shaft,
    outline_of,
    rims,
    tract_of,
)
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import ZoneField
from foxpath.core.zones import fill

FRAME = Frame.over(Crop(0, 0, 300, 240), 0.5, 300)


def grown(direction, polygon=((20, 20), (280, 20), (280, 220), (20, 220))):
    """A zone that grows as a function of place says, everywhere sure; one cell is half a millimetre."""
    y, x = np.mgrid[0 : FRAME.rows, 0 : FRAME.columns].astype(np.float32) + 0.5
    way = np.stack(direction(x, y), axis=-1).astype(np.float32)
    way /= np.hypot(way[..., 0], way[..., 1])[..., None]
    inside = fill(np.array(polygon, float), FRAME.shape)
    whole, nothing = np.ones(FRAME.shape, bool), np.ones(FRAME.shape, np.float32)
    return ZoneField(FRAME, 0, 0, way, nothing, inside, whole, combed=True, axis_sure=nothing, rooted=whole)


def lay(field, tract, length_mm=12.0):
    return lay_tract(field, tract, length_mm, np.ones(FRAME.shape, np.float32))


class Tracts(unittest.TestCase):
    """Rows of feathers along the growth."""

    def test_rows_gaps_and_stagger(self):
        tract = Tract(overlap=0.5, stagger=0.5, broad=0.6)
        made = lay(grown(lambda x, y: (np.zeros_like(x), np.ones_like(y))), tract)
        tips = made.shaft[:, -1] * 0.5
        rows = [tips[made.row == k] for k in range(3, 8)]
        depth = np.diff([row[:, 1].mean() for row in rows])
        np.testing.assert_allclose(depth, 6.0, atol=0.4)
        for row in rows:
            np.testing.assert_allclose(np.diff(np.sort(row[:, 0])), 12 * 0.6 * 0.72, rtol=0.06)
        gap = 12 * 0.6 * 0.72
        for before, after in zip(rows[:-1], rows[1:], strict=True):
            offset = np.abs(((after[:, 0][:, None] - before[:, 0][None]) / gap + 0.5) % 1 - 0.5)
            self.assertAlmostEqual(float(np.median(offset)), 0.5, delta=0.1)
        lengths = np.hypot(*(made.shaft[:, -1] - made.shaft[:, 0]).T) * 0.5
        np.testing.assert_allclose(lengths, 12, rtol=0.02)

    def test_they_point_along_a_bent_growth_and_fill_the_part(self):
        """Down a fan that opens: every feather lies along the growth, and no hole is left."""
        made = lay(grown(lambda x, y: (x - 150, y + 120)), Tract())
        span = made.shaft[:, -1] - made.shaft[:, 0]
        middle = made.shaft[:, 4]
        true = np.stack([middle[:, 0] - 150, middle[:, 1] + 120], axis=1)
        turn = np.degrees(np.arccos(np.clip((span * true).sum(1) / np.hypot(*span.T) / np.hypot(*true.T), -1, 1)))
        self.assertLess(np.percentile(turn, 95), 4)
        y, x = np.mgrid[40:200:8, 40:260:8]
        near, _ = cKDTree(made.shaft[:, 5]).query(np.stack([x.ravel(), y.ravel()], axis=1))
        self.assertLess(near.max() * 0.5, 8.5)

    def test_they_lie_on_the_reference_wherever_the_canvas_begins_on_it_and_however_fine_the_grid(self):
        field = grown(lambda x, y: (x - 150, y + 120))
        plain = lay(field, Tract())
        moved = lay(replace(field, frame=replace(FRAME, crop=Crop(70, -30, 300, 240))), Tract())
        np.testing.assert_allclose(moved.shaft, plain.shaft + (70, -30), atol=1e-3)
        # A window of the zone that begins further in: the same places.
        cut = {
            name: getattr(field, name)[10:, 15:]
            for name in ("direction", "sure", "inside", "domain", "axis_sure", "rooted")
        }
        within = lay_tract(
            replace(field, row=10, column=15, **cut),
            Tract(),
            12.0,
            np.ones((FRAME.rows - 10, FRAME.columns - 15), np.float32),
        )
        self.assertAlmostEqual(len(within) / len(plain), 1, delta=0.05)
        np.testing.assert_allclose(within.shaft.mean(axis=(0, 1)), plain.shaft.mean(axis=(0, 1)), atol=3)

    def test_painted_from_the_tip_end_back(self):
        made = lay(grown(lambda x, y: (np.ones_like(x), np.zeros_like(y))), Tract()).in_order()
        self.assertGreater(made.shaft[0, -1, 0], made.shaft[-1, -1, 0])
        self.assertTrue((np.diff(made.row) <= 0).all())

    def test_too_small_to_be_laid_is_counted(self):
        made = lay(grown(lambda x, y: (np.ones_like(x), np.zeros_like(y))), Tract(), 1.0)
        self.assertEqual(len(made), 0)
        self.assertGreater(made.count, 1000)

    def test_decisions_over_the_kind(self):
        tract = tract_of("covert", TractEdit(overlap=0.99, barb_deg=20))
        self.assertEqual((tract.overlap, tract.barb_deg), (0.85, 20))
        self.assertEqual(tract.broad, tract_of("covert", TractEdit()).broad)


class Fans(unittest.TestCase):
    """Flight feathers between the first and the last."""

    first, last = np.array([[100.0, 100], [200, 100], [300, 100]]), np.array([[100.0, 140], [150, 210], [200, 280]])

    def test_evenly_from_first_to_last(self):
        made = fan_feathers(self.first, self.last, 9, 0.5)
        self.assertEqual(len(made), 9)
        np.testing.assert_allclose(made.shaft[0, [0, -1]], self.first[[0, -1]], atol=1e-3)
        np.testing.assert_allclose(made.shaft[-1, [0, -1]], self.last[[0, -1]], atol=1e-3)
        span = made.shaft[:, -1] - made.shaft[:, 0]
        steps = np.diff(np.degrees(np.arctan2(span[:, 1], span[:, 0])))
        np.testing.assert_allclose(steps, steps[0], atol=0.01)
        self.assertGreater(steps[0], 0)
        with self.assertRaises(ValueError):
            fan_feathers(self.first, self.last, 1, 0.5)

    def test_bent_feathers_turn_from_the_first_to_the_last_and_keep_their_bend(self):
        """The last stroke is the first one turned by 60° and half as long again: those between lie on the way."""
        t = np.linspace(0, 1, 9)
        bent = np.stack([100 * t, 18 * np.sin(np.pi * t)], axis=1)

        def spun(deg, size, at):
            c, s = np.cos(np.radians(deg)), np.sin(np.radians(deg))
            return at + size * bent @ np.array([[c, s], [-s, c]])

        made = fan_feathers(spun(20, 1.0, (10, 20)), spun(80, 1.5, (40, 80)), 5, 1.0)
        for k, feather in enumerate(made.shaft):
            true = spun(20 + 15 * k, 1 + 0.125 * k, np.array((10, 20)) + np.array((30, 60)) * k / 4)
            np.testing.assert_allclose(feather[[0, -1]], true[[0, -1]], atol=0.6)
            self.assertLess(np.hypot(*(feather[:, None] - true[None]).transpose(2, 0, 1)).min(axis=1).max(), 9)
            line = true[-1] - true[0]
            side = (line[0] * (feather[:, 1] - true[0, 1]) - line[1] * (feather[:, 0] - true[0, 0])) / np.hypot(*line)
            self.assertAlmostEqual(float(side.max()), 18 * (1 + 0.125 * k), delta=1.8)

    def test_the_first_lies_on_top(self):
        made = fan_feathers(self.first, self.last, 5, 0.5).in_order()
        np.testing.assert_allclose(made.shaft[-1, 0], self.first[0], atol=1e-3)


class Drawing(unittest.TestCase):
    """The lines each feather is drawn with."""

    one = fan_feathers(np.array([[0.0, 0], [100, 0]]), np.array([[0.0, 60], [100, 60]]), 2, 1.0, barb_deg=40).pick([0])

    def test_outline_is_as_wide_as_the_feather(self):
        outline = outline_of(self.one)[0]
        self.assertAlmostEqual(float(np.ptp(outline[:, 1])), float(self.one.width_mm[0]), delta=0.5)
        self.assertAlmostEqual(float(outline[:, 0].max()), 100, delta=0.5)

    def test_a_place_on_the_shaft_lies_at_its_share_of_the_length(self):
        shares = np.array([0.0, 0.3, 0.55, 1.0], np.float32)
        at, way, normal = on_shaft(self.one, shares)
        shaft = self.one.shaft[0]
        np.testing.assert_allclose(at[0, 0], shaft[0], atol=1e-4)
        np.testing.assert_allclose(at[0, -1], shaft[-1], atol=1e-4)
        np.testing.assert_allclose(at[0, :, 0], shaft[0, 0] + shares * np.ptp(shaft[:, 0]), atol=0.3)
        np.testing.assert_allclose(way[0], np.broadcast_to((1, 0), (4, 2)), atol=1e-3)
        np.testing.assert_allclose(normal[0], np.broadcast_to((0, 1), (4, 2)), atol=1e-3)

    def test_the_gap_lies_under_the_edge(self):
        gap = gaps(self.one)[0]
        self.assertGreater(gap[3:5, 0].mean(), rims(self.one)[0, 3:5, 0].mean() + 2)
        self.assertGreater(np.abs(gap[:, 1]).max(), 0.5 * float(self.one.width_mm[0]))

    def test_barbs_leave_the_shaft_toward_the_tip_at_their_angle(self):
        lines = barbs(self.one, 12, np.random.default_rng(1))
        np.testing.assert_allclose(lines[:, 0, 1], 0, atol=1e-4)
        span = lines[:, -1] - lines[:, 0]
        self.assertTrue((span[:, 0] > 0).all())
        angle = np.degrees(np.arctan2(np.abs(span[:, 1]), span[:, 0]))
        self.assertAlmostEqual(float(np.median(angle)), 40, delta=12)


class Leading(unittest.TestCase):
    """Which are worth painting depends on size, brush and distance."""

    def count(self, finest, focal=(100.0, 100.0)):
        made = fan_feathers(Fans.first, Fans.last, 9, 0.5)
        return int(leading(made, finest, focal, 0.5, 150.0).leading.sum())

    def test_fewer_with_a_coarser_brush_and_far_away(self):
        self.assertEqual(self.count(0.05), 9)
        self.assertEqual(self.count(3.0), 0)
        finest = 0.3
        self.assertGreaterEqual(self.count(finest), self.count(finest, (3000.0, 100.0)))
        self.assertGreater(
            sum(self.count(f) for f in (0.2, 0.3, 0.4, 0.5)),
            sum(self.count(f, (3000.0, 0.0)) for f in (0.2, 0.3, 0.4, 0.5)),
        )
