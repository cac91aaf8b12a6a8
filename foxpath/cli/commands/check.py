"""`foxpath check`."""

import argparse

from foxpath.cli.parsers import EXIT_DONE, EXIT_FOUND
from foxpath.cli.reading import read_project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")


def run(args: argparse.Namespace) -> int:
    """List findings; something that must be mended makes it fail."""
    from foxpath.core.findings import worst_first
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.reference.inspection import Inspect
    from foxpath.derive.subjects import findings

    results, project = Results(), read_project(args.project)
    found = worst_first([*findings(results, project), *Inspect(results, project)(SILENT).useful()])
    signs = {"must": "must be mended", "look": "look here", "note": "note"}
    for one in found:
        print(f"{signs[one.level]}: {one.says} ({one.why})")
    if not found:
        print("nothing to mend")
    return EXIT_FOUND if any(f.level == "must" for f in found) else EXIT_DONE
