import unittest

import cv2
import numpy as np

from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.pupil import find_pupil
from tests.core.eyes.finding.drawn import IRIS, MIDDLE, X, Y, eye


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
