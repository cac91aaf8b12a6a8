"""Two drills from inside: what is done to an eye, and which lights are the strongest."""

import itertools
import unittest
from dataclasses import replace
from unittest import mock

import numpy as np

from foxpath.core.practice.drills import eye as rules
from foxpath.core.practice.drills.eye import LIGHTER_A_MM, PUPIL, ROOM, WORDS, EyeDrill
from foxpath.core.practice.drills.lights import (
    BROAD_MM,
    FINE_MM,
    GAP,
    HIT_MM,
    LEAST,
    LEAST_L,
    MOST,
    OFF_MM,
    RIM_MM,
    LightsDrill,
    paired,
    strongest,
)
from foxpath.core.practice.scene import Part
from foxpath.core.practice.task import Task
from foxpath.core.progress.faults import warped
from foxpath.core.progress.small import blurred_within, shrunk
from tests.drilled import HEIGHT, LEFT, PX, RIGHT, WIDTH, scene

RADIUS, MIDDLE = 18.0, (56.0, 60.0)


def patch():
    """An eye with pupil and catchlight on an even coat, 116 px a side, and where it lies."""
    y, x = np.mgrid[:116, :116]
    away = np.hypot(x - MIDDLE[0], y - MIDDLE[1])
    lab = np.zeros((116, 116, 3), np.float32)
    lab[...] = (40, 5, 10)
    lab[away < RADIUS] = (58, 8, 48)
    lab[away < 7] = (5, 0, 0)
    lab[np.hypot(x - MIDDLE[0] + 7, y - MIDDLE[1] + 8) < 3.2] = (97, 0, 2)
    return lab


def iris(lab):
    """Middle and half axes of what is as yellow as the iris or lies within it, px."""
    y, x = np.nonzero(lab[..., 2] > 26)
    return (x.min() + x.max()) / 2, (y.min() + y.max()) / 2, (np.ptp(x) + 1) / 2, (np.ptp(y) + 1) / 2


class Spoilt(unittest.TestCase):
    def spoilt(self, word, off=3.0, lab=None):
        return rules._spoilt(patch() if lab is None else lab, *MIDDLE, RADIUS, word, off, PX)

    def test_it_stands_higher_or_lower_by_so_much(self):
        x, y, rx, ry = iris(patch())
        for word, sign in (("too high", -1), ("too low", 1)):
            one = iris(self.spoilt(word))
            np.testing.assert_allclose(one, (x, y + sign * 3, rx, ry), atol=0.6, err_msg=word)

    def test_its_shape_is_stretched_one_way_and_pressed_the_other(self):
        x, y, rx, ry = iris(patch())
        k = 1 + 3 / RADIUS
        for word, wide, tall in (
            ("too wide", k, 1 / k), ("too tall", 1 / k, k), ("grown", k, k), ("shrunk", 1 / k, 1 / k),
        ):  # fmt: skip
            np.testing.assert_allclose(iris(self.spoilt(word)), (x, y, rx * wide, ry * tall), atol=0.8, err_msg=word)

    def test_only_the_pupil_goes_aside_and_stays_in_its_iris(self):
        for off, moved in ((3.0, 3.0), (12.0, 0.3 * RADIUS)):
            made = self.spoilt("looks elsewhere", off)
            np.testing.assert_allclose(iris(made), iris(patch()), atol=0.1)
            want = warped(patch(), MIDDLE, PUPIL * RADIUS, np.eye(2, dtype=np.float32), (moved, 0.0))
            np.testing.assert_allclose(made, want)
            # Some of it is hidden by the catchlight's place: what is dark lies farther right by so much, on the whole.
            dark = [np.nonzero(one[..., 0] < 20)[1].mean() for one in (patch(), made)]
            self.assertAlmostEqual(dark[1] - dark[0], moved, delta=0.9)

    def test_its_light_goes_round_by_so_much(self):
        made = self.spoilt("light at another hour", 4.0)
        lights = [np.argwhere(one[..., 0] > 85).mean(axis=0)[::-1] - MIDDLE for one in (patch(), made)]
        radii = [np.hypot(*one) for one in lights]
        self.assertAlmostEqual(radii[0], radii[1], delta=0.8)
        turn = np.degrees(np.arctan2(np.cross(*lights), np.dot(*lights)))
        self.assertAlmostEqual(abs(np.radians(turn)) * radii[0], 4, delta=0.8)
        self.assertGreater(turn, 0)
        blind = patch()
        blind[blind[..., 0] > 90] = (58, 8, 48)
        self.assertIsNone(self.spoilt("light at another hour", 4.0, blind))

    def test_the_upper_part_alone_becomes_lighter(self):
        made = self.spoilt("upper part too light", 1.0)
        more = made[..., 0] - patch()[..., 0]
        np.testing.assert_array_equal(made[..., 1:], patch()[..., 1:])
        y, x = np.mgrid[:116, :116]
        away = np.hypot(x - MIDDLE[0], y - MIDDLE[1]) / RADIUS
        want = np.clip((1.05 - away) / 0.15, 0, 1) * np.clip((60 - y) / (0.35 * RADIUS) + 0.2, 0, 1) * LIGHTER_A_MM / PX
        light = patch()[..., 0]
        np.testing.assert_allclose(more, np.minimum(want, 100 - light), atol=1e-3)
        self.assertAlmostEqual(float(more[48, 66]), LIGHTER_A_MM / PX, places=3)
        self.assertEqual(float(more[66:].max()), 0)


class Eyes(unittest.TestCase):
    def test_the_task_shows_the_reference_and_the_same_eye_spoilt(self):
        drill = EyeDrill()
        for seed in range(12):
            task = drill.make(scene(), np.random.default_rng(seed), 1.5)
            if task is None:
                continue
            half = int(ROOM * RADIUS)
            zoom = round(task.px_per_mm / PX)
            self.assertEqual(zoom, max(1, round(420 / (2 * half))))
            self.assertEqual(task.picture.shape, (2 * half * zoom, 4 * half * zoom + 10, 3))
            off = task.size * PX
            self.assertTrue(1.5 * np.exp(-0.12) - 1e-6 <= task.size <= 1.5 * np.exp(0.12) + 1e-6)
            self.assertAlmostEqual(task.truth["mm"], off / PX, places=3)
            self.assertEqual(task.truth["radius"], RADIUS * zoom)
            (x, y), (u, v) = task.truth["reference"], task.truth["painted"]
            self.assertEqual((u - x, v - y), (2 * half * zoom + 10, 0))
            # The eye lies where it is said: dark in its middle, yellow beside it.
            pupil = task.picture[round(y), round(x)].astype(int)
            rim = task.picture[round(y), round(x + 0.7 * RADIUS * zoom)].astype(int)
            self.assertLess(pupil.max(), 60)
            self.assertGreater(rim[0] - rim[2], 60)
            self.assertLess(abs(x / zoom - half), 0.62 * RADIUS + 1)

    def test_an_error_is_never_so_large_that_it_leaves_the_eye(self):
        sizes = [EyeDrill().make(scene(), np.random.default_rng(seed), 9.0) for seed in range(20)]
        self.assertTrue(all(task is None or task.size * PX <= 0.45 * RADIUS + 1e-6 for task in sizes))
        self.assertTrue(any(task is not None for task in sizes))

    def test_eyes_that_are_small_or_near_the_rim_are_left_out(self):
        made = scene()
        small = replace(made, eyes=tuple(replace(e, rx=6.9, ry=6.9) for e in made.eyes))
        self.assertTrue(all(EyeDrill().make(small, np.random.default_rng(k), 1.0) is None for k in range(6)))
        for x, y in ((57.0, 200.0), (200.0, 57.0), (WIDTH - 57.0, 200.0), (200.0, HEIGHT - 57.0)):
            near = replace(made, eyes=(replace(made.eyes[0], x=x, y=y),))
            self.assertTrue(all(EyeDrill().make(near, np.random.default_rng(k), 1.0) is None for k in range(6)), (x, y))
        self.assertIsNone(EyeDrill().make(replace(made, eyes=()), np.random.default_rng(1), 1.0))

    def test_an_answer_is_right_or_not_and_the_error_is_named(self):
        drill = EyeDrill()
        for right, word in enumerate(WORDS):
            truth = {"right": right, "mm": 1.5, "reference": [50, 60], "painted": [180, 60], "radius": 30.0}
            task = Task("eye", 1, "?", None, scene().rgb, PX, truth, size=1.5)
            good, wrong = drill.score(task, right), drill.score(task, (right + 1) % len(WORDS))
            self.assertEqual((good.share, wrong.share), (1, 0))
            self.assertEqual(good.words, f"{word} by " + ("21 L*" if word == "upper part too light" else "1.5 mm"))
            self.assertTrue(good.why)
            (seen,) = wrong.seen
            self.assertEqual((seen.right, seen.size, seen.choices), (False, 1.5, len(WORDS)))
            self.assertEqual(drill.ideal(task), right)
            ring, line = good.marks
            self.assertEqual((ring.points.tolist(), ring.radius), ([[180, 60]], 30))
            self.assertEqual(line.points.tolist(), [[138, 60], [222, 60]])


class Strongest(unittest.TestCase):
    def test_they_are_the_highest_about_themselves_strongest_first(self):
        made = scene()
        for middle, side in (((360.0, 150.0), 180.0), ((330.0, 120.0), 120.0)):
            found = strongest(made, middle, side)
            light, animal = np.ascontiguousarray(made.lab[..., 0]), made.animal.astype(np.float32)
            over = blurred_within(light, animal, FINE_MM * PX) - blurred_within(light, animal, BROAD_MM * PX)
            over = np.where(shrunk(animal > 0, RIM_MM * PX) > 0, over, -np.inf)
            far, want = round(OFF_MM * PX), []
            for y, x in itertools.product(range(HEIGHT), range(WIDTH)):
                if abs(x - middle[0]) >= side / 2 - 2 or abs(y - middle[1]) >= side / 2 - 2 or over[y, x] <= LEAST_L:
                    continue
                about = over[max(0, y - far) : y + far + 1, max(0, x - far) : x + far + 1]
                if over[y, x] >= about.max():
                    want.append((float(over[y, x]), (float(x), float(y))))
            want.sort(reverse=True)
            self.assertGreater(len(want), 1)
            self.assertEqual(len(found), len(want))
            for (a, at), (b, there) in zip(found, want, strict=True):
                self.assertAlmostEqual(a, b, delta=0.25)
                self.assertLess(np.hypot(at[0] - there[0], at[1] - there[1]), 2)

    def test_the_three_blobs_of_the_scene_are_found_by_their_heights(self):
        found = strongest(scene(), (360.0, 130.0), 190.0)
        for (_, at), true in zip(found, ((330, 90), (390, 130), (300, 170)), strict=False):
            self.assertLess(np.hypot(at[0] - true[0], at[1] - true[1]), 4)

    def test_a_bright_ground_beside_the_animal_is_no_light(self):
        made = replace(
            scene(),
            parts=(
                Part("z0", "Ground", "background"),
                Part("z1", "Flank", "long-fur"),
                Part("z2", "Neck", "background"),
            ),
        )
        self.assertTrue(all(x < 250 - RIM_MM * PX for _, (x, _) in strongest(made, (240.0, 200.0), 300.0)))

    def test_places_are_paired_so_that_all_lie_nearest(self):
        rng = np.random.default_rng(7)
        for answers in (5, 3, 1):
            true = [tuple(p) for p in rng.uniform(0, 100, (5, 2))]
            given = [tuple(p) for p in rng.uniform(0, 100, (answers, 2))]
            told = paired(given, true, 60.0)
            self.assertEqual(len(told), 5)
            best = min(
                sum(
                    min(float(np.hypot(*np.subtract(true[i], given[j]))), 60.0)
                    for i, j in zip(rows, range(answers), strict=True)
                )
                for rows in itertools.permutations(range(5), answers)
            )
            self.assertAlmostEqual(sum(told), best + 60 * (5 - answers), places=6)
        self.assertEqual(paired((), [(0, 0), (1, 1)], 7.0), [7, 7])


class Lights(unittest.TestCase):
    def task(self, found, seed=3):
        with mock.patch("foxpath.core.practice.drills.lights.strongest", lambda *_: found):
            return LightsDrill().make(scene(), np.random.default_rng(seed), 8.0)

    @staticmethod
    def found(*strengths):
        return [(s, (300.0 + 10 * k, 100.0 + 5 * k)) for k, s in enumerate(strengths)]

    def test_so_many_are_asked_for_that_the_next_is_plainly_weaker(self):
        task = self.task(self.found(30, 28, 26, 26 / GAP - 0.1, 22))
        self.assertEqual(len(task.truth["places"]), 3)
        self.assertIn("Set the 3 strongest lights", task.question)
        self.assertEqual(task.ask.count, 3)
        self.assertEqual(task.truth["strength"], [30, 28, 26, round(26 / GAP - 0.1, 2)])
        self.assertEqual(task.truth["places"][1], [310, 105])
        self.assertIsNone(self.task(self.found(30, 28, 26, 26 / GAP + 0.1, 22)))
        # Fewer than three are none, and more than seven would be a matter of patience.
        self.assertIsNone(self.task(self.found(30, 20, 10)))
        self.assertEqual(len(self.task(self.found(30, 20, 10, 5)).truth["places"]), LEAST)
        many = self.found(*(60 * 0.8**k for k in range(12)))
        counts = {len(self.task(many, seed).truth["places"]) for seed in range(60)}
        self.assertEqual(counts, set(range(LEAST, MOST + 1)))

    def test_the_frame_lies_in_the_picture_and_holds_the_question(self):
        for seed in range(10):
            task = self.task(self.found(30, 28, 26, 10), seed)
            x, y, w, h = task.ask.room
            self.assertEqual(w, h)
            self.assertTrue(0.35 * HEIGHT <= w <= 0.6 * HEIGHT)
            self.assertTrue(x >= -1e-9 and y >= -1e-9 and x + w <= WIDTH + 1e-9 and y + h <= HEIGHT + 1e-9)
            self.assertEqual(task.look, (x + w / 2, y + w / 2, 0.6 * w))
            np.testing.assert_allclose(task.shown[0].points, [(x, y), (x + w, y), (x + w, y + w), (x, y + w), (x, y)])
            self.assertEqual(task.truth["even"], w / PX)
            self.assertEqual(task.ask.radius, 0.5 * HIT_MM * PX)

    def test_hits_are_those_within_five_millimetres(self):
        drill = LightsDrill()
        places = [[100.0, 100.0], [200.0, 100.0], [150.0, 200.0]]
        truth = {"places": places, "strength": [30, 25, 22.4, 12], "even": 80.0}
        task = Task("lights", 1, "?", None, scene().rgb, PX, truth)
        answer = [(100 + 4.9 * PX, 100.0), (150.0, 200 + 5.1 * PX), (200.0, 101.0)]
        one = drill.score(task, answer)
        self.assertAlmostEqual(one.share, 2 / 3)
        self.assertEqual(one.words, "2 of 3, 3.5 mm off in the mean")
        self.assertEqual(one.why, "They stand 30 to 22 L* over what is about them; the next only 12.")
        (seen,) = one.seen
        self.assertEqual((seen.right, round(seen.error, 4)), (False, round((4.9 + 5.1 + 0.5) / 3, 4)))
        self.assertEqual([m.words for m in one.marks if m.tone == "true"], ["1", "2", "3"])
        self.assertEqual(len([m for m in one.marks if m.tone == "you"]), 3)
        # One that was left out counts as far off as half the frame.
        few = drill.score(task, answer[:1])
        self.assertAlmostEqual(few.seen[0].error, (4.9 + 40 + 40) / 3, places=6)
        best = drill.score(task, drill.ideal(task))
        self.assertEqual((best.share, best.seen[0].right, best.seen[0].error), (1, True, 0))

    def test_where_no_animal_is_nothing_is_asked(self):
        bare = replace(scene(), parts=tuple(replace(p, kind="background") for p in scene().parts))
        self.assertIsNone(LightsDrill().make(bare, np.random.default_rng(1), 8.0))
        self.assertEqual((LEFT[1], RIGHT[1]), (120, 120))


if __name__ == "__main__":
    unittest.main()
