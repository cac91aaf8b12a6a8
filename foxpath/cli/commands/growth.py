"""`foxpath growth`."""

import argparse
from pathlib import Path
from typing import Any

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import is_project, read_bytes, read_combs, read_json, read_parts, read_points, read_project
from foxpath.core.errors import InputError


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("image", metavar="IMAGE", help="a picture with --outline and --combs, or X.foxpath")
    parser.add_argument("--outline", metavar="O.json", help="[[x, y], ...] in pixels")
    parser.add_argument("--combs", metavar="C.json", help="[[[x, y], ...], ...] root to tip; may be []")
    parser.add_argument(
        "--out",
        required=True,
        metavar="FIELD.npz",
        help="angle_deg and sure, both (H, W) float32; .png writes two pictures",
    )
    parser.add_argument(
        "--zones", metavar="Z.json", help='parts inside the outline with borders of their own: {"name": [[x, y], ...]}'
    )
    parser.add_argument("--length", type=float, metavar="PX", help="length of the hair in pixels, when it is known")
    parser.add_argument("--combs-out", metavar="C", help="write a project's combs too, as .json or .svg")


def run(args: argparse.Namespace) -> int:
    """Fill in the growth of a part, or of a project."""
    import numpy as np

    from foxpath.derive import Results
    from foxpath.derive.growth.files import growth_of_project, write_combs, write_growth

    if is_project(args.image):
        project = read_project(args.image)
        solved, count = growth_of_project(Results(), project), len(project.combs)
        if args.combs_out:
            write_combs(project, Path(args.combs_out))
    else:
        if not args.outline or not args.combs:
            raise InputError("A picture needs --outline and --combs.", "A project brings its own.")
        solved, count = _growth_of_picture(args)
    inside = np.isfinite(solved.angle_deg)
    if not inside.any():
        raise InputError(f"{args.outline or args.image}: nothing with hair lies on the picture.", "Check its outline.")
    written = write_growth(solved, Path(args.out))
    _say_growth(solved, count, inside, written)
    return EXIT_DONE


def _growth_of_picture(args: argparse.Namespace) -> tuple[Any, int]:
    import numpy as np

    from foxpath.core.frame import Crop, Frame
    from foxpath.core.reference import picture_size, read_picture
    from foxpath.derive.growth.files import growth_of_picture

    data, name = read_bytes(args.image), Path(args.image).name
    width, height = picture_size(data, name)
    outline = read_points(read_json(args.outline), 3, "the outline", args.outline)
    combs = read_combs(args.combs)
    parts = read_parts(args.zones) if args.zones else {}
    if args.length is not None and not 1 <= args.length <= 5000:
        raise InputError(f"--length {args.length:g} is out of range.", "Give the hair's length, 1 to 5000 pixels.")
    frame = Frame.over(Crop(0, 0, width, height), 1.0, min(512, max(width, height)))
    rgb = read_picture(data, name).rgb
    solved = growth_of_picture(outline, parts, combs, frame, rgb, args.length or 0.0)
    if not np.isfinite(solved.angle_deg).any():
        raise InputError(f"{args.outline}: the outline encloses no pixel of the picture.", "Check its coordinates.")
    return solved, len(combs)


def _say_growth(solved: Any, count: int, inside: Any, written: list[Path]) -> None:
    from foxpath.core.growth import SURE_ENOUGH
    from foxpath.core.units import count_words, percent

    share = float((solved.sure[inside] >= SURE_ENOUGH).mean())
    names = ", ".join(str(one) for one in written)
    print(
        f"{names}: {int(inside.sum())} pixels, {solved.cells} cells, {count_words(count, 'comb')}, {percent(share)} sure"
    )
    for one in solved.singular:
        print(f"at {one.at[0]:.0f}, {one.at[1]:.0f}: {one.words()}")
    for number, angle in solved.against:
        print(f"look here: the picture speaks against comb {number} by {angle:.0f}°")
