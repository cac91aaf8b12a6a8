"""Better plans: by priorities, by the solver, near the plan before; all held against code that knows nothing of how they were made."""

import time
import unittest
from dataclasses import replace
from datetime import datetime
from importlib import import_module
from unittest import mock

from foxpath.core.days import exact
from foxpath.core.days.calendar import Rule, Week, free_time, sittings
from foxpath.core.days.diary import Diary, diary_fields
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
from foxpath.core.days.schedule import Hand, dispatch
from foxpath.core.days.search import at_once, better, hand_of, moved_by, replan, search
from foxpath.core.days.tasks import Relation, Task
from foxpath.core.reporting import Cancelled
from tests.core.days.checker import faults
from tests.core.days.test_schedule import START, WEEK, random_work, task

DAY = 1440
import_module("ortools.sat.python.cp_model")


def problem(tasks, relations, week=WEEK, days=120, **given):
    free, rule = free_time(week, START, days), Rule()
    return Problem(tasks, relations, sittings(free, START, rule), rule.chunk, **given), free


def wrong(one, free, plan):
    return faults(diary_fields(Diary(one, plan, START, free, Rule(), {})))


class Solver(unittest.TestCase):
    def test_it_betters_what_it_is_given_and_breaks_no_rule(self):
        for seed in (1, 4, 9):
            with self.subTest(seed=seed):
                one, free = problem(*random_work(seed, 25))
                first = dispatch(one, Hand(one.tails))
                shown = []
                found = exact.improve(one, first, 1.5, shown=lambda plan, keep=shown: keep.append(plan))
                self.assertIsNotNone(found)
                self.assertLessEqual(one.cost(found), one.cost(first))
                self.assertEqual(wrong(one, free, found), [])
                costs = [one.cost(plan) for plan in shown]
                self.assertEqual(costs, sorted(costs, reverse=True))
                self.assertTrue(all(cost < one.cost(first) for cost in costs))
                self.assertEqual([wrong(one, free, plan) for plan in shown], [[] for _ in shown])

    def test_two_evenings_are_made_one(self):
        """The list schedule opens a sitting for each of two short tasks that could share one; the solver does not."""
        tasks = [task("a", 30), task("b", 30)]
        one, free = problem(tasks, [])
        apart = Plan((((1155, 1185),), ((2 * DAY + 1155, 2 * DAY + 1185),)), frozenset(), 2)
        self.assertEqual(wrong(one, free, apart), [])
        found = exact.improve(one, apart, 2.0)
        self.assertEqual(found.used, 1)
        self.assertEqual(wrong(one, free, found), [])

    def test_a_window_is_won_back_with_its_minutes(self):
        tasks, relations = [task("a", 80), task("b", 60)], [Relation("a", "b", "while_open", 0.0, 3.0, 10)]
        one, free = problem(tasks, relations)
        hasty = dispatch(one, Hand(one.tails, hold=0))
        self.assertEqual(hasty.lost, frozenset({0}))
        found = exact.improve(one, hasty, 2.0)
        self.assertEqual(found.lost, frozenset())
        self.assertEqual(sum(b - a for a, b in found.pieces[1]), 60)
        self.assertEqual(wrong(one, free, found), [])

    def test_it_may_move_only_so_far_and_only_within_what_is_held(self):
        tasks = [task(f"t{k}", 100) for k in range(6)]
        one, free = problem(tasks, [])
        first = dispatch(one, Hand(one.tails))
        saturday = (5 * DAY + 600, 5 * DAY + 1020)
        held = replace(one, within={0: (saturday,)})
        begin = exact.improve(held, first, 2.0).pieces[0][0][0]
        self.assertTrue(saturday[0] <= begin < saturday[1])
        near = exact.improve(one, first, 1.0, near=1)
        where = [next(k for k, s in enumerate(one.sittings) if s[0] <= p[0][0] < s[1]) for p in near.pieces]
        was = [next(k for k, s in enumerate(one.sittings) if s[0] <= p[0][0] < s[1]) for p in first.pieces]
        self.assertTrue(all(abs(a - b) <= 1 for a, b in zip(where, was, strict=True)))
        self.assertEqual(wrong(one, free, near), [])

    def test_given_up_it_stops_at_once(self):
        one, _ = problem(*random_work(3, 60), days=300)
        first = dispatch(one, Hand(one.tails))

        def stop(share):
            if share > 0.01:
                raise Cancelled

        begin = time.monotonic()
        with self.assertRaises(Cancelled):
            exact.improve(one, first, 30.0, at=stop)
        self.assertLess(time.monotonic() - begin, 10)

    def test_what_is_done_is_left_where_it_was(self):
        tasks, relations = random_work(2, 12)
        one, _ = problem(tasks, relations, start=7 * DAY, done={0: ((1155, 1200),), 1: ((1200, 1230),)})
        first = at_once(one)[0]
        found = exact.improve(one, first, 1.0)
        self.assertEqual((found.pieces[0], found.pieces[1]), (((1155, 1200),), ((1200, 1230),)))
        self.assertTrue(all(p[0][0] >= 7 * DAY for p in found.pieces[2:]))


class Cost(unittest.TestCase):
    def test_every_term(self):
        tasks = [task("a", 30), task("b", 30), task("v", 30, "varnish"), task("h", 30, "hand-over")]
        relations = [Relation("a", "b", "while_open", 0.0, 1.0, 10)]
        one, _ = problem(
            tasks, relations, due={3: 2000}, was={0: (1155, 1275), 1: (1155, 1275)}, within={1: ((0, 100),)}
        )
        pieces = (((1155, 1185),), ((4035, 4075),), ((4075, 4105),), ((4105, 4135),))
        plan = Plan(pieces, frozenset({0}), 2)
        usual = 4075 + HANDED * (4105 + 4135) + 2 * PER_SITTING + PER_LOST
        self.assertAlmostEqual(one.cost(plan), usual + PER_MOVED + PER_BROKEN + PER_LATE * 2135)
        self.assertEqual((one.moved(plan), one.broken(plan), one.late(plan)), ((1,), (1,), 2135))
        self.assertEqual(one.finishes(plan), {"fox": 4075})
        self.assertEqual(one.sitting_of(1155), (1155, 1275))
        self.assertEqual((one.sitting_of(1154), one.sitting_of(1275)), (None, None))

    def test_what_is_done_can_neither_move_nor_break(self):
        one, _ = problem([task("a", 30)], [], done={0: ((1155, 1185),)}, was={0: (9000, 9100)}, within={0: ((0, 10),)})
        plan = dispatch(one, Hand(one.tails))
        self.assertEqual((one.moved(plan), one.broken(plan), plan.used), ((), (), 0))


class Within(unittest.TestCase):
    def test_the_list_schedule_waits_for_the_stretch_and_goes_first_in_it(self):
        tasks = [task("a", 60), task("long", 100), task("c", 40)]
        saturday = (5 * DAY, 6 * DAY)
        one, free = problem(tasks, [], within={2: (saturday,)})
        plan = dispatch(one, Hand((5.0, 9.0, 1.0)))
        self.assertTrue(saturday[0] <= plan.pieces[2][0][0] < saturday[1])
        self.assertEqual(one.broken(plan), ())
        self.assertEqual(wrong(one, free, plan), [])

    def test_what_comes_before_it_hurries(self):
        """b is held on Saturday and waits 60 h for a: a goes first on Monday, though long has the longer tail."""
        tasks = [task("long", 110), task("a", 100), task("b", 30)]
        relations = [Relation("a", "b", "touch_dry", 100.0)]
        one, _ = problem(tasks, relations, within={2: ((5 * DAY, 6 * DAY),)})
        self.assertEqual(one.pressing, frozenset({1, 2}))
        plan = at_once(one)[0]
        self.assertEqual(one.broken(plan), ())

    def test_one_of_several_stretches_will_do(self):
        wednesday, saturday = (2 * DAY, 3 * DAY), (5 * DAY, 6 * DAY)
        one, _ = problem([task("v", 30, "varnish")], [], within={0: (wednesday, saturday)})
        plan = dispatch(one, Hand(one.tails))
        self.assertTrue(wednesday[0] <= plan.pieces[0][0][0] < wednesday[1])
        self.assertEqual(one.pressing, frozenset())

    def test_a_stretch_that_is_over_is_broken_and_said(self):
        one, _ = problem([task("a", 30)], [], within={0: ((0, 60),)})
        plan = at_once(one)[0]
        self.assertTrue(plan.complete)
        self.assertEqual(one.broken(plan), (0,))


class Search(unittest.TestCase):
    def test_with_and_without_the_solver(self):
        one, free = problem(*random_work(7, 30), days=250)
        first = at_once(one)
        shares = []
        found = search(one, first, 3.0, at=shares.append)
        self.assertTrue(found.solved)
        self.assertLessEqual(one.cost(found.plan), one.cost(first[0]))
        self.assertEqual(wrong(one, free, found.plan), [])
        self.assertEqual(shares, sorted(shares))
        self.assertTrue(0 <= shares[0] <= shares[-1] <= 1)
        with mock.patch.object(exact, "installed", return_value=False):
            alone = search(one, first, 0.5)
        self.assertFalse(alone.solved)
        self.assertLessEqual(one.cost(alone.plan), one.cost(first[0]))
        self.assertFalse(search(one, first, 0.3, solver=False).solved)

    def test_the_hand_of_a_plan_lays_it_again_in_its_order(self):
        one, _ = problem(*random_work(11, 20))
        plan = at_once(one)[0]
        begins = {i: pieces[0][0] for i, pieces in enumerate(plan.pieces)}
        keys = hand_of(one, begins).keys
        order = sorted(begins, key=begins.get)
        self.assertEqual(sorted(begins, key=lambda i: -keys[i]), order)
        # What is new has its tail, and comes after all that had a place.
        some = hand_of(one, {i: begins[i] for i in order[:10]}).keys
        self.assertLess(max(some[i] for i in order[10:]), min(some[i] for i in order[:10]))

    def test_a_plan_without_room_is_left_as_it_is(self):
        one, _ = problem([task("a", 5000)], [], days=10)
        first = at_once(one)
        self.assertFalse(first[0].complete)
        self.assertFalse(search(one, first, 0.2).solved)

    def test_better_is_told_how_far_it_is(self):
        one, _ = problem(*random_work(1, 10))
        shares = []
        better(one, at_once(one, 6), 0.1, at=shares.append)
        self.assertTrue(shares and max(shares) < 1)


class Replan(unittest.TestCase):
    def test_a_small_change_moves_little(self):
        # Two of fifty minutes to an evening of two hours: ten more still fit.
        tasks = [task(f"t{k:02d}", 50) for k in range(24)]
        relations = [Relation(f"t{k:02d}", f"t{k + 2:02d}", "touch_dry", 30.0) for k in range(22)]
        one, free = problem(tasks, relations, days=250)
        plan = search(one, at_once(one), 0.6).plan
        begins = {i: pieces[0][0] for i, pieces in enumerate(plan.pieces)}
        was = {i: one.sitting_of(begin) for i, begin in begins.items()}
        # One task in the middle takes ten minutes more.
        middle = sorted(begins, key=begins.get)[15]
        longer = [replace(t, minutes=t.minutes + 10) if k == middle else t for k, t in enumerate(tasks)]
        changed = replace(one, tasks=longer, was=was)
        found = replan(changed, begins, 0.6)
        self.assertEqual(wrong(changed, free, found.plan), [])
        self.assertEqual(len(changed.moved(found.plan)), 0)
        # An evening less, and what lay in it goes elsewhere: little else does.
        gone = was[middle]
        less = replace(one, sittings=[s for s in one.sittings if s != gone], was=was)
        fewer = replan(less, begins, 0.6)
        self.assertEqual(wrong(less, free, fewer.plan), [])
        self.assertTrue(1 <= len(less.moved(fewer.plan)) < 24)
        self.assertNotIn(gone, [less.sitting_of(pieces[0][0]) for pieces in fewer.plan.pieces])
        count, days = moved_by({i: pieces[0] for i, pieces in enumerate(plan.pieces)}, changed, found.plan)
        self.assertEqual(count, len(changed.moved(found.plan)))
        self.assertIsInstance(days, int)

    def test_by_how_many_days(self):
        one, _ = problem([task("a", 30), task("b", 30)], [], was={0: (1155, 1275), 1: (1155, 1275)})
        later = Plan((((1155 + 5 * DAY, 1185 + 5 * DAY),), ((1155 + 7 * DAY, 1185 + 7 * DAY),)), frozenset(), 2)
        before = {0: (1155, 1185), 1: (1155, 1185)}
        self.assertEqual(moved_by(before, one, later), (2, 7))
        same = Plan((((1155, 1185),), ((1185, 1215),)), frozenset(), 1)
        self.assertEqual(moved_by(before, one, same), (0, 0))


class Large(unittest.TestCase):
    def test_forty_areas_by_eleven_passes(self):
        """Grouped as the planner groups them; every rule is kept, and the plan is there at once."""
        tasks, relations = [], []
        for p in range(11):
            for a in range(40):
                tasks.append(Task(f"{p}.{a}", "p", f"area {a}", f"pass {p}", "paint", 16))
                if p:
                    relations.append(Relation(f"{p - 1}.{a}", f"{p}.{a}", "touch_dry", 40.0))
                if a:
                    relations.append(Relation(f"{p}.{a - 1}", f"{p}.{a}", "after"))
        week = Week(dict.fromkeys(("mon", "tue", "wed", "thu", "fri", "sat"), (("10:00", "14:00"), ("18:00", "21:00"))))
        one, free = problem(tasks, relations, week, 400)
        plan, hand = at_once(one, 6)
        self.assertTrue(plan.complete)
        self.assertEqual(wrong(one, free, plan), [])
        self.assertEqual(len(hand.keys), 440)

    def test_three_paintings_share_the_evenings(self):
        tasks, relations = [], []
        for name in ("fox", "jay", "cavy"):
            mine, between = random_work(ord(name[0]), 14)
            tasks += [Task(f"{name}:{t.id}", name, t.part, t.act, t.kind, t.minutes) for t in mine]
            relations += [replace(r, before=f"{name}:{r.before}", after=f"{name}:{r.after}") for r in between]
        one, free = problem(tasks, relations, days=300)
        plan = search(one, at_once(one), 1.0).plan
        self.assertEqual(wrong(one, free, plan), [])
        self.assertEqual(set(one.finishes(plan)), {"fox", "jay", "cavy"})
        self.assertAlmostEqual(one.finish(plan), sum(one.finishes(plan).values()))


class Clock(unittest.TestCase):
    def test_past_midnight_a_leap_day_and_the_night_the_clock_changes(self):
        """Local times: an evening past midnight is one sitting, the 29th of February is a day, the short night changes nothing."""
        for start, last in ((datetime(2028, 2, 28), "2028-02-29"), (datetime(2026, 3, 28), "2026-03-29")):
            week = Week(dict.fromkeys(("mon", "tue", "sat", "sun"), (("22:00", "01:00"),)))
            free, rule = free_time(week, start, 10), Rule()
            one = Problem([task("a", 150), task("b", 100)], [], sittings(free, start, rule), rule.chunk)
            plan = at_once(one)[0]
            record = diary_fields(Diary(one, plan, start, free, rule, {}))
            self.assertEqual(faults(record), [])
            night = next(one for one in record["sittings"] if one[0][:10] != one[1][:10])
            self.assertEqual(night, [f"{start:%Y-%m-%d}T22:00", f"{last}T01:00"])


if __name__ == "__main__":
    unittest.main()
