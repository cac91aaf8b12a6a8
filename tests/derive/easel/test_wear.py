"""Brushes and what they have been through, by the log."""

import unittest
from dataclasses import replace
from datetime import datetime, timedelta

from foxpath.core.errors import InputError
from foxpath.core.lengths import Brush
from foxpath.core.log.entries import Entry
from foxpath.derive import Results
from foxpath.derive.easel.wear import Served, served
from foxpath.derive.passes.plan import passes_of
from foxpath.document import archive, edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember

EVENING = datetime(2026, 3, 2, 19, 0)


def painted(made, *steps):
    """Return a project whose log tells steps one after the other: (pass, part, minutes, how each ended)."""
    moment = EVENING
    made = edits.tell(made, "begin", moment)
    for name, part, minutes, how in steps:
        made = edits.begin_step(made, Entry("", "step", "", "x.z", "x.z/0", part, name), moment)
        moment += timedelta(minutes=minutes)
        made = edits.end_step(made, how, moment, finishes=False)
    return edits.tell(made, "end", moment)


class Wear(unittest.TestCase):
    def setUp(self):
        self.results, self.made = Results(), project()
        self.plans = {plan.role.key: plan for plan in passes_of(self.results, self.made)}
        self.place = next(k for k, zone in enumerate(self.made.back_to_front()) if zone.name == "Square")

    def brush(self, key):
        return self.plans[key].brushes[self.place].brush

    def test_minutes_go_to_the_brush_that_the_pass_took_for_the_part(self):
        lights, undercoat = self.plans["lights"].role.name, self.plans["undercoat"].role.name
        made = painted(
            self.made, (lights, "Square", 30, "done"), (undercoat, "Square", 20, "part"), (lights, "Square", 25, "part"),
            ("No such pass", "Square", 50, "done"), (lights, "Gone", 50, "done"),
        )  # fmt: skip
        told = {one.brush: one.minutes for one in served(self.results, made)}
        self.assertAlmostEqual(sum(told.values()), 75)
        wanted = {self.brush("lights"): 55.0}
        wanted[self.brush("undercoat")] = wanted.get(self.brush("undercoat"), 0.0) + 20
        self.assertEqual(set(told), set(wanted))
        for one, minutes in wanted.items():
            self.assertAlmostEqual(told[one], minutes)
        first = served(self.results, made)[0]
        self.assertEqual((made.kit[first.index], first.minutes), (first.brush, max(told.values())))
        self.assertEqual(served(self.results, self.made), ())

    def test_a_painting_is_counted_once(self):
        made = painted(self.made, (self.plans["lights"].role.name, "Square", 30, "done"))
        index = served(self.results, made)[0].index
        counted = edits.count_served(made, [index])
        self.assertEqual([one.wear for one in counted.kit], [int(k == index) for k in range(len(made.kit))])
        for wrong, brushes in ((counted, [index]), (made, [])):
            with self.assertRaises(InputError):
                edits.count_served(wrong, brushes)
        self.assertTrue(archive.from_bytes(archive.to_bytes(counted), "x").easel.counted)
        full = replace(made, kit=(replace(made.kit[0], wear=99),))
        self.assertEqual(edits.count_served(full, [0]).kit[0].wear, 99)

    def test_a_fine_tip_is_to_be_tried_when_it_has_served_long(self):
        fine = Brush("round", 1.5, wear=5)
        self.assertEqual(Served(0, fine, 80.0).words(), "1 h 20 here, 5 paintings before · try its tip on paper")
        for other in (replace(fine, wear=4), replace(fine, width_mm=3.1), replace(fine, state="worn")):
            self.assertNotIn("try", Served(0, other, 80.0).words())
        self.assertEqual(Served(0, Brush("round", 3.0), 20.0).words(), "20 min here")
        self.assertIn("try", Served(0, Brush("round", 3.0, wear=5), 20.0).words())


if __name__ == "__main__":
    unittest.main()
