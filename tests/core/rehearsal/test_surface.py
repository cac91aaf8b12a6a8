"""Paint that behaves: what it covers, veils, catches and picks up, and thick paint in the light."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.arrays import frozen
from foxpath.core.brush import paint_outlines, ways
from foxpath.core.colour import lab_from_linear, linear_from_rgb
from foxpath.core.passes import ROLES
from foxpath.core.passes.colours import gather
from foxpath.core.rehearsal import _kernel_place as loops
from foxpath.core.rehearsal.marks import Marks, painted
from foxpath.core.rehearsal.stage import bare_canvas, keep, lay
from foxpath.core.rehearsal.surface import LEVEL, ROOM_LIGHT, in_relief, tooth

PX_PER_MM = 4.0


def bars(colour, *, count=8, alpha=1.0, half=4.0, handling="opaque", body=0.3, picks=0.0, hair=False):
    """Level marks side by side over 100 x 64 mm."""
    x = np.linspace(4, 96, 8)
    lines = np.stack([np.stack([x, np.full(8, 4.0 + 8 * k)], axis=1) for k in range(count)]).astype(np.float32)
    ones = np.ones(count, np.float32)
    colours = np.tile(np.array(colour, np.float32), (count, 1))
    return Marks(lines, 92 * ones, half * ones, colours, alpha * ones, 50 * ones, hair, handling, body, picks)


def laid(marks, ground=(0.5, 0.5, 0.5), **more):
    canvas = bare_canvas(400, 256)
    canvas[..., :3] = np.round(np.array(ground) * 255)
    before = keep(canvas.copy())
    lay(canvas, [marks], PX_PER_MM, beneath=before.kept, **more)
    return canvas[40:200, 80:320, :3].astype(np.float32) / 255


class Handling(unittest.TestCase):
    def test_a_glaze_keeps_the_drawing_beneath_and_never_lightens(self):
        canvas = bare_canvas(400, 256)
        canvas[:, ::8, :3] = 60
        before = canvas.copy()
        lay(canvas, [bars((1.0, 0.6, 0.3), handling="glaze", alpha=0.8)], PX_PER_MM)
        part = (slice(40, 200), slice(80, 320), slice(0, 3))
        self.assertTrue((canvas[part] <= before[part]).all())
        share = canvas[part].astype(float) / before[part]
        # It lets the same share of each colour through, whatever lies beneath.
        np.testing.assert_allclose(share.mean(axis=(0, 1)), [1, 1 - 0.8 * 0.4, 1 - 0.8 * 0.7], atol=0.02)
        self.assertLess(float(share[..., 1].std()), 0.02)

    def test_dry_paint_stays_on_the_tooth_and_a_scumble_on_more_of_it(self):
        covers = laid(bars((1, 1, 1)))
        self.assertGreater(float(covers.mean()), 0.99)
        shares = {}
        for surface in ("smooth", "toothed"):
            for handling in ("dry", "scumble"):
                shown = laid(bars((1, 1, 1), handling=handling), surface=surface)
                shares[surface, handling] = float((shown.mean() - 0.5) / 0.5)
                expected = tooth(PX_PER_MM, surface)[list(LEVEL).index(handling)].mean()
                self.assertAlmostEqual(shares[surface, handling], float(expected), delta=0.05)
                self.assertGreater(float(shown.std()), 0.03)
        for surface in ("smooth", "toothed"):
            self.assertLess(shares[surface, "dry"], shares[surface, "scumble"])
            self.assertTrue(0.25 < shares[surface, "dry"] < 0.85)

    def test_covering_paint_breaks_on_a_toothed_ground_unless_it_is_a_stain_or_thick(self):
        whole = {body: float(laid(bars((1, 1, 1), body=body), surface="toothed").min()) for body in (0.1, 0.4, 0.9)}
        self.assertGreater(whole[0.1], 0.98)
        self.assertLess(whole[0.4], 0.9)
        self.assertGreater(float(laid(bars((1, 1, 1), body=0.4), surface="smooth").min()), 0.98)

    def test_the_tooth_is_as_large_as_on_the_canvas(self):
        """Twice the pixels for a millimetre show the same threads twice as large."""

        def thread_px(px_per_mm):
            rows = tooth(px_per_mm, "toothed")[0] - tooth(px_per_mm, "toothed")[0].mean()
            power = (np.abs(np.fft.rfft(rows, axis=1)) ** 2).mean(axis=0)
            power[:4] = 0
            return 256 / int(np.argmax(power))

        self.assertAlmostEqual(thread_px(16.0) / thread_px(8.0), 2, delta=0.3)

    def test_threads_do_not_change_a_byte_whatever_the_manner(self):
        for handling in ("opaque", "glaze", "dry", "scumble"):
            shown = [laid(bars((0.9, 0.5, 0.2), handling=handling), workers=k, surface="toothed") for k in (1, 2, 3)]
            np.testing.assert_array_equal(shown[0], shown[1])
            np.testing.assert_array_equal(shown[0], shown[2])

    def test_a_rasteriser_refuses_manners_it_has_no_tooth_for(self):
        image = np.zeros((64, 64, 4), np.float32)
        shape = np.zeros((1, 4, 2), np.float32)
        one = np.ones(1, np.float32)
        for more in (
            {"manner": np.array([2], np.uint8)},
            {"manner": np.array([5], np.uint8), "tooth": tooth(4.0)},
            {"manner": np.zeros(2, np.uint8)},
            {"tooth": np.ones((2, 9, 9), np.float32)},
        ):
            with self.assertRaises(ValueError):
                paint_outlines(image, shape, np.ones((1, 3), np.float32), one, **more)


class WetAndThick(unittest.TestCase):
    def test_a_wet_mark_takes_up_what_its_root_lies_in(self):
        canvas = bare_canvas(400, 256)
        canvas[:, :100, :3] = 0
        before = keep(canvas.copy())
        lay(canvas, [bars((1, 1, 1), picks=0.2)], PX_PER_MM, beneath=before.kept)
        # All are rooted at the left, in the dark: they stay a fifth darker to their tips.
        self.assertAlmostEqual(float(canvas[128, 300, :3].mean()) / 255, 0.8, delta=0.02)
        dry = bare_canvas(400, 256)
        lay(dry, [bars((1, 1, 1))], PX_PER_MM, beneath=before.kept)
        self.assertGreater(int(dry[128, 300, :3].min()), 250)

    def test_thick_paint_is_lighter_toward_the_room_light_and_thin_paint_is_flat(self):
        groups = in_relief([bars((0.6, 0.6, 0.6), body=0.95), bars((0.6, 0.6, 0.6), body=0.4)])
        self.assertEqual(len(groups), 4)
        shade, body, ridge, thin = groups
        self.assertIs(thin.handling, "opaque")
        shift = (ridge.lines_mm - body.lines_mm).mean(axis=(0, 1))
        self.assertGreater(float(shift @ np.array(ROOM_LIGHT)), 0)
        self.assertLess(float((shade.lines_mm - body.lines_mm).mean(axis=(0, 1)) @ np.array(ROOM_LIGHT)), 0)
        self.assertGreater(float(ridge.colour.mean()), float(body.colour.mean()))
        shown = laid(bars((0.6, 0.6, 0.6), count=3, half=2.0, body=0.95), ground=(0.6, 0.6, 0.6))
        self.assertGreater(float(shown.max()), 0.62)
        self.assertLess(float(shown.min()), 0.58)
        self.assertLess(float(np.ptp(laid(bars((0.6, 0.6, 0.6)), ground=(0.6, 0.6, 0.6)))), 0.01)


class Colours(unittest.TestCase):
    def lab(self, marks):
        return lab_from_linear(linear_from_rgb(marks.colour))[0]

    def paint(self, colour, **role):
        return self.lab(painted(bars(colour), replace(ROLES["lights"], **role)))

    def test_strength_limit_and_lean_keep_the_value(self):
        brown = (0.6, 0.4, 0.25)
        plain = self.paint(brown)
        for role in ({"chroma": 10.0}, {"lean": 8.0}, {"lean": -8.0}, {"tint": 0.5}):
            self.assertAlmostEqual(float(self.paint(brown, **role)[0]), float(plain[0]), delta=0.4)
        self.assertAlmostEqual(float(np.hypot(*self.paint(brown, chroma=10.0)[1:])), 10, delta=0.6)
        self.assertGreater(self.paint(brown, lean=8.0)[2], plain[2] + 6)
        self.assertLess(self.paint(brown, lean=-8.0)[2], plain[2] - 6)

    def test_colours_stay_between_the_coolest_and_the_warmest(self):
        warm, cool = (0.7, 0.45, 0.2), (0.3, 0.4, 0.6)
        self.assertAlmostEqual(float(self.paint(warm, warmest=12.0)[2]), 12, delta=0.5)
        self.assertAlmostEqual(float(self.paint(cool, coolest=-5.0)[2]), -5, delta=0.5)
        np.testing.assert_allclose(self.paint(cool, warmest=12.0), self.paint(cool), atol=0.3)

    def test_a_tube_black_greys_darks_and_a_mixed_one_keeps_them_alive(self):
        dark, light = (0.12, 0.08, 0.05), (0.7, 0.5, 0.35)
        own = float(np.hypot(*self.paint(dark)[1:]))
        self.assertLess(float(np.hypot(*self.paint(dark, black="tube")[1:])), 0.7 * own)
        np.testing.assert_allclose(self.paint(light, black="tube"), self.paint(light), atol=0.1)
        grey = (0.06, 0.06, 0.06)
        self.assertGreater(float(np.hypot(*self.paint(grey, black="mixed")[1:])), 1.5)
        self.assertLess(float(np.hypot(*self.paint(grey)[1:])), 0.5)

    def test_paint_lifted_for_a_glaze_comes_back_under_it(self):
        for colour in ((0.6, 0.36, 0.18), (0.3, 0.4, 0.5), (0.5, 0.5, 0.5)):
            white = painted(bars(colour), replace(ROLES["lights"], tint=0.0, lift=1.0), 98.0)
            self.assertGreaterEqual(float(white.lightness[0]), float(self.paint(colour)[0]) - 0.3)
            glaze = painted(bars(colour), replace(ROLES["lights"], handling="glaze"))
            canvas = bare_canvas(400, 256)
            lay(canvas, [white], PX_PER_MM)
            lay(canvas, [glaze], PX_PER_MM)
            seen = lab_from_linear(linear_from_rgb(canvas[100:101, 200, :3].astype(np.float32) / 255))[0]
            # Its value comes back; its colour is the glaze's.
            self.assertAlmostEqual(float(seen[0]), float(self.paint(colour)[0]), delta=2.5)
        low = painted(bars((0.6, 0.36, 0.18)), replace(ROLES["lights"], lift=1.0), 60.0)
        self.assertLessEqual(float(low.lightness.max()), 60.0)

    def test_a_glaze_lets_its_strongest_colour_through_whole(self):
        made = painted(bars((0.5, 0.3, 0.1)), replace(ROLES["lights"], handling="glaze"))
        np.testing.assert_allclose(made.colour[0], [1, 0.6, 0.2], atol=0.01)


class Gathered(unittest.TestCase):
    def test_a_pass_made_of_three_mixes_gives_them_back_with_their_shares(self):
        rng = np.random.default_rng(3)
        mixes = np.array([[0.2, 0.12, 0.08], [0.6, 0.35, 0.2], [0.85, 0.8, 0.72]])
        which = np.repeat([0, 1, 2], [300, 500, 200])
        colour = np.clip(mixes[which] + rng.normal(0, 0.01, (1000, 3)), 0, 1).astype(np.float32)
        area = np.ones(1000, np.float32)
        found = gather(colour, area)
        self.assertEqual(len(found), 3)
        np.testing.assert_allclose([one.share for one in found], [0.3, 0.5, 0.2], atol=0.02)
        np.testing.assert_allclose([one.rgb for one in found], mixes * 255, atol=3)
        self.assertEqual(sorted(one.light for one in found), [one.light for one in found])
        # By area: larger marks count for more.
        area[which == 2] = 9
        self.assertGreater(gather(colour, area)[-1].share, 0.6)
        self.assertEqual(gather(colour[:0], area[:0]), ())
        self.assertEqual(gather(colour, area), gather(colour, area))


class Roots(unittest.TestCase):
    def test_a_root_steps_back_along_its_hair(self):
        field = frozen(np.tile(np.array([1.0, 0.0], np.float32), (40, 40, 1)))
        start = np.array([[20.0, 20.0], [20.0, 20.0], [5.0, 5.0]], np.float32)
        back, turn = np.array([6.0, 6.0, 0.0], np.float32), np.array([0.0, np.pi / 2, 1.0], np.float32)
        loops.step_back(field, start, back, turn, ways(field, start))
        np.testing.assert_allclose(start, [[14, 20], [20, 14], [5, 5]], atol=1e-4)

    def test_it_steps_back_beyond_a_line_where_root_and_tip_change_ends(self):
        # To the left of column 18 hair runs left, to its right right: roots of both lie at the line.
        field = np.tile(np.array([1.0, 0.0], np.float32), (40, 40, 1))
        field[:, :18] = (-1, 0)
        start = np.array([[20.0, 20.0], [17.0, 20.0]], np.float32)
        loops.step_back(frozen(field), start, np.full(2, 6, np.float32), np.zeros(2, np.float32), ways(field, start))
        np.testing.assert_allclose(start, [[14, 20], [23, 20]], atol=1e-4)


if __name__ == "__main__":
    unittest.main()
