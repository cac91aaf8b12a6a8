import unittest
from dataclasses import replace

import numpy as np
from scipy.sparse import coo_matrix
from scipy.sparse.linalg import spsolve

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import (
    SURE_ENOUGH,
    CombStroke,
    compass_words,
    laying_rank,
    paint_field,
    place_glyphs,
    prior_field,
    zone_field,
)
from foxpath.core.growth.field import ZoneField
from foxpath.core.multigrid import Multigrid
from foxpath.core.reporting import Cancelled, Progress
from foxpath.core.zones import KINDS, fill

FRAME = Frame.over(Crop(0, 0, 300, 240), 1.0, 150)
GUESS = prior_field(FRAME, np.zeros((0, 2)))


def rectangle(x0, y0, x1, y1):
    return fill(np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]], float), FRAME.shape)


def comb(*points):
    return CombStroke(np.array(points, float))


def angle_between(a, b):
    return np.degrees(np.arccos(np.clip((a * b).sum(-1), -1, 1)))


class Sampled(unittest.TestCase):
    def test_between_cells_it_is_the_axis_and_points_as_the_nearest_cell_does(self):
        rng = np.random.default_rng(2)
        turn = 0.3 + 0.01 * np.arange(150)[None] + 0.004 * np.arange(120)[:, None]
        way = np.stack([np.cos(turn), np.sin(turn)], axis=-1).astype(np.float32)
        whole, sure = np.ones(turn.shape, bool), rng.random(turn.shape).astype(np.float32)
        plain = ZoneField(FRAME, 0, 0, way, sure, whole, whole, combed=True, axis_sure=sure, rooted=whole)
        flips = rng.random(turn.shape) < 0.5
        turned = replace(plain, direction=np.where(flips[..., None], -way, way))
        at = rng.uniform(4, 230, (300, 2))
        (want, sure_there), (told, sure_too) = plain.sample(at), turned.sample(at)
        j, i = np.floor(at / 2).astype(int).T
        sign = np.where(flips[i, j], -1, 1)[:, None]
        np.testing.assert_allclose(told, want * sign, atol=1e-5)
        np.testing.assert_array_equal(sure_too, sure_there)
        exact = 0.3 + 0.01 * (at[:, 0] / 2 - 0.5) + 0.004 * (at[:, 1] / 2 - 0.5)
        np.testing.assert_allclose(np.arctan2(want[:, 1], want[:, 0]), exact, atol=1e-3)


class Solver(unittest.TestCase):
    def test_agrees_with_a_direct_solver(self):
        """Varying screening and barriers: the same answer as a sparse LU."""
        rng = np.random.default_rng(4)
        h, w = 23, 31
        weight = (rng.random((h, w)) * 0.2 + 0.001).astype(np.float32)
        east, south = ((rng.random((h, w)) > 0.2).astype(np.float32) * 2 for _ in range(2))
        east[:, -1] = south[-1] = 0
        f = rng.standard_normal((2, h, w)).astype(np.float32)
        index = np.arange(h * w).reshape(h, w)
        rows, cols, vals = [index.ravel()], [index.ravel()], [weight.ravel().astype(float)]
        for a, b, k in ((index[:, :-1], index[:, 1:], east[:, :-1]), (index[:-1], index[1:], south[:-1])):
            for p, q in ((a, b), (b, a)):
                rows += [p.ravel(), p.ravel()]
                cols += [p.ravel(), q.ravel()]
                vals += [k.ravel().astype(float), -k.ravel().astype(float)]
        matrix = coo_matrix((np.concatenate(vals), (np.concatenate(rows), np.concatenate(cols)))).tocsr()
        solved = Multigrid(weight, east, south, 2).solve(f, 1e-6)
        for plane in range(2):
            exact = spsolve(matrix, f[plane].ravel().astype(float)).reshape(h, w)
            np.testing.assert_allclose(solved[plane], exact, atol=1e-3 * np.abs(exact).max())


class Field(unittest.TestCase):
    def test_one_comb_carries_through_its_zone_root_to_tip(self):
        """360 degrees: the opposite comb turns the field round, and the far end still knows it."""
        mask = rectangle(20, 20, 130, 60)
        for tip in (1, -1):
            field = zone_field(mask, [comb([100, 80], [100 + 30 * tip, 80])], FRAME, GUESS)
            direction, sure = field.sample(np.array([[100.0 + 15 * tip, 80], [250, 100]]))
            np.testing.assert_allclose(direction[:, 0], tip, atol=0.02)
            self.assertGreater(sure[0], 0.9)
            self.assertLess(sure[1], SURE_ENOUGH)

    def test_recovers_a_turning_field(self):
        """Combs along a circle give back the circle between them."""
        mask = rectangle(10, 10, 140, 110)
        centre = np.array([150.0, 120.0])
        combs = []
        for a in np.radians(np.arange(0, 360, 45)):
            for r in (40, 90):
                at = a + np.linspace(-0.12, 0.12, 5)
                combs.append(CombStroke(centre + r * np.stack([np.cos(at), np.sin(at)], 1)))
        field = zone_field(mask, combs, FRAME, GUESS)
        rng = np.random.default_rng(5)
        a, r = rng.random(400) * 2 * np.pi, 40 + 50 * rng.random(400)
        direction, sure = field.sample(centre + np.stack([r * np.cos(a), r * np.sin(a)], 1))
        error = angle_between(direction, np.stack([-np.sin(a), np.cos(a)], 1))
        self.assertLess(np.median(error), 4)
        self.assertLess(np.percentile(error, 90), 12)
        # What is called sure is right: the promise behind the hatch.
        self.assertLess(np.percentile(error[sure >= SURE_ENOUGH], 90), 8)
        self.assertGreater((sure >= SURE_ENOUGH).mean(), 0.4)

    def test_borders_are_barriers(self):
        """A comb in one zone changes nothing in the other, though they touch."""
        left, right = rectangle(20, 20, 75, 100), rectangle(75, 20, 130, 100)
        a = zone_field(left, [comb([60, 100], [100, 100])], FRAME, GUESS)
        b = zone_field(right, [comb([240, 100], [240, 60])], FRAME, GUESS)
        direction, _ = paint_field([a, b], FRAME)
        np.testing.assert_allclose(direction[60, 73], [1, 0], atol=0.02)
        np.testing.assert_allclose(direction[60, 77], [0, -1], atol=0.02)
        self.assertTrue(np.isnan(direction[5, 5]).all())

    def test_tips_hang_out_over_the_animals_rim(self):
        animal = np.zeros(FRAME.shape, bool)
        rows, columns = animal.shape
        animal[rows // 4 : -rows // 4, columns // 4 : -columns // 4] = True
        guess = prior_field(FRAME, np.zeros((0, 2)), animal=animal)
        middle = (rows // 2, columns // 2)
        self.assertLess(guess[middle[0], columns // 4 + 1, 0], -0.8)
        self.assertGreater(guess[middle[0], columns - columns // 4 - 2, 0], 0.8)
        # Up over the upper rim, though hair is else guessed to hang; far from every rim it hangs.
        self.assertLess(guess[rows // 4 + 1, middle[1], 1], -0.8)
        self.assertGreater(guess[rows - rows // 4 - 2, middle[1], 1], 0.9)
        self.assertGreater(guess[middle][1], 0.9)

    def test_the_pictures_own_border_is_no_rim(self):
        guess = prior_field(FRAME, np.zeros((0, 2)), animal=np.ones(FRAME.shape, bool))
        np.testing.assert_allclose(guess, GUESS, atol=1e-6)

    def test_without_a_comb_the_direction_is_a_guess(self):
        guess = prior_field(FRAME, np.array([[150.0, 100.0]]))
        field = zone_field(rectangle(20, 20, 130, 100), [], FRAME, guess)
        self.assertFalse(field.combed)
        self.assertEqual(field.sure_share(), 0)
        direction, _ = field.sample(np.array([[220.0, 100], [80, 100]]))
        self.assertGreater(direction[0, 0], 0.3)
        self.assertLess(direction[1, 0], -0.3)

    def test_combs_that_disagree_are_not_sure(self):
        mask = rectangle(20, 20, 130, 100)
        combs = [comb([140, 100], [120, 100]), comb([160, 100], [180, 100])]
        _, sure = zone_field(mask, combs, FRAME, GUESS).sample(np.array([[150.0, 100.0]]))
        self.assertLess(sure[0], SURE_ENOUGH)

    def test_rank_rises_along_the_growth(self):
        field = zone_field(rectangle(20, 20, 130, 60), [comb([60, 80], [90, 80])], FRAME, GUESS)
        rank = laying_rank(field)
        row = rank[40 - field.row, 25 - field.column : 125 - field.column]
        self.assertTrue((np.diff(row) > 0.5).all())

    def test_rank_rises_downward_too_and_in_a_part_that_is_cut_in(self):
        """Two columns of hair that runs down, joined above only: in each a row lies a cell further toward the tips."""
        rows, columns = 60, 50
        domain = np.ones((rows, columns), bool)
        domain[12:, 20:30] = False
        direction = np.zeros((rows, columns, 2), np.float32)
        direction[..., 1] = 1
        frame, one = Frame.over(Crop(0, 0, 50, 60), 1.0, 60), np.ones((rows, columns), np.float32)
        field = ZoneField(frame, 0, 0, direction, one, domain, domain, combed=True, axis_sure=one, rooted=domain)
        rank = laying_rank(field, pace=one)
        for column in (5, 15, 35, 45):
            steps = np.diff(rank[4:56, column])
            self.assertAlmostEqual(float(steps.mean()), 1, delta=0.05)
            self.assertGreater(float(steps.min()), 0.7)
        np.testing.assert_allclose(
            laying_rank(field, pace=2 * one)[50, 5] - rank[50, 5], rank[50, 5] - rank.mean(), atol=8
        )

    def test_cancel_and_empty(self):
        def stop():
            return True

        with self.assertRaises(Cancelled):
            zone_field(rectangle(20, 20, 90, 90), [comb([60, 80], [90, 80])], FRAME, GUESS, Progress(cancelled=stop))
        with self.assertRaises(ValueError):
            zone_field(np.zeros(FRAME.shape, bool), [], FRAME, GUESS)


class Glyphs(unittest.TestCase):
    def setUp(self):
        self.field = zone_field(rectangle(20, 20, 130, 100), [comb([60, 80], [90, 80])], FRAME, GUESS)

    def test_true_length_and_width(self):
        coat = KINDS["long-fur"].coat
        glyphs = place_glyphs(self.field, coat, 6.0)
        steps = np.diff(glyphs.points_px, axis=1)
        np.testing.assert_allclose(np.hypot(steps[..., 0], steps[..., 1]).sum(1), coat.length_mm, rtol=0.02)
        np.testing.assert_allclose(glyphs.width_px, coat.width_mm)
        self.assertTrue((glyphs.points_px[:, -1, 0] > glyphs.points_px[:, 0, 0]).all())

    def test_hairs_stand_as_far_apart_as_is_asked_and_tufts_further(self):
        area = float(self.field.inside.sum()) * FRAME.cell_mm**2
        plain = replace(KINDS["short-fur"].coat, length_mm=10.0, clump_mm=0.0)
        for spacing in (5.0, 9.0):
            gap = spacing + 0.3 * 10
            self.assertAlmostEqual(
                len(place_glyphs(self.field, plain, spacing).points_px) * gap**2 / area, 1.15, delta=0.08
            )
            tufted = replace(plain, clump_mm=spacing)
            gap = 1.4 * spacing + 0.3 * 10 + 1.2 * spacing
            strands = len(place_glyphs(self.field, tufted, spacing).points_px)
            self.assertEqual(strands % 3, 0)
            self.assertAlmostEqual(strands / 3 * gap**2 / area, 1.15, delta=0.12)

    def test_zooming_in_adds_and_never_reshuffles(self):
        coat = KINDS["short-fur"].coat
        few, many = (place_glyphs(self.field, coat, gap, 3).points_px for gap in (12.0, 6.0))
        self.assertGreater(len(many), len(few))
        np.testing.assert_allclose(many[: len(few)], few, atol=1e-3)

    def test_words(self):
        self.assertEqual(compass_words(0), "toward 3 o'clock, level")
        self.assertEqual(compass_words(32), "toward 4 o'clock, 32° below level")
        self.assertEqual(compass_words(-90), "toward 12 o'clock, 90° above level")
        self.assertEqual(compass_words(148), "toward 8 o'clock, 32° below level")
