"""`foxpath depart`."""

import argparse
from pathlib import Path
from typing import Any

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import made_folder, part_called, read_project
from foxpath.core.errors import InputError

NUMBERS = {
    "lightness": "L* that is added, -40 to 40",
    "strength": "times the chroma, 0 to 2.5",
    "warmth": "b* that is added, -30 (cooler) to 30 (warmer)",
    "redness": "a* that is added, -30 (greener) to 30 (redder)",
    "contrast": "times the part's contrast, 0.2 to 2.5",
    "soft_mm": "blur of its detail, mm on the canvas, 0 to 15",
}


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("--part", default="", metavar="NAME", help="its name; the whole canvas without")
    parser.add_argument(
        "--side",
        default="all",
        metavar="SIDE",
        help="all, lit, shadow; of the whole canvas also far (by distance) and away (from the focal point)",
    )
    for name, words in NUMBERS.items():
        parser.add_argument(f"--{name.replace('_', '-')}", type=float, metavar="X", dest=name, help=words)
    parser.add_argument("--note", default=None, metavar="TEXT", help="why")
    parser.add_argument("--match", metavar="L,a,b", help="bring the part's mean colour to this CIELAB")
    parser.add_argument(
        "--leave-out", action="store_true", help="do without the part: what lies behind is carried on over its place"
    )
    parser.add_argument("--move", metavar="X,Y", help="move the part, mm on the canvas to the right and down")
    parser.add_argument("--bring-back", metavar="NAME", help="bring a part back that was left out or moved")
    parser.add_argument("--back", action="store_true", help="take the part's departure back; every one without --part")
    parser.add_argument("--keep", action="store_true", help="keep it in the project")
    parser.add_argument(
        "--out", metavar="DIR", help="reference, changed and difference are written there, and departures.json"
    )


def _matching(args: argparse.Namespace, project: Any, zone: str) -> dict[str, float]:
    """Return the shifts that bring a part to the colour that was asked for."""
    import math

    from foxpath.derive import Results
    from foxpath.derive.reference.changes import match_colour

    try:
        light, red, yellow = (float(v) for v in args.match.split(","))
    except ValueError:
        raise InputError(f"--match '{args.match}' is not L,a,b.", "Write three numbers with commas.") from None
    if not (math.isfinite(red + yellow) and 0 <= light <= 100):
        raise InputError(f"--match '{args.match}' is no colour.", "Give L* 0 to 100, a* and b*.")
    made = match_colour(Results(), project, zone, args.side, (light, red, yellow))
    return {"lightness": made.lightness, "warmth": made.warmth, "redness": made.redness}


def _gone(args: argparse.Namespace, project: Any, zone: str) -> Any:
    """Leave a part out, move it, or bring one back, as it was asked."""
    from foxpath.document import edits

    if (args.leave_out or args.move) and not zone:
        raise InputError("Which part is not said.", "Name it with --part NAME.")
    if args.leave_out:
        return edits.leave_out_part(project, zone)
    if args.move:
        try:
            x, y = (float(v) for v in args.move.split(","))
        except ValueError:
            raise InputError(f"--move '{args.move}' is not X,Y.", "Write two numbers with a comma, in mm.") from None
        return edits.move_part(project, zone, (x / project.mm_per_px, y / project.mm_per_px))
    if args.bring_back:
        found = next((one for one in project.gone if one.zone.name.lower() == args.bring_back.lower()), None)
        if found is None:
            names = ", ".join(one.zone.name for one in project.gone) or "none"
            raise InputError(f"“{args.bring_back}” has not gone.", f"Left out or moved: {names}.")
        return edits.bring_back(project, found.id)
    return project


def run(args: argparse.Namespace) -> int:
    """Let parts depart from the reference on purpose, and show what that does."""
    from foxpath.demo import is_demo
    from foxpath.derive import Results
    from foxpath.derive.reference.changes import write_changes
    from foxpath.document import archive, edits

    if args.keep and is_demo(args.project):
        raise InputError("The demo cannot be written to.", "Save it as a project first.")
    if not args.keep and not args.out:
        raise InputError("Nothing would come of it.", "Name a folder with --out DIR, or keep it with --keep.")
    project = read_project(args.project)
    zone = part_called(project, args.part)
    project = _gone(args, project, zone)
    values = {name: getattr(args, name) for name in NUMBERS if getattr(args, name) is not None}
    if args.note is not None:
        values["note"] = args.note
    if args.match:
        values |= _matching(args, project, zone)
    if args.back:
        project = edits.follow_reference(project, zone if args.part else None, args.side)
    elif values:
        project = edits.depart(project, zone, args.side, **values)
    names = {z.id: z.name for z in project.zones}
    if args.out:
        folder = made_folder(args.out)
        made = write_changes(Results(), project, folder)
        for one in made.parts:
            print(
                f"{one.name}: {one.lightness:+.1f} L*, strength {one.strength:+.1f}, warmth {one.warmth:+.1f}, {one.whole:.1f} in all"
            )
        print(f"{folder / 'side-by-side.png'}, reference.png, changed.png, difference.png, departures.json")
    for departure in project.departures:
        side = "" if departure.side == "all" else f", {departure.side}"
        print(f"{names.get(departure.zone, 'whole canvas')}{side}: {departure.words()}")
    for one in project.gone:
        print(f"{one.zone.name}: {'moved' if one.to else 'left out'}")
    if args.keep:
        archive.save(project, Path(args.project))
    return EXIT_DONE
