"""Unsaved work kept aside."""

from dataclasses import dataclass

from foxpath.core.errors import AppError
from foxpath.core.reporting import Progress
from foxpath.document import recovery
from foxpath.document.model import Project


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
