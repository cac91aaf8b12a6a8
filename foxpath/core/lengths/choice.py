"""Which brush is used where, how it is held and loaded, and why: the largest that fits, turned on its edge for the finest hairs."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from foxpath.core.lengths.kit import BLENDERS, EDGED, LINES, MASSES, TIPS, Brush, line_brush
from foxpath.core.units import mm_words
from foxpath.core.zones.kinds import Coat

FITS = 0.5
"""A brush for masses is at most this share of the widest place of a zone."""
FIRST_HAIR = ("undercoat",)
"""Acts that lay the first hair, tuft by tuft: with a rake, a filbert's flat side, or an old bristle nearly dry."""
LAST_HAIR = ("highlights", "whiskers", "eyes")
"""Acts whose few hairs are drawn with a tip before anything else."""
TOOTH = 1.5
"""A tooth of a rake may be so many times as wide as the mark that is wanted."""
RAKE_TUFT = 5.0
"""A rake is at most so many tufts wide, and this share of the widest place."""
RAKE_ROOM = 0.3
BLENDS_AT = 0.6
"""A blender is at most this share of the widest place."""
HOLDS: dict[str, str] = {
    "flat": "flat side",
    "edge": "on its edge",
    "corner": "its corner",
    "tip": "its tip",
    "teeth": "barely touching",
}
"""How a brush is held, in words."""


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
    hold : str
        Key of `HOLDS`.
    load : str
        "full", "wiped" or "nearly dry".
    pressure : str
        "firm", "light" or "barely touching".
    then : Brush or None
        The second brush of a two-brush step: for the single hairs after a rake, or to blend a mass.
    liked : bool
        Whether the painter asked for it.
    """

    brush: Brush
    mark_mm: float
    made_as: str
    why: str
    hold: str = "flat"
    load: str = "full"
    pressure: str = "light"
    then: Brush | None = None
    liked: bool = False

    def words(self) -> str:
        """Say brush, hold and load, e.g. "8 mm filbert on its edge, wiped"."""
        hold = "" if self.made_as == "mass" or self.hold == "flat" else f" {HOLDS[self.hold]}"
        load = "" if self.load == "full" else f", {self.load}"
        return f"{self.brush.words()}{hold}{load}"

    def follow_up(self) -> str:
        """Say the second brush of the step; empty without one."""
        if self.then is None:
            return ""
        if self.made_as == "mass":
            return f"laid crosswise, then blended with the {self.then.words()} until no stroke shows, while it is wet"
        return f"then the {self.then.words()} for single hairs"


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
        fits = [b for b in kit if b.shape in LINES and b.width_mm <= inscribed_mm]
        fits = sorted(fits, key=lambda b: b.width_mm)[:1]
    if not fits:
        # On its corner or edge a broad brush still reaches into a narrow place.
        edged = [b for b in kit if b.shape in EDGED and b.fine_mm <= FITS * inscribed_mm]
        if not edged:
            return None
        brush = min(edged, key=lambda b: b.width_mm)
        mark = min(max(brush.fine_mm, 0.3 * inscribed_mm), inscribed_mm)
        why = f"{mm_words(inscribed_mm)} at its widest: with the corner of the smallest"
        return BrushChoice(brush, mark, "mass", why, "corner")
    brush = max(fits, key=lambda b: b.width_mm)
    why = f"{mm_words(inscribed_mm)} at its widest; the largest that fits"
    return BrushChoice(brush, brush.width_mm, "mass", why, "flat", "full", "firm")


def blender_for(kit: Sequence[Brush], inscribed_mm: float) -> Brush | None:
    """Return the largest mop or fan that fits into an area to be blended, or None."""
    fits = [b for b in kit if b.shape in BLENDERS and b.width_mm <= BLENDS_AT * inscribed_mm]
    return max(fits, key=lambda b: (b.shape == "mop", b.width_mm), default=None)


def brush_for_hair(
    kit: Sequence[Brush], mark_mm: float, coat: Coat, inscribed_mm: float, act: str = "lights"
) -> BrushChoice | None:
    """Return the largest brush that still draws a mark this wide, and how it is held; a thinner hair becomes a clump or a hint.

    First hair is laid tuft by tuft with a rake, where tufts allow, or with a filbert's flat side. After that a filbert
    turned on its edge is quicker than a liner; then come tips, then the edge or corner of a flat or bright. The last
    hairs are drawn with a tip first.

    Parameters
    ----------
    kit : sequence of Brush
    mark_mm : float
        Width the pass wants.
    coat : Coat
        Its clump is as wide as a tip brush may be.
    inscribed_mm : float
    act : str
        What the pass does.

    Returns
    -------
    BrushChoice or None
        None without a brush for lines that reaches into the zone.
    """
    if act in FIRST_HAIR:
        first = _first_hair(kit, mark_mm, coat, inscribed_mm)
        if first is not None:
            return first
    edges = [b for b in kit if b.shape in EDGED and b.fine_mm <= mark_mm * 1.001 and not b.rough]
    filberts = [b for b in edges if b.shape == "filbert" and b.width_mm <= inscribed_mm]
    tips = [b for b in kit if b.shape in TIPS and b.width_mm <= inscribed_mm and b.fine_mm <= mark_mm * 1.001]
    tip = _tip_choice(tips, mark_mm, coat, inscribed_mm)
    edge = _edge_choice(filberts, mark_mm)
    found = (tip, edge) if act in LAST_HAIR else (edge, tip)
    other = _edge_choice([b for b in edges if b.width_mm <= max(inscribed_mm, 12.0)], mark_mm)
    chosen = next((one for one in (*found, other) if one is not None), None)
    return chosen if chosen is not None else _too_coarse(kit, mark_mm, coat, inscribed_mm)


def _tip_choice(tips: Sequence[Brush], mark_mm: float, coat: Coat, inscribed_mm: float) -> BrushChoice | None:
    """Return the largest tip within a tuft, else the narrowest tip."""
    room = min(inscribed_mm, max(coat.clump_mm, 3 * mark_mm))
    roomy = [b for b in tips if b.width_mm <= room]
    if not tips:
        return None
    brush = max(roomy, key=lambda b: b.width_mm) if roomy else min(tips, key=lambda b: b.width_mm)
    why = f"marks {mm_words(mark_mm)} wide, tufts {mm_words(coat.clump_mm)}: the largest tip that draws them"
    return BrushChoice(brush, mark_mm, "hair", why, "tip", "wiped", "barely touching")


def _edge_choice(brushes: Sequence[Brush], mark_mm: float) -> BrushChoice | None:
    """Return the largest brush whose edge draws the mark."""
    if not brushes:
        return None
    brush = max(brushes, key=lambda b: b.width_mm)
    why = f"marks {mm_words(mark_mm)} wide: its edge leaves {mm_words(brush.fine_mm)}, and it is quicker than a liner"
    return BrushChoice(brush, mark_mm, "hair", why, "edge", "wiped", "barely touching")


def _first_hair(kit: Sequence[Brush], mark_mm: float, coat: Coat, inscribed_mm: float) -> BrushChoice | None:
    """Return what lays the first hair in tufts: an old bristle, a rake, or a filbert's flat side; None where only tips fit."""
    liner = line_brush(kit, 0.7 * mark_mm)
    room = RAKE_ROOM * inscribed_mm
    if coat.clump_mm > 0:
        rakes = [
            b for b in kit
            if b.shape == "rake" and b.fine_mm <= TOOTH * mark_mm and b.width_mm <= min(room, RAKE_TUFT * coat.clump_mm)
        ]  # fmt: skip
        if rakes:
            rake = max(rakes, key=lambda b: b.width_mm)
            why = (
                f"tufts {mm_words(coat.clump_mm)} wide: its teeth of {mm_words(rake.fine_mm)} lay several hairs at once"
            )
            return BrushChoice(rake, rake.fine_mm, "hair", why, "teeth", "wiped", "light", liner)
    tuft = max(coat.clump_mm, 3 * mark_mm)
    rough = [b for b in kit if b.rough and b.width_mm <= min(room, 2 * tuft)]
    if rough:
        old = max(rough, key=lambda b: b.width_mm)
        mark = max(mark_mm, min(old.fine_mm, tuft))
        why = f"an old bristle, nearly dry, breaks into hairs and lets what lies beneath show through; tufts {mm_words(tuft)}"
        return BrushChoice(old, mark, "hair", why, "flat", "nearly dry", "light", liner)
    return None


def _too_coarse(kit: Sequence[Brush], mark_mm: float, coat: Coat, inscribed_mm: float) -> BrushChoice | None:
    """Return the finest brush there is, whose mark stands for several hairs; None where none reaches into the zone."""
    usable = [b for b in kit if b.shape in LINES and (b.width_mm if b.shape in TIPS else b.fine_mm) <= inscribed_mm]
    if not usable:
        return None
    brush = min(usable, key=lambda b: b.fine_mm)
    # A mark that is hardly longer than wide shows no hair any more.
    made_as = "clump" if coat.length_mm >= 5 * brush.fine_mm else "hint"
    many = max(2, round(brush.fine_mm / mark_mm))
    why = f"hair {mm_words(mark_mm)}, finest mark {mm_words(brush.fine_mm)}: {many} hairs a mark"
    hold = "tip" if brush.shape in TIPS else "edge"
    return BrushChoice(brush, brush.fine_mm, made_as, why, hold, "wiped", "barely touching")


def liked_choice(brush: Brush, mark_mm: float, *, mass: bool, usual: BrushChoice | None) -> BrushChoice:
    """Return the choice of a brush that the painter asked for: as wide a mark as is wanted, or as its shape can make.

    Parameters
    ----------
    brush : Brush
    mark_mm : float
        Width the pass wants.
    mass : bool
        Whether it lays a mass.
    usual : BrushChoice or None
        What would be taken otherwise.
    """
    instead = f", instead of the {usual.brush.words()}" if usual is not None and usual.brush != brush else ""
    why = f"you asked for it{instead}"
    if mass:
        return BrushChoice(brush, brush.width_mm, "mass", why, "flat", "full", "firm", liked=True)
    hold = (
        "teeth"
        if brush.shape == "rake"
        else "tip"
        if brush.shape in TIPS
        else "edge"
        if brush.shape in EDGED
        else "flat"
    )
    mark = brush.fine_mm if hold == "teeth" else min(max(mark_mm, brush.fine_mm), brush.width_mm)
    load = "nearly dry" if brush.rough or hold == "flat" else "wiped"
    made_as = "hair" if mark <= 1.5 * mark_mm else "clump"
    return replace(BrushChoice(brush, mark, made_as, why, hold, load, "light"), liked=True)
