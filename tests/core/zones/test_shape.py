import unittest
from functools import cache

import cv2
import numpy as np

from foxpath.core.curves import closed_curve, nearest_on
from foxpath.core.errors import InputError
from foxpath.core.zones import Tracer, shape

T = np.linspace(0, 2 * np.pi, 12, endpoint=False)
ROUND = np.stack([200 + 100 * np.cos(T), 200 + 100 * np.sin(T)], axis=1)
BESIDE = ROUND + (120, 0)


def area(points):
    x, y = closed_curve(points).T
    return abs((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) / 2


def shared(a, b):
    return sum(np.hypot(*(b - point).T).min() < 0.01 for point in a)


class Acts(unittest.TestCase):
    """Parts joined, cut and mended keep the points that still lie on their border."""

    def test_joined_and_taken_off_add_up(self):
        both, less = shape.merged(ROUND, BESIDE), shape.subtracted(ROUND, BESIDE)
        common = 2 * area(ROUND) - area(both)
        self.assertAlmostEqual(common / (area(ROUND) - area(less)), 1, delta=0.03)
        self.assertGreaterEqual(shared(ROUND, both), 8)
        self.assertGreaterEqual(shared(ROUND, less), 8)

    def test_what_cannot_be_done_is_said(self):
        for act, other in (
            (shape.merged, ROUND + (400, 0)),
            (shape.subtracted, ROUND + (400, 0)),
            (shape.subtracted, ROUND),
            (shape.subtracted, 0.3 * (ROUND - 200) + 200),
        ):
            with self.assertRaises(InputError):
                act(ROUND, other)
        with self.assertRaises(InputError):
            shape.split(ROUND, np.array([[150.0, 180], [180, 200]]))
        with self.assertRaises(InputError):
            shape.grown(ROUND, -120)

    def test_cut_in_two_along_one_line(self):
        one, two = shape.split(ROUND, np.array([[110.0, 90], [190, 200], [205, 296]]))
        self.assertAlmostEqual((area(one) + area(two)) / area(ROUND), 1, delta=0.02)
        self.assertGreaterEqual(shared(one, two), 3)
        # The stroke went through the middle: both sides are about a half.
        self.assertLess(abs(area(one) - area(two)) / area(ROUND), 0.35)

    def test_smooth_keeps_the_size_and_loses_the_wobble(self):
        wobbly = ROUND + np.random.default_rng(0).normal(0, 6, ROUND.shape)
        calm = shape.smoothed(wobbly)

        def rough(points):
            curve = closed_curve(points) - closed_curve(points).mean(axis=0)
            return np.hypot(*curve.T).std()

        self.assertLess(rough(calm), 0.9 * rough(wobbly))
        twice = shape.smoothed(shape.smoothed(calm))
        self.assertLess(rough(twice), 0.75 * rough(wobbly))
        self.assertAlmostEqual(area(calm) / area(wobbly), 1, delta=0.05)

    def test_grown_by_a_length(self):
        for by in (12, -12):
            self.assertAlmostEqual(np.sqrt(area(shape.grown(ROUND, by)) / np.pi), 100 + by, delta=1.5)


@cache
def animal():
    """A made animal with a pale head and a dark body, hairy, before a soft ground."""
    rng = np.random.default_rng(5)
    rgb = np.full((480, 640, 3), (116, 128, 132), np.uint8)
    for centre, axes, tone in (
        ((320, 360), (150, 190), (96, 58, 36)),
        ((320, 170), (95, 90), (206, 196, 180)),
        ((320, 220), (30, 24), (28, 24, 26)),
    ):
        cv2.ellipse(rgb, centre, axes, 0, 0, 360, tone, -1)
    for _ in range(9000):
        at = rng.uniform((150, 80), (490, 480))
        tone = rgb[int(at[1]), int(at[0])].astype(int) + int(rng.normal(0, 16))
        if np.abs(rgb[int(at[1]), int(at[0])].astype(int) - (116, 128, 132)).sum() > 40:
            end = at + rng.normal(0, 3, 2) + (0, 10)
            cv2.line(
                rgb,
                tuple(int(v) for v in at),
                tuple(int(v) for v in end),
                np.clip(tone, 0, 255).tolist(),
                1,
                cv2.LINE_AA,
            )
    made = cv2.GaussianBlur(rgb, (0, 0), 0.8)
    made.setflags(write=False)
    return made


class FromThePicture(unittest.TestCase):
    """Outlines that follow the picture."""

    def test_a_trace_follows_the_edge_between_two_clicks(self):
        t = np.linspace(np.pi, 1.8 * np.pi, 40)
        edge = np.stack([320 + 95 * np.cos(t), 170 + 90 * np.sin(t)], axis=1)
        start, end = (tuple(edge[k]) for k in (2, -3))
        tracer = Tracer(animal(), (640, 480), start, 260)
        line = tracer.path(end)
        off = [nearest_on(edge, at, closed=False)[1] for at in line]
        self.assertLess(np.median(off), 3.5)
        self.assertLess(max(off), 12)
        np.testing.assert_allclose(tracer.points(end)[-1], end)
        self.assertEqual(len(tracer.path((-400.0, 900.0))), 2)

    def test_a_trace_begins_in_every_corner_of_the_picture_and_reaches_as_far_as_its_room(self):
        for start in ((1.0, 1.0), (639.0, 479.0), (638.0, 2.0), (3.0, 478.0)):
            tracer = Tracer(animal(), (640, 480), start, 100)
            inward = tuple(np.array(start) + np.sign(np.array((320, 240)) - start) * 60)
            line = tracer.path(inward)
            np.testing.assert_allclose((line[0], line[-1]), (start, inward), atol=3)
            beyond = tuple(np.array(start) + np.sign(np.array((320, 240)) - start) * (130, 0))
            self.assertEqual((tracer.reaches(inward), tracer.reaches(beyond)), (True, False))
        # Hardly any room, and outside the picture: a few pixels at its rim are looked at all the same.
        self.assertEqual(len(Tracer(animal(), (640, 480), (700.0, 500.0), 20).path((100.0, 100.0))), 2)
