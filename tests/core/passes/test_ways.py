"""Settings painters disagree on, and a painter's own pace."""

import math
import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.passes import (
    ROLES,
    WAYS,
    Logged,
    PassEdit,
    Ways,
    ZoneFacts,
    bend,
    check_passes,
    learn,
    plan_passes,
    schools,
    under_light,
)
from foxpath.core.passes.schools import together
from foxpath.core.zones import KINDS

ZONES = [
    ZoneFacts(KINDS[kind], KINDS[kind].coat, area, 60, id=kind)
    for kind, area in (("background", 900), ("long-fur", 600), ("eye", 5), ("whisker", 4))
]
OIL = tuple(ROLES.values())


def planned(roles, zones=ZONES, edits=None, **more):
    return plan_passes(zones, 600, edits or {}, roles={role.key: role for role in roles}, **more)


def keys(roles):
    return [role.key for role in roles]


class Ends(unittest.TestCase):
    """Both ends early, and strength that grows."""

    def test_the_lightest_lights_follow_the_darks_thin_and_break_no_rule(self):
        made = bend(OIL, Ways(range="extremes"))
        self.assertEqual(keys(made)[:4], ["ground", "darks", "gauges", "midtones"])
        gauges, darks, lights = (next(r for r in made if r.key == k) for k in ("gauges", "darks", "highlights"))
        self.assertEqual((gauges.act, gauges.band), ("highlights", lights.band))
        self.assertAlmostEqual(gauges.coverage, 0.5 * lights.coverage)
        self.assertEqual((gauges.fat, gauges.thickness), (darks.fat, darks.thickness))
        self.assertEqual([f for f in check_passes(planned(made)) if f.level == "must"], [])
        self.assertFalse(any("lights below it" in f.says for f in check_passes(planned(made))))

    def test_colour_grows_from_layer_to_layer_or_is_full_at_once(self):
        tints = [
            role.tint
            for role in bend(OIL, Ways(strength="rising"))
            if not role.block_in or role.act in ("darks", "midtones")
        ]
        self.assertEqual(tints[:2], [0.65, 0.7])
        self.assertEqual(tints[2:4], [0.82, 0.9])
        self.assertEqual(set(tints[4:]), {1.0})
        muted = tuple(replace(role, tint=0.5) for role in OIL)
        full = {role.key: role.tint for role in bend(muted, Ways(strength="full"))}
        self.assertEqual((full["darks"], full["undercoat"], full["highlights"]), (1.0, 1.0, 0.5))


class UnderLight(unittest.TestCase):
    def test_a_warm_light_warms_the_lights_and_cools_the_shadows(self):
        lean = {warmth: {r.key: r.lean for r in under_light(OIL, warmth)} for warmth in (1.0, 0.5, 0.0, -1.0)}
        self.assertEqual((lean[1.0]["highlights"], lean[1.0]["darks"], lean[1.0]["midtones"]), (4.0, -2.5, 0.0))
        self.assertEqual(lean[0.5]["lights"], 2.0)
        self.assertEqual(lean[-1.0]["lights"], -4.0)
        self.assertEqual(under_light(OIL, 0.0), OIL)
        leant = tuple(replace(role, lean=1.0) for role in OIL)
        self.assertEqual(next(r.lean for r in under_light(leant, 1.0) if r.key == "lights"), 5.0)


class Bending(unittest.TestCase):
    def test_every_side_of_every_setting_can_be_painted_in_every_school(self):
        for school in schools().values():
            for way in WAYS.values():
                for side in way.sides:
                    with self.subTest(school=school.key, way=way.key, side=side.key):
                        plans = planned(bend(school.roles, replace(Ways(), **{way.key: side.key})))
                        self.assertEqual([f.says for f in check_passes(plans) if f.level == "must"], [])
                        self.assertEqual({k for plan in plans for k in plan.zones if plan.marks}, {0, 1, 2, 3})
                        self.assertTrue(side.reason)

    def test_no_side_leaves_the_recipe_as_it_is(self):
        for school in schools().values():
            self.assertEqual(bend(school.roles, Ways()), school.roles)
        self.assertEqual(bend(OIL, Ways(range="dark", ground="toned")), OIL)

    def test_eyes_first_are_finished_before_anything_else_and_left_alone(self):
        plans = planned(bend(OIL, Ways(first="eyes")))
        self.assertEqual([p.role.key for p in plans][:2], ["ground", "eyes"])
        self.assertEqual([p.role.key for p in plans if 2 in p.zones], ["ground", "eyes"])
        off = planned(bend(OIL, Ways(first="eyes")), edits={"eyes": PassEdit(on=False)})
        self.assertIn(2, next(p for p in off if p.role.key == "lights").zones)

    def test_a_background_that_comes_first_is_not_blocked_in_again(self):
        plans = planned(bend(OIL, Ways(first="background")))
        self.assertEqual([p.role.key for p in plans if 0 in p.zones], ["ground", "background"])
        usual = [p.role.key for p in planned(OIL) if 0 in p.zones]
        self.assertEqual(usual, ["ground", "darks", "midtones", "background"])

    def test_few_layers_leave_out_what_repeats_and_keep_what_a_short_recipe_needs(self):
        three = [ROLES[key] for key in ("ground", "midtones", "lights")]
        self.assertEqual(keys(bend(three, Ways(layers="few"))), ["ground", "midtones", "lights"])
        four = [ROLES[key] for key in ("ground", "midtones", "restated", "lights")]
        self.assertEqual(keys(bend(four, Ways(layers="few"))), ["ground", "lights"])
        again = [*three, replace(ROLES["lights"], key="more", acts="lights")]
        self.assertEqual(keys(bend(again, Ways(layers="few"))), ["ground", "lights"])
        # A glaze is no second layer of what it lies over.
        glaze = [*three[:2], replace(ROLES["lights"], key="glaze", acts="midtones", handling="glaze")]
        self.assertEqual(len(bend(glaze, Ways(layers="few"))), 3)

    def test_each_setting_does_what_it_says(self):
        order = keys(bend(OIL, Ways(range="middle")))
        self.assertLess(order.index("midtones"), order.index("darks"))
        few, many = bend(OIL, Ways(layers="few")), bend(OIL, Ways(layers="many"))
        self.assertLess(len(few), len(OIL))
        self.assertLess(len(OIL), len(many))
        loose, tight = ({p.role.key: p for p in planned(bend(OIL, Ways(finish=side)))} for side in ("loose", "tight"))
        self.assertGreater(loose["lights"].brush_mm, tight["lights"].brush_mm)
        self.assertLess(loose["lights"].marks, tight["lights"].marks)
        self.assertEqual(loose["darks"].brush_mm, tight["darks"].brush_mm)
        white = next(role for role in bend(OIL, Ways(ground="white")) if role.act == "ground")
        self.assertGreaterEqual(white.band[0], 88)
        self.assertEqual({role.black for role in bend(OIL, Ways(black="tube"))}, {"tube"})


class PartsOfTheirOwnSchool(unittest.TestCase):
    def test_shared_passes_are_shared_and_others_stand_beside_their_like(self):
        dry = schools()["dry-brush"]
        made = together(schools()["layered-oil"].roles, [dry])
        self.assertEqual(len({role.key for role in made}), len(made))
        shared = next(role for role in made if role.key == "whiskers")
        self.assertEqual(shared.schools, ("", "dry-brush"))
        self.assertEqual(next(role for role in made if role.act == "ground").schools, ())
        order = keys(made)
        self.assertEqual(order.index("dry-brush/lights"), order.index("lights") + 1)
        fur = ZONES[1]
        plans = planned(made, [ZONES[0], fur, replace(fur, id="other", school="dry-brush")])
        acts = {plan.role.key: plan.zones for plan in plans}
        self.assertEqual((acts["lights"], acts["dry-brush/lights"]), ((1,), (2,)))
        self.assertEqual(acts["ground"], (0, 1, 2))
        self.assertEqual([f.says for f in check_passes(plans) if f.level == "must"], [])

    def test_without_such_parts_nothing_changes(self):
        self.assertEqual(together(OIL, []), OIL)


class Deciding(unittest.TestCase):
    def test_paint_is_decided_kept_in_range_and_the_usual_is_known(self):
        (plan,) = (
            p
            for p in planned(
                OIL, edits={"lights": PassEdit(opacity=0.4, fat=7, handling="glaze", lean=-4, beneath="wet")}
            )
            if p.role.key == "lights"
        )
        role = plan.role
        self.assertEqual((role.opacity, role.fat, role.handling, role.lean, role.beneath), (0.4, 1, "glaze", -4, "wet"))
        self.assertEqual(plan.usual, ROLES["lights"])
        self.assertEqual(set(plan.edit.decided()), {"opacity", "fat", "handling", "lean", "beneath"})

    def test_a_part_left_out_of_a_pass(self):
        plans = {p.role.key: p for p in planned(OIL, edits={"lights": PassEdit(left_out=("long-fur",))})}
        usual = {p.role.key: p for p in planned(OIL)}
        self.assertEqual(plans["lights"].zones, (2,))
        self.assertEqual(plans["undercoat"].zones, usual["undercoat"].zones)
        everything = planned(OIL, edits={"lights": PassEdit(left_out=tuple(zone.id for zone in ZONES))})
        empty = next(p for p in everything if p.role.key == "lights")
        self.assertEqual((empty.marks, empty.minutes), (0, 0))
        self.assertIn("Top coat has no part to paint.", [f.says for f in check_passes(everything)])

    def test_estimates_of_parts_add_up_to_the_pass(self):
        for plan in planned(OIL):
            self.assertEqual(plan.marks, sum(one.marks for one in plan.estimates.values()))
            self.assertEqual(set(plan.estimates), set(plan.zones))
            work = sum(one.minutes for one in plan.estimates.values())
            self.assertAlmostEqual(plan.minutes, 10 + work)
            self.assertAlmostEqual(plan.minutes, plan.usual_minutes)
        lights = next(p for p in planned(OIL) if p.role.key == "lights")
        # Marks overlap: as much paint is laid as its cover says, over the share where it belongs.
        paint = lights.estimates[1].area_cm2
        self.assertAlmostEqual(paint / (5.0 * 0.62 * 600), 1, delta=0.02)


class Pace(unittest.TestCase):
    def logged(self, ratio, act="lights", count=1):
        return [Logged(f"{act}{k}", act, 100 * ratio, 100) for k in range(count)]

    def test_nothing_logged_is_the_usual_pace(self):
        self.assertEqual(learn([]).factor("lights"), 1)
        self.assertIn("usual", learn([]).words())

    def test_one_pass_is_believed_in_part_and_many_nearly_whole(self):
        one, many = learn(self.logged(2)), learn(self.logged(2, count=40))
        self.assertTrue(1.2 < one.factor("lights") < 1.9)
        self.assertAlmostEqual(many.factor("lights"), 2, delta=0.06)
        self.assertLess(many.doubt, one.doubt)
        self.assertIn("40 noted passes", many.words())

    def test_the_pace_is_found_again_from_noisy_passes(self):
        rng = np.random.default_rng(4)
        found = []
        for _ in range(200):
            truth = math.exp(rng.normal(0, 0.5))
            passes = [Logged("x", "lights", 100 * truth * math.exp(rng.normal(0, 0.35)), 100) for _ in range(8)]
            pace = learn(passes)
            found.append((math.log(pace.overall / truth), pace.doubt))
        off, doubt = np.array(found).T
        self.assertAlmostEqual(float(off.mean()), 0, delta=0.04)
        # What it says of its own doubt is what it is off by.
        self.assertAlmostEqual(float(off.std() / doubt.mean()), 1, delta=0.15)

    def test_a_role_has_a_pace_of_its_own_and_others_the_overall_one(self):
        pace = learn([*self.logged(2, "lights", 6), *self.logged(0.5, "darks", 6)])
        self.assertGreater(pace.factor("lights"), 1.5)
        self.assertLess(pace.factor("darks"), 0.7)
        self.assertAlmostEqual(pace.factor("whiskers"), 1, delta=0.05)
        slow, usual = planned(OIL, pace=pace), planned(OIL)
        by = {
            p.role.key: (p.minutes / q.minutes, p.usual_minutes / q.usual_minutes)
            for p, q in zip(slow, usual, strict=True)
        }
        self.assertAlmostEqual(by["lights"][0], pace.factor("lights"))
        self.assertAlmostEqual(by["lights"][1], 1)


if __name__ == "__main__":
    unittest.main()
