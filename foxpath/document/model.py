"""The project: a reference and the painter's decisions. Everything else is derived from it.

Every class is frozen; an edit makes a new project that shares what it did not touch, so that
``before.zones is after.zones`` tells that nothing about the zones has changed.
"""

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

import numpy as np

from foxpath.core.arrays import Points, frozen
from foxpath.core.commission import Commission
from foxpath.core.days.studio import Days
from foxpath.core.edges import Grade
from foxpath.core.eyes import Eye
from foxpath.core.feathers import TractEdit
from foxpath.core.features import Feature
from foxpath.core.fingerprint import fingerprint
from foxpath.core.frame import Crop
from foxpath.core.lengths import DEFAULT_KIT, Brush, CoatEdit, Form, default_coat, finest_mm, resolved
from foxpath.core.log.easel import Easel
from foxpath.core.log.entries import Entry
from foxpath.core.mixes.studio import Mixes
from foxpath.core.passes import (
    USUAL,
    Logged,
    OwnPass,
    Pace,
    PassEdit,
    Role,
    School,
    Veil,
    Ways,
    bend,
    learn,
    schools,
    under_light,
    with_own,
)
from foxpath.core.passes.schools import together
from foxpath.core.progress.spots import Spot
from foxpath.core.progress.touches import Touch
from foxpath.core.reference import mm_per_px
from foxpath.core.reference.compose import Pose
from foxpath.core.reference.correction import Correction
from foxpath.core.reference.departures import Departure
from foxpath.core.reference.fit import FINEST_MM
from foxpath.core.reference.light import Catchlight, Light
from foxpath.core.reference.transfer import Axes, Grid
from foxpath.core.units import CanvasSize
from foxpath.core.zones import Coat, Kind, OwnKind, ZoneShape, kind_of

Pairs = tuple[tuple[float, float], ...]
"""Points (x, y) in reference pixels, as they are stored."""

BARE = ""
"""The id that stands for bare canvas behind an edge."""


def pairs(points: Points) -> Pairs:
    """Round points to hundredths of a pixel for keeping."""
    return tuple((round(float(x), 2), round(float(y), 2)) for x, y in points)


def as_array(points: Pairs) -> Points:
    """Return stored points as an (N, 2) float64 array."""
    array: Points = frozen(np.array(points, dtype=np.float64).reshape(-1, 2))
    return array


@dataclass(frozen=True, slots=True, eq=False)
class Reference:
    """The picture, its bytes untouched.

    Attributes
    ----------
    name : str
        File name it came with.
    data : bytes
    width, height : int
        Upright pixels.
    digest : str
        SHA-256 of `data`.
    """

    name: str
    data: bytes
    width: int
    height: int
    digest: str


ROLES_OF_LENT = {
    "detail": "detail",
    "light": "light",
    "coat": "coat donor",
    "background": "background",
    "part": "part to place",
}
"""What a further picture is for, by the key it is stored under."""


@dataclass(frozen=True)
class Lent:
    """A further picture on the shelf, and the part of it that is placed on the main one.

    Attributes
    ----------
    id : str
    reference : Reference
    role : str
        Key of `ROLES_OF_LENT`.
    note : str
    pose : Pose
        How it lies on the main reference.
    cut : Pairs
        Outline of the part, its own pixels; empty for none.
    soft_mm : float
        Width of the part's edge, mm on the canvas.
    placed : bool
        Whether the part belongs to the composed reference.
    """

    id: str
    reference: Reference
    role: str
    note: str
    pose: Pose
    cut: Pairs = ()
    soft_mm: float = 1.0
    placed: bool = False


@dataclass(frozen=True, slots=True)
class Seeing:
    """How the picture is looked at.

    Attributes
    ----------
    distance_m : float
        From where it is squinted at.
    steps : int
        Values of the poster: 2, 3, 5 or 7.
    cuts : tuple of float
        L* thresholds of the poster; empty cuts the picture's own range evenly.
    falloff : float
        Strength of the focus falloff, 0 to 1.
    """

    distance_m: float = 3.0
    steps: int = 5
    cuts: tuple[float, ...] = ()
    falloff: float = 0.7


@dataclass(frozen=True, slots=True)
class Transfer:
    """How the drawing comes onto the canvas.

    Attributes
    ----------
    grid : Grid
    axes : Axes or None
        The head's own frame; None takes the eyes.
    rubbed, drawn : tuple of Pairs
        Strokes rubbed out of the line drawing, and lines added to it, reference pixels.
    """

    grid: Grid = field(default_factory=Grid)
    axes: Axes | None = None
    rubbed: tuple[Pairs, ...] = ()
    drawn: tuple[Pairs, ...] = ()


@dataclass(frozen=True, slots=True)
class LikedBrush:
    """A brush that the painter asked for in a pass.

    Attributes
    ----------
    act : str
        Key of the pass.
    brush : Brush
    """

    act: str
    brush: Brush


@dataclass(frozen=True)
class Zone:
    """A part that is painted alike.

    Attributes
    ----------
    id, name : str
    kind : str
        Key of its kind; of the kind an own one is a variety of.
    points : Pairs
        Outline; empty means the whole canvas.
    depth : int
    coat : CoatEdit
    hairs : tuple of Pairs
        Strokes dragged along hairs to measure them, reference pixels.
    own : OwnKind or None
        A kind of the painter's own.
    form : Form
    group : str
        Name of the animal it belongs to; empty for the only one, or none.
    tract : TractEdit
        How its feathers are laid.
    school : str
        Key of the school it is painted in; empty for the painting's.
    brushes : tuple of LikedBrush
        Brushes the painter asked for in some passes.
    soft_mm : float
        Of a marking: over so much its border gives way to the coat, mm on the canvas; 0 leaves it as the photograph has it.
    """

    id: str
    name: str
    kind: str
    points: Pairs
    depth: int
    coat: CoatEdit = field(default_factory=CoatEdit)
    hairs: tuple[Pairs, ...] = ()
    own: OwnKind | None = None
    form: Form = field(default_factory=Form)
    group: str = ""
    tract: TractEdit = field(default_factory=TractEdit)
    school: str = ""
    brushes: tuple[LikedBrush, ...] = ()
    soft_mm: float = 0.0

    @cached_property
    def shape(self) -> ZoneShape:
        """The outline as the computation wants it."""
        return ZoneShape(as_array(self.points), self.depth, kind_of(self.kind).cover)

    @property
    def whole(self) -> bool:
        """Whether the zone covers the whole canvas."""
        return len(self.points) < 3

    def kind_of(self) -> Kind:
        """Return the kind with its defaults."""
        return self.own.kind() if self.own is not None else kind_of(self.kind)

    def coat_on(self, canvas: CanvasSize) -> Coat:
        """Return the coat in mm on this canvas, without a donor: the default with the painter's decisions over it."""
        return resolved(default_coat(self.kind_of(), canvas), self.coat)

    def middle(self) -> tuple[float, float]:
        """Return the mean of its points, reference pixels. Raises `ValueError` for the whole canvas."""
        if self.whole:
            raise ValueError("the whole canvas has no outline")
        x, y = np.array(self.points).mean(axis=0)
        return float(x), float(y)


@dataclass(frozen=True)
class Comb:
    """A stroke along the hair, root to tip, that speaks for one zone; `kept` against what the picture says."""

    id: str
    zone: str
    points: Pairs
    kept: bool = False


MARKS = {
    "parting": "parting",
    "crown": "crown",
    "source": "grows away from here",
    "twin": "as its mirror twin",
    "donor": "borrows growth and coat",
}
"""What can be said of the growth besides combs, by the key it is stored under."""


@dataclass(frozen=True)
class Mark:
    """Something said of the growth.

    Attributes
    ----------
    id : str
    kind : str
        Key of `MARKS`.
    zone : str
        The zone it speaks for; empty for every zone it touches.
    points : Pairs
        A parting's line; a crown's or source's middle and a point on its rim; empty otherwise.
    turn_deg : float
        A crown's turn: 0 spreads, 90 circles clockwise, 180 gathers; a donor's: 180 lays it the other way round.
    source : str
        The zone that is mirrored or borrowed from; of a donor also a further picture with a part cut out.
    """

    id: str
    kind: str
    zone: str = ""
    points: Pairs = ()
    turn_deg: float = 0.0
    source: str = ""

    @property
    def radius(self) -> float:
        """A crown's or source's radius, reference pixels."""
        (ax, ay), (bx, by) = self.points[:2] if len(self.points) > 1 else ((0, 0), (0, 0))
        return float(np.hypot(bx - ax, by - ay))


@dataclass(frozen=True, slots=True)
class EdgeChoice:
    """The painter's word on the border between two zones (`back` is "" for bare canvas)."""

    front: str
    back: str
    grade: Grade
    width_mm: float


@dataclass(frozen=True, slots=True)
class EdgeStretch:
    """Part of a border with a width of its own, dragged along it (`back` is "" for bare canvas)."""

    id: str
    front: str
    back: str
    points: Pairs
    width_mm: float


@dataclass(frozen=True, slots=True)
class Fan:
    """Flight feathers of a zone, drawn by the first, the last (each root to tip) and their count."""

    id: str
    zone: str
    first: Pairs
    last: Pairs
    count: int


@dataclass(frozen=True, slots=True)
class Drawing:
    """A photograph of the painter's drawing or first lay-in, to be checked.

    Attributes
    ----------
    reference : Reference
    corners : Pairs
        Of the canvas in it, pixels of its own: top left, top right, bottom right, bottom left.
    marked : tuple of (key, strokes)
        Features that were marked on it by hand, by the key of what they answer; where they lie on the canvas, in pixels of
        the main reference.
    """

    reference: Reference
    corners: Pairs
    marked: tuple[tuple[str, tuple[Pairs, ...]], ...] = ()


@dataclass(frozen=True)
class CanvasPhoto:
    """A photograph of the canvas.

    Attributes
    ----------
    id : str
    reference : Reference
        Upright, and no larger than it serves (see `edits.progress.kept_photo`).
    taken : str
        ISO local minute.
    after : str
        Key of the last pass that was done; empty where that was not said.
    corners : Pairs
        Of the canvas in it as they were dragged, its own pixels, clockwise from the top left; empty where they are found.
    spots : tuple of Spot
        Places of known colour in it.
    border : str
        Key of `spots.BORDERS`: what lies all round the canvas; empty where nothing is known of that.
    """

    id: str
    reference: Reference
    taken: str
    after: str = ""
    corners: Pairs = ()
    spots: tuple[Spot, ...] = ()
    border: str = ""


@dataclass(frozen=True, slots=True)
class KeptPicture:
    """A picture that a note of the log or a photograph of the client's shows: kept once, upright, and no larger than it serves."""

    id: str
    reference: Reference


@dataclass(frozen=True, slots=True)
class Gone:
    """A part that the painting does without, or has elsewhere.

    Attributes
    ----------
    id : str
    zone : Zone
        As it was, where the photograph has it.
    combs : tuple of Comb
        What was said of its growth there.
    eyes : tuple of Eye
    features : tuple of Feature
        What lay in it, where it was left out.
    to : Pairs
        Its middle then and now, where it was moved: it is a zone still. Empty where it was left out.
    """

    id: str
    zone: Zone = field(metadata={"pixels": True})
    combs: tuple[Comb, ...] = field(default=(), metadata={"pixels": True})
    eyes: tuple[Eye, ...] = field(default=(), metadata={"pixels": True})
    features: tuple[Feature, ...] = field(default=(), metadata={"pixels": True})
    to: Pairs = field(default=(), metadata={"pixels": True})


@dataclass(frozen=True, slots=True)
class LeftAlone:
    """An area that is to stay as it is.

    Attributes
    ----------
    points : Pairs
        Its outline, reference pixels.
    after : str
        Key of the last pass that is laid there; empty where every pass is, and only the canvas is not judged.
    """

    points: Pairs = field(metadata={"pixels": True})
    after: str = ""


@dataclass(frozen=True, slots=True)
class Holds:
    """What a field of the project holds, for all that must find it (see `places`).

    Attributes
    ----------
    pixels : bool
        Places in pixels of the main picture.
    owner : str
        Name of the attribute that tells to which zone each of its things belongs.
    between : tuple of str
        Attributes that name further zones or pictures: a thing goes when one of them does.
    pictures : bool
        Pictures whose bytes lie in the file.
    """

    pixels: bool = False
    owner: str = ""
    between: tuple[str, ...] = ()
    pictures: bool = False


def holds(
    *, pixels: bool = False, owner: str = "", between: tuple[str, ...] = (), pictures: bool = False
) -> dict[str, Holds]:
    """Return the metadata of a field of the project."""
    return {"holds": Holds(pixels, owner, between, pictures)}


PLAIN = holds()
"""Of a field that holds nothing of the kind."""

FOCAL_ORDERS = {
    "": "back to front",
    "first": "focal area first",
    "last": "focal area last",
    "right": "left to right, for a right hand",
    "left": "right to left, for a left hand",
}
"""Which of the zones that are free to be painted comes first within a pass."""


@dataclass(frozen=True)
class Project:
    """Everything the painter has said.

    Attributes
    ----------
    name : str
    reference : Reference
    canvas : CanvasSize
    crop : Crop
        Part of the reference on the canvas; it has the canvas's aspect.
    focal : (x, y) or None
        Focal point, reference pixels.
    zones : tuple of Zone
        In order of making; `Zone.depth` says what lies in front.
    combs : tuple of Comb
    marks : tuple of Mark
        Partings, crowns, sources, twins, donors.
    edges : tuple of EdgeChoice
    stretches : tuple of EdgeStretch
        Parts of borders with a width of their own; later ones win.
    fans : tuple of Fan
    eyes : tuple of Eye
    features : tuple of Feature
        Nose, mouth, beak, ears, whiskers, paws.
    drawing : Drawing or None
        The last drawing that was checked.
    kit : tuple of Brush
        The painter's brushes.
    falloff : float
        How much broader marks become away from the focal point, 0 to 1.
    focal_order : str
        Key of `FOCAL_ORDERS`.
    weights : dict of animal to float
        How much the eye is to rest on each animal, 0 to 1; 1 where nothing is said.
    passes : dict of role key to PassEdit
    own_passes : tuple of OwnPass
        Passes laid once more, and veils, in the order they were added.
    pass_order : tuple of role keys
        Empty for the usual order.
    school : str
        Key of the school; of `own_school` when that has it.
    own_school : School or None
        A recipe the painter brought.
    ways : Ways
        Which sides are taken where painters disagree.
    noted, earlier : tuple of Logged
        Passes of this painting, and of earlier ones, as they were painted: the pace is learned from both.
    seed : int
        Seed of the rehearsal.
    next_id : int
        Number of the next zone, comb or further picture; ids are never used twice.
    main_note : str
        Note on the main picture.
    shelf : tuple of Lent
        Further pictures.
    correction : Correction
    gone : tuple of Gone
        Parts the painting does without, or has elsewhere.
    departures : tuple of Departure
        Where the painting differs from the reference on purpose, laid one after the other.
    seeing : Seeing
    spots : Pairs
        The chain of spots that are judged against one another, reference pixels.
    spot_mm : float
        Radius a spot is averaged over, mm on the canvas.
    light : Light or None
        None as long as the painter has not said.
    catchlights : tuple of Catchlight
        Marked on the eyes, as evidence of the light.
    transfer : Transfer
    mixes : Mixes
    days : Days
    told : tuple of Entry
        The log: what was said at the easel.
    easel : Easel
    commission : Commission
    pictures : tuple of KeptPicture
        What notes and the client's photographs show, by their ids.
    photos : tuple of CanvasPhoto
        Of the canvas, in the order they were taken.
    touches : tuple of Touch
        What was said of touch-ups.
    left_alone : tuple of LeftAlone
    extra : dict
        What a file held that this version does not know, wherever it stood, kept for the next save (see `convert`).
    """

    name: str = field(metadata=PLAIN)
    reference: Reference = field(metadata=holds(pictures=True))
    canvas: CanvasSize = field(metadata=PLAIN)
    crop: Crop = field(metadata=PLAIN)
    focal: tuple[float, float] | None = field(default=None, metadata=holds(pixels=True))
    zones: tuple[Zone, ...] = field(default=(), metadata=holds(pixels=True))
    combs: tuple[Comb, ...] = field(default=(), metadata=holds(pixels=True, owner="zone"))
    marks: tuple[Mark, ...] = field(default=(), metadata=holds(pixels=True, owner="zone", between=("source",)))
    edges: tuple[EdgeChoice, ...] = field(default=(), metadata=holds(between=("front", "back")))
    stretches: tuple[EdgeStretch, ...] = field(default=(), metadata=holds(pixels=True, between=("front", "back")))
    fans: tuple[Fan, ...] = field(default=(), metadata=holds(pixels=True, owner="zone"))
    eyes: tuple[Eye, ...] = field(default=(), metadata=holds(pixels=True))
    features: tuple[Feature, ...] = field(default=(), metadata=holds(pixels=True))
    drawing: Drawing | None = field(default=None, metadata=holds(pictures=True))
    kit: tuple[Brush, ...] = field(default=DEFAULT_KIT, metadata=PLAIN)
    falloff: float = field(default=0.5, metadata=PLAIN)
    focal_order: str = field(default="", metadata=PLAIN)
    weights: dict[str, float] = field(default_factory=dict, metadata=PLAIN)
    passes: dict[str, PassEdit] = field(default_factory=dict, metadata=PLAIN)
    own_passes: tuple[OwnPass, ...] = field(default=(), metadata=holds(pixels=True, owner="zone"))
    pass_order: tuple[str, ...] = field(default=(), metadata=PLAIN)
    school: str = field(default=USUAL, metadata=PLAIN)
    own_school: School | None = field(default=None, metadata=PLAIN)
    ways: Ways = field(default_factory=Ways, metadata=PLAIN)
    noted: tuple[Logged, ...] = field(default=(), metadata=PLAIN)
    earlier: tuple[Logged, ...] = field(default=(), metadata=PLAIN)
    seed: int = field(default=1, metadata=PLAIN)
    next_id: int = field(default=1, metadata=PLAIN)
    main_note: str = field(default="", metadata=PLAIN)
    shelf: tuple[Lent, ...] = field(default=(), metadata=holds(pictures=True))
    correction: Correction = field(default_factory=Correction, metadata=PLAIN)
    gone: tuple[Gone, ...] = field(default=(), metadata=holds(pixels=True))
    departures: tuple[Departure, ...] = field(default=(), metadata=holds(owner="zone"))
    seeing: Seeing = field(default_factory=Seeing, metadata=PLAIN)
    spots: Pairs = field(default=(), metadata=holds(pixels=True))
    spot_mm: float = field(default=2.0, metadata=PLAIN)
    light: Light | None = field(default=None, metadata=holds(pixels=True))
    catchlights: tuple[Catchlight, ...] = field(default=(), metadata=holds(pixels=True))
    transfer: Transfer = field(default_factory=Transfer, metadata=holds(pixels=True))
    mixes: Mixes = field(default_factory=Mixes, metadata=PLAIN)
    days: Days = field(default_factory=Days, metadata=PLAIN)
    told: tuple[Entry, ...] = field(default=(), metadata=PLAIN)
    easel: Easel = field(default_factory=Easel, metadata=PLAIN)
    commission: Commission = field(default_factory=Commission, metadata=PLAIN)
    photos: tuple[CanvasPhoto, ...] = field(default=(), metadata=holds(pictures=True))
    pictures: tuple[KeptPicture, ...] = field(default=(), metadata=holds(pictures=True))
    touches: tuple[Touch, ...] = field(default=(), metadata=holds(pixels=True, owner="zone"))
    left_alone: tuple[LeftAlone, ...] = field(default=(), metadata=holds(pixels=True))
    extra: dict[str, Any] = field(default_factory=dict, compare=False, metadata=PLAIN)

    @property
    def mm_per_px(self) -> float:
        """Millimetres on the canvas for one reference pixel."""
        return mm_per_px(self.crop, self.canvas)

    @property
    def focal_point(self) -> tuple[float, float]:
        """The focal point: chosen, else the middle of the eyes, else a third from the top."""
        if self.focal is not None:
            return self.focal
        eyes = [np.array(eye.iris.centre) for eye in self.eyes]
        eyes = eyes or [np.array(z.points).mean(axis=0) for z in self.zones if z.kind == "eye" and not z.whole]
        if eyes:
            x, y = np.mean(eyes, axis=0)
            return float(x), float(y)
        return self.crop.x + self.crop.width / 2, self.crop.y + self.crop.height * 0.38

    def departure(self, zone: str, side: str = "all") -> Departure | None:
        """Return how a part, or the whole canvas with an empty id, departs from the reference; None where it does not."""
        return next((one for one in self.departures if (one.zone, one.side) == (zone, side)), None)

    def picture(self, picture_id: str) -> KeptPicture | None:
        """Return the picture of a note with this id, or None."""
        return next((one for one in self.pictures if one.id == picture_id), None)

    def photo(self, photo_id: str) -> CanvasPhoto | None:
        """Return the photograph of the canvas with this id, or None."""
        return next((one for one in self.photos if one.id == photo_id), None)

    def zone(self, zone_id: str) -> Zone | None:
        """Return the zone with this id, or None."""
        return next((z for z in self.zones if z.id == zone_id), None)

    @cached_property
    def _ordered(self) -> tuple[Zone, ...]:
        order = sorted(range(len(self.zones)), key=lambda k: (self.zones[k].depth, k))
        return tuple(self.zones[k] for k in order)

    def back_to_front(self) -> tuple[Zone, ...]:
        """Return the zones ordered by depth."""
        return self._ordered

    @cached_property
    def outlines(self) -> bytes:
        """Fingerprint of what the map of zones follows from: points, depth and cover of each."""
        return fingerprint([(z.points, z.depth, z.kind_of().cover) for z in self._ordered])

    def lent(self, lent_id: str) -> Lent | None:
        """Return the further picture with this id, or None."""
        return next((one for one in self.shelf if one.id == lent_id), None)

    @property
    def placed(self) -> tuple[Lent, ...]:
        """The further pictures whose part belongs to the composed reference."""
        return tuple(one for one in self.shelf if one.placed and len(one.cut) >= 3)

    def axes_or_eyes(self) -> Axes | None:
        """Return the head's frame: said by the painter, else through the two eyes and the nose; None without."""
        if self.transfer.axes is not None:
            return self.transfer.axes
        eyes = sorted(
            tuple(float(v) for v in np.array(z.points).mean(axis=0))
            for z in self.zones
            if z.kind == "eye" and not z.whole
        )
        if len(eyes) != 2:
            return None
        (ax, ay), (bx, by) = eyes
        return Axes((ax, ay), (bx, by), ((ax + bx) / 2, (ay + by) / 2))

    @property
    def recipe(self) -> School:
        """The school the painting follows; the usual one where its key is not known."""
        return self.school_called(self.school) or schools()[USUAL]

    def school_called(self, key: str) -> School | None:
        """Return a school that can be followed, the painter's own among them, or None."""
        own = self.own_school
        return own if own is not None and own.key == key else schools().get(key)

    def school_of(self, zone: Zone) -> str:
        """Return the key of the school a zone follows against the painting's; empty where it follows that."""
        known = self.school_called(zone.school)
        return zone.school if known is not None and known.key != self.recipe.key else ""

    @property
    def roles(self) -> dict[str, Role]:
        """The passes as they are painted, by their key: the school's and its zones' own, bent by the settings, and the painter's."""
        used = sorted({self.school_of(zone) for zone in self.zones} - {""})
        found = [school for key in used if (school := self.school_called(key)) is not None]
        others = [replace(school, roles=bend(school.roles, self.ways)) for school in found]
        bent = together(bend(self.recipe.roles, self.ways), others)
        whole = with_own(bent, (*self.own_passes, *self._shades()))
        return {role.key: role for role in under_light(whole, self.light.warmth if self.light is not None else 0.0)}

    def _shades(self) -> tuple[OwnPass, ...]:
        """Return the veils of the shadows that lie on coats, where they are glazed on."""
        if self.ways.shadow != "glaze":
            return ()
        shades = [zone for zone in self.back_to_front() if zone.kind_of().key == "shade" and not zone.whole]
        veil = Veil("glaze", None, 1.0, made_up=True)
        return tuple(
            OwnPass(f"shade-{zone.id}", name=f"Glaze of {zone.name.lower()}", zone=zone.id, veil=veil)
            for zone in shades
        )

    @property
    def pace(self) -> Pace:
        """The painter's pace, learned from every logged pass."""
        return learn((*self.earlier, *self.noted))

    def eye(self, eye_id: str) -> Eye | None:
        """Return the eye with this id, or None."""
        return next((one for one in self.eyes if one.id == eye_id), None)

    def feature(self, feature_id: str) -> Feature | None:
        """Return the feature with this id, or None."""
        return next((one for one in self.features if one.id == feature_id), None)

    @property
    def nose(self) -> tuple[float, float] | None:
        """The nose's middle, reference pixels: as it is marked, else of a zone of that name; None without."""
        marked = next((one.middle() for one in self.features if one.kind == "nose" and one.strokes), None)
        if marked is not None:
            return marked
        zone = next((z for z in self.zones if z.name.lower() == "nose" and not z.whole), None)
        return zone.middle() if zone is not None else None

    def donor_of(self, zone_id: str) -> Mark | None:
        """Return the mark by which a zone borrows from another zone or a further picture, or None."""
        return next((m for m in self.marks if m.kind == "donor" and m.zone == zone_id), None)

    @property
    def finest_mm(self) -> float:
        """The finest mark of the kit, mm; that of a usual liner when the kit has no brush for hairs."""
        return finest_mm(self.kit) or FINEST_MM

    def coat_of(self, zone: Zone) -> Coat:
        """Return a zone's coat in mm on the canvas: its own decisions, over its donor's coat, over its kind's."""
        donor = self.donor_of(zone.id)
        source = self.zone(donor.source) if donor is not None else None
        if source is None:
            return zone.coat_on(self.canvas)
        return resolved(source.coat_on(self.canvas), zone.coat)

    def weight_of(self, zone: Zone) -> float:
        """Return how much the eye is to rest on a zone's animal, 0 to 1."""
        return self.weights.get(zone.group, 1.0) if zone.group else 1.0

    @property
    def groups(self) -> tuple[str, ...]:
        """The animals, back to front, each once; "" stands for zones of none."""
        return tuple(dict.fromkeys(z.group for z in self.back_to_front()))

    def stretches_of(self, front: str, back: str) -> tuple[EdgeStretch, ...]:
        """Return the stretches of a border that have a width of their own."""
        return tuple(s for s in self.stretches if s.front == front and s.back == back)

    def combs_of(self, zone_id: str) -> tuple[Comb, ...]:
        """Return the combs that speak for a zone."""
        return tuple(c for c in self.combs if c.zone == zone_id)

    def marks_of(self, zone_id: str) -> tuple[Mark, ...]:
        """Return the marks that speak for a zone, those for every zone included."""
        return tuple(m for m in self.marks if m.zone in ("", zone_id))

    def edge_choice(self, front: str, back: str) -> EdgeChoice | None:
        """Return what the painter decided for a border, or None for the default."""
        return next((e for e in self.edges if e.front == front and e.back == back), None)
