"""The tasks of a painting: what lies between them follows from the passes, their paint and the eyes."""

import unittest
from dataclasses import replace

from foxpath.core.days.tasks import circle
from foxpath.core.mixes.tubes import KeptTube
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.days.tasks import Wishes, tasks_of
from foxpath.derive.passes.plan import passes_of
from foxpath.document import edits
from tests.made import project


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
        self.assertEqual(circle(self.tasks, self.relations), ())
        ids = [task.id for task in self.tasks]
        self.assertEqual(len(ids), len(set(ids)))
        self.assertTrue(all(r.before in ids and r.after in ids for r in self.relations))

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

    def test_unvarnished_it_goes_without(self):
        tasks, relations = tasks_of(self.results, self.project, Wishes(rest_days=None))
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

        usual = waits(Wishes())
        for wishes in (Wishes(alkyd=0.2), Wishes(celsius=26), Wishes(film=0.5)):
            self.assertLess(waits(wishes), 0.95 * usual, wishes)
        self.assertGreater(waits(Wishes(humidity=80)), usual)

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
        tasks, _ = tasks_of(self.results, self.project, Wishes(prepared=True), "Second")
        self.assertFalse([t for t in tasks if t.act == "Preparation"])
        self.assertTrue(all(t.painting == "Second" and t.id.startswith("Second:") for t in tasks))

    def test_an_empty_plan_still_ends(self):
        bare = project(zones=False)
        tasks, relations = tasks_of(Results(), bare)
        self.assertEqual(circle(tasks, relations), ())
        self.assertTrue([t for t in tasks if t.kind == "hand-over"])


class OfTheFox(unittest.TestCase):
    def test_eyes_have_steps_of_their_own_on_their_dark_lay_in(self):
        made, results = demo_project("fox"), Results()
        tasks, relations = tasks_of(results, made)
        self.assertEqual(circle(tasks, relations), ())
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


if __name__ == "__main__":
    unittest.main()
