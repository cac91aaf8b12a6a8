"""The command line in processes of its own: without a screen, a home, a tongue for our signs; stopped in the middle."""

import json
import os
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

from foxpath.cli.commands import COMMANDS, command_called, names
from foxpath.cli.parsers import parser_of, window_parser
from foxpath.core import folders
from foxpath.document import archive
from tests.made import picture, project

TOP = Path(__file__).parents[2]
BARE = {"PATH": os.environ["PATH"], "PYTHONPATH": str(TOP)}
"""No home, no screen, no tongue."""


def foxpath(*argv, env=None, cwd=None, stdin=subprocess.DEVNULL, code=None):
    command = (
        [sys.executable, "-c", code, *map(str, argv)] if code else [sys.executable, "-m", "foxpath", *map(str, argv)]
    )
    return subprocess.run(
        command, cwd=cwd or TOP, env={**BARE, **(env or {})}, stdin=stdin, capture_output=True, timeout=120, check=False
    )


class Lists(unittest.TestCase):
    def test_every_command_has_a_module_a_parser_and_a_line_in_the_help(self):
        words = window_parser().format_help()
        for one in COMMANDS:
            parser = parser_of(one)
            self.assertEqual(parser.prog, f"foxpath {one.name}")
            self.assertTrue(one.words.endswith("."))
            self.assertTrue(callable(one.load().run))
            self.assertIn(one.name, words.replace("\n", " "))
            self.assertIs(command_called(one.name), one)
        self.assertIsNone(command_called("nonsense"))
        self.assertEqual(names().count(","), len(COMMANDS) - 2)
        self.assertTrue(names().endswith(f"or {COMMANDS[-1].name}"))

    def test_the_readme_names_each_of_them(self):
        readme = (TOP / "README.md").read_text("utf-8")
        for one in COMMANDS:
            self.assertIn(f"./fox run {one.name} ", readme)

    def test_the_launcher_asks_the_program_which_need_no_window(self):
        launcher = (TOP / "fox").read_text("utf-8")
        self.assertIn("command_called", launcher)
        for one in COMMANDS:
            self.assertNotIn(f'" {one.name} "', launcher)


class Alone(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.project = self.dir / "a.foxpath"
        archive.save(project(), self.project)
        self.bare = self.dir / "bare.foxpath"
        archive.save(project(combs=False), self.bare)

    def one_line(self, done, status, *words):
        err = done.stderr.decode("utf-8", "replace")
        self.assertEqual(done.returncode, status, err)
        self.assertEqual(err.count("\n"), 1, err)
        for word in words:
            self.assertIn(word, err)

    def test_what_is_neither_file_nor_command_is_said_at_once(self):
        self.one_line(foxpath("nonsense"), 2, "no file and no command 'nonsense'", "rehearse")

    def test_without_a_screen_every_command_is_named(self):
        done = foxpath(self.project)
        self.one_line(done, 1, "no screen", *(one.name for one in COMMANDS))

    def test_in_any_tongue_findings_can_be_read(self):
        for env in ({"LC_ALL": "C", "PYTHONUTF8": "0", "PYTHONIOENCODING": "ascii"}, {"PYTHONIOENCODING": "latin-1"}):
            done = foxpath("check", self.bare, env=env)
            self.assertIn(done.returncode, (0, 1), done.stderr)
            self.assertNotIn(b"Traceback", done.stderr)
            self.assertIn(b"look here: ", done.stdout)

    def test_names_that_are_no_text_are_named_all_the_same(self):
        odd = os.fsencode(self.dir) + b"/\xff\xfe.foxpath"
        with open(odd, "wb") as file:
            file.write(self.project.read_bytes())
        done = subprocess.run(
            [sys.executable, "-m", "foxpath", "check", odd],
            cwd=TOP,
            env=BARE,
            capture_output=True,
            timeout=120,
            check=False,
        )
        self.assertIn(done.returncode, (0, 1), done.stderr)
        missing = subprocess.run(
            [sys.executable, "-m", "foxpath", "check", odd + b"x"], cwd=TOP, env=BARE, capture_output=True, check=False
        )
        self.one_line(missing, 1, "could not be read")
        image = os.fsencode(self.dir) + b"/\xff.png"
        with open(image, "wb") as file:
            file.write(picture())
        out = self.dir / "new.foxpath"
        made = subprocess.run(
            [sys.executable, "-m", "foxpath", "new", image, "--canvas", "25x20cm", "--out", str(out)],
            cwd=TOP, env=BARE, capture_output=True, check=False,
        )  # fmt: skip
        self.assertEqual(made.returncode, 0, made.stderr)
        self.assertEqual(archive.load(out).reference.name, "\ufffd.png")

    def test_endless_files_and_pipes_end(self):
        pipe = self.dir / "pipe"
        os.mkfifo(pipe)
        for argv in (
            ("inspect", "/dev/zero", "--out", self.dir),
            ("check", "/dev/zero"),
            ("check", pipe),
            ("growth", pipe, "--out", "x"),
        ):
            self.one_line(foxpath(*argv), 2 if argv[0] == "growth" else 1)
        combs = foxpath("growth", self.dir / "no.png", "--outline", "/dev/zero", "--combs", pipe, "--out", "x.npz")
        self.one_line(combs, 1, "could not be read")

    def test_stopped_by_hand_it_says_so_and_nothing_else(self):
        big = self.dir / "big"
        # Whoever runs the tests in the background has the interrupt ignored, and so would all that they start.
        code = (
            "import runpy, signal\n"
            "signal.signal(signal.SIGINT, signal.default_int_handler)\n"
            "runpy.run_module('foxpath', run_name='__main__', alter_sys=True)"
        )
        work = subprocess.Popen(
            [sys.executable, "-c", code, "rehearse", "demo:fox", "--out", str(big), "--width", "6000"],
            cwd=TOP, env=BARE, stdout=subprocess.PIPE, stderr=subprocess.PIPE,
        )  # fmt: skip
        end = time.monotonic() + 60
        while not big.exists() and time.monotonic() < end:
            # On a busy machine it takes a while until it listens at all.
            time.sleep(0.1)
        time.sleep(1.5)
        for _ in range(25):
            # A hand presses again where a library that is just being loaded took the first for its own.
            work.send_signal(signal.SIGINT)
            try:
                _, err = work.communicate(timeout=4)
                break
            except subprocess.TimeoutExpired:
                continue
        else:
            work.kill()
            self.fail("it does not stop")
        self.assertEqual(err.decode(), "foxpath: stopped.\n")
        # Where the interrupt came through a nested run of the interpreter, that ends by the signal itself.
        self.assertIn(work.returncode, (1, -signal.SIGINT))

    def test_who_has_heard_enough_is_left_alone(self):
        line = f"{sys.executable} -u -m foxpath check {self.bare} | head -c 3"
        done = subprocess.run(["bash", "-c", line], cwd=TOP, env=BARE, capture_output=True, timeout=120, check=False)
        self.assertEqual((done.stdout, done.stderr), (b"loo", b""))

    def test_a_user_without_home_or_name_can_work(self):
        for env in ({"HOME": ""}, {"HOME": "/nowhere"}, {"HOME": "/dev/null"}):
            code = (
                "import os, pwd\n"
                "def unknown(uid): raise KeyError(uid)\n"
                "pwd.getpwuid = unknown\n"
                "from foxpath.document import library, recovery, paces\n"
                "from foxpath.core.folders import home\n"
                "print(home(), recovery.folder(), library.place(), len(paces.earlier()), len(library.own_kinds()))\n"
                "from foxpath.cli import main\n"
                "import sys; sys.exit(main(['check', sys.argv[1]]))"
            )
            done = foxpath(self.bare, code=code, env=env)
            self.assertIn(done.returncode, (0, 1), done.stderr)
            first = done.stdout.decode().split("\n")[0].split(" ")
            self.assertEqual(first[0], "None")
            self.assertTrue(all(place.startswith(str(folders.temporary())) for place in first[1:3]), first)

    def test_kernels_find_a_place_where_neither_the_package_nor_home_can_be_written_to(self):
        home = self.dir / "home"
        home.mkdir()
        code = (
            "import os\n"
            "real = os.access\n"
            "os.access = lambda path, mode, **more: False if 'foxpath' in str(path) and mode == os.W_OK else real(path, mode, **more)\n"
            "import foxpath.core.folders as folders\n"
            "writable = folders.writable\n"
            "folders.writable = lambda folder: {0} and writable(folder)\n"
            "import foxpath.core.jit\n"
            "print(os.environ['NUMBA_CACHE_DIR'])"
        )
        usual = foxpath(code=code.replace("{0}", "True"), env={"HOME": str(home)})
        self.assertEqual(usual.stdout.decode().strip(), str(home / ".cache/foxpath/kernels"), usual.stderr)
        locked = foxpath(code=code.replace("{0}", "False"), env={"HOME": str(home)})
        self.assertEqual(locked.stdout.decode().strip(), str(folders.temporary() / "kernels"), locked.stderr)


class Folders(unittest.TestCase):
    def test_a_variable_says_where_when_it_is_a_whole_way(self):
        from unittest import mock

        with mock.patch.dict("os.environ", {"XDG_STATE_HOME": "/some/where", "HOME": "/"}):
            self.assertEqual(folders.users("XDG_STATE_HOME", ".local/state"), Path("/some/where/foxpath"))
            self.assertEqual(folders.users("XDG_NONE", "x"), folders.temporary())
        with mock.patch.dict("os.environ", {"XDG_STATE_HOME": "relative", "HOME": str(TOP)}):
            self.assertEqual(folders.users("XDG_STATE_HOME", ".local/state"), TOP / ".local/state/foxpath")

    def test_writable_is_what_takes_a_file(self):
        with tempfile.TemporaryDirectory() as place:
            self.assertTrue(folders.writable(Path(place) / "new" / "deep"))
            self.assertEqual(list((Path(place) / "new" / "deep").iterdir()), [])
            (Path(place) / "file").write_text("x")
            self.assertFalse(folders.writable(Path(place) / "file"))


class Files(unittest.TestCase):
    """What a command is given in JSON: one line that says what is wrong with it."""

    def test_coordinates_that_cannot_be(self):
        from tests.cli.test_commands import CommandLine

        case = CommandLine("test_new")
        case.setUp()
        self.addCleanup(case.doCleanups)
        for value in (
            [[1, 1], [1e300, 5], [5, 9]],
            [[1, 1], [10**400, 5], [5, 9]],
            [[1, 1], [2, None], [5, 9]],
            {"a": 1},
            "text",
            [[[]]],
        ):
            case.outline = case.write("o.json", value)
            case.fails(
                2,
                "growth",
                case.image,
                "--outline",
                case.outline,
                "--combs",
                case.combs,
                "--out",
                case.dir / "f.npz",
                words="o.json",
            )
        far = json.dumps([[[1, 1], [2, 2]]]).replace("2, 2", "2, 1e7")
        combs = case.write("c.json", far.encode())
        outline = case.write("o.json", [[40, 30], [120, 30], [120, 110]])
        case.fails(
            2,
            "growth",
            case.image,
            "--outline",
            outline,
            "--combs",
            combs,
            "--out",
            case.dir / "f.npz",
            words="off every picture",
        )


if __name__ == "__main__":
    unittest.main()
