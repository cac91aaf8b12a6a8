"""Wherever a file of the painter's is opened, a pipe and a device that never ends are refused at once, with what to do."""

import os
from pathlib import Path

from foxpath.core.errors import AppError
from foxpath.core.reporting import SILENT
from foxpath.document import shared
from foxpath.window.stops.days.time import ReadCalendar
from foxpath.window.stops.mixes.photo import DabDialog
from foxpath.window.stops.passes.school import LARGEST
from tests.made import project
from tests.window.case import WindowCase


class Endless(WindowCase):
    def setUp(self):
        super().setUp()
        self.session.start(project(), None, on_disk=True)
        self.pipe, self.folder = self.dir / "pipe.json", self.dir / "folder.json"
        os.mkfifo(self.pipe)
        self.folder.mkdir()
        self.said = []
        self.session.said.connect(lambda words, level: self.said.append((words, level)))

    def refused(self, read):
        """Each of the two, and a folder, is refused in words; nothing of the project changes."""
        before = self.project
        for path, words in ((self.pipe, "is no file"), (Path("/dev/zero"), "is no file"), (self.folder, "is a folder")):
            self.said.clear()
            try:
                read(path)
                self.assertEqual([level for _, level in self.said], ["must"], path)
                told = self.said[0][0]
            except AppError as failure:
                told = str(failure)
            # Once, and not wrapped in what is said of a file that cannot be read.
            self.assertTrue(told.startswith(f"{path.name} {words}. "), told)
            self.assertRegex(told, r"Save what it gives to a file|Choose a file in it")
        self.assertIs(self.project, before)

    def stop(self, key):
        self.window.open_stop(key)
        self.settle()
        return self.window.studio.stops[key]

    def test_combs_photographs_and_recipes(self):
        self.refused(self.stop("growth").files.read_combs)
        self.refused(self.stop("progress").add_file)
        self.refused(self.stop("passes").school.open)

    def test_calendars_dabs_and_what_was_shared(self):
        self.refused(lambda path: ReadCalendar(path)(SILENT))
        self.refused(lambda path: DabDialog(path))
        self.refused(lambda path: shared.read_rows(path, "foxpath-kit", 1, "brushes", 60, "brush"))

    def test_what_is_too_large_is_not_read_whole(self):
        big = self.dir / "big.json"
        with big.open("wb") as out:
            out.truncate(LARGEST + 1)
        self.stop("passes").school.open(big)
        self.assertIn("larger than 2 MB", self.said[-1][0])
        with self.assertRaisesRegex(AppError, "larger than 1 MB"):
            shared.read_rows(big, "foxpath-kit", 1, "brushes", 60, "brush")
