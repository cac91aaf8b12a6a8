"""The stand-in camera by its figures: how rooms fall, where the canvas lies, what lens, lamp, wall and sensor add, and how a hand drifts."""

import unittest
from dataclasses import replace
from unittest import mock

import cv2
import numpy as np

from foxpath.core.colour import linear_from_rgb8
from foxpath.core.progress import camera
from foxpath.core.progress.camera import DRIFT_MM, WOBBLE_DE, Room, another_hand, photograph, some_room
from foxpath.core.progress.frame import through
from foxpath.core.progress.small import lab_of

SIZE = (800, 600)
FLAT = Room(
    long_px=800, turn_deg=0, tilt_deg=0, roll_deg=0, fills=0.8, lens=0, lamp=(1, 1, 1), fall=(0, 0), tone=1.0, blur_px=0.01,
    noise=0.0, quality=100,
)  # fmt: skip
"""Square on, in even white light, without a fault."""


def grey(level=128, size=(400, 300)):
    """Return an even canvas."""
    return np.full((size[1], size[0], 3), level, np.uint8)


def middle(photo, half=40):
    """Return the middle of a photograph."""
    h, w = photo.shape[:2]
    return photo[h // 2 - half : h // 2 + half, w // 2 - half : w // 2 + half]


class Rooms(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.rooms = [some_room(seed) for seed in range(900)]

    def spread(self, tell, low, high, rooms=None):
        """Hold that a figure lies between bounds, and comes near to both."""
        values = np.array([tell(room) for room in rooms or self.rooms])
        self.assertGreaterEqual(values.min(), low - 1e-9)
        self.assertLessEqual(values.max(), high + 1e-9)
        # Of some hundred, the outermost lie within a twentieth of the bounds.
        self.assertLess(values.min() - low, 0.05 * (high - low))
        self.assertLess(high - values.max(), 0.05 * (high - low))

    def test_every_figure_falls_within_its_bounds_and_all_over_them(self):
        for tell, low, high in (
            (lambda r: r.turn_deg, -10, 10),
            (lambda r: r.tilt_deg, -9, 9),
            (lambda r: r.roll_deg, -3, 3),
            (lambda r: r.lens, -0.02, 0.03),
            (lambda r: r.lamp[0], 0.98, 1.04),
            (lambda r: r.lamp[1], 0.97, 1.015),
            (lambda r: r.lamp[2], 0.82, 1.09),
            (lambda r: r.fall[0], -0.3, 0.3),
            (lambda r: r.fall[1], -0.25, 0.25),
            (lambda r: r.tone, 0.92, 1.12),
            (lambda r: r.glare_at[0], 0.2, 0.8),
            (lambda r: r.glare_at[1], 0.15, 0.85),
            (lambda r: r.blur_px, 0.4, 1.0),
            (lambda r: r.noise, 0.003, 0.009),
            (lambda r: r.wall[0], 30, 85),
            (lambda r: r.wall[1], -4, 6),
            (lambda r: r.wall[2], -6, 14),
        ):
            self.spread(tell, low, high)
        self.assertEqual({room.quality for room in self.rooms}, set(range(88, 96)))
        self.assertEqual({room.long_px for room in self.rooms}, {3000})
        # A warm lamp has more red and less blue.
        lamps = np.array([room.lamp for room in self.rooms])
        self.assertLess(np.corrcoef(lamps[:, 0], lamps[:, 2])[0, 1], -0.99)
        self.assertLess(np.corrcoef(lamps[:, 0], lamps[:, 1])[0, 1], -0.99)

    def test_a_third_is_cut_off_and_in_a_quarter_a_lamp_is_mirrored(self):
        cut = [room for room in self.rooms if room.fills > 0.9]
        whole = [room for room in self.rooms if room.fills <= 0.9]
        self.assertAlmostEqual(len(cut) / 900, 1 / 3, delta=0.05)
        self.assertAlmostEqual(sum(room.glare > 0 for room in self.rooms) / 900, 1 / 4, delta=0.045)
        self.spread(lambda r: r.fills, 0.95, 1.0, cut)
        self.spread(lambda r: r.fills, 0.66, 0.82, whole)
        self.spread(lambda r: abs(r.off[0]), 0.08, 0.13, cut)
        self.assertAlmostEqual(np.mean([room.off[0] > 0 for room in cut]), 0.5, delta=0.1)
        self.spread(lambda r: r.off[1], -0.02, 0.02, cut)
        self.spread(lambda r: r.off[0], -0.04, 0.04, whole)
        self.spread(lambda r: r.off[1], -0.03, 0.03, whole)
        self.spread(lambda r: r.glare, 0.12, 0.35, [some_room(seed, glare=True) for seed in range(300)])

    def test_what_is_asked_for_is_so(self):
        self.assertTrue(all(some_room(seed, cut=True).fills >= 0.95 for seed in range(20)))
        self.assertTrue(all(some_room(seed, cut=False).fills < 0.9 for seed in range(20)))
        self.assertTrue(all(some_room(seed, glare=True).glare > 0 for seed in range(20)))
        self.assertTrue(all(some_room(seed, glare=False).glare == 0 for seed in range(20)))
        self.assertEqual(some_room(1, 640).long_px, 640)


class Lies(unittest.TestCase):
    def test_the_canvas_lies_where_a_pinhole_sees_it(self):
        room = replace(FLAT, turn_deg=14.0, tilt_deg=-9.0, roll_deg=5.0, off=(0.05, -0.03), fills=0.7)
        frame = camera._frame(room, (400, 300), SIZE)
        a, b, c = np.radians((14.0, -9.0, 5.0))
        reach = 0.7 * min(800 / 400, 600 / 300)
        for x, y in ((0, 0), (400, 0), (400, 300), (0, 300), (123, 45)):
            px, py = reach * (x - 200), reach * (y - 150)
            # Tilted about the level line, then turned about the upright one, then rolled in the picture.
            p = np.array([px, py * np.cos(b), py * np.sin(b)])
            p = np.array([p[0] * np.cos(a) + p[2] * np.sin(a), p[1], -p[0] * np.sin(a) + p[2] * np.cos(a)])
            p = np.array([p[0] * np.cos(c) - p[1] * np.sin(c), p[0] * np.sin(c) + p[1] * np.cos(c), p[2]])
            focal = 1.3 * 800
            seen = focal * p[:2] / (p[2] + focal) + (400 + 40, 300 - 18)
            np.testing.assert_allclose(frame.to_photo(np.array([[x, y]], float))[0], seen, atol=1e-6)

    def test_each_pixel_sees_the_place_that_lies_there(self):
        room = replace(FLAT, turn_deg=12.0, tilt_deg=8.0, roll_deg=-4.0, lens=0.03)
        frame = camera._frame(room, (400, 300), SIZE)
        x, y = camera._back(frame, *SIZE)
        for i, j in ((40, 60), (300, 400), (560, 700), (120, 650)):
            place = np.array([[x[i, j], y[i, j]]], np.float64)
            np.testing.assert_allclose(frame.to_photo(place)[0], (j + 0.5, i + 0.5), atol=0.02)
        # Straight lines bend: the lens draws its corners in or out.
        straight = through(np.linalg.inv(frame.homography), np.array([[0.0, 0.0]]))[0]
        self.assertGreater(np.hypot(*(frame.corners(400, 300)[0] - straight)), 2)

    def test_an_upright_canvas_gives_an_upright_photograph(self):
        photo, corners = photograph(grey(size=(300, 400)), FLAT)
        self.assertEqual(photo.shape, (800, 600, 3))
        np.testing.assert_allclose(np.ptp(corners, axis=0), (480, 640), atol=0.1)
        square, _ = photograph(grey(size=(300, 300)), FLAT)
        self.assertEqual(square.shape, (600, 800, 3))

    def test_what_is_painted_stands_at_its_corners(self):
        canvas = grey(60)
        canvas[:150, :200] = (220, 40, 40)
        room = replace(FLAT, turn_deg=6.0, roll_deg=3.0)
        photo, corners = photograph(canvas, room)
        for share, red in (((0.46, 0.46), True), ((0.54, 0.46), False), ((0.46, 0.54), False)):
            at = cv2.perspectiveTransform(
                np.array([[[400 * share[0], 300 * share[1]]]], np.float32),
                cv2.getPerspectiveTransform(
                    np.array([[0, 0], [400, 0], [400, 300], [0, 300]], np.float32), corners.astype(np.float32)
                ),
            )[0, 0]
            self.assertEqual(bool(photo[int(at[1]), int(at[0]), 0] > 150), red, share)


class Light(unittest.TestCase):
    def test_exposed_so_that_the_lightest_stays_below_white(self):
        dim, _ = photograph(grey(100), replace(FLAT, wall=(20.0, 0.0, 0.0)))
        self.assertAlmostEqual(float(middle(dim).mean()), 100, delta=2)
        light, _ = photograph(grey(255), replace(FLAT, wall=(20.0, 0.0, 0.0)))
        self.assertAlmostEqual(float(linear_from_rgb8(middle(light)).mean()), 0.9, delta=0.02)

    def test_a_tone_curve_bends_and_a_lamp_colours(self):
        bare = float(linear_from_rgb8(middle(photograph(grey(120), FLAT)[0])).mean())
        bent = float(linear_from_rgb8(middle(photograph(grey(120), replace(FLAT, tone=1.4))[0])).mean())
        self.assertAlmostEqual(bent, bare**1.4, delta=0.01)
        warm = linear_from_rgb8(middle(photograph(grey(120), replace(FLAT, lamp=(1.0, 0.8, 0.5)))[0])).mean(axis=(0, 1))
        np.testing.assert_allclose(warm / warm[0], (1, 0.8, 0.5), atol=0.03)

    def test_it_falls_off_to_the_sides_and_into_the_corners(self):
        room = replace(FLAT, fills=1.0, wall=(10.0, 0.0, 0.0))
        even = linear_from_rgb8(photograph(grey(128), room)[0])[..., 1]
        fell = linear_from_rgb8(photograph(grey(128), replace(room, fall=(0.4, 0.2)))[0])[..., 1]
        base = float(even[295:305, 395:405].mean())
        for (i, j), u, v in (
            ((300, 100), -0.75, 0),
            ((300, 700), 0.75, 0),
            ((75, 400), 0, -0.75),
            ((525, 400), 0, 0.75),
        ):
            around = np.s_[i - 5 : i + 5, j - 5 : j + 5]
            self.assertAlmostEqual(float(even[around].mean()) / base, 1 - 0.06 * 0.5625, delta=0.01)
            told = 1 + 0.5 * 0.4 * u + 0.5 * 0.2 * v - 0.06 * 0.5625
            self.assertAlmostEqual(float(fell[around].mean()) / base, told, delta=0.012)

    def test_a_lamp_is_mirrored_where_it_lies_and_not_on_the_wall(self):
        room = replace(FLAT, wall=(20.0, 0.0, 0.0))
        dull = linear_from_rgb8(photograph(grey(100), room)[0])[..., 1]
        shone = linear_from_rgb8(photograph(grey(100), replace(room, glare=0.3, glare_at=(0.75, 0.25)))[0])[..., 1]
        more = shone - dull
        i, j = np.unravel_index(int(cv2.GaussianBlur(more, (0, 0), 6).argmax()), more.shape)
        np.testing.assert_allclose((j, i), (400 + 0.25 * 640, 300 - 0.25 * 480), atol=6)
        self.assertAlmostEqual(float(more[178:182, 558:562].mean()), 0.3, delta=0.02)
        # It spreads a little farther to the sides than up and down: 0.075 of the width.
        self.assertAlmostEqual(float(more[178:182, 558 - 60 : 562 - 60].mean()), 0.3 * np.exp(-0.5), delta=0.02)
        self.assertAlmostEqual(float(more[178 + 60 : 182 + 60, 558:562].mean()), 0.3 * np.exp(-0.5 * 1.6), delta=0.02)
        edge, _ = photograph(grey(100), replace(room, glare=0.3, glare_at=(0.0, 0.5)))
        beyond = linear_from_rgb8(edge)[290:310, 60:70, 1] - dull[290:310, 60:70]
        self.assertLess(float(np.abs(beyond).max()), 0.02)

    def test_noise_grows_with_the_root_of_the_light(self):
        deviations = []
        for level in (60, 200):
            photo, _ = photograph(grey(level), replace(FLAT, noise=0.02, wall=(20.0, 0.0, 0.0)))
            part = linear_from_rgb8(middle(photo))[..., 1]
            deviations.append(float(part.std()) / np.sqrt(float(part.mean())))
        # The picture's packing takes a quarter of it away, for it keeps colours coarser than light.
        np.testing.assert_allclose(deviations, 0.0153, rtol=0.1)
        black, _ = photograph(grey(0), replace(FLAT, noise=0.02, wall=(60.0, 0.0, 0.0)))
        self.assertGreater(float(linear_from_rgb8(middle(black)).max()), 0.004)
        first, again, other = (photograph(grey(90), replace(FLAT, noise=0.02), seed)[0] for seed in (1, 1, 2))
        np.testing.assert_array_equal(first, again)
        self.assertTrue((first != other).any())

    def test_the_wall_has_its_colour_a_mast_a_ledge_and_the_canvass_shadow(self):
        wall = camera._wall(replace(FLAT, wall=(60.0, 4.0, 10.0)), 800, 600, np.random.default_rng(1))
        lab = lab_of(
            np.clip(255 * np.where(wall <= 0.0031308, 12.92 * wall, 1.055 * wall ** (1 / 2.4) - 0.055), 0, 255).astype(
                np.uint8
            )
        )
        np.testing.assert_allclose(np.median(lab[:500, :300], axis=(0, 1)), (60, 4, 10), atol=1.5)
        self.assertTrue(0.3 < lab[:500, :300, 0].std() < 4)
        np.testing.assert_allclose(lab[100, 400], (48, 10, 22), atol=1.5)
        wood = np.abs(lab[100, :, 0] - 48) + np.abs(lab[100, :, 2] - 22) < 4
        self.assertEqual((int(np.flatnonzero(wood)[0]), int(wood.sum())), (400 - 28, 56))
        ledge = np.abs(lab[:, 100, 0] - 0.9 * 48) + np.abs(lab[:, 100, 2] - 0.9 * 22) < 4
        self.assertEqual((int(np.flatnonzero(ledge)[0]), int(np.flatnonzero(ledge)[-1])), (558, 581))
        photo, corners = photograph(grey(200), replace(FLAT, wall=(70.0, 0.0, 0.0), fills=0.6))
        light = linear_from_rgb8(photo)[..., 1]
        right, foot = int(corners[1, 0]), int(corners[2, 1])
        # It falls to the right and below.
        beside = light[250:350, right + 3].mean() / light[250:350, right + 40].mean()
        self.assertLess(beside, 0.85)
        self.assertGreater(light[250:350, int(corners[0, 0]) - 4].mean() / light[250:350, 60].mean(), 0.9)
        self.assertLess(light[foot + 4, 250:330].mean() / light[foot + 40, 250:330].mean(), 0.85)

    def test_out_of_focus_its_edges_are_as_soft_as_is_said(self):
        canvas = grey(40)
        canvas[:, 200:] = 200
        widths = []
        for sigma in (1.0, 3.0):
            photo, _ = photograph(canvas, replace(FLAT, blur_px=sigma, wall=(70.0, 0.0, 0.0)))
            step = linear_from_rgb8(photo[280:320])[..., 1].mean(axis=0)
            slope = np.gradient(step)[380:420]
            at = np.arange(40)
            mean = (at * slope).sum() / slope.sum()
            widths.append(float(np.sqrt((slope * (at - mean) ** 2).sum() / slope.sum())))
        self.assertAlmostEqual(widths[1] ** 2 - widths[0] ** 2, 8.0, delta=0.8)

    def test_a_fine_picture_from_afar_is_averaged_and_not_picked(self):
        fine = grey(0, (3200, 2400))
        fine[:, ::2] = 255
        photo, _ = photograph(fine, replace(FLAT, wall=(20.0, 0.0, 0.0)))
        part = linear_from_rgb8(middle(photo))
        self.assertLess(float(part.std()), 0.05)
        self.assertAlmostEqual(float(part.mean()), 0.5, delta=0.06)


class Hands(unittest.TestCase):
    def test_its_drawing_drifts_by_at_most_a_millimetre_and_a_bit(self):
        px, size = 2.0, (480, 360)
        x = np.linspace(20, 90, size[0], dtype=np.float32)
        ramp = np.zeros((size[1], size[0], 3), np.float32)
        ramp[..., 0] = x[None]
        moved = []
        with mock.patch.object(camera, "WOBBLE_DE", 0.0), mock.patch.object(camera, "lab_of", lambda lab: lab), mock.patch.object(
            camera, "rgb_of", lambda lab: lab
        ):  # fmt: skip
            for turned in (False, True):
                plane = np.ascontiguousarray(ramp.transpose(1, 0, 2)) if turned else ramp
                for seed in range(6):
                    made = another_hand(plane, px, seed)
                    off = (made - plane)[40:-40, 40:-40, 0] / ((90 - 20) / (size[0] - 1)) / px
                    moved.append(float(np.abs(off).max()))
                    # It drifts slowly: hardly from one millimetre to the next.
                    self.assertLess(float(np.abs(np.gradient(off, axis=1)).max()), 0.12)
        self.assertLessEqual(max(moved), DRIFT_MM * 1.02)
        self.assertGreater(max(moved), 0.6 * DRIFT_MM)
        self.assertGreater(min(moved), 0.1 * DRIFT_MM)

    def test_its_colours_wobble_by_a_step_or_two(self):
        flat = np.full((240, 320, 3), 128, np.uint8)
        seen = []
        for seed in range(8):
            off = lab_of(another_hand(flat, 2.0, seed)) - lab_of(flat)
            most = np.abs(off).max(axis=(0, 1))
            self.assertLessEqual(float(most.max()), WOBBLE_DE / 1.7 + 0.8)
            seen.append(float(most[0]))
            self.assertGreater(float(off[..., 0].std()), 0.1)
        self.assertGreater(max(seen), 0.75 * WOBBLE_DE / 1.7)
        np.testing.assert_array_equal(another_hand(flat, 2.0, 3), another_hand(flat, 2.0, 3))


if __name__ == "__main__":
    unittest.main()
