"""`foxpath progress` as a painter types it."""

import io
import json
import tempfile
import unittest
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest import mock

import numpy as np

from foxpath.cli import main
from foxpath.derive.progress import planned as planning
from foxpath.document import archive
from tests.made import picture, project
from tests.remembered import remember

setUpModule = remember


def run(*args):
    said, wrong = io.StringIO(), io.StringIO()
    with redirect_stdout(said), redirect_stderr(wrong):
        status = main([str(one) for one in args])
    return status, said.getvalue(), wrong.getvalue()


class Progress(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.enterClassContext(mock.patch.object(planning, "WORK_PX", 600))
        cls.dir = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.file = cls.dir / "a.foxpath"
        archive.save(project(), cls.file)
        cls.status, cls.said, _ = run("progress", cls.file, "--stand-in", 5, "--faults", 2, "--out", cls.dir / "seen")
        cls.fields = json.loads((cls.dir / "seen" / "progress.json").read_text("utf-8"))
        cls.photo = cls.dir / "seen" / "canvas-5.jpg"

    def test_it_writes_what_it_says(self):
        self.assertEqual(self.status, 0)
        self.assertEqual(
            {one.name for one in (self.dir / "seen").iterdir()},
            {"squared.png", "touch-ups.pdf", "progress.json", "canvas-5.jpg", "stand-in.json"},
        )
        self.assertIn(self.fields["stop"], ("stop", "one round", "rework"))
        for part in self.fields["parts"]:
            self.assertLessEqual({"name", "d_l", "d_c", "d_h", "de"}, set(part))
        for one in self.fields["list"]:
            self.assertLessEqual({"kind", "at", "size", "unit", "visible_from_m", "remedy", "when"}, set(one))
        self.assertGreater(self.fields["registration_mm"], 0)
        self.assertTrue((self.dir / "seen" / "touch-ups.pdf").read_bytes().startswith(b"%PDF"))

    def test_corners_are_those_of_the_photograph(self):
        true = json.loads((self.dir / "seen" / "stand-in.json").read_text("utf-8"))
        away = np.hypot(*(np.array(self.fields["corners"]) - np.array(true["corners"])).T)
        self.assertLess(away.max(), 12)
        self.assertEqual(len(true["faults"]), 2)

    def test_corners_and_card_that_are_said_are_taken(self):
        corners = [f"{x},{y}" for x, y in self.fields["corners"]]
        out = self.dir / "said"
        status, _, wrong = run(
            "progress", self.file, self.photo, "--corners", *corners, "--card", "20,30", "--after", "1", "--out", out
        )
        self.assertIn(status, (0, 1), wrong)
        if status == 0:
            fields = json.loads((out / "progress.json").read_text("utf-8"))
            np.testing.assert_allclose(fields["corners"], self.fields["corners"], atol=0.1)
            self.assertEqual((fields["balanced_by"], fields["after"]), ("spot", "ground"))

    def test_a_photograph_is_kept_when_that_is_asked(self):
        status, _, wrong = run("progress", self.file, self.photo, "--keep", "--out", self.dir / "kept")
        self.assertEqual(status, 0, wrong)
        kept = archive.load(self.file)
        self.assertEqual([one.reference.name for one in kept.photos], ["canvas-5.jpg"])
        self.assertEqual(kept.photos[0].after, self.fields["after"])

    def test_what_is_wrong_is_said_with_what_to_do(self):
        other = self.dir / "other.png"
        other.write_bytes(picture(900, 700))
        for args, words in (
            (("progress", self.file, "--out", self.dir / "x"), "Name one photograph"),
            (("progress", self.file, self.photo, "--stand-in", 1, "--out", self.dir / "x"), "Name one photograph"),
            (("progress", self.file, other, "--out", self.dir / "x"), "corners"),
            (("progress", self.file, self.dir / "none.jpg", "--out", self.dir / "x"), "none.jpg"),
            (("progress", self.file, self.photo, "--after", "varnish", "--out", self.dir / "x"), "Passes are"),
            (("progress", self.file, self.photo, "--card", "1,2,3", "--out", self.dir / "x"), "x,y,L,a,b"),
            (("progress", self.file, self.photo, "--corners", "1,1", "nan,2", "3,3", "4,4", "--out", self.dir / "x"), "numbers"),
            (("progress", self.file, self.photo, "--corners", "9,9", "5,5", "3,3", "4,4", "--out", self.dir / "x"), "clockwise"),
            (("progress", "demo:fox", self.photo, "--keep", "--out", self.dir / "x"), "cannot be written"),
            (("progress", self.file, "--stand-in", -4, "--out", self.dir / "x"), "seed"),
        ):  # fmt: skip
            status, _, wrong = run(*args)
            self.assertNotEqual(status, 0, args)
            self.assertIn(words, wrong)
            self.assertNotIn("Traceback", wrong)


if __name__ == "__main__":
    unittest.main()
