"""`foxpath new`."""

import argparse
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_bytes, read_canvas, read_combs, read_json, read_parts, read_points
from foxpath.core.errors import AppError


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("image", metavar="IMAGE", help="JPEG, PNG, TIFF, WebP or HEIC")
    parser.add_argument("--canvas", required=True, help="size of the painting, width x height, e.g. 40x50cm or 16x20in")
    parser.add_argument("--out", required=True, metavar="X.foxpath", help="the project to write")
    parser.add_argument("--outline", metavar="O.json", help="outline of the animal: [[x, y], ...] in pixels")
    parser.add_argument("--zones", metavar="Z.json", help='parts, back to front: {"name": [[x, y], ...], ...}')
    parser.add_argument("--combs", metavar="C.json", help="combs, each root to tip: [[[x, y], ...], ...]")
    parser.add_argument("--kit", metavar="K.json", help="paint with the brushes of this file, instead of your kept kit")
    parser.add_argument("--force", action="store_true", help="overwrite the project if it is there already")


def run(args: argparse.Namespace) -> int:
    """Make a project from a picture."""
    from foxpath.core.reference import read_picture
    from foxpath.core.units import count_words
    from foxpath.document import archive, edits, kits, own, paces

    canvas = read_canvas(args.canvas)
    out = Path(args.out)
    if out.exists() and not args.force:
        raise AppError(f"{out} is there already.", "Choose another name, or add --force.")
    data = read_bytes(args.image)
    read_picture(data, Path(args.image).name)
    project = edits.new_project(data, Path(args.image).name, canvas)
    project = own.with_own(project)
    if args.kit:
        project = edits.take_kit(project, kits.read_kit(Path(args.kit)))
    try:
        project = replace(project, earlier=paces.earlier())
    except AppError as failure:
        # It is begun at the usual pace all the same.
        print(f"foxpath: {failure}", file=sys.stderr)
    if args.outline:
        outline = read_points(read_json(args.outline), 3, "the outline", args.outline)
        project, _ = edits.add_zone(project, "Animal", "short-fur", _thinned(outline))
    for name, points in read_parts(args.zones).items() if args.zones else ():
        project, _ = edits.add_zone(project, name[:120], "short-fur", _thinned(points))
    if args.combs:
        for stroke in read_combs(args.combs):
            project, _ = edits.add_comb(project, stroke)
    archive.save(project, out)
    print(
        f"{out}: {project.canvas.words()}, {project.mm_per_px:.3f} mm a pixel, "
        f"{count_words(len(project.zones), 'zone')}, {count_words(len(project.combs), 'comb')}"
    )
    return EXIT_DONE


def _thinned(outline: Any) -> Any:
    """Keep at most 200 points of an outline, spaced along it, so that it stays easy to edit."""
    import numpy as np

    from foxpath.core.curves import resample

    if len(outline) <= 200:
        return outline
    return resample(np.vstack([outline, outline[:1]]), 201)[:-1]
