"""`foxpath practice`."""

import argparse
from pathlib import Path
from typing import TYPE_CHECKING, Any

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import made_folder, read_json, read_project
from foxpath.core.errors import InputError

if TYPE_CHECKING:
    from foxpath.document.model import Project

MOST_SEED = 2**31


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument(
        "project", metavar="X.foxpath", nargs="?", default="demo:fox", help="what it is made from (demo:fox)"
    )
    parser.add_argument("--drill", metavar="KEY", help="without it the drills are listed")
    parser.add_argument("--seed", type=int, default=1, metavar="N", help="every seed is another task (1)")
    parser.add_argument(
        "--size",
        type=float,
        metavar="X",
        help="how large the difference shall be, in the drill's unit; what is usual without",
    )
    parser.add_argument(
        "--on",
        choices=("picture", "canvas"),
        default="picture",
        help="the reference, or the last photograph of the canvas",
    )
    parser.add_argument(
        "--answer", metavar="FILE", help="JSON of an answer: it is scored, and kept over the weeks with --keep"
    )
    parser.add_argument("--keep", action="store_true", help="with --answer: it counts over the weeks")
    parser.add_argument("--out", metavar="DIR", help="task.png, task.json and answer.json are written there")
    parser.add_argument(
        "--photo", metavar="FILE", help="a photograph of a painted sheet (drills hand and eyes): it is measured"
    )
    parser.add_argument("--paper", choices=("A4", "Letter"), default="A4", help="of a sheet (A4)")
    parser.add_argument("--csv", metavar="FILE", help="write every answer of the weeks as CSV")
    parser.add_argument("--forget", metavar="KEY", help="forget the answers of a drill, or “all”")


def run(args: argparse.Namespace) -> int:
    """Make a drill, score an answer, or tell how weeks of practice went."""
    if args.csv or args.forget:
        return _weeks(args)
    if not args.drill and not args.photo:
        return _listed()
    if not 0 <= args.seed < MOST_SEED:
        raise InputError(f"--seed: {args.seed} is no seed.", f"Give 0 to {MOST_SEED - 1}.")
    if args.size is not None and not 0 < args.size < 1e6:
        raise InputError(f"--size: {args.size:g} is no size.", "Give a number over 0.")
    if args.keep and not (args.answer or args.photo):
        raise InputError("--keep keeps an answer.", "Name it with --answer FILE, or a sheet with --photo FILE.")
    if not args.out:
        raise InputError("Where shall it be written?", "Name a folder with --out DIR.")
    if args.photo:
        return _measured(args, read_project(args.project))
    from foxpath.core.practice.paper import PAPER

    if args.drill in [one.key for one in PAPER]:
        return _printed(args, read_project(args.project))
    return _drilled(args, read_project(args.project))


def _source(args: argparse.Namespace) -> str:
    from foxpath.derive.practice.scenes import CANVAS, OWN

    return CANVAS if args.on == "canvas" else OWN


def _printed(args: argparse.Namespace, project: "Project") -> int:
    """Write a sheet to be painted: sheet.pdf, and what it asks as task.json."""
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.practice.paper import WriteSheet

    folder = made_folder(args.out)
    sheet = WriteSheet(Results(), project, _source(args), args.drill, args.seed, folder / "sheet.pdf", args.paper)
    print(sheet(SILENT))
    return EXIT_DONE


def _measured(args: argparse.Namespace, project: "Project") -> int:
    """Measure a photographed sheet: flat.png and score.json."""
    from foxpath.core.clock import now
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.handout.practice import sheet_record, write_json
    from foxpath.derive.practice.drilling import sheet_answered
    from foxpath.derive.practice.paper import ReadSheet
    from foxpath.sheets.pictures import write_png

    read = ReadSheet(Results(), project, _source(args), Path(args.photo))(SILENT)
    folder = made_folder(args.out)
    write_png(read.rgb, folder / "flat.png", read.px_per_mm)
    write_json(folder / "score.json", sheet_record(read))
    if args.keep:
        from foxpath.document import practice

        practice.add(sheet_answered(read, now(), project.name))
    print(read.words())
    print(f"{folder / 'flat.png'}, score.json")
    return EXIT_DONE


def _drilled(args: argparse.Namespace, project: "Project") -> int:
    from foxpath.core.clock import now
    from foxpath.core.practice.drill import scored
    from foxpath.core.practice.drills import drill_called
    from foxpath.core.reporting import SILENT
    from foxpath.derive import Results
    from foxpath.derive.handout.practice import score_record, write_json, write_task
    from foxpath.derive.practice.drilling import MakeTask, answered

    drill = drill_called(args.drill)
    task = MakeTask(Results(), project, _source(args), drill.key, args.seed, args.size or 0.0)(SILENT)
    folder = made_folder(args.out)
    write_task(task, drill, scored(drill, task, drill.ideal(task)), project.name, folder)
    said = f"{folder / 'task.png'}, task.json, answer.json"
    if args.answer:
        score = scored(drill, task, _answer_in(args.answer))
        write_json(folder / "score.json", score_record(score))
        if args.keep:
            from foxpath.document import practice

            practice.add(answered(task, score, now(), project.name))
        print(f"{score.words}. {score.why}")
        said += ", score.json"
    else:
        print(task.question)
    print(said)
    return EXIT_DONE


def _answer_in(path: str) -> Any:
    """Return an answer from a file: the answer itself, or a record that has it."""
    value = read_json(path)
    return value["answer"] if isinstance(value, dict) and "answer" in value else value


def _listed() -> int:
    from foxpath.core.clock import now
    from foxpath.core.practice.weeks import level_words
    from foxpath.derive.practice.drilling import SKILLS, read_weeks
    from foxpath.document import practice

    weeks = read_weeks(practice.answers(), None, now().date())
    for drill in SKILLS:
        one = weeks.standings.get(drill.key)
        level = level_words(drill, one.level if one is not None else None)
        print(f"{drill.key:10} {drill.title:26} {drill.count:3} tasks, {drill.minutes} min   {level}")
    return EXIT_DONE


def _weeks(args: argparse.Namespace) -> int:
    from foxpath.core.reporting import SILENT
    from foxpath.core.units import count_words
    from foxpath.derive.practice.drilling import skill_called
    from foxpath.derive.practice.keeping import ForgetAnswers, WriteAnswers

    if args.csv:
        print(WriteAnswers(Path(args.csv))(SILENT))
    if args.forget:
        key = "" if args.forget == "all" else skill_called(args.forget).key
        print(f"{count_words(ForgetAnswers(key)(SILENT), 'answer')} forgotten")
    return EXIT_DONE
