"""Drills of what is seen: growth, what lies over what, values, colours, edges."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.practice.drill import made, scored
from foxpath.core.practice.drills import drill_called
from foxpath.core.practice.drills.edge import clear_of_bounds
from foxpath.core.practice.drills.three import three_bounds
from foxpath.core.practice.scene import about_head, spots_at
from foxpath.core.progress.small import lab_of
from tests.drilled import BORDER, PX, SOFT_MM, angle, scene


def some(key, count=6, size=0.0, **changes):
    drill = drill_called(key)
    return drill, [made(drill, scene(**changes), seed, size) for seed in range(count)]


class Growth(unittest.TestCase):
    def test_the_answer_is_the_growth_at_the_spot(self):
        _drill, tasks = some("growth", 10)
        for task in tasks:
            x, y = task.ask.at
            self.assertLess(abs(task.truth["degrees"] - float(angle(x, y))), 1.5)
            self.assertEqual(task.truth["part"], "Flank" if x < BORDER else "Neck")
            self.assertEqual(task.ring[:2], task.ask.at)

    def test_an_error_is_told_with_its_side(self):
        drill, (task,) = some("growth", 1)
        true = task.truth["degrees"]
        late, early = scored(drill, task, true + 13), scored(drill, task, true - 30)
        self.assertEqual(late.words, "13° off")
        self.assertIn("13° clockwise", late.why)
        self.assertIn("30° anticlockwise", early.why)
        self.assertAlmostEqual(late.seen[0].error, 13, 3)
        self.assertTrue(late.seen[0].right)
        self.assertFalse(early.seen[0].right)
        self.assertAlmostEqual(early.share, 1 - 30 / 90, 3)

    def test_a_hair_the_wrong_way_round_is_a_flip_and_not_a_small_error(self):
        drill, (task,) = some("growth", 1)
        score = scored(drill, task, task.truth["degrees"] + 175)
        self.assertEqual(score.words, "root and tip swapped")
        self.assertAlmostEqual(score.seen[0].error, 175, 3)
        across = scored(drill, task, task.truth["degrees"] + 100)
        self.assertEqual(across.words, "100° off")

    def test_the_ring_keeps_off_the_eyes(self):
        _, tasks = some("growth", 12)
        for task in tasks:
            x, y, radius = task.ring
            for eye in scene().eyes:
                self.assertGreaterEqual(
                    np.hypot(x - eye.x, y - eye.y) - 1.2 * eye.radius + 1e-6, min(radius, 8 * PX) - 1e-6
                )

    def test_every_third_task_lies_where_the_hair_turns(self):
        bent = scene().growth
        rows, columns = bent.sure.shape
        a = np.radians(
            np.where(np.arange(rows)[:, None] < rows // 2, 20.0, 20.0 + 2.4 * (np.arange(rows)[:, None] - rows // 2))
        ) + np.zeros((1, columns))
        growth = replace(bent, direction=np.stack([np.cos(a), np.sin(a)], -1).astype(np.float32))
        drill = drill_called("growth")
        low = [made(drill, replace(scene(), growth=growth), seed).ask.at[1] > 200 for seed in range(60)]
        # Half of the picture is straight: without looking for turns half of the tasks would lie there.
        self.assertGreater(np.mean(low), 0.53)


class Over(unittest.TestCase):
    def test_what_is_nearer_the_root_lies_over_what_it_grows_to(self):
        _, tasks = some("over", 12)
        for task in tasks:
            a, b = (np.array(p) for p in task.truth["places"])
            over, under = (a, b) if task.truth["over"] == 0 else (b, a)
            ray = np.radians(float(angle(*((a + b) / 2))))
            self.assertGreater(float((under - over) @ [np.cos(ray), np.sin(ray)]), 0)

    def test_parts_are_asked_only_where_the_front_one_s_hair_crosses_their_border(self):
        whole = scene()
        drill, back = drill_called("over"), whole.growth
        against = replace(back, direction=-back.direction)
        turned = tuple(replace(e, front=2, back=1) for e in whole.edges[:1])
        for name, other, side in (
            ("flank lies in front and points at the neck", whole, -1),
            ("its hair points away from the border", replace(whole, growth=against), 0),
            ("neck lies in front and points at the flank", replace(whole, growth=against, edges=turned), 1),
            ("neck lies in front, flank points at it", replace(whole, edges=turned), 0),
        ):
            tasks = [made(drill, other, seed) for seed in range(24)]
            hanging = [t.truth["places"][t.truth["over"]][0] for t in tasks if "hangs over" in t.truth["why"]]
            self.assertEqual(bool(hanging), side != 0, name)
            self.assertTrue(all((x > BORDER) == (side > 0) for x in hanging), name)


class Values(unittest.TestCase):
    def test_a_spot_is_matched_in_its_own_value(self):
        drill, tasks = some("match", 8)
        for task in tasks:
            x, y = task.truth["at"]
            self.assertLess(abs(task.truth["L"] - float(lab_of(task.picture)[int(y), int(x), 0])), 6)
        score = scored(drill, tasks[0], min(tasks[0].truth["L"] + 12, 100))
        self.assertIn("too light by 12", score.words)
        self.assertAlmostEqual(score.seen[0].error, 12, 3)
        self.assertIn("too dark by 9", scored(drill, tasks[0], tasks[0].truth["L"] - 9).words)

    def test_dark_and_light_spots_are_asked_for_alike(self):
        _, tasks = some("match", 40)
        values = [t.truth["L"] for t in tasks]
        self.assertLess(min(values), 35)
        self.assertGreater(max(values), 75)

    def test_the_lightest_of_four_stands_out_by_the_gap(self):
        for key in ("relation", "subtle"):
            _drill, tasks = some(key, 8)
            for task in tasks:
                spots = [one.lab[0] for one in spots_at(scene(), *np.array(task.ask.places, int).T, task.ask.radius)]
                order = np.argsort(spots)
                self.assertEqual(order[-1], task.truth["right"])
                self.assertAlmostEqual(spots[order[-1]] - spots[order[-2]], task.size, 4)
                if key == "subtle":
                    self.assertLess(max(spots) - min(spots), 8)
                    self.assertTrue(all(about_head(scene())[int(y), int(x)] for x, y in task.ask.places))

    def test_a_head_parts_where_its_values_do(self):
        values = np.concatenate([np.full(500, 20.0), np.full(300, 50.0), np.full(200, 85.0)])
        low, high = three_bounds(values + np.random.default_rng(1).normal(0, 2, 1000))
        self.assertTrue(26 < low < 46, low)
        self.assertTrue(54 < high < 80, high)

    def test_spots_are_sorted_by_the_bounds_and_none_lies_on_one(self):
        drill, tasks = some("three", 4)
        for task in tasks:
            low, high = task.truth["bounds"]
            for (x, y), group, off in zip(task.ask.places, task.truth["groups"], task.truth["offs"], strict=True):
                value = spots_at(scene(), np.array([int(x)]), np.array([int(y)]), task.ask.radius)[0].lab[0]
                self.assertEqual(group, int(value > low) + int(value > high))
                self.assertLess(abs(min(abs(value - low), abs(value - high)) - off), 0.15)
            wrong = tuple((g + 1) % 3 for g in task.truth["groups"])
            self.assertEqual(scored(drill, task, wrong).share, 0)
            one = list(task.truth["groups"])
            one[2] = (one[2] + 1) % 3
            score = scored(drill, task, one)
            self.assertAlmostEqual(score.share, 5 / 6)
            self.assertEqual([s.right for s in score.seen].count(False), 1)
            self.assertEqual(score.seen[2].size, task.truth["offs"][2])


class Colours(unittest.TestCase):
    def test_the_yellowest_is_and_each_spot_is_of_one_colour(self):
        _, tasks = some("colour", 10)
        words = set()
        for task in tasks:
            words.add(task.truth["word"])
            axis = 2 if task.truth["axis"] == "b*" else 1
            sense = 1 if task.truth["word"] in ("yellowest", "reddest") else -1
            lab = lab_of(task.picture)
            values = [sense * float(lab[round(y), round(x), axis]) for x, y in task.ask.places]
            self.assertEqual(int(np.argmax(values)), task.truth["right"])
            for x, y in task.ask.places:
                r = int(0.6 * task.ask.radius)
                patch = task.picture[round(y) - r : round(y) + r, round(x) - r : round(x) + r]
                self.assertEqual(int(np.ptp(patch.reshape(-1, 3), axis=0).max()), 0)
        self.assertGreater(len(words), 2)

    def test_three_patches_are_the_same_and_the_fourth_is_lighter(self):
        _, tasks = some("illusion", 6, 5.0)
        for task in tasks:
            lab = lab_of(task.picture)
            values = [lab[round(y), round(x)] for x, y in task.ask.places]
            true = task.truth["right"]
            rest = [v for k, v in enumerate(values) if k != true]
            np.testing.assert_array_equal(rest[0], rest[1])
            np.testing.assert_array_equal(rest[0], rest[2])
            self.assertLess(abs(float(values[true][0] - rest[0][0]) - 5.0), 0.5)
            self.assertGreater(max(task.truth["grounds"]) - min(task.truth["grounds"]), 12)

    def test_strength_is_sorted_by_chroma(self):
        _, tasks = some("strength", 4)
        for task in tasks:
            spots = [one.chroma for one in spots_at(scene(), *np.array(task.ask.places, int).T, task.ask.radius)]
            by_group = [[c for c, g in zip(spots, task.truth["groups"], strict=True) if g == k] for k in range(3)]
            present = [g for g in by_group if g]
            for lower, upper in zip(present, present[1:], strict=False):
                self.assertLess(max(lower), min(upper))


class Edges(unittest.TestCase):
    def test_a_border_is_graded_by_what_is_read_where_it_is_shown(self):
        drill, tasks = some("edge", 4)
        for task in tasks:
            self.assertEqual(task.ask.options[task.truth["right"]], "soft")
            self.assertLess(abs(task.truth["mm"] / SOFT_MM - 1), 0.3)
            self.assertTrue(all(abs(x - BORDER) < 2 for x, _ in task.truth["line"]))
            self.assertAlmostEqual(task.size, clear_of_bounds(task.truth["mm"]), 1)
        self.assertAlmostEqual(scored(drill, tasks[0], 0).share, 1 - 1 / 3)
        self.assertAlmostEqual(scored(drill, tasks[0], 3).share, 1 - 2 / 3)

    def test_how_far_a_width_lies_from_a_bound_is_a_factor(self):
        self.assertAlmostEqual(clear_of_bounds(6.0), 10 / 6)
        self.assertAlmostEqual(clear_of_bounds(4.0), 4 / 3)
        self.assertAlmostEqual(clear_of_bounds(0.4), 2)

    def test_the_edge_to_lose_is_the_softest_of_the_plan(self):
        _drill, tasks = some("lose", 8)
        for task in tasks:
            widths = task.truth["mm"]
            self.assertEqual(int(np.argmax(widths)), task.truth["right"])
            order = sorted(widths)
            self.assertAlmostEqual(order[-1] / order[-2], task.size, 3)


if __name__ == "__main__":
    unittest.main()
