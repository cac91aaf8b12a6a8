"""What the window shows of a project, read subject by subject."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar, cast

from foxpath.core.findings import Finding
from foxpath.core.passes import ZoneFacts
from foxpath.core.reporting import Progress
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.results import Results
from foxpath.derive.subject import Subject
from foxpath.derive.subjects import SUBJECTS, findings
from foxpath.derive.zones.reading import zone_numbers, zone_tags
from foxpath.document.model import Project, Zone

R = TypeVar("R")
C = TypeVar("C")


@dataclass(frozen=True, slots=True, eq=False)
class Readings:
    """What is known of a project; zones are counted back to front.

    Attributes
    ----------
    project : Project
    zones : tuple of Zone
    numbers : dict of zone id to int
    facts : tuple of ZoneFacts
    tags : dict of zone id to (x, y)
        Where each zone's number stands, reference pixels.
    findings : tuple of Finding
        Worst first.
    """

    project: Project
    zones: tuple[Zone, ...]
    numbers: dict[str, int]
    facts: tuple[ZoneFacts, ...]
    tags: dict[str, tuple[float, float]]
    findings: tuple[Finding, ...]
    _of: Mapping[str, Any]
    _close: Mapping[str, Any] = field(default_factory=dict)

    def of(self, subject: Subject[R, Any]) -> R:
        """Return what is said of a subject."""
        return cast("R", self._of[subject.key])

    def close(self, subject: Subject[Any, C]) -> C:
        """Return what only a subject's own stop shows: what stands for it while it has not been read."""
        return cast("C", self._close.get(subject.key, subject.unread))

    def has_close(self, key: str) -> bool:
        """Tell whether what only a stop shows has been read; of a stop that is no subject there is nothing to read."""
        return key in self._close or all(one.key != key for one in SUBJECTS)

    def with_close(self, key: str, value: object) -> "Readings":
        """Return the readings with what one stop shows."""
        return replace(self, _close={**self._close, key: value})


@dataclass(frozen=True, slots=True)
class Read:
    """Read a project: every subject from afar, and one or some close by, for the stop that is open.

    Attributes
    ----------
    results : Results
    project : Project
    close : tuple of str
        Keys of the subjects read close by.
    """

    results: Results
    project: Project
    close: tuple[str, ...] = ()

    def __call__(self, progress: Progress) -> Readings:
        """Return the readings. Raises `Cancelled`."""
        results, project = self.results, self.project
        zones = tuple(project.back_to_front())
        progress.at(0.0, "reading the zones")
        facts = facts_of(results, project)
        tags = zone_tags(results, project)
        parts = progress.part(0.1, 0.7).parts(len(SUBJECTS))
        afar = {one.key: one.read(results, project, part) for one, part in zip(SUBJECTS, parts, strict=True)}
        found = tuple(findings(results, project, progress.part(0.7, 0.8)))
        near = [one for one in SUBJECTS if one.key in self.close]
        parts = progress.part(0.8, 1.0).parts(max(1, len(near)))
        close = {one.key: one.close(results, project, part) for one, part in zip(near, parts, strict=False)}
        return Readings(project, zones, zone_numbers(project), facts, tags, found, afar, close)


@dataclass(frozen=True, slots=True)
class ReadClose:
    """Read one subject close by: its stop has been opened."""

    results: Results
    project: Project
    key: str

    def __call__(self, progress: Progress) -> tuple[Project, str, object]:
        """Return the project, the subject's key and what its stop shows. Raises `Cancelled`."""
        subject = next(one for one in SUBJECTS if one.key == self.key)
        return self.project, self.key, subject.close(self.results, self.project, progress)
