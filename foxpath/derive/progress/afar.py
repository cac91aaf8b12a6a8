"""What is said of the photographs from afar; light, since it is read after every edit and when the window opens."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from foxpath.core.clock import now
from foxpath.core.findings import Finding
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words
from foxpath.derive.results import Results
from foxpath.derive.subject import Told
from foxpath.document.model import Project

ASK_AFTER_DAYS, ASK_UNTIL_DAYS = 3, 60
"""Days after the last photograph from which the program asks what jumps out, and after which it no longer does."""


@dataclass(frozen=True, slots=True, eq=False)
class ProgressFar:
    """The stop's line in the trail."""

    words: str


@dataclass(frozen=True, slots=True, eq=False)
class ProgressClose:
    """What the stop shows without looking at a photograph."""

    findings: tuple[Finding, ...] = ()


def read_progress(results: Results, project: Project, progress: Progress) -> ProgressFar:
    """Return what is said from afar."""
    if not project.photos:
        return ProgressFar("no photograph yet")
    todo = sum(one.word == "todo" for one in project.touches)
    if todo:
        return ProgressFar(f"{count_words(todo, 'touch-up')} to do")
    day = datetime.fromisoformat(project.photos[-1].taken)
    return ProgressFar(f"photograph of {day:%-d %b}")


def close_progress(results: Results, project: Project, progress: Progress = SILENT) -> ProgressClose:
    """Return what the stop shows at once."""
    return ProgressClose(tuple(asks(project, now())))


def progress_findings(results: Results, project: Project, progress: Progress) -> list[Finding]:
    """Find what asks to be looked at."""
    return asks(project, now())


def asks(project: Project, moment: datetime) -> list[Finding]:
    """Ask for what the painter has seen, where the painting has hung for days since its last photograph and nothing was said."""
    if not project.photos:
        return []
    last = datetime.fromisoformat(project.photos[-1].taken)
    days = (moment - last).days
    said = max((one.day for one in project.touches), default="")
    if not ASK_AFTER_DAYS <= days <= ASK_UNTIL_DAYS or said > last.date().isoformat():
        return []
    return [
        Finding(
            "note",
            f"It has hung for {count_words(days, 'day')}: what jumps out?",
            f"last photograph {last:%-d %b} · rule: days of looking find what an hour does not · write it down",
            "progress",
            key="hung",
        )
    ]


def progress_record(told: Told) -> dict[str, Any]:
    """Return the entries of `plan.json`: the photographs there are, and what was said of touch-ups."""
    project = told.project
    if not project.photos and not project.touches:
        return {}
    return {
        "progress": {
            "photographs": [
                {"taken": one.taken, "after": one.after, "name": one.reference.name} for one in project.photos
            ],
            "touch_ups": [
                {
                    "kind": one.kind,
                    "part": one.zone,
                    "at": list(one.at),
                    "said": one.word,
                    "text": one.text,
                    "minutes": one.minutes,
                }
                for one in project.touches
            ],
        }
    }
