"""What the brushes of the kit have been through: minutes in this painting, by the log, and paintings before it."""

from dataclasses import dataclass

from foxpath.core.lengths import Brush
from foxpath.core.lengths.kit import MOST_WEAR
from foxpath.core.log.reading import sittings
from foxpath.core.units import count_words, duration_words
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

FINE_MM = 3.0
"""Up to this width a brush is wanted for its tip or edge."""


@dataclass(frozen=True, slots=True)
class Served:
    """A brush that served in this painting.

    Attributes
    ----------
    index : int
        Its place in the kit.
    brush : Brush
    minutes : float
        Of steps that were painted with it.
    """

    index: int
    brush: Brush
    minutes: float

    def words(self) -> str:
        """Say how long it served, how many paintings before, and what to do when its tip is going."""
        before = f", {count_words(self.brush.wear, 'painting')} before" if self.brush.wear else ""
        going = self.brush.state == "new" and self.brush.width_mm <= FINE_MM and self.brush.wear >= MOST_WEAR
        return f"{duration_words(self.minutes)} here{before}" + (" · try its tip on paper" if going else "")


def served(results: Results, project: Project) -> tuple[Served, ...]:
    """Return the brushes of the kit that steps of the log were painted with, the longest first.

    Which brush a step took is the plan's word: the pass's own for that part.
    """
    plans = {plan.role.name.lower(): plan for plan in passes_of(results, project)}
    places = {zone.name: k for k, zone in enumerate(project.back_to_front())}
    minutes: dict[int, float] = {}
    for sitting in sittings(project.told):
        for step in sitting.steps:
            plan, place = plans.get(step.act.lower()), places.get(step.part, -1)
            choice = plan.brushes.get(place) if plan is not None else None
            if choice is not None and choice.brush in project.kit and step.minutes > 0:
                index = project.kit.index(choice.brush)
                minutes[index] = minutes.get(index, 0.0) + step.minutes
    made = [Served(index, project.kit[index], spent) for index, spent in minutes.items()]
    return tuple(sorted(made, key=lambda one: (-one.minutes, one.index)))
