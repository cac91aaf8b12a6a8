"""The borders seen close by: what the photograph shows of them, and what the coats do there."""

from dataclasses import dataclass, field

from foxpath.core.edges import EdgeReading, MarkingStretch
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import Widths, edge_readings, edge_widths
from foxpath.derive.lengths.hanging import Fringes, fringes_of
from foxpath.derive.lengths.markings import markings_of
from foxpath.derive.results import Results
from foxpath.document.model import Project


@dataclass(frozen=True, slots=True, eq=False)
class EdgesClose:
    """What only the Edges stop shows; borders go by the indices of their zones, back to front.

    Attributes
    ----------
    photo : dict of (front, back) to EdgeReading
        Width in the photograph, mm on the canvas.
    widths : dict of (front, back) to arrays
        The planned width along each border.
    fringes : dict of (front, back) to hairs
        The hair that hangs over it.
    markings : dict of zone id to stretches
        Where hair crosses the borders of markings.
    """

    photo: dict[tuple[int, int], EdgeReading] = field(default_factory=dict)
    widths: Widths = field(default_factory=dict)
    fringes: Fringes = field(default_factory=dict)
    markings: dict[str, tuple[MarkingStretch, ...]] = field(default_factory=dict)


def close_edges(results: Results, project: Project, progress: Progress = SILENT) -> EdgesClose:
    """Return what the photograph shows of the borders, their widths along the way, and what hangs over them. Raises `Cancelled`."""
    return EdgesClose(
        edge_readings(results, project, progress.part(0, 0.6)),
        edge_widths(results, project),
        fringes_of(results, project, progress.part(0.6, 0.8)),
        markings_of(results, project, progress.part(0.8, 1)),
    )
