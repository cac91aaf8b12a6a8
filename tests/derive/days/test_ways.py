"""When a date cannot be kept: what collides, and ways out that really keep it."""

import unittest
from dataclasses import replace
from datetime import datetime, timedelta

from foxpath.core.reporting import SILENT, Cancelled, Progress
from foxpath.derive import Results
from foxpath.derive.days.plan import layout_of, plan_of
from foxpath.derive.days.ways import FindWays, conflict_words, earliest, wishes_of
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember

NOW = datetime(2026, 3, 2, 12)


class Ways(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results = Results()
        cls.plain = edits.set_days(project(), start="2026-03-02")
        cls.plan = plan_of(cls.results, [cls.plain], NOW)
        cls.done = cls.plan.diary.done("Blob")

    def ways(self, date):
        made = edits.set_days(self.plain, deadline=date.date().isoformat())
        planned = plan_of(self.results, [made], NOW)
        return made, planned, FindWays(self.results, made, planned, NOW)(SILENT)

    def test_every_way_out_keeps_the_date_when_it_is_taken(self):
        made, planned, found = self.ways(self.done - timedelta(days=12))
        self.assertGreater(planned.layout.problem.late(planned.plan), 0)
        tried = [way for way in found.ways if way.keys != ("later",)]
        self.assertGreater(len(tried), 2)
        for way in tried[:4]:
            other = plan_of(self.results, [replace(made, days=way.days)], NOW)
            self.assertLess(earliest(other.layout), max(other.layout.problem.due.values()))
            self.assertLess(way.done, made.days.ends())
            self.assertEqual(way.sooner, (found.done - way.done).days)
            self.assertTrue(way.cost)

    def test_no_way_out_gives_up_more_than_another_does(self):
        _, _, found = self.ways(self.done - timedelta(days=25))
        keys = [set(way.keys) for way in found.ways]
        for one in keys:
            self.assertFalse([other for other in keys if other < one])

    def test_giving_up_any_one_wish_that_collides_keeps_it(self):
        """The set is smallest: with one of them given up, beside all that do not collide, the date is kept."""
        made, _, found = self.ways(self.done - timedelta(days=12))
        self.assertTrue(found.collide[0].startswith("the date, "))
        wanted = {one.wanted: one for one in wishes_of(made)}
        self.assertTrue(set(found.collide[1:]) <= set(wanted))
        self.assertGreater(len(found.collide), 1)

    def test_a_hopeless_date_is_said_to_be_so_and_when_it_can_be(self):
        made, _, found = self.ways(NOW + timedelta(days=2))
        self.assertTrue(found.sure)
        self.assertEqual([way.keys for way in found.ways], [("later",)])
        self.assertEqual(found.ways[0].days.deadline, found.done.date().isoformat())
        words = conflict_words(made, found)
        self.assertIn("no way out that was tried", words)
        self.assertEqual(words.count("\n"), 0)

    def test_the_sentence_names_the_date_what_collides_and_the_cheapest_way(self):
        made, _, found = self.ways(self.done - timedelta(days=12))
        words = conflict_words(made, found)
        self.assertIn(made.days.deadline, words)
        self.assertIn("cannot all be kept", words)
        self.assertIn(f"the cheapest way out: {found.ways[0].words}", words)

    def test_it_can_be_given_up(self):
        made, planned, _ = self.ways(self.done - timedelta(days=12))
        with self.assertRaises(Cancelled):
            FindWays(self.results, made, planned, NOW)(Progress(cancelled=lambda: True))


class Bound(unittest.TestCase):
    def test_no_plan_is_earlier_than_its_longest_way(self):
        results, made = Results(), edits.set_days(project(), deadline="2026-12-01", start="2026-03-02")
        planned = plan_of(results, [made], NOW)
        least = earliest(planned.layout)
        self.assertLessEqual(least, max(planned.plan.end(k) for k in planned.layout.problem.due))
        # The rest alone is thirty days.
        self.assertGreater(least, 30 * 1440)

    def test_where_the_calendar_ends_there_is_none(self):
        made = edits.set_days(project(), deadline="2026-12-01", start="2026-03-02")
        self.assertEqual(earliest(layout_of(Results(), [made], NOW, horizon=10)), float("inf"))


class Wishes(unittest.TestCase):
    def test_only_what_was_wished_for_can_be_given_up(self):
        keys = {one.key for one in wishes_of(project())}
        self.assertTrue({"evening", "alkyd", "warm", "thin", "rest", "varnish", "acrylic", "likely"} <= keys)
        made = edits.set_days(project(), varnish=False, alkyd=0.3, celsius=26.0, careful="likely", film=0.5)
        left = {one.key for one in wishes_of(made)}
        self.assertFalse(left & {"varnish", "alkyd", "warm", "likely", "thin"})
        self.assertIn("drop glaze", {one.key for one in wishes_of(project(), [("glaze", "Glaze")])})

    def test_the_further_evening_is_a_day_without_free_time(self):
        one = next(wish for wish in wishes_of(project()) if wish.key == "evening")
        week = one.change(project().days).week
        self.assertEqual(week[4], (("19:00", "21:00"),))
        self.assertIn("Friday", one.way)

    def test_cheaper_ones_come_first(self):
        prices = [one.price for one in wishes_of(project(), [("glaze", "Glaze")])]
        self.assertEqual(prices, sorted(prices))


if __name__ == "__main__":
    unittest.main()
