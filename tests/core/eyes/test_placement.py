"""Eyes in a tilted head: everything is measured along its own eye line."""

import math
import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.eyes import Ellipse, Eye, check_eyes, head_frame
from foxpath.core.reference.transfer import Axes

MM = 0.25


def turned(at, deg, about=(300.0, 300.0)):
    a = math.radians(deg)
    x, y = at[0] - about[0], at[1] - about[1]
    return about[0] + math.cos(a) * x - math.sin(a) * y, about[1] + math.sin(a) * x + math.cos(a) * y


def eye(at, deg, key, shape=(40.0, 40.0), across=0.0):
    x, y = turned(at, deg)
    middle = Ellipse(x, y, *shape, deg + across)
    ends = [turned((at[0] + side * 60, at[1]), deg) for side in (-1, 1)]
    return Eye(key, f"Eye {key}", middle, replace(middle, rx=16, ry=16), inner=ends[0], outer=ends[1])


def checks(eyes, axes=None, nose=None):
    return {c.key: c for c in check_eyes(eyes, MM, axes, nose)}


class Tilted(unittest.TestCase):
    def axes(self, deg):
        return Axes(turned((190, 300), deg), turned((410, 300), deg), turned((300, 300), deg))

    def test_an_oval_is_judged_by_the_heads_tilt_and_not_by_the_picture(self):
        """A turned head narrows an iris along the eye line: so it stays when head and iris tilt together."""
        for deg in (-40, 0, 35, 80):
            narrow = eye((190, 300), deg, "a", (34.0, 40.0))
            low = eye((190, 300), deg, "a", (40.0, 34.0))
            other = eye((410, 300), deg, "b")
            self.assertEqual(checks([narrow, other], self.axes(deg))["round"].level, "note", deg)
            drift = next(
                c for c in check_eyes([low, other], MM, self.axes(deg), None) if c.key == "round" and c.subject == "a"
            )
            self.assertEqual(drift.level, "look", deg)
            self.assertIn("not by the head's turn", drift.says)
            self.assertAlmostEqual(drift.mm, 2 * 6 * MM)

    def test_the_turn_that_makes_an_oval_is_named(self):
        found = checks([eye((190, 300), 20, "a", (20.0, 40.0))], self.axes(20))["round"]
        self.assertIn("as a turn of 60° makes it", found.says)

    def test_a_drop_is_measured_square_to_the_eye_line(self):
        for deg in (-25, 15):
            a, b = eye((190, 300), deg, "a"), eye((410, 312), deg, "b")
            found = checks([a, b], self.axes(deg))["line"]
            self.assertEqual((found.level, found.subject), ("look", "b"))
            self.assertAlmostEqual(found.mm, 12 * MM, places=6)
            self.assertEqual(found.at, b.iris.centre)
            raised = checks([a, eye((410, 288), deg, "b")], self.axes(deg))["line"]
            self.assertEqual(raised.subject, "a")

    def test_the_eye_line_is_drawn_along_the_tilt_and_beyond_both_eyes(self):
        deg = 30
        found = checks([eye((190, 300), deg, "a"), eye((410, 300), deg, "b")], self.axes(deg))["line"]
        ((x0, y0), (x1, y1)) = found.lines[0]
        self.assertAlmostEqual(math.degrees(math.atan2(y1 - y0, x1 - x0)), deg, places=5)
        self.assertAlmostEqual(math.hypot(x1 - x0, y1 - y0), 2 * 0.75 * 220, places=5)
        np.testing.assert_allclose(((x0 + x1) / 2, (y0 + y1) / 2), turned((300, 300), deg), atol=1e-6)
        self.assertEqual(found.label, "eye line 30.0°")

    def test_small_displacements_are_the_brushs_and_large_ones_are_seen(self):
        """Seen is what is more than a share of the iris's width."""
        a = eye((190, 300), 0, "a")
        for drop, level in ((2.0, "note"), (10.0, "look")):
            self.assertEqual(checks([a, eye((410, 300 + drop), 0, "b")], self.axes(0))["line"].level, level)

    def test_the_frame_is_told_from_the_axes_then_the_corners_then_the_irises(self):
        a, b = eye((190, 300), 10, "a"), eye((410, 300), 10, "b")
        self.assertEqual(head_frame([a, b], self.axes(10)).source, "axes")
        self.assertEqual(head_frame([a, b], None).source, "corners")
        bare = [replace(one, inner=None, outer=None) for one in (a, b)]
        self.assertEqual(head_frame(bare, None).source, "irises")
        self.assertAlmostEqual(head_frame(bare, None).tilt_deg, 10, places=5)
        self.assertIsNone(head_frame([a], None))
        tilted = checks(bare)["line"]
        self.assertEqual((tilted.level, tilted.says), ("note", "The eye line tilts by 10.0°."))

    def test_a_pupil_off_the_middle_is_measured(self):
        off = eye((190, 300), 0, "a")
        for shift, there in ((3.0, False), (9.0, True)):
            moved = replace(off, pupil=replace(off.pupil, cx=off.iris.cx + shift))
            found = checks([moved])
            self.assertEqual("middle" in found, there, shift)
            if there:
                self.assertAlmostEqual(found["middle"].mm, shift * MM)
                self.assertEqual(found["middle"].lines, ((moved.iris.centre, moved.pupil.centre),))

    def test_an_eye_too_far_from_the_midline_is_named_in_millimetres(self):
        for deg in (0, 30):
            a, b = eye((190, 300), deg, "a"), eye((430, 300), deg, "b")
            found = checks([a, b], self.axes(deg))["midline"]
            # The corners that are measured stand at 130 and 370, the midline at 300.
            left, right = 170, 70
            self.assertEqual((found.level, found.subject), ("look", "b"))
            self.assertIn("too near the midline", found.says)
            self.assertAlmostEqual(found.mm, (left - right) * MM, places=6)

    def test_both_ways_to_the_nose_are_told_and_how_far_it_stands_aside(self):
        a, b = eye((190, 300), 20, "a"), eye((410, 300), 20, "b")
        nose = turned((312, 420), 20)
        found = checks([a, b], self.axes(20), nose)["nose"]
        ways = [math.dist(one.inner, nose) * MM for one in (a, b)]
        self.assertAlmostEqual(found.mm, abs(ways[0] - ways[1]), places=6)
        self.assertIn("3 mm aside", found.label)
        self.assertEqual(found.at, nose)

    def test_an_iris_that_is_taller_in_the_far_eye_is_seen(self):
        a, b = eye((190, 300), 20, "a"), eye((410, 300), 20, "b", (40.0, 46.0))
        found = checks([a, b], self.axes(20))["size"]
        self.assertEqual(found.level, "look")
        self.assertAlmostEqual(found.mm, 2 * 6 * MM, places=6)


class Looking(unittest.TestCase):
    """Eyes 120 px wide, whose irises shift between their corners."""

    def one(self, x, key, by=(0.0, 0.0), deg=0.0, pupil=16.0):
        made = eye((x, 300), deg, key)
        left, right = made.inner, made.outer
        at = turned((x + by[0], 300 + by[1]), deg)
        iris = replace(made.iris, cx=at[0], cy=at[1])
        inner, outer = (right, left) if x < 300 else (left, right)
        return replace(made, iris=iris, pupil=replace(iris, rx=pupil, ry=pupil), inner=inner, outer=outer)

    def test_a_gaze_is_told_along_the_heads_own_line(self):
        axes = Tilted().axes
        for deg in (0, 30, -50):
            for by, words in (
                ((0, 0), "ahead"),
                ((12, 0), "right"),
                ((-12, 0), "left"),
                ((0, -10), "ahead and up"),
                ((12, 10), "right and down"),
            ):
                pair = [self.one(190, "a", by, deg), self.one(410, "b", by, deg)]
                found = checks(pair, axes(deg))["gaze"]
                self.assertEqual((found.level, found.says), ("note", f"Both eyes look {words}."))
                self.assertAlmostEqual(found.mm, 0, places=6)

    def test_eyes_that_look_apart_are_seen_by_how_far(self):
        pair = [self.one(190, "a", (-14, 0)), self.one(410, "b", (14, 0))]
        found = checks(pair)["gaze"]
        self.assertEqual(found.level, "look")
        self.assertAlmostEqual(found.mm, 28 * MM, places=6)
        self.assertEqual(found.says, "The eyes look apart: left, and right.")
        # Each gaze is drawn from its iris: its shift, as a share of half the eye, by seven tenths of the eye.
        for (start, tip), x, way in zip(found.lines, (190, 410), (-14, 14), strict=True):
            np.testing.assert_allclose(start, (x + way, 300), atol=1e-6)
            self.assertAlmostEqual((tip[0] - start[0]) / way, 0.7 * 120 / 60, places=5)
            self.assertAlmostEqual(tip[1], start[1], places=6)

    def test_pupils_are_measured_against_their_irises(self):
        found = checks([self.one(190, "a"), self.one(410, "b")])["pupils"]
        self.assertEqual((found.level, found.says), ("note", "The pupils are alike."))
        found = checks([self.one(190, "a"), self.one(410, "b", pupil=26.0)])["pupils"]
        self.assertEqual(found.level, "look")
        # Radii of 16 and 26 px of one iris of 40: 10 px a side, 20 across.
        self.assertAlmostEqual(found.mm, 20 * MM, places=6)

    def test_slants_are_compared_by_height(self):
        a, b = self.one(190, "a"), self.one(410, "b")
        raised = replace(b, outer=(b.outer[0], b.outer[1] - 30))
        found = checks([a, raised])["corners"]
        self.assertEqual((found.level, found.subject), ("look", "a"))
        self.assertAlmostEqual(found.mm, 30 * MM, places=1)
        self.assertEqual(checks([a, b])["corners"].level, "note")
        found = checks([a, b])["between"]
        self.assertAlmostEqual(found.mm, 100 * MM, places=6)
        self.assertIn("0.83 eye widths", found.says)


if __name__ == "__main__":
    unittest.main()
