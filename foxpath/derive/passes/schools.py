"""Schools side by side: what each would take on this painting."""

from dataclasses import dataclass

from foxpath.core.passes import School, bend, plan_passes, schools, under_light
from foxpath.core.passes.schools import drying_waits
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.plan import with_eye_times
from foxpath.derive.results import Results
from foxpath.document.model import Project


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


def compare_schools(results: Results, project: Project) -> tuple[SchoolReading, ...]:
    """Return every school that can be followed, the painter's own last, with what it would take."""
    own, canvas, facts = project.own_school, project.canvas, facts_of(results, project)
    side = max(canvas.width_mm, canvas.height_mm)
    found = []
    for school in (*schools().values(), *((own,) if own is not None else ())):
        order = project.pass_order if school.key == project.recipe.key else ()
        roles = {
            role.key: role
            for role in under_light(bend(school.roles, project.ways), project.light.warmth if project.light else 0.0)
        }
        planned = plan_passes(facts, side, project.passes, order, project.kit, roles, project.pace)
        plans = [plan for plan in with_eye_times(results, project, planned) if plan.on]
        waits = drying_waits([plan.role for plan in plans])
        minutes = sum(plan.minutes for plan in plans)
        found.append(SchoolReading(school, len(plans), sum(plan.marks for plan in plans), waits, minutes))
    return tuple(found)
