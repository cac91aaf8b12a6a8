"""How much paint: millilitres, beads at life size, how long a pile keeps, and the medium of each pass."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.passes.words import OIL_PARTS

WASTE = 1.3
"""What brush, knife and palette keep, over what lies on the canvas."""
BEAD_MM = 6.0
"""Width of the bead that a tube is squeezed to."""
LEAST_ML = 0.2
"""Less is not mixed: it dries on the knife."""
OPEN_DAYS: dict[str, float] = {"oil": 4.0, "alkyd": 0.6, "water oil": 3.0, "acrylic": 0.04, "slow acrylic": 0.2}
"""Days that a pile stays workable on the palette, typical; wrapped airtight oil keeps about four times as long."""
WRAPPED = 4.0
_DRIES = {"fast": 0.6, "medium": 1.0, "slow": 1.6}
MEDIUMS: dict[str, str] = {
    "solvent": "oil and thinner",
    "solvent-free": "no solvent",
    "water": "water-mixable",
}
FREE_PARTS: tuple[tuple[float, str, int], ...] = (
    (0.18, "paint as it is, rubbed in thin", 0),
    (0.28, "a trace of oil", 1),
    (0.38, "oil", 2),
    (0.48, "oil", 3),
    (0.58, "oil", 4),
    (1.01, "2 oil : 1 alkyd gel", 5),
)
"""Without solvent: up to a share of oil, what is added, and its drops to a millilitre. Leaner is thinner, not thinned."""
WATER_PARTS: tuple[tuple[float, str, int], ...] = (
    (0.18, "water", 3),
    (0.28, "1 water-mixable oil : 2 water", 3),
    (0.38, "1 water-mixable oil : 1 water", 3),
    (0.48, "2 water-mixable oil : 1 water", 3),
    (1.01, "water-mixable oil", 4),
)
_DROP_ML = 0.05


def film_um(thickness: float) -> float:
    """Return the wet film of a pass's paint, micrometres, of its thickness of 0 (a stain) to 1 (body).

    0.1 is 16 um, 0.35 is 31, 0.6 is 61 and 0.95 is 157: amounts and drying go by the same film.
    """
    return float(12 * 15 ** min(max(thickness, 0.0), 1.0))


def millilitres(area_mm2: float, thickness_um: float) -> float:
    """Return the paint for an area (mm2, overlaps counted) of a film (um), what is lost included."""
    return area_mm2 * thickness_um * 1e-6 * WASTE


def bead_cm(ml: float, bead_mm: float = BEAD_MM) -> float:
    """Return the length of a round bead of paint, cm."""
    return ml * 1000 / (np.pi * bead_mm**2 / 4) / 10


def open_days(system: str, drying: str, *, wrapped: bool = False) -> float:
    """Return how many days a pile stays workable, typically."""
    days = OPEN_DAYS.get(system, OPEN_DAYS["oil"]) * _DRIES.get(drying, 1.0)
    return days * (WRAPPED if wrapped else 1.0)


def keeping_words(days: float) -> str:
    """Say how long a pile keeps."""
    if days < 0.1:
        return f"skins in {max(5, round(days * 24 * 60 / 5) * 5)} min: keep it damp"
    if days < 1:
        return f"open for {days * 24:.0f} h"
    return f"open for {days:.0f} day{'' if round(days) == 1 else 's'}"


@dataclass(frozen=True, slots=True)
class Medium:
    """What is added to a pass's paint.

    Attributes
    ----------
    words : str
        In parts.
    drops : int
        To a millilitre of pile.
    fat : float
        Share of oil in the paint, 0 to 1.
    """

    words: str
    drops: int
    fat: float

    def for_ml(self, ml: float) -> int:
        """Return the drops for a pile."""
        return round(self.drops * ml)


def medium_for(fat: float, paint: str, system: str) -> Medium:
    """Return the medium of a pass.

    Parameters
    ----------
    fat : float
        Share of oil and medium the pass plans, 0 to 1.
    paint : str
        "oil" or "acrylic".
    system : str
        One of `MEDIUMS`.
    """
    if paint == "acrylic":
        return Medium("water", 4 if fat < 0.3 else 2, fat)
    table = {"solvent-free": FREE_PARTS, "water": WATER_PARTS}.get(system, OIL_PARTS)
    return next(Medium(words, drops, fat) for most, words, drops in table if fat < most or most > 1)


def runs_out(have_ml: float, needs: list[tuple[str, float]]) -> tuple[str, float] | None:
    """Return in which of its passes a pile runs out, and what is missing for all of them, mL; None when it does not.

    What is less than the least that is mixed is not missed.

    Parameters
    ----------
    have_ml : float
    needs : list of (pass key, mL)
        In the order they are painted.
    """
    left = have_ml
    for number, (key, ml) in enumerate(needs):
        left -= ml
        if left < -LEAST_ML:
            return key, -left + sum(more for _, more in needs[number + 1 :])
    return None
