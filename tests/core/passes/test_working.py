"""The order of work: row by row, area by area."""

import unittest
from dataclasses import replace

from foxpath.core.passes import Estimate, PassEdit, Ways, ZoneFacts, bend, plan_passes, schools
from foxpath.core.passes.working import (
    Turn,
    areas_of,
    areas_words,
    manner_of_work,
    runs_of,
    turn_words,
    turns_of,
)
from foxpath.core.zones import KINDS

ZONES = [
    ZoneFacts(KINDS["background"], KINDS["background"].coat, 1200, 160, id="b"),
    ZoneFacts(KINDS["long-fur"], KINDS["long-fur"].coat, 500, 100, id="f"),
    ZoneFacts(KINDS["short-fur"], KINDS["short-fur"].coat, 30, 30, id="s"),
    ZoneFacts(KINDS["short-fur"], KINDS["short-fur"].coat, 300, 80, id="t"),
]
ORDER = {0: 0, 2: 1, 1: 2, 3: 3}


def plans(school="layered-oil", ways=None, **edits):
    roles = {role.key: role for role in bend(schools()[school].roles, ways or Ways())}
    return plan_passes(ZONES, 500, {k: PassEdit(**v) for k, v in edits.items()}, roles=roles)


class Manner(unittest.TestCase):
    def test_a_school_says_it_until_the_painter_does(self):
        self.assertEqual(manner_of_work(Ways(), plans()), "rows")
        self.assertEqual(manner_of_work(Ways(), plans("one-sitting")), "areas")
        self.assertEqual(manner_of_work(Ways(work="rows"), plans("one-sitting")), "rows")
        self.assertEqual(manner_of_work(Ways(work="areas"), plans()), "areas")

    def test_what_is_turned_off_does_not_count(self):
        off = {key: {"on": False} for key in ("undercoat", "restated", "lights", "highlights")}
        self.assertEqual(manner_of_work(Ways(), plans("one-sitting", **off)), "rows")


class Runs(unittest.TestCase):
    def test_a_run_ends_where_paint_must_dry(self):
        made = [[plan.role.key for plan in run] for run in runs_of(plans())]
        self.assertEqual(made[:2], [["ground"], ["darks", "midtones"]])
        self.assertIn(["lights"], made)

    def test_one_wet_sitting_is_one_run_but_for_ground_and_last_lights(self):
        made = [[plan.role.key for plan in run] for run in runs_of(plans("one-sitting"))]
        self.assertEqual(made[0], ["ground"])
        self.assertEqual(made[1], ["midtones", "darks", "background", "undercoat", "restated", "lights"])
        self.assertEqual(made[2], ["highlights"])

    def test_acrylic_is_dry_in_minutes_and_ends_no_run(self):
        made = [[plan.role.key for plan in run] for run in runs_of(plans("acrylic-layers"))]
        self.assertGreater(max(len(run) for run in made), 4)
        self.assertEqual(made[0], ["ground"])

    def test_what_is_turned_off_is_in_none(self):
        made = runs_of(plans(darks={"on": False}))
        self.assertNotIn("darks", [plan.role.key for run in made for plan in run])


class Areas(unittest.TestCase):
    def test_they_hold_every_part_once_in_laying_order(self):
        run = runs_of(plans("one-sitting"))[1]
        made = areas_of(run, ORDER)
        self.assertEqual([k for area in made for k in area], [0, 2, 1, 3])

    def test_small_parts_are_worked_on_together(self):
        run = [replace(plan, estimates={0: Estimate(1, 50, 1), 1: Estimate(1, 40, 1), 2: Estimate(1, 5, 1), 3: Estimate(1, 60, 1)}) for plan in plans("one-sitting")[1:2]]  # fmt: skip
        self.assertEqual(areas_of(run, ORDER), [(0,), (2, 1), (3,)])
        self.assertEqual(areas_of(run, {0: 0, 1: 1, 3: 2, 2: 3}), [(0,), (1,), (3, 2)])
        self.assertEqual(areas_of(run, ORDER, 1.0), [(0,), (2,), (1,), (3,)])


class Turns(unittest.TestCase):
    def test_row_by_row_every_pass_is_a_turn(self):
        made = turns_of(plans(), ORDER, "rows")
        self.assertEqual([turn.roles for turn in made], [(plan.role.key,) for plan in plans()])
        self.assertEqual(next(t for t in made if t.roles == ("darks",)).zones, (0, 2, 1, 3))

    def test_area_by_area_one_is_carried_through_before_the_next_is_begun(self):
        made = turns_of(plans("one-sitting"), ORDER, "areas")
        wet = [turn for turn in made if len(turn.roles) > 1]
        # The background takes too little to be an area by itself.
        self.assertEqual([turn.zones for turn in wet], [(0, 2), (1,), (3,)])
        self.assertIn("background", wet[0].roles)
        self.assertEqual(wet[1].roles, ("midtones", "darks", "undercoat", "restated", "lights"))
        self.assertEqual(made[-1].roles, ("highlights",))

    def test_both_orders_take_the_same_time(self):
        for school in ("one-sitting", "layered-oil"):
            rows, areas = (turns_of(plans(school), ORDER, work) for work in ("rows", "areas"))
            # Getting ready is in a pass's own minutes, and in no area's.
            more = 10 * sum(len({plan.role.key for plan in run}) for run in runs_of(plans(school)) if len(run) > 1)
            self.assertAlmostEqual(
                sum(t.minutes for t in rows) - more, sum(t.minutes for t in areas), delta=0.5, msg=school
            )

    def test_they_are_said_with_their_parts_and_row_by_row_there_is_nothing_to_say(self):
        names, roles = ["Background", "Bib", "Ear", "Ruff"], {plan.role.key: plan.role.name for plan in plans()}
        self.assertEqual(areas_words(turns_of(plans(), ORDER, "rows"), names, roles), ())
        wet = plans("one-sitting")
        said = areas_words(turns_of(wet, ORDER, "areas"), names, {plan.role.key: plan.role.name for plan in wet})
        self.assertEqual(said[0], "4 parts: ground")
        self.assertTrue(said[1].startswith("Background, ear: midtones, darks, background, coat, middle"))
        self.assertTrue(said[2].startswith("Bib: midtones"))
        self.assertEqual(turn_words(Turn(("ground",), (), 5.0), names, {}), "The whole canvas: ground")
