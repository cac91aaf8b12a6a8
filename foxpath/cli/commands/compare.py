"""`foxpath compare`."""

import argparse

from foxpath.cli.painting import add_settings, bent
from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import checked_width, made_folder, read_project
from foxpath.core.errors import InputError


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("schools", nargs="+", metavar="KEY", help="two or more schools")
    parser.add_argument("--out", required=True, metavar="DIR")
    add_settings(parser)
    parser.add_argument("--width", type=int, default=900, metavar="PX", help="width of each picture (200 to 8000)")


def run(args: argparse.Namespace) -> int:
    """Rehearse a painting in several schools, side by side."""
    from foxpath.core.units import count_words, duration_words
    from foxpath.derive.rehearsal.compare import compare_into

    keys = list(dict.fromkeys(args.schools))
    if len(keys) < 2:
        raise InputError("One school is nothing to compare.", "Name two or more.")
    project, width = bent(read_project(args.project), args.ways), checked_width(args.width)
    folder = made_folder(args.out)
    for one in compare_into(project, keys, width, folder):
        print(
            f"{one.name}: {count_words(one.passes, 'pass', 'passes')}, {count_words(one.waits, 'wait')} for drying, "
            f"{count_words(one.marks, 'mark')}, {duration_words(one.minutes)}; "
            f"mean difference {one.mean_difference:.1f}, at most {one.worst_difference:.1f}"
        )
    print(f"{folder / 'side-by-side.png'}: {len(keys)} schools")
    return EXIT_DONE
