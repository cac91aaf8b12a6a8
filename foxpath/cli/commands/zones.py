"""`foxpath zones`."""

import argparse
import json
from pathlib import Path
from typing import Any

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_json, read_opened, read_points
from foxpath.core.errors import AppError, InputError


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("image", metavar="IMAGE", help="a picture, or X.foxpath")
    parser.add_argument("--propose", action="store_true", help="propose parts from the picture alone")
    parser.add_argument(
        "--scribbles", metavar="S.json",
        help='{"name": {"inside": [[x, y], ...], "outside": [[x, y], ...]}, ...}; a side may be a list of strokes',
    )  # fmt: skip
    parser.add_argument(
        "--out", required=True, metavar="Z.json", help='{"name": [[x, y], ...], ...}, for new and growth --zones'
    )


def _strokes(value: object, what: str, path: str) -> list[Any]:
    """Read one stroke, or a list of strokes."""
    if isinstance(value, list) and value and isinstance(value[0], list) and value[0] and isinstance(value[0][0], list):
        return [read_points(stroke, 1, f"{what}, stroke {k}", path) for k, stroke in enumerate(value, 1)]
    return [read_points(value, 1, what, path)]


def _scribbles(path: str) -> dict[str, tuple[list[Any], list[Any]]]:
    value, form = read_json(path), 'Write {"name": {"inside": [[x, y], ...], "outside": [[x, y], ...]}, ...}.'
    if not isinstance(value, dict) or not value:
        raise InputError(f"{path}: scribbles must be an object with one entry for each part.", form)
    read = {}
    for name, sides in value.items():
        if not isinstance(sides, dict) or "inside" not in sides or set(sides) - {"inside", "outside"}:
            raise InputError(f"{path}: '{name}' needs an inside, and may have an outside.", form)
        beyond = _strokes(sides["outside"], f"the outside of '{name}'", path) if sides.get("outside") else []
        read[name] = (_strokes(sides["inside"], f"the inside of '{name}'", path), beyond)
    return read


def run(args: argparse.Namespace) -> int:
    """Find the outlines of parts from scribbles, or from the picture alone."""
    from foxpath.core.units import count_words, percent
    from foxpath.core.zones import cut_part
    from foxpath.sheets.pictures import write_file

    if bool(args.scribbles) == args.propose:
        raise InputError(
            "Give either --scribbles or --propose.", "Scribbles say which parts; --propose looks for them."
        )
    scribbles = _scribbles(args.scribbles) if args.scribbles else {}
    opened = read_opened(args.image)
    rgb, size = opened.picture.rgb, opened.size
    found = _proposed(rgb, size) if args.propose else {}
    for name, (within, beyond) in scribbles.items():
        # What is inside another part is outside this one.
        others = [stroke for other, (inside, _) in scribbles.items() if other != name for stroke in inside]
        try:
            cut = cut_part(rgb, size, within, beyond, others=others)
        except AppError as failure:
            raise InputError(f"{args.scribbles}: {name}: {failure.message}", failure.hint) from None
        found[name] = [[round(float(x), 2), round(float(y), 2)] for x, y in cut.points]
        doubt = ""
        if cut.asks is not None:
            x, y = cut.asks
            doubt = f"; most in doubt at {x:.0f}, {y:.0f} px: one more stroke there, inside or outside, tells most"
        print(
            f"{name}: {count_words(len(cut.points), 'point')}, {percent(cut.shown_share)} of its border is shown{doubt}"
        )
    write_file(Path(args.out), (json.dumps(found, indent=1, ensure_ascii=False) + "\n").encode())
    print(f"{args.out}: {count_words(len(found), 'part')}")
    return EXIT_DONE


def _proposed(rgb: Any, size: tuple[float, float]) -> dict[str, list[list[float]]]:
    """Propose parts of a whole picture, back to front."""
    from foxpath.core.frame import Crop
    from foxpath.core.units import count_words, percent
    from foxpath.core.zones import propose_parts

    found = {}
    for number, part in enumerate(propose_parts(rgb, Crop(0, 0, *size)), 1):
        found[f"Part {number}"] = [[round(float(x), 2), round(float(y), 2)] for x, y in part.points]
        print(f"Part {number}: {count_words(len(part.points), 'point')}, {percent(part.share)} of the picture")
    if not found:
        raise AppError("No part stands out in this picture.", "Scribble in the parts instead.")
    return found
