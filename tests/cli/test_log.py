"""`foxpath log` and `foxpath note`, as they are called."""

import contextlib
import io
import os
import tempfile
import unittest
from datetime import datetime
from pathlib import Path
from unittest import mock

from foxpath.cli import main
from foxpath.core.days.studio import Laid
from foxpath.derive import Results
from foxpath.derive.days.plan import plan_of
from foxpath.document import archive, calendars, edits
from tests.made import picture, project
from tests.remembered import remember

setUpModule = remember


class Log(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(
            mock.patch.dict(os.environ, {"FOXPATH_DATA": str(self.dir / "data"), "FOXPATH_NOW": "2026-03-03T12:00"})
        )
        self.path = self.dir / "p.foxpath"
        made = edits.set_days(project(), start="2026-03-02")
        planned = plan_of(Results(), [made], datetime(2026, 3, 2))
        key = next(task.key for task in planned.layout.problem.tasks if task.key.startswith("undercoat"))
        archive.save(edits.mark_done(made, [Laid(key, "2026-03-02T19:15", "2026-03-02T20:00")]), self.path)
        self.key = key

    def run_with(self, *args):
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main([str(a) for a in args])
        return status, out.getvalue(), err.getvalue()

    def test_a_word_about_a_part_is_told_and_found_again(self):
        self.assertEqual(self.run_with("note", self.path, "square", "too", "cool", "at", "the", "edge")[0], 0)
        self.assertEqual(self.run_with("note", self.path, "Square", "dark")[0], 0)
        self.assertEqual(
            self.run_with("note", self.path, "all", "two coats on linen", "--at", "2026-03-01T10:00")[0], 0
        )
        kinds = [(one.kind, one.part) for one in archive.load(self.path).told]
        self.assertEqual(kinds, [("note", "Square"), ("dark", "Square"), ("note", "")])
        _, text, _ = self.run_with("log", self.path)
        self.assertIn("too cool at the edge", text)
        self.assertIn("1 Mar 10:00  two coats on linen", text)
        _, found, _ = self.run_with("log", self.path, "--search", "edge cool")
        self.assertEqual(found.count("\n"), 1)

    def test_a_note_of_what_it_is_made_of(self):
        told = self.run_with("note", self.path, "Support", "linen,", "two", "coats", "--material")
        self.assertEqual((told[0], told[2]), (0, ""))
        self.assertEqual(archive.load(self.path).told[-1].part, "support")
        self.assertNotEqual(self.run_with("note", self.path, "Square", "blue", "--material")[0], 0)
        both = self.run_with("note", self.path, "support", "linen", "--material", "--picture", "ear.png")
        self.assertEqual((both[0] == 0, len(archive.load(self.path).told)), (False, 1))

    def test_a_note_of_likeness_with_its_picture(self):
        shown = self.dir / "ear.png"
        shown.write_bytes(picture(300, 240))
        told = ("note", self.path, "square", "stands", "further", "back")
        status, said, err = self.run_with(*told, "--likeness", "--picture", shown)
        self.assertEqual((status, err), (0, ""))
        self.assertIn("with a picture", said)
        made = archive.load(self.path)
        self.assertEqual((made.told[-1].kind, made.told[-1].part), ("likeness", "Square"))
        self.assertEqual(made.picture(made.told[-1].picture).reference.width, 300)
        for wrong in (self.dir / "gone.png", self.path):
            status, _, err = self.run_with(*told, "--picture", wrong)
            self.assertNotEqual(status, 0)
            self.assertTrue(err.strip())
        self.assertEqual(archive.load(self.path).told, made.told)

    def test_what_a_finger_said_teaches_the_drying(self):
        status, said, err = self.run_with("note", self.path, "Square", "touch-dry")
        self.assertEqual((status, err), (0, ""))
        self.assertIn("touch-dry", said)
        (note,) = archive.load(self.path).days.notes
        self.assertEqual((note.task, note.dry), (self.key, "2026-03-03T12:00"))
        self.assertEqual(len(calendars.noted_before("Another")), 1)
        status, _, err = self.run_with("note", self.path, "Square", "tacky", "--at", "2026-03-04T08:00")
        self.assertEqual(status, 2)
        self.assertIn("noted as dry before", err)

    def test_written_out(self):
        self.run_with("note", self.path, "Square", "dark")
        table, sheets = self.dir / "l.csv", self.dir / "l.pdf"
        status, out, _ = self.run_with("log", self.path, "--csv", table, "--pdf", sheets)
        self.assertEqual((status, out), (0, ""))
        self.assertEqual(table.read_text().count("\n"), 2)
        self.assertEqual(sheets.read_bytes()[:4], b"%PDF")

    def test_wrong_use(self):
        for args, words in (
            (("note", self.path, "Tail", "dark"), "Square"), (("note", "demo:fox", "all", "x"), "demo"),
            (("note", self.path, "Square", "dark", "--at", "noon"), "2026-03-02T08:00"), (("note", self.path, "Eye", "touch-dry"), "was painted"),
        ):  # fmt: skip
            status, out, err = self.run_with(*args)
            self.assertEqual((status, out, err.count("\n")), (2, "", 1), err)
            self.assertIn(words, err)


if __name__ == "__main__":
    unittest.main()
