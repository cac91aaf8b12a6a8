"""Parsers whose errors are one line that says what to do."""

import argparse
from typing import NoReturn

from foxpath import __version__
from foxpath.cli.commands import COMMANDS, Command

EXIT_DONE, EXIT_FOUND, EXIT_WRONG_USE = 0, 1, 2


class Parser(argparse.ArgumentParser):
    """An argument parser whose errors are one line that says what to do."""

    def error(self, message: str) -> NoReturn:
        self.exit(EXIT_WRONG_USE, f"{self.prog}: {message}. See {self.prog} --help.\n")


def window_parser() -> argparse.ArgumentParser:
    """Return what is read when there is no command: what the window opens on."""
    parser = Parser(
        prog="foxpath",
        description="Plan and rehearse the painting of fur, feathers and eyes. Without a command the window opens.",
        epilog=f"Commands: {', '.join(one.name for one in COMMANDS)}. Each has its own --help. "
        "Where a command reads X.foxpath, demo:fox, demo:jay and demo:cavies name the demos.",
    )
    parser.add_argument("file", nargs="?", metavar="FILE", help="a .foxpath project or a picture to open in the window")
    parser.add_argument(
        "--demo", nargs="?", const="fox", metavar="NAME", help="open the window on demo data (fox, jay, cavies)"
    )
    parser.add_argument("--version", action="version", version=f"foxpath {__version__}")
    return parser


def parser_of(command: Command) -> argparse.ArgumentParser:
    """Return the parser of a command."""
    parser = Parser(prog=f"foxpath {command.name}", description=command.words)
    command.load().arguments(parser)
    return parser
