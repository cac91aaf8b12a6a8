"""Fingerprints: other content, another name; the same content, the same name, in every process."""

import subprocess
import sys
import unittest
from dataclasses import dataclass, field
from enum import Enum
from typing import NamedTuple

import numpy as np

from foxpath.core.fingerprint import fingerprint, told
from foxpath.core.frame import Crop, Frame


@dataclass(frozen=True)
class Said:
    word: str
    extra: str = field(default="", compare=False)


@dataclass(frozen=True)
class Other:
    word: str


@dataclass(frozen=True, eq=False)
class Lone:
    word: str


class Grade(Enum):
    LOST = 1
    HARD = 2


class Pair(NamedTuple):
    x: int
    y: int


class Fingerprints(unittest.TestCase):
    def test_whatever_differs_has_another_name(self):
        different = [
            -1, -2, -1.5, 0, 1, True, False, None, "", "1", b"1", b"", (), [1], [[1]], (1, (2,)), (1, 3), ((1,), 2),
            ("a", "b"), ("ab", ""), ("", "ab"), {}, {1: 2}, {2: 1}, {1}, {1, 2}, float("inf"), float("-inf"), float("nan"),
            (1.0, 2.0), (2.0, 1.0), (1.0, 1.0), (0.0, 0.0),
            np.zeros(2), np.zeros(2, np.float32), np.zeros((1, 2)), np.zeros((2, 1)), np.array([0.0, 1.0]), Said("a"), Said("b"),
            Other("a"), Grade.LOST, Grade.HARD, 1e300, 5e-324, 2**70, "\ud800",
        ]  # fmt: skip
        names = [fingerprint(one) for one in different]
        for k, name in enumerate(names):
            for other, again in zip(different[k + 1 :], names[k + 1 :], strict=True):
                # A list and a tuple of the same are one content.
                self.assertNotEqual(name, again, f"{different[k]!r} and {other!r}")

    def test_the_same_content_has_the_same_name(self):
        for one, other in (
            ((1, "a"), [1, "a"]),
            (0.0, -0.0),
            ((0.0, 5.0), (-0.0, 5.0)),
            ((5.0, 0.0), (5.0, -0.0)),
            (-2, -2.0),
            (np.float64(2.5), 2.5),
            (np.int32(7), 7),
            ({"a": 1, "b": 2}, {"b": 2, "a": 1}),
            ({3, 1, 2}, frozenset({2, 3, 1})),
            (Said("a", "kept"), Said("a", "another")),
            (np.arange(6).reshape(2, 3).T, np.ascontiguousarray(np.arange(6).reshape(2, 3).T)),
            (Pair(1, 2), (1, 2)),
        ):
            self.assertEqual(fingerprint(one), fingerprint(other), f"{one!r} and {other!r}")
        self.assertEqual(len(fingerprint("x")), 16)

    def test_other_processes_say_the_same(self):
        code = "from foxpath.core.fingerprint import fingerprint; print(fingerprint('a', {'b': 1.5}, frozenset('xyz')).hex())"
        said = {
            subprocess.run(
                [sys.executable, "-c", code], capture_output=True, text=True, check=True, env={"PYTHONHASHSEED": seed}
            ).stdout.strip()
            for seed in ("1", "2")
        }
        self.assertEqual(said, {fingerprint("a", {"b": 1.5}, frozenset("xyz")).hex()})

    def test_what_has_no_content_is_refused(self):
        for one in (object(), Lone("a"), lambda: 1, np.array([object()]), Said):
            with self.assertRaises(TypeError):
                fingerprint("in", [one])

    def test_what_is_told_once_is_named_as_ever(self):
        frame = Frame(Crop(1.0, 2.0, 30.0, 40.0), 3, 4, 0.5)
        self.assertEqual(told(frame), fingerprint(frame))
        self.assertIs(told(frame), told(Frame(Crop(1.0, 2.0, 30.0, 40.0), 3, 4, 0.5)))
        self.assertNotEqual(told(frame), told(Frame(Crop(1.0, 2.0, 30.0, 40.0), 3, 4, 0.25)))


if __name__ == "__main__":
    unittest.main()
