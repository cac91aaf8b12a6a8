"""`foxpath log`."""

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_project

if TYPE_CHECKING:
    from foxpath.document.model import Project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("--csv", metavar="F", help="write every entry as a row there")
    parser.add_argument(
        "--text", action="store_true", help="print the story of the painting (this is what it does without)"
    )
    parser.add_argument("--pdf", metavar="F", help="write the story as sheets")
    parser.add_argument("--search", metavar="WORDS", help="print only the entries that hold these words")
    parser.add_argument("--paper", choices=("A4", "Letter"), default="A4")


def run(args: argparse.Namespace) -> int:
    """Show, search or write the log of a painting."""
    from foxpath.core.log.reading import search
    from foxpath.core.log.words import as_csv, as_text, entry_words
    from foxpath.sheets.pictures import write_file

    project = read_project(args.project)
    if args.csv:
        write_file(Path(args.csv), as_csv(project.told).encode())
    if args.pdf:
        _pdf(project, Path(args.pdf), args.paper)
    if args.search is not None:
        for one in search(project.told, args.search):
            print(f"{one.local:%Y-%m-%d %H:%M}  {one.ref}  {entry_words(one)}")
    elif args.text or not (args.csv or args.pdf):
        print(as_text(project.told, project.name))
    return EXIT_DONE


def _pdf(project: "Project", path: Path, paper: str) -> None:
    from foxpath.derive import Results
    from foxpath.derive.handout.log import story_pages
    from foxpath.derive.pictures import cropped_picture
    from foxpath.sheets import Book, write_book

    small = cropped_picture(Results(), project, 400, max(1, round(400 / project.canvas.aspect)))
    write_book(
        Book(project.name, project.canvas, project.transfer.grid, small, tuple(story_pages(project))), path, paper
    )
