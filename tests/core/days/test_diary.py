"""A plan by the clock: sittings with set-up and clean-up, what is over, what is handed over, days of rest, a calendar."""

import unittest
from dataclasses import replace
from datetime import datetime, timedelta

from foxpath.core.days.calendar import Rule
from foxpath.core.days.diary import Diary, diary_events, diary_fields
from foxpath.core.days.problem import Plan, Problem
from foxpath.core.days.tasks import Task

START = datetime(2026, 3, 2, 18, 0)
"""A Monday."""
RULE = replace(Rule(), setup=10, cleanup=15)
DAY = 24 * 60


def task(key, minutes, kind="paint", painting="fox", act="Top coat"):
    return Task(key, painting, key.title(), act, kind, minutes)


TASKS = (task("ear", 60), task("ruff", 50, act="Undercoat"), task("coat", 20, "varnish", act="Varnish"))
FREE = [
    (START, START + timedelta(hours=3)),
    (START + timedelta(days=2), START + timedelta(days=2, hours=3)),
    (START + timedelta(days=5), START + timedelta(days=5, hours=3)),
    (START + timedelta(days=9), START + timedelta(days=9, hours=3)),
]
SITTINGS = tuple((10 + day * DAY, 165 + day * DAY) for day in (0, 2, 5, 9))


def diary(*pieces, done=None, start=0, tasks=TASKS, stretches=SITTINGS):
    problem = Problem(tasks, (), stretches, start=start, done=done or {})
    return Diary(problem, Plan(pieces, frozenset(), 3), START, FREE, RULE, {})


PLANNED = (((10, 70),), ((80, 100), (2 * DAY + 10, 2 * DAY + 40)), ((5 * DAY + 10, 5 * DAY + 30),))


def at(days, hour, minute=0):
    return datetime(2026, 3, 2 + days, hour, minute)


class Clock(unittest.TestCase):
    def test_a_sitting_lasts_from_set_up_to_clean_up_and_holds_its_pieces(self):
        made = diary(*PLANNED)
        self.assertEqual(made.times(), [(at(0, 18), at(0, 21)), (at(2, 18), at(2, 21)), (at(5, 18), at(5, 21))])
        self.assertEqual([[k for _, _, k in pieces] for _, _, pieces in made.sittings()], [[0, 1], [1], [2]])

    def test_one_that_is_under_way_began_with_its_free_time(self):
        made = diary(((65, 95),), *PLANNED[1:], start=65, stretches=((65, 165), *SITTINGS[1:]))
        self.assertEqual(made.times()[0], (at(0, 18), at(0, 21)))

    def test_what_is_over_is_gathered_to_sittings(self):
        # The gap of 20 minutes is shorter than cleaning up and setting up: one sitting. The next day is another.
        done = {0: ((10, 70),), 1: ((90, 120), (2 * DAY + 10, 2 * DAY + 40))}
        made = diary(*PLANNED[:1], done[1], PLANNED[2], done=done)
        self.assertEqual(made.past(), [(at(0, 18), at(0, 20, 15)), (at(2, 18), at(2, 18, 55))])
        apart = diary(*PLANNED, done={0: ((10, 30),), 1: ((60, 100),)})
        self.assertEqual(apart.past(), [(at(0, 18), at(0, 18, 45)), (at(0, 18, 50), at(0, 19, 55))])

    def test_painted_is_before_varnish_and_handed_over_after_it(self):
        made = diary(*PLANNED)
        self.assertEqual((made.painted("fox"), made.done("fox")), (at(2, 18, 40), at(5, 18, 30)))
        open_end = diary(*PLANNED[:2], ())
        self.assertEqual((open_end.painted("fox"), open_end.done("fox")), (at(2, 18, 40), None))
        self.assertIsNone(diary((), *PLANNED[1:]).painted("fox"))


class Written(unittest.TestCase):
    def test_days_of_rest_are_those_without_free_time_up_to_the_last_sitting(self):
        fields = diary_fields(diary(*PLANNED))
        self.assertEqual(fields["rest_days"], ["2026-03-03", "2026-03-05", "2026-03-06"])
        # Free time after the last sitting is nobody's matter.
        self.assertEqual(len(fields["free"]), 3)
        late = (*PLANNED[:2], ((9 * DAY + 10, 9 * DAY + 30),))
        self.assertEqual(diary_fields(diary(*late))["rest_days"][-1], "2026-03-10")

    def test_a_last_day_that_is_no_longer_free_is_one_of_rest(self):
        made = diary(*PLANNED)
        self.assertIn("2026-03-07", diary_fields(replace(made, free=FREE[:2]))["rest_days"])

    def test_each_task_has_its_pieces_and_what_is_done_is_marked(self):
        done = {0: ((10, 70),)}
        tasks = diary_fields(diary(*PLANNED, done=done))["tasks"]
        self.assertEqual(
            tasks[1]["pieces"], [["2026-03-02T19:20", "2026-03-02T19:40"], ["2026-03-04T18:10", "2026-03-04T18:40"]]
        )
        self.assertEqual([one.get("done", False) for one in tasks], [True, False, False])

    def test_an_evening_of_which_a_part_is_over_is_one_sitting(self):
        made = diary(
            ((10, 40),), ((50, 100),), PLANNED[2], done={0: ((10, 40),)}, start=45, stretches=((45, 165), *SITTINGS[1:])
        )
        self.assertEqual(
            diary_fields(made)["sittings"],
            [["2026-03-02T18:00", "2026-03-02T21:00"], ["2026-03-07T18:00", "2026-03-07T21:00"]],
        )


class Calendar(unittest.TestCase):
    def test_entries_go_by_what_they_begin_with_and_say_when_what_is_painted(self):
        split = (
            ((10, 70),),
            ((2 * DAY + 10, 2 * DAY + 40), (5 * DAY + 40, 5 * DAY + 60)),
            ((9 * DAY + 10, 9 * DAY + 30),),
        )
        events = diary_events(diary(*split))
        self.assertEqual(
            [one.uid for one in events], ["ear-1@foxpath", "ruff-1@foxpath", "ruff-2@foxpath", "coat-1@foxpath"]
        )
        self.assertEqual(diary_events(diary(*PLANNED))[0].words, "18:10 Top coat: Ear\n19:20 Undercoat: Ruff")

    def test_its_title_names_three_acts_at_most_and_every_painting(self):
        many = tuple(task(f"t{k}", 10, act=f"Act {k}") for k in range(5))
        pieces = tuple(((10 + 10 * k, 20 + 10 * k),) for k in range(5))
        self.assertEqual(diary_events(diary(*pieces, tasks=many))[0].title, "fox: Act 0, Act 1, Act 2 and 2 more")
        two = (task("fox:a", 10), task("b", 10, painting="jay"))
        self.assertEqual(diary_events(diary(*pieces[:2], tasks=two))[0].uid, "fox-a-1@foxpath")
        self.assertEqual(diary_events(diary(*pieces[:2], tasks=two))[0].title, "fox and jay: Top coat")


if __name__ == "__main__":
    unittest.main()
