"""What the passes paint of features, by numbers: fillings, darks, broken lights, whiskers with their roots, the ridges of claws."""

import unittest
from dataclasses import replace
from unittest import mock

import cv2
import numpy as np

from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.features.kinds import FEATURES, Feature, Stroke
from foxpath.core.features.steps import FeatureStep, part_light
from foxpath.core.rehearsal import features as rules
from foxpath.core.rehearsal.features import ROOT_L, feature_marks

MM = 0.2
ORIGIN = (10.0, 20.0)
BAND = (4.0, 96.0)
OVAL = tuple((100 + 50 * np.cos(a), 80 + 20 * np.sin(a)) for a in np.linspace(0, 2 * np.pi, 24, endpoint=False))
LINE = tuple((60.0 + 4 * t, 80.0 + 0.02 * t * t) for t in range(21))


def read(points):
    """Return a picture's colours: lighter downward, redder to the right."""
    at = np.asarray(points, np.float64).reshape(-1, 2)
    return np.stack([0.4 * at[:, 1], 0.1 * at[:, 0], np.full(len(at), 8.0)], axis=1).astype(np.float32)


def marked(kind, part, *lines):
    """Return a feature with one part, and its step of 2 mm."""
    one = FEATURES[kind].part(part)
    feature = Feature("f1", kind, kind, tuple(Stroke(part, tuple(line)) for line in lines))
    return feature, FeatureStep(part, one.name, "", len(lines), None, 2.0, 40.0, one.beneath, one.role)


def painted(kind, part, *lines, role=None, band=BAND, seed=1, origin=ORIGIN, mm=MM):
    """Return what a pass paints of a part, its own without another."""
    feature, step = marked(kind, part, *lines)
    return feature_marks(feature, [step], role or step.role, read, band, origin, mm, seed)


def on_picture(marks):
    """Return marks' lines in reference pixels."""
    return marks.lines_mm.astype(np.float64) / MM + ORIGIN


class Filled(unittest.TestCase):
    def outline(self, deg=0.0):
        """Return an oval 100 by 40 px, turned."""
        a = np.radians(deg)
        return (np.array(OVAL) - (100, 80)) @ np.array([[np.cos(a), np.sin(a)], [-np.sin(a), np.cos(a)]]) + (100, 80)

    def test_strokes_lie_along_the_longer_way_and_cover_it(self):
        for deg in (0, 35, 90):
            outline = self.outline(deg)
            lines = rules._filled(outline, 5.0, np.random.default_rng(1))
            way = lines[:, -1] - lines[:, 0]
            angle = np.degrees(np.arctan2(way[:, 1], way[:, 0])) % 180
            self.assertLess(np.abs((angle - deg + 90) % 180 - 90).max(), 1.5)
            np.testing.assert_allclose(np.hypot(*way.T), 15, rtol=1e-6)
            mask = np.zeros((200, 200), np.uint8)
            cv2.fillPoly(mask, [np.round(outline * 16).astype(np.int32)], 1, cv2.LINE_8, 4)
            laid = np.zeros_like(mask)
            for line in lines:
                cv2.polylines(laid, [np.round(line * 16).astype(np.int32)], False, 1, 5, cv2.LINE_8, 4)
            self.assertGreater(laid[mask > 0].mean(), 0.9)
            wide = cv2.dilate(mask, np.ones((7, 7), np.uint8))
            self.assertGreater(wide[laid > 0].mean(), 0.99)

    def test_as_many_as_their_width_asks_and_no_longer_than_the_place(self):
        outline = self.outline()
        # Rows 0.55 of a width apart; in each, strokes of three widths lap over by four tenths.
        with mock.patch.object(rules, "within", lambda _, points: np.ones(len(points), bool)):
            lines = rules._filled(outline, 4.0, np.random.default_rng(2))
            self.assertEqual(len(lines), int(np.ceil(40 / 2.2)) * int(np.ceil(100 / 7.2)))
            broad = rules._filled(outline, 80.0, np.random.default_rng(2))
            np.testing.assert_allclose(np.hypot(*(broad[:, -1] - broad[:, 0]).T), 100, rtol=0.01)
            self.assertEqual(len(broad), 2)
            fine = rules._filled(outline, 0.1, np.random.default_rng(2))
            np.testing.assert_allclose(np.hypot(*(fine[:, -1] - fine[:, 0]).T), 2.0, rtol=1e-6)
            self.assertEqual(len(fine), int(np.ceil(40 / 0.6)) * int(np.ceil(100 / 1.2)))
        # Off their rows by a quarter of the gap at most, and all the way.
        rows = np.sort(lines[:, 0, 1])
        even = 60 + (np.arange(19) + 0.5) * 40 / 19
        off = np.abs(rows[:, None] - even[None]).min(axis=1)
        self.assertLessEqual(off.max(), 0.25 * 2.2 + 1e-6)
        self.assertGreater(off.max(), 0.2 * 2.2)

    def test_only_inside(self):
        outline = self.outline(20)
        lines = rules._filled(outline, 4.0, np.random.default_rng(3))
        polygon = outline.astype(np.float32).reshape(-1, 1, 2)
        for at in lines[:, (1, 4, 6)].reshape(-1, 2):
            self.assertGreaterEqual(cv2.pointPolygonTest(polygon, (float(at[0]), float(at[1])), True), -0.2)


class Parts(unittest.TestCase):
    def test_skin_is_filled_in_its_own_colour_each_stroke_a_little_another(self):
        (made,) = painted("nose", "skin", OVAL)
        np.testing.assert_allclose(made.half_mm, 1.0)
        np.testing.assert_allclose(made.alpha, 0.88)
        self.assertFalse(made.hair)
        at = on_picture(made)[:, 4]
        off = made.lightness - read(at)[:, 0]
        self.assertAlmostEqual(float(off.std()), 2.0, delta=0.5)
        self.assertLess(abs(float(off.mean())), 0.6)
        lab = np.c_[made.lightness, read(at)[:, 1:]].astype(np.float32)
        np.testing.assert_allclose(made.colour, rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1)), atol=2e-3)

    def test_a_place_too_small_for_a_stroke_is_gone_round_once(self):
        tiny = tuple(
            (100 + 0.7 * np.cos(a), 80 + 0.7 * np.sin(a)) for a in np.linspace(0, 2 * np.pi, 6, endpoint=False)
        )
        (made,) = painted("nose", "skin", tiny)
        self.assertEqual(len(made.half_mm), 1)
        np.testing.assert_allclose(np.hypot(*(on_picture(made)[0] - (100, 80)).T), 0.7, atol=0.15)
        three = ((60.0, 60.0), (140.0, 60.0), (100.0, 110.0))
        (made,) = painted("nose", "skin", three)
        polygon = np.array(three, np.float32).reshape(-1, 1, 2)
        inside = [cv2.pointPolygonTest(polygon, (float(x), float(y)), True) for x, y in on_picture(made)[:, 4]]
        self.assertGreater(min(inside), -0.5)

    def test_nostrils_are_dark_and_nearly_grey(self):
        (made,) = painted("nose", "nostril", OVAL)
        part = FEATURES["nose"].part("nostril")
        light = part_light(part, np.array(OVAL), read)
        self.assertAlmostEqual(float(made.lightness.mean()), light, delta=0.4)
        self.assertAlmostEqual(float(made.lightness.std()), 1.0, delta=0.3)
        np.testing.assert_allclose(made.alpha, 0.92)
        np.testing.assert_allclose(made.half_mm, 1.0)
        lab = np.c_[made.lightness, 0.4 * read(on_picture(made)[:, 4])[:, 1:]].astype(np.float32)
        np.testing.assert_allclose(made.colour, rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1)), atol=2e-3)

    def test_a_wet_light_is_broken(self):
        (every,) = painted("nose", "nostril", OVAL)
        counts = [len(painted("nose", "light", OVAL, seed=seed)[0].half_mm) for seed in range(6)]
        self.assertAlmostEqual(np.mean(counts) / len(every.half_mm), 0.55, delta=0.06)
        (made,) = painted("nose", "light", OVAL)
        self.assertTrue(made.hair)
        np.testing.assert_allclose(made.half_mm, 0.6)
        np.testing.assert_allclose(made.alpha, 0.75)
        self.assertGreater(float(made.lightness.min()), 60)

    def test_a_dark_line_is_one_stroke_in_a_grey_of_what_is_seen(self):
        (made,) = painted("mouth", "line", LINE)
        self.assertEqual(len(made.half_mm), 1)
        self.assertEqual((float(made.half_mm[0]), made.hair), (1.0, True))
        self.assertAlmostEqual(float(made.alpha[0]), 0.9, places=6)
        np.testing.assert_allclose(on_picture(made)[0, (0, -1)], (LINE[0], LINE[-1]), atol=1e-3)
        self.assertLessEqual(float(made.lightness[0]), 16)
        middle = on_picture(made)[0, 3:5].mean(axis=0)
        lab = np.array([[made.lightness[0], *(0.4 * read(middle)[0, 1:])]], np.float32)
        np.testing.assert_allclose(made.colour, rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1)), atol=4e-3)

    def test_a_ridges_light_is_a_broken_line(self):
        (made,) = painted("beak", "ridge", LINE, seed=4)
        lines = on_picture(made)
        light = part_light(FEATURES["beak"].part("ridge"), np.array(LINE), read)
        self.assertLess(np.abs(made.lightness - light).max(), 8)
        self.assertGreater(float(np.ptp(made.lightness)), 0.5)
        np.testing.assert_allclose(made.half_mm, 0.8)
        np.testing.assert_allclose(made.alpha, 0.7)
        # Of 48 places a piece takes fifteen, each begins nine after the other; some are missing now and then.
        long = float(np.hypot(*np.diff(np.array(LINE), axis=0).T).sum())
        np.testing.assert_allclose(made.length_mm[0] / MM, long * 14 / 47, rtol=0.05)
        counts = [len(painted("beak", "ridge", LINE, seed=seed)[0].half_mm) for seed in range(20)]
        self.assertEqual(max(counts), 5)
        self.assertAlmostEqual(np.mean(counts), 0.85 * 5, delta=0.5)
        self.assertTrue((np.diff(lines[:, 0, 0]) > 0).all())
        lab = np.c_[made.lightness, 0.6 * read(lines[:, 4])[:, 1:]].astype(np.float32)
        np.testing.assert_allclose(made.colour, rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1)), atol=2e-3)

    def test_a_whisker_is_a_dot_at_its_root_and_one_tapering_hair(self):
        dot, hair = painted("whiskers", "hair", LINE)
        self.assertEqual((dot.hair, hair.hair), (False, True))
        self.assertAlmostEqual(float(dot.half_mm[0]), 1.8, places=5)
        self.assertAlmostEqual(float(hair.half_mm[0]), 1.0, places=5)
        self.assertAlmostEqual(float(dot.lightness[0]), ROOT_L, places=4)
        self.assertAlmostEqual(float(dot.alpha[0]), 0.9, places=6)
        self.assertAlmostEqual(float(hair.alpha[0]), 0.92, places=6)
        place = on_picture(dot)[0]
        np.testing.assert_allclose(place.mean(axis=0), LINE[0], atol=1e-3)
        # Along the hair, two thirds of two widths and a bit.
        way = place[-1] - place[0]
        self.assertAlmostEqual(float(np.hypot(*way)), 0.7 * 2.2 * 2.0 / MM, places=3)
        self.assertLess(abs(float(np.degrees(np.arctan2(way[1], way[0])))), 4)
        np.testing.assert_allclose(on_picture(hair)[0, (0, -1)], (LINE[0], LINE[-1]), atol=1e-3)
        lab = np.array([[ROOT_L, 2, 3]], np.float32)
        np.testing.assert_allclose(dot.colour, rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1)), atol=1e-4)
        for light, yellow in ((40.0, 1.0), (70.0, 3.0)):
            with mock.patch.object(rules, "part_light", lambda *_, light=light: light):
                _, hair = painted("whiskers", "hair", LINE)
            lab = np.array([[light, 0, yellow]], np.float32)
            np.testing.assert_allclose(hair.colour, rgb_from_linear(linear_from_lab(lab)), atol=1e-4)

    def test_a_claw_gets_a_light_along_its_outer_part_with_the_highlights(self):
        (ridge,) = painted("paw", "claw", LINE, role="highlights")
        self.assertAlmostEqual(float(ridge.lightness[0]), 76, places=4)
        self.assertAlmostEqual(float(ridge.half_mm[0]), 0.6, places=5)
        self.assertAlmostEqual(float(ridge.alpha[0]), 0.85, places=6)
        lab = np.array([[76, 0, 2]], np.float32)
        np.testing.assert_allclose(ridge.colour, rgb_from_linear(linear_from_lab(lab)), atol=1e-4)
        lines = on_picture(ridge)[0]
        np.testing.assert_allclose(lines[-1], LINE[-1], atol=1e-3)
        self.assertAlmostEqual(float(lines[0, 0]), 60 + 80 * 2 / 7, delta=0.8)
        (claw,) = painted("paw", "claw", LINE)
        self.assertLessEqual(float(claw.lightness[0]), 16)
        self.assertEqual(painted("paw", "toe", LINE, role="highlights"), [])


class Passes(unittest.TestCase):
    def test_each_pass_paints_what_is_its_and_keeps_its_band(self):
        nose, skin = marked("nose", "skin", OVAL)
        nose = replace(nose, strokes=(*nose.strokes, Stroke("nostril", OVAL), Stroke("light", OVAL)))
        steps = [skin, marked("nose", "nostril")[1], marked("nose", "light")[1]]
        for role, count in (("undercoat", 1), ("restated", 1), ("highlights", 1), ("lights", 0), ("darks", 0)):
            self.assertEqual(len(feature_marks(nose, steps, role, read, BAND, ORIGIN, MM, 1)), count, role)
        (made,) = feature_marks(nose, steps, "undercoat", read, (30.0, 33.0), ORIGIN, MM, 1)
        self.assertTrue(((made.lightness >= 30) & (made.lightness <= 33)).all())
        # A step of a part that this kind has not, as of a newer file, is passed over.
        odd = [replace(skin, part="horn"), skin]
        self.assertEqual(len(feature_marks(nose, odd, "undercoat", read, BAND, ORIGIN, MM, 1)), 1)

    def test_it_is_the_same_each_time_and_each_step_has_its_own_chance(self):
        first, again, other = (painted("nose", "skin", OVAL, seed=seed)[0] for seed in (1, 1, 2))
        np.testing.assert_array_equal(first.lines_mm, again.lines_mm)
        self.assertNotEqual(first.lines_mm.tolist(), other.lines_mm.tolist())
        feature, step = marked("nose", "skin", OVAL)
        second = feature_marks(feature, [replace(step, part="light"), step], "undercoat", read, BAND, ORIGIN, MM, 1)
        self.assertNotEqual(second[0].lines_mm.tolist(), first.lines_mm.tolist())

    def test_lengths_and_places_are_millimetres_from_the_canvas_corner(self):
        (made,) = painted("mouth", "line", ((30.0, 40.0), (80.0, 40.0)), origin=(30.0, 20.0), mm=0.5)
        np.testing.assert_allclose(made.lines_mm[0, (0, -1)], ((0, 10), (25, 10)), atol=1e-4)
        self.assertAlmostEqual(float(made.length_mm[0]), 25, places=3)


if __name__ == "__main__":
    unittest.main()
