"""What an answer is worth, in words: on tasks made by hand, whose truth is known."""

import unittest

import numpy as np

from foxpath.core.practice.drills.addition import AdditionDrill
from foxpath.core.practice.drills.black import BlackDrill, some_blacks
from foxpath.core.practice.drills.glint import GlintDrill
from foxpath.core.practice.drills.grey import GreyDrill
from foxpath.core.practice.drills.match import MatchDrill
from foxpath.core.practice.drills.midline import MidlineDrill
from foxpath.core.practice.drills.over import OverDrill
from foxpath.core.practice.drills.pile import PileDrill
from foxpath.core.practice.drills.relation import NEAR, OFF, SURE, RelationDrill, quartet
from foxpath.core.practice.scene import apart
from foxpath.core.practice.task import Pick, Task
from tests.drilled import scene

BLANK = np.zeros((60, 80, 3), np.uint8)
FOUR = Pick(tuple("ABCD"), ((10.0, 10.0), (30.0, 10.0), (50.0, 10.0), (70.0, 10.0)), 5.0)


def task(truth, ask=FOUR, size=4.0, px_per_mm=2.0):
    return Task("", 1, "", ask, BLANK, px_per_mm, truth, size=size)


class Picked(unittest.TestCase):
    def test_the_lightest_of_four(self):
        made = task({"right": 2, "L": [40.0, 44.0, 51.0, 43.0]}, size=7.0)
        right, wrong = (RelationDrill().score(made, answer) for answer in (2, 0))
        self.assertEqual((right.share, wrong.share), (1.0, 0.0))
        self.assertEqual(right.words, "C is the lightest")
        self.assertEqual(right.why, "L* A 40, B 44, C 51, D 43: the lightest by 7.0, all within 11.")
        (seen,) = wrong.seen
        self.assertEqual((seen.right, seen.size, seen.choices, seen.error), (False, 7.0, 4, 0.0))
        self.assertEqual([one.tone for one in right.marks], ["plain", "plain", "true", "plain"])
        self.assertEqual(RelationDrill().ideal(made), 2)

    def test_piles_say_how_much_farther_the_chosen_one_lies(self):
        made = task({"right": 1, "dE": [6.5, 2.0, 9.0, 7.0], "lacks": "warmer"})
        right, wrong = (PileDrill().score(made, answer) for answer in (1, 2))
        self.assertEqual(right.words, "B is nearest")
        self.assertEqual(wrong.words, "B is nearest; yours lies 7.0 ΔE farther")
        self.assertEqual(wrong.why, "ΔE from the wanted: A 6.5, B 2.0, C 9.0, D 7.0. B lacks: warmer.")
        self.assertEqual([one.tone for one in right.marks], ["true"])
        self.assertEqual(
            [(one.tone, tuple(one.points[0])) for one in wrong.marks], [("true", (30.0, 10.0)), ("you", (50.0, 10.0))]
        )

    def test_additions_say_what_is_left_and_how_the_pile_grows(self):
        truth = {"right": 0, "dE": [0.6, 5.2, 8.0, 9.0], "names": ["Ochre", "White", "Blue", "Red"], "parts": 1.5, "grows": [1.2, 2.5, 1.1, 1.1]}  # fmt: skip
        right, wrong = (AdditionDrill().score(task(truth), answer) for answer in (0, 1))
        self.assertEqual((right.words, right.share, wrong.share), ("Ochre", 1.0, 0.0))
        self.assertEqual(right.why, "1.5 parts of ochre to 10 of the pile leave ΔE 0.6.")
        self.assertIn("With white the best that can be had is 5.2, in a pile 2.5 times as large.", wrong.why)

    def test_greys_and_blacks(self):
        truth = {"right": 3, "C": [9.0, 7.5, 6.0, 1.5], "names": ["a + b", "c + d", "e + f", "g + h"]}
        right, wrong = (GreyDrill().score(task(truth), answer) for answer in (3, 1))
        self.assertEqual((right.words, right.why), ("g + h", "With white it keeps C* 1.5: the least of the four."))
        self.assertEqual(wrong.why, "With white it keeps C* 1.5, yours 7.5.")
        black = task({"right": 1, "b": [2.0, -3.25, 0.5], "word": "coolest", "recipe": "2 blue and 1 umber"})
        score = BlackDrill().score(black, 1)
        self.assertEqual((score.words, score.share), ("B is the coolest", 1.0))
        self.assertEqual(score.why, "b* A +2.0, B -3.2, C +0.5. B is 2 blue and 1 umber.")
        self.assertEqual(score.seen[0].choices, 3)

    def test_what_lies_over(self):
        for over, words in ((0, "A lies over B"), (1, "B lies over A")):
            made = task({"over": over, "why": "because", "places": [[10.0, 10.0], [40.0, 30.0]]})
            score = OverDrill().score(made, over)
            self.assertEqual((score.share, score.words, score.why), (1.0, words, "because"))
            self.assertEqual(OverDrill().score(made, 1 - over).share, 0.0)
            way, ring = score.marks
            top = ((10.0, 10.0), (40.0, 30.0))[over]
            self.assertEqual((tuple(way.points[0]), tuple(ring.points[0])), (top, top))


class Measured(unittest.TestCase):
    def test_a_value_too_light_or_too_dark(self):
        made = task({"L": 40.0, "at": [10.0, 10.0], "radius": 4.0})
        for answer, words, share, right in (
            (40.4, "the same value", 1 - 0.4 / 25, True),
            (50.0, "too light by 10 L*", 0.6, False),
            (35.0, "too dark by 5 L*", 0.8, True),
            (99.0, "too light by 59 L*", 0.0, False),
        ):
            score = MatchDrill().score(made, answer)
            self.assertEqual((score.words, score.seen[0].right), (words, right))
            self.assertAlmostEqual(score.share, share)
            self.assertAlmostEqual(score.seen[0].error, abs(answer - 40))
        self.assertIn("looks lighter than it is", MatchDrill().score(made, 44).why)
        self.assertIn("looks darker than it is", MatchDrill().score(made, 36).why)
        self.assertIn("Near enough", MatchDrill().score(made, 43.9).why)

    def test_an_eye_on_a_tilted_head_is_told_along_the_heads_own_axes(self):
        a = np.radians(30)
        along, down = np.array([np.cos(a), np.sin(a)]), np.array([-np.sin(a), np.cos(a)])
        other, true = np.array([100.0, 100.0]), np.array([100.0, 100.0]) + 80 * along
        made = task({"at": true.tolist(), "other": other.tolist(), "tilt": 30.0, "radius": 12.0})
        for out, low, words in (
            (6, 4, "2 mm too low and 3 mm too far out"),
            (-6, -4, "2 mm too high and 3 mm too far in"),
        ):
            score = MidlineDrill().score(made, (tuple(true + out * along + low * down),))
            self.assertIn(words, score.why)
            off = float(np.hypot(out, low)) / 2
            self.assertAlmostEqual(score.seen[0].error, off)
            self.assertAlmostEqual(score.share, 1 - off / 20)
            self.assertFalse(score.seen[0].right)
        self.assertEqual(MidlineDrill().score(made, MidlineDrill().ideal(made)).share, 1.0)
        # The other eye on the right of it: "out" points the other way.
        turned = task({"at": other.tolist(), "other": true.tolist(), "tilt": 30.0, "radius": 12.0})
        self.assertIn("too far out", MidlineDrill().score(turned, (tuple(other - 6 * along),)).why)

    def test_the_lights_of_an_eye(self):
        places = [[100.0, 80.0], [104.0, 84.0], [110.0, 100.0]]
        made = task({"places": places, "hour": 3.0, "radius": 20.0, "at": [100.0, 100.0]})
        drill = GlintDrill()
        exact = drill.score(made, drill.ideal(made))
        self.assertEqual((exact.share, exact.seen[0].error, exact.seen[0].right), (1.0, 0.0, True))
        self.assertIn("Yours stands at 3.0 h, the light mirrors at 3.0 h.", exact.why)
        off = drill.score(made, ((100.0, 80.0), (104.0, 84.0), (100.0, 106.0)))
        away = float(np.hypot(10, 6)) / 2
        self.assertAlmostEqual(off.seen[0].error, away / 3)
        self.assertAlmostEqual(off.share, 1 - away / 3 / 10)
        self.assertIn("Catchlight is farthest off", off.why)
        self.assertIn("Yours stands at 6.0 h", off.why)
        # What was not set counts as far as the eye is wide, 20 mm.
        short = drill.score(made, ((100.0, 80.0),))
        self.assertAlmostEqual(short.seen[0].error, 40 / 3)
        self.assertNotIn("Yours stands", short.why)
        self.assertEqual([one.tone for one in short.marks], ["true"] * 3 + ["you"])


class Chosen(unittest.TestCase):
    def test_four_spots_of_which_one_stands_out_by_what_was_asked(self):
        made, found = scene(), 0
        for seed in range(12):
            rng = np.random.default_rng(seed)
            four = quartet(made, rng, lambda s: s.lab[0], 8.0, most=30.0)
            if four is None:
                continue
            found += 1
            chosen, right, gap = four
            light = [one.lab[0] for one in chosen]
            self.assertEqual((len(chosen), int(np.argmax(light))), (4, right))
            self.assertAlmostEqual(gap, max(light) - sorted(light)[-2])
            self.assertLessEqual(abs(gap - 8.0), NEAR * 8.0)
            self.assertLess(max(light) - min(light), 30.0)
            second = chosen[int(np.argsort(light)[-2])]
            self.assertGreaterEqual(gap, SURE * float(np.hypot(chosen[right].unsure, second.unsure)))
            for k, one in enumerate(chosen):
                for other in chosen[:k]:
                    self.assertGreater(apart(one.at, other.at), OFF * one.radius)
        self.assertGreater(found, 6)
        self.assertIsNone(quartet(made, np.random.default_rng(1), lambda s: s.lab[0], 400.0))

    def test_blacks_are_mixed_of_blue_and_brown_and_judged_in_white(self):
        rack = scene().rack
        known = some_blacks(rack, np.random.default_rng(2))
        self.assertGreater(len(known), 10)
        for one in known:
            own = rack.parts(one.parts)
            tint = rack.lab(own / own.sum() + rack.parts({"PW6": 8.0}))
            np.testing.assert_allclose(one.tint, tint, atol=0.01)
            self.assertLess(float(np.hypot(tint[1], tint[2])), 16)
            np.testing.assert_allclose(one.lab, rack.lab(own), atol=0.01)


if __name__ == "__main__":
    unittest.main()
