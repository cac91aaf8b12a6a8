"""Pupil, catchlights and lids of irises drawn flat: each is found where it is, to a fraction of a pixel."""

import unittest

import cv2
import numpy as np

from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.find import _moved, _moved_back
from foxpath.core.eyes.finding.lids import LIGHT_RISE, find_lids, find_lights
from foxpath.core.eyes.finding.pupil import find_pupil
from foxpath.core.eyes.finding.window import WINDOW

MIDDLE = WINDOW / 2
IRIS = Ellipse(MIDDLE, MIDDLE, 50.0, 50.0)
Y, X = np.mgrid[0:WINDOW, 0:WINDOW] + 0.5
PLACES = np.stack([X, Y], axis=-1)


def eye(pupil, lights=(), iris=55.0, dark=8.0):
    """A window with an iris, its pupil and round lights (x, y, radius, L*), a little soft; CIELAB."""
    light = np.full(X.shape, 45.0)
    light[IRIS.share_of(PLACES) < 1] = iris
    light[pupil.share_of(PLACES) < 1] = dark
    for x, y, r, tone in lights:
        light[np.hypot(X - x, Y - y) < r] = tone
    lab = np.zeros((*X.shape, 3), np.float32)
    lab[..., 0] = cv2.GaussianBlur(light, (0, 0), 1.0)
    return lab


class Pupils(unittest.TestCase):
    def test_a_round_one_has_its_middle_and_size(self):
        for dx, dy, r in ((0, 0, 18), (6, -4, 24), (-5, 3, 12)):
            true = Ellipse(MIDDLE + dx, MIDDLE + dy, r, r)
            found, kind = find_pupil(eye(true), IRIS, true.centre)
            self.assertEqual(kind, "round")
            self.assertLess(np.hypot(found.cx - true.cx, found.cy - true.cy), 0.35)
            self.assertAlmostEqual(found.radius, r, delta=0.8)

    def test_a_slit_has_its_length_its_width_and_its_lean(self):
        for deg, kind in (
            (90, "upright"),
            (65, "upright"),
            (-70, "upright"),
            (0, "level"),
            (25, "level"),
            (-30, "level"),
        ):
            true = Ellipse(MIDDLE, MIDDLE, 30, 9, deg)
            found, named = find_pupil(eye(true), IRIS, true.centre)
            self.assertEqual(named, kind, deg)
            off = (found.deg - deg + 90) % 180 - 90
            self.assertLess(abs(off), 2, deg)
            self.assertAlmostEqual(found.rx, 30, delta=1.2)
            self.assertAlmostEqual(found.ry, 9, delta=1.2)

    def test_a_bar_fills_its_corners(self):
        lab = eye(Ellipse(MIDDLE, MIDDLE, 1, 1))
        light = np.where((np.abs(X - MIDDLE) < 28) & (np.abs(Y - MIDDLE) < 10), 8.0, lab[..., 0])
        lab[..., 0] = cv2.GaussianBlur(light, (0, 0), 0.7)
        self.assertEqual(find_pupil(lab, IRIS, (MIDDLE, MIDDLE))[1], "bar")

    def test_a_light_on_its_border_does_not_bend_it(self):
        true = Ellipse(MIDDLE, MIDDLE, 20, 20)
        found, _ = find_pupil(eye(true, [(MIDDLE + 15, MIDDLE - 13, 7, 97)]), IRIS, true.centre)
        self.assertLess(np.hypot(found.cx - true.cx, found.cy - true.cy), 1)
        self.assertAlmostEqual(found.radius, 20, delta=1)

    def test_what_a_dark_ball_mirrors_is_no_pupil(self):
        aside = Ellipse(MIDDLE + 14, MIDDLE + 6, 16, 16)
        self.assertEqual(
            find_pupil(eye(aside, iris=18, dark=6), IRIS, aside.centre)[0], Ellipse(MIDDLE, MIDDLE, 21.0, 21.0)
        )
        # One that stands clearly apart is, however far aside; so is a faint one in the middle.
        self.assertAlmostEqual(find_pupil(eye(aside, iris=40, dark=6), IRIS, aside.centre)[0].cx, aside.cx, delta=0.6)
        middle = Ellipse(MIDDLE + 3, MIDDLE, 16, 16)
        self.assertAlmostEqual(
            find_pupil(eye(middle, iris=18, dark=6), IRIS, middle.centre)[0].cx, middle.cx, delta=0.6
        )

    def test_where_none_stands_apart_a_usual_one_is_taken(self):
        found, kind = find_pupil(eye(IRIS, iris=55, dark=55), IRIS, IRIS.centre)
        self.assertEqual((found, kind), (Ellipse(MIDDLE, MIDDLE, 21.0, 21.0), "round"))


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

    def test_an_open_eye_has_none(self):
        self.assertEqual([len(lid) for lid in self.lids(None, None)], [0, 0])
        self.assertEqual([len(lid) > 0 for lid in self.lids(-0.6, None)], [True, False])
        self.assertEqual([len(lid) > 0 for lid in self.lids(None, 0.6)], [False, True])


class Windows(unittest.TestCase):
    def test_places_go_into_a_window_and_lengths_with_them(self):
        found = _moved(Ellipse(120, 90, 10, 8, 30), (100, 60), 2.5)
        self.assertEqual(found, Ellipse(50.0, 75.0, 25.0, 20.0, 30))

    def test_and_back(self):
        one = Ellipse(120, 90, 10, 8, 30)
        self.assertEqual(_moved_back(_moved(one, (100, 60), 2.5), (100, 60), 2.5), one)
