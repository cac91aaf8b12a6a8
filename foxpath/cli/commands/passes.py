"""`foxpath passes`."""

import argparse
from pathlib import Path
from typing import Any

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import checked_width, made_folder, part_called, read_project
from foxpath.core.errors import InputError

VEIL_NUMBERS = {
    "strength": "share of paint in it, 0.01 to 1; the rest is medium",
    "coats": "1 to 6, each dry before the next",
    "strip_mm": "width of a strip, mm on the canvas",
    "soft_mm": "over so much it fades out, mm on the canvas",
}


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    what = parser.add_mutually_exclusive_group()
    what.add_argument("--again", metavar="PASS", help="lay a pass once more, right after itself")
    what.add_argument("--veil", metavar="glaze|scumble", help="add a veil over --part (the whole canvas without)")
    what.add_argument("--set", nargs="+", metavar=("PASS", "NAME=X"), help="set numbers of a pass, or of --part in it")
    what.add_argument("--move", nargs=2, metavar=("PASS", "N"), help="paint it N places earlier (negative) or later")
    what.add_argument("--remove", metavar="PASS", help="remove a pass that was added")
    what.add_argument("--alone", metavar="PASS", help="leave the area of --patch as this pass leaves it")
    parser.add_argument("--part", default="", metavar="NAME", help="the part that is meant")
    parser.add_argument("--colour", metavar="L,a,b", help="CIELAB of a veil's mix, laid thick")
    parser.add_argument(
        "--place",
        default="part",
        metavar="WHERE",
        help="part, shadow, turn (just before the shadow), lit, strip or patch",
    )
    parser.add_argument("--patch", nargs="+", metavar="x,y", help="an outline, reference pixels")
    parser.add_argument("--beneath", action="store_true", help="what lies beneath is painted so that the veil brings it to the reference")  # fmt: skip
    parser.add_argument("--name", default="", metavar="TEXT")
    for name, words in VEIL_NUMBERS.items():
        parser.add_argument(f"--{name.replace('_', '-')}", type=float, metavar="X", dest=name, help=words)
    parser.add_argument("--keep", action="store_true", help="keep it in the project")
    parser.add_argument("--out", metavar="DIR", help="before.png and after.png of what was added are written there")
    parser.add_argument("--width", type=int, default=1200, metavar="N", help="pixels across")


def run(args: argparse.Namespace) -> int:
    """List the passes, or change them."""
    from foxpath.demo import is_demo
    from foxpath.document import archive

    if args.keep and is_demo(args.project):
        raise InputError("The demo cannot be written to.", "Save it as a project first.")
    checked_width(args.width)
    project = read_project(args.project)
    changed, key = _changed(args, project)
    if changed is project:
        _list(project)
        return EXIT_DONE
    if args.keep:
        archive.save(changed, Path(args.project))
    _list(changed)
    if args.out:
        _pictures(changed, key, made_folder(args.out), args.width)
    elif not args.keep:
        print("Nothing was kept: add --keep, or name a folder with --out DIR.")
    return EXIT_DONE


def _changed(args: argparse.Namespace, project: Any) -> tuple[Any, str]:
    """Return the project as it was asked for, and the pass that was touched; the same project where nothing was asked."""
    from foxpath.core.passes import Veil
    from foxpath.document import edits
    from foxpath.document.model import pairs

    zone = part_called(project, args.part)
    patch = _patch(args.patch)
    if args.again:
        return edits.add_again(project, args.again)
    if args.veil:
        given = {name: getattr(args, name) for name in VEIL_NUMBERS if getattr(args, name) is not None}
        if args.colour is not None:
            given["lab"] = _numbers(args.colour, 3, "--colour", "L,a,b")
        veil = Veil(args.veil, place=args.place, made_up=args.beneath, patch=pairs(patch), **given)
        return edits.add_veil(project, veil, zone, args.name)
    if args.set:
        key, values = args.set[0], dict(_setting(one) for one in args.set[1:])
        if not values:
            raise InputError("No number is set.", "Write NAME=X, as in coverage=2.5.")
        return (edits.set_part(project, key, zone, **values) if zone else _set_pass(project, key, values)), key
    if args.move:
        key, by = args.move
        if key not in project.roles:
            raise InputError(f"There is no pass '{key}'.", f"Passes are {', '.join(project.roles)}.")
        if not by.lstrip("+-").isdigit():
            raise InputError(f"'{by}' is no number of places.", "Give a whole number, negative for earlier.")
        return edits.move_pass(project, key, int(by)), key
    if args.remove:
        return edits.forget_pass(project, args.remove), ""
    if args.alone:
        return edits.leave_alone(project, patch, args.alone), args.alone
    return project, ""


def _set_pass(project: Any, key: str, values: dict[str, float]) -> Any:
    from foxpath.core.passes import PASS_RANGES
    from foxpath.document import edits

    wrong = [name for name in values if name not in PASS_RANGES]
    if wrong:
        raise InputError(f"A pass has no '{wrong[0]}'.", f"Numbers are {', '.join(PASS_RANGES)}.")
    for name, value in values.items():
        least, most = PASS_RANGES[name]
        if not least <= value <= most:
            raise InputError(f"{name} cannot be {value:g}.", f"Give {least:g} to {most:g}.")
    return edits.set_pass(project, key, **values)


def _patch(given: list[str] | None) -> Any:
    import numpy as np

    return np.array([_numbers(one, 2, "--patch", "x,y") for one in given or ()], float).reshape(-1, 2)


def _numbers(text: str, count: int, option: str, form: str) -> tuple[float, ...]:
    import math

    try:
        made = tuple(float(v) for v in text.split(","))
    except ValueError:
        made = ()
    if len(made) != count or not all(math.isfinite(v) for v in made):
        raise InputError(f"{option} '{text}' is not {form}.", f"Write {count} numbers with commas.")
    return made


def _setting(text: str) -> tuple[str, float]:
    name, _, value = text.partition("=")
    return name.strip().replace("-", "_"), _numbers(value, 1, name, "a number")[0]


def _list(project: Any) -> None:
    from foxpath.core.passes.working import areas_words
    from foxpath.core.units import count_words, duration_words
    from foxpath.derive import Results
    from foxpath.derive.passes.laying import turns_of_work
    from foxpath.derive.passes.plan import passes_of

    results = Results()
    plans, names = passes_of(results, project), [zone.name for zone in project.back_to_front()]
    for number, plan in enumerate(plans, 1):
        off = "" if plan.on else " · left out"
        where = (
            f" · {count_words(len(plan.zones), 'part')}" if plan.role.veil is None else f" · {_where(project, plan)}"
        )
        print(f"{number:2d}  {plan.role.key:14s} {plan.role.name}{where} · {duration_words(plan.minutes)}{off}")
    turns = areas_words(turns_of_work(results, project, plans), names, {p.role.key: p.role.name for p in plans})
    if turns:
        print("Area by area:", *turns, sep="\n    ")
    for one in project.left_alone:
        if one.after:
            print(f"Left alone after {one.after}: an area of {len(one.points)} points.")


def _where(project: Any, plan: Any) -> str:
    from foxpath.core.passes.veils import PLACES
    from foxpath.derive.passes.veils import veil_area

    zone = project.zone(plan.role.only)
    part = zone.name.lower() if zone is not None else "the whole canvas"
    return f"{part}, {PLACES[plan.role.veil.place]}, {veil_area(plan):.0f} cm²"


def _pictures(project: Any, key: str, folder: Path, width: int) -> None:
    """Write the painting before and after a pass; after the last one where none is meant."""
    from PIL import Image

    from foxpath.derive import Results
    from foxpath.derive.rehearsal.painting import rehearse

    done = rehearse(Results(), project, width)
    at = next((k for k, one in enumerate(done) if one.plan.role.key == key), len(done) - 1)
    for name, number in (("before", at - 1), ("after", at)):
        if number >= 0:
            Image.fromarray(done[number].standing.shown).save(folder / f"{name}.png")
            print(folder / f"{name}.png")
