"""What mends a fault, by the state of the paint there now.

Wet and thick paint is scraped back, never stirred; wet and thin paint is lifted; tacky paint is left alone; on dry paint a glaze only darkens and
a scumble or opaque strokes lighten. What is known of the state comes from the log and the days; without them it is said for both.
"""

from dataclasses import dataclass, replace

from foxpath.core.units import mm_words

STATES = ("wet", "tacky", "dry", "")
"""Of the paint at a place; empty where nothing is known of it."""
SKY = ("up", "up and right", "right", "down and right", "down", "down and left", "left", "up and left")


@dataclass(frozen=True, slots=True)
class Place:
    """Where a fault lies.

    Attributes
    ----------
    state : str
        One of `STATES`.
    thick : bool
    young_acrylic : bool
        Lifting would lift what is beneath it as well.
    hair : bool
    pile, neighbour : str
        The pile of the planned colour there, and of what lies beside it; empty where no palette stands.
    way : str
        The growth there in words, root to tip; empty without.
    """

    state: str = ""
    thick: bool = False
    young_acrylic: bool = False
    hair: bool = False
    pile: str = ""
    neighbour: str = ""
    way: str = ""


@dataclass(frozen=True, slots=True)
class Remedy:
    """What to do: in words, with which tool, how long, and whether the paint must be dry first."""

    text: str
    tool: str
    minutes: int
    dry: bool


def direction(dx: float, dy: float) -> str:
    """Return a direction on the canvas in words, y down."""
    import math

    return SKY[round((math.degrees(math.atan2(dx, -dy)) % 360) / 45) % 8]


def _with(pile: str) -> str:
    return f" with {pile}" if pile else ""


def _again(place: Place) -> str:
    """Say how paint that is still wet is taken away."""
    if place.thick:
        return "Scrape it back and lay it again"
    return (
        "Lift it gently: what lies beneath is young and lifts too. Lay it again"
        if place.young_acrylic
        else "Lift it with a clean soft brush and lay it again"
    )


def _value(size: float, place: Place, area_cm2: float) -> Remedy:
    minutes = round(6 + 0.5 * area_cm2)
    if place.state == "wet":
        return Remedy(f"{_again(place)}{_with(place.pile)}; never stir more in.", "soft brush", minutes, False)
    wait = "Leave it while it is tacky. Then " if place.state == "tacky" else ""
    if size > 0:
        text = (
            f"{wait}glaze it thin{_with(place.pile)}: a glaze darkens."
            if not place.hair
            else f"{wait}glaze it thin, then a few darker hairs{_with(place.pile)}."
        )
        return Remedy(_sentence(text), "soft flat", minutes, True)
    how = "opaque lighter hairs" if place.hair else "a scumble, nearly dry"
    return Remedy(
        _sentence(f"{wait}lighten it by {how}{_with(place.pile)}; no glaze lightens."), "dry brush", minutes, True
    )


def _warmth(size: float, place: Place, area_cm2: float) -> Remedy:
    minutes = round(5 + 0.4 * area_cm2)
    word = "cooler" if size > 0 else "warmer"
    if place.state == "wet":
        return Remedy(
            f"A few strokes of the {word} mix into it{_with(place.pile)}, no more than three.",
            "soft brush",
            minutes,
            False,
        )
    wait = "Leave it while it is tacky. Then " if place.state == "tacky" else ""
    return Remedy(
        _sentence(f"{wait}a {word} veil, or a few strokes over it{_with(place.pile)}."), "soft flat", minutes, True
    )


def _strength(size: float, place: Place, area_cm2: float) -> Remedy:
    minutes = round(5 + 0.4 * area_cm2)
    wait = "Leave it while it is tacky. Then " if place.state == "tacky" else ""
    how = (
        "grey it by a thin scumble"
        if size > 0
        else "a glaze of the stronger mix, or a few strong strokes where the light falls"
    )
    return Remedy(_sentence(f"{wait}{how}{_with(place.pile)}."), "soft flat", minutes, place.state != "wet")


def _stroke(size: float, place: Place) -> Remedy:
    if place.state == "wet":
        return Remedy("Lift that stroke with a clean soft brush.", "clean soft brush", 2, False)
    wait = "Leave it while it is tacky. Then " if place.state == "tacky" else ""
    return Remedy(
        _sentence(f"{wait}one pass over it{_with(place.neighbour or place.pile)}, without pressure."),
        "soft brush",
        3,
        True,
    )


def _edge(size: float, planned: float, place: Place) -> Remedy:
    if size < planned:
        if place.state == "wet":
            return Remedy(
                f"Drag it with a clean dry brush to {mm_words(planned)}, both sides open.", "dry soft brush", 5, False
            )
        wait = "Leave it while it is tacky. Then " if place.state == "tacky" else ""
        return Remedy(
            _sentence(f"{wait}restate a strip of both sides thinly and lose the line to {mm_words(planned)}."),
            "dry soft brush",
            15,
            True,
        )
    how = "set crisp hairs over it" if place.hair else "recut it"
    return Remedy(
        f"{_sentence(how)}{_with(place.pile)}, to {mm_words(planned)}.", "fine round", 10, place.state != "wet"
    )


def _place_of(size: float, toward: tuple[float, float], place: Place) -> Remedy:
    back = direction(-toward[0], -toward[1])
    if place.state == "wet":
        return Remedy(f"Scrape it back, and set it {mm_words(size)} {back}.", "knife, then fine round", 30, False)
    return Remedy(
        f"Coat over the old one, let it dry, redraw it {mm_words(size)} {back}, let it dry, paint it again.", "soft flat, then fine round", 60, True
    )  # fmt: skip


def _shape(size: float, planned: float, rule: str, place: Place) -> Remedy:
    off = mm_words(abs(size))
    if rule == "oval":
        how = f"Trim its {'sides' if size > 0 else 'top and bottom'} by {off} in all"
    else:
        how = f"Cut its rim {'in' if size > 0 else 'out'} by {off} in all"
    return Remedy(f"{how}{_with(place.neighbour)}.", "fine round", 15, place.state != "wet")


def _catchlight(size: float, planned: float, place: Place) -> Remedy:
    at = f"{planned:.0f} o’clock" if planned >= 0.5 else "12 o’clock"
    if size == 0:
        return Remedy(f"Set it at {at}: one thick clean touch.", "fine round", 4, False)
    if place.state == "wet":
        return Remedy(f"Lift it, and set it at {at}: one thick clean touch.", "fine round", 5, False)
    return Remedy(f"Cover it{_with(place.pile)}, and set it at {at} when that is dry.", "fine round", 8, True)


def _sentence(text: str) -> str:
    return text[:1].upper() + text[1:]


def remedy(
    kind: str,
    rule: str,
    size: float,
    place: Place,
    *,
    radius_mm: float,
    planned: float = 0.0,
    toward: tuple[float, float] = (0.0, 0.0),
) -> Remedy:
    """Return what mends a fault.

    Parameters
    ----------
    kind, rule : str
        As in `judge.candidates`.
    size : float
        How much, in the unit it is told in: positive is lighter, warmer, stronger, wider, later on the clock.
    place : Place
    radius_mm : float
        How far it reaches.
    planned : float
        The plan's own, in the same unit.
    toward : (dx, dy)
        mm by which a feature lies off.

    Raises
    ------
    KeyError
        For a kind that is none.
    """
    made = _mending(kind, rule, size, place, radius_mm, planned, toward)
    if place.state != "tacky" or kind == "bare" or made.text.startswith("Leave it"):
        return made
    # Whatever mends it: tacky paint tears.
    return replace(made, text=f"Leave it while it is tacky. Then {made.text[:1].lower()}{made.text[1:]}", dry=True)


def _mending(
    kind: str, rule: str, size: float, place: Place, radius_mm: float, planned: float, toward: tuple[float, float]
) -> Remedy:
    area = 3.14 * radius_mm**2 / 100
    way = f", {place.way}" if place.way else ", root to tip"
    if kind == "value":
        return _value(size, place, area)
    if kind == "warmth":
        return _warmth(size, place, area)
    if kind == "strength":
        return _strength(size, place, area)
    if kind == "stroke":
        return _stroke(size, place)
    if kind == "edge":
        return _edge(size, planned, place)
    if kind == "place":
        return _place_of(size, toward, place)
    if kind == "shape":
        return _shape(size, planned, rule, place)
    if kind == "catchlight":
        return _catchlight(size, planned, place)
    if rule == "outline":
        return Remedy(
            f"Break the line: drag hairs across it in places{_with(place.neighbour or place.pile)}.",
            "dry brush",
            8,
            place.state != "wet",
        )
    simple = {
        "bare": Remedy(f"Cover it{_with(place.pile)}, thin at its rim.", "soft brush", round(4 + area), False),
        "growth": Remedy(f"Lay the hair anew over it{way}{_with(place.pile)}.", "fine round", round(8 + area), place.state == "tacky"),
        "smooth": Remedy(f"An old stiff brush, nearly dry, along the growth{way}{_with(place.pile)}.", "old stiff brush", round(4 + 0.6 * area), place.state != "dry"),
        "lights": Remedy(f"Lose a third of them: one thin pass of the middle tone{_with(place.pile)}, light side first.", "soft brush", round(5 + 0.5 * area), place.state != "wet"),
        "missing": Remedy("Set them now: one sure stroke each, root to tip, and leave them.", "liner", 15, place.state == "tacky"),
    }  # fmt: skip
    return simple[kind]
