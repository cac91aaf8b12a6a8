"""Eyes: fitted, found, measured, placed, lit and built up; every measure recovered from eyes that were made."""

import math
import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.eyes import (
    Ellipse,
    Eye,
    LightPlan,
    angle_of_hour,
    check_eyes,
    check_lights,
    check_values,
    clock,
    find_eye,
    fit_ellipse,
    head_frame,
    hours_apart,
    light_at,
    measure_values,
    plan_lights,
    plan_steps,
    size_words,
)
from foxpath.core.lengths import DEFAULT_KIT, Brush
from foxpath.core.reference.light import Light, from_catchlights
from foxpath.core.reference.transfer import Axes
from foxpath.core.rehearsal.eyes import EyePlan, reader, step_pictures
from tests.eyes import AMBER, BLUE, BROWN, Made, varied

MM = 0.25


def marked(made, name="Eye", key="y1"):
    """An eye marked exactly as it was made."""
    u = np.linspace(-1.5, 1.5, 9)
    top, low = made.lids(u)
    cut = top < low
    c, s = math.cos(math.radians(made.tilt)), math.sin(math.radians(made.tilt))

    def line(v):
        x, y = made.r * u, made.r * np.clip(v, -1.4, 1.4)
        return tuple(zip(made.cx + c * x - s * y, made.cy + s * x + c * y, strict=True))

    upper, lower = line(np.where(cut, top, (top + low) / 2)), line(np.where(cut, low, (top + low) / 2))
    lights = (made.light_at(),) if made.hour is not None else ()
    return Eye(key, name, made.iris, made.pupil_ellipse(), made.pupil, upper, lower, upper[0], upper[-1], lights)


def plan_of(made, kit=DEFAULT_KIT, mm=MM, light=None, **changes):
    eye = replace(marked(made), **changes)
    read = reader(made.draw(), 1.0)
    values = measure_values(eye, read)
    lights = plan_lights(eye, [], light, mm, 0.18)
    sky = np.array([60.0, -1.0, -6.0], np.float32)
    return EyePlan(eye, values, lights, plan_steps(eye, values, lights, kit, mm, sky), (0, 0), mm, read, sky=sky)


class Fitting(unittest.TestCase):
    def test_rim_half_hidden_and_partly_wrong_is_recovered(self):
        """Lids hide 40 %, clicks err, one in twelve is a stray: centre and radius stay within 2 % of the radius."""
        rng = np.random.default_rng(1)
        for ratio, deg in ((1.0, 0), (0.94, 20), (0.9, -70)):
            true = Ellipse(300, 200, 80, 80 * ratio, deg)
            turn = np.concatenate([np.linspace(-0.6, 0.75, 40), np.linspace(math.pi - 0.75, math.pi + 0.6, 40)])
            points = true.at(turn) + rng.normal(0, 0.5, (80, 2))
            points[::12] += rng.normal(0, 14, points[::12].shape)
            found, _ = fit_ellipse(points, error_px=0.6)
            self.assertLess(math.dist(found.centre, true.centre), 0.02 * 80)
            self.assertLess(abs(found.radius / true.radius - 1), 0.02)

    def test_few_clicks_give_a_circle_and_say_how_far_they_are_off(self):
        points = Ellipse(50, 60, 20, 20).at(np.array([0.1, 1.7, 3.9, 5.0, 2.5])) + [
            [0.4, 0],
            [0, 0.4],
            [-0.3, 0],
            [0, 0],
            [0, -0.4],
        ]
        found, off = fit_ellipse(points, error_px=1.5)
        self.assertAlmostEqual(found.radius, 20, delta=0.4)
        self.assertGreater(found.ratio, 0.97)
        self.assertLess(off, 0.6)

    def test_what_is_no_rim_is_refused(self):
        for points in ([[0, 0], [1, 1]], [[0, 0], [10, 10], [20, 20], [30, 30.01]]):
            with self.assertRaises(InputError):
                fit_ellipse(np.array(points, float))


class Finding(unittest.TestCase):
    def test_one_click_finds_nine_of_ten(self):
        """Of every colour and pupil, with lids, tilt, noise and blur; the catchlight's hour within a quarter."""
        right, hours = 0, []
        eyes = varied(10, 11)
        for made in eyes:
            found = find_eye(made.draw(), (made.cx + 1, made.cy - 1))
            near = math.dist(found.iris.centre, made.iris.centre) < 0.06 * made.r
            right += near and abs(found.iris.radius / made.iris.radius - 1) < 0.06
            if found.lights:
                hours.append(hours_apart(clock(found.iris.centre, found.lights[0]), made.hour))
        self.assertGreaterEqual(right, 9)
        self.assertGreaterEqual(len(hours), 9)
        self.assertLess(sorted(hours)[-2], 0.25)

    def test_lids_noise_and_blur_leave_the_iris_within_two_percent(self):
        for made in (
            Made(r=48, upper=0.24, lower=0.12, tilt=8, noise=4, blur=1.2),
            Made(r=56, colour=BROWN, pupil="upright", upper=0.1, noise=2, blur=1.5),
        ):
            found = find_eye(made.draw(), (made.cx, made.cy))
            self.assertLess(math.dist(found.iris.centre, made.iris.centre), 0.02 * made.r)
            self.assertLess(abs(found.iris.radius / made.iris.radius - 1), 0.02)
            self.assertEqual(found.pupil_kind, made.pupil)

    def test_an_iris_hardly_told_from_the_white_is_found_when_its_size_is_said(self):
        """A click takes the pupil, which stands out, for the eye; a drag from its middle to its rim settles it."""
        made = Made(r=40, colour=BLUE, pupil="round", upper=0.2, lower=0.05, white=(70, 2, 6), noise=3)
        for said in (36, 40, 44):
            found = find_eye(made.draw(), (made.cx, made.cy), radius=said)
            self.assertLess(math.dist(found.iris.centre, made.iris.centre), 0.02 * made.r)
            self.assertLess(abs(found.iris.radius / made.iris.radius - 1), 0.02)

    def test_tilt_of_the_eye_line_within_half_a_degree(self):
        angle = math.radians(7)
        left = Made(cx=70, cy=100, r=26, hour=10.5)
        right = Made(cx=70 + 150 * math.cos(angle) - 140, cy=100 + 150 * math.sin(angle), r=26, hour=10.5, seed=4)
        whole = np.hstack([left.draw()[:, :140], right.draw()])
        eyes = []
        for made, shift in ((left, 0), (right, 140)):
            found = find_eye(whole, (made.cx + shift, made.cy))
            eyes.append(Eye(str(shift), "Eye", found.iris, found.pupil))
        self.assertAlmostEqual(head_frame(eyes, None).tilt_deg, 7, delta=0.5)

    def test_what_is_no_eye_is_said_to_be_none(self):
        rgb = Made().draw()
        for at in ((-5, 4), (12, 14)):
            with self.assertRaises(InputError) as caught:
                find_eye(rgb, at)
            self.assertIn("pupil", str(caught.exception))


class Placing(unittest.TestCase):
    def setUp(self):
        self.left = marked(Made(cx=200, cy=300, r=40, tilt=0), "Near eye", "a")
        self.left = replace(self.left, inner=self.left.upper[-1], outer=self.left.upper[0])
        self.right = marked(Made(cx=420, cy=300, r=40, tilt=0), "Far eye", "b")
        self.axes = Axes((200, 300), (420, 300), (310, 300))

    def check(self, key, eyes, **more):
        return next(c for c in check_eyes(eyes, MM, more.get("axes", self.axes), more.get("nose")) if c.key == key)

    def test_a_low_eye_is_measured_in_the_heads_own_tilt(self):
        low = replace(self.right, iris=replace(self.right.iris, cy=308))
        found = self.check("line", [self.left, low])
        self.assertEqual((found.level, found.subject), ("look", "b"))
        self.assertAlmostEqual(found.mm, 8 * MM, places=2)
        self.assertEqual(self.check("line", [self.left, self.right]).level, "note")

    def test_an_oval_is_told_from_a_turned_circle(self):
        turned = replace(self.left, iris=Ellipse(200, 300, 40, 34, 90))
        flat = replace(self.left, iris=Ellipse(200, 300, 40, 34, 0))
        self.assertEqual(self.check("round", [turned]).level, "note")
        found = self.check("round", [flat])
        self.assertEqual(found.level, "look")
        self.assertAlmostEqual(found.mm, 12 * MM, places=3)
        self.assertIn("20 mm across", found.why)

    def test_distance_corners_pupils_and_nose_are_numbers(self):
        between = self.check("between", [self.left, self.right])
        gap = math.dist(self.left.inner, self.right.inner)
        self.assertAlmostEqual(between.mm, gap * MM, places=3)
        self.assertIn(f"{gap / self.left.width:.2f} eye widths", between.says)
        dropped = replace(self.right, outer=(self.right.outer[0], self.right.outer[1] + 12))
        self.assertAlmostEqual(self.check("corners", [self.left, dropped]).mm, 12 * MM, delta=0.05)
        wide = replace(self.right, pupil=self.right.pupil.scaled(1.5))
        self.assertEqual(self.check("pupils", [self.left, wide]).level, "look")
        nose = self.check("nose", [self.left, self.right], nose=(318.0, 430.0))
        self.assertIn("2 mm beside the midline", nose.why)

    def test_eyes_that_look_apart_are_named(self):
        away = replace(self.right, iris=replace(self.right.iris, cx=440))
        self.assertEqual(self.check("gaze", [self.left, away]).level, "look")
        self.assertEqual(self.check("gaze", [self.left, self.right]).level, "note")


class Lighting(unittest.TestCase):
    def test_hours_that_differ_a_flash_and_lamps_are_found(self):
        a, b = marked(Made(hour=10.5), "Near eye", "a"), marked(Made(cx=500, hour=1.5), "Far eye", "b")
        self.assertIn("10 h 30 and 1 h 30", next(c.says for c in check_lights([a, b], None, MM) if c.key == "agree"))
        flash = marked(Made(hour=12, distance=0.05))
        self.assertTrue(any(c.key == "flash" for c in check_lights([flash], None, MM)))
        two = replace(a, lights=(*a.lights, (130.0, 100.0)))
        self.assertTrue(any(c.key == "lamps" for c in check_lights([two], None, MM)))
        self.assertTrue(any(c.key == "light" for c in check_lights([a], Light(hour=3), MM)))

    def test_the_plan_mirrors_the_light_of_the_picture(self):
        """What is planned from a light reads back as that light."""
        from foxpath.core.eyes import as_catchlights

        eye = marked(Made(hour=None))
        light = Light(hour=2.0, height_deg=55)
        lights = plan_lights(eye, [], light, MM, 0.18)
        back = from_catchlights(as_catchlights([replace(eye, lights=(lights.at,))]))
        self.assertAlmostEqual(back.hour, 2.0, delta=0.1)
        self.assertAlmostEqual(back.height_deg, 55, delta=3)

    def test_without_a_light_both_eyes_take_one_hour_and_a_decision_wins(self):
        a, b = marked(Made(hour=10.0), "Near", "a"), marked(Made(cx=500, hour=11.0), "Far", "b")
        self.assertAlmostEqual(plan_lights(a, [b], None, MM, 0.18).hour, 10.5, delta=0.05)
        self.assertAlmostEqual(plan_lights(b, [a], None, MM, 0.18).hour, 10.5, delta=0.05)
        said = replace(a, light=LightPlan(hour=1.0, distance=0.3, size_mm=0.05))
        plan = plan_lights(said, [b], None, MM, 0.18)
        self.assertAlmostEqual(light_at(replace(said, lights=(plan.at,)), MM).hour, 1.0, delta=0.05)
        self.assertEqual(plan.size_mm, 0.18)


class Measuring(unittest.TestCase):
    def values(self, **made):
        one = Made(r=50, noise=1.5, **made)
        return marked(one), measure_values(marked(one), reader(one.draw(), 1.0))

    def test_the_lids_shadow_is_recovered(self):
        for depth, share in ((16, 0.36), (24, 0.3), (9, 0.42)):
            _, values = self.values(shadow=depth, shadow_share=share)
            self.assertAlmostEqual(values.shadow, depth, delta=3.5)
            self.assertAlmostEqual(values.shadow_share, share, delta=0.06)

    def test_a_flat_eye_is_told_to_be_shaded(self):
        eye, values = self.values(shadow=2)
        found = next(c for c in check_values(eye, values, 10.5) if c.key == "shadow")
        self.assertEqual(found.level, "look")
        self.assertIn("look flat", found.says)
        self.assertIn("take it 12 darker", found.why)

    def test_iris_pupil_and_radii_have_their_values(self):
        _, values = self.values(colour=AMBER, upper=0.0, lower=0.0)
        self.assertAlmostEqual(float(values.iris[0]), 57, delta=4)
        self.assertLess(values.pupil, 10)
        self.assertGreater(values.veins, 3)
        along = values.along(6.0)
        self.assertEqual(along.shape, (6,))
        self.assertGreater(along[2], along[5])


class BuildingUp(unittest.TestCase):
    def test_each_step_paints_and_the_same_seed_paints_the_same(self):
        plan = plan_of(Made(r=40))
        shots = step_pictures(plan, 3.0)
        self.assertEqual([s.key for s in plan.steps][:3], ["rim", "base", "shadow"])
        self.assertEqual(len(shots), 10)
        for before, after in zip(shots, shots[1:], strict=False):
            self.assertTrue((before != after).any())
        again = step_pictures(plan_of(Made(r=40)), 3.0)
        self.assertTrue(all((a == b).all() for a, b in zip(shots, again, strict=True)))

    def test_the_finished_eye_is_like_the_reference(self):
        """Iris, pupil and catchlight come out where and as light as they are."""
        made = Made(r=40)
        plan = plan_of(made)
        from foxpath.core.colour import lab_from_rgb8
        from foxpath.core.rehearsal.eyes import eye_room

        shot = lab_from_rgb8(step_pictures(plan, 4.0)[-1])
        x0, y0, _, _ = eye_room(plan.eye)

        def at(x, y):
            return shot[int((y - y0) * MM * 4), int((x - x0) * MM * 4)]

        self.assertGreater(at(*plan.lights.at)[0], 90)
        self.assertLess(at(made.cx, made.cy)[0], 15)
        side = plan.eye.iris.at(np.array([angle_of_hour(4.0)]), 0.7)[0]
        self.assertLess(np.hypot(*(at(*side) - plan.read(side[None])[0])[:2]), 14)

    def test_a_small_iris_says_what_survives_and_what_to_leave_out(self):
        made = Made(r=40)
        small = plan_of(made, mm=0.05)
        out = {s.key for s in small.steps if s.left_out}
        self.assertIn("texture", out)
        self.assertNotIn("catchlight", out)
        self.assertNotIn("rim", out)
        words = size_words(small.eye, small.steps, 0.05)
        self.assertIn("4 mm", words)
        self.assertIn("leave out", words)
        self.assertEqual([s for s in plan_of(made).steps if s.left_out], [])
        coarse = plan_of(made, kit=(Brush("round", 12),))
        self.assertIn("texture", {s.key for s in coarse.steps if s.left_out})

    def test_a_reserved_light_stays_free_until_the_end(self):
        plan = plan_of(Made(r=40))
        kept = replace(plan, eye=replace(plan.eye, light=LightPlan(way="reserve")))
        from foxpath.core.rehearsal.eyes import eye_room

        x0, y0, _, _ = eye_room(kept.eye)
        row, column = int((kept.lights.at[1] - y0) * MM * 4), int((kept.lights.at[0] - x0) * MM * 4)
        shots = step_pictures(kept, 4.0)
        ground = shots[0][0, 0]
        self.assertTrue((shots[4][row, column] == ground).all())
        self.assertGreater(int(shots[-1][row, column].min()), 220)


if __name__ == "__main__":
    unittest.main()
