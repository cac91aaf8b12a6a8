"""How well a photograph agrees with the plan under a squint: against the textbook, and where nothing can be told."""

import unittest

import cv2
import numpy as np

from foxpath.core.progress.find import LEAST_SEEN, SQUINT, SQUINT_PX, agreement, first_guess, four_sided
from foxpath.core.progress.small import blur, lab_of, resized


def plan(seed=3, width=640, height=480):
    rng = np.random.default_rng(seed)
    rgb = cv2.GaussianBlur(rng.integers(0, 256, (height, width, 3)).astype(np.float32), (0, 0), 24)
    low, high = rgb.min(), rgb.max()
    return ((rgb - low) / (high - low) * 200 + 30).astype(np.uint8)


def ramps(width=640, height=480):
    """A plan without a feature: light from left to right, colour from top to bottom."""
    x, y = np.meshgrid(np.linspace(0, 1, width), np.linspace(0, 1, height))
    return np.stack([40 + 150 * x, 60 + 60 * x + 60 * y, 160 - 120 * y], axis=2).astype(np.uint8)


def plainly(rgb, photo, homography):
    """The correlation of each channel, weighed by how much the plan spreads in it."""
    less = min(1.0, SQUINT_PX / max(rgb.shape[:2]))
    small = resized(rgb, less)
    size = small.shape[1::-1]
    whole = np.diag([less, less, 1.0]) @ homography
    laid = cv2.warpPerspective(photo, whole, size, borderMode=cv2.BORDER_REPLICATE)
    seen = cv2.warpPerspective(np.ones(photo.shape[:2], np.uint8), whole, size) > 0
    a, b = (blur(lab_of(one), SQUINT)[seen].astype(np.float64) for one in (laid, small))
    spread = b.std(axis=0)
    same = [np.corrcoef(a[:, k], b[:, k])[0, 1] for k in range(3)]
    return float(np.dot(same, spread) / spread.sum())


class Agreement(unittest.TestCase):
    def test_it_is_the_correlation_of_what_is_seen(self):
        rgb = plan()
        other = np.clip(0.7 * rgb.astype(float) + 0.3 * plan(4) + (20, 0, -10), 0, 255).astype(np.uint8)
        for photo in (rgb, other, plan(5)):
            for moved in (
                np.eye(3),
                np.array([[1.1, 0.03, -20.0], [-0.02, 1.05, 15], [1e-5, 0, 1]]),
                np.diag([0.8, 0.9, 1.0]),
            ):
                self.assertAlmostEqual(agreement(rgb, photo, moved), plainly(rgb, photo, moved), places=4)

    def test_itself_its_negative_and_another_light(self):
        rgb = plan()
        self.assertAlmostEqual(agreement(rgb, rgb, np.eye(3)), 1.0, delta=1e-3)
        self.assertLess(agreement(rgb, 255 - rgb, np.eye(3)), -0.9)
        dim = (0.6 * rgb.astype(float) + 30).astype(np.uint8)
        self.assertGreater(agreement(rgb, dim, np.eye(3)), 0.97)

    def test_what_is_even_says_nothing(self):
        rgb, flat = plan(), np.full((480, 640, 3), 120, np.uint8)
        self.assertEqual(agreement(rgb, flat, np.eye(3)), 0.0)
        self.assertEqual(agreement(flat, rgb, np.eye(3)), 0.0)

    def test_too_little_of_it_in_the_photograph_is_no_agreement(self):
        rgb = plan()
        for share, told in ((LEAST_SEEN + 0.05, True), (LEAST_SEEN - 0.05, False)):
            part = np.ascontiguousarray(rgb[:, : round(640 * share)])
            self.assertEqual(agreement(rgb, part, np.eye(3)) > 0.9, told)
            self.assertEqual(agreement(rgb, part, np.eye(3)) == -1.0, not told)


class Guesses(unittest.TestCase):
    def photographed(self, rgb, size=(1500, 1100)):
        """The plan on a light wall, aslant; and its corners."""
        corners = np.array([[210.0, 160], [1240, 120], [1290, 930], [180, 900]], np.float32)
        h, w = rgb.shape[:2]
        made = cv2.getPerspectiveTransform(np.array([[0, 0], [w, 0], [w, h], [0, h]], np.float32), corners)
        wall = np.full((size[1], size[0], 3), 205, np.uint8)
        there = cv2.warpPerspective(np.ones((h, w), np.uint8), made, size) > 0
        return np.where(there[..., None], cv2.warpPerspective(rgb, made, size), wall).astype(np.uint8), corners

    def test_the_outline_serves_where_there_are_no_features_and_in_its_right_turn(self):
        rgb = ramps()
        for turned in (rgb, np.ascontiguousarray(rgb[::-1, ::-1])):
            photo, corners = self.photographed(turned)
            guess = first_guess(rgb, photo)
            self.assertEqual(guess.way, "outline")
            self.assertGreater(guess.agrees, 0.9)
            h, w = rgb.shape[:2]
            want = np.array([[0, 0], [w, 0], [w, h], [0, h]], np.float32)
            if turned is not rgb:
                want = np.roll(want, 2, axis=0)
            at = cv2.perspectiveTransform(corners[None].astype(np.float64), guess.homography)[0]
            self.assertLess(float(np.abs(at - want).max()), 14)

    def test_features_carry_it_where_no_outline_is_seen(self):
        rng = np.random.default_rng(8)
        rgb = plan()
        for _ in range(300):
            at, radius = rng.uniform((0, 0), (640, 480)).astype(int), int(rng.integers(4, 14))
            cv2.circle(rgb, tuple(int(v) for v in at), radius, tuple(int(v) for v in rng.integers(0, 256, 3)), -1)
        # Nearer than the whole canvas: every side lies beyond the photograph.
        true = np.array([[0.5, 0.02, 60.0], [-0.01, 0.52, 40.0], [0, 0, 1]])
        photo = cv2.warpPerspective(rgb, np.linalg.inv(true), (900, 700), borderMode=cv2.BORDER_REPLICATE)
        guess = first_guess(rgb, photo)
        self.assertEqual(guess.way, "features")
        at = np.array([[[100.0, 100], [800, 120], [450, 600]]])
        off = cv2.perspectiveTransform(at, guess.homography) - cv2.perspectiveTransform(at, true)
        self.assertLess(float(np.abs(off).max()), 2.0)

    def test_nothing_to_go_by_is_no_guess(self):
        self.assertIsNone(first_guess(plan(), np.full((700, 900, 3), 130, np.uint8)))

    def test_outlines_are_four_sided_clockwise_and_the_largest_first(self):
        photo, corners = self.photographed(plan())
        cv2.rectangle(photo, (1310, 960), (1480, 1080), (20, 20, 20), -1)
        found = four_sided(photo)
        areas = [float(cv2.contourArea(one.astype(np.float32))) for one in found]
        self.assertEqual(areas, sorted(areas, reverse=True))
        # What is less than a tenth of the photograph is no canvas.
        self.assertGreater(min(areas), 0.1 * photo.shape[0] * photo.shape[1])
        for one in found:
            x, y = one.T
            self.assertGreater(float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()), 0)
        self.assertLess(min(float(np.abs(one - corners).max()) for one in found), 12)


if __name__ == "__main__":
    unittest.main()
