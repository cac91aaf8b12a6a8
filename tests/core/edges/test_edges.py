import unittest

import cv2
import numpy as np

from foxpath.core.edges import (
    Border,
    EdgeLight,
    EdgePlan,
    Stretch,
    default_edge,
    hard_shares,
    making_of,
    marking_places,
    marking_stretches,
    read_edge,
    widths_along,
)
from foxpath.core.edges.grades import GRADES
from foxpath.core.frame import Crop
from foxpath.core.zones import KINDS


def oval(sigma, grain=0.0, low=70, high=170, wobble=3.0):
    """A blurred oval, and an outline drawn beside its edge by an unsteady hand."""
    big = np.full((800, 1000), low, np.float32)
    cv2.ellipse(big, (500, 400), (300, 240), 20, 0, 360, high, -1)
    image = cv2.GaussianBlur(cv2.resize(big, (500, 400), interpolation=cv2.INTER_AREA), (0, 0), sigma)
    image += np.random.default_rng(1).normal(0, grain, image.shape)
    t = np.linspace(0, 2 * np.pi, 300)
    c, s = np.cos(np.radians(20)), np.sin(np.radians(20))
    x, y = 150 * np.cos(t), 120 * np.sin(t)
    run = np.stack([250 + x * c - y * s, 200 + x * s + y * c], axis=1)
    return image.astype(np.float32), run + wobble * np.stack([np.sin(7 * t), np.cos(5 * t)], axis=1)


class InThePhotograph(unittest.TestCase):
    def test_widths_are_read_within_fifteen_percent(self):
        for sigma in (2, 3, 5, 8):
            for grain in (0, 4):
                image, run = oval(sigma, grain)
                one = read_edge(image, [run])
                self.assertAlmostEqual(one.width / (2.563 * sigma), 1, delta=0.15, msg=f"{sigma} px, grain {grain}")
                self.assertGreater(one.reliable, 0.8)
                self.assertLessEqual(one.low, one.width)

    def test_where_the_photograph_gives_nothing_that_is_said(self):
        image, run = oval(3, 6, low=90, high=92)
        self.assertLess(read_edge(image, [run]).reliable, 0.2)
        flat = np.full((400, 500), 0.0, np.float32)
        nothing = read_edge(flat, [run])
        self.assertEqual(nothing.reliable, 0)
        self.assertTrue(np.isnan(nothing.width))
        self.assertEqual(read_edge(flat, []).reliable, 0)
        outside = read_edge(image, [run + 2000])
        self.assertEqual(outside.reliable, 0)

    def test_hairs_over_the_border_widen_it(self):
        """A fringe is part of the edge, though every hair in it is sharp."""
        rng = np.random.default_rng(2)
        widths = []
        for reach in (4, 12):
            image = np.full((400, 500), 170, np.float32)
            image[:, :250] = 70
            for _ in range(4000):
                y = int(rng.integers(0, 400))
                cv2.line(image, (250, y), (250 + int(abs(rng.normal(0, reach))), y), 70, 1)
            run = np.stack([np.full(300, 254.0), np.linspace(40, 360, 300)], axis=1)
            widths.append(read_edge(cv2.GaussianBlur(image, (0, 0), 0.8), [run]).width)
        self.assertGreater(widths[0], 3)
        self.assertGreater(widths[1], 1.7 * widths[0])

    def test_a_border_that_changes_along_itself_is_less_reliable(self):
        even, run = oval(3)
        mixed = even.copy()
        mixed[:, 250:] = oval(9)[0][:, 250:]
        whole, half = read_edge(even, [run]), read_edge(mixed, [run])
        self.assertGreater(half.high / half.low, 2)
        self.assertLess(half.reliable, whole.reliable)


class Making(unittest.TestCase):
    def test_the_wider_the_wetter_and_hair_breaks_what_skin_blends(self):
        fur, skin, ground = KINDS["long-fur"], KINDS["skin"], KINDS["background"]

        def made(grade, front, back):
            return making_of(EdgePlan(grade, GRADES[grade][2], ""), front, back)

        self.assertEqual(made("hard", fur, ground).needs, "the back touch-dry")
        self.assertIn("hairs", made("soft", fur, fur).way)
        self.assertIn("dry-brushed", made("soft", fur, ground).way)
        self.assertIn("wet", made("soft", skin, ground).way)
        self.assertIn("mop", made("lost", fur, fur).way)
        for front in KINDS.values():
            for grade in GRADES:
                one = made(grade, front, None)
                self.assertTrue(one.way and one.needs and one.how)
                if "both sides wet" in one.needs:
                    self.assertIn("saved mix", one.how)

    def test_hard_edges_near_and_far(self):
        near, far = np.array([[0.0, 0], [10, 0]]), np.array([[400.0, 0], [430, 0]])
        hard, soft = np.full(2, 0.5), np.full(2, 5.0)
        edges = [(near, hard), (far, soft), (far[:, ::-1], hard)]
        share = hard_shares(edges, (0.0, 0.0), Crop(0, 0, 400, 300))
        self.assertAlmostEqual(share[0], 1)
        self.assertAlmostEqual(share[1], 0.5)


class Along(unittest.TestCase):
    """Widths that vary along a border, and markings in a coat."""

    def test_a_stretch_has_its_own_width_and_runs_out_softly(self):
        run = np.stack([np.arange(0.0, 200), np.full(200, 50.0)], axis=1)
        border = Border(1, 0, (run,), 200.0)
        (width,) = widths_along(border, 8.0, [Stretch(run[60:120], 1.0)], 1.0)
        self.assertAlmostEqual(width[90], 1.0, delta=0.02)
        self.assertAlmostEqual(width[10], 8.0, delta=0.02)
        self.assertTrue((np.diff(width[:90]) <= 1e-9).all() and (np.diff(width[90:]) >= -1e-9).all())
        far = Stretch(run[60:120] + (0, 30), 1.0)
        np.testing.assert_allclose(widths_along(border, 8.0, [far], 1.0)[0], 8.0)

    def stretches(self, angle_deg, inner, outer):
        corners = np.array([(0.0, 0), (100, 0), (100, 40), (0, 40)])
        places = marking_places(corners, 1.0)
        count = len(places.at)
        a = np.radians(angle_deg)
        way = np.tile(np.array([np.cos(a), np.sin(a)], np.float32), (count, 1))
        ones = np.ones(count, np.float32)
        return marking_stretches(places, way, ones, inner * ones, outer * ones, 12 * ones)

    def test_crossed_where_hair_runs_over_and_clean_along_it(self):
        """A dark bar with hair to the right: its ends are crossed, its sides are clean."""
        found = self.stretches(0, 20, 70)
        crossed = [s for s in found if s.crossed]
        clean = sum(len(s.line) for s in found if not s.crossed)
        self.assertEqual(len(crossed), 2)
        self.assertAlmostEqual(clean, 200, delta=16)
        right = max(crossed, key=lambda s: s.line[:, 0].mean())
        left = min(crossed, key=lambda s: s.line[:, 0].mean())
        self.assertTrue(right.tips_out and right.dark_over)
        self.assertFalse(left.tips_out or left.dark_over)
        self.assertAlmostEqual(right.ragged_mm, 12, delta=2)
        self.assertAlmostEqual(right.angle_deg, 90, delta=10)
        self.assertIn("dark hairs over light", right.words())

    def test_no_growth_no_word(self):
        self.assertEqual(self.stretches(np.nan, 20, 70), ())

    def test_light_crevice_and_ridge_change_the_grade(self):
        fur = KINDS["long-fur"]
        plain, crevice, ridge, lit, dark = (
            default_edge(fur, KINDS["background"], 1, 160, 640, light)
            for light in (EdgeLight(), EdgeLight(dip=-12), EdgeLight(dip=12), EdgeLight(toward=1), EdgeLight(toward=-1))
        )
        order = list(GRADES)
        self.assertLess(order.index(crevice.grade), order.index(plain.grade))
        self.assertLessEqual(order.index(plain.grade), order.index(ridge.grade))
        self.assertIn("crevice", crevice.reason)
        self.assertIn("ridge", ridge.reason)
        self.assertLessEqual(order.index(dark.grade), order.index(lit.grade))
        self.assertIn("shadow", dark.reason)
        self.assertNotIn("light", plain.reason)
