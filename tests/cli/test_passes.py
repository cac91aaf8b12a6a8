"""`foxpath passes` as a painter types it."""

import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image

from foxpath.document import archive, edits
from tests.cli.test_progress import run
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Passes(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.file = self.dir / "a.foxpath"
        archive.save(project(), self.file)

    def kept(self):
        return archive.load(self.file)

    def test_they_are_listed_with_parts_and_time(self):
        status, said, wrong = run("passes", self.file)
        self.assertEqual((status, wrong), (0, ""))
        lines = said.splitlines()
        self.assertEqual([line.split()[1] for line in lines], [key for key in project().roles if key != "whiskers"])
        self.assertIn("Top coat · 2 parts", said)
        self.assertIn("min", lines[0])

    def test_a_veil_is_shown_before_and_after_and_kept_only_when_asked(self):
        veil = ("passes", self.file, "--veil", "glaze", "--part", "square", "--colour", "28,12,20", "--strength", "0.1")
        status, said, wrong = run(*veil, "--out", self.dir / "out", "--width", "200")
        self.assertEqual(status, 0, wrong)
        self.assertIn("Glaze · square, the whole part", said)
        before, after = (np.asarray(Image.open(self.dir / "out" / f"{n}.png"), int) for n in ("before", "after"))
        self.assertLess(int(after[95, 55].sum()), int(before[95, 55].sum()) - 20)
        np.testing.assert_array_equal(after[10, 190], before[10, 190])
        self.assertEqual(self.kept().own_passes, ())
        self.assertIn("Nothing was kept", run(*veil)[1])
        status, _, wrong = run(*veil, "--coats", "2", "--beneath", "--name", "Warmth", "--keep")
        self.assertEqual(status, 0, wrong)
        (one,) = self.kept().own_passes
        self.assertEqual(
            (one.name, one.veil.coats, one.veil.made_up, one.veil.lab), ("Warmth", 2, True, (28.0, 12.0, 20.0))
        )
        status, _, _ = run("passes", self.file, "--remove", one.id, "--keep")
        self.assertEqual((status, self.kept().own_passes), (0, ()))

    def test_passes_are_laid_twice_moved_and_set(self):
        self.assertEqual(run("passes", self.file, "--again", "lights", "--keep")[0], 0)
        key = self.kept().own_passes[0].id
        self.assertEqual(run("passes", self.file, "--move", key, "1", "--keep")[0], 0)
        order = self.kept().pass_order
        self.assertEqual(order.index(key), order.index("highlights") + 1)
        self.assertEqual(run("passes", self.file, "--set", "lights", "coverage=2.5", "l-high=70", "--keep")[0], 0)
        self.assertEqual((self.kept().passes["lights"].coverage, self.kept().passes["lights"].l_high), (2.5, 70.0))
        run("passes", self.file, "--set", "lights", "coverage=1.5", "--part", "Square", "--keep")
        (part,) = self.kept().passes["lights"].parts
        self.assertEqual((part.coverage, self.kept().zone(part.zone).name), (1.5, "Square"))

    def test_an_area_is_left_alone_after_a_pass(self):
        status, said, wrong = run(
            "passes", self.file, "--alone", "darks", "--patch", "46,84", "66,84", "66,104", "--keep"
        )
        self.assertEqual(status, 0, wrong)
        self.assertIn("Left alone after darks: an area of 3 points.", said)
        self.assertEqual(self.kept().left_alone[0].after, "darks")

    def test_area_by_area_its_order_is_said(self):
        archive.save(edits.set_school(project(), "one-sitting"), self.file)
        said = run("passes", self.file)[1]
        self.assertIn("Area by area:", said)
        self.assertIn("midtones, darks", said)

    def test_what_cannot_be_is_said_in_a_sentence_and_changes_nothing(self):
        before = self.file.read_bytes()
        for wrong in (
            ("--again", "varnish"), ("--veil", "wash"), ("--veil", "glaze", "--part", "Tail"), ("--veil", "glaze", "--colour", "1,2"),
            ("--veil", "glaze", "--place", "patch"), ("--veil", "glaze", "--place", "nowhere"), ("--set", "lights"),
            ("--set", "lights", "coverage=much"), ("--set", "lights", "coverage=99"), ("--set", "lights", "colour=3"),
            ("--set", "varnish", "coverage=1"), ("--move", "varnish", "1"), ("--move", "lights", "up"), ("--remove", "lights"),
            ("--alone", "darks", "--patch", "1,2", "3,4"), ("--alone", "darks", "--patch", "1,x", "3,4", "5,6"),
            ("--set", "lights", "opacity=0.5", "--part", "Square"), ("--again", "lights", "--out", self.dir / "o", "--width", "9"),
        ):  # fmt: skip
            status, _, said = run("passes", self.file, *wrong, "--keep")
            self.assertEqual(status, 2, wrong)
            self.assertTrue(said.startswith("foxpath: "), said)
            self.assertNotIn("Traceback", said)
        self.assertEqual(self.file.read_bytes(), before)
        self.assertEqual(run("passes", "demo:fox", "--again", "lights", "--keep")[0], 2)
