"""Make the ordered passes of a layered painting from its zones.

Dark to light: the range of values opens pass by pass, every pass has a ceiling it may not break, and
the top of the range is kept for the last lights over a small share of the area.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field, fields, replace
from typing import Any

from foxpath.core.lengths.choice import BrushChoice, blender_for, brush_for_hair, brush_for_mass, liked_choice
from foxpath.core.lengths.kit import DEFAULT_KIT, Brush
from foxpath.core.passes.pace import USUAL_PACE, Pace
from foxpath.core.passes.roles import FINISHING, ROLES, STRONGEST, WARMEST, Role
from foxpath.core.zones.kinds import Coat, Kind

PASS_RANGES: dict[str, tuple[float, float]] = {
    "l_low": (0.0, 100.0),
    "l_high": (0.0, 100.0),
    "ceiling": (0.0, 100.0),
    "coverage": (0.0, 8.0),
    "brush_mm": (0.2, 100.0),
    "length_share": (0.1, 4.0),
    "spread_share": (0.0, 4.0),
    "opacity": (0.05, 1.0),
    "fat": (0.0, 1.0),
    "thickness": (0.0, 1.0),
    "tint": (0.0, 2.0),
    "chroma": (0.0, STRONGEST),
    "lean": (-20.0, 20.0),
    "coolest": (-WARMEST, WARMEST),
    "warmest": (-WARMEST, WARMEST),
}
"""Least and most of each number of a pass that can be edited."""
OF_PART = ("l_low", "l_high", "ceiling", "coverage", "brush_mm", "length_share", "spread_share")
"""Those that a part may have of its own in a pass."""
OF_PAINT = ("opacity", "fat", "thickness", "tint", "chroma", "lean", "coolest", "warmest")
"""Those that say how the paint is, and belong to the role itself."""


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
    id : str
        The zone's own.
    school : str
        Key of the school it is painted in; empty for the painting's.
    liked : tuple of (str, Brush)
        Brushes the painter asked for, by the key of a pass.
    feather_mm : float
        Median width of its leading feathers; 0 where none is worth painting by itself.
    """

    kind: Kind
    coat: Coat
    area_cm2: float
    inscribed_mm: float
    lengths: tuple[float, float] = (1.0, 1.0)
    width: float = 1.0
    mark_area: float = 1.0
    id: str = ""
    school: str = ""
    feather_mm: float = 0.0
    liked: tuple[tuple[str, Brush], ...] = ()


@dataclass(frozen=True, slots=True)
class PartEdit:
    """A part's own numbers in a pass; None keeps the pass's. Units as in `PassPlan`."""

    zone: str
    l_low: float | None = None
    l_high: float | None = None
    ceiling: float | None = None
    coverage: float | None = None
    brush_mm: float | None = None
    length_share: float | None = None
    spread_share: float | None = None

    def decided(self) -> dict[str, Any]:
        """Return the numbers that are decided, by their names."""
        return {name: float(value) for name in OF_PART if (value := getattr(self, name)) is not None}


@dataclass(frozen=True, slots=True)
class PassEdit:
    """What the painter decided of a pass; None keeps the plan's number. Units as in `PassPlan` and `Role`.

    `left_out` names zones (by their id) that the pass is not to paint; `parts` has numbers for single zones.
    """

    on: bool | None = None
    l_low: float | None = None
    l_high: float | None = None
    ceiling: float | None = None
    coverage: float | None = None
    brush_mm: float | None = None
    length_share: float | None = None
    spread_share: float | None = None
    opacity: float | None = None
    fat: float | None = None
    thickness: float | None = None
    tint: float | None = None
    chroma: float | None = None
    lean: float | None = None
    coolest: float | None = None
    warmest: float | None = None
    beneath: str | None = None
    handling: str | None = None
    left_out: tuple[str, ...] = ()
    parts: tuple[PartEdit, ...] = ()

    def part(self, zone: str) -> PartEdit | None:
        """Return a zone's own numbers, or None."""
        return next((one for one in self.parts if one.zone == zone), None)

    def decided(self) -> tuple[str, ...]:
        """Return the names of what is decided."""
        return tuple(f.name for f in fields(self) if getattr(self, f.name) not in (None, ()))


@dataclass(frozen=True, slots=True)
class Estimate:
    """What a pass takes in one zone.

    Attributes
    ----------
    marks : int
    minutes : float
    area_cm2 : float
        Paint laid, overlaps counted.
    """

    marks: int
    minutes: float
    area_cm2: float


@dataclass(frozen=True, slots=True)
class PassPlan:
    """One ordered layer.

    Attributes
    ----------
    role : Role
        As it is painted: what the painter decided of its paint is in it.
    usual : Role
        As the school has it.
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
        Painting time, estimated from the marks at the painter's pace.
    usual_minutes : float
        The same at the usual pace, against which the painter's own is learned.
    marks : int
        How many marks that is, estimated.
    estimates : dict of int to Estimate
        The same for each zone; the minutes to get ready are in none of them.
    edit : PassEdit
    brushes : dict of int to BrushChoice
        The brush of the kit for each zone, by its index; none where no brush fits.
    own : dict of int to PassPlan
        The same pass as it is in zones with numbers of their own.
    """

    role: Role
    usual: Role
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
    usual_minutes: float
    marks: int
    estimates: dict[int, Estimate] = field(default_factory=dict)
    edit: PassEdit = PassEdit()
    brushes: dict[int, BrushChoice] = field(default_factory=dict)
    own: "dict[int, PassPlan]" = field(default_factory=dict)

    def at(self, index: int) -> "PassPlan":
        """Return the pass as it is in a zone: with that zone's own numbers."""
        return self.own.get(index, self)

    def mark_of(self, index: int, zone: ZoneFacts) -> Coat:
        """Return length, width and order of this pass's marks in a zone."""
        here = self.at(index)
        choice = here.brushes.get(index)
        return _mark(here.role, here.brush_mm, here.length_share, here.spread_share, zone, choice)


def brush_words(plan: PassPlan) -> str:
    """Name the brushes that lie ready for a pass, broadest first, e.g. "12 mm flat, 5 mm filbert"; empty without any."""
    used = {choice.brush for choice in plan.brushes.values()}
    return ", ".join(brush.words() for brush in sorted(used, key=lambda brush: -brush.width_mm))


BLENDED = ("background", "midtones")
"""Passes whose masses are blended after they are laid, where the kit has a brush for it."""
BARBED = ("restated", "lights", "highlights")
"""Passes whose marks on a feather are barbs."""
VANED: dict[str, tuple[float, float]] = {
    "undercoat": (0.15, 0.55),
    "restated": (0.055, 0.28),
    "lights": (0.055, 0.3),
    "highlights": (0.055, 0.28),
}
"""Passes that paint the vanes of leading feathers: width and length of their marks over the width of a feather."""
CURLY_DEG, CURL_LENGTH, CURL_SPREAD = 60.0, 0.8, 0.3
"""From this curl on a coat is laid in C and S strokes and dabs: how long they are over the hair, and how they cross."""
VANE_SPREAD = 0.4
"""Barbs cross less than hair does."""
BARB_SHARE = 0.39
"""Length of a barb over that of its feather, about."""


def _mark(
    role: Role, brush_mm: float, length_share: float, spread_share: float, zone: ZoneFacts, choice: BrushChoice | None
) -> Coat:
    coat = zone.coat
    length = coat.length_mm * length_share
    width = choice.mark_mm if choice is not None else _wanted_mm(role, brush_mm, zone)
    if role.block_in:
        # Long hair is blocked in by masses: a brush's mark is three to five times as long as wide.
        length = max(min(length, 5 * width), 3.2 * width)
    elif zone.feather_mm > 0 and role.act in VANED:
        # Short enough to keep the bars of a vane, and its edge.
        length, coat = VANED[role.act][1] * zone.feather_mm, replace(coat, clump_mm=0.0, stray_share=0.0)
        spread_share *= VANE_SPREAD
    elif coat.curl_deg >= CURLY_DEG:
        # No single direction crosses another: each lock bends its own way.
        length, spread_share = length * CURL_LENGTH, spread_share * CURL_SPREAD
    elif zone.kind.feathers and role.act in BARBED:
        # What is drawn over a feather's body are its barbs.
        length *= BARB_SHARE
    return replace(coat, length_mm=length, width_mm=width, spread_deg=min(coat.spread_deg * spread_share, 90))


def _wanted_mm(role: Role, brush_mm: float, zone: ZoneFacts) -> float:
    """Return how wide the pass's marks should be in a zone, whatever brushes there are."""
    if role.block_in:
        broad = max(zone.coat.width_mm, zone.inscribed_mm * 0.3)
        return min(brush_mm, broad * role.width_share if role.act == "background" else broad)
    if zone.feather_mm > 0 and role.act in VANED:
        return min(brush_mm, VANED[role.act][0] * zone.feather_mm)
    return min(brush_mm, zone.coat.width_mm * role.width_share)


def _choice(role: Role, brush_mm: float, zone: ZoneFacts, kit: Sequence[Brush], canvas_mm: float) -> BrushChoice | None:
    """Return the brush of the kit for a zone: by its room for masses, by clump and hair for the coat."""
    if role.act == "ground":
        # The ground is laid over the whole canvas in one.
        return brush_for_mass(kit, canvas_mm, brush_mm)
    wanted = _wanted_mm(role, brush_mm, zone)
    if role.block_in:
        usual = brush_for_mass(kit, zone.inscribed_mm, wanted)
        if usual is not None and role.act in BLENDED:
            usual = replace(usual, then=blender_for(kit, zone.inscribed_mm))
    else:
        usual = brush_for_hair(kit, wanted, zone.coat, zone.inscribed_mm, role.act)
    asked = dict(zone.liked).get(role.key)
    if asked is not None and asked in kit:
        return liked_choice(asked, wanted, mass=role.block_in, usual=usual)
    return usual


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
    if not zones:
        return PASS_RANGES["brush_mm"][0]
    if role.block_in:
        widest = max(zone.inscribed_mm for zone in zones)
        # Only the room limits it, not a share of the canvas; forms and lights of a background are smaller.
        return widest * 0.3 * (role.width_share if role.act == "background" else 1.0)
    return max(zone.coat.width_mm for zone in zones) * role.width_share


def plan_passes(
    zones: Sequence[ZoneFacts],
    canvas_mm: float,
    edits: dict[str, PassEdit],
    order: Sequence[str] = (),
    kit: Sequence[Brush] = DEFAULT_KIT,
    roles: dict[str, Role] = ROLES,
    pace: Pace = USUAL_PACE,
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
    pace : Pace
        The painter's.

    Returns
    -------
    tuple of PassPlan
        Only roles that some zone takes part in; empty without zones.
    """
    keys = [key for key in order if key in roles] + [key for key in roles if key not in order]
    plans = []
    finished: set[int] = set()
    for key in dict.fromkeys(keys):
        role = roles[key]
        members = [k for k, zone in enumerate(zones) if _takes_part(role, zone) and _open(role, k, finished)]
        if not members:
            continue
        edit = edits.get(key, PassEdit())
        on = True if edit.on is None else edit.on
        if on and role.act in FINISHING:
            finished.update(members)
        left = tuple(k for k in members if zones[k].id not in edit.left_out)
        plans.append(_plan_pass(role, edit, on, left, zones, canvas_mm, kit, pace))
    return tuple(plans)


def _takes_part(role: Role, zone: ZoneFacts) -> bool:
    if role.only:
        # A shadow on a coat is no part that is painted, and may have its veil.
        return zone.id == role.only and zone.area_cm2 > 0
    if role.veil is not None:
        return zone.kind.painted and zone.kind.cover and zone.area_cm2 > 0
    return role.act in zone.kind.passes and zone.area_cm2 > 0 and (not role.schools or zone.school in role.schools)


def _open(role: Role, index: int, finished: set[int]) -> bool:
    """Tell whether a zone is still to be painted when a pass's turn comes; a veil lies over what is finished."""
    return index not in finished or role.act in FINISHING or role.veil is not None


def _plan_pass(
    role: Role,
    edit: PassEdit,
    on: bool,  # noqa: FBT001
    members: tuple[int, ...],
    zones: Sequence[ZoneFacts],
    canvas_mm: float,
    kit: Sequence[Brush],
    pace: Pace,
) -> PassPlan:
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
    for name, given in [*usual.items(), *((name, getattr(role, name)) for name in OF_PAINT)]:
        chosen = getattr(edit, name)
        least, most = PASS_RANGES[name]
        value[name] = min(max(float(given if chosen is None else chosen), least), most)
    paint: dict[str, Any] = {name: value.pop(name) for name in OF_PAINT}
    said = {name: getattr(edit, name) for name in ("beneath", "handling") if getattr(edit, name) is not None}
    made = replace(role, **paint, **said)
    shares = value["brush_mm"], value["length_share"], value["spread_share"]
    found = {k: _choice(role, value["brush_mm"], zones[k], kit, canvas_mm) for k in members}
    brushes = {k: choice for k, choice in found.items() if choice is not None}
    marks = {k: _mark(role, *shares, zones[k], brushes.get(k)) for k in members}
    factor = pace.factor(role.act)
    estimates = {k: _estimate(role, value["coverage"], zones[k], marks[k], factor) for k in members}
    own = {}
    for k in members:
        part = edit.part(zones[k].id)
        if part is None or not (numbers := part.decided()):
            continue
        own[k] = _plan_pass(role, replace(edit, parts=(), **numbers), on, (k,), zones, canvas_mm, kit, pace)
        estimates[k], marks[k] = own[k].estimates[k], own[k].mark_of(k, zones[k])
        if k in own[k].brushes:
            brushes[k] = own[k].brushes[k]
    lengths = [marks[k].length_mm * (1 if role.block_in else share) for k in members for share in zones[k].lengths] or [
        0.0
    ]
    spreads = [mark.spread_deg for mark in marks.values()] or [0.0]
    work = sum(one.minutes for one in estimates.values())
    return PassPlan(
        role=made,
        usual=role,
        on=on,
        **value,
        zones=members,
        length_mm=(min(lengths), max(lengths)),
        spread_deg=(min(spreads), max(spreads)),
        minutes=READY_MIN * factor + work if members else 0.0,
        usual_minutes=READY_MIN + work / factor if members else 0.0,
        marks=sum(one.marks for one in estimates.values()),
        estimates=estimates,
        edit=edit,
        brushes=brushes,
        own=own,
    )


READY_MIN = 10.0
"""To lay out paint and brushes for a pass, minutes."""


def _estimate(role: Role, coverage: float, zone: ZoneFacts, mark: Coat, factor: float) -> Estimate:
    """Estimate a zone's share of a pass: a long mark takes longer, a hand lays several hairs in one breath.

    At the usual pace 0.9 s and 10 ms a millimetre for each mark, of which a rake or a split brush lays three at once in
    the coat passes.
    """
    varied = 1.0 if role.block_in else zone.mark_area
    count = mark_count(coverage * role.belongs, zone.area_cm2, mark, varied)
    at_once = 1.0 if role.block_in else 3.0
    seconds = count * (0.9 + 0.01 * mark.length_mm) / at_once
    area = count * mark.length_mm * mark.width_mm * _MARK_FILL * varied / 100
    return Estimate(count, seconds / 60 * factor, area)
