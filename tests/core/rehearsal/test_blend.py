"""Strokes of an area blended into one another, and nothing beyond it."""

import unittest

import cv2
import numpy as np

from foxpath.core.rehearsal.stage import STEP, Blended, blend

HEIGHT, WIDTH = 240, 320


def canvas(seed=3):
    """Chips of paint, opaque."""
    rng = np.random.default_rng(seed)
    chips = rng.integers(40, 220, (HEIGHT // 8, WIDTH // 8, 4), np.uint8)
    made = cv2.resize(chips, (WIDTH, HEIGHT), interpolation=cv2.INTER_NEAREST)
    made[..., 3] = 255
    return made


def share(left=0, right=WIDTH):
    """The area between two columns, its borders soft over a cell."""
    made = np.zeros((HEIGHT // STEP, WIDTH // STEP), np.float32)
    made[:, left // STEP : right // STEP] = 1
    return made


def plain(image, part, sigma):
    """Blend at full size, as it is meant: colours of the area alone, averaged by their share."""
    wide = cv2.resize(part, (WIDTH, HEIGHT), interpolation=cv2.INTER_LINEAR)
    colour = image.astype(np.float64)
    weight = cv2.GaussianBlur(wide.astype(np.float64), (0, 0), sigma) + 1e-4
    soft = cv2.GaussianBlur(colour * wide[..., None], (0, 0), sigma) / weight[..., None]
    return colour + (soft - colour) * wide[..., None]


class Blending(unittest.TestCase):
    def test_it_is_what_a_blur_of_the_area_alone_gives(self):
        for sigma in (12.0, 40.0):
            for part in (share(), share(80, 240)):
                made = canvas()
                wanted = plain(made, part, sigma)
                blend(made, Blended(part, sigma))
                off = np.abs(made[..., :3] - wanted[..., :3])
                self.assertLess(off.mean(), 1.5, sigma)
                self.assertLess(np.percentile(off, 99), 8, sigma)

    def test_what_lies_beyond_is_neither_touched_nor_drawn_in(self):
        before = canvas()
        before[:, : WIDTH // 2, :3] = 250
        before[:, WIDTH // 2 :, :3] //= 2
        made = before.copy()
        blend(made, Blended(share(WIDTH // 2), 30.0))
        np.testing.assert_array_equal(made[:, : WIDTH // 2 - STEP], before[:, : WIDTH // 2 - STEP])
        # Halves that are darker by far stay so up to the border.
        self.assertLess(int(made[:, WIDTH // 2 + STEP :, :3].max()), 110)
        self.assertTrue((made[..., 3] == 255).all())

    def test_chips_are_gone_where_it_lies_and_their_mean_stays(self):
        before, made = canvas(), canvas()
        blend(made, Blended(share(), 20.0))
        self.assertLess(made[..., :3].std(), 0.35 * before[..., :3].std())
        np.testing.assert_allclose(made[..., :3].mean(axis=(0, 1)), before[..., :3].mean(axis=(0, 1)), atol=4)

    def test_half_a_share_goes_half_the_way(self):
        before, whole, half = canvas(), canvas(), canvas()
        blend(whole, Blended(share(), 20.0))
        blend(half, Blended(share() / 2, 20.0))
        middle = (before[..., :3].astype(float) + whole[..., :3]) / 2
        self.assertLess(np.abs(half[..., :3] - middle).max(), 2.0)

    def test_threads_change_nothing(self):
        one, two = canvas(), canvas()
        blend(one, Blended(share(40, 300), 16.0), workers=1)
        blend(two, Blended(share(40, 300), 16.0), workers=3)
        np.testing.assert_array_equal(one, two)


if __name__ == "__main__":
    unittest.main()
