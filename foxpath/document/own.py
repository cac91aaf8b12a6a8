"""What a new painting begins with of what its painter keeps for every painting."""

from foxpath.document import calendars, cupboard, kits, strokes
from foxpath.document.model import Project


def with_own(project: Project) -> Project:
    """Return a new painting with the kept kit, tubes, pick-up, free time and notes of drying; the usual ones where a file is damaged."""
    for with_kept in (
        kits.with_own_kit, cupboard.with_own_cupboard, strokes.with_own_strokes, calendars.with_own_days,
    ):  # fmt: skip
        project = with_kept(project)
    return project
