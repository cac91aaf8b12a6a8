"""The tools that look for what tests miss can themselves see a fault."""

import ast
import contextlib
import io
import json
import random
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

from foxpath.document import archive
from tools import hammer, mutants


class Hammer(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.hammer = hammer.Hammer(4, self.folder)

    def test_a_handful_of_cases_comes_to_nothing(self):
        for number in range(24):
            case = self.hammer.case(number)
            self.assertEqual(hammer.struck(case), "", f"{number}: {case.words}")

    def test_the_same_number_is_the_same_case(self):
        fields = json.loads(json.dumps(self.hammer.fields))
        self.assertEqual(hammer.damaged(fields, random.Random(3), 0.02), hammer.damaged(fields, random.Random(3), 0.02))
        self.assertNotEqual(hammer.strained(fields, random.Random(3)), hammer.strained(fields, random.Random(4)))
        self.assertEqual(fields, self.hammer.fields)
        self.assertEqual(hammer.flipped(b"abcdef", random.Random(1), 1), hammer.flipped(b"abcdef", random.Random(1), 1))

    def test_the_whole_project_says_something_of_everything(self):
        made = hammer.whole()
        for name in (
            "combs",
            "marks",
            "edges",
            "stretches",
            "fans",
            "eyes",
            "features",
            "shelf",
            "catchlights",
            "passes",
        ):
            self.assertTrue(getattr(made, name), name)
        self.assertEqual(archive.from_bytes(self.hammer.data, "x").zones, made.zones)

    def test_what_comes_through_is_seen(self):
        def case(error):
            def run():
                raise error

            return hammer.Case("x", run)

        self.assertIn("KeyError", hammer.struck(case(KeyError("x"))))
        self.assertIn("MemoryError", hammer.struck(case(MemoryError())))
        self.assertIn("says nothing", hammer.struck(case(hammer.AppError("Oh."))))
        self.assertEqual(hammer.struck(case(hammer.AppError("It is damaged.", "Open a copy."))), "")

    def test_a_case_that_hangs_is_given_up_and_one_on_a_busy_machine_is_not(self):
        def works():
            until = time.process_time() + 2
            while time.process_time() < until:
                pass

        with mock.patch.object(hammer, "MOST_SECONDS", 0.2):
            # Where others work too, a fifth of a second of the processor may take long by the clock.
            with mock.patch.object(hammer, "STANDING", 300):
                self.assertIn("processor time", hammer.struck(hammer.Case("works", works)))
                self.assertEqual(hammer.struck(hammer.Case("is made to wait", lambda: time.sleep(0.4))), "")
            with mock.patch.object(hammer, "STANDING", 3):
                self.assertIn("stood still", hammer.struck(hammer.Case("waits", lambda: time.sleep(30))))

    def test_a_fault_in_the_program_makes_it_fail(self):
        with (
            mock.patch.object(archive, "_checked", side_effect=IndexError("planted")),
            contextlib.redirect_stderr(io.StringIO()),
        ):
            found = [number for number in range(14) if "planted" in hammer.struck(self.hammer.case(number))]
        self.assertEqual(found, [])
        with mock.patch.object(hammer, "derive", side_effect=IndexError("planted")):
            faults = [hammer.struck(self.hammer.case(number)) for number in range(14)]
        self.assertTrue(any("planted" in fault for fault in faults))


class Mutants(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.object(mutants, "TOP", self.folder))

    def of(self, text):
        file = self.folder / "foxpath" / "core" / "made.py"
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(text, "utf-8")
        return text, mutants.mutants_of(file)

    def test_each_is_the_module_with_one_piece_changed(self):
        text, found = self.of(
            '"""Wörter."""\n\n\ndef f(a, b=1):\n    if a < b and not a:\n        return a + 2 * b  # ü\n    return -a\n'
        )
        changed = {text[: one.begin] + one.new + text[one.end :] for one in found}
        self.assertEqual(len(changed), len(found))
        self.assertNotIn(text, changed)
        for one in changed:
            ast.parse(one)
        pieces = {(one.line, one.new) for one in found}
        for piece in ((5, "(a >= b)"), (5, "(a < b or not a)"), (5, "(a)"), (6, "(a - 2 * b)"), (6, "(3)"), (7, "(a)")):
            self.assertIn(piece, pieces)
        self.assertFalse(any(one.line == 4 for one in found), "defaults are left out")

    def test_words_imports_and_what_is_said_of_errors_are_left_out(self):
        _, found = self.of('import os\nX = 1 + 2\n\n\ndef f(a):\n    assert a > 3\n    raise ValueError(f"{a + 1}")\n')
        self.assertEqual(found, [])

    def test_a_draw_is_the_same_again_and_takes_two_of_a_module_at_most(self):
        self.of("def f(a, b):\n    return a + b - 3 * a / b + 7\n")
        first = mutants.draw([], 9, 5)
        self.assertEqual(first, mutants.draw([], 9, 5))
        self.assertEqual(len(first), 2)
        self.assertEqual(len(mutants.draw(["foxpath/core/made.py"], 5, 5)), 5)
        self.assertEqual({one.file for one in mutants.draw(["foxpath/core"], 5, 5)}, {"foxpath/core/made.py"})
        with self.assertRaisesRegex(SystemExit, "There is no .*elsewhere"):
            mutants.draw(["elsewhere"], 5, 5)

    def test_the_nearest_tests_are_those_beside_it_then_those_that_name_it(self):
        self.of("x = 1\n")
        for name, text in (
            ("tests/core/test_made.py", ""),
            ("tests/core/test_other.py", ""),
            ("tests/derive/test_far.py", "from foxpath.core.made import x\n"),
            ("tests/window/test_shown.py", "from foxpath.core.made import x\n"),
            ("tests/derive/test_stranger.py", ""),
        ):
            (self.folder / name).parent.mkdir(parents=True, exist_ok=True)
            (self.folder / name).write_text(text)
        self.assertEqual(
            mutants.nearest_tests("foxpath/core/made.py"),
            ["tests.core.test_made", "tests.derive.test_far", "tests.window.test_shown", "tests.core.test_other"],
        )

    def test_one_that_no_test_notices_survives_and_the_file_is_as_it_was(self):
        text, found = self.of("def f(a):\n    return a + 1\n")
        (self.folder / "tests" / "core").mkdir(parents=True)
        for place in ("foxpath", "foxpath/core", "tests", "tests/core"):
            (self.folder / place / "__init__.py").touch()
        test = self.folder / "tests/core/test_made.py"
        head = "import unittest\nfrom foxpath.core.made import f\n\n\nclass T(unittest.TestCase):\n    def test_f(self):\n        "
        test.write_text(head + "self.assertEqual(f(2), 3)\n")
        self.assertEqual({mutants.survives(one, self.folder) for one in found}, {False})
        test.write_text(head + "f(2)\n")
        self.assertEqual({mutants.survives(one, self.folder) for one in found}, {True})
        self.assertEqual((self.folder / "foxpath/core/made.py").read_text(), text)


if __name__ == "__main__":
    unittest.main()
