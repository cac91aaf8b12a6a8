"""`foxpath proof`."""

import argparse
from pathlib import Path

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import checked_width, read_project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("--out", metavar="F.pdf", required=True, help="the sheet; the picture stands beside it as PNG")
    parser.add_argument("--width", type=int, default=2400, metavar="PX", help="of the picture (2400)")
    parser.add_argument("--paper", choices=("A4", "Letter"), default="A4")


def run(args: argparse.Namespace) -> int:
    """Write a proof for the client: no note of the painter's is in it."""
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.handout.proof import WriteProof

    width = checked_width(args.width)
    project = read_project(args.project)
    print(WriteProof(Results(), project, Path(args.out), width, args.paper)(SILENT))
    return EXIT_DONE
