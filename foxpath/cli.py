"""The command line. Everything but the window runs headless and without Qt."""

import argparse
import json
import sys
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any, NoReturn

from foxpath import __version__
from foxpath.core.errors import AppError, InputError

EXIT_DONE, EXIT_FOUND, EXIT_WRONG_USE = 0, 1, 2


class _Parser(argparse.ArgumentParser):
    """An argument parser whose errors are one line that says what to do."""

    def error(self, message: str) -> NoReturn:
        self.exit(EXIT_WRONG_USE, f"{self.prog}: {message}. See {self.prog} --help.\n")


def _build_parser() -> argparse.ArgumentParser:
    parser = _Parser(
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


def _command_parsers() -> dict[str, argparse.ArgumentParser]:
    new = _Parser(prog="foxpath new", description="Make a project from a picture.")
    new.add_argument("image", metavar="IMAGE", help="JPEG, PNG, TIFF, WebP or HEIC")
    new.add_argument("--canvas", required=True, help="size of the painting, width x height, e.g. 40x50cm or 16x20in")
    new.add_argument("--out", required=True, metavar="X.foxpath", help="the project to write")
    new.add_argument("--outline", metavar="O.json", help="outline of the animal: [[x, y], ...] in pixels")
    new.add_argument("--zones", metavar="Z.json", help='parts, back to front: {"name": [[x, y], ...], ...}')
    new.add_argument("--combs", metavar="C.json", help="combs, each root to tip: [[[x, y], ...], ...]")
    new.add_argument("--force", action="store_true", help="overwrite the project if it is there already")

    inspect = _Parser(
        prog="foxpath inspect", description="Judge a picture: health maps as PNG, numbers and remedies as health.json."
    )
    inspect.add_argument("image", metavar="IMAGE", help="JPEG, PNG, TIFF, WebP or HEIC; or X.foxpath")
    inspect.add_argument("--canvas", help="size of the painting, e.g. 40x50cm; lengths are given on it")
    inspect.add_argument("--out", required=True, metavar="DIR")

    growth = _Parser(
        prog="foxpath growth", description="Fill in the growth of an outlined part from picture and combs."
    )
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

    zones = _Parser(
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

    eye = _Parser(prog="foxpath eye", description="Find an eye from one place in its pupil: iris, pupil, catchlight.")
    eye.add_argument("image", metavar="IMAGE", help="a picture, or X.foxpath")
    eye.add_argument("--at", required=True, metavar="X,Y", help="a place in the pupil, in pixels")
    eye.add_argument(
        "--out", required=True, metavar="EYE.json",
        help="iris and pupil as cx, cy, rx, ry, deg; catchlight as [x, y] or null; sure, 0 to 1",
    )  # fmt: skip

    plan = _Parser(prog="foxpath plan", description="Write every sheet, and plan.json with all numbers.")
    plan.add_argument("project", metavar="X.foxpath")
    plan.add_argument("--out", required=True, metavar="DIR")
    plan.add_argument("--paper", choices=("A4", "Letter"), default="A4")
    plan.add_argument("--school", metavar="KEY", help="follow this school or recipe.json, without changing the project")
    _add_settings(plan)
    plan.add_argument("--width", type=int, default=1400, metavar="PX", help="width of the pass pictures (200 to 8000)")

    rehearse = _Parser(prog="foxpath rehearse", description="Draw the painting as it stands after each pass.")
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

    compare = _Parser(prog="foxpath compare", description="Rehearse a painting in several schools, side by side.")
    compare.add_argument("project", metavar="X.foxpath")
    compare.add_argument("schools", nargs="+", metavar="KEY", help="two or more schools")
    compare.add_argument("--out", required=True, metavar="DIR")
    _add_settings(compare)
    compare.add_argument("--width", type=int, default=900, metavar="PX", help="width of each picture (200 to 8000)")

    painted = _Parser(prog="foxpath painted", description="Note what a pass took; later estimates learn from it.")
    painted.add_argument("project", metavar="X.foxpath")
    painted.add_argument("role", metavar="PASS", help="its number in the plan, or its key")
    painted.add_argument("minutes", type=float, metavar="MINUTES")
    painted.add_argument("--day", default="", metavar="2026-03-21", help="the day it was painted")

    check = _Parser(prog="foxpath check", description="List findings; exit status 1 if any must be mended.")
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
    commands = _command_parsers()
    try:
        if argv and argv[0] in commands:
            args = commands[argv[0]].parse_args(argv[1:])
            run = {
                "new": _new, "inspect": _inspect, "zones": _zones, "growth": _growth, "eye": _eye, "plan": _plan, "rehearse": _rehearse,
                "compare": _compare, "painted": _painted, "check": _check,
            }  # fmt: skip
            return run[argv[0]](args)
        args = _build_parser().parse_args(argv)
        return _window(args)
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


# Reading input ------------------------------------------------------------------------------------


def _bytes(path: str) -> bytes:
    try:
        return Path(path).read_bytes()
    except OSError as failure:
        reason = (failure.strerror or str(failure)).lower()
        raise AppError(f"{path} could not be read: {reason}.", "Check the name.") from None


def _json(path: str) -> Any:
    try:
        return json.loads(_bytes(path).decode("utf-8"))
    except (ValueError, RecursionError):
        raise InputError(f"{path} is not JSON.", "Write lists of [x, y] pixel coordinates.") from None


def _points(value: object, least: int, what: str, path: str) -> Any:
    from foxpath.core.arrays import as_points

    try:
        return as_points(value, least=least, what=what)
    except ValueError as failure:
        raise InputError(f"{path}: {failure}.") from None


def _combs(path: str) -> list[Any]:
    value = _json(path)
    if not isinstance(value, list):
        raise InputError(f"{path}: combs must be a list of strokes.", "Write [[[x, y], ...], ...], each root to tip.")
    return [_points(stroke, 2, f"comb {k}", path) for k, stroke in enumerate(value, 1)]


def _parts(path: str) -> dict[str, Any]:
    value = _json(path)
    if not isinstance(value, dict):
        raise InputError(f"{path}: zones must be an object.", 'Write {"name": [[x, y], ...], ...}.')
    return {str(name): _points(points, 3, f"zone '{name}'", path) for name, points in value.items()}


def _project(path: str) -> Any:
    from foxpath.demo import demo_project, is_demo
    from foxpath.document import archive

    if is_demo(path):
        return demo_project(path.removeprefix("demo:"))
    return archive.load(Path(path))


def _folder(path: str) -> Path:
    folder = Path(path)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as failure:
        raise AppError(
            f"{path} cannot be made: {(failure.strerror or '').lower()}.", "Choose another folder."
        ) from None
    return folder


def _width(value: int) -> int:
    if not 200 <= value <= 8000:
        raise InputError(f"--width {value} is out of range.", "Give 200 to 8000 pixels.")
    return value


def _canvas(text: str) -> Any:
    from foxpath.core.units import parse_size

    try:
        return parse_size(text)
    except AppError as failure:
        raise InputError(f"--canvas: {failure.message}", failure.hint) from None


# Commands -----------------------------------------------------------------------------------------


def _new(args: argparse.Namespace) -> int:
    from foxpath.core.reference import read_picture
    from foxpath.core.units import count_words
    from foxpath.document import archive, edits, paces

    canvas = _canvas(args.canvas)
    out = Path(args.out)
    if out.exists() and not args.force:
        raise AppError(f"{out} is there already.", "Choose another name, or add --force.")
    data = _bytes(args.image)
    read_picture(data, Path(args.image).name)
    project = edits.new_project(data, Path(args.image).name, canvas)
    try:
        project = replace(project, earlier=paces.earlier())
    except AppError as failure:
        # It is begun at the usual pace all the same.
        print(f"foxpath: {failure}", file=sys.stderr)
    if args.outline:
        outline = _points(_json(args.outline), 3, "the outline", args.outline)
        project, _ = edits.add_zone(project, "Animal", "short-fur", _thinned(outline))
    for name, points in _parts(args.zones).items() if args.zones else ():
        project, _ = edits.add_zone(project, name[:120], "short-fur", _thinned(points))
    if args.combs:
        for stroke in _combs(args.combs):
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


def _inspect(args: argparse.Namespace) -> int:
    from foxpath.core.reference import picture_size
    from foxpath.core.units import CanvasSize
    from foxpath.demo import is_demo
    from foxpath.derive.inspect_command import inspect_into
    from foxpath.document import edits

    canvas = _canvas(args.canvas) if args.canvas else None
    if is_demo(args.image) or args.image.lower().endswith(".foxpath"):
        project = _project(args.image)
        project = edits.set_canvas(project, canvas) if canvas else project
    else:
        data, name = _bytes(args.image), Path(args.image).name
        width, height = picture_size(data, name)
        usual = CanvasSize(500, 400) if width >= height else CanvasSize(400, 500)
        project = edits.new_project(data, name, canvas or usual)
    folder = _folder(args.out)
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
        return [_points(stroke, 1, f"{what}, stroke {k}", path) for k, stroke in enumerate(value, 1)]
    return [_points(value, 1, what, path)]


def _scribbles(path: str) -> dict[str, tuple[list[Any], list[Any]]]:
    value, form = _json(path), 'Write {"name": {"inside": [[x, y], ...], "outside": [[x, y], ...]}, ...}.'
    if not isinstance(value, dict) or not value:
        raise InputError(f"{path}: scribbles must be an object with one entry for each part.", form)
    read = {}
    for name, sides in value.items():
        if not isinstance(sides, dict) or "inside" not in sides or set(sides) - {"inside", "outside"}:
            raise InputError(f"{path}: '{name}' needs an inside, and may have an outside.", form)
        beyond = _strokes(sides["outside"], f"the outside of '{name}'", path) if sides.get("outside") else []
        read[name] = (_strokes(sides["inside"], f"the inside of '{name}'", path), beyond)
    return read


def _zones(args: argparse.Namespace) -> int:
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
        project = _project(args.image)
        rgb, size = Results().working(project).rgb, (project.reference.width, project.reference.height)
    else:
        data, name = _bytes(args.image), Path(args.image).name
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


def _eye(args: argparse.Namespace) -> int:
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
        project = _project(args.image)
        picture, size = Results().working(project), (project.reference.width, project.reference.height)
        zone = eye_zone(project, at)
        opening = zone.shape.outline() if zone is not None else None
    else:
        data, name = _bytes(args.image), Path(args.image).name
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


def _growth(args: argparse.Namespace) -> int:
    import numpy as np

    from foxpath.demo import is_demo
    from foxpath.derive import Results
    from foxpath.derive.growth_command import growth_of_project, write_combs, write_growth

    if is_demo(args.image) or args.image.lower().endswith(".foxpath"):
        project = _project(args.image)
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
    from foxpath.derive.growth_command import growth_of_picture

    data, name = _bytes(args.image), Path(args.image).name
    width, height = picture_size(data, name)
    outline = _points(_json(args.outline), 3, "the outline", args.outline)
    combs = _combs(args.combs)
    parts = _parts(args.zones) if args.zones else {}
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


def _plan(args: argparse.Namespace) -> int:
    from foxpath.core.progress import SILENT
    from foxpath.derive import Results
    from foxpath.derive.handout import make_book, plan_record
    from foxpath.derive.maps import WriteMap
    from foxpath.derive.rehearsal import rehearse
    from foxpath.sheets import write_book
    from foxpath.sheets.pictures import write_file

    project, width = _bent(_following(_project(args.project), args.school), args.ways), _width(args.width)
    folder = _folder(args.out)
    results = Results()
    rehearsed = rehearse(results, project, width)
    pages = write_book(make_book(results, project, rehearsed), folder / "plan.pdf", args.paper)
    WriteMap(results, project, folder / "map.svg")(SILENT)
    record = plan_record(results, project, rehearsed)
    write_file(folder / "plan.json", (json.dumps(record, indent=1, ensure_ascii=False) + "\n").encode())
    print(
        f"{folder / 'plan.pdf'}: {pages} pages; {folder / 'map.svg'}: the map in mm; {folder / 'plan.json'}: "
        f"{len(rehearsed)} passes"
    )
    return EXIT_DONE


def _following(project: Any, school: str | None) -> Any:
    """Return a project that follows a school by key, or the first recipe of a file."""
    from foxpath.core.passes.schools import schools_from_record
    from foxpath.document import edits

    if school is None:
        return project
    if not school.lower().endswith(".json"):
        return edits.set_school(project, school)
    found = schools_from_record(_json(school), school)
    if not found:
        raise InputError(f"{school} holds no school.", "Save a recipe from the Passes stop to see the form.")
    return edits.take_school(project, found[0])


def _bent(project: Any, ways: Sequence[str]) -> Any:
    """Return a project with sides taken as ``setting=side``."""
    from foxpath.document import edits

    for text in ways:
        key, sign, side = text.partition("=")
        if not sign:
            raise InputError(f"--set {text} takes no side.", "Write it as setting=side, e.g. first=eyes.")
        project = edits.set_way(project, key, side)
    return project


def _compare(args: argparse.Namespace) -> int:
    from foxpath.core.units import duration_words
    from foxpath.derive.compare_command import compare_into

    keys = list(dict.fromkeys(args.schools))
    if len(keys) < 2:
        raise InputError("One school is nothing to compare.", "Name two or more.")
    project, width = _bent(_project(args.project), args.ways), _width(args.width)
    folder = _folder(args.out)
    for one in compare_into(project, keys, width, folder):
        print(
            f"{one.name}: {one.passes} passes, {one.waits} waits for drying, {one.marks} marks, {duration_words(one.minutes)}; "
            f"mean difference {one.mean_difference:.1f}, at most {one.worst_difference:.1f}"
        )
    print(f"{folder / 'side-by-side.png'}: {len(keys)} schools")
    return EXIT_DONE


def _painted(args: argparse.Namespace) -> int:
    from foxpath.core.units import duration_words
    from foxpath.demo import is_demo
    from foxpath.derive import Results
    from foxpath.document import archive, edits, paces

    if is_demo(args.project):
        raise InputError("The demo cannot be written to.", "Save it as a project first.")
    project = _project(args.project)
    plans = Results().passes(project)
    by_name = {str(number): plan for number, plan in enumerate(plans, 1)} | {plan.role.key: plan for plan in plans}
    if args.role not in by_name:
        raise InputError(f"There is no pass '{args.role}'.", f"Passes are {', '.join(p.role.key for p in plans)}.")
    plan = by_name[args.role]
    project = edits.log_pass(project, plan, args.minutes, args.day)
    archive.save(project, Path(args.project))
    paces.keep(project)
    took = duration_words(args.minutes)
    print(f"{plan.role.name}: {took}, planned {duration_words(plan.minutes)}. {project.pace.words()}")
    return EXIT_DONE


def _chosen_passes(text: str | None, count: int) -> list[int]:
    if text is None:
        return list(range(1, count + 1))
    try:
        numbers = sorted({int(part) for part in text.split(",")})
    except ValueError:
        raise InputError(f"--passes {text} is not a list of numbers.", "Write e.g. --passes 1,2.") from None
    wrong = [n for n in numbers if not 1 <= n <= count]
    if wrong:
        raise InputError(f"There is no pass {wrong[0]}.", f"This plan has passes 1 to {count}.")
    return numbers


def _rehearse(args: argparse.Namespace) -> int:
    from foxpath.core.progress import SILENT
    from foxpath.derive import Results
    from foxpath.derive.painted import read_painting, reading_records
    from foxpath.derive.rehearsal import rehearse
    from foxpath.derive.requests import SaveRehearsal
    from foxpath.derive.rules import read_finish
    from foxpath.sheets import FILMS, write_png
    from foxpath.sheets.pictures import write_file

    project, width = _bent(_following(_project(args.project), args.school), args.ways), _width(args.width)
    for option, path, kinds in (("--layers", args.layers, (".ora",)), ("--film", args.film, FILMS)):
        if path and Path(path).suffix.lower() not in kinds:
            raise InputError(f"{option} {path} has the wrong ending.", f"Name it {' or '.join(kinds)}.")
    if args.seed is not None:
        if not 0 <= args.seed < 2**32:
            raise InputError(f"--seed {args.seed} is out of range.", "Give a whole number from 0 to 4294967295.")
        project = replace(project, seed=args.seed)
    results = Results()
    planned = [plan for plan in results.passes(project) if plan.on]
    wanted = _chosen_passes(args.passes, len(planned))
    folder = _folder(args.out)
    record = []
    for number, one in enumerate(rehearse(results, project, width), 1):
        if number not in wanted:
            continue
        write_png(one.standing.shown, folder / f"pass-{number:02d}.png", width / project.canvas.width_mm)
        record.append(
            {
                "name": one.plan.role.name,
                "marks": one.marks,
                "area_cm2": round(one.area_cm2, 2),
                "l_min": round(one.l_min, 2),
                "l_max": round(one.l_max, 2),
                "seconds": round(one.seconds, 3),
                "number": number,
                "minutes": round(one.plan.minutes, 1),
            }
        )
    done = rehearse(results, project, width)
    read = reading_records(project, read_painting(results, project, done[-1].standing.shown)) if done else []
    judged = read_finish(results, project, done[-1].standing.shown).findings if done else ()
    rules = [{"level": f.level, "says": f.says, "why": f.why} for f in judged]
    said = {"passes": record, "zones": read, "findings": rules}
    write_file(folder / "rehearsal.json", (json.dumps(said, indent=1, ensure_ascii=False) + "\n").encode())
    for path in (args.layers, args.film):
        if path:
            print(SaveRehearsal(results, project, Path(path), width)(SILENT))
    print(f"{folder}: {len(record)} passes, {sum(int(r['marks']) for r in record)} marks")  # type: ignore[call-overload]
    return EXIT_DONE


def _check(args: argparse.Namespace) -> int:
    from foxpath.core.progress import SILENT
    from foxpath.derive import Results
    from foxpath.derive.handout import findings
    from foxpath.derive.looking import Inspect, reference_findings

    results, project = Results(), _project(args.project)
    found = findings(results, project) + reference_findings(Inspect(results, project)(SILENT))
    found.sort(key=lambda one: ("must", "look", "note").index(one.level))
    signs = {"must": "must be mended", "look": "look here", "note": "note"}
    for one in found:
        print(f"{signs[one.level]}: {one.says} ({one.why})")
    if not found:
        print("nothing to mend")
    return EXIT_FOUND if any(f.level == "must" for f in found) else EXIT_DONE


def _window(args: argparse.Namespace) -> int:
    if args.file and args.demo:
        raise InputError("A file and --demo cannot be opened at once.", "Give one of them.")
    if args.demo:
        from foxpath.demo import demo_project

        demo_project(args.demo)
    from foxpath.window import run

    return run(Path(args.file) if args.file else None, args.demo)
