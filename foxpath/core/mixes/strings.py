"""Strings of paint: blacks from cool to warm, greys from opposites, values of one hue, and what white does to a colour."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.colour import difference
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.tubes import Tube

JUDGED = 8.0
"""Parts of white to one in the tint that a black is judged by: at full strength its lean is hidden."""
_ALONG = np.round(np.linspace(0.1, 0.9, 17), 3)
_FINE = 161


@dataclass(frozen=True, slots=True)
class Black:
    """A black mixed of two tubes.

    Attributes
    ----------
    parts : tuple of (tube id, parts)
        The cooler first.
    lab, tint : (L*, a*, b*)
        At full strength, and with eight parts of white.
    """

    parts: tuple[tuple[str, float], ...]
    lab: tuple[float, float, float]
    tint: tuple[float, float, float]

    @property
    def lean(self) -> float:
        """b* of its tint: cool below 0, warm above."""
        return self.tint[2]

    def words(self) -> str:
        """Say how it leans, from its tint."""
        _, a, b = self.tint
        said = "warm" if b > 2.5 else "cool" if b < -2.5 else "neutral"
        # A lean is worth a word where the tint is not plainly blue or brown.
        own = abs(a) >= max(3.0, 0.5 * abs(b))
        other = ("leaning to red" if b > 0 else "leaning to violet") if a > 0 else "leaning to green"
        other = other if own else ""
        return f"{said}, {other}" if other else said


def blues(rack: Rack) -> tuple[Tube, ...]:
    """Return the rack's blues for blacks: dark, and blue in the tint; the least strong first, which hand and eye can measure."""
    found = [t for t in rack.tubes if t.tint[2] < -20 and t.masstone[0] < 40]
    return tuple(sorted(found, key=lambda t: (abs(t.strength - 1.0), t.masstone[0])))


def browns(rack: Rack) -> tuple[Tube, ...]:
    """Return the rack's browns for blacks: dark, warm and dull, the dullest first."""
    found = [t for t in rack.tubes if t.masstone[0] < 36 and t.tint[2] > 6 and float(np.hypot(*t.tint[1:])) < 40]
    return tuple(sorted(found, key=lambda t: float(np.hypot(*t.masstone[1:]))))


def blacks(rack: Rack, cool: str = "", warm: str = "") -> tuple[Black, ...]:
    """Return the blacks of a blue and a brown, from cool to warm; none where the tubes have no such pair.

    Parameters
    ----------
    rack : Rack
        With a white, to judge them by.
    cool, warm : str
        Ids; found among the tubes where they are empty.
    """
    white = next((t for t in rack.tubes if t.white), None)
    if white is None:
        return ()
    cools = [t for t in rack.tubes if t.id == cool] or blues(rack)[:1]
    warms = [t for t in rack.tubes if t.id == warm] or browns(rack)
    slides = [_slide(rack, blue, brown, white) for blue in cools for brown in warms if blue.id != brown.id]
    # The pair that passes nearest to a true neutral can lean either way.
    return min(slides, key=lambda one: min(float(np.hypot(*b.tint[1:])) for b in one), default=())


def _slide(rack: Rack, blue: Tube, brown: Tube, white: Tube) -> tuple[Black, ...]:
    """Return the blacks of two tubes from cool to warm, in even steps of effect."""
    made = []
    for share in _ALONG:
        # Even steps of effect, not of volume; measured out in tenths of ten.
        a = (1 - share) / max(blue.strength, 0.15)
        b = share / max(brown.strength, 0.15)
        first = round(10 * a / (a + b))
        if 0 < first < 10:
            made.append((float(first), float(10 - first)))
    found = []
    for first, second in dict.fromkeys(made):
        parts = rack.parts({blue.id: first, brown.id: second})
        tint = parts / 10 + rack.parts({white.id: JUDGED})
        found.append(
            Black(_plain(((blue.id, first), (brown.id, second))), _triple(rack.lab(parts)), _triple(rack.lab(tint)))
        )
    return tuple(sorted(found, key=lambda one: one.lean))


def black_leaning(rack: Rack, lean: float, cool: str = "", warm: str = "") -> Black | None:
    """Return the black whose tint leans most nearly as wanted (b*), or None without a blue and a brown."""
    found = blacks(rack, cool, warm)
    return min(found, key=lambda one: abs(one.lean - lean)) if found else None


def leaning_blacks(rack: Rack, base: Black) -> tuple[tuple[str, Black], ...]:
    """Return the base black with a tenth of what leans it to violet, green and red, where the tubes have it."""
    white = next(t for t in rack.tubes if t.white)
    made = []
    for name, wanted in (("violet", (12.0, -14.0)), ("green", (-16.0, 2.0)), ("red", (18.0, 8.0))):
        way = np.array(wanted) / float(np.hypot(*wanted))
        ranked = sorted((t for t in rack.tubes if not t.white), key=lambda t: -float(np.dot(t.tint[1:], way)))
        tube = ranked[0]
        if float(np.dot(tube.tint[1:], way)) < 8:
            continue
        whole = sum(n for _, n in base.parts)
        parts = rack.parts(base.parts) + rack.parts(
            {tube.id: round(max(0.5, whole * 0.1 / max(tube.strength, 0.3)), 1)}
        )
        tint = parts / parts.sum() + rack.parts({white.id: JUDGED})
        named = tuple((rack.ids[i], float(parts[i])) for i in np.flatnonzero(parts))
        made.append((name, Black(named, _triple(rack.lab(parts)), _triple(rack.lab(tint)))))
    return tuple(made)


@dataclass(frozen=True, slots=True)
class Opposites:
    """Two tubes that cancel to grey.

    Attributes
    ----------
    parts : tuple of (tube id, parts)
    grey : (L*, a*, b*)
        With as much white as brings it to a middle value.
    chroma : float
        C* that is left: 0 is a true grey.
    """

    parts: tuple[tuple[str, float], ...]
    grey: tuple[float, float, float]
    chroma: float


def opposites(rack: Rack, most: int = 4) -> tuple[Opposites, ...]:
    """Return the pairs of strong tubes that cancel best, truest grey first."""
    white = next((t for t in rack.tubes if t.white), None)
    strong = [t for t in rack.tubes if float(np.hypot(*t.tint[1:])) > 12]
    if white is None:
        return ()
    found = []
    for i, one in enumerate(strong):
        for other in strong[:i]:
            # Brown cancels blue weakly, but it is how most blacks are made: no pair is left out for its dullness.
            tries = []
            for ratio in (0.15, 0.25, 0.4, 0.6, 1.0, 1.6, 2.5, 4.0, 6.5):
                a, b = ratio / max(one.strength, 0.15), 1 / max(other.strength, 0.15)
                parts = rack.parts({one.id: a, other.id: b})
                grey = rack.lab(parts / parts.sum() + rack.parts({white.id: 4.0}))
                tries.append((float(np.hypot(*grey[1:])), a / (a + b), grey))
            chroma, share, grey = min(tries, key=lambda t: t[0])
            first = min(9.5, max(0.5, round(share * 20) / 2))
            found.append(Opposites(_plain(((one.id, first), (other.id, 10 - first))), _triple(grey), chroma))
    return tuple(sorted(found, key=lambda one: one.chroma)[:most])


def string(rack: Rack, start: F64, end: F64, steps: int) -> tuple[tuple[F64, F64], ...]:
    """Return mixes from one recipe to another that are equally far apart to the eye.

    Parameters
    ----------
    rack : Rack
    start, end : (n,) float64
        Recipes; the pile's size is that of `start`.
    steps : int
        2 or more, both ends included.

    Returns
    -------
    tuple of (parts, CIELAB)
    """
    a, b = start / start.sum(), end / end.sum()
    # Even in effect: a strong dark needs a fine scale at the pale end.
    t = 1 / (1 + np.exp(-np.linspace(-7, 7, _FINE)))
    t = np.concatenate([[0.0], t, [1.0]])
    mixes = (1 - t)[:, None] * a + t[:, None] * b
    lab = rack.lab(mixes)
    along = np.concatenate([[0.0], np.cumsum(difference(lab[1:], lab[:-1]).astype(np.float64))])
    share = np.interp(np.linspace(0, along[-1], steps), along, t)
    made = (1 - share)[:, None] * a + share[:, None] * b
    return tuple((parts, rack.lab(parts)) for parts in made)


@dataclass(frozen=True, slots=True)
class Tinted:
    """A colour with white.

    Attributes
    ----------
    white : float
        Parts of white to one of the colour.
    lab : (L*, a*, b*)
    """

    white: float
    lab: tuple[float, float, float]


def with_white(
    rack: Rack, parts: F64, steps: Sequence[float] = (0.0, 0.25, 0.5, 1.0, 2.0, 4.0, 8.0)
) -> tuple[Tinted, ...]:
    """Return what white does to a colour, step by step; none without a white."""
    white = next((t for t in rack.tubes if t.white), None)
    if white is None:
        return ()
    own = parts / parts.sum()
    return tuple(Tinted(n, _triple(rack.lab(own + rack.parts({white.id: n})))) for n in steps)


def white_shift(rack: Rack, parts: F64, lighten: float) -> tuple[F64, F64]:
    """Return how a colour changes when white lightens it by some L*, and what to start from so that only the value changes.

    Returns
    -------
    (3,) float64
        The change in a* and b* that white brings beside the L*, as (L*, a*, b*).
    (3,) float64
        How much darker (L*), redder and warmer than planned to begin.
    """
    base = rack.lab(parts)
    ladder = with_white(rack, parts, tuple(float(v) for v in np.concatenate([[0.0], np.geomspace(0.02, 20, 60)])))
    if not ladder:
        return np.zeros(3), np.zeros(3)
    lab = np.array([one.lab for one in ladder])
    order = np.argsort(lab[:, 0])
    target = min(float(base[0]) + lighten, float(lab[:, 0].max()))
    there = np.array([np.interp(target, lab[order, 0], lab[order, c]) for c in range(3)])
    change = there - base
    return change, np.array([-lighten, -change[1], -change[2]])


def shift_words(change: F64) -> str:
    """Say what white does beside lightening, e.g. "white cools it by 9 and greys it"."""
    said = []
    if abs(change[2]) >= 1:
        said.append(f"{'warms' if change[2] > 0 else 'cools'} it by {abs(change[2]):.0f}")
    if abs(change[1]) >= 1.5:
        said.append(f"turns it {'redder' if change[1] > 0 else 'greener'} by {abs(change[1]):.0f}")
    return " and ".join(said) or "leaves its hue"


def next_white(rack: Rack, parts: F64, step: float = 2.0) -> float:
    """Return the parts of white, in tenths, that lighten a pile by one small step (L*), at least a tenth; 0 without a white."""
    white = next((t for t in rack.tubes if t.white), None)
    if white is None:
        return 0.0
    base = float(rack.lab(parts)[0])
    for n in np.arange(1, 101) / 10:
        if float(rack.lab(parts + rack.parts({white.id: n}))[0]) >= base + step:
            return float(n)
    return 10.0


def _plain(parts: tuple[tuple[str, float], ...]) -> tuple[tuple[str, float], ...]:
    """Divide two amounts by what they share, in halves, so that 5 : 5 is 1 : 1."""
    halves = [round(n * 2) for _, n in parts]
    common = int(np.gcd.reduce(halves)) or 1
    return tuple((key, n / common) for (key, _), n in zip(parts, halves, strict=True))


def _triple(lab: F64) -> tuple[float, float, float]:
    return float(lab[0]), float(lab[1]), float(lab[2])
