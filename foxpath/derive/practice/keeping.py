"""The painter's answers, kept, handed on and forgotten beside the window."""

from dataclasses import dataclass
from pathlib import Path

from foxpath.core.practice.weeks import Answered, as_csv
from foxpath.core.reporting import Progress
from foxpath.core.units import count_words
from foxpath.derive.practice.drilling import SKILLS
from foxpath.document import practice


@dataclass(frozen=True, slots=True, eq=False)
class KeepAnswers:
    """Add answers to the painter's own file."""

    given: tuple[Answered, ...]

    def __call__(self, progress: Progress) -> None:
        """Add them. Raises `AppError` when the file cannot be written."""
        practice.add(self.given)


@dataclass(frozen=True, slots=True, eq=False)
class ForgetAnswers:
    """Forget a drill's answers, or all without a key."""

    drill: str

    def __call__(self, progress: Progress) -> int:
        """Return how many were forgotten. Raises `AppError`."""
        return practice.forget(self.drill)


@dataclass(frozen=True, slots=True, eq=False)
class WriteAnswers:
    """Write every answer as CSV."""

    path: Path

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`."""
        from foxpath.sheets.pictures import write_file

        known = practice.answers()
        write_file(self.path, as_csv(known, {skill.key: skill.unit for skill in SKILLS}).encode())
        return f"{self.path}: {count_words(len(known), 'answer')}"
