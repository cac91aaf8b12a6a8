"""Requests that find outlines in the picture: from scribbles, along its edges, and from nothing but itself."""

from dataclasses import dataclass

from foxpath.core.reporting import Progress
from foxpath.core.zones import Cut, Proposed, Tracer, cut_part, mend_part, propose_parts
from foxpath.derive.pictures import cropped_picture, working_picture
from foxpath.derive.results import Results
from foxpath.document.model import Pairs, Project, as_array

Point = tuple[float, float]
PROPOSE_PX = 900
"""Longer side of the picture from which parts are proposed."""


@dataclass(frozen=True, slots=True, eq=False)
class CutPart:
    """Find a part's outline from scribbles within and beyond it, reference pixels; or mend the one it has."""

    results: Results
    project: Project
    within: tuple[Pairs, ...]
    beyond: tuple[Pairs, ...]
    mended: Pairs = ()

    def __call__(self, progress: Progress) -> Cut:
        rgb = working_picture(self.results, self.project).rgb
        reference = self.project.reference
        within, beyond = ([as_array(stroke) for stroke in some] for some in (self.within, self.beyond))
        size = (reference.width, reference.height)
        if self.mended:
            return mend_part(rgb, size, as_array(self.mended), within, beyond, progress)
        return cut_part(rgb, size, within, beyond, progress)


@dataclass(frozen=True, slots=True, eq=False)
class FindEdges:
    """Make the picture's edges around a click ready to be followed."""

    results: Results
    project: Project
    start: Point
    room: float

    def __call__(self, progress: Progress) -> Tracer:
        """Return what follows the edge from the start."""
        progress.at(0.1, "finding edges to follow")
        reference = self.project.reference
        rgb = working_picture(self.results, self.project).rgb
        return Tracer(rgb, (reference.width, reference.height), self.start, self.room)


@dataclass(frozen=True, slots=True, eq=False)
class ProposeParts:
    """Propose a first set of parts from the picture alone."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> list[Proposed]:
        """Return parts, back to front. Raises `Cancelled`."""
        crop = self.project.crop
        scale = min(1.0, PROPOSE_PX / max(crop.width, crop.height))
        columns, rows = max(24, round(crop.width * scale)), max(24, round(crop.height * scale))
        return propose_parts(cropped_picture(self.results, self.project, columns, rows), crop, progress)
