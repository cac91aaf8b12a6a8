import unittest

import numpy as np

from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.rim import trace_rim, well_inside
from foxpath.core.eyes.finding.window import ANGLES
from tests.core.eyes.finding.drawn import IRIS, MIDDLE, Y, eye

NO_PUPIL = Ellipse(MIDDLE, MIDDLE, 1, 1)


class Tracing(unittest.TestCase):
    def test_a_rim_is_found_all_the_way_round_from_a_guess_off_it(self):
        lab = eye(NO_PUPIL, iris=25.0)
        for guess in (Ellipse(MIDDLE, MIDDLE, 46, 46), Ellipse(MIDDLE + 2, MIDDLE - 1, 54, 54)):
            points, share, turn, _ = trace_rim(lab, guess, 0.12)
            self.assertEqual(len(points), len(share))
            self.assertEqual(len(points), len(turn))
            self.assertGreater(len(points), 0.9 * 2 * ANGLES)
            off = np.hypot(*(points - MIDDLE).T) - 50
            self.assertLess(np.abs(off).max(), 1.0)
            np.testing.assert_allclose(points, guess.at(turn, share), atol=1e-6)

    def test_where_a_lid_hides_it_nothing_is_taken_for_the_rim(self):
        lab = eye(NO_PUPIL, iris=25.0)
        lab[Y < MIDDLE - 20] = (80, 10, 10)
        points, _, _, side = trace_rim(lab, IRIS, 0.07)
        self.assertGreater(len(points), 0.4 * 2 * ANGLES)
        self.assertGreater(points[:, 1].min(), MIDDLE - 24)
        self.assertGreater(abs(np.cos(side)), 0.7)
        self.assertLess(np.abs(np.hypot(*(points - MIDDLE).T) - 50).max(), 1.5)

    def test_where_nothing_steps_there_is_no_rim(self):
        flat = np.full((240, 240, 3), 40.0, np.float32)
        points, share, turn, _ = trace_rim(flat, IRIS, 0.1)
        self.assertEqual((len(points), len(share), len(turn)), (0, 0, 0))

    def test_well_inside_keeps_its_distance(self):
        square = np.array([[0.0, 0], [100, 0], [100, 100], [0, 100]])
        inside = well_inside(square, np.array([[50.0, 50], [50, 9], [50, 11], [50, -5], [95, 50]]), 10)
        self.assertEqual(inside.tolist(), [True, False, True, False, False])
