"""What the marks of a zone go by: its borders, its room, its broad colours, what hangs over it, what a donor lends, and chance."""

import io
import math
import unittest
from dataclasses import replace
from unittest import mock

import numpy as np
from PIL import Image
from scipy.ndimage import distance_transform_edt

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.edges import SIGMA_SHARE
from foxpath.core.frame import Crop, Frame
from foxpath.core.rehearsal import _kernel_place as loops
from foxpath.core.rehearsal.marks import bounding_box
from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.pictures import study_of
from foxpath.derive.rehearsal import marks as rules
from foxpath.derive.zones.shapes import mask_of, zone_index
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


def png(rgb):
    """Return the bytes of a picture."""
    buffer = io.BytesIO()
    Image.fromarray(np.asarray(rgb, np.uint8)).save(buffer, "PNG")
    return buffer.getvalue()


class Plain(unittest.TestCase):
    def test_strokes_of_a_backgrounds_forms(self):
        self.assertEqual([rules.forms_mm(mm) for mm in (2.0, 6.0, 10.0, 40.0)], [2.0, 6.0, 6.0, 12.0])

    def test_room_is_the_distance_to_the_zones_own_border_in_millimetres(self):
        frame = Frame.over(Crop(0, 0, 200, 100), 0.5, 100)
        mask = np.zeros(frame.shape, bool)
        mask[:, 30:] = True
        room = rules._room(mask, frame)
        self.assertAlmostEqual(float(room[20, 30]), frame.cell_mm, places=4)
        self.assertAlmostEqual(float(room[20, 49]), 20 * frame.cell_mm, delta=0.05)
        # The rim of the canvas is no border.
        self.assertAlmostEqual(float(room[0, 49]), 20 * frame.cell_mm, delta=0.05)
        self.assertGreater(float(room[20, 99]), 60 * frame.cell_mm)
        self.assertEqual(float(room[20, 29]), 0)

    def test_without_hair_strokes_run_level_and_nothing_is_sure(self):
        field = rules._flat_field(Frame.over(Crop(0, 0, 80, 60), 1.0, 40))
        self.assertEqual(field.direction.shape, (30, 40, 2))
        self.assertTrue((field.direction == (1, 0)).all())
        self.assertTrue(field.inside.all() and field.domain.all())
        self.assertFalse(field.combed or field.rooted.any() or field.sure.any() or field.axis_sure.any())

    def test_a_seed_goes_by_pass_and_zone_and_stays_for_ever(self):
        self.assertEqual(rules._seed(7, "lights", "z1"), (7, 5790684715410062500))
        self.assertEqual(rules._seed(8, "lights", "z1")[1], rules._seed(7, "lights", "z1")[1])
        others = {rules._seed(7, role, zone) for role in ("lights", "darks") for zone in ("z1", "z2")}
        self.assertEqual(len(others), 4)


class Contrast(unittest.TestCase):
    def test_a_part_cut_out_of_a_further_picture_has_the_contrast_of_its_hairs(self):
        x = np.arange(200)
        rgb = np.full((160, 200, 3), 120)
        rgb[40:120] = np.where(x % 4 < 2, 90, 150)[None, :, None]
        made, lent = edits.lend(project(), png(rgb), "lent.png")
        made = edits.cut_lent(made, lent, np.array([[20.0, 50], [180, 50], [180, 110], [20, 110]]))
        one = made.lent(lent)
        light = lab_from_rgb8(np.array([[[90] * 3, [150] * 3]], np.uint8))[0, :, 0]
        self.assertAlmostEqual(rules._cut_contrast(Results(), one), float(np.ptp(light)) / 2, delta=0.6)
        even = replace(one, cut=((20.0, 4.0), (180.0, 4.0), (180.0, 30.0), (20.0, 30.0)))
        self.assertLess(rules._cut_contrast(Results(), even), 0.5)
        tiny = replace(one, cut=((20.0, 50.0), (26.5, 50.0), (26.5, 90.0), (20.0, 90.0)))
        self.assertEqual(rules._cut_contrast(Results(), tiny), 0)

    def test_what_a_donor_has_more_is_lent_with_a_gain_and_within_bounds(self):
        made = project()
        coat = made.zones[1].id
        made, other = edits.add_zone(
            made, "Other", "short-fur", np.array([[130.0, 30], [190, 30], [190, 110], [130, 110]])
        )
        made, _ = edits.add_mark(made, "donor", coat, source=other)
        index = zone_index(made, coat)
        frame, results = map_frame(made), Results()
        own = mask_of(results, made, index, frame)

        def lent(theirs, mine):
            def told(_study, mask):
                return mine if mask is own or np.array_equal(mask, own) else theirs

            with (
                mock.patch.object(rules, "_contrast", told),
                mock.patch.object(results.memo, "get", lambda _, make: make()),
            ):
                return rules.lent_contrast(results, made, index)

        self.assertAlmostEqual(lent(5.0, 3.0), 2.4 * 4.0)
        self.assertEqual(lent(3.0, 5.0), 0)
        self.assertEqual(lent(30.0, 1.0), 22.0)
        self.assertEqual(rules.lent_contrast(results, made, zone_index(made, other)), 0)

    def test_it_is_what_differs_from_hair_to_hair(self):
        results, made = Results(), project(grain=0.05)
        study, frame = study_of(results, made), map_frame(made)
        mask = mask_of(results, made, 1, frame)
        fine = (study.fine - study.local)[..., 0]
        self.assertAlmostEqual(rules._contrast(study, mask), float(fine[mask].std()), places=5)
        self.assertEqual(rules._contrast(study, np.zeros_like(mask)), 0)


class Over(unittest.TestCase):
    def test_hair_may_hang_over_what_has_none_and_is_painted_broadly(self):
        results, made = Results(), project()
        facts = facts_of(results, made)
        coat, eye = made.zones[1].id, made.zones[2].id
        longest = facts[zone_index(made, coat)].coat.length_mm
        self.assertAlmostEqual(rules._overhang(results, made, 0), round(min(longest, 40.0), 1))
        self.assertEqual(rules._overhang(results, made, zone_index(made, coat)), 0, "over hair it does not")
        self.assertEqual(rules._overhang(results, edits.set_coat(made, coat, length_mm=90.0), 0), 40.0)
        fine = edits.set_coat(made, eye, length_mm=1.5)
        self.assertEqual(rules._brush(results, fine, zone_index(fine, eye)), 3.75)
        self.assertEqual(rules._overhang(results, fine, zone_index(fine, eye)), 0, "a fine brush keeps clear of it")
        broad = edits.set_coat(made, eye, length_mm=4.0)
        self.assertEqual(rules._brush(results, broad, zone_index(broad, eye)), 7.0)
        self.assertGreater(rules._overhang(results, broad, zone_index(broad, eye)), 0)

    def test_a_zone_has_its_box_its_room_and_its_own_colours(self):
        results, made = Results(), project()
        frame, index = map_frame(made), 1
        part = rules._part_of(results, made, index, SILENT)
        box, room, home = rules._home(results, made, index, part, "lights")
        mask = mask_of(results, made, index, frame)
        self.assertEqual(box, bounding_box(mask))
        top, left, height, width = box
        np.testing.assert_array_equal(room, rules._room(mask, frame)[top : top + height, left : left + width])
        self.assertEqual(home.shape, (height, width, 6))
        np.testing.assert_array_equal(home[..., :3], home[..., 3:])
        # Its colours are broad, and nothing else than its own.
        inner = (room > 8) & mask[top : top + height, left : left + width]
        seen = study_of(results, made).local[top : top + height, left : left + width][inner].mean(axis=0)
        np.testing.assert_allclose(home[inner][..., :3].mean(axis=0) / loops.STEPS, seen, atol=1.5)


class Limit(unittest.TestCase):
    """A square whose hair runs to the right: it points at the right border, along those above and below, and away from the left one."""

    @classmethod
    def setUpClass(cls):
        cls.results = Results()
        made = project()
        cls.coat = made.zones[1].id
        made = edits.remove_zone(made, made.zones[2].id)
        made, _ = edits.add_comb(made, np.array([[50.0, 70.0], [110.0, 70.0]]), cls.coat)
        made, _ = edits.add_comb(made, np.array([[50.0, 95.0], [110.0, 95.0]]), cls.coat)
        cls.made = edits.set_edge(made, cls.coat, made.zones[0].id, "soft", 6.0)

    def limit(self, made=None):
        """Return where the hair of the square ends: mm to the border, cosine, sine, mm planned."""
        made = made or self.made
        _, packed = rules._limit(self.results, made, zone_index(made, self.coat), map_frame(made), SILENT)
        free, ahead, aside, width = (packed[..., k].astype(np.float64) for k in range(4))
        return (
            (free / 255) ** 2 * loops.FARTHEST,
            (ahead - 127) / 127,
            (aside - 127) / 127,
            (width / 255) ** 2 * loops.WIDEST,
        )

    def test_how_squarely_hair_points_at_each_border(self):
        free, ahead, aside, width = self.limit()
        rows, columns = free.shape
        near = 6
        for at, along, across in (
            ((rows // 2, columns - near), 1, 0),
            ((rows // 2, near - 1), -1, 0),
            ((near - 1, columns // 2), 0, -1),
            ((rows - near, columns // 2), 0, 1),
        ):
            self.assertAlmostEqual(float(ahead[at]), along, delta=0.12)
            self.assertAlmostEqual(float(aside[at]), across, delta=0.12)
            self.assertAlmostEqual(float(free[at]), near * map_frame(self.made).cell_mm, delta=0.4)
        self.assertAlmostEqual(float(width[rows // 2, columns - near]), 6.0, delta=0.8)
        self.assertGreater(SIGMA_SHARE, 0)

    def test_everywhere_by_the_growth_that_is_there(self):
        made = edits.remove_comb(self.made, self.made.combs[0].id)
        for line in ([[50.0, 40], [70, 60]], [[110.0, 45], [90, 45]], [[105.0, 100], [105, 75]]):
            made, _ = edits.add_comb(made, np.array(line), self.coat)
        _, ahead, aside, _ = self.limit(made)
        frame, index = map_frame(made), zone_index(made, self.coat)
        mask = mask_of(self.results, made, index, frame)
        top, left, height, width = bounding_box(mask)
        away, nearest = distance_transform_edt(np.pad(mask, 1), return_indices=True)
        field = growth_of(self.results, made, index)
        i, j = (v.ravel() for v in np.mgrid[4:height:9, 4:width:9])
        far = away[top + i + 1, left + j + 1]
        # Not on its middle lines, where two ways are as near.
        near = (far > 3) & (far < 60)
        i, j, far = i[near], j[near], far[near]
        normal = ((nearest[:, top + i + 1, left + j + 1] - (top + i + 1, left + j + 1)) / far)[::-1].T
        way, _ = field.sample(frame.to_px(np.stack([left + j + 0.5, top + i + 0.5], axis=1)))
        cosine = (normal * way).sum(axis=1)
        sine = normal[:, 1] * way[:, 0] - normal[:, 0] * way[:, 1]
        self.assertGreater(np.ptp(cosine), 1.2)
        self.assertLess(float(np.quantile(np.abs(ahead[i, j] - cosine), 0.9)), 0.12)
        self.assertLess(float(np.quantile(np.abs(aside[i, j] - sine), 0.9)), 0.12)

    def test_under_what_lies_in_front_it_runs_on(self):
        made, _ = edits.add_zone(self.made, "Front", "nose", np.array([[100.0, 20], [150, 20], [150, 120], [100, 120]]))
        open_, shut = self.limit(made)[0], self.limit()[0]
        self.assertLess(open_.shape[1], shut.shape[1])
        rows = open_.shape[0] // 2
        # At the front part's border nothing ends.
        self.assertGreater(open_[rows, -1], 12 * map_frame(made).cell_mm)
        self.assertLess(open_[rows, 0], 2 * map_frame(made).cell_mm)

    def test_the_rim_of_the_canvas_is_no_border(self):
        made = edits.set_outline(self.made, self.coat, np.array([[40.0, 30.0], [200, 30], [200, 160], [40, 160]]))
        free, _, _, width = self.limit(made)
        rows, columns = free.shape
        cell = map_frame(made).cell_mm
        self.assertAlmostEqual(float(free[rows // 2, 0]), cell, delta=0.5)
        self.assertAlmostEqual(float(free[0, columns // 2]), cell, delta=0.5)
        self.assertGreater(float(free[rows // 2, -1]), 20 * cell)
        self.assertGreater(float(free[-1, columns // 2]), 20 * cell)
        whole = edits.set_outline(made, self.coat, np.array([[-5.0, -5], [205, -5], [205, 165], [-5, 165]]))
        free, _, _, width = self.limit(whole)
        self.assertGreater(float(free.min()), 20 * cell)
        self.assertEqual(float(width.max()), 0)

    def test_of_a_hidden_part_there_is_none(self):
        made, _ = edits.add_zone(self.made, "Front", "nose", np.array([[20.0, 10], [150, 10], [150, 130], [20, 130]]))
        index = zone_index(made, self.coat)
        self.assertEqual(rules._limit(self.results, made, index, map_frame(made), SILENT), ("hidden", None))


class OfAPass(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.made = Results(), project()
        cls.coat = cls.made.zones[1].id

    def plan(self, key, made=None):
        """Return a pass."""
        return next(p for p in passes_of(self.results, made or self.made) if p.role.key == key)

    def of(self, key, index, made=None):
        """Return the marks of a pass in a zone, with their key."""
        made = made or self.made
        return rules.marks_of(self.results, made, self.plan(key, made), index)

    def test_the_ground_covers_the_whole_canvas_and_goes_by_the_hand(self):
        key, ground = self.of("ground", -1)
        canvas = self.made.canvas
        x, y = ground.lines_mm[..., 0], ground.lines_mm[..., 1]
        self.assertLess(x.min(), 5)
        self.assertGreater(x.max(), canvas.width_mm - 5)
        self.assertGreater(y.max(), canvas.height_mm - 15)
        brush = self.plan("ground").brush_mm
        self.assertLess(np.diff(np.sort(y[np.ptp(y, axis=1) < 1e-6].mean(axis=1))).max(), brush)
        self.assertNotEqual(key, self.of("ground", -1, replace(self.made, seed=99))[0])
        self.assertEqual(key, self.of("ground", -1, edits.set_coat(self.made, self.coat, length_mm=9.0))[0])
        # Short strokes: 3.2 brushes, and the wash's from side to side.
        own = ground.length_mm[ground.length_mm < canvas.width_mm]
        self.assertLess(abs(float(np.median(own)) / (3.2 * brush * self.plan("ground").length_share) - 1), 0.2)

    def test_hair_has_the_length_and_lies_in_its_zone(self):
        _, marks = self.of("lights", zone_index(self.made, self.coat))
        self.assertTrue(marks.hair)
        index = zone_index(self.made, self.coat)
        mark = self.plan("lights").mark_of(index, facts_of(self.results, self.made)[index])
        self.assertLess(abs(float(np.median(marks.length_mm)) / mark.length_mm - 1), 0.2)
        way = marks.lines_mm[:, -1] - marks.lines_mm[:, 0]
        self.assertGreater((way[:, 0] > 0).mean(), 0.97)
        frame = map_frame(self.made)
        j, i = np.clip((marks.lines_mm[:, 0] / frame.cell_mm).astype(int), 0, (frame.columns - 1, frame.rows - 1)).T
        self.assertGreater(mask_of(self.results, self.made, index, frame)[i, j].mean(), 0.97)
        self.assertLessEqual(
            float(marks.lightness.max()), min(self.plan("lights").l_high, self.plan("lights").ceiling) + 0.01
        )

    def test_zones_and_passes_do_not_disturb_each_other(self):
        index = zone_index(self.made, self.coat)
        key = self.of("lights", index)[0]
        other = edits.set_pass(self.made, "darks", opacity=0.4)
        self.assertEqual(self.of("lights", zone_index(other, self.coat), other)[0], key)
        shorter = edits.set_coat(self.made, self.coat, length_mm=7.0)
        self.assertNotEqual(self.of("lights", index, shorter)[0], key)
        self.assertNotEqual(self.of("lights", index, replace(self.made, seed=5))[0], key)
        self.assertNotEqual(self.of("midtones", index)[0], key)

    def test_a_background_has_broad_strokes_and_smaller_ones_for_its_forms(self):
        plan = self.plan("background")
        _, marks = self.of("background", 0)
        facts = facts_of(self.results, self.made)[0]
        broad = plan.mark_of(0, facts).width_mm
        small = rules.forms_mm(broad)
        self.assertLess(small, broad)
        half = np.round(marks.half_mm, 3)
        self.assertGreater((np.abs(half - broad / 2) < 0.3 * broad).sum(), 10)
        finer = half < 0.75 * small
        self.assertGreater(finer.sum(), 20)
        # The forms come after the masses.
        self.assertGreater(np.flatnonzero(finer).mean(), np.flatnonzero(~finer).mean())
        self.assertAlmostEqual(float(np.median(marks.length_mm[finer])), 3.2 * small, delta=0.25 * 3.2 * small)

    def test_of_what_belongs_to_a_later_pass_only_the_lightest_is_laid(self):
        plan = self.plan("background")
        some = replace(plan, brushes={}, role=replace(plan.role, belongs=0.25))
        _, few = rules.marks_of(self.results, self.made, some, 0)
        _, every = rules.marks_of(self.results, self.made, replace(plan, brushes={}), 0)
        # Of equal lightness, all of them.
        bound = float(np.quantile(every.lightness, 0.75))
        self.assertEqual(len(few.half_mm), int((every.lightness >= bound - 1e-4).sum()))
        self.assertLess(len(few.half_mm), 0.5 * len(every.half_mm))

    def test_parts_with_steps_of_their_own_get_no_strokes(self):
        index = zone_index(self.made, self.made.zones[2].id)
        with mock.patch.object(rules, "role_is_own", lambda *_: True):
            key, none = rules.marks_of(Results(), replace(self.made, seed=77), self.plan("lights"), index)
        self.assertEqual(len(none.half_mm), 0)
        other, some = rules.marks_of(Results(), replace(self.made, seed=77), self.plan("lights"), index)
        self.assertNotEqual(key, other)
        self.assertGreater(len(some.half_mm), 0)

    def test_curls_bend_and_have_their_dark_beneath(self):
        curly = edits.change_zone(self.made, self.coat, kind="curly-fur")
        index = zone_index(curly, self.coat)
        part = rules._part_of(self.results, curly, index, SILENT)
        self.assertIsNotNone(part.limit[1])
        self.assertIsNone(part.plumage)
        _, curls = self.of("lights", index, curly)
        _, straight = self.of("lights", index)

        def bent(marks):
            way = np.diff(marks.lines_mm, axis=1)
            turn = np.unwrap(np.arctan2(way[..., 1], way[..., 0]), axis=1)
            return float(np.median(np.abs(turn[:, -1] - turn[:, 0])))

        self.assertGreater(bent(curls), bent(straight) + math.radians(15))
        # Darks and lights: each light curl lies on a dark one.
        self.assertGreater(
            float(np.ptp(np.percentile(curls.lightness, (5, 95)))),
            float(np.ptp(np.percentile(straight.lightness, (5, 95)))),
        )

    def test_feathers_add_their_own(self):
        plumage = edits.change_zone(self.made, self.coat, kind="covert")
        index = zone_index(plumage, self.coat)
        self.assertIsNotNone(rules._part_of(self.results, plumage, index, SILENT).plumage)
        plan = self.plan("lights", plumage)
        with mock.patch.object(rules, "feather_marks", lambda *_: None):
            _, plain = rules.marks_of(Results(), replace(plumage, seed=31), plan, index)
        _, with_them = rules.marks_of(Results(), replace(plumage, seed=31), plan, index)
        self.assertGreaterEqual(len(with_them.half_mm), len(plain.half_mm))
        self.assertEqual(growth_frame(plumage), growth_frame(self.made))


if __name__ == "__main__":
    unittest.main()
