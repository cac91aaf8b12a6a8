"""Which neighbours are wet when a border is made, by the order of the passes and what each asks of the layer beneath."""

from foxpath.core.edges import Border, making_of
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


def dry_neighbours(results: Results, project: Project) -> list[Border]:
    """Return the borders that need both sides wet while the one behind is dry by then, longest first.

    The neighbour is dry when the front's first coat comes in a later pass, and paint had to dry before that one or any
    between; acrylic dries by itself.
    """
    zones = project.back_to_front()
    plans = [plan for plan in passes_of(results, project) if plan.on]
    first: dict[int, int] = {}
    for number, plan in enumerate(plans):
        if plan.role.act in MADE_IN:
            for index in plan.zones:
                first.setdefault(index, number)
    found = []
    for border, edge in edges_of(results, project):
        if border.back < 0 or border.length_mm < LEAST_MM:
            continue
        made = making_of(edge, zones[border.front].kind_of(), zones[border.back].kind_of())
        if "both sides wet" not in made.needs:
            continue
        front, back = first.get(border.front, 0), first.get(border.back, 0)
        between = plans[back + 1 : front + 1]
        dried = any(plan.role.beneath == "touch-dry" for plan in between) or plans[back].role.paint == "acrylic"
        if front > back and dried:
            found.append(border)
    return sorted(found, key=lambda border: -border.length_mm)
