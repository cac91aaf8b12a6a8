"""What binds a plan and what it costs, reckoned on work small enough to do it by hand."""

import math
import unittest

from foxpath.core.days.problem import (
    HANDED,
    PER_BROKEN,
    PER_LATE,
    PER_LOST,
    PER_MOVED,
    PER_SITTING,
    Plan,
    Problem,
)
from foxpath.core.days.tasks import Relation, Task

SITTINGS = ((0, 100), (1000, 1100), (2000, 2100))


def task(key, minutes, kind="paint", painting="fox"):
    return Task(key, painting, key, "Pass", kind, minutes)


TASKS = (task("a", 30), task("b", 40), task("c", 50), task("v", 20, "varnish"), task("j", 25, painting="jay"))
RELATIONS = (
    Relation("a", "b", "touch_dry", 2.01),
    Relation("a", "c", "while_open", 0.0, 1.99),
    Relation("b", "c", "after", 1.0),
    Relation("c", "v", "rest", 24.0),
)
PLAN = Plan(
    (((0, 30),), ((1000, 1020), (1030, 1050)), ((1050, 1100),), ((2000, 2020),), ((40, 65),)), frozenset({1}), 3
)


def problem(**given):
    return Problem(TASKS, RELATIONS, SITTINGS, **given)


class Bound(unittest.TestCase):
    def test_lags_are_whole_minutes_on_the_safe_side(self):
        made = problem()
        # At least: rounded up. At most: rounded down.
        self.assertEqual(made.low, [121, 0, 60, 1440])
        self.assertEqual(made.high, [math.inf, 119, math.inf, math.inf])

    def test_each_knows_what_leads_to_it_and_what_follows(self):
        made = problem()
        self.assertEqual(made.into, [[], [(0, 0)], [(0, 1), (1, 2)], [(2, 3)], []])
        self.assertEqual(made.out, [[(1, 0), (2, 1)], [(2, 2)], [(3, 3)], [], []])
        place = {k: n for n, k in enumerate(made.order)}
        self.assertTrue(place[0] < place[1] < place[2] < place[3])

    def test_the_longest_way_to_the_end_counts_work_and_waiting(self):
        self.assertEqual(
            problem().tails, (30 + 121 + 40 + 60 + 50 + 1440 + 20, 40 + 60 + 50 + 1440 + 20, 50 + 1440 + 20, 20, 25)
        )

    def test_what_leads_to_a_task_in_a_fixed_place_is_pressing(self):
        self.assertEqual(problem(within={2: ((1000, 1100),)}).pressing, {0, 1, 2})
        # With two places to choose from nothing presses.
        self.assertEqual(problem(within={2: ((1000, 1100), (2000, 2100))}).pressing, frozenset())

    def test_the_sitting_of_a_minute(self):
        made = problem()
        self.assertEqual([made.sitting_of(at) for at in (0, 99, 1000)], [(0, 100), (0, 100), (1000, 1100)])
        self.assertEqual([made.sitting_of(at) for at in (100, 999, 2100)], [None, None, None])


class Costs(unittest.TestCase):
    def test_a_plan_is_complete_when_each_found_room(self):
        self.assertTrue(PLAN.complete)
        short = Plan((*PLAN.pieces[:4], ()), PLAN.lost, 3)
        self.assertFalse(short.complete)
        self.assertEqual((short.end(4), short.end(1)), (math.inf, 1050))

    def test_the_finish_is_the_last_stroke_of_each_painting_and_no_varnish(self):
        self.assertEqual(problem().finishes(PLAN), {"fox": 1100, "jay": 65})
        self.assertEqual(problem().finish(PLAN), 1165)

    def test_a_plain_plan_costs_its_finish_its_sittings_and_lost_windows(self):
        self.assertAlmostEqual(problem().cost(PLAN), 1165 + HANDED * 2020 + 3 * PER_SITTING + PER_LOST)

    def test_each_that_moves_breaks_or_is_late_costs_by_itself(self):
        base = problem().cost(PLAN)
        was = {0: (0, 100), 1: (0, 100), 2: (1000, 1100)}
        self.assertEqual(problem(was=was).moved(PLAN), (1,))
        self.assertAlmostEqual(problem(was=was).cost(PLAN) - base, PER_MOVED)
        within = {0: ((0, 100),), 1: ((1000, 1040), (2000, 2100)), 4: ((200, 300),)}
        # The second half of b lies outside, and all of j.
        self.assertEqual(problem(within=within).broken(PLAN), (1, 4))
        self.assertAlmostEqual(problem(within=within).cost(PLAN) - base, 2 * PER_BROKEN)
        due = {2: 1090, 3: 2020, 4: 60}
        self.assertEqual(problem(due=due).late(PLAN), 15)
        self.assertAlmostEqual(problem(due=due).cost(PLAN) - base, 15 * PER_LATE)

    def test_what_is_done_neither_moves_nor_breaks(self):
        done = {1: ((1000, 1050),)}
        self.assertEqual(problem(done=done, was={1: (0, 100)}).moved(PLAN), ())
        self.assertEqual(problem(done=done, within={1: ((0, 100),)}).broken(PLAN), ())

    def test_without_room_it_is_moved_broken_and_late_without_end(self):
        short = Plan((*PLAN.pieces[:4], ()), frozenset(), 3)
        made = problem(was={4: (0, 100)}, within={4: ((0, 100),)}, due={4: 500})
        self.assertEqual((made.moved(short), made.broken(short), made.late(short)), ((4,), (4,), math.inf))
        self.assertEqual(made.cost(short), math.inf)


if __name__ == "__main__":
    unittest.main()
