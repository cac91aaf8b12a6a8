import math
import unittest

import numpy as np

from foxpath.core.eyes.finding.find import sureness
from foxpath.core.eyes.finding.hypotheses import Weights, hypotheses_at, learned
from foxpath.core.eyes.finding.looks import LOOKS
from tests.eyes import AMBER, Made


class Weighing(unittest.TestCase):
    def test_shares_add_up_and_the_likeliest_comes_first(self):
        made = Made(r=40, colour=AMBER)
        found = hypotheses_at(made.draw(), (made.cx, made.cy))
        self.assertLess(abs(math.log(found[0].ellipse.radius / 40)), 0.12)
        self.assertGreater(found[0].share, 0.6)
        self.assertLessEqual(sum(one.share for one in found), 1 + 1e-9)
        self.assertEqual([one.share for one in found], sorted((one.share for one in found), reverse=True))

    def test_a_straight_weight_and_a_bent_one_count_as_they_are_told(self):
        zero = np.zeros(len(LOOKS))
        straight, row = zero.copy(), zero[None].copy()
        straight[3], row[0, 3] = 2.0, 1.5
        bent = np.zeros((len(LOOKS), 1))
        bent[3] = 0.4
        told = Weights(straight, bent, np.array([0.1]), np.array([-3.0]), 0.0)
        self.assertAlmostEqual(float(told.score(row)[0]), 3 - 3 * math.tanh(0.7), places=6)

    def test_where_no_eye_is_likelier_nothing_is_found(self):
        made = Made(r=40, colour=AMBER)
        known = learned()
        never = Weights(known.straight, known.bent, known.offset, known.counts, 1e3)
        self.assertEqual(hypotheses_at(made.draw(), (made.cx, made.cy), weights=never), [])

    def test_weights_for_other_looks_are_refused(self):
        with self.assertRaises(ValueError):
            Weights.of({"looks": ["rim"], "straight": [1], "bent": [], "offset": [], "counts": [], "none": 0})

    def test_the_other_eye_says_about_how_large_this_one_is(self):
        """A pupil and its iris: which is meant follows the other eye."""
        made = Made(r=40, colour=AMBER)
        rgb = made.draw()
        pupil = 40 * 0.42
        for other in (pupil, 40.0):
            best = hypotheses_at(rgb, (made.cx, made.cy), others=[other] * 12)[0]
            self.assertLess(abs(math.log(max(best.ellipse.rx, best.ellipse.ry) / other)), 0.25)

    def test_sureness_grows_with_the_share_and_is_never_certain(self):
        told = [sureness(share) for share in np.linspace(0, 1, 11)]
        self.assertEqual(told, sorted(told))
        self.assertEqual(told[0], 0)
        self.assertLess(told[-1], 0.95)
        self.assertLess(sureness(0.9), 0.7)
