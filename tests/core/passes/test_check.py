"""The rules of the passes, each at its bound, and what a pass is thought to take."""

import unittest
from dataclasses import replace

from foxpath.core.lengths import Brush
from foxpath.core.passes import ROLES, PassEdit, ZoneFacts, plan_passes
from foxpath.core.passes.check import check_passes, over_one_another
from foxpath.core.passes.pace import Pace
from foxpath.core.passes.plan import BARB_SHARE, READY_MIN, brush_words, mark_count
from foxpath.core.zones.kinds import KINDS

FUR, SCENE = KINDS["short-fur"], KINDS["background"]
COAT = replace(FUR.coat, length_mm=10.0, width_mm=2.0, clump_mm=4.0)
KIT = (Brush("flat", 40), Brush("flat", 12), Brush("filbert", 5), Brush("round", 2), Brush("liner", 0.6))


def zones(*, second=False):
    made = [ZoneFacts(SCENE, SCENE.coat, 1000.0, 300.0, id="z1"), ZoneFacts(FUR, COAT, 100.0, 80.0, id="z2")]
    return [*made, ZoneFacts(FUR, COAT, 50.0, 40.0, id="z3")] if second else made


def planned(edits=None, order=(), **how):
    return plan_passes(zones(**how), 500.0, edits or {}, order, KIT)


def said(passes):
    return [(f.level, f.subject, f.says) for f in check_passes(passes)]


class Rules(unittest.TestCase):
    def test_the_usual_plan_keeps_them(self):
        self.assertEqual(said(planned()), [])

    def test_bands_and_ceilings(self):
        for edit, words in (
            (PassEdit(l_low=50.0, l_high=50.0), "has no value to paint with"),
            (PassEdit(l_low=10.0, l_high=60.0, ceiling=59.9), "goes over its ceiling"),
            (PassEdit(coverage=0.0), "lays no paint"),
            (PassEdit(left_out=("z2",)), "has no part to paint"),
        ):
            found = [one for one in said(planned({"lights": edit})) if words in one[2]]
            self.assertEqual([one[1] for one in found], ["lights"], words)
            # A pass that is off breaks no rule.
            self.assertEqual(
                [one for one in said(planned({"lights": replace(edit, on=False)})) if one[1] == "lights"], []
            )
        fine = PassEdit(l_low=49.9, l_high=50.0, ceiling=99.0)
        self.assertFalse(
            any("value to paint" in one[2] or "over its" in one[2] for one in said(planned({"lights": fine})))
        )

    def test_fat_lies_over_lean_and_thick_over_thin(self):
        below = next(lower for lower, upper in over_one_another(planned()) if upper.role.key == "lights")
        lower = below.role
        for fat, leaner in ((lower.fat, False), (lower.fat - 0.01, True)):
            found = any("is leaner than" in one[2] for one in said(planned({"lights": PassEdit(fat=fat)})))
            self.assertEqual(found, leaner)
        edits = {lower.key: PassEdit(thickness=0.6)}
        for body, thin in ((0.41, False), (0.39, True)):
            found = [
                one for one in said(planned(edits | {"lights": PassEdit(thickness=body)})) if "lies thin over" in one[2]
            ]
            self.assertEqual(bool(found), thin)

    def test_the_range_opens_pass_by_pass(self):
        lower = next(
            a for a, b in over_one_another([p for p in planned() if p.role.key != "restated"]) if b.role.key == "lights"
        )
        for ceiling, closed in ((lower.ceiling, False), (lower.ceiling - 0.5, True)):
            edit = {"lights": PassEdit(ceiling=ceiling, l_high=30.0, l_low=10.0)}
            found = [one for one in said(planned(edit)) if "may not reach the lights" in one[2] and one[1] == "lights"]
            self.assertEqual(bool(found), closed)

    def test_the_last_lights_are_kept(self):
        for high, spent in ((90.0, False), (90.5, True)):
            edit = PassEdit(l_low=20.0, l_high=high, ceiling=99.0)
            found = [one for one in said(planned({"lights": edit})) if "spends the last lights" in one[2]]
            self.assertEqual([one[1] for one in found], ["lights"] if spent else [])
            glazed = {"lights": replace(edit, handling="glaze")}
            self.assertFalse(any("spends" in one[2] for one in said(planned(glazed))))
        self.assertFalse(any("spends" in one[2] for one in said(planned({"highlights": PassEdit(l_high=97.0)}))))


class Over(unittest.TestCase):
    def test_each_pair_is_told_once_in_painting_order(self):
        passes = planned(second=True)
        pairs = [(a.role.key, b.role.key) for a, b in over_one_another(passes)]
        self.assertEqual(len(pairs), len(set(pairs)))
        order = [p.role.key for p in passes]
        self.assertTrue(all(order.index(a) < order.index(b) for a, b in pairs))
        # A part that a pass leaves out shows what lies beneath to the next.
        without = planned({"lights": PassEdit(left_out=("z3",))}, second=True)
        pairs = [(a.role.key, b.role.key) for a, b in over_one_another(without)]
        before = order[order.index("lights") - 1]
        self.assertIn((before, "highlights"), pairs)
        self.assertIn(("lights", "highlights"), pairs)

    def test_passes_in_different_zones_do_not_meet(self):
        pairs = {(a.role.key, b.role.key) for a, b in over_one_another(planned()) if a.role.act != "ground"}
        self.assertFalse(any(a == "background" for a, _ in pairs))


class Estimates(unittest.TestCase):
    def plan(self, key, edits=None, **how):
        return next(p for p in planned(edits, **how) if p.role.key == key)

    def test_marks_cover_the_area_so_many_times(self):
        # 10 by 2 mm, filled to 62 hundredths: 12.4 mm2; 100 cm2 hold 806.
        self.assertEqual(mark_count(1.0, 100.0, COAT), 806)
        self.assertEqual(mark_count(2.0, 100.0, COAT), 1613)
        self.assertEqual(mark_count(1.0, 100.0, COAT, 0.5), 1613)
        self.assertEqual(mark_count(0.0, 100.0, COAT), 0)

    def test_time_is_of_marks_and_a_hand_lays_three_hairs_at_once(self):
        made = self.plan("lights")
        one, mark = made.estimates[1], made.mark_of(1, zones()[1])
        self.assertAlmostEqual(one.minutes, one.marks * (0.9 + 0.01 * mark.length_mm) / 3 / 60)
        self.assertAlmostEqual(made.minutes, READY_MIN + one.minutes)
        self.assertAlmostEqual(one.area_cm2, one.marks * mark.length_mm * mark.width_mm * 0.62 / 100)
        mass = self.plan("undercoat") if ROLES["undercoat"].block_in else self.plan("darks")
        one, mark = mass.estimates[1], mass.mark_of(1, zones()[1])
        if mass.role.block_in:
            self.assertAlmostEqual(one.minutes, one.marks * (0.9 + 0.01 * mark.length_mm) / 60)

    def test_a_painters_pace_multiplies_all_of_it(self):
        slow = next(p for p in plan_passes(zones(), 500.0, {}, (), KIT, pace=Pace(2.0)) if p.role.key == "lights")
        usual = self.plan("lights")
        self.assertAlmostEqual(slow.minutes, 2 * usual.minutes)
        self.assertAlmostEqual(slow.usual_minutes, usual.minutes)
        self.assertEqual(slow.marks, usual.marks)

    def test_a_mass_is_three_to_five_times_as_long_as_wide(self):
        for p in planned():
            if p.role.block_in and 1 in p.zones:
                mark = p.mark_of(1, zones()[1])
                self.assertTrue(3.19 <= mark.length_mm / mark.width_mm <= 5.01, p.role.key)

    def test_on_a_feather_the_lights_are_barbs(self):
        kind = next(k for k in KINDS.values() if k.feathers and "lights" in k.passes)
        bird = ZoneFacts(kind, replace(kind.coat, length_mm=20.0, width_mm=2.0), 100.0, 80.0, id="z1")
        made = next(p for p in plan_passes([bird], 500.0, {}, (), KIT) if p.role.key == "lights")
        self.assertAlmostEqual(made.mark_of(0, bird).length_mm, 20 * made.length_share * BARB_SHARE)

    def test_what_is_left_out_takes_nothing_and_needs_no_brush(self):
        made = self.plan("lights", {"lights": PassEdit(left_out=("z2",))})
        self.assertEqual((made.zones, made.minutes, made.marks, brush_words(made)), ((), 0.0, 0, ""))
        self.assertEqual(made.length_mm, (0.0, 0.0))

    def test_brushes_are_named_broadest_first(self):
        widths = [float(part.split(" mm")[0]) for part in brush_words(self.plan("undercoat", second=True)).split(", ")]
        self.assertEqual(widths, sorted(widths, reverse=True))
        self.assertTrue(widths)


if __name__ == "__main__":
    unittest.main()
