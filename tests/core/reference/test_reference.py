import itertools
import unittest
from unittest import mock

import cv2
import numpy as np
from scipy.ndimage import gaussian_filter1d, uniform_filter1d

from foxpath.core.colour import difference, lab_from_rgb8, linear_from_rgb8, rgb8_from_linear
from foxpath.core.findings import worst_first
from foxpath.core.reference import health as health_module
from foxpath.core.reference.compose import Part, Pose, compose, inverse, mapped, pose_of
from foxpath.core.reference.correction import develop, gains_of_grey, gains_of_light, spot_linear
from foxpath.core.reference.health import measured, near_and_far
from foxpath.core.reference.judge import judged
from foxpath.core.reference.light import (
    clock_of,
    hour_words,
    toward,
)
from foxpath.core.reference.picture import Picture
from foxpath.core.reference.transfer import picture_lines, without
from tests.made import as_levels, leaves


class HealthOfMadePictures(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.sharp = leaves()
        cls.rng = np.random.default_rng(3)

    def health(self, levels):
        made = as_levels(levels)
        return measured(made, made)

    def test_blur_is_found_within_fifteen_percent(self):
        for sigma, grain in itertools.product((2, 4, 8), (0, 4)):
            soft = cv2.GaussianBlur(self.sharp, (0, 0), sigma) + self.rng.normal(0, grain, self.sharp.shape)
            self.assertAlmostEqual(self.health(soft).blur_px / sigma, 1, delta=0.15, msg=f"{sigma} px, grain {grain}")

    def test_a_flat_picture_has_no_edge_to_measure(self):
        health = self.health(np.full((300, 400, 3), 120.0))
        self.assertTrue(np.isnan(health.blur_px))
        says = judged(health, 0.2, 0.25)[0]
        self.assertEqual(says.level, "look")
        self.assertIn("No edge", says.says)

    def test_halos_are_told_from_honest_edges(self):
        soft = cv2.GaussianBlur(self.sharp, (0, 0), 0.8)
        step = np.zeros(4000)
        step[2000:] = 1
        # The same sharpening of one ideal step, at twenty samples for a pixel.
        line = gaussian_filter1d(uniform_filter1d(step, 20), 16)
        for amount in (0.5, 1.0):
            true = (line + amount * (line - gaussian_filter1d(line, 40))).max() - 1
            found = self.health(soft + amount * (soft - cv2.GaussianBlur(soft, (0, 0), 2))).overshoot
            self.assertAlmostEqual(found / true, 1, delta=0.25, msg=str(amount))
        self.assertLess(self.health(soft).overshoot, 0.02)

    def test_grain_lost_lights_and_lost_darks(self):
        grain = self.rng.normal(0, 1, self.sharp.shape[:2])[..., None]
        soft = cv2.GaussianBlur(self.sharp, (0, 0), 1)
        for sigma in (3, 8):
            self.assertAlmostEqual(self.health(soft + sigma * grain).noise / sigma, 1, delta=0.12)
        lost = soft.copy()
        lost[100:200, 100:300], lost[300:400, 100:250] = 260, 0
        health = self.health(lost)
        self.assertAlmostEqual(health.clipped, 20000 / lost[..., 0].size, delta=0.002)
        self.assertAlmostEqual(health.blocked, 15000 / lost[..., 0].size, delta=0.002)
        tile = health.clipped_map.shape[0] * 150 // 700, health.clipped_map.shape[1] * 200 // 900
        self.assertGreater(health.clipped_map[tile], 0.9)

    def test_bands_do_not_show(self):
        """A large picture is measured band by band: the maps are those of the whole."""
        made = as_levels(cv2.GaussianBlur(self.sharp, (0, 0), 2))
        made[340:420, 100:300] = 255
        whole = measured(made, made)
        with mock.patch.object(health_module, "BAND_PIXELS", 120_000):
            banded = measured(made, made)
        both = np.isfinite(whole.blur_map) & np.isfinite(banded.blur_map)
        self.assertGreater(both.sum(), 0.95 * np.isfinite(whole.blur_map).sum())
        self.assertLess(float(np.percentile(np.abs(whole.blur_map - banded.blur_map)[both], 95)), 0.1)
        np.testing.assert_allclose(banded.clipped_map, whole.clipped_map, atol=0.08)
        self.assertAlmostEqual(banded.clipped, whole.clipped, delta=1e-3)

    def test_flat_focus_and_a_blurred_part_are_said(self):
        mask = np.zeros((70, 90), bool)
        mask[:, :45] = True
        half = self.sharp.copy()
        half[:, 450:] = cv2.GaussianBlur(self.sharp, (0, 0), 4)[:, 450:]
        told = near_and_far(self.health(half), mask)
        self.assertAlmostEqual(told.far_px, 4, delta=0.8)
        self.assertLess(told.near_px, 1)
        flat = near_and_far(self.health(self.sharp), mask)
        words = {one.key: one for one in judged(flat, 0.2, 0.25)}
        self.assertEqual(words["focus"].level, "look")
        # The same half, but it is the animal that is blurred.
        tiles = np.zeros(told.blur_map.shape, bool)
        tiles[:, tiles.shape[1] // 3 :] = True
        blur = judged(told, 0.5, 0.25, tiles)[0]
        self.assertEqual((blur.key, blur.level), ("blur", "look"))
        self.assertIn("blurred", blur.says)
        self.assertEqual(worst_first([blur])[0], blur)


class Correcting(unittest.TestCase):
    def test_a_grey_patch_brings_the_true_colours_back(self):
        """A scene under lamp light, balanced by its grey patch: within 2 dE of the scene under daylight."""
        true = as_levels(leaves(200, 160, 5))
        true[20:40, 20:40] = 128
        cast = rgb8_from_linear(linear_from_rgb8(true) * np.array([1.0, 0.78, 0.52], np.float32))
        gains = gains_of_grey(spot_linear(cast, (30, 30), 6))
        shown = develop(Picture(cast), gains, 0, 0)
        exposure = np.log2(linear_from_rgb8(true)[30, 30, 1] / linear_from_rgb8(shown)[30, 30, 1])
        shown = develop(Picture(cast), gains, float(exposure), 0)
        away = difference(lab_from_rgb8(true), lab_from_rgb8(shown))
        self.assertLess(float(np.median(away)), 1)
        self.assertLess(float(np.percentile(away, 95)), 2)

    def test_light_colour_lift_and_off_the_picture(self):
        self.assertTrue(np.allclose(gains_of_light(6504), 1, atol=0.02))
        warm = gains_of_light(3000)
        self.assertGreater(warm[2], 1.4)
        self.assertLess(warm[0], 0.9)
        dark = np.full((120, 160, 3), 12, np.uint8)
        dark[:, 80:] = 180
        before = dark.copy()
        lifted = develop(Picture(dark), np.ones(3), 0, 1.0)
        self.assertGreater(int(lifted[60, 20, 0]), 30)
        self.assertLess(abs(int(lifted[60, 140, 0]) - 180), 3)
        np.testing.assert_array_equal(dark, before)
        with self.assertRaises(ValueError):
            spot_linear(dark, (500, 10), 4)

    def test_sixteen_bits_keep_their_steps_when_darks_are_lifted(self):
        ramp = np.linspace(0, 1500, 256, dtype=np.uint16)
        deep = np.repeat(np.repeat(ramp[None, :, None], 64, 0), 3, 2)
        shallow = (deep >> 8).astype(np.uint8)
        steps = [
            len(np.unique(develop(one, np.ones(3), 3.0, 0.0)[..., 0]))
            for one in (Picture(shallow), Picture(shallow, deep=deep))
        ]
        self.assertGreater(steps[1], 3 * steps[0])


class Lights(unittest.TestCase):
    def test_hours_in_words(self):
        self.assertEqual([hour_words(v) for v in (0, 10.5, 11.9, 3.2)], ["12 h", "10 h 30", "12 h", "3 h"])
        self.assertAlmostEqual(clock_of(toward(4, 25))[0], 4)


class Composing(unittest.TestCase):
    def test_a_pose_is_recovered_from_its_map(self):
        for pose in (Pose(120, 80, 0.7, 35, mirrored=False), Pose(40, 60, 2.5, -120, mirrored=True)):
            again = pose_of(pose.affine(300, 200), 300, 200)
            np.testing.assert_allclose(
                (again.x, again.y, again.scale, again.turn_deg), (pose.x, pose.y, pose.scale, pose.turn_deg), atol=1e-9
            )
            self.assertEqual(again.mirrored, pose.mirrored)
            points = np.array([[3.0, 4], [150, 90]])
            affine = pose.affine(300, 200)
            np.testing.assert_allclose(mapped(inverse(affine), mapped(affine, points)), points, atol=1e-9)

    def test_a_part_lands_where_its_pose_says_with_its_soft_edge(self):
        main = np.full((200, 300, 3), 60, np.uint8)
        lent = np.full((100, 100, 3), 60, np.uint8)
        lent[30:50, 20:40] = 220
        outline = np.array([[10.0, 10], [90, 10], [90, 90], [10, 90]])
        pose = Pose(200, 100, 1.5, 90)
        made = compose(main, 1.0, [Part(lent, outline, pose.affine(100, 100), 1.0, 0.0)])
        where = mapped(pose.affine(100, 100), np.array([[30.0, 40.0]]))[0]
        rows, columns = np.nonzero(made[..., 0] > 140)
        np.testing.assert_allclose((columns.mean() + 0.5, rows.mean() + 0.5), where, atol=0.6)
        self.assertAlmostEqual(len(rows), 20 * 20 * 1.5**2, delta=60)
        self.assertTrue((main == 60).all())
        lent[:] = 220
        soft = compose(main, 1.0, [Part(lent, outline, Pose(150, 100).affine(100, 100), 1.0, 12.0)])
        share = (soft[100, :150, 0].astype(float) - 60) / 160
        wide = np.interp(0.9, share, np.arange(150)) - np.interp(0.1, share, np.arange(150))
        self.assertAlmostEqual(wide, 12, delta=1.5)

    def test_one_that_is_made_much_smaller_keeps_its_place_and_is_averaged(self):
        y, x = np.mgrid[:480, :640]
        blob = 40 + 200 * np.exp(-((x - 410) ** 2 + (y - 190) ** 2) / 2 / 30**2)
        lent = np.repeat(np.round(blob)[..., None], 3, axis=2).astype(np.uint8)
        outline = np.array([[20.0, 20], [620, 20], [620, 460], [20, 460]])
        main = np.full((200, 260, 3), 40, np.uint8)
        for shrink in (0.8, 0.3, 0.17):
            affine = Pose(130, 100, shrink).affine(640, 480)
            made = compose(main, 1.0, [Part(lent, outline, affine, 1.0, 0.0)])[..., 0].astype(float) - 40
            made[made < 20] = 0
            rows, columns = np.mgrid[:200, :260] + 0.5
            at = (made * columns).sum() / made.sum(), (made * rows).sum() / made.sum()
            np.testing.assert_allclose(
                at, mapped(affine, np.array([[410.5, 190.5]]))[0], atol=0.15, err_msg=str(shrink)
            )
        # Single rows of light and dark come out as their mean.
        lent[:] = np.where(y % 2, 200, 40)[..., None]
        made = compose(main, 1.0, [Part(lent, outline, Pose(130, 100, 0.2).affine(640, 480), 1.0, 0.0)])
        # Five rows are averaged: two of one and three of the other.
        np.testing.assert_allclose(made[90:110, 120:140], 120, atol=17)


class Transferring(unittest.TestCase):
    def test_lines_follow_a_marking_and_leave_hair_out(self):
        rng = np.random.default_rng(4)
        picture = np.full((300, 400, 3), 90, np.uint8)
        cv2.ellipse(picture, (200, 150), (120, 80), 0, 0, 360, (190, 180, 160), -1)
        for _ in range(500):
            x, y = rng.integers(0, (400, 300))
            tone = picture[y, x].astype(int) + int(rng.integers(-25, 25))
            cv2.line(picture, (int(x), int(y)), (int(x + 14), int(y + 5)), [int(v) for v in np.clip(tone, 0, 255)], 1)
        # Of longer hair it is looked for on a smaller picture, and told in the picture's own pixels all the same.
        for hair_px in (8.0, 30.0):
            at = np.concatenate(picture_lines(picture, hair_px))
            away = np.abs(np.hypot((at[:, 0] - 200) / 120, (at[:, 1] - 150) / 80) - 1) * 100
            self.assertLess(float(np.median(away)), 6, hair_px)
        lines = picture_lines(picture, 15.0)
        points = np.concatenate(lines)
        off = np.abs(np.hypot((points[:, 0] - 200) / 120, (points[:, 1] - 150) / 80) - 1) * 100
        self.assertLess(float(np.percentile(off, 90)), 8)
        length = sum(float(np.hypot(*np.diff(line, axis=0).T).sum()) for line in lines)
        self.assertGreater(length, 0.7 * 634)
        left = without(lines, [np.array([[200.0, 0.0], [200.0, 300.0]])], 10)
        rest = np.concatenate(left)
        self.assertFalse((np.abs(rest[:, 0] - 200) < 9).any())
        self.assertGreater(len(left), len(lines) - 1)
