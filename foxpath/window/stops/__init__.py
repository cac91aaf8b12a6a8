"""The stops of the trail: the list of them, a package for each, and what they share (`base`, `part`).

A stop has a bench (its panel), an overlay on the picture, and says what a gesture there means. A part of a stop is one of several
matters that take turns in it: a fold of the Reference bench, a page of the Eyes or Passes bench.

Nothing heavy is imported here: the trail stands before the first painting is open.
"""

from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from foxpath.window.stops.base import Stop

Keys = tuple[tuple[str, str], ...]
"""Keys, and what they do."""


@dataclass(frozen=True, slots=True)
class StopSpec:
    """A stop before it is loaded.

    Attributes
    ----------
    key, title : str
    place : str
        Where its class lies: ``"package.module:Class"`` within this package.
    keys : Keys
        Its own keys and gestures, for the help sheet.
    next : str
        The stop to go on to; empty for the one that follows.
    """

    key: str
    title: str
    place: str
    keys: Keys = ()
    next: str = ""

    def load(self) -> "type[Stop]":
        """Import the stop's class."""
        module, _, name = self.place.partition(":")
        found: type[Stop] = getattr(import_module(f"{__name__}.{module}"), name)
        return found


STOPS: tuple[StopSpec, ...] = (
    StopSpec(
        "reference",
        "Reference",
        "reference.stop:ReferenceStop",
        (("Ctrl arrows", "move the crop"), ("[  ]", "smaller, larger crop"), ("F", "focal point here")),
    ),
    StopSpec(
        "zones",
        "Zones",
        "zones.stop:ZonesStop",
        (
            ("click", "a point of the outline"),
            ("Enter", "close the outline"),
            ("Shift click", "begin a new outline"),
            ("Delete", "drop the point"),
        ),
    ),
    StopSpec(
        "growth",
        "Growth",
        "growth.stop:GrowthStop",
        (
            ("drag", "comb, root to tip"),
            ("click", "choose a comb"),
            ("T  Delete", "turn, drop the comb"),
            ("1 to 4", "comb, parting, crown, away"),
            ("S", "flow or hairs"),
        ),
    ),
    StopSpec(
        "edges", "Edges", "edges.stop:EdgesStop", (("drag", "grade a stretch"), ("1 to 4", "lost, soft, firm, hard"))
    ),
    StopSpec(
        "lengths",
        "Lengths",
        "lengths.stop:LengthsStop",
        (
            ("drag", "measure a hair"),
            ("Shift drag", "place a form"),
            ("T", "take the length that is seen"),
            ("K", "and the kind"),
        ),
    ),
    StopSpec(
        "eyes",
        "Eyes",
        "eyes.stop:EyesStop",
        (("1 to 3", "find, its rim, its light"), ("N", "the next size an eye may have")),
    ),
    StopSpec(
        "mixes",
        "Mixes",
        "mixes.stop:MixesStop",
        (
            ("click  Shift", "a pile or spot, one more"),
            ("Left Right", "pile before, pile after"),
            ("M", "it is mixed"),
            ("1 to 4", "piles, tubes, spots, layers"),
        ),
    ),
    StopSpec("passes", "Passes", "passes.stop:PassesStop", (("PgUp PgDn", "pass before, pass after"),)),
    StopSpec(
        "rehearsal",
        "Rehearsal",
        "rehearsal.stop:RehearsalStop",
        (("P", "play this pass"), ("hold B  R", "before it, the reference")),
    ),
    StopSpec(
        "days",
        "Days",
        "days.stop:DaysStop",
        (
            ("Left Right", "sitting before, sitting after"),
            ("Shift Left Right", "move the sitting a day"),
            ("H  X", "hold it there, keep the day free"),
            ("drag", "a sitting to another day"),
            ("1 to 4", "plan, sitting, time, paint"),
        ),
    ),
    StopSpec(
        "easel",
        "Easel",
        "easel.stop:EaselStop",
        (("G", "to the easel, over the whole screen"), ("Space", "there: done, next"), ("H", "there: all its keys")),
    ),
    StopSpec(
        "progress",
        "Progress",
        "progress.stop:ProgressStop",
        (
            ("Up Down", "touch-up before, touch-up after"),
            ("T K D Delete", "to do, keep, done, strike out"),
            ("hold B  E", "the plan, the photograph before"),
            ("Shift drag", "leave an area alone"),
        ),
    ),
    StopSpec(
        "practice",
        "Practice",
        "practice.stop:PracticeStop",
        (
            ("Enter", "begin, that is it, next"),
            ("1 to 9  arrows", "choose, turn, set"),
            ("Backspace  Esc", "take back, stop"),
        ),
    ),
)
"""Every stop in the order of the work; trail, shortcuts, the sheet of keys and "Go on" follow it."""


def next_of(key: str) -> str:
    """Return the stop to go on to from another; the last goes on to itself where it names none."""
    keys = [one.key for one in STOPS]
    at = keys.index(key)
    return STOPS[at].next or keys[min(at + 1, len(keys) - 1)]


def shortcut_of(number: int) -> str:
    """Return the keys that open a stop by its number, from 1: Ctrl and a digit, and Alt and a digit from the tenth on."""
    return f"Ctrl+{number}" if number <= 9 else f"Alt+{number - 9}"


def shortcut_words(count: int) -> str:
    """Say which keys open that many stops."""
    first = f"Ctrl 1 to {min(count, 9)}"
    if count <= 9:
        return first
    return f"{first}, Alt 1 to {count - 9}" if count > 10 else f"{first}, Alt 1"
