"""Commands about a picture: a new project, its health, parts, eyes and growth."""

import argparse
import json
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import (
    made_folder,
    read_bytes,
    read_canvas,
    read_combs,
    read_json,
    read_parts,
    read_points,
    read_project,
)
from foxpath.core.errors import AppError, InputError
from foxpath.derive.pictures import working_picture


def new(args: argparse.Namespace) -> int:
    """Make a project from a picture."""
    from foxpath.core.reference import read_picture
    from foxpath.core.units import count_words
    from foxpath.document import archive, edits, paces

    canvas = read_canvas(args.canvas)
    out = Path(args.out)
    if out.exists() and not args.force:
        raise AppError(f"{out} is there already.", "Choose another name, or add --force.")
    data = read_bytes(args.image)
    read_picture(data, Path(args.image).name)
    project = edits.new_project(data, Path(args.image).name, canvas)
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


def inspect(args: argparse.Namespace) -> int:
    """Judge a picture, or a project's reference."""
    from foxpath.core.reference import picture_size
    from foxpath.core.units import CanvasSize
    from foxpath.demo import is_demo
    from foxpath.derive.reference.health_maps import inspect_into
    from foxpath.document import edits

    canvas = read_canvas(args.canvas) if args.canvas else None
    if is_demo(args.image) or args.image.lower().endswith(".foxpath"):
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


def zones(args: argparse.Namespace) -> int:
    """Find the outlines of parts from scribbles, or from the picture alone."""
    from foxpath.core.reference import picture_size, read_picture
    from foxpath.core.units import count_words, percent
    from foxpath.core.zones import cut_part
    from foxpath.demo import is_demo
    from foxpath.derive import Results
    from foxpath.sheets.pictures import write_file

    if bool(args.scribbles) == args.propose:
        raise InputError(
            "Give either --scribbles or --propose.", "Scribbles say which parts; --propose looks for them."
        )
    scribbles = _scribbles(args.scribbles) if args.scribbles else {}
    if is_demo(args.image) or args.image.lower().endswith(".foxpath"):
        project = read_project(args.image)
        rgb, size = working_picture(Results(), project).rgb, (project.reference.width, project.reference.height)
    else:
        data, name = read_bytes(args.image), Path(args.image).name
        rgb, size = read_picture(data, name).rgb, picture_size(data, name)
    found = _proposed(rgb, size) if args.propose else {}
    for name, (within, beyond) in scribbles.items():
        # What is inside another part is outside this one.
        others = [stroke for other, (inside, _) in scribbles.items() if other != name for stroke in inside]
        try:
            cut = cut_part(rgb, size, within, beyond, others=others)
        except AppError as failure:
            raise InputError(f"{args.scribbles}: {name}: {failure.message}", failure.hint) from None
        found[name] = [[round(float(x), 2), round(float(y), 2)] for x, y in cut.points]
        print(f"{name}: {count_words(len(cut.points), 'point')}, {percent(cut.shown_share)} of its border is shown")
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


def eye(args: argparse.Namespace) -> int:
    """Find an eye from a place in its pupil."""
    from foxpath.core.eyes import PUPILS, clock, find_eye
    from foxpath.core.reference import picture_size, read_picture
    from foxpath.core.reference.light import hour_words
    from foxpath.core.units import percent
    from foxpath.demo import is_demo
    from foxpath.derive import Results
    from foxpath.document.eye_edits import eye_zone
    from foxpath.document.feature_fields import ellipse_to_fields
    from foxpath.sheets.pictures import write_file

    at = _place(args.at)
    opening = None
    if is_demo(args.image) or args.image.lower().endswith(".foxpath"):
        project = read_project(args.image)
        picture, size = working_picture(Results(), project), (project.reference.width, project.reference.height)
        zone = eye_zone(project, at)
        opening = zone.shape.outline() if zone is not None else None
    else:
        data, name = read_bytes(args.image), Path(args.image).name
        picture, size = read_picture(data, name), picture_size(data, name)
    if not (0 <= at[0] < size[0] and 0 <= at[1] < size[1]):
        raise InputError(f"--at {args.at} lies off the picture.", f"It is {size[0]} x {size[1]} pixels.")
    try:
        found = find_eye(picture.rgb, at, picture.scale, opening=opening)
    except InputError as failure:
        raise AppError(f"{args.image}, at {args.at}: {failure.message}", failure.hint) from None
    record = {
        "iris": ellipse_to_fields(found.iris),
        "pupil": ellipse_to_fields(found.pupil),
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


def growth(args: argparse.Namespace) -> int:
    """Fill in the growth of a part, or of a project."""
    import numpy as np

    from foxpath.demo import is_demo
    from foxpath.derive import Results
    from foxpath.derive.growth.files import growth_of_project, write_combs, write_growth

    if is_demo(args.image) or args.image.lower().endswith(".foxpath"):
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
