"""What a subject of the plan gives: its readings, findings, pages and numbers."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

from foxpath.core.findings import Finding
from foxpath.core.reporting import Progress
from foxpath.derive.results import Results
from foxpath.document.model import Project
from foxpath.sheets import Draw

R = TypeVar("R")
C = TypeVar("C")


@dataclass(frozen=True, slots=True, eq=False)
class Told:
    """What is handed on when a plan is written: the project, and its passes as rehearsed (`Rehearsed`), none where it was not."""

    results: Results
    project: Project
    rehearsed: Sequence[Any] = ()


def no_findings(results: Results, project: Project, progress: Progress) -> list[Finding]:
    """Find nothing."""
    return []


def no_record(told: Told) -> dict[str, Any]:
    """Write no number down."""
    return {}


def no_pages(told: Told, progress: Progress) -> list[Draw]:
    """Print no page."""
    return []


@dataclass(frozen=True, slots=True, eq=False)
class Subject(Generic[R, C]):
    """A subject of the plan; most have a stop of the same key.

    Attributes
    ----------
    key : str
    read : callable
        Returns what the trail, the course and other stops say of it; read after every edit.
    close : callable
        Returns what only its own bench and picture show; read while its stop is open.
    unread : object
        What stands for `close` until it has been read.
    findings : callable
        Returns what is to be mended or looked at; found after every edit.
    record : callable
        Returns its entries of `plan.json`.
    pages : callable
        Returns its pages of the book of sheets.
    """

    key: str
    read: Callable[[Results, Project, Progress], R]
    close: Callable[[Results, Project, Progress], C]
    unread: C
    findings: Callable[[Results, Project, Progress], list[Finding]] = no_findings
    record: Callable[[Told], dict[str, Any]] = no_record
    pages: Callable[[Told, Progress], list[Draw]] = no_pages
