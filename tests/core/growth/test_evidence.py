import unittest
from unittest import mock

import cv2
import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import (
    SURE_ENOUGH,
    CombStroke,
    best_spot,
    crown_strokes,
    disagreement,
    donor_strokes,
    paint_field,
    place_glyphs,
    prior_field,
    read_evidence,
    singular_points,
    source_strokes,
    twin_strokes,
    where_words,
    zone_field,
)
from foxpath.core.growth.axis import cut_along
from foxpath.core.growth.evidence import Evidence, scale_shares
from foxpath.core.reference.transfer import Axes
from foxpath.core.zones import KINDS, fill
from tests.coats import HEIGHT, WIDTH, coat, sensible_combs

FRAME = Frame.over(Crop(0, 0, WIDTH, HEIGHT), 1.0, 320)
GUESS = prior_field(FRAME, np.zeros((0, 2)))
BROW = np.array([[0.0, 200.0], [200.0, 200.0], [200.0, 400.0], [0.0, 400.0]])


def at_cells(values):
    rows = ((np.arange(FRAME.rows) + 0.5) * HEIGHT / FRAME.rows).astype(int)
    columns = ((np.arange(FRAME.columns) + 0.5) * WIDTH / FRAME.columns).astype(int)
    return values[rows][:, columns]


class Shares(unittest.TestCase):
    """Which scales say the axis, and how much each."""

    def evidence(self, *coherence, weight=1.0):
        weights = np.broadcast_to(np.asarray(weight, np.float32).reshape(-1, 1, 1), (4, 2, 3))
        agreed = np.broadcast_to(np.asarray(coherence, np.float32).reshape(4, 1, 1), (4, 2, 3)).copy()
        # Outside the zone everything agrees: that is none of its business.
        agreed[:, :, 2] = 1
        return Evidence(np.zeros((4, 2, 2, 3), np.float32), weights, agreed, 1.0)

    def shares(self, evidence, length_px):
        mask = np.ones((2, 3), bool)
        mask[:, 2] = False
        return scale_shares(evidence, mask, length_px)

    def test_the_finest_three_count_as_far_as_they_agree(self):
        found = self.shares(self.evidence(0.2, 0.3, 0.5, 1.0, weight=1.0), 1000)
        self.assertEqual(list(found), [1, 2, 3])
        found = self.shares(self.evidence(0.4, 0.6, 0.6, 0.6), 1000)
        self.assertEqual(list(found), [0, 1, 2])
        np.testing.assert_allclose(list(found.values()), [0.25, 0.375, 0.375], rtol=1e-5)

    def test_none_is_coarser_than_the_hair_is_long(self):
        even = self.evidence(0.5, 0.5, 0.5, 0.5)
        for length, most in ((1, 1), (7, 1), (8, 2), (10.4, 2), (10.6, 3), (500, 3)):
            found = self.shares(even, length)
            self.assertEqual(list(found), list(range(most)), length)
            self.assertAlmostEqual(sum(found.values()), 1)

    def test_a_scale_that_shows_nothing_says_nothing(self):
        found = self.shares(self.evidence(1.0, 0.5, 0.5, 0.5, weight=(0, 1, 1, 1)), 1000)
        self.assertEqual(found, {0: 0, 1: 0.5, 2: 0.5})
        found = self.shares(self.evidence(1.0, 1.0, 1.0, 1.0, weight=0), 1000)
        self.assertAlmostEqual(sum(found.values()), 1)


class FromThePicture(unittest.TestCase):
    """A striped body whose growth is known everywhere."""

    @classmethod
    def setUpClass(cls):
        cls.made = coat("body", "clear", "stripes", seed=5)
        cls.evidence = read_evidence(cls.made.rgb, FRAME.rows, FRAME.columns)
        cls.labels, cls.truth = at_cells(cls.made.labels), at_cells(cls.made.angle)

    def solve(self, combs, evidence=None, **more):
        fields = []
        for k, part in enumerate(self.made.parts, 1):
            mask = self.labels == k
            own = [
                CombStroke(c) for c in combs if self.made.labels[int(c[len(c) // 2][1]), int(c[len(c) // 2][0])] == k
            ]
            seen = evidence or self.evidence
            fields.append(zone_field(mask, own, FRAME, GUESS, evidence=seen, length_px=part.length, **more))
        return fields

    def errors(self, fields):
        direction, sure = paint_field(fields, FRAME)
        angle = np.arctan2(direction[..., 1], direction[..., 0])
        where = np.isfinite(angle) & np.isfinite(self.truth)
        full = np.degrees(np.abs((angle - self.truth + np.pi) % (2 * np.pi) - np.pi))[where]
        return full, sure[where]

    def test_eight_combs_and_the_picture_give_the_growth_root_to_tip(self):
        full, sure = self.errors(self.solve(sensible_combs(self.made, 8), partings=self.made.partings))
        self.assertLess(np.median(full), 2)
        self.assertLess(np.percentile(full, 90), 5)
        self.assertLess((full > 90).mean(), 0.005)
        # What is called sure is right, nine times in ten.
        self.assertGreater((sure >= 0.9).mean(), 0.6)
        self.assertGreater((full[sure >= 0.9] < 15).mean(), 0.9)

    def test_the_picture_says_more_than_combs_alone(self):
        combs = sensible_combs(self.made, 5)
        alone = []
        for k, _ in enumerate(self.made.parts, 1):
            own = [
                CombStroke(c) for c in combs if self.made.labels[int(c[len(c) // 2][1]), int(c[len(c) // 2][0])] == k
            ]
            alone.append(zone_field(self.labels == k, own, FRAME, GUESS))
        with_it, without = np.median(self.errors(self.solve(combs))[0]), np.median(self.errors(alone)[0])
        self.assertLess(with_it, 0.4 * without)

    def test_without_a_comb_the_axis_is_known_and_the_root_end_is_a_guess(self):
        fields = self.solve([])
        full, sure = self.errors(fields)
        self.assertLess(np.percentile(np.minimum(full, 180 - full), 90), 6)
        self.assertLess(sure.max(), SURE_ENOUGH)
        self.assertFalse(any(field.rooted.any() for field in fields))
        glyphs = place_glyphs(fields[1], KINDS["short-fur"].coat, 20)
        self.assertFalse(glyphs.rooted.any())

    def test_begun_from_the_zone_without_combs_it_is_the_same_growth_and_the_picture_is_not_asked_again(self):
        combs = sensible_combs(self.made, 8, seed=2)
        own = [CombStroke(c) for c in combs if self.made.labels[int(c[len(c) // 2][1]), int(c[len(c) // 2][0])] == 1]
        how = {"evidence": self.evidence, "length_px": self.made.parts[0].length}
        mask = self.labels == 1
        bare = zone_field(mask, (), FRAME, GUESS, **how)
        anew = zone_field(mask, own, FRAME, GUESS, **how)
        with mock.patch("foxpath.core.growth.field.scale_shares", side_effect=AssertionError("asked again")):
            begun = zone_field(mask, own, FRAME, GUESS, **how, start=bare)
        np.testing.assert_array_equal(begun.seen.weight, anew.seen.weight)
        turn = np.abs((begun.direction * anew.direction).sum(axis=-1))[begun.inside]
        self.assertLess(np.degrees(np.arccos(np.clip(np.percentile(turn, 5), -1, 1))), 4)

    def test_a_soft_picture_is_read_at_a_coarser_scale(self):
        soft = read_evidence(cv2.GaussianBlur(self.made.rgb, (0, 0), 3), FRAME.rows, FRAME.columns)
        full, _ = self.errors(self.solve(sensible_combs(self.made, 8), soft))
        self.assertLess(np.median(full), 5)
        self.assertLess((full > 90).mean(), 0.02)

    def test_a_smooth_picture_has_no_say(self):
        y, x = np.mgrid[0:HEIGHT, 0:WIDTH] / WIDTH
        ramp = (np.stack([0.3 + 0.4 * x, 0.4 + 0.3 * y, 0.5 + 0 * x], axis=-1) * 255).astype(np.uint8)
        flat = read_evidence(ramp, FRAME.rows, FRAME.columns)
        comb = CombStroke(np.array([[500.0, 450], [700, 450]]))
        with_it = zone_field(self.labels == 2, [comb], FRAME, GUESS, evidence=flat, length_px=34)
        without = zone_field(self.labels == 2, [comb], FRAME, GUESS)
        np.testing.assert_array_equal(with_it.direction, without.direction)

    def test_a_comb_against_the_picture_is_named_and_can_be_kept(self):
        part, mask = self.made.parts[1], self.labels == 2
        along = sensible_combs(self.made, 8)
        own = next(c for c in along if self.made.labels[int(c[len(c) // 2][1]), int(c[len(c) // 2][0])] == 2)
        angle, _ = disagreement(own, self.evidence, mask, FRAME, part.length)
        self.assertLess(abs(angle), 15)
        for degrees in (60, -60):
            a, middle = np.radians(degrees), own.mean(axis=0)
            spin = np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
            wrong = (own - middle) @ spin.T + middle
            off, sure = disagreement(wrong, self.evidence, mask, FRAME, part.length)
            # As many degrees back as it was turned away.
            self.assertAlmostEqual(off, -degrees, delta=16)
            self.assertGreater(sure, 0.5)
        own_way = np.arctan2(*(wrong[-1] - wrong[0])[::-1])
        side = middle + 20 * np.array([-np.sin(own_way), np.cos(own_way)])

        def away(**more):
            field = zone_field(
                mask, [CombStroke(wrong)], FRAME, GUESS, evidence=self.evidence, length_px=part.length, **more
            )
            direction, _ = field.sample(np.array([side]))
            gap = np.arctan2(direction[0, 1], direction[0, 0]) - own_way
            return abs((gap + np.pi) % (2 * np.pi) - np.pi)

        self.assertLess(away(quiet=[wrong]), 0.5 * away())

    def test_a_crown_is_found_and_named(self):
        fields = self.solve(sensible_combs(self.made, 8))
        found = [one for field in fields for one in singular_points(field) if one.crown]
        self.assertEqual(len(found), 1)
        (x, y), (tx, ty) = found[0].at, self.made.singular[0]
        self.assertLess(np.hypot(x - tx, y - ty), 15)
        self.assertAlmostEqual(found[0].turn_deg, -20, delta=12)
        self.assertIn("crown", found[0].words())

    def test_the_next_comb_goes_where_doubt_is(self):
        mask = self.labels == 2
        ends = [CombStroke(np.array([[300.0, 420], [340, 430]]))]
        bare = zone_field(mask, ends, FRAME, GUESS)
        spot, gain = best_spot(bare)
        self.assertGreater(spot[0], 550)
        more = [*ends, CombStroke(np.array([[spot[0] - 20, spot[1]], [spot[0] + 20, spot[1]]]))]
        after = zone_field(mask, more, FRAME, GUESS)
        fell = bare.unsure_cm2() - after.unsure_cm2()
        self.assertGreater(fell, 0)
        self.assertGreater(gain, 0.3 * fell)


class Said(unittest.TestCase):
    """Marks on an empty picture: what they say is all there is."""

    def setUp(self):
        self.mask = fill(np.array([[20.0, 20], [300, 20], [300, 220], [20, 220]]), FRAME.shape)

    def field(self, strokes, **more):
        return zone_field(self.mask, strokes, FRAME, GUESS, **more)

    def test_crowns_turn_as_they_are_told(self):
        for turn, kind in ((0, "spreading"), (40, "spiral"), (-40, "spiral"), (90, "circling"), (180, "gathering")):
            field = self.field(crown_strokes((600.0, 450.0), 160.0, turn))
            direction, _ = field.sample(np.array([[700.0, 450.0]]))
            told = np.degrees(np.arctan2(direction[0, 1], direction[0, 0]))
            self.assertLess(abs((told - turn + 180) % 360 - 180), 8)
            found = [one for one in singular_points(field) if one.crown]
            self.assertEqual([one.kind for one in found], [kind])
            self.assertLess(np.hypot(found[0].at[0] - 600, found[0].at[1] - 450), 12)
        self.assertIn("to the left", found[0].words() if turn < 0 else self.spiral_left())
        self.assertEqual(
            where_words((610.0, 300.0), [(500.0, 310.0), (700.0, 300.0)], "Brow", BROW), "between the eyes"
        )
        self.assertEqual(
            where_words((100.0, 300.0), [(500.0, 310.0), (700.0, 300.0)], "Brow", BROW), "middle of the brow"
        )
        for at, said in (
            ((10.0, 210.0), "upper left"),
            ((100.0, 390.0), "lower"),
            ((190.0, 300.0), "right"),
            ((190.0, 210.0), "upper right"),
        ):
            self.assertEqual(where_words(at, [], "Brow", BROW), f"{said} of the brow")

    def spiral_left(self):
        return singular_points(self.field(crown_strokes((600.0, 450.0), 160.0, -40)))[0].words()

    def test_hair_grows_away_from_a_source(self):
        field = self.field(source_strokes((600.0, 450.0), 60.0))
        for x, y in ((720, 450), (600, 600), (480, 400)):
            direction, _ = field.sample(np.array([[float(x), float(y)]]))
            out = np.array([x - 600, y - 450]) / np.hypot(x - 600, y - 450)
            self.assertGreater(float(direction[0] @ out), 0.95)

    def test_nothing_passes_a_parting(self):
        parting = np.array([[600.0, 40.0], [600.0, 860.0]])
        combs = [CombStroke(np.array([[300.0, 450], [200, 450]])), CombStroke(np.array([[800.0, 450], [900, 450]]))]
        field = self.field(combs, partings=[parting])
        direction, _ = field.sample(np.array([[585.0, 450.0], [615.0, 450.0]]))
        self.assertLess(direction[0, 0], -0.98)
        self.assertGreater(direction[1, 0], 0.98)
        east, south = (np.ones((6, 6), np.float32) for _ in range(2))
        cut = cut_along((east, south), [np.array([[3.0, 0.5], [3.0, 5.5]])])
        self.assertEqual(int((cut[0] == 0).sum()), 6)
        self.assertTrue((cut[1] == 1).all())
        self.assertTrue((east == 1).all())

    def test_a_twin_is_the_mirror_image_in_the_heads_own_frame(self):
        left, right = (
            fill(np.array([[x, 60.0], [x + 80, 60], [x + 80, 160], [x, 160]]), FRAME.shape) for x in (40.0, 200.0)
        )
        a = np.radians(40)
        comb = np.array([[300.0, 420], [300 + 120 * np.cos(a), 420 + 120 * np.sin(a)]])
        source = zone_field(left, [CombStroke(comb)], FRAME, GUESS)
        axes = Axes((500.0, 300.0), (700.0, 300.0), (600.0, 300.0))
        strokes = twin_strokes(source, right, axes)
        self.assertGreater(len(strokes), 20)
        field = zone_field(right, strokes, FRAME, GUESS)
        direction, sure = field.sample(np.array([[900.0, 420.0]]))
        self.assertAlmostEqual(np.degrees(np.arctan2(direction[0, 1], direction[0, 0])), 140, delta=2)
        # It is only inferred: a comb of its own would be surer.
        own = zone_field(right, [CombStroke(np.array([[880.0, 420], [800, 480]]))], FRAME, GUESS)
        self.assertLess(sure[0], own.sample(np.array([[850.0, 445.0]]))[1][0])

    def test_a_donor_lends_along_the_bodies_own_axes(self):
        wide = fill(np.array([[20.0, 20], [150, 20], [150, 80], [20, 80]]), FRAME.shape)
        tall = fill(np.array([[200.0, 60], [260, 60], [260, 220], [200, 220]]), FRAME.shape)
        source = zone_field(wide, [CombStroke(np.array([[150.0, 180], [450, 180]]))], FRAME, GUESS)
        for turned, down in ((False, 1), (True, -1)):
            strokes = donor_strokes(source, wide, tall, FRAME, turned=turned)
            field = zone_field(tall, strokes, FRAME, GUESS)
            direction, _ = field.sample(np.array([[860.0, 520.0]]))
            self.assertGreater(direction[0, 1] * down, 0.98)
