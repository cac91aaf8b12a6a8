"""The work of a painter's other paintings: kept a file each, read as hostile, offered and left."""

import json
import os
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

from foxpath.core.days.studio import Laid
from foxpath.document import works
from tests.core.days.test_told import FINE

ROWS = (Laid("a", "2026-03-04T19:00", "2026-03-04T20:00"),)


class Works(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict(os.environ, {"FOXPATH_DATA": str(self.dir)}))

    def files(self):
        return sorted((self.dir / "works").glob("*"))

    def test_what_is_told_is_read_back_whole(self):
        self.assertIsNone(works.work_told("Cat"))
        self.assertEqual(works.other_works("Fox"), ())
        works.keep_work(FINE)
        self.assertEqual(works.work_told("Cat"), FINE)
        self.assertEqual(works.other_works("Fox"), (FINE,))
        self.assertEqual(works.other_works("Cat"), ())

    def test_each_painting_has_a_file_whatever_it_is_called(self):
        for name in ("Cat", "cat", "../Cat", "a/b\\c", "Ä" * 190):
            tasks = tuple(replace(one, id=f"{name}:{one.key}", painting=name) for one in FINE.tasks)
            works.keep_work(replace(FINE, painting=name, tasks=tasks, relations=()))
        self.assertEqual(len(self.files()), 5)
        self.assertEqual({path.parent for path in self.files()}, {self.dir / "works"})
        self.assertEqual(
            [one.painting for one in works.other_works("Cat")], sorted(["cat", "../Cat", "a/b\\c", "Ä" * 190])
        )

    def test_an_offer_stands_until_it_is_taken_or_left(self):
        works.offer("Cat", ROWS, ("Fox",))
        self.assertIsNone(works.work_told("Cat"), "who told nothing is offered nothing")
        works.keep_work(FINE)
        works.offer("Cat", ROWS, ("Fox", "Jay"))
        told = works.work_told("Cat")
        self.assertEqual((told.offered, told.group, told.by, told.plan), (ROWS, ("Fox", "Jay"), "Fox", FINE.plan))
        works.let_offer_go("Cat")
        self.assertEqual(works.work_told("Cat"), FINE)
        works.offer("Cat", ROWS, ("Fox",))
        works.keep_work(FINE)
        self.assertEqual(works.work_told("Cat"), FINE)
        # What it has planned itself need not be offered.
        works.offer("Cat", FINE.plan, ("Fox",))
        self.assertEqual(works.work_told("Cat").by, "")

    def test_forgotten_it_is_gone(self):
        works.keep_work(FINE)
        works.forget_work("Cat")
        works.forget_work("Cat")
        self.assertEqual(self.files(), [])

    def test_damaged_files_are_passed_over(self):
        works.keep_work(FINE)
        (path,) = self.files()
        whole = json.loads(path.read_text())
        row = whole["work"][0]
        for broken in (
            "", "[]", "{", json.dumps({**whole, "version": 9}), json.dumps({**whole, "work": []}), json.dumps({**whole, "format": "x"}),
            json.dumps({**whole, "work": [{**row, "tasks": [{**row["tasks"][0], "minutes": 10**400}]}]}),
            json.dumps({**whole, "work": [{**row, "relations": [{**row["relations"][0], "low_h": -1}]}]}),
            json.dumps({**whole, "work": [{**row, "painting": "Dog"}]}),
        ):  # fmt: skip
            path.write_text(broken)
            self.assertIsNone(works.work_told("Cat"), broken[:60])
            self.assertEqual(works.other_works("Fox"), ())
        path.write_bytes(b"x" * (works.MOST_BYTES + 1))
        self.assertIsNone(works.work_told("Cat"))


if __name__ == "__main__":
    unittest.main()
