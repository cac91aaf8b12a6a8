"""Run the tests, whole modules in a process more than there are cores, three at most; names narrow them.

Closes with one line: N passed, N failed.
"""

import io
import multiprocessing
import os
import sys
import time
import unittest
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from pathlib import Path

TOP = Path(__file__).parents[1]
SLOWEST = 10
"""So many of the slowest tests are named at the end."""
LONGEST = (
    "window.stops.test_progress",
    "derive.test_remembered",
    "derive.test_remembered_jay",
    "window.shell.test_window",
    "derive.progress.test_progress",
    "window.stops.test_days",
    "cli.test_main",
    "window.stops.test_map",
    "core.progress.test_square",
    "window.stops.test_mixes",
    "cli.test_days",
    "cli.test_commands",
    "window.stops.test_easel",
    "derive.rehearsal.test_panel",
    "window.stops.test_practice",
    "window.stops.test_own_passes",
    "core.practice.test_drills",
    "window.test_everyone",
    "window.stops.test_reference",
    "document.test_every_edit",
    "cli.test_progress",
    "window.work.test_session",
    "derive.passes.test_veils",
)
"""Modules that take long are begun first, so that no process ends long before the other."""


@dataclass(frozen=True, slots=True)
class Outcome:
    """What became of a module: how many tests passed, failed and were left out, what was said, and the seconds it took, also of the processor."""

    module: str
    passed: int
    failed: int
    skipped: int
    said: str
    seconds: float
    processor: float
    tests: tuple[tuple[float, str], ...] = ()


class Timed(unittest.TextTestResult):
    """Notes how long each test takes."""

    def startTest(self, test):
        self._begun = time.monotonic()
        super().startTest(test)

    def stopTest(self, test):
        taken.append((time.monotonic() - self._begun, unittest.TestCase.id(test)))
        super().stopTest(test)


taken: list[tuple[float, str]] = []
"""Seconds and names of the tests of the module that is run."""


def run(name: str) -> Outcome:
    """Run the tests of a module, a class or one test."""
    begin, busy = time.monotonic(), time.process_time()
    stream = io.StringIO()
    suite = unittest.defaultTestLoader.loadTestsFromName(name)
    taken.clear()
    result = unittest.TextTestRunner(stream, verbosity=1, resultclass=Timed).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    # A class that could not be set up counts as failed, though none of its tests was run.
    passed = max(0, result.testsRun - failed - len(result.skipped))
    said = stream.getvalue() if failed else ""
    seconds, processor = time.monotonic() - begin, time.process_time() - busy
    return Outcome(name, passed, failed, len(result.skipped), said, seconds, processor, tuple(taken))


def modules(names: list[str]) -> list[str]:
    """Return the modules under packages, and other names as they are; the longest first."""
    found: list[str] = []
    for name in names:
        place = TOP / name.replace(".", "/")
        files = sorted(place.rglob("test_*.py")) if place.is_dir() else []
        found += [".".join(file.relative_to(TOP).with_suffix("").parts) for file in files] or [name]
    rank = {f"tests.{name}": k for k, name in enumerate(LONGEST)}
    return sorted(dict.fromkeys(found), key=lambda one: rank.get(one, len(rank)))


def main() -> int:
    """Run what the command line names, else everything."""
    names = modules(sys.argv[1:] or ["tests"])
    # One more than cores: a quarter of a window's test is waiting.
    workers = min(3, (os.cpu_count() or 1) + 1, len(names))
    done: list[Outcome] = []
    # Fresh processes: a forked one would share the window system's and the kernels' threads.
    with ProcessPoolExecutor(workers, multiprocessing.get_context("spawn")) as pool:
        for future in as_completed([pool.submit(run, name) for name in names]):
            one = future.result()
            done.append(one)
            print(
                f"{one.module}: {one.passed} passed, {one.failed} failed, {one.seconds:.0f} s ({one.processor:.0f} s CPU)",
                file=sys.stderr,
                flush=True,
            )
            if one.said:
                print(one.said, file=sys.stderr, flush=True)
    passed, failed, skipped = (sum(getattr(one, name) for one in done) for name in ("passed", "failed", "skipped"))
    slowest = sorted((one for outcome in done for one in outcome.tests), reverse=True)[:SLOWEST]
    if len(done) > 1:
        print(
            "The slowest tests:",
            *(f"  {seconds:5.1f} s  {test}" for seconds, test in slowest),
            sep="\n",
            file=sys.stderr,
        )
    left_out = f", {skipped} skipped" if skipped else ""
    print(f"{passed} passed, {failed} failed{left_out}", flush=True)
    return 1 if failed or not passed else 0
