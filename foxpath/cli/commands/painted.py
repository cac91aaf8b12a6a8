"""`foxpath painted`."""

import argparse
from pathlib import Path

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_project
from foxpath.core.errors import InputError
from foxpath.derive.passes.plan import passes_of


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument("role", metavar="PASS", help="its number in the plan, or its key")
    parser.add_argument("minutes", type=float, metavar="MINUTES")
    parser.add_argument("--day", default="", metavar="2026-03-21", help="the day it was painted")


def run(args: argparse.Namespace) -> int:
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
