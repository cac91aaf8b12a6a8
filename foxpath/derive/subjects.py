"""The list of subjects: what follows from a project, stop by stop, and what every stop finds.

Each has a room of its own beside this module; a new one is entered here, and nowhere else below the window.
"""

from typing import Any

from foxpath.core.findings import Finding, worst_first
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.days.reading import DaysClose, close_days, days_findings, read_days
from foxpath.derive.easel.reading import EaselClose, close_easel, read_easel
from foxpath.derive.edges.reading import read_edges
from foxpath.derive.eyes.reading import eye_findings, read_eyes
from foxpath.derive.growth.reading import growth_findings, read_growth
from foxpath.derive.handout import pages, record
from foxpath.derive.handout.days import day_record, day_sheet_pages
from foxpath.derive.handout.log import log_pages, log_record
from foxpath.derive.handout.mixes import mix_record, mix_sheet_pages
from foxpath.derive.lengths.borders import EdgesClose, close_edges
from foxpath.derive.lengths.reading import LengthsClose, close_lengths, unshown_findings
from foxpath.derive.mixes.reading import MixesClose, close_mixes, mix_findings
from foxpath.derive.passes.reading import (
    LayingClose,
    PassesClose,
    close_laying,
    close_passes,
    pass_findings,
    read_passes,
)
from foxpath.derive.progress.afar import (
    ProgressClose,
    close_progress,
    progress_findings,
    progress_record,
    read_progress,
)
from foxpath.derive.results import Results
from foxpath.derive.subject import Subject
from foxpath.derive.zones.reading import zone_findings
from foxpath.document.model import Project


def nothing(results: Results, project: Project, progress: Progress) -> None:
    """Read nothing: all there is to say stands in the project, or is worked out on demand."""


REFERENCE = Subject("reference", nothing, nothing, None, pages=pages.reference)
ZONES = Subject("zones", nothing, close_laying, LayingClose(), zone_findings, record.zones)
GROWTH = Subject("growth", read_growth, nothing, None, growth_findings, record.growth, pages.growth)
EDGES = Subject("edges", read_edges, close_edges, EdgesClose(), record=record.edges, pages=pages.edges)
LENGTHS = Subject("lengths", nothing, close_lengths, LengthsClose(), unshown_findings, record.lengths, pages.lengths)
EYES = Subject("eyes", read_eyes, nothing, None, eye_findings, record.eyes, pages.eyes)
MIXES = Subject("mixes", nothing, close_mixes, MixesClose(), mix_findings, mix_record, mix_sheet_pages)
PASSES = Subject("passes", read_passes, close_passes, PassesClose(), pass_findings, record.passes, pages.passes)
REHEARSAL = Subject("rehearsal", nothing, nothing, None, record=record.rehearsal)
DAYS = Subject("days", read_days, close_days, DaysClose(), days_findings, day_record, day_sheet_pages)

EASEL = Subject("easel", read_easel, close_easel, EaselClose(), record=log_record, pages=log_pages)

PROGRESS = Subject("progress", read_progress, close_progress, ProgressClose(), progress_findings, progress_record)

PRACTICE = Subject("practice", nothing, nothing, None)

SUBJECTS: tuple[Subject[Any, Any], ...] = (
    REFERENCE,
    ZONES,
    GROWTH,
    EDGES,
    LENGTHS,
    EYES,
    MIXES,
    PASSES,
    REHEARSAL,
    DAYS,
    EASEL,
    PROGRESS,
    PRACTICE,
)
"""Every subject, in the order of the trail."""


def findings(results: Results, project: Project, progress: Progress = SILENT) -> list[Finding]:
    """Return every finding, worst first."""
    found: list[Finding] = []
    for number, subject in enumerate(SUBJECTS):
        part = progress.part(number / len(SUBJECTS), (number + 1) / len(SUBJECTS))
        found += subject.findings(results, project, part)
    return worst_first(found)
