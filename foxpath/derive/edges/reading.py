"""What is said of the edges from afar: every border's plan."""

from dataclasses import dataclass

from foxpath.core.edges import Border, EdgePlan
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.results import Results
from foxpath.document.model import Project


@dataclass(frozen=True, slots=True, eq=False)
class EdgesReading:
    """Every visible border with its plan, longest first."""

    edges: tuple[tuple[Border, EdgePlan], ...] = ()


def read_edges(results: Results, project: Project, progress: Progress = SILENT) -> EdgesReading:
    """Return every border's plan."""
    progress.at(0, "grading the edges")
    return EdgesReading(tuple(edges_of(results, project)))
