"""The tasks of a painting: what lies between them follows from the passes, their paint and the eyes."""

import unittest
from dataclasses import replace
from itertools import pairwise

import numpy as np

from foxpath.core.days.problem import Problem
from foxpath.core.days.studio import Days, DryNote, Laid
from foxpath.core.mixes.tubes import KeptTube
from foxpath.core.passes import Veil
from foxpath.core.progress.touches import Touch
from foxpath.core.units import CanvasSize
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.days.tasks import WHOLE, belief_of, touch_key, work_of
from foxpath.derive.passes.plan import passes_of
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


def tasks_of(results, made, days=None, name=""):
    work = work_of(results, made, days, name)
    return work.tasks, work.relations


class OfASquare(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.project, cls.results = project(), Results()
        cls.tasks, cls.relations = tasks_of(cls.results, cls.project)

    def ids(self, kind):
        return [task.id for task in self.tasks if task.kind == kind]

    def lags(self, kind, relations=None):
        return {(r.before, r.after): r for r in (relations or self.relations) if r.kind == kind}

    def test_nothing_waits_for_itself(self):
        self.assertEqual(len(Problem(self.tasks, self.relations, []).order), len(self.tasks))
        ids = [task.id for task in self.tasks]
        self.assertEqual(len(ids), len(set(ids)))
        self.assertTrue(all(r.before in ids and r.after in ids for r in self.relations))

    def test_each_is_named_by_what_is_done(self):
        words = {task.key: task.words for task in self.tasks}
        told = {
            "support": "support",
            "sand": "sanding",
            "drawing": "drawing",
            "piles": "piles of the palette",
            "touch-ups": "touch-ups",
        }
        self.assertEqual({key: words[key] for key in told}, told)
        self.assertEqual(words["ground"], "ground of the whole canvas")
        made = edits.set_days(self.project, drawn_out=True)
        papers = [task.words for task in tasks_of(self.results, made)[0] if task.key.startswith("paper.")]
        self.assertTrue(papers)
        self.assertTrue(all(one.startswith("oil drawn out of the paint for ") for one in papers), papers)

    def test_every_minute_of_every_pass_is_there(self):
        for plan in passes_of(self.results, self.project):
            if not plan.on or plan.role.act == "ground":
                continue
            mine = sum(t.minutes for t in self.tasks if t.kind == "paint" and t.act == plan.role.name)
            planned = sum(one.minutes for one in plan.estimates.values())
            if planned:
                self.assertAlmostEqual(mine, planned, delta=len(plan.zones) + 1)

    def test_the_next_oil_layer_waits_until_the_one_beneath_is_dry(self):
        dry = self.lags("touch_dry")
        under, lights = (next(t.id for t in self.tasks if f":{key}." in t.id) for key in ("undercoat", "lights"))
        between = [r for (a, b), r in dry.items() if b == lights]
        self.assertTrue(between)
        self.assertTrue(any(a == under or "restated" in a for a, b in dry if b == lights))
        self.assertTrue(all(10 < r.low_h < 400 for r in between))

    def test_varnish_waits_for_a_rest_and_for_every_stroke(self):
        (varnish,) = self.ids("varnish")
        rests, dry = self.lags("rest"), self.lags("touch_dry")
        for task in self.tasks:
            if task.kind in ("paint", "touch-up") and not task.id.endswith(":ground"):
                self.assertIn((task.id, varnish), rests, task.id)
                self.assertIn((task.id, varnish), dry, task.id)
        self.assertEqual({r.low_h for r in rests.values()}, {720.0})

    def test_a_veil_has_a_task_a_coat_and_each_waits_for_the_one_beneath(self):
        zone = next(z.id for z in self.project.zones if z.name == "Square")
        made, key = edits.add_veil(self.project, Veil(coats=3), zone)
        tasks, relations = tasks_of(self.results, made)
        mine = [task for task in tasks if f":{key}." in task.id]
        self.assertEqual([task.act for task in mine], ["Glaze", "Glaze, coat 2", "Glaze, coat 3"])
        dry = self.lags("touch_dry", relations)
        for one, other in pairwise(mine):
            self.assertGreater(dry[one.id, other.id].low_h, 5)
        lights = next(task.id for task in tasks if ":highlights." in task.id)
        self.assertIn((mine[-1].id, lights), dry)
        self.assertNotIn((mine[0].id, lights), dry)
        self.assertEqual(len(Problem(tasks, relations, []).order), len(tasks))

    def test_row_by_row_each_pass_is_through_before_the_next(self):
        tasks, relations = tasks_of(self.results, edits.set_way(self.project, "work", "rows"))
        said = [(r.before, r.after) for r in relations if r.kind == "after"]
        painted = [plan.role.key for plan in passes_of(self.results, self.project) if plan.role.act != "ground"]
        for lower, upper in pairwise(painted):
            last = [task.id for task in tasks if f":{lower}." in task.id]
            first = [task.id for task in tasks if f":{upper}." in task.id]
            if last and first:
                self.assertIn((last[-1], first[0]), said)
        self.assertEqual(len(Problem(tasks, relations, []).order), len(tasks))

    def test_unvarnished_it_goes_without(self):
        tasks, relations = tasks_of(self.results, self.project, Days(varnish=False))
        self.assertFalse([t for t in tasks if t.kind == "varnish"])
        self.assertFalse(self.lags("rest", relations))
        hand = next(t.id for t in tasks if t.kind == "hand-over")
        self.assertTrue([1 for (_, b) in self.lags("touch_dry", relations) if b == hand])

    def test_what_is_wanted_wet_has_a_window(self):
        for r in self.lags("while_open").values():
            self.assertIsNotNone(r.high_h)
            self.assertGreater(r.extra_min, 0)
            self.assertTrue(r.why)
        (piles,) = self.ids("mixing")
        self.assertTrue(all(r.high_h == 48 for (a, _), r in self.lags("mixed").items() if a == piles))

    def test_alkyd_warmth_and_thin_paint_shorten_the_waits(self):
        def waits(wishes):
            return sum(
                r.low_h for r in self.lags("touch_dry", tasks_of(self.results, self.project, wishes)[1]).values()
            )

        usual = waits(Days())
        for wishes in (Days(alkyd=0.2), Days(celsius=26), Days(film=0.5), Days(careful="likely")):
            self.assertLess(waits(wishes), 0.95 * usual, wishes)
        for wishes in (Days(humidity=80), Days(dark=True), Days(careful="sure")):
            self.assertGreater(waits(wishes), usual, wishes)

    def test_acrylic_dries_within_the_evening(self):
        tubes = [replace(one, system="acrylic") for one in self.project.mixes.tubes]
        _, relations = tasks_of(self.results, edits.take_tubes(self.project, tubes))
        self.assertLess(max(r.low_h for r in self.lags("touch_dry", relations).values()), 3)

    def test_slow_pigments_wait_longer(self):
        fast = edits.take_tubes(self.project, [KeptTube(key) for key in ("PBr7-BU", "PBr7-BS", "PB28", "PBr7-RU")])
        slow = edits.take_tubes(self.project, [KeptTube(key) for key in ("PW6", "PV19", "PY35", "PBk9")])

        def longest(made):
            return max(r.low_h for r in self.lags("touch_dry", tasks_of(self.results, made)[1]).values())

        self.assertLess(1.5 * longest(fast), longest(slow))

    def test_a_prepared_support_and_another_name(self):
        tasks, _ = tasks_of(self.results, self.project, Days(prepared=True), "Second")
        self.assertFalse([t for t in tasks if t.act == "Preparation"])
        self.assertTrue(all(t.painting == "Second" and t.id.startswith("Second:") for t in tasks))

    def test_an_empty_plan_still_ends(self):
        bare = project(zones=False)
        tasks, relations = tasks_of(Results(), bare)
        self.assertEqual(len(Problem(tasks, relations, []).order), len(tasks))
        self.assertTrue([t for t in tasks if t.kind == "hand-over"])

    def test_paint_stays_open_as_long_as_its_quickest_pile_and_is_dry_when_its_slowest_is(self):
        work = work_of(self.results, self.project)
        lights = next(key for key in work.layers if ":lights." in key)
        layer = work.layers[lights]
        self.assertTrue(layer.pile)
        self.assertTrue(layer.name)
        # One pile alone would be open a quarter of the time it takes to dry.
        self.assertLess(layer.times.open, 0.25 * layer.times.touch)
        self.assertEqual(work.roles[lights], "lights")
        self.assertTrue(work.zones[lights])

    def test_the_slowest_layers_are_named_for_the_finger(self):
        work = work_of(self.results, self.project)
        touch = {key: layer.times.touch for key, layer in work.layers.items()}
        self.assertEqual(len(work.slowest), 3)
        self.assertEqual(touch[work.slowest[0]], max(touch.values()))

    def test_a_pass_that_is_dropped_is_said_and_what_lay_on_it_lies_on_what_was_beneath(self):
        work = work_of(self.results, self.project, Days(dropped=("restated", "ground")))
        self.assertEqual({task.act for task in work.dropped}, {"Restated darks"})
        self.assertFalse([task for task in work.tasks if task.act == "Restated darks"])
        # The ground cannot go.
        self.assertTrue([task for task in work.tasks if task.act == "Ground"])
        lights = next(task.id for task in work.tasks if ":lights." in task.id)
        before = [r.before for r in work.relations if r.after == lights and r.kind == "touch_dry"]
        self.assertTrue(any(":undercoat." in key for key in before))
        self.assertEqual(work_of(self.results, self.project).dropped, ())

    def test_acrylic_under_the_oil_dries_at_once_and_takes_no_wet_paint(self):
        work = work_of(self.results, self.project, Days(acrylic_under=True))
        dry = {r.before: r.low_h for r in work.relations if r.kind == "touch_dry"}
        under = [key for key in dry if ":darks." in key or ":undercoat." in key]
        self.assertTrue(under)
        self.assertTrue(all(dry[key] < 3 for key in under))
        self.assertFalse([r for r in work.relations if r.kind == "while_open" and ":darks." in r.before])
        self.assertGreater(max(dry.values()), 100)

    def test_oil_is_drawn_out_of_thick_paint_where_it_is_wished(self):
        def papers(days):
            return [task for task in work_of(self.results, self.project, days).tasks if task.act == "Oil drawn out"]

        self.assertEqual(papers(Days()), [])
        self.assertTrue(papers(Days(drawn_out=True)))
        work = work_of(self.results, self.project, Days(drawn_out=True))
        lag = next(r for r in work.relations if r.before == papers(Days(drawn_out=True))[0].id)
        self.assertEqual((lag.kind, lag.low_h, lag.high_h), ("mixed", 0.5, 24.0))

    def test_the_support_is_coated_twice_and_sanded_when_it_is_dry(self):
        tasks = {task.key: task for task in self.tasks}
        self.assertTrue({"support", "coat-1", "coat-2", "sand"} <= set(tasks))
        lags = {(r.before.split(":")[1], r.after.split(":")[1]): r for r in self.relations}
        self.assertGreaterEqual(lags["support", "coat-1"].low_h, 4)
        self.assertEqual(lags["coat-1", "coat-2"].kind, "touch_dry")
        self.assertGreater(lags["coat-2", "sand"].low_h, 3)


class Learned(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.project, cls.results = project(), Results()
        cls.usual = work_of(cls.results, cls.project)
        cls.key = next(task.key for task in cls.usual.tasks if ":undercoat." in task.id)
        cls.layer = cls.usual.layers[f"Blob:{cls.key}"]

    def note(self, tacky=0.0, dry=0.0, **given):
        def at(hours):
            return f"2026-03-{2 + int((20 + hours) // 24):02d}T{int((20 + hours) % 24):02d}:00" if hours else ""

        return DryNote(
            self.key,
            self.layer.pile,
            self.layer.name,
            self.layer.typical_h,
            "2026-03-02T20:00",
            at(tacky),
            at(dry),
            **given,
        )

    def touch(self, days):
        return work_of(self.results, self.project, days).layers[f"Blob:{self.key}"].times

    def test_paint_found_dry_early_is_taken_to_dry_sooner_and_surer(self):
        hours = round(self.layer.typical_h / 2)
        days = Days(notes=(self.note(tacky=hours - 2, dry=hours),))
        self.assertLess(self.touch(days).touch, 0.85 * self.layer.times.touch)
        self.assertLess(self.touch(days).sd, self.layer.times.sd)
        slow = Days(earlier=(self.note(tacky=round(1.8 * self.layer.typical_h), dry=round(2 * self.layer.typical_h)),))
        self.assertGreater(self.touch(slow).touch, 1.15 * self.layer.times.touch)

    def test_notes_of_another_pile_teach_the_studio_only(self):
        hours = round(self.layer.typical_h / 2)
        own = belief_of(Days(notes=(self.note(tacky=hours - 2, dry=hours),)))
        other = belief_of(Days(notes=(replace(self.note(tacky=hours - 2, dry=hours), pile="PG7"),)))
        self.assertLess(own.factor(self.layer.pile)[0], other.factor(self.layer.pile)[0])
        self.assertLess(other.factor(self.layer.pile)[0], 0)
        self.assertEqual(belief_of(Days()).factor("")[0], 0.0)

    def test_what_a_finger_said_of_this_very_layer_is_what_the_next_waits_for(self):
        done = (Laid(self.key, "2026-03-02T19:15", "2026-03-02T20:00"),)

        def waits(*notes):
            work = work_of(self.results, self.project, Days(done=done, notes=notes))
            return {r.low_h for r in work.relations if r.before == f"Blob:{self.key}" and r.kind == "touch_dry"}

        self.assertEqual(waits(self.note(dry=9.0)), {9.0})
        late = 3 * round(self.layer.times.touch)
        self.assertGreaterEqual(min(waits(self.note(tacky=late))), 1.15 * late)
        # Not painted yet: the note is of nothing.
        work = work_of(self.results, self.project, Days(notes=(self.note(dry=9.0),)))
        self.assertGreater(
            min(r.low_h for r in work.relations if r.before == f"Blob:{self.key}" and r.kind == "touch_dry"), 9.0
        )


class OfTheFox(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.made, cls.results = demo_project("fox"), Results()

    def test_eyes_have_steps_of_their_own_on_their_dark_lay_in(self):
        made, results = self.made, self.results
        tasks, relations = tasks_of(results, made)
        self.assertEqual(len(Problem(tasks, relations, []).order), len(tasks))
        self.assertTrue(40 <= len(tasks) <= 70)
        eyes = [t.id for t in tasks if t.kind == "eye"]
        self.assertEqual(len(eyes), 6)
        build = next(key for key in eyes if key.endswith(".build"))
        under = [r.before for r in relations if r.after == build]
        self.assertTrue(under)
        self.assertFalse([key for key in under if "highlights" in key])
        soft = next(r for r in relations if r.before == build and r.kind == "tacky")
        self.assertEqual((soft.low_h, soft.high_h), (1.0, 6.0))
        areas = [t for t in tasks if t.kind == "paint" and ":undercoat" in t.id]
        self.assertTrue(all(t.minutes >= 15 for t in areas))
        # No coat is laid over an eye that is painted in steps of its own.
        work = work_of(results, made)
        names = [zone.name for zone in made.back_to_front()]
        coated = {names[k] for key, zones in work.zones.items() for k in zones if ":lights." in key}
        self.assertIn("Forehead", coated)
        self.assertFalse(coated & {"Near eye", "Far eye"})

    def test_whiskers_wait_for_no_thick_light(self):
        made, results = self.made, self.results
        _, relations = tasks_of(results, made)
        into = [r for r in relations if ":whiskers." in r.after]
        self.assertTrue(into)
        self.assertEqual({(r.kind, r.low_h) for r in into}, {("after", 24.0)})


class AreaByArea(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results = Results()
        made = edits.set_school(project(), "one-sitting")
        # Large enough to be worked on one by one.
        for name, left in (("Left", 2.0), ("Right", 160.0)):
            box = np.array([[left, 20.0], [left + 36, 20], [left + 36, 140], [left, 140]])
            made, _ = edits.add_zone(made, name, "long-fur", box)
        cls.made = edits.set_canvas(made, CanvasSize(800, 640))
        cls.work = work_of(cls.results, cls.made)

    def test_an_area_is_carried_through_before_the_next_is_begun(self):
        names = [zone.name for zone in self.made.back_to_front()]
        tasks = [
            task
            for task in self.work.tasks
            if task.kind == "paint" and self.work.roles[task.id] in ("undercoat", "restated", "lights")
        ]
        areas = {task.part for task in tasks}
        self.assertGreater(len(areas), 1, names)
        after = {}
        for relation in self.work.relations:
            after.setdefault(relation.after, set()).add(relation.before)

        def waits(task, seen=None):
            seen = set() if seen is None else seen
            for one in after.get(task, ()):
                if one not in seen:
                    seen.add(one)
                    waits(one, seen)
            return seen

        last = {part: [t.id for t in tasks if t.part == part][-1] for part in areas}
        first = {part: next(t.id for t in tasks if t.part == part) for part in areas}
        order = sorted(areas, key=lambda part: len(waits(first[part])))
        for one, other in pairwise(order):
            self.assertIn(last[one], waits(first[other]))

    def test_every_pass_has_the_same_areas_and_every_minute_is_there(self):
        for plan in passes_of(self.results, self.made):
            if plan.role.key in ("undercoat", "lights"):
                mine = [t for t in self.work.tasks if t.kind == "paint" and self.work.roles[t.id] == plan.role.key]
                planned = sum(
                    m.minutes for k, m in plan.estimates.items() if self.made.back_to_front()[k].kind != "eye"
                )
                self.assertAlmostEqual(
                    sum(t.minutes for t in mine), planned, delta=len(mine) + plan.estimates[1].minutes
                )
        parts = [
            {t.part for t in self.work.tasks if t.kind == "paint" and self.work.roles.get(t.id) == key}
            for key in ("undercoat", "lights")
        ]
        self.assertEqual(*parts)

    def test_nothing_waits_for_itself(self):
        self.assertEqual(len(Problem(self.work.tasks, self.work.relations, []).order), len(self.work.tasks))


class TouchUps(unittest.TestCase):
    """What is to be mended is a task of its own, after what lies there and before what is still to come."""

    @classmethod
    def setUpClass(cls):
        cls.results, cls.made = Results(), project()
        cls.square = cls.made.zones[1].id

    def work(self, done=(), zone=None, **touch):
        """Its task where some keys are painted, None without; those that paint its part; what it waits for, and what waits for it."""
        made = edits.say_touch(
            self.made, Touch("", "value", self.square if zone is None else zone, (60.0, 50.0), **touch)
        )
        rows = tuple(Laid(key, "2026-03-02T18:00", "2026-03-02T19:00") for key in done)
        work = work_of(self.results, replace(made, days=replace(made.days, done=rows)))
        mine = next((t for t in work.tasks if t.id.endswith(f":{touch_key(made.touches[0].id)}")), None)
        index = next(k for k, one in enumerate(made.back_to_front()) if one.id == self.square)
        painted = [t.id for t in work.tasks if t.kind in ("paint", "eye", "blend")]
        paint = [one for one in painted if zone == "" or index in work.zones[one]]
        task = mine.id if mine else ""
        before = {r.before: r for r in work.relations if r.after == task}
        return mine, paint, before, {r.after: r for r in work.relations if r.before == task}

    def keys(self, ids):
        return [one.split(":", 1)[1] for one in ids]

    def test_on_a_part_that_is_not_painted_yet_it_comes_when_the_part_is_finished(self):
        task, paint, before, after = self.work(minutes=12)
        self.assertEqual((task.kind, task.act, task.part, task.minutes), ("touch-up", "Touch-up", "Square", 12))
        self.assertGreater(len(paint), 3)
        self.assertEqual(set(before), {paint[-1]})
        self.assertEqual((before[paint[-1]].kind, before[paint[-1]].low_h), ("after", 0))
        self.assertFalse(set(after) & set(paint))

    def test_on_what_is_painted_it_comes_at_once_and_the_rest_waits_for_it_to_dry(self):
        _, paint, _, _ = self.work()
        _, _, before, after = self.work(self.keys(paint[:2]))
        self.assertEqual(set(before), {paint[1]})
        self.assertEqual({one for one in after if one in paint}, set(paint[2:]))
        self.assertEqual({after[one].kind for one in paint[2:]}, {"touch_dry"})
        _, _, before, after = self.work(self.keys(paint))
        self.assertEqual(set(before), {paint[-1]})
        self.assertFalse(set(after) & set(paint))

    def test_where_it_must_be_dry_first_it_waits_for_that(self):
        _, paint, before, _ = self.work(self.keys(self.work()[1]), dry=True)
        (lag,) = before.values()
        self.assertEqual((lag.before, lag.kind), (paint[-1], "touch_dry"))
        self.assertGreater(lag.low_h, 10)

    def test_one_of_the_whole_canvas_comes_after_all_that_is_painted(self):
        task, paint, before, _ = self.work(zone="")
        self.assertEqual(task.part, WHOLE)
        self.assertEqual(set(before), {paint[-1]})
        self.assertGreater(len(paint), len(self.work()[1]))

    def test_struck_out_it_is_none_and_done_it_stays_for_the_day_it_was_done(self):
        for word in ("struck", "leave", "done"):
            self.assertIsNone(self.work(word=word)[0], word)
        made = edits.say_touch(self.made, Touch("", "value", self.square, (60.0, 50.0)))
        self.assertIsNotNone(self.work([touch_key(made.touches[0].id)], word="done")[0])

    def test_varnish_waits_for_it(self):
        made = edits.say_touch(self.made, Touch("", "value", self.square, (60.0, 50.0)))
        tasks, relations = tasks_of(self.results, made)
        (varnish,) = [t.id for t in tasks if t.kind == "varnish"]
        (touch,) = [t.id for t in tasks if t.id.endswith(f":{touch_key(made.touches[0].id)}")]
        for kind, low_h in (("touch_dry", 10), ("rest", 100)):
            lags = {(r.before, r.after): r.low_h for r in relations if r.kind == kind}
            self.assertGreater(lags[touch, varnish], low_h)
        (look,) = [t.id for t in tasks if t.id.endswith(":look.end")]
        self.assertIn((touch, look), {(r.before, r.after) for r in relations})
