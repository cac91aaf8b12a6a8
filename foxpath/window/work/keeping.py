"""The work on the disk: kept aside unasked, and saved where the painter says."""

from dataclasses import dataclass
from pathlib import Path

from foxpath.core.errors import AppError
from foxpath.core.reporting import Progress
from foxpath.document import archive, recovery
from foxpath.document.model import Project
from foxpath.window.work import recent


@dataclass(frozen=True, slots=True)
class KeepAside:
    """Write unsaved work to this process's recovery file."""

    project: Project
    origin: str
    step: int = 0

    def __call__(self, progress: Progress) -> Project:
        """Return what was kept. Raises `AppError` when it cannot be written."""
        try:
            recovery.keep(self.project, self.origin, self.step)
        except OSError as failure:
            raise AppError("The recovery copy could not be written.", failure.strerror or "") from None
        return self.project


@dataclass(frozen=True, slots=True)
class Save:
    """Write a project to its own file; `step` counts the changes, so that a crash right after is told from one before."""

    project: Project
    path: Path
    step: int = 0

    def __call__(self, progress: Progress) -> None:
        """Write it whole or not at all. Raises `ProjectError` when the place cannot be written to."""
        data = archive.to_bytes(self.project)
        recovery.about_to_save(self.path, data, self.step)
        archive.write_whole(self.path, data)
        recent.remember(self.path, self.project)
