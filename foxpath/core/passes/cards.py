"""What to do in a pass, part by part, in a painter's words: made from the plan's numbers, never from fixed text."""

import math
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.passes.roles import Role
from foxpath.core.passes.veils import Veil
from foxpath.core.passes.words import density_words, value_words
from foxpath.core.units import about, count_words, duration_words, mm_words

DIVERGES = 0.45
"""Below this length of the mean direction, a part's hair has no one way."""
DARKS = 0.12
"""A part whose darks take this share has folds worth leaving."""


@dataclass(frozen=True, slots=True)
class CardFacts:
    """What a part's card is made from.

    Attributes
    ----------
    name : str
    brush : str
        In words; empty where no brush of the kit fits.
    made_as : str
        "mass", "hair", "barb", "curl", "clump" or "hint"; "own" where only `more` is painted.
    mark_mm : float
        Width of the marks.
    length_mm : (least, most)
    way : str
        In which direction they run; empty for masses without one.
    spread_deg : float
        How far they cross.
    low, high : float
        L* the part has in this pass: the pass's band, and what the reference shows there.
    dark_share : float
        Share of the part that is darker than the pass may paint, 0 to 1.
    light_share : float
        Share of the part where the pass's paint belongs, 0 to 1.
    edges : tuple of str
        What to do at its borders.
    more : tuple of str
        What else the pass paints there: eyes, features, feathers.
    marks : int
    minutes : float
        Estimated; 0 where they are not known.
    area_cm2 : float
        Of the place the pass paints there; 0 where it is not known.
    """

    name: str
    brush: str
    made_as: str
    mark_mm: float
    length_mm: tuple[float, float]
    way: str
    spread_deg: float
    low: float
    high: float
    dark_share: float = 0.0
    light_share: float = 1.0
    edges: tuple[str, ...] = ()
    more: tuple[str, ...] = ()
    marks: int = 0
    minutes: float = 0.0
    area_cm2: float = 0.0


HANDLED = {
    "glaze": "transparent over the dry layer",
    "dry": "nearly dry, dragged lightly",
    "scumble": "thin, rubbed over",
}
"""How paint that does not cover is laid, in words."""


def way_words(direction: F32, places: Points, middle: tuple[float, float]) -> str:
    """Say in which way hair runs, root to tip.

    Parameters
    ----------
    direction : (N, 2) float32
        Unit vectors.
    places : (N, 2) float64
    middle : (x, y)
        Of the head or the animal: what runs away from it on both sides runs outward.
    """
    if not len(direction):
        return ""
    mean = direction.mean(axis=0)
    length = float(np.hypot(*mean))
    side = np.sign(places[:, 0] - middle[0])
    outward = float((side * direction[:, 0]).mean())
    both = min(float((side < 0).mean()), float((side > 0).mean())) > 0.2
    if both and outward > 0.35:
        rise = "up" if mean[1] < -0.25 else "down" if mean[1] > 0.25 else ""
        return f"{rise} and outward".removeprefix(" and ")
    if length < DIVERGES:
        return "the way the growth map turns"
    angle = math.degrees(math.atan2(mean[1], mean[0])) % 360
    eight = (
        "to the right",
        "down and right",
        "down",
        "down and left",
        "to the left",
        "up and left",
        "up",
        "up and right",
    )
    return eight[round(angle / 45) % 8]


def card_words(role: Role, facts: CardFacts) -> str:
    """Return a part's card: brush, strokes and their way, values, what to leave, edges, what else."""
    if facts.made_as == "own":
        return f"{facts.name}: {'; '.join(facts.more)}{_taken(facts)}."
    low, high = facts.length_mm
    long = mm_words(high) if high - low < 0.15 * high else f"{mm_words(low)} to {mm_words(high)}"
    tool = facts.brush or "no brush of your kit fits"
    parts: list[str] = []
    if facts.made_as == "mass":
        parts.append(f"{tool}, masses in strokes of {long}" + (f" {facts.way}" if facts.way else ""))
    else:
        noun = {
            "hair": "strokes",
            "barb": "barbs",
            "curl": "broken C and S strokes and dabs",
            "clump": "tufts as strokes",
            "hint": "hints",
        }[facts.made_as]
        parts.append(f"{tool}, {noun} {long}" + (f" {facts.way}" if facts.way else ""))
        if facts.spread_deg >= 3:
            parts.append(f"cross them by {facts.spread_deg:.0f}°")
    if role.handling in HANDLED:
        parts.append(HANDLED[role.handling])
    parts.append(value_words(facts.low, facts.high))
    if not role.block_in and facts.dark_share >= DARKS:
        parts.append(f"leave the folds dark, {facts.dark_share * 100:.0f} % of it")
    if role.belongs < 0.5 and facts.light_share < 0.5:
        parts.append(f"only on {max(facts.light_share * 100, 1):.0f} % of it")
    text = ", ".join(parts)
    for edge in facts.edges:
        text += f"; {edge}"
    for one in facts.more:
        text += f"; {one}"
    return f"{facts.name}: {text}{_taken(facts)}."


def feather_words(act: str, leading: int, hinted: int, rows: int, gap_mm: float) -> str:
    """Say what a pass does on a part's feathers, row by row; empty where it does nothing of its own.

    Parameters
    ----------
    act : str
        What the pass does.
    leading, hinted : int
        Feathers worth painting by themselves, and the others.
    rows : int
    gap_mm : float
        Width of the dark gap under an edge; 0 without leading feathers.
    """
    if not leading:
        return f"hint the rows, {rows} of them: a line here and there, no feather by itself" if act == "lights" else ""
    others = f"; only hint the other {hinted}" if hinted else ""
    told = {
        "undercoat": _row_by_row(leading + hinted, rows),
        "restated": f"a dark gap of {mm_words(gap_mm)} under the edge of each of {leading}, deepest in the middle, and the dark bars",
        "lights": "a very quick turn from the gap to the light, then the bars from shaft to edge; cut each feather's own edge"
        + others,
        "highlights": "shafts and rims only where they catch the light",
    }
    return told.get(act, "")


def _row_by_row(count: int, rows: int) -> str:
    if rows == count:
        return f"feather by feather, {count} of them, the undermost first"
    return f"row by row, {count_words(rows, 'row')}, the tip end first, so that each lies over the row behind"


WHERE = {
    "part": "all of it",
    "shadow": "on its shadow side",
    "turn": "on the strip just before light turns to shadow",
    "lit": "on its lit side",
    "strip": "in a strip {strip} wide along its border",
    "patch": "on the patch that is drawn",
}


def veil_steps(veil: Veil) -> list[str]:
    """Say how a veil is laid, in short pieces: what it is, where, how thin, in how many coats, and how it ends."""
    where = WHERE[veil.place].format(strip=mm_words(veil.strip_mm))
    how = "a glaze, transparent" if veil.manner == "glaze" else "a scumble, rubbed over nearly dry"
    parts = [how, where]
    if veil.lab is not None:
        of = f"{about(round(1 / veil.strength - 1))} of medium" if veil.strength < 0.7 else "hardly any medium"
        parts.append(f"1 part of its own mix to {of}")
    if veil.coats > 1:
        parts.append(f"{veil.coats} coats, each dry before the next")
    if veil.soft_mm >= 1 and veil.place != "part":
        parts.append(f"fade it out over {mm_words(veil.soft_mm)} with a clean soft brush")
    return parts


def veil_words(veil: Veil, name: str, brush: str, area_cm2: float, minutes: float) -> str:
    """Say how a veil is laid on a part.

    Parameters
    ----------
    veil : Veil
    name : str
        The part's.
    brush : str
        In words; empty where none fits.
    area_cm2, minutes : float
        Of all its coats together.
    """
    parts = [brush or "a soft brush", *veil_steps(veil)]
    taken = duration_words(minutes).replace(" ", "\u00a0") if minutes >= 1 else ""
    size = f"{area_cm2:.0f} cm²" if area_cm2 >= 1 else f"{area_cm2 * 100:.0f} mm²"
    return f"{name}: {', '.join(parts)}; hair and markings run on beneath. About {f'{taken}, ' if taken else ''}{size}."


def _taken(facts: CardFacts) -> str:
    """Say how many marks a part has and what they take, as far as that is known; no line breaks within a number."""
    noun = {"mass": "strokes", "clump": "tufts", "barb": "barbs", "hint": "hints"}.get(facts.made_as, "strokes")
    said = [duration_words(facts.minutes).replace(" ", "\u00a0")] if facts.minutes >= 1 else []
    dense = density_words(facts.marks, facts.area_cm2, noun)
    if dense:
        said.append(dense)
    elif facts.marks:
        said.append(f"{about(facts.marks)} {noun}")
    return f". About {', '.join(said)}" if said else ""
