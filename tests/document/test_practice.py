"""The painter's own file of answers: added to at once, read as hostile, forgotten when asked."""

import json
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from foxpath.core.errors import AppError
from foxpath.core.practice.weeks import Answered
from foxpath.document import practice


def answer(seed, drill="growth", minute=0):
    return Answered(
        f"2026-03-0{1 + seed % 9}T19:{minute:02d}", drill, seed, right=seed % 2 == 0, error=1.5 * seed, picture="Blob"
    )


class Answers(unittest.TestCase):
    def setUp(self):
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict("os.environ", {"FOXPATH_DATA": str(folder / "kept")}))

    def test_answers_are_added_and_come_back_by_their_time(self):
        self.assertEqual(practice.answers(), ())
        practice.add([answer(3), answer(1)])
        practice.add([answer(2)])
        self.assertEqual([one.seed for one in practice.answers()], [1, 2, 3])
        self.assertEqual(practice.answers()[2], answer(3))
        lines = practice.place().read_text("utf-8").splitlines()
        self.assertEqual(json.loads(lines[0]), {"format": "foxpath-practice", "version": 1})
        self.assertEqual(len(lines), 4)

    def test_a_line_that_was_cut_off_costs_itself_only(self):
        practice.add([answer(1), answer(2)])
        data = practice.place().read_bytes()
        practice.place().write_bytes(data[:-9])
        practice.add([answer(3)])
        self.assertEqual([one.seed for one in practice.answers()], [1, 3])

    def test_lines_that_are_no_answers_are_passed_over(self):
        practice.add([answer(1)])
        with practice.place().open("ab") as out:
            for line in (b"[]", b"{}", b'{"at": "2026-03-01T19:00", "drill": "x", "seed": -1, "right": true}', b'{"at": "never", "drill": "x", "seed": 1, "right": true}',
                         b'{"at": "2026-03-01T19:00", "drill": "x", "seed": 1, "right": true, "error": NaN}', b"\xff\xfe", b"[" * 9000):  # fmt: skip
                out.write(line + b"\n")
        practice.add([answer(2)])
        self.assertEqual([one.seed for one in practice.answers()], [1, 2])

    def test_a_file_of_something_else_is_refused_and_left(self):
        practice.place().parent.mkdir(parents=True)
        for data in (b"", b"words\n", b'{"format": "foxpath-cupboard", "version": 1}\n', b"[]\n"):
            practice.place().write_bytes(data)
            if data:
                with self.assertRaises(AppError):
                    practice.answers()
                # What would be added there could never be read again.
                with self.assertRaises(AppError):
                    practice.add([answer(1)])
            self.assertEqual(practice.place().read_bytes(), data)
        practice.place().write_bytes(b'{"format": "foxpath-practice", "version": 9}\n')
        with self.assertRaises(AppError) as caught:
            practice.answers()
        self.assertIn("newer", caught.exception.message)

    def test_an_empty_file_is_begun(self):
        practice.place().parent.mkdir(parents=True)
        practice.place().write_bytes(b"")
        self.assertEqual(practice.answers(), ())
        practice.add([answer(1)])
        self.assertEqual(len(practice.answers()), 1)

    def test_a_drill_is_forgotten_or_all(self):
        practice.add([answer(1), answer(2, "edge"), answer(3)])
        self.assertEqual(practice.forget("match"), 0)
        self.assertEqual(practice.forget("growth"), 2)
        self.assertEqual([one.drill for one in practice.answers()], ["edge"])
        self.assertEqual(practice.forget(), 1)
        self.assertFalse(practice.place().exists())
        self.assertEqual(practice.forget(), 0)

    def test_what_cannot_be_written_is_said(self):
        blocked = practice.place().parent
        blocked.parent.mkdir(parents=True, exist_ok=True)
        blocked.write_bytes(b"a file where the folder should be")
        with self.assertRaises(AppError) as caught:
            practice.add([answer(1)])
        self.assertIn("could not be written", caught.exception.message)

    def test_the_oldest_go_when_there_are_too_many(self):
        with mock.patch.object(practice, "MOST", 2):
            practice.add([answer(1), answer(2), answer(3)])
            self.assertEqual([one.seed for one in practice.answers()], [2, 3])
        with mock.patch.object(practice, "MOST_BYTES", 60), self.assertRaises(AppError):
            practice.answers()


if __name__ == "__main__":
    unittest.main()
