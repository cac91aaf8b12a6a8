"""What the Days stop says from afar and finds: dates, cold rooms, time that does not do, wet edges that are lost, and piles that dry."""

import os
import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta
from types import SimpleNamespace
from unittest import mock

from foxpath.core.days import exact
from foxpath.core.days.drying import Times
from foxpath.core.days.studio import DryNote, Laid
from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.days import reading
from foxpath.derive.days.plan import plan_of
from foxpath.derive.days.reading import (
    DaysClose,
    PileTime,
    _piles,
    days_findings,
    past_of,
    plan_findings,
    read_days,
    shown_of,
    spread_sd,
)
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember
NOW = datetime(2026, 3, 2, 12)
TODAY = Laid("a", "2026-03-02T19:15", "2026-03-02T20:15")
LATER = Laid("b", "2026-03-05T19:15", "2026-03-05T21:00")
OVER = Laid("c", "2026-02-27T19:15", "2026-02-27T20:00")


def decided(**days):
    """Return a small project with decisions about days."""
    made = project()
    return replace(made, days=replace(made.days, **days))


class Held(unittest.TestCase):
    """It is noon of Monday 2 March 2026."""

    def setUp(self):
        held = mock.patch.dict(os.environ, {"FOXPATH_NOW": NOW.isoformat()})
        held.start()
        self.addCleanup(held.stop)

    def found(self, **days):
        """Return what is found in decisions, as level, title and words."""
        return [(one.level, one.says, one.why) for one in days_findings(Results(), decided(**days), SILENT)]


class Afar(Held):
    def words(self, **days):
        """Return what the trail says."""
        return read_days(Results(), decided(**days), SILENT).words

    def test_when_there_is_painted_next(self):
        self.assertEqual(self.words(), "no plan taken yet")
        self.assertEqual(self.words(plan=(LATER, TODAY)), "next: Mon 02 Mar")
        self.assertEqual(self.words(plan=(LATER, TODAY), done=(TODAY,)), "next: Thu 05 Mar")
        # A sitting that is on counts as the next one.
        on = Laid("d", "2026-03-02T11:00", "2026-03-02T12:30")
        self.assertEqual(self.words(plan=(on, LATER)), "next: Mon 02 Mar")
        ended = replace(on, end="2026-03-02T12:00")
        self.assertEqual(self.words(plan=(ended, LATER)), "next: Thu 05 Mar")

    def test_only_what_is_noted_is_painted(self):
        self.assertEqual(self.words(plan=(OVER,), done=(OVER,)), "all painted")
        self.assertEqual(self.words(plan=(OVER,)), "what was painted?")
        self.assertEqual(self.words(plan=(OVER, TODAY), done=(TODAY,)), "what was painted?")


class Decisions(Held):
    def test_usual_ones_are_in_order(self):
        self.assertEqual(self.found(), [])

    def test_no_free_time(self):
        ((level, title, why),) = self.found(week=((),) * 7)
        self.assertEqual((level, title), ("must", "No time is free."))
        self.assertIn("50 minutes", why)
        from foxpath.core.days.studio import OtherDay

        self.assertEqual(self.found(week=((),) * 7, others=(OtherDay("2026-03-07", (("10:00", "14:00"),)),)), [])
        self.assertEqual(len(self.found(week=((),) * 7, others=(OtherDay("2026-03-07"),))), 1)

    def test_a_date_that_is_over(self):
        self.assertEqual(self.found(deadline="2026-03-02"), [])
        ((level, title, _),) = self.found(deadline="2026-03-01")
        self.assertEqual((level, title), ("must", "The date Sun 01 Mar 2026 is over."))

    def test_a_plan_that_ends_after_its_date(self):
        self.assertEqual(self.found(deadline="2026-03-05", plan=(LATER, TODAY)), [])
        ((level, title, why),) = self.found(deadline="2026-03-03", plan=(LATER, TODAY))
        self.assertEqual((level, title), ("must", "It is handed over on Thu 05 Mar, 2 days late."))
        self.assertIn("the date is Tue 03 Mar", why)
        ((_, title, _),) = self.found(deadline="2026-03-04", plan=(LATER,))
        self.assertIn("1 day late", title)

    def test_a_finished_painting_misses_no_date(self):
        self.assertEqual(self.found(deadline="2026-03-01", plan=(OVER,), done=(OVER,)), [])
        self.assertEqual(len(self.found(deadline="2026-03-01", plan=(OVER, LATER), done=(OVER,))), 1)
        self.assertEqual(self.found(deadline="2026-03-03", plan=(LATER,), done=(LATER,)), [])
        # Varnish may wait; it is with its owner.
        given = Laid("hand-over", "2026-02-28T10:00", "2026-02-28T10:30")
        self.assertEqual(self.found(deadline="2026-03-01", plan=(OVER, LATER), done=(OVER, given)), [])

    def test_a_cold_room(self):
        self.assertEqual(self.found(celsius=12.0), [])
        self.assertEqual(self.found(celsius=11.5)[0][:2], ("look", "The room is cold."))
        self.assertTrue(self.found(celsius=11.5)[0][2].startswith("11.5 °C"))
        self.assertEqual(
            self.found(celsius=11.5, july_celsius=25.0, seasons=True)[0][1], "The room is cold in January."
        )
        self.assertEqual(self.found(celsius=20.0, july_celsius=9.0, seasons=True)[0][1], "The room is cold in July.")
        self.assertEqual(
            self.found(celsius=20.0, july_celsius=9.0), [], "what it comes to in July counts with the year only"
        )
        titles = [title for _, title, _ in self.found(celsius=14.0, coldest=18.0)]
        self.assertEqual(titles, ["The room is too cold all year."])
        self.assertEqual(self.found(celsius=14.0, july_celsius=24.0, coldest=18.0, seasons=True), [])


class Beside(Held):
    """What is kept free for other paintings, and what is planned together with them."""

    def shown(self, made, mine=None):
        """Return what is shown of a painting beside two others, and what its plan was asked with."""
        asked = {}

        def plan(_results, projects, moment, **more):
            asked.update(more, projects=projects, moment=moment)

        free = {
            "A": [(NOW, NOW + timedelta(hours=1))],
            "B": [(NOW + timedelta(days=1), NOW + timedelta(days=1, hours=2))],
        }
        told = [SimpleNamespace(painting=name) for name in free]
        with (
            mock.patch.object(reading, "other_works", lambda _: told),
            mock.patch.object(reading, "other_sittings", lambda *_: free),
            mock.patch.object(reading, "work_told", lambda _: mine),
            mock.patch.object(reading, "plan_of", plan),
            mock.patch.object(reading, "shown_of", lambda _r, _p, _planned, taken, _m: DaysClose(taken=taken)),
        ):
            return reading.close_days(Results(), made), asked, free

    def test_evenings_of_others_are_taken_but_of_those_planned_together(self):
        close, asked, free = self.shown(decided(together=("A",)))
        self.assertEqual([one.painting for one in asked["beside"]], ["A"])
        self.assertEqual(close.taken, {"B": free["B"]})
        self.assertEqual(asked["taken"], free["B"])
        self.assertEqual([one.painting for one in close.others], ["A", "B"])
        self.assertEqual((close.by, close.offered, asked["moment"]), (None, None, NOW))
        close, asked, free = self.shown(decided())
        self.assertEqual((asked["beside"], close.taken), ([], free))

    def test_a_plan_that_another_painting_offered_is_shown_until_it_is_taken(self):
        mine = SimpleNamespace(by="A", offered=(LATER,), group=("A",))
        close, asked, _ = self.shown(decided(plan=(TODAY,)), mine)
        self.assertEqual(close.by, "A")
        self.assertEqual((close.offered.plan, close.offered.together), ((LATER,), ("A",)))
        self.assertEqual(asked["projects"][0].days.plan, (LATER,))
        self.assertEqual([one.painting for one in asked["beside"]], ["A"])
        taken, asked, _ = self.shown(decided(plan=(LATER,)), mine)
        self.assertEqual((taken.by, taken.offered, asked["projects"][0].days.plan), (None, None, (LATER,)))
        nobody, _, _ = self.shown(decided(plan=(TODAY,)), SimpleNamespace(by="", offered=(LATER,), group=()))
        self.assertEqual((nobody.by, nobody.offered), (None, None))


class Piles(unittest.TestCase):
    def test_states_end_early_in_the_middle_and_late(self):
        one = PileTime("PW6", "white", 2.0, 2.0, 0, Times(10.0, 20.0, 48.0, 200.0, 4000.0, 0.3))
        states = one.states()
        self.assertEqual([name for name, *_ in states], ["open", "soft", "touch-dry", "through-dry", "cured"])
        for (_, early, middle, late), hours in zip(states, (10, 20, 48, 200, 4000), strict=True):
            self.assertEqual(middle, hours)
            self.assertAlmostEqual(early * late, middle**2, delta=0.02 * middle**2)
            self.assertLess(early, 0.75 * middle)

    def test_each_pile_once_by_its_slowest_film_and_the_slowest_first(self):
        def layer(pile, hours, usual):
            return SimpleNamespace(pile=pile, name=pile.upper(), typical_h=usual, times=SimpleNamespace(touch=hours))

        layers = dict(
            enumerate(
                (layer("a", 24, 30), layer("b", 72, 60), layer("a", 48, 36), layer("", 900, 900), layer("a", 36, 20))
            )
        )
        planned = SimpleNamespace(layout=SimpleNamespace(works=[SimpleNamespace(layers=layers)]))
        made = _piles(planned, SimpleNamespace(notes={"a": 3}))
        self.assertEqual(
            [(one.pile, one.name, one.days, one.typical, one.notes) for one in made],
            [("b", "B", 3.0, 2.5, 0), ("a", "A", 2.0, 1.5, 3)],
        )

    def test_how_far_drying_times_scatter(self):
        layers = {k: SimpleNamespace(times=SimpleNamespace(sd=sd)) for k, sd in enumerate((0.2, 0.3, 0.4))}
        planned = SimpleNamespace(layout=SimpleNamespace(works=[SimpleNamespace(layers=layers)]))
        made = spread_sd(planned)
        self.assertEqual(set(made), {"touch_dry", "while_open", "tacky"})
        self.assertTrue(all(abs(sd - 0.3) < 1e-9 for sd in made.values()))
        none = SimpleNamespace(layout=SimpleNamespace(works=[SimpleNamespace(layers={})]))
        self.assertEqual(set(spread_sd(none).values()), {0.4})


class Plans(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.project = Results(), edits.set_days(project(), start="2026-03-02")
        cls.planned = plan_of(cls.results, [cls.project], NOW)

    def said(self, made=None, planned=None):
        """Return what is found in a plan, without that of the solver."""
        made = made or self.project
        found = plan_findings(made, planned or plan_of(self.results, [made], NOW))
        return [(one.level, one.says, one.why, one.subject) for one in found if one.subject != "solver"]

    def test_a_plan_that_keeps_everything_is_in_order(self):
        self.assertEqual([one for one in self.said() if one[3] != "lost"], [])

    def test_a_date_it_misses(self):
        end = self.planned.diary.done(self.project.name)
        on_the_day = edits.set_days(self.project, deadline=f"{end:%Y-%m-%d}")
        self.assertEqual([one for one in self.said(on_the_day) if one[3] == "late"], [])
        for days in (1, 3):
            date_ = end.date() - timedelta(days=days)
            missed = edits.set_days(self.project, deadline=date_.isoformat())
            # The plan stays; only the date is asked of it.
            planned = plan_of(self.results, [missed], NOW)
            done = planned.diary.done(missed.name)
            ((level, title, why, _),) = [one for one in self.said(missed, planned) if one[3] == "late"]
            late = (done.date() - date_).days
            self.assertEqual((level, title), ("must", f"Handed over {late} day{'s' if late > 1 else ''} late."))
            self.assertIn(f"{done:%a %d %b} against {date_:%a %d %b}", why)

    def test_a_task_that_is_held_where_it_cannot_lie(self):
        top = next(one.key for one in self.planned.layout.problem.tasks if one.key.startswith("lights"))
        begin = datetime(2026, 3, 2, 19)
        held = edits.hold_tasks(self.project, [top], begin, begin + timedelta(hours=2))
        planned = plan_of(self.results, [held], NOW)
        found = [one for one in self.said(held, planned) if one[3] == f"Blob:{top}"]
        self.assertEqual(len(found), 1)
        level, title, why, _ = found[0]
        self.assertEqual(level, "look")
        self.assertIn("cannot be held", title)
        place = next(k for k, one in enumerate(planned.layout.problem.tasks) if one.key == top)
        first = planned.diary.at(planned.plan.pieces[place][0][0])
        self.assertEqual(why, f"it fits first on {first:%a %d %b, %H:%M}")

    def test_wet_edges_that_are_lost(self):
        lost = (0, 2)
        relations = self.planned.layout.problem.relations
        planned = replace(self.planned, plan=replace(self.planned.plan, lost=frozenset(lost)))
        ((level, title, why, _),) = [one for one in self.said(planned=planned) if one[3] == "lost"]
        self.assertEqual((level, title), ("look", "2 wet edges cannot be kept."))
        part = next(one.part for one in self.planned.layout.problem.tasks if one.id == relations[0].after)
        self.assertEqual(
            why,
            f"{sum(relations[k].extra_min for k in lost)} min to restate, first at {part} · a longer sitting keeps more",
        )
        one = replace(self.planned, plan=replace(self.planned.plan, lost=frozenset((1,))))
        self.assertEqual(
            [w for _, w, _, key in self.said(planned=one) if key == "lost"], ["1 wet edge cannot be kept."]
        )

    def test_no_time_little_time_and_a_cold_room(self):
        none = replace(self.project, days=replace(self.project.days, week=((),) * 7))
        ((level, title, _, key),) = self.said(none)
        self.assertEqual((level, title, key), ("must", "No time is free.", "room"))
        week = ((),) * 6 + ((("10:00", "10:50"),),)
        little = replace(self.project, days=replace(self.project.days, week=week, longest=50))
        titles = [title for _, title, _, key in self.said(little) if key == "room"]
        self.assertIn(titles, ([], ["The free time of three years does not hold it."]))
        cold = edits.set_days(self.project, celsius=10.0, coldest=15.0)
        ((_, title, why, _),) = self.said(cold)
        self.assertEqual(title, "The room is too cold all year.")
        self.assertTrue(why.startswith("15 °C"))

    def test_without_the_better_search_it_is_said(self):
        with mock.patch.object(exact, "installed", lambda: False):
            found = plan_findings(self.project, self.planned)
        self.assertEqual([(one.level, one.subject) for one in found if one.subject == "solver"], [("note", "solver")])
        with mock.patch.object(exact, "installed", lambda: True):
            self.assertEqual([one for one in plan_findings(self.project, self.planned) if one.subject == "solver"], [])

    def test_days_on_which_was_painted_oldest_first(self):
        tasks = [one for one in self.planned.layout.problem.tasks if self.planned.layout.works[0].roles.get(one.id)][:3]
        rows = (
            Laid(tasks[1].key, "2026-02-25T19:00", "2026-02-25T20:00"),
            Laid(tasks[0].key, "2026-02-23T19:00", "2026-02-23T20:00"),
            Laid("nobody knows", "2026-02-24T19:00", "2026-02-24T20:00"),
            Laid("support", "2026-02-20T10:00", "2026-02-20T10:30"),
            Laid("sand", "some day", "later"),
        )
        begun = (Laid(tasks[2].key, "2026-02-25T20:00", "2026-02-25T20:30"),)
        made = replace(self.project, days=replace(self.project.days, done=rows, begun=begun))
        past = past_of(made, plan_of(self.results, [made], NOW))
        self.assertEqual([one.day for one in past], [date(2026, 2, 20), date(2026, 2, 23), date(2026, 2, 25)])
        self.assertEqual((past[0].roles, past[0].words), ((), ("support",)))
        roles = self.planned.layout.works[0].roles
        self.assertEqual(past[1].roles, (roles[tasks[0].id],))
        self.assertEqual(past[2].roles, tuple(dict.fromkeys((roles[tasks[1].id], roles[tasks[2].id]))))
        self.assertEqual(past[2].words, tuple(dict.fromkeys((tasks[1].words, tasks[2].words))))

    def test_what_was_learned_of_the_studio_is_said_where_something_was(self):
        plain = shown_of(self.results, self.project, self.planned, {}, NOW)
        self.assertEqual((plain.studio, plain.noted), (1.0, 0))
        note = DryNote("t", "PW6", "white", 48.0, "2026-02-01T20:00", "2026-02-04T20:00", "2026-02-05T20:00")
        slow = replace(self.project, days=replace(self.project.days, notes=(note,), earlier=(replace(note, task="u"),)))
        shown = shown_of(self.results, slow, plan_of(self.results, [slow], NOW), {}, NOW)
        self.assertEqual(shown.noted, 2)
        self.assertGreater(shown.studio, 1.15)
        self.assertIs(shown.seen(slow), slow)
        offered = replace(shown, offered=self.project.days)
        self.assertEqual(offered.seen(slow).days, self.project.days)


if __name__ == "__main__":
    unittest.main()
