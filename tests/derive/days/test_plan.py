"""The plan of a painting over its life: taken, followed, cut short, missed, put elsewhere; every state of it keeps every rule."""

import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta

from foxpath.core.days.diary import diary_fields
from foxpath.core.days.studio import Days, DryNote, Laid, iso, room_on, too_cold
from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.days.plan import Better, plan_of, told_of, why_words
from foxpath.derive.days.reading import past_of
from foxpath.derive.days.sitting import sittings_of
from foxpath.document import edits
from tests.core.days.checker import faults
from tests.made import project
from tests.remembered import remember

setUpModule = remember

NOW = datetime(2026, 3, 2, 12)


class Case(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.fresh = Results(), edits.set_days(project(), start="2026-03-02")
        cls.first = plan_of(cls.results, [cls.fresh], NOW)
        cls.taken = edits.take_plan(cls.fresh, cls.first.rows())

    def planned(self, made, moment=NOW, **given):
        planned = plan_of(self.results, [made], moment, **given)
        self.assertEqual(faults(diary_fields(planned.diary)), [])
        return planned

    def sitting(self, number, planned=None):
        """Return begin and end of a sitting, and its pieces as rows."""
        planned = planned or self.first
        diary = planned.diary
        a, b, pieces = diary.sittings()[number]
        tasks = planned.layout.problem.tasks
        return diary.at(a), diary.at(b), [Laid(tasks[k].key, iso(diary.at(x)), iso(diary.at(y))) for x, y, k in pieces]

    def whole(self, rows):
        """Return those of some rows that finish their tasks."""
        last = {one.task: one for one in self.taken.days.plan}
        return [one for one in rows if last[one.task] == one]


class Taken(Case):
    def test_a_plan_that_was_taken_is_the_plan(self):
        planned = self.planned(self.taken)
        self.assertTrue(planned.taken)
        self.assertEqual(planned.rows(), self.taken.days.plan)
        self.assertEqual(why_words(planned), "")
        # Whatever the painting is called by then.
        self.assertTrue(self.planned(edits.rename(self.taken, "Otherwise")).taken)

    def test_followed_it_goes_on_as_it_was(self):
        begin, end, rows = self.sitting(0)
        done = edits.mark_done(self.taken, self.whole(rows))
        planned = self.planned(done, end + timedelta(hours=1))
        self.assertTrue(planned.taken)
        self.assertEqual([one.task for one in rows if one in planned.rows()], [])
        self.assertLess(begin, end)

    def test_in_the_middle_of_a_sitting_nothing_has_gone_by(self):
        begin, _, _ = self.sitting(0)
        self.assertTrue(self.planned(self.taken, begin + timedelta(minutes=40)).taken)

    def _followed(self, late):
        """Follow the plan into its first sitting of two tasks; the first of them ends some minutes late."""
        done, number = self.taken, 0
        while len(self.sitting(number)[2]) < 2:
            done = edits.mark_done(done, self.whole(self.sitting(number)[2]))
            number += 1
        begin, end, rows = self.sitting(number)
        moment = datetime.fromisoformat(rows[0].end) + timedelta(minutes=late)
        done = edits.mark_done(done, [replace(rows[0], end=iso(moment))])
        return begin, end, rows, moment, self.planned(done, moment)

    def test_half_way_through_a_sitting_the_rest_of_it_is_as_it_was(self):
        begin, end, rows, moment, planned = self._followed(0)
        self.assertTrue(planned.taken)
        first = sittings_of(self.results, self.taken, planned)[0]
        self.assertEqual([step.begin for step in first.steps], [datetime.fromisoformat(row.begin) for row in rows[1:]])
        self.assertEqual((first.begin, first.work), (begin - timedelta(minutes=15), (moment, end)))

    def test_who_is_late_paints_on_after_it_and_at_no_time_twice(self):
        _, _, rows, moment, planned = self._followed(7)
        self.assertFalse(planned.taken)
        coming = [
            planned.diary.at(a)
            for k, pieces in enumerate(planned.plan.pieces)
            if k not in planned.layout.problem.done
            for a, _ in pieces
        ]
        self.assertGreaterEqual(min(coming), moment)
        # The evening goes on: what was next still is, a little later.
        k = planned.layout.place(rows[1].task)
        self.assertEqual(planned.diary.at(planned.plan.pieces[k][0][0]).date(), moment.date())

    def test_a_sitting_that_went_by_is_said_and_little_else_moves(self):
        _, end, rows = self.sitting(0)
        planned = self.planned(self.taken, end + timedelta(days=1, hours=3))
        self.assertFalse(planned.taken)
        self.assertEqual(planned.against[0].kind, "missed")
        self.assertIn("went by without", why_words(planned))
        self.assertIn(f"{datetime.fromisoformat(rows[0].begin):%a %d %b}", why_words(planned))

    def test_days_on_which_was_painted_are_told_oldest_first(self):
        number = next(k for k in range(20) if any(r.task.startswith("undercoat") for r in self.sitting(k)[2]))
        begin, _, rows = self.sitting(number)
        later, end, more = self.sitting(number + 1)
        done = edits.mark_done(self.taken, self.whole(rows))
        half = datetime.fromisoformat(more[0].begin) + timedelta(minutes=5)
        cut = edits.mark_begun(done, [replace(more[0], end=iso(half))])
        planned = self.planned(cut, end + timedelta(hours=3))
        past = past_of(cut, planned)
        self.assertEqual([one.day for one in past], sorted({begin.date(), later.date()}))
        names = [planned.layout.problem.tasks[planned.layout.place(row.task)].words for row in self.whole(rows)]
        self.assertEqual(past[0].words[: len(names)], tuple(dict.fromkeys(names)))
        self.assertIn("undercoat", past[0].roles)
        # What is of no task any more, and of no moment, is passed over.
        odd = replace(
            cut,
            days=replace(cut.days, done=(*cut.days.done, replace(rows[0], task="nothing"), replace(rows[0], begin=""))),
        )
        self.assertEqual(past_of(odd, planned), past)

    def test_cut_short_what_was_begun_is_finished_and_no_minute_is_painted_twice(self):
        number = next(k for k in range(20) if any(r.task.startswith("undercoat") for r in self.sitting(k)[2]))
        done = self.taken
        for k in range(number):
            done = edits.mark_done(done, self.whole(self.sitting(k)[2]))
        _, end, rows = self.sitting(number)
        first = next(one for one in rows if one.task.startswith("undercoat"))
        half = datetime.fromisoformat(first.begin) + timedelta(minutes=10)
        cut = edits.mark_begun(done, [replace(first, end=iso(half))])
        planned = self.planned(cut, end + timedelta(hours=3))
        k = planned.layout.place(first.task)
        usual = next(task.minutes for task in self.first.layout.problem.tasks if task.key == first.task)
        self.assertEqual(planned.layout.problem.tasks[k].minutes, usual - 10)
        self.assertTrue(planned.plan.pieces[k])

    def test_a_forgotten_wet_edge_is_restated_and_said(self):
        """The darks are painted, and the midtones that were to go into them come two days later."""
        done = self.taken
        number = next(k for k in range(20) if any(r.task.startswith("darks") for r in self.sitting(k)[2]))
        for k in range(number):
            done = edits.mark_done(done, self.whole(self.sitting(k)[2]))
        _, end, rows = self.sitting(number)
        darks = [one for one in rows if not one.task.startswith("midtones")]
        done = edits.mark_done(done, [one for one in darks if one in self.whole(rows)])
        planned = self.planned(done, end + timedelta(hours=30))
        lost = [planned.layout.problem.relations[k] for k in planned.plan.lost]
        self.assertTrue([one for one in lost if ":darks." in one.before and ":midtones." in one.after])
        k = next(i for i, task in enumerate(planned.layout.problem.tasks) if task.key.startswith("midtones"))
        minutes = sum(b - a for a, b in planned.plan.pieces[k])
        self.assertEqual(minutes, planned.layout.problem.tasks[k].minutes + 10)

    def test_a_week_away_moves_what_lay_in_it(self):
        _, _, rows = self.sitting(1)
        day = datetime.fromisoformat(rows[0].begin).date()
        away = edits.set_away(self.taken, day, day + timedelta(days=6))
        planned = self.planned(away)
        self.assertEqual(planned.against[0].kind, "outside")
        self.assertGreater(planned.moved, 0)
        self.assertIn("no longer free", why_words(planned))
        days = {planned.diary.at(a).date() for pieces in planned.plan.pieces for a, _ in pieces}
        self.assertFalse([one for one in days if day <= one <= day + timedelta(days=6)])

    def test_a_room_that_gets_cold_dries_later_and_the_reason_names_the_paint(self):
        planned = self.planned(edits.set_days(self.taken, celsius=12.0))
        self.assertEqual(planned.against[0].kind, "early")
        self.assertRegex(why_words(planned), "is (dry|rested) only on")
        self.assertGreater(planned.later, 0)

    def test_a_background_changed_in_the_last_week_is_painted_again(self):
        """The client wants another sky when all but the end is done: it is planned anew, and what is done stays so."""
        tasks = self.first.layout.problem.tasks
        diary = self.first.diary
        strokes = [k for k, t in enumerate(tasks) if t.kind in ("paint", "eye", "edge", "blend")]
        rows = [
            Laid(tasks[k].key, iso(diary.at(a)), iso(diary.at(b)))
            for k in range(len(tasks)) if k in strokes or tasks[k].kind in ("preparation", "mixing")
            for a, b in self.first.plan.pieces[k]
        ]  # fmt: skip
        last = max(self.first.plan.end(k) for k in strokes)
        done = edits.mark_done(self.taken, rows)
        changed = edits.mark_undone(done, [tasks[k].key for k in strokes if tasks[k].act in ("Background", "Blend")])
        planned = self.planned(changed, diary.at(last) + timedelta(hours=12))
        again = [t.act for k, t in enumerate(planned.layout.problem.tasks) if k not in planned.layout.problem.done]
        self.assertEqual(set(again) & {"Top coat", "Undercoat", "Darks"}, set())
        self.assertTrue({"Touch-ups", "Varnish"} <= set(again))
        self.assertTrue(planned.plan.complete)

    def test_another_tube_is_another_plan_only_where_it_dries_otherwise(self):
        slow = edits.set_mixes(self.taken, black="free")
        self.assertTrue(self.planned(slow).plan.complete)


class Put(Case):
    def test_what_is_put_on_a_day_lies_on_it(self):
        key = next(task.key for task in self.first.layout.problem.tasks if task.key == "drawing")
        day = date(2026, 3, 21)
        made = edits.hold_tasks(self.fresh, [key], datetime(2026, 3, 21), datetime(2026, 3, 22))
        planned = self.planned(made)
        k = planned.layout.place(key)
        self.assertEqual(planned.diary.at(planned.plan.pieces[k][0][0]).date(), day)
        self.assertEqual(planned.layout.problem.broken(planned.plan), ())

    def test_what_cannot_be_held_is_laid_as_near_as_it_may(self):
        made = edits.hold_tasks(self.fresh, ["touch-ups"], datetime(2026, 3, 3), datetime(2026, 3, 4))
        planned = self.planned(made)
        self.assertEqual(planned.layout.problem.broken(planned.plan), (planned.layout.place("touch-ups"),))

    def test_a_hold_of_what_is_no_more_is_passed_over(self):
        made = edits.hold_tasks(self.fresh, ["no such task"], datetime(2026, 3, 3), datetime(2026, 3, 4))
        self.assertEqual(self.planned(made).layout.problem.within, {})

    def test_varnish_waits_for_daylight_and_open_doors(self):
        made = edits.set_days(self.fresh, daylight=True, air_from=6, air_to=8, rest_days=5.0)
        made = edits.set_weekday(made, 5, (("09:00", "13:00"),))
        planned = self.planned(made)
        k = planned.layout.place("varnish")
        begin, end = (planned.diary.at(x) for x in planned.plan.pieces[k][0])
        self.assertIn(begin.month, (6, 7, 8))
        self.assertTrue(begin.hour >= 6 and end.hour < 21)
        for a, b in planned.layout.free:
            self.assertTrue(a.hour >= 6 and (b.hour, b.minute) <= (21, 0), (a, b))

    def test_doors_that_open_in_half_a_year_are_waited_for(self):
        # From September on, looking 150 days ahead, no day has open doors.
        days = {"start": "2026-09-21", "air_from": 5, "air_to": 9}
        made = edits.set_days(self.fresh, **days)
        planned = self.planned(made, datetime(2026, 10, 1, 12))
        varnish = next(k for k, task in enumerate(planned.layout.problem.tasks) if task.kind == "varnish")
        begin = planned.diary.at(planned.plan.pieces[varnish][0][0])
        self.assertEqual((begin.year, begin.month), (2027, 5))

    def test_thinned_paint_waits_for_open_doors_only_where_it_is_asked_for(self):
        moment = datetime(2026, 1, 5, 12)
        days = {"start": "2026-01-05", "air_from": 4, "air_to": 10}
        planned = self.planned(edits.set_days(self.fresh, **days), moment)
        thinned = {key for work in planned.layout.works for key, layer in work.layers.items() if layer.thinned}
        self.assertTrue(thinned)

        def months(planned, among):
            tasks = planned.layout.problem.tasks
            return {
                planned.diary.at(a).month
                for task, pieces in zip(tasks, planned.plan.pieces, strict=True)
                if task.kind == "paint" and (task.id in thinned) == among
                for a, _ in pieces
            }

        self.assertIn(1, months(planned, among=True))
        aired = self.planned(edits.set_days(self.fresh, **days, air_for="thinner"), moment)
        self.assertTrue(months(aired, among=True) <= set(range(4, 11)))

    def test_no_day_too_cold_is_planned(self):
        days = {"start": "2026-11-02", "celsius": 12.0, "seasons": True, "july_celsius": 25.0, "coldest": 16.0}
        made = edits.set_days(self.fresh, **days)
        planned = self.planned(made, datetime(2026, 11, 2, 12))
        painted = [planned.diary.at(a).date() for pieces in planned.plan.pieces for a, _ in pieces]
        self.assertFalse([day for day in painted if too_cold(made.days, day)])
        self.assertTrue(any(day.year == 2027 for day in painted))

    def test_other_paintings_keep_their_evenings(self):
        evening = [(datetime(2026, 3, k, 18), datetime(2026, 3, k, 22)) for k in range(2, 12)]
        planned = self.planned(self.fresh, taken=evening)
        for a, b, _ in planned.diary.sittings():
            self.assertFalse([1 for x, y in evening if planned.diary.at(a) < y and planned.diary.at(b) > x])
        over = self.planned(edits.set_days(self.fresh, beside=False), taken=evening)
        self.assertLess(over.diary.sittings()[0][0], planned.diary.sittings()[0][0])

    def test_busy_times(self):
        busy = [(datetime(2026, 3, 3, 18), datetime(2026, 3, 3, 23))]
        planned = self.planned(edits.take_busy(self.fresh, busy))
        self.assertFalse([1 for a, _ in planned.layout.free if a.date() == date(2026, 3, 3)])


class Edges(Case):
    def test_no_free_time_at_all(self):
        made = replace(self.fresh, days=replace(self.fresh.days, week=((),) * 7))
        planned = plan_of(self.results, [made], NOW)
        self.assertFalse(planned.plan.complete)
        self.assertEqual(planned.layout.problem.sittings, [])
        self.assertEqual(Better(planned, 0.1)(SILENT).plan, planned.plan)

    def test_little_free_time_is_looked_for_far_ahead(self):
        week = ((),) * 6 + ((("14:00", "15:30"),),)
        planned = self.planned(replace(self.fresh, days=replace(self.fresh.days, week=week)))
        self.assertTrue(planned.plan.complete)
        self.assertTrue(all(planned.diary.at(a).weekday() == 6 for a, _, _ in planned.diary.sittings()))

    def test_a_date_in_the_past_is_missed_not_a_crash(self):
        planned = self.planned(edits.set_days(self.fresh, deadline="2026-02-01"))
        self.assertTrue(planned.plan.complete)
        self.assertGreater(planned.layout.problem.late(planned.plan), 0)

    def test_the_first_day_lies_ahead_or_behind(self):
        ahead = self.planned(edits.set_days(self.fresh, start="2026-04-01"))
        self.assertGreaterEqual(ahead.diary.at(ahead.diary.sittings()[0][0]), datetime(2026, 4, 1))
        behind = self.planned(self.fresh, datetime(2026, 5, 4, 20))
        self.assertGreaterEqual(behind.diary.at(behind.diary.sittings()[0][0]), datetime(2026, 5, 4, 20))

    def test_two_paintings_side_by_side_and_each_with_its_date(self):
        other = edits.rename(edits.set_days(project(), deadline="2026-09-01"), "Other")
        planned = plan_of(self.results, [self.fresh, other], NOW)
        self.assertEqual(faults(diary_fields(planned.diary)), [])
        self.assertEqual(set(planned.layout.ends), {"Other"})
        self.assertEqual({planned.layout.problem.tasks[k].painting for k in planned.layout.problem.due}, {"Other"})
        self.assertEqual({row.task for row in planned.rows()}, {t.key for t in planned.layout.works[0].tasks})

    def test_a_painting_that_is_only_told_is_planned_as_if_it_were_open(self):
        other = edits.rename(edits.set_days(self.fresh, deadline="2026-06-01"), "Other")
        both = self.planned_together([other])
        told = told_of(other, both.layout.works[1])
        made = plan_of(self.results, [self.fresh], NOW, beside=[told])
        self.assertEqual(faults(diary_fields(made.diary)), [])
        self.assertEqual(
            [task.id for task in made.layout.problem.tasks], [task.id for task in both.layout.problem.tasks]
        )
        self.assertEqual(made.layout.ends, {"Other": datetime(2026, 6, 2)})
        self.assertEqual(made.layout.others(), ["Other"])
        # Each its own rows, and no minute twice.
        rows = (*made.rows(), *made.rows("Other"))
        self.assertEqual(len(rows), sum(len(pieces) for pieces in made.plan.pieces))
        self.assertEqual({row.task for row in made.rows()}, {row.task for row in made.rows("Other")})

    def planned_together(self, others):
        return plan_of(self.results, [self.fresh, *others], NOW)

    def test_what_is_done_and_held_of_a_told_painting_binds(self):
        other = edits.rename(self.fresh, "Other")
        told = told_of(other, self.planned_together([other]).layout.works[1])
        done = Laid("support", "2026-03-01T10:00", "2026-03-01T11:00")
        held = Laid("coat-1", "2026-03-07T00:00", "2026-03-08T00:00")
        made = plan_of(self.results, [self.fresh], NOW, beside=[replace(told, done=(done,), holds=(held,))])
        layout = made.layout
        self.assertNotIn("support", [row.task for row in made.rows("Other")])
        self.assertIn(layout.place("support", "Other"), layout.problem.done)
        self.assertNotIn(layout.place("support"), layout.problem.done)
        (row,) = [row for row in made.rows("Other") if row.task == "coat-1"]
        self.assertEqual(row.begin[:10], "2026-03-07")
        self.assertIn("(Other)", layout.words(layout.place("coat-1", "Other")))
        self.assertNotIn("(", layout.words(layout.place("coat-1")))

    def test_a_plan_taken_together_stays_and_each_sitting_is_told_of_whom_it_is(self):
        other = edits.rename(self.fresh, "Other")
        told = told_of(other, self.planned_together([other]).layout.works[1])
        first = plan_of(self.results, [self.fresh], NOW, beside=[told])
        taken = edits.take_plan(self.fresh, first.rows())
        offered = replace(told, offered=first.rows("Other"), group=(self.fresh.name,))
        again = plan_of(self.results, [taken], NOW, beside=[offered])
        self.assertTrue(again.taken)
        self.assertEqual((again.rows(), again.rows("Other")), (first.rows(), first.rows("Other")))
        mine, theirs = set(again.times()), set(again.times("Other"))
        self.assertEqual(mine | theirs, set(again.diary.times()))
        self.assertTrue(mine & theirs, "some evenings are shared")
        self.assertTrue(theirs - mine)
        # Planned for the first time, it may move what the other has taken for itself.
        fresh = plan_of(self.results, [self.fresh], NOW, beside=[replace(told, plan=first.rows("Other"))])
        self.assertFalse(fresh.before)

    def test_notes_of_one_painting_are_not_those_of_the_other(self):
        note = DryNote("ground", "PW6", "white", 20.0, "2026-03-02T20:00", "", "2026-03-02T21:00")
        done = (Laid("ground", "2026-03-02T19:15", "2026-03-02T20:00"),)
        noted = replace(self.fresh, days=replace(self.fresh.days, notes=(note,), done=done))
        other = edits.rename(project(), "Other")
        planned = plan_of(self.results, [noted, other], NOW + timedelta(days=1))
        lows = {
            r.before: r.low_h
            for r in planned.layout.problem.relations
            if r.kind == "touch_dry" and "ground" in r.before
        }
        self.assertEqual(lows["Blob:ground"], 1.0)
        self.assertGreater(lows["Other:ground"], 2.0)


class Seasons(Case):
    """A room that goes with the year: paint dries as it does on the day it is laid."""

    def in_year(self, start):
        made = edits.set_days(self.fresh, start=start, celsius=10.0, seasons=True, july_celsius=28.0)
        return made, self.planned(made, datetime.fromisoformat(f"{start}T12:00"))

    def waits(self, planned):
        return {(r.before, r.after): r.low_h for r in planned.layout.problem.relations if r.kind == "touch_dry"}

    def test_lags_are_those_of_the_day_it_is_laid_on(self):
        made, planned = self.in_year("2026-01-12")
        tasks, work = planned.layout.problem.tasks, planned.layout.works[0]
        still = plan_of(self.results, [edits.set_days(made, seasons=False, celsius=20.0)], datetime(2026, 1, 12, 12))
        places = {task.id: k for k, task in enumerate(tasks)}
        compared = 0
        for (before, after), hours in self.waits(planned).items():
            layer = work.layers[before]
            if not layer.pile or (before, after) not in self.waits(still):
                continue
            warmth = room_on(made.days, planned.diary.at(planned.plan.pieces[places[before]][0][0]).date())[0]
            wanted = still.layout.works[0].layers[before].times.touch * 2.0 ** ((20 - warmth) / 10)
            # A round more would change it by less than this.
            self.assertAlmostEqual(layer.times.touch / wanted, 1.0, delta=0.03)
            self.assertGreater(hours, layer.times.touch)
            compared += 1
        self.assertGreater(compared, 3)

    def test_winter_takes_longer_than_summer(self):
        ends = []
        for start in ("2026-01-12", "2026-07-06"):
            _, planned = self.in_year(start)
            day = datetime.fromisoformat(f"{start}T12:00")
            ends.append((planned.diary.painted(self.fresh.name) - day).days)
        self.assertGreater(ends[0], ends[1] + 5)

    def test_a_plan_that_was_taken_stays_the_plan(self):
        made, planned = self.in_year("2026-02-16")
        better = Better(planned, 0.5)(SILENT)
        taken = edits.take_plan(made, better.rows())
        again = self.planned(taken, datetime(2026, 2, 16, 12))
        self.assertTrue(again.taken)
        self.assertEqual(again.rows(), taken.days.plan)

    def test_a_lag_far_from_what_was_taken_is_not_talked_away(self):
        made, planned = self.in_year("2026-02-16")
        taken = edits.take_plan(made, planned.rows())
        cold = edits.set_days(taken, celsius=2.0, july_celsius=12.0)
        self.assertFalse(self.planned(cold, datetime(2026, 2, 16, 12)).taken)


class Found(Case):
    def test_a_better_plan_is_no_worse_and_each_step_is_handed_on(self):
        shown = []
        progress = type(SILENT)(lambda *_: None, lambda: False, shown.append)
        found = Better(self.first, 0.6)(progress)
        problem = self.first.layout.problem
        self.assertLessEqual(problem.cost(found.plan), problem.cost(self.first.plan))
        self.assertTrue(found.searched)
        self.assertTrue(all(not one.searched for one in shown))
        costs = [problem.cost(one.plan) for one in shown]
        self.assertEqual(costs, sorted(costs, reverse=True))

    def test_a_plan_near_the_one_before_says_how_many_moved(self):
        made = edits.set_days(self.taken, celsius=17.0)
        planned = Better(self.planned(made))(SILENT)
        self.assertEqual(planned.moved, len(planned.layout.problem.moved(planned.plan)))
        self.assertIn(f"{planned.moved} of" if planned.moved > 0 else "No task", why_words(planned) or "No task")


class Usual(unittest.TestCase):
    def test_days_are_left_out_of_a_file_that_says_nothing_of_them(self):
        from foxpath.document.convert import project_to_fields

        self.assertNotIn("days", project_to_fields(project()))
        made = project_to_fields(edits.set_days(project(), celsius=17.0))
        self.assertEqual(made["days"], {"celsius": 17.0})
        self.assertEqual(Days().week, project().days.week)


if __name__ == "__main__":
    unittest.main()
