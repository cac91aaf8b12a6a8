"""Eyes in made faces: dark in dark masks, ringed with skin, half covered, tiny."""

import math
import unittest

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.eyes import find_eye
from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.find import _moved, _moved_back
from tests.eyes import AMBER, Made
from tools.eyes.faces import made_faces


class InFaces(unittest.TestCase):
    def test_most_eyes_of_made_faces_are_found_and_the_sure_ones_nearly_all(self):
        """Faces that nothing was learned from. Right: the middle within a fifth of the half width, that within a quarter."""
        right, sure = [], []
        for face in made_faces(14, 9001):
            try:
                found = find_eye(face.rgb, face.click)
            except InputError:
                right.append(False)
                sure.append(0.0)
                continue
            large = max(face.eye.rx, face.eye.ry)
            near = math.dist(found.iris.centre, face.eye.centre) < 0.2 * large
            right.append(near and abs(max(found.iris.rx, found.iris.ry) / large - 1) < 0.25)
            sure.append(found.sure)
        self.assertGreaterEqual(sum(right), 11)
        certain = [one for one, how in zip(right, sure, strict=True) if how >= 0.8]
        self.assertGreaterEqual(len(certain), 4)
        self.assertGreaterEqual(sum(certain), 0.85 * len(certain))

    def test_a_radius_settles_it(self):
        made = Made(r=40, colour=AMBER)
        pupil = find_eye(made.draw(), (made.cx, made.cy), radius=40 * 0.42)
        iris = find_eye(made.draw(), (made.cx, made.cy), radius=38)
        self.assertAlmostEqual(pupil.iris.radius, 40 * 0.42, delta=3)
        self.assertAlmostEqual(iris.iris.radius, 40, delta=1)

    def test_where_nothing_looks_like_an_eye_a_radius_is_taken_at_its_word(self):
        even = np.full((200, 200, 3), 120, np.uint8)
        with self.assertRaises(InputError):
            find_eye(even, (100, 100))
        found = find_eye(even, (100, 100), radius=14)
        self.assertAlmostEqual(found.iris.radius, 14, delta=3)

    def test_a_size_that_is_said_counts_for_more_than_the_other_eye(self):
        made = Made(r=40, colour=AMBER)
        found = find_eye(made.draw(), (made.cx, made.cy), radius=38, others=[12.0] * 12)
        self.assertAlmostEqual(found.iris.radius, 40, delta=1)

    def test_a_straight_border_leaves_the_size_that_was_said(self):
        rgb = np.full((200, 200, 3), 40, np.uint8)
        rgb[:, 112:] = 200
        found = find_eye(rgb, (100, 100), radius=12)
        self.assertAlmostEqual(found.iris.radius, 12, delta=5)

    def test_a_smaller_picture_gives_reference_pixels(self):
        made = Made(r=40, colour=AMBER)
        found = find_eye(made.draw(), (2 * made.cx, 2 * made.cy), 0.5)
        self.assertAlmostEqual(found.iris.radius, 80, delta=2)
        self.assertLess(math.dist(found.iris.centre, (2 * made.cx, 2 * made.cy)), 2)


class Windows(unittest.TestCase):
    def test_places_go_into_a_window_and_lengths_with_them(self):
        found = _moved(Ellipse(120, 90, 10, 8, 30), (100, 60), 2.5)
        self.assertEqual(found, Ellipse(50.0, 75.0, 25.0, 20.0, 30))

    def test_and_back(self):
        one = Ellipse(120, 90, 10, 8, 30)
        self.assertEqual(_moved_back(_moved(one, (100, 60), 2.5), (100, 60), 2.5), one)
