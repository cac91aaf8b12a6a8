"""Places of a picture found again where it was moved to by so much."""

import unittest

import numpy as np

from foxpath.core.progress.matches import LEAST_SPREAD, STEP, Matches, Window, _between, find_places, smooth_field
from foxpath.core.progress.small import blur

PX, WIDTH, HEIGHT = 2.0, 480, 360
WINDOW = Window(24.0, 15.0, 6.0, 1.5, 0.8)


def wall(seed=1, spread=14.0, fine=5.0):
    """Blurred noise in L*, (360, 480, 3), by a function that reads it anywhere."""
    rng = np.random.default_rng(seed)
    light = blur(rng.standard_normal((HEIGHT + 80, WIDTH + 80)).astype(np.float32), fine)
    return 50 + spread * light / light.std()


def shown(light, dx=0, dy=0):
    """The part of a wall that is seen when it has moved by whole px to the right and down."""
    part = light[40 - dy : 40 - dy + HEIGHT, 40 - dx : 40 - dx + WIDTH]
    return np.dstack([part, np.full_like(part, 4), np.full_like(part, 9)]).astype(np.float32)


class Found(unittest.TestCase):
    def test_shifts_are_found_with_their_sense_and_to_a_part_of_a_pixel(self):
        light = wall()
        plan = shown(light)
        for dx, dy in ((0, 0), (5, -7), (-8, 3), (11, 11)):
            found = find_places(plan, shown(light, dx, dy), PX, WINDOW)
            self.assertGreater(len(found), 60)
            off = found.shift - np.array((dx, dy)) / PX
            self.assertLess(np.abs(np.median(off, axis=0)).max(), 0.06, (dx, dy))
            self.assertLess(np.percentile(np.hypot(*off.T), 90), 0.25)

    def test_farther_than_it_is_looked_for_nothing_is_found(self):
        light = wall()
        found = find_places(shown(light), shown(light, 16, 0), PX, WINDOW)
        near = np.hypot(*(found.shift - (8, 0)).T) < 1 if len(found) else np.zeros(0, bool)
        self.assertEqual(int(near.sum()), 0)
        self.assertLess(len(found), 25)
        wide = find_places(shown(light), shown(light, 16, 0), PX, Window(24.0, 15.0, 10.0, 1.5, 0.8))
        self.assertLess(np.abs(np.median(wide.shift, axis=0) - (8, 0)).max(), 0.06)

    def test_places_stand_where_the_windows_middles_are(self):
        light = wall()
        found = find_places(shown(light), shown(light), PX, WINDOW)
        # At 1.5 px a mm: windows of 36 px every 22 px, beginning half a window from the border.
        half, step = 12.0, round(15 * 1.5) / 1.5
        x, y = (np.unique(np.round(v, 3)) for v in found.at.T)
        np.testing.assert_allclose(x, half + step * np.arange(len(x)), atol=0.01)
        np.testing.assert_allclose(y, half + step * np.arange(len(y)), atol=0.01)
        self.assertEqual((len(x), len(y)), (15, 11))
        self.assertLess(x[-1], WIDTH / PX - half)
        self.assertLess(y[-1], HEIGHT / PX - half)

    def test_even_ground_and_another_picture_are_no_place(self):
        flat = wall(spread=LEAST_SPREAD * 0.4)
        self.assertEqual(len(find_places(shown(flat), shown(flat), PX, WINDOW)), 0)
        other = find_places(shown(wall()), shown(wall(9)), PX, WINDOW)
        same = find_places(shown(wall()), shown(wall()), PX, WINDOW)
        self.assertLess(len(other), 0.25 * len(same))

    def test_what_a_border_knows_lies_across_it(self):
        x = np.arange(WIDTH)[None].repeat(HEIGHT, 0)
        upright = np.where(x < 240, 30.0, 70.0) + wall(spread=0.5)[:HEIGHT, :WIDTH]
        made = np.dstack([upright, upright * 0, upright * 0]).astype(np.float32)
        found = find_places(made, made, PX, WINDOW)
        xx, xy, yy = found.knows.mean(axis=0)
        self.assertGreater(xx, 30 * yy)
        self.assertLess(abs(xy), 0.1 * xx)
        y = np.arange(HEIGHT)[:, None].repeat(WIDTH, 1)
        slant = np.where(x - 60 < y, 30.0, 70.0) + wall(spread=0.5)[:HEIGHT, :WIDTH]
        made = np.dstack([slant, slant * 0, slant * 0]).astype(np.float32)
        xx, xy, yy = find_places(made, made, PX, WINDOW).knows.mean(axis=0)
        # From upper left to lower right: what is seen across it says x and y against each other.
        self.assertAlmostEqual(xy / xx, -1, delta=0.1)
        self.assertAlmostEqual(yy / xx, 1, delta=0.1)

    def test_what_is_less_alike_knows_less(self):
        light = wall()
        noisy = shown(light)
        noisy[..., 0] += (
            9 * blur(np.random.default_rng(2).standard_normal((HEIGHT, WIDTH)).astype(np.float32), 3.0) * 12
        )
        clear, unclear = (
            find_places(shown(light), shown(light), PX, WINDOW),
            find_places(shown(light), noisy, PX, WINDOW),
        )
        there = {tuple(np.round(at, 2)): k for at, k in zip(clear.at, clear.knows, strict=True)}
        ratio = np.array(
            [k[0] / there[tuple(np.round(at, 2))][0] for at, k in zip(unclear.at, unclear.knows, strict=True)]
        )
        self.assertTrue((ratio < 1.001).all())
        self.assertLess(np.median(ratio), 0.85)
        # Alike in all, a place knows 0.36 of its window's gradients: (1 - 0.4)².
        self.assertGreater(ratio.min(), (0.5 - 0.4) ** 2 / 0.36 - 0.01)

    def test_sizes_that_do_not_divide_are_reckoned_with(self):
        light = wall()
        plan, seen = (shown(light, dx)[:333, :441] for dx in (0, 6))
        found = find_places(plan, seen, PX, WINDOW)
        np.testing.assert_allclose(np.median(found.shift, axis=0), (3, 0), atol=0.06)
        self.assertLess(found.at[:, 0].max(), 441 / PX - 11)


class Parabolas(unittest.TestCase):
    def test_the_top_of_a_parabola_is_found_exactly(self):
        for top in (-0.4, 0.0, 0.3):
            self.assertAlmostEqual(_between(*(5 - 2 * (x - top) ** 2 for x in (-1, 0, 1))), top)
        self.assertEqual(_between(1, 1, 1), 0)


class Fields(unittest.TestCase):
    @staticmethod
    def matches(at, shift, knows):
        return Matches(np.array(at, float), np.array(shift, float), np.array(knows, float))

    def test_a_place_says_its_shift_and_far_off_nothing(self):
        one = self.matches([(100, 80)], [(3.0, -2.0)], [(4.0, 0, 4.0)])
        field = smooth_field(one, (WIDTH, HEIGHT), PX, 10.0, hold=0.02)
        self.assertEqual(field.shape, (HEIGHT, WIDTH, 2))
        np.testing.assert_allclose(field[160, 200], np.array((3, -2)) * PX / 1.02, rtol=0.02)
        self.assertLess(np.abs(field[20, 440]).max(), 0.05)
        self.assertEqual(
            smooth_field(one.without(np.ones((HEIGHT, WIDTH), bool), PX), (WIDTH, HEIGHT), PX, 10.0).any(), False
        )

    def test_what_one_knows_along_x_and_another_along_y_adds_up(self):
        both = self.matches([(100, 80), (100, 80)], [(3.0, 50.0), (-70.0, -2.0)], [(4.0, 0, 0.0), (0.0, 0, 4.0)])
        field = smooth_field(both, (WIDTH, HEIGHT), PX, 10.0, hold=0.001)
        np.testing.assert_allclose(field[160, 200], (6, -4), rtol=0.01)
        # The same on a slant: each tells the shift across its own border alone.
        a, b = np.array((0.6, 0.8)), np.array((-0.8, 0.6))
        want = np.array((3.0, -2.0))
        slanted = self.matches(
            [(100, 80), (100, 80)],
            [want + 40 * b, want - 30 * a],
            [4 * np.array((v[0] ** 2, v[0] * v[1], v[1] ** 2)) for v in (a, b)],
        )
        field = smooth_field(slanted, (WIDTH, HEIGHT), PX, 10.0, hold=0.0005)
        np.testing.assert_allclose(field[160, 200], want * PX, rtol=0.02)

    def test_held_as_strongly_as_is_said(self):
        at = [(x, y) for x in range(10, 240, 20) for y in range(10, 180, 20)]
        knows = np.tile((5.0, 0.0, 5.0), (len(at), 1))
        for hold in (0.05, 0.5):
            field = smooth_field(
                self.matches(at, np.tile((2.0, 1.0), (len(at), 1)), knows), (WIDTH, HEIGHT), PX, 20.0, hold
            )
            middle = field[60:300, 60:420].reshape(-1, 2)
            # Where places are densest they are known best: there the field is 1 / (1 + hold) of the shift.
            self.assertAlmostEqual(float(middle[:, 0].max()), 4 / (1 + hold), delta=0.03)
            np.testing.assert_allclose(middle[:, 0], 2 * middle[:, 1], rtol=1e-4)

    def test_places_in_a_mask_are_left_out(self):
        three = self.matches([(10, 10), (100, 10), (500, 900)], np.zeros((3, 2)), np.arange(9).reshape(3, 3))
        mask = np.zeros((HEIGHT, WIDTH), bool)
        mask[19:22, 199:202] = True
        kept = three.without(mask, PX)
        np.testing.assert_array_equal(kept.at, [(10, 10), (500, 900)])
        np.testing.assert_array_equal(kept.knows, [(0, 1, 2), (6, 7, 8)])
        # Beyond the picture its nearest pixel speaks.
        mask[-1, -1] = True
        self.assertEqual(len(three.without(mask, PX)), 1)

    def test_the_weight_of_all_is_no_matter_only_their_shares(self):
        at, shift = [(60, 60), (150, 100)], [(3.0, 1.0), (-2.0, 2.0)]
        once = smooth_field(self.matches(at, shift, [(4, 1, 4), (2, 0, 3)]), (WIDTH, HEIGHT), PX, 30.0)
        more = smooth_field(
            self.matches(at, shift, np.array([(4, 1, 4), (2, 0, 3)]) * 1000.0), (WIDTH, HEIGHT), PX, 30.0
        )
        np.testing.assert_allclose(once, more, atol=1e-3)
        self.assertEqual(STEP, 8)


if __name__ == "__main__":
    unittest.main()
