"""The steps of a sitting, what runs while they are painted, and what a word about a pile asks for."""

import os
import unittest
from dataclasses import replace
from datetime import datetime, timedelta
from unittest import mock

import numpy as np

from foxpath.core.days.studio import Laid, iso
from foxpath.core.mixes.adding import Addition
from foxpath.core.reporting import SILENT
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.days.plan import plan_of
from foxpath.derive.days.sitting import sittings_of
from foxpath.derive.easel.change import AskChange
from foxpath.derive.easel.hairs import MOST, PartHairs
from foxpath.derive.easel.reading import (
    AskAddition,
    addition_words,
    close_easel,
    open_timer,
    read_easel,
    timers_of,
    under_hand,
)
from foxpath.derive.easel.steps import life_size, steps_of
from foxpath.derive.mixes.palette import palette_of
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember

NOW = datetime(2026, 3, 2, 12)


class OfTheFox(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.project = Results(), edits.set_days(demo_project("fox"), start="2026-03-02")
        cls.planned = plan_of(cls.results, [cls.project], NOW)
        cls.sittings = sittings_of(cls.results, cls.project, cls.planned)
        cls.steps = {one.number: steps_of(cls.results, cls.project, cls.planned, one) for one in cls.sittings}

    def all(self):
        return [step for steps in self.steps.values() for step in steps]

    def test_every_task_is_there_and_its_minutes_are_its_steps(self):
        for sitting in self.sittings:
            for day in sitting.steps:
                mine = [one for one in self.steps[sitting.number] if one.number == day.task]
                self.assertTrue(mine, day.part)
                self.assertAlmostEqual(sum(one.minutes for one in mine), day.minutes, places=6)
                self.assertEqual([one.last for one in mine], [False] * (len(mine) - 1) + [day.whole])

    def test_a_part_has_its_brush_its_way_its_length_and_its_pile(self):
        lights = [one for one in self.all() if one.act == "Top coat"]
        names = {zone.name for zone in self.project.zones}
        self.assertGreater(len(lights), 8)
        for one in lights:
            self.assertIn(one.part, names)
            self.assertIn("mm", one.tool)
        coats = [one for one in lights if one.length_mm > 0]
        # What has no coat, as a nose, has no one way.
        self.assertGreater(sum(bool(one.way) for one in coats), 0.7 * len(coats))
        self.assertTrue(all(one.piles and one.piles[0].recipe for one in coats))
        self.assertIn("marks", life_size(coats[0]))
        self.assertEqual(life_size(replace(coats[0], length_mm=0.0, mark_mm=0.0)), "")
        bib = next(one for one in lights if one.part == "Bib")
        self.assertTrue(10 < bib.length_mm < 60)

    def test_one_look_before_the_fine_brush(self):
        gated = [one for one in self.all() if one.gate]
        self.assertTrue(
            {"Top coat", "Highlights"} <= {one.act for one in gated} <= {"Top coat", "Highlights", "Whiskers"}
        )
        tasks = [one.number for one in gated]
        self.assertEqual(len(tasks), len(set(tasks)))
        self.assertIn("touch-dry", gated[0].gate)

    def test_eyes_come_step_by_step(self):
        eye = [one for one in self.all() if one.task.startswith("eye.")]
        self.assertGreater(len(eye), 6)
        self.assertEqual(len({one.key for one in eye}), len(eye))
        self.assertTrue(all(one.how for one in eye))

    def test_edges_are_dragged_and_backgrounds_blended(self):
        kinds = {one.act: one for one in self.all()}
        self.assertTrue(kinds["Edge"].edges)
        self.assertIn("open", kinds["Edge"].how)
        self.assertIn("Blend", kinds["Blend"].how)
        self.assertTrue(kinds["Drawing"].how)
        self.assertEqual(kinds["Drawing"].zone, -1)

    def test_hairs_as_long_as_the_mark_within_the_part(self):
        bib = next(one for one in self.all() if one.act == "Top coat" and one.part == "Bib")
        zone, lines = PartHairs(self.results, self.project, bib.zone, bib.length_mm)(SILENT)
        self.assertEqual(zone, bib.zone)
        self.assertTrue(5 < len(lines) <= 2 * MOST)
        long = np.hypot(*(lines[:, 1:] - lines[:, :-1]).transpose(2, 0, 1)).sum(axis=1) * self.project.mm_per_px
        self.assertAlmostEqual(float(np.median(long)), bib.length_mm, delta=0.25 * bib.length_mm)
        _, none = PartHairs(self.results, self.project, 0, 20.0)(SILENT)
        self.assertEqual(len(none), 0)

    def test_what_is_wet_under_the_hand(self):
        made, work = self.project, self.planned.layout.works[0]
        tasks = self.planned.layout.problem.tasks
        bib = next(one for one in self.all() if one.act == "Top coat" and one.part == "Bib")
        names = [zone.name for zone in made.back_to_front()]
        back = names.index("Back and shoulder")
        k = next(n for n, task in enumerate(tasks) if back in work.zones[task.id] and ":lights." in task.id)
        begin = NOW + timedelta(days=1)
        made = edits.mark_done(made, [Laid(tasks[k].key, iso(begin), iso(begin + timedelta(minutes=30)))])
        planned = plan_of(self.results, [made], begin + timedelta(hours=1))
        step = replace(bib, zone=names.index("Bib"))
        places = {names.index("Bib"): (900.0, 1300.0), back: (1000.0, 1350.0)}
        moment = begin + timedelta(hours=1)
        self.assertEqual(under_hand(planned, made, step, places, moment), ("Back and shoulder (wet)",))
        left = edits.set_easel(made, hand="left")
        self.assertEqual(under_hand(planned, left, step, places, moment), ())
        far = {**places, back: (1900.0, 1350.0)}
        self.assertEqual(under_hand(planned, made, step, far, moment), ())
        self.assertEqual(under_hand(planned, made, step, {}, moment), ())


class Running(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.project = Results(), edits.set_days(project(), start="2026-03-02")
        planned = plan_of(cls.results, [cls.project], NOW)
        tasks = {task.key.split(".")[0]: task for task in planned.layout.problem.tasks}
        rows, begin = [], NOW - timedelta(hours=1)
        for key in ("support", "coat-1", "coat-2", "sand", "ground", "drawing", "piles", "darks"):
            rows.append(Laid(tasks[key].key, iso(begin), iso(begin + timedelta(minutes=5))))
            begin += timedelta(minutes=5)
        cls.done = edits.mark_done(cls.project, rows)
        cls.planned = plan_of(cls.results, [cls.done], NOW)

    def test_the_window_of_what_was_laid_runs(self):
        found = {
            (one.kind, one.task.split(":")[1].split(".")[0]): one for one in timers_of(self.planned, self.done, NOW)
        }
        edge = found["edge", "midtones"]
        relation = next(
            r for r in self.planned.layout.problem.relations if ":darks." in r.before and r.kind == "while_open"
        )
        darks = next(one for one in self.done.days.done if one.task.startswith("darks"))
        due = datetime.fromisoformat(darks.begin) + timedelta(hours=relation.high_h)
        self.assertEqual(edge.due, due)

    def test_the_paint_of_a_step_stays_open_from_when_it_was_begun(self):
        sitting = sittings_of(self.results, self.done, self.planned)[0]
        step = steps_of(self.results, self.done, self.planned, sitting)[0]
        self.assertIsNone(open_timer(self.planned, self.done, step, NOW))
        begun = edits.tell(self.done, "begin", NOW)
        begun = edits.tell(begun, "step", NOW, task=step.task, step=step.key, part=step.part, act=step.act)
        timer = open_timer(self.planned, begun, step, NOW + timedelta(minutes=30))
        times = self.planned.layout.works[0].layers[self.planned.layout.problem.tasks[step.number].id].times
        hours = times.early(times.open)
        self.assertAlmostEqual(timer.left(NOW + timedelta(minutes=30)), 60 * hours - 30, delta=0.1)

    def test_the_stop_knows_what_goes_on_and_what_was_left(self):
        self.assertEqual(read_easel(self.results, self.done, SILENT).words, "nothing painted yet")
        begun = edits.tell(self.done, "begin", NOW)
        self.assertIn("goes on since 12:00", read_easel(self.results, begun, SILENT).words)
        ended = edits.tell(edits.tell(begun, "undone", NOW, task="x", part="Square", text="not sure yet"), "end", NOW)
        self.assertEqual(read_easel(self.results, ended, SILENT).words, "1 sitting painted")
        close = close_easel(self.results, ended)
        self.assertEqual([one.why for one in close.carried], ["not sure yet"])
        self.assertTrue(close.steps)


class Said(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.project = Results(), project()
        cls.pile = palette_of(cls.results, cls.project).piles[0]

    def asked(self, said):
        return AskAddition(self.project, "Rust", self.pile.lab, self.pile.recipe.parts, said)(SILENT)

    def test_a_mark_that_is_too_dark_asks_for_lighter_paint(self):
        words = self.asked("dark")
        self.assertTrue(words.startswith("Rust is too dark: "), words)
        self.assertIn("white", words)
        self.assertNotIn("white", self.asked("light"))

    def test_tubes_that_are_not_at_hand(self):
        words = AskAddition(self.project, "Rust", self.pile.lab, (("no-tube", 1.0),), "dark")(SILENT)
        self.assertIn("not in the studio", words)

    def test_in_words(self):
        names = {"PW6": "Titanium white", "PB29": "Ultramarine"}
        made = Addition((("PW6", 0.5), ("PB29", 1.0)), 1.2, (50.0, 0.0, 0.0), 0.3)
        self.assertEqual(addition_words(made, names, 4.0), "add ½ titanium white and 1 ultramarine to 4 parts of it.")
        self.assertIn("put half aside, then add", addition_words(replace(made, halve=True), names, 4.0))
        self.assertIn("to 2 parts", addition_words(replace(made, halve=True), names, 4.0))
        self.assertIn("leave it", addition_words(replace(made, added=()), names, 4.0))


class Changed(unittest.TestCase):
    def test_another_background_late_costs_its_edges_its_strays_and_days(self):
        results, made = Results(), edits.set_days(demo_project("fox"), start="2026-03-02")
        planned = plan_of(results, [made], NOW)
        rows = [
            Laid(task.key, iso(planned.diary.at(a)), iso(planned.diary.at(b)))
            for k, task in enumerate(planned.layout.problem.tasks)
            if task.kind not in ("touch-up", "photograph", "varnish", "hand-over", "look")
            for a, b in planned.plan.pieces[k]
        ]
        last = max(row.end for row in rows)
        done = edits.mark_done(made, rows)
        background = next(zone for zone in made.zones if zone.name == "Background")
        with mock.patch.dict(os.environ, {"FOXPATH_NOW": last}):
            impact = AskChange(results, done, (background.id,))(SILENT)
            nothing = AskChange(results, made, (background.id,))(SILENT)
            dated = edits.set_days(done, deadline=f"{impact.before:%Y-%m-%d}")
            late = AskChange(results, dated, (background.id,))(SILENT)
        tasks = {row.task for row in rows}
        self.assertTrue(set(impact.again) <= tasks)
        self.assertTrue(any(key.startswith("background") for key in impact.again))
        self.assertFalse([key for key in impact.again if key.startswith(("eye.", "highlights"))])
        self.assertIn("Near ear", impact.borders)
        self.assertTrue(impact.piles)
        self.assertGreater(impact.minutes, 15)
        self.assertGreater(impact.days, 0)
        self.assertIn(f"{impact.days} days later", impact.words())
        self.assertEqual((nothing.again, nothing.minutes), ((), 0))
        self.assertIn("costs no time", nothing.words())
        self.assertFalse(impact.late)
        self.assertTrue(late.late)
        self.assertIn("date is missed", late.words())


if __name__ == "__main__":
    unittest.main()
