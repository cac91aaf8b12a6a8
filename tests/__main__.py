"""Run the tests; names narrow them. Closes with one line: N passed, N failed."""

import sys
import unittest
from pathlib import Path


def main() -> int:
    names = sys.argv[1:]
    loader = unittest.defaultTestLoader
    top = Path(__file__).parents[1]
    if names:
        suite = unittest.TestSuite()
        for name in names:
            place = top / name.replace(".", "/")
            found = (
                loader.discover(str(place), top_level_dir=str(top))
                if place.is_dir()
                else loader.loadTestsFromName(name)
            )
            suite.addTest(found)
    else:
        suite = loader.discover(str(top / "tests"), top_level_dir=str(top))
    result = unittest.TextTestRunner(verbosity=1).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    passed = result.testsRun - failed - len(result.skipped)
    skipped = f", {len(result.skipped)} skipped" if result.skipped else ""
    sys.stderr.flush()
    print(f"{passed} passed, {failed} failed{skipped}", flush=True)
    return 1 if failed or not result.testsRun else 0


if __name__ == "__main__":
    sys.exit(main())
