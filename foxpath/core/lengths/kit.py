"""The painter's brushes: shape, width, what edge and tip leave, hair and state."""

from collections.abc import Sequence
from dataclasses import dataclass

from foxpath.core.units import mm_words

SHAPES: dict[str, float] = {
    "liner": 0.3,
    "round": 0.25,
    "dagger": 0.12,
    "filbert": 0.12,
    "flat": 0.1,
    "bright": 0.1,
    "rake": 0.1,
    "fan": 0.06,
    "mop": 0.8,
    "knife": 0.06,
}
"""The narrowest mark of a new brush as a share of its width: a tip, an edge or corner, a rake's single tooth."""
MASSES = ("flat", "filbert", "bright")
TIPS = ("liner", "round", "dagger")
EDGED = ("filbert", "flat", "bright")
"""Turned on their edge or corner they draw a single hair."""
LINES = (*TIPS, *EDGED)
"""Shapes that draw one line at a time."""
BLENDERS = ("mop", "fan")
HAIR_OF: dict[str, str] = {
    "flat": "bristle",
    "bright": "bristle",
    "fan": "bristle",
    "filbert": "bristle",
    "knife": "steel",
}
"""What a shape is made of unless it is said; all others are soft."""
STATES: dict[str, float] = {"new": 1.0, "worn": 1.6, "splayed": 2.5, "cut": 1.4}
"""States of a brush, and by how much each makes its finest mark coarser. Worn, splayed and cut ones are wanted for texture."""
ROUGH = ("worn", "splayed", "cut")
MOST_WEAR = 5
"""Paintings after which a fine tip has spread to twice its mark."""


@dataclass(frozen=True, slots=True)
class Brush:
    """A brush of the kit.

    Attributes
    ----------
    shape : str
        Key of `SHAPES`. Older files call a rake a comb.
    width_mm : float
        Width of its broadest mark, 0.1 to 150.
    wear : int
        Paintings it has served.
    edge_mm : float or None
        Width of the line that its edge, corner or tip leaves when new; None for the shape's own share of its width.
    hair : str
        "soft" or "bristle"; empty for what the shape is usually made of.
    state : str
        Key of `STATES`.
    count : int
        How many of it there are: one for each value lies ready.
    """

    shape: str
    width_mm: float
    wear: int = 0
    edge_mm: float | None = None
    hair: str = ""
    state: str = "new"
    count: int = 1

    def __post_init__(self) -> None:
        if self.shape == "comb":
            object.__setattr__(self, "shape", "rake")

    @property
    def fine_mm(self) -> float:
        """The narrowest mark it leaves, mm."""
        new = self.width_mm * SHAPES[self.shape] if self.edge_mm is None else min(self.edge_mm, self.width_mm)
        return new * STATES[self.state] * (1 + min(self.wear, 2 * MOST_WEAR) / MOST_WEAR)

    @property
    def made_of(self) -> str:
        """What its hair is: soft, bristle, or steel for a knife."""
        return self.hair or HAIR_OF.get(self.shape, "soft")

    @property
    def rough(self) -> bool:
        """Whether it is an old bristle that leaves broken marks when it is nearly dry."""
        return self.state in ROUGH and self.made_of == "bristle"

    def words(self) -> str:
        """Return e.g. ``"12 mm flat"`` or ``"old 12 mm flat"``."""
        state = {"worn": "old ", "splayed": "splayed ", "cut": "cut-short "}.get(self.state, "")
        return f"{state}{mm_words(self.width_mm)} {self.shape}"


DEFAULT_KIT: tuple[Brush, ...] = (
    Brush("flat", 40),
    Brush("flat", 25),
    Brush("flat", 12),
    Brush("filbert", 8),
    Brush("filbert", 5),
    Brush("bright", 3),
    Brush("mop", 15),
    Brush("fan", 20),
    Brush("rake", 10),
    Brush("dagger", 6),
    Brush("round", 2.5),
    Brush("round", 1.5),
    Brush("liner", 1),
    Brush("liner", 0.6),
)


def finest_mm(kit: Sequence[Brush]) -> float:
    """Return the narrowest line the kit draws (0 without brushes)."""
    return min((brush.fine_mm for brush in kit if brush.shape in LINES), default=0.0)


def line_brush(kit: Sequence[Brush], width_mm: float, *, masses: bool = False) -> Brush | None:
    """Return the brush for single lines: the broadest that leaves a mark this fine and is not far broader; else the finest.

    A tip is taken before an edge; with `masses`, flat sides are as good. None without a brush that draws lines.
    """
    able = [b for b in kit if b.shape in LINES and b.fine_mm <= width_mm * 1.001 and not b.rough]
    tips = able if masses else [b for b in able if b.shape in TIPS]
    for group in (tips, able):
        roomy = [b for b in group if b.width_mm <= 3 * width_mm]
        if roomy:
            return max(roomy, key=lambda b: b.width_mm)
    if able:
        return min(able, key=lambda b: (b.shape not in TIPS, b.width_mm))
    return min((b for b in kit if b.shape in LINES), key=lambda b: b.fine_mm, default=None)
