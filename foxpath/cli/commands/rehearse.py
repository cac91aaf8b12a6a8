"""`foxpath rehearse`."""

import argparse
import json
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from foxpath.cli.painting import add_settings, bent, following
from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import checked_width, made_folder, read_project
from foxpath.core.errors import InputError
from foxpath.derive.passes.plan import passes_of
from foxpath.document import edits

if TYPE_CHECKING:
    from foxpath.core.arrays import Rgb8
    from foxpath.derive import Results
    from foxpath.document.model import Project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("--out", required=True, metavar="DIR")
    parser.add_argument("--width", type=int, default=1600, metavar="PX", help="200 to 8000")
    parser.add_argument("--passes", metavar="1,2", help="write only these passes; earlier ones are painted beneath")
    parser.add_argument("--layers", metavar="X.ora", help="write OpenRaster too, one layer a pass")
    parser.add_argument("--film", metavar="X.webp", help="write the build-up too, as animated .webp or .gif")
    parser.add_argument(
        "--school", metavar="KEY", help="follow this school or recipe.json, without changing the project"
    )
    add_settings(parser)
    parser.add_argument(
        "--palette",
        action="store_true",
        help="paint with the piles of the mixes only, and write beside.png: any colour at the left, the palette at the right",
    )
    parser.add_argument("--seed", type=int, metavar="N", help="another arrangement of the marks")


MOST_KEPT_PX = 3200
"""Wider canvases are painted without keeping what stood before the last pass."""


BESIDE_PX = 1200
"""Width of each of two paintings side by side, at most."""


def beside(results: "Results", free: "Project", limited: "Rgb8", width: int) -> "Rgb8":
    """Return the painting in any colour beside the one with the palette."""
    import cv2
    import numpy as np

    from foxpath.derive.rehearsal.painting import one_by_one, size_for

    *_, done = one_by_one(results, replace(free, mixes=replace(free.mixes, rehearsed=False)), width)
    size = size_for(free, width)[:2]
    small = cv2.resize(np.ascontiguousarray(limited), size, interpolation=cv2.INTER_AREA)
    made: Rgb8 = np.concatenate([np.ascontiguousarray(done.standing.shown), small], axis=1)
    return made


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


def run(args: argparse.Namespace) -> int:
    """Draw the painting as it stands after each pass, and say how it comes out."""
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.rehearsal.finish import read_finish
    from foxpath.derive.rehearsal.painting import one_by_one, rehearse
    from foxpath.derive.rehearsal.reading import read_painting, reading_records
    from foxpath.derive.rehearsal.requests import SaveRehearsal
    from foxpath.sheets import FILMS, write_png
    from foxpath.sheets.pictures import write_file

    project, width = bent(following(read_project(args.project), args.school), args.ways), checked_width(args.width)
    for option, path, kinds in (("--layers", args.layers, (".ora",)), ("--film", args.film, FILMS)):
        if path and Path(path).suffix.lower() not in kinds:
            raise InputError(f"{option} {path} has the wrong ending.", f"Name it {' or '.join(kinds)}.")
    if args.seed is not None:
        if not 0 <= args.seed < 2**32:
            raise InputError(f"--seed {args.seed} is out of range.", "Give a whole number from 0 to 4294967295.")
        project = replace(project, seed=args.seed)
    free = project
    if args.palette:
        project = edits.set_mixes(project, rehearsed=True)
    results = Results()
    planned = [plan for plan in passes_of(results, project) if plan.on]
    wanted = _chosen_passes(args.passes, len(planned))
    folder = made_folder(args.out)
    record, last = [], None
    # A large canvas is not kept pass by pass, unless its layers are asked for.
    large = width > MOST_KEPT_PX and not args.layers
    painted = one_by_one(results, project, width) if large else rehearse(results, project, width)
    for number, one in enumerate(painted, 1):
        last = one.standing.shown
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
    if args.palette and last is not None:
        write_png(beside(results, free, last, min(width, BESIDE_PX)), folder / "beside.png")
    read = reading_records(project, read_painting(results, project, last)) if last is not None else []
    judged = read_finish(results, project, last).findings if last is not None else ()
    rules = [{"level": f.level, "says": f.says, "why": f.why} for f in judged]
    said = {"passes": record, "zones": read, "findings": rules}
    write_file(folder / "rehearsal.json", (json.dumps(said, indent=1, ensure_ascii=False) + "\n").encode())
    for path in (args.layers, args.film):
        if path:
            print(SaveRehearsal(results, project, Path(path), width)(SILENT))
    print(f"{folder}: {len(record)} passes, {sum(int(r['marks']) for r in record)} marks")  # type: ignore[call-overload]
    return EXIT_DONE
