"""Make the ordered passes of a layered painting from its zones.

Dark to light: the range of values opens pass by pass, every pass has a ceiling it may not break, and
the top of the range is kept for the last lights over a small share of the area.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field, fields, replace

from foxpath.core.lengths.kit import DEFAULT_KIT, Brush, BrushChoice, brush_for_hair, brush_for_mass
from foxpath.core.zones.kinds import Coat, Kind

PASS_RANGES: dict[str, tuple[float, float]] = {
    "l_low": (0.0, 100.0),
    "l_high": (0.0, 100.0),
    "ceiling": (0.0, 100.0),
    "coverage": (0.0, 8.0),
    "brush_mm": (0.2, 100.0),
    "length_share": (0.1, 4.0),
    "spread_share": (0.0, 4.0),
}
"""Least and most of each number of a pass that can be edited."""


@dataclass(frozen=True, slots=True)
class Role:
    """What a pass is for, and its usual numbers.

    Attributes
    ----------
    key, name, reason : str
    band : (low, high)
        L* of its paint.
    ceiling : float
        The lightest L* any of its marks may have.
    coverage : float
        Area of marks over area of zone; marks overlap.
    length_share, spread_share : float
        Times the coat's own length and spread.
    width_share : float
        Mark width as a multiple of the coat's; block-in passes take the brush instead.
    block_in : bool
        Laid with the largest brush that fits the zone.
    opacity : float
    fat : float
        Oil in the paint, 0 (lean) to 1.
    beneath : str
        What the layer below must be: wet, tacky or touch-dry.
    belongs : float
        Share of a zone where paint of this role usually belongs (0..1); marks are laid only there.
    acts : str
        Key of the pass of layered oil it acts as; empty for itself.
    thickness : float
        Of the paint, 0 (a stain) to 1 (body).
    tint : float
        Strength of its colours over the reference's: 0 greys, 1 as they are, over 1 a glaze.
    paint : "oil" or "acrylic"
    """

    key: str
    name: str
    reason: str
    band: tuple[float, float]
    ceiling: float
    coverage: float
    length_share: float
    spread_share: float
    width_share: float
    block_in: bool
    opacity: float
    fat: float
    beneath: str
    belongs: float = 1.0
    acts: str = ""
    thickness: float = 0.3
    tint: float = 1.0
    paint: str = "oil"

    @property
    def act(self) -> str:
        """What it does: the key of the pass of layered oil it acts as."""
        return self.acts or self.key


ROLES: dict[str, Role] = {
    role.key: role
    for role in (
        Role("ground", "Ground", "A middle tone, so that lights and darks can both be judged.",
             (44, 56), 58, 4.0, 1.0, 1.0, 1.0, True, 0.85, 0.05, "touch-dry", thickness=0.1),
        Role("darks", "Darks", "The dark masses first, thin: they carry the form.",
             (6, 30), 34, 2.2, 1.0, 1.2, 5.0, True, 0.92, 0.15, "touch-dry", 0.4, thickness=0.15),
        Role("midtones", "Midtones", "Between the darks, still below every light.",
             (22, 56), 60, 2.2, 1.0, 1.2, 4.0, True, 0.85, 0.2, "wet", thickness=0.25),
        Role("background", "Background", "Soft and whole, before any hair lies over it.",
             (8, 74), 78, 3.4, 1.0, 1.0, 1.0, True, 0.75, 0.25, "touch-dry", thickness=0.3),
        Role("undercoat", "Undercoat", "Soft and dark, so that the top coat has something to lie on.",
             (8, 60), 64, 3.4, 1.05, 1.1, 1.4, False, 0.8, 0.35, "touch-dry", thickness=0.35),
        Role("restated", "Restated darks", "Into the gaps between hairs, so that the lights stand out.",
             (3, 30), 32, 2.0, 0.85, 0.9, 0.65, False, 0.85, 0.4, "touch-dry", 0.35, thickness=0.35),
        Role("lights", "Top coat", "The coat itself, hair by hair, below the last lights.",
             (8, 86), 88, 5.0, 1.0, 1.0, 0.65, False, 0.9, 0.5, "touch-dry", 0.62, thickness=0.6),
        Role("highlights", "Highlights", "Only where the light strikes, and on a small share.",
             (60, 96), 97, 0.45, 0.8, 0.9, 0.7, False, 0.9, 0.6, "touch-dry", 0.06, thickness=0.95),
        Role("whiskers", "Whiskers", "Last, each in one stroke from root to tip.",
             (10, 97), 98, 0.5, 1.0, 1.0, 1.0, False, 0.95, 0.6, "touch-dry", thickness=0.9),
    )
}  # fmt: skip
"""In the order they are painted."""


@dataclass(frozen=True, slots=True)
class ZoneFacts:
    """What the plan needs of a zone.

    Attributes
    ----------
    kind : Kind
    coat : Coat
    area_cm2 : float
        Visible area on the canvas.
    inscribed_mm : float
        Width of the widest disc in it.
    lengths : (least, most)
        Of its marks over the zone, as multiples of the coat's.
    width, mark_area : float
        Mean width and mean area of its marks, as multiples of the coat's.
    """

    kind: Kind
    coat: Coat
    area_cm2: float
    inscribed_mm: float
    lengths: tuple[float, float] = (1.0, 1.0)
    width: float = 1.0
    mark_area: float = 1.0


@dataclass(frozen=True, slots=True)
class PassEdit:
    """What the painter decided of a pass; None keeps the plan's number. Units as in `PassPlan`."""

    on: bool | None = None
    l_low: float | None = None
    l_high: float | None = None
    ceiling: float | None = None
    coverage: float | None = None
    brush_mm: float | None = None
    length_share: float | None = None
    spread_share: float | None = None

    def decided(self) -> tuple[str, ...]:
        """Return the names of the numbers that are decided."""
        return tuple(f.name for f in fields(self) if getattr(self, f.name) is not None)


@dataclass(frozen=True, slots=True)
class PassPlan:
    """One ordered layer.

    Attributes
    ----------
    role : Role
    on : bool
    l_low, l_high : float
        Value band, L*.
    ceiling : float
        L*; no mark is lighter.
    coverage : float
    brush_mm : float
        The widest mark of the pass.
    length_share, spread_share : float
    zones : tuple of int
        Indices of the zones it covers, back to front.
    length_mm : (least, most)
        Lengths of its marks over its zones.
    spread_deg : (least, most)
    minutes : float
        Painting time, estimated from the area and the marks.
    marks : int
        How many marks that is, estimated.
    edit : PassEdit
    brushes : dict of int to BrushChoice
        The brush of the kit for each zone, by its index; none where no brush fits.
    """

    role: Role
    on: bool
    l_low: float
    l_high: float
    ceiling: float
    coverage: float
    brush_mm: float
    length_share: float
    spread_share: float
    zones: tuple[int, ...]
    length_mm: tuple[float, float]
    spread_deg: tuple[float, float]
    minutes: float
    marks: int
    edit: PassEdit = PassEdit()
    brushes: dict[int, BrushChoice] = field(default_factory=dict)

    def mark_of(self, index: int, zone: ZoneFacts) -> Coat:
        """Return length, width and order of this pass's marks in a zone."""
        choice = self.brushes.get(index)
        return _mark(self.role, self.brush_mm, self.length_share, self.spread_share, zone, choice)


def brush_words(plan: PassPlan) -> str:
    """Name the brushes that lie ready for a pass, broadest first, e.g. "12 mm flat, 5 mm filbert"; empty without any."""
    used = {choice.brush for choice in plan.brushes.values()}
    return ", ".join(brush.words() for brush in sorted(used, key=lambda brush: -brush.width_mm))


def _mark(
    role: Role, brush_mm: float, length_share: float, spread_share: float, zone: ZoneFacts, choice: BrushChoice | None
) -> Coat:
    coat = zone.coat
    length = coat.length_mm * length_share
    width = choice.mark_mm if choice is not None else _wanted_mm(role, brush_mm, zone)
    if role.block_in:
        # Long hair is blocked in by masses: a brush's mark is three to five times as long as wide.
        length = max(min(length, 5 * width), 3.2 * width)
    return replace(coat, length_mm=length, width_mm=width, spread_deg=min(coat.spread_deg * spread_share, 90))


def _wanted_mm(role: Role, brush_mm: float, zone: ZoneFacts) -> float:
    """Return how wide the pass's marks should be in a zone, whatever brushes there are."""
    if role.block_in:
        return min(brush_mm, max(zone.coat.width_mm, zone.inscribed_mm * 0.3))
    return min(brush_mm, zone.coat.width_mm * role.width_share)


def _choice(role: Role, brush_mm: float, zone: ZoneFacts, kit: Sequence[Brush], canvas_mm: float) -> BrushChoice | None:
    """Return the brush of the kit for a zone: by its room for masses, by clump and hair for the coat."""
    if role.act == "ground":
        # The ground is laid over the whole canvas in one.
        return brush_for_mass(kit, canvas_mm, brush_mm)
    wanted = _wanted_mm(role, brush_mm, zone)
    if role.block_in:
        return brush_for_mass(kit, zone.inscribed_mm, wanted)
    return brush_for_hair(kit, wanted, zone.coat, zone.inscribed_mm)


_MARK_FILL = 0.62
"""Area of a tapered mark over the rectangle around it."""


def mark_count(coverage: float, area_cm2: float, mark: Coat, mark_area: float = 1.0) -> int:
    """Return how many marks cover an area `coverage` times; `mark_area` is their mean area over that of `mark`."""
    area_mm2 = mark.length_mm * mark.width_mm * _MARK_FILL * mark_area
    return max(0, round(coverage * area_cm2 * 100 / max(area_mm2, 1e-3)))


def _brush(role: Role, zones: Sequence[ZoneFacts], canvas_mm: float) -> float:
    """The largest brush that fits: by inscribed width for masses, by the coat for hair."""
    if role.act == "ground":
        return canvas_mm * 0.08
    if role.block_in:
        widest = max(zone.inscribed_mm for zone in zones)
        return min(widest * 0.3, canvas_mm * (0.05 if role.act == "background" else 0.028))
    return max(zone.coat.width_mm for zone in zones) * role.width_share


def plan_passes(
    zones: Sequence[ZoneFacts],
    canvas_mm: float,
    edits: dict[str, PassEdit],
    order: Sequence[str] = (),
    kit: Sequence[Brush] = DEFAULT_KIT,
    roles: dict[str, Role] = ROLES,
) -> tuple[PassPlan, ...]:
    """Plan the passes.

    Parameters
    ----------
    zones : sequence of ZoneFacts
        Back to front.
    canvas_mm : float
        Longer side of the canvas.
    edits : dict of role key to PassEdit
    order : sequence of role keys
        The painter's order; roles it does not name follow in the usual order.
    kit : sequence of Brush
    roles : dict of role key to Role
        The school's passes in their usual order.

    Returns
    -------
    tuple of PassPlan
        Only roles that some zone takes part in; empty without zones.
    """
    keys = [key for key in order if key in roles] + [key for key in roles if key not in order]
    plans = []
    for key in dict.fromkeys(keys):
        role = roles[key]
        members = tuple(k for k, zone in enumerate(zones) if role.act in zone.kind.passes and zone.area_cm2 > 0)
        if not members:
            continue
        edit = edits.get(key, PassEdit())
        usual = {
            "l_low": role.band[0],
            "l_high": role.band[1],
            "ceiling": role.ceiling,
            "coverage": role.coverage,
            "brush_mm": _brush(role, [zones[k] for k in members], canvas_mm),
            "length_share": role.length_share,
            "spread_share": role.spread_share,
        }
        value = {}
        for name, given in usual.items():
            chosen = getattr(edit, name)
            least, most = PASS_RANGES[name]
            value[name] = min(max(float(given if chosen is None else chosen), least), most)
        shares = value["brush_mm"], value["length_share"], value["spread_share"]
        found = {k: _choice(role, value["brush_mm"], zones[k], kit, canvas_mm) for k in members}
        brushes = {k: choice for k, choice in found.items() if choice is not None}
        marks = [_mark(role, *shares, zones[k], brushes.get(k)) for k in members]
        counts = [
            mark_count(
                value["coverage"] * role.belongs, zones[k].area_cm2, mark, 1 if role.block_in else zones[k].mark_area
            )
            for k, mark in zip(members, marks, strict=True)
        ]
        lengths = [
            mark.length_mm * (1 if role.block_in else share)
            for k, mark in zip(members, marks, strict=True)
            for share in zones[k].lengths
        ]
        plans.append(
            PassPlan(
                role=role,
                on=True if edit.on is None else edit.on,
                **value,
                zones=members,
                length_mm=(min(lengths), max(lengths)),
                spread_deg=(min(m.spread_deg for m in marks), max(m.spread_deg for m in marks)),
                minutes=_minutes(role, counts, marks),
                marks=sum(counts),
                edit=edit,
                brushes=brushes,
            )
        )
    return tuple(plans)


def _minutes(role: Role, counts: Sequence[int], marks: Sequence[Coat]) -> float:
    """Estimate painting time: a long mark takes longer, a hand lays several hairs in one breath.

    A default pace, until the painter's own is known: 0.9 s and 10 ms a millimetre for each mark, of
    which a rake or a split brush lays three at once in the coat passes.
    """
    at_once = 1.0 if role.block_in else 3.0
    seconds = sum(n * (0.9 + 0.01 * mark.length_mm) for n, mark in zip(counts, marks, strict=True))
    return 10 + seconds / 60 / at_once
