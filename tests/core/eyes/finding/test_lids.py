import unittest

import cv2
import numpy as np

from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.lids import LIGHT_RISE, _path, find_lids, find_lights
from tests.core.eyes.finding.drawn import IRIS, MIDDLE, X, Y, eye


class Paths(unittest.TestCase):
    """The way along which steps are clearest."""

    def test_it_follows_a_ridge_that_bends_also_along_the_first_and_the_last_row(self):
        columns = np.arange(30)
        for ridge in (10 + np.round(4 * np.sin(columns / 5)).astype(int), 0 * columns, 0 * columns + 24):
            step = np.random.default_rng(1).normal(0, 0.2, (30, 25))
            step[columns, ridge] += 5
            np.testing.assert_array_equal(_path(step), ridge)

    def test_a_strong_spot_far_off_is_not_worth_the_way(self):
        step = np.zeros((30, 25))
        step[:, 12] = 2.0
        step[15, 20] = 5.0
        self.assertEqual(_path(step)[15], 12)
        step[15, 20] = 20.0
        self.assertEqual(_path(step)[15], 20)


class Lights(unittest.TestCase):
    def found(self, *lights, iris=40.0):
        pupil = Ellipse(MIDDLE, MIDDLE, 20, 20)
        return find_lights(eye(pupil, lights, iris), IRIS, pupil)

    def test_they_are_where_they_are_the_largest_first(self):
        near, far = (MIDDLE + 10, MIDDLE - 14), (MIDDLE - 20, MIDDLE + 9)
        found = self.found((*far, 5, 97), (*near, 8, 97))
        np.testing.assert_allclose(found, [near, far], atol=0.4)
        # Less than a quarter of the first is wetness.
        np.testing.assert_allclose(self.found((*far, 3, 97), (*near, 8, 97)), [near], atol=0.4)

    def test_what_rises_little_is_no_light_nor_is_what_lies_beyond(self):
        at = (MIDDLE + 12, MIDDLE - 30)
        self.assertEqual(len(self.found((*at, 6, 70 + LIGHT_RISE - 2), iris=70.0)), 0)
        self.assertEqual(len(self.found((*at, 6, 97), iris=70.0)), 1)
        self.assertEqual(len(self.found((MIDDLE + 60, MIDDLE, 6, 97))), 0)

    def test_in_a_dark_ball_a_grey_spot_is_a_light_and_toward_the_rim_one_counts_less(self):
        at = (MIDDLE + 8, MIDDLE - 24)
        self.assertEqual(len(self.found((*at, 6, 40), iris=10.0)), 1)
        self.assertEqual(len(self.found((*at, 6, 60), iris=55.0)), 0)
        outer, inner = (MIDDLE + 42, MIDDLE), (MIDDLE - 12, MIDDLE - 26)
        found = self.found((*outer, 6, 90), (*inner, 5.6, 90), iris=10.0)
        np.testing.assert_allclose(found[0], inner, atol=0.5)

    def test_a_speck_and_a_bright_iris_are_none(self):
        at = (MIDDLE + 12, MIDDLE - 30)
        self.assertEqual(len(self.found((*at, 1.1, 97))), 0)
        self.assertEqual(len(self.found(iris=80.0)), 0)


class Lids(unittest.TestCase):
    def lids(self, upper, lower):
        pupil = Ellipse(MIDDLE, MIDDLE, 16, 16)
        lab = eye(pupil)
        u = (X - MIDDLE) / 50
        if upper is not None:
            lab[MIDDLE + 50 * (upper + 0.3 * u**2) > Y] = (12, 3, 4)
        if lower is not None:
            lab[MIDDLE + 50 * (lower - 0.25 * u**2) < Y] = (12, 3, 4)
        lab = cv2.GaussianBlur(lab, (0, 0), 1.0)
        return find_lids(lab, IRIS, pupil, np.zeros((0, 2)))

    def test_each_is_followed_where_it_cuts_the_iris(self):
        upper, lower = self.lids(-0.7, 0.75)
        u = (upper[:, 0] - MIDDLE) / 50
        np.testing.assert_allclose(upper[:, 1], MIDDLE + 50 * (-0.7 + 0.3 * u**2), atol=1.5)
        u = (lower[:, 0] - MIDDLE) / 50
        np.testing.assert_allclose(lower[:, 1], MIDDLE + 50 * (0.75 - 0.25 * u**2), atol=1.5)
        self.assertTrue((np.diff(upper[:, 0]) > 0).all())

    def test_one_that_slants_is_followed_on_its_own_slant(self):
        pupil = Ellipse(MIDDLE, MIDDLE, 16, 16)
        lab = eye(pupil)
        u = (X - MIDDLE) / 50
        lab[MIDDLE + 50 * (-0.6 + 0.25 * u + 0.2 * u**2) > Y] = (12, 3, 4)
        upper, lower = find_lids(cv2.GaussianBlur(lab, (0, 0), 1.0), IRIS, pupil, np.zeros((0, 2)))
        u = (upper[:, 0] - MIDDLE) / 50
        np.testing.assert_allclose(upper[:, 1], MIDDLE + 50 * (-0.6 + 0.25 * u + 0.2 * u**2), atol=1.5)
        np.testing.assert_allclose(upper[[0, -1], 0], MIDDLE + np.array([-55, 55]), atol=0.01)
        self.assertEqual(len(lower), 0)

    def test_a_bend_the_wrong_way_is_no_lid(self):
        """An upper lid falls toward its corners; what rises there is a brow's shadow or a fold."""
        upper, _ = self.lids_bent(-0.55, -0.5)
        self.assertEqual(len(upper), 0)
        upper, _ = self.lids_bent(-0.7, 0.3)
        self.assertEqual(len(upper), 7)

    def lids_bent(self, height, bend):
        pupil = Ellipse(MIDDLE, MIDDLE, 14, 14)
        lab = eye(pupil)
        lab[MIDDLE + 50 * (height + bend * ((X - MIDDLE) / 50) ** 2) > Y] = (12, 3, 4)
        return find_lids(cv2.GaussianBlur(lab, (0, 0), 1.0), IRIS, pupil, np.zeros((0, 2)))

    def test_a_light_on_the_ball_is_no_lids_edge(self):
        pupil = Ellipse(MIDDLE, MIDDLE, 14, 14)
        spot = (MIDDLE + 6, MIDDLE - 28)
        lab = eye(pupil, [(*spot, 9, 97)])
        lab[MIDDLE + 50 * (-0.8 + 0.3 * ((X - MIDDLE) / 50) ** 2) > Y] = (12, 3, 4)
        upper, _ = find_lids(cv2.GaussianBlur(lab, (0, 0), 1.0), IRIS, pupil, np.array([spot]))
        u = (upper[:, 0] - MIDDLE) / 50
        np.testing.assert_allclose(upper[:, 1], MIDDLE + 50 * (-0.8 + 0.3 * u**2), atol=2)

    def test_an_open_eye_has_none(self):
        self.assertEqual([len(lid) for lid in self.lids(None, None)], [0, 0])
        self.assertEqual([len(lid) > 0 for lid in self.lids(-0.6, None)], [True, False])
        self.assertEqual([len(lid) > 0 for lid in self.lids(None, 0.6)], [False, True])
