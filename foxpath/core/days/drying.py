"""How long a film of paint stays open, and when it is touch-dry, through-dry and cured.

Every constant is a typical value of general knowledge, not a measurement: a studio's own notes are worth more (`belief`). Times are
hours from the moment a film was laid; their spread is log-normal.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

STUDIO_SD, PILE_SD, LAYER_SD = 0.25, 0.25, 0.18
"""Of the logarithm of a time: the room and its habits, the pile, and this one layer; together 0.40."""
ALKYD_FULL = 0.25
"""Share of alkyd from which more does not hasten."""
Z80 = 0.8416
"""Standard deviations to the 80 % quantile."""


@dataclass(frozen=True, slots=True)
class System:
    """A paint system; times of a 50 um film of middling pigment at 20 C and 50 % humidity on a sealed ground.

    Attributes
    ----------
    touch_h : float
        To touch-dry.
    open_share, soft_share : float
        Ends of the open time and of the time an edge can still be softened, as shares of it.
    through : float
        Times it, until dry all through.
    cured_d : float
        Days until it may be varnished with a classic varnish.
    by_film, by_film_through : float
        Powers of the film's thickness.
    by_pigment : float
        How far the pigment counts.
    by_ten_c : float
        How many times as fast ten degrees more make it.
    water : bool
        Dries by evaporation.
    sd : float
        Of the logarithm of its times.
    """

    touch_h: float
    open_share: float
    soft_share: float
    through: float
    cured_d: float
    by_film: float
    by_film_through: float
    by_pigment: float
    by_ten_c: float
    water: bool
    sd: float


SYSTEMS: dict[str, System] = {
    "oil": System(72.0, 0.25, 0.60, 4.0, 270, 0.8, 1.6, 1.0, 2.0, water=False, sd=0.40),
    "water oil": System(66.0, 0.22, 0.60, 4.0, 270, 0.8, 1.6, 1.0, 2.0, water=False, sd=0.40),
    "acrylic": System(0.30, 0.35, 0.70, 10.0, 14, 1.0, 1.6, 0.0, 1.5, water=True, sd=0.35),
    "slow acrylic": System(1.50, 0.40, 0.75, 16.0, 30, 1.0, 1.6, 0.0, 1.5, water=True, sd=0.35),
}
PIGMENTS: dict[str, tuple[float, float]] = {
    "drier": (0.50, 3.0),
    "mars": (0.70, 1.0),
    "medium": (1.00, 1.0),
    "titanium": (1.45, 1.0),
    "zinc": (1.70, 1.0),
    "cadmium": (1.70, 1.0),
    "black": (1.80, 1.5),
    "lake": (1.90, 1.5),
}
"""Of a kind of pigment in oil: its factor on the time, and its weight in a mixture. Driers act beyond their share, and what hinders does too."""
CLASS_OF: dict[str, str] = {
    "PW6": "titanium", "PW4": "zinc", "PBk9": "black", "PBk11": "mars", "PR101-I": "mars", "PB28": "drier", "PB35": "drier",
    "PBr7-RU": "drier", "PBr7-BU": "drier", "PBr7-BS": "drier", "PY35": "cadmium", "PO20": "cadmium", "PR108": "cadmium",
    "PV19": "lake", "PR177": "lake",
}  # fmt: skip
"""Kinds of the table's tubes; the others are middling."""
BY_WORD = {"fast": "drier", "medium": "medium", "slow": "lake"}
"""Kinds of tubes that only say how fast they dry."""
GROUNDS = {"sealed": 0.0, "oil ground": 0.1, "lean layer": 0.15, "acrylic gesso": 0.4, "chalk": 1.0}
"""How far a ground draws the oil out, 0 to 1."""


@dataclass(frozen=True, slots=True)
class Film:
    """A film of paint and where it lies.

    Attributes
    ----------
    system : str
        A key of `SYSTEMS`.
    um : float
        Wet thickness as laid, micrometres.
    pigments : mapping of kind to parts
    thinner, oil, alkyd : float
        Shares of the paint's volume, 0 to 1.
    retarder : float
        Share, in acrylics.
    misted : bool
        Kept damp, in acrylics.
    absorbs : float
        The ground, see `GROUNDS`.
    beneath : str
        "dry", "touch-dry" or "wet".
    um_beneath : float
        Of what is wet beneath.
    celsius, humidity : float
    dark : bool
        Kept in the dark.
    """

    system: str = "oil"
    um: float = 50.0
    pigments: Mapping[str, float] = field(default_factory=lambda: {"medium": 1.0})
    thinner: float = 0.0
    oil: float = 0.0
    alkyd: float = 0.0
    retarder: float = 0.0
    misted: bool = False
    absorbs: float = 0.0
    beneath: str = "dry"
    um_beneath: float = 0.0
    celsius: float = 20.0
    humidity: float = 50.0
    dark: bool = False


@dataclass(frozen=True, slots=True)
class Times:
    """Median hours of a film: how long it is open and soft, when it is dry to the touch, all through, and cured; `sd` of their logarithm."""

    open: float
    soft: float
    touch: float
    through: float
    cured: float
    sd: float

    def early(self, hours: float, z: float = Z80) -> float:
        """Return a time that is kept in most cases from below: an open time that can be counted on."""
        return hours * math.exp(-z * self.sd)

    def late(self, hours: float, z: float = Z80) -> float:
        """Return a time that is kept in most cases from above: when it is dry for sure enough."""
        return hours * math.exp(z * self.sd)


def pigment_factor(parts: Mapping[str, float]) -> float:
    """Return how many times as long a mixture takes as middling pigment: the mean of logarithms, by parts and weight."""
    weighted = [
        (amount * PIGMENTS[kind][1], math.log(PIGMENTS[kind][0])) for kind, amount in parts.items() if amount > 0
    ]
    whole = sum(weight for weight, _ in weighted)
    return math.exp(sum(weight * factor for weight, factor in weighted) / whole) if whole > 0 else 1.0


def drying(film: Film) -> Times:
    """Return the median times of a film. Raises `KeyError` for a system or kind of pigment that is not known."""
    system = SYSTEMS[film.system]
    um = film.um * (1 - 0.9 * film.thinner) + (film.um_beneath if film.beneath == "wet" else 0.0)
    alkyd = min(max(film.alkyd, 0.0) / ALKYD_FULL, 1.0)
    touch = system.touch_h * (um / 50) ** system.by_film
    touch *= pigment_factor(film.pigments) ** (system.by_pigment * (1 - 0.4 * alkyd))
    touch *= 0.3**alkyd * (1 + film.oil) * system.by_ten_c ** ((20 - film.celsius) / 10) * (1 - 0.35 * film.absorbs)
    if system.water:
        touch *= 50 / max(100 - film.humidity, 10)
        open_share = system.open_share
    else:
        touch *= math.exp(0.006 * (film.humidity - 50))
        touch *= (1.3 if film.dark else 1.0) * (1.15 if film.beneath == "touch-dry" else 1.0)
        open_share = system.open_share * (1 - 0.3 * alkyd) * math.exp(-2.3 * film.thinner)
    opened = touch * open_share * (1 + 8 * film.retarder) * (2.5 if film.misted else 1.0)
    soft = max(touch * system.soft_share * (open_share / system.open_share) ** 0.35, 1.1 * opened)
    through = (
        touch * system.through * (1 + 0.25 * alkyd) * max(um / 50, 0.3) ** (system.by_film_through - system.by_film)
    )
    cured = max(system.cured_d * 24 * (0.7 if alkyd else 1.0), through)
    return Times(opened, soft, max(touch, 1.05 * soft), through, cured, system.sd)
