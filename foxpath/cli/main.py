"""Run one command, or open the window."""

import argparse
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NoReturn

from foxpath.cli import paintings, pictures
from foxpath.cli.parsers import EXIT_FOUND, EXIT_WRONG_USE, command_parsers, window_parser
from foxpath.core.errors import AppError, InputError

COMMANDS: dict[str, Callable[[argparse.Namespace], int]] = {
    "new": pictures.new,
    "inspect": pictures.inspect,
    "zones": pictures.zones,
    "growth": pictures.growth,
    "eye": pictures.eye,
    "plan": paintings.plan,
    "rehearse": paintings.rehearse_passes,
    "compare": paintings.compare,
    "painted": paintings.painted,
    "check": paintings.check,
}


def entry() -> NoReturn:
    """Run the command line and leave with its exit status."""
    sys.exit(main(sys.argv[1:]))


def main(argv: Sequence[str]) -> int:
    """Run one command.

    Parameters
    ----------
    argv : sequence of str
        Arguments without the program's name.

    Returns
    -------
    int
        0 done, 1 findings or failure, 2 wrong use.
    """
    commands = command_parsers()
    try:
        if argv and argv[0] in commands:
            args = commands[argv[0]].parse_args(argv[1:])
            return COMMANDS[argv[0]](args)
        args = window_parser().parse_args(argv)
        return open_window(args)
    except AppError as failure:
        print(f"foxpath: {failure}", file=sys.stderr)
        return EXIT_WRONG_USE if isinstance(failure, InputError) else EXIT_FOUND
    except KeyboardInterrupt:
        print("foxpath: stopped.", file=sys.stderr)
        return EXIT_FOUND
    except OSError as failure:
        print(
            f"foxpath: {failure.filename or 'a file'}: {(failure.strerror or str(failure)).lower()}.", file=sys.stderr
        )
        return EXIT_FOUND
    except SystemExit as leave:
        return leave.code if isinstance(leave.code, int) else EXIT_WRONG_USE


def open_window(args: argparse.Namespace) -> int:
    """Open the window on a file or a demo."""
    if args.file and args.demo:
        raise InputError("A file and --demo cannot be opened at once.", "Give one of them.")
    if args.demo:
        from foxpath.demo import demo_project

        demo_project(args.demo)
    from foxpath.window import run

    return run(Path(args.file) if args.file else None, args.demo)
