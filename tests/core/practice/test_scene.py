"""What drills ask of a scene, held against every pixel looked at one by one."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.practice.scene import (
    BLOCKED_L,
    BURNT_L,
    FINE_MM,
    NO_ANIMAL,
    SHOWS_L,
    SPOT_SHARE,
    Edge,
    Growth,
    Part,
    Scene,
    SceneEye,
    Spot,
    a_window,
    about_head,
    apart,
    hair_shows,
    sight,
    spot_radius_mm,
    spots,
    spots_at,
)
from foxpath.core.progress.small import blur, rgb_of
from tests.drilled import HEIGHT, LEFT, PX, RIGHT, WIDTH, scene


def turned(deg=20.0, cell=4.0, shape=(10, 12)):
    """Growth on a small grid that turns by so many degrees a column, surer in some cells than in others."""
    _, j = np.mgrid[: shape[0], : shape[1]]
    a = np.radians(deg * j)
    direction = np.stack([np.cos(a), np.sin(a)], axis=-1).astype(np.float32)
    return Growth(
        direction, np.random.default_rng(5).uniform(0.3, 0.9, shape).astype(np.float32), np.ones(shape, bool), cell
    )


def even(light=50.0, grain=0.0, shape=(120, 160)):
    """A scene of one even colour with fine grain of so much, L*."""
    rng = np.random.default_rng(2)
    lab = np.zeros((*shape, 3), np.float32)
    lab[..., 0] = light
    noise = blur(rng.standard_normal(shape).astype(np.float32), 0.8)
    lab[..., 0] += grain * noise / noise.std()
    made = Scene("even", rgb_of(lab), PX, np.zeros(shape, np.int16), (Part("z1", "Coat", "long-fur"),))
    # Read to a fraction of a step of the picture.
    made.__dict__["lab"] = lab
    return made


class Grown(unittest.TestCase):
    def test_a_place_has_its_cell_s_own_direction_at_least(self):
        growth = turned()
        deg, alike, sure = growth.at(18.0, 22.0)
        # Half a cell each way of 4.5, 5.5: columns 4 and 5, rows 5 and 6.
        self.assertAlmostEqual(deg, 90, places=4)
        self.assertAlmostEqual(alike, np.cos(np.radians(10)), places=5)
        self.assertAlmostEqual(sure, float(growth.sure[5:7, 4:6].min()), places=5)

    def test_about_a_place_all_cells_within_reach_are_asked(self):
        growth = turned(8.0)
        for x, y, radius in ((24.0, 20.0, 8.0), (30.0, 14.0, 10.0), (2.0, 3.0, 8.0), (47.0, 39.0, 12.0)):
            reach = radius / 4
            rows = [i for i in range(10) if int(y / 4 - reach) <= i <= int(y / 4 + reach)]
            columns = [j for j in range(12) if int(x / 4 - reach) <= j <= int(x / 4 + reach)]
            cells = growth.direction[np.ix_(rows, columns)].reshape(-1, 2).astype(float)
            mean = cells.mean(axis=0)
            deg, alike, sure = growth.at(x, y, radius)
            self.assertAlmostEqual(deg, np.degrees(np.arctan2(mean[1], mean[0])), places=5)
            self.assertAlmostEqual(alike, np.hypot(*mean), places=6)
            self.assertAlmostEqual(sure, growth.sure[np.ix_(rows, columns)].min(), places=6)

    def test_where_nobody_said_the_root_nothing_is_sure(self):
        growth = turned()
        rooted = growth.rooted.copy()
        rooted[5, 5] = False
        growth = replace(growth, rooted=rooted)
        self.assertEqual(growth.at(18.0, 22.0)[2], 0)
        self.assertGreater(growth.at(30.0, 22.0)[2], 0)

    def test_beyond_the_grid_nothing_is_known(self):
        for x, y in ((-9.0, 10.0), (10.0, -9.0), (90.0, 10.0), (10.0, 90.0)):
            self.assertEqual(turned().at(x, y), (0.0, 0.0, 0.0))


class Pictures(unittest.TestCase):
    def test_the_animal_is_all_but_ground_cover_and_shadow(self):
        parts = tuple(Part(f"z{k}", kind, kind) for k, kind in enumerate((*NO_ANIMAL, "long-fur", "eye")))
        labels = np.array([[0, 1, 2], [3, 4, -1]], np.int16)
        made = replace(scene(), labels=labels, parts=parts)
        np.testing.assert_array_equal(made.animal, [[False, False, False], [True, True, False]])

    def test_grain_is_what_is_finer_than_strands(self):
        made = scene()
        light = made.lab[..., 0]
        np.testing.assert_allclose(made.fine, blur(light, 0.6) - blur(light, FINE_MM * PX), atol=1e-4)

    def test_room_is_the_way_to_the_next_border_eye_or_rim(self):
        made = replace(scene())
        border = [(x, y) for y in range(HEIGHT) for x in (0, 40, 250, WIDTH - 1)]
        border += [(x, y) for x in range(WIDTH) for y in (0, HEIGHT - 1)]
        border += [
            (x, y)
            for ex, ey in (LEFT, RIGHT)
            for y in range(80, 160)
            for x in range(70, 230)
            if np.hypot(x - ex, y - ey) <= 27
        ]
        at = np.array(border)
        for x, y in ((300, 200), (60, 300), (150, 60), (420, 380), (20, 10), (145, 200), (110, 170)):
            true = np.hypot(*(at - (x, y)).T).min()
            self.assertAlmostEqual(float(made.room[y, x]), true, delta=0.06 * true + 1.2)
        self.assertEqual(float(made.room[120, 110]), 0)
        self.assertEqual(float(made.room[7, 250]), 0)

    def test_an_edge_s_middle_is_its_middle_point(self):
        line = np.array([[0.0, 1], [2, 3], [9, 8]])
        self.assertEqual(Edge(0, 1, line, None, 0, 1).middle(), (2, 3))
        self.assertEqual(SceneEye("e", 0, 0, 4, 7).radius, 7)
        self.assertEqual(apart((1, 2), (4, -2)), 5)


class Hair(unittest.TestCase):
    def test_hair_shows_from_some_grain_on_where_light_is_neither_blocked_nor_burnt(self):
        for grain in (0.4, 3.0):
            made = even(grain=grain)
            self.assertEqual(hair_shows(made, 80, 60, 20), made.fine[40:81, 60:101].std() > SHOWS_L)
        self.assertTrue(hair_shows(even(grain=3.0), 80, 60, 20))
        self.assertFalse(hair_shows(even(grain=0.4), 80, 60, 20))
        for light, told in ((BLOCKED_L - 1, False), (BLOCKED_L + 1, True), (BURNT_L - 1, True), (BURNT_L + 1, False)):
            self.assertEqual(hair_shows(even(light, grain=3.0), 80, 60, 20), told, light)

    def test_only_what_lies_about_the_place_is_asked(self):
        half = even(grain=3.0)
        half.lab[:, 90:, 0] = 50
        self.assertTrue(hair_shows(half, 30, 60, 20))
        self.assertFalse(hair_shows(half, 130, 60, 20))
        self.assertFalse(hair_shows(half, 160, 60, 20))
        self.assertTrue(hair_shows(half, 2, 3, 20))

    def test_it_is_asked_as_far_as_the_radius_reaches_and_no_farther(self):
        made = even()
        fine = np.zeros(made.labels.shape, np.float32)
        fine[:, 100] = fine[70] = 1000
        made.__dict__["fine"] = fine
        for x in (79, 80, 100, 120, 121):
            self.assertEqual(hair_shows(made, x, 20, 20), 80 <= x <= 120, x)
        for y in (49, 50, 70, 90, 91):
            self.assertEqual(hair_shows(made, 40, y, 20), 50 <= y <= 90, y)


class Spots(unittest.TestCase):
    def test_a_spot_is_the_median_of_its_round(self):
        made = scene()
        for x, y, radius in ((300, 200, 9.0), (100, 330, 4.5)):
            (one,) = spots_at(made, np.array([x]), np.array([y]), radius)
            reach = int(radius)
            pixels = np.array(
                [
                    made.lab[y + dy, x + dx]
                    for dy in range(-reach, reach + 1)
                    for dx in range(-reach, reach + 1)
                    if np.hypot(dx, dy) <= radius
                ]
            )
            middle = np.median(pixels, axis=0)
            np.testing.assert_allclose(one.lab, middle, atol=1e-4)
            off = np.abs(pixels - middle)
            self.assertAlmostEqual(one.spread, 1.4826 * np.median(off[:, 0]), places=4)
            all_of_it = np.median(np.linalg.norm(off, axis=1))
            self.assertAlmostEqual(one.unsure, 1.25 * 1.4826 * all_of_it / np.sqrt(len(pixels) / 16), places=4)
            self.assertEqual((one.at, one.radius, one.part), ((x, y), radius, int(made.labels[y, x])))
            self.assertAlmostEqual(one.chroma, np.hypot(*middle[1:]), places=4)
        # A spot of few pixels holds one look at least.
        (small,) = spots_at(made, np.array([300]), np.array([200]), 1.0)
        off = made.lab[[200, 200, 200, 199, 201], [299, 300, 301, 300, 300]]
        off = np.linalg.norm(off - np.median(off, axis=0), axis=1)
        self.assertAlmostEqual(small.unsure, 1.25 * 1.4826 * np.median(off), places=4)

    def test_several_are_measured_as_each_by_itself(self):
        made = scene()
        x, y = np.array([300, 320, 120]), np.array([200, 90, 300])
        for one, (a, b) in zip(spots_at(made, x, y, 6.0), zip(x, y, strict=True), strict=True):
            self.assertEqual(one, spots_at(made, np.array([a]), np.array([b]), 6.0)[0])

    def test_they_lie_whole_within_one_part_and_off_the_eyes(self):
        made = scene()
        found = spots(made, np.random.default_rng(4), 60, 4.0)
        self.assertEqual(len(found), 60)
        for one in found:
            self.assertEqual(one.radius, 8)
            self.assertGreater(made.room[int(one.y), int(one.x)], 1.2 * 8)
            for eye in made.eyes:
                self.assertGreater(apart(one.at, (eye.x, eye.y)), 1.5 * 18 + 8)
        self.assertEqual(spots(made, np.random.default_rng(4), 3, 0.2)[0].radius, 2)
        self.assertEqual(spots(made, np.random.default_rng(4), 3, 300.0), [])
        only = np.zeros((HEIGHT, WIDTH), bool)
        only[300:310, 100:110] = True
        self.assertTrue(
            all(
                100 <= one.x < 110 and 300 <= one.y < 310
                for one in spots(made, np.random.default_rng(4), 9, 4.0, within=only)
            )
        )

    def test_a_spot_grows_with_the_canvas(self):
        self.assertEqual(spot_radius_mm(scene()), 3)
        large = replace(scene(), px_per_mm=0.5)
        self.assertAlmostEqual(spot_radius_mm(large), SPOT_SHARE * WIDTH / 0.5)
        self.assertEqual(Spot(0, 0, 1, 0, (50, 3, 4), 0, 0).chroma, 5)


class Windows(unittest.TestCase):
    def test_the_head_lies_about_the_eyes_else_about_the_focus(self):
        made = scene()
        head = about_head(made)
        y, x = np.mgrid[:HEIGHT, :WIDTH]
        np.testing.assert_array_equal(head, (np.hypot(x - 150, y - 120) < 0.3 * WIDTH) & made.animal)
        blind = replace(made, eyes=(), focal=(300.0, 220.0))
        np.testing.assert_array_equal(about_head(blind, 0.2), (np.hypot(x - 300, y - 220) < 0.2 * WIDTH) & blind.animal)

    def test_a_square_lies_whole_in_the_picture(self):
        made, middles = scene(), []
        for seed in range(40):
            mask, (x, y, half) = a_window(made, np.random.default_rng(seed))
            self.assertAlmostEqual(half, 0.24 * WIDTH)
            self.assertTrue(half <= x <= WIDTH - half and half <= y <= HEIGHT - half)
            rows, columns = np.nonzero(mask)
            self.assertEqual((rows.min(), rows.max() + 1), (int(y - half), int(y + half)))
            self.assertEqual((columns.min(), columns.max() + 1), (int(x - half), int(x + half)))
            self.assertEqual(mask.sum(), (int(y + half) - int(y - half)) * (int(x + half) - int(x - half)))
            middles.append((x, y))
        self.assertGreater(np.ptp([x for x, _ in middles]), 0.8 * (WIDTH - 2 * half))
        # One larger than the picture has its middle.
        mask, (x, y, half) = a_window(made, np.random.default_rng(1), 0.7)
        self.assertTrue(WIDTH - half <= x <= WIDTH / 2 or x == WIDTH / 2)
        self.assertTrue(mask.any())

    def test_what_comes_into_sight_holds_every_pixel_and_a_little_more(self):
        mask = np.zeros((HEIGHT, WIDTH), bool)
        mask[100, 60] = mask[140, 200] = True
        self.assertEqual(sight(scene(), mask), (130, 120, 74))
        mask[390, 100] = True
        self.assertEqual(sight(scene(), mask), (130, 245, 149))
        self.assertEqual(sight(scene(), np.zeros_like(mask)), (WIDTH / 2, HEIGHT / 2, WIDTH / 2))


if __name__ == "__main__":
    unittest.main()
