"""What all drills have in common: their answers are computed, sure, unlike one another, and not to be guessed."""

import json
import unittest
from functools import cache

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.practice.drill import made, scored
from foxpath.core.practice.drills import DRILLS, drill_called
from foxpath.core.practice.task import Dial, Pick, Sort, Spots, Strokes, Way
from foxpath.derive.handout.practice import answer_record, task_record
from tests.drilled import scene

SLOW = {"big": 1, "critique": 2}
"""So many tasks where one takes long."""


@cache
def task_of(drill, seed):
    """A task once for all tests that only look at it."""
    return made(drill, scene(), seed)


def tasks(drill, count):
    return [task_of(drill, seed) for seed in range(min(count, SLOW.get(drill.key, count)))]


class EveryDrill(unittest.TestCase):
    def test_whoever_knows_the_answer_scores_full_marks(self):
        for drill in DRILLS:
            with self.subTest(drill.key):
                for task in tasks(drill, 6):
                    score = scored(drill, task, drill.ideal(task))
                    self.assertGreater(score.share, 0.999)
                    self.assertTrue(all(one.right for one in score.seen))
                    self.assertTrue(score.words)
                    self.assertTrue(score.why.endswith("."), score.why)

    def test_whoever_guesses_scores_chance(self):
        for drill in DRILLS:
            if drill.key in SLOW:
                continue
            with self.subTest(drill.key):
                rng = np.random.default_rng(1)
                right, chance = [], []
                for task in tasks(drill, 8):
                    for _ in range(25):
                        score = scored(drill, task, task.ask.chance(rng))
                        right += [one.right for one in score.seen]
                        chance += [1 / one.choices for one in score.seen if one.choices]
                if chance:
                    sigma = np.sqrt(np.mean(chance) * (1 - np.mean(chance)) / len(right))
                    self.assertLess(abs(np.mean(right) - np.mean(chance)), 4 * sigma)
                else:
                    self.assertLess(np.mean(right), 0.3)

    def test_the_order_of_choices_says_nothing(self):
        for drill in DRILLS:
            first = task_of(drill, 0)
            if not isinstance(first.ask, Pick) or drill.key == "edge":
                continue
            with self.subTest(drill.key):
                every, places = set(range(len(first.ask.options))), set()
                # A place that none of so many seeds finds is one that none ever will.
                for seed in range(24 if len(every) < 5 else 60):
                    places.add(int(task_of(drill, seed).truth[_key(drill)]))
                    if places == every:
                        break
                self.assertEqual(places, every)

    def test_a_seed_is_a_task_and_another_seed_another(self):
        for drill in DRILLS:
            with self.subTest(drill.key):
                one, again, other = task_of(drill, 0), made(drill, scene(), 0), task_of(drill, 1)
                self.assertEqual(json.dumps(answer(drill, one)), json.dumps(answer(drill, again)))
                np.testing.assert_array_equal(one.picture, again.picture)
                self.assertNotEqual(json.dumps(answer(drill, one)), json.dumps(answer(drill, other)))
                self.assertEqual((one.drill, one.seed), (drill.key, 0))

    def test_the_task_that_is_written_does_not_tell_its_answer(self):
        for drill in DRILLS:
            with self.subTest(drill.key):
                task = task_of(drill, 0)
                said = task_record(task, drill, "a picture")
                self.assertNotIn("truth", said)
                self.assertNotIn("size", said)
                if isinstance(task.ask, Spots):
                    told = json.dumps(said["shown"]) + json.dumps(said["ask"])
                    for x, y in task.truth["places"] if "places" in task.truth else [task.truth["at"]]:
                        self.assertNotIn(f"[{round(x, 4)}, {round(y, 4)}]", told)

    def test_what_was_asked_for_is_about_as_large_as_it_is(self):
        for drill in DRILLS:
            if drill.way != "seen" or drill.key in ("edge", "lose"):
                continue
            with self.subTest(drill.key):
                low, high = (np.exp(np.interp(q, (0, 1), np.log(drill.range))) for q in (0.35, 0.6))
                sizes = [
                    np.median([made(drill, scene(0.8), seed, size).size for seed in range(3)]) for size in (low, high)
                ]
                self.assertLess(sizes[0], sizes[1])
                self.assertLess(abs(np.log(sizes[0] / low)), 0.7)

    def test_answers_that_are_none_are_refused(self):
        wrong = {
            Way: ("up", None, True, [1, 2]), Pick: (-1, 99, 0.5, "A"), Spots: ([[1, 2]] * 99, [["a", 1]], [[float("nan"), 1]]),
            Dial: ("light", [3]), Sort: ([0], "dark", [9] * 6), Strokes: ([[[1, "a"]]], 7, [[[0, 0]]] * 99),
        }  # fmt: skip
        for drill in DRILLS:
            task = task_of(drill, 0)
            for answer_ in wrong[type(task.ask)]:
                with self.subTest(f"{drill.key} {answer_}"), self.assertRaises(InputError):
                    scored(drill, task, answer_)

    def test_a_drill_that_is_none_is_named_with_those_there_are(self):
        with self.assertRaises(InputError) as caught:
            drill_called("nix")
        self.assertIn("growth", caught.exception.hint)

    def test_names_and_numbers_are_fit_for_the_bench(self):
        self.assertEqual(len({drill.key for drill in DRILLS}), len(DRILLS))
        self.assertEqual(len({drill.title for drill in DRILLS}), len(DRILLS))
        for drill in DRILLS:
            self.assertTrue(2 <= drill.minutes <= 8, drill.key)
            self.assertLess(drill.range[0], drill.usual)
            self.assertLess(drill.usual, drill.range[1])


class Unsure(unittest.TestCase):
    def test_what_is_not_known_is_not_asked(self):
        from dataclasses import replace

        whole = scene()
        growth = whole.growth
        cases = {
            "growth": replace(whole, growth=None),
            "over": replace(whole, growth=replace(growth, sure=growth.sure * 0.8)),
            "edge": replace(whole, edges=tuple(replace(e, told=0.4) for e in whole.edges)),
            "eye": replace(whole, eyes=()),
            "midline": replace(whole, eyes=whole.eyes[:1]),
            "glint": replace(whole, eyes=tuple(replace(e, light=None) for e in whole.eyes)),
            "pile": replace(whole, rack=None),
            "critique": replace(whole, planned=None),
        }
        for key, bare in cases.items():
            with self.subTest(key), self.assertRaises(InputError) as caught:
                made(drill_called(key), bare, 1)
            self.assertTrue(caught.exception.hint)

    def test_growth_whose_root_nobody_named_is_not_asked(self):
        from dataclasses import replace

        whole = scene()
        guessed = replace(whole, growth=replace(whole.growth, rooted=np.zeros_like(whole.growth.rooted)))
        with self.assertRaises(InputError):
            made(drill_called("growth"), guessed, 1)

    def test_a_turning_place_is_not_asked_as_one_direction(self):
        from dataclasses import replace

        whole = scene()
        rng = np.random.default_rng(1)
        a = rng.uniform(-np.pi, np.pi, whole.growth.sure.shape)
        tossed = replace(whole.growth, direction=np.stack([np.cos(a), np.sin(a)], -1).astype(np.float32))
        with self.assertRaises(InputError):
            made(drill_called("growth"), replace(whole, growth=tossed), 1)


def answer(drill, task):
    return answer_record(task, drill, scored(drill, task, drill.ideal(task)))["truth"]


def _key(drill):
    return "over" if drill.key == "over" else "right"


if __name__ == "__main__":
    unittest.main()
