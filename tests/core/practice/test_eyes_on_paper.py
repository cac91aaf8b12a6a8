"""A sheet of eyes: which eyes it has and where, an eye that is drawn is read as it was drawn, and what is said of it."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.errors import AppError
from foxpath.core.eyes.eye import clock
from foxpath.core.practice.paper import eyes as rules
from foxpath.core.practice.paper.eyes import (
    EyesOnPaper,
    EyeTarget,
    PaintedEye,
    eye_targets,
    fit_eyes,
    judged,
    read_eye,
    which_eyes,
)
from foxpath.core.practice.paper.page import READ_PX_PER_MM, SEED_BITS, Flat, Paper
from foxpath.core.practice.scene import Scene, SceneEye

K = READ_PX_PER_MM
PX = 4.0
EYES = (
    SceneEye("left eye", 200.0, 150.0, 40.0, 36.0, (212.0, 134.0), light_hour=1.0),
    SceneEye("right eye", 420.0, 150.0, 32.0, 32.0),
)


def scene(*eyes):
    """Return a scene of 4 px a mm with some eyes."""
    y, x = np.mgrid[:300, :600]
    rgb = np.stack([x % 256, y % 256, (x + y) % 256], axis=-1).astype(np.uint8)
    return Scene("a picture", rgb, PX, np.zeros((300, 600), np.int16), eyes=eyes or EYES)


def drawn(x=0.0, y=0.0, rx=8.0, ry=8.0, hour=1.5, side=40.0, glint=1.2, *, ticks=True):
    """Return a box of so many mm with an eye painted in it, CIELAB, off its middle by x and y mm."""
    size = round(side * K)
    lab = np.zeros((size, size, 3), np.float32)
    lab[:] = (95, 0, 2)

    def disc(cx, cy, a, b, colour):
        mask = np.zeros((size, size), np.uint8)
        at = (round(((side / 2 + cx) * K - 0.5) * 16), round(((side / 2 + cy) * K - 0.5) * 16))
        cv2.ellipse(mask, at, (round(a * K * 16), round(b * K * 16)), 0, 0, 360, 1, -1, cv2.LINE_8, 4)
        lab[mask > 0] = colour

    disc(x, y, rx, ry, (45, 10, 25))
    disc(x, y, 0.4 * rx, 0.4 * ry, (12, 1, 1))
    if hour is not None:
        turn = np.radians(30 * hour - 90)
        disc(x + 0.55 * rx * np.cos(turn), y + 0.55 * ry * np.sin(turn), glint, glint, (93, 0, 0))
    if ticks:
        lab[: round(1.6 * K), size // 2 - 1 : size // 2 + 1] = (30, 0, 0)
        lab[size // 2 - 1 : size // 2 + 1, : round(1.6 * K)] = (30, 0, 0)
    return lab


class Chosen(unittest.TestCase):
    def test_eyes_that_can_be_painted_and_measured(self):
        self.assertEqual(fit_eyes(None), ())
        self.assertEqual(fit_eyes(scene()), EYES)
        for rx, ry, fits in (
            (12.1, 30, True),
            (12.0, 30, False),
            (30, 12.0, False),
            (119.9, 40, True),
            (120, 40, False),
            (40, 120, False),
        ):
            one = SceneEye("eye", 200, 150, rx, ry)
            self.assertEqual(fit_eyes(scene(one)), (one,) if fits else (), (rx, ry))

    def test_its_number_tells_which_eyes_they_are(self):
        self.assertEqual(which_eyes(None), 0)
        self.assertEqual(which_eyes(scene(SceneEye("eye", 0, 0, 4, 4))), 0)
        self.assertEqual(which_eyes(scene()), which_eyes(scene(*EYES)))
        self.assertTrue(0 <= which_eyes(scene()) < 64)
        numbers = {which_eyes(scene(replace(EYES[0], rx=40 + 4 * k), EYES[1])) for k in range(12)}
        numbers |= {which_eyes(scene(replace(EYES[0], light_hour=float(k)), EYES[1])) for k in range(12)}
        self.assertGreater(len(numbers), 12)
        # A tenth of a millimetre is seen, a hundredth is not.
        self.assertEqual(which_eyes(scene(replace(EYES[0], rx=40.02), EYES[1])), which_eyes(scene()))
        drill = EyesOnPaper()
        for seed in (0, 5, 1023, 1024):
            number = drill.number(seed, scene())
            self.assertEqual(number % 64, which_eyes(scene()))
            self.assertEqual(number >> 6, seed % 2 ** (SEED_BITS - 6))
            self.assertLess(number, 2**SEED_BITS)

    def test_boxes_lie_side_by_side_on_the_sheet_with_the_reference_to_their_left(self):
        paper = Paper(3, 77, 210.0, 297.0)
        targets = eye_targets(paper, scene())
        # The largest iris is 10 mm: boxes of 40 mm, 30 mm of reference and 8 mm between them.
        self.assertEqual(len(targets), 2 * 4)
        self.assertEqual([one.number for one in targets], list(range(1, 9)))
        wide, tall = (210 - 32) / 2, (297 - 68) / 4
        for k, one in enumerate(targets):
            left, top, w, h = one.cell
            self.assertEqual((w, h), (40, 40))
            np.testing.assert_allclose(one.middle, (left + 20, top + 20))
            self.assertAlmostEqual(left + 40, 16 + (k % 2 + 1) * wide - 4)
            self.assertAlmostEqual(top, 38 + (k // 2) * tall + 1)
            eye = EYES[one.eye]
            np.testing.assert_allclose((one.rx, one.ry), (eye.rx / PX, eye.ry / PX))
        self.assertEqual({one.eye for one in targets}, {0, 1})
        first = next(one for one in targets if one.eye == 0)
        self.assertAlmostEqual(first.hour, clock((200, 150), (212, 134)))
        self.assertIsNone(next(one for one in targets if one.eye == 1).hour)
        self.assertEqual(targets, eye_targets(paper, scene()))
        self.assertNotEqual(
            [one.eye for one in targets], [one.eye for one in eye_targets(replace(paper, seed=78), scene())]
        )
        self.assertEqual(eye_targets(paper, None), ())
        self.assertEqual(len(eye_targets(paper, scene(SceneEye("eye", 200, 150, 16, 16)))), 24)
        self.assertEqual(len(eye_targets(paper, scene(SceneEye("eye", 200, 150, 118, 118)))), 1)

    def test_what_is_printed(self):
        paper, drill = Paper(3, 77, 210.0, 297.0), EyesOnPaper()
        made = drill.printed(paper, scene())
        targets = eye_targets(paper, scene())
        self.assertEqual(len(made.pictures), len(targets))
        for picture, one in zip(made.pictures, targets, strict=True):
            x, y, w, h = picture.box
            eye = EYES[one.eye]
            # True to size, half as wide again as the iris, to the left of its box.
            self.assertAlmostEqual(w, 3 * eye.radius / PX, delta=0.3)
            self.assertEqual(picture.rgb.shape[:2], (round(h * PX), round(w * PX)))
            self.assertAlmostEqual(x + w, one.cell[0] - 3)
            self.assertAlmostEqual(y + h / 2, one.middle[1])
            np.testing.assert_array_equal(
                picture.rgb[0, 0], scene().rgb[round(eye.y - 1.5 * eye.radius), round(eye.x - 1.5 * eye.radius)]
            )
        ticks = [one for one in made.shapes if one.points not in [s.points for s in rules.frame(paper)]]
        self.assertEqual(len(ticks), 4 * len(targets))
        for four, one in zip(np.array([t.points for t in ticks]).reshape(-1, 4, 2, 2), targets, strict=True):
            left, top, w, h = one.cell
            np.testing.assert_allclose(np.hypot(*(four[:, 1] - four[:, 0]).T), 1.6)
            np.testing.assert_allclose(four[:2, :, 0], one.middle[0])
            np.testing.assert_allclose(four[2:, :, 1], one.middle[1])
            self.assertEqual(
                (four[0, 0, 1], four[1, 1, 1], four[2, 0, 0], four[3, 1, 0]), (top, top + h, left, left + w)
            )
        words = [note.words for note in made.notes]
        self.assertIn("Sheet 77. Print at 100 %, paint, photograph it whole from above.", words)
        self.assertTrue(any(w.startswith("1   ") and w.endswith(" wide") for w in words))


class Read(unittest.TestCase):
    def test_an_eye_is_read_as_it_was_painted(self):
        for x, y, rx, ry, hour in (
            (0, 0, 8, 8, 1.5),
            (2.5, -1.5, 9, 6, 10.0),
            (-3, 2, 5, 7, 6.0),
            (0.4, 0.2, 3.2, 3.1, 2.0),
        ):
            found = read_eye(drawn(x, y, rx, ry, hour, glint=min(1.2, 0.2 * rx)))
            np.testing.assert_allclose((found.x, found.y, found.rx, found.ry), (x, y, rx, ry), atol=0.12)
            turn = np.radians(30 * hour - 90)
            self.assertAlmostEqual(found.hour, clock((0, 0), (rx * np.cos(turn), ry * np.sin(turn))), delta=0.15)

    def test_without_a_light_no_hour_and_without_paint_no_eye(self):
        self.assertIsNone(read_eye(drawn(hour=None)).hour)
        self.assertIsNone(read_eye(drawn(glint=0.04)).hour, "a speck")
        blank = np.zeros((320, 320, 3), np.float32)
        blank[:] = (95, 0, 2)
        self.assertIsNone(read_eye(blank))
        self.assertIsNone(read_eye(drawn(rx=0.8, ry=0.8, hour=None)), "a blot")
        self.assertIsNotNone(read_eye(drawn(rx=1.2, ry=1.2, hour=None)))

    def test_a_catchlight_is_lighter_than_the_iris_by_far_and_within_it(self):
        dim = drawn(hour=None)
        middle = dim.shape[0] // 2
        for light, seen in ((45 + 18, False), (45 + 26, True)):
            lab = dim.copy()
            lab[middle - 40 : middle - 30, middle + 20 : middle + 30] = (light, 2, 5)
            self.assertEqual(read_eye(lab).hour is not None, seen, light)
        # Bare paper that a gap in the rim lets in is none.
        lab = dim.copy()
        lab[middle - 3 : middle + 3, middle + 59 : middle + 64] = (94, 0, 2)
        self.assertIsNone(read_eye(lab).hour)
        # Of two, the larger counts.
        lab = drawn(hour=3.0, glint=1.4)
        lab[middle - 46 : middle - 41, middle - 3 : middle + 3] = (93, 0, 0)
        self.assertAlmostEqual(read_eye(lab).hour, 3.0, delta=0.15)

    def test_ticks_and_what_else_lies_in_the_box_are_none_of_it(self):
        lab = drawn(1.0, 0.5, 7, 7)
        lab[40:60, 40:60] = (40, 5, 5)
        found = read_eye(lab)
        np.testing.assert_allclose((found.x, found.y, found.rx, found.ry), (1, 0.5, 7, 7), atol=0.12)


class Judged(unittest.TestCase):
    target = EyeTarget(4, (50.0, 60.0), 8.0, 6.0, 2.0, (30.0, 40.0, 40.0, 40.0), 0)

    def said(self, x=0.0, y=0.0, rx=8.0, ry=6.0, hour=2.0, target=None):
        """Return what is said of a painted eye."""
        return judged(target or self.target, PaintedEye(x, y, rx, ry, hour))

    def test_as_the_reference(self):
        made = self.said(0.3, -0.2, 8.1, 6.2)
        self.assertEqual((made.number, made.right, made.words, made.at), (4, True, "as the reference", (50.0, 60.0)))
        self.assertAlmostEqual(made.error, max(np.hypot(0.3, 0.2), 0.2, 0.4))
        self.assertAlmostEqual(made.reach, 7.2)
        self.assertAlmostEqual(self.said(ry=5.0).reach, 7.0)

    def test_where_it_lies(self):
        for x, y, words in (
            (0.9, 0.2, "0.9 mm too far right"),
            (-0.9, 0.2, "0.9 mm too far left"),
            (0.1, 0.8, "0.8 mm too low"),
            (0.1, -0.8, "0.8 mm too high"),
        ):
            made = self.said(x, y)
            self.assertEqual((made.words, made.right), (words, False))
            self.assertAlmostEqual(made.error, float(np.hypot(x, y)))
        self.assertEqual(self.said(0.4, 0.29).words, "as the reference")

    def test_how_large_it_is(self):
        for rx, ry, words in (
            (8.5, 6.4, "0.9 mm too large"),
            (7.5, 5.6, "0.9 mm too small"),
            (8.5, 6.1, "1 mm too wide"),
            (7.5, 6.1, "1 mm too narrow"),
            (8.1, 6.5, "1 mm too tall"),
            (8.1, 5.5, "1 mm too flat"),
            (8.6, 5.5, "1.2 mm too wide"),
            (8.24, 6.24, "as the reference"),
        ):
            made = self.said(rx=rx, ry=ry)
            self.assertEqual(made.words, words)
            self.assertAlmostEqual(made.error, 2 * max(abs(rx - 8), abs(ry - 6)))

    def test_its_catchlight(self):
        self.assertEqual(self.said(hour=3.5).words, "its catchlight 1.5 h late")
        self.assertEqual(self.said(hour=11.5).words, "its catchlight 2.5 h early")
        self.assertEqual(self.said(hour=2.9).words, "as the reference")
        self.assertEqual(self.said(hour=None).words, "no catchlight is seen")
        bare = replace(self.target, hour=None)
        self.assertEqual(self.said(hour=None, target=bare).words, "as the reference")
        self.assertEqual(self.said(hour=5.0, target=bare).words, "as the reference")
        both = self.said(0.9, 0.0, hour=None)
        self.assertEqual(both.words, "0.9 mm too far right, no catchlight is seen")

    def test_near_enough_is_right_only_where_nothing_is_said(self):
        self.assertTrue(self.said(0.49).right)
        self.assertFalse(self.said(0.0, hour=4.0).right)
        self.assertFalse(self.said(0.72).right)


class Measured(unittest.TestCase):
    def test_a_sheet_of_other_eyes_is_refused_and_what_is_not_painted_is_left_out(self):
        drill = EyesOnPaper()
        paper = Paper(3, drill.number(9, scene()), 210.0, 297.0)
        lab = np.zeros((round(297 * K), round(210 * K), 3), np.float32)
        lab[:] = (95, 0, 2)
        targets = eye_targets(paper, scene())
        one = targets[2]
        box = drawn(0.9, 0.0, one.rx, one.ry, one.hour, 40.0, ticks=False)
        x, y = (round(v * K) for v in one.cell[:2])
        lab[y : y + 320, x : x + 320] = box
        flat = Flat(paper, lab)
        (made,) = drill.measured(flat, scene())
        self.assertEqual(made.number, 3)
        self.assertIn("too far right", made.words)
        with self.assertRaisesRegex(AppError, "another picture"):
            drill.measured(flat, scene(replace(EYES[0], rx=60.0)))


if __name__ == "__main__":
    unittest.main()
