"""What the passes paint of feathers, by numbers: straight feathers over colours that are known at every place."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.feathers import GAP_SHARE, Feathers, gaps, on_shaft, rims
from foxpath.core.frame import Crop, Frame
from foxpath.core.rehearsal import feathers as rules
from foxpath.core.rehearsal.feathers import DEEPER, DEEPEST, LIGHTER, MOSTLY, ROOTED, SHOWN, feather_marks, within
from foxpath.core.rehearsal.marks import make_study

FRAME = Frame.over(Crop(10.0, 20.0, 400.0, 300.0), 0.25, 400)
"""One cell a pixel, four pixels a millimetre."""
BAND = (4.0, 96.0)
FINEST = 0.3


def study(lab=(50.0, 10.0, 20.0)):
    made = np.zeros((FRAME.rows, FRAME.columns, 3), np.float32)
    made[...] = lab
    return make_study(made, FRAME)


def row(*at, deg=0.0, long_mm=20.0, wide_mm=6.0, leading=True, rows=None):
    """Straight feathers with their roots at places of the reference, px."""
    t = np.linspace(0, long_mm * 4, 8)
    a = np.radians(deg)
    line = np.stack([t * np.cos(a), t * np.sin(a)], axis=1)
    count = len(at)
    return Feathers(
        np.array([np.array(one) + line for one in at], np.float32),
        np.full(count, long_mm, np.float32), np.full(count, wide_mm, np.float32),
        np.arange(count, dtype=np.int32)[::-1].copy() if rows is None else np.array(rows, np.int32),
        np.ones(count, np.float32), np.broadcast_to(leading, count).copy(), 35.0,
    )  # fmt: skip


TWO = row((60, 100), (60, 180))
EVERYWHERE = np.ones(FRAME.shape, bool)


def painted(role, feathers=TWO, there=None, mask=EVERYWHERE, band=BAND, opacity=0.8, seed=1, vanes=0.0, finest=FINEST):
    return feather_marks(role, band, opacity, feathers, finest, there or study(), FRAME, mask, seed, vanes)


def on_picture(marks):
    return marks.lines_mm.astype(np.float64) / FRAME.mm_per_px + (10, 20)


class Passes(unittest.TestCase):
    def test_bodies_are_laid_beside_and_along_the_shaft(self):
        made = painted("undercoat")
        self.assertEqual(len(made.lines_mm), 6)
        np.testing.assert_allclose(made.half_mm, 0.24 * 6)
        lines = on_picture(made)
        # Half the half width of 3 mm, 12 px, to one side, none, and to the other: along the whole shaft.
        for k, side in enumerate((-0.5, 0.0, 0.5)):
            for n in range(2):
                np.testing.assert_allclose(lines[2 * k + n], TWO.shaft[n] + (0, 12 * side), atol=1e-3)
        np.testing.assert_allclose(made.length_mm, 20, rtol=1e-4)
        np.testing.assert_allclose(made.alpha, 0.8)
        self.assertTrue(made.hair)
        self.assertIsNone(painted("undercoat", row((60, 100), leading=False)))

    def test_a_dark_gap_goes_under_each_edge(self):
        made = painted("restated")
        np.testing.assert_allclose(on_picture(made), gaps(TWO), atol=1e-3)
        np.testing.assert_allclose(made.half_mm, 0.5 * GAP_SHARE * 6, rtol=1e-5)
        # Where the picture shows nothing of it, it is a little darker than the feather.
        self.assertAlmostEqual(float(made.lightness.mean()), 50 - DEEPER, delta=2.5)
        fine = painted("restated", row((60, 100), wide_mm=2.0))
        np.testing.assert_allclose(fine.half_mm, 0.5 * FINEST, rtol=1e-5)

    def test_of_those_that_do_not_lead_every_second_has_a_short_gap(self):
        five = row(*((60, 60 + 40 * k) for k in range(5)), leading=False)
        made = painted("restated", five)
        np.testing.assert_allclose(on_picture(made), gaps(five.pick(np.array([0, 2, 4])), 0.3), atol=1e-3)
        np.testing.assert_allclose(made.half_mm, 0.5 * FINEST, rtol=1e-5)
        self.assertAlmostEqual(float(made.lightness.mean()), 50 - 0.6 * DEEPER, delta=2.2)

    def test_lights_are_barbs_rims_and_a_line_on_the_rest(self):
        mixed = row((60, 100), (60, 180), leading=[True, False])
        made = painted("lights", mixed)
        # Half of 20 mm, a barb for every 0.6 mm, on both sides.
        each = int(20 * 0.5 / 0.6)
        self.assertEqual(len(made.lines_mm), 2 * each + 1 + 1)
        fine = max(FINEST, 0.035 * 6)
        np.testing.assert_allclose(made.half_mm[: 2 * each], 0.5 * fine, rtol=1e-5)
        self.assertAlmostEqual(float(made.half_mm[2 * each]), 0.55 * fine, places=5)
        self.assertAlmostEqual(float(made.half_mm[-1]), 0.6 * FINEST, places=5)
        lines = on_picture(made)
        np.testing.assert_allclose(lines[2 * each], rims(mixed.pick(np.array([0])))[0], atol=1e-3)
        np.testing.assert_allclose(lines[-1], mixed.shaft[1], atol=1e-3)
        self.assertAlmostEqual(float(made.lightness[: 2 * each].mean()), 50 + 0.45 * LIGHTER, delta=0.7)
        broad = painted("lights", row((60, 100), wide_mm=16.0))
        self.assertAlmostEqual(float(broad.half_mm[0]), 0.5 * 0.035 * 16, places=5)

    def test_how_many_barbs_there_are_is_bounded(self):
        for long_mm, each in ((2.0, 3), (12.0, 10), (60.0, 22)):
            made = painted("lights", row((60, 100), long_mm=long_mm))
            self.assertEqual(len(made.lines_mm), 2 * each + 1, long_mm)

    def test_highlights_are_shafts_from_where_they_are_seen(self):
        made = painted("highlights")
        t = np.linspace(ROOTED, 1, 8).astype(np.float32)
        np.testing.assert_allclose(on_picture(made), on_shaft(TWO, t)[0], atol=1e-3)
        np.testing.assert_allclose(made.half_mm, 0.6 * FINEST, rtol=1e-5)
        self.assertAlmostEqual(float(made.lightness.mean()), 50 + 2 * LIGHTER, delta=2.5)
        # Only on what is light enough for the pass: 14 L* below its band at most.
        self.assertIsNone(painted("highlights", band=(64.5, 96.0)))
        self.assertIsNotNone(painted("highlights", band=(63.5, 96.0)))

    def test_other_passes_and_no_feathers_add_nothing(self):
        self.assertIsNone(painted("toning"))
        self.assertIsNone(painted("lights", TWO.pick(np.zeros(2, bool))))

    def test_they_are_laid_from_the_tips_back(self):
        rows = [1, 3, 2]
        three = row((60, 80), (60, 140), (60, 200), rows=rows)
        made = on_picture(painted("restated", three))
        np.testing.assert_allclose(made, gaps(three.pick(np.array([1, 2, 0]))), atol=1e-3)


class Shown(unittest.TestCase):
    """Where the photograph shows the vanes, only what it shows is drawn."""

    def striped(self, feathers, gap=0.0, shaft=0.0, rim=0.0):
        """A picture in which each feather's gap, shaft and rim differ by so much, L*."""
        lab = np.zeros((FRAME.rows, FRAME.columns, 3), np.float32)
        lab[...] = (50, 10, 20)
        for much, lines in ((rim, rims(feathers)), (gap, gaps(feathers)), (shaft, feathers.shaft)):
            for line in lines:
                at = np.concatenate([np.linspace(a, b, 60) for a, b in zip(line[:-1], line[1:], strict=True)])
                j, i = np.floor(FRAME.to_grid(at.astype(np.float64))).astype(int).T
                lab[i, j, 0] = 50 + much
        return make_study(lab, FRAME)

    def test_gaps_are_as_dark_as_they_are_seen_and_a_little_more(self):
        for much in (-6.0, -10.0):
            made = painted("restated", TWO, self.striped(TWO, gap=much))
            self.assertAlmostEqual(float(made.lightness.mean()), 50 - (DEEPER - SHOWN * much), delta=2.5)
        made = painted("restated", TWO, self.striped(TWO, gap=-40.0))
        self.assertAlmostEqual(float(made.lightness.mean()), 50 - DEEPEST, delta=2.5)
        lighter = painted("restated", TWO, self.striped(TWO, gap=20.0))
        self.assertAlmostEqual(float(lighter.lightness.mean()), 50 - DEEPER, delta=2.5)

    def test_rims_are_as_light_as_they_are_seen(self):
        each = 16
        for much, more in ((-9.0, 0.3 * LIGHTER), (6.0, 0.3 * LIGHTER + 6), (40.0, 3 * LIGHTER)):
            made = painted("lights", TWO, self.striped(TWO, rim=much))
            rim = made.lightness[4 * each : 4 * each + 2]
            self.assertAlmostEqual(float(rim.mean()), 50 + more, delta=2.5)

    def test_bodies_and_barbs_are_left_to_the_photograph(self):
        plain = study()
        self.assertIsNone(painted("undercoat", TWO, plain, vanes=0.31))
        self.assertIsNone(painted("lights", TWO, plain, vanes=0.31))
        self.assertIsNotNone(painted("undercoat", TWO, plain, vanes=0.29))
        self.assertIsNotNone(painted("lights", TWO, plain, vanes=0.29))
        # Where none leads, nothing shows that could be left to it.
        hints = row((60, 100), leading=False)
        self.assertEqual(len(painted("lights", hints, plain, vanes=0.9).lines_mm), 1)

    def test_only_gaps_and_shafts_that_it_shows_are_drawn(self):
        one, other = TWO.pick(np.array([0])), TWO.pick(np.array([1]))
        for much, told in ((-5.0, True), (-3.0, False)):
            made = painted("restated", TWO, self.striped(one, gap=much), vanes=0.9)
            self.assertEqual(made is not None, told, much)
            if told:
                np.testing.assert_allclose(on_picture(made), gaps(one), atol=1e-3)
        for much, told in ((4.0, True), (2.0, False)):
            made = painted("highlights", TWO, self.striped(other, shaft=much), vanes=0.9)
            self.assertEqual(made is not None, told, much)
            if told:
                self.assertEqual(len(made.lines_mm), 1)
                self.assertGreater(on_picture(made)[0, 0, 1], 170)

    def test_a_gap_lies_between_two_that_are_lighter(self):
        # An edge from the feather to what is darker behind it is none.
        dark = np.zeros((FRAME.rows, FRAME.columns, 3), np.float32)
        dark[...] = (30, 10, 20)
        one = TWO.pick(np.array([0]))
        x, y = np.meshgrid(np.arange(FRAME.columns) + 10.5, np.arange(FRAME.rows) + 20.5)
        dark[(abs(y - 100) < 13) & (x > 60) & (x < 140)] = (60, 10, 20)
        self.assertIsNone(painted("restated", one, make_study(dark, FRAME), vanes=0.9))
        told = rules._gap_shown(self.striped(one, gap=-20.0), one)
        self.assertGreater(float(told[0]), 10)

    def test_a_shaft_is_lighter_than_both_vanes(self):
        one = TWO.pick(np.array([0]))
        lab = np.zeros((FRAME.rows, FRAME.columns, 3), np.float32)
        lab[...] = (50, 10, 20)
        # The picture begins at 20 px: above the shaft it is as light as the shaft.
        lab[:81] = (70, 10, 20)
        self.assertLess(float(rules._shaft_shown(make_study(lab, FRAME), one)[0]), 1)
        self.assertAlmostEqual(float(rules._shaft_shown(self.striped(one, shaft=8.0), one)[0]), 8, delta=0.01)


class Colours(unittest.TestCase):
    def colours(self, lab, shift, band=BAND, seed=4):
        there = study(lab)
        lines = TWO.shaft
        return rules._marks(
            lines,
            np.full(2, 0.3, np.float32),
            TWO.shaft[:, 5],
            shift,
            band,
            0.5,
            there,
            FRAME,
            np.random.default_rng(seed),
        )

    def test_darker_paint_keeps_its_hue_and_not_all_its_chroma(self):
        for shift in (-20.0, 8.0, -49.0):
            made = self.colours((50.0, 10.0, 20.0), shift)
            noise = np.random.default_rng(4).normal(0, 1.2, 2)
            light = np.clip(50 + shift + noise, *BAND)
            np.testing.assert_allclose(made.lightness, light, rtol=1e-5)
            for k in range(2):
                share = np.clip(light[k] / 50, 0.35, 1.15)
                want = rgb_from_linear(linear_from_lab(np.array([[light[k], 10 * share, 20 * share]], np.float32)))
                np.testing.assert_allclose(made.colour[k], want[0], atol=1e-4)

    def test_lightness_keeps_to_the_pass_s_band_whichever_way_it_is_given(self):
        for band in ((55.0, 70.0), (70.0, 55.0)):
            self.assertAlmostEqual(float(self.colours((50, 0, 0), 0.0, band).lightness.min()), 55)
            self.assertAlmostEqual(float(self.colours((50, 0, 0), 40.0, band).lightness.max()), 70)

    def test_lines_are_millimetres_of_the_canvas(self):
        made = self.colours((50, 0, 0), 0.0)
        np.testing.assert_allclose(made.lines_mm, (TWO.shaft - (10, 20)) * 0.25, atol=1e-4)
        np.testing.assert_allclose(made.length_mm, 20, rtol=1e-5)
        np.testing.assert_allclose(made.alpha, 0.5)


class Within(unittest.TestCase):
    def test_a_line_is_drawn_where_most_of_it_lies_in_the_zone(self):
        # Shafts from 60 to 140 px: eight places, of which so many lie within.
        for inside, told in ((8, True), (7, True), (6, False), (0, False)):
            mask = np.zeros(FRAME.shape, bool)
            mask[:, : round(60 - 10 + (inside - 0.5) * 80 / 7)] = inside > 0
            made = painted("lights", row((60, 100), leading=False), mask=mask)
            self.assertEqual(made is not None, told, inside)
        self.assertEqual(MOSTLY, 0.8)
        # What is left out takes its own depth with it.
        mask = EVERYWHERE.copy()
        mask[:120] = False
        made = painted("restated", TWO, mask=mask)
        np.testing.assert_allclose(on_picture(made), gaps(TWO.pick(np.array([1]))), atol=1e-3)

    def test_beyond_the_picture_is_beyond_the_zone(self):
        # The picture covers 10 to 410 px each way across, 20 to 320 down.
        at = np.array(
            [[9.0, 100], [11, 100], [409, 100], [411, 100], [100, 19], [100, 21], [100, 319], [100, 321]], np.float32
        )
        got = rules._inside(at, EVERYWHERE, FRAME)
        self.assertEqual(got.tolist(), [False, True, True, False, False, True, True, False])

    def test_feathers_are_picked_by_the_middle_of_what_is_seen_of_them(self):
        mask = np.zeros(FRAME.shape, bool)
        x, y = TWO.shaft[1, 5]
        mask[int(y) - 20, int(x) - 10] = True
        picked = within(TWO, mask, FRAME)
        np.testing.assert_array_equal(picked.shaft, TWO.shaft[1:])
        none = replace(TWO.pick(np.zeros(2, bool)))
        self.assertEqual(len(within(none, mask, FRAME)), 0)

    def test_a_slanting_shaft_moves_square_to_itself(self):
        one = row((60, 60), deg=30.0, wide_mm=8.0)
        moved = rules._beside(one, 0.5)
        off = moved - one.shaft
        np.testing.assert_allclose(np.hypot(*off[0].T), 8, rtol=1e-4)
        np.testing.assert_allclose(off[0] @ (np.cos(np.radians(30)), np.sin(np.radians(30))), 0, atol=1e-3)
        np.testing.assert_allclose(rules._outside(one), 2 * gaps(one) - rims(one))


if __name__ == "__main__":
    unittest.main()
