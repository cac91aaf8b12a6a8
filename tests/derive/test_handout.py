import json
import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.cautions import cautions_for
from foxpath.core.frame import Crop
from foxpath.core.lengths import CoatEdit, default_coat, measured_mm, resolved
from foxpath.core.passes import ROLES
from foxpath.core.reporting import SILENT
from foxpath.core.units import CanvasSize
from foxpath.core.zones import KINDS, kind_of
from foxpath.derive import Results
from foxpath.derive.book import plan_record
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.growth.files import growth_of_picture
from foxpath.derive.lengths.overlay import GrowthOverlay
from foxpath.derive.readings import Read
from foxpath.derive.reference.seeing import Decode, Look, halves
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.requests import StandAt, small_picture
from foxpath.derive.rehearsal.softness import softness_of
from foxpath.derive.subjects import GROWTH, findings
from foxpath.derive.zones.reading import zone_numbers
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Coats(unittest.TestCase):
    def test_a_larger_canvas_has_longer_marks(self):
        small, large = (default_coat(KINDS["long-fur"], CanvasSize(s, s)) for s in (250, 500))
        self.assertAlmostEqual(large.length_mm, 2 * small.length_mm)
        self.assertEqual(large.spread_deg, small.spread_deg)

    def test_decisions_stay_in_range(self):
        coat = resolved(KINDS["short-fur"].coat, CoatEdit(length_mm=9999, width_mm=-1, spread_deg=20))
        self.assertEqual((coat.length_mm, coat.width_mm, coat.spread_deg), (300, 0.1, 20))
        self.assertEqual(coat.clump_mm, KINDS["short-fur"].coat.clump_mm)

    def test_kinds_differ_as_a_painter_sees_them(self):
        sleek, long_, wool, matted = (KINDS[k].coat for k in ("short-fur", "long-fur", "curly-fur", "matted-fur"))
        self.assertLess(sleek.length_mm, long_.length_mm)
        self.assertGreater(wool.spread_deg, 2 * long_.spread_deg)
        self.assertGreater(matted.clump_mm, 2 * long_.clump_mm)
        self.assertEqual(len(KINDS), 18)
        self.assertEqual(kind_of("from the future").key, "other")

    def test_a_measured_stroke(self):
        self.assertAlmostEqual(measured_mm(np.array([[0.0, 0], [30, 40], [30, 100]]), 0.5), 55)


class Handing(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.made = Results(), project()
        cls.done = rehearse(cls.results, cls.made, 200)

    def test_plan_record_holds_every_number_and_survives_json(self):
        record = json.loads(json.dumps(plan_record(self.results, self.made, self.done), allow_nan=False))
        self.assertEqual([z["number"] for z in record["zones"]], [1, 2, 3])
        square = record["zones"][1]
        self.assertEqual((square["kind"], square["combs"]), ("long-fur", 1))
        self.assertAlmostEqual(sum(z["area_cm2"] for z in record["zones"]), 500, delta=2)
        self.assertIsNone(record["zones"][0]["sure_share"])
        self.assertEqual(len(record["passes"]), len(self.done))
        for one in record["passes"]:
            self.assertLess(one["l_low"], one["l_high"])
            self.assertGreater(one["minutes"], 0)
        self.assertTrue(all(e["width_mm"] > 0 and e["reason"] for e in record["edges"]))

    def test_findings_say_what_why_and_where(self):
        made = edits.remove_comb(self.made, self.made.combs[0].id)
        for one in findings(self.results, made):
            self.assertTrue(one.says.endswith("."))
            self.assertIn(" · ", one.why)
            self.assertIn(one.where, ("zones", "growth", "lengths", "passes"))
        says = [f.says for f in findings(self.results, made)]
        self.assertIn("Square has no comb.", says)
        levels = [f.level for f in findings(self.results, made)]
        self.assertEqual(levels, sorted(levels, key=("must", "look", "note").index))

    def test_numbers_count_from_the_back(self):
        moved = edits.set_depth(self.made, self.made.zones[2].id, 0)
        self.assertEqual(zone_numbers(moved)[self.made.zones[2].id], 1)

    def test_cautions_stand_where_they_are_needed(self):
        self.assertIn("flames", cautions_for(ROLES["ground"])[0])
        self.assertEqual(cautions_for(ROLES["whiskers"]), ())
        self.assertEqual(cautions_for(replace(ROLES["ground"], paint="acrylic")), ())
        for thinned in ({"tint": 1.3}, {"handling": "glaze"}):
            self.assertIn("flames", cautions_for(replace(ROLES["lights"], **thinned))[0])

    def test_edges_by_rule_and_by_decision(self):
        border, plan = edges_of(self.results, self.made)[0]
        zones = self.made.back_to_front()
        self.assertFalse(plan.decided)
        decided = edits.set_edge(self.made, zones[border.front].id, zones[border.back].id, "lost", 22.0)
        plan = edges_of(self.results, decided)[0][1]
        self.assertEqual((plan.grade, plan.width_mm, plan.decided), ("lost", 22.0, True))
        back = edits.clear_edge(decided, zones[border.front].id, zones[border.back].id)
        self.assertFalse(edges_of(self.results, back)[0][1].decided)
        before, after = (softness_of(self.results, p)[1].max() for p in (self.made, decided))
        self.assertGreater(after, before)


class Requests(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.made = Results(), project()

    def test_readings(self):
        read = Read(self.results, self.made)(SILENT)
        square = self.made.zones[1].id
        self.assertAlmostEqual(sum(f.area_cm2 for f in read.facts), 500, delta=2)
        x, y = read.tags[square]
        self.assertTrue(40 < x < 120 and 30 < y < 110)
        self.assertIn(square, read.of(GROWTH).fields)
        self.assertNotIn(self.made.zones[0].id, read.of(GROWTH).fields)
        spot = read.of(GROWTH).fields[square].spot
        self.assertIsNotNone(spot)
        self.assertGreater(spot[1], 60)

    def test_overlay_shows_hairs_combs_and_doubt_but_not_over_the_eye(self):
        affine = np.array([[3.0, 0, 0], [0, 3.0, 0]])
        made = GrowthOverlay(self.results, self.made, affine, 600, 480, combs=(self.made.combs[0].points,))(SILENT)
        self.assertEqual((made.shape, made.dtype), ((480, 600, 4), np.uint8))
        ink = made[..., 3] > 20
        self.assertGreater(ink[100:320, 130:350].mean(), 0.03)
        self.assertFalse(ink[:, :60].any())
        self.assertFalse(ink[195:210, 230:250].any())
        self.assertGreater(ink[120:150, 145:160].sum(), 10)
        plain = GrowthOverlay(self.results, self.made, affine, 600, 480, doubt=False)(SILENT)
        self.assertLess((plain[..., 3] > 20).sum(), ink.sum())

    def test_overlay_in_a_mirror_is_the_mirror_of_the_overlay(self):
        plain = GrowthOverlay(self.results, self.made, np.array([[2.0, 0, 0], [0, 2.0, 0]]), 400, 320, doubt=False)(
            SILENT
        )
        mirrored = GrowthOverlay(
            self.results, self.made, np.array([[-2.0, 0, 400], [0, 2.0, 0]]), 400, 320, doubt=False
        )(SILENT)
        gap = np.abs(plain[:, ::-1].astype(int) - mirrored)
        self.assertLess(gap.mean(), 0.05)

    def test_levels_halve_until_small(self):
        levels = Decode(self.results, self.made)(SILENT)
        self.assertEqual(levels[0].shape, (160, 200, 3))
        self.assertEqual([max(v.shape) for v in halves(np.zeros((2000, 2600, 3), np.uint8))], [2600, 1300, 650])
        self.assertEqual(small_picture(levels[0], (50, 50)).shape, (40, 50, 3))

    def test_aids_leave_the_original_alone_and_go_together(self):
        levels = Decode(self.results, self.made)(SILENT)
        before, whole = levels[0].copy(), Crop(0, 0, 200, 160)

        def seen(*kinds, part=whole):
            return Look(levels, whole, part, 1.0, self.made, frozenset(kinds))(SILENT)

        for kind in ("greys", "poster", "squint", "falloff"):
            self.assertEqual(seen(kind)[1].shape, before.shape)
            self.assertFalse(np.array_equal(seen(kind)[1], before))
        np.testing.assert_array_equal(levels[0], before)
        both = seen("greys", "squint")[1]
        self.assertFalse(np.array_equal(both, seen("squint")[1]))
        np.testing.assert_array_equal(both[..., 0], both[..., 2])
        # What is seen of a part is what the whole shows there: the blur reaches beyond the part.
        crop, piece = seen("squint", part=Crop(60, 50, 80, 60))
        x, y = round(crop.x), round(crop.y)
        there = seen("squint")[1][y : y + piece.shape[0], x : x + piece.shape[1]]
        inner = np.abs(there.astype(int) - piece)[50 - y : 110 - y, 60 - x : 140 - x]
        self.assertLess(inner.max(), 12)

    def test_stand_at_a_share_of_a_pass(self):
        done = rehearse(self.results, self.made, 200)
        number = next(k for k, one in enumerate(done) if one.plan.role.key == "undercoat")
        none, half, whole = (StandAt(self.results, self.made, 200, number, s)(SILENT) for s in (0.0, 0.5, 1.0))
        np.testing.assert_array_equal(none[2], done[number - 1].standing.shown)
        np.testing.assert_array_equal(whole[2], done[number].standing.shown)
        self.assertAlmostEqual(half[0] / half[1], 0.5, delta=0.01)
        self.assertFalse(np.array_equal(half[2], none[2]))


class PictureGrowth(unittest.TestCase):
    def test_combs_off_the_outline_say_nothing(self):
        from foxpath.core.frame import Crop, Frame

        frame = Frame.over(Crop(0, 0, 200, 160), 1.0, 200)
        square = np.array([[40.0, 30], [120, 30], [120, 110], [40, 110]])
        solved = growth_of_picture(square, {}, [np.array([[150.0, 20], [180, 20]])], frame)
        self.assertEqual(float(solved.sure.max()), 0)
        self.assertEqual(int(np.isfinite(solved.angle_deg).sum()), 80 * 80)

    def test_opposite_tips_are_opposite_angles(self):
        from foxpath.core.frame import Crop, Frame

        frame = Frame.over(Crop(0, 0, 200, 160), 1.0, 200)
        square = np.array([[40.0, 30], [120, 30], [120, 110], [40, 110]])
        stroke = np.array([[50.0, 90], [110, 50]])
        a, b = (growth_of_picture(square, {}, [s], frame).angle_deg[70, 80] for s in (stroke, stroke[::-1]))
        self.assertAlmostEqual(abs(float(a - b)), 180, delta=0.5)
        self.assertAlmostEqual(float(a), np.degrees(np.arctan2(-40, 60)), delta=2)
