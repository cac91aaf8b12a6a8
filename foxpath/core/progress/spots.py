"""Places of known colour in a photograph."""

from dataclasses import dataclass

GREY_CARD = (50.0, 0.0, 0.0)
"""CIELAB of a usual grey card (18 % of the light)."""

BORDERS: dict[str, tuple[float, float, float]] = {
    "white": (94.0, 0.0, 2.0),
    "grey": (50.0, 0.0, 0.0),
    "kraft": (65.0, 9.0, 24.0),
}
"""What may lie all round a canvas, by the key it is stored under: white tape, paper or gesso; a grey board; brown paper. Typical values."""


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
