"""What stands against a plan that was taken."""

import unittest

from foxpath.core.days.check import read_back
from foxpath.core.days.tasks import Relation
from tests.core.days.test_schedule import task
from tests.core.days.test_search import DAY, problem

MONDAY = 1155


class ReadBack(unittest.TestCase):
    def setUp(self):
        self.tasks = [task("a", 30), task("b", 40), task("c", 20)]
        self.relations = [
            Relation("a", "b", "touch_dry", 24.0),
            Relation("b", "c", "while_open", 0.0, 2.0, 10),
        ]
        self.good = {
            0: ((MONDAY, MONDAY + 30),),
            1: ((MONDAY + 2 * DAY, MONDAY + 2 * DAY + 40),),
            2: ((MONDAY + 2 * DAY + 40, MONDAY + 2 * DAY + 60),),
        }

    def kinds(self, pieces=None, **given):
        one, _ = problem(self.tasks, self.relations, **given)
        return [(found.kind, found.task) for found in read_back(one, {**self.good, **(pieces or {})})[1]]

    def test_a_plan_that_holds(self):
        one, _ = problem(self.tasks, self.relations)
        plan, against = read_back(one, self.good)
        self.assertEqual(against, ())
        self.assertEqual((plan.used, plan.lost), (2, frozenset()))

    def test_each_thing_that_can_stand_against_it(self):
        self.assertEqual(self.kinds({0: ()}), [("missing", 0)])
        self.assertEqual(self.kinds({0: ((MONDAY, MONDAY + 29),)}), [("missing", 0)])
        self.assertEqual(self.kinds(start=MONDAY + 1), [("missed", 0)])
        self.assertEqual(self.kinds(start=MONDAY), [])
        early = {1: ((MONDAY + 30, MONDAY + 70),), 2: ((MONDAY + 70, MONDAY + 90),)}
        self.assertEqual(self.kinds(early), [("early", 1)])
        # Tuesday is not free.
        self.assertEqual(self.kinds({0: ((MONDAY + DAY, MONDAY + DAY + 30),)}), [("early", 1), ("outside", 0)])
        self.assertEqual(self.kinds({0: ((MONDAY - 30, MONDAY),)}), [("outside", 0)])
        self.assertEqual(self.kinds(within={2: ((0, 100),)}), [("held", 2)])
        both = {1: ((MONDAY + 2 * DAY, MONDAY + 2 * DAY + 40),), 2: ((MONDAY + 2 * DAY + 30, MONDAY + 2 * DAY + 50),)}
        self.assertIn(("overlap", 2), self.kinds(both))

    def test_exactly_dry_is_dry_enough(self):
        self.relations[0] = Relation("a", "b", "touch_dry", 47.5)
        self.assertEqual(self.kinds(), [])
        self.relations[0] = Relation("a", "b", "touch_dry", 47.6)
        self.assertEqual(self.kinds(), [("early", 1)])

    def test_a_window_that_is_lost_asks_for_its_minutes(self):
        late = {2: ((MONDAY + 5 * DAY, MONDAY + 5 * DAY + 20),)}
        self.assertEqual(self.kinds({2: ((5 * DAY + 615, 5 * DAY + 635),)}), [("missing", 2)])
        one, _ = problem(self.tasks, self.relations)
        plan, against = read_back(one, {**self.good, 2: ((5 * DAY + 615, 5 * DAY + 645),)})
        self.assertEqual((plan.lost, against), (frozenset({1}), ()))
        self.assertTrue(late)

    def test_what_is_done_is_not_asked_again(self):
        one, _ = problem(self.tasks, self.relations, start=2 * DAY, done={0: ((MONDAY, MONDAY + 30),)})
        plan, against = read_back(one, self.good)
        self.assertEqual(against, ())
        self.assertEqual(plan.used, 1)


if __name__ == "__main__":
    unittest.main()
