"""Eyes in made faces: dark in dark masks, ringed with skin, half covered, tiny; and what is tried and weighed."""

import math
import unittest

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.eyes import find_eye
from foxpath.core.eyes.finding.find import sureness
from foxpath.core.eyes.finding.hypotheses import Weights, hypotheses_at, learned
from foxpath.core.eyes.finding.looks import LEAST_PX, LOOKS, MOST_SHARE, looks_of, tried_about
from tests.eyes import AMBER, Made
from tools.eyes.faces import made_faces


def look(name, row):
    return float(row[LOOKS.index(name)])


def looked(rgb, at, half, ratio=1.0):
    """The looks of the ellipse of about a size, not shifted."""
    tried = next(iter(tried_about(min(rgb.shape[:2]), half, half)))
    k = next(
        k for k in range(len(tried.half)) if tried.ratio[k] == ratio and tried.cx[k] == tried.cy[k] == tried.deg[k] == 0
    )
    return looks_of(rgb, at, tried)[k]


def disc(inner=20, outer=150, radius=20, size=200):
    """A disc of one grey on another, rims a pixel soft."""
    y, x = np.mgrid[0:size, 0:size] + 0.5
    inside = np.clip(radius + 0.5 - np.hypot(x - size / 2, y - size / 2), 0, 1)[..., None]
    return np.round(outer + (inner - outer) * inside * np.ones(3)).astype(np.uint8)


class Trying(unittest.TestCase):
    def test_sizes_run_from_a_few_pixels_to_a_share_of_the_picture(self):
        halves = np.unique(np.concatenate([tried.half for tried in tried_about(400, 0, np.inf)]))
        self.assertAlmostEqual(halves[0], LEAST_PX)
        self.assertLessEqual(halves[-1], MOST_SHARE * 400)
        self.assertGreater(halves[-1], MOST_SHARE * 400 / 1.14)
        np.testing.assert_allclose(halves[1:] / halves[:-1], 1.13)

    def test_a_size_that_is_known_is_tried_alone(self):
        halves = np.concatenate([tried.half for tried in tried_about(400, 20, 25)])
        self.assertGreater(halves.min(), 18)
        self.assertLess(halves.max(), 27)

    def test_shapes_lie_all_ways_and_middles_about_the_click(self):
        tried = next(iter(tried_about(400, 0, np.inf)))
        self.assertEqual(set(tried.ratio), {1.0, 0.82, 0.66, 0.5})
        self.assertEqual(set(tried.deg[tried.ratio < 1]), {0.0, 45.0, 90.0, 135.0})
        self.assertAlmostEqual(float(np.hypot(tried.cx, tried.cy).max() / tried.half.max()), 0.28)
        self.assertAlmostEqual(float(tried.cx.sum()), 0, places=6)


class Looking(unittest.TestCase):
    def test_a_dark_disc_has_a_whole_rim_of_one_kind_at_its_own_size_only(self):
        rgb = disc()
        own, within = looked(rgb, (100, 100), 20), looked(rgb, (100, 100), 11)
        self.assertGreater(look("rim", own), 2)
        self.assertGreater(look("rim of one kind", own), 0.9)
        self.assertEqual(look("rim agrees", own), 1)
        self.assertGreater(look("rim's weakest ninth", own), 0.8)
        self.assertGreater(look("darker than near", own), 0.9)
        self.assertLess(look("spread within", own), 0.1)
        self.assertLess(look("rim", within), 0.1)
        self.assertGreater(look("ring outside", within), 2)

    def test_a_light_disc_is_the_same_the_other_way_round(self):
        own = looked(disc(150, 20), (100, 100), 20)
        self.assertGreater(look("rim of one kind", own), 0.9)
        self.assertLess(look("darker than near", own), -0.9)

    def test_half_a_rim_is_told_from_a_whole_one(self):
        rgb = disc()
        rgb[:, 100:] = 150
        own = looked(rgb, (100, 100), 20)
        self.assertLess(look("rim agrees", own), 0.62)
        self.assertLess(look("rim's weakest ninth", own), 0.1)
        self.assertLess(look("rim's weaker half", own), 0.2)

    def test_a_pupil_within_an_iris_and_a_light_are_seen(self):
        rgb = disc(110, 150, 30)
        small = disc(10, 110, 10)
        y, x = np.mgrid[0:200, 0:200] + 0.5
        rgb = np.where((np.hypot(x - 100, y - 100) < 15)[..., None], small, rgb)
        self.assertGreater(look("pupil", looked(rgb, (100, 100), 30)), 0.8)
        self.assertLess(abs(look("pupil", looked(disc(110, 150, 30), (100, 100), 30))), 0.1)
        rgb[78:90, 104:116] = 255
        self.assertGreater(look("glint", looked(rgb, (100, 100), 30)), 0.9)

    def test_size_counts_against_the_picture(self):
        self.assertLess(
            look("size", looked(disc(size=200), (100, 100), 11)), look("size", looked(disc(size=200), (100, 100), 20))
        )
        self.assertGreater(
            look("size", looked(disc(size=200), (100, 100), 20)), look("size", looked(disc(size=400), (200, 200), 20))
        )


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


class InFaces(unittest.TestCase):
    def test_most_eyes_of_made_faces_are_found_and_the_sure_ones_nearly_all(self):
        """Faces that nothing was learned from. Right: the middle within a fifth of the half width, that within a quarter."""
        right, sure = [], []
        for face in made_faces(24, 9001):
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
        self.assertGreaterEqual(sum(right), 18)
        certain = [one for one, how in zip(right, sure, strict=True) if how >= 0.8]
        self.assertGreaterEqual(len(certain), 6)
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

    def test_a_smaller_picture_gives_reference_pixels(self):
        made = Made(r=40, colour=AMBER)
        found = find_eye(made.draw(), (2 * made.cx, 2 * made.cy), 0.5)
        self.assertAlmostEqual(found.iris.radius, 80, delta=2)
        self.assertLess(math.dist(found.iris.centre, (2 * made.cx, 2 * made.cy)), 2)
