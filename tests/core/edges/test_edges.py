import unittest

import cv2
import numpy as np

from foxpath.core.edges import (
    marking_places,
    marking_stretches,
    read_edge,
)


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


class Along(unittest.TestCase):
    """Widths that vary along a border, and markings in a coat."""

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
