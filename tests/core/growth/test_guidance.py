import unittest

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import CombStroke, Evidence, disagreement, prior_field, zone_field
from foxpath.core.growth.evidence import SCALES
from foxpath.core.growth.field import ZoneField
from foxpath.core.growth.guidance import best_spot

FRAME = Frame.over(Crop(0, 0, 400, 300), 1.0, 200)
MASK = np.ones(FRAME.shape, bool)
LENGTH = 40.0


def level(reference_px=1.0):
    """Evidence of hair that lies level everywhere, on every scale, read on a picture that was made so much smaller."""
    axis = np.zeros((len(SCALES), 2, *FRAME.shape), np.float32)
    axis[:, 0] = 0.5
    plain = np.full((len(SCALES), *FRAME.shape), 0.5, np.float32)
    return Evidence(axis, plain, np.ones_like(plain), reference_px)


def comb(deg, weight=1.0, at=(200.0, 150.0), half=30.0):
    way = half * np.array([np.cos(np.radians(deg)), np.sin(np.radians(deg))])
    return CombStroke(np.array([np.subtract(at, way), np.add(at, way)]), weight)


class Overruling(unittest.TestCase):
    def test_how_far_the_picture_lies_off_a_comb(self):
        for deg in (-60, -20, 15, 50):
            angle, sure = disagreement(comb(deg).points, level(), MASK, FRAME, LENGTH)
            self.assertAlmostEqual(angle, -deg, delta=0.5)
            self.assertTrue(0.95 < sure <= 1.0001)

    def test_the_scale_is_that_of_the_hair_where_the_picture_was_read_smaller(self):
        """Long hair shows on a coarse scale, short hair on a fine one that says another axis."""
        both = level(8.0)
        axis = both.axis.copy()
        axis[1:, 0], axis[1:, 1] = 0.0, 0.5
        coherence = both.coherence.copy()
        coherence[0] = 0.3
        evidence = Evidence(axis, both.weight, coherence, 8.0)
        self.assertAlmostEqual(disagreement(comb(0).points, evidence, MASK, FRAME, 8.0)[0], 0, delta=0.5)
        self.assertAlmostEqual(disagreement(comb(0).points, evidence, MASK, FRAME, 800.0)[0], 45, delta=0.5)

    def test_the_nearer_way_round_is_told(self):
        """Evidence that lies at 80 degrees: a comb at -80 is 20 off it, over the upright."""
        steep = level()
        axis = np.zeros_like(steep.axis)
        axis[:, 0], axis[:, 1] = 0.5 * np.cos(np.radians(160)), 0.5 * np.sin(np.radians(160))
        evidence = Evidence(axis, steep.weight, steep.coherence, 1.0)
        for deg, off in ((-80, -20), (60, 20), (-20, -80), (100, -20)):
            self.assertAlmostEqual(disagreement(comb(deg).points, evidence, MASK, FRAME, LENGTH)[0], off, delta=0.5)

    def test_without_hair_or_zone_there_is_nothing_to_disagree_with(self):
        nothing = np.zeros_like(MASK)
        self.assertEqual(disagreement(comb(30).points, level(), nothing, FRAME, LENGTH), (0.0, 0.0))
        # A part so narrow that other hair lies all over it.
        narrow = nothing.copy()
        narrow[74:77] = True
        self.assertEqual(disagreement(comb(30).points, level(), narrow, FRAME, LENGTH), (0.0, 0.0))
        bare = level()
        bare = Evidence(bare.axis, np.zeros_like(bare.weight), bare.coherence, 1.0)
        self.assertLess(disagreement(comb(30).points, bare, MASK, FRAME, LENGTH)[1], 0.05)

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


class TheNextComb(unittest.TestCase):
    def field(self, sure, inside=None, *, rooted=True):
        cells = np.ones((60, 80), np.float32)
        inside = np.ones((60, 80), bool) if inside is None else inside
        direction = np.zeros((60, 80, 2), np.float32)
        frame = Frame(Crop(50, 20, 400, 300), 200, 150, 0.3)
        said = inside & np.broadcast_to(rooted, inside.shape)
        return ZoneField(frame, 30, 10, direction, cells * sure, inside, inside, True, cells, said)

    def test_where_doubt_lies_thick(self):
        sure = np.ones((60, 80), np.float32)
        sure[10:30, 50:70] = 0.2
        at, falls = best_spot(self.field(sure))
        # Row 20 and column 60 of the window that begins at row 30 and column 10; cells of 2 px from (50, 20).
        np.testing.assert_allclose(at, (50 + 2 * 70, 20 + 2 * 50), atol=12)
        # Nearly all of it lies within reach of one stroke.
        self.assertTrue(0.8 * 3.2 < falls / 0.36 < 3.2, falls)
        self.assertEqual(best_spot(self.field(np.float32(1))), (None, 0.0))

    def test_what_falls_is_what_is_within_reach_and_no_more_than_there_is(self):
        few = np.ones((60, 80), np.float32)
        few[30, 40] = 0.0
        at, falls = best_spot(self.field(few))
        # The middle of that cell, 0.6 mm wide.
        np.testing.assert_allclose(at, (50 + 2 * 50.5, 20 + 2 * 60.5))
        self.assertAlmostEqual(falls, 0.0036, delta=1e-5)
        self.assertLess(best_spot(self.field(np.float32(0)))[1], 0.99 * 60 * 80 * 0.0036)

    def test_doubt_outside_the_zone_does_not_count(self):
        inside = np.zeros((60, 80), bool)
        inside[:, 40:] = True
        sure = np.zeros((60, 80), np.float32)
        sure[:, 40:] = 1
        self.assertEqual(best_spot(self.field(sure, inside)), (None, 0.0))

    def test_a_part_whose_roots_are_guessed_comes_first(self):
        """Two doubtful places alike: the one where a comb also says root and tip is asked for."""
        sure = np.ones((60, 80), np.float32)
        sure[20:40, 5:25] = sure[20:40, 55:75] = 0.5
        for left in (True, False):
            said = np.ones((60, 80), bool)
            said[20:40, slice(5, 25) if left else slice(55, 75)] = False
            at, _ = best_spot(self.field(sure, rooted=said))
            self.assertEqual(at[0] < 50 + 2 * (10 + 40), left)

    def test_never_on_the_very_border(self):
        inside = np.zeros((60, 80), bool)
        inside[10:50, 10:70] = True
        sure = np.ones((60, 80), np.float32)
        sure[10:50, 10:11] = 0.0
        (x, _), _ = best_spot(self.field(sure, inside))
        column = (x - 50) / 2 - 10
        self.assertGreaterEqual(column, 10 + 2.5)
        self.assertLess(column, 10 + 12)
