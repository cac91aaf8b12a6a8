"""Marks through a field, and their outlines."""

import unittest

import numpy as np

from foxpath.core.brush.strokes import POINTS, dab_profile, hair_profile, outlines, trace, ways


def even(deg, shape=(40, 60)):
    made = np.empty((*shape, 2), np.float32)
    made[...] = np.cos(np.radians(deg)), np.sin(np.radians(deg))
    return made


def one(value):
    return np.array([value], np.float32)


class Traced(unittest.TestCase):
    def mark(self, field, start=(20.0, 20.0), length=12.0, turn=0.0, curl=0.0, **how):
        return trace(field, np.array([start], np.float32), one(length), one(turn), one(curl), **how)[0]

    def test_it_runs_with_the_growth_from_root_to_tip_at_its_length(self):
        for deg in (0, 60, 135, -90):
            line = self.mark(even(deg))
            np.testing.assert_allclose(line[0], (20, 20), atol=1e-5)
            np.testing.assert_allclose(
                line[-1], (20 + 12 * np.cos(np.radians(deg)), 20 + 12 * np.sin(np.radians(deg))), atol=1e-3
            )
            np.testing.assert_allclose(np.hypot(*np.diff(line, axis=0).T), 12 / (POINTS - 1), rtol=1e-3)

    def test_backward_it_runs_against_it(self):
        np.testing.assert_allclose(self.mark(even(30), length=-6.0)[-1], (20 - 6 * np.sqrt(0.75), 17), atol=1e-3)

    def test_a_turn_is_clockwise_on_the_picture_and_the_same_all_along(self):
        np.testing.assert_allclose(self.mark(even(0), turn=np.pi / 2)[-1], (20, 32), atol=1e-3)

    def test_a_curl_grows_toward_the_tip(self):
        line = self.mark(even(0), curl=1.2)
        angle = np.arctan2(*np.diff(line, axis=0).T[::-1])
        self.assertTrue((np.diff(angle) > 0).all())
        # Six of the eight parts of its way lie between the first step and the last.
        self.assertAlmostEqual(float(angle[-1] - angle[0]), 1.2 * 6 / 8, delta=0.01)
        self.assertGreater(angle[-1], -2 * angle[0])
        np.testing.assert_allclose(self.mark(even(0), curl=-1.2)[:, 1] - 20, 20 - line[:, 1], atol=1e-4)

    def test_a_bent_field_is_followed_round(self):
        y, x = np.mgrid[0:40, 0:60] + 0.5
        way = np.stack([-(y - 20), x - 30], axis=-1)
        field = (way / np.maximum(np.hypot(way[..., 0], way[..., 1]), 1e-6)[..., None]).astype(np.float32)
        line = self.mark(field, (42.0, 20.0), 14.0)
        # A step turns by a sixth of a radian: by its first direction alone it would end 1.1 further out.
        np.testing.assert_allclose(np.hypot(*(line - (30, 20)).T), 12, atol=0.04)
        np.testing.assert_allclose(np.hypot(*np.diff(line, axis=0).T), 2, rtol=0.02)
        self.assertGreater(line[-1, 1], 28)

    def test_where_root_and_tip_change_ends_it_follows_the_axis_the_way_it_came(self):
        field = even(20)
        for deg, start, length in ((20, (14.0, 16.0), 22.0), (20, (14.0, 16.0), -8.0)):
            want = self.mark(field, start, length)
            turned = field.copy()
            turned[:, 20:] *= -1
            turned[25:, :20] *= -1
            np.testing.assert_allclose(self.mark(turned, start, length), want, atol=1e-4, err_msg=str(deg))
        # Rooted beyond the line, but told which way: as it is taken at its own place.
        beyond = self.mark(turned, (26.0, 20.0), -12.0, toward=ways(field, np.array([[26.0, 20.0]])))
        np.testing.assert_allclose(beyond, self.mark(field, (26.0, 20.0), -12.0), atol=1e-4)
        np.testing.assert_allclose(
            self.mark(turned, (26.0, 20.0), -12.0)[-1], 2 * np.array((26.0, 20.0)) - beyond[-1], atol=1e-4
        )

    def test_ways_are_those_of_the_cells(self):
        field = np.random.default_rng(1).random((4, 5, 2)).astype(np.float32)
        at = np.array([[0.0, 0.0], [4.9, 3.9], [2.99, 1.0], [-3, 2.5], [9, 9]])
        np.testing.assert_array_equal(ways(field, at), field[[0, 3, 1, 2, 3], [0, 4, 2, 0, 4]])

    def test_it_bends_with_the_growth_and_with_its_own_curl_together(self):
        y, x = np.mgrid[0:60, 0:80] + 0.5
        angle = 0.05 * (x - 20) + 0.03 * (y - 30)
        field = np.stack([np.cos(angle), np.sin(angle)], axis=-1).astype(np.float32)
        made = self.mark(field, (20.0, 30.0), 21.0, turn=0.3, curl=0.8)
        at, whole = np.array([20.0, 30.0]), []
        for k in range(1, POINTS):
            for _ in range(200):
                way = 0.05 * (at[0] - 20) + 0.03 * (at[1] - 30) + 0.3 + 0.8 * (k / POINTS - 0.3)
                at = at + np.array([np.cos(way), np.sin(way)]) * 21 / (POINTS - 1) / 200
            whole.append(at)
        np.testing.assert_allclose(made[1:], whole, atol=0.12)

    def test_what_is_returned_is_shifted_and_scaled(self):
        plain = self.mark(even(20))
        made = self.mark(even(20), scale=2.5, shift=(3.0, -4.0))
        np.testing.assert_allclose(made, (plain + (3, -4)) * 2.5, rtol=1e-5)
        nothing = trace(even(0), np.zeros((0, 2), np.float32), *(np.zeros(0, np.float32) for _ in range(3)))
        self.assertEqual(nothing.shape, (0, POINTS, 2))


class Outlined(unittest.TestCase):
    line = np.stack([np.linspace(10, 24, POINTS), np.full(POINTS, 5.0)], axis=1).astype(np.float32)[None]

    def test_a_hair_is_widest_near_its_root_and_ends_in_a_tip(self):
        for points in (8, 20):
            profile = hair_profile(points)
            self.assertLess(int(np.argmax(profile)), 0.3 * points)
            self.assertLess(profile[-1], 0.03)
            self.assertTrue((np.diff(profile[int(np.argmax(profile)) :]) < 0).all())
            self.assertTrue((profile <= 1).all())

    def test_a_dab_is_nearly_even_and_rounded(self):
        profile = dab_profile()
        self.assertEqual(profile[1:-1].min(), 1)
        self.assertTrue(0.4 < profile[-1] < profile[0] < 1)

    def test_it_lies_on_both_sides_as_wide_as_its_profile(self):
        profile = np.linspace(1, 0.5, POINTS).astype(np.float32)
        made = outlines(self.line, one(2.0), profile)[0]
        self.assertEqual(made.shape, (2 * POINTS, 2))
        np.testing.assert_allclose(made[:POINTS, 0], self.line[0, :, 0], atol=1e-4)
        np.testing.assert_allclose(np.abs(made[:POINTS, 1] - 5), 2 * profile, rtol=1e-4)
        # Back along the other side, so that it closes without crossing.
        np.testing.assert_allclose(made[POINTS:][::-1, 0], self.line[0, :, 0], atol=1e-4)
        np.testing.assert_allclose(made[POINTS:][::-1, 1] + made[:POINTS, 1], 10, atol=1e-4)

    def test_it_is_scaled_then_moved_and_its_width_with_it(self):
        made = outlines(self.line, one(2.0), np.ones(POINTS, np.float32), 3.0, 7.0, -4.0)[0]
        plain = outlines(self.line, one(2.0), np.ones(POINTS, np.float32))[0]
        np.testing.assert_allclose(made, plain * 3 + (7, -4), atol=1e-4)
        out = np.zeros((1, 2 * POINTS, 2), np.float32)
        self.assertIs(outlines(self.line, one(2.0), np.ones(POINTS, np.float32), out=out), out)
        np.testing.assert_allclose(out[0], plain)


if __name__ == "__main__":
    unittest.main()
