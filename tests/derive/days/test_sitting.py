"""One sitting in words, the state of the paint, and the strands of the weeks."""

import unittest
from dataclasses import replace
from datetime import datetime, timedelta

from foxpath.core.days.studio import DryNote, Laid
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.days.plan import plan_of
from foxpath.derive.days.reading import shown_of
from foxpath.derive.days.sitting import areas_at, one_line, sittings_of
from foxpath.derive.days.strands import MOST, groups_of, strand_of, strands_of
from foxpath.derive.handout.days import forecast_words, lost_words, off_words, sitting_sheet
from foxpath.derive.lengths.facts import facts_of
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember

NOW = datetime(2026, 3, 2, 12)


class OfASquare(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.project = Results(), edits.set_days(project(), start="2026-03-02")
        cls.planned = plan_of(cls.results, [cls.project], NOW)
        cls.sittings = sittings_of(cls.results, cls.project, cls.planned)

    def place(self, begin):
        return next(k for k, t in enumerate(self.planned.layout.problem.tasks) if t.key.startswith(begin))

    def test_steps_are_in_order_and_fill_the_sittings_they_say(self):
        for one in self.sittings:
            begins = [step.begin for step in one.steps]
            self.assertEqual(begins, sorted(begins))
            self.assertTrue(one.begin < one.work[0] <= begins[0])
            self.assertTrue(one.steps[-1].end <= one.work[1] < one.end)
            self.assertTrue(all((s.end - s.begin).total_seconds() / 60 == s.minutes for s in one.steps))
        self.assertEqual([one.number for one in self.sittings], list(range(1, len(self.sittings) + 1)))
        self.assertEqual(len(sittings_of(self.results, self.project, self.planned, 2)), 2)

    def test_what_is_painted_names_its_piles_and_brushes_and_what_must_be_wet(self):
        steps = {step.act: step for one in self.sittings for step in one.steps}
        self.assertRegex(steps["Top coat"].piles, r"^\d+ ")
        self.assertIn("mm", steps["Top coat"].brush)
        self.assertEqual((steps["Drawing"].piles, steps["Drawing"].brush), ("", ""))
        self.assertRegex(steps["Midtones"].note, r"darks of .* still wet, until \w{3} \d\d:\d\d")

    def test_the_paint_is_wet_then_tacky_then_dry(self):
        layout, diary = self.planned.layout, self.planned.diary
        k = self.place("undercoat")
        laid = self.planned.plan.end(k)
        times = layout.works[0].layers[layout.problem.tasks[k].id].times
        states = []
        for hours in (0.1, times.early(times.open) - 0.1, times.early(times.open) + 0.1, times.late(times.touch) - 0.1):
            area = next(one for one in areas_at(layout, diary, laid + 60 * hours) if one.task == k)
            states.append(area.state)
            self.assertGreater(area.until, diary.at(laid + 60 * hours))
        self.assertEqual(states, ["wet", "wet", "tacky", "tacky"])
        later = [one for one in areas_at(layout, diary, laid + 60 * (times.late(times.touch) + 0.1)) if one.task == k]
        self.assertEqual([one.state for one in later], ["dry"] * len(later))
        self.assertEqual(areas_at(layout, diary, 0), [])

    def test_a_finger_that_said_dry_is_believed(self):
        layout, diary = self.planned.layout, self.planned.diary
        k = self.place("undercoat")
        key, laid = layout.problem.tasks[k].key, self.planned.plan.end(k)
        begin = diary.at(laid)
        note = DryNote(key, "PW6", "white", 30.0, begin.isoformat(), "", (begin + timedelta(hours=3)).isoformat())
        noted = replace(layout, days=replace(layout.days, notes=(note,)))
        area = next(one for one in areas_at(noted, diary, laid + 240) if one.task == k)
        self.assertEqual((area.state, area.until), ("dry", None))

    def test_the_hand_is_kept_off_what_is_not_dry_and_not_painted_here(self):
        found = [one for one in self.sittings if one.keep_off]
        for one in found:
            here = {
                z
                for s in one.steps
                for z in self.planned.layout.works[0].zones[self.planned.layout.problem.tasks[s.task].id]
            }
            self.assertFalse({area.zone for area in one.keep_off} & here)
            self.assertTrue(all(area.state in ("wet", "tacky") for area in one.keep_off))
            self.assertRegex(off_words(self.project, one.keep_off[0]), r"^\w.*: (wet|tacky)")

    def test_the_stop_rule_lies_before_the_end(self):
        for one in self.sittings:
            hour, minute = one.stop.rstrip(".")[-5:].split(":")
            self.assertLess(one.begin.replace(hour=int(hour), minute=int(minute)), one.work[1])

    def test_in_one_line(self):
        first = self.sittings[0]
        words = one_line(self.planned, self.project, NOW)
        self.assertTrue(words.startswith("Tonight, 19:00: "), words)
        day_before = one_line(self.planned, self.project, first.begin - timedelta(days=1))
        self.assertTrue(day_before.startswith("Tomorrow, 19:00: "))
        self.assertTrue(
            one_line(self.planned, self.project, first.begin - timedelta(days=3)).startswith(f"{first.begin:%a %d %b}")
        )
        self.assertEqual(one_line(self.planned, self.project, datetime(2030, 1, 1)), "Nothing is left to paint.")
        lights = next(one for one in self.sittings if any(step.act == "Top coat" for step in one.steps))
        self.assertIn("top coat of", one_line(self.planned, self.project, lights.begin - timedelta(hours=1)))

    def test_its_sheet_says_all_of_it(self):
        one = next(s for s in self.sittings if any(step.act == "Top coat" for step in s.steps))
        sheet = sitting_sheet(self.project, one)
        self.assertEqual(len(sheet.steps), len(one.steps))
        self.assertIn(one.stop, sheet.rules)
        self.assertTrue(any(line.startswith("piles ") for row in sheet.steps for line in row.lines))
        self.assertIn("rags", sheet.foot)
        self.assertEqual(forecast_words(self.planned, self.project, None), "")

    def test_lost_windows_are_named_with_their_minutes(self):
        lost = replace(self.planned, plan=replace(self.planned.plan, lost=frozenset({
            k for k, r in enumerate(self.planned.layout.problem.relations) if r.kind == "while_open"
        })))  # fmt: skip
        words = lost_words(lost)
        self.assertTrue(words)
        self.assertTrue(all("minutes to restate" in one for one in words))
        self.assertEqual(lost_words(replace(lost, plan=replace(lost.plan, lost=frozenset()))), [])


class Piles(unittest.TestCase):
    def test_states_of_a_pile_come_in_order_each_with_its_doubt(self):
        results, made = Results(), edits.set_days(project(), start="2026-03-02")
        close = shown_of(results, made, plan_of(results, [made], NOW), {}, NOW)
        self.assertEqual([one.days for one in close.piles], sorted((one.days for one in close.piles), reverse=True))
        states = close.piles[0].states()
        self.assertEqual([name for name, *_ in states], ["open", "soft", "touch-dry", "through-dry", "cured"])
        for _, early, middle, late in states:
            self.assertTrue(early < middle < late)
            self.assertAlmostEqual(early * late, middle * middle, delta=1e-6 * middle * middle)
        self.assertEqual(sorted(middle for _, _, middle, _ in states), [middle for _, _, middle, _ in states])
        # One of ten to nine of ten: a spread of 0.4 is 0.60 to 1.67 times the middle.
        self.assertAlmostEqual(states[0][1] / states[0][2], 0.60, delta=0.02)
        self.assertEqual((close.noted, close.studio), (0, 1.0))


class Strands(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.project = Results(), edits.set_days(project(), start="2026-03-02")
        cls.planned = plan_of(cls.results, [cls.project], NOW)

    def test_wet_then_tacky_without_overlap(self):
        layout, plan = self.planned.layout, self.planned.plan
        for one in strands_of(self.project, facts_of(self.results, self.project), layout, plan):
            spans = sorted((*one.wet, *one.tacky))
            self.assertTrue(one.wet)
            self.assertTrue(all(a[1] <= b[0] + 1e-6 for a, b in zip(spans, spans[1:], strict=False)))
            self.assertTrue(all(a < b for a, b in spans))
            first = min(
                plan.pieces[k][0][0]
                for k, t in enumerate(layout.problem.tasks)
                if set(one.zones) & set(layout.works[0].zones[t.id])
            )
            self.assertEqual(spans[0][0], first)
        self.assertEqual(strand_of(layout, plan, "nothing", (99,)).wet, ())

    def test_a_few_groups_hold_every_part_once(self):
        made, results = demo_project("jay"), Results()
        facts = facts_of(results, made)
        zones = list(range(len(made.zones)))
        groups = groups_of(made, facts, zones)
        self.assertEqual(len(groups), MOST)
        self.assertEqual(sorted(k for _, mine in groups for k in mine), zones)
        self.assertEqual(groups[0][0], "Background")
        few = groups_of(made, facts, zones[:3])
        self.assertEqual([mine for _, mine in few], [(0,), (1,), (2,)])

    def test_forty_parts_are_as_few(self):
        made = project(zones=False)
        import numpy as np

        for k in range(40):
            x, y = 4 + 24 * (k % 8), 4 + 30 * (k // 8)
            made, _ = edits.add_zone(
                made, f"part {k}", "short-fur", np.array([[x, y], [x + 20, y], [x + 20, y + 24], [x, y + 24]], float)
            )
        groups = groups_of(made, facts_of(Results(), made), range(len(made.zones)))
        self.assertEqual(len(groups), MOST)
        sizes = [len(mine) for _, mine in groups]
        self.assertEqual(sum(sizes), len(made.zones))
        self.assertLess(max(sizes), 20)


class Empty(unittest.TestCase):
    def test_what_is_done_is_no_longer_in_a_sitting(self):
        results, made = Results(), edits.set_days(project(), start="2026-03-02")
        done = edits.mark_done(made, [Laid("support", "2026-03-02T08:00", "2026-03-02T09:00")])
        planned = plan_of(results, [done], NOW)
        acts = [step.part for one in sittings_of(results, done, planned) for step in one.steps]
        self.assertNotIn("Support", acts)
        self.assertIn("Ground coat", acts)


if __name__ == "__main__":
    unittest.main()
