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


def making_of(plan: EdgePlan, front: Kind, back: Kind | None, beneath: str = "dry") -> Making:
    """Return how a border of this grade between these kinds is made.

    Hair over wet ground is dragged into it, which is the commonest soft edge; only where the neighbour is dry is it
    dry-brushed. Hair breaks an edge where skin and horn blend or cut it.

    Parameters
    ----------
    plan : EdgePlan
    front : Kind
    back : Kind or None
        None for the bare canvas.
    beneath : "wet", "dry" or "later"
        What the part behind will be when the front is laid; "later" where it is painted after the front.
    """
    if beneath == "later" and back is not None and not back.hair:
        return _cut_round(plan.grade, front)
    if plan.grade == "hard":
        if beneath == "wet":
            return Making(
                "cut into the wet", "the back wet", "one loaded stroke of a soft brush, wiped before the next"
            )
        return Making("cut in", "the back touch-dry", "one loaded stroke along the border, not touched again")
    if front.plumed and plan.grade in {"firm", "soft"}:
        return Making(
            "closed by the last row",
            "the back tacky or touch-dry",
            "tip by tip, each with its own edge and the gap beneath",
        )
    if not front.hair and plan.grade == "firm":
        return Making("softened once", "both sides just tacky", "one light pass of a dry fan along the border")
    if plan.grade == "lost" and front.hair and back is not None and back.hair:
        return Making(
            "lost with a mop", "both sides wet or just tacky", f"a clean mop along the growth, once; {REPAINT}"
        )
    if plan.grade == "lost":
        return Making(
            "dragged into the wet", "both sides wet", f"across the border until it is gone, then a mop; {REPAINT}"
        )
    if not front.hair:
        return Making("dragged into the wet", "both sides wet", f"small zigzags across the border; {REPAINT}")
    return (_into_wet if beneath == "wet" else _over_dry)(plan.grade, back)


def _into_wet(grade: str, back: Kind | None) -> Making:
    """Return how hair is laid over what is wet."""
    if grade == "firm":
        return Making(
            "short hairs into the wet", "the back wet", "tips a third of a hair over the border, the brush wiped often"
        )
    if back is not None and back.hair:
        return Making(
            "hairs drawn into the wet coat", "the back wet", "tips over the coat behind, uneven, a hair's length"
        )
    return Making(
        "dragged into the wet ground", "the back wet", f"from the coat outward, the tips lose themselves; {REPAINT}"
    )


def _over_dry(grade: str, back: Kind | None) -> Making:
    """Return how hair is laid over what is dry."""
    if grade == "firm":
        return Making("broken by short hairs", "the back tacky or touch-dry", "tips over the border, a third of a hair")
    if back is not None and back.hair:
        return Making(
            "broken by hairs", "the back tacky or touch-dry", "tips over the coat behind, uneven, a hair's length"
        )
    return Making(
        "dry-brushed tips",
        "the back touch-dry",
        "little paint, from the coat outward, lifting at the tip; or repaint the strip behind and drag the hair into it",
    )


def _cut_round(grade: str, front: Kind) -> Making:
    """Return how what is painted after the front is brought up to it."""
    if grade == "hard" or not front.hair:
        return Making("cut in round it", "the front touch-dry", "a soft brush round the contour, away from the animal")
    return Making(
        "cut in round it, then hairs",
        "the front touch-dry",
        "a soft brush round the contour; retouching hairs over it after",
    )
