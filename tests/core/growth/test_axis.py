"""Axes, root and tip on small grids, where the answer can be written down."""

import unittest

import numpy as np

from foxpath.core.growth.axis import (
    KAPPA,
    NEARBY,
    NEARBY_SHARE,
    TAU,
    AxisEvidence,
    _reweighted,
    blended,
    cut_along,
    doubled,
    evidence_of,
    loosened,
    root_and_tip,
    smoothing_cells,
    solve_axis,
    with_combs,
)
from foxpath.core.growth.evidence import hair_shown
from foxpath.core.growth.sureness import INFERRED, REACH, calm_of, comb_nearness, sure_of_axis, sure_of_root


def open_grid(rows, columns):
    """Conductances of an undivided field: none beyond the last column and row."""
    east, south = np.ones((2, rows, columns), np.float32)
    east[:, -1] = south[-1] = 0
    return east, south


def axes(deg, rows=12, columns=12):
    a = np.radians(np.broadcast_to(np.asarray(deg, float), (rows, columns)) * 2)
    return np.stack([np.cos(a), np.sin(a)]).astype(np.float32)


class Evidence(unittest.TestCase):
    def test_the_double_angle_has_no_root(self):
        for deg in (10, 95, 170):
            way = np.array([np.cos(np.radians(deg)), np.sin(np.radians(deg))], np.float32).reshape(2, 1, 1)
            np.testing.assert_allclose(doubled(way), doubled(-way))
            np.testing.assert_allclose(doubled(way)[:, 0, 0], axes(deg, 1, 1)[:, 0, 0], atol=1e-6)

    def test_usual_hair_weighs_one_and_nothing_more_than_three(self):
        plenty = np.full((2, 6), 50.0, np.float32)
        while hair_shown(plenty).min() < 1:
            plenty *= 2
        size = np.array([[1, 1, 1, 1, 1, 55.0]] * 2, np.float32)
        inside = np.ones((2, 6), bool)
        inside[0] = False
        found = evidence_of(axes(30, 2, 6) * size, plenty, np.ones((2, 6), np.float32), inside)
        self.assertTrue((found.weight[0] == 0).all())
        np.testing.assert_allclose(found.weight[1], [0.1] * 5 + [3.0], rtol=1e-5)
        np.testing.assert_allclose(found.axis, axes(30, 2, 6), atol=1e-6)

    def test_what_does_not_hang_together_weighs_less(self):
        plenty, inside = np.full((1, 4), 1e6, np.float32), np.ones((1, 4), bool)
        coherence = np.array([[0.05, 0.1, 0.275, 0.45]], np.float32)
        found = evidence_of(axes(0, 1, 4), plenty, coherence, inside)
        np.testing.assert_allclose(found.weight[0], [0, 0, 0.5, 1], atol=1e-5)

    def test_scales_that_agree_add_up_and_those_that_do_not_go_out(self):
        def part(deg, weight):
            return AxisEvidence(axes(deg, 1, 1), np.full((1, 1), weight, np.float32))

        found = blended([(0.25, part(40, 1.0)), (0.75, part(40, 2.0))])
        np.testing.assert_allclose(found.axis, axes(40, 1, 1), atol=1e-6)
        self.assertAlmostEqual(float(found.weight[0, 0]), 0.25 + 1.5, places=6)
        found = blended([(0.5, part(0, 1.0)), (0.5, part(90, 3.0))])
        np.testing.assert_allclose(found.axis, axes(90, 1, 1), atol=1e-6)
        self.assertAlmostEqual(float(found.weight[0, 0]), 1.0, places=6)

    def test_combs_speak_beside_themselves_more_faintly_the_farther_off(self):
        nothing = AxisEvidence(axes(0, 40, 61), np.zeros((40, 61), np.float32))
        marks, combed = np.zeros((2, 40, 61), np.float32), np.zeros((40, 61), np.float32)
        marks[1, :, 10], combed[:, 10] = 1, 1
        east, south = open_grid(40, 61)
        domain = np.ones((40, 61), bool)
        long_side = 400
        found = with_combs(nothing, marks, combed, (east, south), domain, long_side)
        row = found.weight[20]
        np.testing.assert_allclose(found.axis[:, 20, 8:40], axes(90, 32, 1)[:, :, 0].reshape(2, 32), atol=0.02)
        self.assertAlmostEqual(float(row[10]), NEARBY, delta=0.02 * NEARBY)
        # From a straight comb it falls off by e over its reach, here twelve cells.
        reach = NEARBY_SHARE * long_side
        self.assertAlmostEqual(float(row[10 + round(reach)] / row[10]), np.exp(-1), delta=0.06)
        self.assertAlmostEqual(float(row[10 + 2 * round(reach)] / row[10]), np.exp(-2), delta=0.04)
        # Nothing passes a parting.
        east[:, 20] = 0
        parted = with_combs(nothing, marks, combed, (east, south), domain, long_side)
        self.assertLess(float(parted.weight[20, 22]), 0.02 * float(row[22]))
        self.assertGreater(float(parted.weight[20, 19]), float(row[19]))

    def test_where_the_picture_is_plain_combs_beside_hardly_matter(self):
        plain = AxisEvidence(axes(0, 20, 20), np.full((20, 20), 3.0, np.float32))
        marks, combed = np.zeros((2, 20, 20), np.float32), np.zeros((20, 20), np.float32)
        self.assertIs(with_combs(plain, marks, combed, open_grid(20, 20), np.ones((20, 20), bool), 400), plain)
        marks[1, :, 10], combed[:, 10] = 1, 1
        found = with_combs(plain, marks, combed, open_grid(20, 20), np.ones((20, 20), bool), 400)
        np.testing.assert_allclose(found.axis[:, 10, 10], axes(0, 1, 1)[:, 0, 0], atol=1e-5)
        self.assertAlmostEqual(float(found.weight[10, 10]), 3 - NEARBY, delta=0.01)

    def test_longer_hair_is_smoothed_wider_within_bounds(self):
        self.assertEqual(smoothing_cells(1e-9, 512), 4)
        self.assertEqual(smoothing_cells(1.0, 512), 11)
        self.assertAlmostEqual(smoothing_cells(0.03, 512), 2.8 + 2 * 2.3)
        self.assertAlmostEqual(smoothing_cells(0.03, 1024), 2 * smoothing_cells(0.03, 512))

    def test_evidence_across_the_field_is_outvoted(self):
        found = _reweighted(AxisEvidence(axes(90), np.full((12, 12), 2, np.float32)), axes(90) * 0.2)
        np.testing.assert_allclose(found, 2, rtol=1e-4)
        found = _reweighted(AxisEvidence(axes(90), np.ones((12, 12), np.float32)), axes(0))
        np.testing.assert_allclose(found, (1 + 4 / (2 * TAU**2)) ** -2, rtol=1e-4)


class Solving(unittest.TestCase):
    def solve(self, evidence, combs, combed, joined=None):
        domain = np.ones((12, 12), bool)
        return solve_axis(evidence, combs, combed, joined or open_grid(12, 12), domain, 4.0)

    def nothing(self):
        return AxisEvidence(axes(0), np.zeros((12, 12), np.float32))

    def comb(self, deg, column):
        combs, combed = np.zeros((2, 12, 12), np.float32), np.zeros((12, 12), np.float32)
        combs[:, 5:7, column] = np.array([[np.cos(np.radians(deg))], [np.sin(np.radians(deg))]])
        combed[5:7, column] = 1
        return combs, combed

    def angle(self, field):
        return np.degrees(np.arctan2(field[1], field[0])) / 2

    def test_a_lone_comb_speaks_for_all_that_is_joined(self):
        combs, combed = self.comb(30, 3)
        joined = open_grid(12, 12)
        joined[0][:, 7] = 0
        field = self.solve(self.nothing(), combs, combed, joined)
        np.testing.assert_allclose(self.angle(field)[:, :8], 30, atol=1)
        # Beyond the barrier nothing is said.
        self.assertLess(np.hypot(*field)[:, 8:].max(), 0.01)
        self.assertGreater(np.hypot(*field)[:, :8].min(), 0.3)

    def test_a_comb_wins_over_the_picture_near_by_and_the_picture_elsewhere(self):
        combs, combed = self.comb(60, 1)
        seen = AxisEvidence(axes(0), np.full((12, 12), 2.0, np.float32))
        angle = self.angle(self.solve(seen, combs, combed))
        self.assertAlmostEqual(float(angle[5, 1]), 60, delta=8)
        self.assertLess(abs(float(angle[5, 11])), 15)

    def test_neighbours_that_turn_abruptly_let_go(self):
        field = axes(np.where(np.arange(12) < 6, 0, 90))
        east, south = loosened(open_grid(12, 12), field, 3.0)
        np.testing.assert_allclose(east[:, 5], 9 / (1 + 4 / KAPPA**2), rtol=1e-4)
        np.testing.assert_allclose(np.delete(east, (5, 11), axis=1), 9, rtol=1e-4)
        np.testing.assert_allclose(south[:-1], 9, rtol=1e-4)
        turned = np.ascontiguousarray(field.transpose(0, 2, 1))
        np.testing.assert_allclose(loosened(open_grid(12, 12), turned, 3.0)[1][5], 9 / (1 + 4 / KAPPA**2), rtol=1e-4)


class RootAndTip(unittest.TestCase):
    def told(self, angle, joined, at=None, way=(1, 0), guess=(1, 0), sure=1.0):
        combs, combed = np.zeros((2, 6, 9), np.float32), np.zeros((6, 9), np.float32)
        if at is not None:
            combs[:, at[0], at[1]], combed[at] = way, 1
        guessed = np.broadcast_to(np.array(guess, np.float32)[:, None, None], (2, 6, 9))
        quality = np.broadcast_to(np.float32(sure), (6, 9))
        return root_and_tip(angle.astype(np.float32), quality, joined, combs, combed, guessed, np.ones((6, 9), bool))

    def test_a_mark_says_it_wherever_its_zone_reaches_and_a_guess_beyond(self):
        joined = open_grid(6, 9)
        joined[0][:, 4] = 0
        sign, worst, rooted = self.told(np.zeros((6, 9)), joined, (2, 1), (-1, 0))
        self.assertTrue((sign[:, :5] == -1).all() and (sign[:, 5:] == 1).all())
        self.assertTrue(rooted[:, :5].all() and not rooted[:, 5:].any())
        self.assertTrue((worst[:, 5:] == 0).all() and (worst[:, :5] > 0).all())

    def test_it_is_carried_over_the_turn_of_the_axis(self):
        """An axis of 170 degrees and one of -10 are one: the tip lies on one side, though the signs differ."""
        angle = np.where(np.arange(9) < 4, np.radians(80), np.radians(-80)) * np.ones((6, 1))
        sign, _, _ = self.told(angle, open_grid(6, 9), (2, 1), (0, 1))
        tip_down = np.sin(angle) * sign
        self.assertTrue((tip_down > 0).all())

    def test_doubtful_ground_between_makes_it_less_sure(self):
        sure = np.where(np.arange(9) == 4, 0.2, 1.0)
        _, worst, _ = self.told(np.zeros((6, 9)), open_grid(6, 9), (2, 1), sure=sure)
        self.assertGreater(worst[:, :4].min(), worst[:, 4:].max())

    def test_most_of_what_hangs_together_outvotes_the_place_that_agrees_best(self):
        """One place agrees fully with a guess that leans a little against it everywhere else."""
        guess = np.broadcast_to(np.array([-0.3, 0.95], np.float32)[:, None, None], (2, 6, 9)).copy()
        guess[:, 2, 1] = (1, 0)
        combs, combed = np.zeros((2, 6, 9), np.float32), np.zeros((6, 9), np.float32)
        sure = np.ones((6, 9), np.float32)
        told = (np.zeros((6, 9), np.float32), sure, open_grid(6, 9), combs, combed, guess, np.ones((6, 9), bool))
        self.assertTrue((root_and_tip(*told)[0] == -1).all())
        # The same of hair that runs down: what hangs together is told by the turn between neighbours.
        down = np.stack([guess[1], guess[0]])
        told = (
            np.full((6, 9), np.pi / 2, np.float32),
            sure,
            open_grid(6, 9),
            combs,
            combed,
            down,
            np.ones((6, 9), bool),
        )
        self.assertTrue((root_and_tip(*told)[0] == -1).all())

    def test_what_hangs_together_badly_votes_apart(self):
        guess = (
            np.where(np.arange(9) < 4, 1.0, -1.0)[None, None] * np.array([1.0, 0.0])[:, None, None] * np.ones((2, 6, 9))
        )
        combs, combed = np.zeros((2, 6, 9), np.float32), np.zeros((6, 9), np.float32)
        for doubtful, wanted in ((0.1, 1), (0.9, -1)):
            sure = np.where(np.arange(9) == 4, doubtful, 1.0).astype(np.float32) * np.ones((6, 1), np.float32)
            told = (np.zeros((6, 9), np.float32), sure, open_grid(6, 9), combs, combed)
            sign, _, _ = root_and_tip(*told, guess.astype(np.float32), np.ones((6, 9), bool))
            self.assertTrue((sign[:, :4] == wanted).all() and (sign[:, 5:] == -1).all(), doubtful)

    def test_a_mark_is_never_outvoted(self):
        sign, _, _ = self.told(np.zeros((6, 9)), open_grid(6, 9), (2, 1), (-1, 0), guess=(1, 0))
        self.assertTrue((sign == -1).all())

    def test_without_a_mark_the_guess_says_it(self):
        for guess, wanted in (((1, 0), 1), ((-1, 0), -1)):
            sign, worst, rooted = self.told(np.zeros((6, 9)), open_grid(6, 9), guess=guess)
            self.assertTrue((sign == wanted).all() and not rooted.any() and not worst.any())


class Partings(unittest.TestCase):
    def parted(self, line, joined):
        """Return the cells that can be reached from the upper left."""
        east, south = joined
        seen, soon = {(0, 0)}, [(0, 0)]
        while soon:
            i, j = soon.pop()
            for step, free in (
                ((i, j + 1), east[i, j]),
                ((i, j - 1), east[i, j - 1] if j else 0),
                ((i + 1, j), south[i, j]),
                ((i - 1, j), south[i - 1, j] if i else 0),
            ):
                if free and step not in seen:
                    seen.add(step)
                    soon.append(step)
        return seen

    def test_a_line_across_parts_the_field_whatever_its_slant(self):
        for line in (((5.3, -1), (5.3, 11)), ((-1, 4.2), (11, 4.2)), ((3.3, -1), (7.9, 11)), ((-1, 8.4), (11, 2.7))):
            joined = cut_along(open_grid(10, 10), [np.array(line)])
            reached = self.parted(line, joined)
            (x0, y0), (x1, y1) = line

            def side(x, y, x0=x0, y0=y0, x1=x1, y1=y1):
                return (x1 - x0) * (y - y0) - (y1 - y0) * (x - x0) > 0

            wanted = {(i, j) for i in range(10) for j in range(10) if side(j + 0.5, i + 0.5) == side(0.5, 0.5)}
            self.assertEqual(reached, wanted, line)

    def test_a_short_line_cuts_what_it_crosses_and_nothing_else(self):
        east, south = cut_along(open_grid(10, 10), [np.array([(5.0, 3.2), (5.0, 5.8)])])
        self.assertEqual(np.argwhere(east[:, :-1] == 0).tolist(), [[3, 4], [4, 4], [5, 4]])
        self.assertTrue((south[:-1] == 1).all())


class Sureness(unittest.TestCase):
    def test_a_comb_is_half_sure_at_its_reach_and_an_inferred_one_less(self):
        combed = np.zeros((5, 201), np.float32)
        combed[2, 0] = 1
        near = comb_nearness(combed, 200)
        at = round(REACH * 200)
        self.assertEqual(near[2, 0], 1)
        self.assertAlmostEqual(float(near[2, at]), 0.5, places=5)
        self.assertAlmostEqual(float(near[2, 2 * at]), 0.5 ** (2**1.5), places=5)
        combed[2, 0] = 0.4
        self.assertAlmostEqual(float(comb_nearness(combed, 200)[2, at]), 0.5 * INFERRED, places=5)
        self.assertFalse(comb_nearness(np.zeros((3, 3), np.float32), 200).any())

    def test_calm_is_lost_where_tips_meet_and_not_over_a_border(self):
        way = np.zeros((20, 20, 2), np.float32)
        way[:, :10, 0], way[:, 10:, 0] = 1, -1
        calm = calm_of(way, open_grid(20, 20))
        self.assertEqual(calm[4, 9], 0)
        self.assertGreater(calm[4, 0], 0.9)
        joined = open_grid(20, 20)
        joined[0][:, 9] = 0
        self.assertTrue((calm_of(way, joined) == 1).all())
        down = np.ascontiguousarray(way.transpose(1, 0, 2))
        self.assertEqual(calm_of(down, open_grid(20, 20))[9, 4], 0)
        # A turn of less than 120 degrees is no clash.
        way[:, 10:] = (-0.45, 0.893)
        self.assertTrue((calm_of(way, open_grid(20, 20)) == 1).all())

    def test_more_is_never_less_sure(self):
        grid = np.linspace(0, 1, 200).astype(np.float32)
        for curve in (sure_of_axis, sure_of_root):
            told = curve(grid)
            self.assertTrue((np.diff(told) >= 0).all())
            self.assertLess(told[0], 0.31)
            self.assertGreater(told[-1], 0.99)
        self.assertAlmostEqual(float(sure_of_axis(np.float32(0.55))), 0.57, places=5)


if __name__ == "__main__":
    unittest.main()
