"""What can be written on the command line."""

import argparse
from typing import NoReturn

from foxpath import __version__

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
        epilog="Commands: new, inspect, zones, growth, eye, plan, rehearse, compare, painted, check. Each has its own --help. "
        "Where a command reads X.foxpath, demo:fox and demo:jay name the demos.",
    )
    parser.add_argument("file", nargs="?", metavar="FILE", help="a .foxpath project or a picture to open in the window")
    parser.add_argument(
        "--demo", nargs="?", const="fox", metavar="NAME", help="open the window on demo data (fox, jay)"
    )
    parser.add_argument("--version", action="version", version=f"foxpath {__version__}")
    return parser


def command_parsers() -> dict[str, argparse.ArgumentParser]:
    """Return the commands' parsers by their name."""
    new = Parser(prog="foxpath new", description="Make a project from a picture.")
    new.add_argument("image", metavar="IMAGE", help="JPEG, PNG, TIFF, WebP or HEIC")
    new.add_argument("--canvas", required=True, help="size of the painting, width x height, e.g. 40x50cm or 16x20in")
    new.add_argument("--out", required=True, metavar="X.foxpath", help="the project to write")
    new.add_argument("--outline", metavar="O.json", help="outline of the animal: [[x, y], ...] in pixels")
    new.add_argument("--zones", metavar="Z.json", help='parts, back to front: {"name": [[x, y], ...], ...}')
    new.add_argument("--combs", metavar="C.json", help="combs, each root to tip: [[[x, y], ...], ...]")
    new.add_argument("--force", action="store_true", help="overwrite the project if it is there already")

    inspect = Parser(
        prog="foxpath inspect", description="Judge a picture: health maps as PNG, numbers and remedies as health.json."
    )
    inspect.add_argument("image", metavar="IMAGE", help="JPEG, PNG, TIFF, WebP or HEIC; or X.foxpath")
    inspect.add_argument("--canvas", help="size of the painting, e.g. 40x50cm; lengths are given on it")
    inspect.add_argument("--out", required=True, metavar="DIR")

    growth = Parser(prog="foxpath growth", description="Fill in the growth of an outlined part from picture and combs.")
    growth.add_argument("image", metavar="IMAGE", help="a picture with --outline and --combs, or X.foxpath")
    growth.add_argument("--outline", metavar="O.json", help="[[x, y], ...] in pixels")
    growth.add_argument("--combs", metavar="C.json", help="[[[x, y], ...], ...] root to tip; may be []")
    growth.add_argument(
        "--out",
        required=True,
        metavar="FIELD.npz",
        help="angle_deg and sure, both (H, W) float32; .png writes two pictures",
    )
    growth.add_argument(
        "--zones", metavar="Z.json", help='parts inside the outline with borders of their own: {"name": [[x, y], ...]}'
    )
    growth.add_argument("--length", type=float, metavar="PX", help="length of the hair in pixels, when it is known")
    growth.add_argument("--combs-out", metavar="C", help="write a project's combs too, as .json or .svg")

    zones = Parser(
        prog="foxpath zones",
        description="Find the outline of parts from scribbles inside and outside them, or from the picture alone.",
    )
    zones.add_argument("image", metavar="IMAGE", help="a picture, or X.foxpath")
    zones.add_argument("--propose", action="store_true", help="propose parts from the picture alone")
    zones.add_argument(
        "--scribbles", metavar="S.json",
        help='{"name": {"inside": [[x, y], ...], "outside": [[x, y], ...]}, ...}; a side may be a list of strokes',
    )  # fmt: skip
    zones.add_argument(
        "--out", required=True, metavar="Z.json", help='{"name": [[x, y], ...], ...}, for new and growth --zones'
    )

    eye = Parser(prog="foxpath eye", description="Find an eye from one place in its pupil: iris, pupil, catchlight.")
    eye.add_argument("image", metavar="IMAGE", help="a picture, or X.foxpath")
    eye.add_argument("--at", required=True, metavar="X,Y", help="a place in the pupil, in pixels")
    eye.add_argument(
        "--out", required=True, metavar="EYE.json",
        help="iris and pupil as cx, cy, rx, ry, deg; catchlight as [x, y] or null; sure, 0 to 1",
    )  # fmt: skip

    plan = Parser(prog="foxpath plan", description="Write every sheet, and plan.json with all numbers.")
    plan.add_argument("project", metavar="X.foxpath")
    plan.add_argument("--out", required=True, metavar="DIR")
    plan.add_argument("--paper", choices=("A4", "Letter"), default="A4")
    plan.add_argument("--school", metavar="KEY", help="follow this school or recipe.json, without changing the project")
    _add_settings(plan)
    plan.add_argument("--width", type=int, default=1400, metavar="PX", help="width of the pass pictures (200 to 8000)")

    rehearse = Parser(prog="foxpath rehearse", description="Draw the painting as it stands after each pass.")
    rehearse.add_argument("project", metavar="X.foxpath")
    rehearse.add_argument("--out", required=True, metavar="DIR")
    rehearse.add_argument("--width", type=int, default=1600, metavar="PX", help="200 to 8000")
    rehearse.add_argument("--passes", metavar="1,2", help="write only these passes; earlier ones are painted beneath")
    rehearse.add_argument("--layers", metavar="X.ora", help="write OpenRaster too, one layer a pass")
    rehearse.add_argument("--film", metavar="X.webp", help="write the build-up too, as animated .webp or .gif")
    rehearse.add_argument(
        "--school", metavar="KEY", help="follow this school or recipe.json, without changing the project"
    )
    _add_settings(rehearse)
    rehearse.add_argument("--seed", type=int, metavar="N", help="another arrangement of the marks")

    compare = Parser(prog="foxpath compare", description="Rehearse a painting in several schools, side by side.")
    compare.add_argument("project", metavar="X.foxpath")
    compare.add_argument("schools", nargs="+", metavar="KEY", help="two or more schools")
    compare.add_argument("--out", required=True, metavar="DIR")
    _add_settings(compare)
    compare.add_argument("--width", type=int, default=900, metavar="PX", help="width of each picture (200 to 8000)")

    painted = Parser(prog="foxpath painted", description="Note what a pass took; later estimates learn from it.")
    painted.add_argument("project", metavar="X.foxpath")
    painted.add_argument("role", metavar="PASS", help="its number in the plan, or its key")
    painted.add_argument("minutes", type=float, metavar="MINUTES")
    painted.add_argument("--day", default="", metavar="2026-03-21", help="the day it was painted")

    check = Parser(prog="foxpath check", description="List findings; exit status 1 if any must be mended.")
    check.add_argument("project", metavar="X.foxpath")
    return {
        "new": new,
        "inspect": inspect,
        "zones": zones,
        "growth": growth,
        "eye": eye,
        "plan": plan,
        "rehearse": rehearse,
        "compare": compare,
        "painted": painted,
        "check": check,
    }


def _add_settings(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--set", action="append", default=[], metavar="SETTING=SIDE", dest="ways",
        help="take a side where painters disagree, e.g. first=eyes, range=middle, finish=loose; may be repeated",
    )  # fmt: skip
