"""`foxpath inspect`."""

import argparse
from pathlib import Path

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import is_project, made_folder, read_bytes, read_canvas, read_project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("image", metavar="IMAGE", help="JPEG, PNG, TIFF, WebP or HEIC; or X.foxpath")
    parser.add_argument("--canvas", help="size of the painting, e.g. 40x50cm; lengths are given on it")
    parser.add_argument("--out", required=True, metavar="DIR")


def run(args: argparse.Namespace) -> int:
    """Judge a picture, or a project's reference."""
    from foxpath.core.reference import picture_size
    from foxpath.core.units import CanvasSize
    from foxpath.derive.reference.health_maps import inspect_into
    from foxpath.document import edits

    canvas = read_canvas(args.canvas) if args.canvas else None
    if is_project(args.image):
        project = read_project(args.image)
        project = edits.set_canvas(project, canvas) if canvas else project
    else:
        data, name = read_bytes(args.image), Path(args.image).name
        width, height = picture_size(data, name)
        usual = CanvasSize(500, 400) if width >= height else CanvasSize(400, 500)
        project = edits.new_project(data, name, canvas or usual)
    folder = made_folder(args.out)
    found = inspect_into(project, folder)
    signs = {"must": "must be mended", "look": "look here", "note": "note"}
    for one in found.useful():
        print(f"{signs[one.level]}: {one.says} ({one.why})")
    if not found.useful():
        print("nothing to mend")
    print(f"{folder / 'health.json'}: {project.canvas.words()}, {project.mm_per_px:.3f} mm a pixel, 6 maps")
    return EXIT_DONE
