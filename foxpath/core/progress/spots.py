"""Places of known colour in a photograph."""

from dataclasses import dataclass

GREY_CARD = (50.0, 0.0, 0.0)
"""CIELAB of a usual grey card (18 % of the light)."""


@dataclass(frozen=True, slots=True)
class Spot:
    """A place of known colour beside or on the canvas: a grey card, or a known dry pile.

    Attributes
    ----------
    at : (x, y)
        Pixels of the photograph.
    lab : (L*, a*, b*)
    """

    at: tuple[float, float]
    lab: tuple[float, float, float]
