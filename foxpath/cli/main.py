"""Run one command, or open the window."""

import argparse
import contextlib
import io
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import NoReturn

from foxpath.cli.commands import command_called, names
from foxpath.cli.parsers import EXIT_FOUND, EXIT_WRONG_USE, parser_of, window_parser
from foxpath.core.errors import AppError, InputError


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
    _speak_anywhere()
    try:
        command = command_called(argv[0]) if argv else None
        if command is not None:
            args = parser_of(command).parse_args(argv[1:])
            status: int = command.load().run(args)
            return status
        return open_window(window_parser().parse_args(argv))
    except AppError as failure:
        print(f"foxpath: {failure}", file=sys.stderr)
        return EXIT_WRONG_USE if isinstance(failure, InputError) else EXIT_FOUND
    except KeyboardInterrupt:
        print("foxpath: stopped.", file=sys.stderr)
        return EXIT_FOUND
    except MemoryError:
        print("foxpath: there is not enough memory for this. Use a smaller picture or --width.", file=sys.stderr)
        return EXIT_FOUND
    except BrokenPipeError:
        # Who read what is printed has heard enough; nothing more can be said to them.
        sys.stdout = io.StringIO()
        return EXIT_FOUND
    except OSError as failure:
        print(
            f"foxpath: {failure.filename or 'a file'}: {(failure.strerror or str(failure)).lower()}.", file=sys.stderr
        )
        return EXIT_FOUND
    except SystemExit as leave:
        return leave.code if isinstance(leave.code, int) else EXIT_WRONG_USE


def _speak_anywhere() -> None:
    """Let a terminal that lacks some of our signs show a stand-in for them, and a file name that is no UTF-8 be named."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            with contextlib.suppress(ValueError, io.UnsupportedOperation):
                stream.reconfigure(errors="replace")


def open_window(args: argparse.Namespace) -> int:
    """Open the window on a file or a demo."""
    if args.file and args.demo:
        raise InputError("A file and --demo cannot be opened at once.", "Give one of them.")
    if args.demo:
        from foxpath.demo import demo_project

        demo_project(args.demo)
    if args.file and not Path(args.file).exists():
        raise InputError(f"There is no file and no command '{args.file}'.", f"Commands are {names()}.")
    # Qt itself would end the process without a word.
    if not any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        raise AppError(
            "There is no screen to open a window on.", f"Start it in a desktop, or use {names()}, which need none."
        )
    from foxpath.window import run

    return run(Path(args.file) if args.file else None, args.demo)
