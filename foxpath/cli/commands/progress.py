"""`foxpath progress`."""

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import made_folder, read_bytes, read_project
from foxpath.core.errors import InputError

if TYPE_CHECKING:
    from foxpath.document.model import Project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("photo", metavar="PHOTO", nargs="?", help="a photograph of the canvas")
    parser.add_argument(
        "--corners", nargs=4, metavar="X,Y", help="of the canvas in the photograph, px, clockwise from its top left; found without"
    )  # fmt: skip
    parser.add_argument(
        "--after", default="last", metavar="PASS", help="the last pass that is done: its key or number, or last"
    )
    parser.add_argument("--border", metavar="WHAT", help="what lies all round the canvas: white, grey or kraft")
    parser.add_argument(
        "--card", metavar="X,Y[,L,A,B]", help="a grey card in the photograph (L* 50 without its own colour)"
    )
    parser.add_argument("--keep", action="store_true", help="keep the photograph in the project")
    parser.add_argument(
        "--stand-in",
        type=int,
        metavar="SEED",
        help="photograph a rehearsal by another hand in place of a canvas, with faults in it",
    )
    parser.add_argument("--faults", type=int, default=5, metavar="N", help="of the stand-in's canvas (5)")
    parser.add_argument("--paper", choices=("A4", "Letter"), default="A4")
    parser.add_argument(
        "--out", metavar="DIR", required=True, help="squared.png, touch-ups.pdf and progress.json are written there"
    )


def run(args: argparse.Namespace) -> int:
    """Compare a photograph of the canvas with the plan, and write what to touch up."""
    from foxpath.core.clock import now
    from foxpath.core.days.studio import iso
    from foxpath.core.progress.spots import BORDERS, Spot
    from foxpath.core.reporting import SILENT
    from foxpath.demo import is_demo
    from foxpath.derive import Results
    from foxpath.derive.handout.progress import said_of, write_progress
    from foxpath.derive.progress.planned import resolved_pass
    from foxpath.derive.progress.reading import read_photo
    from foxpath.document import archive, edits
    from foxpath.document.model import CanvasPhoto
    from foxpath.document.photos import kept_photo, taken_at
    from foxpath.document.pictures import reference_of

    if (args.photo is None) == (args.stand_in is None):
        raise InputError("Name one photograph.", "Or --stand-in 1 for one that is made up.")
    if args.keep and is_demo(args.project):
        raise InputError("The demo cannot be written to.", "Save it as a project first.")
    corners = tuple(_pair(one, "--corners") for one in args.corners) if args.corners else ()
    spots = (Spot(*_card(args.card)),) if args.card else ()
    if args.border and args.border not in BORDERS:
        raise InputError(f"--border “{args.border}” is none.", f"Say {', '.join(BORDERS)}.")
    project, results = read_project(args.project), Results()
    after = resolved_pass(results, project, args.after)
    folder = made_folder(args.out)
    if args.photo is not None:
        name, data = Path(args.photo).name, read_bytes(args.photo)
    else:
        name, data = _stand_in(results, project, after, args.stand_in, args.faults, folder)
    moment = taken_at(data) or now()
    photo = CanvasPhoto("photo", reference_of(name, data), iso(moment), after, corners, spots, args.border or "")
    read = read_photo(results, project, photo, SILENT)
    write_progress(results, project, read, folder, args.paper)
    if args.keep:
        kept, key = edits.add_photo(project, kept_photo(name, data), moment, after)
        stored = kept.photo(key)
        assert stored is not None
        # It may be kept smaller than it came.
        k = stored.reference.width / photo.reference.width
        kept = edits.change_photo(
            kept,
            key,
            corners=tuple((round(x * k, 1), round(y * k, 1)) for x, y in corners),
            spots=tuple(Spot((round(one.at[0] * k, 1), round(one.at[1] * k, 1)), one.lab) for one in spots),
            border=args.border or "",
        )
        archive.save(kept, Path(args.project))
    print(said_of(read))
    print(f"{folder / 'squared.png'}, progress.json, touch-ups.pdf")
    return EXIT_DONE


def _stand_in(
    results: object, project: "Project", after: str, seed: int, faults: int, folder: Path
) -> tuple[str, bytes]:
    """Photograph a rehearsal; the photograph and what was put into it are written beside the rest."""
    import json

    from foxpath.derive import Results
    from foxpath.derive.progress.cameras import StandInCamera
    from foxpath.sheets.pictures import write_file

    assert isinstance(results, Results)
    if not (0 <= seed < 2**31 and 0 <= faults <= 15):
        raise InputError("The stand-in takes a seed from 0 on, and 15 faults at most.", "Give others.")
    camera = StandInCamera(results, project, after, seed, faults)
    taken = camera.new()[0]
    write_file(folder / taken.name, taken.data)
    put = [
        {
            "kind": one.kind,
            "at_px": [round(v, 1) for v in one.at],
            "size": round(one.size, 2),
            "unit": one.unit,
            "part": one.part,
        }
        for one in camera.put
    ]
    truth = {"corners": [[round(float(x), 2), round(float(y), 2)] for x, y in camera.corners], "faults": put}
    write_file(folder / "stand-in.json", (json.dumps(truth, indent=1, ensure_ascii=False) + "\n").encode())
    return taken.name, taken.data


def _pair(text: str, what: str) -> tuple[float, float]:
    numbers = _numbers(text, what)
    if len(numbers) != 2:
        raise InputError(f"{what}: “{text}” is no place.", "Write x,y in pixels, e.g. 120,88.")
    return numbers[0], numbers[1]


def _card(text: str) -> tuple[tuple[float, float], tuple[float, float, float]]:
    from foxpath.core.progress.spots import GREY_CARD

    numbers = _numbers(text, "--card")
    if len(numbers) not in (2, 5) or (len(numbers) == 5 and not 5 <= numbers[2] <= 100):
        raise InputError(f"--card: “{text}” is no card.", "Write x,y, or x,y,L,a,b for a card of another colour.")
    colour = (numbers[2], numbers[3], numbers[4]) if len(numbers) == 5 else GREY_CARD
    return (numbers[0], numbers[1]), colour


def _numbers(text: str, what: str) -> list[float]:
    import math

    try:
        numbers = [float(one) for one in text.split(",")]
    except ValueError:
        numbers = []
    if not numbers or not all(math.isfinite(one) and abs(one) < 1e6 for one in numbers):
        raise InputError(f"{what}: “{text}” holds no numbers.", "Write numbers with commas between, e.g. 120,88.")
    return numbers
