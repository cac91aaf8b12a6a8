"""What colours a plan asks for, the palette of a painting, and what is said of it."""

import unittest
from dataclasses import replace
from unittest import mock

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.mixes.tubes import KeptTube
from foxpath.core.passes import PassPlan
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive import Results
from foxpath.derive.handout import mixes as handout
from foxpath.derive.mixes.palette import colours_of, in_palette, palette_of, rack_of
from foxpath.derive.mixes.reading import close_mixes, mix_findings, place_words
from foxpath.derive.mixes.ready import PlanPiles, ready_for, ready_words
from foxpath.derive.mixes.wants import wants_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.rehearsal.painting import groups_of, rehearse
from foxpath.derive.subject import Told
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class OfAPainting(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.project, cls.results = project(), Results()
        cls.wants = wants_of(cls.results, cls.project)
        cls.close = close_mixes(cls.results, cls.project)

    def plan(self, key) -> PassPlan:
        return next(plan for plan in passes_of(self.results, self.project) if plan.role.key == key)

    def test_every_pass_asks_within_its_values_and_its_parts(self):
        acts = {want.act for want in self.wants}
        self.assertLessEqual({"ground", "darks", "undercoat", "lights", "highlights"}, acts)
        for want in self.wants:
            plan = self.plan(want.act)
            self.assertGreater(want.ml, 0)
            if want.act == "ground":
                self.assertEqual(want.zone, -1)
                continue
            self.assertIn(want.zone, plan.zones)
            # Eyes have steps with values of their own.
            if self.project.back_to_front()[want.zone].kind != "eye":
                self.assertLess(want.lab[0], min(plan.l_high, plan.ceiling) + 2)
                self.assertGreater(want.lab[0], plan.l_low - 2)

    def test_the_paint_of_a_pass_is_that_of_its_marks(self):
        plan = self.plan("lights")
        mine = sum(want.ml for want in self.wants if want.act == "lights" and want.zone == 1)
        area = plan.estimates[1].area_cm2 * 100
        from foxpath.core.mixes.amounts import film_um, millilitres

        self.assertAlmostEqual(mine, millilitres(area, film_um(plan.role.thickness)), delta=0.02 * mine)

    def test_what_lies_at_the_focus_matters_more(self):
        def weight(made):
            mine = [w for w in wants_of(self.results, made) if w.act == "lights" and w.zone == 1]
            other = [w for w in wants_of(self.results, made) if w.act == "ground"]
            return sum(w.weight for w in mine) / sum(w.weight for w in other)

        zone = self.project.back_to_front()[1]
        middle = tuple(float(v) for v in np.mean(zone.points, axis=0))
        crop = self.project.crop
        far = (crop.x + crop.width - 1, crop.y + crop.height - 1)
        near, away = (weight(edits.set_focal(self.project, at)) for at in (middle, far))
        self.assertGreater(near, 1.3 * away)

    def test_a_pass_that_is_off_asks_for_nothing(self):
        off = edits.set_pass(self.project, "highlights", on=False)
        self.assertNotIn("highlights", {want.act for want in wants_of(self.results, off)})

    def test_colours_are_those_of_the_part(self):
        """The square holds the warm blob: what the top coat wants there is warm; of the cool ramp behind it is cool."""
        mine = [w for w in self.wants if w.act == "lights" and w.zone == 1]
        warm = np.average([w.lab[2] for w in mine], weights=[w.ml for w in mine])
        behind = [w for w in self.wants if w.act == "background"]
        cool = np.average([w.lab[2] for w in behind], weights=[w.ml for w in behind])
        self.assertGreater(warm, cool + 5)

    def test_a_glaze_wants_what_it_lets_through(self):
        glazed = edits.set_pass(self.project, "undercoat", handling="glaze")
        light = [w.lab[0] for w in wants_of(self.results, glazed) if w.act == "undercoat"]
        plain = [w.lab[0] for w in self.wants if w.act == "undercoat"]
        self.assertGreater(np.mean(light), np.mean(plain) + 5)

    def test_every_pile_says_where_it_goes_and_until_when_it_is_kept(self):
        palette = self.close.palette
        order = [plan.role.key for plan in passes_of(self.results, self.project) if plan.on]
        for pile in palette.piles:
            note = self.close.notes[pile.key]
            self.assertAlmostEqual(sum(ml for _, ml in note.needs), pile.ml)
            self.assertEqual([key for key, _ in note.needs], sorted((key for key, _ in note.needs), key=order.index))
            if note.needs:
                self.assertGreaterEqual(order.index(note.kept_until), order.index(note.needs[-1][0]))
                self.assertTrue(note.why_kept)
                self.assertIn("open for", note.keeps)

    def test_the_backgrounds_pile_is_kept_until_the_last_edge_against_it(self):
        behind = [
            self.close.notes[pile.key]
            for pile in self.close.palette.piles
            if pile.ml and sum(w.ml for w in map(self.wants.__getitem__, pile.wants) if w.zone == 0) > 0.5 * pile.ml
        ]
        self.assertTrue(behind)
        self.assertEqual({note.kept_until for note in behind}, {"highlights"})
        self.assertIn("edge against it", behind[0].why_kept)

    def test_mediums_rise(self):
        fat = [one.fat for _, one in self.close.mediums]
        self.assertEqual(fat, sorted(fat))
        free = close_mixes(self.results, edits.set_mixes(self.project, medium="solvent-free"))
        self.assertFalse(any("thinner" in one.words for _, one in free.mediums))

    def test_piles_to_have_ready(self):
        palette = self.close.palette
        for act in ("darks", "lights"):
            ready = ready_for(palette, act)
            self.assertTrue(ready)
            self.assertEqual([one.ml for one in ready], sorted((one.ml for one in ready), reverse=True))
            self.assertEqual(palette.piles[ready[0].number - 1].key, ready[0].key)
            part = ready_for(palette, act, 1)
            self.assertLessEqual(sum(one.ml for one in part), sum(one.ml for one in ready) + 1e-9)
        self.assertIn(" mL", ready_words(ready_for(palette, "lights")))
        self.assertEqual(ready_for(palette, "nothing"), ())
        self.assertIs(PlanPiles(self.results, self.project)(SILENT)[0], self.project)

    def test_a_mixed_pile_that_is_short_is_said_before_it_runs_out(self):
        pile = max(self.close.palette.piles, key=lambda one: one.ml)
        made, key = edits.start_pile(self.project, pile.name, pile.recipe.target, pile.recipe.parts, 0.3 * pile.ml)
        found = [one for one in close_mixes(self.results, made).findings if one.subject == key]
        self.assertEqual(len(found), 1)
        self.assertIn("runs out in", found[0].says)
        enough, _ = edits.start_pile(self.project, pile.name, pile.recipe.target, pile.recipe.parts, 2 * pile.ml)
        self.assertFalse(any("runs out" in one.says for one in close_mixes(self.results, enough).findings))

    def test_pure_colour_against_what_was_set(self):
        strict = close_mixes(self.results, edits.set_mixes(self.project, pure=0.0))
        if strict.budget.share > 0:
            self.assertTrue(any(one.subject == "budget" for one in strict.findings))
        free = close_mixes(self.results, edits.set_mixes(self.project, pure=1.0))
        self.assertFalse(any(one.subject == "budget" for one in free.findings))
        # Pure colour is no reason to plan other piles.
        self.assertIs(free.palette, self.close.palette)

    def test_short_studios_are_said(self):
        def words(*keys, black="free"):
            made = edits.set_mixes(edits.take_tubes(self.project, [KeptTube(key) for key in keys]), black=black)
            return [one.says for one in mix_findings(self.results, made)]

        self.assertEqual(words("PW6"), ["Titanium white is the only tube."])
        self.assertEqual(words("PB29", "PY43"), ["There is no white."])
        self.assertEqual(words("PBk9", black="none"), ["There is nothing to mix with."])
        self.assertEqual(words("PW6", "PB29"), [])
        lone = edits.take_tubes(self.project, [KeptTube("PBk9")])
        self.assertEqual(close_mixes(self.results, edits.set_mixes(lone, black="none")).palette.piles, ())
        self.assertEqual(close_mixes(self.results, edits.set_mixes(lone, black="mixed")).palette.piles, ())

    def test_a_palette_of_few_tubes_uses_no_more(self):
        few = edits.set_mixes(self.project, few=4)
        rack = rack_of(self.results, few)
        self.assertEqual(len(rack), 4)
        for pile in palette_of(self.results, few).piles:
            self.assertLessEqual({key for key, _ in pile.recipe.parts}, set(rack.ids))

    def test_acrylic_says_that_it_darkens(self):
        tubes = [replace(one, system="acrylic") for one in self.project.mixes.tubes]
        close = close_mixes(self.results, edits.take_tubes(self.project, tubes))
        self.assertIn("Acrylic dries darker.", [one.says for one in close.findings])
        self.assertTrue(any("min" in note.keeps for note in close.notes.values()))

    def test_it_can_be_cancelled(self):
        from foxpath.core.reporting import Cancelled

        class Stop(Progress):
            def at(self, share, words=""):
                raise Cancelled

        with self.assertRaises(Cancelled):
            close_mixes(Results(), self.project, Stop())

    def test_places(self):
        self.assertEqual(place_words(self.project, (1, -1)), "square, the ground")
        self.assertEqual(place_words(self.project, (0, 1, 2, -1), 2).count(","), 1)


class InThePalette(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.free, cls.results = project(), Results()
        cls.made = edits.set_mixes(cls.free, rehearsed=True)

    def test_every_mark_has_a_colour_of_the_palette(self):
        _, table = colours_of(self.results, self.made)
        for plan in passes_of(self.results, self.made):
            if plan.role.handling == "glaze" or not plan.on:
                continue
            for (_, marks), (_, plain) in zip(
                groups_of(self.results, self.made, plan, SILENT),
                groups_of(self.results, self.free, plan, SILENT),
                strict=True,
            ):
                if not len(marks.half_mm):
                    continue
                np.testing.assert_array_equal(marks.lines_mm, plain.lines_mm)
                from foxpath.core.colour import lab_from_linear, linear_from_rgb

                lab = lab_from_linear(linear_from_rgb(marks.colour[:200]))
                far = np.asarray(difference(lab[:, None].astype(float), table[None])).min(axis=1)
                self.assertLess(float(far.max()), 1.5)

    def test_other_colours_are_another_painting_and_back_again(self):
        a, b = rehearse(self.results, self.free, 200)[-1], rehearse(self.results, self.made, 200)[-1]
        self.assertFalse(np.array_equal(a.standing.kept, b.standing.kept))
        again = rehearse(self.results, self.free, 200)[-1]
        np.testing.assert_array_equal(a.standing.kept, again.standing.kept)

    def test_a_glaze_keeps_what_it_lets_through(self):
        plan = next(plan for plan in passes_of(self.results, self.free) if plan.role.key == "undercoat")
        key, marks = next(one for one in groups_of(self.results, self.free, plan, SILENT) if len(one[1].half_mm))
        glaze = replace(marks, handling="glaze")
        self.assertIs(in_palette(self.results, self.made, (key, glaze), SILENT)[1], glaze)
        self.assertIs(in_palette(self.results, self.free, (key, marks), SILENT)[1], marks)


class HandedOut(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.project, cls.results = project(), Results()
        cls.close = close_mixes(cls.results, cls.project)

    def test_numbers_follow_from_the_palette(self):
        fields = handout.mixes_fields(self.project, self.close)
        self.assertTrue(fields["typical_values"])
        self.assertEqual(len(fields["piles"]), len(self.close.palette.piles))
        for row, pile in zip(fields["piles"], self.close.palette.piles, strict=True):
            self.assertEqual(row["parts"], {key: round(n, 4) for key, n in pile.recipe.parts})
            beads = sum(row["beads_cm"].values())
            self.assertAlmostEqual(beads, 3.537 * pile.mixed_ml, delta=0.05 * beads + 0.05)
            if pile.base:
                self.assertIn(row["begins_from"], {one["key"] for one in fields["piles"][: row["number"]]})

    def test_rows_are_as_many_as_their_head(self):
        rows = handout.mix_rows(self.project, self.close)
        self.assertEqual({len(row) for row in rows}, {len(rows[0])})
        self.assertEqual(len(rows), len(self.close.palette.piles) + 1)

    def test_the_sheet(self):
        sheet = handout.mix_sheet(Told(self.results, self.project), SILENT)
        self.assertEqual([card.number for card in sheet.cards], list(range(1, len(sheet.cards) + 1)))
        first = sheet.cards[0]
        self.assertTrue(first.beads)
        self.assertTrue(all(bead.cm > 0 for bead in first.beads))
        self.assertEqual(sheet.strings[0].steps[-1][2], "white")
        light = [step[1] for step in sheet.strings[0].steps]
        self.assertEqual(light, sorted(light))
        self.assertTrue(any("Solvents" in one for one in sheet.cautions))
        free = handout.mix_sheet(Told(self.results, edits.set_mixes(self.project, medium="solvent-free")), SILENT)
        self.assertFalse(any("Solvents" in one for one in free.cautions))

    def test_no_pages_without_tubes(self):
        made = edits.set_mixes(edits.take_tubes(self.project, [KeptTube("PBk9")]), black="none")
        self.assertEqual(handout.mix_sheet_pages(Told(self.results, made), SILENT), [])


class Once(unittest.TestCase):
    def test_the_same_wants_and_tubes_are_planned_once(self):
        made, results = project(), Results()
        first = palette_of(results, made)
        with mock.patch("foxpath.derive.mixes.palette.build") as again:
            self.assertIs(palette_of(results, edits.rename(made, "Other")), first)
            again.assert_not_called()


if __name__ == "__main__":
    unittest.main()
