"""Commands about a project: its sheets, its rehearsal, schools side by side, passes that were painted, findings."""

import argparse
import json
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from foxpath.cli.parsers import EXIT_DONE, EXIT_FOUND
from foxpath.cli.reading import (
    checked_width,
    made_folder,
    read_json,
    read_project,
)
from foxpath.core.errors import InputError
from foxpath.derive.passes.plan import passes_of


def plan(args: argparse.Namespace) -> int:
    """Write every sheet, the map and plan.json."""
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.book import make_book, plan_record
    from foxpath.derive.handout.maps import WriteMap
    from foxpath.derive.rehearsal.painting import rehearse
    from foxpath.sheets import write_book
    from foxpath.sheets.pictures import write_file

    project, width = _bent(_following(read_project(args.project), args.school), args.ways), checked_width(args.width)
    folder = made_folder(args.out)
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
    found = schools_from_record(read_json(school), school)
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


def compare(args: argparse.Namespace) -> int:
    """Rehearse a painting in several schools, side by side."""
    from foxpath.core.units import duration_words
    from foxpath.derive.rehearsal.compare import compare_into

    keys = list(dict.fromkeys(args.schools))
    if len(keys) < 2:
        raise InputError("One school is nothing to compare.", "Name two or more.")
    project, width = _bent(read_project(args.project), args.ways), checked_width(args.width)
    folder = made_folder(args.out)
    for one in compare_into(project, keys, width, folder):
        print(
            f"{one.name}: {one.passes} passes, {one.waits} waits for drying, {one.marks} marks, {duration_words(one.minutes)}; "
            f"mean difference {one.mean_difference:.1f}, at most {one.worst_difference:.1f}"
        )
    print(f"{folder / 'side-by-side.png'}: {len(keys)} schools")
    return EXIT_DONE


def painted(args: argparse.Namespace) -> int:
    """Note what a pass took, in the project and for later ones."""
    from foxpath.core.units import duration_words
    from foxpath.demo import is_demo
    from foxpath.derive import Results
    from foxpath.document import archive, edits, paces

    if is_demo(args.project):
        raise InputError("The demo cannot be written to.", "Save it as a project first.")
    project = read_project(args.project)
    plans = passes_of(Results(), project)
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


def rehearse_passes(args: argparse.Namespace) -> int:
    """Draw the painting as it stands after each pass, and say how it comes out."""
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.rehearsal.finish import read_finish
    from foxpath.derive.rehearsal.painting import rehearse
    from foxpath.derive.rehearsal.reading import read_painting, reading_records
    from foxpath.derive.rehearsal.requests import SaveRehearsal
    from foxpath.sheets import FILMS, write_png
    from foxpath.sheets.pictures import write_file

    project, width = _bent(_following(read_project(args.project), args.school), args.ways), checked_width(args.width)
    for option, path, kinds in (("--layers", args.layers, (".ora",)), ("--film", args.film, FILMS)):
        if path and Path(path).suffix.lower() not in kinds:
            raise InputError(f"{option} {path} has the wrong ending.", f"Name it {' or '.join(kinds)}.")
    if args.seed is not None:
        if not 0 <= args.seed < 2**32:
            raise InputError(f"--seed {args.seed} is out of range.", "Give a whole number from 0 to 4294967295.")
        project = replace(project, seed=args.seed)
    results = Results()
    planned = [plan for plan in passes_of(results, project) if plan.on]
    wanted = _chosen_passes(args.passes, len(planned))
    folder = made_folder(args.out)
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


def check(args: argparse.Namespace) -> int:
    """List findings; something that must be mended makes it fail."""
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.reference.inspection import Inspect
    from foxpath.derive.subjects import findings

    results, project = Results(), read_project(args.project)
    found = findings(results, project) + Inspect(results, project)(SILENT).useful()
    found.sort(key=lambda one: ("must", "look", "note").index(one.level))
    signs = {"must": "must be mended", "look": "look here", "note": "note"}
    for one in found:
        print(f"{signs[one.level]}: {one.says} ({one.why})")
    if not found:
        print("nothing to mend")
    return EXIT_FOUND if any(f.level == "must" for f in found) else EXIT_DONE
