"""`foxpath depart`."""

import argparse
from pathlib import Path

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import made_folder, read_project
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
    parser.add_argument("--back", action="store_true", help="take the part's departure back; every one without --part")
    parser.add_argument("--keep", action="store_true", help="keep it in the project")
    parser.add_argument(
        "--out", metavar="DIR", help="reference, changed and difference are written there, and departures.json"
    )


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
    zone = ""
    if args.part:
        found = next((z.id for z in project.zones if z.name.lower() == args.part.lower()), None)
        if found is None:
            raise InputError(
                f"There is no part “{args.part}”.", f"Parts are {', '.join(z.name for z in project.zones)}."
            )
        zone = found
    values = {name: getattr(args, name) for name in NUMBERS if getattr(args, name) is not None}
    if args.note is not None:
        values["note"] = args.note
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
    if args.keep:
        archive.save(project, Path(args.project))
    return EXIT_DONE
