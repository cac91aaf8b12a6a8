"""An eye on the canvas held against the planned one: moved, enlarged, made oval by known amounts."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.progress.judge.features import STEADY_MM, _light, _told, catchlight_of, clear_of_border, eyes
from foxpath.core.progress.small import lab_of
from tests.canvas import EYES, PX, RADIUS, painted, planned, seen_as


def warped(at, matrix, shift=(0.0, 0.0), reach=3.0):
    """The painting with what lies round a place warped about it, faded into what stays."""
    rgb = painted(0).astype(np.float32)
    at = np.array(at)
    inverse = np.linalg.inv(np.array(matrix, float))
    y, x = np.mgrid[: rgb.shape[0], : rgb.shape[1]].astype(np.float32)
    back = np.stack([x - at[0] - shift[0], y - at[1] - shift[1]], axis=-1) @ inverse.T + at
    moved = cv2.remap(rgb, *(np.ascontiguousarray(back[..., k], np.float32) for k in (0, 1)), cv2.INTER_CUBIC)
    weight = np.clip(reach + 0.5 - np.hypot(x - at[0], y - at[1]) / RADIUS, 0, 1)[..., None]
    return np.clip(weight * moved + (1 - weight) * rgb, 0, 255).astype(np.uint8)


def found(rgb, number=0):
    return {one.rule: one for one in eyes(planned(), seen_as(rgb)) if one.eye == number}


class Eyes(unittest.TestCase):
    def test_as_planned_nothing_is_off(self):
        for number in (0, 1):
            one = found(painted(0), number)
            self.assertLess(one["place"].measure, 0.1)
            self.assertLess(np.hypot(*one["place"].toward), 0.1)

    def test_a_shift_is_measured_both_ways_and_as_far_as_there_is_room(self):
        for shift in ((10, 0), (-9, 6), (0, -14), (17, 12)):
            one = found(warped(EYES[0], np.eye(2), shift))
            np.testing.assert_allclose(one["place"].toward, np.array(shift) / PX, atol=0.35)
            other = found(warped(EYES[0], np.eye(2), shift), 1)
            self.assertLess(np.hypot(*other["place"].toward), 0.25)

    def test_a_larger_and_a_smaller_eye(self):
        for factor in (1.2, 0.85):
            one = found(warped(EYES[1], factor * np.eye(2)), 1)
            wide = 2 * RADIUS / PX
            self.assertAlmostEqual(one["size"].size, (factor - 1) * wide, delta=0.035 * wide)
            self.assertLess(np.hypot(*one["place"].toward), 0.5)

    def test_one_that_became_an_oval(self):
        wide = found(warped(EYES[0], ((1.22, 0), (0, 1))))["oval"]
        tall = found(warped(EYES[0], ((1, 0), (0, 1.22))))["oval"]
        self.assertGreater(wide.size, 0.12 * wide.planned)
        self.assertLess(tall.size, -0.1 * tall.planned)

    def test_a_small_eye_is_drawn_no_steadier_than_a_larger_one(self):
        self.assertEqual(_told(0.2, STEADY_MM), 0.2)
        self.assertEqual(_told(0.2, 3 * STEADY_MM), 0.2)
        self.assertAlmostEqual(_told(0.2, 0.5 * STEADY_MM), 0.1)


class Clear(unittest.TestCase):
    def test_an_eye_at_the_rim_or_under_glare_is_not_judged(self):
        made, seen = planned(), seen_as(painted(0))
        eye = made.eyes[0]
        self.assertTrue(clear_of_border(made, seen, eye))
        reach = int(2.4 * eye.radius)
        self.assertTrue(clear_of_border(made, seen, replace(eye, x=float(reach))))
        self.assertFalse(clear_of_border(made, seen, replace(eye, x=float(reach - 1))))
        self.assertFalse(clear_of_border(made, seen, replace(eye, y=float(made.size[1] - reach + 1))))
        for share, clear in ((0.05, True), (0.2, False)):
            use = seen.use.copy()
            rows = round(share * 2 * reach)
            top = int(eye.y) - reach
            use[top : top + rows] = False
            self.assertEqual(clear_of_border(made, replace(seen, use=use), eye), clear)


class Catchlights(unittest.TestCase):
    def test_it_is_found_where_it_lies_with_its_area(self):
        rgb = painted(0).copy()
        x, y = EYES[0]
        cv2.circle(rgb, (int(x), int(y)), int(RADIUS), (40, 30, 25), -1)
        self.assertIsNone(catchlight_of(lab_of(rgb), x, y, RADIUS, PX))
        cv2.circle(rgb, (int(x) - 8, int(y) - 10), 4, (250, 250, 248), -1)
        made = catchlight_of(lab_of(rgb), x, y, RADIUS, PX)
        np.testing.assert_allclose(made[:2], (x - 8, y - 10), atol=1.0)
        self.assertAlmostEqual(made[2], np.pi * 4.5**2 / PX**2, delta=5)

    def dotted(self, dx, dy):
        rgb = painted(0).copy()
        x, y = EYES[0]
        cv2.circle(rgb, (int(x), int(y)), int(RADIUS), (40, 30, 25), -1)
        cv2.circle(rgb, (int(x) + dx, int(y) + dy), 4, (250, 250, 248), -1)
        return rgb

    def told(self, was, now, shift=(0.0, 0.0)):
        plan = replace(planned(), lab=lab_of(self.dotted(*was)))
        return _light(plan, seen_as(self.dotted(*now), plan), plan.eyes[0], np.array(shift), 1.0, 3, 0)

    def test_in_the_middle_of_an_eye_it_has_no_hour_and_away_from_it_its_turn_is_told(self):
        self.assertIsNone(self.told((1, -2), (-2, 1)))
        self.assertIsNotNone(self.told((1, -2), (12, 0)))
        quarter = self.told((0, -13), (13, 0))
        self.assertAlmostEqual(quarter.size, 3, delta=0.25)
        self.assertAlmostEqual(self.told((13, 0), (0, -13)).size, -3, delta=0.25)
        # An eye that stands elsewhere has its light beside its own middle.
        moved = self.told((0, -13), (8, -13), (8 / PX, 0.0))
        self.assertAlmostEqual(moved.size, 0, delta=0.15)


if __name__ == "__main__":
    unittest.main()
