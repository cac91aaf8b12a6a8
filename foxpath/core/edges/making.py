"""How an edge is made, and what it needs of its neighbour."""

from dataclasses import dataclass

from foxpath.core.edges.grades import EdgePlan
from foxpath.core.zones.kinds import Kind

REPAINT = "if it has dried, repaint its strip with the saved mix first"


@dataclass(frozen=True, slots=True)
class Making:
    """A way to make an edge.

    Attributes
    ----------
    way : str
        E.g. "broken by hairs".
    needs : str
        What the neighbour must be: wet, tacky or touch-dry.
    how : str
        One line on the hand's movement.
    """

    way: str
    needs: str
    how: str


def making_of(plan: EdgePlan, front: Kind, back: Kind | None) -> Making:
    """Return how a border of this grade between these kinds is made.

    The wider the transition, the wetter its neighbour has to be; hair breaks an edge where skin and horn blend or
    cut it.
    """
    hairy = front.hair
    if plan.grade == "hard":
        return Making("cut in", "the back touch-dry", "one loaded stroke along the border, not touched again")
    if plan.grade == "firm":
        if hairy:
            return Making(
                "broken by short hairs", "the back tacky or touch-dry", "tips over the border, a third of a hair"
            )
        return Making("softened once", "both sides just tacky", "one light pass of a dry fan along the border")
    if plan.grade == "soft":
        if hairy and back is not None and back.hair:
            return Making(
                "broken by hairs", "the back tacky or touch-dry", "tips over the coat behind, uneven, a hair's length"
            )
        if hairy:
            return Making(
                "dry-brushed tips", "the back touch-dry", "little paint, from the coat outward, lifting at the tip"
            )
        return Making("dragged into the wet", "both sides wet", f"small zigzags across the border; {REPAINT}")
    if hairy and back is not None and back.hair:
        return Making(
            "lost with a mop", "both sides wet or just tacky", f"a clean mop along the growth, once; {REPAINT}"
        )
    return Making(
        "dragged into the wet", "both sides wet", f"across the border until it is gone, then a mop; {REPAINT}"
    )
