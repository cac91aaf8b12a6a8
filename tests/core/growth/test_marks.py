"""Crowns, sources, twins and donors brought to strokes; strokes on cells; hairs that stand for a growth."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth.cells import CombStroke, comb_cells, grown, joined_cells, spread_out, unit_of, window_of
from foxpath.core.growth.field import ZoneField
from foxpath.core.growth.glyphs import STRAY, place_glyphs, place_streams
from foxpath.core.growth.marks import LENT_WEIGHT, _lattice, crown_strokes, donor_strokes, source_strokes, twin_strokes
from foxpath.core.reference.transfer import Axes
from foxpath.core.zones.kinds import Coat

FRAME = Frame(Crop(10, 20, 400, 300), 200, 150, 0.5)  # cells of 2 px, 1 mm


def box(x0, y0, x1, y1):
    """A mask of the cells between two places, reference pixels."""
    mask = np.zeros(FRAME.shape, bool)
    mask[(y0 - 20) // 2 : (y1 - 20) // 2, (x0 - 10) // 2 : (x1 - 10) // 2] = True
    return mask


def field(mask, deg, sure=1.0):
    """A growth of one angle all over a mask."""
    way = np.empty((*FRAME.shape, 2), np.float32)
    way[...] = np.cos(np.radians(deg)), np.sin(np.radians(deg))
    known = np.full(FRAME.shape, sure, np.float32)
    return ZoneField(FRAME, 0, 0, way, known, mask, np.ones_like(mask), True, known, mask)


def middles(strokes):
    return np.array([one.points.mean(axis=0) for one in strokes])


def ways(strokes):
    step = np.array([one.points[-1] - one.points[0] for one in strokes])
    return step / np.hypot(*step.T)[:, None]


class Rings(unittest.TestCase):
    def test_a_crown_spreads_circles_gathers_or_spirals(self):
        for turn in (0, 90, 180, 45, -30):
            strokes = crown_strokes((100.0, 80.0), 40.0, turn)
            out = middles(strokes) - (100, 80)
            self.assertEqual(sorted(set(np.round(np.hypot(*out.T), 3))), [8.0, 20.0, 34.0])
            out /= np.hypot(*out.T)[:, None]
            way = ways(strokes)
            np.testing.assert_allclose((out * way).sum(axis=1), np.cos(np.radians(turn)), atol=1e-6)
            clockwise = out[:, 0] * way[:, 1] - out[:, 1] * way[:, 0]
            np.testing.assert_allclose(clockwise, np.sin(np.radians(turn)), atol=1e-6)
            self.assertTrue(all(one.weight == 1 for one in strokes))

    def test_hair_leads_away_from_a_source(self):
        strokes = source_strokes((100.0, 80.0), 10.0)
        out = middles(strokes) - (100, 80)
        np.testing.assert_allclose(ways(strokes), out / np.hypot(*out.T)[:, None], atol=1e-9)
        roots = np.array([one.points[0] for one in strokes]) - (100, 80)
        self.assertGreater(np.hypot(*roots.T).min(), 10)
        self.assertAlmostEqual(float(np.abs(out.mean(axis=0)).max()), 0)


class Lent(unittest.TestCase):
    def test_a_twin_grows_as_its_mirror_image(self):
        # The midline stands at 210; the twin lies at its left, the part at its right.
        axes = Axes((150, 100), (270, 100), (210, 100))
        left, right = box(60, 60, 160, 200), box(260, 60, 360, 200)
        for deg in (20, 100, -50):
            strokes = twin_strokes(field(left, deg), right, axes)
            self.assertGreater(len(strokes), 50)
            np.testing.assert_allclose(
                ways(strokes), [(-np.cos(np.radians(deg)), np.sin(np.radians(deg)))] * len(strokes), atol=1e-5
            )
            at = middles(strokes)
            self.assertTrue(((at > (258, 58)) & (at < (362, 202))).all())
            self.assertTrue(all(one.weight == LENT_WEIGHT for one in strokes))

    def test_what_has_no_known_twin_gets_nothing(self):
        axes = Axes((150, 100), (270, 100), (210, 100))
        half = twin_strokes(field(box(110, 60, 160, 200), 20), box(260, 60, 360, 200), axes)
        self.assertLess(middles(half)[:, 0].max(), 311)
        self.assertEqual(twin_strokes(field(box(60, 60, 160, 200), 20, 0.2), box(260, 60, 360, 200), axes), [])

    def test_a_donors_growth_turns_with_its_body(self):
        lying, standing = box(40, 60, 200, 110), box(260, 60, 310, 220)
        for deg in (0, 30):
            strokes = donor_strokes(field(lying, deg), lying, standing, FRAME)
            # A lying body's length runs to the right, a standing one's down.
            wanted = {0: (0, 1), 30: (np.sin(np.radians(30)), np.cos(np.radians(30)))}[deg]
            np.testing.assert_allclose(ways(strokes), [wanted] * len(strokes), atol=0.02)
            self.assertGreater(len(strokes), 60)
            turned = donor_strokes(field(lying, deg), lying, standing, FRAME, turned=True)
            np.testing.assert_allclose(ways(turned), [(-wanted[0], -wanted[1])] * len(turned), atol=0.02)


class Cells(unittest.TestCase):
    domain = np.ones((30, 40), bool)

    def test_a_stroke_is_drawn_where_it_lies_with_its_way_and_weight(self):
        # From the window's corner (5, 10): x of 10 + 2 (10 + 8) is its column 8.
        stroke = CombStroke(np.array([(46.0, 50), (66, 50)]), 0.5)
        cells = comb_cells([stroke], FRAME, 5, 10, self.domain)
        said = np.argwhere(cells[3] > 0)
        self.assertEqual((said[:, 0].tolist(), said[:, 1].min(), said[:, 1].max()), ([10] * 10, 8, 17))
        np.testing.assert_allclose(cells[0][10, 8:18], cells[2][10, 8:18], rtol=1e-5)
        np.testing.assert_allclose(cells[1], 0, atol=1e-6)
        self.assertEqual(cells[3].max(), 0.5)
        self.assertAlmostEqual(float(cells[2].sum()), 0.5 * 20)

    def test_the_heaviest_counts_and_what_lies_outside_is_left(self):
        line = np.array([(46.0, 50), (66, 50)])
        cells = comb_cells([CombStroke(line), CombStroke(line, 0.2)], FRAME, 5, 10, self.domain)
        self.assertEqual(cells[3].max(), 1)
        self.assertFalse(comb_cells([CombStroke(line - 500)], FRAME, 5, 10, self.domain).any())
        self.assertFalse(comb_cells([CombStroke(line)], FRAME, 5, 10, ~self.domain).any())
        self.assertFalse(comb_cells([CombStroke(line[:1].repeat(2, 0))], FRAME, 5, 10, self.domain).any())

    def test_windows_joints_and_what_lies_nearest(self):
        mask = np.zeros((20, 30), bool)
        mask[4:8, 1:5] = True
        self.assertEqual(window_of(mask, 3), (slice(1, 11), slice(0, 8)))
        east, south = joined_cells(mask)
        self.assertEqual((int(east.sum()), int(south.sum())), (4 * 3, 3 * 4))
        self.assertEqual((east[4, 4], south[7, 1], east[4, 3], south[6, 1]), (0, 0, 1, 1))
        self.assertEqual(int(grown(mask, 1).sum()), 16 + 12 + 4)  # its left side has no room beyond one cell
        unit, size = unit_of(np.array([[[3.0]], [[-4.0]]], np.float32))
        np.testing.assert_allclose((*unit[0, 0], size[0, 0]), (0.6, -0.8, 5))
        way = np.zeros((20, 30, 2), np.float32)
        way[4:8, 1:5] = (0, 1)
        way[5, 4] = (1, 0)
        np.testing.assert_allclose(spread_out(way, mask)[5, 20], (1, 0))


class Lattice(unittest.TestCase):
    def test_places_lie_in_the_middle_of_cells_four_apart_over_the_mask(self):
        # A fiftieth of 200 cells is 4; from the third of them on.
        at = FRAME.to_grid(_lattice(box(60, 60, 100, 120), FRAME))
        mask = box(60, 60, 100, 120)
        wanted = [(j + 0.5, i + 0.5) for i in range(2, 150, 4) for j in range(2, 200, 4) if mask[i, j]]
        np.testing.assert_allclose(sorted(map(tuple, at)), sorted(wanted))
        self.assertEqual(len(_lattice(np.zeros(FRAME.shape, bool), FRAME)), 0)


class Glyphs(unittest.TestCase):
    coat = Coat(10.0, 0.5, 0.0, 0.0, 0.0)

    def hairs(self, deg=30.0, spacing=4.0, coat=None, **how):
        return place_glyphs(field(box(60, 60, 360, 260), deg), coat or self.coat, spacing, 3, **how)

    def test_hairs_are_as_long_as_wide_and_lie_as_they_grow(self):
        for deg in (30, 200):
            made = self.hairs(deg)
            step = made.points_px[:, -1] - made.points_px[:, 0]
            np.testing.assert_allclose(np.hypot(*step.T), 20, rtol=1e-3)
            np.testing.assert_allclose(np.degrees(np.arctan2(step[:, 1], step[:, 0])) % 360, deg, atol=0.1)
            np.testing.assert_allclose(made.width_px, 1.0)
            middle = made.points_px.mean(axis=1)
            self.assertTrue(((middle > (58, 58)) & (middle < (362, 262))).all())

    def test_they_stand_so_far_apart_as_the_scale_wants(self):
        few, many = self.hairs(spacing=8.0), self.hairs(spacing=2.0)
        # 150 by 100 mm; a gap is the spacing and three tenths of a hair.
        for made, gap in ((few, 11.0), (many, 5.0)):
            self.assertAlmostEqual(len(made.sure), 15000 / gap**2 * 1.15, delta=0.06 * len(made.sure) + 4)

    def test_spread_and_strays_cross(self):
        spread = self.hairs(coat=replace(self.coat, spread_deg=10.0), spacing=1.0)
        step = spread.points_px[:, -1] - spread.points_px[:, 0]
        off = np.degrees(np.arctan2(step[:, 1], step[:, 0])) - 30
        self.assertAlmostEqual(float(off.std()), 10, delta=1.5)
        self.assertLess(np.abs(off).max(), 20.5)
        strays = self.hairs(coat=replace(self.coat, stray_share=0.25), spacing=1.0)
        step = strays.points_px[:, -1] - strays.points_px[:, 0]
        off = np.abs(np.arctan2(step[:, 1], step[:, 0]) - np.radians(30))
        self.assertAlmostEqual(float((off > 0.5 * STRAY).mean()), 0.25, delta=0.04)
        np.testing.assert_allclose(off[off > 0.5 * STRAY], STRAY, atol=1e-3)

    def test_a_wide_clump_is_a_tuft_together_at_the_tip(self):
        made = self.hairs(coat=replace(self.coat, clump_mm=3.0))
        count = len(made.sure) // 3
        one, other, middle = made.points_px.reshape(3, count, -1, 2)
        np.testing.assert_allclose(one[:, -1], other[:, -1], atol=1e-3)
        np.testing.assert_allclose(np.hypot(*(one[:, 0] - other[:, 0]).T), 6.0, rtol=1e-3)
        np.testing.assert_allclose((one + other) / 2, middle, atol=1e-3)
        narrow = self.hairs(coat=replace(self.coat, clump_mm=0.35 * 4.0))
        self.assertEqual(len(narrow.sure), len(self.hairs().sure))

    def test_longer_and_wider_where_it_varies(self):
        varied = np.ones((*FRAME.shape, 2), np.float32) * (1.5, 2.0)
        made = self.hairs(varied=varied.astype(np.float32))
        np.testing.assert_allclose(np.hypot(*(made.points_px[:, -1] - made.points_px[:, 0]).T), 30, rtol=1e-3)
        np.testing.assert_allclose(made.width_px, 2.0)

    def test_a_flow_line_ends_where_its_zone_does(self):
        made = place_streams(field(box(60, 60, 360, 260), 0.0), 6.0, 60.0, 0.5, 3)
        x = made.points_px[..., 0]
        self.assertGreater(len(x), 20)
        self.assertGreaterEqual(float(x.min()), 60 - 120 / 7)
        self.assertLessEqual(float(x.max()), 360 + 120 / 7)
        self.assertTrue((np.diff(x, axis=1) >= 0).all())
        self.assertTrue((np.diff(x, axis=1) == 0).any())


if __name__ == "__main__":
    unittest.main()
