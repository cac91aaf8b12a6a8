"""`foxpath eye`."""

import argparse
import json
import math
from pathlib import Path

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_opened
from foxpath.core.errors import AppError, InputError


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("image", metavar="IMAGE", help="a picture, or X.foxpath")
    parser.add_argument("--at", required=True, metavar="X,Y", help="a place in the pupil, in pixels")
    parser.add_argument(
        "--radius", type=_radius, default=0.0, metavar="PX", help="about its radius in pixels, when it is known"
    )
    parser.add_argument(
        "--out", required=True, metavar="EYE.json",
        help="iris and pupil as cx, cy, rx, ry, deg; catchlight as [x, y] or null; sure, 0 to 1",
    )  # fmt: skip


def run(args: argparse.Namespace) -> int:
    """Find an eye from a place in its pupil."""
    from foxpath.core.eyes import PUPILS, Extent, clock, doubts, find_eye
    from foxpath.core.reference.light import hour_words
    from foxpath.core.units import mm_words, percent
    from foxpath.derive.eyes.reading import extent_of
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
    project = opened.project
    others = [one.iris for one in project.eyes if math.dist(one.iris.centre, at) > one.iris.radius] if project else []
    radii = [one.radius for one in others]
    try:
        found = find_eye(picture.rgb, at, picture.scale, args.radius, opening=opening, others=radii)
    except InputError as failure:
        raise AppError(f"{args.image}, at {args.at}: {failure.message}", failure.hint) from None
    extent = extent_of(project) if project is not None else Extent.of_picture(min(size))

    def words(px: float) -> str:
        return mm_words(px * project.mm_per_px) if project is not None else f"{px:.0f} px"

    rivals = [sure for _, sure in found.others]
    asked = doubts(found.iris, found.sure, others, extent, words, rivals=rivals) if not args.radius else ()
    record = {
        "iris": to_fields(found.iris),
        "pupil": to_fields(found.pupil),
        "pupil_kind": found.pupil_kind,
        "catchlight": list(found.lights[0]) if found.lights else None,
        "catchlights": [list(spot) for spot in found.lights],
        "lids": {"upper": [list(p) for p in found.upper], "lower": [list(p) for p in found.lower]},
        "residual_px": round(found.residual_px, 3),
        "sure": round(found.sure, 3),
        "doubts": list(asked),
        "others": [{"iris": to_fields(iris), "sure": sure} for iris, sure in found.others],
    }
    write_file(Path(args.out), (json.dumps(record, indent=1) + "\n").encode())
    light = (
        f"catchlight at {hour_words(clock(found.iris.centre, found.lights[0]))}" if found.lights else "no catchlight"
    )
    print(
        f"{args.out}: iris {2 * found.iris.radius:.0f} px across, pupil {PUPILS[found.pupil_kind]}, {light}, "
        f"{percent(found.sure)} sure"
    )
    for doubt in asked:
        print(f"  look again: {doubt}")
    if asked:
        sizes = ", ".join(f"--radius {iris.radius:.0f} ({percent(sure)} sure)" for iris, sure in found.others)
        print(f"  {f'it may also be {sizes}' if sizes else 'say its size with --radius PX'}")
    return EXIT_DONE


def _radius(text: str) -> float:
    try:
        radius = float(text)
    except ValueError:
        radius = math.nan
    if not 1 <= radius <= 1e5:
        raise argparse.ArgumentTypeError(f"{text} is no radius: write pixels, e.g. 14")
    return radius


def _place(text: str) -> tuple[float, float]:
    parts = text.replace(";", ",").split(",")
    try:
        x, y = (float(part) for part in parts)
    except ValueError:
        raise InputError(f"--at {text} is no place.", "Write x,y in pixels, e.g. --at 512,340.") from None
    return x, y
