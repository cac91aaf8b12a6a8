"""Which neighbours are wet when a border is made, by the order of the passes and what each asks of the layer beneath."""

from foxpath.core.edges import Border, EdgePlan, Making, making_of
from foxpath.core.passes import PassPlan
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

MADE_IN = ("background", "undercoat", "lights")
"""Passes in which borders are made."""
LEAST_MM = 20.0
"""Shorter borders are not worth a word."""
OVER_DRY = 0.45
"""How wide a border comes out that is dragged over a neighbour that is dry, as a share of its plan: only one side gives."""


def beneath_of(results: Results, project: Project, border: Border) -> str:
    """Return what the part behind a border will be when the front is laid: "wet", "dry", or painted "later".

    It is dry when the front's first coat comes in a later pass, and paint had to dry before that one or any between;
    acrylic dries by itself. The bare canvas is dry.
    """
    if border.back < 0:
        return "dry"
    plans, first = results.once(project, "first coats", lambda: _first_coats(results, project))
    front, back = first.get(border.front, 0), first.get(border.back, 0)
    if back > front:
        return "later"
    between = plans[back + 1 : front + 1]
    dried = any(plan.role.beneath == "touch-dry" for plan in between) or plans[back].role.paint == "acrylic"
    return "dry" if front > back and dried else "wet"


def _first_coats(results: Results, project: Project) -> tuple[tuple[PassPlan, ...], dict[int, int]]:
    """Return the passes that are on, and which is each zone's first in which borders are made."""
    plans = tuple(plan for plan in passes_of(results, project) if plan.on)
    first: dict[int, int] = {}
    for number, plan in enumerate(plans):
        if plan.role.act in MADE_IN:
            for index in plan.zones:
                first.setdefault(index, number)
    return plans, first


def making_at(results: Results, project: Project, border: Border, plan: EdgePlan) -> Making:
    """Return how a border is made, by the state its neighbour will really be in."""
    zones = project.back_to_front()
    back = zones[border.back].kind_of() if border.back >= 0 else None
    return making_of(plan, zones[border.front].kind_of(), back, beneath_of(results, project, border))


def dry_neighbours(results: Results, project: Project) -> list[Border]:
    """Return the borders that need both sides wet while the one behind is dry by then, longest first."""
    found = [
        border
        for border, edge in edges_of(results, project)
        if border.back >= 0
        and border.length_mm >= LEAST_MM
        and beneath_of(results, project, border) == "dry"
        and "both sides wet" in making_at(results, project, border, edge).needs
    ]
    return sorted(found, key=lambda border: -border.length_mm)
