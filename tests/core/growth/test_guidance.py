import unittest

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import CombStroke, Evidence, disagreement, prior_field, zone_field
from foxpath.core.growth.evidence import SCALES

FRAME = Frame.over(Crop(0, 0, 400, 300), 1.0, 200)
MASK = np.ones(FRAME.shape, bool)
LENGTH = 40.0


def level():
    """Evidence of hair that lies level everywhere, on every scale."""
    axis = np.zeros((len(SCALES), 2, *FRAME.shape), np.float32)
    axis[:, 0] = 0.5
    plain = np.full((len(SCALES), *FRAME.shape), 0.5, np.float32)
    return Evidence(axis, plain, np.ones_like(plain), 1.0)


def comb(deg, weight=1.0, at=(200.0, 150.0), half=30.0):
    way = half * np.array([np.cos(np.radians(deg)), np.sin(np.radians(deg))])
    return CombStroke(np.array([np.subtract(at, way), np.add(at, way)]), weight)


class Overruling(unittest.TestCase):
    def test_how_far_the_picture_lies_off_a_comb(self):
        for deg in (-60, -20, 15, 50):
            angle, sure = disagreement(comb(deg).points, level(), MASK, FRAME, LENGTH)
            self.assertAlmostEqual(angle, -deg, delta=0.5)
            self.assertGreater(sure, 0.95)

    def test_round_it_the_growth_is_the_combs_and_far_off_the_pictures(self):
        stroke = comb(80)
        guess = prior_field(FRAME, np.zeros((0, 2)))
        field = zone_field(MASK, [stroke], FRAME, guess, evidence=level(), length_px=LENGTH, quiet=[stroke.points])

        def axis(x, y):
            (dx, dy), _ = (part[0] for part in field.sample(np.array([[x, y]])))
            return np.degrees(np.arctan2(dy, dx)) % 180

        self.assertAlmostEqual(axis(208.0, 150.0), 80, delta=12)
        far = axis(30.0, 150.0)
        self.assertLess(min(far, 180 - far), 12)
