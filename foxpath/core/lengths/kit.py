"""The painter's brushes, and which of them is used where: the largest that fits."""

from collections.abc import Sequence
from dataclasses import dataclass

from foxpath.core.units import mm_words
from foxpath.core.zones.kinds import Coat

SHAPES: dict[str, float] = {
    "liner": 0.3,
    "round": 0.25,
    "dagger": 0.2,
    "filbert": 0.35,
    "flat": 0.3,
    "bright": 0.3,
    "comb": 0.12,
    "fan": 0.15,
    "mop": 0.8,
}
"""The narrowest mark of a new brush as a share of its width: a tip, a flat's edge, a comb's single tooth."""
MASSES = ("flat", "filbert", "bright")
HAIRS = ("liner", "round", "comb", "dagger")
MOST_WEAR = 5
"""Paintings after which a fine tip has spread to twice its mark."""
FITS = 0.5
"""A brush for masses is at most this share of the widest place of a zone."""


@dataclass(frozen=True, slots=True)
class Brush:
    """A brush of the kit.

    Attributes
    ----------
    shape : str
        Key of `SHAPES`.
    width_mm : float
        Width of its broadest mark, 0.1 to 150.
    wear : int
        Paintings it has served.
    """

    shape: str
    width_mm: float
    wear: int = 0

    @property
    def fine_mm(self) -> float:
        """The narrowest mark it leaves, mm."""
        return self.width_mm * SHAPES[self.shape] * (1 + min(self.wear, 2 * MOST_WEAR) / MOST_WEAR)

    def words(self) -> str:
        """Return e.g. ``"12 mm flat"``."""
        return f"{mm_words(self.width_mm)} {self.shape}"


DEFAULT_KIT: tuple[Brush, ...] = (
    Brush("flat", 40),
    Brush("flat", 25),
    Brush("flat", 12),
    Brush("filbert", 8),
    Brush("filbert", 5),
    Brush("bright", 3),
    Brush("mop", 15),
    Brush("fan", 20),
    Brush("comb", 10),
    Brush("dagger", 6),
    Brush("round", 2.5),
    Brush("round", 1.5),
    Brush("liner", 1),
    Brush("liner", 0.6),
)


@dataclass(frozen=True, slots=True)
class BrushChoice:
    """The brush for a zone in a pass.

    Attributes
    ----------
    brush : Brush
    mark_mm : float
        Width of its mark there.
    made_as : str
        What becomes of a hair: "mass", "hair", "clump" of several, or "hint" of many.
    why : str
        Measure and rule.
    """

    brush: Brush
    mark_mm: float
    made_as: str
    why: str


def finest_mm(kit: Sequence[Brush]) -> float:
    """Return the narrowest mark the kit leaves (0 without brushes)."""
    return min((brush.fine_mm for brush in kit if brush.shape in HAIRS), default=0.0)


def brush_for_mass(kit: Sequence[Brush], inscribed_mm: float, most_mm: float) -> BrushChoice | None:
    """Return the largest flat, filbert or bright that fits into a zone; else the smallest brush there is.

    Parameters
    ----------
    kit : sequence of Brush
    inscribed_mm : float
        Width of the widest disc in the zone.
    most_mm : float
        The pass takes none wider.

    Returns
    -------
    BrushChoice or None
        None where not even the smallest brush fits into the zone. Never wider than `inscribed_mm`.
    """
    room = min(FITS * inscribed_mm, most_mm)
    fits = [b for b in kit if b.shape in MASSES and b.width_mm <= room]
    if not fits:
        fits = [b for b in kit if b.shape in (*MASSES, *HAIRS) and b.shape != "comb" and b.width_mm <= inscribed_mm]
        fits = sorted(fits, key=lambda b: b.width_mm)[:1]
    if not fits:
        return None
    brush = max(fits, key=lambda b: b.width_mm)
    return BrushChoice(brush, brush.width_mm, "mass", f"{mm_words(inscribed_mm)} at its widest; the largest that fits")


def brush_for_hair(kit: Sequence[Brush], mark_mm: float, coat: Coat, inscribed_mm: float) -> BrushChoice | None:
    """Return the largest brush that still draws a mark this wide; a thinner hair becomes a clump or a hint.

    Parameters
    ----------
    kit : sequence of Brush
    mark_mm : float
        Width the pass wants.
    coat : Coat
        Its clump is as wide as the brush may be.
    inscribed_mm : float

    Returns
    -------
    BrushChoice or None
        None without a brush for hairs that fits into the zone. Never wider than `inscribed_mm`.
    """
    room = min(inscribed_mm, max(coat.clump_mm, 3 * mark_mm))
    usable = [b for b in kit if b.shape in HAIRS and b.width_mm <= inscribed_mm]
    able = [b for b in usable if b.fine_mm <= mark_mm * 1.001]
    if able:
        roomy = [b for b in able if b.width_mm <= room]
        brush = max(roomy, key=lambda b: b.width_mm) if roomy else min(able, key=lambda b: b.width_mm)
        return BrushChoice(brush, mark_mm, "hair", f"marks {mm_words(mark_mm)} wide, tufts {mm_words(coat.clump_mm)}")
    if not usable:
        return None
    brush = min(usable, key=lambda b: b.fine_mm)
    # A mark that is hardly longer than wide shows no hair any more.
    made_as = "clump" if coat.length_mm >= 5 * brush.fine_mm else "hint"
    return BrushChoice(
        brush,
        brush.fine_mm,
        made_as,
        f"hair {mm_words(mark_mm)}, finest mark {mm_words(brush.fine_mm)}: {max(2, round(brush.fine_mm / mark_mm))} hairs a mark",
    )
