"""`foxpath eye`."""

import argparse
import json
from pathlib import Path

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_opened
from foxpath.core.errors import AppError, InputError


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("image", metavar="IMAGE", help="a picture, or X.foxpath")
    parser.add_argument("--at", required=True, metavar="X,Y", help="a place in the pupil, in pixels")
    parser.add_argument(
        "--out", required=True, metavar="EYE.json",
        help="iris and pupil as cx, cy, rx, ry, deg; catchlight as [x, y] or null; sure, 0 to 1",
    )  # fmt: skip


def run(args: argparse.Namespace) -> int:
    """Find an eye from a place in its pupil."""
    from foxpath.core.eyes import PUPILS, clock, find_eye
    from foxpath.core.reference.light import hour_words
    from foxpath.core.units import percent
    from foxpath.document.convert import to_fields
    from foxpath.document.edits import eye_zone
    from foxpath.sheets.pictures import write_file

    at = _place(args.at)
    opened = read_opened(args.image)
    picture, size = opened.picture, opened.size
    zone = eye_zone(opened.project, at) if opened.project is not None else None
    opening = zone.shape.outline() if zone is not None else None
    if not (0 <= at[0] < size[0] and 0 <= at[1] < size[1]):
        raise InputError(f"--at {args.at} lies off the picture.", f"It is {size[0]} x {size[1]} pixels.")
    try:
        found = find_eye(picture.rgb, at, picture.scale, opening=opening)
    except InputError as failure:
        raise AppError(f"{args.image}, at {args.at}: {failure.message}", failure.hint) from None
    record = {
        "iris": to_fields(found.iris),
        "pupil": to_fields(found.pupil),
        "pupil_kind": found.pupil_kind,
        "catchlight": list(found.lights[0]) if found.lights else None,
        "catchlights": [list(spot) for spot in found.lights],
        "lids": {"upper": [list(p) for p in found.upper], "lower": [list(p) for p in found.lower]},
        "residual_px": round(found.residual_px, 3),
        "sure": round(found.sure, 3),
    }
    write_file(Path(args.out), (json.dumps(record, indent=1) + "\n").encode())
    light = (
        f"catchlight at {hour_words(clock(found.iris.centre, found.lights[0]))}" if found.lights else "no catchlight"
    )
    print(
        f"{args.out}: iris {2 * found.iris.radius:.0f} px across, pupil {PUPILS[found.pupil_kind]}, {light}, "
        f"{percent(found.sure)} sure"
    )
    return EXIT_DONE


def _place(text: str) -> tuple[float, float]:
    parts = text.replace(";", ",").split(",")
    try:
        x, y = (float(part) for part in parts)
    except ValueError:
        raise InputError(f"--at {text} is no place.", "Write x,y in pixels, e.g. --at 512,340.") from None
    return x, y
