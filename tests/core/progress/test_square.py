import unittest
from dataclasses import replace
from unittest import mock

import cv2
import numpy as np

from foxpath.core.errors import InputError, PictureError
from foxpath.core.progress import square
from foxpath.core.progress.camera import Room, another_hand, photograph, some_room
from foxpath.core.progress.find import agreement, first_guess, four_sided
from foxpath.core.progress.frame import Frame
from foxpath.core.progress.matches import Matches, Window, find_places, smooth_field
from foxpath.core.progress.planned import planned_of
from foxpath.core.progress.seen import look, sharpness
from foxpath.core.progress.sides import side_points
from foxpath.core.progress.small import lab_of
from foxpath.core.progress.square import by_hand, square_up
from tests.canvas import HEIGHT, PARTS, PX, WIDTH, labels, painted, planned, seen_as
from tests.made import leaves

TARGET = np.array([[0, 0], [WIDTH, 0], [WIDTH, HEIGHT], [0, HEIGHT]])
PLAIN = Room(long_px=1200, noise=0.004)


def off_mm(squared, corners):
    """Return how far each true corner lies from where it was taken to be, mm."""
    return np.hypot(*(squared.frame.to_work(corners) - TARGET).T) / PX


class Squaring(unittest.TestCase):
    def test_corners_are_found_though_another_hand_painted_it(self):
        for seed in (2, 3, 4):
            rgb = another_hand(painted(seed), PX, seed)
            photo, corners = photograph(rgb, some_room(seed, 1200, cut=False, glare=False), seed)
            squared = square_up(planned(), photo)
            self.assertLess(off_mm(squared, corners).max(), 0.8, seed)
            self.assertEqual(squared.sides, (0, 1, 2, 3))
            self.assertLess(squared.doubt_mm, 0.5)

    def test_a_side_that_is_cut_off_is_carried_by_the_picture(self):
        room = replace(PLAIN, fills=0.97, off=(-0.09, 0.0), turn_deg=4)
        photo, corners = photograph(painted(0), room, 2)
        self.assertLess(corners[:, 0].max(), photo.shape[1])
        self.assertLess(corners[:, 0].min(), 0)
        squared = square_up(planned(), photo)
        self.assertNotIn(3, squared.sides)
        self.assertGreater(squared.doubt_mm, 1)
        self.assertLess(off_mm(squared, corners).max(), 1.3 * squared.doubt_mm)

    def test_what_is_borne_by_nothing_is_not_taken(self):
        photo, _ = photograph(painted(2), replace(PLAIN, fills=0.9), 1)
        for name, value in (("FITTED", 2.0), ("LEAST_PLACES", 10_000)):
            with mock.patch.object(square, name, value), mock.patch.object(square, "LEAST_SIDES", 5):
                self.assertIsNone(square_up(planned(), photo), name)

    def test_a_bent_lens_is_told_from_a_tilted_canvas(self):
        for lens in (-0.03, 0.04):
            photo, corners = photograph(painted(2), replace(PLAIN, lens=lens, fills=0.9), 1)
            squared = square_up(planned(), photo)
            self.assertAlmostEqual(squared.frame.lens, lens, delta=0.012)
            self.assertLess(off_mm(squared, corners).max(), 0.8)

    def test_another_painting_is_not_found(self):
        self.assertIsNone(square_up(planned(), leaves(1200, 900).astype(np.uint8)))
        self.assertIsNone(square_up(planned(), np.full((900, 1200, 3), 120, np.uint8)))

    def test_the_same_photograph_gives_the_same_frame(self):
        photo, _ = photograph(painted(2), PLAIN, 1)
        a, b = square_up(planned(), photo), square_up(planned(), photo)
        np.testing.assert_array_equal(a.frame.homography, b.frame.homography)

    def test_corners_by_hand_are_taken_as_they_are(self):
        photo, corners = photograph(painted(2), replace(PLAIN, lens=0.0), 1)
        squared = by_hand(planned(), photo, corners)
        self.assertLess(off_mm(squared, corners).max(), 1e-3)
        self.assertEqual(squared.way, "corners")
        self.assertGreater(squared.agrees, 0.8)

    def test_a_guess_agrees_and_an_upright_one_better_than_one_upside_down(self):
        photo, corners = photograph(painted(2), PLAIN, 1)
        guess = first_guess(planned().rgb, photo)
        self.assertGreater(guess.agrees, 0.8)
        turned = cv2.getPerspectiveTransform(np.roll(corners, 2, axis=0).astype(np.float32), TARGET.astype(np.float32))
        self.assertLess(agreement(planned().rgb, photo, turned), guess.agrees - 0.3)
        self.assertEqual(agreement(planned().rgb, photo, np.diag([0.05, 0.05, 1.0])), -1.0)

    def test_the_canvas_is_among_the_four_sided_outlines(self):
        photo, corners = photograph(painted(2), PLAIN, 1)
        near = [np.abs(np.sort(one, axis=0) - np.sort(corners, axis=0)).max() for one in four_sided(photo)]
        self.assertLess(min(near), 12)


class Sides(unittest.TestCase):
    def test_each_side_lies_where_the_canvas_ends(self):
        photo, corners = photograph(painted(2), replace(PLAIN, lens=0.0), 1)
        true = cv2.getPerspectiveTransform(corners.astype(np.float32), TARGET.astype(np.float32))
        moved = np.array([[1, 0, 5.0], [0, 1, -4.0], [0, 0, 1]])
        points, sides = side_points(photo, Frame(moved @ true, 0.0, photo.shape[1::-1]), (WIDTH, HEIGHT), PX)
        at = Frame(true, 0.0, photo.shape[1::-1]).to_work(points)
        for side, (axis, line) in enumerate(((1, 0), (0, WIDTH), (1, HEIGHT), (0, 0))):
            mine = at[sides == side, axis]
            self.assertGreater(len(mine), 40)
            self.assertAlmostEqual(float(np.median(mine)), line, delta=0.2 * PX)

    def test_a_wall_of_the_canvas_s_own_colour_shows_no_side(self):
        flat = np.full((900, 1200, 3), 110, np.uint8)
        frame = Frame(np.array([[1, 0, -300.0], [0, 1, -200], [0, 0, 1]]), 0.0, (1200, 900))
        points, sides = side_points(flat, frame, (WIDTH, HEIGHT), PX)
        self.assertEqual((len(points), len(sides)), (0, 0))


class Places(unittest.TestCase):
    def test_a_shift_is_found_with_its_sense(self):
        lab = lab_of(painted(0))
        moved = np.roll(lab, (5, -7), (0, 1))
        found = find_places(lab, moved, PX, Window())
        inner = (found.at[:, 0] > 30) & (found.at[:, 0] < 220) & (found.at[:, 1] > 30) & (found.at[:, 1] < 170)
        np.testing.assert_allclose(np.median(found.shift[inner], axis=0), (-7 / PX, 5 / PX), atol=0.25)

    def test_a_straight_border_knows_only_across(self):
        lab = np.zeros((HEIGHT, WIDTH, 3), np.float32)
        lab[..., 0] = np.where(np.arange(WIDTH) < 300, 30, 70)
        lab[..., 1] = 3 * np.random.default_rng(1).standard_normal((HEIGHT, WIDTH))
        found = find_places(lab, lab, PX, Window())
        self.assertTrue(len(found))
        xx, _, yy = found.knows.T
        self.assertGreater(xx.min(), 100 * max(yy.max(), 1e-6))

    def test_a_field_carries_what_is_known_and_holds_the_rest(self):
        at = np.stack(np.meshgrid([60.0, 125, 190], [50.0, 100, 150]), -1).reshape(-1, 2)
        matches = Matches(at, np.tile([2.0, -1.0], (9, 1)), np.tile([5.0, 0, 5.0], (9, 1)))
        field = smooth_field(matches, (WIDTH, HEIGHT), PX, 45)
        np.testing.assert_allclose(field[240, 300] / PX, (2, -1), atol=0.3)
        across = Matches(at, np.tile([2.0, -1.0], (9, 1)), np.tile([5.0, 0, 0.0], (9, 1)))
        held = smooth_field(across, (WIDTH, HEIGHT), PX, 45)
        np.testing.assert_allclose(held[240, 300] / PX, (2, 0), atol=0.3)
        self.assertFalse(
            smooth_field(across.without(np.ones((HEIGHT, WIDTH), bool), PX), (WIDTH, HEIGHT), PX, 45).any()
        )


class Looking(unittest.TestCase):
    def test_a_misplaced_eye_stays_misplaced(self):
        from foxpath.core.progress.judge.features import eyes

        rgb = painted(2).copy()
        patch = rgb[200:280, 190:270].copy()
        rgb[200:280, 202:282] = patch
        photo, corners = photograph(rgb, replace(PLAIN, lens=0.0), 1)
        seen = look(planned(), photo, corners)
        off = next(one for one in eyes(planned(), seen) if one.rule == "place" and one.eye == 0)
        self.assertAlmostEqual(off.toward[0], 12 / PX, delta=0.8)
        self.assertAlmostEqual(off.toward[1], 0, delta=0.6)

    def test_what_cannot_be_used_is_refused_with_its_reason(self):
        photo, corners = photograph(painted(2), PLAIN, 1)
        with self.assertRaisesRegex(PictureError, "only 300"):
            look(planned(), photo[:300, :300])
        with self.assertRaisesRegex(PictureError, "not found"):
            look(planned(), leaves(1200, 900).astype(np.uint8))
        soft = cv2.GaussianBlur(photo, (0, 0), 16)
        with self.assertRaisesRegex(PictureError, "blurred"):
            look(planned(), soft, corners)
        with self.assertRaisesRegex(PictureError, "does not look like"):
            look(planned(), leaves(1200, 900).astype(np.uint8), corners)
        small = corners / 8 + 200
        with self.assertRaisesRegex(PictureError, "pixels for a millimetre"):
            look(planned(), photo, small)
        with self.assertRaisesRegex(PictureError, "% of the canvas"):
            look(planned(), photo, corners - (900, 0))

    def test_as_far_as_a_corner_may_be_off_nothing_is_judged(self):
        photo, corners = photograph(painted(2), replace(PLAIN, lens=0.0), 1)
        with mock.patch("foxpath.core.progress.seen.by_hand", lambda *a: replace(by_hand(*a), doubt_mm=3.0)):
            seen = look(planned(), photo, corners)
        rim = round(3 * PX)
        self.assertFalse(seen.use[:rim].any() or seen.use[:, -rim:].any())
        self.assertTrue(seen.use[rim + 1 : -rim - 1, rim + 1 : -rim - 1].all())

    def test_neither_glare_nor_what_is_left_alone_is_judged(self):
        alone = np.zeros((HEIGHT, WIDTH), bool)
        alone[300:360, 100:180] = True
        photo, corners = photograph(painted(2), some_room(7, 1200, cut=False, glare=True), 3)
        for made in (planned(), replace(planned(), alone=alone)):
            seen = look(made, photo, corners)
            self.assertTrue(seen.glare.any())
            self.assertFalse((seen.use & (seen.glare | ~seen.shown)).any())
            self.assertEqual(bool(seen.use[alone].any()), made.alone is None)
            self.assertGreater(seen.use.mean(), 0.7)

    def test_sharpness_is_that_of_the_hairs(self):
        self.assertAlmostEqual(sharpness(planned(), planned().lab, seen_as(painted(0)).use), 1, places=3)
        soft = cv2.GaussianBlur(planned().lab, (0, 0), 3)
        self.assertLess(sharpness(planned(), soft, seen_as(painted(0)).use), 0.5)

    def test_a_plan_that_is_none_is_refused(self):
        tiny = np.zeros((90, 90, 3), np.uint8)
        with self.assertRaisesRegex(InputError, "90 × 90"):
            planned_of(tiny, None, np.zeros((90, 90), np.int16), PARTS, PX)
        with self.assertRaisesRegex(InputError, "differ in size"):
            planned_of(painted(0), painted(1)[:400], labels(), PARTS, PX)


if __name__ == "__main__":
    unittest.main()
