"""`foxpath plan`."""

import argparse
import json

from foxpath.cli.painting import add_settings, bent, following
from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import checked_width, made_folder, read_project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("--out", required=True, metavar="DIR")
    parser.add_argument("--paper", choices=("A4", "Letter"), default="A4")
    parser.add_argument(
        "--school", metavar="KEY", help="follow this school or recipe.json, without changing the project"
    )
    add_settings(parser)
    parser.add_argument(
        "--width", type=int, default=1400, metavar="PX", help="width of the pass pictures (200 to 8000)"
    )


def run(args: argparse.Namespace) -> int:
    """Write every sheet, the map and plan.json."""
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.book import make_book, plan_record
    from foxpath.derive.handout.maps import WriteMap
    from foxpath.derive.rehearsal.painting import rehearse
    from foxpath.sheets import write_book
    from foxpath.sheets.pictures import write_file

    project, width = bent(following(read_project(args.project), args.school), args.ways), checked_width(args.width)
    folder = made_folder(args.out)
    results = Results()
    rehearsed = rehearse(results, project, width)
    pages = write_book(make_book(results, project, rehearsed), folder / "plan.pdf", args.paper)
    WriteMap(results, project, folder / "map.svg")(SILENT)
    record = plan_record(results, project, rehearsed)
    write_file(folder / "plan.json", (json.dumps(record, indent=1, ensure_ascii=False) + "\n").encode())
    print(
        f"{folder / 'plan.pdf'}: {pages} pages; {folder / 'map.svg'}: the map in mm; {folder / 'plan.json'}: "
        f"{len(rehearsed)} passes"
    )
    return EXIT_DONE
