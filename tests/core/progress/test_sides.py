"""Sides of a canvas that lies on a table: where each is seen is known to a part of a pixel."""

import itertools
import unittest
from functools import cache

import numpy as np

from foxpath.core.progress.frame import Frame, frame_from
from foxpath.core.progress.sides import BOW_MM, PROFILES, TILT_MM, UNLIKELY, _course, side_points
from foxpath.core.progress.small import rgb_of

WIDTH, HEIGHT, PX = 600, 480, 2.4
"""Of the work picture: 250 by 200 mm."""
PHOTO = (900, 760)
CORNERS = np.array([[110.0, 96.0], [786.0, 120.0], [770.0, 668.0], [128.0, 640.0]])
CANVAS, TABLE = (70.0, 4.0, 14.0), (42.0, 2.0, 6.0)
FINER = 3


@cache
def _shares(corners, size):
    x, y = ((np.arange(n * FINER, dtype=np.float32) + 0.5) / FINER for n in size)
    inside = np.ones((len(y), len(x)), bool)
    for (x0, y0), (x1, y1) in zip(corners, (*corners[1:], corners[0]), strict=True):
        inside &= (x1 - x0) * (y[:, None] - y0) - (y1 - y0) * (x[None] - x0) > 0
    share = inside.reshape(size[1], FINER, size[0], FINER).mean(axis=(1, 3))[..., None]
    share.setflags(write=False)
    return share


def photo(canvas=CANVAS, table=TABLE, corners=CORNERS, size=PHOTO):
    """A canvas on a table, each pixel the mean of three by three places in it."""
    share = _shares(tuple(map(tuple, corners)), size)
    return rgb_of(np.array(table) * (1 - share) + np.array(canvas) * share)


def off_sides(points, sides, corners=CORNERS):
    """How far points lie outside the side each is said to bear, px; inside is less than nothing."""
    begin, end = corners, np.roll(corners, -1, axis=0)
    n = sides.astype(int)
    along = (end - begin)[n]
    out = np.stack([along[:, 1], -along[:, 0]], axis=1) / np.linalg.norm(along, axis=1)[:, None]
    return ((points - begin[n]) * out).sum(axis=1)


def true_frame(corners=CORNERS):
    return frame_from(corners, PHOTO, WIDTH, HEIGHT)


def shifted(dx, dy):
    """The true frame, moved by so many mm on the canvas."""
    true = true_frame()
    move = np.array([[1, 0, dx * PX], [0, 1, dy * PX], [0, 0, 1.0]])
    return Frame(move @ true.homography, 0.0, PHOTO)


class Sides(unittest.TestCase):
    def test_all_four_are_found_where_they_are(self):
        points, sides = side_points(photo(), true_frame(), (WIDTH, HEIGHT), PX)
        off = off_sides(points, sides)
        for side in range(4):
            self.assertEqual(int((sides == side).sum()), PROFILES)
            # Each lies so, however the pixels are counted: half a pixel would show on all four.
            self.assertLess(abs(float(np.median(off[sides == side]))), 0.2, side)
        self.assertLess(np.percentile(np.abs(off), 95), 0.4)

    def test_a_guess_that_is_off_does_not_draw_them_aside(self):
        for move in ((4.0, -3.0), (-5.0, 2.0), (0.0, 7.0)):
            points, sides = side_points(photo(), shifted(*move), (WIDTH, HEIGHT), PX)
            self.assertEqual(set(sides.tolist()), {0, 1, 2, 3})
            self.assertLess(np.percentile(np.abs(off_sides(points, sides)), 90), 0.6)

    def test_a_dark_canvas_on_a_pale_table_and_one_of_another_hue(self):
        for canvas, table in (((20, 2, 4), (90, 0, 4)), ((55, 26, 6), (55, -4, 20))):
            points, sides = side_points(photo(canvas, table), true_frame(), (WIDTH, HEIGHT), PX)
            self.assertEqual(set(sides.tolist()), {0, 1, 2, 3})
            self.assertLess(np.percentile(np.abs(off_sides(points, sides)), 90), 0.4)

    def test_a_side_that_is_not_seen_is_not_told(self):
        same = photo(TABLE, TABLE)
        points, sides = side_points(same, true_frame(), (WIDTH, HEIGHT), PX)
        self.assertEqual((len(points), len(sides)), (0, 0))
        # A step of so little is seen by less than what a side needs.
        for much, told in ((1.5, False), (5.0, True)):
            canvas = (TABLE[0] + much, *TABLE[1:])
            _, sides = side_points(photo(canvas), true_frame(), (WIDTH, HEIGHT), PX)
            self.assertEqual(len(sides) > 0, told, much)
        half = photo()
        half[:, 450:] = half[0, 0]
        _, sides = side_points(half, true_frame(), (WIDTH, HEIGHT), PX)
        self.assertNotIn(1, sides)
        self.assertIn(3, sides)
        self.assertTrue(all((sides == k).sum() < 0.6 * PROFILES for k in (0, 2)))

    def test_a_side_beyond_the_photograph_is_not_told(self):
        beyond = CORNERS - (128, 0)
        _, sides = side_points(photo(corners=beyond), true_frame(beyond), (WIDTH, HEIGHT), PX)
        self.assertEqual(set(sides.tolist()), {0, 1, 2})

    def test_a_smaller_spread_asks_for_more(self):
        # A table's edge 9 mm outside the true sides, stronger than the canvas's own.
        wide = CORNERS + np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * 9 * 2.6
        made = np.minimum(photo((98, 0, 2), (60, 0, 2), wide), photo((70, 0, 2), (98, 0, 2)))
        points, sides = side_points(made, true_frame(), (WIDTH, HEIGHT), PX, 4.0)
        self.assertLess(np.percentile(np.abs(off_sides(points, sides)), 90), 1)


class Course(unittest.TestCase):
    fine = 0.25

    def seen(self, shape, strength=0.9):
        """What is seen of a side with a course of so many mm along it, at one px a mm."""
        offset = np.arange(-48, 48) * self.fine
        along = np.linspace(-1, 1, 50)
        made = np.zeros((50, len(offset)))
        for n, at in enumerate(shape(along)):
            made[n] = strength * np.clip(1 - np.abs(offset - at) / 2.5, 0, 1)
        return made, offset, along

    def test_tilt_and_bow_are_followed(self):
        for tilt, bow in ((0, 0), (2, 0), (-3, 1), (1, -2)):
            seen, offset, along = self.seen(lambda a, t=tilt, b=bow: 1.2 + t * a + b * (a**2 - 0.5))
            course, told = _course(seen, offset, along, 1.0, 9.0)
            np.testing.assert_allclose(course, 1.2 + tilt * along + bow * (along**2 - 0.5), atol=1)
            self.assertGreater(told, 0.6)

    def test_what_is_likelier_wins_where_both_are_seen_alike(self):
        near, offset, along = self.seen(lambda a: np.full(50, 1.8))
        far, _, _ = self.seen(lambda a: np.full(50, -9.0))
        course, _ = _course(np.maximum(near, far), offset, along, 1.0, 3.0)
        np.testing.assert_allclose(course, 1.8, atol=0.7)
        # As much better as its distance costs, the other is taken.
        cost = UNLIKELY * (9.0**2 - 1.8**2) / 3.0**2
        for more, at in ((cost - 0.15, 1.8), (cost + 0.1, -9.0)):
            weak, _, _ = self.seen(lambda a: np.full(50, 1.8), 0.9 - more)
            course, _ = _course(np.maximum(weak, far), offset, along, 1.0, 3.0)
            np.testing.assert_allclose(course, at, atol=0.7)

    def test_all_is_held_against_every_course_there_is(self):
        offset, along, px = np.arange(-12, 12, 0.5), np.linspace(-1, 1, 9), 1.5
        taken = set()
        for seed in range(8):
            # Far stronger than any side is seen, so that courses the guess finds unlikely win as well.
            seen = 4 * np.random.default_rng(seed).random((9, len(offset)))
            course, told = _course(seen, offset, along, px, 5.0)
            best = (-9.0, 0.0, along, (0, 0))
            for tilt, bow in itertools.product(range(-5, 6), range(-3, 4)):
                for middle in offset[::3]:
                    line = middle + px * (tilt * along + bow * (along**2 - 0.5))
                    at = np.round((line - offset[0]) / 0.5).astype(int)
                    good = (at >= 0) & (at < len(offset))
                    if good.mean() < 0.9:
                        continue
                    value = sum(float(seen[n, at[n]]) for n in range(9) if good[n]) / 9
                    likely = value - UNLIKELY * ((middle / px / 5) ** 2 + (tilt / TILT_MM) ** 2 + (bow / BOW_MM) ** 2)
                    if likely > best[0]:
                        best = (likely, value, line, (tilt, bow))
            np.testing.assert_allclose(course, best[2])
            self.assertAlmostEqual(told, best[1])
            taken.add(best[3])
        self.assertGreater(max(abs(tilt) for tilt, _ in taken), 2)
        self.assertGreater(max(abs(bow) for _, bow in taken), 1)


if __name__ == "__main__":
    unittest.main()
