"""`foxpath note`."""

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_project
from foxpath.core.errors import InputError

if TYPE_CHECKING:
    from datetime import datetime

    from foxpath.document.model import Project


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath")
    parser.add_argument(
        "part", metavar="PART",
        help="the name of a part, “all” for the whole painting, or with --material support, ground, paint, medium, brush or varnish",
    )  # fmt: skip
    parser.add_argument(
        "words", metavar="STATE|TEXT", nargs="+",
        help="touch-dry or tacky (of what was laid there last), dark, light, warm, cool, jumps, smeared, or a text",
    )  # fmt: skip
    parser.add_argument("--likeness", action="store_true", help="the text is about its likeness or anatomy")
    parser.add_argument("--material", action="store_true", help="the text is about what the painting is made of")
    parser.add_argument("--picture", metavar="FILE", help="a picture that shows it; kept in the painting")
    parser.add_argument("--at", metavar="TIME", help="when, e.g. 2026-03-02T08:00; now without")


def run(args: argparse.Namespace) -> int:
    """Write a word about a part into the log, and what a finger said into the drying."""
    from foxpath.core.clock import now
    from foxpath.core.days.studio import moment_of
    from foxpath.core.log.entries import SAID
    from foxpath.demo import is_demo
    from foxpath.document import archive, edits

    if is_demo(args.project):
        raise InputError("A demo keeps no log.", "Save it as a painting first.")
    project = read_project(args.project)
    text = " ".join(args.words)
    moment = moment_of(args.at) if args.at else now()
    if moment is None:
        raise InputError(f"--at {args.at} is no time.", "Write it as 2026-03-02T08:00.")
    if args.material:
        if args.likeness or args.picture:
            raise InputError("A note of a material is none of likeness.", "Leave --likeness and --picture out.")
        project = edits.tell_material(project, moment, args.part.lower(), text)
        archive.save(project, Path(args.project))
        print(f"Noted: {args.part.lower()}: {text}.")
        return EXIT_DONE
    part = _part(project, args.part)
    if args.likeness or args.picture:
        return _likeness(args, project, part, text, moment)
    state = {"touch-dry": "dry", "dry": "dry", "tacky": "tacky"}.get(text.lower(), "")
    if state:
        project, said = _touched(project, part, state, moment)
        project = edits.tell(project, state, moment, part=part, text=said)
    elif text.lower() in SAID:
        project = edits.tell(project, text.lower(), moment, part=part)
        said = f"{part}: {text.lower()}"
    else:
        project = edits.tell(project, "note", moment, part=part, text=text)
        said = f"{part}: {text}" if part else text
    archive.save(project, Path(args.project))
    if state:
        from foxpath.document import calendars

        calendars.keep_notes(project)
    print(f"Noted: {said}.")
    return EXIT_DONE


def _likeness(args: argparse.Namespace, project: "Project", part: str, text: str, moment: "datetime") -> int:
    """Note something of a part's likeness, with a picture that shows it."""
    from foxpath.cli.reading import read_bytes
    from foxpath.document import archive, edits
    from foxpath.document.photos import kept_photo

    picture = kept_photo(Path(args.picture).name, read_bytes(args.picture)) if args.picture else None
    project = edits.tell_likeness(project, moment, part, text, picture)
    archive.save(project, Path(args.project))
    print(f"Noted of its likeness: {f'{part}: ' if part else ''}{text}{', with a picture' if picture else ''}.")
    return EXIT_DONE


def _part(project: "Project", name: str) -> str:
    if name.lower() == "all":
        return ""
    names = {zone.name.lower(): zone.name for zone in project.zones}
    if name.lower() not in names:
        raise InputError(f"There is no part “{name}”.", f"Parts are {', '.join(names.values())}, and “all”.")
    return names[name.lower()]


def _touched(project: "Project", part: str, state: str, moment: "datetime") -> "tuple[Project, str]":
    """Return the project with what a finger said of the paint that lies uppermost on a part, and that paint in words."""
    from foxpath.core.days.studio import DryNote
    from foxpath.derive import Results
    from foxpath.derive.days.plan import plan_of
    from foxpath.derive.days.sitting import areas_at, layer_of
    from foxpath.document import edits

    planned = plan_of(Results(), [project], moment)
    layout = planned.layout
    done = {one.task: one for one in project.days.done}
    zones = project.back_to_front()
    mine = [
        area.task for area in areas_at(layout, planned.diary, layout.minute(moment))
        if (not part or zones[area.zone].name == part) and layout.problem.tasks[area.task].key in done
    ]  # fmt: skip
    if not mine:
        raise InputError(
            f"Nothing that was painted lies on “{part or 'the canvas'}” yet.",
            "Note its sitting as done first, at Days or at the easel.",
        )
    task, layer = layout.problem.tasks[mine[-1]], layer_of(planned, mine[-1])
    assert layer is not None
    note = DryNote(task.key, layer.pile, layer.name or task.act, layer.typical_h, done[task.key].end)
    return edits.note_drying(
        project, note, state, moment
    ), f"{task.act} of {task.part} is {'touch-dry' if state == 'dry' else 'still tacky'}"
