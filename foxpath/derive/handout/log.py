"""What is printed and written down of the log."""

from typing import Any

from foxpath.core.log.reading import carried_over, minutes_of, parts, sittings
from foxpath.core.log.words import entry_words, part_words, sitting_words
from foxpath.core.reporting import Progress
from foxpath.derive.subject import Told
from foxpath.document.model import Project
from foxpath.sheets import Draw
from foxpath.sheets.log_page import LogBlock, log_sheet_pages


def log_record(told: Told) -> dict[str, Any]:
    """Return the entries of `plan.json`: sittings, minutes and what is carried over, where anything was told."""
    entries = told.project.told
    if not entries:
        return {}
    return {
        "log": {
            "sittings": [
                {
                    "begin": one.begin.isoformat(timespec="minutes"),
                    "end": None if one.open else one.end.isoformat(timespec="minutes"),
                    "minutes": round(one.minutes, 1),
                    "breaks_min": round(one.breaks, 1),
                }
                for one in sittings(entries)
            ],
            "minutes_by_task": {task: round(minutes, 1) for task, minutes in minutes_of(entries).items() if task},
            "carried_over": [{"task": one.task, "part": one.part, "why": one.why} for one in carried_over(entries)],
        }
    }


def log_pages(told: Told, progress: Progress) -> list[Draw]:
    """Return the pages of the painting's story; none before anything was told."""
    return story_pages(told.project) if told.project.told else []


def story_pages(project: Project) -> list[Draw]:
    """Return the pages of the log: sittings, parts, what is carried over."""
    entries = project.told
    blocks = [
        LogBlock(sitting_words(one), tuple((f"{e.local:%H:%M}", entry_words(e)) for e in one.entries))
        for one in sittings(entries)
    ]
    through = parts(entries)
    if through:
        blocks.append(LogBlock("Part by part", tuple(("", f"{one.part}: {part_words(one)}") for one in through)))
    carried = carried_over(entries)
    if carried:
        rows = tuple((f"{one.at:%-d %b}", f"{one.act}: {one.part}, {one.why}") for one in carried)
        blocks.append(LogBlock("Carried over", rows))
    return log_sheet_pages(blocks)
