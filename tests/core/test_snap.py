import unittest

import cv2
import numpy as np

from foxpath.core.curves import closed_curve
from foxpath.core.errors import AppError
from foxpath.core.progress import Cancelled, Progress
from foxpath.core.zones import cut_part, fill

WIDTH, HEIGHT = 800, 600


def hairy(*, shown=True, seed=3):
    """A red coat of hair strokes, oval, on grey-green ground; without `shown` the ground bears the same coat."""
    rng = np.random.default_rng(seed)
    ground = cv2.GaussianBlur(rng.normal(0, 60, (HEIGHT, WIDTH)).astype(np.float32), (0, 0), 9)
    image = np.clip(np.array([104, 116, 108]) + ground[..., None], 0, 255).astype(np.uint8)
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    oval = ((x - 400) / 210) ** 2 + ((y - 300) / 150) ** 2 < 1
    coat = np.full_like(image, (150, 84, 50))
    for at in rng.uniform((0, 0), (WIDTH, HEIGHT), (16000, 2)):
        tone = (np.array([165, 92, 55]) * rng.uniform(0.55, 1.35)).clip(0, 255)
        tip = at + (28, rng.normal(8, 5))
        cv2.line(coat, tuple(map(int, at)), tuple(map(int, tip)), tuple(map(float, tone)), 2, cv2.LINE_AA)
    return np.where(oval[..., None], coat, image) if shown else coat, oval


INSIDE = [np.array([[300.0, 300.0], [500.0, 310.0]])]
BEYOND = [np.array([[120.0, 100.0], [120.0, 500.0]]), np.array([[690.0, 100.0], [690.0, 500.0]])]


class Cutting(unittest.TestCase):
    def overlap(self, cut, truth, scale=1.0):
        found = fill(closed_curve(cut.points) / scale, truth.shape)
        return (found & truth).sum() / (found | truth).sum()

    def test_two_kinds_of_scribble_find_a_coat(self):
        rgb, oval = hairy()
        cut = cut_part(rgb, (WIDTH, HEIGHT), INSIDE, BEYOND)
        self.assertGreater(self.overlap(cut, oval), 0.94)
        self.assertGreater(cut.shown_share, 0.9)
        self.assertLessEqual(len(cut.points), 72)

    def test_a_reduced_picture_gives_the_same_outline_in_reference_pixels(self):
        rgb, oval = hairy()
        small = cv2.resize(rgb, (WIDTH // 2, HEIGHT // 2), interpolation=cv2.INTER_AREA)
        cut = cut_part(small, (WIDTH * 2, HEIGHT * 2), [2 * s for s in INSIDE], [2 * s for s in BEYOND])
        self.assertGreater(self.overlap(cut, oval, 2.0), 0.92)

    def test_where_the_picture_shows_no_border_the_cut_says_so(self):
        rgb, _ = hairy(shown=False)
        cut = cut_part(rgb, (WIDTH, HEIGHT), INSIDE, BEYOND)
        self.assertLess(cut.shown_share, 0.4)
        # It keeps between the scribbles.
        self.assertTrue(((cut.points[:, 0] > 120) & (cut.points[:, 0] < 690)).all())

    def test_a_stroke_beyond_takes_off(self):
        rgb, oval = hairy()
        half = [np.array([[470.0, 180.0], [470.0, 430.0]])]
        cut = cut_part(rgb, (WIDTH, HEIGHT), [np.array([[300.0, 300.0], [380.0, 300.0]])], BEYOND + half)
        self.assertLess(cut.points[:, 0].max(), 475)
        found = fill(closed_curve(cut.points), oval.shape)
        self.assertTrue(found[300, 300:380].all())
        self.assertGreater((found & oval).sum() / found.sum(), 0.95)

    def test_without_any_beyond_what_lies_further_off_stands_for_it(self):
        rgb, oval = hairy()
        for beyond in ([], [np.array([[-90.0, -90.0], [-80.0, -90.0]])]):
            cut = cut_part(rgb, (WIDTH, HEIGHT), INSIDE, beyond)
            self.assertGreater(self.overlap(cut, oval), 0.9)

    def test_nothing_inside_is_told(self):
        rgb, _ = hairy()
        for within in ([], [np.array([[-500.0, -500.0], [-450.0, -480.0]])]):
            with self.assertRaisesRegex(AppError, "Nothing marks the inside"):
                cut_part(rgb, (WIDTH, HEIGHT), within, BEYOND)
        with self.assertRaises(Cancelled):
            cut_part(rgb, (WIDTH, HEIGHT), INSIDE, BEYOND, Progress(cancelled=lambda: True))
