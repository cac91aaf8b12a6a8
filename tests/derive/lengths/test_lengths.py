import unittest

import numpy as np

from foxpath.core.edges import NOTHING
from foxpath.core.rehearsal.feathers import feather_marks, within
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.edges.plan import _with_donors, edge_readings
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.lengths.feathers import feathers_of
from foxpath.derive.lengths.field import lengths_of
from foxpath.derive.lengths.hanging import fringes_of
from foxpath.derive.lengths.markings import markings_of
from foxpath.derive.passes.laying import laying_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.pictures import study_of
from foxpath.derive.rehearsal.marks import marks_of
from foxpath.derive.subjects import findings
from foxpath.derive.zones.shapes import labels_of, mask_of, zone_index
from foxpath.document import edits
from tests.remembered import remember

setUpModule = remember


def named(project, name):
    return next(z for z in project.zones if z.name == name)


class Fox(unittest.TestCase):
    """Lengths, brushes, markings and order as they follow from the fox."""

    @classmethod
    def setUpClass(cls):
        cls.fox = demo_project("fox")
        cls.results = Results()

    def millimetres(self, project):
        zones, frame = project.back_to_front(), growth_frame(project)
        labels = labels_of(self.results, project, frame)
        coats = np.array([project.coat_of(z).length_mm for z in zones] + [1.0])
        return labels, coats[labels] * lengths_of(self.results, project).length

    def test_no_jump_where_one_coat_runs_into_the_other(self):
        labels, mm = self.millimetres(self.fox)
        ruff, brow = (zone_index(self.fox, named(self.fox, n).id) for n in ("Near ruff", "Forehead"))
        meet = (labels[:, :-1] == brow) & (labels[:, 1:] == ruff)
        self.assertGreater(meet.sum(), 20)
        jump = np.abs(np.log(mm[:, 1:] / mm[:, :-1]))[meet]
        self.assertLess(np.median(jump), 0.25)
        self.assertGreater(np.log(26 / 11), 0.8)

    def test_marks_follow_the_field(self):
        """A ball's hair shortens toward its rim, and so do the marks that are painted."""
        plan = next(p for p in passes_of(self.results, self.fox) if p.role.key == "lights")
        bib = named(self.fox, "Bib")
        formed = edits.set_form(self.fox, bib.id, kind="ball")
        index = zone_index(self.fox, bib.id)
        before = marks_of(self.results, self.fox, plan, index)[1]
        after = marks_of(self.results, formed, plan, index)[1]
        self.assertLess(np.median(after.length_mm), 0.97 * np.median(before.length_mm))
        # A zone far away is not touched: its marks are the very same.
        ear = zone_index(self.fox, named(self.fox, "Far ear").id)
        self.assertEqual(marks_of(self.results, self.fox, plan, ear)[0], marks_of(self.results, formed, plan, ear)[0])

    def test_a_donor_lends_its_coat_and_its_edges(self):
        back, bib = named(self.fox, "Back and shoulder"), named(self.fox, "Bib")
        lent, _ = edits.add_mark(self.fox, "donor", back.id, source=bib.id)
        self.assertEqual(lent.coat_of(lent.zone(back.id)), lent.coat_of(lent.zone(bib.id)))
        own = edits.set_coat(lent, back.id, length_mm=12.0)
        self.assertEqual(own.coat_of(own.zone(back.id)).length_mm, 12.0)
        read = dict(edge_readings(self.results, self.fox))
        front = zone_index(self.fox, back.id)
        key = next(k for k in read if k[0] == front)
        filled = _with_donors(lent, read | {key: NOTHING})
        self.assertEqual(filled[key].borrowed, "Bib")
        self.assertGreater(filled[key].reliable, 0.35)

    def test_too_coarse_a_kit_is_said(self):
        coarse = self.fox
        while len(coarse.kit) > 3:
            coarse = edits.remove_brush(coarse, len(coarse.kit) - 1)
        coarse = edits.change_brush(coarse, 2, type(coarse.kit[0])("round", 30.0))
        said = [f for f in findings(self.results, coarse) if f.where == "lengths"]
        self.assertTrue(any("finer than your finest brush" in f.says for f in said))
        none = edits.take_kit(self.fox, (type(coarse.kit[0])("round", 60.0), type(coarse.kit[0])("mop", 20.0)))
        said = [f for f in findings(self.results, none) if f.where == "lengths"]
        self.assertTrue(any("No brush" in f.says for f in said))
        self.assertFalse(any("brush" in f.says for f in findings(self.results, self.fox)))

    def test_the_fringe_is_rooted_in_its_coat_and_hangs_over_the_border(self):
        zones, frame = self.fox.back_to_front(), map_frame(self.fox)
        ruff = zone_index(self.fox, named(self.fox, "Near ruff").id)
        mask, hairs = mask_of(self.results, self.fox, ruff, frame), []
        for (front, _), (lines, sure) in fringes_of(self.results, self.fox).items():
            self.assertEqual(len(lines), len(sure))
            hairs += [lines] if front == ruff else []
        hairs = np.concatenate(hairs).astype(float)
        self.assertGreater(len(hairs), 20)

        def inside(at):
            j, i = np.clip(np.floor(frame.to_grid(at)).astype(int), 0, (frame.columns - 1, frame.rows - 1)).T
            return float(mask[i, j].mean())

        # Toward its narrow ends a ruff is not as wide as its hair is long: some roots lie under the muzzle.
        self.assertGreater(inside(hairs[:, 0]), 0.7)
        self.assertLess(inside(hairs[:, -1]), 0.2)
        long = np.hypot(*(hairs[:, -1] - hairs[:, 0]).T) * self.fox.mm_per_px
        coat = self.fox.coat_of(zones[ruff]).length_mm
        self.assertTrue(0.5 * coat < np.median(long) < 1.3 * coat)

    def test_without_any_brush_the_plan_still_stands(self):
        bare = self.fox
        while bare.kit:
            bare = edits.remove_brush(bare, 0)
        plans = passes_of(self.results, bare)
        self.assertFalse(any(plan.brushes for plan in plans))
        marks = marks_of(self.results, bare, next(p for p in plans if p.role.key == "lights"), 3)[1]
        self.assertGreater(len(marks.half_mm), 100)
        self.assertTrue(any("No brush of your kit fits" in f.says for f in findings(self.results, bare)))

    def test_focal_area_first_or_last(self):
        eye = zone_index(self.fox, named(self.fox, "Near eye").id)
        place = {}
        for order in ("first", "", "last"):
            place[order] = laying_of(self.results, edits.set_focal_order(self.fox, order)).order.index(eye)
        self.assertLessEqual(place["first"], place[""])
        self.assertLessEqual(place[""], place["last"])
        self.assertLess(place["first"], place["last"])

    def test_a_marking_is_crossed_where_hair_runs_over_it(self):
        """A bar across the bib, whose hair runs down: crossed above and below, clean at its ends; it stops no growth."""
        bar = np.array([[860.0, 1320], [960, 1312], [1060, 1320], [1060, 1380], [960, 1376], [860, 1380]])
        marked, key = edits.add_zone(self.fox, "Bar", "marking", bar)
        found = markings_of(self.results, marked)[key]
        crossed = [s for s in found if s.crossed]
        self.assertGreater(sum(len(s.line) for s in crossed) / sum(len(s.line) for s in found), 0.6)
        self.assertEqual({s.tips_out for s in crossed}, {True, False})
        bib = zone_index(marked, named(marked, "Bib").id)
        frame = growth_frame(marked)
        self.assertTrue(
            (mask_of(self.results, marked, bib, frame) == mask_of(self.results, self.fox, bib, frame)).all()
        )
        self.assertFalse(any(zone_index(marked, key) in plan.zones for plan in passes_of(self.results, marked)))


class Jay(unittest.TestCase):
    """The second demo: known feathers come back."""

    @classmethod
    def setUpClass(cls):
        cls.jay = demo_project("jay")
        cls.results = Results()

    def test_it_is_what_it_says(self):
        self.assertEqual(self.jay.canvas.words(), "24 × 30 cm")
        self.assertGreaterEqual(self.jay.reference.height, 1600)
        self.assertLess(len(self.jay.reference.data), 2_000_000)

    def test_the_generator_makes_the_shipped_project(self):
        from tools.demo import make

        made = make.jay(self.jay.reference.data)
        self.assertEqual((made.zones, made.combs, made.fans), (self.jay.zones, self.jay.combs, self.jay.fans))

    def test_growth_and_feathers_are_those_of_the_model(self):
        from tools.demo import jay as model

        for name, layer in (("Breast", "breast"), ("Barred coverts", "coverts"), ("Head", "head")):
            index = zone_index(self.jay, named(self.jay, name).id)
            made = feathers_of(self.results, self.jay, index)
            span = (made.shaft[:, -1] - made.shaft[:, 0]).astype(float)
            x, y = made.shaft[:, 4].astype(float).T
            true = np.stack(model.growth(layer, x, y), axis=1)
            turn = np.degrees(np.arccos(np.clip((span * true).sum(1) / np.hypot(*span.T), -1, 1)))
            with self.subTest(name):
                self.assertLess(np.median(turn), 12)
        coverts = feathers_of(self.results, self.jay, zone_index(self.jay, named(self.jay, "Barred coverts").id))
        self.assertAlmostEqual(len(coverts) / (model.COVERT_ROWS * model.COVERT_COLUMNS), 1, delta=0.3)
        self.assertAlmostEqual(len(np.unique(coverts.row)), model.COVERT_ROWS, delta=2)

    def test_small_feathers_are_hinted_large_ones_led(self):
        def share(name):
            made = feathers_of(self.results, self.jay, zone_index(self.jay, named(self.jay, name).id))
            return float(made.leading.mean())

        self.assertEqual(share("Barred coverts"), 1)
        self.assertLess(share("Head"), 0.2)

    def test_gaps_are_darker_than_their_feathers_and_stay_in_their_part(self):
        zone = named(self.jay, "Barred coverts")
        index, frame = zone_index(self.jay, zone.id), map_frame(self.jay)
        mask, study = mask_of(self.results, self.jay, index, frame), study_of(self.results, self.jay)
        laid = within(feathers_of(self.results, self.jay, index), mask, frame)
        dark = feather_marks("restated", (3, 60), 0.9, laid, 0.18, study, frame, mask, 1)
        light = feather_marks("lights", (3, 90), 0.9, laid, 0.18, study, frame, mask, 1)
        self.assertLess(np.median(dark.lightness), np.median(light.lightness) - 4)
        self.assertTrue(((dark.lightness >= 3) & (dark.lightness <= 60)).all())
        middle = dark.lines_mm[:, 3].astype(float) / frame.cell_mm
        self.assertTrue(mask[middle[:, 1].astype(int), middle[:, 0].astype(int)].mean() > 0.99)
        self.assertIsNone(feather_marks("darks", (3, 60), 0.9, laid, 0.18, study, frame, mask, 1))

    def test_the_rehearsal_paints_them(self):
        plans = {p.role.key: p for p in passes_of(self.results, self.jay)}
        index = zone_index(self.jay, named(self.jay, "Barred coverts").id)
        wide = edits.set_tract(self.jay, named(self.jay, "Barred coverts").id, overlap=0.2)
        for role in ("restated", "lights"):
            marks, other = (marks_of(self.results, p, plans[role], index)[1] for p in (self.jay, wide))
            self.assertNotEqual(len(marks.half_mm), len(other.half_mm))
