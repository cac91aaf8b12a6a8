"""What a crash leaves: offered when it is of use, removed when what was saved since is newer; nothing lies about."""

import json
import os
import subprocess
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from foxpath.core.errors import ProjectError
from foxpath.document import archive, edits, recovery
from tests.made import project


def gone() -> int:
    """Return the number of a process that is no more."""
    with subprocess.Popen(["true"]) as done:
        done.wait()
        return done.pid


class Leftovers(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict("os.environ", {"FOXPATH_STATE": str(self.folder / "state")}))
        self.path = self.folder / "a.foxpath"
        self.pid = gone()
        self.made = project()

    def crashed(self, kept_step, saved_step=None, saved=None):
        """Leave what a window leaves that has kept its work and perhaps saved it, and is ended then."""
        with mock.patch("os.getpid", return_value=self.pid):
            if kept_step is not None:
                recovery.keep(self.made, str(self.path), kept_step)
            if saved_step is not None:
                recovery.about_to_save(self.path, archive.to_bytes(saved or self.made), saved_step)
        return recovery.folder() / f"{self.pid}.foxpath"

    def test_unsaved_work_is_offered_with_where_it_was_saved_last(self):
        file = self.crashed(3)
        (one,) = recovery.leftovers()
        self.assertEqual((one.file, one.origin), (file, str(self.path)))
        self.assertLess(one.seconds_old, 60)
        self.assertEqual(recovery.read(one).zones, self.made.zones)
        recovery.drop(one.file)
        self.assertEqual(list(recovery.folder().iterdir()), [])

    def test_what_was_saved_since_is_not_offered_again(self):
        newer = edits.rename(self.made, "Newer")
        file = self.crashed(3, 4, newer)
        archive.save(newer, self.path)
        self.assertEqual(recovery.leftovers(), [])
        self.assertFalse(file.exists())
        self.assertEqual(list(recovery.folder().iterdir()), [])

    def test_the_very_same_step_was_saved(self):
        self.crashed(4, 4)
        archive.save(self.made, self.path)
        self.assertEqual(recovery.leftovers(), [])

    def test_a_save_that_did_not_come_through_loses_nothing(self):
        """The note says what was about to be written; the file holds something else, or is not there."""
        newer = edits.rename(self.made, "Newer")
        self.crashed(4, 4, newer)
        self.assertEqual(len(recovery.leftovers()), 1)
        archive.save(self.made, self.path)
        self.assertEqual(len(recovery.leftovers()), 1)

    def test_work_after_the_save_is_offered(self):
        file = self.crashed(5, 4)
        archive.save(self.made, self.path)
        self.assertEqual([one.file for one in recovery.leftovers()], [file])

    def test_damaged_notes_are_no_reason_to_lose_it(self):
        file = self.crashed(5)
        for ending, text in ((".json", "{"), (".json", "[]"), (".saved", '{"step": "x"}'), (".saved", "null")):
            file.with_suffix(ending).write_text(text)
            (one,) = recovery.leftovers()
            self.assertEqual(one.origin, "")
        file.write_bytes(b"cut")
        self.assertIsNone(recovery.read(recovery.leftovers()[0]))

    def test_notes_and_half_written_files_of_windows_that_are_gone_are_swept(self):
        place = recovery.folder()
        place.mkdir(parents=True)
        for name in (
            f"{self.pid}.json",
            f"{self.pid}.saved",
            f".{self.pid}.foxpath.{self.pid}-ab12",
            f".{self.pid}.json.{self.pid}-x",
        ):
            (place / name).write_text("x")
        living = (f".1.foxpath.{os.getppid()}-ab", f"{os.getppid()}.foxpath", "notes.txt")
        for name in living:
            (place / name).write_text("x")
        self.assertEqual(recovery.leftovers(), [])
        self.assertEqual({one.name for one in place.iterdir()}, set(living))

    def test_without_a_folder_there_is_nothing(self):
        self.assertEqual(recovery.leftovers(), [])
        recovery.about_to_save(self.path, b"x", 1)
        self.assertFalse(recovery.folder().exists())


class Writing(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.path = self.folder / "a.foxpath"

    def test_what_an_ended_process_left_beside_a_file_is_swept_at_the_next_save(self):
        dead, living = self.folder / f".a.foxpath.{gone()}-q1", self.folder / f".a.foxpath.{os.getpid()}-q2"
        other, old = self.folder / f".b.foxpath.{gone()}-q1", self.folder / ".a.foxpath.q9"
        for one in (dead, living, other, old):
            one.write_text("x")
        archive.write_whole(self.path, b"whole")
        self.assertEqual([one.exists() for one in (dead, living, other, old)], [False, True, True, True])
        self.assertEqual(self.path.read_bytes(), b"whole")

    def test_while_it_is_written_it_bears_the_number_of_the_process(self):
        seen = []

        def look(handle):
            seen.extend(one.name for one in self.folder.iterdir())

        with mock.patch("os.fsync", look):
            archive.write_whole(self.path, b"x")
        self.assertEqual(len(seen), 1)
        self.assertTrue(seen[0].startswith(f".a.foxpath.{os.getpid()}-"), seen)

    def test_rights_are_kept_and_new_files_follow_the_mask(self):
        archive.write_whole(self.path, b"x")
        mask = os.umask(0)
        os.umask(mask)
        self.assertEqual(self.path.stat().st_mode & 0o777, 0o666 & ~mask)
        self.path.chmod(0o640)
        archive.write_whole(self.path, b"y")
        self.assertEqual(self.path.stat().st_mode & 0o777, 0o640)

    def test_what_is_no_file_is_not_read(self):
        pipe = self.folder / "pipe"
        os.mkfifo(pipe)
        for path, words in (
            (pipe, "no file"),
            (Path("/dev/zero"), "no file"),
            (self.folder, "a folder"),
            (self.folder / "no", "could not be read"),
        ):
            with self.subTest(path=path), self.assertRaises(ProjectError) as caught:
                archive.bytes_of(path, ProjectError)
            self.assertIn(words, str(caught.exception))

    def test_no_more_is_read_than_may_be(self):
        self.path.write_bytes(b"12345")
        self.assertEqual(archive.bytes_of(self.path, ProjectError, 5), b"12345")
        with self.assertRaises(ProjectError):
            archive.bytes_of(self.path, ProjectError, 4)

    def test_half_characters_in_a_file_become_whole_ones(self):
        fields = json.dumps({"format": "foxpath", "name": "a\ud800b", "zones": [{"no\udfff": 1}]})
        parsed = archive._parsed(fields.encode(), "x")
        self.assertEqual(parsed["name"], "a\ufffdb")
        self.assertEqual(list(parsed["zones"][0]), ["no\ufffd"])

    def test_numbers_beyond_any_float_are_refused(self):
        for number in ("1" + "0" * 400, "NaN", "-Infinity"):
            with self.assertRaises(ProjectError):
                archive._parsed(f'{{"format": "foxpath", "seed": {number}}}'.encode(), "x")


if __name__ == "__main__":
    unittest.main()
