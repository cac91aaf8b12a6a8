"""Hair beyond an outline: where it is told, in which pass it is laid, where its hairs begin and how they lie."""

import io
import unittest
from dataclasses import replace

import cv2
import numpy as np
from PIL import Image

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import ZoneField
from foxpath.core.units import CanvasSize
from foxpath.derive import Results
from foxpath.derive.frames import map_frame
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.rehearsal import overhang as rules
from foxpath.derive.rehearsal.overhang import COVERAGE, INTO, REACH, SHORTER, overhang_marks, overhang_of
from foxpath.derive.zones.shapes import mask_of, zone_index
from foxpath.document import edits
from tests.core.zones.test_snap import hairy
from tests.remembered import remember

setUpModule = remember
SHORT_BY = 20.0
"""So far within the hairy oval its outline is drawn, px of half a millimetre."""


def oval(less=SHORT_BY):
    """Return an outline drawn so far within the oval."""
    turn = np.linspace(0, 2 * np.pi, 40, endpoint=False)
    return np.stack([400 + (208 - less) * np.cos(turn), 300 + (148 - less) * np.sin(turn)], axis=1)


def drawn(kind="long-fur", less=SHORT_BY, grade="soft", behind="background"):
    """Return a project whose coat hangs over its outline, and the coat's id."""
    buffer = io.BytesIO()
    Image.fromarray(hairy()[0]).save(buffer, "PNG")
    made = edits.new_project(buffer.getvalue(), "hairy.png", CanvasSize(400, 300), "Hairy")
    if behind != "background":
        made = edits.change_zone(made, made.zones[0].id, kind=behind)
    made, zone = edits.add_zone(made, "Coat", kind, oval(less))
    if made.zone(zone).kind_of().hair:
        made, _ = edits.add_comb(made, np.array([[300.0, 300.0], [500.0, 357.0]]), zone)
    return edits.set_edge(made, zone, made.zones[0].id, grade, 4.0), zone


class Where(unittest.TestCase):
    def there(self, made, zone):
        """Return what hangs over a coat's outline."""
        return overhang_of(Results(), made, zone_index(made, zone))

    def test_it_is_the_hair_between_the_outline_and_where_the_coat_ends(self):
        made, zone = drawn()
        found, frame = self.there(made, zone), map_frame(made)
        size = (frame.columns, frame.rows)
        coat = cv2.resize(hairy()[1].astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0
        own = mask_of(Results(), made, zone_index(made, zone), frame)
        true = coat & ~own
        self.assertGreater((found.there & true).sum() / true.sum(), 0.9)
        self.assertLess((found.there & ~true).sum() / true.sum(), 0.1)
        self.assertAlmostEqual(found.area_mm2, found.there.sum() * frame.cell_mm**2, places=3)
        self.assertAlmostEqual(found.area_mm2, np.pi * (210 * 150 - 188 * 128) * 0.25, delta=500)

    def test_no_farther_than_hair_of_its_length_reaches(self):
        made, zone = drawn("short-fur")
        long = made.coat_of(made.zone(zone)).length_mm
        frame = map_frame(made)
        own = mask_of(Results(), made, zone_index(made, zone), frame)
        away = cv2.distanceTransform((~own).astype(np.uint8), cv2.DIST_L2, 5) * frame.cell_mm
        found = self.there(made, zone)
        farthest = float(away[found.there].max())
        self.assertLessEqual(farthest, REACH[0] * long + frame.cell_mm)
        self.assertGreater(farthest, 0.8 * REACH[0] * long)
        # However long the hair: 30 mm at most.
        huge = edits.set_coat(made, zone, length_mm=60.0)
        far = edits.set_outline(huge, zone, oval(90.0))
        own = mask_of(Results(), far, zone_index(far, zone), frame)
        away = cv2.distanceTransform((~own).astype(np.uint8), cv2.DIST_L2, 5) * frame.cell_mm
        reached = float(away[self.there(far, zone).there].max())
        self.assertAlmostEqual(reached, REACH[1], delta=2 * frame.cell_mm)

    def test_over_a_hard_or_a_lost_border_over_other_hair_and_of_what_has_none_it_does_not_hang(self):
        for grade, hangs in (("soft", True), ("firm", True), ("hard", False), ("lost", False)):
            self.assertEqual(self.there(*drawn(grade=grade)) is not None, hangs, grade)
        self.assertIsNone(self.there(*drawn(behind="short-fur")))
        self.assertIsNone(self.there(*drawn("nose")))
        made, _ = drawn()
        self.assertIsNone(overhang_of(Results(), made, 0), "the background")

    def test_what_is_hardly_more_than_a_corner_of_the_outline_is_none(self):
        # The outline lies where the hair ends, and a little beyond.
        self.assertIsNone(self.there(*drawn("short-fur", less=-4.0)))
        self.assertIsNotNone(self.there(*drawn("short-fur", less=6.0)))

    def test_only_over_what_lies_behind(self):
        made, zone = drawn()
        made, other = edits.add_zone(made, "Rock", "nose", np.array([[560.0, 200], [760, 200], [760, 400], [560, 400]]))
        index = zone_index(made, zone)
        self.assertGreater(zone_index(made, other), index)
        found = overhang_of(Results(), made, index)
        frame = map_frame(made)
        rock = mask_of(Results(), made, zone_index(made, other), frame)
        self.assertFalse((found.there & rock).any())
        self.assertTrue(found.there.any())


class Laid(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results = Results()
        cls.made, cls.zone = drawn()
        cls.index = zone_index(cls.made, cls.zone)

    def hairs(self, made=None, index=None):
        """Return the passes in which hairs beyond the outline are laid, with their marks."""
        made = made or self.made
        at = self.index if index is None else index
        laid = ((p, overhang_marks(self.results, made, p, at)) for p in passes_of(self.results, made) if p.on)
        return [(plan, *found[0]) for plan, found in laid if found]

    def test_they_are_laid_once_with_the_first_of_the_top_coat(self):
        ((plan, _, marks),) = self.hairs()
        self.assertEqual(plan.role.key, "lights")
        mark = plan.mark_of(self.index, facts_of(self.results, self.made)[self.index])
        # They are shorter than the coat's, for they are rooted where they are seen.
        self.assertAlmostEqual(float(np.median(marks.length_mm)), SHORTER * mark.length_mm, delta=0.15 * mark.length_mm)
        self.assertLessEqual(float(marks.lightness.max()), min(plan.l_high, plan.ceiling) + 1e-3)
        self.assertEqual(self.hairs(index=0), [])

    def test_as_many_as_cover_where_they_are_seen(self):
        ((_, _, marks),) = self.hairs()
        frame = map_frame(self.made)
        there = overhang_of(self.results, self.made, self.index).there
        drawn_on = np.zeros(there.shape, np.uint8)
        for line, half in zip(marks.lines_mm / frame.cell_mm, marks.half_mm / frame.cell_mm, strict=True):
            cv2.polylines(
                drawn_on, [np.round(line * 16).astype(np.int32)], False, 1, max(1, round(2 * half)), cv2.LINE_8, 4
            )
        self.assertGreater(drawn_on[there].mean(), 0.8)
        place = drawn_on[rules._begun(there, mask_of(self.results, self.made, self.index, frame), 3)].sum()
        paint = float((marks.length_mm * 2 * marks.half_mm).sum()) / frame.cell_mm**2
        self.assertGreater(paint, place)
        self.assertGreater(COVERAGE, 1)

    def test_they_go_over_the_border_and_as_the_coat_grows(self):
        ((_, _, marks),) = self.hairs()
        frame = map_frame(self.made)
        own = mask_of(self.results, self.made, self.index, frame)
        away = cv2.distanceTransform((~own).astype(np.uint8), cv2.DIST_L2, 5) * frame.cell_mm
        deep = cv2.distanceTransform(own.astype(np.uint8), cv2.DIST_L2, 5) * frame.cell_mm
        j, i = np.clip((marks.lines_mm[:, 0] / frame.cell_mm).astype(int), 0, (frame.columns - 1, frame.rows - 1)).T
        # Rooted in the coat near its border, or beyond it.
        self.assertGreater((away[i, j] > 0).mean(), 0.3)
        self.assertGreater((deep[i, j] > 0).mean(), 0.2)
        self.assertLess(deep[i, j].max(), INTO[1] + 4)
        way = marks.lines_mm[:, -1] - marks.lines_mm[:, 0]
        angle = np.degrees(np.arctan2(way[:, 1], way[:, 0]))
        self.assertLess(np.median(np.abs(angle - np.degrees(np.arctan2(57, 200)))), 12)

    def test_under_a_glaze_they_come_with_the_last_one_in_the_colours_it_leaves(self):
        glazed = edits.set_pass(
            edits.set_pass(self.made, "undercoat", handling="glaze"), "highlights", handling="glaze"
        )
        keys = [p.role.key for p in passes_of(self.results, glazed) if p.on and p.role.handling == "glaze"]
        self.assertEqual(keys, ["undercoat", "highlights"])
        ((plan, _, marks),) = self.hairs(glazed)
        self.assertEqual(plan.role.key, "highlights")
        self.assertNotEqual(marks.handling, "glaze")
        ((_, _, usual),) = self.hairs()
        np.testing.assert_allclose(np.median(marks.length_mm), np.median(usual.length_mm), rtol=0.1)
        off = edits.set_pass(glazed, "highlights", on=False)
        self.assertEqual([p.role.key for p, _, _ in self.hairs(off)], ["undercoat"])

    def test_another_hand_lays_others_and_another_outline_too(self):
        ((_, key, marks),) = self.hairs()
        ((_, again, _),) = self.hairs()
        ((_, other, moved),) = self.hairs(replace(self.made, seed=self.made.seed + 1))
        self.assertEqual(key, again)
        self.assertNotEqual(key, other)
        self.assertNotEqual(marks.lines_mm.tolist(), moved.lines_mm.tolist())
        ((_, wider, _),) = self.hairs(edits.set_outline(self.made, self.zone, oval(14.0)))
        self.assertNotEqual(key, wider)


class Places(unittest.TestCase):
    def test_they_begin_where_hair_is_seen_and_so_far_into_their_own_coat(self):
        rng = np.random.default_rng(2)
        for there_at, cells in (((30, 44), 5), ((0, 6), 9), ((52, 60), 7)):
            there = np.zeros((60, 70), bool)
            there[slice(*there_at), 10:20] = rng.random((there_at[1] - there_at[0], 10)) < 0.8
            own = np.zeros_like(there)
            own[:, 24:50] = True
            made = rules._begun(there, own, cells)
            y, x = np.nonzero(there)
            i, j = np.mgrid[:60, :70]
            near = np.hypot(i[..., None] - y, j[..., None] - x).min(axis=-1)
            # The distance is read with a chamfer, a few hundredths off.
            sure = np.abs(near - cells) > 0.1 * cells
            np.testing.assert_array_equal(made[sure], (there | (own & (near <= cells)))[sure])

    def test_the_growth_is_carried_on_to_the_nearest_known(self):
        frame = Frame.over(Crop(0, 0, 80, 60), 0.5, 40)
        height, width = 12, 16
        turn = np.random.default_rng(4).uniform(0, 6.28, (height, width)).astype(np.float32)
        direction = np.stack([np.cos(turn), np.sin(turn)], axis=-1)
        domain = np.zeros((height, width), bool)
        domain[3:9, 4:12] = True
        nothing = np.zeros((height, width), np.float32)
        field = ZoneField(
            frame, 5, 7, direction, nothing, domain, domain, combed=True, axis_sure=nothing, rooted=domain, axis=None
        )
        fine = Frame.over(Crop(0, 0, 80, 60), 0.5, 160)
        box = (30, 40, 24, 50)
        made = rules._carried(field, fine, box)
        self.assertEqual((made.row, made.column, made.direction.shape), (30, 40, (24, 50, 2)))
        self.assertTrue(made.domain.all() and made.inside.all() and (made.sure == 1).all())
        known = np.argwhere(domain)
        for i, j in ((0, 0), (3, 11), (10, 25), (23, 49), (12, 2)):
            row = min(max((30 + i + 0.5) / 4 - 5, 0), height - 1)
            column = min(max((40 + j + 0.5) / 4 - 7, 0), width - 1)
            far = np.hypot(*(known - (int(row), int(column))).T)
            nearest = known[far < far.min() + 0.1]
            self.assertIn(made.direction[i, j].tolist(), [direction[tuple(one)].tolist() for one in nearest], (i, j))


if __name__ == "__main__":
    unittest.main()
