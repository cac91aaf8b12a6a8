"""`foxpath mixes`."""

import argparse
import csv
import io
import json

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import made_folder, read_project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("--out", required=True, metavar="DIR", help="where mixes.json, mixes.csv and swatches.pdf go")
    parser.add_argument("--paper", choices=("A4", "Letter"), default="A4")


def run(args: argparse.Namespace) -> int:
    """Plan the piles of a painting, and write them."""
    from foxpath.core.reporting import SILENT
    from foxpath.core.units import count_words, percent
    from foxpath.derive import Results
    from foxpath.derive.handout.mixes import mix_rows, mix_sheet_pages, mixes_fields
    from foxpath.derive.mixes.reading import close_mixes
    from foxpath.derive.pictures import cropped_picture
    from foxpath.derive.subject import Told
    from foxpath.sheets import Book, write_book
    from foxpath.sheets.pictures import write_file

    project, results = read_project(args.project), Results()
    folder = made_folder(args.out)
    close = close_mixes(results, project)
    fields = mixes_fields(project, close)
    write_file(folder / "mixes.json", (json.dumps(fields, indent=1, ensure_ascii=False) + "\n").encode())
    written = io.StringIO()
    csv.writer(written, lineterminator="\n").writerows(mix_rows(project, close))
    write_file(folder / "mixes.csv", written.getvalue().encode())
    pages = tuple(mix_sheet_pages(Told(results, project), SILENT))
    files = "mixes.json, mixes.csv"
    if pages:
        small = cropped_picture(results, project, 400, max(1, round(400 / project.canvas.aspect)))
        write_book(
            Book(project.name, project.canvas, project.transfer.grid, small, pages), folder / "swatches.pdf", args.paper
        )
        files += f", swatches.pdf ({count_words(len(pages), 'page')})"
    piles = count_words(len(close.palette.piles), "pile")
    print(f"{folder}: {files}; {piles} serve {percent(close.palette.covered)} of what is wanted")
    for one in close.findings:
        print(f"{one.says} {one.why}")
    return EXIT_DONE
