import json
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

import numpy as np

from foxpath.core.errors import AppError, InputError
from foxpath.core.lengths import Brush
from foxpath.document import archive, edits, library
from foxpath.document.convert import project_from_fields, project_to_fields
from tests import made

LEFT = np.array([[20.0, 20], [60, 20], [100, 20], [100, 60], [100, 100], [60, 100], [20, 100], [20, 60]])
RIGHT = np.array([[100.0, 20], [140, 20], [180, 20], [180, 60], [180, 100], [140, 100], [100, 100], [100, 60]])


def neighbours():
    """Two parts that share the three points of their border, each with a comb."""
    project = made.project(zones=False)
    project, a = edits.add_zone(project, "Left", "short-fur", LEFT)
    project, b = edits.add_zone(project, "Right", "short-fur", RIGHT)
    project, _ = edits.add_comb(project, np.array([[30.0, 50], [70, 50]]), a)
    project, _ = edits.add_comb(project, np.array([[120.0, 50], [160, 50]]), b)
    return project, a, b


def back_again(project):
    fields = json.loads(json.dumps(project_to_fields(project)))
    return project_from_fields(fields, lambda _: project.reference.data, "x")


class SharedBorders(unittest.TestCase):
    """What two zones share moves together."""

    def test_a_shared_point_moves_comes_and_goes_for_both(self):
        project, a, b = neighbours()
        moved = edits.move_point(project, a, 3, (112, 62))
        self.assertIn((112.0, 62.0), moved.zone(b).points)
        more = edits.insert_point(moved, a, 3, (108, 80))
        self.assertEqual(more.zone(b).points[7], (108.0, 80.0))
        self.assertEqual(len(more.zone(b).points), 9)
        less = edits.remove_point(more, a, 4)
        self.assertEqual(less.zone(b).points, moved.zone(b).points)
        alone = edits.move_point(project, a, 0, (10, 10))
        self.assertIs(alone.zone(b), project.zone(b))

    def test_a_new_outline_takes_the_neighbour_along(self):
        project, a, b = neighbours()
        bent = np.array(
            [[20.0, 20], [60, 20], [100, 20], [118, 50], [120, 70], [100, 100], [60, 100], [20, 100], [20, 60]]
        )
        after = edits.set_outline(project, a, bent)
        for point in ((118.0, 50.0), (120.0, 70.0)):
            self.assertIn(point, after.zone(b).points)
        self.assertNotIn((100.0, 60.0), after.zone(b).points)
        self.assertIn((180.0, 60.0), after.zone(b).points)

    def test_smooth_and_grow_carry_it_too(self):
        project, a, b = neighbours()
        grown = edits.grow_zone(project, a, 5.0)
        x = max(p[0] for p in grown.zone(a).points)
        self.assertAlmostEqual(x, 100 + 5 / project.mm_per_px, delta=3.5)
        self.assertGreater(sum(abs(p[0] - x) < 3 for p in grown.zone(b).points), 1)


class Parts(unittest.TestCase):
    """Joining and cutting carries what belongs to the parts."""

    def test_joined_with_all_it_had(self):
        project, a, b = neighbours()
        project = edits.measure_hair(project, b, np.array([[120.0, 40], [150, 40]]))
        both = edits.merge_zones(project, a, b)
        self.assertIsNone(both.zone(b))
        self.assertEqual(len(both.combs_of(a)), 2)
        self.assertEqual(len(both.zone(a).hairs), 1)
        self.assertGreater(max(p[0] for p in both.zone(a).points), 175)
        with self.assertRaises(InputError):
            edits.merge_zones(project, a, project.zones[0].id)

    def test_cut_in_two_and_combs_go_where_they_lie(self):
        project, a, _ = neighbours()
        project, _ = edits.add_comb(project, np.array([[30.0, 85], [70, 85]]), a)
        cut, piece = edits.split_zone(project, a, np.array([[10.0, 70], [60, 72], [108, 74]]))
        self.assertEqual(len(cut.combs_of(a)) + len(cut.combs_of(piece)), 2)
        self.assertEqual(len(cut.combs_of(piece)), 1)
        self.assertGreaterEqual(len(set(cut.zone(a).points) & set(cut.zone(piece).points)), 3)
        self.assertEqual(cut.zone(piece).depth, cut.zone(a).depth)

    def test_a_part_that_runs_off_the_canvas_is_cut_by_a_stroke_to_its_rim(self):
        project, a, _ = neighbours()
        off = tuple((x, y if y < 90 else 400.0) for x, y in project.zone(a).points)
        project = edits.change_zone(project, a, points=off)
        cut, piece = edits.split_zone(project, a, np.array([[55.0, 5], [58, 80], [60, 159]]))
        self.assertGreater(len(cut.zone(piece).points), 3)
        with self.assertRaises(InputError):
            edits.split_zone(project, a, np.array([[55.0, 5], [58, 40], [60, 90]]))

    def test_taken_off(self):
        project, a, b = neighbours()
        project = edits.change_zone(project, b, points=tuple((x - 40, y) for x, y in project.zone(b).points))
        less = edits.subtract_zone(project, a, b)
        self.assertLess(max(p[0] for p in less.zone(a).points), 70)


class Animals(unittest.TestCase):
    """Several animals, each a group with its own depth."""

    def test_groups_are_moved_whole(self):
        project, a, b = neighbours()
        project, c = edits.add_zone(project, "Vixen's ear", "short-fur", LEFT + 5)
        project, d = edits.add_zone(project, "Cub's ear", "short-fur", RIGHT + 5)
        for zone, name in ((a, "Vixen"), (c, "Vixen"), (b, "Cub"), (d, "Cub")):
            project = edits.set_group(project, zone, name)
        self.assertEqual([z.group for z in project.back_to_front()], ["", "Vixen", "Vixen", "Cub", "Cub"])
        front = edits.set_group_rank(project, "Vixen", 1)
        self.assertEqual([z.id for z in front.back_to_front()], [project.zones[0].id, b, d, a, c])
        self.assertEqual(front.groups, ("", "Cub", "Vixen"))


class OwnKinds(unittest.TestCase):
    """A painter's own kinds: on the zone, in the library, in a shared file."""

    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict("os.environ", {"FOXPATH_DATA": str(self.dir / "data")}))

    def test_kept_shared_and_taken_in(self):
        project, a, b = neighbours()
        project = edits.set_coat(project, a, length_mm=33.0, clump_mm=4.0)
        own = edits.own_kind_of(project, project.zone(a), "winter ruff")
        self.assertEqual(library.save_kind(own), (own,))
        project = edits.set_own_kind(project, b, own)
        self.assertAlmostEqual(project.coat_of(project.zone(b)).length_mm, 33, places=1)
        self.assertEqual(project.zone(b).kind_of().name, "winter ruff")
        self.assertEqual(back_again(project).zone(b).own, own)
        shared = self.dir / "kinds.json"
        library.write_kinds(shared, library.own_kinds())
        self.assertEqual(library.forget_kind("winter ruff"), ())
        self.assertEqual(library.take_in(shared), (own,))
        # The zone keeps what it is when the library forgets it; a kind that ships takes its place.
        self.assertIsNone(edits.set_kind(project, b, "skin").zone(b).own)

    def test_what_is_no_library_is_refused_and_nothing_is_lost(self):
        project, a, _ = neighbours()
        library.save_kind(edits.own_kind_of(project, project.zone(a), "mine"))
        for words in (
            "{}",
            "[1]",
            '{"format": "foxpath-kinds", "version": 9, "kinds": []}',
            '{"format": "foxpath-kinds", "kinds": [{"name": 3}]}',
            "\xff",
        ):
            wrong = self.dir / "wrong.json"
            wrong.write_text(words, "latin-1")
            with self.assertRaises(AppError):
                library.take_in(wrong)
        self.assertEqual([one.name for one in library.own_kinds()], ["mine"])
        with self.assertRaises(InputError):
            edits.own_kind_of(project, project.zone(a), "  ")


class PlanEdits(unittest.TestCase):
    """Edges along their length, hairs, fans, forms and the kit; all come back from the file."""

    def test_everything_survives_the_file(self):
        project, a, b = neighbours()
        project, _ = edits.add_stretch(project, a, project.zones[0].id, LEFT[:3], 0.7)
        project, _ = edits.add_fan(project, b, RIGHT[:3], RIGHT[4:7], 7)
        project = edits.set_form(project, a, kind="plane", line=((20, 20), (90, 90)), turn_deg=120)
        project = edits.set_tract(project, b, overlap=0.4, barb_deg=None)
        project = edits.add_brush(project, Brush("liner", 0.3, 2))
        project = edits.set_focal_order(edits.set_falloff(project, 0.8), "first")
        project = edits.set_group(project, a, "Vixen")
        again = back_again(project)
        for name in ("zones", "stretches", "fans", "kit", "falloff", "focal_order", "next_id"):
            self.assertEqual(getattr(again, name), getattr(project, name), name)
        self.assertEqual(again.zone(a).form.turn_deg, 85)
        with tempfile.TemporaryDirectory() as folder:
            archive.save(project, Path(folder) / "x.foxpath")
            self.assertEqual(archive.load(Path(folder) / "x.foxpath").fans, project.fans)

    def test_one_measured_hair_of_version_2_is_kept(self):
        project, a, _ = neighbours()
        fields = project_to_fields(project)
        fields["version"] = 2
        for zone in fields["zones"]:
            hairs = zone.pop("hairs")
            zone["measured"] = [[30, 30], [60, 30]] if zone["id"] == a else hairs
        for key in ("stretches", "fans", "kit", "falloff", "focal_order"):
            fields.pop(key)
        again = project_from_fields(json.loads(json.dumps(fields)), lambda _: project.reference.data, "x")
        self.assertEqual(again.zone(a).hairs, (((30.0, 30.0), (60.0, 30.0)),))
        self.assertEqual(again.kit, project.kit)

    def test_hairs_average_and_are_straightened(self):
        project, a, _ = neighbours()
        mm = project.mm_per_px
        line = np.array([[30.0, 30], [50, 30]])
        project = edits.measure_hair(project, a, line)
        project = edits.measure_hair(project, a, line * (4, 1))
        self.assertAlmostEqual(project.zone(a).coat.length_mm, 40 * mm, places=1)
        seen = edits.measure_hair(edits.reset_coat(project, a), a, line, seen=0.5)
        self.assertAlmostEqual(seen.zone(a).coat.length_mm, 40 * mm, places=1)
        one = edits.remove_hair(project, a, 1)
        self.assertAlmostEqual(one.zone(a).coat.length_mm, 20 * mm, places=1)
        self.assertIsNone(edits.remove_hair(one, a, 0).zone(a).coat.length_mm)

    def test_what_cannot_be_is_said(self):
        project, a, b = neighbours()
        short = np.array([[20.0, 20], [20.5, 20]])
        for act in (
            lambda: edits.add_stretch(project, a, "", short, 1),
            lambda: edits.add_fan(project, b, RIGHT[:3], short, 7),
            lambda: edits.add_fan(project, b, RIGHT[:3], RIGHT[4:7], 99),
            lambda: edits.add_brush(project, Brush("spoon", 3)),
            lambda: edits.add_brush(project, Brush("flat", 999)),
            lambda: edits.set_focal_order(project, "sideways"),
            lambda: edits.set_form(project, a, kind="cube"),
            lambda: edits.set_form(project, a, kind="ball", line=((1, 1), (1, 2))),
        ):
            with self.assertRaises(InputError):
                act()

    def test_a_removed_zone_takes_its_own_along(self):
        project, a, b = neighbours()
        project, _ = edits.add_stretch(project, a, b, LEFT[2:5], 0.7)
        project, _ = edits.add_fan(project, b, RIGHT[:3], RIGHT[4:7], 7)
        gone = edits.remove_zone(project, b)
        self.assertEqual((gone.stretches, gone.fans), ((), ()))
        self.assertEqual(replace(gone, zones=project.zones).next_id, project.next_id)
