"""Schools side by side: what each would take on this painting."""

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from foxpath.core.passes import School, schools
from foxpath.document.model import Project

if TYPE_CHECKING:
    from foxpath.derive.results import Results


@dataclass(frozen=True, slots=True)
class SchoolReading:
    """A school on this painting.

    Attributes
    ----------
    school : School
    passes, marks, waits : int
        Passes that are painted, estimated marks, and passes before which paint must have dried.
    minutes : float
    """

    school: School
    passes: int
    marks: int
    waits: int
    minutes: float


def compare_schools(results: "Results", project: Project) -> tuple[SchoolReading, ...]:
    """Return every school that can be followed, the painter's own last, with what it would take."""
    own = project.own_school
    found = []
    for school in (*schools().values(), *((own,) if own is not None else ())):
        plans = [plan for plan in results.passes(replace(project, school=school.key)) if plan.on]
        waits = sum(
            upper.role.beneath == "touch-dry" and lower.role.paint == "oil"
            for lower, upper in zip(plans[:-1], plans[1:], strict=True)
        )
        minutes = sum(plan.minutes for plan in plans)
        found.append(SchoolReading(school, len(plans), sum(plan.marks for plan in plans), waits, minutes))
    return tuple(found)
