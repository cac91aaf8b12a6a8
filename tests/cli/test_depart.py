"""`foxpath depart` as a painter types it."""

import json
import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image

from foxpath.core.progress.small import lab_of
from foxpath.document import archive
from tests.cli.test_progress import run
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Depart(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.file = self.dir / "a.foxpath"
        archive.save(project(), self.file)

    def test_three_pictures_and_numbers_are_written_and_kept_only_when_asked(self):
        status, said, wrong = run(
            "depart", self.file, "--part", "square", "--lightness", "-12", "--out", self.dir / "out"
        )
        self.assertEqual(status, 0, wrong)
        self.assertIn("Square: 12 L* darker", said)
        before, after, off = (
            lab_of(np.asarray(Image.open(self.dir / "out" / f"{n}.png")))
            for n in ("reference", "changed", "difference")
        )
        h, w = before.shape[:2]
        inside, outside = (
            np.s_[int(0.3 * h) : int(0.34 * h), int(0.25 * w) : int(0.3 * w)],
            np.s_[: int(0.1 * h), : int(0.1 * w)],
        )
        self.assertLess(abs(float((after - before)[inside][..., 0].mean()) + 12), 1)
        self.assertLess(abs(float((after - before)[outside][..., 0].mean())), 0.5)
        self.assertLess(abs(float(off[inside][..., 0].mean()) - (50 - 24)), 2)
        record = json.loads((self.dir / "out" / "departures.json").read_text("utf-8"))
        self.assertEqual(record["departures"][0]["part"], "Square")
        self.assertLess(abs(record["parts"][0]["lightness"] + 12), 1.5)
        with Image.open(self.dir / "out" / "side-by-side.png") as three:
            self.assertEqual(three.size, (3 * w, h))
        self.assertEqual(archive.load(self.file).departures, ())

    def test_it_is_kept_added_to_and_taken_back(self):
        run("depart", self.file, "--part", "Square", "--lightness", "-12", "--keep")
        run("depart", self.file, "--part", "Square", "--warmth", "6", "--note", "evening", "--keep")
        run("depart", self.file, "--side", "far", "--strength", "0.7", "--keep")
        kept = archive.load(self.file)
        self.assertEqual(
            [(d.side, d.lightness, d.warmth, d.strength, d.note) for d in kept.departures],
            [("all", -12, 6, 1, "evening"), ("far", 0, 0, 0.7, "")],
        )
        run("depart", self.file, "--part", "Square", "--back", "--keep")
        self.assertEqual([d.side for d in archive.load(self.file).departures], ["far"])
        run("depart", self.file, "--back", "--keep")
        self.assertEqual(archive.load(self.file).departures, ())

    def test_the_plan_s_record_names_them(self):
        from foxpath.derive import Results
        from foxpath.derive.handout import record
        from foxpath.derive.subject import Told
        from foxpath.document import edits

        plain = archive.load(self.file)
        both = edits.depart(edits.depart(plain, plain.zones[-1].id, lightness=-5), "", "far", strength=0.8)
        said = record.zones(Told(Results(), both))["departures"]
        self.assertEqual(
            [(d["part"], d["side"]) for d in said], [(plain.zones[-1].name, "all"), ("whole canvas", "far")]
        )
        self.assertEqual((said[0]["lightness"], said[1]["strength"]), (-5, 0.8))

    def test_the_painting_is_planned_from_the_changed_picture(self):
        from foxpath.derive import Results
        from foxpath.derive.frames import growth_frame
        from foxpath.derive.growth.fields import evidence_key
        from foxpath.derive.pictures import measured_picture, picture_key, study_of, working_picture
        from foxpath.document import edits

        plain, results = archive.load(self.file), Results()
        zone = next(z.id for z in plain.zones if z.name == "Square")
        dark = edits.depart(plain, zone, lightness=-15)
        at = np.array([[55.0, 95.0]])
        self.assertLess(abs(float((study_of(results, dark).at(at) - study_of(results, plain).at(at))[0, 0]) + 15), 2)
        self.assertNotEqual(picture_key(results, dark), picture_key(results, plain))
        # What is read of the photograph itself stays.
        frame = growth_frame(plain)
        self.assertEqual(evidence_key(results, dark, frame), evidence_key(results, plain, frame))
        self.assertIs(measured_picture(results, dark), working_picture(results, plain))
        moved = edits.set_outline(dark, zone, np.array([[20.0, 20], [60, 20], [60, 60], [20, 60]]))
        self.assertNotEqual(picture_key(results, moved), picture_key(results, dark))
        self.assertEqual(edits.remove_zone(dark, zone).departures, ())

    def test_wrong_use_is_said_in_a_sentence(self):
        out = self.dir / "none"
        for words, says in (
            (("--part", "Hoof", "--lightness", "3", "--out", out), "Square"), (("--lightness", "3"), "--out"), (("--part", "Square", "--side", "far", "--lightness", "3", "--out", out), "whole canvas"),
            (("--side", "left", "--lightness", "3", "--out", out), "side"), (("--lightness", "nan", "--out", out), "number"),
        ):  # fmt: skip
            status, _, wrong = run("depart", self.file, *words)
            self.assertNotEqual(status, 0)
            self.assertIn(says, wrong)
        status, _, wrong = run("depart", "demo:fox", "--lightness", "3", "--keep")
        self.assertIn("demo cannot be written", wrong)

    def test_a_part_is_left_out_moved_and_brought_back(self):
        status, said, wrong = run(
            "depart", self.file, "--part", "Eye", "--leave-out", "--keep", "--out", self.dir / "out"
        )
        self.assertEqual(status, 0, wrong)
        self.assertIn("Eye: left out", said)
        self.assertEqual([one.zone.name for one in archive.load(self.file).gone], ["Eye"])
        record = json.loads((self.dir / "out" / "departures.json").read_text("utf-8"))
        self.assertEqual(record["gone"], [{"part": "Eye", "moved_mm": None}])
        self.assertEqual(run("depart", self.file, "--bring-back", "eye", "--keep")[0], 0)
        back = archive.load(self.file)
        self.assertEqual((back.gone, len(back.zones)), ((), 3))
        status, said, _ = run("depart", self.file, "--part", "Square", "--move", "12.5,-25", "--keep")
        self.assertIn("Square: moved", said)
        moved = archive.load(self.file)
        (x0, y0), (x1, y1) = moved.gone[0].to
        # 1.25 mm on the canvas for a pixel.
        self.assertEqual((round(x1 - x0, 2), round(y1 - y0, 2)), (10.0, -20.0))
        for wrong in (
            ("--leave-out",),
            ("--move", "3,4"),
            ("--part", "Square", "--move", "far"),
            ("--bring-back", "Tail"),
        ):
            status, _, said = run("depart", self.file, *wrong, "--keep")
            self.assertEqual(status, 2, wrong)
            self.assertTrue(said.startswith("foxpath: "), said)

    def test_a_part_is_brought_to_a_colour(self):
        status, _, wrong = run(
            "depart", self.file, "--part", "Square", "--match", "45,6,14", "--keep", "--out", self.dir / "m"
        )
        self.assertEqual(status, 0, wrong)
        (one,) = archive.load(self.file).departures
        self.assertNotEqual(one.lightness, 0)
        after = lab_of(np.asarray(Image.open(self.dir / "m" / "changed.png")))
        h, w = after.shape[:2]
        # Inside the square, but for the eye that lies over it.
        inside = after[int(0.56 * h) : int(0.66 * h), int(0.22 * w) : int(0.58 * w)].reshape(-1, 3)
        self.assertLess(abs(float(inside.mean(axis=0)[0] - 45)), 6)
        for wrong in ("45,6", "x,1,2", "200,0,0"):
            self.assertEqual(run("depart", self.file, "--part", "Square", "--match", wrong, "--keep")[0], 2)
