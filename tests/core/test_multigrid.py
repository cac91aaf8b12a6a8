import unittest

import numpy as np
from scipy.sparse import coo_matrix
from scipy.sparse.linalg import spsolve

from foxpath.core.multigrid import Multigrid, _coarser


def grid(rows, columns, seed=1, barriers=0.2):
    """Random screening and conductances, some of them barriers."""
    rng = np.random.default_rng(seed)
    weight = rng.uniform(0.01, 0.5, (rows, columns)).astype(np.float32)
    east, south = rng.uniform(0.2, 3.0, (2, rows, columns)).astype(np.float32)
    for side in (east, south):
        side[rng.random(side.shape) < barriers] = 0
    east[:, -1] = south[-1] = 0
    return weight, east, south


def solved(weight, east, south, f):
    """The same by a library's direct solver."""
    rows, columns = weight.shape
    at = np.arange(rows * columns).reshape(rows, columns)
    i, j, v = [at.ravel()], [at.ravel()], [weight.ravel().astype(np.float64)]
    for pair in ((at[:, :-1], at[:, 1:], east[:, :-1]), (at[:-1], at[1:], south[:-1])):
        a, b, c = (one.ravel() for one in pair)
        c = c.astype(np.float64)
        i += [a, b, a, b]
        j += [a, b, b, a]
        v += [c, c, -c, -c]
    matrix = coo_matrix((np.concatenate(v), (np.concatenate(i), np.concatenate(j)))).tocsr()
    return np.stack([spsolve(matrix, plane.ravel().astype(np.float64)).reshape(rows, columns) for plane in f])


class Steps:
    """Counts the steps a solution takes."""

    def __init__(self):
        self.taken = 0

    def at(self, *_):
        self.taken += 1


class Solving(unittest.TestCase):
    def test_it_solves_what_a_library_solves(self):
        for rows, columns in ((17, 30), (48, 37), (9, 90)):
            weight, east, south = grid(rows, columns)
            f = np.random.default_rng(2).normal(size=(2, rows, columns)).astype(np.float32)
            u = Multigrid(weight, east, south, 2).solve(f, 1e-6)
            wanted = solved(weight, east, south, f)
            self.assertLess(np.abs(u - wanted).max(), 2e-4 * np.abs(wanted).max(), (rows, columns))

    def test_each_right_hand_side_is_its_own(self):
        weight, east, south = grid(20, 20)
        f = np.random.default_rng(3).normal(size=(2, 20, 20)).astype(np.float32)
        f[1] *= 1000
        both = Multigrid(weight, east, south, 2).solve(f, 1e-6)
        alone = Multigrid(weight, east, south, 1).solve(f[:1], 1e-6)
        np.testing.assert_allclose(both[0], alone[0], atol=1e-3)

    def test_nothing_crosses_a_barrier(self):
        weight = np.full((24, 24), 1e-4, np.float32)
        east, south = np.ones((2, 24, 24), np.float32)
        east[:, -1] = south[-1] = east[:, 11] = 0
        f = np.zeros((1, 24, 24), np.float32)
        f[0, 5, 3] = 1
        u = Multigrid(weight, east, south, 1).solve(f)[0]
        self.assertGreater(u[:, :12].min(), 1.0)
        self.assertEqual(float(np.abs(u[:, 12:]).max()), 0.0)

    def test_larger_grids_take_no_more_steps(self):
        taken = []
        for size in (48, 384):
            weight = np.full((size, size), 1e-3, np.float32)
            east, south = np.ones((2, size, size), np.float32)
            east[:, -1] = south[-1] = 0
            f = np.random.default_rng(4).normal(size=(1, size, size)).astype(np.float32)
            steps = Steps()
            Multigrid(weight, east, south, 1).solve(f, 1e-4, steps)
            taken.append(steps.taken)
        self.assertLess(taken[1], 24)
        self.assertLess(taken[1], 1.8 * taken[0] + 3)

    def test_a_good_start_saves_steps_and_changes_nothing(self):
        weight, east, south = grid(60, 60)
        f = np.random.default_rng(5).normal(size=(1, 60, 60)).astype(np.float32)
        cold, warm = Steps(), Steps()
        first = Multigrid(weight, east, south, 1).solve(f, 1e-5, cold)
        again = Multigrid(weight, east, south, 1).solve(f, 1e-4, warm, start=first)
        self.assertEqual(warm.taken, 0)
        self.assertGreater(cold.taken, 3)
        np.testing.assert_allclose(again, first, atol=1e-4)


class Coarser(unittest.TestCase):
    def test_weights_add_up_and_conductances_across_the_seam_are_halved(self):
        rng = np.random.default_rng(6)
        weight, east, south = (np.pad(rng.uniform(0, 1, (4, 6)).astype(np.float32), 1) for _ in range(3))
        w, e, s = _coarser(weight, east, south)
        self.assertEqual(w.shape, (4, 5))
        inner = weight[1:-1, 1:-1]
        self.assertAlmostEqual(float(w[2, 3]), float(inner[2:4, 4:6].sum()), places=5)
        self.assertAlmostEqual(float(e[1, 2]), float(east[1:-1, 1:-1][0:2, 3].sum()) / 2, places=5)
        self.assertAlmostEqual(float(s[1, 2]), float(south[1:-1, 1:-1][1, 2:4].sum()) / 2, places=5)
        # Around it lies a border that stands alone.
        self.assertTrue((w[[0, -1]] == 1).all() and (w[:, [0, -1]] == 1).all())
        self.assertFalse(e[[0, -1]].any() or e[:, [0, -1]].any() or s[[0, -1]].any() or s[:, [0, -1]].any())


if __name__ == "__main__":
    unittest.main()
