"""Pupils in irises that are drawn by numbers: whole, run on into a lid's shadow, with what the eye mirrors in them."""

import unittest

import cv2
import numpy as np

from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.pupil import _ALIKE, _alike, _by_rim, _spread, find_pupil
from foxpath.core.eyes.finding.window import WINDOW
from foxpath.core.progress.small import blur
from tests.core.eyes.finding.drawn import IRIS, MIDDLE, X, Y, eye

BALL = Ellipse(120.0, 122.0, 52.0, 50.0, 0.0)


def places():
    y, x = np.mgrid[:WINDOW, :WINDOW] + 0.5
    return np.stack([x, y], axis=-1)


def shaded(pupil, *, shadow=False, mirrored=False, iris=46.0, dark=3.0):
    """CIELAB of an eye: bright iris, dark pupil, perhaps a lid's shadow that touches it and a window mirrored in it."""
    light = np.full((WINDOW, WINDOW), 60.0)
    light[BALL.share_of(places()) <= 1.05] = 12
    light[BALL.share_of(places()) <= 0.97] = iris
    light[pupil.share_of(places()) <= 1] = dark
    y, x = np.mgrid[:WINDOW, :WINDOW]
    if shadow:
        over = (BALL.share_of(places()) < 0.97) & (y < 92) & (x > 118) & (x < 160)
        light[over] = np.minimum(light[over], dark + 6)
    if mirrored:
        light[(np.abs(x - 114) < 4) & (np.abs(y - 108) < 9)] = 30
    made = np.zeros((WINDOW, WINDOW, 3), np.float32)
    made[..., 0] = blur(light.astype(np.float32), 1.5)
    return made


class Slits(unittest.TestCase):
    slit = Ellipse(119.0, 120.0, 33.0, 13.0, 84.0)

    def off(self, found, want=None):
        want = want or self.slit
        covers = [one.share_of(places()) <= 1 for one in (found, want)]
        return 1 - (covers[0] & covers[1]).sum() / (covers[0] | covers[1]).sum()

    def test_one_that_is_seen_whole_is_found_by_its_area(self):
        for deg in (84.0, 60.0, -70.0, 5.0):
            slit = Ellipse(119.0, 120.0, 30.0, 12.0, deg)
            found, kind = find_pupil(shaded(slit), BALL, (119.0, 122.0))
            self.assertLess(self.off(found, slit), 0.08)
            self.assertEqual(kind, "level" if deg == 5 else "upright")

    def test_one_that_runs_on_into_a_shadow_and_mirrors_a_window_is_found_by_its_rim(self):
        lab = shaded(self.slit, shadow=True, mirrored=True)
        found, kind = find_pupil(lab, BALL, (119.0, 126.0))
        self.assertLess(self.off(found), 0.18)
        self.assertEqual(kind, "upright")
        self.assertLess(abs((found.deg - 84 + 90) % 180 - 90), 8)

    def test_the_rim_is_where_it_grows_lighter_all_round(self):
        light = shaded(self.slit)[..., 0]
        for start in (
            Ellipse(124.0, 112.0, 40.0, 18.0, 70.0), Ellipse(116.0, 128.0, 22.0, 10.0, 95.0), Ellipse(122.0, 124.0, 14.0, 30.0, 0.0),
        ):  # fmt: skip
            found = _by_rim(light, BALL, [start], 43.0)
            self.assertLess(self.off(found), 0.12)
            self.assertGreaterEqual(found.rx, found.ry)
            self.assertTrue(-90 <= found.deg < 90)

    def test_of_several_starts_the_one_that_leads_to_the_clearest_rim_counts(self):
        light = shaded(self.slit)[..., 0]
        far = Ellipse(150.0, 150.0, 9.0, 5.0, 0.0)
        near = Ellipse(121.0, 118.0, 30.0, 15.0, 80.0)
        for starts in ([far, near], [near, far]):
            self.assertLess(self.off(_by_rim(light, BALL, starts, 43.0)), 0.12)

    def test_where_nothing_is_clearer_it_stays_as_it_was(self):
        even = np.full((WINDOW, WINDOW), 40.0, np.float32)
        self.assertIs(_by_rim(even, BALL, [self.slit], 43.0), self.slit)
        light = shaded(self.slit)[..., 0]
        best = _by_rim(light, BALL, [self.slit], 43.0)
        self.assertEqual(_by_rim(light, BALL, [best], 43.0), best)
        # The iris's own rim is none of the pupil's, however clear it is.
        blind = shaded(Ellipse(119.0, 120.0, 3.0, 2.0, 0.0), dark=44.0)[..., 0]
        wide = Ellipse(120.0, 122.0, 47.0, 45.0, 0.0)
        self.assertIs(_by_rim(blind, BALL, [wide], 43.0), wide)


class Shapes(unittest.TestCase):
    def test_a_mask_s_own_ellipse_spreads_as_it_does(self):
        for deg in (0.0, 35.0, -80.0):
            slit = Ellipse(110.0, 130.0, 30.0, 12.0, deg)
            mask = slit.share_of(places()) <= 1
            found = _spread(mask)
            np.testing.assert_allclose((found.cx, found.cy, found.rx, found.ry), (110, 130, 30, 12), atol=0.2)
            self.assertLess(abs((found.deg - deg + 90) % 180 - 90), 1)
            self.assertGreater(_alike(mask, found), 0.97)

    def test_a_mask_that_is_no_ellipse_is_unlike_its_own(self):
        mask = Ellipse(110.0, 130.0, 30.0, 12.0, 90.0).share_of(places()) <= 1
        mask |= Ellipse(130.0, 100.0, 22.0, 6.0, 10.0).share_of(places()) <= 1
        self.assertLess(_alike(mask, _spread(mask)), _ALIKE)
        self.assertEqual(_alike(np.zeros_like(mask), _spread(mask)), 0)


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
