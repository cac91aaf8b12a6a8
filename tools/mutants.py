"""Changed lines of code, one at a time, to see whether a test notices: ``./fox mutants [--n N] [--seed S] [FILES]``.

A mutant is one line of the product with a bound flipped, a sign changed, a number off by one, a term dropped, or "and" in place of
"or". It is run against the tests that lie nearest to its module; a mutant they let through is a behaviour that nothing holds. Lines
are drawn by the seed, so that a draw can be run again. Kernels, words and imports are left out.
"""

import argparse
import ast
import multiprocessing
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

TOP = Path(__file__).parents[1]
PACKAGES = ("core", "derive", "document")
"""Rooms that mutants are drawn from: what has no interface."""
MOST_SECONDS = 150
MOST_TESTS = 6
"""Test modules a mutant is run against at most, the nearest first."""

_COMPARE: dict[type[ast.cmpop], type[ast.cmpop]] = {
    ast.Lt: ast.GtE, ast.LtE: ast.Lt, ast.Gt: ast.LtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq, ast.In: ast.NotIn,
    ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
_OPERATE: dict[type[ast.operator], type[ast.operator]] = {
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.BitAnd: ast.BitOr, ast.BitOr: ast.BitAnd,
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Mutant:
    """A changed piece of code.

    Attributes
    ----------
    file : str
        From the project's top.
    line : int
    begin, end : int
        The place of the piece in the file, characters.
    new : str
        What stands there instead.
    words : str
        What was changed.
    """

    file: str
    line: int
    begin: int
    end: int
    new: str
    words: str


def _changes(node: ast.AST) -> list[tuple[ast.expr, str]]:
    """Return what one piece of code may be changed to, with words for it."""
    made: list[tuple[ast.expr, str]] = []
    if isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in _COMPARE:
        other = _COMPARE[type(node.ops[0])]()
        made.append((ast.Compare(node.left, [other], node.comparators), "another comparison"))
    elif (
        isinstance(node, ast.BinOp)
        and type(node.op) in _OPERATE
        and not isinstance(node.left, (ast.Constant, ast.JoinedStr))
    ):
        made.append((ast.BinOp(node.left, _OPERATE[type(node.op)](), node.right), "another operator"))
        if isinstance(node.op, (ast.Add, ast.Sub, ast.Mult)):
            made.append((node.left, "a term dropped"))
    elif isinstance(node, ast.BoolOp):
        swapped = ast.Or() if isinstance(node.op, ast.And) else ast.And()
        made.append((ast.BoolOp(swapped, node.values), "and for or"))
        made.append((node.values[0], "a condition dropped"))
    elif isinstance(node, ast.UnaryOp) and isinstance(node.op, (ast.USub, ast.Not)):
        made.append((node.operand, "a sign dropped"))
    elif isinstance(node, ast.Constant):
        value = node.value
        if isinstance(value, float):
            made.append((ast.Constant(value * 1.5 + 0.01), "another number"))
        elif isinstance(value, int) and not isinstance(value, bool):
            made.append((ast.Constant(value + 1), "another number"))
    return made


def mutants_of(path: Path) -> list[Mutant]:
    """Return every mutant of a module."""
    text = path.read_text("utf-8")
    starts = [0]
    for line in text.splitlines(keepends=True):
        starts.append(starts[-1] + len(line))
    lines = text.splitlines()

    def place(row: int, column: int) -> int:
        # The parser counts bytes.
        return starts[row - 1] + len(lines[row - 1].encode()[:column].decode())

    found = []

    def walk(node: ast.AST, *, inside: bool) -> None:
        if isinstance(node, (ast.JoinedStr, ast.arguments, ast.AnnAssign, ast.Assert, ast.Raise)):
            # Words, defaults and what is said of errors.
            return
        inside = inside or isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef))
        if inside and isinstance(node, ast.expr) and node.end_lineno is not None and node.end_col_offset is not None:
            begin, end = place(node.lineno, node.col_offset), place(node.end_lineno, node.end_col_offset)
            for made, words in _changes(node):
                new = ast.unparse(made)
                if node.lineno == node.end_lineno:
                    found.append(Mutant(str(path.relative_to(TOP)), node.lineno, begin, end, f"({new})", words))
        for child in ast.iter_child_nodes(node):
            walk(child, inside=inside)

    walk(ast.parse(text), inside=False)
    return found


def candidates(files: Sequence[str]) -> list[Path]:
    """Return the modules mutants are drawn from: those named, those in folders that are named, else all of the rooms."""
    named = [TOP / name for name in files] or [TOP / "foxpath" / package for package in PACKAGES]
    missing = [name for name in files if not (TOP / name).exists()]
    if missing:
        raise SystemExit(f"There is no {', '.join(missing)}: name modules or folders of foxpath.")
    found = [place for place in named if place.is_file()]
    for folder in named:
        found += sorted(file for file in folder.rglob("*.py") if not file.name.startswith(("_kernel", "__init__")))
    return found


def nearest_tests(file: str) -> list[str]:
    """Return the test modules that lie nearest to a module: beside it in the mirrored tree, then those that name it."""
    own = Path(file).with_suffix("")
    mirrored = Path("tests", *own.parts[1:])
    dotted = ".".join(own.parts)
    found: list[Path] = list((TOP / mirrored.parent).glob(f"test_{own.name}*.py"))
    naming, room = [], []
    for test in sorted((TOP / "tests").rglob("test_*.py")):
        text = test.read_text("utf-8")
        if f"{dotted} import" in text or f"from {'.'.join(own.parts[:-1])} import {own.name}" in text:
            naming.append(test)
        elif f"{'.'.join(own.parts[:-1])} import" in text or test.parent in (
            TOP / mirrored.parent,
            TOP / mirrored.parent.parent,
        ):
            room.append(test)

    def far(test: Path) -> tuple[bool, int, bool, bool]:
        """Return how far a test lies: those that name the module first, then by how much of the tree they share with it."""
        shared = len(os.path.commonpath([test.parent, TOP / mirrored.parent]))
        return test in room, -shared, "window" in test.parts, "remembered" in test.name

    quick = sorted([*naming, *room], key=far)
    found += [test for test in quick if test not in found]
    return [".".join(test.relative_to(TOP).with_suffix("").parts) for test in found[:MOST_TESTS]]


def survives(mutant: Mutant, copy: Path) -> bool:
    """Run the nearest tests on a copy of the project with one line changed; tell whether all of them pass."""
    place = copy / mutant.file
    text = place.read_text("utf-8")
    place.write_text(text[: mutant.begin] + mutant.new + text[mutant.end :], "utf-8")
    try:
        tests = nearest_tests(mutant.file)
        if not tests:
            return True
        done = subprocess.run(
            [sys.executable, "-m", "unittest", "-f", *tests],
            cwd=copy,
            env={**os.environ, "PYTHONPATH": str(copy), "PYTHONDONTWRITEBYTECODE": "1"},
            capture_output=True,
            timeout=MOST_SECONDS,
            check=False,
        )
    except subprocess.TimeoutExpired:
        return False
    finally:
        place.write_text(text, "utf-8")
    return done.returncode == 0


def draw(files: Sequence[str], count: int, seed: int) -> list[Mutant]:
    """Draw mutants, at most two a module."""
    rng = random.Random(seed)
    per_file: dict[str, int] = {}
    every = [one for file in candidates(files) for one in mutants_of(file)]
    rng.shuffle(every)
    drawn: list[Mutant] = []
    for one in every:
        if len(drawn) == count:
            break
        if files or per_file.get(one.file, 0) < 2:
            per_file[one.file] = per_file.get(one.file, 0) + 1
            drawn.append(one)
    return drawn


def run(argv: Sequence[str]) -> int:
    """Draw and run mutants as the command line says; prints each that was let through."""
    parser = argparse.ArgumentParser(
        prog="./fox mutants", description="Change lines of code, and see whether a test notices."
    )
    parser.add_argument("--n", type=int, default=24, help="mutants to draw")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("files", nargs="*", help="only lines of these modules, or of those in these folders")
    args = parser.parse_args(argv)
    drawn = draw(args.files, args.n, args.seed)
    jobs = min(2, multiprocessing.cpu_count())
    with tempfile.TemporaryDirectory() as folder:
        copies = []
        for k in range(jobs):
            copy = Path(folder) / str(k)
            copy.mkdir()
            for name in ("foxpath", "tests", "tools", "pyproject.toml", "docs", "fox", "README.md"):
                source = TOP / name
                (shutil.copytree if source.is_dir() else shutil.copy2)(source, copy / name)
            copies.append(copy)

        def work(k: int) -> list[tuple[Mutant, bool]]:
            told = []
            for mutant in drawn[k::jobs]:
                lives = survives(mutant, copies[k])
                told.append((mutant, lives))
                source = (TOP / mutant.file).read_text("utf-8").splitlines()[mutant.line - 1].strip()
                sign = "LET THROUGH" if lives else "noticed"
                print(f"{sign}: {mutant.file}:{mutant.line} {mutant.words}: {source}  ->  {mutant.new}", flush=True)
            return told

        with ThreadPoolExecutor(jobs) as pool:
            told = [one for part in pool.map(work, range(jobs)) for one in part]
    noticed = sum(not lives for _, lives in told)
    print(f"{noticed} of {len(told)} noticed")
    return 0


if __name__ == "__main__":
    sys.exit(run(sys.argv[1:]))
