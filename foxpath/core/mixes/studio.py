"""What the painter decided about mixes: tubes, limits, and the piles that were really mixed and looked at."""

from collections.abc import Iterable
from dataclasses import dataclass

from foxpath.core.errors import InputError
from foxpath.core.mixes.amounts import MEDIUMS
from foxpath.core.mixes.dried import Dab, learn_dried, when_dry
from foxpath.core.mixes.learning import Look, learn
from foxpath.core.mixes.optics import FINISHES
from foxpath.core.mixes.recipe import EVER_TUBES, Limits, Rack
from foxpath.core.mixes.tubes import USUAL, KeptTube, Triple, Tube, tubes_of

Parts = tuple[tuple[str, float], ...]
BLACKS: dict[str, str] = {
    "none": "A mixed black stays lively, and leans where you want it.",
    "mixed": "A tube black greys cheaply, but dulls where it stands alone.",
    "free": "A tube black covers in one stroke; it looks like a hole beside mixed darks.",
}
"""Rules for tube blacks, each with its reason: none, only in mixtures, free."""
BLACK_NAMES = {"none": "no tube black", "mixed": "only in mixtures", "free": "free"}
FINISH_NAMES = {"matt": "matt", "satin": "satin", "varnished": "varnished"}


@dataclass(frozen=True, slots=True)
class Sight:
    """A look at a real pile.

    Attributes
    ----------
    parts : Parts
        What lay in it.
    seen : (L*, a*, b*)
        What it looks like dry; reckoned where the dab was wet.
    how : str
        "measured" or "words".
    wet : (L*, a*, b*) or None
        What it looked like wet; None where it was looked at dry alone.
    dried : bool
        The dab was looked at again when it had dried.
    """

    parts: Parts
    seen: Triple
    how: str = "measured"
    wet: Triple | None = None
    dried: bool = False


@dataclass(frozen=True, slots=True)
class MixedPile:
    """A pile that lies on the palette.

    Attributes
    ----------
    id, name : str
    want : (L*, a*, b*)
        What it is to look like.
    parts : Parts
        What lies in it now.
    sights : tuple of Sight
        Looks at it, oldest first.
    ml : float
        Paint that was mixed, mL.
    mixed_on : str
        ISO day; may be empty.
    wrapped : bool
        Kept airtight.
    """

    id: str
    name: str
    want: Triple
    parts: Parts
    sights: tuple[Sight, ...] = ()
    ml: float = 0.0
    mixed_on: str = ""
    wrapped: bool = False

    @property
    def settled(self) -> bool:
        """Whether it was looked at after the last addition."""
        return bool(self.sights) and self.sights[-1].parts == self.parts

    def earlier(self) -> tuple[Sight, ...]:
        """Return the looks at it as it lay before: with other parts."""
        return tuple(one for one in self.sights if one.parts != self.parts)


@dataclass(frozen=True, slots=True)
class Mixes:
    """What was decided of the paint.

    Attributes
    ----------
    tubes : tuple of KeptTube
        The cupboard: what may be used, as strong as it was learned to be in earlier paintings.
    most : int
        Tubes in a recipe, 1 to 4.
    few : int
        Tubes at most in the whole painting; 0 for no limit.
    black : str
        A key of `BLACKS`.
    finish : str
        A key of `FINISHES`.
    count : int
        Piles to plan; 0 for as many as are needed.
    mother : Parts
        The dark that takes part in most piles; empty leaves it to the plan.
    mixed : tuple of MixedPile
    pure : float
        Share of the canvas that may be pure colour, 0 to 1.
    pick_up : float
        Share of wet paint that a stroke takes up, 0 to 0.9.
    strokes, strokes_before : tuple of float
        Shares that strokes of this painting, and of earlier ones, were seen to pick up.
    medium : str
        A key of `MEDIUMS`.
    rehearsed : bool
        The rehearsal is painted with the piles, not with any colour.
    """

    tubes: tuple[KeptTube, ...] = USUAL
    most: int = 3
    few: int = 0
    black: str = "mixed"
    finish: str = "satin"
    count: int = 0
    mother: Parts = ()
    mixed: tuple[MixedPile, ...] = ()
    pure: float = 0.05
    pick_up: float = 0.2
    strokes: tuple[float, ...] = ()
    strokes_before: tuple[float, ...] = ()
    medium: str = "solvent"
    rehearsed: bool = False

    def pile(self, pile_id: str) -> MixedPile | None:
        """Return a mixed pile by its id, or None."""
        return next((one for one in self.mixed if one.id == pile_id), None)

    @property
    def shown(self) -> float:
        """Share of the surface's reflection that is seen."""
        return FINISHES[self.finish]

    def usable(self) -> tuple[Tube, ...]:
        """Return the tubes in the studio that the rule for blacks allows, as strong as this painting's looks say."""
        return allowed(tubes_of(self.learned()), self.black)

    def learned(self) -> tuple[KeptTube, ...]:
        """Return the cupboard with what this painting's looks teach."""
        tubes = self.dried()
        looks = self.looks()
        here = tubes_of(tubes)
        if not looks or not here:
            return tubes
        return learn(tubes, Rack(here, self.shown), looks)

    def dried(self) -> tuple[KeptTube, ...]:
        """Return the cupboard with what this painting's dabs teach of drying alone: strengths are as they were."""
        return learn_dried(self.tubes, self.dabs())

    def dabs(self) -> tuple[Dab, ...]:
        """Return every dab that was measured wet, and again dry."""
        return tuple(
            Dab(sight.parts, sight.wet, sight.seen)
            for pile in self.mixed
            for sight in pile.sights
            if sight.wet is not None and sight.dried and sight.how == "measured"
        )

    def looks(self) -> tuple[Look, ...]:
        """Return every look at a real pile."""
        return tuple(
            Look(sight.parts, sight.seen, 1.0 if sight.how == "measured" else WORDS_SURE)
            for pile in self.mixed
            for sight in pile.sights
        )

    def limits(self, rack: Rack) -> Limits:
        """Return what recipes from a rack may be."""
        alone = tuple(not tube.black for tube in rack.tubes) if self.black == "mixed" else ()
        return Limits(self.most, alone)


def sight_of(mixes: Mixes, pile: MixedPile, seen: Triple, how: str, *, wet: bool) -> Sight:
    """Return a look at a pile as it lies now, wet or dry; of a wet one it is reckoned what it dries to."""
    if wet:
        return Sight(pile.parts, when_dry(mixes.dried(), pile.parts, seen), how, seen)
    # Words mean little beside a measure: only like looks are a pair.
    before = next((one for one in pile.sights if one.parts == pile.parts and one.how == how), None)
    was = before.wet if before is not None else None
    return Sight(pile.parts, seen, how, was, was is not None)


WORDS_SURE = 0.15
"""What a look in words weighs against a measured one."""


def allowed(tubes: Iterable[Tube], black: str) -> tuple[Tube, ...]:
    """Return the tubes that a rule for blacks allows."""
    return tuple(tube for tube in tubes if black != "none" or not tube.black)


def check_studio(mixes: Mixes) -> None:
    """Check what was decided.

    Raises
    ------
    InputError
        When a number or a key cannot be.
    """
    if not 1 <= mixes.most <= EVER_TUBES:
        raise InputError(
            f"{mixes.most} tubes in a mixture are refused.",
            f"Take 1 to {EVER_TUBES}: a mixture of more turns to mud, and cannot be mixed again.",
        )
    for value, known, what in (
        (mixes.black, BLACKS, "rule for blacks"),
        (mixes.finish, FINISHES, "finish"),
        (mixes.medium, MEDIUMS, "medium"),
    ):
        if value not in known:
            raise InputError(f"There is no {what} “{value}”.", f"Choose {', '.join(known)}.")
