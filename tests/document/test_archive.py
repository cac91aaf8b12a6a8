import io
import json
import tempfile
import unittest
import warnings
import zipfile
from dataclasses import replace
from pathlib import Path
from unittest import mock

import numpy as np

from foxpath.core.arrays import as_points
from foxpath.core.errors import ProjectError
from foxpath.core.passes import Logged, schools
from foxpath.core.reference.light import Catchlight, Light
from foxpath.core.reference.transfer import Axes
from foxpath.derive import Results
from foxpath.derive.passes.plan import passes_of
from foxpath.document import archive, edits
from tests.made import picture, project


class Hostile(unittest.TestCase):
    """Whatever a file holds: one clear message, nothing half open, nothing written."""

    def setUp(self):
        self.good = archive.to_bytes(project())
        with zipfile.ZipFile(io.BytesIO(self.good)) as opened:
            self.entries = {name: opened.read(name) for name in opened.namelist()}
        self.fields = json.loads(self.entries["project.json"])

    def packed(self, entries, compress=zipfile.ZIP_STORED):
        buffer = io.BytesIO()
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with zipfile.ZipFile(buffer, "w", compress) as made:
                for name, data in entries if isinstance(entries, list) else entries.items():
                    made.writestr(name, data)
        return buffer.getvalue()

    def with_fields(self, **changes):
        return self.packed({**self.entries, "project.json": json.dumps({**self.fields, **changes}).encode()})

    def refused(self, data, words="."):
        with self.assertRaises(ProjectError) as caught:
            archive.from_bytes(data, "bad.foxpath")
        self.assertIn("bad.foxpath", str(caught.exception))
        self.assertTrue(caught.exception.hint)
        self.assertRegex(str(caught.exception), words)

    def test_not_a_project(self):
        self.refused(b"")
        self.refused(b"hello")
        self.refused(picture())
        self.refused(self.packed({"readme.txt": b"x"}), "no Fox Path project")
        self.refused(self.packed({**self.entries, "project.json": b"[1, 2]"}), "no Fox Path project")

    def test_cut_or_flipped_anywhere(self):
        for cut in range(0, len(self.good), max(1, len(self.good) // 60)):
            self.refused(self.good[:cut])
        damaged = bytearray(self.good)
        at = self.good.index(b"PNG") + 200
        damaged[at] ^= 0xFF
        self.refused(bytes(damaged))

    def test_unsafe_names(self):
        for name in ("../evil", "/etc/evil", "a/../../evil", "c:\\evil", "references\\..\\evil"):
            self.refused(self.packed({**self.entries, name: b"x"}), "unsafe")

    def test_bombs(self):
        bomb = self.packed({**self.entries, "big": b"\0" * 30_000_000}, zipfile.ZIP_DEFLATED)
        with (
            mock.patch.object(archive, "MAX_FILE_BYTES", 1_000_000),
        ):
            self.refused(bomb, "more than")
        json_bomb = self.packed({**self.entries, "project.json": b"[" * 200_000})
        self.refused(json_bomb)
        self.refused(self.packed({**self.entries, **{f"e{k}": b"" for k in range(100)}}), "entries")
        self.refused(self.packed([*self.entries.items(), ("project.json", b"{}")]), "twice")

    def test_wrong_types_and_values(self):
        zone = dict(self.fields["zones"][1])
        for change in (
            {"zones": 5},
            {"zones": [{**zone, "points": [[1, 2], [3]]}]},
            {"zones": [{**zone, "points": [[1, 2], [3, 4]]}]},
            {"zones": [{**zone, "points": [["a", "b"]] * 3}]},
            {"zones": [zone, zone]},
            {"zones": [{**zone, "id": "../x"}]},
            {"canvas": {"width_mm": -1, "height_mm": 5}},
            {"canvas": {"width_mm": 1e300, "height_mm": 500}},
            {"crop": {"x": 0, "y": 0, "width": 0, "height": 0}},
            {"name": None},
            {"seed": -1},
            {"reference": {"name": "x", "file": "../../etc/passwd"}},
            {"reference": {"name": "x", "file": "references/lost.png"}},
            {"version": "1"},
            {"school": 5},
            {"ways": {"first": 5}},
            {"log": [{"role": "lights"}]},
            {"earlier": [{"role": "lights", "act": "lights", "taken_min": 0, "usual_min": 5}]},
            {"passes": {"lights": {"handling": "sprayed"}}},
            {"passes": {"lights": {"left_out": "eye"}}},
            {"zones": [{**zone, "school": 5}]},
            {"own_school": {"key": "mine", "name": "Mine", "passes": [{"key": "veil", "acts": "varnish"}]}},
        ):
            with self.subTest(change=str(change)[:60]):
                self.refused(self.with_fields(**change))
        text = json.dumps({**self.fields, "seed": 1}).replace('"seed": 1', '"seed": NaN')
        self.refused(self.packed({**self.entries, "project.json": text.encode()}))

    def test_newer_version(self):
        self.refused(self.with_fields(version=99), "newer Fox Path")

    def test_picture_that_is_no_picture(self):
        entries = {k: (b"not a picture" if k.startswith("references/") else v) for k, v in self.entries.items()}
        self.refused(self.packed(entries), "not a picture")

    def test_unknown_fields_survive(self):
        fields = json.loads(json.dumps(self.fields))
        fields["moon"] = {"phase": 0.3}
        fields["zones"][1]["mood"] = "calm"
        data = self.packed({**self.entries, "project.json": json.dumps(fields).encode()})
        again = archive.from_bytes(archive.to_bytes(archive.from_bytes(data, "x")), "x")
        kept = json.loads(zipfile.ZipFile(io.BytesIO(archive.to_bytes(again))).read("project.json"))
        self.assertEqual(kept["moon"], {"phase": 0.3})
        self.assertEqual(kept["zones"][1]["mood"], "calm")


class Saving(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.path = self.folder / "a.foxpath"

    def full(self):
        made = project()
        zone = made.zones[1].id
        made = edits.set_edge(made, zone, made.zones[0].id, "lost", 14.0)
        made = edits.set_pass(made, "lights", l_high=70.0, on=False)
        made = edits.take_school(made, replace(schools()["white-hair"], name="My white hair"))
        made = edits.move_pass(made, "restated", -2)
        made = edits.set_pass(
            made, "glaze", opacity=0.3, lean=-4.0, beneath="tacky", handling="scumble", left_out=(zone,)
        )
        made = edits.set_zone_school(edits.set_way(made, "first", "background"), zone, "dry-brush")
        made = edits.log_pass(made, passes_of(Results(), made)[1], 95.0, "2026-03-21")
        made = replace(made, earlier=(Logged("lights", "lights", 300.0, 240.0),))
        made = edits.measure_hair(made, zone, as_points([[50, 50], [80, 50]], least=2, what="hair"))
        made, lent = edits.lend(made, picture(300, 200, "JPEG"), "coat.jpg", "coat", "a coat to borrow")
        made = edits.note_main(made, "from the wildlife park")
        made = edits.cut_lent(made, lent, np.array([[10.0, 10], [100, 12], [90, 150]]))
        made = edits.pose_lent(made, lent, x=90.0, turn_deg=30.0, mirrored=True)
        made = edits.set_correction(made, grey=(20.0, 30.0), exposure=0.5, lift=0.3)
        made = edits.set_seeing(made, steps=3, cuts=(30, 60), distance_m=4.0)
        made = edits.add_spot(edits.add_spot(made, (50.0, 60.0)), (90.0, 100.0))
        made = edits.set_light(made, Light(), hour=2.0, sky=0.1)
        made = edits.mark_catchlight(made, Catchlight((80.0, 68.0), 9.0, (77.0, 64.0)))
        made = edits.set_axes(edits.set_grid(made, diagonals=True), Axes((60.0, 70.0), (100.0, 66.0), (80.0, 90.0)))
        made = edits.draw_line(edits.rub(made, np.array([[10.0, 10], [30, 30]]), 4.0), np.array([[50.0, 50], [70, 80]]))
        made = edits.keep_comb(made, made.combs[0].id)
        made, _ = edits.add_mark(made, "crown", zone, np.array([[80.0, 60], [95, 60]]), 35.0)
        made, _ = edits.add_mark(made, "parting", zone, np.array([[50.0, 90], [80, 95], [110, 92]]))
        made, other = edits.add_zone(
            made, "Tail", "long-fur", np.array([[130.0, 90], [180, 90], [180, 140], [130, 140]])
        )
        made, _ = edits.add_mark(made, "donor", other, None, 180.0, zone)
        return replace(edits.set_focal(made, (80.0, 66.0)), seed=12)

    def test_round_trip_is_the_same_project_and_the_same_bytes(self):
        made = self.full()
        archive.save(made, self.path)
        back = archive.load(self.path)
        shelf = tuple(replace(one, reference=made.shelf[k].reference) for k, one in enumerate(back.shelf))
        self.assertEqual(replace(back, reference=made.reference, shelf=shelf), made)
        self.assertEqual(back.shelf[0].reference.data, made.shelf[0].reference.data)
        self.assertEqual(back.reference.data, made.reference.data)
        self.assertEqual(archive.to_bytes(back), self.path.read_bytes())

    def test_a_file_of_the_first_version_opens_with_nothing_decided(self):
        fields = json.loads(zipfile.ZipFile(io.BytesIO(archive.to_bytes(project()))).read("project.json"))
        first = ("format", "name", "reference", "canvas", "crop", "focal", "zones", "combs", "edges", "passes", "seed")
        old = {key: fields[key] for key in (*first, "next_id", "pass_order")} | {"version": 1}
        buffer = io.BytesIO()
        with zipfile.ZipFile(buffer, "w") as made:
            made.writestr("project.json", json.dumps(old))
            made.writestr(fields["reference"]["file"], project().reference.data)
        back = archive.from_bytes(buffer.getvalue(), "old.foxpath")
        self.assertTrue(back.correction.nothing)
        self.assertEqual((back.shelf, back.light, back.spots), ((), None, ()))
        self.assertEqual(replace(back, reference=None), replace(project(), reference=None))

    def test_a_failed_save_keeps_the_old_file(self):
        archive.save(project(), self.path)
        before = self.path.read_bytes()
        with (
            mock.patch("os.fsync", side_effect=OSError(28, "No space left on device")),
            self.assertRaises(ProjectError) as caught,
        ):
            archive.save(self.full(), self.path)
        self.assertIn("no space", str(caught.exception))
        self.assertEqual(self.path.read_bytes(), before)
        self.assertEqual([p.name for p in self.folder.iterdir()], ["a.foxpath"])

    def test_places_that_cannot_be_written(self):
        with self.assertRaises(ProjectError):
            archive.save(project(), self.folder / "none" / "a.foxpath")
        with self.assertRaises(ProjectError):
            archive.load(self.folder / "lost.foxpath")
